using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Road;

/// <summary>One line of a manifest.</summary>
public sealed record ManifestRow(
    int Id,
    int PartId,
    string Order,
    int Line,
    string Vendor,
    int VendorId,
    string ItemCode,
    string ItemName,
    string Unit,
    decimal Expected,
    decimal Counted,
    string InPacks,
    DateOnly Due,
    DueState DueState,
    int DaysLate,
    decimal Waiting,
    string? WaitingFor,
    decimal OpenOnOrder,
    decimal InTransit,
    IReadOnlyList<string> Asks
);

/// <summary>A change of the time at which an arrival is thought to come.</summary>
public sealed record EtaView(DateTime? From, DateTime To, string Source, string By, DateTime At);

/// <summary>A unit the vendor's despatch advice names, with what it holds.</summary>
public sealed record AdvisedUnitView(
    string? Sscc,
    string? ParentSscc,
    string? PackageType,
    string? Item,
    decimal Quantity,
    string? Unit,
    string? SourceBatch,
    DateOnly? BestBefore
);

/// <summary>Something in a despatch advice that does not fit the order.</summary>
public sealed record DifferenceView(int Id, string Sentence, string? Decision, string? DecidedBy);

/// <summary>An arrival with its manifest, its papers and what happened to it.</summary>
public sealed record ArrivalAnswer(
    ArrivalCard Card,
    string? Plate,
    string? Haulier,
    string? Seal,
    string? SealFound,
    string? SealReason,
    ContainerPapers? Papers,
    string? SizeInWords,
    Handling Handling,
    int Units,
    DateTime Booked,
    IReadOnlyList<string> Crew,
    IReadOnlyList<BrokenView> Broken,
    IReadOnlyList<Overruling> Overrulings,
    int Version,
    bool Counted,
    IReadOnlyList<EtaView> Etas,
    IReadOnlyList<AdvisedUnitView> Advised,
    IReadOnlyList<DifferenceView> Differences,
    IReadOnlyList<AttachmentView> Attachments,
    IReadOnlyList<OrderChangeView> OrderChanges,
    IReadOnlyList<HistoryRow> History,
    IReadOnlyList<ManifestRow> Manifest,
    IReadOnlyList<DoorView> Doors,
    IReadOnlyList<OtherSite> OtherSites
);

/// <summary>Another own site, where goods can be sent instead.</summary>
public sealed record OtherSite(string Code, string Name);

/// <summary>One arrival.</summary>
public static class ArrivalPage
{
    public static void Map(SiteRoutes routes) => routes.Ask("/road/arrivals/{number}", Right.See, Run);

