using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;

namespace MudRoom.Server.Cage;

/// <summary>Meets a condition of a hold.</summary>
/// <param name="Condition">By its id within the hold.</param>
/// <param name="Paper">What was looked at, by its id; null for a signature.</param>
/// <param name="PaperIs">What it is, where nobody has said yet.</param>
/// <param name="Signer">Their name, for a signature.</param>
public sealed record MeetRequest(
    string Hold,
    int Condition,
    int? Paper = null,
    PaperKind? PaperIs = null,
    string? Note = null,
    string? Signer = null,
    string? Password = null
);

/// <summary>Takes back what met a condition.</summary>
public sealed record OpenAgainRequest(string Hold, int Condition, string Why);

/// <summary>A paper or picture for a hold.</summary>
/// <param name="Content">Its bytes in Base64.</param>
/// <param name="Kind">What the paper is; null for a picture, or where nobody says.</param>
public sealed record AttachToHoldRequest(string Hold, string Name, string Content, PaperKind? Kind);

/// <summary>A paper or picture that a hold may be judged by: its own, or of the arrival its goods came with.</summary>
public sealed record HoldPaper(int Id, string Name, string MediaType, PaperKind? Kind, string? Word, bool IsOwn, string By, DateTime At);

/// <summary>What a condition may want, and why goods are held by hand.</summary>
/// <param name="Papers">Kinds of papers, in words.</param>
/// <param name="Whose">Who may be asked, in words.</param>
/// <param name="Reasons">The site's list.</param>
public sealed record ConditionChoices(IReadOnlyList<PaperChoice> Papers, IReadOnlyList<RightChoice> Whose, IReadOnlyList<string> Reasons);

public sealed record PaperChoice(PaperKind Kind, string Word);

public sealed record RightChoice(Right Right, string Who);

