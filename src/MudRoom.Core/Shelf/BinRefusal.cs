namespace MudRoom.Core.Shelf;

/// <summary>Why a driver cannot put goods into a bin.</summary>
public enum BinTrouble
{
    Full = 0,
    Blocked = 1,
    NotThere = 2,

    /// <summary>Something else stands there than the book says.</summary>
    OtherGoods = 3,
}

/// <summary>A driver's word that a bin does not take these goods: it is not proposed for them again on that day.</summary>
public sealed class BinRefusal
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required int BinId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public required BinTrouble Trouble { get; init; }
    public required string PersonName { get; init; }
    public required DateTimeOffset At { get; init; }

    /// <summary>The site's day on which it holds.</summary>
    public required DateOnly Day { get; init; }

    /// <summary>What was said, in words.</summary>
    public static string Word(BinTrouble trouble) =>
        trouble switch
        {
            BinTrouble.Full => "full",
            BinTrouble.Blocked => "blocked",
            BinTrouble.NotThere => "not there",
            BinTrouble.OtherGoods => "taken by something else",
            _ => throw new ArgumentOutOfRangeException(nameof(trouble), trouble, null),
        };
}
