using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Site;

/// <summary>Lines of a set-up file at work: each is read and laid into the context; nothing is saved here.</summary>
sealed class SetUpWork(SetUpFile file, SetUp setUp, WarehouseSite site, Person person, DateTimeOffset at)
{
    /// <summary>Most changes of fields that are shown.</summary>
    const int MostChanges = 200;

    /// <summary>Lines that are looked up together.</summary>
    const int LinesTogether = 2000;

    readonly HashSet<string> seen = new(StringComparer.OrdinalIgnoreCase);
    readonly List<OpeningLine> laid = [];
    readonly List<OpeningLine> stock = [];
    readonly List<DoorHours> hours = [.. setUp.PlanSettings[site.Id].Value.Hours];
    readonly Dictionary<int, Person> people = setUp.People.ToDictionary();
    readonly Lazy<Dictionary<string, Vendor>> vendors = new(() =>
        setUp.Vendors.Values.ToDictionary(v => v.Code, StringComparer.OrdinalIgnoreCase)
    );
    readonly Lazy<ILookup<int, Item>> ofVendor = new(() => SetUpColumns.ByVendor(setUp.Catalogue.Items));
    readonly List<FieldChange> changes = [];
    readonly List<(SetUpRowKept Fact, Func<Reference>? Of)> kept = [];
    readonly Dictionary<string, string> gtins = [];
    readonly Dictionary<string, int> unitBins = [];
    int fresh;
    int changed;
    int nextId;

    public List<FileFault> Faults => file.Faults;

    /// <summary>New people with their first password, as the file has it, or null for one that nobody knows.</summary>
    public List<(Person Person, string? Password)> NewPeople { get; } = [];

    /// <summary>What came or was changed, a fact for each row, with what it is about; once the rows are saved.</summary>
    public IEnumerable<Fact> Kept => kept.Select(k => k.Of is { } of ? k.Fact with { About = [of()] } : k.Fact);

    /// <summary>Opening stock that is to be moved in, once the rows before it are saved.</summary>
    public IReadOnlyList<OpeningLine> Stock => stock;

    /// <summary>What it would do or did.</summary>
    public SetUpFileAnswer Answer() =>
        Faults.Count > 0
            ? new SetUpFileAnswer(file.Rows.Count, 0, 0, 0, [], Faults, file.Notes)
            : new SetUpFileAnswer(file.Rows.Count, fresh, changed, file.Rows.Count - fresh - changed, changes, Faults, file.Notes);

    /// <summary>Lays lines into the context, after those that were laid before.</summary>
    public async Task Lay(MudRoomDb db, IEnumerable<CsvRow> rows)
    {
        foreach (var some in rows.Chunk(LinesTogether))
        {
            if (Faults.Count >= Resolver.MostFaults)
                return;
            var line = await LineOf(db, some);
            foreach (var row in some.TakeWhile(_ => Faults.Count < Resolver.MostFaults))
                line(row);
            if (file.Kind == SetUpKind.Stock && Faults.Count == 0)
                await FindGoods(db);
        }
    }

    /// <summary>What is wrong with all lines together, once each was laid.</summary>
    public async Task End(MudRoomDb db)
    {
        if (Faults.Count == 0 && file.Kind == SetUpKind.People && Access.NobodyLeft(people.Values) is { } nobody)
            Faults.Add(new FileFault(1, "roles", "", nobody.Sentence));
        var planning = setUp.PlanSettings[site.Id].Value;
        if (Faults.Count > 0 || hours.SequenceEqual(planning.Hours))
            return;
        await SettingsRows.Keep(db, site.Id, SettingsOf.Road, planning with { Hours = [.. hours] }, at, person.Name);
    }

    /// <summary>Counts a line as new, changed or as it was.</summary>
    /// <param name="of">The thing that the row is about, where the book knows such things.</param>
    void Count(CsvRow row, string what, object?[]? before, object?[] after, string code, Func<Reference>? of)
    {
        if (before is null)
        {
            fresh++;
            kept.Add((new SetUpRowKept(code, what, [], file.Name), of));
            return;
        }

        var differ = SetUpColumns.Differences(file.Kind, row.FileLine, what, before, after).ToList();
        if (differ.Count == 0)
            return;
        changed++;
        kept.Add((new SetUpRowKept(code, what, [.. differ.Select(SetUpColumns.Kept)], file.Name), of));
        changes.AddRange(differ.Take(MostChanges - changes.Count));
    }

