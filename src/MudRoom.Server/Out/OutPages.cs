using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Out;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Out;

/// <summary>A message in the list of what went out.</summary>
public sealed record OutRow(Guid Id, OutKind Kind, string Subject, DateTime At, OutState State, int Tries, string Said);

/// <summary>A page of what went out, newest first.</summary>
/// <param name="Folder">Where the files lie, below the folder of the data.</param>
public sealed record OutAnswer(IReadOnlyList<OutRow> Messages, int InAll, int PageSize, ReceiptOut Receipts, string Folder);

/// <summary>Tries a message again, from the beginning.</summary>
public sealed record TryAgainRequest(Guid Message);

/// <summary>What others were told, and how far it is.</summary>
public static class OutPages
{
    const int PageSize = 40;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/book/out", Right.See, List);
        routes.Ask("/book/out/{id:guid}", Right.See, One);
        routes.Act<TryAgainRequest, DoneAnswer>("/book/out/again", Right.KeepOrders, Again);
    }

    static async Task<Ok<OutAnswer>> List(Inquiry inquiry, string? state, int? page)
    {
        var all = inquiry.Db.OutMessages.Where(m => m.SiteId == inquiry.Site.Id);
        if (Enum.TryParse<OutState>(state, out var wanted))
            all = all.Where(m => m.State == wanted);
        var rows = await all.OrderByDescending(m => m.At)
            .ThenByDescending(m => m.Id)
            .Skip((Math.Clamp(page ?? 1, 1, 100_000) - 1) * PageSize)
            .Take(PageSize)
            .Select(m => new
            {
                m.Id,
                m.Kind,
                m.Subject,
                m.At,
                m.State,
                m.Tries,
                m.Said,
            })
            .ToListAsync();
        return TypedResults.Ok(
            new OutAnswer(
                [.. rows.Select(m => new OutRow(m.Id, m.Kind, m.Subject, inquiry.Local(m.At), m.State, m.Tries, m.Said))],
                await all.CountAsync(),
                PageSize,
                inquiry.SetUp.OutSettings[inquiry.Site.Id].Value.Receipts,
                $"out/{inquiry.Site.Code}"
            )
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> One(Inquiry inquiry, Guid id)
    {
        var message = await inquiry.Db.OutMessages.FirstOrDefaultAsync(m => m.SiteId == inquiry.Site.Id && m.Id == id);
        return message is null
            ? Problems.Of(Problems.NotFound("message", id.ToString()))
            : TypedResults.File(
                System.Text.Encoding.UTF8.GetBytes(message.Body),
                message.Kind == OutKind.Mail ? "text/plain; charset=utf-8" : "application/json; charset=utf-8"
            );
    }

    public static async Task<Outcome<DoneAnswer>> Again(Act act, TryAgainRequest request)
    {
        var message = await act.Db.OutMessages.FirstOrDefaultAsync(m => m.SiteId == act.Site.Id && m.Id == request.Message);
        if (message is null)
            return Problems.NotFound("message", request.Message.ToString());
        if (message.TryAgain() is { } refusal)
            return refusal;
        act.Touch("out");
        return new DoneAnswer($"The message of {message.Subject} is tried again.");
    }
}
