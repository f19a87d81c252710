using System.Security.Cryptography;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;
using MudRoom.Data;
using MudRoom.Demo;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Cage;
using MudRoom.Server.Door;
using MudRoom.Server.Hosting;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;
using MudRoom.Server.SignIn;
using MudRoom.Server.Yard;

namespace MudRoom.Server.Demo;

/// <summary>Makes the demo's database: the set-up as rows, and everything that happened by the same acts people do.</summary>
public sealed class DemoLoader(WriteDesk desk, ActRunner runner, SetUpStore setUps, DemoClock clock, ServerSettings settings)
{
    readonly Dictionary<string, string> arrivals = [];
    readonly Dictionary<string, Step.Arrive> planned = [];
    readonly Dictionary<string, string> inYard = [];
    int acts;
    bool tellsOfReceipts;

    /// <summary>Loads a scenario into an empty database.</summary>
    public async Task Load(Scenario scenario)
    {
        clock.Set(scenario.Steps[0].At.AddMinutes(-10), stopped: true);
        var slow = Task.Run(() => SlowRows(scenario));
        await desk.Do(async scope =>
        {
            AddSetUp(scope.Db, scenario);
            await scope.Db.SaveChangesAsync();
            scope.Db.ChangeTracker.Clear();
            AddOpeningStock(scope, scenario, clock.GetUtcNow());
            return (0, true);
        });
        setUps.Drop();
        foreach (var step in scenario.Steps)
        {
            clock.Set(step.At, stopped: true);
            if (step.At.Date >= Scenario.Begins.Date && !tellsOfReceipts)
                await TellOfReceipts();
            await Play(step, scenario);
        }

        var rows = await slow;
        await desk.Do(async scope =>
        {
            scope.Db.AddRange(rows);
            scope.Db.Add(DemoClock.NoteAt(Scenario.Begins));
            await scope.Db.SaveChangesAsync();
            return (0, true);
        });
        await LayIntoTheInbox(scenario);
    }

    /// <summary>From the day of the demo on, others are told of receipts.</summary>
    async Task TellOfReceipts()
    {
        tellsOfReceipts = await desk.Do(async scope =>
        {
            foreach (var site in await scope.Db.Sites.ToListAsync())
                await SettingsRows.Keep(
                    scope.Db,
                    site.Id,
                    SettingsOf.Out,
                    new OutSettings { Receipts = ReceiptOut.WhenPosted },
                    Scenario.Begins,
                    "set-up"
                );
            return (true, true);
        });
        setUps.Drop();
    }

    /// <summary>What partners sent since; the watched folder reads it as it reads everything.</summary>
    async Task LayIntoTheInbox(Scenario scenario)
    {
        var folder = WatchedFolder.FolderOf(settings, scenario.Sites[0].Code);
        Directory.CreateDirectory(folder);
        foreach (var (name, text) in scenario.Inbox)
            await File.WriteAllTextAsync(Path.Combine(folder, name), text);
    }

    static void AddSetUp(MudRoomDb db, Scenario scenario)
    {
        var at = scenario.Steps[0].At;
        foreach (var site in scenario.Sites)
            site.BeginNumbersAfter("A", 2627);
        foreach (var site in scenario.Sites)
            site.BeginNumbersAfter("H", 290);
        db.AddRange(scenario.Sites);
        db.Add(SettingsRows.Row(scenario.Sites[0].Id, SettingsOf.Door, 1, Scenario.Counting, at, "set-up"));
        db.Add(SettingsRows.Row(scenario.Sites[0].Id, SettingsOf.Road, 1, Scenario.Planning, at, "set-up"));
        db.AddRange(scenario.Doors);
        db.AddRange(scenario.Bins);
        db.AddRange(scenario.Vendors);
        db.AddRange(scenario.Plans);
        db.AddRange(scenario.InspectionRules);
        db.AddRange(scenario.Gauges);
        db.AddRange(scenario.HoldRules);
        db.AddRange(scenario.Items);
        db.AddRange(scenario.Orders);
        db.AddRange(scenario.Spots);
        db.AddRange(scenario.People.Select(p => p.Person));
        db.AddRange(scenario.Roster);
    }

