using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>A picture is put on a sheet.</summary>
/// <param name="Content">Its bytes in Base64.</param>
/// <param name="Piece">Null for all.</param>
/// <param name="Characteristic">Null for all.</param>
public sealed record SheetPictureRequest(string Inspection, int? Piece, int? Characteristic, string Content);

/// <summary>A picture that a plan will judge by; the draft that names it is kept as any change of it.</summary>
/// <param name="Content">Its bytes in Base64.</param>
public sealed record ReferencePictureRequest(string Content);

/// <summary>A picture that is kept.</summary>
/// <param name="Hash">SHA-256 of it.</param>
public sealed record PictureKept(int Id, string Hash);

/// <summary>Pictures of the bench: on sheets, and those that plans judge by.</summary>
public static class SheetPictures
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<SheetPictureRequest, PictureKept>(
            "/bench/picture",
            Right.Inspect,
            OnSheet,
            prepare: r => Prepared(r.Content, content => r with { Content = content }),
            mostBytes: Edge.PictureBytes
        );
        routes.Act<ReferencePictureRequest, PictureKept>(
            "/bench/plans/picture",
            Right.KeepPlans,
            ForPlan,
            prepare: r => Prepared(r.Content, content => r with { Content = content }),
            mostBytes: Edge.PictureBytes
        );
        routes.Ask("/bench/pictures/{id:int}", Right.See, One);
    }

    static Outcome<T> Prepared<T>(string? content, Func<string, T> with)
    {
        var sent = SentFile.Read(content, "The picture", onlyPictures: true);
        return sent.Refused(out var refusal) ? refusal : with(Convert.ToBase64String(sent.Value));
    }

    public static async Task<Outcome<PictureKept>> OnSheet(Act act, SheetPictureRequest request)
    {
        var open = await FindingActs.OpenSheet(act, request.Inspection);
        if (open.Refused(out var closed))
            return closed;
        var (sheet, plan) = open.Value;
        var picture = await Keep(act, request.Content, sheet.Id);
        var shown = new SheetPicture(picture.Id, picture.Hash, request.Piece, request.Characteristic, act.Person.Name, act.Now);
        if (sheet.Show(plan, shown, act.Site.LocalTime) is { } refusal)
            return refusal;
        var of = request.Characteristic is { } id ? plan[id]!.Name : null;
        act.Write(new SheetPictured(sheet.Number, request.Piece, of, picture.Hash));
        act.Touch("inspection:" + sheet.Number);
        return new PictureKept(picture.Id, picture.Hash);
    }

    public static async Task<Outcome<PictureKept>> ForPlan(Act act, ReferencePictureRequest request)
    {
        var picture = await Keep(act, request.Content, null);
        return new PictureKept(picture.Id, picture.Hash);
    }

    static async Task<BenchPicture> Keep(Act act, string content, int? inspection)
    {
        var bytes = Convert.FromBase64String(content);
        var picture = new BenchPicture
        {
            SiteId = act.Site.Id,
            InspectionId = inspection,
            Hash = Convert.ToHexStringLower(SHA256.HashData(bytes)),
            Content = bytes,
            By = act.Person.Name,
            At = act.Now,
        };
        act.Db.Set<BenchPicture>().Add(picture);
        await act.Db.SaveChangesAsync();
        return picture;
    }

    /// <summary>Pictures of this site's sheets; those that plans judge by are of the house.</summary>
    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> One(Inquiry inquiry, int id)
    {
        var picture = await inquiry
            .Db.Set<BenchPicture>()
            .AsNoTracking()
            .FirstOrDefaultAsync(p => p.Id == id && (p.SiteId == inquiry.Site.Id || p.InspectionId == null));
        if (picture is null)
            return Problems.Of(Problems.NotFound("picture", id.ToString(System.Globalization.CultureInfo.InvariantCulture)));
        inquiry.Http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        inquiry.Http.Response.Headers.CacheControl = "private, max-age=31536000, immutable";
        return TypedResults.File(picture.Content, "image/jpeg");
    }
}
