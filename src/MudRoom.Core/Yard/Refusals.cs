namespace MudRoom.Core.Yard;

/// <summary>What Yard refuses.</summary>
public static class YardRefusals
{
    public static readonly RefusalKind NotCalled = new("not-called", "… was not called to a door.", "Call it first.");

    public static readonly RefusalKind PlateMissing = new(
        "plate-missing",
        "Nothing tells this vehicle from another.",
        "Type its plate or its container number."
    );

    public static readonly RefusalKind PlateOnSite = new(
        "plate-on-site",
        "Plate … is on site already, with ….",
        "Look again. If it is so, say why."
    );

    public static readonly RefusalKind SpotUnfit = new("spot-unfit", "Spot … takes …; this is a ….", "Choose a spot that fits.");

    public static readonly RefusalKind SpotUnknown = new("spot-unknown", "This yard has no spot ….", "It has ….");
}
