using System.Globalization;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Book;
using MudRoom.Server.Out;

namespace MudRoom.Server.Bench;

/// <summary>Fixes the lot and draws its sample.</summary>
/// <param name="LotSize">How many sampling units the lot has, where the item has no such pack.</param>
public sealed record DrawRequest(string Inspection, string? LotSize = null);

/// <summary>Puts a sample back on which nothing was found.</summary>
public sealed record PutBackRequest(string Inspection);

/// <summary>The sample that was drawn.</summary>
public sealed record DrawAnswer(long LotSize, char? Letter, int SampleSize);

/// <summary>One value or look, as typed.</summary>
/// <param name="Reason">Why a finding is changed.</param>
/// <param name="IsSure">True when a doubtful value was looked at again.</param>
public sealed record FindRequest(
    string Inspection,
    int Piece,
    int Characteristic,
    string? Value,
    bool? Pass,
    string? Reason = null,
    bool IsSure = false
);

/// <summary>Values and looks of many pieces.</summary>
/// <param name="Found">At least one.</param>
public sealed record FindAllRequest(string Inspection, IReadOnlyList<Observation> Found);

/// <summary>What a gauge sent.</summary>
/// <param name="Characteristic">The one in whose field the cursor stands, or null.</param>
public sealed record GaugeRequest(string Inspection, int Piece, string Text, int? Characteristic, bool IsSure = false);

/// <summary>What the finding came to.</summary>
/// <param name="Finding">As it stands on the sheet now.</param>
/// <param name="Parts">How each part of the sample stands now.</param>
/// <param name="SampleSize">Pieces to look at: more once a second sample is wanted.</param>
public sealed record FindAnswer(
    bool Conforms,
    int Missing,
    Verdict? Verdict,
    string Sentence,
    FindingView Finding,
    IReadOnlyList<SamplePartView> Parts,
    int SampleSize
);

/// <summary>A signature: name and password, with a meaning and a comment.</summary>
public sealed record SignRequest(
    string Inspection,
    string Name,
    string Password,
    Verdict Verdict,
    string? Comment,
    SignatureMeaning Meaning = SignatureMeaning.Checked
);

/// <summary>Takes one's own first signature back, while the second is missing.</summary>
public sealed record UnsignRequest(string Inspection);

/// <summary>The signed verdict.</summary>
/// <param name="SheetHash">Null while a second signature is missing.</param>
public sealed record SignAnswer(Verdict Verdict, string Sentence, string? SheetHash);