    async Task<Action<CsvRow>> LineOf(MudRoomDb db, CsvRow[] rows) =>
        file.Kind switch
        {
            SetUpKind.Items => ItemLine(db, await ItemsOf(db, rows.Select(r => r.Raw("code")))),
            SetUpKind.Packs => PackLine(await ItemsOf(db, rows.Select(r => r.Raw("item")))),
            SetUpKind.Vendors => VendorLine(
                db,
                await VendorsOf(db, rows),
                await ItemsOf(db, rows.SelectMany(r => r.Words("items")).Select(w => w[(w.IndexOf('=') + 1)..]))
            ),
            SetUpKind.Doors => DoorLine(db, await db.Doors.AsTracking().Where(d => d.SiteId == site.Id).ToDictionaryAsync(d => d.Number)),
            SetUpKind.Bins => BinLine(db, await BinsOf(db, rows), await StockOf(db, rows)),
            SetUpKind.People => PersonLine(db, await PeopleOf(db, rows)),
            SetUpKind.Stock => OpeningLines(),
            _ => throw new ArgumentOutOfRangeException(nameof(rows), file.Kind, null),
        };

    Item? ItemOf(string code) =>
        setUp.Catalogue.ByCode(code).Select(f => f.Item).FirstOrDefault(i => i.Code.Equals(code, StringComparison.OrdinalIgnoreCase));

    async Task<Dictionary<string, Item>> ItemsOf(MudRoomDb db, IEnumerable<string> codes)
    {
        var ids = codes.Select(ItemOf).OfType<Item>().Select(i => i.Id).Distinct().ToList();
        return await db.Items.AsTracking().Where(i => ids.Contains(i.Id)).ToDictionaryAsync(i => i.Code, StringComparer.OrdinalIgnoreCase);
    }

    async Task<Dictionary<string, Vendor>> VendorsOf(MudRoomDb db, CsvRow[] rows)
    {
        if (nextId == 0)
            nextId = 1 + (await db.Vendors.MaxAsync(v => (int?)v.Id) ?? 0);
        var ids = rows.Select(r => vendors.Value.GetValueOrDefault(r.Raw("code"))).OfType<Vendor>().Select(v => v.Id).ToList();
        return await db
            .Vendors.AsTracking()
            .Where(v => ids.Contains(v.Id))
            .ToDictionaryAsync(v => v.Code, StringComparer.OrdinalIgnoreCase);
    }

    async Task<Dictionary<string, Bin>> BinsOf(MudRoomDb db, CsvRow[] rows)
    {
        var ids = rows.Select(r => setUp.BinsByAddress.GetValueOrDefault((site.Id, r.Raw("address").ToUpperInvariant())))
            .OfType<Bin>()
            .Select(b => b.Id)
            .ToList();
        return await db
            .Bins.AsTracking()
            .Where(b => ids.Contains(b.Id))
            .ToDictionaryAsync(b => b.Address, StringComparer.OrdinalIgnoreCase);
    }

    async Task<Dictionary<string, Person>> PeopleOf(MudRoomDb db, CsvRow[] rows)
    {
        if (nextId == 0)
            nextId = 1 + (await db.People.MaxAsync(p => (int?)p.Id) ?? 0);
        var named = rows.Select(r => r.Raw("sign_in")).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var ids = setUp.People.Values.Where(p => named.Contains(p.SignInName)).Select(p => p.Id).ToList();
        return await db
            .People.AsTracking()
            .Where(p => ids.Contains(p.Id))
            .ToDictionaryAsync(p => p.SignInName, StringComparer.OrdinalIgnoreCase);
    }

    /// <summary>Sets what a column says: of a new one all of them, of what is there only those that the file has.</summary>
    static Action<string, Action> Setter(CsvRow row, bool isNew) =>
        (column, set) =>
        {
            if (isNew || row.Has(column))
                set();
        };

    /// <summary>What stands in a column that a new one needs; blank where the file leaves it as it is.</summary>
    static string Needed(CsvRow row, string field, int most, bool isNew) => isNew || row.Has(field) ? row.Text(field, most) : "";

