using System.Globalization;
using MudRoom.Core.Book;

namespace MudRoom.Core.Bench;

/// <summary>One thing that two versions of a plan say differently.</summary>
/// <param name="Characteristic">The characteristic it is about; null for the plan or a class.</param>
/// <param name="Field">What it is: "upper limit", "sample rule".</param>
/// <param name="Was">In words; null where it is new.</param>
/// <param name="Now">In words; null where it is gone.</param>
public sealed record PlanChange(int? Characteristic, string Field, string? Was, string? Now);

/// <summary>What differs between two versions of a plan.</summary>
public static class PlanChanges
{
    /// <summary>All that <paramref name="now"/> says otherwise than <paramref name="before"/>.</summary>
    public static IReadOnlyList<PlanChange> Between(PlanContent before, PlanContent now)
    {
        var changes = new List<PlanChange>();
        Add(null, "sampling unit", before.SamplingUnit, now.SamplingUnit);
        Add(null, "second signature", before.WantsSecond ? "wanted" : "none", now.WantsSecond ? "wanted" : "none");
        Add(null, "what waits", Waits(before), Waits(now));
        Add(null, "pieces", Serves(before), Serves(now));
        Add(null, "retained sample", Kept(before), Kept(now));
        Add(null, "qualification", before.Qualification ?? "none", now.Qualification ?? "none");
        Add(null, "lots skipped", before.SkipLot?.Words ?? "none", now.SkipLot?.Words ?? "none");
        Add(null, "minutes to set up", Text(before.SetUpMinutes), Text(now.SetUpMinutes));
        Add(null, "seconds per piece", Text(before.SecondsPerPiece), Text(now.SecondsPerPiece));
        foreach (var c in Enum.GetValues<CharacteristicClass>())
            Add(null, Word(c), before.Rules.GetValueOrDefault(c)?.Words, now.Rules.GetValueOrDefault(c)?.Words);
        foreach (var gone in before.Characteristics.Where(c => now[c.Id] is null))
            changes.Add(new PlanChange(gone.Id, gone.Name, gone.LimitWords, null));
        foreach (var c in now.Characteristics)
            if (before[c.Id] is not { } was)
                changes.Add(new PlanChange(c.Id, c.Name, null, c.LimitWords));
            else
            {
                Add(c.Id, "name", was.Name, c.Name);
                Add(c.Id, "class", Word(was.Class), Word(c.Class));
                Add(c.Id, "unit", was.Unit ?? "looked at", c.Unit ?? "looked at");
                Add(c.Id, "lower limit", Text(was.Lower), Text(c.Lower));
                Add(c.Id, "upper limit", Text(was.Upper), Text(c.Upper));
                Add(c.Id, "nominal", Text(was.Nominal), Text(c.Nominal));
                Add(c.Id, "how it is had", Characteristic.WordOf(was.Had), Characteristic.WordOf(c.Had));
                Add(c.Id, "gauge", was.Gauge ?? "any", c.Gauge ?? "any");
                Add(c.Id, "gauge reads from", Text(was.GaugeLow), Text(c.GaugeLow));
                Add(c.Id, "gauge reads to", Text(was.GaugeHigh), Text(c.GaugeHigh));
                if (!c.IsMeasured || !was.IsMeasured)
                {
                    Add(c.Id, "word for good", was.PassWord, c.PassWord);
                    Add(c.Id, "word for bad", was.FailWord, c.FailWord);
                }

                Add(c.Id, "piece", was.UsesUp ? "used up" : "stays whole", c.UsesUp ? "used up" : "stays whole");
                Add(c.Id, "picture", Text(was.Picture), Text(c.Picture));
                Add(c.Id, "instruction", was.Instruction, c.Instruction);
                Add(c.Id, "sample rule", was.Rule?.Words ?? WithClass(was), c.Rule?.Words ?? WithClass(c));
            }
        return changes;

        void Add(int? characteristic, string field, string? was, string? next)
        {
            if (was != next)
                changes.Add(new PlanChange(characteristic, field, was, next));
        }
    }

    /// <summary>The changes as the book keeps them.</summary>
    public static IReadOnlyList<FieldKept> Kept(PlanContent before, PlanContent now) =>
        [
            .. Between(before, now)
                .Select(c => new FieldKept(
                    c.Characteristic is { } id && (now[id] ?? before[id])!.Name is var name && name != c.Field
                        ? $"{name}, {c.Field}"
                        : c.Field,
                    c.Was ?? "",
                    c.Now ?? ""
                )),
        ];

    static string Waits(PlanContent plan) => plan.OnlySampleWaits ? "only the sample" : "the whole lot";

    static string Serves(PlanContent plan) => plan.EachItsOwn ? "each its own" : "the largest sample serves all";

    static string Kept(PlanContent plan) => plan.Retains is { } kept ? $"{kept.Units} for {kept.Months} months" : "none";

    static string Text(ReferencePicture? picture) =>
        picture is null ? "none" : $"{picture.Hash[..8]}{string.Concat(picture.Marks.Select(m => $", {m.Text} at {m.X} {m.Y}"))}";

    static string WithClass(Characteristic c) => $"with the {c.Class.ToString().ToLowerInvariant()}s";

    static string Word(CharacteristicClass c) => c.ToString().ToLowerInvariant();

    static string Text(decimal? value) => value?.ToString("0.######", CultureInfo.InvariantCulture) ?? "none";

    static string Text(int value) => value.ToString(CultureInfo.InvariantCulture);
}
