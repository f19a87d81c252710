namespace MudRoom.Core.Bench;

/// <summary>What Bench refuses.</summary>
public static class BenchRefusals
{
    public static readonly RefusalKind BenchUnknown = new("bench-unknown", "… is no place of the bench.", "Choose ….");

    public static readonly RefusalKind BuyerToldAlready = new(
        "buyer-told-already",
        "… told the buyer of … after lot …; no lot was signed since.",
        "Tell it again after the next lot.",
        409
    );

    public static readonly RefusalKind CharacteristicUnknown = new(
        "characteristic-unknown",
        "The plan has no such characteristic.",
        "Load the sheet again."
    );

    public static readonly RefusalKind DraftMoved = new(
        "draft-moved",
        "… changed the draft at …; you were looking at an older one.",
        "Look at it again; nothing of yours was kept.",
        409
    );

    public static readonly RefusalKind FindingsMade = new(
        "findings-made",
        "… has … findings: its sample stays drawn.",
        "Finish the sheet."
    );

    public static readonly RefusalKind FindingsMissing = new(
        "findings-missing",
        "… findings are still to be made.",
        "Finish the sample; a verdict of accepted needs every one."
    );

    public static readonly RefusalKind GaugeNone = new(
        "gauge-none",
        "Nothing on this piece still wants ….",
        "Choose the piece, or put the cursor into the field."
    );

    public static readonly RefusalKind GaugeOther = new(
        "gauge-other",
        "… is no value of …, which is measured in ….",
        "Put the cursor where the value belongs."
    );

    public static readonly RefusalKind GaugeOverdue = new(
        "gauge-overdue",
        "The calibration of the … ended on …: what it reads does not count.",
        "Take another gauge, or have this one calibrated and its new date kept."
    );

    public static readonly RefusalKind GaugeWhich = new(
        "gauge-which",
        "… may be ….",
        "Put the cursor into the field of what was measured."
    );

    public static readonly RefusalKind InspectionRuleDays = new(
        "inspection-rule-days",
        "A rule of goods that are long in store names 1 to 3650 days, and no other rule does.",
        "Type after how many days."
    );

    public static readonly RefusalKind InspectionRuleEmpty = new(
        "inspection-rule-empty",
        "A rule that speaks of everything would bring everything to the bench.",
        "Name an item, a group, a vendor, an origin or how it comes."
    );

    public static readonly RefusalKind InspectionRuleThere = new(
        "inspection-rule-there",
        "There is such a rule already.",
        "End that one first, or change what this one speaks of."
    );

    public static readonly RefusalKind InspectionStopped = new(
        "inspection-stopped",
        "5 lots were not accepted since tightened inspection began; a person restarts it.",
        "Ask a supervisor to restart it, on tightened."
    );

    public static readonly RefusalKind InspectionWithdrawn = new(
        "inspection-withdrawn",
        "… was withdrawn by ….",
        "Ask for an inspection anew.",
        409
    );

    public static readonly RefusalKind LookMissing = new("look-missing", "… is looked at.", "Say … or ….");

    public static readonly RefusalKind LotEmpty = new(
        "lot-empty",
        "… has no goods: what was counted was taken back.",
        "There is nothing to do."
    );

    public static readonly RefusalKind LotSizeAbsurd = new("lot-size-absurd", "… cannot be the size of the lot.", "Count again.");

    public static readonly RefusalKind LotSizeWanted = new(
        "lot-size-wanted",
        "… samples by …, and … has no such pack.",
        "Count how many … the lot has, and type it."
    );

    public static readonly RefusalKind MoreThanSampled = new(
        "more-than-sampled",
        "… of the sample of … are left; … is more.",
        "Type what there is."
    );

    public static readonly RefusalKind NamesNoPiece = new(
        "names-no-piece",
        "That names goods, and no single piece of them.",
        "Scan its serial or its label."
    );

    public static readonly RefusalKind NoSignature = new(
        "no-signature",
        "… has no signature of yours that could be taken back.",
        "Whoever signed first takes their own back."
    );

    public static readonly RefusalKind NotAskedByHand = new(
        "not-asked-by-hand",
        "… is wanted by rule; nobody can withdraw it.",
        "Inspect it. A rule is ended on its page.",
        409
    );

    public static readonly RefusalKind NotInHand = new("not-in-hand", "Nobody has … in hand.", "There is nothing to lay down.");

    public static readonly RefusalKind NotSigned = new(
        "not-signed",
        "… is not signed: it is still changed on its sheet.",
        "Open its sheet."
    );

    public static readonly RefusalKind NothingComing = new("nothing-coming", "… is steady.", "There is nothing to tell the buyer.");

    public static readonly RefusalKind NothingFound = new(
        "nothing-found",
        "Nothing stands on piece … for ….",
        "There is nothing to clear."
    );

    public static readonly RefusalKind PieceNamed = new("piece-named", "… is piece … already.", "Take another piece.", 409);