    Action<CsvRow> ItemLine(MudRoomDb db, Dictionary<string, Item> there) =>
        row =>
        {
            var before = row.Faults.Count;
            var code = Once(row, "code", 40);
            var item = there.GetValueOrDefault(code);
            var was = item is null ? null : SetUpColumns.Of(item, setUp);
            var name = Needed(row, "name", 120, item is null);
            var unit =
                row.Optional("unit") ? Units.Code(row.Raw("unit"))
                : row.Has("unit") || item is null ? "H87"
                : item.BaseUnit;
            if (unit is null)
                row.Fault("unit", "is none of H87, KGM, MTR, LTR");
            else if (item is not null && item.BaseUnit != unit)
                row.Fault("unit", $"{code} is kept in {item.BaseUnit} already; a unit in use is not changed");
            var storage = row.OneOf<StorageClass>("storage");
            var rate = row.Optional("rate") ? row.OneOf<PickRateClass>("rate") : PickRateClass.C;
            var asks = row.Raw("asks").ToUpperInvariant();
            if (asks.Any(c => !"BSDON".Contains(c)))
                row.Fault("asks", "has letters other than B, S, D, O, N");
            var plan = row.Optional("plan")
                ? setUp.Plans.Values.FirstOrDefault(p => p.Name.Equals(row.Raw("plan"), StringComparison.OrdinalIgnoreCase))
                : null;
            if (row.Optional("plan") && plan is null)
                row.Fault("plan", "no inspection plan has this name");
            if (
                plan is not null
                && item is not null
                && item.InspectionPlanId != plan.Id
                && !item.PackLevels.Any(p => p.Name == plan.SamplingUnit)
            )
                row.Fault("plan", $"it samples by {plan.SamplingUnit}, and {code} has no pack of that name: bring its packs in first");
            var step = row.NumberOr("step", unit == "H87" ? 1 : 0.5m, Quantities.Finest, 1_000_000);
            var (kg, litres, longest) = (
                row.NumberOr("kg", 0, 0, 100_000),
                row.NumberOr("litres", 0, 0, 1_000_000),
                row.NumberOr("longest_m", 0, 0, 100)
            );
            var life = row.Optional("shelf_life_days") ? (int?)row.Number("shelf_life_days", 1, 36_500, true) : null;
            var least = row.Optional("min_remaining_days") ? (int?)row.Number("min_remaining_days", 0, 36_500, true) : null;
            var over = row.NumberOr("over_percent", 0, 0, 1000);
            var cap = row.Optional("over_cap") ? row.Number("over_cap", 0, Quantities.Most, false) : (decimal?)null;
            var ruling = row.OneOf<RulingDate>("ruling_date");
            if (row.Faults.Count > before)
                return;
            if (item is null)
                db.Items.Add(
                    item = new Item
                    {
                        Code = code,
                        Name = name,
                        PackLevels = [new PackLevel { Name = unit == "H87" ? "each" : Units.Word(unit!), Numerator = 1 }],
                        BaseUnit = unit!,
                    }
                );
            var set = Setter(row, isNew: was is null);
            set("name", () => item.Name = name);
            set("category", () => item.Category = row.Raw("category"));
            set("step", () => item.Step = step);
            set("storage", () => item.StorageClass = storage);
            set("kg", () => item.Mass = kg);
            set("litres", () => item.Volume = litres);
            set("longest_m", () => item.LongestSide = longest);
            set("rate", () => item.PickRateClass = rate);
            set("home_zone", () => item.HomeZone = row.Raw("home_zone"));
            set("asks", () =>
                (item.NeedsBatch, item.NeedsSourceBatch, item.NeedsDates, item.NeedsOrigin, item.NeedsSerial) = (
                    asks.Contains('B'),
                    asks.Contains('S'),
                    asks.Contains('D'),
                    asks.Contains('O'),
                    asks.Contains('N')
                )
            );
            set("shelf_life_days", () => item.ShelfLifeDays = life);
            set("min_remaining_days", () => item.MinimumRemainingDays = least);
            set("ruling_date", () => item.RulingDate = ruling);
            set("batch_prefix", () => item.BatchPrefix = row.Raw("batch_prefix"));
            set("over_percent", () => item.OverPercent = over);
            set("over_cap", () => item.OverCap = cap);
            set("plan", () => item.InspectionPlanId = plan?.Id);
            Count(row, item.Name, was, SetUpColumns.Of(item, setUp), item.Code, () => Reference.Item(item.Id));
        };

