using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Demo;

/// <summary>The orders of Thistlebrook and what happened up to the Tuesday, 11:20.</summary>
sealed class Story
{
    static readonly DateOnly tuesday = new(2026, 3, 10);
    readonly Dictionary<string, Item> items;
    readonly Dictionary<string, Vendor> vendors;
    readonly Random random = new(2026);
    readonly List<Order> orders = [];
    readonly List<Step> steps = [];

    public Story(IReadOnlyList<Item> items, IReadOnlyList<Vendor> vendors)
    {
        this.items = items.ToDictionary(i => i.Code);
        this.vendors = vendors.ToDictionary(v => v.Code);
        OpeningStock = Opening();
        new History(this.items, this.vendors, orders, steps).Write();
        PastDays();
        Today();
        Steps = [.. steps.OrderBy(s => s.At)];
    }

    public IReadOnlyList<Order> Orders => orders;

    public IReadOnlyList<OpeningStock> OpeningStock { get; }

    public IReadOnlyList<Step> Steps { get; }

    static List<OpeningStock> Opening() =>
        [
            new("CB-05", "C-06-1", 96, "NC-1188", new DateOnly(2027, 12, 1)),
            new("CB-05", "B-02-1", 96, "NC-1188", new DateOnly(2027, 12, 1)),
            new("CG-1M", "C-07-1", 120, "NG-0931", new DateOnly(2027, 11, 1)),
            new("TP-18", "D-02-1", 480, null, null),
            new("TP-18", "D-03-1", 384, null, null),
            new("TP-24", "D-04-1", 160, null, null),
            new("TS-18", "D-05-1", 900, null, null),
            new("SC-21", "A-02-1", 64, "KB-1822", null),
            new("SC-18", "A-02-2", 120, "KB-1790", null),
            new("HH-16", "A-03-1", 12, null, null),
            new("SD-CARR", "K-05-2", 620, "HF-C-771", new DateOnly(2027, 9, 30)),
            new("SD-LEEK", "K-04-1", 240, "HF-L-1147", new DateOnly(2027, 8, 31)),
            new("SD-LEEK", "K-05-1", 120, "HF-L-1147", new DateOnly(2027, 8, 31)),
            new("SD-LEEK", "K-07-3", 20, "HF-L-1147", new DateOnly(2027, 8, 31)),
            new("SD-BEET", "K-06-1", 410, "HF-B-802", new DateOnly(2027, 10, 31)),
            new("SD-MUS", "K-02-1", 350, "MK-M-2107", new DateOnly(2027, 6, 30)),
            new("PF-50", "F-01-0", 102, null, null),
            new("PF-50", "F-02-0", 153, null, null),
            new("BK-60", "F-04-0", 45, null, null),
            new("CN-25", "O-01-1", 38, "SN-5120", new DateOnly(2028, 1, 31)),
            new("AN-25", "O-02-1", 22, "SN-5233", new DateOnly(2028, 2, 28)),
            new("WG-40", "G-01-1", 144, null, null),
            new("BC-24", "E-02-1", 40, null, null),
            new("HF-17", "F-03-2", 18, null, null),
            new("HS-15", "E-05-1", 48, null, null),
            new("DL-16", "B-05-1", 7200, null, null),
            new("LS-05", "B-07-1", 128, "SN-7001", new DateOnly(2027, 9, 30)),
            new("CP-08", "A-05-1", 2000, null, null),
            new("PM-SA", "K-07-1", 80, "HV-0212", new DateOnly(2026, 3, 31)),
        ];