    /// <summary>What no step asks for and takes long to make, made beside them: a hash of a password is slow on purpose.</summary>
    static List<object> SlowRows(Scenario scenario) =>
        [
            .. scenario.People.Select(AccountOf),
            .. scenario.Items.Select(i => new ItemPicture
            {
                ItemId = i.Id,
                MediaType = "image/jpeg",
                Content = DemoPictures.Of(i),
            }),
        ];

    static SignInAccount AccountOf(DemoPerson demo)
    {
        var account = SignInAccounts.New(demo.Person, demo.Password);
        (account.Badge, account.PinHash) = (DemoPerson.Badge(demo.Person), Badges.Hash(account, DemoPerson.Pin(demo.Person)));
        return account;
    }

    static void AddOpeningStock(WriteScope scope, Scenario scenario, DateTimeOffset at)
    {
        var admin = scenario.People[^1].Person;
        var doer = new Doer(at, admin.Id, admin.Name, "set-up", ActId("opening"));
        var batches = new Dictionary<(int Item, string Number), Batch>();
        var rows = scenario
            .OpeningStock.Select(s => (Stock: s, Item: scenario.Items.First(i => i.Code == s.Item)))
            .Select(s => (s.Stock, s.Item, Batch: s.Item.NeedsBatch ? BatchOf(s.Item, s.Stock) : null))
            .ToList();
        scope.Db.AddRange(batches.Values);
        scope.Db.SaveChanges();
        var lots = rows.GroupBy(r => (r.Item.Id, r.Batch?.Id, SiteOf(r.Stock)))
            .ToDictionary(
                g => g.Key,
                g => new Lot
                {
                    SiteId = g.Key.Item3,
                    ItemId = g.Key.Item1,
                    BatchId = g.Key.Item2,
                    Origin = LotOrigin.OpeningStock,
                    OpenedAt = at,
                    CountKey = $"opening|{g.Key.Item3}|{g.Key.Item1}|{g.Key.Item2}",
                }
            );
        scope.Db.AddRange(lots.Values);
        scope.Db.SaveChanges();
        int SiteOf(OpeningStock stock) => scenario.Bins.First(b => b.Address == stock.Bin).SiteId;
        foreach (var (stock, item, batch) in rows)
        {
            var bin = scenario.Bins.First(b => b.Address == stock.Bin);
            scope.Book.Write(
                bin.SiteId,
                doer,
                new StockOpened(bin.Address, Amount.Of(stock.Quantity, item)),
                new Movement(
                    new Goods(item.Id, batch?.Id, LotId: lots[(item.Id, batch?.Id, bin.SiteId)].Id),
                    stock.Quantity,
                    new Place(Account.Adjustment),
                    Place.In(bin.Id, Standing.Usable)
                )
            );
        }

        Batch BatchOf(Item item, OpeningStock stock)
        {
            var number = $"{item.BatchPrefix}-{at:MMdd}-1";
            if (batches.TryGetValue((item.Id, number), out var known))
                return known;
            return batches[(item.Id, number)] = new Batch
            {
                ItemId = item.Id,
                Number = number,
                Expiry = stock.GoodUntil,
                SourceBatch = stock.SourceBatch is not { } source
                    ? null
                    : new SourceBatch
                    {
                        ItemId = item.Id,
                        VendorId = item.VendorCodes[0].VendorId,
                        Number = source,
                        BestBefore = stock.GoodUntil,
                    },
            };
        }
    }

