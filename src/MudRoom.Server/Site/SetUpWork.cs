using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Site;

/// <summary>A set-up file, read into its lines.</summary>
/// <param name="Kind">What it sets up.</param>
/// <param name="Name">Its name, for the book.</param>
/// <param name="Rows">Its lines.</param>
/// <param name="Faults">What is wrong with it; what is found in a line is added here.</param>
sealed record SetUpFile(SetUpKind Kind, string Name, IReadOnlyList<CsvRow> Rows, List<FileFault> Faults)
{
    const int MostCharacters = 40_000_000;

    public static SetUpFile Read(SetUpFileRequest request)
    {
        if ((request.Text ?? "").Length > MostCharacters) return new SetUpFile(request.Kind, request.Name, [], [new FileFault(1, "", "", "The file is larger than 40 million characters. Part it.")]);
        var (rows, faults) = CsvTable.Rows(request.Text ?? "", SetUpWork.Required(request.Kind), SetUpWork.Optional(request.Kind));
        return new SetUpFile(request.Kind, request.Name, rows, faults);
    }

    const string FirstPassword = "first_password";

    /// <summary>The same file with each first password as its hash: made before the write desk, since a hash is slow on purpose.</summary>
    public SetUpFile WithHashes() => With(r => r.Optional(FirstPassword) ? SignInAccounts.Hash(r.Raw(FirstPassword)) : "");

    public SetUpFile WithoutPasswords() => With(_ => "");

    /// <summary>As text again.</summary>
    public string Text() => Encoding.UTF8.GetString(CsvOut.Write(Rows[0].Columns, Rows.Select(r => r.Columns.Select(c => (object?)r.Raw(c)).ToArray())));

    SetUpFile With(Func<CsvRow, string> password) => Kind == SetUpKind.People ? this with { Rows = [.. Rows.Select(r => r.With(FirstPassword, password(r)))] } : this;
}

/// <summary>Lines of a set-up file at work: each is read and laid into the context; nothing is saved here.</summary>
sealed class SetUpWork(SetUpFile file, SetUp setUp, WarehouseSite site, Person person)
{
    /// <summary>Lines that are looked up together.</summary>
    const int LinesTogether = 2000;

    readonly HashSet<string> seen = new(StringComparer.OrdinalIgnoreCase);
    readonly List<OpeningLine> laid = [];
    readonly List<OpeningLine> stock = [];
    readonly List<DoorHours> hours = [];
    readonly Dictionary<int, Person> people = setUp.People.ToDictionary();
    readonly Lazy<Dictionary<string, Vendor>> vendors = new(() => setUp.Vendors.Values.ToDictionary(v => v.Code, StringComparer.OrdinalIgnoreCase));
    int fresh;
    int nextId;

    public List<FileFault> Faults => file.Faults;

    /// <summary>New people with their first password, as the file has it, or null for one that nobody knows.</summary>
    public List<(Person Person, string? Password)> NewPeople { get; } = [];

    /// <summary>Opening stock that is to be moved in, once the rows before it are saved.</summary>
    public IReadOnlyList<OpeningLine> Stock => stock;

    /// <summary>All columns of a kind; the required ones first.</summary>
    public static IReadOnlyList<string> Columns(SetUpKind kind) => [.. Required(kind), .. Optional(kind)];

    /// <summary>Letters for what an item asks: batch, source batch, dates, origin, serial.</summary>
    public static string Asks(Item i) => $"{(i.NeedsBatch ? "B" : "")}{(i.NeedsSourceBatch ? "S" : "")}{(i.NeedsDates ? "D" : "")}{(i.NeedsOrigin ? "O" : "")}{(i.NeedsSerial ? "N" : "")}";

    public SetUpFileAnswer Answer() => new(file.Rows.Count, Faults.Count > 0 ? 0 : fresh, Faults.Count > 0 ? 0 : file.Rows.Count - fresh, Faults);

    public static string[] Required(SetUpKind kind) => kind switch
    {
        SetUpKind.Items => ["code", "name"],
        SetUpKind.Packs => ["item", "pack", "holds"],
        SetUpKind.Vendors => ["code", "name", "country"],
        SetUpKind.Doors => ["number"],
        SetUpKind.Bins => ["address", "zone"],
        SetUpKind.People => ["name", "sign_in", "roles", "sites"],
        SetUpKind.Stock => ["bin", "item", "quantity"],
        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
    };

