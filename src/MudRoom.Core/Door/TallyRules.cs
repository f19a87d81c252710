using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>The rules of counting goods in.</summary>
public static class TallyRules
{
    /// <summary>Judges one count. Whether it is inspected before it is used depends on whose goods they are; see <see
    /// cref="CountRules"/>.</summary>
    /// <param name="count">What was counted.</param>
    /// <param name="parts">Order parts of the item on this arrival.</param>
    /// <param name="today">The date at the site.</param>
    /// <param name="horizonDays">The site's horizon for early goods.</param>
    /// <param name="maySettle">True when the person may decide over what is over.</param>
    /// <param name="heldByRule">True when a hold rule catches the goods.</param>
    public static Outcome<CountDecision> Judge(
        Count count,
        IReadOnlyList<PartView> parts,
        DateOnly today,
        int horizonDays,
        bool maySettle,
        bool heldByRule
    )
    {
        var item = count.Item;
        if (count.Pack is { IsMeasure: false } and not { Numerator: 1, Denominator: 1 } && Math.Floor(count.Packs) != count.Packs)
            return new Refusal(
                DoorRefusals.PacksNotWhole,
                $"{Quantities.Show(count.Packs)} {count.Pack.Name} is no whole number of packs.",
                $"Count opened packs in {item.UnitWord}."
            );
        if (Math.Abs(count.Packs) > Quantities.Most)
            return new Refusal(
                HouseRefusals.QuantityTooLarge,
                $"{Quantities.Show(count.Packs)} {Quantities.Plural(count.Pack.Name, 2)} cannot be right.",
                "Look at the number again."
            );
        if (Quantities.Check(count.Quantity, item) is { } badQuantity)
            return badQuantity;
        if (parts.Count == 0 && !Asides.NeedsNoOrder(count.Aside))
            return new Refusal(
                DoorRefusals.NotOnArrival,
                $"{item.Name} is on no order of this arrival.",
                "Look at the label again. If it is right, count it aside as on no order, or ask a supervisor to add its order."
            );
        if (Missing(count) is { } missing)
            return missing;

        Country? origin = null;
        if (!string.IsNullOrWhiteSpace(count.Origin))
        {
            origin = Countries.Find(count.Origin.Trim());
            if (origin is null)
                return new Refusal(
                    IdentificationRefusals.CountryUnknown,
                    $"{count.Origin} is no country of ISO 3166.",
                    "Type its two letters or its name."
                );
        }

        var choice = Asides.NeedsNoOrder(count.Aside)
            ? LineChoice.None(count.Quantity, item)
            : LineChoice.Choose(parts, count.Quantity, item, count.ChosenPart, today, horizonDays);
        var dates = DatesOf(count, today, parts.Where(p => choice.Shares.Any(s => s.PartId == p.PartId)).Max(p => p.MinimumLife));
        if (dates.Refused(out var badDates))
            return badDates;
        if (dates.Value.Doubt is { } doubt && count.Aside is null)
            return doubt;
        if (count.Reason is { WantsSentence: true } wordy && string.IsNullOrWhiteSpace(count.Note))
            return new Refusal(HouseRefusals.NoteMissing, $"{wordy.Name} wants a sentence.", "Say what is wrong and how it came.");
        if (count.Reason is { WantsPicture: true } shown && count.Pictures == 0)
            return new Refusal(HouseRefusals.PictureMissing, $"{shown.Name} wants a picture.", "Take one, then count it.");
        if (WeightOff(count) is { } off && count.Aside is null)
            return off;

        if (choice.EarlyParts.Count > 0 && !count.EarlyAllowed && !count.Blind)
            return new Refusal(
                DoorRefusals.Early,
                $"{item.Name} on {choice.EarlyParts[0].OrderNumber} is due only on {choice.EarlyParts[0].Due:yyyy-MM-dd}.",
                "Press Take it early, or leave it aboard."
            );
        var mayPass = count.Blind || !choice.BeyondTolerance || count.Aside is not null || count.OverAllowed && maySettle;
        if (!mayPass && parts.All(p => p.IsShut))
            return new Refusal(
                count.OverAllowed ? HouseRefusals.RightMissing : DoorRefusals.OrderShut,
                $"{item.Name} is on {parts[0].OrderNumber}, which is cancelled or closed: nothing more of it is wanted.",
                "Ask a supervisor, or count it aside as on no order."
            );
        if (!mayPass)
            return new Refusal(
                count.OverAllowed ? HouseRefusals.RightMissing : DoorRefusals.Over,
                $"{Quantities.Show(choice.Over)} {item.UnitWord} of {item.Name} would be over; "
                    + $"{Quantities.Show(choice.AllowedOver)} may pass.",
                "Count what is over aside, or let a supervisor take it."
            );

        var standing = count.Aside is not null || heldByRule ? Standing.Held : Standing.Usable;
        return new CountDecision(choice, dates.Value, origin, standing, choice.Shares.Sum(s => s.Over));
    }

