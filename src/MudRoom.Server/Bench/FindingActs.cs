using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Bench;

/// <summary>One value or look, as typed.</summary>
/// <param name="Reason">Why a finding is changed.</param>
/// <param name="IsSure">True when a doubtful value was looked at again.</param>
public sealed record FindRequest(
    string Inspection,
    int Piece,
    int Characteristic,
    string? Value,
    bool? Pass,
    string? Reason = null,
    bool IsSure = false
);

/// <summary>Values and looks of many pieces.</summary>
/// <param name="Found">At least one.</param>
public sealed record FindAllRequest(string Inspection, IReadOnlyList<Observation> Found);

/// <summary>What a gauge sent.</summary>
/// <param name="Characteristic">The one in whose field the cursor stands, or null.</param>
public sealed record GaugeRequest(string Inspection, int Piece, string Text, int? Characteristic, bool IsSure = false);

/// <summary>What the finding came to.</summary>
/// <param name="Finding">As it stands on the sheet now.</param>
/// <param name="Parts">How each part of the sample stands now.</param>
/// <param name="SampleSize">Pieces to look at: more once a second sample is wanted.</param>
public sealed record FindAnswer(
    bool Conforms,
    int Missing,
    Verdict? Verdict,
    string Sentence,
    FindingView Finding,
    IReadOnlyList<SamplePartView> Parts,
    int SampleSize
);

/// <summary>Clears what was found on a piece.</summary>
/// <param name="Reason">Wanted for a nonconforming finding, and for one of somebody else's.</param>
public sealed record ClearRequest(string Inspection, int Piece, int Characteristic, string? Reason = null);

/// <summary>Writes a note on the sheet.</summary>
/// <param name="Piece">Null for all.</param>
/// <param name="Characteristic">Null for all.</param>
public sealed record SheetNoteRequest(string Inspection, int? Piece, int? Characteristic, string Text);

/// <summary>A piece bears a name: a serial, a label, as scanned or typed.</summary>
/// <param name="Text">Empty takes the name off.</param>
public sealed record NamePieceRequest(string Inspection, int Piece, string Text);

