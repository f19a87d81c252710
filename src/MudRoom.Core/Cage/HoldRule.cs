using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>What the days of a hold are.</summary>
public enum HoldDays
{
    /// <summary>So many times 24 hours.</summary>
    Calendar = 0,

    /// <summary>Days on which the site works; see <see cref="WorkCalendar"/>.</summary>
    Working = 1,
}

/// <summary>From when the days of a hold count.</summary>
public enum HoldFrom
{
    /// <summary>Each count from its own instant.</summary>
    Tally = 0,

    /// <summary>From the gate.</summary>
    Arrival = 1,

    /// <summary>From the end of the day on which they were made.</summary>
    Production = 2,
}

/// <summary>Goods of which it is asked which rules hold them.</summary>
/// <param name="Vendors">Who may have sent them: where that is not clear yet, a rule of any of them catches.</param>
/// <param name="Origin">Two letters of ISO 3166; null where it is not known.</param>
/// <param name="SourceBatch">The supplier's batch; null where it is not known.</param>
/// <param name="On">The day at the site on which they came.</param>
/// <param name="OrderLines">On which they may have come: where that is not clear yet, a rule of any of them catches.</param>
public sealed record GoodsToHold(
    Item Item,
    IReadOnlyCollection<int> Vendors,
    string? Origin,
    string? SourceBatch,
    DateOnly On,
    IReadOnlyCollection<int> OrderLines
);

/// <summary>From when days may count.</summary>
/// <param name="Tally">When they were counted.</param>
/// <param name="Arrival">When they came through the gate; null where nobody kept it.</param>
/// <param name="Production">When they were made, or the last day of the month where only that is known; null where nothing is.</param>
public sealed record HoldStarts(DateTimeOffset Tally, DateTimeOffset? Arrival, DateOnly? Production);

/// <summary>The days of a year between two, each by month and day; over the new year where the first is behind the last.</summary>
/// <param name="First">100 × month + day.</param>
/// <param name="Last">100 × month + day.</param>
public readonly record struct Season(int First, int Last)
{
    /// <summary>True for a day in it, the first and the last with it.</summary>
    public bool Has(DateOnly day)
    {
        var on = 100 * day.Month + day.Day;
        return First <= Last ? First <= on && on <= Last : on >= First || on <= Last;
    }
}

/// <summary>A rule that holds one kind of goods for a time. It is never changed: it ends, and another is signed in force.</summary>
public sealed class HoldRule
{
    /// <summary>Most days of a rule: ten years.</summary>
    public const int MostDays = 3650;

    /// <summary>Most characters of why what comes is held.</summary>
    public const int MostWords = 200;

    public int Id { get; init; }
    public required string Name { get; init; }

    /// <summary>1 to <see cref="MostDays"/>; 0 for no time, where something else is wanted.</summary>
    public required int Days { get; init; }
    public HoldDays Counted { get; init; }
    public HoldFrom From { get; init; }

    /// <summary>Item category it catches; empty for any.</summary>
    public string Category { get; init; } = "";
    public int? ItemId { get; init; }
    public int? VendorId { get; init; }

    /// <summary>Country of origin by ISO 3166, or null for all.</summary>
    public string? Origin { get; init; }

    /// <summary>How the supplier's batch is written, a star for any signs; empty for any.</summary>
    public string BatchPattern { get; init; } = "";

    /// <summary>First day of its season, 100 × month + day; null for the whole year.</summary>
    public int? SeasonFirst { get; init; }
    public int? SeasonLast { get; init; }

    /// <summary>True for a hold on what comes: laid by hand until somebody ends it, and no rule that was signed.</summary>
    public bool IsByHand { get; init; }

    /// <summary>The order line it catches; null for any.</summary>
    public int? OrderLineId { get; init; }

    /// <summary>The same in words, as they were when it was laid.</summary>
    public string OrderLine { get; init; } = "";

    /// <summary>What it wants besides time.</summary>
    public IReadOnlyList<Wanted> Besides { get; init; } = [];

    /// <summary>Who signed it in force; null for rules from before they were signed.</summary>
    public string? SignedBy { get; init; }
    public DateTimeOffset Since { get; init; }
    public string? EndedBy { get; private set; }
    public DateTimeOffset? EndedAt { get; private set; }

