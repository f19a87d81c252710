using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Bench;

/// <summary>Fixes the lot and draws its sample.</summary>
public sealed record DrawRequest(string Inspection);

/// <summary>The sample that was drawn.</summary>
public sealed record DrawAnswer(long LotSize, char? Letter, int SampleSize);

/// <summary>One value or look, as typed.</summary>
public sealed record FindRequest(string Inspection, int Piece, int Characteristic, string? Value, bool? Pass);

/// <summary>What the finding came to.</summary>
public sealed record FindAnswer(bool Conforms, int Missing, Verdict? Verdict, string Sentence);

/// <summary>A signature: name and password, with a meaning and a comment.</summary>
public sealed record SignRequest(string Inspection, string Name, string Password, Verdict Verdict, string? Comment);

/// <summary>The signed verdict.</summary>
public sealed record SignAnswer(Verdict Verdict, string Sentence, string SheetHash);

/// <summary>Acts of Bench.</summary>
public static class BenchActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<DrawRequest, DrawAnswer>("/bench/draw", Right.Inspect, Draw);
        routes.Act<FindRequest, FindAnswer>("/bench/find", Right.Inspect, Find);
        routes.Act<SignRequest, SignAnswer>("/bench/sign", Right.SignVerdict, Sign, IsNotThem);
    }

    public static async Task<Outcome<DrawAnswer>> Draw(Act act, DrawRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null) return Problems.NotFound("inspection", request.Inspection);
        if (inspection.Draw(act.SetUp.Plans[inspection.PlanId], act.SetUp.Catalogue[inspection.ItemId]) is { } refusal) return refusal;
        act.Write(EntryKind.SampleDrawn, inspection.Number, $"Sample of {inspection.Number} drawn: {inspection.Sample!.Size} of {inspection.LotSize}.");
        act.Touch("bench", "inspection:" + inspection.Number);
        return new DrawAnswer(inspection.LotSize, inspection.Sample.Letter, inspection.Sample.Size);
    }

    public static async Task<Outcome<FindAnswer>> Find(Act act, FindRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null) return Problems.NotFound("inspection", request.Inspection);
        var plan = act.SetUp.Plans[inspection.PlanId];
        decimal? value = null;
        if (!string.IsNullOrWhiteSpace(request.Value))
        {
            var read = Quantities.Read(request.Value, act.Site.Door.DecimalComma);
            if (read.Refused(out var bad)) return bad;
            value = read.Value;
        }

        var found = inspection.Find(plan, request.Piece, request.Characteristic, value, request.Pass, act.Person.Name, act.Now);
        if (found.Refused(out var refusal)) return refusal;
        var characteristic = plan.Characteristics.First(c => c.Id == request.Characteristic);
        var stand = LotStand.Of(plan, inspection.Sample!, inspection.Findings);
        var said = characteristic.IsMeasured ? $"{value} {characteristic.Unit}" : found.Value.Conforms ? characteristic.PassWord : characteristic.FailWord;
        act.Write(EntryKind.Found, inspection.Number, $"Piece {request.Piece}, {characteristic.Name}: {said}{(found.Value.Conforms ? "" : ", nonconforming")}.");
        act.Touch("inspection:" + inspection.Number);
        return new FindAnswer(found.Value.Conforms, stand.Missing, stand.Verdict, $"{characteristic.Name}, piece {request.Piece}: {said}.");
    }

    public static async Task<Outcome<SignAnswer>> Sign(Act act, SignRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null) return Problems.NotFound("inspection", request.Inspection);
        if ((request.Comment ?? "").Length > 1000) return new Refusal("note-long", "The comment has more than 1000 characters.", "Shorten it.");
        var plan = act.SetUp.Plans[inspection.PlanId];
        var signed = inspection.Sign(plan, act.Person.Name, request.Comment, act.Now);
        if (signed.Refused(out var refusal)) return refusal;
        if (signed.Value != request.Verdict)
            return new Refusal("verdict-moved", $"The verdict is {signed.Value.ToString().ToLowerInvariant()} now; you were about to sign {request.Verdict.ToString().ToLowerInvariant()}.", "Look at the sheet again.");
        var sentence = await Follow(act, inspection, signed.Value, plan);
        act.Write(EntryKind.VerdictSigned, inspection.Number, $"{inspection.Number} {signed.Value.ToString().ToLowerInvariant()}, signed by {act.Person.Name}. Sheet {inspection.SheetHash}.");
        act.Touch("bench", "inspection:" + inspection.Number, "cage", "shelf", "house");
        return new SignAnswer(signed.Value, sentence, inspection.SheetHash!);
    }

    static Task<Inspection?> Load(Act act, string number) =>
        act.Db.Inspections.Include(i => i.Findings).FirstOrDefaultAsync(i => i.SiteId == act.Site.Id && i.Number == number);

    /// <summary>The one who is signed in signs, with their own password again.</summary>
    static async Task<Refusal?> IsNotThem(Visit visit, SignRequest request)
    {
        var name = (request.Name ?? "").Trim();
        var account = await visit.Db.Users.FirstOrDefaultAsync(u => u.Id == visit.Person.Id);
        var isThem = account is not null
            && (name.Equals(visit.Person.SignInName, StringComparison.OrdinalIgnoreCase) || name.Equals(visit.Person.Name, StringComparison.OrdinalIgnoreCase))
            && SignInAccounts.Verify(account, request.Password ?? "");
        return isThem ? null : new Refusal("signature-wrong", "Name and password are not those of who is signed in.", "Type your own name and password.");
    }

    /// <summary>The verdict moves the goods: usable, or rejected and held.</summary>
    static async Task<string> Follow(Act act, Inspection inspection, Verdict verdict, InspectionPlan plan)
    {
        var item = act.SetUp.Catalogue[inspection.ItemId];
        var to = verdict == Verdict.Accepted ? Standing.Usable : Standing.Rejected;
        var moved = await SpokenFor.Restand(act, SpokenFor.By(inspection), inspection.Quantity, Standing.ToInspect, to, EntryKind.VerdictSigned, inspection.Number,
            $"{inspection.Number} {verdict.ToString().ToLowerInvariant()}");
        if (verdict == Verdict.Accepted) return $"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are usable.";
        var stand = LotStand.Of(plan, inspection.Sample!, inspection.Findings);
        var why = string.Join(", ", stand.Classes.Where(c => c.MustReject).Select(c => $"{c.Nonconforming} {c.Plan.Class.ToString().ToLowerInvariant()} nonconforming of {c.Plan.SampleSize}, at most {c.Plan.Ac} accepted"));
        var hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = inspection.ItemId,
            BatchId = inspection.BatchId,
            Reason = HoldReason.Nonconforming,
            Sentence = $"{inspection.Number}: {why}",
            Since = act.Now,
            ArrivalId = inspection.ArrivalId,
            InspectionId = inspection.Id,
            LaidBy = act.Person.Name,
        };
        hold.Grow(moved);
        act.Db.Holds.Add(hold);
        act.Write(EntryKind.HoldLaid, hold.Number, $"{hold.Number} laid on {Quantities.Show(moved)} {item.UnitWord} of {item.Name}: {hold.Sentence}");
        return $"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are rejected and held by {hold.Number}.";
    }
}
