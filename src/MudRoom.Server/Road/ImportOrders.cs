using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A file of trade: CSV, UBL or EDIFACT, told apart by what is in it.</summary>
/// <param name="Name">The file's name, for the book.</param>
/// <param name="Text">Its content, where somebody has read it; else blank.</param>
/// <param name="Content">Its bytes, to be read by what they say of themselves.</param>
/// <param name="Arrival">The arrival that its despatch advice joins, where it could be several; "new" for one of its own.</param>
/// <param name="Refused">The name of the refused file of the watched folder that is tried again; it is settled when it is taken.</param>
public sealed record ImportRequest(string Name, string? Text = null, byte[]? Content = null, string? Arrival = null, string? Refused = null)
{
    /// <summary>The same with its text.</summary>
    public Outcome<ImportRequest> Opened()
    {
        if (Content is null)
            return this with { Text = Text ?? "" };
        var read = FileText.Read(Content);
        return read.Refused(out var refusal) ? refusal : this with { Text = PlainText.Clean(read.Value), Content = null };
    }
}

/// <summary>A despatch advice that could belong to several arrivals: somebody must say.</summary>
public sealed record AdviceChoice(string Advice, IReadOnlyList<string> Arrivals);

/// <summary>What an import would do or did.</summary>
/// <param name="Kind">What the file is.</param>
/// <param name="Orders">New orders in the file.</param>
/// <param name="Lines">Line parts in them.</param>
/// <param name="Changes">Order changes and cancellations.</param>
/// <param name="Advices">Despatch advices.</param>
/// <param name="Rows">The first hundred, for looking at.</param>
/// <param name="Faults">What is wrong; when there is any, nothing is imported.</param>
/// <param name="Before">Set when the same file was imported before: nothing is changed again.</param>
/// <param name="Arrivals">Arrivals that despatch advices made, joined or changed.</param>
/// <param name="Notes">What stands in the file and was left alone.</param>
/// <param name="Choices">What must be said before it can be imported.</param>
public sealed record ImportAnswer(
    string Kind,
    int Orders,
    int Lines,
    int Changes,
    int Advices,
    IReadOnlyList<ImportRow> Rows,
    IReadOnlyList<FileFault> Faults,
    string? Before,
    IReadOnlyList<string> Arrivals,
    IReadOnlyList<string> Notes,
    IReadOnlyList<AdviceChoice> Choices
);

/// <summary>One row of the preview.</summary>
public sealed record ImportRow(
    string Order,
    int Line,
    string Vendor,
    string Item,
    decimal? Quantity,
    string Unit,
    DateOnly? Due,
    string Site,
    string What
);

/// <summary>Orders, order changes and despatch advices from files: looked at first, then taken whole or not at all.</summary>
public static class ImportOrders
{
    /// <summary>Largest file, in characters.</summary>
    public const int MostCharacters = 40_000_000;
    const int Shown = 100;

    /// <summary>Faults that are named in one refusal.</summary>
    const int Named = 5;

    public static void Map(SiteRoutes routes, ImportProgress progress)
    {
        routes.Check<ImportRequest, Ok<ImportAnswer>>("/road/import/preview", Right.KeepOrders, Preview, mostBytes: Edge.FileBytes);
        routes.LongAct<ImportRequest, ImportAnswer>(
            Path,
            Right.KeepOrders,
            (from, request, services) => services.GetRequiredService<Importing>().Run(from, request),
            mostBytes: Edge.FileBytes
        );
        routes.Ask("/road/import/progress/{act:guid}", Right.KeepOrders, (Inquiry _, Guid act) => TypedResults.Ok(progress.Of(act)));
    }

    /// <summary>Where imports are sent.</summary>
    public const string Path = "/road/import";

    static async Task<Ok<ImportAnswer>> Preview(Inquiry inquiry, ImportRequest request)
    {
        var opened = request.Opened();
        if (opened.Refused(out var unread))
            return TypedResults.Ok(Answer(inquiry.SetUp, Faulty("unknown", unread.Sentence), null, []));
        var read = await Read(
            inquiry.Db,
            inquiry.SetUp,
            inquiry.Site,
            inquiry.Now,
            SitesOf(inquiry.SetUp, inquiry.Person, inquiry.Site),
            opened.Value
        );
        var choices = new List<AdviceChoice>();
        foreach (var advice in read.File.Faults.Count > 0 ? [] : read.File.Advices.Where(a => a.Action == AdviceAction.New))
            if (
                (await DespatchAdvices.Target(inquiry.Db, inquiry.SetUp, inquiry.Site, advice, request.Arrival)).Choices is
                { Count: > 0 } some
            )
                choices.Add(new AdviceChoice(advice.Number, some));
        return TypedResults.Ok(Answer(inquiry.SetUp, read.File, read.Before, []) with { Choices = choices });
    }

