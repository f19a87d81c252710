using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>The dates of counted goods once they are accepted.</summary>
/// <param name="Production">As known, or null.</param>
/// <param name="BestBefore">As known or worked out.</param>
/// <param name="Expiry">As known or worked out.</param>
/// <param name="WorkedOut">True when the ruling date stood on no label.</param>
/// <param name="Doubt">What somebody has to decide before the goods are usable, or null.</param>
public sealed record DatesOfGoods(GoodsDate? Production, DateOnly? BestBefore, DateOnly? Expiry, bool WorkedOut, Refusal? Doubt)
{
    /// <summary>The date that rules for an item.</summary>
    public DateOnly? Ruling(Item item) => item.RulingDate == RulingDate.Expiry ? Expiry ?? BestBefore : BestBefore ?? Expiry;
}

/// <summary>Judges the dates on goods: refuses what cannot be, works out what is missing, doubts what is too short.</summary>
public static class GoodsDates
{
    /// <summary>Checks and completes.</summary>
    /// <param name="item">Its shelf life and minimum remaining life.</param>
    /// <param name="production">As typed or scanned.</param>
    /// <param name="bestBefore">As typed or scanned.</param>
    /// <param name="expiry">As typed or scanned.</param>
    /// <param name="today">The date at the site; also the receipt date.</param>
    /// <param name="vendorsMinimum">Days of life that goods of this vendor must have left, or null.</param>
    public static Outcome<DatesOfGoods> Check(
        Item item,
        GoodsDate? production,
        DateOnly? bestBefore,
        DateOnly? expiry,
        DateOnly today,
        int? vendorsMinimum = null
    )
    {
        if (Impossible("Best before", bestBefore, production) is { } badBestBefore)
            return badBestBefore;
        if (Impossible("Expiry", expiry, production) is { } badExpiry)
            return badExpiry;
        if (production is { } made && made.Date > today)
            return new Refusal(
                DoorRefusals.ProductionInFuture,
                $"Production {made} is later than today, {today:yyyy-MM-dd}.",
                SwapHint(made, bestBefore ?? expiry, today)
            );
        foreach (var (word, date) in new[] { ("Production", production?.Date), ("Best before", bestBefore), ("Expiry", expiry) })
            if (date is { } day && (day.Year < 1990 || day.Year > today.Year + 50))
                return new Refusal(HouseRefusals.DateAbsurd, $"{word} {day:yyyy-MM-dd} cannot be right.", "Look at the label again.");

        var workedOut = false;
        if (bestBefore is null && expiry is null && item.ShelfLifeDays is { } life)
        {
            var ruling = LastDay(production, today).AddDays(life);
            workedOut = true;
            if (item.RulingDate == RulingDate.Expiry)
                expiry = ruling;
            else
                bestBefore = ruling;
        }

        var dates = new DatesOfGoods(production, bestBefore, expiry, workedOut, null);
        return dates with { Doubt = Doubt(item, dates.Ruling(item), today, vendorsMinimum) };
    }

    static Refusal? Impossible(string word, DateOnly? ends, GoodsDate? production)
    {
        if (ends is not { } end || production is not { } made || end >= made.Date)
            return null;
        return new Refusal(
            DoorRefusals.DatesSwapped,
            $"{word} {end:yyyy-MM-dd} is before production {made}.",
            "Check the label: the two may be swapped. If the label really says so, count the goods aside with the reason label wrong."
        );
    }

    static string SwapHint(GoodsDate made, DateOnly? ends, DateOnly today) =>
        ends is { } end && end <= today && made.Date > end
            ? $"The other date, {end:yyyy-MM-dd}, would fit as production: the two may be swapped."
            : "Check the label. If it really says so, count the goods aside with the reason label wrong.";

    static Refusal? Doubt(Item item, DateOnly? ruling, DateOnly today, int? vendorsMinimum)
    {
        if (ruling is not { } end)
            return null;
        var left = end.DayNumber - today.DayNumber;
        if (left < 0)
            return new Refusal(
                DoorRefusals.PastDate,
                $"The goods were good until {end:yyyy-MM-dd}, {-left} days ago.",
                "Count them aside, or send them back."
            );
        var (wanted, who) =
            vendorsMinimum > (item.MinimumRemainingDays ?? 0)
                ? (vendorsMinimum, "goods of this vendor")
                : (item.MinimumRemainingDays, item.Name);
        if (left < wanted)
            return new Refusal(
                DoorRefusals.ShortLife,
                $"Good until {end:yyyy-MM-dd} leaves {left} days; {who} {(who == item.Name ? "wants" : "want")} {wanted}.",
                "Count them aside as held: a supervisor decides in Cage."
            );
        return null;
    }

    /// <summary>Shelf life counts from production where it is known, else from receipt; a month counts from its first day, which is never
    /// too long.</summary>
    static DateOnly LastDay(GoodsDate? production, DateOnly today) => production?.Date ?? today;
}
