using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace MudRoom.Core.Bench;

/// <summary>
/// The hash of a signed sheet. A version says what it covers and never changes, so that an old sheet can be checked for ever:
/// 1 covers lot, sample, findings, verdict, name, time and comment; 2 also what was asked (plan, level, AQLs, characteristics with their
/// limits and
/// words), severity, vendor and arrival, and what stood in findings before they were changed.
/// </summary>
public static class Sheets
{
    /// <summary>The version that new sheets get.</summary>
    public const int Newest = 2;

    /// <summary>SHA-256 of the sheet as it stands now, by the version it was signed with.</summary>
    public static string Hash(Inspection sheet, InspectionPlan plan)
    {
        var text = new StringBuilder();
        if (sheet.SheetVersion >= 2)
            Asked(text, sheet, plan);
        text.Append(
            CultureInfo.InvariantCulture,
            $"{sheet.Number}\n{sheet.ItemId}\n{sheet.BatchId}\n{sheet.Quantity:0.######}\n{sheet.LotSize}\n{sheet.Sample?.Letter}\n"
        );
        foreach (var c in sheet.Sample?.Classes ?? [])
            text.Append(CultureInfo.InvariantCulture, $"{c.Class} {c.SampleSize} {c.Ac} {c.Re}\n");
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

        text.Append(CultureInfo.InvariantCulture, $"{sheet.Verdict}\n{sheet.SignedBy}\n{sheet.SignedAt?.UtcTicks}\n{sheet.Comment}");
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())));
    }

    /// <summary>True when a signed sheet is as it was signed.</summary>
    public static bool IsWhole(Inspection sheet, InspectionPlan plan) => sheet.SheetHash == Hash(sheet, plan);

    static void Asked(StringBuilder text, Inspection sheet, InspectionPlan plan)
    {
        text.Append(
            CultureInfo.InvariantCulture,
            $"version {sheet.SheetVersion}\n{sheet.VendorId} {sheet.ArrivalId} {sheet.Severity} {sheet.Since.UtcTicks}\n"
        );
        text.Append(
            CultureInfo.InvariantCulture,
            $"{Sized(plan.Name)} {plan.Level} {plan.AqlMajor:0.######} {plan.AqlMinor:0.######} {Sized(plan.SamplingUnit)}\n"
        );
        foreach (var c in plan.Characteristics.OrderBy(c => c.Id))
            text.Append(
                CultureInfo.InvariantCulture,
                $"{c.Id} {Sized(c.Name)} {c.Class} {Sized(c.Unit)} {c.Nominal:0.######} {c.Lower:0.######} {c.Upper:0.######} "
                    + $"{Sized(c.PassWord)} {Sized(c.FailWord)} {Sized(c.Instruction)}\n"
            );
    }

    /// <summary>A text with its length, so that no two sheets read alike.</summary>
    static string Sized(string? text) => text is null ? "-" : $"{text.Length}:{text}";
}
