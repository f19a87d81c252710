using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <param name="Reason">Why this bin, in words, as the driver reads it.</param>
public sealed record TaskTaken(string Bin, string Person, Amount Goods, string From, string Reason) : Fact(EntryKind.TaskTaken, Bin)
{
    public override string Words(Wording wording) => $"{Person} takes {Goods.Words} from {From} to {Bin}. {Reason}";
}

public sealed record TaskTakenOver(string Bin, string Person, Amount Goods, string? From) : Fact(EntryKind.TaskTaken, Bin)
{
    public override string Words(Wording wording) => $"{Person} takes over {Goods.Words} to {Bin} from {From}.";
}

/// <summary>The goods of a task were scanned onto the driver's truck.</summary>
public sealed record GoodsLoaded(string Truck, Amount Goods, string From) : Fact(EntryKind.Loaded, Truck)
{
    public override string Words(Wording wording) => $"{Goods.Words} from {From} onto {Truck}.";
}

public sealed record TaskGivenBack(string Bin, string Person, Amount Goods, string? Reason) : Fact(EntryKind.TaskGivenBack, Bin)
{
    public override string Words(Wording wording) => $"{Person} gave {Goods.Words} to {Bin} back{Behind(": ", Reason)}.";
}

/// <summary>A task ended because no bin takes its goods any more.</summary>
public sealed record NoBinLeft(string Bin, string Person) : Fact(EntryKind.TaskGivenBack, Bin)
{
    public override string Words(Wording wording) => $"No bin takes them now: {Person} brings them back.";
}

/// <summary>Goods of a task that was given back are where it took them.</summary>
public sealed record BroughtBack(string Bin, Amount Goods, string From) : Fact(EntryKind.Moved, Bin)
{
    public override string Words(Wording wording) => $"{Goods.Words} from {From} back in {Bin}.";
}

public sealed record SetDownHalfWay(string Bin, Amount Goods) : Fact(EntryKind.Moved, Bin)
{
    public override string Words(Wording wording) => $"{Goods.Words} set down half way, in {Bin}.";
}

/// <summary>Goods are in their bin.</summary>
/// <param name="InsteadOf">The bin that was proposed, where it was another.</param>
/// <param name="Reason">Why it was another.</param>
public sealed record GoodsPutAway(string Bin, Amount Goods, string? InsteadOf, string? Reason) : Fact(EntryKind.PutAway, Bin)
{
    public override string Words(Wording wording) =>
        $"{Goods.Words} put into {Bin}{(InsteadOf is null ? "" : $", not {InsteadOf}{Behind(": ", Reason)}")}.";
}

/// <summary>A driver's word that a bin does not take these goods.</summary>
/// <param name="Next">The bin they go to instead; null where none takes them.</param>
/// <param name="NoBin">Why none takes them, in words.</param>
public sealed record BinSaidToBe(string Bin, string Person, BinTrouble Trouble, string Item, string? Next, string? NoBin)
    : Fact(EntryKind.BinRefused, Bin)
{
    public override string Words(Wording wording) =>
        $"{Person} says {Bin} is {BinRefusal.Word(Trouble)}. "
        + (Next is null ? $"{Item}: {NoBin} The task is back in the queue." : $"{Item} goes to {Next} instead.");
}

/// <param name="Demand">The order of a customer or the job that they were issued for.</param>
public sealed record GoodsIssued(string Demand, Amount Goods, string Bin) : Fact(EntryKind.Issued, Demand)
{
    public override string Words(Wording wording) => $"{Goods.Words} out of {Bin} for {Demand}.";
}
