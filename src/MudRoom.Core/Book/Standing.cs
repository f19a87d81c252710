using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>What goods may be used for.</summary>
public enum Standing
{
    Usable = 0,
    ToInspect = 1,
    Held = 2,
    Rejected = 3,
}

/// <summary>What each standing lets be done with goods.</summary>
public static class Standings
{
    /// <summary>Bins of these functions may take goods of this standing.</summary>
    public static IReadOnlyList<BinFunction> Places(Standing standing) =>
        standing switch
        {
            Standing.Usable => [BinFunction.Pick, BinFunction.Reserve, BinFunction.Floor],
            Standing.ToInspect => [BinFunction.Bench],
            Standing.Held => [BinFunction.Cage],
            Standing.Rejected => [BinFunction.Cage, BinFunction.Scrap],
            _ => throw new ArgumentOutOfRangeException(nameof(standing), standing, null),
        };

    /// <summary>True where goods of this standing may stand: in their own places, and where goods wait until they are put away.</summary>
    public static bool MayStand(Standing standing, BinFunction function) =>
        function == BinFunction.Staging || Places(standing).Contains(function);

    /// <summary>Only usable goods may leave the house or be used.</summary>
    public static bool MayBeIssued(Standing standing) => standing == Standing.Usable;

    /// <summary>The word on the screen.</summary>
    public static string Word(Standing standing) =>
        standing switch
        {
            Standing.Usable => "usable",
            Standing.ToInspect => "to inspect",
            Standing.Held => "held",
            Standing.Rejected => "rejected",
            _ => throw new ArgumentOutOfRangeException(nameof(standing), standing, null),
        };
}
