using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Goods are held.</summary>
/// <param name="On">How much; null where it grows with the count.</param>
/// <param name="Arrival">The arrival they are counted of, where the count lays it.</param>
/// <param name="Why">What the hold is about, in words.</param>
public sealed record HoldLaid(string Hold, string Item, Amount? On, string? Arrival, string Why) : Fact(EntryKind.HoldLaid, Hold)
{
    public override string Words(Wording wording) => $"{Hold} laid on {On?.Words ?? Item}{Behind(" of ", Arrival)}: {Why}";
}

/// <summary>Goods that were released from one hold stay held by another until its conditions are met.</summary>
public sealed record HoldKeeps(string Hold, Amount Goods, string From, DateTimeOffset? Until) : Fact(EntryKind.HoldLaid, Hold)
{
    public override string Words(Wording wording) =>
        $"{Hold} keeps {Goods.Words} from {From} until {(Until is { } until ? wording.Minute(until) : "its conditions are met")}.";
}

/// <summary>A condition of a hold was met: its paper looked at, or a signature given.</summary>
/// <param name="Wanted">What it wants, in words.</param>
/// <param name="Paper">The paper that was looked at; null for a signature.</param>
public sealed record ConditionMet(string Hold, string Wanted, string By, string? Paper, string? Note) : Fact(EntryKind.ConditionMet, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: {Wanted}. Met by {By}{Behind(" with ", Paper)}{Behind(": ", Note)}.";
}

/// <summary>What met a condition was taken back.</summary>
public sealed record ConditionOpenAgain(string Hold, string Wanted, string HadMet, string By, string Why)
    : Fact(EntryKind.ConditionMet, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: {Wanted}. Met by {HadMet}, taken back by {By}: {Why}";
}

/// <summary>A paper or picture was attached to a hold.</summary>
public sealed record AttachedToHold(string Hold, string Name, PaperKind? Paper) : Fact(EntryKind.HoldPaper, Hold)
{
    public override string Words(Wording wording) => $"{Name}{Behind(", a ", Paper?.Word())}, attached to {Hold}.";
}

public sealed record HoldLifted(string Hold, string By, string? Note) : Fact(EntryKind.HoldLifted, Hold)
{
    public override string Words(Wording wording) => $"{Hold} lifted by {By}{Behind(": ", Note)}";
}

/// <param name="Says">What it catches and for how long, in words.</param>
/// <param name="InPlaceOf">What the rule said that it stands in the place of; null for a new one.</param>
public sealed record HoldRuleSigned(string Rule, string Says, string By, string? InPlaceOf) : Fact(EntryKind.HoldRuleChanged, Rule)
{
    public override string Words(Wording wording) =>
        $"{Rule}, signed in force by {By}: {Says}." + (InPlaceOf is null ? "" : $" Before: {InPlaceOf}.");
}

public sealed record HoldRuleEnded(string Rule, string Says, string By, string Why) : Fact(EntryKind.HoldRuleChanged, Rule)
{
    public override string Words(Wording wording) => $"{Rule} ended by {By}: {Why}. It said: {Says}.";
}

/// <summary>What comes of some goods is held from now on.</summary>
/// <param name="Why">Which is what its holds say.</param>
/// <param name="Goods">In words, with what their holds want.</param>
public sealed record HeldAhead(string Why, string Goods, string By) : Fact(EntryKind.HoldRuleChanged, Why)
{
    public override string Words(Wording wording) => $"What comes is held, by {By}: {Why}. It is {Goods}.";
}

/// <summary>What comes of some goods is not held any more; what is held stays held.</summary>
public sealed record HeldAheadEnded(string Why, string Goods, string By, string Because) : Fact(EntryKind.HoldRuleChanged, Why)
{
    public override string Words(Wording wording) => $"What comes is not held any more, {By}: {Because}. It was {Goods}, held for: {Why}.";
}

/// <summary>What is to become of nonconforming goods was decided; they are held until it has happened.</summary>
/// <param name="Note">Why.</param>
/// <param name="From">The hold that they were part of; null where it is all of that one.</param>
public sealed record DecisionMade(string Hold, DecisionKind Decision, Amount Goods, string Note, string? From)
    : Fact(EntryKind.DecisionMade, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: {Goods.Words}{Behind(" of ", From)} to be {Decided.Word(Decision)}, {Note}";
}

/// <summary>What was decided and had not happened yet was taken back, or found not to be enough.</summary>
public sealed record DecisionTakenBack(string Hold, DecisionKind Decision, string By, string Why) : Fact(EntryKind.DecisionMade, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: not to be {Decided.Word(Decision)}, {By}: {Why}";
}

/// <summary>What was decided over nonconforming goods has happened.</summary>
public sealed record Decided(string Hold, DecisionKind Decision, string Note) : Fact(EntryKind.Decided, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: {Word(Decision)}, {Note}";

    public static string Word(DecisionKind decision) =>
        decision switch
        {
            DecisionKind.ReleaseUnderConcession => "released under concession",
            DecisionKind.ReturnToVendor => "returned to vendor",
            DecisionKind.Scrap => "scrapped",
            DecisionKind.Rework => "reworked",
            DecisionKind.Repair => "repaired",
            DecisionKind.UsableAgain => "usable again",
            DecisionKind.BackToCustomer => "sent back to the customer",
            DecisionKind.Regrade => "regraded",
            _ => throw new ArgumentOutOfRangeException(nameof(decision), decision, null),
        };
}