    /// <summary>Two working weeks before the Tuesday: orders received, put away, some goods issued.</summary>
    void PastDays()
    {
        string[][] loads =
        [
            ["QUER", "PF-50 102", "BK-60 45"],
            ["HALV", "SD-CARR 400", "SD-BEET 200"],
            ["BRAC", "HH-16 36", "SP-DG 24"],
            ["TARN", "DL-16 2400"],
            ["VALM", "TS-18 600", "TP-24 120"],
            ["LATT", "HF-30 12"],
            ["QUER", "PF-25 96"],
            ["KITA", "GK-07 48"],
            ["SALT", "ST-CU 96", "LS-05 128"],
            ["HALV", "SD-LEEK 300"],
            ["BRAC", "FK-DG 24"],
            ["NILG", "CP-08 4000"],
            ["TARN", "DL-16 1200"],
            ["QUER", "PF-50 51"],
            ["VALM", "TP-18 240"],
            ["HALV", "SD-BEET 160"],
            ["LATT", "HF-17 12"],
            ["BRAC", "HS-15 24"],
            ["QUER", "BK-60 45"],
            ["SALT", "CN-25 40"],
        ];
        var day = new DateOnly(2026, 2, 26);
        for (var i = 0; i < loads.Length; i++)
        {
            if (i > 0 && i % 2 == 0)
                day = NextWorkingDay(day);
            var load = loads[i];
            var number = $"PO-{4301 + i * 3}";
            Order(number, load[0], day.AddDays(-21), load[1..].Select(l => (l, day, 0m, (string?)null)).ToArray());
            var key = $"past-{i}";
            // Cold goods come through the cold lock, oxidisers through the door made for them.
            var door = Parse(load[1]).Item.StorageClass switch
            {
                StorageClass.Cold => 1,
                StorageClass.Oxidiser => 4,
                _ => i % 2 + 1,
            };
            var at = At(day, 7 + i % 2 * 3, random.Next(5, 50));
            var receiver =
                i % 3 == 0 ? "maren"
                : i % 3 == 1 ? "tomasz"
                : "leila";
            Arrive(at.AddHours(-20), key, $"A-{2570 + i}", [number], at, "truck", null, door, crew: receiver);
            steps.Add(new Step.AtDoor(at.AddMinutes(random.Next(-5, 12)), "wanjiru", key, door));
            var counting = at.AddMinutes(16);
            foreach (var line in load[1..])
            {
                var (item, quantity) = Parse(line);
                counting = counting.AddMinutes(6);
                CountAll(counting, receiver, key, item, quantity, $"{load[0][..2]}-{random.Next(1000, 9999)}", day);
            }

            steps.Add(new Step.Close(counting.AddMinutes(9), receiver, key));
            steps.Add(new Step.DriveOff(counting.AddMinutes(18), "efua", key));
            steps.Add(new Step.PutAway(counting.AddMinutes(14), i % 2 == 0 ? "petra" : "yusuf", 8));
            if (i % 2 == 1)
                steps.Add(
                    new Step.Issue(
                        counting.AddHours(2),
                        "callum",
                        Parse(load[1]).Item.Code,
                        Math.Max(1, Math.Floor(Parse(load[1]).Quantity / 4)),
                        $"C-107{i:00}"
                    )
                );
        }

        // Bare-root apple trees came on 24 February: their fourteen days end today.
        Order("PO-4288", "MALO", new DateOnly(2026, 1, 20), [("AP-BR 360", new DateOnly(2026, 2, 24), 0, null)]);
        var trees = At(new DateOnly(2026, 2, 24), 9, 0);
        Arrive(trees.AddDays(-1), "trees", "A-2566", ["PO-4288"], trees, "truck", null, 1);
        steps.Add(new Step.AtDoor(trees, "wanjiru", "trees", 1));
        steps.Add(new Step.Count(trees.AddMinutes(25), "maren", "trees", "AP-BR", "bundle", 36, "MA-APP-26", Origin: "FR"));
        steps.Add(new Step.Close(trees.AddMinutes(40), "maren", "trees"));
        steps.Add(new Step.DriveOff(trees.AddMinutes(48), "efua", "trees"));
        steps.Add(new Step.PutAway(trees.AddMinutes(50), "petra", 4));

        // Plum trees and lemons a few days ago: still in quarantine.
        Order(
            "PO-4391",
            "MALO",
            new DateOnly(2026, 2, 6),
            [("PL-BR 180", new DateOnly(2026, 3, 3), 0, null), ("LE-PT 48", new DateOnly(2026, 3, 3), 0, null)]
        );
        var plums = At(new DateOnly(2026, 3, 3), 13, 0);
        Arrive(plums.AddDays(-1), "plums", "A-2567", ["PO-4391"], plums, "truck", null, 1);
        steps.Add(new Step.AtDoor(plums, "wanjiru", "plums", 1));
        steps.Add(new Step.Count(plums.AddMinutes(20), "leila", "plums", "PL-BR", "bundle", 18, "MA-PLU-26", Origin: "FR"));
        steps.Add(new Step.Count(plums.AddMinutes(28), "leila", "plums", "LE-PT", "tray", 12, "MA-LEM-25", Origin: "IT"));
        steps.Add(new Step.Close(plums.AddMinutes(45), "leila", "plums"));
        steps.Add(new Step.DriveOff(plums.AddMinutes(50), "efua", "plums"));
        steps.Add(new Step.PutAway(plums.AddMinutes(55), "yusuf", 4));

        // Soil probes on Thursday, with lithium cells: their test report was to follow by Monday, and has not.
        Order("PO-4446", "TARN", new DateOnly(2026, 2, 4), [("SP-03 6", new DateOnly(2026, 3, 5), 0, null)]);
        var probes = At(new DateOnly(2026, 3, 5), 10, 0);
        Arrive(probes.AddDays(-1), "probes", "A-2569", ["PO-4446"], probes, "van", null, 2);
        steps.Add(new Step.AtDoor(probes, "wanjiru", "probes", 2));
        for (var i = 1; i <= 6; i++)
            steps.Add(new Step.Count(probes.AddMinutes(15 + i), "tomasz", "probes", "SP-03", "each", 1, Serial: $"SP3-26-04{i:00}"));
        steps.Add(new Step.Close(probes.AddMinutes(30), "tomasz", "probes"));
        steps.Add(new Step.DriveOff(probes.AddMinutes(36), "efua", "probes"));
        steps.Add(new Step.PutAway(probes.AddMinutes(40), "petra", 2));

        // Terracotta on Friday, forty of it broken: some with a chipped rim, some that the vendor takes back, and shards.
        Order("PO-4433", "VALM", new DateOnly(2026, 1, 22), [("TP-24 160", new DateOnly(2026, 3, 6), 0, null)]);
        var pots = At(new DateOnly(2026, 3, 6), 14, 30);
        Arrive(pots.AddDays(-1), "broken", "A-2568", ["PO-4433"], pots, "truck", null, 2);
        steps.Add(new Step.AtDoor(pots, "wanjiru", "broken", 2));
        steps.Add(new Step.Count(pots.AddMinutes(15), "ikenna", "broken", "TP-24", "stack", 15));
        steps.Add(
            new Step.Count(
                pots.AddMinutes(24),
                "ikenna",
                "broken",
                "TP-24",
                "each",
                40,
                Aside: Aside.Damaged,
                Note: "A pallet tipped over: 24 with a chipped rim, 10 cracked, the rest shards."
            )
        );
        steps.Add(new Step.Close(pots.AddMinutes(35), "ikenna", "broken"));
        steps.Add(new Step.DriveOff(pots.AddMinutes(42), "efua", "broken"));
        steps.Add(new Step.Fetch(pots.AddMinutes(45), "yusuf", "TP-24", 1));

        // Secateurs on Monday: on the bench since.
        Order(
            "PO-4460",
            "KITA",
            new DateOnly(2026, 1, 12),
            [("SC-21 240", new DateOnly(2026, 3, 9), 84, "84 promised to Hollin Nurseries for tomorrow")]
        );
        var blades = At(new DateOnly(2026, 3, 9), 13, 40);
        Arrive(blades.AddDays(-2), "blades", "A-2598", ["PO-4460"], blades, "van", null, 5);
        steps.Add(new Step.AtDoor(blades, "wanjiru", "blades", 5));
        steps.Add(new Step.Count(blades.AddMinutes(30), "ikenna", "blades", "SC-21", "carton", 4, "KB-1907"));
        steps.Add(new Step.Close(blades.AddMinutes(45), "ikenna", "blades"));
        steps.Add(new Step.DriveOff(blades.AddMinutes(52), "efua", "blades"));
        steps.Add(new Step.PutAway(blades.AddMinutes(60), "petra", 2));
        steps.Add(
            new Step.Inspect(
                At(tuesday, 10, 34),
                "sunita",
                "blades",
                "SC-21",
                26,
                new Dictionary<int, string>
                {
                    [6] = "Gap at the tip",
                    [14] = "Hardness",
                    [21] = "Length",
                },
                Sign: false
            )
        );
    }

