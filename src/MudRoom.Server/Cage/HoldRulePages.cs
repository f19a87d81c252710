using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;

namespace MudRoom.Server.Cage;

/// <summary>What a rule of quarantine says.</summary>
/// <param name="Item">By code or name; empty for any.</param>
/// <param name="Category">Item group; empty for any.</param>
/// <param name="Vendor">By code or name; empty for any.</param>
/// <param name="Origin">A country; empty for any.</param>
/// <param name="Batch">How the supplier's batch is written, a star for any signs; empty for any.</param>
/// <param name="SeasonFirst">Month and day, 11-01; empty for the whole year.</param>
/// <param name="SeasonLast">Month and day.</param>
public sealed record HoldRuleSays(
    string Name,
    int Days,
    HoldDays Counted,
    HoldFrom From,
    string? Item,
    string? Category,
    string? Vendor,
    string? Origin,
    string? Batch,
    string? SeasonFirst,
    string? SeasonLast
);

/// <summary>Signs a rule in force.</summary>
/// <param name="InPlaceOf">The rule that ends with it; null for a new one.</param>
/// <param name="Signer">Their name.</param>
/// <param name="Wants">What it wants besides time.</param>
public sealed record SignHoldRuleRequest(
    HoldRuleSays Says,
    int? InPlaceOf,
    string Signer,
    string Password,
    IReadOnlyList<Wanted>? Wants = null
);

/// <summary>Ends a rule, signed.</summary>
public sealed record EndHoldRuleRequest(int Rule, string Why, string Signer, string Password);

/// <summary>A rule in force.</summary>
/// <param name="Words">What it catches and for how long.</param>
/// <param name="By">Who signed it; null for rules from before they were signed.</param>
public sealed record HoldRuleView(
    int Id,
    string Name,
    string Words,
    string? By,
    DateTime? Since,
    HoldRuleSays Says,
    IReadOnlyList<Wanted> Wants
);

/// <summary>A rule that has ended.</summary>
public sealed record HoldRulePast(int Id, string Name, string Words, string? By, string EndedBy, DateTime EndedAt);

/// <summary>The rules in force, those that ended last, and what they may name.</summary>
public sealed record HoldRulesAnswer(
    IReadOnlyList<HoldRuleView> Rules,
    IReadOnlyList<HoldRulePast> Ended,
    IReadOnlyList<string> Categories,
    IReadOnlyList<string> Vendors
);

/// <summary>A lot that a rule would have caught.</summary>
/// <param name="Until">When its time would be over.</param>
public sealed record LotCaught(string Item, string? Vendor, string? Batch, string Arrival, DateTime Came, DateTime Until);

/// <summary>What a rule would have done.</summary>
/// <param name="Since">The first day that was looked at.</param>
/// <param name="Lots">That it would have caught.</param>
/// <param name="Vendors">Of how many vendors.</param>
/// <param name="StillHeld">Of these, lots that it would hold still.</param>
/// <param name="Last">The last of them.</param>
public sealed record HoldTrialAnswer(
    string Words,
    DateOnly Since,
    int LookedAt,
    int Lots,
    int Vendors,
    int StillHeld,
    IReadOnlyList<LotCaught> Last
);

/// <summary>The rules that hold goods when they are counted: signed in force, tried on what came, ended.</summary>
public static class HoldRulePages
{
    /// <summary>Days that a trial looks back.</summary>
    const int TrialDays = 90;

