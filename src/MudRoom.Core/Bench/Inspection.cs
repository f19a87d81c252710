using System.Globalization;
using System.Security.Cryptography;
using System.Text;
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
}

/// <summary>Accepted or rejected.</summary>
public enum Verdict
{
    Accepted,
    Rejected,
}

/// <summary>One value or look on one piece.</summary>
public sealed class Finding
{
    public int Id { get; init; }
    public int InspectionId { get; init; }

    /// <summary>From 1.</summary>
    public required int Piece { get; init; }
    public required int CharacteristicId { get; init; }

    /// <summary>The measured value, or null when looked at.</summary>
    public decimal? Value { get; set; }

    /// <summary>Whether it conforms, worked out for measured values.</summary>
    public bool Conforms { get; set; }
    public required string By { get; set; }
    public required DateTimeOffset At { get; set; }
}

/// <summary>How one class stands.</summary>
/// <param name="Plan">Its plan.</param>
/// <param name="Nonconforming">Pieces with a nonconformity of the class so far.</param>
public sealed record ClassStand(ClassPlan Plan, int Nonconforming)
{
    /// <summary>True when it can only be rejected.</summary>
    public bool MustReject => Nonconforming >= Plan.Re;
}

/// <summary>How a lot stands, worked out from its findings.</summary>
/// <param name="Classes">By class.</param>
/// <param name="Missing">Findings still to be made.</param>
/// <param name="Verdict">The verdict; null while it is open.</param>
public sealed record LotStand(IReadOnlyList<ClassStand> Classes, int Missing, Verdict? Verdict)
{
    /// <summary>
    /// Works it out. Rejection is certain as soon as one class reaches its rejection number; acceptance only when every
    /// finding is made (ISO 2859-1, 11.1: an accepted sample is always finished).
    /// </summary>
    public static LotStand Of(InspectionPlan plan, Sample sample, IReadOnlyCollection<Finding> findings)
    {
        var classes = sample.Classes.Select(c => new ClassStand(c, Nonconforming(plan, c, findings))).ToList();
        var wanted = sample.Classes.Sum(c => c.SampleSize * plan.Characteristics.Count(x => x.Class == c.Class));
        var missing = wanted - findings.Count;
        Verdict? verdict = classes.Any(c => c.MustReject) ? Bench.Verdict.Rejected : missing == 0 ? Bench.Verdict.Accepted : null;
        return new LotStand(classes, missing, verdict);
    }

    static int Nonconforming(InspectionPlan plan, ClassPlan c, IReadOnlyCollection<Finding> findings)
    {
        var ids = plan.Characteristics.Where(x => x.Class == c.Class).Select(x => x.Id).ToHashSet();
        return findings.Where(f => !f.Conforms && ids.Contains(f.CharacteristicId)).Select(f => f.Piece).Distinct().Count();
    }
}

