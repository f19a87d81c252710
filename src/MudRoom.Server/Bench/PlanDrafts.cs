using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Bench;

/// <summary>Makes a plan, with the first draft of it.</summary>
public sealed record NewPlanRequest(string Name, PlanText Says);

/// <summary>The plan that was made.</summary>
public sealed record NewPlanAnswer(int Id, string Sentence);

/// <summary>Begins a draft, or changes the one there is.</summary>
/// <param name="Looked">Hash of what was looked at: the draft, or the version in force where there is none.</param>
public sealed record DraftPlanRequest(int Plan, string Looked, PlanText Says);

/// <summary>A draft that is kept.</summary>
/// <param name="Hash">Of what it says now: the next change goes on from it.</param>
public sealed record DraftKept(string Sentence, string Hash);

/// <summary>Drops the draft.</summary>
public sealed record DropDraftRequest(int Plan, string Looked);

/// <summary>Signs the draft in force.</summary>
/// <param name="Looked">Hash of the draft that was looked at.</param>
/// <param name="From">The day it is in force from, at the site's midnight; null for now.</param>
public sealed record SignPlanRequest(int Plan, string Looked, DateOnly? From, string Name, string Password, string? Comment);

/// <summary>A word on the severity of the lots of a sheet's vendor and item.</summary>
public sealed record SeverityRequest(string Inspection, SeveritySaid Said, string? Reason);

/// <summary>Acts on plans of inspection and on severity.</summary>
public static class PlanDrafts
{
    const int MostName = 60;

    public static void Map(SiteRoutes routes)
    {
        routes.Act<NewPlanRequest, NewPlanAnswer>("/bench/plans/new", Right.KeepPlans, New);
        routes.Act<DraftPlanRequest, DraftKept>("/bench/plans/draft", Right.KeepPlans, Draft);
        routes.Act<DropDraftRequest, DoneAnswer>("/bench/plans/drop", Right.KeepPlans, Drop);
        routes.Act<SignPlanRequest, DoneAnswer>("/bench/plans/sign", Right.KeepPlans, Sign, (inquiry, request) =>
            Signatures.IsNotThem(inquiry, request.Name, request.Password)
        );
        routes.Act<SeverityRequest, DoneAnswer>("/bench/severity", Right.SaySeverity, Severity);
    }

