using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Cage;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Cage;

namespace MudRoom.Server;

/// <summary>A notice with the way to what it is about.</summary>
public sealed record NoticeView(NoticeKind Kind, string Subject, string Sentence, DateTime Since, string Href);

/// <summary>What needs who asks, the most pressing first.</summary>
/// <param name="Total">How many there are; at most <see cref="Notices.MostShown"/> are shown.</param>
public sealed record NoticesAnswer(IReadOnlyList<NoticeView> Notices, int Total);

/// <summary>What needs the person who asks, over all rooms of the site: worked out from what is there, for their rights.</summary>
public static class Notices
{
    public const int MostShown = 100;

    /// <summary>An answer to a question of one's own is told so long.</summary>
    static readonly TimeSpan answersFor = TimeSpan.FromHours(8);

    public static void Map(SiteRoutes routes) => routes.Ask("/notices", Right.See, Run, BlindView.Open);

    static async Task<Ok<NoticesAnswer>> Run(Inquiry inquiry)
    {
        var all = new List<(Notice Notice, string Href)>();
        all.AddRange(await Holds(inquiry));
        all.AddRange(await Recalls(inquiry));
        all.AddRange(await Questions(inquiry));
        all.AddRange(await Bench(inquiry));
        all.AddRange(await Charts(inquiry));
        return TypedResults.Ok(
            new NoticesAnswer(
                [
                    .. Notice
                        .InOrder(all, n => n.Notice)
                        .Take(MostShown)
                        .Select(n => new NoticeView(
                            n.Notice.Kind,
                            n.Notice.Subject,
                            n.Notice.Sentence,
                            inquiry.Local(n.Notice.Since),
                            n.Href
                        )),
                ],
                all.Count
            )
        );
    }

    static async Task<IEnumerable<(Notice, string)>> Holds(Inquiry inquiry)
    {
        // Nobody else is asked anything by a hold.
        var rights = Wanted.MayAsk.Append(Right.Decide);
        if (!rights.Any(inquiry.May))
            return [];
        var open = await inquiry.Db.Holds.Where(h => h.SiteId == inquiry.Site.Id && h.IsOpen).AsNoTracking().ToListAsync();
        var accepted = await Conditions.Acceptances(inquiry.Db, open);
        var waits = await ReturnedGoods.WaitFor(inquiry.Db, [.. open.Where(h => h.OrderLineId is not null).Select(h => h.Id)]);
        var returns = await ReturnedGoods.Orders(inquiry.Db, open);
        var by = new Hand(inquiry.Person.Id, inquiry.Person.Name);
        Notice? Of(Hold hold) =>
            HoldNotices.Of(
                hold,
                inquiry.SetUp.Catalogue[hold.ItemId].Name,
                inquiry.May,
                by,
                inquiry.Now,
                accepted.GetValueOrDefault(hold.Id),
                waits.GetValueOrDefault(hold.Id)
            );
        return open.Select(h =>
                (
                    Notice: Of(h),
                    Href: h.OrderLineId is { } line ? $"/cage/returns/{Uri.EscapeDataString(returns[line])}" : $"/cage?hold={h.Number}"
                )
            )
            .Where(n => n.Notice is not null)
            .Select(n => (n.Notice!, n.Href));
    }

    static async Task<IEnumerable<(Notice, string)>> Recalls(Inquiry inquiry)
    {
        if (!May(inquiry, NoticeKind.Missing))
            return [];
        var open = await inquiry.Db.Recalls.Where(r => r.EndedAt == null).AsNoTracking().ToListAsync();
        return open.Where(r => r.StillMissing.Any())
            .Select(r =>
                (new Notice(NoticeKind.Missing, r.Number, $"{r.Says}: goods are not found", r.Since), $"/cage/recalls/{r.Number}")
            );
    }

    static async Task<IEnumerable<(Notice, string)>> Questions(Inquiry inquiry)
    {
        var settles = May(inquiry, NoticeKind.Question);
        var since = inquiry.Now - answersFor;
        var rows = await inquiry
            .Db.TallyQuestions.Where(q =>
                q.SiteId == inquiry.Site.Id && (settles && q.IsOpen || q.PersonId == inquiry.Person.Id && q.AnsweredAt > since)
            )
            .Join(
                inquiry.Db.Arrivals.Where(a => a.State == ArrivalState.AtDoor),
                q => q.ArrivalId,
                a => a.Id,
                (q, a) => new { Question = q, a.Number }
            )
            .AsNoTracking()
            .ToListAsync();
        return rows.Select(r =>
            (
                r.Question.IsOpen
                    ? new Notice(NoticeKind.Question, r.Number, $"{r.Question.Sentence} ({r.Question.AskedBy})", r.Question.AskedAt)
                    : new Notice(
                        NoticeKind.Answer,
                        r.Number,
                        // What was answered may tell what is expected.
                        inquiry.IsBlind
                            ? $"{r.Question.AnsweredBy} has answered what you asked"
                            : $"{r.Question.Sentence} {r.Question.AnsweredBy}: {r.Question.Answer}",
                        r.Question.AnsweredAt!.Value
                    ),
                $"/door/{r.Number}"
            )
        );
    }

    static async Task<IEnumerable<(Notice, string)>> Bench(Inquiry inquiry)
    {
        if (!May(inquiry, NoticeKind.WaitedFor))
            return [];
        var rows = await inquiry
            .Db.Inspections.Open()
            .Where(i => i.SiteId == inquiry.Site.Id && i.Quantity > 0)
            .OrderBy(i => i.Since)
            .Take(MostShown)
            .AsNoTracking()
            .ToListAsync();
        // Those that are in somebody else's hands already need nobody.
        var cards = await QueuePages.Cards(inquiry, rows);
        return cards
            .Where(c => c.Place.IsWaitedFor && (c.Card.TakenBy is null || c.Card.IsMine))
            .Select(c =>
                (
                    new Notice(
                        NoticeKind.WaitedFor,
                        c.Card.Number,
                        $"{c.Card.Item}: {c.Card.Why}",
                        rows.Find(i => i.Number == c.Card.Number)!.Since
                    ),
                    $"/bench/{c.Card.Number}"
                )
            );
    }

    static async Task<IEnumerable<(Notice, string)>> Charts(Inquiry inquiry)
    {
        if (!May(inquiry, NoticeKind.Warning))
            return [];
        return (await ChartWarnings.Of(inquiry)).Select(w =>
            (
                new Notice(
                    NoticeKind.Warning,
                    w.Last.Number,
                    $"{inquiry.SetUp.Catalogue[w.Last.ItemId].Name}, {inquiry.SetUp.Vendors[w.Last.VendorId].Name}: {w.Seen.Headline}",
                    w.Last.At
                ),
                $"/bench/coming/{w.Last.PlanId}/{w.Last.ItemId}/{w.Last.VendorId}/{w.Of.Id}"
            )
        );
    }

    static bool May(Inquiry inquiry, NoticeKind kind) => Notice.For(kind) is { } right && inquiry.May(right);
}
