using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Data;

namespace MudRoom.Bench;

/// <summary>A value into a sheet of 500 pieces by 8 characteristics, the first and the last; the curves of a plan after a change.</summary>
static class SheetsAndCurves
{
    const int Pieces = 500;
    const int Characteristics = 8;
    const int MostMilliseconds = 100;

    /// <summary>Curves drawn before they are measured: what runs the first times is not compiled for speed yet.</summary>
    const int Warm = 40;

    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);

    public static async Task<bool> Report(string folder) => await Values(folder) & Curves();

    static async Task<bool> Values(string folder)
    {
        var file = Path.Combine(folder, "sheet.db");
        var content = new PlanContent
        {
            SamplingUnit = "each",
            Rules = new Dictionary<CharacteristicClass, SampleRule> { [CharacteristicClass.Major] = new SampleRule.Fixed(Pieces, 10) },
            Characteristics =
            [
                .. Enumerable
                    .Range(1, Characteristics)
                    .Select(i => new Characteristic
                    {
                        Id = i,
                        Name = $"Measure {i}",
                        Class = CharacteristicClass.Major,
                        Unit = "mm",
                        Lower = 0,
                        Upper = 10,
                    }),
            ],
        };
        await using (var making = Database.Context(file))
        {
            await making.Database.MigrateAsync();
            var plan = new InspectionPlan { Id = 1, Name = "Large" };
            _ = plan.Write(content, "bench", now).Sign("bench", now, now, null);
            var item = new Item
            {
                Id = 1,
                Code = "L",
                Name = "Large",
                PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
            };
            var sheet = new Inspection
            {
                Number = "I-1",
                SiteId = 1,
                ArrivalId = 1,
                ItemId = 1,
                VendorId = 1,
                PlanId = 1,
                Since = now,
            };
            _ = sheet.Grow(10_000);
            _ = sheet.Draw(plan, plan[1], item, _ => Severity.Normal);
            making.AddRange(plan, item, sheet);
            await making.SaveChangesAsync();
        }

        var (first, last, read) = (new List<double>(), new List<double>(), new SheetsRead());
        for (var i = 0; i < Pieces * Characteristics; i++)
        {
            var measured =
                i < 40 ? first
                : i >= Pieces * Characteristics - 40 ? last
                : null;
            if (measured is null)
            {
                // What lies between is written at once: only the first and the last are compared.
                await using var between = Database.Context(file);
                var rest = await between.Inspections.AsTracking().Include(s => s.Findings).SingleAsync();
                for (; i < Pieces * Characteristics - 40; i++)
                    rest.Findings.Add(
                        new Finding
                        {
                            Piece = i / Characteristics + 1,
                            CharacteristicId = i % Characteristics + 1,
                            Value = 5,
                            Conforms = true,
                            By = "bench",
                            At = now,
                        }
                    );
                await between.SaveChangesAsync();
                i--;
                continue;
            }

            var begin = Stopwatch.GetTimestamp();
            await using var db = Database.Context(file);
            // As an act does it: the row, its findings from memory, one row more.
            var sheet = await db.Inspections.AsNoTracking().SingleAsync();
            sheet.Findings.AddRange(
                read.Of(sheet) ?? await db.Set<Finding>().AsNoTracking().Where(f => f.InspectionId == sheet.Id).ToListAsync()
            );
            var value = new Observation(i / Characteristics + 1, i % Characteristics + 1, 5, null);
            var found = sheet.Find(content, value, "bench", now, at => at.UtcDateTime);
            if (found.Refused(out var no))
                throw new InvalidOperationException(no.Sentence);
            db.Add(found.Value);
            _ = LotStand.Of(content, sheet.Sample!, sheet.Findings);
            var act = Guid.NewGuid();
            await db.Inspections.ExecuteUpdateAsync(s => s.SetProperty(x => x.FoundBy, act));
            await db.SaveChangesAsync();
            sheet.FoundBy = act;
            read.Keep(sheet, act);
            measured.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
        }

        var (one, end) = (Median(first), Median(last));
        Console.WriteLine(
            $"a value into a sheet of {Pieces} × {Characteristics}, read, judged and kept: the first {one:0.0} ms, the last {end:0.0} ms "
                + $"(limit {MostMilliseconds})"
        );
        return end < MostMilliseconds;
    }

    static bool Curves()
    {
        var quality = new VendorQuality(8, 256, 8);
        SampleRule[] rules =
        [
            new SampleRule.Standard(InspectionLevel.III, 1.5m),
            new SampleRule.Standard(InspectionLevel.II, 2.5m, IsDouble: true),
            new SampleRule.ByVariables(1, 5, 6, 10, null),
        ];
        var good = true;
        foreach (var rule in rules)
        {
            var times = new List<double>();
            for (var i = 0; i < Warm + 20; i++)
            {
                var begin = Stopwatch.GetTimestamp();
                if (rule.Fault is { } fault)
                    throw new InvalidOperationException(fault);
                var curve = new OperatingCharacteristic(rule.For(1200, Severity.Normal).Plan, 1200);
                for (var p = 0; p <= 120; p++)
                    _ = curve.Chance(p / 1000.0);
                _ = (quality.Average(curve.Chance), curve.OutgoingLimit(), curve.QualityAt(0.05));
                times.Add(Stopwatch.GetElapsedTime(begin).TotalMilliseconds);
            }

            Console.WriteLine(
                $"curve, average over the vendor and outgoing limit, {rule.Words}: the first {times[0]:0.0} ms, then "
                    + $"{Median(times[Warm..]):0.0} ms"
            );
            good &= Median(times[Warm..]) < MostMilliseconds;
        }

        return good;
    }

    static double Median(List<double> values)
    {
        values.Sort();
        return values[values.Count / 2];
    }
}
