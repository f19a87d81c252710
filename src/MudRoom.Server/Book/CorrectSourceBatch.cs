using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Book;

/// <summary>A source batch as it is known, with what was changed on it.</summary>
public sealed record SourceBatchAnswer(
    int Id,
    string Item,
    string Vendor,
    string Number,
    string? Production,
    DateOnly? BestBefore,
    DateOnly? Expiry,
    string? Origin,
    IReadOnlyDictionary<string, string> Values,
    IReadOnlyList<AttributeDefinition> Attributes,
    IReadOnlyList<HistoryRow> Corrections
);

/// <summary>The details of a source batch as they should have been, whole; dates and numbers as typed.</summary>
public sealed record CorrectSourceBatchRequest(
    int Id,
    string Number,
    string? Production,
    string? BestBefore,
    string? Expiry,
    string? Origin,
    IReadOnlyDictionary<string, string>? Attributes,
    string Reason
);

/// <summary>Corrects what was entered wrongly of a source batch; old values stay in the book.</summary>
public static class CorrectSourceBatch
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/book/source-batch/{id:int}", Right.See, One);
        routes.Act<CorrectSourceBatchRequest, DoneAnswer>("/book/source-batch", Right.SettleTally, Run);
    }

    static async Task<Results<Ok<SourceBatchAnswer>, ProblemHttpResult>> One(Inquiry inquiry, int id)
    {
        var happened = await inquiry.History();
        var batch = await inquiry.Db.SourceBatches.FirstOrDefaultAsync(b => b.Id == id);
        if (batch is null)
            return Problems.Of(Problems.NotFound("source batch", id.ToString()));
        var item = inquiry.SetUp.Catalogue[batch.ItemId];
        var corrections = await happened
            .About(new Reference(ReferenceKind.SourceBatch, id))
            .Where(e => e.SiteId == inquiry.Site.Id && e.Kind == EntryKind.SourceBatchCorrected)
            .OrderByDescending(e => e.Seq)
            .Take(20)
            .ToListAsync();
        return TypedResults.Ok(
            new SourceBatchAnswer(
                batch.Id,
                item.Name,
                inquiry.SetUp.Vendors[batch.VendorId].Name,
                batch.Number,
                batch.ProductionAsKnown?.ToString(),
                batch.BestBefore,
                batch.Expiry,
                batch.Origin,
                batch.Attributes,
                item.Attributes,
                [.. corrections.Select(c => new HistoryRow(inquiry.Local(c.At), c.PersonName, c.Words(inquiry.Site.Wording)))]
            )
        );
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, CorrectSourceBatchRequest request)
    {
        var reason = request.Reason.OrNull();
        if (reason is null or { Length: > 200 })
            return new Refusal(
                HouseRefusals.NoteMissing,
                "Say in at most 200 characters how it is known that it was wrong.",
                "Type the reason."
            );
        if (request.Number.OrNull() is not { Length: <= 40 } number)
            return new Refusal(HouseRefusals.CodeLong, "A source batch has a number of 1 to 40 characters.", "Read it from the label.");
        var batch = await act.Db.SourceBatches.FirstOrDefaultAsync(b => b.Id == request.Id);
        if (batch is null)
            return Problems.NotFound("source batch", request.Id.ToString());
        var item = act.SetUp.Catalogue[batch.ItemId];
        if (
            await act.Db.SourceBatches.AnyAsync(b =>
                b.Id != batch.Id && b.ItemId == batch.ItemId && b.VendorId == batch.VendorId && b.Number == number
            )
        )
            return new Refusal(
                HouseRefusals.NumberTaken,
                $"{item.Name} has a source batch {number} of this vendor already.",
                "Look at that one."
            );
        var production = GoodsDate.Typed("Production", request.Production);
        if (production.Refused(out var badProduction))
            return badProduction;
        var bestBefore = GoodsDate.Typed("Best before", request.BestBefore);
        if (bestBefore.Refused(out var badBestBefore))
            return badBestBefore;
        var expiry = GoodsDate.Typed("Expiry", request.Expiry);
        if (expiry.Refused(out var badExpiry))
            return badExpiry;
        var country = request.Origin.OrNull() is { } typed ? Countries.Find(typed) : null;
        if (request.Origin.OrNull() is { } unknown && country is null)
            return new Refusal(
                IdentificationRefusals.CountryUnknown,
                $"{unknown} is no country of ISO 3166.",
                "Type its two letters or its name."
            );
        var attributes = AttributeRules.Read(item.Attributes, request.Attributes);
        if (attributes.Refused(out var badAttribute))
            return badAttribute;
        var dates = GoodsDates.Check(item, production.Value, bestBefore.Value?.LastDay, expiry.Value?.LastDay, act.Today);
        if (dates.Refused(out var badDates))
            return badDates;
        var changes = batch.Correct(
            number,
            production.Value,
            bestBefore.Value?.LastDay,
            expiry.Value?.LastDay,
            country?.Code,
            attributes.Value
        );
        if (changes.Count == 0)
            return new Refusal(HouseRefusals.NothingChanged, "Nothing differs from what is known.", "Change what is wrong, then keep it.");
        foreach (var own in await act.Db.Batches.Where(b => b.SourceBatchId == batch.Id).ToListAsync())
            own.Expiry = dates.Value.Ruling(item);
        act.Write(new SourceBatchCorrected(batch.Id, number, item.Name, changes, reason));
        act.Touch("book", "shelf", "cage", "bench");
        return new DoneAnswer($"Corrected: {string.Join("; ", changes)}. The old values stay in the book.");
    }
}
