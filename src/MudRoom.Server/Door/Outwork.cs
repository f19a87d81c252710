using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Cage;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;

namespace MudRoom.Server.Door;

/// <summary>A note of goods that are out for a treatment.</summary>
public sealed record OutworkRow(
    string Number,
    string Vendor,
    string Order,
    string Item,
    string Unit,
    string? Batch,
    string Treatment,
    decimal Sent,
    decimal Back,
    decimal Lost,
    decimal Out,
    bool Open,
    string By,
    DateTime At
);

/// <summary>Notes of outwork, open ones first.</summary>
public sealed record OutworkAnswer(IReadOnlyList<OutworkRow> Notes, int InAll, int PageSize, IReadOnlyList<int> Doors);

/// <summary>Sends goods out for a treatment.</summary>
/// <param name="Balance">The stock they are taken from.</param>
/// <param name="Vendor">Code of who treats them.</param>
/// <param name="Order">Number of the treatment's order.</param>
public sealed record OutworkSendRequest(long Balance, string Quantity, string Vendor, string Order, string Treatment);

/// <summary>Goods come back against a note.</summary>
/// <param name="Quantity">In base units; 0 or blank only with the rest lost.</param>
/// <param name="Door">Number of the door they came to.</param>
/// <param name="RestLost">True when nothing more comes back.</param>
public sealed record OutworkBackRequest(string Note, string? Quantity, int Door, bool RestLost);