    Action<CsvRow> PackLine(Dictionary<string, Item> there) =>
        row =>
        {
            var before = row.Faults.Count;
            var code = row.Text("item", 40);
            var name = row.Text("pack", 40);
            if (code.Length > 0 && name.Length > 0 && !seen.Add(code + "|" + name))
                row.Fault("pack", "stands in the file twice");
            var item = there.GetValueOrDefault(code);
            if (code.Length > 0 && item is null)
                row.Fault("item", "no item has this code");
            var pack = item?.PackLevels.Find(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
            var was = pack is null ? null : SetUpColumns.Of(item!, pack);
            var holds = pack is null || row.Has("holds") ? row.Number("holds", 1, 1_000_000_000, true) : pack.Numerator;
            var of = row.NumberOr("of", 1, 1, 1_000_000_000, true);
            var gtin = row.Raw("gtin");
            if (gtin.Length > 0 && (gtin.Length is not (8 or 12 or 13 or 14) || !gtin.All(char.IsAsciiDigit)))
                row.Fault("gtin", "a GTIN has 8, 12, 13 or 14 digits");
            else if (gtin.Length > 0 && !CheckDigit.Holds(gtin))
                row.Fault("gtin", $"wrong check digit: should end in {CheckDigit.For(gtin.AsSpan(0, gtin.Length - 1))}");
            else if (gtin.Length > 0 && Whose(gtin.PadLeft(14, '0'), code) is { } other)
                row.Fault("gtin", $"is that of {other} already; a GTIN means one thing");
            var labelled = row.YesNo("labelled");
            if (row.Faults.Count > before)
                return;
            if (pack is null)
                item!.PackLevels.Add(pack = new PackLevel { Name = name, Numerator = (long)holds });
            var set = Setter(row, isNew: was is null);
            set("holds", () => pack.Numerator = (long)holds);
            set("of", () => pack.Denominator = (long)of);
            set("gtin", () => pack.Gtin = gtin.Length == 0 ? null : gtin.PadLeft(14, '0'));
            set("labelled", () => pack.IsUnit = labelled);
            if (!item!.PackLevels.Any(p => p is { Numerator: 1, Denominator: 1 }))
                row.Fault("holds", $"{code} has no pack of one base unit any more");
            Count(row, $"{item.Name}, {pack.Name}", was, SetUpColumns.Of(item, pack), item.Code, () => Reference.Item(item.Id));
        };

    /// <summary>The other item that a GTIN stands for, in the house or in this file; null when it is free.</summary>
    string? Whose(string gtin, string code)
    {
        if (
            setUp
                .Catalogue.ByCode(gtin)
                .FirstOrDefault(f => f.Pack.Gtin == gtin && !f.Item.Code.Equals(code, StringComparison.OrdinalIgnoreCase)) is
            { } found
        )
            return found.Item.Name;
        if (gtins.TryAdd(gtin, code) || gtins[gtin].Equals(code, StringComparison.OrdinalIgnoreCase))
            return null;
        return gtins[gtin];
    }

    Action<CsvRow> VendorLine(MudRoomDb db, Dictionary<string, Vendor> there, Dictionary<string, Item> items) =>
        row =>
        {
            var before = row.Faults.Count;
            var code = Once(row, "code", 40);
            var vendor = there.GetValueOrDefault(code);
            var own = vendor is null ? [] : ofVendor.Value[vendor.Id].Select(i => items.GetValueOrDefault(i.Code, i)).ToList();
            var was = vendor is null ? null : SetUpColumns.Of(vendor, own);
            var name = Needed(row, "name", 120, vendor is null);
            var country = Countries.Find(Needed(row, "country", 60, vendor is null));
            if (country is null && row.Optional("country"))
                row.Fault("country", "is no country of ISO 3166");
            var codes = row.Words("items").Select(w => w.Split('=', 2)).ToList();
            foreach (var pair in codes)
                if (pair.Length != 2 || !items.ContainsKey(pair[1]))
                    row.Fault("items", $"{string.Join('=', pair)}: write the vendor's code, =, and an item code of ours");
            var least = row.Optional("min_remaining_days") ? (int?)row.Number("min_remaining_days", 0, 36_500, true) : null;
            var gln = Gln.Read(row.Raw("gln"));
            if (gln.Refused(out var noGln))
                row.Fault("gln", noGln.Sentence);
            else if (
                gln.Value is { } taken
                && there
                    .Values.Concat(setUp.Vendors.Values.Where(v => !there.ContainsKey(v.Code)))
                    .FirstOrDefault(v => v.Gln == taken && v != vendor)
                    is { } other
            )
                row.Fault("gln", $"is that of {other.Name} already");
            if (row.Faults.Count > before)
                return;
            if (vendor is null)
                db.Vendors.Add(
                    there[code] = vendor =
                        new Vendor
                        {
                            Id = nextId++,
                            Code = code,
                            Name = name,
                            Country = country!.Code,
                        }
                );
            var set = Setter(row, isNew: was is null);
            set("name", () => vendor.Name = name);
            set("country", () => vendor.Country = country!.Code);
            set("contact", () => vendor.ContactName = row.Raw("contact").OrNull());
            set("telephone", () => vendor.Telephone = row.Raw("telephone").OrNull());
            set("mail", () => vendor.Mail = row.Raw("mail").OrNull());
            set("min_remaining_days", () => vendor.MinimumRemainingDays = least);
            set("gln", () => vendor.Gln = gln.Value);
            foreach (var pair in codes)
            {
                var item = items[pair[1]];
                if (!item.VendorCodes.Any(c => c.VendorId == vendor.Id && c.Code == pair[0]))
                    item.VendorCodes.Add(new VendorCode { VendorId = vendor.Id, Code = pair[0] });
            }

            Count(row, vendor.Name, was, SetUpColumns.Of(vendor, own.Union(codes.Select(pair => items[pair[1]]))), vendor.Code, () =>
                new Reference(ReferenceKind.Vendor, vendor.Id)
            );
        };

    Action<CsvRow> DoorLine(MudRoomDb db, Dictionary<int, DockDoor> there) =>
        row =>
        {
            var before = row.Faults.Count;
            var number = (int)row.Number("number", 1, 999, true);
            if (number > 0 && !seen.Add($"{number}"))
                row.Fault("number", "stands in the file twice");
            var door = there.GetValueOrDefault(number);
            var was = door is null ? null : SetUpColumns.Of(door, hours);
            var vehicles = row.Words("vehicles");
            foreach (var v in vehicles.Where(v => v is not ("truck" or "container" or "van" or "parcel")))
                row.Fault("vehicles", $"{v} is none of truck, container, van, parcel");
            var special = new List<StorageClass>();
            foreach (var word in row.Words("special"))
                if (Enum.TryParse<StorageClass>(word, true, out var read))
                    special.Add(read);
                else
                    row.Fault("special", $"{word} is no storage class");
            var x = row.NumberOr("x", number * 10, -1000, 100_000);
            var week = Span(row, "week");
            var saturday = Span(row, "saturday");
            if (row.Faults.Count > before)
                return;
            if (door is null)
                db.Doors.Add(there[number] = door = new DockDoor { SiteId = site.Id, Number = number });
            var set = Setter(row, isNew: was is null);
            set("equipment", () => door.Equipment = row.Raw("equipment"));
            if (vehicles.Count > 0)
                door.Vehicles = [.. vehicles];
            set("special", () => door.Special = special);
            set("x", () => door.X = x);
            if (row.Has("week"))
                SetHours(number, week, [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday]);
            if (row.Has("saturday"))
                SetHours(number, saturday, [DayOfWeek.Saturday]);
            Count(row, $"Door {number}", was, SetUpColumns.Of(door, hours), $"{number}", null);
        };

    /// <summary>Hours of a door on some days; where the file says what is there already, days that differ among themselves are left
    /// so.</summary>
    void SetHours(int door, (TimeOnly From, TimeOnly To)? span, DayOfWeek[] days)
    {
        var said = span is { } on ? $"{on.From:HH:mm}-{on.To:HH:mm}" : null;
        if (said == SetUpColumns.Hours(hours, door, days[0]))
            return;
        hours.RemoveAll(h => h.Door == door && days.Contains(h.Day));
        if (span is { } open)
            hours.AddRange(days.Select(d => new DoorHours(door, d, open.From, open.To)));
    }

    static (TimeOnly From, TimeOnly To)? Span(CsvRow row, string field)
    {
        if (!row.Optional(field))
            return null;
        var ends = row.Raw(field).Split('-', StringSplitOptions.TrimEntries);
        if (
            ends.Length == 2
            && TimeOnly.TryParseExact(ends[0], "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var from)
            && TimeOnly.TryParseExact(ends[1], "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var to)
            && from < to
        )
            return (from, to);
        row.Fault(field, "write hours as 06:00-17:00");
        return null;
    }

    Action<CsvRow> BinLine(MudRoomDb db, Dictionary<string, Bin> there, ILookup<int, GoodsThere> goods) =>
        row =>
        {
            var before = row.Faults.Count;
            var address = Once(row, "address", 30);
            var bin = there.GetValueOrDefault(address);
            var was = bin is null ? null : SetUpColumns.Of(bin, setUp);
            var zone = Needed(row, "zone", 60, bin is null);
            var (bay, level) = ((int)row.NumberOr("bay", 0, 0, 9999, true), (int)row.NumberOr("level", 0, 0, 99, true));
            var function = bin is null || row.Has("function") ? row.OneOf<BinFunction>("function") : bin.Function;
            if ((function == BinFunction.Truck) != (bin?.Function == BinFunction.Truck))
                row.Fault("function", "a truck is made when its driver first takes goods, and stays one");
            var storage = row.OneOf<StorageClass>("storage");
            var (kg, litres, longest) = (
                row.NumberOr("max_kg", 1000, 0, 1_000_000),
                row.NumberOr("max_litres", 2000, 0, 10_000_000),
                row.NumberOr("max_m", 1.3m, 0, 1000)
            );
            var (x, y, height) = (
                row.NumberOr("x", 0, -10_000, 100_000),
                row.NumberOr("y", 0, -10_000, 100_000),
                row.NumberOr("height", 0, 0, 100)
            );
            var (mixItems, mixBatches, blocked) = (row.YesNo("mix_items"), row.YesNo("mix_batches"), row.YesNo("blocked"));
            DockDoor? door = null;
            if (row.Optional("door"))
            {
                var number = (int)row.Number("door", 1, 999, true);
                door = setUp.Doors.Values.FirstOrDefault(d => d.SiteId == site.Id && d.Number == number);
                if (door is null)
                    row.Fault("door", "this site has no such door; import the doors first");
            }
            else if (function == BinFunction.Staging && (bin?.DoorId is null || row.Has("door")))
            {
                row.Fault("door", "a staging place belongs to a door");
            }

            if (row.Faults.Count > before)
                return;
            if (bin is null)
                db.Bins.Add(
                    bin = new Bin
                    {
                        SiteId = site.Id,
                        Address = address.ToUpperInvariant(),
                        Zone = zone,
                        Function = function,
                    }
                );
            var limits = BinLimits.Of(bin);
            var set = Setter(row, isNew: was is null);
            set("zone", () => bin.Zone = zone);
            set("aisle", () => bin.Aisle = row.Raw("aisle"));
            set("bay", () => bin.Bay = bay);
            set("level", () => bin.Level = level);
            set("function", () => bin.Function = function);
            set("storage", () => bin.StorageClass = storage);
            set("max_kg", () => bin.MaxMass = kg);
            set("max_litres", () => bin.MaxVolume = litres);
            set("max_m", () => bin.MaxLength = longest);
            set("x", () => bin.X = x);
            set("y", () => bin.Y = y);
            set("height", () => bin.Height = height);
            set("mix_items", () => bin.MixItems = mixItems);
            set("mix_batches", () => bin.MixBatches = mixBatches);
            set("blocked", () => bin.Blocked = blocked);
            set("door", () => bin.DoorId = door?.Id);
            if (was is not null && BinLimits.WouldBreak(limits, bin, [.. goods[bin.Id]]) is var (limit, sentence))
                row.Fault(ColumnOf(limit), sentence);
            Count(row, bin.Address, was, SetUpColumns.Of(bin, setUp), bin.Address, () => Reference.Bin(bin.Id));
        };

    static string ColumnOf(HardLimit limit) =>
        limit switch
        {
            HardLimit.Function => "function",
            HardLimit.StorageClass => "storage",
            HardLimit.Size => "max_m",
            HardLimit.Mass => "max_kg",
            HardLimit.Volume => "max_litres",
            HardLimit.Mixing => "mix_items",
            HardLimit.Blocked => "blocked",
            _ => throw new ArgumentOutOfRangeException(nameof(limit), limit, null),
        };

    /// <summary>What stands in the bins of the file, and what is promised to them.</summary>
    async Task<ILookup<int, GoodsThere>> StockOf(MudRoomDb db, CsvRow[] rows)
    {
        var ids = rows.Select(r => setUp.BinsByAddress.GetValueOrDefault((site.Id, r.Raw("address").ToUpperInvariant())))
            .OfType<Bin>()
            .Select(b => b.Id)
            .ToList();
        var stands = await db
            .Balances.Where(b => ids.Contains(b.BinId))
            .Select(b => new
            {
                b.BinId,
                b.ItemId,
                b.BatchId,
                b.Standing,
                b.Quantity,
            })
            .ToListAsync();
        var comes = await db
            .Tasks.Where(j => j.State == TaskState.Taken && j.TargetBinId != null && ids.Contains(j.TargetBinId.Value))
            .Select(j => new
            {
                BinId = j.TargetBinId!.Value,
                j.ItemId,
                j.BatchId,
                j.Standing,
                j.Quantity,
            })
            .ToListAsync();
        return stands
            .Concat(comes)
            .ToLookup(
                g => g.BinId,
                g => new GoodsThere(setUp.Catalogue[g.ItemId], g.BatchId, setUp.Standings[site.Id][g.Standing], g.Quantity)
            );
    }

    Action<CsvRow> PersonLine(MudRoomDb db, Dictionary<string, Person> there) =>
        row =>
        {
            var before = row.Faults.Count;
            var signIn = Once(row, "sign_in", 40).ToLowerInvariant();
            var known = there.GetValueOrDefault(signIn);
            var was = known is null ? null : SetUpColumns.Of(known);
            var name = Needed(row, "name", 80, known is null);
            List<Role> roles = known is not null && !row.Has("roles") ? known.Roles : RolesIn(row, before);
            IReadOnlyList<string> sites = known is not null && !row.Has("sites") ? known.Sites : row.Words("sites");
            foreach (var code in sites.Where(s => !setUp.Sites.ContainsKey(s)))
                row.Fault("sites", $"no site has the code {code}");
            if (sites.Count == 0)
                row.Fault("sites", "is empty");
            var active = known is not null && !row.Has("active") ? known.Active : !row.Optional("active") || row.YesNo("active");
            if (Access.Fault(person, known, roles, [.. sites], active) is { } notAllowed)
                row.Fault(sites.Count == 0 ? "roles" : "sites", notAllowed);
            var skills = new List<Skill>();
            foreach (var word in row.Words("skills"))
            {
                var pair = word.Split('=', 2);
                if (pair.Length == 2 && DateOnly.TryParseExact(pair[1], "yyyy-MM-dd", out var until))
                    skills.Add(new Skill(pair[0].Replace('-', ' '), until));
                else
                    row.Fault("skills", $"{word}: write dangerous-goods=2026-11-30");
            }

            if (row.Optional(SetUpColumns.FirstPassword) && row.Raw(SetUpColumns.FirstPassword).Length < SetUpFiles.LeastPassword)
                row.Fault(SetUpColumns.FirstPassword, $"has fewer than {SetUpFiles.LeastPassword} characters");
            if (row.Faults.Count > before)
                return;
            if (known is null)
            {
                db.People.Add(
                    there[signIn] = known =
                        new Person
                        {
                            Id = nextId++,
                            Name = name,
                            SignInName = signIn,
                            Roles = roles,
                            Sites = [.. sites],
                        }
                );
                NewPeople.Add((known, row.Raw(SetUpColumns.FirstPassword).OrNull()));
            }

            var set = Setter(row, isNew: was is null);
            set("name", () => known.Name = name);
            set("roles", () => known.Roles = roles);
            set("sites", () => known.Sites = [.. sites]);
            set("skills", () => known.Skills = skills);
            set("active", () => known.Active = active);
            people[known.Id] = known;
            Count(row, known.Name, was, SetUpColumns.Of(known), known.SignInName, () => new Reference(ReferenceKind.Person, known.Id));
        };

    static List<Role> RolesIn(CsvRow row, int before)
    {
        var roles = new List<Role>();
        foreach (var word in row.Words("roles"))
            if (Enum.GetNames<Role>().FirstOrDefault(n => n.Equals(word, StringComparison.OrdinalIgnoreCase)) is { } name)
                roles.Add(Enum.Parse<Role>(name));
            else
                row.Fault("roles", $"{word} is none of {string.Join(", ", Enum.GetNames<Role>())}");
        if (roles.Count == 0 && row.Faults.Count == before)
            row.Fault("roles", "is empty");
        return roles;
    }

    Action<CsvRow> OpeningLines() =>
        row =>
        {
            var before = row.Faults.Count;
            var address = row.Text("bin", 30);
            setUp.BinsByAddress.TryGetValue((site.Id, address.ToUpperInvariant()), out var bin);
            if (bin is null && address.Length > 0)
                row.Fault("bin", "this site has no such bin");
            var code = row.Text("item", 40);
            var item = ItemOf(code);
            if (item is null && code.Length > 0)
                row.Fault("item", "no item has this code");
            var quantity = row.Number("quantity", Quantities.Finest, Quantities.Most, false);
            if (item is not null && row.Faults.Count == before && Quantities.Check(quantity, item) is { } bad)
                row.Fault("quantity", bad.Sentence);
            var standings = setUp.Standings[site.Id];
            var standing = row.Optional("standing") ? standings.ByWord(row.Raw("standing")) : standings[Standing.Usable];
            if (standing is null or { Retired: true })
                row.Fault("standing", $"is none of {string.Join(", ", standings.All.Where(s => !s.Retired).Select(s => s.Word))}");
            var until = row.Optional("good_until") ? row.Date("good_until", null) : (DateOnly?)null;
            if (item is { NeedsBatch: true } && !row.Optional("batch"))
                row.Fault("batch", $"{item.Name} is kept by batch");
            var vendor = row.Optional("vendor") ? vendors.Value.GetValueOrDefault(row.Raw("vendor")) : null;
            if (row.Optional("vendor") && vendor is null)
                row.Fault("vendor", "no vendor has this code");
            if (row.Optional("source_batch") && vendor is null)
                row.Fault("vendor", "a source batch has a vendor");
            if (row.Faults.Count > before)
                return;
            var number = item!.NeedsBatch ? row.Raw("batch") : null;
            var serial = row.Raw("serial").OrNull();
            var unit = UnitIn(row, item, bin!);
            if (!seen.Add($"{bin!.Id}|{item.Id}|{number}|{serial}|{unit?.Sscc}|{standing!.Word}"))
                row.Fault("bin", "the same goods stand in the file twice in this bin");
            var source = row.Raw("source_batch").OrNull() is { } from && vendor is not null ? (vendor.Id, from) : ((int, string)?)null;
            laid.Add(new OpeningLine(row, bin, item, quantity, standing!.Standing, number, serial, source, until, unit));
        };

    /// <summary>The logistic unit that a line stands on: its SSCC, and the pack that it is.</summary>
    (string Sscc, PackLevel Pack)? UnitIn(CsvRow row, Item item, Bin bin)
    {
        if (row.Raw("unit").OrNull() is not { } sscc)
            return null;
        if (sscc.Length != 18 || !CheckDigit.IsDigits(sscc) || !CheckDigit.Holds(sscc))
            row.Fault("unit", "is no SSCC: 18 digits with their check digit");
        if (!unitBins.TryAdd(sscc, bin.Id) && unitBins[sscc] != bin.Id)
            row.Fault("unit", "stands in the file in two bins");
        var pack = row.Raw("pack").OrNull() is { } name
            ? item.PackLevels.Find(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase))
            : item.PackLevels.Find(p => p.IsUnit) ?? item.BasePack;
        if (pack is null)
            row.Fault("pack", $"{item.Code} has no such pack");
        return pack is null ? null : (sscc, pack);
    }

    /// <summary>Batches and units of opening stock, made where they are not there. A line that was brought in before, or says what stands
    /// there, changes nothing.</summary>
    async Task FindGoods(MudRoomDb db)
    {
        var (items, bins) = (laid.Select(l => l.Item.Id).ToHashSet(), laid.Select(l => l.Bin.Id).ToHashSet());
        var (numbers, from) = (
            laid.Select(l => l.Number).OfType<string>().ToHashSet(),
            laid.Select(l => l.Source?.Number).OfType<string>().ToHashSet()
        );
        var ssccs = laid.Select(l => l.On?.Sscc).OfType<string>().ToHashSet();
        List<SourceBatch> foundSources =
            from.Count == 0
                ? []
                : await db.SourceBatches.AsTracking().Where(s => items.Contains(s.ItemId) && from.Contains(s.Number)).ToListAsync();
        List<Batch> foundBatches =
            numbers.Count == 0
                ? []
                : await db
                    .Batches.AsTracking()
                    .Include(b => b.SourceBatch)
                    .Where(b => items.Contains(b.ItemId) && numbers.Contains(b.Number))
                    .ToListAsync();
        List<LogisticUnit> foundUnits =
            ssccs.Count == 0 ? [] : await db.Units.AsTracking().Where(u => ssccs.Contains(u.Sscc)).ToListAsync();
        var sources = db.SourceBatches.Local.Union(foundSources).ToDictionary(s => (s.ItemId, s.VendorId, s.Number));
        var batches = db.Batches.Local.Union(foundBatches).ToDictionary(b => (b.ItemId, b.Number));
        var units = db.Units.Local.Union(foundUnits).ToDictionary(u => u.Sscc);
        var unitIds = foundUnits.Select(u => u.Id).ToList();
        var elsewhere = (
            await db
                .Balances.Where(b => b.UnitId != null && unitIds.Contains(b.UnitId.Value))
                .Select(b => new { b.UnitId, b.BinId })
                .ToListAsync()
        ).ToLookup(b => b.UnitId!.Value, b => b.BinId);
        var written = await db
            .Ledger.Where(e =>
                e.Kind == EntryKind.OpeningStock
                && e.SiteId == site.Id
                && items.Contains(e.ItemId!.Value)
                && bins.Contains(e.ToBinId!.Value)
            )
            .Select(e => new
            {
                e.ItemId,
                e.BatchId,
                e.UnitId,
                e.Serial,
                e.ToBinId,
                e.ToStanding,
                e.Quantity,
            })
            .ToListAsync();
        var opened = written
            .Select(e =>
                (
                    new Goods(e.ItemId!.Value, e.BatchId, e.UnitId, e.Serial),
                    Place.In(e.ToBinId!.Value, e.ToStanding!.Value),
                    e.Quantity!.Value
                )
            )
            .ToHashSet();
        var there = StockLine
            .Of(await db.Balances.Where(b => bins.Contains(b.BinId) && items.Contains(b.ItemId)).ToListAsync())
            .Select(l => (l.Goods, l.Place, l.Quantity))
            .ToHashSet();
        foreach (var opening in laid)
        {
            opening.Batch = opening.Number is null
                ? null
                : Find(batches, (opening.Item.Id, opening.Number), () =>
                    db
                        .Batches.Add(
                            opening.NewBatch(
                                opening.Source is { } s
                                    ? Find(sources, (opening.Item.Id, s.Vendor, s.Number), () =>
                                        db.SourceBatches.Add(opening.NewSource()).Entity
                                    )
                                    : null
                            )
                        )
                        .Entity
                );
            if (opening.Source is { } of && opening.Batch is { } joined && !BatchRules.MayJoin(joined, of.Vendor, of.Number))
                opening.Row.Fault("batch", "holds another source batch: one batch holds one, of one vendor");
            opening.Unit = opening.On is not { } on ? null : Find(units, on.Sscc, () => db
                        .Units.Add(
                            new LogisticUnit
                            {
                                SiteId = site.Id,
                                Sscc = on.Sscc,
                                PackName = on.Pack.Name,
                                PackageType = on.Pack.PackageType,
                                MadeAt = at,
                            }
                        )
                        .Entity);
            if (
                opened.Contains((opening.Goods, opening.Place, opening.Quantity))
                || there.Contains((opening.Goods, opening.Place, opening.Quantity))
                || there.Contains((opening.Goods, Place.In(opening.Bin.Id, opening.Standing), opening.Quantity))
            )
                continue;
            // What stands there already is not asked: it may be on its way to where it belongs.
            if (setUp.Standings[site.Id][opening.Standing] is var word && !word.MayStand(opening.Bin.Function))
                opening.Row.Fault(
                    "standing",
                    $"{word.Word} goods may not stand in a {opening.Bin.Function.ToString().ToLowerInvariant()} bin"
                );
            if (opening.Unit is { } unit && (unit.SiteId != site.Id || elsewhere[unit.Id].Any(b => b != opening.Bin.Id)))
                opening.Row.Fault(
                    "unit",
                    $"stands in {setUp.Address(elsewhere[unit.Id].FirstOrDefault()).OrNull() ?? "another site"} already"
                );
            stock.Add(opening);
            fresh++;
        }

        laid.Clear();
    }

    static T Find<TKey, T>(Dictionary<TKey, T> there, TKey key, Func<T> make)
        where TKey : notnull => there.TryGetValue(key, out var found) ? found : there[key] = make();

    string Once(CsvRow row, string field, int most)
    {
        var code = row.Text(field, most);
        if (code.Length > 0 && !seen.Add(code))
            row.Fault(field, "stands in the file twice");
        return code;
    }
}
