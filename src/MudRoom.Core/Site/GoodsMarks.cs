namespace MudRoom.Core.Site;

/// <summary>How goods have to be handled, by the symbols of ISO 780.</summary>
public enum HandlingMark
{
    ThisWayUp,
    Fragile,
    KeepDry,
    KeepFromFrost,
    KeepFromSun,
    DoNotStack,
    UseNoHooks,
}

/// <summary>What a substance does, by the pictograms of the Globally Harmonized System, numbered as in its annex 3.</summary>
public enum HazardPictogram
{
    ExplodingBomb = 1,
    Flame = 2,
    FlameOverCircle = 3,
    GasCylinder = 4,
    Corrosion = 5,
    SkullAndCrossbones = 6,
    ExclamationMark = 7,
    HealthHazard = 8,
    Environment = 9,
}

/// <summary>Marks of an item: shown while it is counted.</summary>
/// <param name="Hazards">Pictograms of the Globally Harmonized System.</param>
/// <param name="UnNumber">Four digits of the UN Model Regulations' dangerous goods list, or empty.</param>
/// <param name="Handling">Symbols of ISO 780.</param>
public sealed record GoodsMarks(
    IReadOnlyList<HazardPictogram>? Hazards = null,
    string UnNumber = "",
    IReadOnlyList<HandlingMark>? Handling = null
)
{
    /// <summary>What is wrong with them, if anything.</summary>
    public Refusal? Fault()
    {
        if ((Hazards ?? []).Any(h => !Enum.IsDefined(h)) || (Handling ?? []).Any(h => !Enum.IsDefined(h)))
            return new Refusal(SiteRefusals.MarkUnknown, "A mark is none of those offered.", "Choose from the list.");
        return UnNumber is { Length: 0 } || UnNumber.Length == 4 && UnNumber.All(char.IsAsciiDigit)
            ? null
            : new Refusal(SiteRefusals.UnNumber, $"{UnNumber} is no UN number: it has four digits.", "Look at the transport document.");
    }
}

/// <summary>The picture of an item, as JPEG or PNG.</summary>
public sealed class ItemPicture
{
    public required int ItemId { get; init; }
    public required string MediaType { get; set; }
    public required byte[] Content { get; set; }
}
