namespace MudRoom.Core.Site;

/// <summary>Kinds of packages by UN/ECE Recommendation 21; the codes that goods come in here, with plain words.</summary>
public static class PackageTypes
{
    /// <summary>Code and word, in the order in which they are offered.</summary>
    public static IReadOnlyList<(string Code, string Word)> All { get; } =
    [
        ("PX", "pallet"),
        ("CT", "carton"),
        ("BX", "box"),
        ("CG", "cage"),
        ("CS", "case"),
        ("CR", "crate"),
        ("BG", "bag"),
        ("SA", "sack"),
        ("BL", "bale, compressed"),
        ("BE", "bundle"),
        ("DR", "drum"),
        ("JC", "jerrican, rectangular"),
        ("BA", "barrel"),
        ("PK", "package"),
        ("PU", "tray"),
        ("RO", "roll"),
        ("NT", "net"),
        ("BI", "bin"),
        ("WA", "intermediate bulk container"),
        ("NE", "unpacked"),
    ];

    /// <summary>The word for a code; the code itself when it is none of these.</summary>
    public static string Word(string code) => All.FirstOrDefault(t => t.Code == code).Word ?? code;

    /// <summary>True for a code of the list, or none at all.</summary>
    public static bool IsKnown(string code) => code.Length == 0 || All.Any(t => t.Code == code);

    /// <summary>The code for the name of a pack; empty when none fits.</summary>
    public static string For(string packName) => All.FirstOrDefault(t => t.Word == packName).Code ?? "";
}
