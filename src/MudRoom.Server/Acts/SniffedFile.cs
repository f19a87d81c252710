namespace MudRoom.Server.Acts;

/// <summary>What a file is, whatever it is called.</summary>
public static class SniffedFile
{
    /// <summary>The media type by the file's first bytes; null for what is not taken.</summary>
    public static string? MediaType(ReadOnlySpan<byte> bytes)
    {
        if (bytes.StartsWith("\x89PNG\r\n\x1a\n"u8) || bytes.Length > 8 && bytes[0] == 0x89 && bytes[1..4].SequenceEqual("PNG"u8))
            return "image/png";
        if (bytes.Length > 3 && bytes[0] == 0xFF && bytes[1] == 0xD8 && bytes[2] == 0xFF)
            return "image/jpeg";
        if (bytes.Length > 12 && bytes[..4].SequenceEqual("RIFF"u8) && bytes[8..12].SequenceEqual("WEBP"u8))
            return "image/webp";
        return bytes.StartsWith("%PDF-"u8) ? "application/pdf" : null;
    }
}
