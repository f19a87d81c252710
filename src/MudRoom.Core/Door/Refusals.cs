namespace MudRoom.Core.Door;

/// <summary>What Door refuses.</summary>
public static class DoorRefusals
{
    public static readonly RefusalKind BatchAttributeDiffers = new(
        "batch-attribute-differs",
        "Source batch … came with … before; now it is ….",
        "Look at the paper again: batch or attribute was read wrongly."
    );

    public static readonly RefusalKind BatchDatesDiffer = new(
        "batch-dates-differ",
        "Source batch … came with … before; now it is ….",
        "Look at the label again: batch or date was read wrongly."
    );

    public static readonly RefusalKind BatchInUse = new(
        "batch-in-use",
        "Batch … holds source batch … of ….goods of no source batch.",
        "Use another batch number: one batch holds one source batch of one vendor."
    );

    public static readonly RefusalKind BatchLong = new("batch-long", "… has more than 20 characters.", "Shorten it: a label carries 20.");

    public static readonly RefusalKind BatchOriginDiffers = new(
        "batch-origin-differs",
        "Source batch … came from … before; now it is ….",
        "Look at the label again."
    );

    public static readonly RefusalKind BatchPattern = new(
        "batch-pattern",
        "… has a field that is none of ….",
        "Write the fields as they stand there."
    );

    public static readonly RefusalKind BatchSwallows = new(
        "batch-swallows",
        "… may be a batch with another element behind it.",
        "Look at what is printed below the bars, and say which it is."
    );

    public static readonly RefusalKind BlockKind = new("block-kind", "Numbers are of units or of batches.", "Load the page again.");

    public static readonly RefusalKind CodeKnown = new("code-known", "… is known: ….", "Scan it again.");

    public static readonly RefusalKind CodeUnknown = new(
        "code-unknown",
        "… is no item, bin, order or unit here.",
        "Scan it again, or look for it in Book."
    );

    public static readonly RefusalKind ContainerUnknown = new(
        "container-unknown",
        "Container … is on no arrival of this site.",
        "Make an arrival for it in Road."
    );

    public static readonly RefusalKind CountMissing = new("count-missing", "No count waits for an answer.", "Count it first.");

    public static readonly RefusalKind DatesSwapped = new(
        "dates-swapped",
        "… is before production ….",
        "Check the label: the two may be swapped. If the label really says so, count the goods aside with the reason label wrong."
    );

    public static readonly RefusalKind DeliveryNoteMissing = new(
        "delivery-note-missing",
        "The delivery note of … is missing.",
        "Scan or type its number."
    );

    public static readonly RefusalKind Early = new("early", "… on … is due only on ….", "Press Take it early, or leave it aboard.");

    public static readonly RefusalKind GoneFurther = new("gone-further", "… have gone further: ….", "Bring them back first, step by step.");

    public static readonly RefusalKind GtinUnknown = new(
        "gtin-unknown",
        "GTIN … belongs to no item.",
        "Look at the label, or find the item by its code."
    );

    public static readonly RefusalKind LabelNone = new(
        "label-none",
        "… was counted by …: no pack of it gets a label.",
        "Count it in packs to label them."
    );

    public static readonly RefusalKind LabelSize = new("label-size", "A label is A6 or 4 by 6 inches.", "Choose one of the two.");

    public static readonly RefusalKind LabelUnit = new("label-unit", "These goods stand on a unit.", "Print the label of the unit.");

    public static readonly RefusalKind LevelTwice = new("level-twice", "A pack level stands there twice.", "Add the two up.");

    public static readonly RefusalKind LinesUndecided = new(
        "lines-undecided",
        "… short and nobody has said whether more comes.",
        "Choose more to come or never coming for each."
    );

    public static readonly RefusalKind MoreThanOut = new(
        "more-than-out",
        "Only … of … are still out.",
        "Look at the number again, or at the note."
    );

    public static readonly RefusalKind MoreThanReceived = new(
        "more-than-received",
        "Of … received …, and … of it can still go back.",
        "Return at most that."
    );

    public static readonly RefusalKind NotInspected = new(
        "not-inspected",
        "… for a verdict; here receipts are posted after the inspection.",
        "Have the verdicts signed in Bench first."
    );

