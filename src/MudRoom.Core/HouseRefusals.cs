namespace MudRoom.Core;

/// <summary>What any room may refuse, and what the server itself does.</summary>
public static class HouseRefusals
{
    public static readonly RefusalKind ActIdMissing = new(
        "act-id-missing",
        "The act has no id.",
        "Send the header Act-Id with a new UUID.",
        400
    );

    public static readonly RefusalKind ActIdUsed = new(
        "act-id-used",
        "This act id was used for something else.",
        "Give every act an id of its own.",
        409
    );

    public static readonly RefusalKind ActsCount = new("acts-count", "1 to … acts are sent together.", "Send the rest behind them.");

    public static readonly RefusalKind BackupFaulty = new(
        "backup-faulty",
        "… does not pass the check. Nothing was replaced.",
        "Take another backup."
    );

    public static readonly RefusalKind BadgeLocked = new(
        "badge-locked",
        "Too many wrong PINs: this badge is locked … for … minutes.",
        "Sign in with name and password, or wait.",
        401
    );

    public static readonly RefusalKind BadgeShape = new("badge-shape", "A badge number has 6 to 40 characters.", "Scan the badge.");

    public static readonly RefusalKind BadgeTaken = new("badge-taken", "Somebody else carries this badge.", "Take it from them first.");

    public static readonly RefusalKind Broken = new(
        "broken",
        "Something broke on our side. Nothing was changed.",
        "Try again. If it stays, tell the administrator the time.",
        500
    );

    public static readonly RefusalKind ClockBack = new(
        "clock-back",
        "The book has entries up to …; the clock cannot go behind them.",
        "Choose a later time, or start the demo with --fresh."
    );

    public static readonly RefusalKind CodeLong = new("code-long", "… has more than 40 characters.", "Look at the label again.");

    public static readonly RefusalKind CountsBlind = new(
        "counts-blind",
        "… counts blind: whoever counts does not see what is expected.",
        "Ask a supervisor."
    );

    public static readonly RefusalKind DatabaseCut = new(
        "database-cut",
        "… is cut short: … of … bytes are there.",
        "Restore a backup: mudroom restore FILE."
    );

    public static readonly RefusalKind DatabaseForeign = new(
        "database-foreign",
        "… is a database of another program.",
        "Name the right folder with --data."
    );

    public static readonly RefusalKind DatabaseNewer = new(
        "database-newer",
        "… was written by a newer version of Mud Room.",
        "Run that version, or restore a backup of this one: mudroom restore FILE."
    );

    public static readonly RefusalKind DatabaseReadOnly = new(
        "database-read-only",
        "… cannot be written.",
        "Give it to the user who runs Mud Room."
    );

    public static readonly RefusalKind DateAbsurd = new("date-absurd", "… cannot be right.", "Look at the label again.");

    public static readonly RefusalKind Decided = new("decided", "… has counted it already.", "There is nothing to do.", 409);

    public static readonly RefusalKind DeliveryNoteLong = new(
        "delivery-note-long",
        "A delivery note number has more than 40 characters.",
        "Look at the paper again."
    );

    public static readonly RefusalKind DiskFull = new(
        "disk-full",
        "The server's disk is full. Nothing was changed.",
        "Tell the administrator to make room; what was sent is taken when there is some.",
        507
    );

    public static readonly RefusalKind DoorMissing = new("door-missing", "No door was named.", "Say at which door the goods are.");

    public static readonly RefusalKind DoorTaken = new(
        "door-taken",
        "… stands at door ….",
        "Choose another door, or close that tally first.",
        409
    );

    public static readonly RefusalKind FileEncoding = new(
        "file-encoding",
        "… is written in an encoding that is not read.",
        "Ask for it in UTF-8, or save it as UTF-8."
    );

    public static readonly RefusalKind FileFaults = new(
        "file-faults",
        "An order of … was made by somebody else while it was read.",
        "Drop the file again to see which. Nothing was imported."
    );

    public static readonly RefusalKind FileKind = new(
        "file-kind",
        "… is no PNG, JPEG, WebP or PDF, whatever it is called.",
        "Attach a picture or a PDF."
    );

    public static readonly RefusalKind FileThere = new(
        "file-there",
        "… is there already.",
        "Name another file, so that no backup is written over."
    );

    public static readonly RefusalKind FileTooLarge = new(
        "file-too-large",
        "What was sent is larger than ….",
        "Part the file. Nothing was changed.",
        413
    );

    public static readonly RefusalKind FolderClosed = new(
        "folder-closed",
        "… cannot be written.",
        "Give it to the user who runs Mud Room, or name another folder with --data."
    );

    public static readonly RefusalKind FolderTaken = new(
        "folder-taken",
        "Another Mud Room is running on ….",
        "Stop it first, or name another folder with --data. One server has one folder."
    );

    public static readonly RefusalKind HeadUnreadable = new(
        "head-unreadable",
        "… is no head of the chain.",
        "Name a file that holds what mudroom head has printed."
    );

    public static readonly RefusalKind ItemUnknown = new("item-unknown", "No item has the code ….", "Scan its label, or find it in Site.");

    public static readonly RefusalKind LockedOut = new(
        "locked-out",
        "Too many tries: this name is locked for five minutes.",
        "Wait, or ask the administrator.",
        401
    );

    public static readonly RefusalKind MoreThanThere = new("more-than-there", "… has … free.", "Issue what is there.");

    public static readonly RefusalKind NoDatabase = new("no-database", "There is no database at ….", "Name its folder with --data.");

    public static readonly RefusalKind NotANumber = new("not-a-number", "… is no number.", "Type digits, with a point before decimals.");

