using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Out;

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
        var reference = (request.Reference ?? "").Trim();
        if (reference.Length is 0 or > Reservation.LongestReference)
            return new Refusal(
                HouseRefusals.ReferenceMissing,
                $"Say what it is for: an order or job number of at most {Reservation.LongestReference} characters.",
                "Type the number."
            );
        var read = await Leaving.Read(act, request.Balance, request.Quantity, Lets.Issue, "Issue", reference);
        if (read.Refused(out var refusal))
            return refusal;
        var (row, item, quantity, _) = read.Value;
        var gone = await read.Value.Out(
            act,
            of => new GoodsIssued(reference, Amount.Of(of, item), act.SetUp.Address(row.BinId)),
            request.To == IssueTo.Customer ? Account.Customer : Account.Job
        );
        if (gone is { } stays)
            return stays;
        await Receipts.Moved(act);
        act.Touch("shelf", "book", "house");
        return new DoneAnswer($"{Quantities.Show(quantity)} {item.UnitWord} of {item.Name} issued for {reference}.");
    }
}
