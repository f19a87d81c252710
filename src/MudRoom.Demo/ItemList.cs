using System.Globalization;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Demo;

/// <summary>The items of the scenario.</summary>
public static class ItemList
{
    /// <summary>A code by which two vendors call a pot of theirs.</summary>
    public const string SharedCode = "P-080";

    // code;name;category;unit;storage;kg;litres;longest m;rate;home zone;asks (B batch S source D dates O origin N serial);life/minimum
    // days;packs (* = labelled unit);vendor;plan;over %
    static readonly string[] rows =
    [
        "CB-05;Coir brick 5 kg;growing medium;H87;Dry;5;8;0.3;A;Dry reserve;BS;730/180;carton 4,pallet* 96;NILG;;2",
        "CC-70;Coir chips 70 L;growing medium;H87;Dry;9;70;0.8;B;Dry reserve;BS;730/180;carton 4,pallet* 40;NILG;;2",
        "CG-1M;Coir grow bag 1 m;growing medium;H87;Dry;2.5;14;1;B;Dry reserve;BS;730/180;carton 10,pallet* 120;NILG;;2",
        "CP-08;Coir pot 8 cm;pot;H87;Ambient;0.02;0.2;0.08;A;Pick;;/;sleeve 50,carton 1000;NILG;;1",
        "SD-MUS;White mustard seed;seed;KGM;Cold;1;1.4;0.8;B;Cold seed room;BSDO;730/180;sack 25,pallet* 1000;MALA;2;0",
        "SD-FEN;Fenugreek seed;seed;KGM;Cold;1;1.3;0.8;B;Cold seed room;BSDO;600/180;sack 25,pallet* 1000;MALA;;0",
        "SD-PHA;Phacelia seed 1 kg;seed;H87;Cold;1;1.6;0.2;C;Cold seed room;BSDO;540/120;box 20;MALA;;0",
        "SD-LEEK;Leek seed pouch;seed;H87;Cold;0.02;0.1;0.15;B;Cold seed room;BSDO;720/180;box 20,pallet* 800;HALV;;0",
        "SD-CARR;Carrot seed pouch;seed;H87;Cold;0.02;0.1;0.15;A;Cold seed room;BSDO;720/180;box 20,pallet* 800;HALV;;0",
        "SD-BEET;Beetroot seed pouch;seed;H87;Cold;0.03;0.1;0.15;B;Cold seed room;BSDO;720/180;box 20,pallet* 800;HALV;;0",
        "SD-ONIO;Onion seed pouch;seed;H87;Cold;0.02;0.1;0.15;B;Cold seed room;BSDO;540/180;box 20;HALV;;0",
        "ON-10;Onion sets, 10 kg net;sets;KGM;Dry;1;2;0.6;A;Dry reserve;BSDO;120/60;net 10,pallet* 400;ZAND;;2",
        "SH-10;Shallot sets, 10 kg net;sets;KGM;Dry;1;2;0.6;C;Dry reserve;BSDO;120/60;net 10,pallet* 400;ZAND;;2",
        "PF-50;Peat-free compost 50 L;growing medium;H87;Ambient;18;50;0.8;A;Floor;B;/;pallet* 51;QUER;;0",
        "PF-25;Seed compost 25 L;growing medium;H87;Ambient;9;25;0.6;B;Floor;B;/;pallet* 96;QUER;;0",
        "BK-60;Bark mulch 60 L;growing medium;H87;Ambient;16;60;0.8;B;Floor;;/;pallet* 45;QUER;;0",
        "TP-18;Terracotta pot 18 cm;pot;H87;Ambient;1.1;2.4;0.18;A;Dry reserve;;/;stack 12,pallet* 480;VALM;;0",
        "TP-24;Terracotta pot 24 cm;pot;H87;Ambient;2.1;5.6;0.24;B;Dry reserve;;/;stack 8,pallet* 240;VALM;;0",
        "TS-18;Terracotta saucer 18 cm;pot;H87;Ambient;0.4;0.6;0.18;B;Dry reserve;;/;stack 20,pallet* 1200;VALM;;0",
        "GP-24;Glazed pot 24 cm;pot;H87;Ambient;2.4;5.8;0.24;B;Dry reserve;;/;stack 6;LAMG;;0",
        "GP-30;Glazed pot 30 cm;pot;H87;Ambient;3.9;9;0.3;C;Dry reserve;;/;stack 4;LAMG;;0",
        "GS-24;Glazed saucer 24 cm;pot;H87;Ambient;0.7;0.9;0.24;C;Dry reserve;;/;stack 12;LAMG;;0",
        "BC-24;Bamboo cane 2.4 m, bale;cane;H87;Oversize;9;45;2.4;B;Long goods;;/;bundle 10;LAMG;;0",
        "HF-30;Fleece 30 g, roll of 200 m;fleece;H87;Oversize;12;90;2.1;C;Long goods;;/;bundle 6;LATT;;0",
        "HF-17;Fleece 17 g, roll of 250 m;fleece;H87;Oversize;10;80;2.1;B;Long goods;;/;bundle 6;LATT;;0",
        "CN-25;Calcium nitrate 25 kg;fertiliser;H87;Oxidiser;25;24;0.7;B;Oxidiser cage;BS;1095/365;pallet* 40;SALT;;0",
        "AN-25;Ammonium nitrate 25 kg;fertiliser;H87;Oxidiser;25;26;0.7;B;Oxidiser cage;BS;1095/365;pallet* 40;SALT;;0",
        "LS-05;Liquid seaweed feed 5 L;fertiliser;H87;Ambient;5.6;6;0.3;B;Dry reserve;BSD;730/180;case 4,pallet* 128;SALT;;1",
        "ST-CU;Slug trap, copper lid;pest control;H87;Ambient;0.3;1.2;0.2;C;Pick;;/;box 24;SALT;;0",
        "WG-40;Weed-burner gas cartridge;gas;H87;Gas;0.6;1;0.2;C;Gas cage;B;/;case 12;BRAC;;0",
        "SC-21;Bypass secateurs 21 cm;tool;H87;Ambient;0.35;0.8;0.22;A;Pick;BS;/;box 10,carton 60;KITA;1;0",
        "SC-18;Flower snips 18 cm;tool;H87;Ambient;0.2;0.5;0.18;B;Pick;BS;/;box 10,carton 80;KITA;1;0",
        "GK-07;Grafting knife 7 cm;tool;H87;Secure;0.1;0.2;0.12;C;Pick;BS;/;box 12;KITA;;0",
        "HH-16;Draw hoe head 16 cm;tool;H87;Ambient;0.7;1.1;0.2;B;Pick;;/;box 6,carton 36;BRAC;;0",
        "HS-15;Hoe shaft 1.5 m, ash;tool;H87;Oversize;0.9;2.6;1.5;C;Long goods;;/;bundle 12;BRAC;;0",
        "SP-DG;Digging spade;tool;H87;Oversize;2.2;9;1.1;B;Long goods;;/;bundle 6;BRAC;;0",
        "FK-DG;Digging fork;tool;H87;Oversize;2.1;9;1.1;B;Long goods;;/;bundle 6;BRAC;;0",
        "DL-16;Drip line 16 mm;irrigation;MTR;Ambient;0.06;0.25;0.6;A;Dry reserve;;/;coil 100,pallet* 2400;TARN;;1",
        "IC-08;Irrigation controller, 8 zones;irrigation;H87;Ambient;1.4;4;0.3;C;Pick;N;/;carton 6;TARN;;0",
        "SP-02;Soil probe SP-2;irrigation;H87;Ambient;0.4;1.5;0.5;C;Pick;N;/;carton 8;TARN;;0",
        "AP-BR;Apple, bare-root;bare-root tree;H87;Cold;1.2;9;1.2;C;Cold seed room;BSO;/;bundle 10;MALO;;0",
        "PL-BR;Plum, bare-root;bare-root tree;H87;Cold;1.2;9;1.2;C;Cold seed room;BSO;/;bundle 10;MALO;;0",
        "LE-PT;Lemon, potted;citrus;H87;Ambient;4;22;0.9;C;Dry reserve;BSO;/;tray 4;MALO;;0",
        "NM-50;Nematode pack, 50 million;pest control;H87;Cold;0.1;0.4;0.2;A;Cold seed room;BSD;21/10;box 20;HALV;;0",
        "PM-SA;Predatory mite sachets;pest control;H87;Cold;0.05;0.3;0.2;A;Cold seed room;BSD;28/14;box 40;HALV;;0",
    ];

