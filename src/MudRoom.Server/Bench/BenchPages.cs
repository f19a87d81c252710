using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>An inspection in the queue.</summary>
public sealed record InspectionCard(
    string Number,
    string Item,
    string? Batch,
    string Vendor,
    string Arrival,
    decimal Quantity,
    string Unit,
    string InPacks,
    DateTime Since,
    InspectionState State,
    Verdict? Verdict,
    string Why,
    string? Place
);

/// <summary>A characteristic as the sheet shows it.</summary>
public sealed record CharacteristicView(
    int Id,
    string Name,
    CharacteristicClass Class,
    string? Unit,
    decimal? Nominal,
    decimal? Lower,
    decimal? Upper,
    string PassWord,
    string FailWord,
    string Instruction,
    int SampleSize
);

/// <summary>A finding on the sheet.</summary>
/// <param name="Before">What stood there before, in words, with who and why.</param>
public sealed record FindingView(int Piece, int Characteristic, decimal? Value, bool Conforms, string By, IReadOnlyList<string> Before);

/// <summary>One class against its plan.</summary>
public sealed record ClassView(CharacteristicClass Class, decimal? Aql, int SampleSize, int Ac, int Re, int Nonconforming, bool MustReject);

/// <summary>The sheet.</summary>
/// <param name="ChanceAtAql">Chance that the plan accepts a lot exactly as bad as the AQL of its majors, 0 to 1.</param>
public sealed record SheetAnswer(
    InspectionCard Card,
    InspectionLevel Level,
    Severity Severity,
    char? Letter,
    long LotSize,
    string SamplingUnit,
    int SampleSize,
    IReadOnlyList<CharacteristicView> Characteristics,
    IReadOnlyList<ClassView> Classes,
    IReadOnlyList<FindingView> Findings,
    int Missing,
    Verdict? Verdict,
    string? SignedBy,
    DateTime? SignedAt,
    string? Comment,
    string? SheetHash,
    double? ChanceAtAql
);

