using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>What is checked of goods. What it says is kept in its versions; one that is in force is never changed.</summary>
public sealed class InspectionPlan
{
    public int Id { get; init; }
    public required string Name { get; init; }
    public List<PlanVersion> Versions { get; init; } = [];

    /// <summary>The version in force at an instant: the last that was signed to be so from then or before; null where none is.</summary>
    public PlanVersion? InForce(DateTimeOffset at) => Versions.Where(v => v.From <= at).MaxBy(v => v.Number);

    /// <summary>The version that is signed to follow; null where none is, or where a later one has overtaken it.</summary>
    public PlanVersion? ToCome(DateTimeOffset at) =>
        Versions.Where(v => v.From > at && v.Number > (InForce(at)?.Number ?? 0)).MaxBy(v => v.Number);

    /// <summary>The unit in which lots are counted, by the newest version that is signed, else by the draft.</summary>
    public string SamplingUnit => (Versions.Where(v => v.From is not null).MaxBy(v => v.Number) ?? Draft)?.Content.SamplingUnit ?? "";

    /// <summary>The version that is being drafted, or null.</summary>
    public PlanVersion? Draft => Versions.Find(v => v.From is null);

    /// <summary>A version by its number.</summary>
    /// <exception cref="InvalidOperationException">There is none.</exception>
    public PlanVersion this[int number] =>
        Versions.Find(v => v.Number == number) ?? throw new InvalidOperationException($"{Name} has no version {number}.");

    /// <summary>Begins a draft, or changes the one there is.</summary>
    public PlanVersion Write(PlanContent content, string by, DateTimeOffset at)
    {
        if (Draft is not { } draft)
            Versions.Add(
                draft = new PlanVersion
                {
                    PlanId = Id,
                    Number = Versions.Select(v => v.Number).DefaultIfEmpty(0).Max() + 1,
                    Text = "",
                    DraftedBy = by,
                    DraftedAt = at,
                }
            );
        draft.Write(content, by, at);
        return draft;
    }
}

/// <summary>One version of a plan: a draft until it is signed, and never changed from then on.</summary>
public sealed class PlanVersion
{
    static readonly JsonSerializerOptions json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter() },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        // A database of before has it behind the other members.
        AllowOutOfOrderMetadataProperties = true,
    };

    PlanContent? content;

    public int Id { get; init; }
    public int PlanId { get; init; }

    /// <summary>1, 2, 3 …</summary>
    public required int Number { get; init; }

    /// <summary>What it says, as it is kept and hashed.</summary>
    public required string Text { get; set; }
    public required string DraftedBy { get; set; }
    public required DateTimeOffset DraftedAt { get; set; }
    public string? SignedBy { get; private set; }
    public DateTimeOffset? SignedAt { get; private set; }

    /// <summary>In force from here on; null for a draft.</summary>
    public DateTimeOffset? From { get; private set; }
    public string? Comment { get; private set; }

    /// <summary>What it says.</summary>
    public PlanContent Content => content ??= JsonSerializer.Deserialize<PlanContent>(Text, json)!;

    /// <summary>SHA-256 of what it says.</summary>
    public string Hash => Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(Text)));

    /// <summary>A content as it is kept.</summary>
    public static string TextOf(PlanContent content) => JsonSerializer.Serialize(content, json);

    internal void Write(PlanContent next, string by, DateTimeOffset at)
    {
        if (From is not null)
            throw new InvalidOperationException($"Version {Number} is signed.");
        (Text, content, DraftedBy, DraftedAt) = (TextOf(next), null, by, at);
    }

    /// <summary>Signs the draft in force.</summary>
    /// <param name="from">Now or later.</param>
    public Refusal? Sign(string by, DateTimeOffset at, DateTimeOffset from, string? comment)
    {
        if (From is not null)
            return new Refusal(BenchRefusals.PlanSigned, $"Version {Number} was signed by {SignedBy} already.", "Begin a new draft.");
        if (Content.Faults() is [var fault, ..])
            return new Refusal(BenchRefusals.PlanFaulty, fault, "Mend the draft, then sign it.");
        if (from < at)
            return new Refusal(
                BenchRefusals.PlanBackdated,
                "A version is in force from its signature on at the earliest.",
                "Choose now or a later day."
            );
        (SignedBy, SignedAt, From, Comment) = (by, at, from, comment);
        return null;
    }
}

/// <summary>All that a version of a plan says.</summary>
public sealed record PlanContent
{
    /// <summary>Pack level in which lots are counted: "each", "sack".</summary>
    public required string SamplingUnit { get; init; }

    /// <summary>What each class asks of a lot; critical ones without a rule are looked for on every piece of the largest sample.</summary>
    public IReadOnlyDictionary<CharacteristicClass, SampleRule> Rules { get; init; } = new Dictionary<CharacteristicClass, SampleRule>();
    public IReadOnlyList<Characteristic> Characteristics { get; init; } = [];

    /// <summary>True where a verdict holds only once another person has signed it too.</summary>
    public bool WantsSecond { get; init; }

    /// <summary>True where only the sample waits for the verdict, and the rest of the lot may be used meanwhile.</summary>
    public bool OnlySampleWaits { get; init; }

    /// <summary>True where each part of the sample has pieces of its own, as goods want that are used up by what is looked for; else the
    /// pieces of the largest serve all.</summary>
    public bool EachItsOwn { get; init; }