    public static string[] Optional(SetUpKind kind) => kind switch
    {
        SetUpKind.Items => ["category", "unit", "step", "storage", "kg", "litres", "longest_m", "rate", "home_zone", "asks", "shelf_life_days", "min_remaining_days", "ruling_date", "batch_prefix", "over_percent", "over_cap", "plan"],
        SetUpKind.Packs => ["of", "gtin", "labelled"],
        SetUpKind.Vendors => ["contact", "telephone", "mail", "items", "min_remaining_days"],
        SetUpKind.Doors => ["equipment", "vehicles", "special", "x", "week", "saturday"],
        SetUpKind.Bins => ["aisle", "bay", "level", "function", "storage", "max_kg", "max_litres", "max_m", "x", "y", "height", "mix_items", "mix_batches", "blocked", "door"],
        SetUpKind.People => ["skills", "active", "first_password"],
        SetUpKind.Stock => ["standing", "batch", "source_batch", "vendor", "good_until", "serial"],
        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
    };

    /// <summary>Lays lines into the context, after those that were laid before.</summary>
    public async Task Lay(MudRoomDb db, IEnumerable<CsvRow> rows)
    {
        foreach (var some in rows.Chunk(LinesTogether))
        {
            if (Faults.Count >= CsvTable.MostFaults) return;
            var line = await LineOf(db, some);
            foreach (var row in some.TakeWhile(_ => Faults.Count < CsvTable.MostFaults)) line(row);
            if (file.Kind == SetUpKind.Stock && Faults.Count == 0) await FindBatches(db);
        }
    }

    /// <summary>What is wrong with all lines together, once each was laid.</summary>
    public async Task End(MudRoomDb db)
    {
        if (Faults.Count == 0 && file.Kind == SetUpKind.People && Access.NobodyLeft(people.Values) is { } nobody) Faults.Add(new FileFault(1, "roles", "", nobody.Sentence));
        if (Faults.Count > 0 || hours.Count == 0) return;
        var row = await db.Sites.AsTracking().FirstAsync(s => s.Id == site.Id);
        var named = hours.Select(h => h.Door).ToHashSet();
        row.Planning = row.Planning with { Hours = [.. row.Planning.Hours.Where(h => !named.Contains(h.Door)), .. hours] };
    }

    async Task<Action<CsvRow>> LineOf(MudRoomDb db, CsvRow[] rows) => file.Kind switch
    {
        SetUpKind.Items => ItemLine(db, await ItemsOf(db, rows.Select(r => r.Raw("code")))),
        SetUpKind.Packs => PackLine(await ItemsOf(db, rows.Select(r => r.Raw("item")))),
        SetUpKind.Vendors => VendorLine(db, await VendorsOf(db, rows), await ItemsOf(db, rows.SelectMany(r => r.Words("items")).Select(w => w[(w.IndexOf('=') + 1)..]))),
        SetUpKind.Doors => DoorLine(db, await db.Doors.AsTracking().Where(d => d.SiteId == site.Id).ToDictionaryAsync(d => d.Number)),
        SetUpKind.Bins => BinLine(db, await BinsOf(db, rows)),
        SetUpKind.People => PersonLine(db, await PeopleOf(db, rows)),
        SetUpKind.Stock => StockLine(),
        _ => throw new ArgumentOutOfRangeException(nameof(rows), file.Kind, null),
    };

    Item? ItemOf(string code) => setUp.Catalogue.ByCode(code).Select(f => f.Item).FirstOrDefault(i => i.Code.Equals(code, StringComparison.OrdinalIgnoreCase));

    async Task<Dictionary<string, Item>> ItemsOf(MudRoomDb db, IEnumerable<string> codes)
    {
        var ids = codes.Select(ItemOf).OfType<Item>().Select(i => i.Id).Distinct().ToList();
        return await db.Items.AsTracking().Where(i => ids.Contains(i.Id)).ToDictionaryAsync(i => i.Code, StringComparer.OrdinalIgnoreCase);
    }

    async Task<Dictionary<string, Vendor>> VendorsOf(MudRoomDb db, CsvRow[] rows)
    {
        if (nextId == 0) nextId = 1 + (await db.Vendors.MaxAsync(v => (int?)v.Id) ?? 0);
        var ids = rows.Select(r => vendors.Value.GetValueOrDefault(r.Raw("code"))).OfType<Vendor>().Select(v => v.Id).ToList();
        return await db.Vendors.AsTracking().Where(v => ids.Contains(v.Id)).ToDictionaryAsync(v => v.Code, StringComparer.OrdinalIgnoreCase);
    }