    void Today()
    {
        Early("A1", "A-2611", "WREN", 6, 10, 1, "QUER", "PF-50 51", "PO-4451");
        Early("A2", "A-2612", "LATT", 6, 35, 2, "LATT", "HF-17 18", "PO-4453");
        Early("A3", "A-2613", "PARC", 7, 25, 5, "TARN", "DL-16 1200", "PO-4454");
        Early("A4", "A-2614", "QUER", 8, 35, 1, "QUER", "PF-25 96", "PO-4456");
        Early("A5", "A-2615", "NORD", 7, 5, 4, "SALT", "LS-05 128", "PO-4457");
        Early("A6", "A-2616", "RETU", 8, 50, 5, "BRAC", "HH-16 18", "PO-4458");
        // Aboard the last of them, a controller that a customer sends back and nobody has announced: it waits at the bench.
        steps.Add(
            new Step.ReturnAtDoor(
                At(tuesday, 9, 2),
                "maren",
                "A6",
                "HOLN",
                "IC-08",
                1,
                new ReturnTerms("Shows nothing after the cells were changed", ReturnPromise.Repair)
            )
        );
        steps.Add(new Step.Count(At(tuesday, 9, 4), "maren", "A6", "IC-08", "each", 1, Serial: "IC8-25-1187"));
        steps.Add(new Step.Fetch(At(tuesday, 9, 12), "yusuf", "IC-08", 1));

        // The container at door 3: two vendors, three orders, three quarters counted by two people.
        Order(
            "PO-4471",
            "NILG",
            new DateOnly(2025, 12, 18),
            [("CB-05 1920", tuesday, 0, null), ("CC-70 320", tuesday, 0, null), ("CG-1M 600", tuesday, 0, null)]
        );
        Order(
            "PO-4490",
            "NILG",
            new DateOnly(2026, 1, 20),
            [("CB-05 960", new DateOnly(2026, 3, 17), 0, null), ("CP-08 6000", new DateOnly(2026, 3, 17), 0, null)]
        );
        Order(
            "PO-4482",
            "MALA",
            new DateOnly(2026, 1, 5),
            [
                ("SD-MUS 1500", tuesday, 0, null),
                ("SD-FEN 1000", tuesday, 175, "Hollin Nurseries 125 kg and job J-218 50 kg, lorry at 15:00"),
                ("SD-PHA 200", tuesday, 0, null),
            ]
        );
        Arrive(
            At(tuesday.AddDays(-3), 9, 0),
            "coir",
            "A-2617",
            ["PO-4471", "PO-4490", "PO-4482"],
            At(tuesday, 8, 0),
            "container",
            "WZLU 482615 3",
            3,
            crew: "tomasz leila",
            seal: "FX 220471",
            papers: new ContainerPapers(true, "45G1", "Windlass Line", "Harebell", "114E", "Colombo", "Felixtowe Quay")
        );
        steps.Add(new Step.LetIn(At(tuesday, 7, 52), "efua", "coir", "2"));
        steps.Add(new Step.AtDoor(At(tuesday, 8, 10), "wanjiru", "coir", 3));
        Add(8, 31, "tomasz", "coir", "CB-05", "pallet", 12, "NC-1201");
        Add(9, 12, "tomasz", "coir", "CB-05", "pallet", 8, "NC-1201");
        Add(9, 30, "leila", "coir", "CC-70", "carton", 80, "NX-0455");
        // Halvorsgård calls its leek seed back at a quarter past nine; some of it is sold, and by eleven one box is not found.
        steps.Add(new Step.Issue(At(new DateOnly(2026, 2, 26), 9, 40), "callum", "SD-LEEK", 40, "SO-8127"));
        steps.Add(new Step.Issue(At(new DateOnly(2026, 3, 3), 11, 5), "yusuf", "SD-LEEK", 60, "SO-8209"));
        steps.Add(new Step.Recall(At(tuesday, 9, 12), "wanjiru", "SD-LEEK", "HF-L-1147", "germination is below what its paper says."));
        steps.Add(new Step.Fetch(At(tuesday, 9, 25), "callum", "SD-LEEK", 1));
        steps.Add(new Step.NotThere(At(tuesday, 10, 58), "callum", "SD-LEEK", "K-07-3"));
        steps.Add(new Step.PutAway(At(tuesday, 9, 40), "petra", 9));
        steps.Add(new Step.Count(At(tuesday, 9, 52), "leila", "coir", "CC-70", "carton", 3, "NX-0455", Aside: Aside.Over));
        Add(10, 2, "tomasz", "coir", "CB-05", "pallet", 5, "NC-1201");
        Add(10, 15, "leila", "coir", "SD-MUS", "sack", 58, "MK-M-2290", "2025-09-12", "2027-08-31", "IN");
        steps.Add(
            new Step.Count(
                At(tuesday, 10, 41),
                "tomasz",
                "coir",
                "SD-MUS",
                "sack",
                2,
                "MK-M-2290",
                "2025-09-12",
                "2027-08-31",
                "IN",
                Aside: Aside.Damaged,
                Note: "Two sacks torn at the seam, half a kilo spilt."
            )
        );
        Add(10, 58, "leila", "coir", "SD-PHA", "box", 9, "MK-P-0118", "2025-10-02", "2027-03-31", "IN");
        Add(11, 5, "tomasz", "coir", "CG-1M", "carton", 40, "NG-1002");
        Add(11, 12, "leila", "coir", "SD-FEN", "sack", 12, "MK-F-2291", "2025-10-31", "2027-10-30", "IN");
        Add(11, 19, "tomasz", "coir", "CG-1M", "carton", 1, "NG-1002");

        // Tools at door 2.
        Order(
            "PO-4441",
            "BRAC",
            new DateOnly(2026, 2, 2),
            [
                ("HH-16 120", new DateOnly(2026, 3, 9), 46, "Ashwick Allotments"),
                ("SP-DG 36", tuesday, 0, null),
                ("FK-DG 36", tuesday, 0, null),
                ("HS-15 48", tuesday, 0, null),
            ]
        );
        Arrive(
            At(tuesday.AddDays(-1), 15, 0),
            "tools",
            "A-2618",
            ["PO-4441"],
            At(tuesday, 10, 0),
            "truck",
            null,
            2,
            crew: "ikenna",
            plate: "BF18 TLS"
        );
        steps.Add(new Step.AtDoor(At(tuesday, 10, 6), "wanjiru", "tools", 2));
        Add(10, 24, "ikenna", "tools", "SP-DG", "bundle", 6);
        Add(10, 38, "ikenna", "tools", "FK-DG", "bundle", 6);
        Add(11, 2, "ikenna", "tools", "HH-16", "box", 12);

        // Secateurs at door 5.
        Order("PO-4479", "KITA", new DateOnly(2026, 1, 30), [("SC-18 320", tuesday, 0, null), ("GK-07 96", tuesday, 0, null)]);
        Arrive(
            At(tuesday.AddDays(-1), 16, 0),
            "snips",
            "A-2620",
            ["PO-4479"],
            At(tuesday, 11, 0),
            "van",
            null,
            5,
            crew: "maren",
            plate: "KT20 BLD"
        );
        steps.Add(new Step.AtDoor(At(tuesday, 10, 52), "wanjiru", "snips", 5));
        Add(11, 8, "maren", "snips", "SC-18", "carton", 2, "KB-1911");
        steps.Add(new Step.PutAway(At(tuesday, 11, 10), "yusuf", 3));
        steps.Add(new Step.Ask(At(tuesday, 11, 14), "yusuf", "PM-SA", "two sachets look empty"));
        steps.Add(new Step.Take(At(tuesday, 11, 17), "petra", "CB-05"));

        // Fertiliser: planned 09:30, not here; the driver says about 13:10.
        Order(
            "PO-4462",
            "SALT",
            new DateOnly(2026, 2, 10),
            [("AN-25 480", tuesday, 0, null), ("CN-25 240", tuesday, 0, null), ("ST-CU 300", new DateOnly(2026, 3, 9), 0, null)]
        );
        Arrive(
            At(tuesday.AddDays(-2), 9, 0),
            "fertiliser",
            "A-2619",
            ["PO-4462"],
            At(tuesday, 9, 30),
            "truck",
            null,
            4,
            crew: "maren",
            plate: "SM19 NUT"
        );
        steps.Add(new Step.Expect(At(tuesday, 9, 48), "efua", "fertiliser", At(tuesday, 13, 10), "driver, by telephone"));

        // Seeds for door 1 at noon: two vendors, with an item that is inspected and one that two orders want.
        Order(
            "PO-4477",
            "HALV",
            new DateOnly(2026, 2, 3),
            [("SD-CARR 400", tuesday, 60, "Perrow Gardens"), ("SD-ONIO 200", tuesday, 0, null), ("NM-50 120", tuesday, 0, null)]
        );
        Order("PO-4478", "HALV", new DateOnly(2026, 2, 17), [("SD-CARR 200", new DateOnly(2026, 3, 14), 0, null)]);
        Order("PO-4484", "KITA", new DateOnly(2026, 2, 12), [("SC-21 60", tuesday, 0, null)]);
        Arrive(
            At(tuesday.AddDays(-1), 9, 0),
            "seeds",
            "A-2621",
            ["PO-4477", "PO-4478", "PO-4484"],
            At(tuesday, 12, 0),
            "truck",
            null,
            1,
            crew: "maren"
        );

        // Onion sets: nobody planned them; in the yard since 10:52.
        Order(
            "PO-4455",
            "ZAND",
            new DateOnly(2026, 2, 1),
            [("ON-10 7200", new DateOnly(2026, 3, 9), 600, "four customers"), ("SH-10 800", new DateOnly(2026, 3, 16), 0, null)]
        );
        Arrive(
            At(tuesday, 10, 50),
            "onions",
            "A-2627",
            ["PO-4455"],
            At(tuesday, 10, 50),
            "truck",
            null,
            null,
            unplanned: true,
            plate: "ZD-27-UI"
        );
        steps.Add(new Step.LetIn(At(tuesday, 10, 52), "efua", "onions", "4"));

        // The second container, pots packed loose, and one at sea.
        Order(
            "PO-4432",
            "LAMG",
            new DateOnly(2025, 11, 20),
            [("GP-24 900", tuesday, 0, null), ("GP-30 400", tuesday, 0, null), ("GS-24 900", tuesday, 0, null)]
        );
        Arrive(
            At(tuesday.AddDays(-4), 9, 0),
            "pots",
            "A-2623",
            ["PO-4432"],
            At(tuesday, 13, 25),
            "container",
            "QKHU 205538 6",
            3,
            crew: "tomasz leila",
            units: 1040,
            seal: "QH 77120",
            papers: new ContainerPapers(true, "42G1", "Quayhaven", "Sea Campion", "026W", "Haiphong", "Felixtowe Quay")
        );
        Order(
            "PO-4449",
            "LAMG",
            new DateOnly(2025, 12, 15),
            [
                ("GP-24 1200", new DateOnly(2026, 3, 13), 40, "Perrow Gardens"),
                ("GS-24 1200", new DateOnly(2026, 3, 13), 0, null),
                ("BC-24 60", new DateOnly(2026, 3, 13), 0, null),
            ]
        );
        Arrive(
            At(tuesday.AddDays(-9), 9, 0),
            "atsea",
            "A-2605",
            ["PO-4449"],
            At(new DateOnly(2026, 3, 11), 9, 0),
            "container",
            "WZLU 731904 4",
            3,
            crew: "tomasz leila",
            units: 400,
            papers: new ContainerPapers(true, "22G1", "Windlass Line", "Harebell", "116E", "Haiphong", "Felixtowe Quay")
        );
        steps.Add(
            new Step.Expect(At(new DateOnly(2026, 3, 5), 15, 10), "wanjiru", "atsea", At(new DateOnly(2026, 3, 12), 9, 0), "shipping line")
        );
        steps.Add(
            new Step.Expect(
                At(new DateOnly(2026, 3, 9), 16, 25),
                "wanjiru",
                "atsea",
                At(new DateOnly(2026, 3, 14), 9, 0),
                "shipping line: port closed by wind"
            )
        );

        Order(
            "PO-4468",
            "TARN",
            new DateOnly(2026, 2, 20),
            [
                ("IC-08 24", tuesday, 2, "job J-221"),
                ("SP-02 24", new DateOnly(2026, 3, 5), 2, "two customers"),
                ("DL-16 2400", tuesday, 0, null),
            ]
        );
        Arrive(
            At(tuesday.AddDays(-1), 11, 0),
            "irrigation",
            "A-2624",
            ["PO-4468"],
            At(tuesday, 13, 45),
            "van",
            null,
            2,
            crew: "ikenna",
            plate: "TW24 DRP"
        );

        // Due and on no arrival: terracotta four days late, with three customers waiting.
        Order(
            "PO-4438",
            "VALM",
            new DateOnly(2026, 1, 15),
            [("TP-18 640", new DateOnly(2026, 3, 6), 426, "Hollin Nurseries, Ashwick Allotments, Perrow Gardens")]
        );
        steps.Add(
            new Step.Promise(
                At(new DateOnly(2026, 3, 4), 10, 5),
                "dilys",
                "PO-4396",
                "Linh, Lam Giang Pottery",
                "Left out of the last container by mistake, comes by air freight.",
                new DateOnly(2026, 3, 9)
            )
        );
        Order("PO-4396", "LAMG", new DateOnly(2025, 11, 2), [("GP-30 96", new DateOnly(2026, 2, 27), 12, "Perrow Gardens")]);
        Order(
            "PO-4493",
            "QUER",
            new DateOnly(2026, 3, 4),
            [("PF-50 204", new DateOnly(2026, 3, 12), 0, null), ("BK-60 90", new DateOnly(2026, 3, 12), 0, null)]
        );
        Order(
            "PO-4495",
            "HALV",
            new DateOnly(2026, 3, 5),
            [("PM-SA 120", new DateOnly(2026, 3, 11), 80, "three orders"), ("SD-LEEK 200", new DateOnly(2026, 3, 18), 0, null)],
            waitedBy: new DateTime(2026, 3, 10, 15, 0, 0)
        );
        // From the other store, and back from a customer.
        Order(
            "TR-0118",
            "HILL",
            new DateOnly(2026, 3, 9),
            [("HT-12 96", tuesday, 0, null), ("GL-09 144", tuesday, 24, "Ashwick Allotments"), ("JT-3 48", tuesday, 0, null)],
            OrderKind.Transfer,
            [new Approval("Wanjiru Holloway", new DateOnly(2026, 3, 9), null)]
        );
        Arrive(
            At(tuesday.AddDays(-1), 15, 30),
            "barn",
            "A-2622",
            ["TR-0118"],
            At(tuesday, 14, 45),
            "van",
            null,
            5,
            crew: "ikenna",
            plate: "TG05 HBN"
        );
        Order(
            "RT-0042",
            "HOLN",
            new DateOnly(2026, 3, 6),
            [("IC-08 1", tuesday, 0, null), ("TP-18 24", tuesday, 0, null)],
            OrderKind.CustomerReturn,
            [new Approval("Dilys Pemberwick", new DateOnly(2026, 3, 6), null)],
            terms:
            [
                new ReturnTerms("Does not start", ReturnPromise.Replacement),
                new ReturnTerms("Ordered by mistake, never unpacked", ReturnPromise.Credit),
            ]
        );
        Arrive(
            At(tuesday.AddDays(-1), 16, 10),
            "return",
            "A-2625",
            ["RT-0042"],
            At(tuesday, 16, 0),
            "van",
            null,
            5,
            crew: "ikenna",
            plate: "HN12 RTN"
        );

        // Carrot seed is out to be pelleted.
        steps.Add(new Step.Treat(At(new DateOnly(2026, 3, 5), 9, 20), "callum", "SD-CARR", 120, "HALV", "PO-4470", "pelleting"));

        // The buyer still works on one; another was dear enough for a second name.
        Order(
            "PO-4501",
            "KITA",
            new DateOnly(2026, 3, 10),
            [("SC-24 96", new DateOnly(2026, 4, 14), 0, null), ("PS-33 60", new DateOnly(2026, 4, 14), 0, null)],
            approvals: []
        );
        orders[^1].MakeDraft();
        Order(
            "PO-4498",
            "OLLE",
            new DateOnly(2026, 3, 2),
            [("MT-40 1500", new DateOnly(2026, 3, 9), 200, "Hollin Nurseries"), ("ST-PR 800", new DateOnly(2026, 3, 9), 0, null)],
            approvals:
            [
                new Approval("Dilys Pemberwick", new DateOnly(2026, 3, 2), null),
                new Approval("Wanjiru Holloway", new DateOnly(2026, 3, 3), "Only this once: look for another vendor."),
            ]
        );
        Order(
            "PO-4497",
            "VALM",
            new DateOnly(2026, 3, 6),
            [("TP-24 240", new DateOnly(2026, 4, 3), 0, null), ("TS-18 1200", new DateOnly(2026, 4, 3), 0, null)]
        );
    }