    /// <summary>Lots that pass unseen once enough in a row were accepted; null where every lot is looked at.</summary>
    public SkipLot? SkipLot { get; init; }

    /// <summary>What is kept of each sample; null for nothing.</summary>
    public RetainedSample? Retains { get; init; }

    /// <summary>The ticket that whoever takes or signs a sheet must have; null for none.</summary>
    public string? Qualification { get; init; }

    /// <summary>Why somebody may not inspect by it on a day; null where they may.</summary>
    public Refusal? Lacks(Person person, DateOnly today)
    {
        if (Qualification is not { } ticket)
            return null;
        var has = person.Skills.Where(s => s.Name.Equals(ticket, StringComparison.OrdinalIgnoreCase)).MaxBy(s => s.Until);
        return has is null
                ? new Refusal(
                    BenchRefusals.QualificationMissing,
                    $"This plan wants {ticket}, and you do not have it.",
                    "Ask a colleague who has."
                )
            : has.Until < today
                ? new Refusal(
                    BenchRefusals.QualificationMissing,
                    $"This plan wants {ticket}, and yours was good until {has.Until:yyyy-MM-dd}.",
                    "Ask a colleague whose is."
                )
            : null;
    }

    /// <summary>Minutes before the first piece: to fetch the sample, to set up.</summary>
    public int SetUpMinutes { get; init; }

    /// <summary>Seconds that a piece takes with all its characteristics.</summary>
    public int SecondsPerPiece { get; init; }

    /// <summary>The characteristic with this number, or null.</summary>
    public Characteristic? this[int id] => Characteristics.FirstOrDefault(c => c.Id == id);

    /// <summary>How many pieces a characteristic is looked at on, in words.</summary>
    public string RuleWords(Characteristic c) =>
        c.Rule?.Words
        ?? (
            c.Class == CharacteristicClass.Critical && !Rules.ContainsKey(c.Class)
                ? "on the largest sample, none may fail"
                : $"with the {c.Class.ToString().ToLowerInvariant()}s"
        );

    /// <summary>Minutes at the bench for so many pieces.</summary>
    public double Minutes(double pieces) => SetUpMinutes + pieces * SecondsPerPiece / 60;

    /// <summary>Most characteristics of a plan.</summary>
    public const int MostCharacteristics = 40;

    /// <summary>What keeps it from being signed, in sentences.</summary>
    public IReadOnlyList<string> Faults()
    {
        var faults = new List<string>();
        if (string.IsNullOrWhiteSpace(SamplingUnit))
            faults.Add("The plan does not say in which unit lots are counted.");
        if (Characteristics.Count == 0)
            faults.Add("The plan has no characteristic: there is nothing to look at.");
        if (Characteristics.Count > MostCharacteristics)
            faults.Add($"The plan has more than {MostCharacteristics} characteristics.");
        if (SetUpMinutes is < 0 or > 600 || SecondsPerPiece is < 0 or > 36_000)
            faults.Add("Setting up takes 0 to 600 minutes, a piece 0 to 36000 seconds.");
        if (Retains?.Fault is { } kept)
            faults.Add(kept);
        if (SkipLot is { InARow: < 1 or > 100 } or { Fraction: not (> 0 and <= 1) })
            faults.Add("Lots are skipped after 1 to 100 accepted in a row, and above 0 to 100 % of them are looked at from then on.");
        foreach (var (name, count) in Characteristics.CountBy(c => c.Name.Trim(), StringComparer.OrdinalIgnoreCase))
            if (count > 1)
                faults.Add($"{count} characteristics are called {name}.");
        foreach (var c in Characteristics)
            faults.AddRange(c.Faults());
        foreach (var (c, rule) in Rules.OrderBy(r => r.Key))
        {
            if (rule is SampleRule.ByVariables)
                faults.Add($"{Word(c)}: values are judged for a characteristic, not for a class.");
            else if (rule.Fault is { } fault)
                faults.Add($"{Word(c)}: {fault}");
            if (c == CharacteristicClass.Critical && AcceptsSome(rule))
                faults.Add("Critical: none may fail.");
        }

        foreach (var c in Characteristics.Where(c => c.Rule is null).Select(c => c.Class).Distinct().Order())
            if (!Rules.ContainsKey(c) && (c != CharacteristicClass.Critical || Characteristics.All(x => x.Class == c && x.Rule is null)))
                faults.Add($"{Word(c)}: no sample rule says how many are looked at.");
        if (EachItsOwn && Characteristics.Any(c => c.Rule is null && c.Class == CharacteristicClass.Critical))
            if (!Rules.ContainsKey(CharacteristicClass.Critical) && Characteristics.Any(c => c.Class != CharacteristicClass.Critical))
                faults.Add("Critical: where each has pieces of its own, a sample rule says how many of them are looked at.");
        return faults;
    }

    static bool AcceptsSome(SampleRule rule) =>
        rule switch
        {
            SampleRule.Fixed f => f.Ac > 0,
            SampleRule.Share s => s.Ac > 0,
            SampleRule.All a => a.Ac > 0,
            SampleRule.Portions p => p.Ac > 0,
            SampleRule.OneByOne => true,
            _ => false,
        };

    static string Word(CharacteristicClass c) => c.ToString();
}