    static string Said(FileFault fault) =>
        $"Line {fault.Line}, {fault.Field}{(fault.Value.OrNull() is { } value ? " " + value : "")}: {fault.Reason}.";

    /// <summary>The refusal of a file with faults; the first few are named.</summary>
    public static Refusal? Faulty(ImportRequest request, TradeFile file) =>
        file.Faults.Count == 0
            ? null
            : new Refusal(
                HouseRefusals.FileFaults,
                $"{request.Name} has {file.Faults.Count} {(file.Faults.Count == 1 ? "fault" : "faults")}. "
                    + string.Join(" ", file.Faults.Take(Named).Select(Said))
                    + (file.Faults.Count > Named ? $" And {file.Faults.Count - Named} more." : ""),
                "Mend the file and drop it again. Nothing was imported."
            );

    /// <summary>Takes a file that was read before: its changes, its advices, and its new orders where they are not written yet; all of it
    /// or nothing.</summary>
    /// <param name="file">As it was read outside the write desk.</param>
    /// <param name="written">True where the new orders lie there already, hidden.</param>
    public static async Task<Outcome<ImportAnswer>> Take(Act act, ImportRequest request, TradeFile file, bool written)
    {
        var hash = HashOf(request.Text!);
        if (await act.Db.ImportedFiles.FirstOrDefaultAsync(f => f.Hash == hash) is { } same)
            return Answer(act.SetUp, new TradeFile(same.Kind, [], [], []), BeforeIs(act.Site, same), []);
        // What was here when the file was read may have changed since.
        var rest = written ? file with { Orders = [.. file.Orders.Where(o => o.Action != OrderAction.New)] } : file;
        if (Faulty(request, file with { Faults = await Against(act.Db, rest, SitesOf(act.SetUp, act.Person, act.Site)) }) is { } faulty)
            return faulty;
        foreach (var message in rest.Orders.Where(o => o.Action == OrderAction.New))
            act.Db.Orders.Add(OrderOf(message));
        await act.Db.SaveChangesAsync();
        foreach (var change in file.Orders.Where(o => o.Action != OrderAction.New))
            if (await Change(act, change, request.Name) is { } refusal)
                return refusal;
        var arrivals = new List<string>();
        foreach (var advice in file.Advices)
        {
            var made = await DespatchAdvices.Take(act, advice, request.Arrival);
            if (made.Refused(out var refusal))
                return refusal;
            arrivals.Add(made.Value);
        }

        var answer = Answer(act.SetUp, file, null, arrivals);
        var imported = new OrdersImported(
            request.Name,
            file.Kind,
            answer.Orders,
            answer.Lines,
            answer.Changes,
            answer.Advices,
            answer.Arrivals
        );
        act.Db.ImportedFiles.Add(
            new ImportedFile
            {
                Hash = hash,
                Name = request.Name,
                Kind = file.Kind,
                Sentence = imported.Taken(),
                By = act.Person.Name,
                At = act.Now,
            }
        );
        act.Write(imported);
        act.Touch("road", "house", "yard");
        return answer;
    }

    static Order OrderOf(OrderMessage message) =>
        HeadOf(
            message,
            0,
            0,
            [.. message.Lines.GroupBy(r => r.Number).Select(line => LineOf(line, 0, 0, [.. line.Select(r => PartOf(message, r, 0, 0))]))]
        );

    /// <summary>The rows of one order of a staged import, numbered by the writer.</summary>
    public static IEnumerable<object> RowsOf(OrderMessage message, int import, int orderId, Func<int> nextLine)
    {
        yield return HeadOf(message, import, orderId, []);
        foreach (var line in message.Lines.GroupBy(r => r.Number))
        {
            var id = nextLine();
            yield return LineOf(line, id, orderId, []);
            foreach (var part in line)
                yield return PartOf(message, part, import, id);
        }
    }

    static Order HeadOf(OrderMessage message, int import, int id, List<OrderLine> lines) =>
        new()
        {
            Id = id,
            ImportId = import,
            Number = message.Number,
            Kind = message.Kind,
            VendorId = message.Vendor!.Id,
            OrderDate = message.OrderDate,
            Approvals = [.. message.Approvals],
            Lines = lines,
        };