/// <summary>Nonconforming goods are of another item from now on.</summary>
/// <param name="Into">The item.</param>
public sealed record GoodsRegraded(string Hold, Amount Goods, string Into, string Note) : Fact(EntryKind.Decided, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: {Goods.Words} regraded to {Into}, {Note}";
}

/// <summary>Nonconforming goods may be used until an instant.</summary>
/// <param name="From">The hold that they were part of; null where it is all of that one.</param>
public sealed record ConcessionGiven(
    string Hold,
    Amount Goods,
    string AskedBy,
    string ForWhom,
    DateTimeOffset Until,
    string Note,
    string? From
) : Fact(EntryKind.DecisionMade, Hold)
{
    public override string Words(Wording wording) =>
        $"{Hold}: {Goods.Words}{Behind(" of ", From)} released under concession until {wording.Minute(Until)}, asked by {AskedBy} for "
        + $"{ForWhom}: {Note}";
}

/// <summary>A concession has ended: what is left is held again.</summary>
/// <param name="Used">What was used under it and for whom, in words; null where nothing was.</param>
/// <param name="Why">Null where its time was over.</param>
public sealed record ConcessionEnded(string Hold, Amount Left, string? Used, string By, string? Why) : Fact(EntryKind.DecisionMade, Hold)
{
    public override string Words(Wording wording) =>
        $"{Hold}: the concession ended ({By}{Behind(": ", Why)}). {Left.Words} held again; "
        + (Used is null ? "nothing was used under it." : $"used under it: {Used}.");
}

/// <summary>It was found what goods are that a customer sent back.</summary>
/// <param name="Reason">As the customer says it.</param>
/// <param name="Finding">What was found, in words.</param>
public sealed record ReturnWasFound(string Hold, string Order, Amount Goods, string Reason, string Finding, string By)
    : Fact(EntryKind.ReturnFound, Hold)
{
    public override string Words(Wording wording) => $"{Hold}: {Goods.Words} of {Order}, {Finding} ({By}; the customer: {Reason}).";
}

/// <summary>A finding of goods that a customer sent back was taken back.</summary>
public sealed record ReturnFindingTakenBack(string Hold, string Order, string Finding, string By, string Why)
    : Fact(EntryKind.ReturnFound, Hold)
{
    public override string Words(Wording wording) => $"{Hold} of {Order}: not {Finding}, {By}: {Why}";
}

/// <param name="SecondAbove">Two people decide above this value; null where one always is enough.</param>
/// <param name="Reasons">Why goods are held by hand; null where that was not kept.</param>
public sealed record DecidingChanged(string Site, string Name, int Version, decimal? SecondAbove, IReadOnlyList<string>? Reasons = null)
    : Fact(EntryKind.SetUpChanged, Site)
{
    public override string Words(Wording wording) =>
        $"How {Name} decides over goods was changed, version {Version}: "
        + (SecondAbove is { } above ? $"two people above {Quantities.Show(above)} and without a price." : "one person is enough.")
        + Behind(" Reasons: ", Reasons is null ? null : string.Join(", ", Reasons));
}

/// <summary>A recall or a drill was begun.</summary>
/// <param name="Says">Which goods it is about, in words.</param>
public sealed record RecallBegun(string Recall, string Says, string Why, bool IsDrill) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{(IsDrill ? "Drill" : "Recall")} {Recall} of {Says}: {Why}";
}

/// <summary>A recall holds its goods at a site: all that stands there when somebody lays it there.</summary>
/// <param name="Places">How many places hold some of it.</param>
public sealed record RecallLaid(string Recall, int Places) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall}: held in {Places} {Quantities.Plural("place", Places)}.";
}

/// <summary>Goods of a recall were not where the book has them.</summary>
public sealed record RecallMissed(string Recall, Amount Goods, string Place, string By) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall}: {Goods.Words} not found in {Place} by {By}.";
}

/// <summary>Missing goods of a recall were looked for in vain.</summary>
public sealed record RecallLookedIn(string Recall, Amount Goods, string Place, string By) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall}: {Goods.Words} not in {Place} either, {By}.";
}

/// <summary>Missing goods of a recall are found.</summary>
public sealed record RecallFound(string Recall, Amount Goods, string Place, string By) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall}: {Goods.Words} found in {Place} by {By}.";
}

/// <summary>Somebody has seen goods of a recall where the book has them.</summary>
public sealed record RecallSeen(string Recall, Amount Goods, string Place, string By) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall}: {Goods.Words} seen in {Place} by {By}.";
}

/// <summary>Who got goods of a recall was told.</summary>
/// <param name="Whom">The order or job that they went out for.</param>
public sealed record RecallTold(string Recall, string Whom, string By, string How) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall}: {Whom} told by {By}: {How}";
}

public sealed record RecallEnded(string Recall, string By, string Ending) : Fact(EntryKind.Recalled, Recall)
{
    public override string Words(Wording wording) => $"{Recall} ended by {By}: {Ending}";
}