/// <summary>Acts of Bench.</summary>
public static class BenchActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<DrawRequest, DrawAnswer>("/bench/draw", Right.Inspect, Draw);
        routes.Act<UnsignRequest, DoneAnswer>("/bench/unsign", Right.SignVerdict, Unsign);
        routes.Act<PutBackRequest, DoneAnswer>("/bench/put-back", Right.Inspect, PutBack);
        routes.Act<FindRequest, FindAnswer>("/bench/find", Right.Inspect, Find);
        routes.Act<GaugeRequest, FindAnswer>("/bench/gauge", Right.Inspect, FromGauge);
        routes.Act<SignRequest, SignAnswer>("/bench/sign", Right.SignVerdict, Sign, (inquiry, request) =>
            Signatures.IsNotThem(inquiry, request.Name, request.Password)
        );
    }

    public static async Task<Outcome<DrawAnswer>> Draw(Act act, DrawRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        long? lotSize = null;
        if (request.LotSize.OrNull() is { } typed)
        {
            if (!long.TryParse(typed, NumberStyles.None, CultureInfo.InvariantCulture, out var size))
                return new Refusal(HouseRefusals.NotANumber, $"{typed} is no whole number.", "Type how many there are.");
            lotSize = size;
        }

        if (await Lots.MayNot(act, await LotReads.Under(act.Db, inspection), Lets.Sample, "be sampled") is { } keptBack)
            return keptBack;

        var plan = act.SetUp.Plans[inspection.PlanId];
        var severity = await Severities.Of(act.Db, inspection.SiteId, inspection.ItemId, inspection.VendorId, act.Site.LocalTime);
        if (severity.IsStopped is { } stopped)
            return new Refusal(BenchRefusals.InspectionStopped, stopped, "Ask a supervisor to restart it, on tightened.");
        if (inspection.Draw(plan, plan.InForce(act.Now), act.SetUp.Catalogue[inspection.ItemId], severity.For, lotSize) is { } refusal)
            return refusal;
        act.Write(new SampleDrawn(inspection.Number, inspection.Sample!.Size, inspection.LotSize) { About = About(inspection) });
        act.Touch("bench", "inspection:" + inspection.Number);
        return new DrawAnswer(inspection.LotSize, inspection.Sample.Letter, inspection.Sample.Size);
    }

    /// <summary>Takes the drawing back, while nothing was found.</summary>
    public static async Task<Outcome<DoneAnswer>> PutBack(Act act, PutBackRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if (inspection.PutBack(act.Site.LocalTime) is { } refusal)
            return refusal;
        var fact = new SamplePutBack(inspection.Number) { About = About(inspection) };
        act.Write(fact);
        act.Touch("bench", "inspection:" + inspection.Number);
        return new DoneAnswer(act.Words(fact));
    }

    public static async Task<Outcome<FindAnswer>> Find(Act act, FindRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        decimal? value = null;
        if (!string.IsNullOrWhiteSpace(request.Value))
        {
            var read = Quantities.Read(request.Value, act.Site.DecimalComma);
            if (read.Refused(out var bad))
                return bad;
            value = read.Value;
        }

        return Record(
            act,
            inspection,
            new Observation(request.Piece, request.Characteristic, value, request.Pass, request.Reason, request.IsSure)
        );
    }

    /// <summary>Many values at once, each an entry of the book.</summary>
    public static async Task<Outcome<FindAnswer>> FindAll(Act act, FindAllRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        FindAnswer? last = null;
        foreach (var one in request.Found)
        {
            var recorded = Record(act, inspection, one);
            if (recorded.Refused(out var refusal))
                return refusal;
            last = recorded.Value;
        }

        return last!;
    }

    /// <summary>A value of a gauge goes to the characteristic it was measured for.</summary>
    public static async Task<Outcome<FindAnswer>> FromGauge(Act act, GaugeRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if (Gauges.Read(request.Text ?? "") is not { } reading)
            return new Refusal(HouseRefusals.NotANumber, "That is no value of a gauge.", "Measure again.");
        if (inspection.PlanVersion == 0)
            return inspection.NotDrawn();
        var plan = act.SetUp.Plans[inspection.PlanId][inspection.PlanVersion].Content;
        var stand = LotStand.Of(plan, inspection.Sample!, inspection.Findings);
        var open = plan
            .Characteristics.Where(c =>
                c.IsMeasured
                && stand.PartOf(c).Judgement.Wanted >= request.Piece
                && !inspection.Findings.Any(f => f.Piece == request.Piece && f.CharacteristicId == c.Id)
            )
            .ToList();
        var measured = Gauges.For(reading, open, request.Characteristic is { } id ? plan[id] : null);
        if (measured.Refused(out var which))
            return which;
        return Record(act, inspection, new Observation(request.Piece, measured.Value.Id, reading.Value, null, null, request.IsSure));
    }

    static Outcome<FindAnswer> Record(Act act, Inspection inspection, Observation what)
    {
        if (inspection.PlanVersion == 0)
            return inspection.NotDrawn();
        var plan = act.SetUp.Plans[inspection.PlanId][inspection.PlanVersion].Content;
        var before = inspection.Findings.Find(f => f.Piece == what.Piece && f.CharacteristicId == what.CharacteristicId)?.Before.Count
            ?? -1;
        var found = inspection.Find(plan, what, act.Person.Name, act.Now, act.Site.LocalTime);
        if (found.Refused(out var refusal))
            return refusal;
        var characteristic = plan[what.CharacteristicId]!;
        var stand = LotStand.Of(plan, inspection.Sample!, inspection.Findings);
        var said = Inspection.Words(characteristic, found.Value.Value, found.Value.Conforms);
        var changed = found.Value.Before.Count > Math.Max(0, before) ? found.Value.Before[^1] : null;
        if (before < 0 || changed is not null)
            act.Write(
                new FindingMade(
                    inspection.Number,
                    what.Piece,
                    characteristic.Name,
                    said,
                    found.Value.Conforms,
                    changed?.Was,
                    changed?.By,
                    changed?.Reason
                )
            );
        act.Touch("inspection:" + inspection.Number);
        return new FindAnswer(
            found.Value.Conforms,
            stand.Missing,
            stand.Verdict,
            $"{characteristic.Name}, piece {what.Piece}: {said}.",
            BenchPages.ViewOf(found.Value, act.Site.LocalTime),
            [.. stand.Parts.Select(p => BenchPages.ViewOf(p, plan))],
            stand.Parts.Max(p => p.Judgement.Wanted)
        );
    }

    public static async Task<Outcome<SignAnswer>> Sign(Act act, SignRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if ((request.Comment ?? "").Length > 1000)
            return new Refusal(HouseRefusals.NoteLong, "The comment has more than 1000 characters.", "Shorten it.");
        var plan = act.SetUp.Plans[inspection.PlanId];
        if (!Enum.IsDefined(request.Meaning))
            return new Refusal(HouseRefusals.SettingAbsurd, "There is no such meaning of a signature.", "Choose one of the list.");
        var signed = inspection.Sign(
            plan,
            new Signature(act.Person.Name, act.Now, request.Meaning, request.Comment.OrNull()),
            act.Site.LocalTime
        );
        if (signed.Refused(out var refusal))
            return refusal;
        if (signed.Value != request.Verdict)
            return new Refusal(
                BenchRefusals.VerdictMoved,
                $"The verdict is {signed.Value.ToString().ToLowerInvariant()} now; you were about to sign "
                    + $"{request.Verdict.ToString().ToLowerInvariant()}.",
                "Look at the sheet again."
            );
        if (inspection.WaitsForSecond)
        {
            var waits = new VerdictSignedFirst(inspection.Number, signed.Value, act.Person.Name, request.Meaning)
            {
                About = About(inspection),
            };
            act.Write(waits);
            act.Touch("bench", "inspection:" + inspection.Number);
            return new SignAnswer(signed.Value, act.Words(waits), null);
        }

        var signature = new VerdictSigned(inspection.Number, signed.Value, act.Person.Name, inspection.SheetHash!)
        {
            About = About(inspection),
        };
        var followed = await Follow(act, inspection, signature, plan[inspection.PlanVersion].Content);
        if (followed.Refused(out var notThere))
            return notThere;
        var sentence = followed.Value;
        act.Write(signature);
        await Receipts.Moved(act);
        act.Touch("bench", "inspection:" + inspection.Number, "cage", "shelf", "house");
        return new SignAnswer(signed.Value, sentence, inspection.SheetHash!);
    }

    public static async Task<Outcome<DoneAnswer>> Unsign(Act act, UnsignRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if (inspection.TakeSignatureBack(act.Person.Name, act.Site.LocalTime) is { } refusal)
            return refusal;
        var fact = new SignatureTakenBack(inspection.Number, act.Person.Name) { About = About(inspection) };
        act.Write(fact);
        act.Touch("bench", "inspection:" + inspection.Number);
        return new DoneAnswer(act.Words(fact));
    }

    static List<Reference> About(Inspection inspection) =>
        [Reference.Item(inspection.ItemId), .. inspection.BatchId is { } batch ? [Reference.Batch(batch)] : (Reference[])[]];

    static Task<Inspection?> Load(Act act, string number) =>
        act.Db.Inspections.Include(i => i.Findings).FirstOrDefaultAsync(i => i.SiteId == act.Site.Id && i.Number == number);

    /// <summary>The verdict moves the goods: usable, or rejected and held.</summary>
    static async Task<Outcome<string>> Follow(Act act, Inspection inspection, VerdictSigned signature, PlanContent plan)
    {
        var item = act.SetUp.Catalogue[inspection.ItemId];
        var lots = await LotReads.Under(act.Db, inspection);
        var moved = await Lots.Quantity(act, lots);
        if (moved != inspection.Quantity)
            return new Refusal(
                HouseRefusals.NotAllThere,
                $"{inspection.Number} speaks for {Quantities.Show(inspection.Quantity)} {item.UnitWord}, and {Quantities.Show(moved)} of "
                    + $"it are on the site.",
                "Have the places counted, then sign."
            );
        await Lots.SettleInspection(act, inspection.Id, lots);
        if (signature.Verdict == Verdict.Accepted)
        {
            var now = await Lots.Restand(act, lots, signature);
            return string.Join(
                " ",
                now.OrderBy(n => act.Standings.Order(n.Key))
                    .Select(n => $"{Quantities.Show(n.Value)} {item.UnitWord} of {item.Name} are {act.Standings.Word(n.Key)}.")
            );
        }

        var why = LotStand.Of(plan, inspection.Sample!, inspection.Findings).WhyRejected;
        var hold = new Hold
        {
            Number = await act.Number("H"),
            SiteId = act.Site.Id,
            ItemId = inspection.ItemId,
            BatchId = inspection.BatchId,
            Reason = HoldReason.Nonconforming,
            Sentence = $"{inspection.Number}: {why}",
            Since = act.Now,
            ArrivalId = inspection.ArrivalId,
            InspectionId = inspection.Id,
            LaidBy = act.Person.Name,
        };
        if (hold.Grow(moved, act.Site.LocalTime) is { } full)
            return full;
        act.Db.Holds.Add(hold);
        await act.Db.SaveChangesAsync();
        Lots.Say(act, lots, hold);
        await Lots.Restand(act, lots, signature);
        act.Write(
            new HoldLaid(hold.Number, item.Name, Amount.Of(moved, item), null, hold.Sentence)
            {
                About = [Reference.Inspection(inspection.Number), .. Lots.About(lots)],
            }
        );
        return $"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are rejected and held by {hold.Number}.";
    }
}
