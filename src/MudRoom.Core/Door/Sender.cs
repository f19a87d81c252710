namespace MudRoom.Core.Door;

/// <summary>Whose goods were counted.</summary>
public static class Sender
{
    /// <summary>The vendor of the order that takes them; for goods on no order the one named at the door, else the only vendor
    /// aboard.</summary>
    /// <param name="ofOrder">Vendor of the order line that takes the goods, or null where none does.</param>
    /// <param name="named">The vendor named by who counts, or null.</param>
    /// <param name="aboard">Vendors of all lines of the arrival.</param>
    /// <returns>The vendor; refused as vendor-missing where nothing tells.</returns>
    public static Outcome<int> Of(int? ofOrder, int? named, IEnumerable<int> aboard)
    {
        if ((ofOrder ?? named) is { } known)
            return known;
        return aboard.Distinct().Take(2).ToList() is [var only]
            ? only
            : new Refusal(DoorRefusals.VendorMissing, "Nobody has said whose goods these are.", "Choose the vendor they came from.");
    }
}