    async Task<Dictionary<string, Bin>> BinsOf(MudRoomDb db, CsvRow[] rows)
    {
        var ids = rows.Select(r => setUp.BinsByAddress.GetValueOrDefault((site.Id, r.Raw("address").ToUpperInvariant()))).OfType<Bin>().Select(b => b.Id).ToList();
        return await db.Bins.AsTracking().Where(b => ids.Contains(b.Id)).ToDictionaryAsync(b => b.Address, StringComparer.OrdinalIgnoreCase);
    }

    async Task<Dictionary<string, Person>> PeopleOf(MudRoomDb db, CsvRow[] rows)
    {
        if (nextId == 0) nextId = 1 + (await db.People.MaxAsync(p => (int?)p.Id) ?? 0);
        var named = rows.Select(r => r.Raw("sign_in")).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var ids = setUp.People.Values.Where(p => named.Contains(p.SignInName)).Select(p => p.Id).ToList();
        return await db.People.AsTracking().Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.SignInName, StringComparer.OrdinalIgnoreCase);
    }

    Action<CsvRow> ItemLine(MudRoomDb db, Dictionary<string, Item> there) => row =>
    {
        var before = row.Faults.Count;
        var code = Once(row, "code", 40);
        var name = row.Text("name", 120);
        var unit = row.Optional("unit") ? Units.Code(row.Raw("unit")) : "H87";
        if (unit is null) row.Fault("unit", "is none of H87, KGM, MTR, LTR");
        var storage = row.OneOf<StorageClass>("storage");
        var rate = row.Optional("rate") ? row.OneOf<PickRateClass>("rate") : PickRateClass.C;
        var asks = row.Raw("asks").ToUpperInvariant();
        if (asks.Any(c => !"BSDON".Contains(c))) row.Fault("asks", "has letters other than B, S, D, O, N");
        var plan = row.Optional("plan") ? setUp.Plans.Values.FirstOrDefault(p => p.Name.Equals(row.Raw("plan"), StringComparison.OrdinalIgnoreCase)) : null;
        if (row.Optional("plan") && plan is null) row.Fault("plan", "no inspection plan has this name");
        if (plan is not null && there.TryGetValue(code, out var packed) && !packed.PackLevels.Any(p => p.Name == plan.SamplingUnit))
            row.Fault("plan", $"it samples by {plan.SamplingUnit}, and {code} has no pack of that name: bring its packs in first");
        var step = row.NumberOr("step", unit == "H87" ? 1 : 0.5m, Quantities.Finest, 1_000_000);
        var (kg, litres, longest) = (row.NumberOr("kg", 0, 0, 100_000), row.NumberOr("litres", 0, 0, 1_000_000), row.NumberOr("longest_m", 0, 0, 100));
        var life = row.Optional("shelf_life_days") ? (int?)row.Number("shelf_life_days", 1, 36_500, true) : null;
        var least = row.Optional("min_remaining_days") ? (int?)row.Number("min_remaining_days", 0, 36_500, true) : null;
        var over = row.NumberOr("over_percent", 0, 0, 1000);
        var cap = row.Optional("over_cap") ? row.Number("over_cap", 0, Quantities.Most, false) : (decimal?)null;
        var ruling = row.OneOf<RulingDate>("ruling_date");
        if (row.Faults.Count > before) return;
        var item = there.GetValueOrDefault(code);
        if (item is null)
        {
            item = new Item { Code = code, Name = name, PackLevels = [new PackLevel { Name = unit == "H87" ? "each" : Units.Word(unit!), Numerator = 1 }] };
            db.Items.Add(item);
            fresh++;
        }
        else if (item.BaseUnit != unit)
        {
            row.Fault("unit", $"{code} is kept in {item.BaseUnit} already; a unit in use is not changed");
            return;
        }

        item.Name = name;
        item.Category = row.Raw("category");
        item.BaseUnit = unit!;
        item.Step = step;
        item.StorageClass = storage;
        (item.Mass, item.Volume, item.LongestSide) = (kg, litres, longest);
        item.PickRateClass = rate;
        item.HomeZone = row.Raw("home_zone");
        (item.NeedsBatch, item.NeedsSourceBatch, item.NeedsDates, item.NeedsOrigin, item.NeedsSerial) = (asks.Contains('B'), asks.Contains('S'), asks.Contains('D'), asks.Contains('O'), asks.Contains('N'));
        (item.ShelfLifeDays, item.MinimumRemainingDays, item.RulingDate) = (life, least, ruling);
        item.BatchPrefix = row.Raw("batch_prefix");
        (item.OverPercent, item.OverCap) = (over, cap);
        item.InspectionPlanId = plan?.Id;
    };

    Action<CsvRow> PackLine(Dictionary<string, Item> there) => row =>
    {
        var before = row.Faults.Count;
        var code = row.Text("item", 40);
        var name = row.Text("pack", 40);
        if (code.Length > 0 && name.Length > 0 && !seen.Add(code + "|" + name)) row.Fault("pack", "stands in the file twice");
        if (code.Length > 0 && !there.ContainsKey(code)) row.Fault("item", "no item has this code");
        var holds = row.Number("holds", 1, 1_000_000_000, true);
        var of = row.NumberOr("of", 1, 1, 1_000_000_000, true);
        var gtin = row.Raw("gtin");
        if (gtin.Length > 0 && (gtin.Length is not (8 or 12 or 13 or 14) || !gtin.All(char.IsAsciiDigit))) row.Fault("gtin", "a GTIN has 8, 12, 13 or 14 digits");
        else if (gtin.Length > 0 && !CheckDigit.Holds(gtin)) row.Fault("gtin", $"wrong check digit: should end in {CheckDigit.For(gtin.AsSpan(0, gtin.Length - 1))}");
        var labelled = row.YesNo("labelled");
        if (row.Faults.Count > before) return;
        var item = there[code];
        var pack = item.PackLevels.Find(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase));
        if (pack is null)
        {
            pack = new PackLevel { Name = name, Numerator = (long)holds };
            item.PackLevels.Add(pack);
            fresh++;
        }

        (pack.Numerator, pack.Denominator, pack.Gtin, pack.IsUnit) = ((long)holds, (long)of, gtin.Length == 0 ? null : gtin.PadLeft(14, '0'), labelled);
        if (!item.PackLevels.Any(p => p is { Numerator: 1, Denominator: 1 })) row.Fault("holds", $"{code} has no pack of one base unit any more");
    };

    Action<CsvRow> VendorLine(MudRoomDb db, Dictionary<string, Vendor> there, Dictionary<string, Item> items) => row =>
    {
        var before = row.Faults.Count;
        var code = Once(row, "code", 40);
        var name = row.Text("name", 120);
        var country = Countries.Find(row.Text("country", 60));
        if (country is null && row.Optional("country")) row.Fault("country", "is no country of ISO 3166");
        var codes = row.Words("items").Select(w => w.Split('=', 2)).ToList();
        foreach (var pair in codes)
            if (pair.Length != 2 || !items.ContainsKey(pair[1])) row.Fault("items", $"{string.Join('=', pair)}: write the vendor's code, =, and an item code of ours");
        var least = row.Optional("min_remaining_days") ? (int?)row.Number("min_remaining_days", 0, 36_500, true) : null;
        if (row.Faults.Count > before) return;
        if (!there.TryGetValue(code, out var vendor))
        {
            vendor = new Vendor { Id = nextId++, Code = code, Name = name, Country = country!.Code };
            there[code] = vendor;
            db.Vendors.Add(vendor);
            fresh++;
        }

        (vendor.Name, vendor.Country, vendor.ContactName, vendor.Telephone, vendor.Mail) = (name, country!.Code, row.Raw("contact").OrNull(), row.Raw("telephone").OrNull(), row.Raw("mail").OrNull());
        vendor.MinimumRemainingDays = least;
        foreach (var pair in codes)
        {
            var item = items[pair[1]];
            if (!item.VendorCodes.Any(c => c.VendorId == vendor.Id && c.Code == pair[0])) item.VendorCodes.Add(new VendorCode { VendorId = vendor.Id, Code = pair[0] });
        }
    };

    Action<CsvRow> DoorLine(MudRoomDb db, Dictionary<int, DockDoor> there) => row =>
    {
        var before = row.Faults.Count;
        var number = (int)row.Number("number", 1, 999, true);
        if (number > 0 && !seen.Add($"{number}")) row.Fault("number", "stands in the file twice");
        var vehicles = row.Words("vehicles");
        foreach (var v in vehicles.Where(v => v is not ("truck" or "container" or "van" or "parcel"))) row.Fault("vehicles", $"{v} is none of truck, container, van, parcel");
        var special = new List<StorageClass>();
        foreach (var word in row.Words("special"))
            if (Enum.TryParse<StorageClass>(word, true, out var read)) special.Add(read);
            else row.Fault("special", $"{word} is no storage class");
        var x = row.NumberOr("x", number * 10, -1000, 100_000);
        var week = Span(row, "week");
        var saturday = Span(row, "saturday");
        if (row.Faults.Count > before) return;
        if (!there.TryGetValue(number, out var door))
        {
            door = new DockDoor { SiteId = site.Id, Number = number };
            there[number] = door;
            db.Doors.Add(door);
            fresh++;
        }

        door.Equipment = row.Raw("equipment");
        if (vehicles.Count > 0) door.Vehicles = [.. vehicles];
        door.Special = special;
        door.X = x;
        if (week is { } w)
            hours.AddRange(new[] { DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday }.Select(d => new DoorHours(number, d, w.From, w.To)));
        if (saturday is { } s) hours.Add(new DoorHours(number, DayOfWeek.Saturday, s.From, s.To));
    };

    static (TimeOnly From, TimeOnly To)? Span(CsvRow row, string field)
    {
        if (!row.Optional(field)) return null;
        var ends = row.Raw(field).Split('-', StringSplitOptions.TrimEntries);
        if (ends.Length == 2 && TimeOnly.TryParseExact(ends[0], "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var from)
            && TimeOnly.TryParseExact(ends[1], "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var to) && from < to) return (from, to);
        row.Fault(field, "write hours as 06:00-17:00");
        return null;
    }

    Action<CsvRow> BinLine(MudRoomDb db, Dictionary<string, Bin> there) => row =>
    {
        var before = row.Faults.Count;
        var address = Once(row, "address", 30);
        var zone = row.Text("zone", 60);
        var (bay, level) = ((int)row.NumberOr("bay", 0, 0, 9999, true), (int)row.NumberOr("level", 0, 0, 99, true));
        var function = row.OneOf<BinFunction>("function");
        var storage = row.OneOf<StorageClass>("storage");
        var (kg, litres, longest) = (row.NumberOr("max_kg", 1000, 0, 1_000_000), row.NumberOr("max_litres", 2000, 0, 10_000_000), row.NumberOr("max_m", 1.3m, 0, 1000));
        var (x, y, height) = (row.NumberOr("x", 0, -10_000, 100_000), row.NumberOr("y", 0, -10_000, 100_000), row.NumberOr("height", 0, 0, 100));
        var (mixItems, mixBatches, blocked) = (row.YesNo("mix_items"), row.YesNo("mix_batches"), row.YesNo("blocked"));
        DockDoor? door = null;
        if (row.Optional("door"))
        {
            var number = (int)row.Number("door", 1, 999, true);
            door = setUp.Doors.Values.FirstOrDefault(d => d.SiteId == site.Id && d.Number == number);
            if (door is null) row.Fault("door", "this site has no such door; import the doors first");
        }
        else if (function == BinFunction.Staging)
        {
            row.Fault("door", "a staging place belongs to a door");
        }

        if (row.Faults.Count > before) return;
        if (!there.TryGetValue(address, out var bin))
        {
            bin = new Bin { SiteId = site.Id, Address = address.ToUpperInvariant(), Zone = zone, Function = function };
            db.Bins.Add(bin);
            fresh++;
        }

        (bin.Zone, bin.Aisle, bin.Bay, bin.Level, bin.Function, bin.StorageClass) = (zone, row.Raw("aisle"), bay, level, function, storage);
        (bin.MaxMass, bin.MaxVolume, bin.MaxLength, bin.X, bin.Y, bin.Height) = (kg, litres, longest, x, y, height);
        (bin.MixItems, bin.MixBatches, bin.Blocked, bin.DoorId) = (mixItems, mixBatches, blocked, door?.Id);
    };

    Action<CsvRow> PersonLine(MudRoomDb db, Dictionary<string, Person> there) => row =>
    {
        var before = row.Faults.Count;
        var signIn = Once(row, "sign_in", 40).ToLowerInvariant();
        var name = row.Text("name", 80);
        var roles = new List<Role>();
        foreach (var word in row.Words("roles"))
            if (Enum.GetNames<Role>().FirstOrDefault(n => n.Equals(word, StringComparison.OrdinalIgnoreCase)) is { } known) roles.Add(Enum.Parse<Role>(known));
            else row.Fault("roles", $"{word} is none of {string.Join(", ", Enum.GetNames<Role>())}");
        if (roles.Count == 0 && row.Faults.Count == before) row.Fault("roles", "is empty");
        var sites = row.Words("sites");
        foreach (var code in sites.Where(s => !setUp.Sites.ContainsKey(s))) row.Fault("sites", $"no site has the code {code}");
        if (sites.Count == 0) row.Fault("sites", "is empty");
        var active = !row.Optional("active") || row.YesNo("active");
        if (Access.Fault(person, there.GetValueOrDefault(signIn), roles, [.. sites], active) is { } notAllowed) row.Fault(sites.Count == 0 ? "roles" : "sites", notAllowed);
        var skills = new List<Skill>();
        foreach (var word in row.Words("skills"))
        {
            var pair = word.Split('=', 2);
            if (pair.Length == 2 && DateOnly.TryParseExact(pair[1], "yyyy-MM-dd", out var until)) skills.Add(new Skill(pair[0].Replace('-', ' '), until));
            else row.Fault("skills", $"{word}: write dangerous-goods=2026-11-30");
        }

        if (row.Optional("first_password") && row.Raw("first_password").Length < SetUpFiles.LeastPassword) row.Fault("first_password", $"has fewer than {SetUpFiles.LeastPassword} characters");
        if (row.Faults.Count > before) return;
        if (!there.TryGetValue(signIn, out var changed))
        {
            changed = new Person { Id = nextId++, Name = name, SignInName = signIn, Roles = roles, Sites = [.. sites] };
            there[signIn] = changed;
            db.People.Add(changed);
            NewPeople.Add((changed, row.Raw("first_password").OrNull()));
            fresh++;
        }

        (changed.Name, changed.Roles, changed.Sites, changed.Skills, changed.Active) = (name, roles, [.. sites], skills, active);
        people[changed.Id] = changed;
    };

    Action<CsvRow> StockLine() => row =>
    {
        var before = row.Faults.Count;
        var address = row.Text("bin", 30);
        setUp.BinsByAddress.TryGetValue((site.Id, address.ToUpperInvariant()), out var bin);
        if (bin is null && address.Length > 0) row.Fault("bin", "this site has no such bin");
        var code = row.Text("item", 40);
        var item = ItemOf(code);
        if (item is null && code.Length > 0) row.Fault("item", "no item has this code");
        var quantity = row.Number("quantity", Quantities.Finest, Quantities.Most, false);
        if (item is not null && row.Faults.Count == before && Quantities.Check(quantity, item) is { } bad) row.Fault("quantity", bad.Sentence);
        var standing = row.OneOf<Standing>("standing");
        if (standing is not (Standing.Usable or Standing.Held)) row.Fault("standing", "opening stock is usable or held; what waits for inspection or was rejected is brought in as held");
        else if (bin is not null && !Standings.Places(standing).Contains(bin.Function)) row.Fault("standing", $"{Standings.Word(standing)} goods may not stand in a {bin.Function} bin".ToLowerInvariant());
        var until = row.Optional("good_until") ? row.Date("good_until", null) : (DateOnly?)null;
        if (item is { NeedsBatch: true } && !row.Optional("batch")) row.Fault("batch", $"{item.Name} is kept by batch");
        var vendor = row.Optional("vendor") ? vendors.Value.GetValueOrDefault(row.Raw("vendor")) : null;
        if (row.Optional("vendor") && vendor is null) row.Fault("vendor", "no vendor has this code");
        if (row.Optional("source_batch") && vendor is null) row.Fault("vendor", "a source batch has a vendor");
        if (row.Faults.Count > before) return;
        var number = item!.NeedsBatch ? row.Raw("batch") : null;
        var serial = row.Raw("serial").OrNull();
        if (!seen.Add($"{bin!.Id}|{item.Id}|{number}|{serial}|{standing}")) row.Fault("bin", "the same goods stand in the file twice in this bin");
        var source = row.Raw("source_batch").OrNull() is { } from && vendor is not null ? (vendor.Id, from) : ((int, string)?)null;
        laid.Add(new OpeningLine(row, bin, item, quantity, standing, number, serial, source, until));
    };

    /// <summary>The batches of opening stock, made where they are not there; a line that was brought in before is here already, and changes nothing.</summary>
    async Task FindBatches(MudRoomDb db)
    {
        var (items, bins) = (laid.Select(l => l.Item.Id).ToHashSet(), laid.Select(l => l.Bin.Id).ToHashSet());
        var (numbers, from) = (laid.Select(l => l.Number).OfType<string>().ToHashSet(), laid.Select(l => l.Source?.Number).OfType<string>().ToHashSet());
        List<SourceBatch> foundSources = from.Count == 0 ? [] : await db.SourceBatches.AsTracking().Where(s => items.Contains(s.ItemId) && from.Contains(s.Number)).ToListAsync();
        List<Batch> foundBatches = numbers.Count == 0 ? [] : await db.Batches.AsTracking().Where(b => items.Contains(b.ItemId) && numbers.Contains(b.Number)).ToListAsync();
        var sources = db.SourceBatches.Local.Union(foundSources).ToDictionary(s => (s.ItemId, s.VendorId, s.Number));
        var batches = db.Batches.Local.Union(foundBatches).ToDictionary(b => (b.ItemId, b.Number));
        var opened = (await db.Ledger.Where(e => e.Kind == EntryKind.OpeningStock && e.SiteId == site.Id && items.Contains(e.ItemId!.Value) && bins.Contains(e.ToBinId!.Value))
            .Select(e => new { e.ToBinId, e.ItemId, e.BatchId, e.Serial, e.ToStanding, e.Quantity }).ToListAsync()).Select(e => (e.ToBinId, e.ItemId, e.BatchId, e.Serial, e.ToStanding, e.Quantity)).ToHashSet();
        foreach (var line in laid)
        {
            line.Batch = line.Number is null ? null : Find(batches, (line.Item.Id, line.Number), () => db.Batches.Add(line.NewBatch(line.Source is { } s ? Find(sources, (line.Item.Id, s.Vendor, s.Number), () => db.SourceBatches.Add(line.NewSource()).Entity) : null)).Entity);
            if (opened.Contains((line.Bin.Id, line.Item.Id, line.Batch is { Id: > 0 } known ? known.Id : null, line.Serial, line.Standing, line.Quantity))) continue;
            stock.Add(line);
            fresh++;
        }

        laid.Clear();
    }

    static T Find<TKey, T>(Dictionary<TKey, T> there, TKey key, Func<T> make) where TKey : notnull => there.TryGetValue(key, out var found) ? found : there[key] = make();

    string Once(CsvRow row, string field, int most)
    {
        var code = row.Text(field, most);
        if (code.Length > 0 && !seen.Add(code)) row.Fault(field, "stands in the file twice");
        return code;
    }
}

/// <summary>Goods that stood in a bin when the book begins.</summary>
/// <param name="Row">Its line of the file.</param>
/// <param name="Number">Our batch, where the item has batches.</param>
/// <param name="Source">The vendor and their batch, where it is known.</param>
/// <param name="Until">Good until.</param>
sealed record OpeningLine(CsvRow Row, Bin Bin, Item Item, decimal Quantity, Standing Standing, string? Number, string? Serial, (int Vendor, string Number)? Source, DateOnly? Until)
{
    /// <summary>The batch, once it was looked up or made.</summary>
    public Batch? Batch { get; set; }

    public Batch NewBatch(SourceBatch? source) => new() { ItemId = Item.Id, Number = Number!, Expiry = Until, SourceBatch = source };

    public SourceBatch NewSource() => new() { ItemId = Item.Id, VendorId = Source!.Value.Vendor, Number = Source.Value.Number, Expiry = Until, BestBefore = Until };

    /// <summary>Where they stand; the batch is saved by then.</summary>
    public Place Place => Place.In(Bin.Id, Standing);

    /// <summary>What they are.</summary>
    public Goods Goods => new(Item.Id, Batch?.Id, null, Serial);

    /// <summary>It becomes an entry of the ledger, as all stock does.</summary>
    public void Write(StockBook book, int siteId, Doer doer) => book.Write(
        siteId, EntryKind.OpeningStock, doer, Bin.Address, $"{Quantities.Show(Quantity)} {Item.UnitWord} of {Item.Name} stood in {Bin.Address}.", new Movement(Goods, Quantity, new Place(Account.Adjustment), Place));
}