    public static readonly RefusalKind NotOnArrival = new(
        "not-on-arrival",
        "… is on no order of this arrival.",
        "Look at the label again. If it is right, count it aside as on no order, or ask a supervisor to add its order."
    );

    public static readonly RefusalKind NothingCounted = new(
        "nothing-counted",
        "Nothing was counted since the last receipt.",
        "Count first, or close the tally."
    );

    public static readonly RefusalKind NothingDiffers = new(
        "nothing-differs",
        "No count differs that is not being counted a second time already.",
        "Wait for the second counts, or close the tally."
    );

    public static readonly RefusalKind OrderShut = new(
        "order-shut",
        "… is on …, which is cancelled or closed: nothing more of it is wanted.",
        "Ask a supervisor, or count it aside as on no order."
    );

    public static readonly RefusalKind OtherArrival = new(
        "other-arrival",
        "The count is of …, the question of ….",
        "Ask at the tally you count on."
    );

    public static readonly RefusalKind OtherReceipt = new(
        "other-receipt",
        "Serial … of … did not come with ….",
        "Return it from the receipt it came with; Book finds it by the serial."
    );

    public static readonly RefusalKind Over = new(
        "over",
        "… of … would be over; … may pass.",
        "Count what is over aside, or let a supervisor take it."
    );

    public static readonly RefusalKind PackUnknown = new("pack-unknown", "A pack level of the entry is empty.", "Leave it out.");

    public static readonly RefusalKind PacksNotWhole = new("packs-not-whole", "… is no whole number of packs.", "Count opened packs in ….");

    public static readonly RefusalKind PastDate = new(
        "past-date",
        "The goods were good until …, … days ago.",
        "Count them aside, or send them back."
    );

    public static readonly RefusalKind PlaceMissing = new(
        "place-missing",
        "This door has no receiving place: goods counted here would stand nowhere.",
        "Set one up in Site, Bins, or bring the arrival to another door."
    );

    public static readonly RefusalKind PlaceWrong = new("place-wrong", "Goods that are … do not stand in ….", "They stand in ….Choose ….");

    public static readonly RefusalKind Posted = new("posted", "The count stands on a posted receipt.", "Open the tally again first.");

    public static readonly RefusalKind PrinterUnknown = new(
        "printer-unknown",
        "… is no printer of ….",
        "Set one up in Site, how goods are counted.Choose …."
    );

    public static readonly RefusalKind ProductionInFuture = new(
        "production-in-future",
        "Production … is later than today, ….",
        "Look at the label again; it is the day they were made."
    );

    public static readonly RefusalKind QuantityIsCode = new(
        "quantity-is-code",
        "… is a code, and no quantity.",
        "Type how many there are. Scan the code on its own."
    );

    public static readonly RefusalKind QuestionsOpen = new("questions-open", "… for a supervisor.", "Have them answered first.");

    public static readonly RefusalKind ReasonUnknown = new("reason-unknown", "… is no reason of this site.", "Choose one from the list.");

    public static readonly RefusalKind Recommended = new(
        "recommended",
        "… of … blank.",
        "Fill it in if it stands on the goods; taking it again leaves it blank."
    );

    public static readonly RefusalKind RestNotAllowed = new(
        "rest-not-allowed",
        "… does not take the rest as ordered.",
        "Count it. The administrator may allow it in Site."
    );

    public static readonly RefusalKind RestWantsMore = new(
        "rest-wants-more",
        "Nothing could be taken as ordered. …",
        "Count these by hand."
    );

    public static readonly RefusalKind Reversed = new("reversed", "… is reversed.", "It cannot be invoiced.");

    public static readonly RefusalKind SamePerson = new(
        "same-person",
        "You have counted these goods yourself.",
        "Somebody else counts them a second time."
    );

    public static readonly RefusalKind ScaleName = new(
        "scale-name",
        "A scale has a name of at most 40 characters.",
        "Say which scale it is."
    );

    public static readonly RefusalKind ScanForced = new(
        "scan-forced",
        "… counts by scan: …, …, was not scanned.",
        "Scan the barcode on the goods, or ask a supervisor."
    );

