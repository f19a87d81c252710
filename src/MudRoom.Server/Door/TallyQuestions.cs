using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>A question a receiver puts aside.</summary>
/// <param name="Code">The scanned code, for an unknown one.</param>
/// <param name="Packs">How many of it stand there.</param>
/// <param name="Note">What can be said of it; needed for goods that nobody can name.</param>
/// <param name="Count">The count that waits for a yes, for what is over.</param>
public sealed record AskRequest(string Arrival, QuestionKind Kind, string? Code, string? Packs, string? Note, CountRequest? Count);

/// <summary>The answer to a question.</summary>
/// <param name="Yes">True to take the goods; false to leave them.</param>
/// <param name="Item">What it is, for an unknown code or item.</param>
/// <param name="Pack">Its pack level.</param>
/// <param name="Bind">True when the code is to mean this item and pack for ever after.</param>
/// <param name="Vendor">Whose goods they are, where no order of the arrival says it and several vendors are aboard.</param>
public sealed record AnswerRequest(int Question, bool Yes, string? Item, string? Pack, bool Bind, string? Note, string? Vendor = null);

/// <summary>A barcode that is to mean an item's pack from now on.</summary>
public sealed record BindRequest(string Code, string Item, string Pack);

/// <summary>Goods that were not let in: sent back with the vehicle.</summary>
public sealed record RefuseRequest(string Arrival, string? Item, string Packs, string Reason);

/// <summary>A question as screens show it.</summary>
/// <param name="Pictures">Ids of the pictures taken with it; of those that were counted, they are with the count.</param>
public sealed record QuestionRow(
    int Id,
    string Arrival,
    QuestionKind Kind,
    string? Code,
    string Sentence,
    string Packs,
    string AskedBy,
    DateTime AskedAt,
    bool Open,
    string? Answer,
    string? AnsweredBy,
    IReadOnlyList<int> Pictures
);

