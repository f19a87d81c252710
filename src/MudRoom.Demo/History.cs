using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Demo;

/// <summary>
/// Ninety days of arrivals before the Tuesday, for rates, punctuality and figures. Vendors are quick or slow, hauliers punctual or not,
/// each with
/// a spread of their own; what happened is drawn from these, and from nothing that Mud Room forecasts with.
/// </summary>
sealed class History(Dictionary<string, Item> items, Dictionary<string, Vendor> vendors, List<Order> orders, List<Step> steps)
{
    readonly Random random = new(90);
    readonly Random luck = new(15);
    int number = 1900;

    // vendor, item, pack, packs at least and at most, vehicle, door, how its loads really compare with the standard, haulier.
    static readonly (string Vendor, string Item, int Least, int Most, string Vehicle, int Door, double Pace, string Haulier)[] habits =
    [
        ("QUER", "PF-50", 6, 24, "truck", 1, 0.92, "Wrenmoor Carriers"),
        ("HALV", "SD-CARR", 8, 20, "truck", 1, 1.05, "Fellgate Haulage"),
        ("ZAND", "ON-10", 8, 20, "truck", 1, 1.2, "Polder Trans"),
        ("BRAC", "HH-16", 8, 22, "truck", 2, 1, "Fellgate Haulage"),
        ("VALM", "TP-18", 6, 18, "truck", 2, 1.35, "Polder Trans"),
        ("LATT", "HF-17", 4, 14, "truck", 2, 1.1, "Wrenmoor Carriers"),
        ("NILG", "CB-05", 380, 900, "container", 3, 1.15, "Orrin Drayage"),
        ("LAMG", "GP-24", 300, 800, "container", 3, 1.4, "Orrin Drayage"),
        ("SALT", "LS-05", 5, 16, "truck", 4, 0.95, "Fellgate Haulage"),
        ("QUER", "BK-60", 6, 20, "truck", 4, 0.92, "Wrenmoor Carriers"),
        ("TARN", "DL-16", 20, 110, "van", 5, 1, "Parcels of Dene"),
        ("BRAC", "HS-15", 15, 80, "van", 5, 1, "Parcels of Dene"),
        ("MALA", "SD-FEN", 2, 6, "truck", 1, 1.1, "Polder Trans"),
        ("WERV", "SD-LETT", 2, 8, "truck", 1, 0.9, "Polder Trans"),
        ("MALO", "TK-15", 6, 20, "truck", 2, 1.15, "Polder Trans"),
        ("OLLE", "CP-20", 4, 16, "truck", 4, 1.3, "Fellgate Haulage"),
        ("OLLE", "SR-38", 10, 60, "van", 5, 1.2, "Parcels of Dene"),
        ("KITA", "GK-07", 6, 30, "van", 5, 0.9, "Parcels of Dene"),
    ];

    // How a vendor keeps its word, best first: how often late and by how many days at most, how often something is missing for good, how
    // often something is broken.
    static readonly Dictionary<string, (double Late, int Days, double Short, double Broken)> words = new()
    {
        ["QUER"] = (0.02, 1, 0.01, 0),
        ["HALV"] = (0.03, 1, 0.01, 0),
        ["KITA"] = (0.04, 2, 0, 0),
        ["WERV"] = (0.05, 2, 0.02, 0.01),
        ["LATT"] = (0.08, 2, 0.02, 0.01),
        ["BRAC"] = (0.1, 3, 0.04, 0.02),
        ["TARN"] = (0.12, 3, 0.05, 0.01),
        ["SALT"] = (0.15, 4, 0.03, 0.03),
        ["MALO"] = (0.2, 4, 0.05, 0.03),
        ["NILG"] = (0.25, 6, 0.12, 0.06),
        ["MALA"] = (0.3, 8, 0.08, 0.05),
        ["ZAND"] = (0.4, 5, 0.1, 0.02),
        ["VALM"] = (0.45, 7, 0.08, 0.15),
        ["LAMG"] = (0.5, 12, 0.15, 0.3),
        ["OLLE"] = (0.7, 10, 0.4, 0.2),
    };

    // Minutes a haulier's vehicles come after what was booked, and how far they scatter.
    static readonly Dictionary<string, (double Late, double Spread)> hauliers = new()
    {
        ["Wrenmoor Carriers"] = (0, 8),
        ["Fellgate Haulage"] = (3, 14),
        ["Polder Trans"] = (8, 24),
        ["Orrin Drayage"] = (2, 16),
        ["Parcels of Dene"] = (0, 12),
    };

    public void Write()
    {
        var holidays = new[] { new DateOnly(2025, 12, 25), new DateOnly(2026, 1, 1) };
        for (var day = new DateOnly(2025, 12, 10); day <= new DateOnly(2026, 3, 9); day = day.AddDays(1))
        {
            if (day.DayOfWeek == DayOfWeek.Sunday || holidays.Contains(day))
                continue;
            // From 26 February on doors 1, 2 and 5 have their own story.
            var doors = day >= new DateOnly(2026, 2, 24) ? new[] { 3, 4 } : [1, 2, 3, 4, 5];
            foreach (var door in doors)
                OneDoor(day, door);
        }

        Sheets();
    }

