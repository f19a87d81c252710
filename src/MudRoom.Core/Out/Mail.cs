namespace MudRoom.Core.Out;

/// <summary>A letter that a person sends. Nothing is mailed by itself.</summary>
/// <param name="To">One address.</param>
public sealed record Mail(string To, string Subject, string Text)
{
    /// <summary>Most characters of an address (RFC 5321, 4.5.3.1.3: a path of 256 with its brackets).</summary>
    public const int MostOfAddress = 254;
    public const int MostOfSubject = 150;
    public const int MostOfText = 5000;

    /// <summary>Why it is not sent, or null.</summary>
    public Refusal? Fault =>
        !IsAddress(To)
            ? new Refusal(OutRefusals.AddressWrong, $"{Short(To)} is no mail address.", "Type one address, as name@firm.example.")
        : Subject is not { Length: > 0 and <= MostOfSubject } || Subject.Any(char.IsControl)
            ? new Refusal(OutRefusals.MailEmpty, $"A mail has a subject of one line, at most {MostOfSubject} characters.", "Type it.")
        : string.IsNullOrWhiteSpace(Text) || Text.Length > MostOfText
            ? new Refusal(OutRefusals.MailEmpty, $"A mail has a text of at most {MostOfText} characters.", "Type it.")
        : null;

    static string Short(string text) => text.Length <= 60 ? text : text[..60] + "…";

    /// <summary>One address as people write it: something, one at sign, a domain with a dot; no list, no name, no line break.</summary>
    static bool IsAddress(string text)
    {
        var at = text.IndexOf('@', StringComparison.Ordinal);
        if (text.Length > MostOfAddress || at < 1 || at != text.LastIndexOf('@'))
            return false;
        var domain = text[(at + 1)..];
        return !text.Any(c => char.IsWhiteSpace(c) || char.IsControl(c) || c is ',' or ';' or '<' or '>' or '"' or '(' or ')')
            && domain.Contains('.', StringComparison.Ordinal)
            && domain.Split('.').All(label => label.Length > 0);
    }
}
