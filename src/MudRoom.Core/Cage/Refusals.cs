namespace MudRoom.Core.Cage;

/// <summary>What Cage refuses.</summary>
public static class CageRefusals
{
    public static readonly RefusalKind HoldReasonUnknown = new("hold-reason-unknown", "That is no reason.", "Choose one from the list.");

    public static readonly RefusalKind OrderLineUnclear = new("order-line-unclear", "… has several lines.", "Name one of them.");

    public static readonly RefusalKind TooMuchHere = new(
        "too-much-here",
        "So many batches stand here that they are not held in one go.",
        "Hold them by Book, or hold only what comes."
    );

    public static readonly RefusalKind ChoiceUnknown = new("choice-unknown", "That is no decision.", "Choose one from the list.");

    public static readonly RefusalKind ConcessionAbsurd = new(
        "concession-absurd",
        "A concession says who asked for it and for whom or what it is given.",
        "Type both, of at most … characters."
    );

    public static readonly RefusalKind ConditionAbsurd = new(
        "condition-absurd",
        "A condition wants a paper of a kind, a signature or an inspection.",
        "Choose one."
    );

    public static readonly RefusalKind ConditionByItself = new(
        "condition-by-itself",
        "An inspection meets that, by accepting the goods.",
        "Ask for an inspection, or look at the bench."
    );

    public static readonly RefusalKind ConditionMet = new("condition-met", "That was met by … on ….", "There is nothing to do.", 409);

    public static readonly RefusalKind ConditionsOpen = new("conditions-open", "… still wants ….", "Meet its conditions first.");

    public static readonly RefusalKind ConditionUnknown = new(
        "condition-unknown",
        "… has no such condition.",
        "Look at its conditions again.",
        404
    );

    public static readonly RefusalKind DecidedAlready = new(
        "decided-already",
        "… has decided over …: to be ….",
        "Carry that out, or take it back first.",
        409
    );

    public static readonly RefusalKind FindingMissing = new(
        "finding-missing",
        "Nobody has found yet what the goods of … are.",
        "Have … look at them against the customer's reason."
    );

    public static readonly RefusalKind FindingWaits = new(
        "finding-waits",
        "… looks at goods of …, and is not signed yet.",
        "Sign it first: what it finds belongs to the finding."
    );

    public static readonly RefusalKind FoundAlready = new(
        "found-already",
        "… has found of …: ….",
        "Take that finding back first, or decide what becomes of the goods.",
        409
    );

    public static readonly RefusalKind HoldLifted = new("hold-lifted", "… was lifted by … on ….", "There is nothing to do.", 409);

    public static readonly RefusalKind HoldRuleAbsurd = new("hold-rule-absurd", "A rule holds for 1 to … days.", "Type how many.");

    public static readonly RefusalKind HoldRuleEmpty = new(
        "hold-rule-empty",
        "A rule that names no goods would hold everything.",
        "Name an item, a group, a vendor, an origin or how the batch is written."
    );

    public static readonly RefusalKind HoldRuleThere = new(
        "hold-rule-there",
        "There is such a rule already: ….",
        "End that one first, or change what this one speaks of."
    );

    public static readonly RefusalKind InspectFirst = new(
        "inspect-first",
        "Nobody has inspected all of … yet: they are not released until a day.",
        "Release them without an end; they go to the bench then."
    );

    public static readonly RefusalKind MoreThanHeld = new(
        "more-than-held",
        "… holds …; … is not part of it.",
        "Choose a quantity from what is held."
    );

    public static readonly RefusalKind NotMissing = new("not-missing", "… misses nothing of that number.", "Look at its list again.");

    public static readonly RefusalKind NoReturn = new(
        "no-return",
        "… holds goods that no customer sent back.",
        "Look at its number again."
    );

    public static readonly RefusalKind NotDecided = new(
        "not-decided",
        "Over … nothing is decided.",
        "Decide first what becomes of its goods."
    );

    public static readonly RefusalKind NothingToDecide = new(
        "nothing-to-decide",
        "… holds goods by …: there is nothing wrong with them to decide over.",
        "Lift it when its conditions are met."
    );

    public static readonly RefusalKind OnTheMove = new(
        "on-the-move",
        "… is moving these goods right now.",
        "Wait until they are put down."
    );

    public static readonly RefusalKind PaperWrong = new("paper-wrong", "… is a …; … wants a ….", "Attach the ….");

    public static readonly RefusalKind RecallAbsurd = new(
        "recall-absurd",
        "A recall goes by batch, serial, days of production or despatch advice.",
        "Choose one."
    );

    public static readonly RefusalKind RecallEmpty = new(
        "recall-empty",
        "Nobody here knows ….",
        "Look at the number again. If it may still come, say that it is to be held then."
    );

    public static readonly RefusalKind RecallEnded = new("recall-ended", "… was ended by … on ….", "Begin a new one.", 409);

    public static readonly RefusalKind RecallOpen = new("recall-open", "… still holds ….", "Lift its holds, or decide over them.", 409);

    public static readonly RefusalKind RecallThere = new("recall-there", "… is about the same goods already.", "Look at that one.", 409);

    public static readonly RefusalKind RegradeWrong = new(
        "regrade-wrong",
        "… is counted in …, … in …: the one does not become the other.",
        "Choose an item that they meet."
    );

    public static readonly RefusalKind RejectedGoods = new(
        "rejected-goods",
        "… rejected some of them: they are not usable again as they are.",
        "Have them repaired, or choose something else."
    );

    public static readonly RefusalKind SecondMissing = new(
        "second-missing",
        "Over goods of such a value two people decide.",
        "Have somebody else sign too, who may see prices or decide."
    );

    public static readonly RefusalKind CageSettingsAbsurd = new(
        "cage-settings-absurd",
        "A value is 0 or more.",
        "Type it, or leave it empty. Nothing was kept."
    );

    public static readonly RefusalKind SignsTwice = new(
        "signs-twice",
        "… has signed for … already: nobody signs twice for one hold.",
        "Have somebody else sign."
    );

    public static readonly RefusalKind WitnessMissing = new(
        "witness-missing",
        "What is scrapped is seen by somebody besides ….",
        "Have somebody else sign as the witness."
    );

    public static readonly RefusalKind WantsDecision = new(
        "wants-decision",
        "… holds rejected goods. They are not lifted, they are decided over.",
        "Choose what becomes of them."
    );
}
