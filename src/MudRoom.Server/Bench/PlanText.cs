using System.Globalization;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;

namespace MudRoom.Server.Bench;

/// <summary>The kinds of sample rules, as the page offers them.</summary>
public enum RuleKind
{
    Standard,
    Fixed,
    Share,
    All,
    Zero,
    Portions,
    Variables,
    OneByOne,
}

/// <summary>A sample rule as typed: only the fields of its kind are read.</summary>
public sealed record RuleText(
    RuleKind Kind,
    InspectionLevel Level = InspectionLevel.II,
    string? Aql = null,
    bool IsDouble = false,
    bool PerHundred = false,
    string? Size = null,
    string? Ac = null,
    string? Percent = null,
    string? Least = null,
    string? Most = null,
    string? Quality = null,
    string? Risk = null,
    string? Grams = null,
    string? From = null,
    string? Good = null,
    string? Alpha = null,
    string? Bad = null,
    string? Beta = null,
    string? Sigma = null
);

/// <summary>A characteristic as typed.</summary>
/// <param name="Id">0 for a new one.</param>
/// <param name="Rule">Null where it goes with its class.</param>
/// <param name="UsesUp">True where there is nothing of a piece any more once it was looked at.</param>
public sealed record CharacteristicText(
    int Id,
    string Name,
    CharacteristicClass Class,
    string? Unit,
    string? Nominal,
    string? Lower,
    string? Upper,
    string? Gauge,
    string? GaugeLow,
    string? GaugeHigh,
    string? PassWord,
    string? FailWord,
    string? Instruction,
    RuleText? Rule,
    bool UsesUp = false,
    PictureText? Picture = null,
    HowHad Had = HowHad.Typed
);

/// <summary>A picture by which something is judged, as it is drafted.</summary>
/// <param name="Id">Under which it is kept.</param>
public sealed record PictureText(int Id, IReadOnlyList<PictureMark> Marks);

