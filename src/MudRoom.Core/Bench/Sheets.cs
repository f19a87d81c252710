using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace MudRoom.Core.Bench;

/// <summary>
/// The hash of a signed sheet. A version says what it covers and never changes, so that an old sheet can be checked for ever:
/// 1 covers lot, sample, findings, verdict, name, time and comment; 2 also what was asked (plan, level, AQLs, characteristics with their
/// limits and words), severity, vendor and arrival, and what stood in findings before they were changed; 3 the version of the plan with the
/// hash of all that it says, each part of the sample whole, and all signatures; 4 how the goods came to the bench, which sheet it stands
/// in the place of, what was cleared, and the notes; 5 the names of pieces, and the hashes of the pictures.
/// </summary>
public static class Sheets
{
    /// <summary>The version that new sheets get.</summary>
    public const int Newest = 5;

    const string around =
        "Lot and how it came to the bench, the version of the plan whole, sample, findings with what stood there before or was cleared, ";

    /// <summary>What a version covers, in words.</summary>
    public static string Covers(int version) =>
        version switch
        {
            1 => "Lot, sample, findings, verdict, name, time and comment.",
            2 => "Lot, what was asked, sample, findings with what stood there before, verdict, name, time and comment.",
            3 => "Lot, the version of the plan whole, sample, findings with what stood there before, verdict and all signatures.",
            4 => around + "notes, verdict and all signatures.",
            _ => around + "notes, names of pieces, pictures, verdict and all signatures.",
        };

