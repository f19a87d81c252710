using System.Collections.Concurrent;

namespace MudRoom.Server.Acts;

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
        WatchmanLog.PieceFailed(logger, name, failure);
        health.Ill(name, Problems.OfFailure(failure).Sentence);
    }
}

/// <summary>What the log says.</summary>
static partial class WatchmanLog
{
    [LoggerMessage(1, LogLevel.Error, "{Piece} failed and goes on.")]
    public static partial void PieceFailed(ILogger logger, string piece, Exception failure);
}
