using System.Text.Json.Serialization;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>A picture on a sheet: of a piece, of a characteristic, of both or of the whole lot.</summary>
/// <param name="Id">Under which it is kept.</param>
/// <param name="Hash">SHA-256 of it.</param>
/// <param name="Piece">From 1; null for all.</param>
/// <param name="CharacteristicId">Null for all.</param>
public sealed record SheetPicture(int Id, string Hash, int? Piece, int? CharacteristicId, string By, DateTimeOffset At)
{
    /// <summary>Most pictures of a sheet.</summary>
    public const int Most = 40;
}

/// <summary>A picture by which something is judged, with marks on it; by its hash a signed version says exactly which one it
/// was.</summary>
/// <param name="Id">Under which it is kept.</param>
/// <param name="Hash">SHA-256 of it.</param>
public sealed record ReferencePicture(int Id, string Hash, IReadOnlyList<PictureMark> Marks)
{
    /// <summary>Most marks on a picture.</summary>
    public const int MostMarks = 12;

    /// <summary>What is wrong with it, in a sentence; null where nothing is.</summary>
    [JsonIgnore]
    public string? Fault =>
        Marks.Count > MostMarks ? $"a picture has at most {MostMarks} marks."
        : Marks.Any(m => m.X is < 0 or > 100 || m.Y is < 0 or > 100) ? "a mark lies outside the picture."
        : Marks.Any(m => m.Text.OrNull() is not { Length: <= 60 }) ? "each mark has words, at most 60 characters."
        : null;
}

/// <summary>A mark on a picture.</summary>
/// <param name="X">From the left, in hundredths of the width.</param>
/// <param name="Y">From the top, in hundredths of the height.</param>
/// <param name="Text">What is seen there.</param>
public sealed record PictureMark(int X, int Y, string Text);

/// <summary>A picture of the bench as it is kept.</summary>
public sealed class BenchPicture
{
    public int Id { get; init; }
    public required int SiteId { get; init; }

    /// <summary>The sheet that it is on; null for one by which a plan judges.</summary>
    public int? InspectionId { get; init; }

    /// <summary>SHA-256 of its content.</summary>
    public required string Hash { get; init; }

    /// <summary>JPEG.</summary>
    public required byte[] Content { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }
}
