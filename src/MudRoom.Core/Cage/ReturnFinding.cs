using MudRoom.Core.Book;

namespace MudRoom.Core.Cage;

/// <summary>What was found of goods that a customer sent back, beside what the customer says. Stored.</summary>
public enum ReturnFound
{
    /// <summary>It is as the customer says.</summary>
    AsSaid = 0,

    /// <summary>Something else is wrong with them.</summary>
    OtherFault = 1,

    /// <summary>Nothing is wrong with them.</summary>
    NoFault = 2,

    /// <summary>They took harm after they had left the house.</summary>
    HarmedThere = 3,
}

/// <summary>The finding of goods that a customer sent back.</summary>
/// <param name="Note">What was seen.</param>
public sealed record ReturnFinding(ReturnFound Found, string Note, Hand By, DateTimeOffset At)
{
    /// <summary>In words: "no fault found: starts every time".</summary>
    public string Words => $"{Word(Found)}: {Note}";

    /// <summary>What was found, in a few words.</summary>
    public static string Word(ReturnFound found) =>
        found switch
        {
            ReturnFound.AsSaid => "as the customer says",
            ReturnFound.OtherFault => "another fault",
            ReturnFound.NoFault => "no fault found",
            ReturnFound.HarmedThere => "harmed at the customer's",
            _ => throw new ArgumentOutOfRangeException(nameof(found), found, null),
        };
}
