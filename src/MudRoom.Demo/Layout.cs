using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Demo;

/// <summary>Low Meadow, the main depot, and Hill Barn, a small store without bins.</summary>
sealed record Layout(IReadOnlyList<WarehouseSite> Sites, IReadOnlyList<DockDoor> Doors, IReadOnlyList<Bin> Bins)
{
    public const int LowMeadow = 1;
    public const int HillBarn = 2;

    public static Layout Make()
    {
        WarehouseSite[] sites =
        [
            new()
            {
                Id = LowMeadow,
                Code = "LM",
                Name = "Low Meadow",
                TimeZone = "Europe/London",
                CompanyPrefix = "9521234",
                SsccExtension = 3,
                // Two old scanners cannot send control character 29, and say so by a hat; all type a tilde first.
                Scanner = new ScannerSettings("~", "", "^"),
            },
            new()
            {
                Id = HillBarn,
                Code = "HB",
                Name = "Hill Barn",
                TimeZone = "Europe/London",
                CompanyPrefix = "9521235",
                SsccExtension = 3,
                HasAddresses = false,
            },
        ];
        string[] equipment = ["dock, cold lock", "dock, leveller", "ramp, container", "yard level, class 5.1", "vans, parcels"];
        string[] vehicles = ["truck", "truck van", "container truck", "truck", "van parcel"];
        StorageClass[][] special =
        [
            [StorageClass.Cold],
            [],
            [StorageClass.Cold],
            [StorageClass.Oxidiser, StorageClass.Gas],
            [],
        ];
        var doors = equipment
            .Select(
                (e, i) =>
                    new DockDoor
                    {
                        Id = i + 1,
                        SiteId = LowMeadow,
                        Number = i + 1,
                        Equipment = e,
                        X = 8 + i * 12,
                        Vehicles = [.. vehicles[i].Split(' ')],
                        Special = [.. special[i]],
                    }
            )
            .ToList();
        doors.Add(
            new DockDoor
            {
                Id = 6,
                SiteId = HillBarn,
                Number = 1,
                Equipment = "yard level",
                X = 5,
            }
        );
        return new Layout(sites, doors, [.. MakeBins(doors)]);
    }

    /// <summary>The yard: two places for containers, four for trucks, one with a plug for cold goods, one for vans.</summary>
    public static IReadOnlyList<YardSpot> Spots() =>
        [
            .. new[]
            {
                "truck container",
                "truck container",
                "truck van",
                "truck van",
                "truck van",
                "truck van",
                "truck",
                "van parcel",
            }.Select(
                (v, i) =>
                    new YardSpot
                    {
                        SiteId = LowMeadow,
                        Number = $"{i + 1}",
                        Vehicles = [.. v.Split(' ')],
                        ColdPlug = i == 6,
                        X = 6 + i * 8,
                    }
            ),
        ];

    /// <summary>Three printers by the doors that collect what they print, and reasons of the floor.</summary>
    public static DoorSettings Counting() =>
        new()
        {
            RestAsOrdered = true,
            Reasons =
            [
                new AsideReason("Torn or crushed", Aside.Damaged, WantsSentence: true),
                new AsideReason("Broken", Aside.Damaged, WantsSentence: true, WantsPicture: true),
                new AsideReason("Wet", Aside.Damaged, WantsSentence: true),
            ],
            Printers = [new Printer("Doors 1 and 2"), new Printer("Door 3"), new Printer("Doors 4 and 5")],
            Prints =
            [
                new PrintRule(PrintEvent.UnitCounted, 1, "Doors 1 and 2"),
                new PrintRule(PrintEvent.UnitCounted, 2, "Doors 1 and 2"),
                new PrintRule(PrintEvent.UnitCounted, 3, "Door 3"),
                new PrintRule(PrintEvent.UnitCounted, 4, "Doors 4 and 5", "4x6"),
                new PrintRule(PrintEvent.CountedAside, null, "Door 3"),
            ],
        };

    public static PlanSettings Plan()
    {
        (int Door, int From, int To)[] week =
        [
            (1, 6 * 60, 15 * 60),
            (2, 6 * 60, 17 * 60),
            (3, 6 * 60, 17 * 60),
            (4, 6 * 60, 17 * 60),
            (5, 7 * 60, 16 * 60 + 30),
        ];
        DayOfWeek[] days = [DayOfWeek.Monday, DayOfWeek.Tuesday, DayOfWeek.Wednesday, DayOfWeek.Thursday, DayOfWeek.Friday];
        return new PlanSettings
        {
            Hours =
            [
                .. days.SelectMany(d =>
                    week.Select(w => new DoorHours(w.Door, d, TimeOnly.MinValue.AddMinutes(w.From), TimeOnly.MinValue.AddMinutes(w.To)))
                ),
                .. week.Select(w => new DoorHours(w.Door, DayOfWeek.Saturday, TimeOnly.MinValue.AddMinutes(w.From), new TimeOnly(12, 0))),
            ],
            Holidays =
            [
                new Holiday(new DateOnly(2025, 12, 25), "Midwinter", null),
                new Holiday(new DateOnly(2026, 1, 1), "New Year", null),
                new Holiday(new DateOnly(2026, 3, 13), "stocktaking, half day", new TimeOnly(13, 0)),
            ],
            FreeDays = [new FreeDays("Windlass Line", 4), new FreeDays("Quayhaven", 6)],
        };
    }

