using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Site;

/// <summary>A pack level as the item's page shows it.</summary>
public sealed record ItemPack(
    string Name,
    decimal Content,
    string? Gtin,
    IReadOnlyList<string> OtherCodes,
    bool IsUnit,
    string PackageType
);

/// <summary>A package type that may be chosen.</summary>
public sealed record PackageTypeView(string Code, string Word);

/// <summary>What an item asks for when it comes, and what is shown of it while it is counted.</summary>
/// <param name="NextBatch">The number that its pattern would give now.</param>
public sealed record ItemDetail(
    string Code,
    string Name,
    string Unit,
    IReadOnlyList<AttributeDefinition> Attributes,
    bool CatchWeight,
    decimal Mass,
    decimal WeightTolerance,
    bool NeedsBatch,
    string BatchPattern,
    string NextBatch,
    RulingDate RulingDate,
    int? MinimumRemainingDays,
    GoodsMarks Marks,
    IReadOnlyList<ItemPack> Packs,
    bool HasPicture,
    IReadOnlyList<PackageTypeView> PackageTypes
);

/// <summary>The same anew, as a whole.</summary>
/// <param name="PackageTypes">UN/ECE Recommendation 21 code by name of the pack.</param>
public sealed record KeepItemRequest(
    string Code,
    IReadOnlyList<AttributeDefinition> Attributes,
    bool CatchWeight,
    decimal WeightTolerance,
    string BatchPattern,
    RulingDate RulingDate,
    int? MinimumRemainingDays,
    GoodsMarks Marks,
    IReadOnlyDictionary<string, string> PackageTypes
);

/// <summary>A picture of an item.</summary>
/// <param name="Content">Its bytes in Base64; blank takes the picture away.</param>
public sealed record ItemPictureRequest(string Code, string? Content);