/// <summary>All that a version says, as typed.</summary>
/// <param name="Qualification">The ticket that whoever takes or signs a sheet must have; empty for none.</param>
/// <param name="SkipAfter">Lots accepted in a row after which lots are skipped; empty where none is.</param>
/// <param name="SkipPercent">Of them looked at from then on.</param>
/// <param name="RetainUnits">Sampling units kept of each sample; empty for none.</param>
/// <param name="RetainMonths">How long.</param>
/// <param name="EachItsOwn">True where each part of the sample has pieces of its own.</param>
/// <param name="Critical">The rule of criticals; null where they are looked for on the largest sample.</param>
public sealed record PlanText(
    string SamplingUnit,
    string? SetUpMinutes,
    string? SecondsPerPiece,
    RuleText? Critical,
    RuleText? Major,
    RuleText? Minor,
    IReadOnlyList<CharacteristicText> Characteristics,
    bool WantsSecond = false,
    bool OnlySampleWaits = false,
    string? SkipAfter = null,
    string? SkipPercent = null,
    string? Qualification = null,
    string? RetainUnits = null,
    string? RetainMonths = null,
    bool EachItsOwn = false
)
{
    /// <summary>A content as it is shown in fields.</summary>
    public static PlanText Of(PlanContent plan) =>
        new(
            plan.SamplingUnit,
            Show(plan.SetUpMinutes),
            Show(plan.SecondsPerPiece),
            Of(plan.Rules.GetValueOrDefault(CharacteristicClass.Critical)),
            Of(plan.Rules.GetValueOrDefault(CharacteristicClass.Major)),
            Of(plan.Rules.GetValueOrDefault(CharacteristicClass.Minor)),
            [
                .. plan.Characteristics.Select(c => new CharacteristicText(
                    c.Id,
                    c.Name,
                    c.Class,
                    c.Unit,
                    Show(c.Nominal),
                    Show(c.Lower),
                    Show(c.Upper),
                    c.Gauge,
                    Show(c.GaugeLow),
                    Show(c.GaugeHigh),
                    c.PassWord,
                    c.FailWord,
                    c.Instruction,
                    Of(c.Rule),
                    c.UsesUp,
                    c.Picture is { } picture ? new PictureText(picture.Id, picture.Marks) : null,
                    c.Had
                )),
            ],
            plan.WantsSecond,
            plan.OnlySampleWaits,
            plan.SkipLot is { } after ? Show(after.InARow) : null,
            plan.SkipLot is { } skip ? Show((decimal)skip.Fraction * 100) : null,
            plan.Qualification,
            Show(plan.Retains?.Units),
            Show(plan.Retains?.Months),
            plan.EachItsOwn
        );

    RetainedSample? Retained(bool comma)
    {
        var (units, months) = (Whole(RetainUnits, "units retained", comma), Whole(RetainMonths, "months they are kept", comma));
        return units is null && months is null ? null : new RetainedSample(units ?? 0, months ?? 0);
    }

    SkipLot? Skip(bool comma)
    {
        var (after, percent) = (Whole(SkipAfter, "lots accepted in a row", comma), Number(SkipPercent, "percent looked at", comma));
        return after is null && percent is null ? null : new SkipLot(after ?? 0, (double)(percent ?? 0) / 100);
    }

    /// <summary>What was typed, as a content; a refusal where something is no number or too long.</summary>
    /// <param name="nextId">Of the first new characteristic.</param>
    /// <param name="comma">True where a comma stands before decimals.</param>
    public Outcome<PlanContent> Read(int nextId, bool comma)
    {
        try
        {
            var rules = new Dictionary<CharacteristicClass, SampleRule>();
            foreach (
                var (c, typed) in new[]
                {
                    (CharacteristicClass.Critical, Critical),
                    (CharacteristicClass.Major, Major),
                    (CharacteristicClass.Minor, Minor),
                }
            )
                if (typed is not null)
                    rules[c] = Rule(typed, c.ToString(), comma);
            return new PlanContent
            {
                SamplingUnit = Words(SamplingUnit, "The sampling unit", 40) ?? "",
                SetUpMinutes = Whole(SetUpMinutes, "minutes to set up", comma) ?? 0,
                SecondsPerPiece = Whole(SecondsPerPiece, "seconds per piece", comma) ?? 0,
                WantsSecond = WantsSecond,
                OnlySampleWaits = OnlySampleWaits,
                EachItsOwn = EachItsOwn,
                SkipLot = Skip(comma),
                Retains = Retained(comma),
                Qualification = Words(Qualification, "The qualification", 60),
                Rules = rules,
                Characteristics = [.. (Characteristics ?? []).Select(c => One(c, c.Id > 0 ? c.Id : nextId++, comma))],
            };
        }
        catch (NotRead no)
        {
            return no.Refusal;
        }
    }

    static Characteristic One(CharacteristicText c, int id, bool comma)
    {
        var name = Words(c.Name, "A name", 60) ?? "";
        return new Characteristic
        {
            Id = id,
            Name = name,
            Class = c.Class,
            Unit = Words(c.Unit, $"The unit of {name}", 12),
            Nominal = Number(c.Nominal, $"nominal value of {name}", comma),
            Lower = Number(c.Lower, $"lower limit of {name}", comma),
            Upper = Number(c.Upper, $"upper limit of {name}", comma),
            Gauge = Words(c.Gauge, $"The gauge of {name}", 40),
            GaugeLow = Number(c.GaugeLow, $"least that the gauge of {name} reads", comma),
            GaugeHigh = Number(c.GaugeHigh, $"most that the gauge of {name} reads", comma),
            PassWord = Words(c.PassWord, $"The word for good of {name}", 30) ?? "good",
            FailWord = Words(c.FailWord, $"The word for bad of {name}", 30) ?? "bad",
            Instruction = Words(c.Instruction, $"The instruction of {name}", 400) ?? "",
            Rule = c.Rule is { } rule ? Rule(rule, name, comma) : null,
            UsesUp = c.UsesUp,
            Had = c.Had,
            Picture = c.Picture is { } picture
                ? new ReferencePicture(
                    picture.Id,
                    "",
                    [.. (picture.Marks ?? []).Select(m => m with { Text = Words(m.Text, $"A mark of {name}", 60) ?? "" })]
                )
                : null,
        };
    }

    static SampleRule Rule(RuleText t, string of, bool comma)
    {
        return t.Kind switch
        {
            RuleKind.Standard => new SampleRule.Standard(t.Level, Need(t.Aql, "AQL"), t.IsDouble, t.PerHundred),
            RuleKind.Fixed => new SampleRule.Fixed(Count(t.Size, "number of pieces"), Count(t.Ac, "acceptance number")),
            RuleKind.Share => new SampleRule.Share(
                Need(t.Percent, "percentage"),
                Count(t.Least, "least number"),
                Whole(t.Most, $"most number of {of}", comma),
                Count(t.Ac, "acceptance number")
            ),
            RuleKind.All => new SampleRule.All(Count(t.Ac, "acceptance number")),
            RuleKind.Zero => new SampleRule.ZeroAcceptance(Need(t.Quality, "limiting quality"), Need(t.Risk, "risk")),
            RuleKind.Portions => new SampleRule.Portions(
                Need(t.Grams, "grams"),
                Count(t.From, "number of packages"),
                Count(t.Size, "number of portions"),
                Count(t.Ac, "acceptance number")
            ),
            RuleKind.Variables => new SampleRule.ByVariables(
                Need(t.Good, "good quality"),
                Need(t.Alpha, "risk of rejecting it"),
                Need(t.Bad, "bad quality"),
                Need(t.Beta, "risk of accepting it"),
                Number(t.Sigma, $"standard deviation of {of}", comma)
            ),
            RuleKind.OneByOne => new SampleRule.OneByOne(
                Need(t.Good, "good quality"),
                Need(t.Alpha, "risk of rejecting it"),
                Need(t.Bad, "bad quality"),
                Need(t.Beta, "risk of accepting it")
            ),
            _ => throw new NotRead(HouseRefusals.SettingAbsurd, $"{of}: there is no such sample rule.", "Choose one of the list."),
        };

        decimal Need(string? text, string what) => Number(text, $"{what} of {of}", comma) ?? throw Missing(what, of);
        int Count(string? text, string what) => Whole(text, $"{what} of {of}", comma) ?? throw Missing(what, of);
    }

    static NotRead Missing(string what, string of) =>
        new(HouseRefusals.NotANumber, $"{of}: the {what} is missing.", "Type it. Nothing was kept.");

    static decimal? Number(string? text, string what, bool comma)
    {
        if (string.IsNullOrWhiteSpace(text))
            return null;
        var read = Quantities.Read(text, comma);
        return read.Refused(out var no) ? throw new NotRead(no.Kind, $"The {what}: {no.Sentence}", no.Next)
            : decimal.Round(read.Value, 6) == read.Value && Math.Abs(read.Value) <= Quantities.Most ? read.Value
            : throw new NotRead(HouseRefusals.NotANumber, $"The {what}: at most six decimals are kept.", "Shorten it. Nothing was kept.");
    }

    static int? Whole(string? text, string what, bool comma) =>
        Number(text, what, comma) is not { } number ? null
        : number == decimal.Truncate(number) && number is >= 0 and <= 1_000_000 ? (int)number
        : throw new NotRead(HouseRefusals.NotANumber, $"The {what} is a whole number from 0 on.", "Look at it again. Nothing was kept.");

    static string? Words(string? text, string what, int most) =>
        text.OrNull() is not { } some ? null
        : some.Length <= most ? some
        : throw new NotRead(HouseRefusals.SettingAbsurd, $"{what} has more than {most} characters.", "Shorten it. Nothing was kept.");

    static RuleText? Of(SampleRule? rule) =>
        rule switch
        {
            null => null,
            SampleRule.Standard r => new RuleText(RuleKind.Standard, r.Level, Show(r.Aql), r.IsDouble, r.PerHundred),
            SampleRule.Fixed r => new RuleText(RuleKind.Fixed, Size: Show(r.Size), Ac: Show(r.Ac)),
            SampleRule.Share r => new RuleText(
                RuleKind.Share,
                Percent: Show(r.Percent),
                Least: Show(r.Least),
                Most: Show(r.Most),
                Ac: Show(r.Ac)
            ),
            SampleRule.All r => new RuleText(RuleKind.All, Ac: Show(r.Ac)),
            SampleRule.ZeroAcceptance r => new RuleText(RuleKind.Zero, Quality: Show(r.LimitingQuality), Risk: Show(r.Risk)),
            SampleRule.Portions r => new RuleText(
                RuleKind.Portions,
                Grams: Show(r.Grams),
                From: Show(r.From),
                Size: Show(r.Count),
                Ac: Show(r.Ac)
            ),
            SampleRule.ByVariables r => new RuleText(
                RuleKind.Variables,
                Good: Show(r.Good),
                Alpha: Show(r.Alpha),
                Bad: Show(r.Bad),
                Beta: Show(r.Beta),
                Sigma: Show(r.Sigma)
            ),
            SampleRule.OneByOne r => new RuleText(
                RuleKind.OneByOne,
                Good: Show(r.Good),
                Alpha: Show(r.Alpha),
                Bad: Show(r.Bad),
                Beta: Show(r.Beta)
            ),
            _ => throw new InvalidOperationException($"{rule.GetType().Name} has no fields."),
        };

    static string? Show(decimal? value) => value?.ToString("0.######", CultureInfo.InvariantCulture);

    static string? Show(int? value) => value?.ToString(CultureInfo.InvariantCulture);

    /// <summary>Something typed that cannot be read; never leaves this file.</summary>
    sealed class NotRead(RefusalKind kind, string sentence, string next) : Exception(sentence)
    {
        public Refusal Refusal { get; } = new(kind, sentence, next);
    }
}