    static OrderLine LineOf(IGrouping<int, TradeLine> line, int id, int orderId, List<LinePart> parts) =>
        new()
        {
            Id = id,
            OrderId = orderId,
            Number = line.Key,
            ItemId = line.First().Item!.Id,
            Price = line.First().Price,
            Note = line.First().Note,
            AsksInspection = line.Any(l => l.AsksInspection),
            Return = line.First().Return,
            Parts = parts,
        };

    static LinePart PartOf(OrderMessage message, TradeLine line, int import, int lineId)
    {
        return new LinePart
        {
            ImportId = import,
            LineId = lineId,
            ItemId = line.Item!.Id,
            VendorId = message.Vendor!.Id,
            SiteId = line.Site!.Id,
            Due = line.Due!.Value,
            Ordered = line.Quantity!.Value,
            WaitingQuantity = line.Waits?.Quantity ?? 0,
            WaitingFor = line.Waits?.For,
            WaitingBy = line.Waits?.By,
        };
    }

    /// <summary>A change or cancellation of an order that is here. What was received is never contradicted.</summary>
    static async Task<Refusal?> Change(Act act, OrderMessage message, string source)
    {
        var order = await act.Db.Orders.Include(o => o.Lines).ThenInclude(l => l.Parts).FirstAsync(o => o.Number == message.Number);
        var said = new List<(int? Part, string Sentence)>();
        if (message.Action == OrderAction.Cancel)
        {
            if (order.Cancel($"by the buyer's message {source}", act.Person.Name, act.Now) is { } refusal)
                return refusal;
            said.Add((null, "Cancelled by the buyer"));
        }

        foreach (var line in message.Lines)
        {
            var there = order.Lines.Find(l => l.Number == line.Number);
            if (line.Action == LineAction.Add)
            {
                order.Lines.Add(
                    new OrderLine
                    {
                        Number = line.Number,
                        ItemId = line.Item!.Id,
                        Price = line.Price,
                        Parts =
                        [
                            new LinePart
                            {
                                ItemId = line.Item.Id,
                                VendorId = order.VendorId,
                                SiteId = line.Site!.Id,
                                Due = line.Due!.Value,
                                Ordered = line.Quantity!.Value,
                            },
                        ],
                    }
                );
                said.Add(
                    (null, $"Line {line.Number} added: {Quantities.Show(line.Quantity.Value)} {line.Item.UnitWord} of {line.Item.Name}")
                );
                continue;
            }

            var item = act.SetUp.Catalogue[there!.ItemId];
            if (line.Action == LineAction.Cancel)
            {
                // A deletion that names a date is about that delivery; one that names none about the line.
                foreach (var open in there.Parts.Where(p => p.IsOpen && (line.Due is null || p.Due == line.Due)))
                    open.CloseShort();
                said.Add(
                    (
                        there.PartDue(line.Due, several: true)?.Id ?? there.Parts[0].Id,
                        $"Line {line.Number}, {item.Name}: the rest is cancelled"
                    )
                );
                continue;
            }

            var part = PartFor(there, message, line)!;
            if (line.Price is { } price && price != there.Price)
            {
                there.Price = price;
                said.Add((part.Id, $"Line {line.Number}, {item.Name}: another price"));
            }

            if (line.Quantity is { } quantity && quantity != part.Ordered)
            {
                said.Add(
                    (
                        part.Id,
                        $"Line {line.Number}, {item.Name}: {Quantities.Show(part.Ordered)} → {Quantities.Show(quantity)} {item.UnitWord}"
                    )
                );
                if (part.Reorder(quantity) is { } below)
                    return below;
            }

            if (line.Due is { } due && due != part.Due)
            {
                said.Add((part.Id, $"Line {line.Number}, {item.Name}: due {part.Due:yyyy-MM-dd} → {due:yyyy-MM-dd}"));
                if (part.Reschedule(due, act.Today) is { } absurd)
                    return absurd;
            }
        }

        order.Follow();
        await OrderActs.TellDoors(act, order);
        foreach (var (part, sentence) in said)
        {
            act.Db.OrderChanges.Add(
                new OrderChange
                {
                    OrderId = order.Id,
                    PartId = part,
                    Sentence = sentence,
                    Source = source,
                    By = act.Person.Name,
                    At = act.Now,
                }
            );
            act.Write(new OrderChanged(order.Number, sentence));
        }

        await act.Db.SaveChangesAsync();
        return null;
    }