/// <summary>Conditions of holds besides time, and the papers that meet them.</summary>
public static class Conditions
{
    const int MostPapers = 60;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/cage/holds/{hold}/papers", Right.See, PapersOf);
        routes.Ask("/cage/choices", Right.See, Choices);
        routes.Act<MeetRequest, DoneAnswer>("/cage/meet", Right.See, Meet, SignedOrNot);
        routes.Act<OpenAgainRequest, DoneAnswer>("/cage/open-again", Right.See, OpenAgain);
        routes.Act<AttachToHoldRequest, DoneAnswer>("/cage/attach", Right.Attach, Attach, prepare: Prepare, mostBytes: Edge.PictureBytes);
    }

    /// <summary>By hold, the inspections that have accepted all that it holds; only of holds that want one.</summary>
    public static async Task<IReadOnlyDictionary<int, AcceptedBy>> Acceptances(MudRoomDb db, IEnumerable<Hold> holds)
    {
        var wanting = holds.Where(h => h.IsOpen && h.WantsAcceptance).ToDictionary(h => h.Id);
        if (wanting.Count == 0)
            return new Dictionary<int, AcceptedBy>();
        var ids = wanting.Keys.ToList();
        var under = await db
            .Statements.Where(s => ids.Contains(s.HoldId!.Value) && s.SettledAt == null)
            .Select(s => new { Hold = s.HoldId!.Value, s.LotId })
            .ToListAsync();
        var lots = under.Select(u => u.LotId).Distinct().ToList();
        var accepted = (
            await db
                .Statements.Where(s => lots.Contains(s.LotId))
                .Join(
                    db.Inspections.Where(i => i.Verdict == Verdict.Accepted && !db.Inspections.Any(other => other.SupersedesId == i.Id)),
                    s => s.InspectionId,
                    i => i.Id,
                    (s, i) =>
                        new
                        {
                            s.LotId,
                            i.Number,
                            i.SignedBy,
                            i.SignedAt,
                        }
                )
                .ToListAsync()
        ).ToLookup(a => a.LotId, a => new AcceptedBy(a.Number, a.SignedBy!, a.SignedAt!.Value));
        return under
            .GroupBy(u => u.Hold)
            .Select(g => (g.Key, By: AcceptedBy.OfAll(wanting[g.Key].Since, [.. g.Select(u => accepted[u.LotId])])))
            .Where(h => h.By is not null)
            .ToDictionary(h => h.Key, h => h.By!);
    }

    /// <summary>The inspection that has accepted all that a hold holds; null where none has, or none is wanted.</summary>
    public static async Task<AcceptedBy?> AcceptanceOf(MudRoomDb db, Hold hold) =>
        (await Acceptances(db, [hold])).GetValueOrDefault(hold.Id);

    static Task<Refusal?> SignedOrNot(Inquiry inquiry, MeetRequest request) =>
        string.IsNullOrEmpty(request.Password)
            ? Task.FromResult<Refusal?>(null)
            : Signatures.IsNotThem(inquiry, request.Signer, request.Password);

    public static async Task<Outcome<DoneAnswer>> Meet(Act act, MeetRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (request.Note is { Length: > 200 })
            return new Refusal(HouseRefusals.NoteMissing, "A remark has at most 200 characters.", "Say it shorter.");
        var isSignature = hold.Besides.Any(c => c.Id == request.Condition && c.Wants.Kind == ConditionKind.Signature);
        if (isSignature && string.IsNullOrEmpty(request.Password))
            return new Refusal(BenchRefusals.SignatureWrong, "A signature wants name and password.", "Type your own name and password.");
        Attachment? paper = null;
        if (request.Paper is { } id)
        {
            paper = await OfHold(act.Db, hold).FirstOrDefaultAsync(a => a.Id == id);
            if (paper is null)
                return Problems.NotFound("paper", id.ToString(System.Globalization.CultureInfo.InvariantCulture));
        }

        var shown = paper is null || isSignature ? null : new PaperShown(paper.Id, paper.Name, paper.Kind ?? request.PaperIs);
        var met = hold.Meet(
            request.Condition,
            new Hand(act.Person.Id, act.Person.Name),
            act.May,
            shown,
            request.Note.OrNull(),
            act.Now,
            act.Site.LocalTime
        );
        if (met.Refused(out var refusal))
            return refusal;
        paper?.Is(shown?.Kind);
        var fact = new ConditionMet(hold.Number, met.Value.Wants.Words, act.Person.Name, shown?.Name, request.Note.OrNull());
        return await Said(act, hold, fact);
    }

    public static async Task<Outcome<DoneAnswer>> OpenAgain(Act act, OpenAgainRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (request.Why.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        var had = hold.OpenAgain(request.Condition, new Hand(act.Person.Id, act.Person.Name), act.May, act.Site.LocalTime);
        if (had.Refused(out var refusal))
            return refusal;
        var wants = hold.Besides.First(c => c.Id == request.Condition).Wants;
        return await Said(act, hold, new ConditionOpenAgain(hold.Number, wants.Words, had.Value.By, act.Person.Name, why));
    }

    static async Task<DoneAnswer> Said(Act act, Hold hold, Fact fact)
    {
        act.Write(fact with { About = [.. Book.Lots.About(await Book.LotReads.Under(act.Db, hold))] });
        act.Touch("cage", "house");
        var wants = hold.StillWants(await AcceptanceOf(act.Db, hold)).ToList();
        return new DoneAnswer(
            act.Words(fact)
                + (
                    wants.Count > 0 ? $" {hold.Number} still wants {string.Join("; ", wants)}."
                    : hold.TimeRuns(act.Now) ? $" Its time runs until {act.Site.LocalTime(hold.Until!.Value):yyyy-MM-dd HH:mm}."
                    : " It can be lifted."
                )
        );
    }

    static Outcome<AttachToHoldRequest> Prepare(AttachToHoldRequest request)
    {
        var content = Attaching.Prepared(request.Content, request.Name);
        return content.Refused(out var refusal) ? refusal : request with { Content = content.Value };
    }

    /// <summary>Keeps a file that was looked into already.</summary>
    public static async Task<Outcome<DoneAnswer>> Attach(Act act, AttachToHoldRequest request)
    {
        if (await CageActs.Load(act, request.Hold) is not { } hold)
            return Problems.NotFound("hold", request.Hold);
        if (await OfHold(act.Db, hold).CountAsync() >= MostPapers)
            return new Refusal(HouseRefusals.TooMany, $"{hold.Number} has {MostPapers} papers already.", "Put several pages into one PDF.");
        var bytes = Convert.FromBase64String(request.Content);
        var attachment = Attaching.Made(act, request.Name, bytes, hold.ArrivalId, hold.Id, request.Kind);
        act.Db.Attachments.Add(attachment);
        var fact = new AttachedToHold(hold.Number, attachment.Name, request.Kind);
        act.Write(fact);
        act.Touch("cage", "yard");
        return new DoneAnswer(act.Words(fact));
    }

    static IQueryable<Attachment> OfHold(MudRoomDb db, Hold hold) =>
        db.Attachments.Where(a => a.HoldId == hold.Id || a.HoldId == null && a.ArrivalId != null && a.ArrivalId == hold.ArrivalId);

    static Ok<ConditionChoices> Choices(Inquiry inquiry) =>
        TypedResults.Ok(
            new ConditionChoices(
                [.. Papers.All.Select(k => new PaperChoice(k, k.Word()))],
                [.. Wanted.MayAsk.Select(r => new RightChoice(r, Rights.WhoMay(r)))],
                inquiry.CageSettings.Reasons
            )
        );

    static async Task<Results<Ok<List<HoldPaper>>, ProblemHttpResult>> PapersOf(Inquiry inquiry, string hold)
    {
        if (await inquiry.Db.Holds.FirstOrDefaultAsync(h => h.SiteId == inquiry.Site.Id && h.Number == hold) is not { } row)
            return Problems.Of(Problems.NotFound("hold", hold));
        var rows = await OfHold(inquiry.Db, row)
            .OrderByDescending(a => a.HoldId != null)
            .ThenBy(a => a.Id)
            .Take(2 * MostPapers)
            .Select(a => new
            {
                a.Id,
                a.Name,
                a.MediaType,
                a.Kind,
                IsOwn = a.HoldId != null,
                a.By,
                a.At,
            })
            .ToListAsync();
        return TypedResults.Ok(
            rows.ConvertAll(a => new HoldPaper(a.Id, a.Name, a.MediaType, a.Kind, a.Kind?.Word(), a.IsOwn, a.By, inquiry.Local(a.At)))
        );
    }
}