    static async Task<Results<Ok<ArrivalAnswer>, ProblemHttpResult>> Run(Inquiry inquiry, string number)
    {
        var happened = await inquiry.History();
        var arrival = await inquiry.Db.Arrivals.Numbered(inquiry.Site, number);
        if (arrival is null)
            return Problems.Of(Problems.NotFound("arrival", number));
        var cards = await ArrivalCards.Load(inquiry, inquiry.Db.Arrivals.Where(a => a.Id == arrival.Id));
        var manifest = await Manifest(inquiry, arrival.Id);
        var day = await SiteDay.Read(inquiry, inquiry.Site.DateAt(arrival.Planned), arrival.Number);
        var load = day.Find(arrival.Number)!;
        var etas = await inquiry.Db.EtaChanges.Where(c => c.ArrivalId == arrival.Id).OrderByDescending(c => c.Id).ToListAsync();
        var units = await inquiry.Db.AdvisedUnits.Where(u => u.ArrivalId == arrival.Id).OrderBy(u => u.Id).Take(1000).ToListAsync();
        var differences = await inquiry.Db.AdviceDifferences.Where(d => d.ArrivalId == arrival.Id).OrderBy(d => d.Id).ToListAsync();
        var partIds = manifest.Select(m => m.PartId).ToList();
        var since = await happened
            .About(Reference.Arrival(arrival.Number))
            .Where(e => e.SiteId == inquiry.Site.Id)
            .OrderBy(e => e.Seq)
            .Select(e => (DateTimeOffset?)e.At)
            .FirstOrDefaultAsync()
            ?? arrival.Booked;
        var changes = await inquiry
            .Db.OrderChanges.Where(c => c.PartId != null && partIds.Contains(c.PartId.Value) && c.At >= since)
            .OrderByDescending(c => c.Id)
            .Take(50)
            .ToListAsync();
        var history = await happened
            .About(Reference.Arrival(arrival.Number))
            .Where(e => e.SiteId == inquiry.Site.Id)
            .OrderByDescending(e => e.Seq)
            .Take(40)
            .ToListAsync();
        return TypedResults.Ok(
            new ArrivalAnswer(
                cards[0],
                arrival.Plate,
                arrival.Haulier,
                arrival.Seal,
                arrival.SealFound,
                arrival.SealReason,
                arrival.Papers,
                SizeType.Read(arrival.Papers?.SizeType) is { } size ? $"{size.Length}, {size.Height}, {size.Type}" : null,
                arrival.Handling,
                arrival.UnitsAboard,
                inquiry.Local(arrival.Booked),
                [.. arrival.Crew.Select(id => inquiry.SetUp.People.GetValueOrDefault(id)?.Name ?? "?")],
                [
                    .. day.Broken(load)
                        .Select(b => new BrokenView(b.Rule, b.Force, b.Sentence, arrival.Overrulings.Any(o => o.Rule == b.Rule))),
                ],
                arrival.Overrulings,
                arrival.PlanVersion,
                manifest.Any(m => m.Counted > 0),
                [
                    .. etas.Select(e => new EtaView(
                        e.From is { } f ? inquiry.Local(f) : null,
                        inquiry.Local(e.To),
                        e.Source,
                        e.By,
                        inquiry.Local(e.At)
                    )),
                ],
                [
                    .. units.Select(u => new AdvisedUnitView(
                        u.Sscc,
                        u.ParentSscc,
                        u.PackageType,
                        u.ItemId is { } i ? inquiry.SetUp.Catalogue[i].Name : null,
                        u.Quantity,
                        u.ItemId is { } x ? inquiry.SetUp.Catalogue[x].UnitWord : null,
                        u.SourceBatch,
                        u.BestBefore
                    )),
                ],
                [.. differences.Select(d => new DifferenceView(d.Id, d.Sentence, d.Decision, d.DecidedBy))],
                await Attachments.Of(inquiry, arrival.Id),
                [.. changes.Select(c => new OrderChangeView(c.Sentence, c.Source, c.By, inquiry.Local(c.At)))],
                [.. history.Select(h => new HistoryRow(inquiry.Local(h.At), h.PersonName, h.Words(inquiry.Site.Wording)))],
                manifest,
                await Board.Doors(inquiry),
                [
                    .. inquiry
                        .SetUp.Sites.Values.Where(s => s.Id != inquiry.Site.Id)
                        .OrderBy(s => s.Name, StringComparer.Ordinal)
                        .Select(s => new OtherSite(s.Code, s.Name)),
                ]
            )
        );
    }

    /// <summary>The manifest in the order of orders and lines.</summary>
    public static async Task<List<ManifestRow>> Manifest(Inquiry inquiry, int arrivalId)
    {
        var rows = await inquiry
            .Db.ManifestLines.Where(m => m.ArrivalId == arrivalId)
            .Select(m => new
            {
                m.Id,
                m.PartId,
                Part = m.Part!,
                Line = m.Part!.Line!.Number,
                Order = m.Part.Line.Order!.Number,
                m.Part.Line.Order.VendorId,
                m.Expected,
                m.Counted,
                m.InTransit,
            })
            .ToListAsync();
        return
        [
            .. rows.OrderBy(r => r.Part.Due)
                .ThenBy(r => r.Order, StringComparer.Ordinal)
                .ThenBy(r => r.Line)
                .Select(r =>
                {
                    var item = inquiry.SetUp.Catalogue[r.Part.ItemId];
                    return new ManifestRow(
                        r.Id,
                        r.PartId,
                        r.Order,
                        r.Line,
                        inquiry.SetUp.Vendors[r.VendorId].Name,
                        r.VendorId,
                        item.Code,
                        item.Name,
                        item.UnitWord,
                        r.Expected,
                        r.Counted,
                        Quantities.InPacks(r.Expected, item),
                        r.Part.Due,
                        DueRules.State(r.Part.Due, inquiry.Today, null),
                        DueRules.DaysLate(r.Part.Due, inquiry.Today, null),
                        r.Part.StillWaited,
                        r.Part.StillWaited > 0 ? r.Part.WaitingWords : null,
                        r.Part.Open,
                        r.InTransit,
                        TallyRules.Asks(item)
                    );
                }),
        ];
    }
}