    /// <summary>Reads a file and holds it against what is here; changes nothing.</summary>
    /// <param name="at">When it came: for an order date left blank.</param>
    public static async Task<(TradeFile File, string? Before)> Read(
        MudRoomDb db,
        SetUp setUp,
        WarehouseSite site,
        DateTimeOffset at,
        IReadOnlySet<int> sites,
        ImportRequest request
    )
    {
        var text = request.Text ?? "";
        if (text.Length > MostCharacters)
            return (Faulty("too large", "The file is larger than 40 million characters. Part it."), null);
        var hash = HashOf(text);
        if (await db.ImportedFiles.FirstOrDefaultAsync(f => f.Hash == hash) is { } same)
            return (new TradeFile(same.Kind, [], [], []), BeforeIs(null, same));
        var file = Read(setUp, site, at, text);
        if (file.Faults.Count > 0)
            return (file, null);
        var faults = await Against(db, file, sites);
        return (faults.Count > 0 ? file with { Faults = [.. faults.Take(Resolver.MostFaults)] } : file, null);
    }

    /// <summary>Reads a text with all that this house knows, and the habits of a site.</summary>
    public static TradeFile Read(SetUp setUp, WarehouseSite site, DateTimeOffset at, string text) =>
        TradeReader.Read(
            text,
            Known.Of(setUp.Catalogue, [.. setUp.Vendors.Values], [.. setUp.Sites.Values], FileHabits.Of(site)),
            site.DateAt(at)
        );

    const string NotYours = "you may not work at this site, and bring no orders in for it";

    /// <summary>Ids of the sites that an import may speak for: those of the person; of the watched folder, its own.</summary>
    public static HashSet<int> SitesOf(SetUp setUp, Person person, WarehouseSite site) =>
        person.Id == ActFrom.Nobody.Id ? [site.Id] : [.. person.Sites.Where(setUp.Sites.ContainsKey).Select(s => setUp.Sites[s].Id)];

    /// <summary>What the file says against what is here already.</summary>
    static async Task<List<FileFault>> Against(MudRoomDb db, TradeFile file, IReadOnlySet<int> sites)
    {
        var faults = new List<FileFault>();
        faults.AddRange(
            file.Orders.SelectMany(o => o.Lines)
                .Where(l => l.Site is { } site && !sites.Contains(site.Id))
                .Select(l => new FileFault(l.Spot, "site", l.Site!.Code, NotYours))
        );
        faults.AddRange(
            file.Advices.Where(a => a.Site is { } site && !sites.Contains(site.Id))
                .Select(a => new FileFault(a.Spot, "site", a.Site!.Code, NotYours))
        );
        foreach (var twice in file.Orders.GroupBy(o => o.Number).Where(g => g.Count() > 1))
            faults.Add(new FileFault(twice.Last().Spot, "order", twice.Key, "the order stands in the file twice"));
        foreach (var portion in file.Orders.Chunk(5000))
        {
            var numbers = portion.Select(o => o.Number).ToList();
            var there = (
                await db
                    .Orders.IgnoreQueryFilters()
                    .AsNoTracking()
                    .Include(o => o.Lines)
                        .ThenInclude(l => l.Parts)
                    .Where(o => numbers.Contains(o.Number))
                    .ToListAsync()
            ).ToDictionary(o => o.Number);
            foreach (var message in portion)
            {
                if (message.Action == OrderAction.New && there.ContainsKey(message.Number))
                    faults.Add(new FileFault(message.Spot, "order", message.Number, "an order of this number is here already"));
                if (message.Action == OrderAction.New)
                    continue;
                if (!there.TryGetValue(message.Number, out var order))
                    faults.Add(new FileFault(message.Spot, "order", message.Number, "no order of this number is here"));
                else if (order.Lines.SelectMany(l => l.Parts).Any(p => !sites.Contains(p.SiteId)))
                    faults.Add(new FileFault(message.Spot, "order", message.Number, "a part of it is for a site you may not work at"));
                else
                    faults.AddRange(ChangeFaults(order, message));
            }
        }

        foreach (var twice in file.Advices.GroupBy(a => (a.Vendor.Id, a.Number)).Where(g => g.Count() > 1))
            faults.Add(new FileFault(twice.Last().Spot, "despatch advice", twice.Key.Number, "it stands in the file twice"));
        foreach (var advice in file.Advices)
        {
            var there = await db
                .DespatchAdvices.Where(d => d.VendorId == advice.Vendor.Id && d.Number == advice.Number && d.EndedAt == null)
                .Join(db.Arrivals, d => d.ArrivalId, a => a.Id, (d, a) => new { d.Id, Arrival = a.Number })
                .FirstOrDefaultAsync();
            if (there is not null && advice.Action == AdviceAction.New)
                faults.Add(new FileFault(advice.Spot, "despatch advice", advice.Number, $"it is here already, as {there.Arrival}"));
            if (there is null && advice.Action != AdviceAction.New)
                faults.Add(new FileFault(advice.Spot, "despatch advice", advice.Number, "no despatch advice of this number is here"));
            faults.AddRange(await UnitsTwice(db, file, advice, there?.Id));
            if (
                advice.Container is { } container
                && ContainerNumber.LooksLike(container)
                && ContainerNumber.Read(container).Refused(out var wrong)
            )
                faults.Add(new FileFault(advice.Spot, "container", container, wrong.Sentence));
        }

        return faults;
    }