    void Early(string key, string arrival, string plate, int hour, int minute, int door, string vendor, string line, string number)
    {
        Order(number, vendor, tuesday.AddDays(-18), [(line, tuesday, 0, null)]);
        var at = At(tuesday, hour, minute);
        var receiver =
            door == 2 ? "tomasz"
            : door == 4 ? "leila"
            : "maren";
        steps.Add(
            new Step.Arrive(
                At(tuesday.AddDays(-1), 12, minute),
                "wanjiru",
                key,
                arrival,
                [number],
                at,
                door == 5 ? "van" : "truck",
                null,
                $"{plate} {100 + minute}",
                null,
                door,
                null,
                receiver
            )
        );
        steps.Add(new Step.AtDoor(at, "wanjiru", key, door));
        var (item, quantity) = Parse(line);
        CountAll(at.AddMinutes(18), receiver, key, item, quantity, $"{vendor[..2]}-{random.Next(1000, 9999)}", tuesday);
        steps.Add(new Step.Close(at.AddMinutes(40), door == 4 ? "leila" : "maren", key));
        steps.Add(new Step.DriveOff(at.AddMinutes(49), "efua", key));
        if (door != 4)
            steps.Add(new Step.PutAway(at.AddMinutes(46), door == 1 ? "petra" : "yusuf", 3));
    }

