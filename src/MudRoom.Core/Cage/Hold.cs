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

    /// <summary>A recall: it is not known to be good any more.</summary>
    Recall,

    /// <summary>A customer sent them back: bound to that order until it is found what they are.</summary>
    CustomerReturn,
}

/// <summary>One condition of a hold, as a link of its chain.</summary>
/// <param name="Word">time, paper, signature, inspection, finding, decision, done.</param>
/// <param name="Closed">True when it is met.</param>
/// <param name="Sentence">What it is, in words; who met it and when.</param>
/// <param name="Condition">The condition by its id within the hold, where somebody meets it by hand; else null.</param>
/// <param name="Overdue">True where it should have been met.</param>
public sealed record ChainLink(string Word, bool Closed, string Sentence, int? Condition = null, bool Overdue = false);

/// <summary>A time that must be over before goods are free.</summary>
/// <param name="Rule">The rule that asks for it.</param>
/// <param name="Until">Not before this.</param>
public sealed record TimeCondition(string Rule, DateTimeOffset Until);

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

    /// <summary>They stay held until it is carried out; under a concession with an end, they are usable until then.</summary>
    public sealed record Waits(HoldDecision For) : AfterDecision;

    /// <summary>They are of another item from now on.</summary>
    public sealed record Become(int ItemId) : AfterDecision;

    /// <summary>They are looked at again before anybody uses them.</summary>
    public sealed record LookedAtAgain : AfterDecision;

    /// <summary>They stay held, and nothing is decided over them any more.</summary>
    public sealed record DecidedAgain : AfterDecision;
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

    /// <summary>The reason from the site's list; null where none of it was chosen.</summary>
    public string? Because { get; init; }
    public required DateTimeOffset Since { get; init; }

    /// <summary>Not before this, the last of its times; null when time is no condition.</summary>
    public DateTimeOffset? Until { get; init; }

    /// <summary>The times that must be over, each by its rule.</summary>
    public IReadOnlyList<TimeCondition> Times { get; init; } = [];

    /// <summary>What it wants besides time, in order.</summary>
    public IReadOnlyList<HoldCondition> Besides { get; private set; } = [];
    public int? ArrivalId { get; init; }
    public int? InspectionId { get; init; }

    /// <summary>The recall that laid it; null for others.</summary>
    public int? RecallId { get; init; }

    /// <summary>The line of a customer's return that its goods came on; null for others.</summary>
    public int? OrderLineId { get; init; }

    /// <summary>What was found of goods that a customer sent back; null where nothing was yet, and for others.</summary>
    public ReturnFinding? Found { get; private set; }

    /// <summary>The hold its goods were in before a decision parted them from it; counts add to that one, never to this.</summary>
    public int? CameFromId { get; init; }
    public required string LaidBy { get; init; }

    /// <summary>What was decided over all that it holds, and has still to happen; null where nothing was.</summary>
    public HoldDecision? Decision { get; private set; }

    /// <summary>The end of the concession under which it keeps nothing back; null for others.</summary>
    public DateTimeOffset? UsableUntil { get; private set; }

    /// <summary>True while a concession with an end keeps it from keeping anything back.</summary>
    public bool IsUnderConcession => UsableUntil is not null;

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
    public Standing Asks =>
        Decision?.Kind switch
        {
            DecisionKind.ReleaseUnderConcession => Standing.Usable,
            DecisionKind.Scrap => Standing.ToScrap,
            DecisionKind.ReturnToVendor or DecisionKind.BackToCustomer => Standing.ToGoBack,
            _ => AsksByReason,
        };

    Standing AsksByReason =>
        Chosen
        ?? Reason switch
        {
            HoldReason.Nonconforming => Standing.Rejected,
            HoldReason.Recall => Standing.Recalled,
            // They wait at the bench until it is said what becomes of them.
            HoldReason.CustomerReturn when Decision is null => Standing.ToInspect,
            _ => Standing.Held,
        };

    /// <summary>Why it was laid, in a word or two: the reason from the list, or how it came.</summary>
    public string ReasonWord =>
        Because
        ?? Reason switch
        {
            HoldReason.Rule => "by rule",
            HoldReason.Nonconforming => "rejected",
            HoldReason.CountedAside => "counted aside",
            HoldReason.ByHand => "by hand",
            HoldReason.Retained => "retained samples",
            HoldReason.Recall => "recalled",
            HoldReason.CustomerReturn => "from customers",
            _ => throw new InvalidOperationException($"{Reason}"),
        };

    /// <summary>How its goods came to be held, where there is nothing wrong with them.</summary>
    string How =>
        Reason switch
        {
            HoldReason.Rule => "by rule",
            HoldReason.Retained => "as a retained sample",
            HoldReason.CustomerReturn => "that a customer sent back",
            _ => "by hand",
        };

    /// <summary>The last of the times, or null.</summary>
    public static DateTimeOffset? LastOf(IReadOnlyList<TimeCondition> times) => times.Count == 0 ? null : times.Max(t => t.Until);

    /// <summary>True while a time has not passed.</summary>
    public bool TimeRuns(DateTimeOffset now) => Until is { } until && now < until;

    /// <summary>Why its goods may not leave the site, whoever decided it; null where it keeps them not.</summary>
    public Refusal? MayLeave(DateTimeOffset now, SiteTime local) =>
        TimeRuns(now) ? Runs(local)
        : Reason == HoldReason.CustomerReturn && Found is null ? NothingFound()
        : null;

    /// <summary>Lays what it wants besides time; once, when the hold is made.</summary>
    public Hold Wanting(IReadOnlyList<HoldCondition> besides)
    {
        Besides = besides;
        return this;
    }

    /// <summary>True where goods of which the same is wanted may join it: nobody has met a condition or decided looking at less.</summary>
    public bool MayJoin(IReadOnlyList<HoldCondition> besides) =>
        Decision is null
        && Found is null
        && Besides.All(c => c.Met is null)
        && Besides.Select(c => (c.Rule, c.Wants)).SequenceEqual(besides.Select(c => (c.Rule, c.Wants)));

    /// <summary>True while a condition that people meet is open.</summary>
    public bool IsWanting => Besides.Any(c => c.Met is null && c.Wants.Kind != ConditionKind.Acceptance);

    /// <summary>True where an inspection must accept its goods.</summary>
    public bool WantsAcceptance => Besides.Any(c => c.Wants.Kind == ConditionKind.Acceptance);

    /// <summary>True where its goods are free when it is lifted; of others it is decided what becomes of them.</summary>
    public bool IsLifted => Reason is not (HoldReason.Nonconforming or HoldReason.CustomerReturn);

    /// <summary>True where all its conditions are met, and only its lifting is wanted.</summary>
    /// <param name="accepted">As for <see cref="Lift"/>.</param>
    public bool IsReady(DateTimeOffset now, AcceptedBy? accepted = null) =>
        IsOpen && IsLifted && Decision is null && !TimeRuns(now) && !IsWanting && (accepted is not null || !WantsAcceptance);

    /// <summary>Somebody meets a condition: has looked at its paper, or signs for it.</summary>
    /// <param name="id">Of the condition.</param>
    /// <param name="may">Whether they have a right.</param>
    /// <param name="paper">The paper they looked at; null where none was shown.</param>
    /// <returns>The condition as it is now.</returns>
    public Outcome<HoldCondition> Meet(
        int id,
        Hand by,
        Func<Right, bool> may,
        PaperShown? paper,
        string? note,
        DateTimeOffset now,
        SiteTime local
    )
    {
        if (!IsOpen)
            return Gone(local);
        if (Besides.FirstOrDefault(c => c.Id == id) is not { } condition)
            return new Refusal(CageRefusals.ConditionUnknown, $"{Number} has no such condition.", "Look at its conditions again.");
        if (condition.Met is { } met)
            return new Refusal(
                CageRefusals.ConditionMet,
                $"That was met by {met.By} on {local(met.At):yyyy-MM-dd HH:mm}.",
                "There is nothing to do."
            );
        var wants = condition.Wants;
        if (wants.Kind == ConditionKind.Acceptance)
            return new Refusal(
                CageRefusals.ConditionByItself,
                "An inspection meets that, by accepting the goods.",
                "Ask for an inspection, or look at the bench."
            );
        if (!may(wants.Of))
            return new Refusal(HouseRefusals.RightMissing, "You have not the right to do this.", $"Ask {Rights.WhoMay(wants.Of)}.");
        if (wants.Kind == ConditionKind.Signature && HasSigned(by))
            return SignsTwice(by);
        if (wants.Paper is { } kind && paper?.Kind != kind)
            return new Refusal(
                CageRefusals.PaperWrong,
                paper is null ? $"{Number} wants a {kind.Word()}, and none is shown."
                    : paper.Kind is { } other ? $"{paper.Name} is a {other.Word()}; {Number} wants a {kind.Word()}."
                    : $"Nobody has said what {paper.Name} is; {Number} wants a {kind.Word()}.",
                $"Attach the {kind.Word()}."
            );
        var done = condition with { Met = new ConditionMetBy(by.Id, by.Name, now, paper?.Id, paper?.Name, note) };
        Besides = [.. Besides.Select(c => c.Id == id ? done : c)];
        return done;
    }

    /// <summary>What met a condition is taken back: it is open again.</summary>
    /// <returns>Who had met it.</returns>
    public Outcome<ConditionMetBy> OpenAgain(int id, Hand by, Func<Right, bool> may, SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (Besides.FirstOrDefault(c => c.Id == id) is not { Met: { } met } condition)
            return new Refusal(
                CageRefusals.ConditionUnknown,
                $"{Number} has no such condition that was met.",
                "Look at its conditions again."
            );
        if (met.PersonId != by.Id && !may(Right.LiftHold))
            return new Refusal(
                HouseRefusals.RightMissing,
                $"{met.By} met it, and takes it back.",
                $"Ask {met.By}, or {Rights.WhoMay(Right.LiftHold)}."
            );
        Besides = [.. Besides.Select(c => c == condition ? c with { Met = null } : c)];
        return met;
    }

    bool HasSigned(Hand by) => Besides.Any(c => c.Wants.Kind == ConditionKind.Signature && c.Met?.PersonId == by.Id);

    Refusal SignsTwice(Hand by) =>
        new(
            CageRefusals.SignsTwice,
            $"{by.Name} has signed for {Number} already: nobody signs twice for one hold.",
            "Have somebody else sign."
        );

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
    /// <param name="accepted">The inspection that accepted all that it holds since it was laid; null where none has.</param>
    /// <returns>How much is free, in base units.</returns>
    public Outcome<decimal> Lift(DateTimeOffset now, Hand by, string? note, SiteTime local, AcceptedBy? accepted = null)
    {
        if (!IsOpen)
            return Gone(local);
        if (!IsLifted)
            return new Refusal(
                CageRefusals.WantsDecision,
                $"{Number} holds {(Reason == HoldReason.Nonconforming ? "rejected goods" : "goods " + How)}. They are not lifted, they are "
                    + "decided over.",
                "Choose what becomes of them."
            );
        if (Decision is { } decision)
            return DecidedOver(decision);
        if (TimeRuns(now))
            return Runs(local);
        if (!IsReady(now, accepted))
            return new Refusal(
                CageRefusals.ConditionsOpen,
                $"{Number} still wants {string.Join("; ", StillWants(accepted))}.",
                "Meet its conditions first."
            );
        if (HasSigned(by))
            return SignsTwice(by);
        var free = Quantity;
        Quantity = 0;
        Close(now, by.Name, note);
        return free;
    }

    /// <summary>What it still wants besides time.</summary>
    /// <param name="accepted">As for <see cref="Lift"/>.</param>
    public IEnumerable<HoldCondition> Unmet(AcceptedBy? accepted) =>
        Besides.Where(c => c.Met is null && (c.Wants.Kind != ConditionKind.Acceptance || accepted is null));

    /// <summary>The same in words.</summary>
    public IEnumerable<string> StillWants(AcceptedBy? accepted) => Unmet(accepted).Select(c => c.Wants.Words);

    /// <summary>Of what it still wants, what should have been met longest ago; null where nothing is overdue, or it is lifted.</summary>
    public HoldCondition? Overdue(DateTimeOffset now, AcceptedBy? accepted) =>
        IsOpen ? Unmet(accepted).Where(c => c.IsOverdue(now)).MinBy(c => c.Due) : null;

    /// <summary>
    /// Decides over part or all of it. Only nonconforming, recalled and goods counted aside are decided over, and what a customer sent
    /// back once its finding is there; only that reason is settled by it: while a time runs or a condition is open, goods released stay
    /// held until it is met; while a time runs, none leave the site.
    /// </summary>
    /// <param name="rejectedBy">The inspection that rejected some of what a customer sent back; null where none has.</param>
    /// <returns>What becomes of the goods. Of what waits to be carried out and is a part of it, a hold of its own is made by
    /// <see cref="PartDecided"/>.</returns>
    public Outcome<AfterDecision> Decide(HoldDecision decision, decimal quantity, SiteTime local, string? rejectedBy = null)
    {
        var (kind, now, by) = (decision.Kind, decision.At, decision.By);
        if (!IsOpen)
            return Gone(local);
        if (Decision is { } before)
            return DecidedOver(before);
        if (Reason == HoldReason.CustomerReturn && Found is null)
            return NothingFound();
        if (!MayBeDecided)
            return new Refusal(
                CageRefusals.NothingToDecide,
                $"{Number} holds goods {How}: there is nothing wrong with them to " + $"decide over.",
                "Lift it when its conditions are met."
            );
        if (!HoldDecision.Choices(Reason).Contains(kind))
            return new Refusal(
                CageRefusals.ChoiceUnknown,
                $"Goods {(Reason == HoldReason.CustomerReturn ? How : "that no customer sent back")} are not {Decided.Word(kind)}.",
                "Choose one from the list."
            );
        if (kind == DecisionKind.UsableAgain && rejectedBy is not null)
            return new Refusal(
                CageRefusals.RejectedGoods,
                $"{rejectedBy} rejected some of them: they are not usable again as they are.",
                "Have them repaired, or choose something else."
            );
        if (kind == DecisionKind.ReleaseUnderConcession && (decision.Concession ?? new Concession("", "")).Fault(now, local) is { } absurd)
            return absurd;
        if (kind == DecisionKind.Regrade && decision.IntoItemId is null)
            return new Refusal(
                CageRefusals.RegradeWrong,
                "Nobody has said to which item they are regraded.",
                "Choose an item that they meet."
            );
        if (HoldDecision.Leaves(kind) && TimeRuns(now))
            return Runs(local);
        if (decision.Concession?.Until is not null && WantsMore(now, local) is { } more)
            return more;
        var isFree = kind == DecisionKind.UsableAgain || decision.Concession is { Until: null };
        if (!isFree && quantity == Quantity)
        {
            Take(decision);
            return new AfterDecision.Waits(decision);
        }

        if (Shrink(quantity, now, by.Name, local) is { } refusal)
            return refusal;
        return !isFree ? new AfterDecision.Waits(decision)
            : TimeRuns(now) || IsWanting || WantsAcceptance ? new AfterDecision.HeldOn()
            : new AfterDecision.Free();
    }

    void Take(HoldDecision? decision) => (Decision, UsableUntil) = (decision, decision?.Concession?.Until);

    /// <summary>What else keeps goods of which it keeps no more than that: its times and what it wants besides; null where nothing
    /// does.</summary>
    Refusal? WantsMore(DateTimeOffset now, SiteTime local) =>
        TimeRuns(now) ? Runs(local)
        : IsWanting || WantsAcceptance
            ? new Refusal(
                CageRefusals.ConditionsOpen,
                $"{Number} still wants {string.Join("; ", StillWants(null))}.",
                "Meet its conditions first."
            )
        : null;

    /// <summary>The hold of a part over which was decided: as it is, with the decision.</summary>
    public Hold PartDecided(string number, decimal quantity, HoldDecision decision) =>
        Part(number, quantity, Reason, Sentence, LaidBy, Chosen, decision, Found);

    /// <summary>What was found of part or all of goods that a customer sent back.</summary>
    /// <param name="waitsFor">An inspection of them that is not signed; null where there is none.</param>
    /// <returns>True where it is the finding of all that it holds; else a hold of its own is made of the part by
    /// <see cref="PartFound"/>.</returns>
    public Outcome<bool> Find(ReturnFinding finding, decimal quantity, SiteTime local, string? waitsFor = null)
    {
        if (!IsOpen)
            return Gone(local);
        if (Reason != HoldReason.CustomerReturn)
            return new Refusal(CageRefusals.NoReturn, $"{Number} holds goods that no customer sent back.", "Look at its number again.");
        if (Found is { } before)
            return new Refusal(
                CageRefusals.FoundAlready,
                $"{before.By.Name} has found of {Number}: {before.Words}.",
                "Take that finding back first, or decide what becomes of the goods."
            );
        if (waitsFor is not null)
            return new Refusal(
                CageRefusals.FindingWaits,
                $"{waitsFor} looks at goods of {Number}, and is not signed yet.",
                "Sign it first: what it finds belongs to the finding."
            );
        if (quantity == Quantity)
        {
            Found = finding;
            return true;
        }

        return Shrink(quantity, finding.At, finding.By.Name, local) is { } refusal ? refusal : false;
    }

    /// <summary>The hold of a part of which something was found.</summary>
    public Hold PartFound(string number, decimal quantity, ReturnFinding finding) =>
        Part(number, quantity, Reason, Sentence, LaidBy, Chosen, found: finding);

    /// <summary>Takes back what was found, while nothing is decided over it.</summary>
    /// <returns>What it was.</returns>
    public Outcome<ReturnFinding> TakeFindingBack(SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (Decision is { } decision)
            return DecidedOver(decision);
        if (Found is not { } found)
            return new Refusal(CageRefusals.FindingMissing, $"Nothing is found of {Number}.", "There is nothing to take back.");
        Found = null;
        return found;
    }

    /// <summary>What was decided has happened: the goods are gone, or were worked on.</summary>
    /// <param name="witness">Who saw it; only scrapping wants one.</param>
    /// <param name="isLookedAt">Whether a plan looks at such goods: what was worked on waits at the bench then, and else for another
    /// decision.</param>
    public Outcome<AfterDecision> CarryOut(DateTimeOffset now, Hand by, Hand? witness, bool isLookedAt, SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (Decision is not { } decision)
            return new Refusal(CageRefusals.NotDecided, $"Over {Number} nothing is decided.", "Decide first what becomes of its goods.");
        if (decision.Kind == DecisionKind.ReleaseUnderConcession)
            return DecidedOver(decision);
        var leaves = HoldDecision.Leaves(decision.Kind);
        if (leaves && TimeRuns(now))
            return Runs(local);
        if (decision.Kind == DecisionKind.Regrade)
            return (WantsMore(now, local) ?? Shrink(Quantity, now, by.Name, local)) is { } not
                ? not
                : new AfterDecision.Become(decision.IntoItemId!.Value);
        if (decision.Kind == DecisionKind.Scrap && (witness is null || witness.Value.Id == by.Id))
            return new Refusal(
                CageRefusals.WitnessMissing,
                $"What is scrapped is seen by somebody besides {by.Name}.",
                "Have somebody else sign as the witness."
            );
        // What a customer sent back and was worked on stays bound to the return, and is looked at against the reason again.
        if (!leaves && (!isLookedAt || Reason == HoldReason.CustomerReturn))
        {
            (Decision, Found) = (null, null);
            return isLookedAt ? new AfterDecision.LookedAtAgain() : new AfterDecision.DecidedAgain();
        }

        if (Shrink(Quantity, now, by.Name, local) is { } refusal)
            return refusal;
        return decision.Kind switch
        {
            DecisionKind.Scrap => new AfterDecision.Leave(Account.Scrap),
            DecisionKind.ReturnToVendor => new AfterDecision.Leave(Account.Vendor),
            DecisionKind.BackToCustomer => new AfterDecision.Leave(Account.Customer),
            _ => new AfterDecision.LookedAtAgain(),
        };
    }

    /// <summary>Takes back what was decided and has not happened yet.</summary>
    /// <returns>What it was.</returns>
    public Outcome<HoldDecision> Undecide(SiteTime local)
    {
        if (!IsOpen)
            return Gone(local);
        if (Decision is not { } decision)
            return new Refusal(CageRefusals.NotDecided, $"Over {Number} nothing is decided.", "There is nothing to take back.");
        Take(null);
        return decision;
    }

    Refusal DecidedOver(HoldDecision decision) =>
        new(
            CageRefusals.DecidedAlready,
            $"{decision.By.Name} has decided over {Number}: {decision.ToBe}.",
            decision.Kind == DecisionKind.ReleaseUnderConcession
                ? "It lasts until its end, or until somebody ends it."
                : "Carry that out, or take it back first."
        );

    /// <summary>The hold by which goods that were released stay held until its conditions are met.</summary>
    public Hold ByItsConditions(string number, decimal quantity) =>
        Part(number, quantity, HoldReason.Rule, RuleNames is { Count: > 0 } rules ? string.Join("; ", rules) : Sentence, "rule");

    /// <summary>A hold of a part of its goods, under all its conditions.</summary>
    Hold Part(
        string number,
        decimal quantity,
        HoldReason reason,
        string sentence,
        string laidBy,
        Standing? chosen = null,
        HoldDecision? decision = null,
        ReturnFinding? found = null
    ) =>
        new Hold
        {
            Number = number,
            SiteId = SiteId,
            ItemId = ItemId,
            BatchId = BatchId,
            Reason = reason,
            Chosen = chosen,
            Sentence = sentence,
            Because = reason == Reason ? Because : null,
            Since = Since,
            Until = Until,
            Times = Times,
            ArrivalId = ArrivalId,
            InspectionId = InspectionId,
            // Released from a recall, they are held on by their conditions, and not by it.
            RecallId = reason == HoldReason.Recall ? RecallId : null,
            OrderLineId = OrderLineId,
            Found = found,
            CameFromId = CameFromId ?? Id,
            LaidBy = laidBy,
            Quantity = quantity,
            Decision = decision,
            UsableUntil = decision?.Concession?.Until,
        }.Wanting(Besides);

    IReadOnlyList<string> RuleNames =>
        [.. Times.Select(t => t.Rule).Concat(Besides.Select(c => c.Rule)).Where(r => r.Length > 0).Distinct()];

    /// <summary>True when a decision over its goods is asked for.</summary>
    public bool MayBeDecided =>
        Reason is HoldReason.Nonconforming or HoldReason.CountedAside or HoldReason.Recall
        || Reason == HoldReason.CustomerReturn && Found is not null;

    /// <summary>Its conditions at an instant.</summary>
    /// <param name="accepted">As for <see cref="Lift"/>.</param>
    public IReadOnlyList<ChainLink> Links(DateTimeOffset now, SiteTime local, AcceptedBy? accepted = null)
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
        var links = times.Select(Of).Concat(Besides.Select(c => c.LinkAt(now, local, accepted))).ToList();
        if (Reason == HoldReason.CustomerReturn)
            links.Add(
                Found is { } found
                    ? new ChainLink("finding", true, $"{found.Words}: {found.By.Name}, {local(found.At):yyyy-MM-dd HH:mm}")
                    : new ChainLink("finding", false, "of an inspector")
            );
        if (Decision is { Concession: { } concession } released)
            links.AddRange([
                new ChainLink("concession", true, $"{concession.Words}: {released.By.Name}, {local(released.At):yyyy-MM-dd HH:mm}"),
                new ChainLink("held again", false, $"{local(UsableUntil!.Value):yyyy-MM-dd HH:mm}, what is left"),
            ]);
        else if (Decision is { } decision)
            links.AddRange([
                new ChainLink("decision", true, $"{decision.ToBe}: {decision.By.Name}, {local(decision.At):yyyy-MM-dd HH:mm}"),
                new ChainLink("done", !IsOpen, "that it has happened"),
            ]);
        else
            links.Add(new ChainLink(IsLifted ? "signature" : "decision", !IsOpen, "of a supervisor"));
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

    Refusal NothingFound() =>
        new(
            CageRefusals.FindingMissing,
            $"Nobody has found yet what the goods of {Number} are.",
            $"Have {Rights.WhoMay(Right.SignVerdict)} look at them against the customer's reason."
        );

    Refusal Gone(SiteTime local) =>
        new(
            CageRefusals.HoldLifted,
            $"{Number} was lifted by {LiftedBy} on {local(LiftedAt!.Value):yyyy-MM-dd}.",
            "There is nothing to do."
        );
}
