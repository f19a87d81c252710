namespace MudRoom.Core.Road;

/// <summary>What Road refuses.</summary>
public static class RoadRefusals
{
    public static readonly RefusalKind AdviceParted = new(
        "advice-parted",
        "A part of despatch advice … was sent to another site: it speaks for … arrivals.",
        "Change those arrivals by hand."
    );

    public static readonly RefusalKind AlreadyAtDoor = new(
        "already-at-door",
        "… has been at a door since …. Its plan is no longer moved.",
        "Move one that has not come yet."
    );

    public static readonly RefusalKind AlreadyOnSite = new(
        "already-on-site",
        "… is on site already.",
        "Count it here, and transfer the goods."
    );

    public static readonly RefusalKind BelowReceived = new(
        "below-received",
        "… of it are counted or ours on the way; … would be fewer.",
        "Say at least what is there."
    );

    public static readonly RefusalKind CancelConfirm = new(
        "cancel-confirm",
        "Of … something is in the yard, at a door or ours on the way.",
        "Cancel it all the same: what still comes is then asked about at the door. Or leave it open."
    );

    public static readonly RefusalKind ContainerTwice = new(
        "container-twice",
        "… is on … already.",
        "Look at that arrival, or read the number again."
    );

    public static readonly RefusalKind Counted = new("counted", "Goods of … are counted already.", "Take back its counts first.");

    public static readonly RefusalKind CountedIn = new("counted-in", "… is counted in.", "Open its tally again first.");

    public static readonly RefusalKind DocumentMissing = new(
        "document-missing",
        "Say in at most 60 characters what paper says so.",
        "Type the number of the bill of lading."
    );

    public static readonly RefusalKind GateDiffers = new(
        "gate-differs",
        "… stands on the papers, … is there.",
        "Look again. If it is so, say why; a seal that differs wants a picture too."
    );

    public static readonly RefusalKind HoursBackward = new(
        "hours-backward",
        "… would go before coming.",
        "Give the hour of coming and the later hour of going."
    );

    public static readonly RefusalKind InTransit = new(
        "in-transit",
        "Goods of … are ours on the way.",
        "Give them back to the vendor's account first, or send them to another site."
    );

    public static readonly RefusalKind LinesMissing = new("lines-missing", "No line of this arrival was chosen.", "Choose a line.");

    public static readonly RefusalKind Meanwhile = new(
        "meanwhile",
        "Something of … was received or changed since it was cancelled.",
        "Change its lines one by one."
    );

    public static readonly RefusalKind MovesMissing = new(
        "moves-missing",
        "No move was chosen.",
        "Choose at least one arrival of the proposal."
    );

    public static readonly RefusalKind MovesTwice = new("moves-twice", "An arrival is in it twice.", "Ask for a new proposal.");

    public static readonly RefusalKind NotAtDoor = new("not-at-door", "… is not at a door yet.", "Bring it to a door first.");

    public static readonly RefusalKind NotCancelled = new("not-cancelled", "… is not cancelled.", "Nothing is to be taken back.");

    public static readonly RefusalKind NotDraft = new("not-draft", "… is no draft.", "There is nothing to do.");

    public static readonly RefusalKind NotEmpty = new(
        "not-empty",
        "… stands at a door and is not empty.",
        "Finish unloading, then let it out."
    );

    public static readonly RefusalKind NotInYard = new("not-in-yard", "… is not in the yard.", "Look at where it is.");

    public static readonly RefusalKind NotOnSite = new("not-on-site", "… was not let in yet.", "Let it in first.");

    public static readonly RefusalKind NotUnloaded = new(
        "not-unloaded",
        "… was not at a door: it would leave full.",
        "Say why it is sent away."
    );

    public static readonly RefusalKind NothingToTakeOver = new(
        "nothing-to-take-over",
        "Nothing of … is ours on the way.All of … is ours on the way already.",
        "Look at its lines."
    );

    public static readonly RefusalKind OrderDone = new("order-done", "… is … already.", "Nothing is left to cancel.");

    public static readonly RefusalKind OrderNotOpen = new("order-not-open", "… line … is not open for receiving.", "Ask the buyer.");

    public static readonly RefusalKind OrderNumber = new("order-number", "An order number has 1 to 30 characters.", "Type it.");

    public static readonly RefusalKind OrdersMissing = new("orders-missing", "Nothing was chosen.", "Choose an order or a line.");

    public static readonly RefusalKind PlanBreaksRule = new(
        "plan-breaks-rule",
        "… carries goods that door … is not made for.",
        "Bring it to door …, or ask the supervisor."
    );

    public static readonly RefusalKind PlanMoved = new(
        "plan-moved",
        "… has planned … meanwhile, at ….… was sent on meanwhile.",
        "Look at where it stands now, then move it again.",
        409
    );

    public static readonly RefusalKind PlanWarns = new(
        "plan-warns",
        "… at door … is against the plan: ….",
        "Say in at most 200 characters why it goes there all the same, or choose another door."
    );

    public static readonly RefusalKind SameSite = new("same-site", "… comes to … already.", "Choose another site.");

    public static readonly RefusalKind SizeTypeUnknown = new(
        "size-type-unknown",
        "… is no size and type code of ISO 6346.",
        "It has four characters, as 42G1."
    );

    public static readonly RefusalKind SourceMissing = new(
        "source-missing",
        "Say who gave the new time, in at most 60 characters.",
        "Type haulier, shipping line, vendor or driver."
    );

    public static readonly RefusalKind StepDone = new("step-done", "… has been … since ….", "Take that step back if it is wrong.");

    public static readonly RefusalKind TallyBegun = new(
        "tally-begun",
        "… is being counted already.",
        "Count what else is aboard by its order, or make a new arrival."
    );

    public static readonly RefusalKind UnitsAbsurd = new(
        "units-absurd",
        "… units cannot be right.",
        "Say how many pallets, cartons or parcels are aboard."
    );

    public static readonly RefusalKind ReturnPromiseUnknown = new(
        "return-promise-unknown",
        "That is nothing that can be promised.",
        "Choose one from the list."
    );

    public static readonly RefusalKind ReturnReasonMissing = new(
        "return-reason-missing",
        "A customer return wants the customer's reason, in at most … characters.",
        "Type why they send it back."
    );

    public static readonly RefusalKind VendorUnknown = new("vendor-unknown", "No vendor has the code ….", "Look in Site.");

    public static readonly RefusalKind WeekEmpty = new(
        "week-empty",
        "Nobody stands on the roster of the week from ….",
        "Fill that week first."
    );

    public static readonly RefusalKind WhichArrival = new(
        "which-arrival",
        "Despatch advice … could be aboard …: lines of it are planned on each.",
        "Choose one of them, or an arrival of its own."
    );

    public static readonly RefusalKind WithMissing = new(
        "with-missing",
        "Say whom you spoke to, in at most 80 characters.",
        "Type a name."
    );

    public static readonly RefusalKind Withdrawn = new("withdrawn", "… is withdrawn already: …", "There is nothing to do.");
}
