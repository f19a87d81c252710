using MudRoom.Core;
using MudRoom.Core.Road;
using MudRoom.Core.Site;

namespace MudRoom.Server.Acts;

/// <summary>Papers and pictures that acts attach: looked into, reduced, and named by what they are.</summary>
public static class Attaching
{
    /// <summary>Slow work that is done before the act begins: a file that was looked into, as it is kept.</summary>
    /// <param name="content">In Base64.</param>
    /// <param name="name">For the sentence.</param>
    /// <returns>In Base64.</returns>
    public static Outcome<string> Prepared(string? content, string? name)
    {
        var sent = SentFile.Read(content, name ?? "The paper");
        return sent.Refused(out var refusal) ? refusal : Convert.ToBase64String(sent.Value);
    }

    /// <summary>An attachment of bytes that were looked into already.</summary>
    public static Attachment Made(
        Act act,
        string? name,
        byte[] bytes,
        int? arrival,
        int? hold = null,
        PaperKind? kind = null,
        int? part = null,
        Guid? count = null
    )
    {
        var type = SniffedFile.MediaType(bytes)!;
        return new Attachment
        {
            ArrivalId = arrival,
            HoldId = hold,
            Name = NameFor(name, type),
            MediaType = type,
            Content = bytes,
            PartId = part,
            ActId = count,
            By = act.Person.Name,
            At = act.Now,
        }.Is(kind);
    }

    /// <summary>A name that says what the file is: whatever it was called, its ending is that of its content.</summary>
    static string NameFor(string? given, string type)
    {
        var name = Path.GetFileNameWithoutExtension(Path.GetFileName((given ?? "").Replace('\\', '/'))).Trim().Trim('.');
        var ending = type switch
        {
            "application/pdf" => ".pdf",
            "image/png" => ".png",
            "image/webp" => ".webp",
            _ => ".jpg",
        };
        return (name.Length is 0 or > 90 ? "paper" : name) + ending;
    }
}
