namespace MudRoom.Core.Identification;

/// <summary>A container's size and type code in its parts (ISO 6346, annexes D and E; the codes in use here from memory).</summary>
/// <param name="Code">42G1.</param>
/// <param name="Length">In feet, from the first character.</param>
/// <param name="Height">In words, from the second.</param>
/// <param name="Type">In words, from the third.</param>
public sealed record SizeType(string Code, string Length, string Height, string Type)
{
    /// <summary>Reads one; null when a character has no meaning.</summary>
    public static SizeType? Read(string? text)
    {
        var code = (text ?? "").Trim().ToUpperInvariant();
        if (code.Length != 4 || !code.All(char.IsAsciiLetterOrDigit))
            return null;
        string? length = code[0] switch
        {
            '1' => "10 ft",
            '2' => "20 ft",
            '3' => "30 ft",
            '4' => "40 ft",
            'L' => "45 ft",
            'M' => "48 ft",
            _ => null,
        };
        string? height = code[1] switch
        {
            '0' => "8 ft high",
            '2' => "8 ft 6 high",
            '4' => "9 ft high",
            '5' => "9 ft 6 high",
            '6' => "higher than 9 ft 6",
            '8' => "4 ft 3 high",
            '9' => "at most 4 ft high",
            'C' => "wide, 8 ft 6 high",
            'E' => "wide, 9 ft 6 high",
            _ => null,
        };
        string? type = code[2] switch
        {
            'G' => "general purpose",
            'V' => "ventilated",
            'B' => "dry bulk",
            'S' => "named cargo",
            'R' => "refrigerated",
            'H' => "insulated",
            'U' => "open top",
            'P' => "platform",
            'T' or 'K' => "tank",
            'A' => "air and surface",
            _ => null,
        };
        return length is null || height is null || type is null ? null : new SizeType(code, length, height, type);
    }
}