    // The mean gap of the secateurs' past lots, in mm: steady, then six lots each wider than the one before (a tool of the vendor
    // wears); and how many of the sample had a soft blade.
    static readonly (int Month, int Day, double Gap, int Soft)[] secateurs =
    [
        (12, 11, 0.085, 0),
        (12, 16, 0.072, 0),
        (12, 22, 0.094, 1),
        (12, 30, 0.078, 0),
        (1, 7, 0.066, 1),
        (1, 13, 0.088, 2),
        (1, 19, 0.097, 0),
        (1, 27, 0.075, 1),
        (2, 2, 0.07, 0),
        (2, 9, 0.078, 0),
        (2, 16, 0.087, 1),
        (2, 23, 0.095, 0),
        (3, 2, 0.104, 1),
        (3, 6, 0.112, 0),
    ];

    // The mean moisture of the rye's past lots, in percent: one came in wet weather.
    static readonly (int Month, int Day, double Moisture)[] rye =
    [
        (12, 12, 7.9),
        (12, 19, 8.05),
        (1, 5, 7.85),
        (1, 14, 8),
        (1, 23, 7.95),
        (2, 4, 8.1),
        (2, 13, 8.65),
        (2, 25, 7.9),
        (3, 4, 8),
    ];

    /// <summary>The lots of the last ninety days that were looked at by their plan: 240 secateurs, 40 sacks of rye at a time.</summary>
    void Sheets()
    {
        Secateurs();
        var chance = new Random(6644);
        foreach (var (month, of, moisture) in rye)
        {
            var day = new DateOnly(month == 12 ? 2025 : 2026, month, of);
            var begins = At(day, 6, 0);
            var habit = ("WERV", "SD-RYE", 40, 40, "truck", 1, 0.9, "Polder Trans");
            Load(day, habit, 40, 1, "maren", begins, begins.AddMinutes(-12), begins, begins.AddMinutes(35), () =>
                new Dictionary<string, IReadOnlyList<decimal>>
                {
                    ["Moisture"] =
                    [
                        .. Enumerable.Range(0, 13).Select(_ => decimal.Round((decimal)(moisture + 0.3 * (chance.NextDouble() - 0.5)), 1)),
                    ],
                }
            );
        }
    }

    void Secateurs()
    {
        var chance = new Random(2859);
        foreach (var (month, of, gap, soft) in secateurs)
        {
            var day = new DateOnly(month == 12 ? 2025 : 2026, month, of);
            var habit = ("KITA", "SC-21", 4, 4, "van", 5, 0.9, "Parcels of Dene");
            var begins = At(day, 6, 30);
            Load(day, habit, 4, 5, "ikenna", begins, begins.AddMinutes(-9), begins, begins.AddMinutes(22), Values);

            Dictionary<string, IReadOnlyList<decimal>> Values() =>
                new()
                {
                    ["Gap at the tip"] = [.. Drawn(gap, 0.008, 2, 0.14)],
                    ["Hardness"] = [.. Drawn(56, 0.6, 1, 57.8).Select((v, i) => i < soft ? 53.6m : v)],
                    ["Length"] = [.. Drawn(212, 0.9, 1, 214.6)],
                };
        }

        IEnumerable<decimal> Drawn(double mean, double spread, int digits, double most)
        {
            for (var piece = 0; piece < 32; piece++)
            {
                var normal = Math.Sqrt(-2 * Math.Log(1 - chance.NextDouble())) * Math.Cos(2 * Math.PI * chance.NextDouble());
                yield return decimal.Round((decimal)Math.Clamp(mean + spread * normal, 2 * mean - most, most), digits);
            }
        }
    }

    /// <summary>One door works through its day in the planned order.</summary>
    void OneDoor(DateOnly day, int door)
    {
        var short_ = day.DayOfWeek == DayOfWeek.Saturday;
        var loads =
            short_ ? (door is 3 or 4 ? 0 : 1)
            : door == 3 ? 1 + random.Next(2)
            : 1 + random.Next(3);
        var planned = At(day, door == 5 ? 12 : 7, random.Next(0, 5) * 5);
        var free = planned.AddHours(-2);
        for (var i = 0; i < loads; i++)
        {
            var mine = habits.Where(h => h.Door == door).ToList();
            var habit = mine[random.Next(mine.Count)];
            var handling = LoadRules.Handling(habit.Vehicle, [items[habit.Item]]);
            if (habit.Vehicle == "container")
                handling = Handling.FloorLoaded;
            var units = random.Next(habit.Least, habit.Most + 1);
            string[] crew =
                door == 3
                    ? ["leila", "tomasz"]
                    :
                    [
                        door switch
                        {
                            1 => "maren",
                            2 => "ikenna",
                            4 => "ikenna",
                            _ => "maren",
                        },
                    ];
            var standard = UnloadingTime.Standard(handling, packs: units, 1, crew.Length, new PlanSettings());
            var gate = planned.AddMinutes(-10 + hauliers[habit.Haulier].Late + Normal() * hauliers[habit.Haulier].Spread);
            var start = Latest(planned, gate.AddMinutes(10), free.AddMinutes(10));
            var done = start.AddMinutes(standard * habit.Pace * Math.Exp(Normal() * 0.2));
            Load(day, habit, units, door, string.Join(' ', crew), planned, gate, Minute(start), Minute(done));
            free = done;
            planned = At(day, 0, 0)
                .AddMinutes(Math.Ceiling((planned.AddMinutes(standard * 1.25 + 25) - At(day, 0, 0)).TotalMinutes / 5) * 5);
        }
    }

