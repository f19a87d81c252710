using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Why goods are held.</summary>
public enum HoldReason
{
    /// <summary>A rule of the site: quarantine.</summary>
    Rule,

    /// <summary>An inspection rejected them.</summary>
    Nonconforming,

    /// <summary>Counted aside in the tally.</summary>
    CountedAside,

    /// <summary>Somebody laid it by hand.</summary>
    ByHand,

    /// <summary>A retained sample, kept until its day.</summary>
    Retained,
}

/// <summary>One condition of a hold, as a link of its chain.</summary>
/// <param name="Word">time, verdict, signature, decision.</param>
/// <param name="Closed">True when it is met.</param>
/// <param name="Sentence">What it is, in words.</param>
public sealed record ChainLink(string Word, bool Closed, string Sentence);

/// <summary>A time that must be over before goods are free.</summary>
/// <param name="Rule">The rule that asks for it.</param>
/// <param name="Until">Not before this.</param>
public sealed record TimeCondition(string Rule, DateTimeOffset Until);

/// <summary>What becomes of nonconforming goods.</summary>
public enum DecisionKind
{
    ReleaseUnderConcession = 0,
    ReturnToVendor = 1,
    Scrap = 2,
}

/// <summary>What a decision does to the goods it is made over.</summary>
public abstract record AfterDecision
{
    private protected AfterDecision() { }

    /// <summary>The hold says nothing of them any more: their standing follows from what else is said.</summary>
    public sealed record Free : AfterDecision;

    /// <summary>Released from why they were set aside, and held on by times that run: by a hold of its own.</summary>
    public sealed record HeldOn : AfterDecision;

    /// <summary>They leave the site.</summary>
    public sealed record Leave(Account To) : AfterDecision;
}

