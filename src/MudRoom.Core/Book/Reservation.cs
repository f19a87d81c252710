using System.Globalization;

namespace MudRoom.Core.Book;

/// <summary>
/// Goods kept for waiting demand: who waited for them on their order line gets them, and nobody else. It is said of the lots that were
/// counted for it (see <see cref="Statement"/>), wherever they stand, and keeps nothing back from who they are kept for.
/// </summary>
public sealed class Reservation
{
    public int Id { get; init; }
    public required int SiteId { get; init; }

    /// <summary>The line part that the goods came on.</summary>
    public required int PartId { get; init; }

    /// <summary>Who waits, as the order says: a customer's order, or a job with its department.</summary>
    public required string For { get; init; }

    /// <summary>By when, on the site's wall clock; null where nobody said.</summary>
    public DateTime? By { get; init; }
    public required DateTimeOffset Since { get; init; }

    /// <summary>Most characters of what goods are issued for.</summary>
    public const int LongestReference = 40;

    /// <summary>Who waits, as far as an issue can name them.</summary>
    public static string ReferenceOf(string who) => (who.Length > LongestReference ? who[..LongestReference] : who).Trim();

    /// <summary>Who waits, and by when, as it is shown: "three orders, by 10 Mar 15:00".</summary>
    public static string WordsOf(string who, DateTime? by) =>
        by is { } hour ? string.Create(CultureInfo.InvariantCulture, $"{who}, by {hour:d MMM HH:mm}") : who;

    /// <summary>True where goods counted on a line part are kept for who waits for it. Goods counted aside are nothing to wait for, and
    /// what a customer sends back is bound to their return.</summary>
    public static bool Keeps(bool isAside, bool isCustomersReturn) => !isAside && !isCustomersReturn;

    /// <summary>True where what goods are issued for means who waits: all of their words as far as they can be typed, a part of them
    /// between commas, or whole words of them that name somebody ("WO-88" of "from WO-88 on", "Hollin Nurseries" of "84 promised to Hollin
    /// Nurseries"; no amount, and no "for").</summary>
    public static bool IsFor(string who, string reference)
    {
        var wanted = reference.Trim();
        if (wanted.Length == 0)
            return false;
        if (
            who.Split(',', ';', StringSplitOptions.TrimEntries)
                .Append(ReferenceOf(who))
                .Any(part => wanted.Equals(part, StringComparison.OrdinalIgnoreCase))
        )
            return true;
        for (var at = 0; (at = who.IndexOf(wanted, at, StringComparison.OrdinalIgnoreCase)) >= 0; at++)
            if (!IsOfWord(who, at - 1) && !IsOfWord(who, at + wanted.Length) && who.Substring(at, wanted.Length).Split(' ').Any(Names))
                return true;
        return false;

        static bool IsOfWord(string text, int at) =>
            at >= 0 && at < text.Length && (char.IsLetterOrDigit(text[at]) || text[at] is '-' or '/');
        static bool Names(string word) => word.Length > 0 && (char.IsUpper(word[0]) || (word.Any(char.IsLetter) && word.Any(char.IsDigit)));
    }
}

/// <summary>A lot that is kept for somebody.</summary>
/// <param name="For">Who waits for it.</param>
/// <param name="By">By when, on the site's wall clock; null where nobody said.</param>
public sealed record KeptLot(int LotId, string For, DateTime? By = null)
{
    /// <summary>Who waits, and by when.</summary>
    public string Words => Reservation.WordsOf(For, By);
}

/// <summary>The lots of a line of stock, by who may have them.</summary>
/// <param name="Own">Kept for whom they are wanted now.</param>
/// <param name="Free">Kept for nobody.</param>
/// <param name="Others">Kept for others.</param>
public sealed record LotsToTake(IReadOnlyList<int> Own, IReadOnlyList<int> Free, IReadOnlyList<KeptLot> Others)
{
    /// <summary>Those that may be taken.</summary>
    public IReadOnlyList<int> All => [.. Own, .. Free];

    /// <summary>Who may have which lots.</summary>
    /// <param name="lots">The lots, in the order in which they are taken.</param>
    /// <param name="kept">What of them is kept for somebody, by all that say so.</param>
    /// <param name="reference">What they are wanted for; null for nobody in particular.</param>
    public static LotsToTake Of(IReadOnlyList<int> lots, IEnumerable<KeptLot> kept, string? reference)
    {
        var by = kept.ToLookup(k => k.LotId);
        bool IsOwn(int lot) => reference is not null && by[lot].Any(k => Reservation.IsFor(k.For, reference));
        return new LotsToTake(
            [.. lots.Where(IsOwn)],
            [.. lots.Where(l => !by[l].Any())],
            [.. lots.Where(l => !IsOwn(l)).SelectMany(l => by[l])]
        );
    }
}