    public static IReadOnlyList<Item> Make(IReadOnlyList<Vendor> vendors) =>
        [.. rows.Select((row, i) => Item(row.Split(';'), i + 1, vendors))];

    static Item Item(string[] c, int id, IReadOnlyList<Vendor> vendors)
    {
        var life = c[11].Split('/');
        var number = 0;
        var packs = new List<PackLevel>
        {
            new()
            {
                Name = c[3] == "H87" ? "each" : Units.Word(c[3]),
                Numerator = 1,
                Gtin = Gtin(id, number++),
            },
        };
        packs.AddRange(
            c[12]
                .Split(',', StringSplitOptions.RemoveEmptyEntries)
                .Select(p => p.Split(' '))
                .Select(p => new PackLevel
                {
                    Name = p[0].TrimEnd('*'),
                    IsUnit = p[0].EndsWith('*'),
                    Numerator = long.Parse(p[1], CultureInfo.InvariantCulture),
                    PackageType = PackageTypes.For(p[0].TrimEnd('*')),
                    Gtin = Gtin(id, number++),
                })
        );
        return new Item
        {
            Id = id,
            Code = c[0],
            Name = c[1],
            Category = c[2],
            BaseUnit = c[3],
            Step = c[3] == "H87" ? 1 : 0.5m,
            StorageClass = Enum.Parse<StorageClass>(c[4]),
            Mass = Number(c[5]),
            Volume = Number(c[6]),
            LongestSide = Number(c[7]),
            PickRateClass = Enum.Parse<PickRateClass>(c[8]),
            HomeZone = c[9],
            NeedsBatch = c[10].Contains('B'),
            NeedsSourceBatch = c[10].Contains('S'),
            NeedsDates = c[10].Contains('D'),
            NeedsOrigin = c[10].Contains('O'),
            NeedsSerial = c[10].Contains('N'),
            CatchWeight = c[0] is "LE-PT" or "SH-10",
            WeightTolerance = 20,
            Marks = MarksOf(c[0], c[2]),
            BatchPrefix = c[0].Replace("SD-", "")[..2],
            ShelfLifeDays = life[0].Length > 0 ? int.Parse(life[0]) : null,
            MinimumRemainingDays = life[1].Length > 0 ? int.Parse(life[1]) : null,
            Attributes =
                c[2] == "seed"
                    ?
                    [
                        new AttributeDefinition("Germination", AttributeKind.Number, Unit: "%", Least: 0, Most: 100),
                        new AttributeDefinition("Field", AttributeKind.Text),
                    ]
                    : [],
            PackLevels = packs,
            InspectionPlanId = c[14].Length > 0 ? int.Parse(c[14]) : null,
            OverPercent = Number(c[15]),
            VendorCodes = [.. VendorCodesOf(c[0], id, vendors.First(v => v.Code == c[13]))],
        };
    }

