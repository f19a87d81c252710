using System.Globalization;
using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>How far an inspection is.</summary>
public enum InspectionState
{
    /// <summary>The lot still grows with the tally.</summary>
    Waiting,

    /// <summary>The sample is drawn, the lot is fixed.</summary>
    Drawn,

    /// <summary>The verdict is signed; nothing changes any more.</summary>
    Signed,

    /// <summary>The lot passes unseen: its plan skips lots, and this one was not drawn.</summary>
    Skipped,

    /// <summary>It was asked for, and is not wanted any more: nothing was drawn.</summary>
    Withdrawn,
}

/// <summary>Accepted or rejected.</summary>
public enum Verdict
{
    Accepted = 0,
    Rejected = 1,
}

/// <summary>Checking one received lot.</summary>
public sealed class Inspection
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }

    /// <summary>What the goods came with; null where they did not come through a door.</summary>
    public required int? ArrivalId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }

    /// <summary>Who sent them; null where nobody knows.</summary>
    public required int? VendorId { get; init; }
    public required int PlanId { get; init; }

    /// <summary>What brought the goods to the bench.</summary>
    public InspectionTrigger Trigger { get; init; }

    /// <summary>The rule that chose its plan; null where that is the item's own, or somebody chose it.</summary>
    public int? RuleId { get; init; }

    /// <summary>Why it was asked for, and by whom; null where a rule did.</summary>
    public string? AskedBecause { get; init; }
    public string? AskedBy { get; init; }
    public required DateTimeOffset Since { get; init; }

    /// <summary>Of sheets from before severity was kept by class; it is in the parts of the sample since.</summary>
    public Severity Severity { get; init; } = Severity.Normal;

    /// <summary>The version of the plan that its sample was drawn by; 0 until then.</summary>
    public int PlanVersion { get; private set; }

    /// <summary>What the inspection speaks for, in base units.</summary>
    public decimal Quantity { get; private set; }
    public InspectionState State { get; private set; } = InspectionState.Waiting;

    /// <summary>In sampling units, fixed when the sample is drawn.</summary>
    public long LotSize { get; private set; }
    public Sample? Sample { get; private set; }
    public List<Finding> Findings { get; init; } = [];

    /// <summary>The act that last changed its findings: by it what was read of them before is known to be whole.</summary>
    public Guid? FoundBy { get; set; }

    /// <summary>What was found and cleared, where nothing was found since.</summary>
    public IReadOnlyList<ClearedFinding> Cleared { get; private set; } = [];

    /// <summary>What was written on the sheet, the first first.</summary>
    public IReadOnlyList<SheetNote> Notes { get; private set; } = [];

    /// <summary>The names that pieces of its sample bear, by piece.</summary>
    public IReadOnlyList<NamedPiece> Pieces { get; private set; } = [];

    /// <summary>Pictures on the sheet, the first first.</summary>
    public IReadOnlyList<SheetPicture> Pictures { get; private set; } = [];

    /// <summary>How much was drawn as its sample, in base units; 0 until then, and in sheets of before.</summary>
    public decimal Sampled { get; private set; }

    /// <summary>The bin of the bench that the sample was brought to; null where it stayed with its lot.</summary>
    public int? SampleBinId { get; private set; }

    /// <summary>What became of the sample, the first first.</summary>
    public IReadOnlyList<SampleWent> SampleWent { get; private set; } = [];

    /// <summary>Why it is not wanted any more, and who said so; null where it is.</summary>
    public string? WithdrawnBecause { get; private set; }
    public string? WithdrawnBy { get; private set; }

    /// <summary>True where only the sample waits for the verdict, and the rest of the lot may be used meanwhile.</summary>
    public bool LetsUse { get; init; }

    /// <summary>The standing it asks for while it is open.</summary>
    public Standing Asks => LetsUse ? Standing.Usable : Standing.ToInspect;

    /// <summary>By which it was drawn whether the lot is looked at: anybody can draw again. Null where no lot is skipped.</summary>
    public long? SkipSeed { get; private set; }

    /// <summary>Why it is looked at, or passes unseen; null where no lot is skipped.</summary>
    public string? SkipWhy { get; private set; }

    /// <summary>The signed sheet that it stands in the place of; null for a first one. That one is superseded.</summary>
    public int? SupersedesId { get; init; }

    /// <summary>When the lot counts among those of its vendor: the first signature's instant of the sheet that it stands in the place
    /// of; null for its own.</summary>
    public DateTimeOffset? CountsAs { get; init; }

    /// <summary>Who has it in hand; null for nobody.</summary>
    public int? TakenById { get; private set; }
    public string? TakenBy { get; private set; }
    public DateTimeOffset? TakenAt { get; private set; }
    public Verdict? Verdict { get; private set; }
    public string? SignedBy { get; private set; }
    public DateTimeOffset? SignedAt { get; private set; }
    public string? Comment { get; private set; }

    /// <summary>All signatures, the first first; empty in sheets of before, which have one.</summary>
    public IReadOnlyList<Signature> Signatures { get; private set; } = [];

    /// <summary>True where one has signed and another still has to.</summary>
    public bool WaitsForSecond => State == InspectionState.Drawn && Signatures.Count > 0;

    /// <summary>What it came to in each class, kept when it is signed; null in sheets of before.</summary>
    public IReadOnlyList<ClassOutcome>? Outcomes { get; private set; }

    /// <summary>What each characteristic came to, kept when it is signed; null in sheets of before.</summary>
    public IReadOnlyList<CharacteristicOutcome>? Values { get; private set; }

    /// <summary>SHA-256 of the sheet as it was signed.</summary>
    public string? SheetHash { get; private set; }

    /// <summary>How the hash of its sheet was made; what a version covers never changes.</summary>
    public int SheetVersion { get; private set; } = 1;

    /// <summary>The tally counted more of the lot, or some of it came back; once the sample is drawn the lot is fixed. Where a sheet was
    /// only taken back because nothing of its goods was here, what comes back has none that counts, and waits for this one.</summary>
    public Refusal? Grow(decimal quantity)
    {
        if (WaitsForGoods)
            (State, WithdrawnBecause, WithdrawnBy) = (InspectionState.Waiting, null, null);
        if (!MayChange)
            return IsFixed();
        Quantity += quantity;
        return null;
    }

    /// <summary>True where it stands in the place of a signed sheet of which no goods are here.</summary>
    public bool WaitsForGoods => State == InspectionState.Withdrawn && SupersedesId is not null;

    /// <summary>What may be used meanwhile may go, and come back, after the sample is drawn too.</summary>
    bool MayChange => State is InspectionState.Waiting or InspectionState.Skipped || LetsUse && State == InspectionState.Drawn;

    /// <summary>Draws whether the lot is looked at, where its plan skips lots.</summary>
    /// <param name="accepted">What became of the vendor's lots that were looked at, the first first.</param>
    /// <param name="severity">The sharpest of its classes.</param>
    /// <param name="seed">By chance.</param>
    public void Skip(SkipLot skip, IReadOnlyList<bool> accepted, Severity severity, long seed)
    {
        var decision = skip.Next(accepted, severity, unchecked((ulong)seed));
        (SkipSeed, SkipWhy) = (seed, decision.Why);
        if (!decision.IsInspected)
            State = InspectionState.Skipped;
    }

    /// <summary>Sets what it speaks for, where lots are named for stock from before there were any.</summary>
    public void Recount(decimal quantity) => Quantity = quantity;

    /// <summary>The tally took some back.</summary>
    public Refusal? Shrink(decimal quantity)
    {
        if (!MayChange)
            return IsFixed();
        Quantity -= quantity;
        return null;
    }

    /// <summary>Somebody takes it in hand: the others see that. What another has is taken over only by saying so.</summary>
    /// <param name="over">True where it is taken over from who has it.</param>
    public Refusal? Take(int personId, string name, DateTimeOffset at, SiteTime local, bool over = false)
    {
        if (State is InspectionState.Signed or InspectionState.Withdrawn)
            return Closed(local);
        if (TakenById == personId)
            return null;
        if (TakenById is not null && !over)
            return new Refusal(
                BenchRefusals.TakenByOther,
                $"{TakenBy} has {Number} in hand since {local(TakenAt!.Value):HH:mm}.",
                "Ask, then take it over."
            );
        (TakenById, TakenBy, TakenAt) = (personId, name, at);
        return null;
    }

    /// <summary>Whoever has it in hand lays it down: it waits for anybody again.</summary>
    public Refusal? LayDown(int personId, SiteTime local)
    {
        if (State is InspectionState.Signed or InspectionState.Withdrawn)
            return Closed(local);
        if (TakenById != personId)
            return new Refusal(
                BenchRefusals.NotInHand,
                TakenBy is null ? $"Nobody has {Number} in hand." : $"{Number} is in the hand of {TakenBy}.",
                "There is nothing to lay down."
            );
        (TakenById, TakenBy, TakenAt) = (null, null, null);
        return null;
    }

    /// <summary>A part of its sample is used up: it speaks for so much less. What is signed goes on saying what it spoke for.</summary>
    public void UseUp(decimal quantity)
    {
        if (State != InspectionState.Signed)
            Quantity -= quantity;
    }

    /// <summary>Whoever asked for it, or who may, does not want it any more; nothing is drawn yet, and no rule asks for it.</summary>
    public Refusal? Withdraw(string because, string by, SiteTime local)
    {
        if (State is InspectionState.Signed or InspectionState.Withdrawn)
            return Closed(local);
        if (AskedBy is null || SupersedesId is not null)
            return new Refusal(
                BenchRefusals.NotAskedByHand,
                AskedBy is null
                    ? $"{Number} is wanted by rule; nobody can withdraw it."
                    : $"{Number} stands in the place of a signed sheet; nobody can withdraw it.",
                "Inspect it. A rule is ended on its page."
            );
        if (State != InspectionState.Waiting)
            return IsFixed();
        if (because.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        (State, WithdrawnBecause, WithdrawnBy) = (InspectionState.Withdrawn, why, by);
        return null;
    }

    Refusal IsFixed() =>
        new(
            BenchRefusals.SampleDrawn,
            $"The sample of {Number} is drawn already; the lot cannot change any more.",
            "Ask the bench. What differs is settled there."
        );

    /// <summary>How much of the lot so many pieces are, in base units: whole sampling units, and all of it at most. What was used of it
    /// meanwhile makes a piece no smaller.</summary>
    decimal QuantityOf(int pieces, Item item, PlanContent plan)
    {
        var lot = Quantity + SampleWent.Where(w => w.Fate == SampleFate.UsedUp).Sum(w => w.Quantity);
        return pieces >= LotSize ? lot
            : item.PackLevels.FirstOrDefault(p => p.Name == plan.SamplingUnit) is { } unit ? unit.Content(pieces)
            : Math.Min(lot, Math.Ceiling(lot * pieces / LotSize / item.Step) * item.Step);
    }

    /// <summary>How much more is to be drawn before a piece can be looked at: where the first sample left it open, what the second takes,
    /// and piece by piece what it takes to be accepted. In base units; 0 where the piece was drawn.</summary>
    public decimal StillToDraw(int piece, Item item, PlanContent plan)
    {
        if (Sample is null || Sampled == 0 || Sample.IsFirst(piece))
            return 0;
        return Math.Max(0, QuantityOf(LotStand.Of(plan, Sample, Findings).Size, item, plan) - Sampled);
    }

    /// <summary>More of the lot was drawn.</summary>
    public void DrawMore(decimal quantity) => Sampled += quantity;

    /// <summary>Fixes the lot and draws the sample. Lots are counted in the plan's sampling unit, never in another in its place.</summary>
    /// <param name="plan">The plan.</param>
    /// <param name="version">Its version in force; null where none is.</param>
    /// <param name="item">The item.</param>
    /// <param name="severityOf">How sharply each class is looked at.</param>
    /// <param name="lotSize">How many sampling units the lot has, where the item has no such pack and somebody has counted them.</param>
    public Refusal? Draw(
        InspectionPlan plan,
        PlanVersion? version,
        Item item,
        Func<CharacteristicClass, Severity> severityOf,
        long? lotSize = null
    )
    {
        if (State == InspectionState.Withdrawn)
            return new Refusal(
                BenchRefusals.InspectionWithdrawn,
                $"{Number} was withdrawn by {WithdrawnBy}.",
                "Ask for an inspection anew."
            );
        if (State != InspectionState.Waiting)
            return new Refusal(BenchRefusals.SampleDrawn, $"The sample of {Number} is drawn already.", "Go on with its sheet.");
        if (Quantity <= 0)
            return new Refusal(
                BenchRefusals.LotEmpty,
                $"{Number} has no goods: what was counted was taken back.",
                "There is nothing to do."
            );
        if (version is null)
            return new Refusal(
                BenchRefusals.PlanNotInForce,
                $"No version of {plan.Name} is in force.",
                "Have a version signed in force, then draw."
            );
        var content = version.Content;
        var unit = item.PackLevels.FirstOrDefault(p => p.Name == content.SamplingUnit);
        if (unit is null && lotSize is null)
            return new Refusal(
                BenchRefusals.LotSizeWanted,
                $"{plan.Name} samples by {content.SamplingUnit}, and {item.Name} has no such pack.",
                $"Count how many {Quantities.Plural(content.SamplingUnit, 2)} the lot has, and type it."
            );
        if (lotSize is < 1 or > MostLot)
            return new Refusal(
                BenchRefusals.LotSizeAbsurd,
                $"{lotSize} {Quantities.Plural(content.SamplingUnit, 2)} cannot be the size of the lot.",
                "Count again."
            );
        LotSize = unit is null ? lotSize!.Value : (long)Math.Ceiling(Quantity * unit.Denominator / unit.Numerator);
        Sample = Sample.For(content, LotSize, severityOf);
        Sampled = QuantityOf(Sample.Size, item, content);
        PlanVersion = version.Number;
        State = InspectionState.Drawn;
        return null;
    }

    /// <summary>Minutes that its sheet will still take: by what is left of the sample, or by the sample as it would be drawn now; 0 once it
    /// is signed, null where the size of the lot must be typed first.</summary>
    /// <param name="plan">The version that it is drawn by, or would be.</param>
    /// <param name="item">The item.</param>
    /// <param name="found">Findings so far.</param>
    public int? MinutesLeft(PlanContent plan, Item item, int found)
    {
        if (State == InspectionState.Signed || plan.Characteristics.Count == 0)
            return 0;
        if (Sample is { } drawn)
            return (int)
                Math.Ceiling(Math.Max(0, drawn.WholePieces(plan) - found / (double)plan.Characteristics.Count) * plan.SecondsPerPiece / 60);
        if (item.PackLevels.FirstOrDefault(p => p.Name == plan.SamplingUnit) is not { } unit || Quantity <= 0)
            return null;
        var lot = (long)Math.Ceiling(Quantity * unit.Denominator / unit.Numerator);
        return (int)Math.Ceiling(plan.Minutes(Sample.For(plan, lot, _ => Severity.Normal).WholePieces(plan)));
    }

    /// <summary>Puts the sample back, while nothing was found: the lot is open again, and grows with the tally.</summary>
    public Refusal? PutBack(SiteTime local)
    {
        if (Closed(local) is { } closed)
            return closed;
        if (Findings.Count + Cleared.Count is > 0 and var made)
            return new Refusal(
                BenchRefusals.FindingsMade,
                $"{Number} has {made} {Quantities.Plural("finding", made)}: its sample stays drawn.",
                "Finish the sheet."
            );
        if (SampleBinId is not null || SampleWent.Count > 0)
            return new Refusal(
                BenchRefusals.SampleAway,
                $"The sample of {Number} was brought away from its lot: it stays drawn.",
                "Finish the sheet."
            );
        (State, Sample, LotSize, PlanVersion, Sampled) = (InspectionState.Waiting, null, 0, 0, 0);
        (Cleared, Notes, Pieces, Pictures) = ([], [], [], []);
        return null;
    }

    /// <summary>Its sample is brought to a bin of the bench.</summary>
    public Refusal? Bring(int binId, string address)
    {
        if (SampleWay.Left(this) <= 0)
            return NoSample();
        if (SampleBinId == binId)
            return new Refusal(BenchRefusals.SampleThere, $"The sample of {Number} is in {address} already.", "There is nothing to do.");
        SampleBinId = binId;
        return null;
    }

    /// <summary>Why it may not be said what became of a part of its sample; null where it may.</summary>
    /// <param name="until">Until when it is kept, where it is.</param>
    /// <param name="today">At the site.</param>
    public Refusal? MaySettle(SampleFate fate, decimal quantity, DateOnly? until, Item item, DateOnly today)
    {
        var left = SampleWay.Left(this);
        if (left <= 0)
            return NoSample();
        if (quantity > left)
            return new Refusal(
                BenchRefusals.MoreThanSampled,
                $"{Quantities.Show(left)} {item.UnitWord} of the sample of {Number} are left; {Quantities.Show(quantity)} is more.",
                "Type what there is."
            );
        if (fate == SampleFate.Retained && (until is not { } day || day <= today))
            return new Refusal(
                BenchRefusals.RetainedUntil,
                "A retained sample is kept until a day after today.",
                "Say until when it is kept."
            );
        return null;
    }

    /// <summary>A part of its sample went its way; <see cref="MaySettle"/> was asked before.</summary>
    public void Settle(SampleWent part) => SampleWent = [.. SampleWent, part];

    Refusal NoSample() =>
        Sample is null
            ? NotDrawn()
            : new Refusal(BenchRefusals.SampleSettled, $"Nothing of the sample of {Number} is left to settle.", "There is nothing to do.");

    /// <summary>A piece bears a name: a serial, a label. Said again it replaces the one before; empty it is taken off.</summary>
    public Refusal? Name(PlanContent plan, NamedPiece named, SiteTime local)
    {
        if (Closed(local) is { } closed)
            return closed;
        if (Outside(plan, named.Piece) is { } outside)
            return outside;
        if (named.Name.Trim().Length > NamedPiece.MostText)
            return new Refusal(HouseRefusals.NoteLong, $"The name of a piece has at most {NamedPiece.MostText} characters.", "Shorten it.");
        var others = Pieces.Where(p => p.Piece != named.Piece).ToList();
        if (named.Name.OrNull() is { } name)
        {
            if (others.Find(p => p.Name.Equals(name, StringComparison.OrdinalIgnoreCase)) is { } taken)
                return new Refusal(BenchRefusals.PieceNamed, $"{name} is piece {taken.Piece} already.", "Take another piece.");
            others.Add(named with { Name = name });
        }

        Pieces = [.. others.OrderBy(p => p.Piece)];
        return null;
    }

    /// <summary>Puts a picture on the sheet.</summary>
    public Refusal? Show(PlanContent plan, SheetPicture picture, SiteTime local)
    {
        if (Closed(local) is { } closed)
            return closed;
        if (Pictures.Count >= SheetPicture.Most)
            return new Refusal(HouseRefusals.TooMany, $"{Number} has {SheetPicture.Most} pictures already.", "Take the best of them.");
        if (picture.CharacteristicId is { } id && plan[id] is null)
            return new Refusal(BenchRefusals.CharacteristicUnknown, "The plan has no such characteristic.", "Load the sheet again.");
        if (picture.Piece is { } piece && Outside(plan, piece) is { } outside)
            return outside;
        Pictures = [.. Pictures, picture];
        return null;
    }

    Refusal? Outside(PlanContent plan, int piece)
    {
        var wanted = LotStand.Of(plan, Sample!, Findings).Wanted;
        return wanted.Any(run => piece >= run.First && piece <= run.Last)
            ? null
            : new Refusal(
                BenchRefusals.PieceOutside,
                $"The sample has pieces {string.Join(", ", wanted)}; {piece} is none of them.",
                "Choose a piece of the sample."
            );
    }

    /// <summary>Most sampling units in a lot.</summary>
    public const long MostLot = 100_000_000;

    /// <summary>
    /// Records a measured value or a look. The same piece and characteristic again replaces the one before, which stays on the sheet; a
    /// reason is wanted when it
    /// turns from nonconforming to conforming, or was somebody else's. A doubtful value that would count towards rejection is asked about
    /// once.
    /// </summary>
    public Outcome<Finding> Find(PlanContent plan, Observation found, string by, DateTimeOffset at, SiteTime local)
    {
        if (Closed(local) is { } closed)
            return closed;
        var (piece, value, pass) = (found.Piece, found.Value, found.Pass);
        if (plan[found.CharacteristicId] is not { } characteristic)
            return new Refusal(BenchRefusals.CharacteristicUnknown, "The plan has no such characteristic.", "Load the sheet again.");
        var part = LotStand.Of(plan, Sample!, Findings).PartOf(characteristic);
        if (!part.Wants(piece))
            return new Refusal(
                BenchRefusals.PieceOutside,
                $"{characteristic.Name} is looked at on pieces {new PieceRun(part.First, part.Last)}; {piece} is none of them.",
                "Choose a piece of the sample."
            );
        if (characteristic.IsMeasured && value is null)
            return new Refusal(
                BenchRefusals.ValueMissing,
                $"{characteristic.Name} is measured in {characteristic.Unit}.",
                "Type or read the value."
            );
        if (!characteristic.IsMeasured && pass is null)
            return new Refusal(
                BenchRefusals.LookMissing,
                $"{characteristic.Name} is looked at.",
                $"Say {characteristic.PassWord} or {characteristic.FailWord}."
            );
        if (value is { } v && Math.Abs(v) > Quantities.Most)
            return new Refusal(BenchRefusals.ValueAbsurd, $"{v} {characteristic.Unit} cannot be right.", "Measure again.");
        if (value is { } counted && characteristic.Had == HowHad.Counted && (counted < 0 || counted != decimal.Truncate(counted)))
            return new Refusal(
                BenchRefusals.CountNotWhole,
                $"{characteristic.Name} is counted: {Quantities.Show(counted)} is no count.",
                "Type a whole number."
            );
        if (value is { } measured && !found.IsSure && characteristic.Doubt(measured) is { } doubt)
            return new Refusal(BenchRefusals.ValueDoubtful, doubt, "Measure again; if it is right, say so, and it counts.");
        var conforms = characteristic.IsMeasured ? characteristic.Conforms(value!.Value) : pass!.Value;
        var kept = characteristic.IsMeasured ? value : null;
        var finding = Findings.Find(f => f.Piece == piece && f.CharacteristicId == characteristic.Id);
        if (finding is null)
        {
            finding = new Finding
            {
                InspectionId = Id,
                Piece = piece,
                CharacteristicId = characteristic.Id,
                By = by,
                At = at,
                Before = Cleared.FirstOrDefault(c => c.Piece == piece && c.CharacteristicId == characteristic.Id)?.Before ?? [],
            };
            Cleared = [.. Cleared.Where(c => c.Piece != piece || c.CharacteristicId != characteristic.Id)];
            Findings.Add(finding);
        }
        else
        {
            if (finding.Value == kept && finding.Conforms == conforms)
                return finding;
            var was = Words(characteristic, finding.Value, finding.Conforms);
            if ((!finding.Conforms && conforms || finding.By != by) && found.Reason.OrNull() is not { Length: <= 200 })
                return new Refusal(
                    HouseRefusals.ReasonMissing,
                    $"Piece {piece}, {characteristic.Name}, was {was}, found by {finding.By}. Changing "
                        + $"it{(finding.Conforms ? "" : conforms ? " to one that conforms" : "")} wants a reason of at most 200 "
                        + $"characters.",
                    "Say why."
                );
            finding.Before = [.. finding.Before, new FindingBefore(was, finding.Conforms, finding.By, finding.At, found.Reason.OrNull())];
        }

        finding.Value = kept;
        finding.Conforms = conforms;
        finding.By = by;
        finding.At = at;
        return finding;
    }

    /// <summary>Clears what was found on a piece: nothing stands there any more, and what stood stays on the sheet. A nonconforming
    /// finding, and one of somebody else's, wants a reason.</summary>
    /// <returns>What was cleared.</returns>
    public Outcome<Finding> Clear(PlanContent plan, int piece, int characteristicId, string? reason, string by, SiteTime local)
    {
        if (Closed(local) is { } closed)
            return closed;
        if (plan[characteristicId] is not { } characteristic)
            return new Refusal(BenchRefusals.CharacteristicUnknown, "The plan has no such characteristic.", "Load the sheet again.");
        if (Findings.Find(f => f.Piece == piece && f.CharacteristicId == characteristicId) is not { } finding)
            return new Refusal(
                BenchRefusals.NothingFound,
                $"Nothing stands on piece {piece} for {characteristic.Name}.",
                "There is nothing to clear."
            );
        var was = Words(characteristic, finding.Value, finding.Conforms);
        if ((!finding.Conforms || finding.By != by) && reason.OrNull() is not { Length: <= 200 })
            return new Refusal(
                HouseRefusals.ReasonMissing,
                $"Piece {piece}, {characteristic.Name}, was {was}, found by {finding.By}. Clearing it wants a reason of at most 200 "
                    + "characters.",
                "Say why."
            );
        Findings.Remove(finding);
        Cleared =
        [
            .. Cleared,
            new ClearedFinding(
                piece,
                characteristicId,
                [.. finding.Before, new FindingBefore(was, finding.Conforms, finding.By, finding.At, reason.OrNull())]
            ),
        ];
        return finding;
    }

    /// <summary>Writes a note on the sheet.</summary>
    public Refusal? Write(PlanContent plan, SheetNote note, SiteTime local)
    {
        if (Closed(local) is { } closed)
            return closed;
        if (note.Text.OrNull() is not { Length: <= SheetNote.MostText })
            return new Refusal(
                HouseRefusals.NoteMissing,
                $"A note has a sentence of at most {SheetNote.MostText} characters.",
                "Write one."
            );
        if (Notes.Count >= SheetNote.Most)
            return new Refusal(HouseRefusals.NoteLong, $"{Number} has {SheetNote.Most} notes already.", "Put it into the comment.");
        if (note.CharacteristicId is { } id && plan[id] is null)
            return new Refusal(BenchRefusals.CharacteristicUnknown, "The plan has no such characteristic.", "Load the sheet again.");
        if (note.Piece is { } piece && Outside(plan, piece) is { } outside)
            return outside;
        Notes = [.. Notes, note with { Text = note.Text.Trim() }];
        return null;
    }

    /// <summary>The inspection that takes a signed sheet back: of the same goods, by the same plan. What it finds counts in the place of
    /// what that one found; where nothing of its goods is here any more there is nothing to find, and the sheet just counts no
    /// longer.</summary>
    /// <param name="number">Its own.</param>
    /// <param name="quantity">What is still here of what that one spoke for, in base units.</param>
    public Outcome<Inspection> SupersededBy(string number, decimal quantity, string reason, string by, DateTimeOffset at)
    {
        if (State != InspectionState.Signed)
            return new Refusal(BenchRefusals.NotSigned, $"{Number} is not signed: it is still changed on its sheet.", "Open its sheet.");
        if (reason.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        var again = new Inspection
        {
            Number = number,
            SiteId = SiteId,
            ArrivalId = ArrivalId,
            ItemId = ItemId,
            BatchId = BatchId,
            VendorId = VendorId,
            PlanId = PlanId,
            Trigger = Trigger,
            RuleId = RuleId,
            AskedBecause = why,
            AskedBy = by,
            SupersedesId = Id,
            CountsAs = CountsAs ?? SignedAt,
            Since = at,
            Quantity = quantity,
        };
        if (quantity <= 0)
            (again.State, again.WithdrawnBecause, again.WithdrawnBy) = (InspectionState.Withdrawn, why, by);
        return again;
    }

    /// <summary>A finding in words: "0.17 mm", "slips".</summary>
    public static string Words(Characteristic characteristic, decimal? value, bool conforms) =>
        characteristic.IsMeasured ? $"{value?.ToString("0.######", CultureInfo.InvariantCulture)} {characteristic.Unit}"
        : conforms ? characteristic.PassWord
        : characteristic.FailWord;

    /// <summary>
    /// Signs the verdict that was worked out. Where the plan wants two, the first signature only closes the sheet for findings; the second,
    /// of another person, freezes it. What a frozen one moves is the caller's to post.
    /// </summary>
    public Outcome<Verdict> Sign(InspectionPlan plan, Signature signature, SiteTime local)
    {
        if (Closed(local, mayWait: true) is { } closed)
            return closed;
        var stand = LotStand.Of(plan[PlanVersion].Content, Sample!, Findings);
        if (stand.Verdict is not { } verdict)
            return new Refusal(
                BenchRefusals.FindingsMissing,
                $"{stand.Missing} findings are still to be made.",
                "Finish the sample; a verdict of accepted needs every one."
            );
        if (Signatures is [var first, ..] && first.By == signature.By)
            return new Refusal(
                BenchRefusals.SignedAlready,
                $"You signed it at {local(first.At):HH:mm}; the second signature is another person's.",
                "Ask a colleague who may sign."
            );
        Signatures = [.. Signatures, signature];
        if (plan[PlanVersion].Content.WantsSecond && Signatures.Count < 2)
            return verdict;
        Verdict = verdict;
        SignedBy = string.Join(" and ", Signatures.Select(s => s.By));
        SignedAt = signature.At;
        Comment = string.Join(" ", Signatures.Select(s => s.Comment).OfType<string>()).OrNull();
        State = InspectionState.Signed;
        Outcomes = ClassOutcome.Of(plan[PlanVersion].Content, Sample!, Findings);
        Values = CharacteristicOutcome.Of(plan[PlanVersion].Content, Findings);
        SheetVersion = Sheets.Newest;
        SheetHash = Sheets.Hash(this, plan.Name, plan[PlanVersion]);
        return verdict;
    }

    /// <summary>That nothing can be found on a sheet without a sample.</summary>
    public Refusal NotDrawn() =>
        new(BenchRefusals.SampleNotDrawn, $"The sample of {Number} is not drawn yet.", "Draw it first: that fixes the lot.");

    /// <summary>Takes the first of two signatures back: the sheet is open for findings again.</summary>
    /// <param name="by">Who signed it.</param>
    public Refusal? TakeSignatureBack(string by, SiteTime local)
    {
        if (Closed(local, mayWait: true) is { } closed)
            return closed;
        if (!WaitsForSecond || Signatures[0].By != by)
            return new Refusal(
                BenchRefusals.NoSignature,
                $"{Number} has no signature of yours that could be taken back.",
                "Whoever signed first takes their own back."
            );
        Signatures = [];
        return null;
    }

    Refusal? Closed(SiteTime local, bool mayWait = false) =>
        State switch
        {
            InspectionState.Drawn when WaitsForSecond && !mayWait => new Refusal(
                BenchRefusals.SignedFirst,
                $"{Number} was signed by {Signatures[0].By} and waits for a second signature.",
                $"Have {Signatures[0].By} take the signature back, then change it."
            ),
            InspectionState.Withdrawn => new Refusal(
                BenchRefusals.InspectionWithdrawn,
                $"{Number} was withdrawn by {WithdrawnBy}.",
                "Ask for an inspection anew."
            ),
            InspectionState.Waiting or InspectionState.Skipped => NotDrawn(),
            InspectionState.Signed => new Refusal(
                BenchRefusals.Signed,
                $"{Number} was signed by {SignedBy} on {local(SignedAt!.Value):yyyy-MM-dd HH:mm} and cannot be changed.",
                "Ask for a new inspection that supersedes it."
            ),
            _ => null,
        };
}