/// <summary>What is found on the pieces of a sample.</summary>
public static class FindingActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<FindRequest, FindAnswer>("/bench/find", Right.Inspect, Find);
        routes.Act<GaugeRequest, FindAnswer>("/bench/gauge", Right.Inspect, FromGauge);
        routes.Act<ClearRequest, DoneAnswer>("/bench/clear", Right.Inspect, Clear);
        routes.Act<NamePieceRequest, DoneAnswer>("/bench/name-piece", Right.Inspect, NamePiece);
        routes.Act<SheetNoteRequest, DoneAnswer>("/bench/note", Right.Inspect, Note);
    }

    public static async Task<Outcome<FindAnswer>> Find(Act act, FindRequest request)
    {
        var inspection = await Read(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        decimal? value = null;
        if (!string.IsNullOrWhiteSpace(request.Value))
        {
            var read = Quantities.Read(request.Value, act.Site.DecimalComma);
            if (read.Refused(out var bad))
                return bad;
            value = read.Value;
        }

        return await Record(
            act,
            inspection,
            new Observation(request.Piece, request.Characteristic, value, request.Pass, request.Reason, request.IsSure)
        );
    }

    /// <summary>Many values at once, each an entry of the book.</summary>
    public static async Task<Outcome<FindAnswer>> FindAll(Act act, FindAllRequest request)
    {
        var inspection = await Read(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        FindAnswer? last = null;
        foreach (var one in request.Found)
        {
            var recorded = await Record(act, inspection, one);
            if (recorded.Refused(out var refusal))
                return refusal;
            last = recorded.Value;
        }

        return last!;
    }

    /// <summary>A value of a gauge goes to the characteristic it was measured for.</summary>
    public static async Task<Outcome<FindAnswer>> FromGauge(Act act, GaugeRequest request)
    {
        var inspection = await Read(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if (Gauges.Read(request.Text ?? "") is not { } reading)
            return new Refusal(HouseRefusals.NotANumber, "That is no value of a gauge.", "Measure again.");
        if (inspection.PlanVersion == 0)
            return inspection.NotDrawn();
        var plan = act.SetUp.Plans[inspection.PlanId][inspection.PlanVersion].Content;
        var stand = LotStand.Of(plan, inspection.Sample!, inspection.Findings);
        var open = plan
            .Characteristics.Where(c =>
                c.IsMeasured
                && stand.PartOf(c).Wants(request.Piece)
                && !inspection.Findings.Any(f => f.Piece == request.Piece && f.CharacteristicId == c.Id)
            )
            .ToList();
        var measured = Gauges.For(reading, open, request.Characteristic is { } id ? plan[id] : null);
        if (measured.Refused(out var which))
            return which;
        return await Record(
            act,
            inspection,
            new Observation(request.Piece, measured.Value.Id, Gauges.ValueIn(reading, measured.Value), null, null, request.IsSure),
            isRead: true
        );
    }

    static async Task<Outcome<FindAnswer>> Record(Act act, Inspection inspection, Observation what, bool isRead = false)
    {
        if (inspection.PlanVersion == 0)
            return inspection.NotDrawn();
        if (Inspections.Unqualified(act, inspection) is { } unqualified)
            return unqualified;
        var plan = act.SetUp.Plans[inspection.PlanId][inspection.PlanVersion].Content;
        if (inspection.Cleared.Any(c => c.Piece == what.Piece && c.CharacteristicId == what.CharacteristicId))
            inspection = (await BenchActs.Load(act, inspection.Number))!;
        if (inspection.StillToDraw(what.Piece, act.SetUp.Catalogue[inspection.ItemId], plan) is > 0 and var more)
        {
            inspection = (await BenchActs.Load(act, inspection.Number))!;
            if (await SampleActs.DrawMore(act, inspection, more) is { } notThere)
                return notThere;
        }

        var before = inspection.Findings.Find(f => f.Piece == what.Piece && f.CharacteristicId == what.CharacteristicId)?.Before.Count
            ?? -1;
        if (
            what.Value is not null
            && plan[what.CharacteristicId]?.Gauge is { } gauge
            && await GaugePages.Overdue(act, gauge) is { } overdue
        )
            return overdue;
        var found = inspection.Find(plan, what, act.Person.Name, act.Now, act.Site.LocalTime);
        if (found.Refused(out var refusal))
            return refusal;
        var characteristic = plan[what.CharacteristicId]!;
        var stand = LotStand.Of(plan, inspection.Sample!, inspection.Findings);
        var said = Inspection.Words(characteristic, found.Value.Value, found.Value.Conforms);
        var changed = before >= 0 && found.Value.Before.Count > before ? found.Value.Before[^1] : null;
        await Keep(act, found.Value);
        await Changed(act, inspection);
        if (before < 0 || changed is not null)
            act.Write(
                new FindingMade(
                    inspection.Number,
                    what.Piece,
                    characteristic.Name,
                    said,
                    found.Value.Conforms,
                    changed?.Was,
                    changed?.By,
                    changed?.Reason,
                    characteristic.IsRead && !isRead ? true : null
                )
            );
        act.Touch("inspection:" + inspection.Number);
        return new FindAnswer(
            found.Value.Conforms,
            stand.Missing,
            stand.Verdict,
            $"{characteristic.Name}, piece {what.Piece}: {said}.",
            BenchPages.ViewOf(found.Value, act.Site.LocalTime),
            [.. stand.Parts.Select(p => BenchPages.ViewOf(p, plan))],
            stand.Size
        );
    }

    /// <summary>The sheet as it is read to judge one finding: nothing of it is written back but that.</summary>
    static async Task<Inspection?> Read(Act act, string number)
    {
        var sheet = await act.Db.Inspections.AsNoTracking().FirstOrDefaultAsync(i => i.SiteId == act.Site.Id && i.Number == number);
        if (sheet is null)
            return null;
        sheet.Findings.AddRange(
            act.Sheets.Of(sheet)
                ?? await act.Db.Set<Finding>().AsNoTracking().Where(f => f.InspectionId == sheet.Id).OrderBy(f => f.Id).ToListAsync()
        );
        return sheet;
    }

    /// <summary>The sheet's row names the act that has changed its findings.</summary>
    static async Task Changed(Act act, Inspection inspection)
    {
        var by = act.Doer.ActId;
        await act.Db.Inspections.Where(i => i.Id == inspection.Id).ExecuteUpdateAsync(s => s.SetProperty(i => i.FoundBy, by));
        inspection.FoundBy = by;
        await act.Db.SaveChangesAsync();
        act.Sheets.Keep(inspection, by);
    }

    static async Task Keep(Act act, Finding finding)
    {
        if (finding.Id == 0)
        {
            act.Db.Set<Finding>().Add(finding);
            return;
        }

        var row = await act.Db.Set<Finding>().SingleAsync(f => f.Id == finding.Id);
        (row.Value, row.Conforms, row.By, row.At, row.Before) = (finding.Value, finding.Conforms, finding.By, finding.At, finding.Before);
    }

    /// <summary>A drawn sheet on which who acts may write, with what its version says.</summary>
    internal static async Task<Outcome<(Inspection Sheet, PlanContent Plan)>> OpenSheet(Act act, string number)
    {
        if (await BenchActs.Load(act, number) is not { } inspection)
            return Problems.NotFound("inspection", number);
        if (Inspections.Unqualified(act, inspection) is { } unqualified)
            return unqualified;
        if (inspection.PlanVersion == 0)
            return inspection.NotDrawn();
        return (inspection, act.SetUp.Plans[inspection.PlanId][inspection.PlanVersion].Content);
    }

    public static async Task<Outcome<DoneAnswer>> Clear(Act act, ClearRequest request)
    {
        var open = await OpenSheet(act, request.Inspection);
        if (open.Refused(out var closed))
            return closed;
        var (inspection, plan) = open.Value;
        var cleared = inspection.Clear(plan, request.Piece, request.Characteristic, request.Reason, act.Person.Name, act.Site.LocalTime);
        if (cleared.Refused(out var refusal))
            return refusal;
        act.Db.Set<Finding>().Remove(cleared.Value);
        inspection.FoundBy = act.Doer.ActId;
        var was = inspection.Cleared[^1].Before[^1];
        var fact = new FindingCleared(inspection.Number, request.Piece, plan[request.Characteristic]!.Name, was.Was, was.By, was.Reason);
        act.Write(fact);
        act.Touch("inspection:" + inspection.Number);
        return new DoneAnswer(act.Words(fact));
    }

    public static async Task<Outcome<DoneAnswer>> NamePiece(Act act, NamePieceRequest request)
    {
        var open = await OpenSheet(act, request.Inspection);
        if (open.Refused(out var closed))
            return closed;
        var (inspection, plan) = open.Value;
        var text = act.Site.Scanner.Code(request.Text ?? "").Trim();
        var name = text.Length == 0 ? "" : ScannedCode.Of(text, act.Today).OneThing;
        if (name is null)
            return new Refusal(
                BenchRefusals.NamesNoPiece,
                "That names goods, and no single piece of them.",
                "Scan its serial or its label."
            );
        if (
            name.Length > 0
            && act.SetUp.Catalogue[inspection.ItemId].NeedsSerial
            && !(await LotReads.Balances(act.Db, [.. (await LotReads.EverUnder(act.Db, inspection)).Select(l => l.Id)])).Any(b =>
                b.Serial == name
            )
        )
            return new Refusal(BenchRefusals.SerialNotOfLot, $"{name} is no serial of this lot.", "Scan the piece again.");
        var named = new NamedPiece(request.Piece, name, act.Person.Name, act.Now);
        if (inspection.Name(plan, named, act.Site.LocalTime) is { } refusal)
            return refusal;
        var fact = new PieceNamed(inspection.Number, request.Piece, name.OrNull());
        act.Write(fact);
        act.Touch("inspection:" + inspection.Number);
        return new DoneAnswer(act.Words(fact));
    }

    public static async Task<Outcome<DoneAnswer>> Note(Act act, SheetNoteRequest request)
    {
        var open = await OpenSheet(act, request.Inspection);
        if (open.Refused(out var closed))
            return closed;
        var (inspection, plan) = open.Value;
        var note = new SheetNote(request.Piece, request.Characteristic, request.Text ?? "", act.Person.Name, act.Now);
        if (inspection.Write(plan, note, act.Site.LocalTime) is { } refusal)
            return refusal;
        var name = request.Characteristic is { } id ? plan[id]!.Name : null;
        act.Write(new SheetNoted(inspection.Number, request.Piece, name, inspection.Notes[^1].Text));
        act.Touch("inspection:" + inspection.Number);
        return new DoneAnswer("It is on the sheet.");
    }
}