    /// <summary>What its vendor calls it. Two vendors call a pot of theirs the same: that code stands for both.</summary>
    static IEnumerable<VendorCode> VendorCodesOf(string code, int id, Vendor vendor)
    {
        yield return new VendorCode { VendorId = vendor.Id, Code = $"{vendor.Code[..2]}{4000 + id * 11}" };
        if (code is "CP-08" or "TP-18")
            yield return new VendorCode { VendorId = vendor.Id, Code = SharedCode };
    }

    /// <summary>How goods are handled and what they are dangerous by; UN numbers from the UN Model Regulations' list, from
    /// memory.</summary>
    static GoodsMarks MarksOf(string code, string category) =>
        (code, category) switch
        {
            ("CN-25", _) => new([HazardPictogram.FlameOverCircle, HazardPictogram.Corrosion], "1454", [HandlingMark.KeepDry]),
            ("AN-25", _) => new([HazardPictogram.FlameOverCircle, HazardPictogram.ExclamationMark], "2067", [HandlingMark.KeepDry]),
            ("WG-40", _) => new([HazardPictogram.Flame, HazardPictogram.GasCylinder], "2037", [HandlingMark.KeepFromSun]),
            ("ST-CU", _) => new([HazardPictogram.Environment]),
            (_, "pot") => new(Handling: [HandlingMark.Fragile, HandlingMark.ThisWayUp]),
            (_, "seed") => new(Handling: [HandlingMark.KeepDry]),
            (_, "irrigation") when code is "IC-08" or "SP-02" => new(UnNumber: "3481", Handling: [HandlingMark.Fragile]),
            (_, "citrus" or "bare-root tree") => new(Handling: [HandlingMark.ThisWayUp, HandlingMark.KeepFromFrost]),
            _ => new(),
        };

    /// <summary>GTINs under 952, which GS1 keeps for examples: the piece as GTIN-13, packs with an indicator digit in front.</summary>
    static string Gtin(int item, int pack)
    {
        var body = $"{pack}9521234{10000 + item * 7:00000}";
        return body + CheckDigit.For(body);
    }

    static decimal Number(string text) => decimal.Parse(text, CultureInfo.InvariantCulture);
}
