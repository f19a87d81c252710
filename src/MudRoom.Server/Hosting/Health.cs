using System.Collections.Concurrent;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Hosting;

/// <summary>How one piece of the server is.</summary>
/// <param name="Name">What it does, in two words.</param>
/// <param name="IsWell">False while it cannot do its work.</param>
/// <param name="Sentence">What is wrong and what to do; empty when nothing is.</param>
/// <param name="Since">Since when it is so.</param>
public sealed record PieceHealth(string Name, bool IsWell, string Sentence, DateTimeOffset Since);

/// <summary>How the pieces are that work by themselves. Each says it; none of them ever ends the house.</summary>
public sealed class Health(TimeProvider clock)
{
    readonly ConcurrentDictionary<string, PieceHealth> pieces = new();

    /// <summary>All that has been said, by name.</summary>
    public IReadOnlyList<PieceHealth> Pieces => [.. pieces.Values.OrderBy(p => p.Name, StringComparer.Ordinal)];

    public void Well(string name) => Say(name, true, "");

    public void Ill(string name, string sentence) => Say(name, false, sentence);

    void Say(string name, bool isWell, string sentence) =>
        pieces.AddOrUpdate(
            name,
            _ => new PieceHealth(name, isWell, sentence, clock.GetUtcNow()),
            (_, before) =>
                before.IsWell == isWell && before.Sentence == sentence ? before : new PieceHealth(name, isWell, sentence, clock.GetUtcNow())
        );
}

/// <summary>Work that goes on by itself. What fails is recorded, shown on Site › Health and tried again; it never ends the
/// server.</summary>
public abstract class Watchman(Health health, ILogger logger, string name) : BackgroundService
{
    static readonly TimeSpan rest = TimeSpan.FromSeconds(5);

    /// <summary>Goes on until it is stopped; may throw.</summary>
    protected abstract Task Work(CancellationToken stopping);

    /// <summary>What it does has just succeeded.</summary>
    protected void Succeeded() => health.Well(name);

    protected sealed override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        health.Well(name);
        while (!stoppingToken.IsCancellationRequested)
            try
            {
                await Work(stoppingToken);
            }
            catch (OperationCanceledException) when (stoppingToken.IsCancellationRequested)
            {
                return;
            }
            catch (Exception failure)
            {
                Failed(failure);
                await Task.Delay(rest, stoppingToken).ConfigureAwait(ConfigureAwaitOptions.SuppressThrowing);
            }
    }

    /// <summary>Records a failure that it goes on after.</summary>
    protected void Failed(Exception failure)
    {
        HostingLog.PieceFailed(logger, name, failure);
        health.Ill(name, Problems.OfFailure(failure).Sentence);
    }
}

/// <summary>What the log says.</summary>
static partial class HostingLog
{
    [LoggerMessage(1, LogLevel.Error, "{Piece} failed and goes on.")]
    public static partial void PieceFailed(ILogger logger, string piece, Exception failure);
}

/// <summary>How the server is, for those who may know.</summary>
public sealed record HealthAnswer(bool IsWell, IReadOnlyList<PieceView> Pieces);

/// <summary>A piece with its time by the site's clock.</summary>
public sealed record PieceView(string Name, bool IsWell, string Sentence, DateTime Since);

/// <summary>The truth about the server: /health in one word for machines, Site › Health in sentences for people.</summary>
public static class HealthPages
{
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
                    [.. pieces.Select(p => new PieceView(p.Name, p.IsWell, p.Sentence, inquiry.Local(p.Since)))]
                )
            );
        });
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