    /// <summary>SHA-256 of the sheet as it stands now, by the version it was signed with.</summary>
    public static string Hash(Inspection sheet, string planName, PlanVersion plan)
    {
        var text = new StringBuilder();
        if (sheet.SheetVersion >= 2)
            Lot(text, sheet);
        if (sheet.SheetVersion == 2)
            Asked(text, planName, plan.Content);
        if (sheet.SheetVersion >= 3)
            text.Append(CultureInfo.InvariantCulture, $"{sheet.PlanId} {Sized(planName)} {sheet.PlanVersion} {plan.Hash}\n");
        text.Append(
            CultureInfo.InvariantCulture,
            $"{sheet.Number}\n{sheet.ItemId}\n{sheet.BatchId}\n{sheet.Quantity:0.######}\n{sheet.LotSize}\n{sheet.Sample?.Letter}\n"
        );
        foreach (var c in sheet.Sample?.Classes ?? [])
        {
            text.Append(CultureInfo.InvariantCulture, $"{c.Class} {c.SampleSize} {c.Ac} {c.Re}\n");
            if (sheet.SheetVersion >= 3)
                text.Append(
                    CultureInfo.InvariantCulture,
                    $"part {c.Characteristic} {c.Severity} {c.Letter} {c.PerHundred} {Numbers(c.Asks)} {Sized(c.Note)}\n"
                );
            if (c.After > 0)
                text.Append(CultureInfo.InvariantCulture, $"after {c.After}\n");
        }

        foreach (var f in sheet.Findings.OrderBy(f => f.Piece).ThenBy(f => f.CharacteristicId))
        {
            text.Append(
                CultureInfo.InvariantCulture,
                $"{f.Piece} {f.CharacteristicId} {f.Value:0.######} {f.Conforms} {f.By} {f.At.UtcTicks}\n"
            );
            if (sheet.SheetVersion >= 2)
                foreach (var b in f.Before)
                    text.Append(
                        CultureInfo.InvariantCulture,
                        $"before {Sized(b.Was)} {b.Conformed} {Sized(b.By)} {b.At.UtcTicks} {Sized(b.Reason)}\n"
                    );
        }

        if (sheet.SheetVersion >= 4)
            Around(text, sheet);
        if (sheet.SheetVersion >= 3)
            foreach (var s in sheet.Signatures)
                text.Append(CultureInfo.InvariantCulture, $"signed {Sized(s.By)} {s.At.UtcTicks} {s.Meaning} {Sized(s.Comment)}\n");
        text.Append(CultureInfo.InvariantCulture, $"{sheet.Verdict}\n{sheet.SignedBy}\n{sheet.SignedAt?.UtcTicks}\n{sheet.Comment}");
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())));
    }

    /// <summary>True when a signed sheet is as it was signed.</summary>
    public static bool IsWhole(Inspection sheet, string planName, PlanVersion plan) => sheet.SheetHash == Hash(sheet, planName, plan);

    static void Lot(StringBuilder text, Inspection sheet) =>
        text.Append(
            CultureInfo.InvariantCulture,
            $"version {sheet.SheetVersion}\n{sheet.VendorId} {sheet.ArrivalId} {sheet.Severity} {sheet.Since.UtcTicks}\n"
        );

    static void Around(StringBuilder text, Inspection sheet)
    {
        text.Append(
            CultureInfo.InvariantCulture,
            $"came {sheet.Trigger} {sheet.RuleId} {Sized(sheet.AskedBecause)} {Sized(sheet.AskedBy)} {sheet.SupersedesId} "
                + $"{sheet.LetsUse} {sheet.SkipSeed}\n"
        );
        foreach (var c in sheet.Cleared)
        foreach (var b in c.Before)
            text.Append(
                CultureInfo.InvariantCulture,
                $"cleared {c.Piece} {c.CharacteristicId} {Sized(b.Was)} {b.Conformed} {Sized(b.By)} {b.At.UtcTicks} {Sized(b.Reason)}\n"
            );
        foreach (var n in sheet.Notes)
            text.Append(
                CultureInfo.InvariantCulture,
                $"note {n.Piece} {n.CharacteristicId} {Sized(n.Text)} {Sized(n.By)} {n.At.UtcTicks}\n"
            );
        if (sheet.SheetVersion < 5)
            return;
        foreach (var p in sheet.Pieces)
            text.Append(CultureInfo.InvariantCulture, $"piece {p.Piece} {Sized(p.Name)} {Sized(p.By)} {p.At.UtcTicks}\n");
        foreach (var p in sheet.Pictures)
            text.Append(CultureInfo.InvariantCulture, $"picture {p.Hash} {p.Piece} {p.CharacteristicId} {Sized(p.By)} {p.At.UtcTicks}\n");
    }

    /// <summary>What a plan said when it knew one level and two AQLs only; a version from then has no other rules.</summary>
    static void Asked(StringBuilder text, string name, PlanContent plan)
    {
        var (major, minor) = (Rule(CharacteristicClass.Major), Rule(CharacteristicClass.Minor));
        text.Append(
            CultureInfo.InvariantCulture,
            $"{Sized(name)} {major.Level} {major.Aql:0.######} {minor.Aql:0.######} {Sized(plan.SamplingUnit)}\n"
        );
        foreach (var c in plan.Characteristics.OrderBy(c => c.Id))
            text.Append(
                CultureInfo.InvariantCulture,
                $"{c.Id} {Sized(c.Name)} {c.Class} {Sized(c.Unit)} {c.Nominal:0.######} {c.Lower:0.######} {c.Upper:0.######} "
                    + $"{Sized(c.PassWord)} {Sized(c.FailWord)} {Sized(c.Instruction)}\n"
            );

        SampleRule.Standard Rule(CharacteristicClass c) => (SampleRule.Standard)plan.Rules[c];
    }

    static string Numbers(SamplePlan plan) =>
        plan switch
        {
            SamplePlan.Single(var size, var ac) => string.Create(CultureInfo.InvariantCulture, $"single {size} {ac}"),
            SamplePlan.Double(var first, var ac1, var re1, var second, var ac2) => string.Create(
                CultureInfo.InvariantCulture,
                $"double {first} {ac1} {re1} {second} {ac2}"
            ),
            SamplePlan.Variables(var size, var k, var sigma) => string.Create(
                CultureInfo.InvariantCulture,
                $"variables {size} {k:R} {sigma:R}"
            ),
            SamplePlan.Sequential(var slope, var accept, var reject, var most) => string.Create(
                CultureInfo.InvariantCulture,
                $"sequential {slope:R} {accept:R} {reject:R} {most}"
            ),
            _ => throw new InvalidOperationException($"{plan.GetType().Name} is no plan."),
        };

    /// <summary>A text with its length, so that no two sheets read alike.</summary>
    static string Sized(string? text) => text is null ? "-" : $"{text.Length}:{text}";
}
