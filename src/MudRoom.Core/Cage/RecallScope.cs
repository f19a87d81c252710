using System.Runtime.CompilerServices;
using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>By what a recall knows its goods. Stored.</summary>
public enum RecallBy
{
    /// <summary>The vendor's batches, as on their labels.</summary>
    SourceBatch = 0,

    /// <summary>Own batches.</summary>
    Batch = 1,

    /// <summary>Serial numbers of one item.</summary>
    Serial = 2,

    /// <summary>All that a vendor made on some days.</summary>
    Produced = 3,

    /// <summary>All that came with one despatch advice.</summary>
    Advice = 4,
}

/// <summary>What is known of some goods, as far as a recall may speak of it.</summary>
/// <param name="VendorId">Who sent them; null where nobody knows.</param>
/// <param name="ArrivalId">What they came with; null where they came through no door.</param>
/// <param name="Produced">The first and the last day on which they may have been made; null where nobody knows.</param>
/// <param name="CameAsItemId">The item that they were of when they came, where they were regraded.</param>
public sealed record GoodsInQuestion(
    int ItemId,
    int? VendorId,
    int? ArrivalId,
    string? Batch,
    string? SourceBatch,
    (DateOnly First, DateOnly Last)? Produced,
    string? Serial,
    int? CameAsItemId = null
);

/// <summary>Which goods a recall is about.</summary>
/// <param name="ItemId">Only of this item; null for any.</param>
/// <param name="VendorId">Only of this vendor; null for any.</param>
/// <param name="Numbers">Of source batches, batches or serials; for an advice its number; empty for days of production.</param>
/// <param name="From">First day of production.</param>
/// <param name="To">Last day of production.</param>
/// <param name="ArrivalId">The arrival that an advice announces.</param>
public sealed record RecallScope(
    RecallBy By,
    int? ItemId,
    int? VendorId,
    IReadOnlyList<string> Numbers,
    DateOnly? From = null,
    DateOnly? To = null,
    int? ArrivalId = null
)
{
    /// <summary>Most numbers of one recall.</summary>
    public const int Most = 500;

    /// <summary>What cannot be right in it, or null.</summary>
    public Refusal? Fault
    {
        get
        {
            if (!Enum.IsDefined(By))
                return Absurd("A recall goes by batch, serial, days of production or despatch advice.", "Choose one.");
            if (By != RecallBy.Produced && (Numbers.Count == 0 || Numbers.Any(n => n is not { Length: > 0 and <= 40 })))
                return Absurd("A recall names what it is about, by numbers of at most 40 characters.", "Type or scan them.");
            if (Numbers.Count > Most)
                return Absurd($"A recall names at most {Most} numbers.", "Begin a second one for the rest.");
            if (By == RecallBy.Serial && ItemId is null)
                return Absurd("Serial numbers are of an item.", "Name the item too.");
            if (By == RecallBy.Produced && (VendorId is null || From is null || To is null))
                return Absurd("Days of production are of a vendor, from a first to a last day.", "Name the vendor and both days.");
            if (By == RecallBy.Produced && To < From)
                return Absurd("The last day lies before the first.", "Look at the two dates.");
            return By == RecallBy.Advice && (ArrivalId is null || VendorId is null)
                ? Absurd("A despatch advice is of a vendor and an arrival.", "Name one that came.")
                : null;
        }
    }

    static Refusal Absurd(string sentence, string next) => new(CageRefusals.RecallAbsurd, sentence, next);

    /// <summary>True for goods that it is about: of those made in a month that reaches into its days too, for nobody knows the
    /// day.</summary>
    public bool Catches(GoodsInQuestion goods) =>
        MayBeAbout(goods)
        && By switch
        {
            RecallBy.SourceBatch => IsNamed(goods.SourceBatch),
            RecallBy.Batch => IsNamed(goods.Batch),
            RecallBy.Serial => IsNamed(goods.Serial),
            RecallBy.Produced => goods.VendorId is not null && goods.Produced is var (first, last) && first <= To && last >= From,
            RecallBy.Advice => goods.VendorId is not null && goods.ArrivalId == ArrivalId,
            _ => throw new ArgumentOutOfRangeException(nameof(goods), By, null),
        };

    /// <summary>True for goods that it may be about, because what would tell was never recorded.</summary>
    public bool Suspects(GoodsInQuestion goods) =>
        MayBeAbout(goods)
        && !Catches(goods)
        && By switch
        {
            RecallBy.SourceBatch => goods.SourceBatch is null,
            RecallBy.Batch => goods.Batch is null,
            RecallBy.Serial => goods.Serial is null,
            RecallBy.Produced => goods.Produced is null || goods.VendorId is null,
            RecallBy.Advice => goods.ArrivalId is null,
            _ => throw new ArgumentOutOfRangeException(nameof(goods), By, null),
        };

    bool MayBeAbout(GoodsInQuestion goods) =>
        (ItemId is null || ItemId == goods.ItemId || ItemId == goods.CameAsItemId)
        && (VendorId is null || goods.VendorId is null || VendorId == goods.VendorId);

    /// <summary>Labels are typed by hand: the case of a letter from A to Z does not save goods from a recall.</summary>
    public static string Key(string number) => string.Concat(number.Trim().Select(c => c is >= 'a' and <= 'z' ? (char)(c - 32) : c));

    /// <summary>Its numbers as they are compared, each once.</summary>
    public IReadOnlySet<string> Keys => keys.GetValue(Numbers, numbers => numbers.Select(Key).ToHashSet());

    /// <summary>By the list of numbers: every count asks every open recall, which may name hundreds.</summary>
    static readonly ConditionalWeakTable<IReadOnlyList<string>, HashSet<string>> keys = [];

    /// <summary>True for one that is about the same goods, in whatever order and letters its numbers were typed.</summary>
    public bool IsAlike(RecallScope other) => this with { Numbers = [] } == other with { Numbers = [] } && Keys.SetEquals(other.Keys);

    bool IsNamed(string? number) => number is not null && Keys.Contains(Key(number));

    /// <summary>In words: "Leek seed pouch, source batch QS-L-1147".</summary>
    public string Words(Func<int, string> item, Func<int, string> vendor)
    {
        var what = By switch
        {
            RecallBy.SourceBatch => $"source {Batches} {Listed}",
            RecallBy.Batch => $"{Batches} {Listed}",
            RecallBy.Serial => $"serial {Listed}",
            RecallBy.Produced when From == To => $"made on {From:yyyy-MM-dd}",
            RecallBy.Produced => $"made from {From:yyyy-MM-dd} to {To:yyyy-MM-dd}",
            RecallBy.Advice => $"all of despatch advice {Listed}",
            _ => throw new InvalidOperationException($"{By}"),
        };
        return string.Join(", ", new[] { ItemId is { } i ? item(i) : null, VendorId is { } v ? vendor(v) : null, what }.OfType<string>());
    }

    string Batches => Numbers.Count == 1 ? "batch" : "batches";

    string Listed => Numbers.Count <= 4 ? string.Join(", ", Numbers) : $"{Numbers[0]} and {Numbers.Count - 1} more, last {Numbers[^1]}";
}