    /// <summary>An order, approved by the buyer the day after it was written unless told otherwise.</summary>
    void Order(
        string number,
        string vendor,
        DateOnly date,
        (string Line, DateOnly Due, decimal Waiting, string? WaitingFor)[] lines,
        OrderKind kind = OrderKind.Purchase,
        IReadOnlyList<Approval>? approvals = null,
        DateTime? waitedBy = null,
        IReadOnlyList<ReturnTerms>? terms = null
    ) =>
        orders.Add(
            new Order
            {
                Number = number,
                Kind = kind,
                VendorId = vendors[vendor].Id,
                OrderDate = date,
                Approvals = [.. approvals ?? [new Approval("Dilys Pemberwick", date.AddDays(1), null)]],
                Lines =
                [
                    .. lines.Select(
                        (l, i) =>
                        {
                            var (item, quantity) = Parse(l.Line);
                            return new OrderLine
                            {
                                Number = i + 1,
                                ItemId = item.Id,
                                Return = terms?[i],
                                Price = decimal.Round(1 + random.Next(50, 4000) / 100m, 2),
                                Parts =
                                [
                                    new LinePart
                                    {
                                        ItemId = item.Id,
                                        VendorId = vendors[vendor].Id,
                                        SiteId = Layout.LowMeadow,
                                        Due = l.Due,
                                        Ordered = quantity,
                                        WaitingQuantity = l.Waiting,
                                        WaitingFor = l.WaitingFor,
                                        WaitingBy = l.WaitingFor is null ? null : waitedBy,
                                    },
                                ],
                            };
                        }
                    ),
                ],
            }
        );