    void Load(
        DateOnly day,
        (string Vendor, string Item, int Least, int Most, string Vehicle, int Door, double Pace, string Haulier) habit,
        int units,
        int door,
        string crew,
        DateTimeOffset planned,
        DateTimeOffset gate,
        DateTimeOffset start,
        DateTimeOffset done,
        Func<IReadOnlyDictionary<string, IReadOnlyList<decimal>>>? measured = null
    )
    {
        var item = items[habit.Item];
        var vendor = vendors[habit.Vendor];
        var pack = item.PackLevels.Where(p => !p.IsUnit).MaxBy(p => p.Content(1))!;
        var quantity = pack.Content(Math.Clamp(units, 2, 60));
        var order = $"PO-{number + 1000}";
        var word = words[habit.Vendor];
        var due = day.AddDays(luck.NextDouble() < word.Late ? -luck.Next(1, word.Days + 1) : luck.Next(0, 2));
        var packs = quantity / pack.Content(1);
        var missing = packs > 1 && luck.NextDouble() < word.Short ? luck.Next(1, 1 + (int)Math.Max(1, packs / 10)) : 0;
        var broken = packs - missing > 1 && luck.NextDouble() < word.Broken ? 1 : 0;
        orders.Add(
            new Order
            {
                Number = order,
                VendorId = vendor.Id,
                OrderDate = day.AddDays(-random.Next(14, 40)),
                Approvals = [new Approval("Dilys Pemberwick", day.AddDays(-13), null)],
                Lines =
                [
                    new OrderLine
                    {
                        Number = 1,
                        ItemId = item.Id,
                        Price = decimal.Round(1 + random.Next(50, 4000) / 100m, 2),
                        Parts =
                        [
                            new LinePart
                            {
                                ItemId = item.Id,
                                VendorId = vendor.Id,
                                SiteId = Layout.LowMeadow,
                                Due = due,
                                Ordered = quantity,
                            },
                        ],
                    },
                ],
            }
        );
        var key = $"history-{number}";
        steps.Add(
            new Step.Arrive(
                At(day.AddDays(-1), 14, 0).AddSeconds(number % 3000),
                "wanjiru",
                key,
                $"A-{number}",
                [order],
                planned,
                habit.Vehicle,
                null,
                $"{habit.Haulier[..2].ToUpperInvariant()} {number % 900 + 100}",
                habit.Haulier,
                door,
                null,
                crew,
                units
            )
        );
        if (gate < start.AddMinutes(-1))
            steps.Add(new Step.LetIn(Minute(gate), "efua", key, ""));
        steps.Add(new Step.AtDoor(start, "wanjiru", key, door));
        var receiver = crew.Split(' ')[0];
        var count = new Step.Count(
            start + (done - start) * 0.7,
            receiver,
            key,
            item.Code,
            pack.Name,
            packs - missing - broken,
            item.NeedsSourceBatch ? $"{habit.Vendor[..2]}-{number}" : null,
            item.NeedsDates ? day.AddDays(-30).ToString("yyyy-MM-dd") : null,
            null,
            item.NeedsOrigin ? vendor.Country : null
        );
        steps.Add(count);
        if (broken > 0)
        {
            steps.Add(
                count with
                {
                    At = start + (done - start) * 0.8,
                    Packs = broken,
                    Aside = Aside.Damaged,
                    Note = "Crushed at the edge of the load.",
                }
            );
            steps.Add(new Step.Scrap(done.AddMinutes(30), "wanjiru", key));
        }

        steps.Add(new Step.Close(done, receiver, key, NeverComing: missing > 0));
        if (measured is not null)
            steps.Add(new Step.Sheet(done.AddMinutes(10), "sunita", item.Code, measured(), new Dictionary<int, string>()));
        steps.Add(new Step.ShipOut(done.AddMinutes(20), "callum", key));
        steps.Add(new Step.DriveOff(done.AddMinutes(8), "efua", key));
        number++;
    }

    double Normal() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());

    static DateTimeOffset Latest(params DateTimeOffset[] times) => times.Max();

    static DateTimeOffset Minute(DateTimeOffset at) => new(at.Ticks / TimeSpan.TicksPerMinute * TimeSpan.TicksPerMinute, at.Offset);

    static DateTimeOffset At(DateOnly day, int hour, int minute) => new(day.ToDateTime(new TimeOnly(hour, minute)), TimeSpan.Zero);
}