    /// <summary>Units that another open arrival, or another advice of the file, names too: both are named.</summary>
    static async Task<List<FileFault>> UnitsTwice(MudRoomDb db, TradeFile file, AdviceMessage advice, int? but)
    {
        var units = advice.Lines.Select(l => l.Sscc).OfType<string>().Distinct().ToList();
        var faults = new List<FileFault>();
        foreach (var portion in units.Chunk(500))
        {
            var there = await db
                .AdvisedUnits.Where(u => u.Sscc != null && portion.Contains(u.Sscc) && u.AdviceId != but)
                .Join(
                    db.Arrivals.Open(),
                    u => u.ArrivalId,
                    a => a.Id,
                    (u, a) =>
                        new
                        {
                            u.Sscc,
                            u.AdviceId,
                            a.Number,
                        }
                )
                .Join(
                    db.DespatchAdvices,
                    u => u.AdviceId,
                    d => d.Id,
                    (u, d) =>
                        new
                        {
                            u.Sscc,
                            u.Number,
                            Advice = d.Number,
                        }
                )
                .Distinct()
                .ToListAsync();
            faults.AddRange(
                there.Select(t => new FileFault(
                    advice.Spot,
                    "SSCC",
                    t.Sscc!,
                    $"despatch advice {advice.Number} names this unit, and {t.Advice} has it aboard {t.Number} already"
                ))
            );
        }

        foreach (var other in file.Advices.TakeWhile(a => a != advice))
            faults.AddRange(
                other
                    .Lines.Select(l => l.Sscc)
                    .OfType<string>()
                    .Intersect(units)
                    .Select(u => new FileFault(
                        advice.Spot,
                        "SSCC",
                        u,
                        $"despatch advices {other.Number} and {advice.Number} both name this unit"
                    ))
            );
        return faults;
    }

    /// <summary>What is wrong with a change of an order that is here; one that changes nothing at all is a fault too.</summary>
    static List<FileFault> ChangeFaults(Order order, OrderMessage message)
    {
        var faults = message.Lines.Select(l => LineFault(order, message, l)).OfType<FileFault>().ToList();
        if (faults.Count == 0 && message.Action == OrderAction.Change && message.Lines.All(l => ChangesNothing(order, message, l)))
            faults.Add(new FileFault(message.Spot, "order", message.Number, "the change changes nothing: all of it is so already"));
        return faults;
    }

    /// <summary>The part of a line that a line of a message is about: of several deliveries each names its date.</summary>
    static LinePart? PartFor(OrderLine there, OrderMessage message, TradeLine line) =>
        there.PartDue(line.Due, message.Lines.Count(l => l.Number == line.Number) > 1);

    static bool ChangesNothing(Order order, OrderMessage message, TradeLine line)
    {
        if (line.Action == LineAction.Add)
            return false;
        var there = order.Lines.First(l => l.Number == line.Number);
        if (line.Action == LineAction.Cancel)
            return !there.Parts.Exists(p => p.IsOpen && (line.Due is null || p.Due == line.Due));
        var part = PartFor(there, message, line)!;
        return (line.Quantity ?? part.Ordered) == part.Ordered
            && (line.Due ?? part.Due) == part.Due
            && (line.Price ?? there.Price) == there.Price;
    }

