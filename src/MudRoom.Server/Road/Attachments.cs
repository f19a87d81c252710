using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A paper or picture for an arrival.</summary>
/// <param name="Content">Its bytes in Base64.</param>
public sealed record AttachRequest(string Arrival, string Name, string Content);

/// <summary>What was attached.</summary>
public sealed record AttachmentView(int Id, string Name, string MediaType, int Size, string By, DateTime At);

/// <summary>Papers and photographs of an arrival: looked into, limited, and given out only as what they are.</summary>
public static class Attachments
{
    const int MostBytes = 8 * 1024 * 1024;
    const int MostPerArrival = 60;

    public static void Map(SiteRoutes routes)
    {
        routes.Act<AttachRequest, AttachmentView>("/road/arrivals/attach", Right.Attach, Attach);
        routes.Ask("/road/attachments/{id:int}", Right.See, One);
    }

    /// <summary>The media type by the file's first bytes; null for what is not taken.</summary>
    public static string? Sniff(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith("\x89PNG\r\n\x1a\n"u8) || bytes.Length > 8 && bytes[0] == 0x89 && bytes[1..4].SequenceEqual("PNG"u8)) return "image/png";
        if (bytes.Length > 3 && bytes[0] == 0xFF && bytes[1] == 0xD8 && bytes[2] == 0xFF) return "image/jpeg";
        if (bytes.Length > 12 && bytes[..4].SequenceEqual("RIFF"u8) && bytes[8..12].SequenceEqual("WEBP"u8)) return "image/webp";
        return bytes.StartsWith("%PDF-"u8) ? "application/pdf" : null;
    }

    /// <summary>The attachments of an arrival, without their bytes.</summary>
    public static async Task<List<AttachmentView>> Of(Visit visit, int arrivalId) =>
        [.. (await visit.Db.Attachments.Where(a => a.ArrivalId == arrivalId).OrderBy(a => a.Id).Select(a => new { a.Id, a.Name, a.MediaType, Size = a.Content.Length, a.By, a.At }).ToListAsync())
            .Select(a => new AttachmentView(a.Id, a.Name, a.MediaType, a.Size, a.By, visit.Local(a.At)))];

    public static async Task<Outcome<AttachmentView>> Attach(Act act, AttachRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null) return Problems.NotFound("arrival", request.Arrival);
        var text = request.Content ?? "";
        if (text.Length > MostBytes * 4 / 3 + 4) return new Refusal("file-too-large", $"{request.Name} is larger than 8 MB.", "Make the picture smaller.");
        var bytes = new byte[text.Length];
        if (!Convert.TryFromBase64String(text, bytes, out var length) || length == 0) return new Refusal("unreadable", $"{request.Name} could not be read.", "Choose the file again.");
        bytes = bytes[..length];
        if (Sniff(bytes) is not { } type) return new Refusal("file-kind", $"{request.Name} is no PNG, JPEG, WebP or PDF, whatever it is called.", "Attach a picture or a PDF.");
        if (await act.Db.Attachments.CountAsync(a => a.ArrivalId == arrival.Id) >= MostPerArrival) return new Refusal("too-many", $"{arrival.Number} has {MostPerArrival} papers already.", "Put several pages into one PDF.");
        var name = Path.GetFileName(request.Name ?? "").Trim();
        var attachment = new Attachment { ArrivalId = arrival.Id, Name = name.Length is 0 or > 100 ? "paper" : name, MediaType = type, Content = bytes, By = act.Person.Name, At = act.Now };
        act.Db.Attachments.Add(attachment);
        act.Write(EntryKind.Attached, arrival.Number, $"{attachment.Name} attached to {arrival.Number}.");
        await act.Db.SaveChangesAsync();
        act.Touch("arrival:" + arrival.Number, "yard");
        return new AttachmentView(attachment.Id, attachment.Name, type, length, attachment.By, act.Site.LocalTime(act.Now));
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> One(Visit visit, int id)
    {
        var attachment = await visit.Db.Attachments.FirstOrDefaultAsync(a => a.Id == id && visit.Db.Arrivals.Any(x => x.Id == a.ArrivalId && x.SiteId == visit.Site.Id));
        if (attachment is null) return Problems.Of(Problems.NotFound("paper", id.ToString()));
        visit.Http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        return TypedResults.File(attachment.Content, attachment.MediaType, attachment.MediaType == "application/pdf" ? attachment.Name : null);
    }
}