    /// <summary>A hold on what comes. It always wants something: else a decision over goods counted aside would decide it away.</summary>
    /// <param name="why">What its holds say.</param>
    /// <param name="line">An order line by its id and in words; it is of an item and a vendor already. Null for any.</param>
    /// <param name="wants">What its holds want; where nothing, the signature of who lifts holds.</param>
    public static Outcome<HoldRule> OnWhatComes(
        string why,
        Item? item,
        Vendor? vendor,
        (int Id, string Words)? line,
        IReadOnlyList<Wanted> wants,
        string by,
        DateTimeOffset at
    )
    {
        if (why.Length > MostWords)
            return new Refusal(
                HouseRefusals.NoteLong,
                $"Why what comes is held has at most {MostWords} characters.",
                "Shorten it: it stands on every hold."
            );
        if (line is not null && (item is not null || vendor is not null))
            return new Refusal(
                CageRefusals.OrderLineUnclear,
                "An order line is of its own item and vendor.",
                "Name the order line alone, or an item and a vendor."
            );
        var rule = new HoldRule
        {
            IsByHand = true,
            Name = why,
            Days = 0,
            ItemId = item?.Id,
            VendorId = vendor?.Id,
            OrderLineId = line?.Id,
            OrderLine = line?.Words ?? "",
            Besides = wants.Count > 0 ? wants : [new Wanted(ConditionKind.Signature, "", Right.LiftHold)],
            SignedBy = by,
            Since = at,
        };
        return rule.Fault is { } fault ? fault : rule;
    }

    /// <summary>True for a hold that it laid on what stood there, or when goods were counted.</summary>
    public bool HasLaid(Hold hold) => hold.Besides.Where(c => c.Rule == Name).Select(c => c.Wants).SequenceEqual(Besides);

    /// <summary>Its season; null for the whole year.</summary>
    public Season? Season => SeasonFirst is { } first && SeasonLast is { } last ? new Season(first, last) : null;

    /// <summary>True while it is in force.</summary>
    public bool IsOpen => EndedAt is null;

    /// <summary>True where it names no goods: it would hold everything.</summary>
    public bool IsEmpty =>
        Category.Length == 0 && ItemId is null && VendorId is null && Origin is null && BatchPattern.Length == 0 && OrderLineId is null;

    /// <summary>Ends it; goods that it holds stay held.</summary>
    public void End(string by, DateTimeOffset at)
    {
        if (IsOpen)
            (EndedBy, EndedAt) = (by, at);
    }

    /// <summary>True when it catches these goods.</summary>
    public bool Catches(GoodsToHold goods) =>
        (Category.Length == 0 || Category.Equals(goods.Item.Category, StringComparison.OrdinalIgnoreCase))
        && (ItemId is null || ItemId == goods.Item.Id)
        && (VendorId is not { } vendor || goods.Vendors.Contains(vendor))
        && (Origin is null || Origin.Equals(goods.Origin, StringComparison.OrdinalIgnoreCase))
        && (OrderLineId is not { } line || goods.OrderLines.Contains(line))
        && (BatchPattern.Length == 0 || goods.SourceBatch is { } batch && IsLike(batch, BatchPattern))
        && (Season is not { } season || season.Has(goods.On));

    /// <summary>When its time is over, never short: so many times 24 hours after the start, or the end of the last of so many working
    /// days behind the day of the start.</summary>
    /// <param name="starts">Where the start it names is not known, the tally is the start: that is never before.</param>
    /// <param name="works">The days on which the site works; asked only by a rule that counts them.</param>
    public DateTimeOffset Until(HoldStarts starts, WarehouseSite site, Func<WorkCalendar> works)
    {
        var (at, day) = (From, starts) switch
        {
            (HoldFrom.Arrival, { Arrival: { } gate }) => (gate, site.DateAt(gate)),
            (HoldFrom.Production, { Production: { } made }) => (site.Instant(made.AddDays(1).ToDateTime(TimeOnly.MinValue)), made),
            _ => (starts.Tally, site.DateAt(starts.Tally)),
        };
        return Counted == HoldDays.Calendar ? at.AddDays(Days) : site.Instant(works().EndOf(day, 2 * Days));
    }

    /// <summary>All that the rules lay which catch goods, whatever else is said of them; in the order of the rules.</summary>
    /// <param name="rules">Of the house.</param>
    /// <param name="works">The days on which the site works; asked only where a rule counts them.</param>
    public static HoldConditions ConditionsFor(
        IEnumerable<HoldRule> rules,
        GoodsToHold goods,
        HoldStarts starts,
        WarehouseSite site,
        Func<WorkCalendar> works
    )
    {
        var catching = rules.Where(r => r.IsOpen && r.Catches(goods)).ToList();
        return catching.Count == 0
            ? HoldConditions.None
            : new HoldConditions(
                [.. catching.Select(r => r.Name + Instead(r, starts))],
                [
                    .. catching
                        .Where(r => r.Days > 0)
                        .Select(r => new TimeCondition(r.Name + Instead(r, starts), r.Until(starts, site, works))),
                ],
                HoldCondition.From(catching.SelectMany(r => r.Besides.Select(w => (r.Name, w))), starts.Tally)
            );
    }

