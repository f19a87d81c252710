using System.Collections.Concurrent;
using System.Text.Json;
using Microsoft.AspNetCore.Http.Json;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;

namespace MudRoom.Server.Road;

/// <summary>
/// Imports so that nothing long stands in front of a scan: a file is read before the write desk; many new orders are written in slices between other
/// acts, hidden until the last is there; the end of it is one act as any other. What a killed server has begun is finished when it starts again.
/// </summary>
public sealed class Importing(
    WriteDesk desk, ActRunner runner, SetUpStore setUps, TimeProvider clock, ImportProgress progress, IDbContextFactory<MudRoomDb> contexts, Mode mode, IOptions<JsonOptions> json, Health health,
    ILogger<Importing> logger) : Watchman(health, logger, "large imports")
{
    /// <summary>Fewer lines than this are written in the act itself.</summary>
    public const int FewLines = 500;

    /// <summary>Lines in one slice: some milliseconds of writing.</summary>
    const int LinesInSlice = 200;

    /// <summary>Only one import can be hidden.</summary>
    readonly SemaphoreSlim one = new(1, 1);

    /// <summary>An import was left in the middle: it is to be gone on with.</summary>
    readonly SemaphoreSlim leftOver = new(0);

    public override void Dispose()
    {
        one.Dispose();
        leftOver.Dispose();
        base.Dispose();
    }

    /// <summary>Imports that go on just now, by their acts: sent again meanwhile, they are waited for.</summary>
    readonly ConcurrentDictionary<Guid, (string Text, Lazy<Task<Outcome<string>>> Work)> running = new();

    /// <summary>Imports a file; refused whole when anything in it is wrong.</summary>
    /// <returns>The answer as JSON, or the refusal.</returns>
    public async Task<Outcome<string>> Run(ActFrom from, ImportRequest request)
    {
        var (text, work) = running.GetOrAdd(from.Id, _ => (request.Text, new Lazy<Task<Outcome<string>>>(() => Import(from, request))));
        try
        {
            return text == request.Text ? await work.Value : new Refusal("act-id-used", "This act id was used for something else.", "Give every act an id of its own.");
        }
        finally
        {
            running.TryRemove(from.Id, out _);
        }
    }

    async Task<Outcome<string>> Import(ActFrom from, ImportRequest request)
    {
        // Sent again after a full disk or a kill: what was begun of it is finished first.
        if (await IsBegun(from.Id)) await FinishAlone();
        if (await Done(from) is { } done) return await runner.Run<ImportRequest, ImportAnswer>(from, ImportOrders.Path, request, (_, _) => throw new InvalidOperationException($"{done.Id} is done already."));
        progress.Say(from.Id, 0.02, "Reading the file.");
        var setUp = await setUps.Current();
        var (file, before) = await Read(from, setUp, request);
        if (before is not null) return JsonSerializer.Serialize(ImportOrders.Answer(setUp, file, before, []), json.Value.SerializerOptions);
        if (ImportOrders.Faulty(request, file) is { } faulty) return faulty;
        var fresh = file.Orders.Where(o => o.Action == OrderAction.New).ToList();
        if (fresh.Sum(o => o.Lines.Count) < FewLines) return await End(from, request, file, null);
        await one.WaitAsync();
        try
        {
            await FinishBegun();
            // Sent twice: the first is done by now.
            if (await Done(from) is not null) return await Import(from, request);
            var stage = await Begin(from, setUp, request);
            return await Write(from, request, file, fresh, stage);
        }
        finally
        {
            one.Release();
        }
    }

    async Task<DoneAct?> Done(ActFrom from) => await desk.Do(scope => Task.FromResult((scope.FindDone(from.Id), false)));

    async Task<(TradeFile File, string? Before)> Read(ActFrom from, SetUp setUp, ImportRequest request)
    {
        await using var db = await contexts.CreateDbContextAsync();
        var site = setUp.Sites[from.SiteCode];
        return await ImportOrders.Read(db, setUp, site.DateAt(clock.GetUtcNow()), ImportOrders.SitesOf(setUp, from.Person, site), request);
    }

    Task<StagedImport> Begin(ActFrom from, SetUp setUp, ImportRequest request) => desk.Do(async scope =>
    {
        var stage = new StagedImport { SiteId = setUp.Sites[from.SiteCode].Id, PersonId = from.Person.Id, PersonName = from.Person.Name, Device = from.Device, ActId = from.Id, Name = request.Name, Text = request.Text, At = clock.GetUtcNow() };
        scope.Db.StagedImports.Add(stage);
        await scope.Db.SaveChangesAsync();
        return (stage, true);
    });

    /// <summary>
    /// Writes what is left of the new orders, slice by slice, then the end. Where the disk says no for now, what is written stays hidden and is gone on with
    /// as soon as there is room; whatever else goes wrong, it is taken away again.
    /// </summary>
    async Task<Outcome<string>> Write(ActFrom from, ImportRequest request, TradeFile file, List<OrderMessage> fresh, StagedImport stage)
    {
        HiddenImport.Set(FileOf(mode), stage.Id);
        Outcome<string> ended;
        try
        {
            ended = await WriteRest(from, request, file, fresh, stage);
            if (ended.Refused(out _)) await GiveUp(stage.Id);
        }
        catch (Exception failure) when (DatabaseFailure.IsTaken(failure))
        {
            // Somebody has made an order of the same number by hand meanwhile.
            await GiveUp(stage.Id);
            return new Refusal("file-faults", $"An order of {request.Name} was made by somebody else while it was read.", "Drop the file again to see which. Nothing was imported.");
        }
        catch (Exception failure) when (DatabaseFailure.IsOfDisk(failure))
        {
            leftOver.Release();
            throw;
        }
        catch
        {
            await GiveUp(stage.Id);
            throw;
        }

        HiddenImport.Set(FileOf(mode), HiddenImport.None);
        return ended;
    }

    async Task<Outcome<string>> WriteRest(ActFrom from, ImportRequest request, TradeFile file, List<OrderMessage> fresh, StagedImport stage)
    {
        var done = stage.OrdersDone;
        while (done < fresh.Count)
        {
            var slice = Slice(fresh, done);
            done += slice.Count;
            await desk.Do(scope => WriteSlice(scope, slice, stage.Id, done));
            progress.Say(from.Id, 0.05 + 0.9 * done / fresh.Count, $"{done} of {fresh.Count} orders written.");
        }

        return await End(from, request, file, stage.Id);
    }

    static List<OrderMessage> Slice(List<OrderMessage> fresh, int from)
    {
        var (slice, lines) = (new List<OrderMessage>(), 0);
        for (var i = from; i < fresh.Count && (slice.Count == 0 || lines + fresh[i].Lines.Count <= LinesInSlice); i++)
        {
            slice.Add(fresh[i]);
            lines += fresh[i].Lines.Count;
        }

        return slice;
    }

    static async Task<(int, bool)> WriteSlice(WriteScope scope, List<OrderMessage> slice, int import, int done)
    {
        // The one writer numbers the rows: nobody else takes a number meanwhile.
        var orderId = await scope.Db.Orders.IgnoreQueryFilters().MaxAsync(o => (int?)o.Id) ?? 0;
        var lineId = await scope.Db.OrderLines.IgnoreQueryFilters().MaxAsync(l => (int?)l.Id) ?? 0;
        foreach (var row in slice.SelectMany(message => ImportOrders.RowsOf(message, import, ++orderId, () => ++lineId))) scope.Append(row);
        await scope.Db.StagedImports.Where(i => i.Id == import).ExecuteUpdateAsync(set => set.SetProperty(i => i.OrdersDone, done));
        return (0, true);
    }

    /// <summary>Changes, advices, the entry of the book and the answer: one act. From its commit on all rows are to be seen.</summary>
    Task<Outcome<string>> End(ActFrom from, ImportRequest request, TradeFile file, int? stage) => runner.Run<ImportRequest, ImportAnswer>(from, ImportOrders.Path, request, async (act, asked) =>
    {
        var taken = await ImportOrders.Take(act, asked, file, stage is not null);
        if (!taken.Refused(out _) && stage is { } id)
            await Mark(act.Db, id, StageState.Whole);
        return taken;
    });

    /// <summary>Takes the rows of an import away again, slice by slice, while they are hidden.</summary>
    async Task GiveUp(int import)
    {
        try
        {
            await desk.Do(async scope => (await Mark(scope.Db, import, StageState.TakingBack), true));
            while (await desk.Do(scope => TakeAway(scope.Db, import)) > 0) { }
        }
        catch
        {
            leftOver.Release();
            throw;
        }

        HiddenImport.Set(FileOf(mode), HiddenImport.None);
    }

    static async Task<(int, bool)> TakeAway(MudRoomDb db, int import)
    {
        var orders = await db.Orders.IgnoreQueryFilters().Where(o => o.ImportId == import).OrderByDescending(o => o.Id).Take(50).Select(o => o.Id).ToListAsync();
        await db.LineParts.IgnoreQueryFilters().Where(p => orders.Contains(p.Line!.OrderId)).ExecuteDeleteAsync();
        await db.OrderLines.IgnoreQueryFilters().Where(l => orders.Contains(l.OrderId)).ExecuteDeleteAsync();
        await db.Orders.IgnoreQueryFilters().Where(o => orders.Contains(o.Id)).ExecuteDeleteAsync();
        if (orders.Count == 0) await Mark(db, import, StageState.GivenUp);
        return (orders.Count, true);
    }

    /// <summary>Says how far an import is; its file is kept only as long as it may be needed.</summary>
    static Task<int> Mark(MudRoomDb db, int import, StageState state) =>
        db.StagedImports.Where(i => i.Id == import).ExecuteUpdateAsync(set => set.SetProperty(i => i.State, state).SetProperty(i => i.Text, ""));

    /// <summary>What a killed server or a full disk has left in the middle is finished.</summary>
    protected override async Task Work(CancellationToken stopping)
    {
        while (true)
        {
            await FinishAlone(stopping);
            Succeeded();
            await leftOver.WaitAsync(stopping);
        }
    }

    async Task<bool> IsBegun(Guid actId)
    {
        await using var db = await contexts.CreateDbContextAsync();
        return await db.StagedImports.Unfinished().AnyAsync(i => i.ActId == actId);
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
        await using var db = await contexts.CreateDbContextAsync();
        if (await db.StagedImports.AsNoTracking().Unfinished().FirstOrDefaultAsync() is not { } begun) return;
        if (begun.State == StageState.TakingBack) await GiveUp(begun.Id);
        else await GoOn(begun);
    }

    async Task GoOn(StagedImport begun)
    {
        var setUp = await setUps.Current();
        var site = setUp.Sites.Values.First(s => s.Id == begun.SiteId);
        var person = setUp.People.GetValueOrDefault(begun.PersonId) ?? WatchedFolder.Nobody;
        var (from, request) = (new ActFrom(site.Code, person, begun.Device, begun.ActId), new ImportRequest(begun.Name, begun.Text));
        // Its own orders are there already: they are no fault of the file.
        var known = new Exchange.Csv.Known(setUp.Catalogue, setUp.Vendors.Values.ToDictionary(v => v.Code, StringComparer.OrdinalIgnoreCase), setUp.Sites);
        var file = TradeReader.Read(request.Text, known, site.DateAt(begun.At));
        if (file.Faults.Count > 0)
        {
            await GiveUp(begun.Id);
            return;
        }

        await Write(from, request, file, [.. file.Orders.Where(o => o.Action == OrderAction.New)], begun);
    }

    /// <summary>The database as contexts name it.</summary>
    public static string FileOf(Mode mode) => Path.GetFullPath(mode.File);

    /// <summary>Before anybody asks: what is not whole yet is hidden.</summary>
    public static async Task HideWhatIsNotWhole(string file)
    {
        await using var db = Database.Context(file);
        var begun = await db.StagedImports.Unfinished().Select(i => (int?)i.Id).FirstOrDefaultAsync();
        HiddenImport.Set(Path.GetFullPath(file), begun ?? HiddenImport.None);
    }
}