    /// <summary>
    /// What is asked of an item's goods, as names of fields in the order in which labels show them: sourceBatch, production, bestBefore or
    /// expiry, origin, serial,
    /// weight. Own batch and the administrator's attributes are not among them.
    /// </summary>
    public static IReadOnlyList<string> Asks(Item item)
    {
        List<string> asks = [];
        if (item.NeedsSourceBatch)
            asks.Add("sourceBatch");
        if (item.NeedsDates)
            asks.AddRange(["production", Ends(item)]);
        if (item.NeedsOrigin)
            asks.Add("origin");
        if (item.NeedsSerial)
            asks.Add("serial");
        if (item.CatchWeight)
            asks.Add("weight");
        return asks;
    }

    /// <summary>The field of the date that rules.</summary>
    static string Ends(Item item) => item.RulingDate == RulingDate.Expiry ? "expiry" : "bestBefore";

    /// <summary>What an item still wants to be known before it can be taken, as names of fields.</summary>
    public static IReadOnlyList<string> Wanted(Count count)
    {
        var item = count.Item;
        List<string> wanted = [];
        if (item.NeedsSourceBatch && string.IsNullOrWhiteSpace(count.SourceBatchNumber))
            wanted.Add("sourceBatch");
        if (item.NeedsDates && count.Production is null && count.BestBefore is null && count.Expiry is null && item.ShelfLifeDays is null)
            wanted.Add(Ends(item));
        if (item.NeedsOrigin && string.IsNullOrWhiteSpace(count.Origin))
            wanted.Add("origin");
        if (item.NeedsSerial && string.IsNullOrWhiteSpace(count.Serial))
            wanted.Add("serial");
        if (item.CatchWeight && count.Weight is null)
            wanted.Add("weight");
        wanted.AddRange(AttributeRules.Missing(item.Attributes, count.Attributes));
        return wanted;
    }

    static Refusal? Missing(Count count)
    {
        var wanted = Wanted(count);
        if (wanted.Count > 0)
            return new Refusal(
                DoorRefusals.Wanted,
                $"{count.Item.Name} still wants its {string.Join(", ", wanted.Select(Word))}.",
                "Scan it, or type it."
            );
        if (!count.BlankAllowed && AttributeRules.Advised(count.Item.Attributes, count.Attributes) is { Count: > 0 } advised)
            return new Refusal(
                DoorRefusals.Recommended,
                $"{string.Join(", ", advised)} of {count.Item.Name} {(advised.Count == 1 ? "is" : "are")} blank.",
                "Fill it in if it stands on the goods; taking it again leaves it blank."
            );
        if (count.Item.NeedsSerial && count.Quantity != 1)
            return new Refusal(DoorRefusals.SerialOne, "One serial number is for one piece.", "Count the pieces one by one.");
        return null;
    }

    /// <summary>The weight against mass times pieces, when it lies beyond the item's tolerance.</summary>
    static Refusal? WeightOff(Count count)
    {
        if (!count.Item.CatchWeight || count.Weight is not { } weight)
            return null;
        var nominal = count.Item.Mass * count.Quantity;
        var most = nominal * count.Item.WeightTolerance / 100;
        return Math.Abs(weight - nominal) <= most
            ? null
            : new Refusal(
                DoorRefusals.WeightOff,
                $"{Quantities.Show(weight)} kg for {Quantities.Show(count.Quantity)} {count.Item.UnitWord} of {count.Item.Name} "
                    + $"lies more than {Quantities.Show(count.Item.WeightTolerance)} % from {Quantities.Show(nominal)} kg.",
                "Count and weigh again; if both are right, count it aside."
            );
    }

    static string Word(string field) =>
        field switch
        {
            "sourceBatch" => "source batch",
            "bestBefore" => "best before",
            _ => field,
        };

    /// <summary>Goods whose label is wrong are counted with no dates of their own.</summary>
    static Outcome<DatesOfGoods> DatesOf(Count count, DateOnly today, int? vendorsMinimum) =>
        count.Aside == Aside.LabelWrong
            ? new DatesOfGoods(null, null, null, false, null)
            : GoodsDates.Check(count.Item, count.Production, count.BestBefore, count.Expiry, today, vendorsMinimum);
}

/// <summary>What stands in the field of the quantity when an item was scanned.</summary>
public static class QuantityRules
{
    /// <summary>The packs that stand filled in, or null for a field that must be typed; and whether they are a proposal to be looked
    /// at.</summary>
    /// <param name="setting">Of the site.</param>
    /// <param name="open">What is still expected of the item on this arrival, in base units.</param>
    /// <param name="pack">The pack scanned.</param>
    /// <param name="scanned">Packs the code itself stands for: 1, or a count within it.</param>
    /// <param name="isGiven">True when the code says how many, or each piece is scanned by itself: nothing is proposed then.</param>
    public static (decimal? Packs, bool Proposed) Entry(
        QuantityEntry setting,
        decimal open,
        PackLevel pack,
        decimal scanned,
        bool isGiven
    ) =>
        setting switch
        {
            _ when isGiven => (scanned, false),
            QuantityEntry.Proposed when Math.Floor(open / pack.Content(1)) is > 0 and var packs => (packs, true),
            QuantityEntry.Typed => (null, false),
            _ => (scanned, false),
        };
}