    /// <summary>True where another says the same of the same goods, whatever it is called.</summary>
    public bool SaysTheSame(HoldRule other) =>
        (Days, Counted, From, ItemId, VendorId, Season, OrderLineId, IsByHand)
            == (other.Days, other.Counted, other.From, other.ItemId, other.VendorId, other.Season, other.OrderLineId, other.IsByHand)
        && Category.Equals(other.Category, StringComparison.OrdinalIgnoreCase)
        && string.Equals(Origin, other.Origin, StringComparison.OrdinalIgnoreCase)
        && BatchPattern.Equals(other.BatchPattern, StringComparison.OrdinalIgnoreCase)
        && Besides.SequenceEqual(other.Besides);

    /// <summary>The goods and the time in words: "bare-root tree from Kitagiri Blades: 10 working days from the gate".</summary>
    public string Words(Func<int, string> item, Func<int, string> vendor)
    {
        var what =
            OrderLine.Length > 0 ? OrderLine
            : ItemId is { } id ? item(id)
            : Category.Length > 0 ? $"all of {Category}"
            : "everything";
        return what
            + (VendorId is { } sender ? $" from {vendor(sender)}" : "")
            + (Origin is { } country ? $" of origin {country.ToUpperInvariant()}" : "")
            + (BatchPattern.Length > 0 ? $" whose batch is written {BatchPattern}" : "")
            + (Season is { } season ? $" that came from {DayOf(season.First)} to {DayOf(season.Last)}" : "")
            + string.Concat(
                Besides
                    .Select(w => w.Words + (w.WithinDays is { } within ? $", overdue after {within} day{(within == 1 ? "" : "s")}" : ""))
                    .Prepend(TimeWords)
                    .Where(w => w.Length > 0)
                    .Select((w, i) => (i == 0 ? ": " : "; ") + w)
            );
    }

    string TimeWords =>
        Days == 0
            ? ""
            : $"{Days} {(Counted == HoldDays.Working ? "working" : "calendar")} day{(Days == 1 ? "" : "s")} from {StartWord(From)}";

    /// <summary>What cannot be right in it, or null.</summary>
    public Refusal? Fault
    {
        get
        {
            if (Wanted.FaultOf(Besides) is { } fault)
                return fault;
            if (Days is < 0 or > MostDays || Days == 0 && Besides.Count == 0)
                return new Refusal(CageRefusals.HoldRuleAbsurd, $"A rule holds for 1 to {MostDays} days.", "Type how many.");
            if (SeasonFirst is null != SeasonLast is null || SeasonFirst is { } a && !IsDay(a) || SeasonLast is { } b && !IsDay(b))
                return new Refusal(
                    CageRefusals.HoldRuleAbsurd,
                    "A season has a first and a last day, each a day of the year.",
                    "Type both as month-day, or leave both empty."
                );
            return IsEmpty
                ? new Refusal(
                    CageRefusals.HoldRuleEmpty,
                    "A rule that names no goods would hold everything.",
                    IsByHand
                        ? "Name an item, a vendor or an order line."
                        : "Name an item, a group, a vendor, an origin or how the batch is written."
                )
                : null;
        }
    }

    static bool IsDay(int monthAndDay) =>
        monthAndDay / 100 is >= 1 and <= 12
        && monthAndDay % 100 is >= 1 and var day
        && day <= DateTime.DaysInMonth(2024, monthAndDay / 100);

    static string DayOf(int monthAndDay) => new DateOnly(2024, monthAndDay / 100, monthAndDay % 100).ToString("d MMM", null);

    static string StartWord(HoldFrom from) =>
        from switch
        {
            HoldFrom.Tally => "the tally",
            HoldFrom.Arrival => "the gate",
            HoldFrom.Production => "production",
            _ => throw new ArgumentOutOfRangeException(nameof(from), from, null),
        };

    /// <summary>Says that the tally is the start where the one that the rule names is not known.</summary>
    static string Instead(HoldRule rule, HoldStarts starts) =>
        (rule.Days == 0 ? HoldFrom.Tally : rule.From, starts) switch
        {
            (HoldFrom.Arrival, { Arrival: null }) => " (from the tally: nobody kept when they came)",
            (HoldFrom.Production, { Production: null }) => " (from the tally: the count names no day of production)",
            _ => "",
        };

    /// <summary>True where a text is written so; a star stands for any signs or none, and large letters are small ones.</summary>
    static bool IsLike(string text, string pattern)
    {
        var parts = pattern.Split('*');
        if (parts.Length == 1)
            return text.Equals(pattern, StringComparison.OrdinalIgnoreCase);
        if (!text.StartsWith(parts[0], StringComparison.OrdinalIgnoreCase))
            return false;
        var at = parts[0].Length;
        foreach (var part in parts[1..^1])
        {
            var found = text.IndexOf(part, at, StringComparison.OrdinalIgnoreCase);
            if (found < 0)
                return false;
            at = found + part.Length;
        }

        return text.Length - at >= parts[^1].Length && text.EndsWith(parts[^1], StringComparison.OrdinalIgnoreCase);
    }
}
