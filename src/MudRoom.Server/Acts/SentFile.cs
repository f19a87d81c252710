using MudRoom.Core;

namespace MudRoom.Server.Acts;

/// <summary>A paper or picture as a browser sends it: limited, looked into, and a photograph turned and reduced.</summary>
public static class SentFile
{
    const int MostBytes = 8 * 1024 * 1024;

    /// <summary>Its bytes; of a picture those of a JPEG as it is kept.</summary>
    /// <param name="content">In Base64.</param>
    /// <param name="name">For the sentence.</param>
    /// <param name="onlyPictures">True where a paper is of no use.</param>
    public static Outcome<byte[]> Read(string? content, string name, bool onlyPictures = false)
    {
        var text = content ?? "";
        if (text.Length > MostBytes * 4 / 3 + 4)
            return new Refusal(HouseRefusals.FileTooLarge, $"{name} is larger than 8 MB.", "Make the picture smaller.");
        var bytes = new byte[text.Length];
        if (!Convert.TryFromBase64String(text, bytes, out var length) || length == 0)
            return new Refusal(HouseRefusals.Unreadable, $"{name} could not be read.", "Choose the file again.");
        bytes = bytes[..length];
        return SniffedFile.MediaType(bytes) switch
        {
            null or "application/pdf" when onlyPictures => new Refusal(
                HouseRefusals.FileKind,
                $"{name} is no PNG, JPEG or WebP, whatever it is called.",
                "Take a picture."
            ),
            null => new Refusal(
                HouseRefusals.FileKind,
                $"{name} is no PNG, JPEG, WebP or PDF, whatever it is called.",
                "Attach a picture or a PDF."
            ),
            "application/pdf" => bytes,
            _ => Photographs.Reduce(bytes, name),
        };
    }
}
