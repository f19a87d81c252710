using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Site;

/// <summary>How the set-up is written in files: the columns of each kind, and the cells of what is there. What is written is read again as
/// it is.</summary>
static class SetUpColumns
{
    /// <summary>Columns that a file must have: they say what each line is about.</summary>
    public static string[] Required(SetUpKind kind) =>
        kind switch
        {
            SetUpKind.Items or SetUpKind.Vendors => ["code"],
            SetUpKind.Packs => ["item", "pack"],
            SetUpKind.Doors => ["number"],
            SetUpKind.Bins => ["address"],
            SetUpKind.People => ["sign_in"],
            SetUpKind.Stock => ["bin", "item", "quantity"],
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    /// <summary>Columns that a file may have: what is not there is left as it is; a new one needs some of them.</summary>
    public static string[] Optional(SetUpKind kind) =>
        kind switch
        {
            SetUpKind.Items =>
            [
                "name",
                "category",
                "unit",
                "step",
                "storage",
                "kg",
                "litres",
                "longest_m",
                "rate",
                "home_zone",
                "asks",
                "shelf_life_days",
                "min_remaining_days",
                "ruling_date",
                "batch_prefix",
                "over_percent",
                "over_cap",
                "plan",
            ],
            SetUpKind.Packs => ["holds", "of", "gtin", "labelled"],
            SetUpKind.Vendors => ["name", "country", "contact", "telephone", "mail", "items", "min_remaining_days", "gln"],
            SetUpKind.Doors => ["equipment", "vehicles", "special", "x", "week", "saturday"],
            SetUpKind.Bins =>
            [
                "zone",
                "aisle",
                "bay",
                "level",
                "function",
                "storage",
                "max_kg",
                "max_litres",
                "max_m",
                "x",
                "y",
                "height",
                "mix_items",
                "mix_batches",
                "blocked",
                "door",
            ],
            SetUpKind.People => ["name", "roles", "sites", "skills", "active", FirstPassword],
            SetUpKind.Stock => ["standing", "batch", "source_batch", "vendor", "good_until", "serial", "unit", "pack"],
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };

    /// <summary>A one-time password; taken in and never taken out.</summary>
    public const string FirstPassword = "first_password";

    /// <summary>The columns of what is taken out.</summary>
    public static IReadOnlyList<string> Out(SetUpKind kind) => [.. Required(kind), .. Optional(kind).Where(c => c != FirstPassword)];

    public static object?[] Of(Item i, SetUp setUp) =>
        [
            i.Code,
            i.Name,
            i.Category,
            i.BaseUnit,
            i.Step,
            i.StorageClass,
            i.Mass,
            i.Volume,
            i.LongestSide,
            i.PickRateClass,
            i.HomeZone,
            Asks(i),
            i.ShelfLifeDays,
            i.MinimumRemainingDays,
            i.RulingDate,
            i.BatchPrefix,
            i.OverPercent,
            i.OverCap,
            i.InspectionPlanId is { } plan ? setUp.Plans[plan].Name : null,
        ];

    public static object?[] Of(Item i, PackLevel p) => [i.Code, p.Name, p.Numerator, p.Denominator, p.Gtin, Word(p.IsUnit)];

    /// <summary>The items that each vendor has a code of their own for.</summary>
    public static ILookup<int, Item> ByVendor(IEnumerable<Item> items) =>
        items
            .SelectMany(i => i.VendorCodes.Select(c => c.VendorId).Distinct().Select(vendor => (vendor, i)))
            .ToLookup(p => p.vendor, p => p.i);

    /// <param name="items">Those that it has codes of its own for.</param>
    public static object?[] Of(Vendor v, IEnumerable<Item> items) =>
        [
            v.Code,
            v.Name,
            v.Country,
            v.ContactName,
            v.Telephone,
            v.Mail,
            string.Join(
                '|',
                items
                    .SelectMany(i => i.VendorCodes.Where(c => c.VendorId == v.Id).Select(c => $"{c.Code}={i.Code}"))
                    .Order(StringComparer.Ordinal)
            ),
            v.MinimumRemainingDays,
            v.Gln,
        ];

    /// <param name="hours">Of its site.</param>
    public static object?[] Of(DockDoor d, IReadOnlyList<DoorHours> hours) =>
        [
            d.Number,
            d.Equipment,
            string.Join('|', d.Vehicles),
            string.Join('|', d.Special),
            d.X,
            Hours(hours, d.Number, DayOfWeek.Monday),
            Hours(hours, d.Number, DayOfWeek.Saturday),
        ];

    public static object?[] Of(Bin b, SetUp setUp) =>
        [
            b.Address,
            b.Zone,
            b.Aisle,
            b.Bay,
            b.Level,
            b.Function,
            b.StorageClass,
            b.MaxMass,
            b.MaxVolume,
            b.MaxLength,
            b.X,
            b.Y,
            b.Height,
            Word(b.MixItems),
            Word(b.MixBatches),
            Word(b.Blocked),
            b.DoorId is { } door ? setUp.Doors[door].Number : null,
        ];

    public static object?[] Of(Person p) =>
        [
            p.SignInName,
            p.Name,
            string.Join('|', p.Roles),
            string.Join('|', p.Sites),
            string.Join('|', p.Skills.Select(s => $"{s.Name.Replace(' ', '-')}={s.Until:yyyy-MM-dd}")),
            Word(p.Active),
        ];

    /// <summary>Letters for what an item asks: batch, source batch, dates, origin, serial.</summary>
    static string Asks(Item i) =>
        (i.NeedsBatch ? "B" : "")
        + (i.NeedsSourceBatch ? "S" : "")
        + (i.NeedsDates ? "D" : "")
        + (i.NeedsOrigin ? "O" : "")
        + (i.NeedsSerial ? "N" : "");

    static string Word(bool isSo) => isSo ? "yes" : "no";

    /// <summary>Hours of a door on a day, as 06:00-17:00; none where it is shut.</summary>
    public static string? Hours(IReadOnlyList<DoorHours> hours, int door, DayOfWeek day) =>
        hours.FirstOrDefault(h => h.Door == door && h.Day == day) is { } on ? $"{on.From:HH:mm}-{on.To:HH:mm}" : null;

    /// <summary>What differs between the cells of something as it was and as it will be.</summary>
    /// <param name="line">Its line of the file.</param>
    /// <param name="what">What it is, in words.</param>
    public static IEnumerable<FieldChange> Differences(SetUpKind kind, int line, string what, object?[] before, object?[] after) =>
        Out(kind)
            .Select((column, i) => new FieldChange(line, what, column, CsvOut.Text(before[i]), CsvOut.Text(after[i])))
            .Where(c => c.From != c.To);

    /// <summary>Who speaks for a vendor, and where they are called, is kept in its row and not in a book that never forgets.</summary>
    static readonly string[] personal = ["contact", "telephone", "mail"];

    /// <summary>A change as the book keeps it.</summary>
    public static FieldKept Kept(FieldChange change) =>
        personal.Contains(change.Field) ? new FieldKept(change.Field, null, null) : new FieldKept(change.Field, change.From, change.To);
}
