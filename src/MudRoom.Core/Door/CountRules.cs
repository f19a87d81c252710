using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>A count as somebody wants it taken: what was counted, and what they said of it. Every text is read.</summary>
/// <param name="Arrival">Number of the arrival.</param>
/// <param name="Count">The goods.</param>
public sealed record CountCommand(string Arrival, Count Count)
{
    /// <summary>Why it is counted aside, by the name of the administrator's list, or null for the first that fits.</summary>
    public string? Reason { get; init; }

    /// <summary>The vendor named for goods on no order.</summary>
    public int? Vendor { get; init; }

    /// <summary>The vendor whose lines alone take it: a part of a count that reached over several vendors.</summary>
    public int? OnlyVendor { get; init; }

    /// <summary>Address of the receiving place chosen.</summary>
    public string? Place { get; init; }

    /// <summary>True when a barcode of the item was scanned.</summary>
    public bool WasScanned { get; init; }

    /// <summary>SSCCs that the device has given from its block, one for each unit.</summary>
    public IReadOnlyList<string> Units { get; init; } = [];

    /// <summary>SSCC of a unit of ours that the goods stand on.</summary>
    public string? Onto { get; init; }

    /// <summary>SSCC of the vendor's label that was scanned with the goods.</summary>
    public string? Sscc { get; init; }

    /// <summary>Pictures that belong to it.</summary>
    public IReadOnlyList<int> Pictures { get; init; } = [];

    /// <summary>True when it is typed in from a paper tally.</summary>
    public bool FromPaper { get; init; }
}

/// <summary>What a count is judged by.</summary>
/// <param name="Settings">How the site counts.</param>
/// <param name="Today">The date at the site.</param>
/// <param name="Parts">Order parts of the item on this arrival.</param>
/// <param name="HeldBy">Hold rules that catch the goods, in words.</param>
/// <param name="MaySettle">True when the person may decide over what is over, and choose what was not scanned.</param>
/// <param name="IsBlind">True when the person counts without knowing what is expected.</param>
/// <param name="IsSettled">True when somebody else has settled it: a paper tally, an answer, an announced unit.</param>
/// <param name="Staging">Receiving places of the door.</param>
/// <param name="Bins">All bins of the site.</param>
/// <param name="Aboard">Vendors of the arrival's lines; asked only where nothing else says whose goods they are.</param>
/// <param name="Standings">What standings mean at the site.</param>
/// <param name="By">Name of who takes it.</param>
/// <param name="IsInspected">Whether what is usable otherwise waits for a verdict, by whose goods they
/// are, the order part that takes them and their origin.</param>
public sealed record CountSituation(
    WarehouseSite Site,
    DoorSettings Settings,
    DateOnly Today,
    IReadOnlyList<PartView> Parts,
    IReadOnlyList<string> HeldBy,
    bool MaySettle,
    bool IsBlind,
    bool IsSettled,
    IReadOnlyList<Bin> Staging,
    IReadOnlyList<Bin> Bins,
    IEnumerable<int> Aboard,
    SiteStandings Standings,
    string By,
    Func<int, int?, Country?, bool> IsInspected
);

/// <summary>A difference between papers and goods that a count makes.</summary>
public sealed record CountDifference(DiscrepancyKind Kind, decimal Quantity, string Sentence, int? PartId);

/// <summary>What is done when a count is taken.</summary>
/// <param name="Count">As it is taken: with its reason, and without what a blind counter may not choose.</param>
/// <param name="Decision">Order parts, dates, origin, standing.</param>
/// <param name="Vendor">Whose goods they are.</param>
/// <param name="Place">Where they stand first.</param>
/// <param name="HeldFor">Why they are held, in words; null where they are not.</param>
/// <param name="Difference">What is noted against the papers, if anything.</param>
/// <param name="Parted">Where the goods lie on lines of several vendors: each one's share, to be taken one after another. Empty
/// otherwise.</param>
public sealed record CountOutcome(
    Count Count,
    CountDecision Decision,
    int Vendor,
    Bin Place,
    string? HeldFor,
    CountDifference? Difference,
    IReadOnlyList<(int Vendor, decimal Quantity)> Parted
);

/// <summary>Decides over one count of one pack level: everything that a rule says, and nothing that is done about it.</summary>
public static class CountRules
{
    /// <summary>Most units that one count makes.</summary>
    public const int MostUnits = 200;