    static FileFault? LineFault(Order order, OrderMessage message, TradeLine line)
    {
        var there = order.Lines.Find(l => l.Number == line.Number);
        var field = $"line {line.Number}";
        if (line.Action == LineAction.Add)
            return there is null ? null : new FileFault(line.Spot, field, order.Number, "the line to be added is there already");
        if (there is null)
            return new FileFault(line.Spot, field, order.Number, "the order has no such line");
        if (line.Item is { } item && item.Id != there.ItemId)
            return new FileFault(line.Spot, field, item.Code, "the line is for another item");
        if (line.Action == LineAction.Cancel && (line.Due is null || there.Parts.Exists(p => p.Due == line.Due)))
            return null;
        var part = line.Action == LineAction.Cancel ? null : PartFor(there, message, line);
        if (part is null)
            return new FileFault(
                line.Spot,
                field,
                line.Due?.ToString("yyyy-MM-dd") ?? "",
                $"the line has deliveries due "
                    + $"{string.Join(", ", there.Parts.OrderBy(p => p.Due).Select(p => p.Due.ToString("yyyy-MM-dd")))}; say which"
            );
        return line.Action == LineAction.Change && line.Quantity < part.Received
            ? new FileFault(
                line.Spot,
                field,
                Quantities.Show(line.Quantity.Value),
                $"{Quantities.Show(part.Received)} were received already"
            )
            : null;
    }

    static string BeforeIs(WarehouseSite? site, ImportedFile same) =>
        $"The same file was imported on {(site is null ? same.At.UtcDateTime : site.LocalTime(same.At)):yyyy-MM-dd} by {same.By} as "
        + $"{same.Name}: {same.Sentence} Nothing is changed again.";

    static TradeFile Faulty(string kind, string reason) => new(kind, [], [], [new FileFault(1, "", "", reason)]);

    static string HashOf(string text) => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));

    public static ImportAnswer Answer(SetUp setUp, TradeFile file, string? before, IReadOnlyList<string> arrivals)
    {
        var orders = file.Orders.Where(o => o.Action == OrderAction.New).ToList();
        var rows = file
            .Orders.SelectMany(o =>
                o.Lines.Count == 0 && o.Action == OrderAction.Cancel
                    ? [new ImportRow(o.Number, 0, o.Vendor?.Name ?? "", "", null, "", null, "", "cancel")]
                    : o.Lines.Select(l => new ImportRow(
                        o.Number,
                        l.Number,
                        o.Vendor?.Name ?? "",
                        l.Item?.Name ?? "",
                        l.Quantity,
                        l.Item?.UnitWord ?? "",
                        l.Due,
                        l.Site?.Name ?? "",
                        o.Action == OrderAction.New ? "new" : l.Action.ToString().ToLowerInvariant()
                    ))
            )
            .Concat(
                file.Advices.SelectMany(a =>
                    a.Action == AdviceAction.Cancel
                        ? [new ImportRow(a.Number, 0, a.Vendor.Name, "", null, "", null, "", "advice cancelled")]
                        : a
                            .Lines.Where(l => l.Quantity > 0)
                            .Select(l => new ImportRow(
                                l.Order ?? a.Number,
                                l.OrderLine ?? 0,
                                a.Vendor.Name,
                                l.ItemId is { } id ? setUp.Catalogue[id].Name : l.ItemText,
                                l.Quantity,
                                l.ItemId is { } i ? setUp.Catalogue[i].UnitWord : "",
                                a.Arrives is { } at ? DateOnly.FromDateTime(at.Clock) : null,
                                a.Site?.Name ?? "",
                                l.Sscc is null ? "aboard, loose" : $"aboard on {l.Sscc}"
                            ))
                )
            );
        return new ImportAnswer(
            file.Kind,
            orders.Count,
            orders.Sum(o => o.Lines.Count),
            file.Orders.Count - orders.Count,
            file.Advices.Count,
            file.Faults.Count > 0 ? [] : [.. rows.Take(Shown)],
            file.Faults,
            before,
            arrivals,
            [.. file.Notes, .. orders.SelectMany(o => NotInspected(setUp, o)).Take(Shown)],
            []
        );
    }

    /// <summary>Lines that ask for an inspection and go by no plan: said before anything is taken in.</summary>
    static IEnumerable<string> NotInspected(SetUp setUp, OrderMessage order) =>
        order
            .Lines.Where(l =>
                l is { AsksInspection: true, Item: { } item }
                && setUp.PlansFor(new GoodsToInspect(InspectionTrigger.OrderLine, item, order.Vendor?.Id, null)).Count == 0
            )
            .Select(l => $"Line {l.Number} of {order.Number} asks for an inspection, and no plan is meant for {l.Item!.Name}.");
}
