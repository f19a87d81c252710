using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;

namespace MudRoom.Server.Hosting;

/// <summary>How the server is, for those who may know.</summary>
/// <param name="Mixed">Goods from before there were lots that could not be told apart: each lot is under several words at once.</param>
public sealed record HealthAnswer(bool IsWell, IReadOnlyList<PieceView> Pieces, IReadOnlyList<MixedLot> Mixed);

/// <summary>A lot whose goods could not be told apart when lots were named.</summary>
/// <param name="Said">The holds and inspections that are said of all of it.</param>
public sealed record MixedLot(int Lot, string Item, string? Batch, decimal Quantity, string Unit, IReadOnlyList<string> Said);

/// <summary>A piece with its time by the site's clock.</summary>
public sealed record PieceView(string Name, bool IsWell, string Sentence, DateTime Since);

/// <summary>The truth about the server: /health in one word for machines, Site › Health in sentences for people.</summary>
public static class HealthPages
{
    const int MostMixed = 200;
    const long LeastRoom = 200L * 1024 * 1024;
    static readonly TimeSpan patience = TimeSpan.FromSeconds(3);

    public static void Map(WebApplication app, SiteRoutes routes)
    {
        app.MapGet("/health", async (Health health, WriteDesk desk, ServerSettings settings) =>
            {
                var well = (await Look(health, desk, settings)).All(p => p.IsWell);
                return Results.Text(well ? "well" : "ill", "text/plain", statusCode: well ? 200 : 503);
            })
            .AllowAnonymous()
            .ExcludeFromDescription();
        routes.Ask("/site/health", Right.SetUp, async (Inquiry inquiry, Health health, WriteDesk desk, ServerSettings settings) =>
        {
            var pieces = await Look(health, desk, settings);
            return TypedResults.Ok(
                new HealthAnswer(
                    pieces.All(p => p.IsWell),
                    [.. pieces.Select(p => new PieceView(p.Name, p.IsWell, p.Sentence, inquiry.Local(p.Since)))],
                    await Mixed(inquiry)
                )
            );
        });
    }

    static async Task<IReadOnlyList<MixedLot>> Mixed(Inquiry inquiry)
    {
        var several = await inquiry
            .Db.Statements.Where(s => s.SiteId == inquiry.Site.Id && s.SettledAt == null)
            .GroupBy(s => s.LotId)
            .Where(g => g.Count() > 1)
            .Select(g => g.Key)
            .ToListAsync();
        var lots = await inquiry
            .Db.Lots.Where(l => several.Contains(l.Id) && l.Origin == LotOrigin.FromBefore)
            .OrderBy(l => l.Id)
            .Take(MostMixed)
            .Select(l => new
            {
                l.Id,
                l.ItemId,
                Batch = inquiry.Db.Batches.Where(b => b.Id == l.BatchId).Select(b => b.Number).FirstOrDefault(),
            })
            .ToListAsync();
        var ids = lots.Select(l => l.Id).ToList();
        var stands = (
            await inquiry
                .Db.Balances.Where(b => ids.Contains(b.LotId!.Value))
                .Select(b => new { Lot = b.LotId!.Value, b.Quantity })
                .ToListAsync()
        ).ToLookup(b => b.Lot, b => b.Quantity);
        var said = await Said.OfLots(inquiry.Db, ids);
        return
        [
            .. lots.Select(l =>
            {
                var item = inquiry.SetUp.Catalogue[l.ItemId];
                return new MixedLot(l.Id, item.Name, l.Batch, stands[l.Id].Sum(), item.UnitWord, Said.Numbers(said[l.Id]));
            }),
        ];
    }

    /// <summary>Asks anew what can be asked, and takes the rest from what the pieces said.</summary>
    static async Task<IReadOnlyList<PieceHealth>> Look(Health health, WriteDesk desk, ServerSettings settings)
    {
        await Try(health, "writing", async () => await desk.Probe().WaitAsync(patience));
        await Try(health, "room on the disk", () =>
        {
            var free = new DriveInfo(settings.Folder).AvailableFreeSpace;
            return free >= LeastRoom ? Task.CompletedTask : throw new IOException($"{free / 1024 / 1024} MB are free.");
        });
        return health.Pieces;
    }

    static async Task Try(Health health, string name, Func<Task> look)
    {
        try
        {
            await look();
            health.Well(name);
        }
        catch (TimeoutException)
        {
            health.Ill(
                name,
                $"It did not answer within {patience.TotalSeconds:0} s. Something long is being written, or the disk is slow."
            );
        }
        catch (IOException failure)
        {
            health.Ill(name, failure.Message + " Make room, or counting will stop.");
        }
        catch (Exception failure)
        {
            health.Ill(name, Problems.OfFailure(failure).Sentence);
        }
    }
}