    public static readonly RefusalKind SecondCountWanted = new(
        "second-count-wanted",
        "… from the papers and … not counted a second time.",
        "Ask for second counts; when both agree, or you let the first stand, close again."
    );

    public static readonly RefusalKind SerialHere = new("serial-here", "Serial … of … is on hand already.", "Look at the number again.");

    public static readonly RefusalKind SerialMissing = new("serial-missing", "There is no serial number.", "Scan or type it.");

    public static readonly RefusalKind SerialOnTheWay = new(
        "serial-on-the-way",
        "Serial … of … is announced on …, still on its way.",
        "Look at the number again. If it is right, ask a supervisor which of the two papers is wrong."
    );

    public static readonly RefusalKind SerialOne = new("serial-one", "One serial number is for one piece.", "Count the pieces one by one.");

    public static readonly RefusalKind SerialRange = new(
        "serial-range",
        "… is no range of serial numbers.",
        "Type the first and the last with to between them."
    );

    public static readonly RefusalKind SerialTwice = new("serial-twice", "… stands twice.", "Take one away.");

    public static readonly RefusalKind SerialsMany = new("serials-many", "More than … serial numbers at once.", "Count them in parts.");

    public static readonly RefusalKind SerialsUnasked = new("serials-unasked", "… is not kept by serial number.", "Count the pieces.");

    public static readonly RefusalKind ShortLife = new(
        "short-life",
        "Good until … leaves … days; ….",
        "Count them aside as held: a supervisor decides in Cage."
    );

    public static readonly RefusalKind TakenBack = new("taken-back", "That was taken back already.", "There is nothing to do.");

    public static readonly RefusalKind TallyOpen = new("tally-open", "The tally of … is open.", "Count on.");

    public static readonly RefusalKind ToInspect = new(
        "to-inspect",
        "… in … waits for its inspection.",
        "Sign its verdict first; what is rejected can go back."
    );

    public static readonly RefusalKind TooManyLevels = new(
        "too-many-levels",
        "An entry has at most … pack levels.",
        "Count the rest in a second entry."
    );

    public static readonly RefusalKind TooManyUnits = new(
        "too-many-units",
        "… units at once are too many: … at most.",
        "Count them in parts."
    );

    public static readonly RefusalKind UnitCounted = new(
        "unit-counted",
        "Unit … is counted already, by … at ….",
        "Look at the trail. If that was wrong, take it back there first."
    );

    public static readonly RefusalKind UnitDiffers = new(
        "unit-differs",
        "Unit … holds something that does not fit its order.",
        "Count its … by hand, and what else stands on it.Count what stands on it by hand."
    );

    public static readonly RefusalKind UnitElsewhere = new(
        "unit-elsewhere",
        "Unit … stands in …, …; these goods are ….",
        "Put them on another unit."
    );

    public static readonly RefusalKind UnitNotReserved = new(
        "unit-not-reserved",
        "Unit number … is not reserved for this device.",
        "Print a new label."
    );

    public static readonly RefusalKind UnitNumbers = new("unit-numbers", "… unit numbers came for … units.", "Scan each label once.");

    public static readonly RefusalKind UnitUnasked = new(
        "unit-unasked",
        "A … of … gets no unit number.",
        "Count it as a unit, or without the number."
    );

    public static readonly RefusalKind UnitUnknown = new("unit-unknown", "No unit was scanned.", "Scan its label.");

    public static readonly RefusalKind UnitUsed = new("unit-used", "Unit number … is used already.", "Print a new label.");

    public static readonly RefusalKind VendorMissing = new(
        "vendor-missing",
        "Nobody has said whose goods these are.",
        "Choose the vendor they came from."
    );

    public static readonly RefusalKind Wanted = new("wanted", "… still wants its ….", "Scan it, or type it.");

    public static readonly RefusalKind WeightLevels = new(
        "weight-levels",
        "Weighed goods are counted one pack level at a time.",
        "Count each level with its weight."
    );

    public static readonly RefusalKind WeightOff = new(
        "weight-off",
        "… kg for … of … lies more than … % from … kg.",
        "Count and weigh again; if both are right, count it aside."
    );
}
