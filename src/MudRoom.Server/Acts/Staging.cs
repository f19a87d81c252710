using System.Collections.Concurrent;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Server.Acts;

/// <summary>A long piece of writing, read and checked, cut in slices of some milliseconds.</summary>
public interface IStagedWork
{
    /// <summary>How many orders or lines there are to write.</summary>
    int Count { get; }

    /// <summary>What they are: orders, lines.</summary>
    string Of { get; }

    /// <summary>Writes the next few behind those that are done. Tried again after a full disk, it does the same again.</summary>
    /// <returns>How many are done then, and the places of lines that are left for the end.</returns>
    Task<(int Done, IReadOnlyList<int> Left)> WriteSlice(WriteScope scope, StagedImport stage, int done);

    /// <summary>The last act: from its commit on all is to be seen.</summary>
    Task<Outcome<string>> End(StagedImport stage);
}

/// <summary>A kind of file that is written in slices.</summary>
public interface IStagedKind
{
    /// <summary>Keys under which the rooms bring theirs: Road orders, Site the set-up.</summary>
    const string OfOrders = "orders";
    const string OfSetUp = "set-up";

    /// <summary>The work on a file that was begun before, or null where its file cannot be read any more.</summary>
    Task<IStagedWork?> Resume(ActFrom from, StagedImport begun, SetUp setUp);

    /// <summary>False where nothing can refuse it any more once it was checked: then it is finished, whatever comes between.</summary>
    bool CanBeTakenAway { get; }

    /// <summary>Takes some of its rows away again, hidden as they are.</summary>
    /// <returns>How many it took; 0 when none is left.</returns>
    Task<int> TakeAway(MudRoomDb db, int import) => Task.FromResult(0);
}