    static IEnumerable<Bin> MakeBins(List<DockDoor> doors)
    {
        var id = 0;
        foreach (var door in doors)
            for (var place = 1; place <= (door.SiteId == LowMeadow ? 5 : 3); place++)
                yield return new Bin
                {
                    Id = ++id,
                    SiteId = door.SiteId,
                    Address = $"{(door.SiteId == LowMeadow ? "D" : "HB-D")}{door.Number}-R{place}",
                    Zone = "Receiving",
                    Function = BinFunction.Staging,
                    DoorId = door.Id,
                    X = door.X - 3 + place * 1.5m,
                    Y = 3,
                    MaxMass = 5000,
                    MaxVolume = 20000,
                    MaxLength = 12,
                    MixItems = true,
                    MixBatches = true,
                };
        string[] aisles = ["A", "B", "C", "D", "E", "F"];
        for (var a = 0; a < aisles.Length; a++)
        for (var bay = 1; bay <= 10; bay++)
        for (var level = 1; level <= 4; level++)
            yield return Rack(++id, aisles[a], a, bay, level);
        for (var bay = 1; bay <= 8; bay++)
        for (var level = 1; level <= 3; level++)
            yield return Room(
                ++id,
                $"K-{bay:00}-{level}",
                "Cold seed room",
                BinFunction.Reserve,
                StorageClass.Cold,
                72 + bay * 1.2m,
                32,
                bay,
                level,
                900,
                1900
            );
        for (var n = 1; n <= 6; n++)
            yield return Room(
                ++id,
                $"O-{n:00}-1",
                "Oxidiser cage",
                BinFunction.Reserve,
                StorageClass.Oxidiser,
                73 + n * 1.5m,
                24,
                n,
                1,
                2500,
                3000
            );
        for (var n = 1; n <= 4; n++)
            yield return Room(++id, $"G-{n:00}-1", "Gas cage", BinFunction.Reserve, StorageClass.Gas, 84 + n * 1.5m, 24, n, 1, 800, 2000);
        for (var n = 1; n <= 4; n++)
            yield return Room(++id, $"S-{n:00}-1", "Secure cupboard", BinFunction.Pick, StorageClass.Secure, 60 + n, 8, n, 1, 80, 300);
        for (var n = 1; n <= 12; n++)
            yield return Room(++id, $"F-{n:00}-0", "Floor", BinFunction.Floor, StorageClass.Ambient, 6 + n * 4, 43, n, 0, 4000, 9000);
        for (var n = 1; n <= 6; n++)
            yield return Room(
                ++id,
                $"BENCH-{n}",
                "Bench",
                BinFunction.Bench,
                StorageClass.Ambient,
                72 + n * 2,
                8,
                n,
                1,
                3000,
                9000,
                mix: true
            );
        for (var n = 1; n <= 12; n++)
            yield return Room(
                ++id,
                $"CAGE-{n:00}",
                "Quarantine cage",
                BinFunction.Cage,
                StorageClass.Ambient,
                72 + n * 1.2m,
                16,
                n,
                1,
                3000,
                6000,
                mix: true
            );
        for (var n = 1; n <= 2; n++)
            yield return Room(
                ++id,
                $"SCRAP-{n}",
                "Scrap",
                BinFunction.Scrap,
                StorageClass.Ambient,
                86 + n * 2,
                8,
                n,
                1,
                3000,
                9000,
                mix: true
            );
        for (var n = 1; n <= 3; n++)
            yield return Room(
                ++id,
                $"LANE-{n}",
                "Dispatch",
                BinFunction.Dispatch,
                StorageClass.Ambient,
                64 + n * 2,
                3,
                n,
                1,
                9000,
                30000,
                mix: true
            );
        yield return new Bin
        {
            Id = ++id,
            SiteId = HillBarn,
            Address = "HB-STORE",
            Zone = "Store",
            Function = BinFunction.Floor,
            X = 5,
            Y = 8,
            MaxMass = 90000,
            MaxVolume = 900000,
            MaxLength = 12,
            MixItems = true,
            MixBatches = true,
        };
    }

    static Bin Rack(int id, string aisle, int number, int bay, int level)
    {
        var oversize = number >= 4;
        return new Bin
        {
            Id = id,
            SiteId = LowMeadow,
            Address = $"{aisle}-{bay:00}-{level}",
            Zone =
                number == 0 ? "Pick"
                : oversize ? "Long goods"
                : "Dry reserve",
            Aisle = aisle,
            Bay = bay,
            Level = level,
            Function = number == 0 ? BinFunction.Pick : BinFunction.Reserve,
            StorageClass =
                number == 0 ? StorageClass.Ambient
                : oversize ? StorageClass.Oversize
                : StorageClass.Dry,
            X = 6 + number * 11,
            Y = 10 + bay * 2.5m,
            Height = (level - 1) * 1.6m,
            MaxMass = number == 0 ? 400 : 1000,
            MaxVolume =
                number == 0 ? 900
                : oversize ? 4000
                : 2000,
            MaxLength = oversize ? 4 : 1.3m,
            MixItems = number == 0,
            MixBatches = number == 0,
            Blocked = aisle == "C" && bay == 3 && level == 2,
        };
    }

    static Bin Room(
        int id,
        string address,
        string zone,
        BinFunction function,
        StorageClass storage,
        decimal x,
        decimal y,
        int bay,
        int level,
        decimal mass,
        decimal volume,
        bool mix = false
    ) =>
        new()
        {
            Id = id,
            SiteId = LowMeadow,
            Address = address,
            Zone = zone,
            Aisle = zone,
            Bay = bay,
            Level = level,
            Function = function,
            StorageClass = storage,
            X = x,
            Y = y,
            Height = Math.Max(0, level - 1) * 1.4m,
            MaxMass = mass,
            MaxVolume = volume,
            MaxLength = 4,
            MixItems = mix,
            MixBatches = mix,
        };
}