    public static readonly RefusalKind PieceOutside = new(
        "piece-outside",
        "… is looked at on pieces 1 to …; … is none of them.",
        "Choose a piece of the sample."
    );

    public static readonly RefusalKind PlanBackdated = new(
        "plan-backdated",
        "A version is in force from its signature on at the earliest.",
        "Choose now or a later day."
    );

    public static readonly RefusalKind PlanFaulty = new("plan-faulty", "The draft has faults.", "Mend the draft, then sign it.");

    public static readonly RefusalKind PlanNameTaken = new(
        "plan-name-taken",
        "There is a plan called … already.",
        "Choose another name, or change that plan."
    );

    public static readonly RefusalKind PlanNoneFits = new("plan-none-fits", "No plan is meant for ….", "Choose one from the list.");

    public static readonly RefusalKind PlanNotDrafted = new("plan-not-drafted", "… has no draft.", "Begin one from the version in force.");

    public static readonly RefusalKind PlanNotInForce = new(
        "plan-not-in-force",
        "No version of … is in force.",
        "Have a version signed in force, then draw."
    );

    public static readonly RefusalKind PlanSame = new(
        "plan-same",
        "The draft says the same as version …, which is in force.",
        "Change it, or drop the draft."
    );

    public static readonly RefusalKind PlanSigned = new("plan-signed", "Version … was signed by … already.", "Begin a new draft.", 409);

    public static readonly RefusalKind QualificationMissing = new(
        "qualification-missing",
        "This plan wants …, and you do not have it.",
        "Ask a colleague who has."
    );

    public static readonly RefusalKind RetainedNotThere = new(
        "retained-not-there",
        "Goods that are … may not stand in ….",
        "Choose a place of the cage."
    );

    public static readonly RefusalKind RetainedUntil = new(
        "retained-until",
        "A retained sample is kept until a day after today.",
        "Say until when it is kept."
    );

    public static readonly RefusalKind SampleAway = new(
        "sample-away",
        "The sample of … was brought away from its lot: it stays drawn.",
        "Finish the sheet.",
        409
    );

    public static readonly RefusalKind SampleDrawn = new("sample-drawn", "The sample of … is drawn already.", "Go on with its sheet.", 409);

    public static readonly RefusalKind SampleNotDrawn = new(
        "sample-not-drawn",
        "The sample of … is not drawn yet.",
        "Draw it first: that fixes the lot."
    );

    public static readonly RefusalKind SampleSettled = new(
        "sample-settled",
        "Nothing of the sample of … is left to settle.",
        "There is nothing to do.",
        409
    );

    public static readonly RefusalKind SampleThere = new(
        "sample-there",
        "The sample of … is in … already.",
        "There is nothing to do.",
        409
    );

    public static readonly RefusalKind SerialNotOfLot = new("serial-not-of-lot", "… is no serial of this lot.", "Scan the piece again.");

    public static readonly RefusalKind SeverityIdle = new(
        "severity-idle",
        "Lots of … from … are not so far.",
        "Look at the line of their lots again."
    );

    public static readonly RefusalKind SignatureWrong = new(
        "signature-wrong",
        "Name and password are not those of who is signed in.",
        "Type your own name and password."
    );

    public static readonly RefusalKind Signed = new(
        "signed",
        "… was signed by … on … and cannot be changed.",
        "Ask for a new inspection that supersedes it.",
        409
    );

    public static readonly RefusalKind SignedAlready = new(
        "signed-already",
        "You signed it at …; the second signature is another person's.",
        "Ask a colleague who may sign."
    );

    public static readonly RefusalKind SignedFirst = new(
        "signed-first",
        "… was signed by … and waits for a second signature.",
        "Have … take the signature back, then change it.",
        409
    );

    public static readonly RefusalKind Superseded = new("superseded", "… was superseded by … already.", "Open that one.", 409);

    public static readonly RefusalKind TakenByOther = new("taken-by-other", "… has … in hand since ….", "Ask, then take it over.", 409);

    public static readonly RefusalKind ValueAbsurd = new("value-absurd", "… cannot be right.", "Measure again.");

    public static readonly RefusalKind ValueDoubtful = new(
        "value-doubtful",
        "… is not a value that this gauge gives.",
        "Measure again; if it is right, say so, and it counts."
    );

    public static readonly RefusalKind CountNotWhole = new("count-not-whole", "… is counted: … is no count.", "Type a whole number.");

    public static readonly RefusalKind ValueMissing = new("value-missing", "… is measured in ….", "Type or read the value.");

    public static readonly RefusalKind VerdictMoved = new(
        "verdict-moved",
        "The verdict is … now; you were about to sign ….",
        "Look at the sheet again."
    );

    public static readonly RefusalKind WaitsAlready = new(
        "waits-already",
        "They wait for the verdict of … already.",
        "Open that one.",
        409
    );
}