    const int MostShown = 20;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/cage/rules", Right.See, List);
        routes.Ask("/cage/rules/trial", Right.See, Trial);
        routes.Act<SignHoldRuleRequest, DoneAnswer>("/cage/rules/sign", Right.KeepPlans, Sign, (inquiry, request) =>
            Signatures.IsNotThem(inquiry, request.Signer, request.Password)
        );
        routes.Act<EndHoldRuleRequest, DoneAnswer>("/cage/rules/end", Right.KeepPlans, End, (inquiry, request) =>
            Signatures.IsNotThem(inquiry, request.Signer, request.Password)
        );
    }

    static async Task<Ok<HoldRulesAnswer>> List(Inquiry inquiry)
    {
        var setUp = inquiry.SetUp;
        var ended = await inquiry
            .Db.HoldRules.Where(r => r.EndedAt != null && !r.IsByHand)
            .OrderByDescending(r => r.EndedAt)
            .Take(MostShown)
            .ToListAsync();
        return TypedResults.Ok(
            new HoldRulesAnswer(
                [
                    .. setUp
                        .HoldRules.Where(r => !r.IsByHand)
                        .Select(r => new HoldRuleView(
                            r.Id,
                            r.Name,
                            Words(setUp, r),
                            r.SignedBy,
                            r.SignedBy is null ? null : inquiry.Local(r.Since),
                            SaysOf(setUp, r),
                            r.Besides
                        )),
                ],
                [
                    .. ended.Select(r => new HoldRulePast(
                        r.Id,
                        r.Name,
                        Words(setUp, r),
                        r.SignedBy,
                        r.EndedBy!,
                        inquiry.Local(r.EndedAt!.Value)
                    )),
                ],
                NamedGoods.Categories(setUp),
                NamedGoods.Vendors(setUp)
            )
        );
    }

    /// <summary>What a rule that says so would have caught of the last ninety days.</summary>
    static async Task<Results<Ok<HoldTrialAnswer>, ProblemHttpResult>> Trial(Inquiry inquiry, [AsParameters] HoldRuleSays says)
    {
        // What a rule wants besides time makes no difference to what it catches.
        IReadOnlyList<Wanted> any = says.Days == 0 ? [new Wanted(ConditionKind.Acceptance, "", Right.See)] : [];
        var read = Read(inquiry.SetUp, says, any, null, inquiry.Now);
        if (read.Refused(out var no))
            return Problems.Of(no);
        var rule = read.Value;
        if (rule.Fault is { } fault)
            return Problems.Of(fault);
        var setUp = inquiry.SetUp;
        var since = inquiry.Site.DateAt(inquiry.Now).AddDays(-TrialDays);
        var from = inquiry.Site.Days(since, since).Begin;
        var rows = inquiry.Db.Lots.Where(l =>
            l.SiteId == inquiry.Site.Id && l.ParentId == null && l.ArrivalId != null && l.OpenedAt >= from
        );
        var lookedAt = await rows.CountAsync();
        if (rule.ItemId is { } item)
            rows = rows.Where(l => l.ItemId == item);
        if (rule.VendorId is { } vendor)
            rows = rows.Where(l => l.VendorId == vendor);
        if (rule.Category.Length > 0)
        {
            var items = setUp
                .Catalogue.Items.Where(i => i.Category.Equals(rule.Category, StringComparison.OrdinalIgnoreCase))
                .Select(i => i.Id)
                .ToList();
            rows = rows.Where(l => items.Contains(l.ItemId));
        }

        var lots = await rows.OrderByDescending(l => l.OpenedAt).AsNoTracking().ToListAsync();
        var batchIds = lots.Select(l => l.BatchId).Distinct().ToList();
        var batches = await inquiry.Db.Batches.Include(b => b.SourceBatch).Where(b => batchIds.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        var arrivalIds = lots.Select(l => l.ArrivalId).Distinct().ToList();
        var arrivals = await inquiry
            .Db.Arrivals.Where(a => arrivalIds.Contains(a.Id))
            .Select(a => new
            {
                a.Id,
                a.Number,
                Came = a.GateInAt ?? a.AtDoorAt,
            })
            .ToDictionaryAsync(a => a.Id);
        var works = new Lazy<WorkCalendar>(inquiry.PlanSettings.Works);
        var caught = new List<(Lot Lot, Batch? Batch, string Arrival, DateTimeOffset Until)>();
        foreach (var lot in lots)
        {
            var (batch, arrival) = (lot.BatchId is { } id ? batches[id] : null, arrivals[lot.ArrivalId!.Value]);
            var goods = new GoodsToHold(
                setUp.Catalogue[lot.ItemId],
                lot.VendorId is { } sender ? [sender] : [],
                batch?.SourceBatch?.Origin,
                batch?.SourceBatch?.Number,
                inquiry.Site.DateAt(lot.OpenedAt),
                // A signed rule names no order line.
                []
            );
            var starts = new HoldStarts(lot.OpenedAt, arrival.Came, batch?.SourceBatch?.ProductionAsKnown?.LastDay);
            if (rule.Catches(goods))
                caught.Add((lot, batch, arrival.Number, rule.Until(starts, inquiry.Site, () => works.Value)));
        }

        return TypedResults.Ok(
            new HoldTrialAnswer(
                Words(setUp, rule),
                since,
                lookedAt,
                caught.Count,
                caught.Select(c => c.Lot.VendorId).OfType<int>().Distinct().Count(),
                caught.Count(c => c.Until > inquiry.Now),
                [
                    .. caught
                        .Take(MostShown)
                        .Select(c => new LotCaught(
                            setUp.Catalogue[c.Lot.ItemId].Name,
                            c.Lot.VendorId is { } sender ? setUp.Vendors[sender].Name : null,
                            c.Batch?.Number,
                            c.Arrival,
                            inquiry.Local(c.Lot.OpenedAt),
                            inquiry.Local(c.Until)
                        )),
                ]
            )
        );
    }

    public static async Task<Outcome<DoneAnswer>> Sign(Act act, SignHoldRuleRequest request)
    {
        var read = Read(act.SetUp, request.Says, request.Wants ?? [], act.Person.Name, act.Now);
        if (read.Refused(out var no))
            return no;
        var rule = read.Value;
        if (rule.Fault is { } fault)
            return fault;
        var words = Words(act.SetUp, rule);
        string? before = null;
        if (request.InPlaceOf is { } id)
        {
            if (await Open(act, id) is not { } old)
                return NotInForce();
            before = Words(act.SetUp, old);
            old.End(act.Person.Name, act.Now);
        }

        if (act.SetUp.HoldRules.FirstOrDefault(r => r.SaysTheSame(rule) && (r.Id != request.InPlaceOf || r.Name == rule.Name)) is { } same)
            return new Refusal(
                CageRefusals.HoldRuleThere,
                $"There is such a rule already: {same.Name}.",
                "End that one first, or change what this one speaks of."
            );
        act.Db.HoldRules.Add(rule);
        return Said(act, rule, new HoldRuleSigned(rule.Name, words, act.Person.Name, before == words ? null : before));
    }

    public static async Task<Outcome<DoneAnswer>> End(Act act, EndHoldRuleRequest request)
    {
        if (request.Why.OrNull() is not { Length: <= 200 } why)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        if (await Open(act, request.Rule) is not { } rule)
            return NotInForce();
        rule.End(act.Person.Name, act.Now);
        return Said(act, rule, new HoldRuleEnded(rule.Name, Words(act.SetUp, rule), act.Person.Name, why));
    }

    /// <summary>What a rule catches and for how long.</summary>
    static string Words(SetUp setUp, HoldRule rule) => rule.Words(i => setUp.Catalogue[i].Name, v => setUp.Vendors[v].Name);

    static Task<HoldRule?> Open(Act act, int id) =>
        act.Db.HoldRules.FirstOrDefaultAsync(r => r.Id == id && r.EndedAt == null && !r.IsByHand);

    static Refusal NotInForce() => new(HouseRefusals.NotFound, "That rule is not in force.", "Look at the list again.");

    static DoneAnswer Said(Act act, HoldRule rule, Fact fact)
    {
        act.Write(
            fact with
            {
                About =
                [
                    .. rule.ItemId is { } item ? [Reference.Item(item)] : (Reference[])[],
                    .. rule.VendorId is { } vendor ? [new Reference(ReferenceKind.Vendor, vendor)] : (Reference[])[],
                ],
            }
        );
        act.Changes(SetUpParts.Rules);
        act.Touch("cage", "site");
        return new DoneAnswer(act.Words(fact));
    }

    static Outcome<HoldRule> Read(SetUp setUp, HoldRuleSays says, IReadOnlyList<Wanted> wants, string? by, DateTimeOffset at)
    {
        if (says.Name.OrNull() is not { Length: <= 60 } name)
            return new Refusal(HouseRefusals.SettingAbsurd, "A rule has a name of at most 60 characters.", "Type one. Nothing was kept.");
        if (!Enum.IsDefined(says.Counted) || !Enum.IsDefined(says.From))
            return new Refusal(HouseRefusals.SettingAbsurd, "Days are not counted so.", "Choose one of the list.");
        var goods = NamedGoods.Read(setUp, says.Item, says.Category, says.Vendor, says.Origin);
        if (goods.Refused(out var unknown))
            return unknown;
        var rule = new HoldRule
        {
            Name = name,
            Days = says.Days,
            Counted = says.Counted,
            From = says.From,
            Category = goods.Value.Category,
            ItemId = goods.Value.Item?.Id,
            VendorId = goods.Value.Vendor?.Id,
            Origin = goods.Value.Origin,
            BatchPattern = says.Batch.OrNull() ?? "",
            SeasonFirst = MonthAndDay(says.SeasonFirst),
            SeasonLast = MonthAndDay(says.SeasonLast),
            Besides = wants,
            SignedBy = by,
            Since = at,
        };
        return rule;
    }

    /// <summary>A day of the year as it was typed, 100 × month + day; null for an empty text, 0 for one that is no such day.</summary>
    static int? MonthAndDay(string? typed) =>
        typed.OrNull() is not { } text ? null
        : text.Split('-', '.', '/') is [var month, var day] && int.TryParse(month, out var m) && int.TryParse(day, out var d) ? 100 * m + d
        : 0;

    static HoldRuleSays SaysOf(SetUp setUp, HoldRule rule) =>
        new(
            rule.Name,
            rule.Days,
            rule.Counted,
            rule.From,
            rule.ItemId is { } item ? setUp.Catalogue[item].Name : "",
            rule.Category,
            rule.VendorId is { } vendor ? setUp.Vendors[vendor].Name : "",
            rule.Origin ?? "",
            rule.BatchPattern,
            Typed(rule.SeasonFirst),
            Typed(rule.SeasonLast)
        );

    static string Typed(int? monthAndDay) => monthAndDay is { } on ? $"{on / 100:00}-{on % 100:00}" : "";
}