    /// <summary>Decides over a count.</summary>
    public static Outcome<CountOutcome> Decide(CountCommand command, CountSituation now)
    {
        var count = command.Count;
        if (now.Settings.ScanForced && !command.WasScanned && !now.IsSettled && !now.MaySettle)
            return new Refusal(
                DoorRefusals.ScanForced,
                $"{now.Site.Name} counts by scan: {count.Item.Name}, {count.Pack.Name}, was not scanned.",
                "Scan the barcode on the goods, or ask a supervisor."
            );
        var reason = now.Settings.ReasonOf(count.Aside, command.Reason);
        if (reason.Refused(out var noReason))
            return noReason;
        count = count with
        {
            Aside = reason.Value?.Kind,
            Reason = reason.Value,
            Pictures = command.Pictures.Count,
            Blind = now.IsBlind,
            ChosenPart = now.IsBlind ? null : count.ChosenPart,
        };
        var parts = command.OnlyVendor is { } only ? [.. now.Parts.Where(p => p.VendorId == only)] : now.Parts;
        var judged = TallyRules.Judge(count, parts, now.Today, now.Site.HorizonDays, now.MaySettle, now.HeldBy.Count > 0);
        if (judged.Refused(out var no))
            return no;
        var decision = judged.Value;
        var parted = command.OnlyVendor is null && !count.Pack.IsUnit ? ByVendor(decision.Choice, parts) : [];
        var ofOrder = decision.Choice.Shares[0].PartId is { } part ? parts.First(p => p.PartId == part).VendorId : (int?)null;
        var vendor = Sender.Of(ofOrder, command.Vendor, now.Aboard);
        if (vendor.Refused(out var nobody))
            return nobody;
        if (decision.Standing == Standing.Usable && now.IsInspected(vendor.Value, decision.Choice.Shares[0].PartId, decision.Origin))
            decision = decision with { Standing = Standing.ToInspect };
        if (count.Pack.IsUnit && count.Packs > MostUnits)
            return new Refusal(
                DoorRefusals.TooManyUnits,
                $"{count.Packs} units at once are too many: {MostUnits} at most.",
                "Count them in parts."
            );
        var place = ReceivingPlace.By(now.Site, now.Settings, now.Standings[decision.Standing], now.Staging, now.Bins, command.Place);
        if (place.Refused(out var nowhere))
            return nowhere;
        return new CountOutcome(
            count,
            decision,
            vendor.Value,
            place.Value,
            count.Aside is not null ? AsideSentence(count)
                : now.HeldBy.Count > 0 ? string.Join("; ", now.HeldBy)
                : null,
            DifferenceOf(count, decision, now.By),
            parted.Count > 1 ? parted : []
        );
    }

    /// <summary>The refusal of a piece that cannot be here.</summary>
    /// <param name="onHand">True when a piece of the item with this serial is in stock.</param>
    /// <param name="announcedOn">Number of another arrival on which a vendor says that it comes, or null.</param>
    public static Refusal? SerialElsewhere(Item item, string serial, bool onHand, string? announcedOn) =>
        onHand ? new Refusal(DoorRefusals.SerialHere, $"Serial {serial} of {item.Name} is on hand already.", "Look at the number again.")
        : announcedOn is null ? null
        : new Refusal(
            DoorRefusals.SerialOnTheWay,
            $"Serial {serial} of {item.Name} is announced on {announcedOn}, still on its way.",
            "Look at the number again. If it is right, ask a supervisor which of the two papers is wrong."
        );

    /// <summary>A part of a count, in base units, with its part of the weight.</summary>
    public static Count PartOf(Count count, decimal quantity) =>
        count with
        {
            Pack = count.Item.BasePack,
            Packs = quantity,
            Weight = count.Weight is { } kilograms ? Math.Round(kilograms * quantity / count.Quantity, 3) : null,
        };

    /// <summary>How much of a count goes on the lines of each vendor, in the order in which they take it.</summary>
    static List<(int Vendor, decimal Quantity)> ByVendor(Choice choice, IReadOnlyList<PartView> parts) =>
        [
            .. choice
                .Shares.Where(s => s.PartId is not null)
                .GroupBy(s => parts.First(p => p.PartId == s.PartId).VendorId)
                .Select(g => (g.Key, g.Sum(s => s.Quantity))),
        ];

    static CountDifference? DifferenceOf(Count count, CountDecision decision, string by) =>
        count.Aside is { } aside
            ? new CountDifference(AsideDifferences.Of(aside), count.Quantity, AsideSentence(count), decision.Choice.Shares[0].PartId)
        : decision.Over > 0
            ? new CountDifference(
                DiscrepancyKind.Over,
                decision.Over,
                $"Over, taken by {by}.",
                decision.Choice.Shares.First(s => s.Over > 0).PartId
            )
        : null;

    static string AsideSentence(Count count) =>
        (count.Reason?.Name ?? Asides.Word(count.Aside!.Value)) + (count.Note is null ? "" : ": " + count.Note);
}
