using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>How a site holds goods and decides over them.</summary>
public sealed record CageSettings
{
    /// <summary>Most reasons of the list.</summary>
    public const int MostReasons = 20;

    const int MostSigns = 40;

    /// <summary>Why goods are held by hand, the words to choose from.</summary>
    public IReadOnlyList<string> Reasons { get; init; } =
    ["Damaged", "Not what the label says", "Papers missing", "Kept too warm or wet", "Somebody complains", "The vendor warns"];

    /// <summary>Above this value, at the last price of an order, and where no price is known, two people decide; null where one always is
    /// enough.</summary>
    public decimal? SecondAbove { get; init; }

    /// <summary>What is wrong with them, or null.</summary>
    public Refusal? Fault =>
        SecondAbove is < 0 or > 1_000_000_000
            ? new Refusal(
                CageRefusals.CageSettingsAbsurd,
                "A value lies between 0 and a thousand million.",
                "Type it, or leave it empty. Nothing was kept."
            )
        : Reasons.Count > MostReasons || Reasons.Any(r => r.Length is 0 or > MostSigns)
            ? new Refusal(
                CageRefusals.CageSettingsAbsurd,
                $"There are at most {MostReasons} reasons, each of 1 to {MostSigns} characters.",
                "Shorten the list. Nothing was kept."
            )
        : Reasons.Distinct(StringComparer.OrdinalIgnoreCase).Count() < Reasons.Count
            ? new Refusal(CageRefusals.CageSettingsAbsurd, "A reason stands in the list twice.", "Take one out. Nothing was kept.")
        : null;

    /// <summary>Why goods are held, as one sentence: a reason of the list, a sentence of one's own, or both.</summary>
    /// <param name="because">From the list; null or empty for none of them.</param>
    /// <param name="why">In one's own words; may be empty where a reason was chosen.</param>
    /// <returns>The reason as the list has it, null for none, and the sentence.</returns>
    public Outcome<(string? Because, string Sentence)> Reason(string? because, string? why)
    {
        string? listed = null;
        if (because.OrNull() is { } chosen)
        {
            listed = Reasons.FirstOrDefault(r => r.Equals(chosen, StringComparison.OrdinalIgnoreCase));
            if (listed is null)
                return new Refusal(CageRefusals.HoldReasonUnknown, $"\"{chosen}\" is no reason of this site.", "Choose one from the list.");
        }

        return (listed, why.OrNull()) switch
        {
            (_, { Length: > 500 }) or (null, null) => new Refusal(
                HouseRefusals.NoteMissing,
                "A hold wants a reason from the list or a sentence of at most 500 characters.",
                "Say why."
            ),
            (null, { } own) => (null, own),
            ({ } reason, null) => (reason, reason),
            ({ } reason, { } own) => (reason, $"{reason}: {own}"),
        };
    }

    /// <summary>The reason from the list that a sentence made by <see cref="Reason"/> begins with; null for none.</summary>
    public string? ListedIn(string sentence) =>
        Reasons.FirstOrDefault(r => sentence == r || sentence.StartsWith(r + ": ", StringComparison.Ordinal));

    /// <summary>True where two people decide over goods of a value.</summary>
    /// <param name="value">Null where no price is known.</param>
    public bool WantsSecond(decimal? value) => SecondAbove is { } above && (value is null || value > above);

    /// <summary>Why one person alone does not decide; null where they do, or somebody else who may has signed. The sentence tells no
    /// value.</summary>
    /// <param name="value">As for <see cref="WantsSecond"/>.</param>
    /// <param name="second">Who signed besides, with their rights; null for nobody.</param>
    public Refusal? Second(decimal? value, Hand by, (Hand Hand, Func<Right, bool> May)? second)
    {
        if (!WantsSecond(value))
            return null;
        if (second is { } other && other.Hand.Id != by.Id && (other.May(Right.Decide) || other.May(Right.SeePrices)))
            return null;
        return new Refusal(
            CageRefusals.SecondMissing,
            value is null
                ? "No price of these goods is known: two people decide over them."
                : "Over goods of such a value two people decide.",
            "Have somebody else sign too, who may see prices or decide."
        );
    }
}
