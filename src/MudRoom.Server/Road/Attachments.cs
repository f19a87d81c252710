using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A picture that belongs to an arrival, a line of it or a count.</summary>
/// <param name="Item">Name of the item it shows, or null for the whole arrival.</param>
public sealed record PictureView(int Id, string Name, string? Item, Guid? Act, string By, DateTime At);

/// <summary>A paper or picture for an arrival.</summary>
/// <param name="Content">Its bytes in Base64.</param>
/// <param name="Part">The order part it shows, or null for the whole arrival.</param>
/// <param name="Count">The count or difference it belongs to, by the id of its act.</param>
public sealed record AttachRequest(string Arrival, string Name, string Content, int? Part = null, Guid? Count = null);

/// <summary>What was attached.</summary>
public sealed record AttachmentView(int Id, string Name, string MediaType, int Size, string By, DateTime At);

/// <summary>Papers and photographs of an arrival: looked into, limited, and given out only as what they are.</summary>
public static class Attachments
{
    const int MostPerArrival = 60;

    public static void Map(SiteRoutes routes)
    {
        routes.Act<AttachRequest, AttachmentView>(
            "/road/arrivals/attach",
            Right.Attach,
            Attach,
            prepare: Prepare,
            blind: BlindView.Open,
            mostBytes: Edge.PictureBytes
        );
        routes.Ask("/road/attachments/{id:int}", Right.See, One);
        routes.Ask("/road/pictures/{number}", Right.See, PicturesOf);
    }

    /// <summary>The attachments of an arrival, without their bytes.</summary>
    public static async Task<List<AttachmentView>> Of(Inquiry inquiry, int arrivalId) =>
        [
            .. (
                await inquiry
                    .Db.Attachments.Where(a => a.ArrivalId == arrivalId)
                    .OrderBy(a => a.Id)
                    .Select(a => new
                    {
                        a.Id,
                        a.Name,
                        a.MediaType,
                        Size = a.Content.Length,
                        a.By,
                        a.At,
                    })
                    .ToListAsync()
            ).Select(a => new AttachmentView(a.Id, a.Name, a.MediaType, a.Size, a.By, inquiry.Local(a.At))),
        ];

    /// <summary>Pictures of an arrival, or what of them concerns one item by its name: for the bench and the cage.</summary>
    static async Task<Results<Ok<List<PictureView>>, ProblemHttpResult>> PicturesOf(Inquiry inquiry, string number, string? item) =>
        await inquiry.Db.Arrivals.Numbered(inquiry.Site, number) is not { } arrival
            ? Problems.Of(Problems.NotFound("arrival", number))
            : TypedResults.Ok(
                await Pictures(
                    inquiry,
                    arrival.Id,
                    item is null ? null : inquiry.SetUp.Catalogue.Items.FirstOrDefault(i => i.Name == item || i.Code == item)?.Id
                )
            );

    /// <summary>The pictures of an arrival; of one item only, those of it and those of the whole arrival.</summary>
    public static async Task<List<PictureView>> Pictures(Inquiry inquiry, int arrivalId, int? itemId = null)
    {
        var rows = await inquiry
            .Db.Attachments.Where(a => a.ArrivalId == arrivalId && a.MediaType.StartsWith("image/"))
            .OrderBy(a => a.Id)
            .Select(a => new
            {
                a.Id,
                a.Name,
                a.ActId,
                a.By,
                a.At,
                OfPart = inquiry.Db.LineParts.Where(p => p.Id == a.PartId).Select(p => (int?)p.ItemId).FirstOrDefault(),
                OfCount = inquiry.Db.TallyEntries.Where(e => e.ActId == a.ActId).Select(e => (int?)e.ItemId).FirstOrDefault(),
            })
            .ToListAsync();
        return
        [
            .. rows.Where(r => itemId is null || (r.OfPart ?? r.OfCount) is not { } own || own == itemId)
                .Select(r => new PictureView(
                    r.Id,
                    r.Name,
                    (r.OfPart ?? r.OfCount) is { } i ? inquiry.SetUp.Catalogue[i].Name : null,
                    r.ActId,
                    r.By,
                    inquiry.Local(r.At)
                )),
        ];
    }

    /// <summary>Slow work that is done before the act begins.</summary>
    static Outcome<AttachRequest> Prepare(AttachRequest request)
    {
        var content = Attaching.Prepared(request.Content, request.Name);
        return content.Refused(out var refusal) ? refusal : request with { Content = content.Value };
    }

    /// <summary>Keeps a file that was looked into already.</summary>
    public static async Task<Outcome<AttachmentView>> Attach(Act act, AttachRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        var bytes = Convert.FromBase64String(request.Content);
        if (await act.Db.Attachments.CountAsync(a => a.ArrivalId == arrival.Id) >= MostPerArrival)
            return new Refusal(
                HouseRefusals.TooMany,
                $"{arrival.Number} has {MostPerArrival} papers already.",
                "Put several pages into one PDF."
            );
        if (request.Part is { } part && !await act.Db.ManifestLines.AnyAsync(m => m.ArrivalId == arrival.Id && m.PartId == part))
            return Problems.NotFound("order line", part.ToString());
        if (
            request.Count is { } count
            && !await act.Db.TallyEntries.AnyAsync(e => e.ActId == count && e.ArrivalId == arrival.Id)
            && !await act.Db.Discrepancies.AnyAsync(d => d.ActId == count && d.ArrivalId == arrival.Id)
        )
            return Problems.NotFound("count", count.ToString());
        var attachment = Attaching.Made(act, request.Name, bytes, arrival.Id, null, null, request.Part, request.Count);
        act.Db.Attachments.Add(attachment);
        act.Write(new Attached(arrival.Number, attachment.Name));
        await act.Db.SaveChangesAsync();
        act.Touch("arrival:" + arrival.Number, "yard");
        return new AttachmentView(
            attachment.Id,
            attachment.Name,
            attachment.MediaType,
            bytes.Length,
            attachment.By,
            act.Site.LocalTime(act.Now)
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> One(Inquiry inquiry, int id)
    {
        var attachment = await inquiry.Db.Attachments.FirstOrDefaultAsync(a =>
            a.Id == id
            && (
                inquiry.Db.Arrivals.Any(x => x.Id == a.ArrivalId && x.SiteId == inquiry.Site.Id)
                || inquiry.Db.Holds.Any(h => h.Id == a.HoldId && h.SiteId == inquiry.Site.Id)
            )
        );
        if (attachment is null)
            return Problems.Of(Problems.NotFound("paper", id.ToString()));
        inquiry.Http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        return TypedResults.File(
            attachment.Content,
            attachment.MediaType,
            attachment.MediaType == "application/pdf" ? attachment.Name : null
        );
    }
}
