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

namespace MudRoom.Server.Road;

/// <summary>Imports files of trade: read before the write desk, many new orders written in slices, the rest in the last act.</summary>
public sealed class Importing(
    Staging staging,
    ActRunner runner,
    SetUpStore setUps,
    TimeProvider clock,
    ImportProgress progress,
    IDbContextFactory<MudRoomDb> contexts,
    IOptions<JsonOptions> json,
    RefusedFiles refusedFiles
) : IStagedKind
{
    /// <summary>Imports a file; refused whole when anything in it is wrong.</summary>
    /// <returns>The answer as JSON, or the refusal.</returns>
    public async Task<Outcome<string>> Run(ActFrom from, ImportRequest request)
    {
        var opened = request.Opened();
        if (opened.Refused(out var unread))
            return unread;
        var outcome = await staging.Once(from, opened.Value.Text!, () => Import(from, opened.Value));
        if (!outcome.Refused(out _) && request.Refused is { } name)
            refusedFiles.Settle(from.SiteCode, name);
        return outcome;
    }

    async Task<Outcome<string>> Import(ActFrom from, ImportRequest request)
    {
        if (await runner.DoneBefore(from, ImportOrders.Path, request) is { } done)
            return done;
        progress.Say(from.Id, 0.02, "Reading the file.");
        var setUp = await setUps.Current();
        var (file, before) = await Read(from, setUp, request);
        if (before is not null)
            return JsonSerializer.Serialize(ImportOrders.Answer(setUp, file, before, []), json.Value.SerializerOptions);
        if (ImportOrders.Faulty(request, file) is { } faulty)
            return faulty;
        var work = new OrdersWork(runner, from, request, file);
        if (work.Lines < Staging.FewLines)
            return await work.End(null);
        var stage = new StagedImport
        {
            SiteId = setUp.Sites[from.SiteCode].Id,
            PersonId = from.Person.Id,
            PersonName = from.Person.Name,
            Device = from.Device,
            ActId = from.Id,
            Name = request.Name,
            Text = request.Text!,
            Arrival = request.Arrival,
            At = clock.GetUtcNow(),
        };
        return await staging.Write(from, isOfSetUp: false, _ => Task.FromResult<Outcome<(StagedImport, IStagedWork)>>((stage, work)))
            ?? await Import(from, request);
    }

    async Task<(TradeFile File, string? Before)> Read(ActFrom from, SetUp setUp, ImportRequest request)
    {
        await using var db = await contexts.CreateDbContextAsync();
        var site = setUp.Sites[from.SiteCode];
        return await ImportOrders.Read(db, setUp, site, clock.GetUtcNow(), ImportOrders.SitesOf(setUp, from.Person, site), request);
    }

    public Task<IStagedWork?> Resume(ActFrom from, StagedImport begun, SetUp setUp)
    {
        var request = new ImportRequest(begun.Name, begun.Text, Arrival: begun.Arrival);
        // Its own orders are there already: they are no fault of the file.
        var file = ImportOrders.Read(setUp, setUp.Sites[from.SiteCode], begun.At, begun.Text);
        return Task.FromResult<IStagedWork?>(file.Faults.Count > 0 ? null : new OrdersWork(runner, from, request, file));
    }

    public bool CanBeTakenAway => true;

    public async Task<int> TakeAway(MudRoomDb db, int import)
    {
        var orders = await db
            .Orders.IgnoreQueryFilters()
            .Where(o => o.ImportId == import)
            .OrderByDescending(o => o.Id)
            .Take(50)
            .Select(o => o.Id)
            .ToListAsync();
        await db.LineParts.IgnoreQueryFilters().Where(p => orders.Contains(p.Line!.OrderId)).ExecuteDeleteAsync();
        await db.OrderLines.IgnoreQueryFilters().Where(l => orders.Contains(l.OrderId)).ExecuteDeleteAsync();
        await db.Orders.IgnoreQueryFilters().Where(o => orders.Contains(o.Id)).ExecuteDeleteAsync();
        return orders.Count;
    }

    /// <summary>The new orders of a file in slices; changes, advices, the entry of the book and the answer in the end.</summary>
    sealed class OrdersWork(ActRunner runner, ActFrom from, ImportRequest request, TradeFile file) : IStagedWork
    {
        /// <summary>Lines in one slice: some milliseconds of writing.</summary>
        const int LinesInSlice = 200;

        readonly List<OrderMessage> fresh = [.. file.Orders.Where(o => o.Action == OrderAction.New)];

        public int Count => fresh.Count;
        public string Of => "orders";
        public int Lines => fresh.Sum(o => o.Lines.Count);

        public async Task<(int, IReadOnlyList<int>)> WriteSlice(WriteScope scope, StagedImport stage, int done)
        {
            // The one writer numbers the rows: nobody else takes a number meanwhile.
            var orderId = await scope.Db.Orders.IgnoreQueryFilters().MaxAsync(o => (int?)o.Id) ?? 0;
            var lineId = await scope.Db.OrderLines.IgnoreQueryFilters().MaxAsync(l => (int?)l.Id) ?? 0;
            var slice = Slice(done);
            foreach (var row in slice.SelectMany(message => ImportOrders.RowsOf(message, stage.Id, ++orderId, () => ++lineId)))
                scope.Append(row);
            return (done + slice.Count, []);
        }

        List<OrderMessage> Slice(int done)
        {
            var (slice, lines) = (new List<OrderMessage>(), 0);
            for (var i = done; i < fresh.Count && (slice.Count == 0 || lines + fresh[i].Lines.Count <= LinesInSlice); i++)
            {
                slice.Add(fresh[i]);
                lines += fresh[i].Lines.Count;
            }

            return slice;
        }

        public Task<Outcome<string>> End(StagedImport? stage) =>
            runner.Run<ImportRequest, ImportAnswer>(from, ImportOrders.Path, request, async (act, asked) =>
            {
                var taken = await ImportOrders.Take(act, asked, file, stage is not null);
                if (!taken.Refused(out _) && stage is not null)
                    await Staging.MarkWhole(act.Db, stage);
                return taken;
            });
    }
}