/// <summary>
/// Writes what is long so that nothing long stands in front of a scan: in slices between other acts, hidden until the last is there; the
/// end of it is one
/// act as any other. What a killed server or a full disk has left in the middle is finished.
/// </summary>
public sealed class Staging(
    WriteDesk desk,
    SetUpStore setUps,
    ImportProgress progress,
    IDbContextFactory<MudRoomDb> contexts,
    Mode mode,
    IServiceProvider services,
    Health health,
    ILogger<Staging> logger
) : Watchman(health, logger, "large imports")
{
    /// <summary>Fewer lines than this are written in the act itself.</summary>
    public const int FewLines = 500;

    /// <summary>Only one import can be hidden.</summary>
    readonly SemaphoreSlim one = new(1, 1);

    bool isLookedAt;

    /// <summary>An import was left in the middle: it is to be gone on with.</summary>
    readonly SemaphoreSlim leftOver = new(0);

    /// <summary>Imports that go on just now, by their acts: sent again meanwhile, they are waited for.</summary>
    readonly ConcurrentDictionary<Guid, (string Content, Lazy<Task<Outcome<string>>> Work)> running = new();

    public override void Dispose()
    {
        one.Dispose();
        leftOver.Dispose();
        base.Dispose();
    }

    /// <summary>Runs an import once for its act.</summary>
    /// <param name="content">What is imported: the same act with other content is refused.</param>
    public async Task<Outcome<string>> Once(ActFrom from, string content, Func<Task<Outcome<string>>> import)
    {
        var (before, work) = running.GetOrAdd(from.Id, _ => (
                content,
                new Lazy<Task<Outcome<string>>>(async () =>
                {
                    // Sent again after a full disk or a kill: what was begun of it is finished first.
                    if (await IsBegun(from.Id))
                        await FinishAlone();
                    return await import();
                })
            ));
        try
        {
            return before == content
                ? await work.Value
                : new Refusal(HouseRefusals.ActIdUsed, "This act id was used for something else.", "Give every act an id of its own.");
        }
        finally
        {
            running.TryRemove(from.Id, out _);
        }
    }

    /// <summary>Writes an import in slices, when those before it are through.</summary>
    /// <param name="isOfSetUp">True where it changes the set-up: the picture of that is kept as it is until all is there.</param>
    /// <param name="prepare">Checks what there is to write against the set-up as it is then.</param>
    /// <returns>The answer or the refusal; null when it was done meanwhile.</returns>
    public async Task<Outcome<string>?> Write(
        ActFrom from,
        bool isOfSetUp,
        Func<SetUp, Task<Outcome<(StagedImport Stage, IStagedWork Work)>>> prepare
    )
    {
        await one.WaitAsync();
        try
        {
            await FinishBegun();
            if (await desk.Do(scope => Task.FromResult((scope.FindDone(from.Id) is not null, false))))
                return null;
            var (stage, work, refusal) = await Begin(from, isOfSetUp, prepare);
            if (refusal is not null)
                return (Outcome<string>)refusal;
            return await GoOn(from, stage!, work!);
        }
        finally
        {
            one.Release();
        }
    }

    async Task<(StagedImport? Stage, IStagedWork? Work, Refusal? Refusal)> Begin(
        ActFrom from,
        bool isOfSetUp,
        Func<SetUp, Task<Outcome<(StagedImport Stage, IStagedWork Work)>>> prepare
    )
    {
        var begun = false;
        try
        {
            var prepared = await prepare(isOfSetUp ? await KeepSetUp(from.Id) : await setUps.Current());
            if (prepared.Refused(out var refusal))
                return (null, null, refusal);
            var (stage, work) = prepared.Value;
            await desk.Do(async scope =>
            {
                scope.Db.StagedImports.Add(stage);
                await scope.Db.SaveChangesAsync();
                return (0, true);
            });
            begun = true;
            return (stage, work, null);
        }
        finally
        {
            if (!begun && isOfSetUp)
                setUps.StopKeeping();
        }
    }

    Task<SetUp> KeepSetUp(Guid act) => setUps.KeepFor(act, () => desk.Do(_ => Task.FromResult((0, false))));

    /// <summary>
    /// Writes what is left, slice by slice, then the end. Where the disk says no for now, what is written stays hidden and is gone on with
    /// as soon as there
    /// is room; whatever else goes wrong, it is taken away again.
    /// </summary>
    async Task<Outcome<string>> GoOn(ActFrom from, StagedImport stage, IStagedWork work)
    {
        await Hide(stage);
        Outcome<string> ended;
        try
        {
            ended = await WriteRest(from, stage, work);
            if (ended.Refused(out _))
                await GiveUp(stage);
        }
        catch (Exception failure) when (DatabaseFailure.IsTaken(failure) && CanBeTakenAway(stage))
        {
            // Somebody has made an order of the same number by hand meanwhile.
            await GiveUp(stage);
            return new Refusal(
                HouseRefusals.FileFaults,
                $"An order of {stage.Name} was made by somebody else while it was read.",
                "Drop the file again to see which. Nothing was imported."
            );
        }
        catch (Exception failure) when (DatabaseFailure.IsOfDisk(failure) || !CanBeTakenAway(stage))
        {
            leftOver.Release();
            throw;
        }
        catch
        {
            await GiveUp(stage);
            throw;
        }

        Show(stage);
        await AnalyzeAgain();
        return ended;
    }

    /// <summary>Much is other than it was: the indexes are looked at anew. What was imported is there all the same.</summary>
    async Task AnalyzeAgain()
    {
        try
        {
            await desk.Analyze();
        }
        catch (Exception failure)
        {
            Failed(failure);
        }
    }

    async Task<Outcome<string>> WriteRest(ActFrom from, StagedImport stage, IStagedWork work)
    {
        while (stage.Done < work.Count)
        {
            (stage.Done, stage.Left) = await desk.Do(async scope =>
            {
                var (done, left) = await work.WriteSlice(scope, stage, stage.Done);
                var leftInAll = string.Join(
                    ',',
                    stage.Left.Split(',', StringSplitOptions.RemoveEmptyEntries).Concat(left.Select(l => $"{l}"))
                );
                await scope
                    .Db.StagedImports.Where(i => i.Id == stage.Id)
                    .ExecuteUpdateAsync(set => set.SetProperty(i => i.Done, done).SetProperty(i => i.Left, leftInAll));
                return ((done, leftInAll), true);
            });
            progress.Say(from.Id, 0.05 + 0.9 * stage.Done / work.Count, $"{stage.Done} of {work.Count} {work.Of} written.");
        }

        return await work.End(stage);
    }

    /// <summary>In the last act: all of it is there; its file is kept no longer.</summary>
    public static Task MarkWhole(MudRoomDb db, StagedImport stage) => Mark(db, stage.Id, StageState.Whole);

    static Task<int> Mark(MudRoomDb db, int import, StageState state) =>
        db
            .StagedImports.Where(i => i.Id == import)
            .ExecuteUpdateAsync(set => set.SetProperty(i => i.State, state).SetProperty(i => i.Text, ""));

    IStagedKind KindOf(StagedImport stage) =>
        services.GetRequiredKeyedService<IStagedKind>(stage.Kind == StageKind.Orders ? IStagedKind.OfOrders : IStagedKind.OfSetUp);

    bool CanBeTakenAway(StagedImport stage) => KindOf(stage).CanBeTakenAway;

    /// <summary>Takes the rows of an import away again, slice by slice, while they are hidden.</summary>
    async Task GiveUp(StagedImport stage)
    {
        try
        {
            await desk.Do(async scope => (await Mark(scope.Db, stage.Id, StageState.TakingBack), true));
            while (await desk.Do(scope => TakeAway(scope.Db, stage)) > 0) { }
        }
        catch
        {
            leftOver.Release();
            throw;
        }

        Show(stage);
    }

    async Task<(int, bool)> TakeAway(MudRoomDb db, StagedImport stage)
    {
        var taken = await KindOf(stage).TakeAway(db, stage.Id);
        if (taken == 0)
            await Mark(db, stage.Id, StageState.GivenUp);
        return (taken, true);
    }

    async Task Hide(StagedImport stage)
    {
        if (!stage.IsOfSetUp)
            HiddenImport.Set(FileOf(mode), new HiddenImport(stage.Id, stage.ActId));
        else if (setUps.KeptFor != stage.ActId)
            await KeepSetUp(stage.ActId);
    }

    void Show(StagedImport stage)
    {
        // The last act has let go of the picture of the set-up; where there was none, it is done here.
        if (stage.IsOfSetUp && setUps.KeptFor == stage.ActId)
            setUps.StopKeeping();
        else if (!stage.IsOfSetUp)
            HiddenImport.Set(FileOf(mode), HiddenImport.None);
    }

    /// <summary>What a killed server or a full disk has left in the middle is finished, and the indexes are looked at once.</summary>
    protected override async Task Work(CancellationToken stopping)
    {
        while (true)
        {
            await FinishAlone(stopping);
            // Where that cannot be written, on a full disk, it is tried again as all that fails here.
            if (!isLookedAt)
                await desk.Analyze();
            isLookedAt = true;
            Succeeded();
            await leftOver.WaitAsync(stopping);
        }
    }

    /// <summary>
    /// Before anybody asks: what a killed server has begun of the set-up is finished, since nothing hides it row by row. Where the disk is
    /// still full, the
    /// server starts all the same, and it is tried again.
    /// </summary>
    public async Task FinishSetUp()
    {
        if (await Begun(mode.File) is not { IsOfSetUp: true })
            return;
        try
        {
            await FinishAlone();
        }
        catch (Exception failure)
        {
            Failed(failure);
        }
    }

    async Task<bool> IsBegun(Guid act)
    {
        await using var db = await contexts.CreateDbContextAsync();
        return await db.StagedImports.Unfinished().AnyAsync(i => i.ActId == act);
    }

    async Task FinishAlone(CancellationToken stopping = default)
    {
        await one.WaitAsync(stopping);
        try
        {
            await FinishBegun();
        }
        finally
        {
            one.Release();
        }
    }

    async Task FinishBegun()
    {
        if (await Begun(mode.File) is not { } begun)
            return;
        if (begun.State == StageState.TakingBack)
        {
            await GiveUp(begun);
            return;
        }

        await Hide(begun);
        var setUp = await setUps.Current();
        var site = setUp.Sites.Values.First(s => s.Id == begun.SiteId);
        var from = new ActFrom(site.Code, setUp.People.GetValueOrDefault(begun.PersonId) ?? ActFrom.Nobody, begun.Device, begun.ActId);
        if (await KindOf(begun).Resume(from, begun, setUp) is { } work)
            await GoOn(from, begun, work);
        else
            await GiveUp(begun);
    }

    /// <summary>The database as contexts name it.</summary>
    static string FileOf(Mode mode) => Path.GetFullPath(mode.File);

    /// <summary>Before anybody asks: what is not whole yet is hidden.</summary>
    public static async Task HideWhatIsNotWhole(string file)
    {
        var begun = await Begun(file);
        HiddenImport.Set(
            Path.GetFullPath(file),
            begun is null or { IsOfSetUp: true } ? HiddenImport.None : new HiddenImport(begun.Id, begun.ActId)
        );
    }

    static async Task<StagedImport?> Begun(string file)
    {
        if (!StagedImports.AnyUnfinished(file))
            return null;
        await using var db = Database.Context(file);
        return await db.StagedImports.AsNoTracking().Unfinished().FirstOrDefaultAsync();
    }
}