/// <summary>The queue of Bench and its sheets.</summary>
public static class BenchPages
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/queue", Right.See, Queue);
        routes.Ask("/bench/sheet/{number}", Right.See, Sheet);
    }

    static async Task<Ok<IReadOnlyList<InspectionCard>>> Queue(Inquiry inquiry)
    {
        var dayAgo = inquiry.Now.AddDays(-1);
        var rows = await inquiry
            .Db.Inspections.Where(i =>
                i.SiteId == inquiry.Site.Id && i.Quantity > 0 && (i.State != InspectionState.Signed || i.SignedAt > dayAgo)
            )
            .OrderBy(i => i.Since)
            .Take(200)
            .ToListAsync();
        var cards = await Cards(inquiry, rows);
        return TypedResults.Ok<IReadOnlyList<InspectionCard>>([
            .. cards.OrderBy(c => c.Card.State == InspectionState.Signed).ThenBy(c => c.Rank).ThenBy(c => c.Card.Since).Select(c => c.Card),
        ]);
    }

    static async Task<Results<Ok<SheetAnswer>, ProblemHttpResult>> Sheet(Inquiry inquiry, string number)
    {
        var inspection = await inquiry
            .Db.Inspections.Include(i => i.Findings)
            .FirstOrDefaultAsync(i => i.SiteId == inquiry.Site.Id && i.Number == number);
        if (inspection is null)
            return Problems.Of(Problems.NotFound("inspection", number));
        var plan = inquiry.SetUp.Plans[inspection.PlanId];
        var card = (await Cards(inquiry, [inspection]))[0].Card;
        var stand = inspection.Sample is null ? null : LotStand.Of(plan, inspection.Sample, inspection.Findings);
        var sizes = inspection.Sample?.Classes.ToDictionary(c => c.Class, c => c.SampleSize) ?? [];
        var major = stand?.Classes.FirstOrDefault(c => c.Plan.Class == CharacteristicClass.Major)?.Plan;
        return TypedResults.Ok(
            new SheetAnswer(
                card,
                plan.Level,
                inspection.Severity,
                inspection.Sample?.Letter,
                inspection.LotSize,
                plan.SamplingUnit,
                inspection.Sample?.Size ?? 0,
                [
                    .. plan.Characteristics.Select(c => new CharacteristicView(
                        c.Id,
                        c.Name,
                        c.Class,
                        c.Unit,
                        c.Nominal,
                        c.Lower,
                        c.Upper,
                        c.PassWord,
                        c.FailWord,
                        c.Instruction,
                        sizes.GetValueOrDefault(c.Class)
                    )),
                ],
                [
                    .. stand?.Classes.Select(c => new ClassView(
                        c.Plan.Class,
                        Aql(plan, c.Plan.Class),
                        c.Plan.SampleSize,
                        c.Plan.Ac,
                        c.Plan.Re,
                        c.Nonconforming,
                        c.MustReject
                    ))
                        ?? [],
                ],
                [
                    .. inspection
                        .Findings.OrderBy(f => f.Piece)
                        .Select(f => new FindingView(
                            f.Piece,
                            f.CharacteristicId,
                            f.Value,
                            f.Conforms,
                            f.By,
                            [
                                .. f.Before.Select(b =>
                                    $"{b.Was}, {b.By} {inquiry.Local(b.At):HH:mm}{(b.Reason is null ? "" : ": " + b.Reason)}"
                                ),
                            ]
                        )),
                ],
                stand?.Missing ?? 0,
                inspection.Verdict ?? stand?.Verdict,
                inspection.SignedBy,
                inspection.SignedAt is { } at ? inquiry.Local(at) : null,
                inspection.Comment,
                inspection.SheetHash,
                major is null ? null : ChanceToAccept.FromProcess((double)plan.AqlMajor / 100, major.SampleSize, major.Ac)
            )
        );
    }

    static decimal? Aql(InspectionPlan plan, CharacteristicClass c) =>
        c switch
        {
            CharacteristicClass.Major => plan.AqlMajor,
            CharacteristicClass.Minor => plan.AqlMinor,
            _ => null,
        };

    static async Task<List<(InspectionCard Card, int Rank)>> Cards(Inquiry inquiry, List<Inspection> rows)
    {
        var batchIds = rows.Select(i => i.BatchId).ToList();
        var batches = await inquiry.Db.Batches.Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var arrivalIds = rows.Select(i => i.ArrivalId).ToList();
        var arrivals = await inquiry
            .Db.Arrivals.Where(a => arrivalIds.Contains(a.Id))
            .Select(a => new { a.Id, a.Number })
            .ToDictionaryAsync(a => a.Id, a => a.Number);
        var itemIds = rows.Select(i => i.ItemId).ToList();
        var waiting = (
            await inquiry
                .Db.LineParts.Where(p => p.SiteId == inquiry.Site.Id && itemIds.Contains(p.ItemId) && p.WaitingQuantity > p.Received)
                .Select(p => new { p.ItemId, p.WaitingFor })
                .ToListAsync()
        ).ToLookup(p => p.ItemId, p => p.WaitingFor);
        var ids = rows.Select(i => i.Id).ToList();
        var places = (
            await inquiry
                .Db.Statements.Where(s => ids.Contains(s.InspectionId!.Value) && s.SettledAt == null)
                .Join(inquiry.Db.Balances, s => s.LotId, b => b.LotId, (s, b) => new { Inspection = s.InspectionId!.Value, b.BinId })
                .ToListAsync()
        ).ToLookup(p => p.Inspection, p => p.BinId);
        return
        [
            .. rows.Select(i =>
            {
                var item = inquiry.SetUp.Catalogue[i.ItemId];
                var batch = i.BatchId is { } id ? batches[id] : null;
                var place = BenchQueue.Place(
                    new InspectionFacts(i.State, inquiry.Local(i.Since), batch?.Expiry, waiting[i.ItemId].FirstOrDefault(), i.SignedBy),
                    inquiry.Local(inquiry.Now)
                );
                return (
                    new InspectionCard(
                        i.Number,
                        item.Name,
                        batch?.Number,
                        inquiry.SetUp.Vendors[i.VendorId].Name,
                        arrivals[i.ArrivalId],
                        i.Quantity,
                        item.UnitWord,
                        Quantities.InPacks(i.Quantity, item),
                        inquiry.Local(i.Since),
                        i.State,
                        i.Verdict,
                        place.Why,
                        places[i.Id].Select(b => inquiry.SetUp.Address(b)).FirstOrDefault()
                    ),
                    place.Rank
                );
            }),
        ];
    }
}