    void Arrive(
        DateTimeOffset at,
        string key,
        string arrival,
        IReadOnlyList<string> numbers,
        DateTimeOffset planned,
        string vehicle,
        string? container,
        int? door,
        DateTimeOffset? eta = null,
        string? crew = null,
        int? units = null,
        string? seal = null,
        ContainerPapers? papers = null,
        bool unplanned = false,
        string? plate = null
    ) =>
        steps.Add(
            new Step.Arrive(
                at,
                "wanjiru",
                key,
                arrival,
                numbers,
                planned,
                vehicle,
                container,
                plate,
                container is null ? "Fellgate Haulage" : "Orrin Drayage",
                door,
                eta,
                crew,
                units,
                seal,
                papers,
                unplanned
            )
        );

    void Add(
        int hour,
        int minute,
        string person,
        string key,
        string item,
        string pack,
        decimal packs,
        string? source = null,
        string? production = null,
        string? bestBefore = null,
        string? origin = null
    ) => steps.Add(new Step.Count(At(tuesday, hour, minute), person, key, item, pack, packs, source, production, bestBefore, origin));

    /// <summary>Counts a whole quantity in the largest packs that divide it.</summary>
    void CountAll(DateTimeOffset at, string person, string key, Item item, decimal quantity, string source, DateOnly day)
    {
        var pack = item.PackLevels.Where(p => quantity % p.Content(1) == 0).MaxBy(p => p.Content(1))!;
        steps.Add(
            new Step.Count(
                at,
                person,
                key,
                item.Code,
                pack.Name,
                quantity / pack.Content(1),
                item.NeedsSourceBatch ? source : null,
                item.NeedsDates ? day.AddDays(-30).ToString("yyyy-MM-dd") : null,
                null,
                item.NeedsOrigin ? vendors.Values.First(v => v.Id == item.VendorCodes[0].VendorId).Country : null
            )
        );
    }

    (Item Item, decimal Quantity) Parse(string line)
    {
        var words = line.Split(' ');
        return (items[words[0]], decimal.Parse(words[1]));
    }

    static DateTimeOffset At(DateOnly day, int hour, int minute) => new(day.ToDateTime(new TimeOnly(hour, minute)), TimeSpan.Zero);

    static DateOnly NextWorkingDay(DateOnly day) => day.DayOfWeek == DayOfWeek.Saturday ? day.AddDays(2) : day.AddDays(1);
}
