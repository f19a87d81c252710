using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>What somebody wrote on a sheet: of a piece, of a characteristic, of both or of the whole lot.</summary>
/// <param name="Piece">From 1; null for all.</param>
/// <param name="CharacteristicId">Null for all.</param>
public sealed record SheetNote(int? Piece, int? CharacteristicId, string Text, string By, DateTimeOffset At)
{
    /// <summary>Most characters of a note.</summary>
    public const int MostText = 500;

    /// <summary>Most notes of a sheet.</summary>
    public const int Most = 200;
}

/// <summary>What stood on a piece and was cleared; nothing stands there now.</summary>
/// <param name="Before">First first; the last is what was cleared, with the reason.</param>
public sealed record ClearedFinding(int Piece, int CharacteristicId, IReadOnlyList<FindingBefore> Before);
