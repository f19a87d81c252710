using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Demo;

static class PlanList
{
    public const int Blades = 1;
    public const int Seed = 2;
    public const int Living = 3;

    static readonly DateTimeOffset begun = new(2025, 9, 1, 7, 0, 0, TimeSpan.Zero);

    public static IReadOnlyList<InspectionPlan> Make() =>
        [
            InForce(
                Blades,
                "Cutting tools",
                new PlanContent
                {
                    SamplingUnit = "each",
                    SetUpMinutes = 10,
                    SecondsPerPiece = 70,
                    Rules = new Dictionary<CharacteristicClass, SampleRule>
                    {
                        [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.II, 2.5m),
                        [CharacteristicClass.Minor] = new SampleRule.Standard(InspectionLevel.II, 4.0m),
                    },
                    Characteristics =
                    [
                        new Characteristic
                        {
                            Id = 1,
                            Name = "Gap at the tip",
                            Class = CharacteristicClass.Major,
                            Unit = "mm",
                            Nominal = 0.08m,
                            Lower = 0,
                            Upper = 0.15m,
                            Gauge = "feeler",
                            GaugeLow = 0,
                            GaugeHigh = 5,
                            Instruction = "Closed, feeler gauge at the tip.",
                        },
                        new Characteristic
                        {
                            Id = 2,
                            Name = "Hardness",
                            Class = CharacteristicClass.Major,
                            Unit = "HRC",
                            Nominal = 56,
                            Lower = 54,
                            Upper = 58,
                            Gauge = "hardness",
                            GaugeLow = 0,
                            GaugeHigh = 100,
                            Instruction = "Blade, 10 mm from the tip.",
                        },
                        new Characteristic
                        {
                            Id = 3,
                            Name = "Length",
                            Class = CharacteristicClass.Minor,
                            Unit = "mm",
                            Nominal = 212,
                            Lower = 209,
                            Upper = 215,
                            Gauge = "caliper",
                            GaugeLow = 0,
                            GaugeHigh = 300,
                            Instruction = "Over all, closed.",
                        },
                        new Characteristic
                        {
                            Id = 4,
                            Name = "Lock",
                            Class = CharacteristicClass.Critical,
                            PassWord = "holds",
                            FailWord = "slips",
                            Instruction = "Close, lock, pull.",
                        },
                        new Characteristic
                        {
                            Id = 5,
                            Name = "Coating",
                            Class = CharacteristicClass.Minor,
                            PassWord = "whole",
                            FailWord = "chipped",
                            Instruction = "Both sides.",
                        },
                    ],
                }
            ),
            InForce(
                Seed,
                "Seed lot",
                new PlanContent
                {
                    SamplingUnit = "sack",
                    SetUpMinutes = 15,
                    SecondsPerPiece = 240,
                    Rules = new Dictionary<CharacteristicClass, SampleRule>
                    {
                        [CharacteristicClass.Major] = new SampleRule.Standard(InspectionLevel.S2, 2.5m),
                        [CharacteristicClass.Minor] = new SampleRule.Standard(InspectionLevel.S2, 6.5m),
                    },
                    Characteristics =
                    [
                        new Characteristic
                        {
                            Id = 1,
                            Name = "Moisture",
                            Class = CharacteristicClass.Major,
                            Unit = "%",
                            Upper = 9,
                            Had = HowHad.Gauge,
                            Gauge = "moisture",
                            GaugeLow = 0,
                            GaugeHigh = 100,
                            Instruction = "Probe in the middle of the sack.",
                        },
                        new Characteristic
                        {
                            Id = 2,
                            Name = "Smell and mould",
                            Class = CharacteristicClass.Major,
                            PassWord = "clean",
                            FailWord = "musty",
                        },
                        new Characteristic
                        {
                            Id = 3,
                            Name = "Sack",
                            Class = CharacteristicClass.Minor,
                            PassWord = "sound",
                            FailWord = "torn",
                        },
                    ],
                }
            ),
            InForce(
                Living,
                "Living controls",
                new PlanContent
                {
                    SamplingUnit = "each",
                    SetUpMinutes = 5,
                    SecondsPerPiece = 120,
                    OnlySampleWaits = false,
                    Rules = new Dictionary<CharacteristicClass, SampleRule>
                    {
                        [CharacteristicClass.Major] = new SampleRule.Fixed(8, 1),
                        [CharacteristicClass.Minor] = new SampleRule.Fixed(8, 2),
                    },
                    Characteristics =
                    [
                        new Characteristic
                        {
                            Id = 1,
                            Name = "Alive",
                            Class = CharacteristicClass.Major,
                            Unit = "%",
                            Nominal = 95,
                            Lower = 80,
                            Upper = 100,
                            Had = HowHad.Counted,
                            Instruction = "Shake out on white paper, count fifty through the lens.",
                        },
                        new Characteristic
                        {
                            Id = 3,
                            Name = "Fill",
                            Class = CharacteristicClass.Minor,
                            Unit = "g",
                            Nominal = 25,
                            Lower = 22,
                            Upper = 30,
                            Had = HowHad.Scale,
                            Gauge = "scale",
                            Instruction = "The sachet whole, on the bench's scale.",
                        },
                        new Characteristic
                        {
                            Id = 2,
                            Name = "Sachet",
                            Class = CharacteristicClass.Minor,
                            PassWord = "closed",
                            FailWord = "open",
                        },
                    ],
                }
            ),
        ];

    /// <summary>Which goods go by which plan, beside those that the set-up names.</summary>
    public static IReadOnlyList<InspectionRule> Rules(IReadOnlyList<Item> items) =>
        [
            new InspectionRule
            {
                PlanId = Living,
                Trigger = InspectionTrigger.ByHand,
                ItemId = items.First(i => i.Code == "PM-SA").Id,
                Reason = "what lives is looked at when somebody doubts it",
                By = "Sunita Gellatly",
                Since = begun,
            },
        ];

    /// <summary>The gauges of the bench.</summary>
    public static IReadOnlyList<Gauge> Gauges(int siteId) =>
        [
            Kept(siteId, "feeler", new DateOnly(2026, 9, 30)),
            Kept(siteId, "caliper", new DateOnly(2026, 6, 30)),
            Kept(siteId, "hardness", new DateOnly(2026, 4, 15)),
            Kept(siteId, "moisture", new DateOnly(2026, 3, 31)),
            Kept(siteId, "scale", new DateOnly(2026, 11, 30)),
        ];

    static Gauge Kept(int siteId, string name, DateOnly until) =>
        new()
        {
            SiteId = siteId,
            Name = name,
            CalibratedUntil = until,
            KeptBy = "Sunita Gellatly",
            KeptAt = begun,
        };

    static InspectionPlan InForce(int id, string name, PlanContent content)
    {
        var plan = new InspectionPlan { Id = id, Name = name };
        var faulty = plan.Write(content, "set-up", begun).Sign("set-up", begun, begun, null);
        return faulty is null ? plan : throw new InvalidOperationException(faulty.Sentence);
    }
}
