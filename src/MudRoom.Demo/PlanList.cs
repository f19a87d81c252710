using MudRoom.Core.Bench;

namespace MudRoom.Demo;

static class PlanList
{
    public const int Blades = 1;
    public const int Seed = 2;

    public static IReadOnlyList<InspectionPlan> Make() =>
        [
            new InspectionPlan
            {
                Id = Blades,
                Name = "Cutting tools",
                SamplingUnit = "each",
                Level = InspectionLevel.II,
                AqlMajor = 2.5m,
                AqlMinor = 4.0m,
                Characteristics =
                [
                    new Characteristic
                    {
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
                        Name = "Lock",
                        Class = CharacteristicClass.Critical,
                        PassWord = "holds",
                        FailWord = "slips",
                        Instruction = "Close, lock, pull.",
                    },
                    new Characteristic
                    {
                        Name = "Coating",
                        Class = CharacteristicClass.Minor,
                        PassWord = "whole",
                        FailWord = "chipped",
                        Instruction = "Both sides.",
                    },
                ],
            },
            new InspectionPlan
            {
                Id = Seed,
                Name = "Seed lot",
                SamplingUnit = "sack",
                Level = InspectionLevel.S2,
                AqlMajor = 2.5m,
                AqlMinor = 6.5m,
                Characteristics =
                [
                    new Characteristic
                    {
                        Name = "Moisture",
                        Class = CharacteristicClass.Major,
                        Unit = "%",
                        Upper = 9,
                        Gauge = "moisture",
                        GaugeLow = 0,
                        GaugeHigh = 100,
                        Instruction = "Probe in the middle of the sack.",
                    },
                    new Characteristic
                    {
                        Name = "Smell and mould",
                        Class = CharacteristicClass.Major,
                        PassWord = "clean",
                        FailWord = "musty",
                    },
                    new Characteristic
                    {
                        Name = "Sack",
                        Class = CharacteristicClass.Minor,
                        PassWord = "sound",
                        FailWord = "torn",
                    },
                ],
            },
        ];
}