/// <summary>A reason why goods may not be used. Lifted when all its conditions are met.</summary>
public sealed class Hold
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public required HoldReason Reason { get; init; }

    /// <summary>What it is about, in words.</summary>
    public required string Sentence { get; init; }
    public required DateTimeOffset Since { get; init; }

    /// <summary>Not before this, the last of its times; null when time is no condition.</summary>
    public DateTimeOffset? Until { get; init; }

    /// <summary>The times that must be over, each by its rule.</summary>
    public IReadOnlyList<TimeCondition> Times { get; init; } = [];
    public int? ArrivalId { get; init; }
    public int? InspectionId { get; init; }

    /// <summary>The hold its goods were in before a decision freed them of that one's reason; counts add to that one.</summary>
    public int? CameFromId { get; init; }
    public required string LaidBy { get; init; }

    /// <summary>In base units: what is still held by it.</summary>
    public decimal Quantity { get; private set; }
    public DateTimeOffset? LiftedAt { get; private set; }
    public string? LiftedBy { get; private set; }
    public string? LiftedNote { get; private set; }

    /// <summary>True while it holds anything.</summary>
    public bool IsOpen { get; private set; } = true;

    /// <summary>The standing that who laid it chose; null for the usual one of its reason.</summary>
    public Standing? Chosen { get; init; }

    /// <summary>The standing it asks for.</summary>
    public Standing Asks => Chosen ?? (Reason == HoldReason.Nonconforming ? Standing.Rejected : Standing.Held);

    /// <summary>How its goods came to be held, where there is nothing wrong with them.</summary>
    string How =>
        Reason switch
        {
            HoldReason.Rule => "by rule",
            HoldReason.Retained => "as a retained sample",
            _ => "by hand",
        };

    /// <summary>The last of the times, or null.</summary>
    public static DateTimeOffset? LastOf(IReadOnlyList<TimeCondition> times) => times.Count == 0 ? null : times.Max(t => t.Until);

    /// <summary>True while a time has not passed.</summary>
    public bool TimeRuns(DateTimeOffset now) => Until is { } until && now < until;

    /// <summary>Adds goods to it; a hold that was lifted takes none.</summary>
    public Refusal? Grow(decimal quantity, SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        Quantity += quantity;
        return null;
    }

    /// <summary>Sets how much it holds, where lots are named for stock from before there were any.</summary>
    public void Recount(decimal quantity) => Quantity = quantity;

    /// <summary>What took goods off it, or lifted it, was undone: it holds all that its lots have.</summary>
    public void HoldAgain(decimal quantity)
    {
        Quantity = quantity;
        if (quantity > 0)
            (IsOpen, LiftedAt, LiftedBy, LiftedNote) = (true, null, null, null);
    }

    /// <summary>Takes goods off it: a count was taken back, or a decision was made over them.</summary>
    public Refusal? Shrink(decimal quantity, DateTimeOffset at, string by, SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (quantity <= 0 || quantity > Quantity)
            return new Refusal(
                CageRefusals.MoreThanHeld,
                $"{Number} holds {Quantities.Show(Quantity)}; {Quantities.Show(quantity)} is not part of it.",
                "Choose a quantity from what is held."
            );
        Quantity -= quantity;
        if (Quantity == 0)
            Close(at, by, null);
        return null;
    }

    /// <summary>Lifts it: all that it holds is free of it.</summary>
    /// <returns>How much is free, in base units.</returns>
    public Outcome<decimal> Lift(DateTimeOffset now, string by, string? note, SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (Reason == HoldReason.Nonconforming)
            return new Refusal(
                CageRefusals.WantsDecision,
                $"{Number} holds rejected goods. They are not lifted, they are decided over.",
                "Choose what becomes of them."
            );
        if (TimeRuns(now))
            return Runs(local);
        var free = Quantity;
        Quantity = 0;
        Close(now, by, note);
        return free;
    }

    /// <summary>
    /// Decides over part or all of it. Only nonconforming goods and goods counted aside are decided over, and only that reason is settled
    /// by it: while a
    /// time runs, goods released stay held until it is over, and none leave the site.
    /// </summary>
    /// <returns>What becomes of the goods.</returns>
    public Outcome<AfterDecision> Decide(DecisionKind kind, decimal quantity, DateTimeOffset now, string by, SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (!MayBeDecided)
            return new Refusal(
                CageRefusals.NothingToDecide,
                $"{Number} holds goods {How}: there is nothing wrong with them to " + $"decide over.",
                "Lift it when its conditions are met."
            );
        if (kind != DecisionKind.ReleaseUnderConcession && TimeRuns(now))
            return Runs(local);
        if (Shrink(quantity, now, by, local) is { } refusal)
            return refusal;
        return kind switch
        {
            DecisionKind.ReleaseUnderConcession => TimeRuns(now) ? new AfterDecision.HeldOn() : new AfterDecision.Free(),
            DecisionKind.ReturnToVendor => new AfterDecision.Leave(Account.Vendor),
            DecisionKind.Scrap => new AfterDecision.Leave(Account.Scrap),
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };
    }

    /// <summary>The hold by which goods that were released stay held until its times are over.</summary>
    public Hold ByItsTimes(string number, decimal quantity) =>
        new()
        {
            Number = number,
            SiteId = SiteId,
            ItemId = ItemId,
            BatchId = BatchId,
            Reason = HoldReason.Rule,
            Sentence = Times.Count > 0 ? string.Join("; ", Times.Select(t => t.Rule)) : Sentence,
            Since = Since,
            Until = Until,
            Times = Times,
            ArrivalId = ArrivalId,
            InspectionId = InspectionId,
            CameFromId = CameFromId ?? Id,
            LaidBy = "rule",
            Quantity = quantity,
        };

    /// <summary>True when a decision over its goods is asked for.</summary>
    public bool MayBeDecided => Reason is HoldReason.Nonconforming or HoldReason.CountedAside;

    /// <summary>Its conditions at an instant.</summary>
    public IReadOnlyList<ChainLink> Links(DateTimeOffset now, SiteTime local)
    {
        ChainLink Of(TimeCondition time)
        {
            var isOver = now >= time.Until;
            var until = isOver ? "over" : $"until {local(time.Until):yyyy-MM-dd HH:mm}";
            return new ChainLink("time", isOver, time.Rule.Length == 0 ? until : $"{time.Rule}: {until}");
        }

        IEnumerable<TimeCondition> times =
            Times.Count > 0 ? Times
            : Until is { } only ? [new TimeCondition("", only)]
            : [];
        var links = times.Select(Of).ToList();
        links.Add(
            Reason == HoldReason.Nonconforming
                ? new ChainLink("decision", !IsOpen, "of a supervisor")
                : new ChainLink("signature", !IsOpen, "of a supervisor")
        );
        return links;
    }

    void Close(DateTimeOffset at, string by, string? note)
    {
        IsOpen = false;
        LiftedAt = at;
        LiftedBy = by;
        LiftedNote = note;
    }

    Refusal Runs(SiteTime local) =>
        new(HouseRefusals.TimeNotOver, $"{Number} lasts until {local(Until!.Value):yyyy-MM-dd HH:mm}.", "Come back then.");

    Refusal Gone(SiteTime local) =>
        new(
            CageRefusals.HoldLifted,
            $"{Number} was lifted by {LiftedBy} on {local(LiftedAt!.Value):yyyy-MM-dd}.",
            "There is nothing to do."
        );
}
