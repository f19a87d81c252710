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
        // Seed in pouches and in bulk.
        "SD-BASI;Basil seed pouch;seed;H87;Cold;0.02;0.1;0.15;B;Cold seed room;BSDO;540/180;box 20;HALV;;0",
        "SD-CABB;Cabbage seed pouch;seed;H87;Cold;0.02;0.1;0.15;B;Cold seed room;BSDO;720/180;box 20,pallet* 800;HALV;;0",
        "SD-CHAR;Chard seed pouch;seed;H87;Cold;0.03;0.1;0.15;C;Cold seed room;BSDO;720/180;box 20;HALV;;0",
        "SD-CORI;Coriander seed pouch;seed;H87;Cold;0.03;0.1;0.15;B;Cold seed room;BSDO;540/180;box 20;MALA;;0",
        "SD-COUR;Courgette seed pouch;seed;H87;Cold;0.03;0.1;0.15;C;Cold seed room;BSDO;720/180;box 20;HALV;;0",
        "SD-DILL;Dill seed pouch;seed;H87;Cold;0.02;0.1;0.15;C;Cold seed room;BSDO;540/180;box 20;MALA;;0",
        "SD-FRBE;French bean seed 1 kg;seed;H87;Cold;1;1.4;0.2;B;Cold seed room;BSDO;720/180;box 12;WERV;;0",
        "SD-KALE;Kale seed pouch;seed;H87;Cold;0.02;0.1;0.15;B;Cold seed room;BSDO;720/180;box 20;HALV;;0",
        "SD-LETT;Lettuce seed pouch;seed;H87;Cold;0.01;0.1;0.15;A;Cold seed room;BSDO;540/180;box 20,pallet* 800;WERV;;0",
        "SD-PARS;Parsley seed pouch;seed;H87;Cold;0.02;0.1;0.15;C;Cold seed room;BSDO;540/180;box 20;HALV;;0",
        "SD-PEA;Garden pea seed 1 kg;seed;H87;Cold;1;1.3;0.2;B;Cold seed room;BSDO;720/180;box 12;WERV;;0",
        "SD-RADI;Radish seed pouch;seed;H87;Cold;0.03;0.1;0.15;B;Cold seed room;BSDO;720/180;box 20;HALV;;0",
        "SD-SPIN;Spinach seed pouch;seed;H87;Cold;0.03;0.1;0.15;B;Cold seed room;BSDO;720/180;box 20;WERV;;0",
        "SD-SQUA;Squash seed pouch;seed;H87;Cold;0.03;0.1;0.15;C;Cold seed room;BSDO;720/180;box 20;WERV;;0",
        "SD-SUNF;Sunflower seed;seed;KGM;Cold;1;2.2;0.8;C;Cold seed room;BSDO;540/180;sack 20,pallet* 800;MALA;2;0",
        "SD-SWCO;Sweetcorn seed 1 kg;seed;H87;Cold;1;1.4;0.2;C;Cold seed room;BSDO;720/180;box 12;WERV;;0",
        "SD-TOMA;Tomato seed pouch;seed;H87;Cold;0.01;0.1;0.15;A;Cold seed room;BSDO;720/180;box 20;HALV;;0",
        "SD-TURN;Turnip seed pouch;seed;H87;Cold;0.02;0.1;0.15;C;Cold seed room;BSDO;720/180;box 20;HALV;;0",
        "SD-RYE;Green manure rye;seed;KGM;Cold;1;1.4;0.8;B;Cold seed room;BSDO;730/180;sack 25,pallet* 1000;WERV;2;0",
        "SD-CLOV;Crimson clover seed;seed;KGM;Cold;1;1.3;0.8;C;Cold seed room;BSDO;730/180;sack 25,pallet* 1000;MALA;2;0",
        "SD-GRAS;Orchard grass mixture;seed;KGM;Cold;1;3;0.8;B;Cold seed room;BSDO;730/180;sack 10,pallet* 500;WERV;2;0",
        "GA-05;Garlic sets, 5 kg net;sets;KGM;Dry;1;2;0.5;C;Dry reserve;BSDO;120/60;net 5,pallet* 400;ZAND;;2",
        "PT-25;Seed potatoes, 25 kg sack;sets;KGM;Dry;1;1.5;0.8;B;Dry reserve;BSDO;90/45;sack 25,pallet* 1000;ZAND;;2",
        // What things grow in.
        "CB-65;Coir block 650 g;growing medium;H87;Dry;0.65;1.2;0.2;B;Dry reserve;BS;730/180;carton 24,pallet* 960;NILG;;2",
        "CD-07;Coir disc 7 cm;growing medium;H87;Dry;0.02;0.04;0.07;B;Pick;BS;730/180;sleeve 50,carton 600;NILG;;1",
        "CM-10;Coir basket liner;growing medium;H87;Ambient;0.2;1.5;0.4;C;Dry reserve;;/;bundle 20;NILG;;1",
        "ER-50;Ericaceous compost 50 L;growing medium;H87;Ambient;18;50;0.8;B;Floor;B;/;pallet* 51;QUER;;0",
        "JI-25;Loam potting mix 25 L;growing medium;H87;Ambient;14;25;0.6;B;Floor;B;/;pallet* 80;QUER;;0",
        "TS-50;Topsoil 50 L;growing medium;H87;Ambient;28;50;0.8;B;Floor;;/;pallet* 40;QUER;;0",
        "HG-20;Horticultural grit 20 kg;growing medium;H87;Ambient;20;14;0.6;B;Floor;;/;pallet* 50;QUER;;0",
        "PE-99;Perlite 100 L;growing medium;H87;Ambient;9;100;0.9;C;Floor;;/;pallet* 24;QUER;;0",
        "VM-99;Vermiculite 100 L;growing medium;H87;Ambient;10;100;0.9;C;Floor;;/;pallet* 24;QUER;;0",
        // Pots, canes and cloth.
        "TP-12;Terracotta pot 12 cm;pot;H87;Ambient;0.5;0.9;0.12;A;Dry reserve;;/;stack 20,pallet* 1200;VALM;;0",
        "TP-30;Terracotta pot 30 cm;pot;H87;Ambient;3.6;11;0.3;C;Dry reserve;;/;stack 6,pallet* 120;VALM;;0",
        "TS-24;Terracotta saucer 24 cm;pot;H87;Ambient;0.7;1.1;0.24;C;Dry reserve;;/;stack 16,pallet* 640;VALM;;0",
        "TT-60;Terracotta trough 60 cm;pot;H87;Ambient;7;22;0.6;C;Dry reserve;;/;stack 4,pallet* 80;VALM;;0",
        "GP-18;Glazed pot 18 cm;pot;H87;Ambient;1.2;2.6;0.18;B;Dry reserve;;/;stack 8;LAMG;;0",
        "GP-40;Glazed pot 40 cm;pot;H87;Ambient;8;21;0.4;C;Dry reserve;;/;stack 2;LAMG;;0",
        "GS-30;Glazed saucer 30 cm;pot;H87;Ambient;1.1;1.5;0.3;C;Dry reserve;;/;stack 12;LAMG;;0",
        "MP-09;Modular pot 9 cm;pot;H87;Ambient;0.01;0.3;0.09;A;Pick;;/;sleeve 100,carton 1800;OLLE;;1",
        "MT-40;Module tray, 40 cells;pot;H87;Ambient;0.15;2;0.55;A;Pick;;/;carton 50;OLLE;;1",
        "SR-38;Seed tray 38 cm;pot;H87;Ambient;0.2;2.5;0.38;A;Pick;;/;carton 40;OLLE;;1",
        "PL-12;Plant label 12 cm;pot;H87;Ambient;0.003;0.01;0.12;B;Pick;;/;pack 100,carton 5000;OLLE;;2",
        "BC-18;Bamboo cane 1.8 m, bale;cane;H87;Oversize;6;30;1.8;A;Long goods;;/;bundle 20;LAMG;;0",
        "BC-12;Bamboo cane 1.2 m, bale;cane;H87;Dry;4;18;1.2;B;Dry reserve;;/;bundle 20;LAMG;;0",
        "HZ-18;Hazel hurdle 1.8 m;cane;H87;Oversize;9;120;1.8;C;Long goods;;/;bundle 4;MALO;;0",
        "TK-15;Tree stake 1.5 m;cane;H87;Oversize;2.4;6;1.5;B;Long goods;;/;bundle 25;MALO;;0",
        "ET-60;Tree tie 60 cm;tool;H87;Ambient;0.08;0.2;0.3;B;Pick;;/;box 50;MALO;;0",
        "WM-50;Woven ground cover, roll of 50 m;fleece;H87;Oversize;11;60;2.1;B;Long goods;;/;bundle 6;LATT;;0",
        "IN-10;Insect mesh, roll of 100 m;fleece;H87;Oversize;9;70;2.1;C;Long goods;;/;bundle 4;LATT;;0",
        "SH-50;Shade net, roll of 50 m;fleece;H87;Oversize;8;65;2.1;C;Long goods;;/;bundle 4;LATT;;0",
        "JT-3;Jute twine, 3-ply;tool;H87;Ambient;0.4;0.6;0.12;B;Pick;;/;box 24;LATT;;0",
        // Feeds and crop care.
        "PN-25;Potassium nitrate 25 kg;fertiliser;H87;Oxidiser;25;22;0.7;C;Oxidiser cage;BS;1095/365;pallet* 40;SALT;;0",
        "BF-25;Blood, fish and bone 25 kg;fertiliser;H87;Ambient;25;30;0.7;B;Dry reserve;BS;730/180;pallet* 40;SALT;;0",
        "CP-20;Chicken manure pellets 20 kg;fertiliser;H87;Ambient;20;26;0.7;B;Dry reserve;B;730/180;pallet* 48;OLLE;;0",
        "TF-25;Tomato feed 2.5 L;fertiliser;H87;Ambient;2.8;3;0.25;A;Dry reserve;BSD;730/180;case 6;SALT;;1",
        "GL-25;Garden lime 25 kg;fertiliser;H87;Ambient;25;20;0.7;C;Dry reserve;;/;pallet* 40;SALT;;0",
        "ST-PR;Sticky trap, yellow;pest control;H87;Ambient;0.02;0.1;0.25;B;Pick;BD;730/180;pack 10,box 200;OLLE;;2",
        "EN-01;Encarsia card strip;pest control;H87;Cold;0.02;0.1;0.2;A;Cold seed room;BSD;14/7;box 40;HALV;;0",
        "LB-25;Lacewing larvae, tube;pest control;H87;Cold;0.05;0.3;0.2;B;Cold seed room;BSD;14/7;box 20;HALV;;0",
        "GC-22;Gas cartridge 220 g, screw;gas;H87;Gas;0.35;0.6;0.12;C;Gas cage;B;/;case 24;BRAC;;0",
        // Tools and water.
        "SC-24;Lopping shears 60 cm;tool;H87;Ambient;1.1;3;0.6;C;Pick;BS;/;box 6,carton 24;KITA;1;0",
        "HS-22;Hedge shears 22 cm;tool;H87;Ambient;0.9;2.4;0.55;C;Pick;BS;/;box 6,carton 24;KITA;1;0",
        "PK-08;Pruning knife 8 cm;tool;H87;Secure;0.1;0.2;0.2;C;Secure cupboard;BS;/;box 12;KITA;;0",
        "PS-33;Pruning saw 33 cm;tool;H87;Ambient;0.4;1;0.5;C;Pick;BS;/;box 10;KITA;;0",
        "HT-12;Hand trowel;tool;H87;Ambient;0.3;0.8;0.3;A;Pick;;/;box 12,carton 48;BRAC;;0",
        "HF-12;Hand fork;tool;H87;Ambient;0.3;0.9;0.3;B;Pick;;/;box 12,carton 48;BRAC;;0",
        "RK-16;Soil rake, 16 teeth;tool;H87;Oversize;1.5;7;1.6;B;Long goods;;/;bundle 6;BRAC;;0",
        "WB-85;Wheelbarrow 85 L, flat;tool;H87;Oversize;14;120;1.4;C;Long goods;;/;bundle 2;BRAC;;0",
        "GL-09;Gloves, thorn-proof;tool;H87;Ambient;0.15;0.5;0.28;A;Pick;;/;pack 12,carton 72;OLLE;;1",
        "DL-25;Layflat hose 25 mm;irrigation;MTR;Ambient;0.12;0.4;0.6;B;Dry reserve;;/;coil 50,pallet* 1500;TARN;;1",
        "DR-04;Dripper 4 L/h;irrigation;H87;Ambient;0.005;0.01;0.04;A;Pick;;/;bag 100,carton 2000;TARN;;2",
        "FI-34;Disc filter 3/4 inch;irrigation;H87;Ambient;0.3;0.8;0.25;C;Pick;;/;carton 20;TARN;;0",
        "VA-24;Valve 24 V;irrigation;H87;Ambient;0.5;1;0.18;C;Pick;N;/;carton 12;TARN;;0",
        "SP-03;Soil probe SP-3, radio;irrigation;H87;Ambient;0.5;1.6;0.5;C;Pick;N;/;carton 8;TARN;;0",
        // Live plants.
        "PR-BR;Pear, bare-root;bare-root tree;H87;Cold;1.2;9;1.2;C;Cold seed room;BSO;/;bundle 10;MALO;;0",
        "CH-BR;Cherry, bare-root;bare-root tree;H87;Cold;1.3;10;1.3;C;Cold seed room;BSO;/;bundle 10;MALO;;0",
        "OR-PT;Orange, potted;citrus;H87;Ambient;4;22;0.9;C;Dry reserve;BSO;/;tray 4;MALO;;0",
        // What becomes of pots with chipped rims.
        "TP-24S;Terracotta pot 24 cm, second grade;pot;H87;Ambient;2.1;5.6;0.24;C;Dry reserve;;/;;VALM;;0",
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
            ("PN-25", _) => new([HazardPictogram.FlameOverCircle], "1486", [HandlingMark.KeepDry]),
            ("WG-40" or "GC-22", _) => new([HazardPictogram.Flame, HazardPictogram.GasCylinder], "2037", [HandlingMark.KeepFromSun]),
            ("ST-CU", _) => new([HazardPictogram.Environment]),
            (_, "pot") => new(Handling: [HandlingMark.Fragile, HandlingMark.ThisWayUp]),
            (_, "seed") => new(Handling: [HandlingMark.KeepDry]),
            (_, "irrigation") when code is "IC-08" or "SP-02" or "SP-03" => new(UnNumber: "3481", Handling: [HandlingMark.Fragile]),
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