/// <summary>What a receiver cannot settle: asked, answered from another screen, and then counted by itself.</summary>
public static class TallyQuestions
{
    static readonly JsonSerializerOptions json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new System.Text.Json.Serialization.JsonStringEnumConverter() },
    };

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/questions", Right.See, async (Inquiry inquiry) => TypedResults.Ok(await Open(inquiry)));
        routes.Ask("/door/answers", Right.Tally, async (Inquiry inquiry) => TypedResults.Ok(await Answered(inquiry)), BlindView.Open);
        routes.Act<AskRequest, DoneAnswer>("/door/ask", Right.Tally, Ask, blind: BlindView.Open);
        routes.Act<AnswerRequest, DoneAnswer>("/door/answer", Right.SettleTally, Answer);
        routes.Act<BindRequest, DoneAnswer>("/door/bind", Right.SettleTally, Bind);
        routes.Act<RefuseRequest, DoneAnswer>("/door/refuse", Right.Tally, Refuse, blind: BlindView.Open);
    }

    /// <summary>The questions of an arrival, open ones first.</summary>
    public static async Task<IReadOnlyList<QuestionRow>> Of(Inquiry inquiry, int arrivalId) =>
        await Rows(
            inquiry,
            inquiry.Db.TallyQuestions.Where(q => q.ArrivalId == arrivalId).OrderByDescending(q => q.IsOpen).ThenByDescending(q => q.Id)
        );

    /// <summary>What one has asked and was answered of late, newest first: told on the device wherever one is.</summary>
    static async Task<IReadOnlyList<QuestionRow>> Answered(Inquiry inquiry)
    {
        var since = inquiry.Now.AddHours(-12);
        return await Rows(
            inquiry,
            inquiry
                .Db.TallyQuestions.Where(q =>
                    q.SiteId == inquiry.Site.Id && q.PersonId == inquiry.Person.Id && !q.IsOpen && q.AskedAt > since
                )
                .OrderByDescending(q => q.Id)
        );
    }

    static async Task<IReadOnlyList<QuestionRow>> Open(Inquiry inquiry) =>
        await Rows(inquiry, inquiry.Db.TallyQuestions.Where(q => q.SiteId == inquiry.Site.Id && q.IsOpen).OrderBy(q => q.AskedAt));

    static async Task<IReadOnlyList<QuestionRow>> Rows(Inquiry inquiry, IQueryable<TallyQuestion> questions)
    {
        var rows = await questions
            .Take(60)
            .Join(inquiry.Db.Arrivals, q => q.ArrivalId, a => a.Id, (q, a) => new { q, a.Number })
            .ToListAsync();
        var acts = rows.Select(r => (Guid?)r.q.ActId).ToList();
        var pictures =
            rows.Count == 0
                ? []
                : await inquiry
                    .Db.Attachments.Where(a => acts.Contains(a.ActId) && a.MediaType.StartsWith("image/"))
                    .OrderBy(a => a.Id)
                    .Select(a => new { a.Id, a.ActId })
                    .ToListAsync();
        return
        [
            .. rows.Select(r => new QuestionRow(
                r.q.Id,
                r.Number,
                r.q.Kind,
                r.q.Code,
                r.q.Sentence,
                r.q.Packs,
                r.q.AskedBy,
                inquiry.Local(r.q.AskedAt),
                r.q.IsOpen,
                r.q.Answer,
                r.q.AnsweredBy,
                [.. pictures.Where(p => p.ActId == r.q.ActId).Select(p => p.Id)]
            )),
        ];
    }

    public static async Task<Outcome<DoneAnswer>> Ask(Act act, AskRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var note = request.Note.OrNull();
        if (note is { Length: > 500 })
            return new Refusal(HouseRefusals.NoteLong, "The note has more than 500 characters.", "Shorten it.");
        var packs = Quantities.Read(request.Packs ?? request.Count?.Packs ?? "1", act.Site.DecimalComma);
        if (packs.Refused(out var noNumber))
            return noNumber;
        if (packs.Value is <= 0 or > Quantities.Most)
            return new Refusal(
                HouseRefusals.QuantityNotPositive,
                $"{request.Packs} is no count of what stands there.",
                "Type how many there are."
            );
        string sentence;
        switch (request.Kind)
        {
            case QuestionKind.UnknownCode:
                if (request.Code.OrNull() is not { Length: <= 400 } code)
                    return new Refusal(DoorRefusals.CodeUnknown, "No code was scanned.", "Scan it again.");
                if (act.SetUp.Catalogue.ByCode(code).Count > 0)
                    return new Refusal(
                        DoorRefusals.CodeKnown,
                        $"{code} is known: {act.SetUp.Catalogue.ByCode(code)[0].Item.Name}.",
                        "Scan it again."
                    );
                sentence =
                    $"What is {code}? {Quantities.Show(packs.Value)} of it {(packs.Value == 1 ? "stands" : "stand")} at the "
                    + $"door.{(note is null ? "" : " " + note)}";
                break;
            case QuestionKind.UnknownItem:
                if (note is null)
                    return new Refusal(
                        HouseRefusals.NoteMissing,
                        "Goods without a name want a sentence about them.",
                        "Say what they look like and what is printed on them."
                    );
                sentence = $"Nobody knows what this is: {note}. {Quantities.Show(packs.Value)} of it.";
                act.Db.Discrepancies.Add(
                    new Discrepancy
                    {
                        ArrivalId = arrival.Id,
                        Kind = DiscrepancyKind.UnknownItem,
                        Quantity = packs.Value,
                        Sentence = note,
                        At = act.Now,
                        ActId = act.Doer.ActId,
                    }
                );
                break;
            case QuestionKind.Over:
                if (request.Count is null)
                    return new Refusal(DoorRefusals.CountMissing, "No count waits for an answer.", "Count it first.");
                if (request.Count.Arrival != arrival.Number)
                    return new Refusal(
                        DoorRefusals.OtherArrival,
                        $"The count is of {request.Count.Arrival}, the question of {arrival.Number}.",
                        "Ask at the tally you count on."
                    );
                var typed = CountText.Goods(act.SetUp.Catalogue, request.Count, act.Site.DecimalComma);
                if (typed.Refused(out var badTyping))
                    return badTyping;
                var shut = await ShutOrder(act, arrival.Id, typed.Value.Item.Id);
                sentence =
                    $"{Quantities.Show(typed.Value.Quantity)} {typed.Value.Item.UnitWord} of {typed.Value.Item.Name} "
                    + $"{(shut is null ? "would be over" : $"came for {shut}, which is cancelled or closed")}. Take "
                    + $"them?{(note is null ? "" : " " + note)}";
                break;
            default:
                throw new ArgumentOutOfRangeException(nameof(request), request.Kind, null);
        }

        act.Db.TallyQuestions.Add(
            new TallyQuestion
            {
                SiteId = act.Site.Id,
                ArrivalId = arrival.Id,
                Kind = request.Kind,
                Code = request.Code.OrNull(),
                Sentence = sentence,
                Count = request.Count is null ? null : JsonSerializer.Serialize(request.Count, json),
                Packs = Quantities.Show(packs.Value).Replace("\u202f", "", StringComparison.Ordinal),
                PersonId = act.Person.Id,
                AskedBy = act.Person.Name,
                AskedAt = act.Now,
                ActId = act.Doer.ActId,
            }
        );
        act.Write(new QuestionAsked(arrival.Number, sentence));
        act.Touch("arrival:" + arrival.Number, "door", "house");
        return new DoneAnswer("Put aside as a question. Count on: it completes itself when a supervisor answers.");
    }

    public static async Task<Outcome<DoneAnswer>> Answer(Act act, AnswerRequest request)
    {
        var question = await act.Db.TallyQuestions.FirstOrDefaultAsync(q => q.Id == request.Question && q.SiteId == act.Site.Id);
        if (question is null)
            return Problems.NotFound("question", request.Question.ToString());
        var arrival = await act.Db.Arrivals.FirstAsync(a => a.Id == question.ArrivalId);
        if (question.IsOpen && request.Yes && arrival.MayBeTallied() is { } notNow)
            return notNow;
        Outcome<string> done =
            !question.IsOpen ? ""
            : !request.Yes
                ? request.Note.OrNull() is { } why ? $"No: {why}"
                    : new Refusal(
                        HouseRefusals.NoteMissing,
                        "A no wants a sentence for the receiver.",
                        "Say what is to be done with the goods."
                    )
            : question.Kind == QuestionKind.Over
                ? await CountWaiting(
                    act,
                    question,
                    JsonSerializer.Deserialize<CountRequest>(question.Count!, json)! with
                    {
                        OverAllowed = true,
                    }
                )
            : await Named(act, question, arrival, request);
        if (done.Refused(out var refusal))
            return refusal;
        if (question.Settle(done.Value, act.Person.Name, act.Now) is { } settled)
            return settled;
        if (question.Kind == QuestionKind.UnknownItem)
            foreach (
                var unknown in await act
                    .Db.Discrepancies.Where(d =>
                        d.ArrivalId == arrival.Id && d.Kind == DiscrepancyKind.UnknownItem && d.ActId == question.ActId
                    )
                    .ToListAsync()
            )
                unknown.TakenBack = true;
        act.Write(new QuestionAnswered(arrival.Number, question.Sentence, done.Value));
        act.Touch("arrival:" + arrival.Number, "door", "shelf", "house");
        return new DoneAnswer(done.Value);
    }

    /// <summary>The order of goods that are aboard only for what is cancelled or closed; null where anything of them is still
    /// wanted.</summary>
    static async Task<string?> ShutOrder(Act act, int arrivalId, int itemId)
    {
        var parts = await act
            .Db.ManifestLines.Where(m => m.ArrivalId == arrivalId && m.Part!.ItemId == itemId)
            .Select(m => new
            {
                m.Part!.ClosedShort,
                m.Part.Line!.Order!.Number,
                m.Part.Line.Order.State,
            })
            .ToListAsync();
        return parts.Count > 0 && parts.TrueForAll(p => p.ClosedShort || p.State is OrderState.Cancelled or OrderState.ClosedShort)
            ? parts[0].Number
            : null;
    }

    /// <summary>The supervisor has said what it is: the code is bound when they want it, and the count completes itself where nothing more
    /// is asked.</summary>
    static async Task<Outcome<string>> Named(Act act, TallyQuestion question, Arrival arrival, AnswerRequest request)
    {
        var pack = PackOf(act, request.Item, request.Pack);
        if (pack.Refused(out var unknown))
            return unknown;
        var (item, level) = pack.Value;
        if (request.Bind && question.Code is { } code && await BindCode(act, code, item, level) is { } refusal)
            return refusal;
        var aboard = await act.Db.ManifestLines.AnyAsync(m => m.ArrivalId == arrival.Id && m.Part!.ItemId == item.Id);
        var label = LabelDetails.Of((act.Scan(question.Code) as ScannedCode.Elements)?.Read);
        var waiting = new CountRequest(
            arrival.Number,
            item.Code,
            level.Name,
            question.Packs,
            null,
            label.SourceBatch,
            label.Production,
            label.BestBefore,
            label.Expiry,
            label.Origin,
            label.Serial,
            aboard ? null : Aside.NotOnOrder,
            aboard ? null : request.Note,
            null,
            false,
            false,
            Vendor: request.Vendor
        );
        var counted = await CountWaiting(act, question, waiting);
        if (!counted.Refused(out var no))
        {
            // What was photographed with the question shows the counted goods from now on.
            foreach (var picture in await act.Db.Attachments.Where(a => a.ActId == question.ActId).ToListAsync())
                picture.ActId = act.Doer.ActId;
            return counted;
        }

        if (TallyQuestion.LeavesCountToReceiver(no))
            return $"It is {item.Name}, {level.Name}. {no.Sentence} Count it at the door.";
        return no;
    }

    static async Task<Outcome<string>> CountWaiting(Act act, TallyQuestion question, CountRequest request)
    {
        var read = CountText.One(act, request);
        if (read.Refused(out var unreadable))
            return unreadable;
        var counted = await CountGoods.Run(act, read.Value, new CountBehind(act.SetUp.People.GetValueOrDefault(question.PersonId)));
        return counted.Refused(out var refusal) ? refusal : $"Yes. {counted.Value.Sentence}";
    }

    public static async Task<Outcome<DoneAnswer>> Bind(Act act, BindRequest request)
    {
        var pack = PackOf(act, request.Item, request.Pack);
        if (pack.Refused(out var unknown))
            return unknown;
        var code = (request.Code ?? "").Trim();
        if (await BindCode(act, code, pack.Value.Item, pack.Value.Pack) is { } refusal)
            return refusal;
        return new DoneAnswer($"{code} means {pack.Value.Item.Name}, {pack.Value.Pack.Name}, from now on.");
    }

    public static async Task<Outcome<DoneAnswer>> Refuse(Act act, RefuseRequest request)
    {
        var arrival = await act.Db.Arrivals.Numbered(act.Site, request.Arrival);
        if (arrival is null)
            return Problems.NotFound("arrival", request.Arrival);
        if (arrival.MayBeTallied() is { } notNow)
            return notNow;
        var reason = request.Reason.OrNull();
        if (reason is null or { Length: > 500 })
            return new Refusal(HouseRefusals.NoteMissing, "Say in at most 500 characters why it goes back.", "Type a sentence.");
        var packs = Quantities.Read(request.Packs, act.Site.DecimalComma);
        if (packs.Refused(out var noNumber))
            return noNumber;
        if (packs.Value is <= 0 or > Quantities.Most)
            return new Refusal(HouseRefusals.QuantityNotPositive, $"{request.Packs} is no count.", "Type how many go back.");
        var item = request.Item.OrNull() is { } code ? act.SetUp.Catalogue.ByCode(code).Select(f => f.Item).FirstOrDefault() : null;
        if (request.Item.OrNull() is { } named && item is null)
            return new Refusal(HouseRefusals.ItemUnknown, $"No item has the code {named}.", "Scan its label, or leave the item blank.");
        var refused = new RefusedAtDoor(arrival.Number, packs.Value, item?.Name, reason);
        act.Db.Discrepancies.Add(
            new Discrepancy
            {
                ArrivalId = arrival.Id,
                ItemId = item?.Id,
                Kind = DiscrepancyKind.Refused,
                Quantity = packs.Value,
                Sentence = $"Refused at the door: {reason}",
                At = act.Now,
                ActId = act.Doer.ActId,
            }
        );
        act.Write(refused);
        act.Touch("arrival:" + arrival.Number, "door");
        return new DoneAnswer($"{act.Words(refused)}. It goes back with the vehicle.");
    }

    static Outcome<(Item Item, PackLevel Pack)> PackOf(Act act, string? code, string? pack)
    {
        var item = act.SetUp.Catalogue.Items.FirstOrDefault(i => i.Code.Equals((code ?? "").Trim(), StringComparison.OrdinalIgnoreCase));
        if (item is null)
            return new Refusal(HouseRefusals.ItemUnknown, $"No item has the code {code}.", "Choose one from the list.");
        var level = pack.OrNull() is { } name ? item.PackLevels.Find(p => p.Name == name) : item.BasePack;
        return level is null
            ? new Refusal(
                DoorRefusals.PackUnknown,
                $"{item.Name} has no pack called {pack}.",
                $"It has {string.Join(", ", item.PackLevels.Select(p => p.Name))}."
            )
            : (item, level);
    }

    /// <summary>A code that nobody else has comes to mean a pack: as its GTIN when it is one and the pack has none yet, else as a further
    /// code.</summary>
    static async Task<Refusal?> BindCode(Act act, string text, Item item, PackLevel pack)
    {
        var scanned = act.Scan(text);
        if (scanned is ScannedCode.Wrong wrong)
            return wrong.Why;
        var code = scanned.Key;
        if (act.SetUp.HasAddress(code))
            return new Refusal(DoorRefusals.CodeKnown, $"{code} is a place of ours.", "Scan the goods, not the bin.");
        if (code is { Length: 8 or 12 or 13 or 14 } digits && CheckDigit.IsDigits(digits) && !CheckDigit.Holds(digits))
            return new Refusal(
                IdentificationRefusals.CheckDigit,
                $"{digits} looks like a GTIN and has a wrong check digit: it should be {CheckDigit.For(digits.AsSpan()[..^1])}.",
                "Scan it again."
            );
        if (code.Length is 0 or > 80)
            return new Refusal(DoorRefusals.CodeUnknown, "A code has 1 to 80 characters.", "Scan it again.");
        if (act.SetUp.Catalogue.ByCode(code) is [var known, ..])
            return new Refusal(
                DoorRefusals.CodeKnown,
                $"{code} means {known.Item.Name}, {known.Pack.Name}, already.",
                "Change that item first."
            );
        var row = await act.Db.Items.AsTracking().FirstAsync(i => i.Id == item.Id);
        var level = row.PackLevels.First(p => p.Id == pack.Id);
        if (level.Gtin is null && code.Length == 14 && CheckDigit.IsDigits(code) && CheckDigit.Holds(code))
            level.Gtin = code;
        else
            level.OtherCodes = [.. level.OtherCodes, code];
        act.Write(new CodeBound(item.Code, item.Name, pack.Name, code) { About = [Reference.Item(item.Id)] });
        act.Changes(SetUpParts.Items);
        act.Touch("site", "door");
        return null;
    }
}