/// <summary>The page of one item: what the administrator says of it.</summary>
public static class ItemPage
{
    const int MostBytes = 8 * 1024 * 1024;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/items/{code}", Right.See, One);
        routes.Ask("/site/items/{code}/picture", Right.See, Picture, BlindView.Open);
        routes.Act<KeepItemRequest, DoneAnswer>("/site/item", Right.SetUp, Keep);
        routes.Act<ItemPictureRequest, DoneAnswer>(
            "/site/item/picture",
            Right.SetUp,
            KeepPicture,
            prepare: Prepare,
            mostBytes: Edge.PictureBytes
        );
    }

    static Item? Find(SetUp setUp, string? code) =>
        setUp.Catalogue.Items.FirstOrDefault(i => i.Code.Equals((code ?? "").Trim(), StringComparison.OrdinalIgnoreCase));

    static async Task<Results<Ok<ItemDetail>, ProblemHttpResult>> One(Inquiry inquiry, string code)
    {
        if (Find(inquiry.SetUp, code) is not { } item)
            return Problems.Of(Problems.NotFound("item", code));
        return TypedResults.Ok(
            new ItemDetail(
                item.Code,
                item.Name,
                item.UnitWord,
                item.Attributes,
                item.CatchWeight,
                item.Mass,
                item.WeightTolerance,
                item.NeedsBatch,
                item.BatchPattern,
                BatchRules.Next(BatchRules.Around(item, inquiry.Today, "VENDOR"), 0, _ => false),
                item.RulingDate,
                item.MinimumRemainingDays,
                item.Marks,
                [
                    .. item
                        .PackLevels.OrderBy(p => p.Content(1))
                        .Select(p => new ItemPack(p.Name, p.Content(1), p.Gtin, p.OtherCodes, p.IsUnit, p.PackageType)),
                ],
                await inquiry.Db.ItemPictures.AnyAsync(p => p.ItemId == item.Id),
                [.. PackageTypes.All.Select(t => new PackageTypeView(t.Code, t.Word))]
            )
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Picture(Inquiry inquiry, string code)
    {
        if (
            Find(inquiry.SetUp, code) is not { } item
            || await inquiry.Db.ItemPictures.FirstOrDefaultAsync(p => p.ItemId == item.Id) is not { } picture
        )
            return Problems.Of(Problems.NotFound("picture of item", code));
        inquiry.Http.Response.Headers.ContentSecurityPolicy = "default-src 'none'; sandbox";
        inquiry.Http.Response.Headers.CacheControl = "private, max-age=300";
        return TypedResults.File(picture.Content, picture.MediaType);
    }

    public static async Task<Outcome<DoneAnswer>> Keep(Act act, KeepItemRequest request)
    {
        if (Find(act.SetUp, request.Code) is not { } known)
            return Problems.NotFound("item", request.Code ?? "");
        var attributes = (request.Attributes ?? []).ToList();
        if (AttributeRules.Fault(attributes) is { } badAttribute)
            return badAttribute;
        if (request.WeightTolerance is < 0 or > 100)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "A weight tolerance is 0 to 100 percent.",
                "Look at the number again. Nothing was kept."
            );
        if (request.CatchWeight && known.Mass <= 0)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"{known.Name} has no mass to weigh against.",
                "Set its kilograms first, by a file. Nothing was kept."
            );
        if (request.MinimumRemainingDays is < 0 or > 36_500)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "The minimum remaining life is 0 to 36 500 days.",
                "Look at the number again. Nothing was kept."
            );
        if (!Enum.IsDefined(request.RulingDate))
            return new Refusal(HouseRefusals.SettingAbsurd, "Best before or expiry rules.", "Choose one. Nothing was kept.");
        var marks = request.Marks ?? new GoodsMarks();
        if (marks.Fault() is { } badMark)
            return badMark;
        var types = request.PackageTypes ?? new Dictionary<string, string>();
        if (types.FirstOrDefault(t => !PackageTypes.IsKnown(t.Value ?? "")) is { Key: not null } wrong)
            return new Refusal(
                IdentificationRefusals.PackageType,
                $"{wrong.Value} is no package type of the list.",
                "Choose one. Nothing was kept."
            );
        var item = await act.Db.Items.AsTracking().FirstAsync(i => i.Id == known.Id);
        item.BatchPattern = (request.BatchPattern ?? "").Trim();
        if (BatchRules.Fault(item) is { } badPattern)
            return badPattern;
        item.Attributes = attributes;
        (item.CatchWeight, item.WeightTolerance, item.RulingDate, item.MinimumRemainingDays, item.Marks) = (
            request.CatchWeight,
            request.WeightTolerance,
            request.RulingDate,
            request.MinimumRemainingDays,
            marks
        );
        foreach (var pack in item.PackLevels)
            if (types.TryGetValue(pack.Name, out var type))
                pack.PackageType = type ?? "";
        act.Write(
            new ItemAsksChanged(
                item.Code,
                item.Name,
                attributes.Count,
                item.CatchWeight ? item.WeightTolerance : null,
                item.BatchPattern.OrNull()
            )
            {
                About = [Reference.Item(item.Id)],
            }
        );
        act.Changes(SetUpParts.Items);
        act.Touch("site", "door");
        return new DoneAnswer($"{item.Name} is kept. Counts go by it from now on.");
    }

    static Outcome<ItemPictureRequest> Prepare(ItemPictureRequest request)
    {
        if (request.Content.OrNull() is not { } text)
            return request;
        if (text.Length > MostBytes * 4 / 3 + 4)
            return new Refusal(HouseRefusals.FileTooLarge, "The picture is larger than 8 MB.", "Make it smaller.");
        var bytes = new byte[text.Length];
        if (!Convert.TryFromBase64String(text, bytes, out var length) || length == 0)
            return new Refusal(HouseRefusals.Unreadable, "The picture could not be read.", "Choose the file again.");
        bytes = bytes[..length];
        if (SniffedFile.MediaType(bytes) is not { } type || !type.StartsWith("image/", StringComparison.Ordinal))
            return new Refusal(HouseRefusals.FileKind, "That is no PNG, JPEG or WebP.", "Choose a picture.");
        var reduced = Photographs.Reduce(bytes, "The picture");
        return reduced.Refused(out var refusal) ? refusal : request with { Content = Convert.ToBase64String(reduced.Value) };
    }

    static async Task<Outcome<DoneAnswer>> KeepPicture(Act act, ItemPictureRequest request)
    {
        if (Find(act.SetUp, request.Code) is not { } item)
            return Problems.NotFound("item", request.Code ?? "");
        var picture = await act.Db.ItemPictures.AsTracking().FirstOrDefaultAsync(p => p.ItemId == item.Id);
        if (picture is not null)
            act.Db.ItemPictures.Remove(picture);
        await act.Db.SaveChangesAsync();
        if (request.Content.OrNull() is { } content)
            act.Db.ItemPictures.Add(
                new ItemPicture
                {
                    ItemId = item.Id,
                    MediaType = "image/jpeg",
                    Content = Convert.FromBase64String(content),
                }
            );
        act.Write(new ItemPictureChanged(item.Code, item.Name, request.Content.OrNull() is null) { About = [Reference.Item(item.Id)] });
        act.Touch("site", "door");
        return new DoneAnswer(
            request.Content.OrNull() is null ? $"{item.Name} has no picture any more." : $"The picture of {item.Name} is kept."
        );
    }
}