    public static readonly RefusalKind NotAllThere = new(
        "not-all-there",
        "… speaks for …, and only … of it stand on the site to inspect.",
        "Have the places counted, then sign."
    );

    public static readonly RefusalKind NotFound = new(
        "not-found",
        "There is no … at this site.",
        "Look at the number again, or find it in Book.",
        404
    );

    public static readonly RefusalKind NotSignedIn = new("not-signed-in", "You are not signed in.", "Sign in.", 401);

    public static readonly RefusalKind NotLet = new("not-let", "… says that they are …: they may not ….", "Have it lifted first.", 409);

    public static readonly RefusalKind NotUsable = new(
        "not-usable",
        "… in … is … and may not leave.",
        "Have it inspected or released first."
    );

    public static readonly RefusalKind NoteLong = new("note-long", "The comment has more than 1000 characters.", "Shorten it.");

    public static readonly RefusalKind NoteMissing = new("note-missing", "… wants a sentence.", "Say what is wrong and how it came.");

    public static readonly RefusalKind NothingChanged = new(
        "nothing-changed",
        "Nothing differs from what is known.",
        "Change what is wrong, then keep it."
    );

    public static readonly RefusalKind NothingOpen = new(
        "nothing-open",
        "No open order is left that nothing brings yet.",
        "Ask for an order first."
    );

    public static readonly RefusalKind NothingToTakeBack = new(
        "nothing-to-take-back",
        "… has not come yet: there is no step to take back.",
        "Look at its history."
    );

    public static readonly RefusalKind NumberTaken = new(
        "number-taken",
        "… has a source batch … of this vendor already.",
        "Look at that one."
    );

    public static readonly RefusalKind OtherSite = new("other-site", "Door … belongs to another site.", "Choose a door of this site.");

    public static readonly RefusalKind PasswordMustChange = new(
        "password-must-change",
        "This password was given for one time only.",
        "Choose one of your own.",
        401
    );

    public static readonly RefusalKind PasswordSame = new("password-same", "The new password is the old one.", "Choose another one.");

    public static readonly RefusalKind PasswordWeak = new(
        "password-weak",
        "A password has at most 200 characters.",
        "Choose a shorter one."
    );

    public static readonly RefusalKind PictureMissing = new("picture-missing", "… wants a picture.", "Take one, then count it.");

    public static readonly RefusalKind PinShape = new("pin-shape", "A PIN has 4 to 12 digits.", "Type another one.");

    public static readonly RefusalKind QuantityNotPositive = new(
        "quantity-not-positive",
        "A count is 0 or more.",
        "Type what stands there."
    );

    public static readonly RefusalKind QuantityTooLarge = new("quantity-too-large", "… cannot be right.", "Look at the number again.");

    public static readonly RefusalKind ReasonMissing = new(
        "reason-missing",
        "Piece …, …, was …, found by …. Changing it wants a reason of at most 200 characters.",
        "Say why."
    );

    public static readonly RefusalKind ReferenceMissing = new(
        "reference-missing",
        "Say what it is for: an order or job number of at most 40 characters.",
        "Type the number."
    );

    public static readonly RefusalKind RightMissing = new("right-missing", "You have not the right to do this.", "Ask …, who has it.", 403);

    public static readonly RefusalKind SettingAbsurd = new(
        "setting-absurd",
        "A part of the scanner's settings is missing.",
        "Send it empty where there is none. Nothing was kept."
    );

    public static readonly RefusalKind SettingsMoved = new(
        "settings-moved",
        "… changed these settings at …, after you had looked at them.",
        "Load the page again and look at them. Nothing was kept.",
        409
    );

    public static readonly RefusalKind SetUpBusy = new(
        "set-up-busy",
        "A file of the set-up is being taken in just now. Nothing was changed.",
        "Try again in a moment."
    );

    public static readonly RefusalKind SignInFailed = new(
        "sign-in-failed",
        "Badge and PIN do not belong together.",
        "Try again. After … tries the badge is locked on this device for a while.",
        401
    );

    public static readonly RefusalKind SiteNotYours = new(
        "site-not-yours",
        "… works at …, where you may not.",
        "Ask an administrator of that site.",
        403
    );

    public static readonly RefusalKind SpotMissing = new(
        "spot-missing",
        "A yard spot has a name of 1 to 20 characters.",
        "Name it, or take it away. Nothing was kept."
    );

    public static readonly RefusalKind SpotTaken = new("spot-taken", "… stands at spot ….", "Move it first. Nothing was kept.");

    public static readonly RefusalKind TallyClosed = new("tally-closed", "… is counted in already.", "Nothing is left to unload.", 409);

    public static readonly RefusalKind TimeNotOver = new("time-not-over", "… lasts until ….", "Come back then.");

    public static readonly RefusalKind TokenMissing = new(
        "token-missing",
        "The anti-forgery token is missing or old.",
        "Load the page again.",
        400
    );

    public static readonly RefusalKind TooMany = new("too-many", "… scales are known already.", "Use the name of one of them.");

    public static readonly RefusalKind TooManyTries = new(
        "too-many-tries",
        "Too many wrong tries came from this device.",
        "Wait … minutes.",
        429
    );

    public static readonly RefusalKind UnitWhole = new("unit-whole", "A labelled unit goes out whole.", "Send all of it.");

    public static readonly RefusalKind Unreadable = new(
        "unreadable",
        "A choice or a date of the request is none that can be asked for.",
        "Look at what was sent.",
        400
    );

    public static readonly RefusalKind VehicleUnknown = new(
        "vehicle-unknown",
        "… is no kind of vehicle.",
        "Choose truck, container, van or parcel."
    );
}
