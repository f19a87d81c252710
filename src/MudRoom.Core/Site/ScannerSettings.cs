namespace MudRoom.Core.Site;

/// <summary>How a scanner at this site sends what it reads.</summary>
/// <param name="Prefix">Typed before each code, or empty.</param>
/// <param name="Suffix">Typed behind each code, before the Enter key, or empty.</param>
/// <param name="Separator">Stands for control character 29 where the scanner cannot send it; empty when it can.</param>
/// <param name="Pace">Most milliseconds between two characters, as learned; 0 for a scanner as fast as usual.</param>
/// <param name="RepeatWithin">The same label within so many milliseconds is asked about: a trembling hand, or two of them; 0 never
/// asks.</param>
public sealed record ScannerSettings(string Prefix = "", string Suffix = "", string Separator = "", int Pace = 0, int RepeatWithin = 300)
{
    /// <summary>Between two characters of a scanner that need not be taught, in milliseconds.</summary>
    public const int UsualPace = 50;

    /// <summary>A device that types slower than this types like a person, and cannot be told from one.</summary>
    public const int SlowestPace = 250;

    /// <summary>The pace to go by for a scanner whose slowest two characters came so many milliseconds apart.</summary>
    public static int PaceOf(int slowest) => slowest <= UsualPace / 2 ? 0 : Math.Min(SlowestPace, slowest + slowest / 2);

    /// <summary>The code in what a scanner typed: without prefix and suffix, with the separator as control character 29.</summary>
    public string Code(string typed)
    {
        var text = typed.Trim(' ');
        if (Prefix.Length > 0 && text.StartsWith(Prefix, StringComparison.Ordinal))
            text = text[Prefix.Length..];
        if (Suffix.Length > 0 && text.EndsWith(Suffix, StringComparison.Ordinal))
            text = text[..^Suffix.Length];
        return Separator.Length > 0 ? text.Replace(Separator, "\u001d", StringComparison.Ordinal) : text;
    }

    /// <summary>
    /// What the settings must be for a scanner that typed <paramref name="typed"/> when it read the known code: the code is looked for
    /// with any one to three characters in the place of each separator. A symbology identifier right before it belongs to the code, and
    /// is another one for each kind of symbol, so it is no part of the prefix.
    /// </summary>
    /// <param name="typed">All that it typed before Enter.</param>
    /// <param name="known">The code on the test label, with control character 29 between its parts.</param>
    public static Outcome<ScannerSettings> Learn(string typed, string known)
    {
        var parts = known.Split('\u001d');
        var start = typed.IndexOf(parts[0], StringComparison.Ordinal);
        if (start < 0)
            return new Refusal(
                SiteRefusals.ScannerUnread,
                "What came is not the test label.",
                "Scan the label on this page, and nothing else."
            );
        var at = start + parts[0].Length;
        string? separator = null;
        foreach (var part in parts.Skip(1))
        {
            var next = typed.IndexOf(part, at, StringComparison.Ordinal);
            if (next < 0)
                return new Refusal(SiteRefusals.ScannerUnread, "Only a part of the test label came.", "Scan it again, slowly.");
            var between = typed[at..next];
            if (between.Length is 0 or > 3)
                return new Refusal(
                    SiteRefusals.ScannerNoSeparator,
                    "The scanner leaves the separator between two parts of a code out.",
                    "Set it to send control character 29, or a character instead of it, and scan again."
                );
            if (separator is not null && separator != between)
                return new Refusal(
                    SiteRefusals.ScannerUnread,
                    "Two different characters stand between the parts.",
                    "Scan it again, slowly."
                );
            separator = between;
            at = next + part.Length;
        }

        var identifier =
            start >= 3 && typed[start - 3] == ']' && char.IsAsciiLetter(typed[start - 2]) && char.IsAsciiDigit(typed[start - 1]) ? 3 : 0;
        return new ScannerSettings(typed[..(start - identifier)], typed[at..], separator is null or "\u001d" ? "" : separator);
    }

    /// <summary>What is wrong with the settings, if anything.</summary>
    public Refusal? Fault()
    {
        if (Prefix is null || Suffix is null || Separator is null)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "A part of the scanner's settings is missing.",
                "Send it empty where there is none. Nothing was kept."
            );
        if (Prefix.Length > 8 || Suffix.Length > 8 || Separator.Length > 3)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "A prefix or suffix has up to eight characters, a separator up to three.",
                "Look at them again. Nothing was kept."
            );
        if (Pace is < 0 or > SlowestPace)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"The pace of a scanner lies between 0 and {SlowestPace} milliseconds.",
                "Teach it anew. Nothing was kept."
            );
        if (RepeatWithin is < 0 or > 2000)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "The same label may be asked about within 0 to 2000 milliseconds.",
                "Look at it again. Nothing was kept."
            );
        return Separator.Any(char.IsAsciiLetterOrDigit)
            ? new Refusal(
                HouseRefusals.SettingAbsurd,
                "Letters and digits stand in codes themselves; they cannot stand for the separator.",
                "Choose another character. Nothing was kept."
            )
            : null;
    }
}