    public static async Task<Outcome<NewPlanAnswer>> New(Act act, NewPlanRequest request)
    {
        if (request.Name.OrNull() is not { Length: <= MostName } name)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"A plan has a name of at most {MostName} characters.",
                "Type one. Nothing was kept."
            );
        if (act.SetUp.Plans.Values.Any(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase)))
            return new Refusal(
                BenchRefusals.PlanNameTaken,
                $"There is a plan called {name} already.",
                "Choose another name, or change that plan."
            );
        var read = request.Says.Read(1, act.Site.DecimalComma);
        if (read.Refused(out var no))
            return no;
        var seen = await Pictured(act, read.Value);
        if (seen.Refused(out var noPicture))
            return noPicture;
        var plan = new InspectionPlan { Name = name };
        act.Db.InspectionPlans.Add(plan);
        var draft = plan.Write(seen.Value, act.Person.Name, act.Now);
        await act.Db.SaveChangesAsync();
        act.Write(new PlanDrafted(plan.Name, draft.Number, []));
        Changed(act);
        return new NewPlanAnswer(plan.Id, $"{plan.Name} is drafted.");
    }

    public static async Task<Outcome<DraftKept>> Draft(Act act, DraftPlanRequest request)
    {
        if (await Load(act, request.Plan) is not { } plan)
            return Problems.NotFound("plan", request.Plan.ToString(CultureInfo.InvariantCulture));
        var before = plan.Draft ?? plan.InForce(act.Now) ?? plan.Versions.MaxBy(v => v.Number);
        if (Moved(before, request.Looked, act) is { } moved)
            return moved;
        var nextId = plan.Versions.SelectMany(v => v.Content.Characteristics).Select(c => c.Id).DefaultIfEmpty(0).Max() + 1;
        var read = request.Says.Read(nextId, act.Site.DecimalComma);
        if (read.Refused(out var no))
            return no;
        var seen = await Pictured(act, read.Value);
        if (seen.Refused(out var noPicture))
            return noPicture;
        // Read before it is written over.
        var (was, isFirst) = (before!.Content, plan.Draft is null);
        var changes = PlanChanges.Kept(was, seen.Value);
        if (changes.Count == 0 && !isFirst)
            return new DraftKept("Nothing was changed.", before.Hash);
        var draft = plan.Write(seen.Value, act.Person.Name, act.Now);
        act.Write(new PlanDrafted(plan.Name, draft.Number, changes));
        Changed(act);
        return new DraftKept(isFirst ? $"Draft of version {draft.Number} begun." : changes[0].Words + ".", draft.Hash);
    }

    public static async Task<Outcome<DoneAnswer>> Drop(Act act, DropDraftRequest request)
    {
        if (await Load(act, request.Plan) is not { } plan)
            return Problems.NotFound("plan", request.Plan.ToString(CultureInfo.InvariantCulture));
        if (plan.Draft is not { } draft)
            return NotDrafted(plan);
        if (Moved(draft, request.Looked, act) is { } moved)
            return moved;
        if (plan.Versions.Count == 1 && Inspections.GoBy(act.SetUp, plan.Id) > 0)
            return new Refusal(
                BenchRefusals.PlanNotInForce,
                $"Items go by {plan.Name}, and it has no other version.",
                "Change the draft and sign it."
            );
        plan.Versions.Remove(draft);
        act.Db.PlanVersions.Remove(draft);
        if (plan.Versions.Count == 0)
            act.Db.InspectionPlans.Remove(plan);
        act.Write(new PlanDraftDropped(plan.Name, draft.Number));
        Changed(act);
        return new DoneAnswer($"The draft of {plan.Name} is dropped.");
    }

    public static async Task<Outcome<DoneAnswer>> Sign(Act act, SignPlanRequest request)
    {
        if (await Load(act, request.Plan) is not { } plan)
            return Problems.NotFound("plan", request.Plan.ToString(CultureInfo.InvariantCulture));
        if (plan.Draft is not { } draft)
            return NotDrafted(plan);
        if (Moved(draft, request.Looked, act) is { } moved)
            return moved;
        if ((request.Comment ?? "").Length > 1000)
            return new Refusal(HouseRefusals.NoteLong, "The comment has more than 1000 characters.", "Shorten it.");
        var before = plan.InForce(act.Now);
        if (before is not null && before.Text == draft.Text)
            return new Refusal(
                BenchRefusals.PlanSame,
                $"The draft says the same as version {before.Number}, which is in force.",
                "Change it, or drop the draft."
            );
        var from = request.From is { } day && day != act.Today ? act.Site.Days(day, day).Begin : act.Now;
        if (draft.Sign(act.Person.Name, act.Now, from, request.Comment.OrNull()) is { } refusal)
            return refusal;
        act.Write(new PlanPutInForce(plan.Name, draft.Number, from, act.Person.Name, draft.Comment, draft.Hash));
        Changed(act);
        return new DoneAnswer(
            from == act.Now
                ? $"{plan.Name}, version {draft.Number}, is in force. Sheets that are open keep the version they were drawn with."
                : $"{plan.Name}, version {draft.Number}, is in force from {request.From:yyyy-MM-dd}."
        );
    }

    public static async Task<Outcome<DoneAnswer>> Severity(Act act, SeverityRequest request)
    {
        var sheet = await act.Db.Inspections.FirstOrDefaultAsync(i => i.SiteId == act.Site.Id && i.Number == request.Inspection);
        if (sheet is null)
            return Problems.NotFound("inspection", request.Inspection);
        if (request.Reason.OrNull() is not { Length: <= 200 } reason)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        var now = await Severities.Of(act.Db, sheet, act.Site.LocalTime);
        var applies = request.Said switch
        {
            SeveritySaid.ReducedAllowed => now.Stands.Values.Any(s => s.MayBeReduced),
            SeveritySaid.ReducedEnded => now.Stands.Values.Any(s => s.Severity == Core.Bench.Severity.Reduced),
            SeveritySaid.Restarted => now.IsStopped is not null,
            _ => false,
        };
        var item = act.SetUp.Catalogue[sheet.ItemId];
        if (!applies || sheet.VendorId is not { } vendorId || act.SetUp.Vendors[vendorId] is not { } vendor)
            return new Refusal(
                BenchRefusals.SeverityIdle,
                $"Lots of {item.Name} from {Inspections.Sender(act.SetUp, sheet)} are not so far.",
                "Look at the line of their lots again."
            );
        act.Db.SeverityWords.Add(
            new SeverityRow
            {
                SiteId = act.Site.Id,
                ItemId = item.Id,
                VendorId = vendor.Id,
                Said = request.Said,
                By = act.Person.Name,
                At = act.Now,
                Reason = reason,
            }
        );
        var fact = new SeverityWord(item.Name, vendor.Name, request.Said, reason)
        {
            About = [Reference.Item(item.Id), new Reference(ReferenceKind.Vendor, vendor.Id)],
        };
        act.Write(fact);
        act.Touch("bench", "inspection:" + sheet.Number);
        return new DoneAnswer(act.Words(fact));
    }

    static Task<InspectionPlan?> Load(Act act, int id) =>
        act.Db.InspectionPlans.AsTracking().Include(p => p.Versions).FirstOrDefaultAsync(p => p.Id == id);

    /// <summary>What was typed, with the hashes of the pictures that it names.</summary>
    static async Task<Outcome<PlanContent>> Pictured(Act act, PlanContent typed)
    {
        var ids = typed.Characteristics.Select(c => c.Picture?.Id).OfType<int>().Distinct().ToList();
        if (ids.Count == 0)
            return typed;
        var hashes = await act
            .Db.Set<BenchPicture>()
            .Where(p => ids.Contains(p.Id) && p.InspectionId == null)
            .ToDictionaryAsync(p => p.Id, p => p.Hash);
        if (ids.Find(i => !hashes.ContainsKey(i)) is > 0 and var missing)
            return Problems.NotFound("picture", missing.ToString(CultureInfo.InvariantCulture));
        return typed with
        {
            Characteristics =
            [
                .. typed.Characteristics.Select(c => c.Picture is { } p ? c with { Picture = p with { Hash = hashes[p.Id] } } : c),
            ],
        };
    }

    static Refusal NotDrafted(InspectionPlan plan) =>
        new(BenchRefusals.PlanNotDrafted, $"{plan.Name} has no draft.", "Begin one from the version in force.");

    static Refusal? Moved(PlanVersion? there, string looked, Act act) =>
        there is null || there.Hash == looked
            ? null
            : new Refusal(
                BenchRefusals.DraftMoved,
                $"{there.DraftedBy} changed it at {act.Site.LocalTime(there.DraftedAt):HH:mm}; you were looking at an older one.",
                "Look at it again; nothing of yours was kept."
            );

    static void Changed(Act act)
    {
        act.Changes(SetUpParts.Rules);
        act.Touch("bench", "plans", "site");
    }
}
