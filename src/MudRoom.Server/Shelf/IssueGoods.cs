using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Shelf;

/// <summary>Who goods leave for.</summary>
public enum IssueTo
{
    Customer,
    Job,
}

/// <summary>Goods that leave a bin.</summary>
/// <param name="Balance">The stock, by its id.</param>
/// <param name="Quantity">As typed, in base units.</param>
/// <param name="To">Customer or job.</param>
/// <param name="Reference">Their order or job number.</param>
public sealed record IssueRequest(long Balance, string Quantity, IssueTo To, string Reference);

/// <summary>Goods leave: out of a bin to a customer or a job.</summary>
public static class IssueGoods
{
    public static void Map(SiteRoutes routes) => routes.Act<IssueRequest, DoneAnswer>("/book/issue", Right.Issue, Run);

    public static async Task<Outcome<DoneAnswer>> Run(Act act, IssueRequest request)
    {
        var row = await act.Db.Balances.FirstOrDefaultAsync(b => b.SiteId == act.Site.Id && b.Id == request.Balance);
        if (row is null)
            return new Refusal(HouseRefusals.NotFound, "That stock is not there any more.", "Look at the bin again.");
        var item = act.SetUp.Catalogue[row.ItemId];
        var quantity = Quantities.Read(request.Quantity, act.Site.Door.DecimalComma);
        if (quantity.Refused(out var bad))
            return bad;
        if (Quantities.Check(quantity.Value, item) is { } badQuantity)
            return badQuantity;
        if (!Standings.MayBeIssued(row.Standing))
            return new Refusal(
                HouseRefusals.NotUsable,
                $"{item.Name} in {act.SetUp.Address(row.BinId)} is {Standings.Word(row.Standing)} and may not leave.",
                "Have it inspected or released first."
            );
        var reference = (request.Reference ?? "").Trim();
        if (reference.Length is 0 or > 40)
            return new Refusal(
                HouseRefusals.ReferenceMissing,
                "Say what it is for: an order or job number of at most 40 characters.",
                "Type the number."
            );
        var free = Promises.Free(row.Quantity, await TakenJobs.From(act.Db, row.Goods, row.Place));
        if (quantity.Value > free)
            return new Refusal(
                HouseRefusals.MoreThanThere,
                $"{act.SetUp.Address(row.BinId)} has {Quantities.Show(free)} {item.UnitWord} free.",
                "Issue what is there."
            );
        act.Write(
            EntryKind.Issued,
            reference,
            $"{Quantities.Show(quantity.Value)} {item.UnitWord} of {item.Name} out of {act.SetUp.Address(row.BinId)} for {reference}.",
            new Movement(row.Goods, quantity.Value, row.Place, new Place(request.To == IssueTo.Customer ? Account.Customer : Account.Job))
        );
        act.Touch("shelf", "book", "house");
        return new DoneAnswer($"{Quantities.Show(quantity.Value)} {item.UnitWord} of {item.Name} issued for {reference}.");
    }
}
