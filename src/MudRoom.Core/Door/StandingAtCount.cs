using MudRoom.Core.Book;

namespace MudRoom.Core.Door;

/// <summary>The standing that goods come to as they are counted, of all that is said of them then: recalls first, then the bench, then
/// the return that they came back on. Common practice, no source.</summary>
/// <param name="Ranks">The site's standings, and which of two keeps back more.</param>
/// <param name="Decided">What the count alone asks: its item, its rules, and who counted it aside.</param>
/// <param name="IsRecalled">A recall that goes on catches them.</param>
public readonly record struct StandingAtCount(SiteStandings Ranks, Standing Decided, bool IsRecalled)
{
    /// <summary>What is recalled is held as it comes, whatever else would be said of it.</summary>
    Standing BeforeTheBench => IsRecalled ? Ranks.Higher(Decided, Standing.Recalled) : Decided;

    /// <summary>True where the bench is asked: what is held anyway waits for no inspection yet.</summary>
    public bool AsksBench => BeforeTheBench == Standing.ToInspect;

    /// <summary>The standing with what the bench says, and the return.</summary>
    /// <param name="atBench">What each inspection that catches them asks; none where the bench is not asked or has no plan for
    /// them.</param>
    /// <param name="isReturned">A customer sends them back: looked at before anybody uses them, plan or none.</param>
    public Standing With(IEnumerable<Standing> atBench, bool isReturned)
    {
        // What passes unseen, and of what only the sample waits, is usable at once.
        var looked = AsksBench && atBench.All(asks => asks == Standing.Usable) ? Standing.Usable : BeforeTheBench;
        return isReturned ? Ranks.Higher(looked, Standing.ToInspect) : looked;
    }
}
