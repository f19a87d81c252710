using MudRoom.Core.Site;

namespace MudRoom.Core.Cage;

/// <summary>How a site decides over nonconforming goods.</summary>
public sealed record CageSettings
{
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
            : null;

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