/// <summary>Checking one received lot.</summary>
public sealed class Inspection
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }
    public required int ArrivalId { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public required int VendorId { get; init; }
    public required int PlanId { get; init; }
    public required DateTimeOffset Since { get; init; }
    public Severity Severity { get; init; } = Severity.Normal;

    /// <summary>What the inspection speaks for, in base units.</summary>
    public decimal Quantity { get; private set; }
    public InspectionState State { get; private set; } = InspectionState.Waiting;

    /// <summary>In sampling units, fixed when the sample is drawn.</summary>
    public long LotSize { get; private set; }
    public Sample? Sample { get; private set; }
    public List<Finding> Findings { get; init; } = [];
    public Verdict? Verdict { get; private set; }
    public string? SignedBy { get; private set; }
    public DateTimeOffset? SignedAt { get; private set; }
    public string? Comment { get; private set; }

    /// <summary>SHA-256 of the sheet as it was signed.</summary>
    public string? SheetHash { get; private set; }

    /// <summary>The tally counted more of the lot.</summary>
    public void Grow(decimal quantity) => Quantity += quantity;

    /// <summary>The tally took some back.</summary>
    public Refusal? Shrink(decimal quantity)
    {
        if (State != InspectionState.Waiting)
            return new Refusal("sample-drawn", $"The sample of {Number} is drawn already; the lot cannot change any more.", "Ask the bench. What differs is settled there.");
        Quantity -= quantity;
        return null;
    }

    /// <summary>Fixes the lot and draws the sample.</summary>
    public Refusal? Draw(InspectionPlan plan, Item item)
    {
        if (State != InspectionState.Waiting)
            return new Refusal("sample-drawn", $"The sample of {Number} is drawn already.", "Go on with its sheet.");
        if (Quantity <= 0)
            return new Refusal("lot-empty", $"{Number} has no goods: what was counted was taken back.", "Nothing is to be done.");
        var unit = item.PackLevels.FirstOrDefault(p => p.Name == plan.SamplingUnit) ?? item.BasePack;
        LotSize = (long)Math.Ceiling(Quantity * unit.Denominator / unit.Numerator);
        Sample = Sample.For(plan, LotSize, Severity);
        State = InspectionState.Drawn;
        return null;
    }

    /// <summary>Records a measured value or a look; the same piece and characteristic again replaces the one before.</summary>
    public Outcome<Finding> Find(InspectionPlan plan, int piece, int characteristicId, decimal? value, bool? pass, string by, DateTimeOffset at)
    {
        if (Closed() is { } closed) return closed;
        var characteristic = plan.Characteristics.Find(c => c.Id == characteristicId);
        if (characteristic is null)
            return new Refusal("characteristic-unknown", "The plan has no such characteristic.", "Load the sheet again.");
        var size = Sample!.Classes.First(c => c.Class == characteristic.Class).SampleSize;
        if (piece < 1 || piece > size)
            return new Refusal("piece-outside", $"{characteristic.Name} is looked at on pieces 1 to {size}; {piece} is none of them.", "Choose a piece of the sample.");
        if (characteristic.IsMeasured && value is null)
            return new Refusal("value-missing", $"{characteristic.Name} is measured in {characteristic.Unit}.", "Type or read the value.");
        if (!characteristic.IsMeasured && pass is null)
            return new Refusal("look-missing", $"{characteristic.Name} is looked at.", $"Say {characteristic.PassWord} or {characteristic.FailWord}.");
        if (value is { } v && Math.Abs(v) > Quantities.Most)
            return new Refusal("value-absurd", $"{v} {characteristic.Unit} cannot be right.", "Measure again.");
        var conforms = characteristic.IsMeasured ? characteristic.Conforms(value!.Value) : pass!.Value;
        var finding = Findings.Find(f => f.Piece == piece && f.CharacteristicId == characteristicId);
        if (finding is null)
        {
            finding = new Finding { InspectionId = Id, Piece = piece, CharacteristicId = characteristicId, By = by, At = at };
            Findings.Add(finding);
        }

        finding.Value = characteristic.IsMeasured ? value : null;
        finding.Conforms = conforms;
        finding.By = by;
        finding.At = at;
        return finding;
    }

    /// <summary>Signs the verdict that was worked out. What it moves is the caller's to post.</summary>
    public Outcome<Verdict> Sign(InspectionPlan plan, string name, string? comment, DateTimeOffset at)
    {
        if (Closed() is { } closed) return closed;
        var stand = LotStand.Of(plan, Sample!, Findings);
        if (stand.Verdict is not { } verdict)
            return new Refusal("findings-missing", $"{stand.Missing} findings are still to be made.", "Finish the sample; a verdict of accepted needs every one.");
        Verdict = verdict;
        SignedBy = name;
        SignedAt = at;
        Comment = comment;
        State = InspectionState.Signed;
        SheetHash = HashOfSheet();
        return verdict;
    }

    /// <summary>SHA-256 over all that was signed: lot, sample, findings, verdict, name, time and comment.</summary>
    public string HashOfSheet()
    {
        var text = new StringBuilder();
        text.Append(CultureInfo.InvariantCulture, $"{Number}\n{ItemId}\n{BatchId}\n{Quantity:0.######}\n{LotSize}\n{Sample?.Letter}\n");
        foreach (var c in Sample?.Classes ?? []) text.Append(CultureInfo.InvariantCulture, $"{c.Class} {c.SampleSize} {c.Ac} {c.Re}\n");
        foreach (var f in Findings.OrderBy(f => f.Piece).ThenBy(f => f.CharacteristicId))
            text.Append(CultureInfo.InvariantCulture, $"{f.Piece} {f.CharacteristicId} {f.Value:0.######} {f.Conforms} {f.By} {f.At.UtcTicks}\n");
        text.Append(CultureInfo.InvariantCulture, $"{Verdict}\n{SignedBy}\n{SignedAt?.UtcTicks}\n{Comment}");
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text.ToString())));
    }

    Refusal? Closed() => State switch
    {
        InspectionState.Waiting => new Refusal("sample-not-drawn", $"The sample of {Number} is not drawn yet.", "Draw it first: that fixes the lot."),
        InspectionState.Signed => new Refusal("signed", $"{Number} was signed by {SignedBy} on {SignedAt:yyyy-MM-dd HH:mm} and cannot be changed.", "Ask for a new inspection that supersedes it."),
        _ => null,
    };
}
