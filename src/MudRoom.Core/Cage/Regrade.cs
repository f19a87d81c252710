using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>Of which item nonconforming goods may be from now on.</summary>
public static class Regrade
{
    /// <summary>Why goods of one item do not become goods of another; null where they may.</summary>
    /// <param name="into">Null where nobody has said.</param>
    /// <param name="quantity">In base units.</param>
    /// <param name="haveBatch">Whether all of the goods are of a batch.</param>
    public static Refusal? Fault(Item item, Item? into, decimal quantity, bool haveBatch)
    {
        if (into is null || into.Id == item.Id)
            return No($"Goods of {item.Name} are regraded to another item, whose requirements they meet.");
        if (into.BaseUnit != item.BaseUnit)
            return No($"{item.Name} is counted in {item.UnitWord}, {into.Name} in {into.UnitWord}: the one does not become the other.");
        if (item.NeedsSerial || into.NeedsSerial)
            return No("Pieces with serial numbers are not regraded: their number belongs to their item.");
        if (into.NeedsBatch && !haveBatch)
            return No($"{into.Name} is kept by batch, and not all of these goods are of one.");
        return Quantities.Check(quantity, into);
    }

    static Refusal No(string sentence) => new(CageRefusals.RegradeWrong, sentence, "Choose an item that they meet.");
}
