using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>Something that waited on a device, came back, and is not to count.</summary>
/// <param name="What">What it was, as the device says it.</param>
/// <param name="Scanned">The scan itself, where it was one.</param>
/// <param name="Reason">Why it is not to count.</param>
/// <param name="TakesBack">The act that said so, where it is to count after all.</param>
public sealed record NotCountedRequest(string Arrival, string What, string? Scanned, string Reason, Guid? TakesBack);

/// <summary>Says in the book that something that was scanned is not to count, and why; and takes that back.</summary>
public static class NotCounted
{
    public static void Map(SiteRoutes routes) =>
        routes.Act<NotCountedRequest, DoneAnswer>("/door/not-counted", Right.Tally, Run, blind: BlindView.Open);

    static async Task<Outcome<DoneAnswer>> Run(Act act, NotCountedRequest request)
    {
        if (request.Reason.OrNull() is not { Length: <= 200 } reason)
            return new Refusal(HouseRefusals.ReasonMissing, "Leaving it uncounted wants a reason of at most 200 characters.", "Say why.");
        if (request.What.OrNull() is not { Length: <= 300 } what || request.Scanned is { Length: > 2000 })
            return new Refusal(HouseRefusals.Unreadable, "What it was is missing or too long.", "Load the page again.");
        var subject = request.Arrival.OrNull() is { } number ? (await act.Db.Arrivals.Numbered(act.Site, number))?.Number : act.Site.Code;
        if (subject is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (request.TakesBack is not { } said)
        {
            act.Write(new LeftUncounted(subject, what, request.Scanned.OrNull(), reason));
            act.Touch("arrival:" + subject);
            return new DoneAnswer($"{what} is not counted.");
        }

        // Of no arrival it is found from who left it uncounted.
        var about = subject == act.Site.Code ? new Reference(ReferenceKind.Person, act.Person.Id) : Reference.Arrival(subject);
        var theirs = act.History.About(about);
        var entry = await theirs.FirstOrDefaultAsync(e =>
            e.SiteId == act.Site.Id && e.Subject == subject && e.Kind == EntryKind.NotCounted && e.ActId == said
        );
        if (entry is null)
            return Problems.NotFound("entry", said.ToString());
        if (await theirs.AnyAsync(e => e.Undoes == entry.Seq))
            return new Refusal(DoorRefusals.TakenBack, "That was taken back already.", "There is nothing to do.");
        act.Write(new ToCountAfterAll(subject, what), undoes: entry.Seq);
        return new DoneAnswer($"{what} is to count after all.");
    }
}
