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

/// <summary>Drawing and signing.</summary>
public static class BenchActs
{
    public static void Map(SiteRoutes routes)
    {
        routes.Act<DrawRequest, DrawAnswer>("/bench/draw", Right.Inspect, Draw);
        routes.Act<UnsignRequest, DoneAnswer>("/bench/unsign", Right.SignVerdict, Unsign);
        routes.Act<PutBackRequest, DoneAnswer>("/bench/put-back", Right.Inspect, PutBack);
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

        if (Inspections.Unqualified(act, inspection) is { } unqualified)
            return unqualified;
        if (await Lots.MayNot(act, await LotReads.Under(act.Db, inspection), Lets.Sample, "be sampled") is { } keptBack)
            return keptBack;

        var plan = act.SetUp.Plans[inspection.PlanId];
        var severity = await Severities.Of(act.Db, inspection, act.Site.LocalTime);
        if (severity.IsStopped is { } stopped)
            return new Refusal(BenchRefusals.InspectionStopped, stopped, "Ask a supervisor to restart it, on tightened.");
        if (inspection.Draw(plan, plan.InForce(act.Now), act.SetUp.Catalogue[inspection.ItemId], severity.For, lotSize) is { } refusal)
            return refusal;
        var drawn = new SampleDrawn(inspection.Number, inspection.Sample!.Size, inspection.LotSize) { About = About(inspection) };
        if (inspection.LetsUse)
            await SampleWaits(act, inspection, await LotReads.Under(act.Db, inspection), inspection.Sampled, drawn);
        // Who draws has it in hand, where nobody else has.
        _ = inspection.Take(act.Person.Id, act.Person.Name, act.Now, act.Site.LocalTime);
        act.Write(drawn);
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
        if (inspection.LetsUse)
            await Ask(act, inspection, await LotReads.Under(act.Db, inspection), Standing.Usable, fact);
        act.Touch("bench", "inspection:" + inspection.Number);
        return new DoneAnswer(act.Words(fact));
    }

    public static async Task<Outcome<SignAnswer>> Sign(Act act, SignRequest request)
    {
        var inspection = await Load(act, request.Inspection);
        if (inspection is null)
            return Problems.NotFound("inspection", request.Inspection);
        if ((request.Comment ?? "").Length > 1000)
            return new Refusal(HouseRefusals.NoteLong, "The comment has more than 1000 characters.", "Shorten it.");
        if (Inspections.Unqualified(act, inspection) is { } unqualified)
            return unqualified;
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

    /// <summary>Where the rest of the lot may be used, its sample is set apart and waits.</summary>
    internal static async Task SampleWaits(Act act, Inspection inspection, IReadOnlyList<Lot> lots, decimal quantity, Fact drawn)
    {
        var sample = await Lots.Part(act, lots, quantity, inspection.Number);
        await Ask(act, inspection, sample, Standing.ToInspect, drawn);
    }

    static async Task Ask(Act act, Inspection inspection, IReadOnlyList<Lot> lots, Standing asks, Fact since)
    {
        await Lots.AskOf(act, inspection, lots, asks);
        await Lots.Restand(act, lots, since);
    }

    internal static List<Reference> About(Inspection inspection) =>
        [Reference.Item(inspection.ItemId), .. inspection.BatchId is { } batch ? [Reference.Batch(batch)] : (Reference[])[]];

    internal static Task<Inspection?> Load(Act act, string number) =>
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
                    .Select(n => $"{Quantities.Show(n.Value.Quantity)} {item.UnitWord} of {item.Name} are {act.Standings.Word(n.Key)}.")
            );
        }

        // What a customer sent back is bound to its return already: what becomes of it is decided there.
        var bound = await LotReads.BoundToReturns(act.Db, lots);
        if (bound.Count > 0)
        {
            var returned = lots.Where(l => bound.ContainsKey(l.Id)).ToList();
            await Lots.Restand(act, returned, signature);
            lots = [.. lots.Except(returned)];
            moved = await Lots.Quantity(act, lots);
            if (lots.Count == 0)
                return $"{inspection.Number} rejects goods that a customer sent back. "
                    + $"{string.Join(" and ", bound.Values.Distinct().Order(StringComparer.Ordinal))} keeps them until it is found what "
                    + "they are.";
        }

        var used = inspection.LetsUse ? await Used(act, inspection, item) : null;
        if (used is not null)
            act.Write(used);
        var said = used is null ? "" : " " + act.Words(used);
        if (moved == 0)
            return $"Nothing of {inspection.Number} is here any more.{said}";
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
        return $"{Quantities.Show(moved)} {item.UnitWord} of {item.Name} are rejected and held by {hold.Number}.{said}";
    }

    /// <summary>What of a lot went out while only its sample waited, by whom it was for; null where all is here.</summary>
    static async Task<UsedBeforeRejected?> Used(Act act, Inspection inspection, Item item)
    {
        await act.Db.SaveChangesAsync();
        var lots = (await LotReads.EverUnder(act.Db, inspection)).ConvertAll(l => l.Id);
        var gone = await act
            .Db.Ledger.Where(e => e.Kind == EntryKind.Issued && lots.Contains(e.LotId!.Value))
            .Where(e => !act.Db.Ledger.Any(back => back.Undoes == e.Seq))
            .Select(e => new { e.Subject, e.Quantity })
            .ToListAsync();
        return gone.Count == 0
            ? null
            : new UsedBeforeRejected(
                inspection.Number,
                Amount.Of(gone.Sum(g => g.Quantity ?? 0), item),
                [.. gone.GroupBy(g => g.Subject).Select(g => $"{g.Key}, {Quantities.Show(g.Sum(x => x.Quantity ?? 0))} {item.UnitWord}")]
            )
            {
                About =
                [
                    .. gone.Select(g => g.Subject).Distinct().Select(s => new Reference(ReferenceKind.Demand, s)),
                    .. About(inspection),
                ],
            };
    }
}