/// <summary>
/// Goods of ours that go to somebody for a treatment and come back: they move to the vendor's account and back from it, and the note says
/// what is out.
/// </summary>
public static class Outwork
{
    const int PageSize = 60;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/outwork", Right.See, List);
        routes.Act<OutworkSendRequest, DoneAnswer>("/door/outwork/send", Right.Issue, Send);
        routes.Act<OutworkBackRequest, DoneAnswer>("/door/outwork/back", Right.Tally, Back);
    }

    static async Task<Ok<OutworkAnswer>> List(Inquiry inquiry, string? order, int page = 1)
    {
        var notes = inquiry.Db.OutworkNotes.Where(n =>
            n.SiteId == inquiry.Site.Id && (order == null || n.Order == order || n.Number == order)
        );
        var rows = await notes
            .OrderByDescending(n => n.IsOpen)
            .ThenByDescending(n => n.Id)
            .Skip((Math.Clamp(page, 1, 100_000) - 1) * PageSize)
            .Take(PageSize)
            .ToListAsync();
        var batchIds = rows.Select(r => r.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id, b => b.Number);
        return TypedResults.Ok(
            new OutworkAnswer(
                [
                    .. rows.Select(n =>
                    {
                        var item = inquiry.SetUp.Catalogue[n.ItemId];
                        return new OutworkRow(
                            n.Number,
                            inquiry.SetUp.Vendors[n.VendorId].Name,
                            n.Order,
                            item.Name,
                            item.UnitWord,
                            n.BatchId is { } b ? batches[b] : null,
                            n.Treatment,
                            n.Sent,
                            n.Back,
                            n.Lost,
                            n.Out,
                            n.IsOpen,
                            n.By,
                            inquiry.Local(n.At)
                        );
                    }),
                ],
                await notes.CountAsync(),
                PageSize,
                [.. inquiry.SetUp.Doors.Values.Where(d => d.SiteId == inquiry.Site.Id).Select(d => d.Number).Order()]
            )
        );
    }

    public static async Task<Outcome<DoneAnswer>> Send(Act act, OutworkSendRequest request)
    {
        var read = await Leaving.Read(act, request.Balance, request.Quantity, Lets.Ship, "Send");
        if (read.Refused(out var refusal))
            return refusal;
        var (row, item, quantity, _) = read.Value;
        var vendor = act.SetUp.Vendors.Values.FirstOrDefault(v =>
            v.Code.Equals((request.Vendor ?? "").Trim(), StringComparison.OrdinalIgnoreCase)
        );
        if (vendor is null)
            return Problems.NotFound("vendor", request.Vendor ?? "");
        if (request.Order.OrNull() is not { Length: <= 40 } order)
            return new Refusal(
                HouseRefusals.ReferenceMissing,
                "Say on which order it is treated, in at most 40 characters.",
                "Type the number."
            );
        if (request.Treatment.OrNull() is not { Length: <= 100 } treatment)
            return new Refusal(HouseRefusals.NoteMissing, "Say in at most 100 characters what is done to it.", "Type the treatment.");
        if (row.UnitId is not null && quantity != row.Quantity)
            return new Refusal(HouseRefusals.UnitWhole, "A labelled unit goes out whole.", "Send all of it.");
        var note = new OutworkNote
        {
            Number = await act.Number("W"),
            SiteId = act.Site.Id,
            VendorId = vendor.Id,
            Order = order,
            ItemId = item.Id,
            BatchId = row.BatchId,
            Treatment = treatment,
            Sent = quantity,
            By = act.Person.Name,
            At = act.Now,
        };
        act.Db.OutworkNotes.Add(note);
        var gone = await read.Value.Out(
            act,
            of => new OutworkSent(note.Number, Amount.Of(of, item), act.SetUp.Address(row.BinId), vendor.Name, treatment, order),
            Account.Vendor
        );
        if (gone is { } stays)
            return stays;
        act.Touch("door", "shelf", "book", "house");
        return new DoneAnswer(
            $"{note.Number}: {Quantities.Show(quantity)} {item.UnitWord} of {item.Name} go to {vendor.Name}, {treatment}."
        );
    }

    public static async Task<Outcome<DoneAnswer>> Back(Act act, OutworkBackRequest request)
    {
        var number = (request.Note ?? "").Trim();
        var note = await act.Db.OutworkNotes.FirstOrDefaultAsync(n => n.SiteId == act.Site.Id && n.Number == number);
        if (note is null)
            return Problems.NotFound("outwork note", number);
        var door = act.SetUp.Doors.Values.FirstOrDefault(d => d.SiteId == act.Site.Id && d.Number == request.Door);
        if (door is null)
            return Problems.NotFound("door", request.Door.ToString());
        var item = act.SetUp.Catalogue[note.ItemId];
        var typed = request.Quantity.OrNull() is { } text ? Quantities.Read(text, act.Site.DecimalComma) : (Outcome<decimal>)0;
        if (typed.Refused(out var noNumber))
            return noNumber;
        if (typed.Value != 0 && Quantities.Check(typed.Value, item) is { } badQuantity)
            return badQuantity;
        if (note.TakeBack(typed.Value, request.RestLost) is { } refusal)
            return refusal;
        // What goes by a plan is looked at again before it is used.
        var standing =
            act.SetUp.PlansFor(new GoodsToInspect(InspectionTrigger.Outwork, item, note.VendorId, null)).Count == 0
                ? Standing.Usable
                : Standing.ToInspect;
        var placed = ReceivingPlace.By(
            act.Site,
            act.DoorSettings,
            act.Standings[standing],
            act.SetUp.StagingOf(door),
            act.SetUp.BinsOfSite[act.Site.Id],
            null
        );
        if (placed.Refused(out var noPlace))
            return noPlace;
        var lost = request.RestLost ? note.Lost : 0;
        if (typed.Value > 0)
        {
            var lot = await Lots.Open(act, item, note.BatchId, LotOrigin.Outwork);
            act.Write(
                new OutworkBack(
                    note.Number,
                    Amount.Of(typed.Value, item),
                    act.SetUp.Vendors[note.VendorId].Name,
                    placed.Value.Address,
                    lost
                ),
                new Movement(
                    new Goods(item.Id, note.BatchId, LotId: lot.Id),
                    typed.Value,
                    new Place(Account.Vendor),
                    Place.In(placed.Value.Id, standing)
                )
            );
            if (standing == Standing.ToInspect)
            {
                await act.Db.SaveChangesAsync();
                if (await Inspections.BringToBench(act, item, lot, InspectionTrigger.Outwork, note.VendorId) is { } closed)
                    return closed;
            }
        }
        else
        {
            act.Write(new OutworkEnded(note.Number, lost));
        }

        act.Touch("door", "shelf", "cage", "book", "house");
        return new DoneAnswer(
            $"{Quantities.Show(typed.Value)} {item.UnitWord} of {item.Name} are back on {note.Number}, {act.Standings.Word(standing)}, "
                + $"in {placed.Value.Address}; {Quantities.Show(note.Out)} still "
                + $"out{(lost > 0 ? $", {Quantities.Show(lost)} lost" : "")}."
        );
    }
}