    async Task Play(Step step, Scenario scenario)
    {
        var person = scenario.People.First(p => p.Person.SignInName == step.Person).Person;
        switch (step)
        {
            case Step.Arrive s:
                var made = await Do(
                    person,
                    "/road/arrivals",
                    new MakeArrivalRequest(
                        s.Orders,
                        s.Planned.DateTime,
                        s.Vehicle,
                        s.Container,
                        s.Seal,
                        s.Plate,
                        s.Haulier,
                        s.Door,
                        false,
                        s.Number,
                        s.Container is not null || s.Vehicle == "container" ? Core.Road.Handling.FloorLoaded : null,
                        s.Units,
                        s.Crew?.Split(' ').Select(name => scenario.People.First(p => p.Person.SignInName == name).Person.Id).ToList(),
                        Papers: s.Papers,
                        Unplanned: s.Unplanned
                    ),
                    MakeArrival.Run
                );
                arrivals[s.Key] = made.Number;
                planned[s.Key] = s;
                break;
            case Step.Expect s:
                await Do(person, "/road/eta", new EtaRequest(arrivals[s.Key], s.Eta.DateTime, s.Source), PlanActs.Eta);
                break;
            case Step.ShipOut s:
                await ShipOut(person, arrivals[s.Key]);
                break;
            case Step.DriveOff s:
                await Do(person, "/yard/step", new StepRequest(arrivals[s.Key], YardStep.Empty), GateActs.Step);
                await Do(person, "/yard/step", new StepRequest(arrivals[s.Key], YardStep.GateOut), GateActs.Step);
                break;
            case Step.Promise s:
                var promised = await Read(db => db.LineParts.Where(p => p.Line!.Order!.Number == s.Order).Select(p => p.Id).ToListAsync());
                await Do(person, "/road/promise", new PromiseRequest(promised, s.With, s.Text, s.For), OrderActs.Promise);
                break;
            case Step.LetIn s:
                await Do(
                    person,
                    "/yard/let-in",
                    AsPlanned(planned[s.Key], inYard[s.Key] = s.Spot.Length > 0 ? s.Spot : FreeSpot(planned[s.Key].Vehicle, scenario)),
                    GateActs.LetIn
                );
                break;
            case Step.AtDoor s:
                inYard.Remove(s.Key);
                await Do(person, "/road/at-door", new AtDoorRequest(arrivals[s.Key], s.Door), AtDoor.Run);
                break;
            case Step.Count s:
                await Do(
                    person,
                    "/door/count",
                    new CountRequest(
                        arrivals[s.Key],
                        s.Item,
                        s.Pack,
                        s.Packs.ToString(),
                        null,
                        s.SourceBatch,
                        s.Production,
                        s.BestBefore,
                        null,
                        s.Origin,
                        s.Serial,
                        s.Aside,
                        s.Note,
                        null,
                        false,
                        true,
                        Weight: WeightOf(scenario, s)
                    ),
                    CountGoods.All
                );
                break;
            case Step.Close s:
                await Do(person, "/door/close", await ClosingOf(arrivals[s.Key], s.NeverComing), CloseTally.Run);
                break;
            case Step.Scrap s:
                await ScrapBroken(person, arrivals[s.Key]);
                break;
            case Step.Inspect s:
                await Inspect(person, s);
                break;
            case Step.Sheet s:
                await Sheet(person, s);
                break;
            case Step.PutAway s:
                await PutAwayTasks(person, s.Tasks, () => Waiting(null));
                break;
            case Step.Fetch s:
                var fetched = (await setUps.Current()).Catalogue.ByCode(s.Item)[0].Item.Id;
                await PutAwayTasks(person, s.Tasks, () => ToFetch(fetched));
                break;
            case Step.ReturnAtDoor s:
                await Do(
                    person,
                    "/door/returns",
                    new UnannouncedReturnRequest(
                        arrivals[s.Key],
                        s.Customer,
                        s.Item,
                        s.Quantity.ToString(),
                        s.Terms.Reason,
                        s.Terms.Promised
                    ),
                    UnannouncedReturn.Run
                );
                break;
            case Step.Recall s:
                await Do(
                    person,
                    "/cage/recalls/begin",
                    new BeginRecallRequest(RecallBy.SourceBatch, s.Item, null, s.SourceBatch, null, null, s.Why),
                    RecallActs.Begin
                );
                break;
            case Step.NotThere s:
                var (recall, missed) = await Read(async db =>
                    (
                        await db.Recalls.OrderByDescending(r => r.Id).Select(r => r.Number).FirstAsync(),
                        await db
                            .Balances.Where(b =>
                                db.Bins.Any(x => x.Id == b.BinId && x.Address == s.Bin)
                                && db.Items.Any(i => i.Id == b.ItemId && i.Code == s.Item)
                            )
                            .Select(b => b.Id)
                            .SingleAsync()
                    )
                );
                await Do(person, "/cage/recalls/not-there", new RecallStockRequest(recall, missed), RecallActs.NotThere);
                break;
            case Step.Take s:
                await Do(person, "/shelf/take", new TakeRequest(await WaitingOf(s.Item), null, null), ShelfActs.Take);
                break;
            case Step.Issue s:
                await Issue(person, s);
                break;
            case Step.Ask s:
                await Do(person, "/bench/ask", new AskInspectionRequest(s.Why, await MostUsable(s.Item)), AskedFor.Ask);
                break;
            case Step.Treat s:
                await Do(
                    person,
                    "/door/outwork/send",
                    new OutworkSendRequest(await MostUsable(s.Item), s.Quantity.ToString(), s.Vendor, s.Order, s.What),
                    Outwork.Send
                );
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(step), step, null);
        }
    }

    /// <summary>What a scale would show of goods that are weighed: their usual mass.</summary>
    static string? WeightOf(Scenario scenario, Step.Count s) =>
        scenario.Items.First(i => i.Code == s.Item) is { CatchWeight: true } item
            ? (item.PackOrMeasure(s.Pack)!.Content(s.Packs) * item.Mass).ToString(System.Globalization.CultureInfo.InvariantCulture)
            : null;

    /// <summary>A whole sheet, its values in one act: nobody looks back at when each of them was typed.</summary>
    async Task Sheet(Person person, Step.Sheet s)
    {
        var setUp = await setUps.Current();
        var item = setUp.Catalogue.ByCode(s.Item)[0].Item;
        var (number, planId) = await Read(async db =>
        {
            var waiting = await db
                .Inspections.Where(i => i.ItemId == item.Id && i.State == InspectionState.Waiting)
                .OrderByDescending(i => i.Id)
                .FirstAsync();
            return (waiting.Number, waiting.PlanId);
        });
        await Do(person, "/bench/draw", new DrawRequest(number), BenchActs.Draw);
        var content = setUp.Plans[planId].InForce(s.At)!.Content;
        var sample = await Read(db => db.Inspections.Where(i => i.Number == number).Select(i => i.Sample).SingleAsync());
        var stand = LotStand.Of(content, sample!, []);
        var found = content
            .Characteristics.SelectMany(c =>
                Enumerable
                    .Range(stand.PartOf(c).First, stand.PartOf(c).Judgement.Wanted)
                    .Select(piece =>
                        c.IsMeasured
                            ? new Observation(piece, c.Id, s.Values[c.Name][piece - 1], null, IsSure: true)
                            : new Observation(piece, c.Id, null, s.Bad.GetValueOrDefault(piece) != c.Name)
                    )
            )
            .ToList();
        var last = await Do(person, "/bench/find", new FindAllRequest(number, found), FindingActs.FindAll);
        await Do(person, "/bench/sign", new SignRequest(number, person.Name, "", last.Verdict!.Value, null), BenchActs.Sign);
    }

    async Task Inspect(Person person, Step.Inspect s)
    {
        var setUp = await setUps.Current();
        var item = setUp.Catalogue.ByCode(s.Item)[0].Item;
        var inspection = await Read(db =>
            db.Inspections.Where(i => i.ItemId == item.Id && i.State == InspectionState.Waiting).OrderByDescending(i => i.Id).FirstAsync()
        );
        await Do(person, "/bench/draw", new DrawRequest(inspection.Number), BenchActs.Draw);
        var begins = clock.GetUtcNow();
        for (var piece = 1; piece <= s.UpToPiece; piece++)
        {
            clock.Set(begins.AddMinutes(piece * 1.6), stopped: true);
            foreach (var c in setUp.Plans[inspection.PlanId].InForce(begins)!.Content.Characteristics)
            {
                var bad = s.Bad.TryGetValue(piece, out var name) && name == c.Name;
                var value = c.IsMeasured ? Measured(c, piece, bad).ToString() : null;
                await Do(
                    person,
                    "/bench/find",
                    new FindRequest(inspection.Number, piece, c.Id, value, c.IsMeasured ? null : !bad),
                    FindingActs.Find
                );
            }
        }
    }

    /// <summary>A believable value: near the nominal, or just past the upper limit.</summary>
    static decimal Measured(Characteristic c, int piece, bool bad)
    {
        var upper = c.Upper ?? c.Nominal ?? 1;
        // The gap has drifted from lot to lot, and goes on.
        var nominal = c.Name == "Gap at the tip" ? 0.12m : c.Nominal ?? upper * 0.8m;
        var wave = (piece * 7 + c.Name.Length * 3) % 9 - 4;
        var value = nominal + (upper - nominal) * wave / 6m;
        return decimal.Round(bad ? upper + (upper - nominal) / 5m : value, upper < 1 ? 2 : 1);
    }

    async Task PutAwayTasks(Person person, int tasks, Func<Task<int?>> next)
    {
        for (var i = 0; i < tasks; i++)
        {
            var id = await next();
            if (id is null)
                return;
            var taken = await Try(person, "/shelf/take", new TakeRequest(id, null, null), ShelfActs.Take);
            if (taken.Refused(out _))
                return;
            var scan = await Read(async db =>
            {
                var task = await db.Tasks.FirstAsync(t => t.Id == taken.Value.Task);
                return task.UnitId is { } unit ? await db.Units.Where(u => u.Id == unit).Select(u => u.Sscc).FirstAsync()
                    : task.BatchId is { } batch ? await db.Batches.Where(b => b.Id == batch).Select(b => b.Number).FirstAsync()
                    : await db.Items.Where(x => x.Id == task.ItemId).Select(x => x.Code).FirstAsync();
            });
            await Do(person, "/shelf/scan-goods", new ScanGoodsRequest(taken.Value.Task, scan), ShelfActs.ScanGoods);
            clock.Set(clock.GetUtcNow().AddMinutes(2), stopped: true);
            await Do(person, "/shelf/put-down", new PutDownRequest(taken.Value.Task, taken.Value.Bin!, null, null), ShelfActs.PutDown);
        }
    }

    async Task<int> WaitingOf(string code) =>
        await Waiting((await setUps.Current()).Catalogue.ByCode(code)[0].Item.Id)
        ?? throw new InvalidOperationException($"Nothing of {code} waits.");

    async Task<int?> Waiting(int? itemId)
    {
        var staging = (await setUps.Current()).Bins.Values.Where(b => b.Function == BinFunction.Staging).Select(b => b.Id).ToList();
        return await Read(db =>
            db.Tasks.Where(t =>
                    t.State == TaskState.Waiting && t.Quantity > 0 && staging.Contains(t.AtBinId) && (itemId == null || t.ItemId == itemId)
                )
                .OrderBy(t => t.Since)
                .ThenBy(t => t.Id)
                .Select(t => (int?)t.Id)
                .FirstOrDefaultAsync()
        );
    }

    /// <summary>The largest of what waits to be brought to the cage of an item.</summary>
    Task<int?> ToFetch(int itemId) =>
        Read(db =>
            db.Tasks.Where(t => t.State == TaskState.Waiting && t.Kind != TaskKind.PutAway && t.ItemId == itemId)
                .OrderByDescending(t => t.Quantity)
                .Select(t => (int?)t.Id)
                .FirstOrDefaultAsync()
        );

    async Task Issue(Person person, Step.Issue s)
    {
        var item = (await setUps.Current()).Catalogue.ByCode(s.Item)[0].Item;
        var row = await Read(db =>
            db.Balances.Where(b => b.ItemId == item.Id && b.Standing == Standing.Usable)
                .OrderByDescending(b => b.Quantity)
                .FirstOrDefaultAsync()
        );
        if (row is null || row.Quantity < s.Quantity)
            return;
        await Do(person, "/book/issue", new IssueRequest(row.Id, s.Quantity.ToString(), IssueTo.Customer, s.Reference), IssueGoods.Run);
    }

    async Task<long> MostUsable(string code)
    {
        var item = (await setUps.Current()).Catalogue.ByCode(code)[0].Item;
        return await Read(db =>
            db.Balances.Where(b => b.ItemId == item.Id && b.Standing == Standing.Usable)
                .OrderByDescending(b => b.Quantity)
                .Select(b => b.Id)
                .FirstAsync()
        );
    }

    async Task ScrapBroken(Person person, string arrival)
    {
        var holds = await Read(db =>
            db.Holds.Where(h =>
                    h.IsOpen && h.Reason == HoldReason.CountedAside && db.Arrivals.Any(a => a.Id == h.ArrivalId && a.Number == arrival)
                )
                .ToListAsync()
        );
        foreach (var hold in holds)
        {
            await Do(
                person,
                "/cage/decide",
                new DecideRequest(hold.Number, DecisionKind.Scrap, hold.Quantity.ToString(), "Not worth sending back."),
                Decisions.Decide
            );
            await Do(person, "/cage/carry-out", new CarryOutRequest(hold.Number, null, "leila"), CarryingOut.Run);
        }
    }

    async Task ShipOut(Person person, string arrival)
    {
        var rows = await Read(db =>
            db.Balances.Where(b =>
                    b.Standing == Standing.Usable
                    && b.Quantity > 0
                    && db.TallyEntries.Any(e =>
                        e.BinId == b.BinId
                        && e.ItemId == b.ItemId
                        && e.TakenBackAt == null
                        && db.Arrivals.Any(a => a.Id == e.ArrivalId && a.Number == arrival)
                    )
                )
                .Select(b => new { b.Id, b.Quantity })
                .ToListAsync()
        );
        foreach (var row in rows)
            await Do(
                person,
                "/book/issue",
                new IssueRequest(row.Id, row.Quantity.ToString(), IssueTo.Customer, $"C-{row.Id + 20000}"),
                IssueGoods.Run
            );
    }

    /// <summary>At the gate everything is read as it was planned.</summary>
    static LetInRequest AsPlanned(Step.Arrive plan, string spot) => new(plan.Number, spot, plan.Container, plan.Plate, plan.Seal);

    string FreeSpot(string vehicle, Scenario scenario) =>
        scenario
            .Spots.Where(s => s.Vehicles.Contains(vehicle) && !inYard.ContainsValue(s.Number))
            .OrderBy(s => s.Vehicles.Contains("container"))
            .First()
            .Number;

    async Task<CloseRequest> ClosingOf(string number, bool neverComing)
    {
        var lines = await Read(db =>
            db.ManifestLines.Where(m => db.Arrivals.Any(a => a.Id == m.ArrivalId && a.Number == number))
                .Select(m => new
                {
                    m.Id,
                    m.ArrivalId,
                    IsShort = m.Counted < m.Expected,
                    m.Part!.Line!.Order!.VendorId,
                })
                .ToListAsync()
        );
        var decision = neverComing ? ShortDecision.NeverComing : ShortDecision.MoreToCome;
        return new CloseRequest(
            number,
            [.. lines.Where(m => m.IsShort).Select(m => new LineDecision(m.Id, decision))],
            [.. lines.Select(m => m.VendorId).Distinct().Select(v => new NoteOfVendor(v, $"DN-{80000 + lines[0].ArrivalId * 17 + v}"))]
        );
    }

    Task<T> Read<T>(Func<MudRoomDb, Task<T>> query) => desk.Do(async scope => (await query(scope.Db), false));

    async Task<TAnswer> Do<TRequest, TAnswer>(Person person, string path, TRequest request, Func<Act, TRequest, Task<Outcome<TAnswer>>> run)
    {
        var outcome = await Try(person, path, request, run);
        return outcome.Refused(out var refusal)
            ? throw new InvalidOperationException($"The scenario asks for what the rules refuse: {path} {request}: {refusal.Sentence}")
            : outcome.Value;
    }

    async Task<Outcome<TAnswer>> Try<TRequest, TAnswer>(
        Person person,
        string path,
        TRequest request,
        Func<Act, TRequest, Task<Outcome<TAnswer>>> run
    )
    {
        Outcome<TAnswer> answer = default;
        var from = new ActFrom(
            "LM",
            person,
            person.Roles[0] is Role.Receiver or Role.Driver ? "handheld" : "desk",
            ActId($"step {acts++}")
        );
        await runner.Run<TRequest, TAnswer>(from, path, request, async (act, r) => answer = await run(act, r));
        return answer;
    }

    /// <summary>The same id for the same step, so that the demo is the same every time.</summary>
    static Guid ActId(string name) => new(SHA256.HashData(Encoding.UTF8.GetBytes(name)).AsSpan(0, 16));
}
