using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Bench;

/// <summary>Makes a rule: which goods go by a plan.</summary>
/// <param name="Plan">Null says that none is wanted.</param>
/// <param name="Trigger">How they come; null for however, by hand excepted.</param>
/// <param name="Item">By code or name; empty for any.</param>
/// <param name="Category">Item group; empty for any.</param>
/// <param name="Vendor">By code or name; empty for any.</param>
/// <param name="Origin">A country by ISO 3166; empty for any.</param>
/// <param name="AfterDays">Days in store after which they are inspected, for that trigger.</param>
public sealed record InspectionRuleRequest(
    int? Plan,
    InspectionTrigger? Trigger,
    string? Item,
    string? Category,
    string? Vendor,
    string? Origin,
    string Reason,
    int? AfterDays = null
);

/// <summary>Ends a rule.</summary>
public sealed record EndInspectionRuleRequest(int Rule);

/// <summary>A rule in force.</summary>
/// <param name="Goods">In words.</param>
/// <param name="Plan">Null where none is wanted.</param>
/// <param name="Days">In store, after which they are inspected; null for other rules.</param>
public sealed record InspectionRuleView(
    int Id,
    string Goods,
    int? PlanId,
    string? Plan,
    string Reason,
    string By,
    DateTime Since,
    int? Days
);

/// <summary>The rules, the nearest first, and what they may speak of.</summary>
/// <param name="Items">How many items the set-up names a plan with.</param>
public sealed record InspectionRulesAnswer(
    IReadOnlyList<InspectionRuleView> Rules,
    int Items,
    IReadOnlyList<PlanNamed> Plans,
    IReadOnlyList<string> Categories,
    IReadOnlyList<string> Vendors
);

/// <summary>A plan that goods may go by.</summary>
public sealed record PlanNamed(int Id, string Name);

/// <summary>What would happen to goods that come so.</summary>
/// <param name="Plans">None where they are not inspected.</param>
/// <param name="Why">In a sentence.</param>
public sealed record WouldHappen(InspectionTrigger Trigger, string Comes, IReadOnlyList<PlanNamed> Plans, string Why);

/// <summary>What would happen to an item of a vendor, however it comes.</summary>
public sealed record WouldHappenAnswer(string Item, string? Vendor, IReadOnlyList<WouldHappen> Ways);

/// <summary>Which goods go by which plan, and what would happen.</summary>
public static class InspectionRulePages
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/rules", Right.See, List);
        routes.Ask("/bench/rules/would", Right.See, Would);
        routes.Act<InspectionRuleRequest, DoneAnswer>("/bench/rules/new", Right.KeepPlans, New);
        routes.Act<EndInspectionRuleRequest, DoneAnswer>("/bench/rules/end", Right.KeepPlans, End);
    }

    /// <summary>The goods that a rule speaks of, in words.</summary>
    public static string Words(SetUp setUp, InspectionRule rule) => rule.Words(i => setUp.Catalogue[i].Name, v => setUp.Vendors[v].Name);

    static Ok<InspectionRulesAnswer> List(Inquiry inquiry)
    {
        var setUp = inquiry.SetUp;
        return TypedResults.Ok(
            new InspectionRulesAnswer(
                [
                    .. setUp
                        .InspectionRules.OrderByDescending(r => r.Nearness)
                        .ThenBy(r => r.Id)
                        .Select(r => new InspectionRuleView(
                            r.Id,
                            Words(setUp, r),
                            r.PlanId,
                            r.PlanId is { } plan ? setUp.Plans[plan].Name : null,
                            r.Reason,
                            r.By,
                            inquiry.Local(r.Since),
                            r.AfterDays
                        )),
                ],
                setUp.Catalogue.Items.Count(i => i.InspectionPlanId is not null),
                [
                    .. setUp
                        .Plans.Values.Where(p => p.InForce(inquiry.Now) is not null)
                        .OrderBy(p => p.Name, StringComparer.Ordinal)
                        .Select(p => new PlanNamed(p.Id, p.Name)),
                ],
                NamedGoods.Categories(setUp),
                NamedGoods.Vendors(setUp)
            )
        );
    }

    static Results<Ok<WouldHappenAnswer>, ProblemHttpResult> Would(
        Inquiry inquiry,
        string item,
        string? vendor = null,
        string? origin = null
    )
    {
        var read = NamedGoods.Read(inquiry.SetUp, item, null, vendor, origin);
        if (read.Refused(out var no))
            return Problems.Of(no);
        var (of, _, sender, country) = read.Value;
        if (of is null)
            return Problems.Of(Problems.NotFound("item", item));
        return TypedResults.Ok(
            new WouldHappenAnswer(
                of.Name,
                sender?.Name,
                [.. Enum.GetValues<InspectionTrigger>().Select(t => Way(inquiry.SetUp, new GoodsToInspect(t, of, sender?.Id, country)))]
            )
        );
    }

    static WouldHappen Way(SetUp setUp, GoodsToInspect goods)
    {
        var plans =
            goods.Trigger == InspectionTrigger.ByHand
                ? WhichPlans.ByHand(goods, setUp.InspectionRules)
                : WhichPlans.For(goods, setUp.InspectionRules);
        var none = setUp.InspectionRules.Where(r => r.Fits(goods) && r.PlanId is null).MaxBy(r => r.Nearness);
        var asks = goods.Trigger == InspectionTrigger.OrderLine;
        var why =
            plans.Count > 0
                ? string.Join(" ", plans.Select(p => p.Rule is { } r ? $"{Words(setUp, r)}." : $"The set-up of {goods.Item.Name} says so."))
            : none is not null && !asks ? $"{Words(setUp, none)}: none is wanted."
            : goods.Trigger == InspectionTrigger.ByHand ? "Whoever asks chooses the plan."
            : "Nothing says that it is inspected.";
        return new WouldHappen(
            goods.Trigger,
            InspectionRule.WordOf(goods.Trigger),
            [.. plans.Select(p => new PlanNamed(p.PlanId, setUp.Plans[p.PlanId].Name))],
            why
        );
    }

    public static async Task<Outcome<DoneAnswer>> New(Act act, InspectionRuleRequest request)
    {
        if (request.Reason.OrNull() is not { Length: <= 200 } reason)
            return new Refusal(HouseRefusals.ReasonMissing, "A reason of at most 200 characters is wanted.", "Say why.");
        if (request.Plan is { } plan && !act.SetUp.Plans.ContainsKey(plan))
            return Problems.NotFound("plan", plan.ToString(System.Globalization.CultureInfo.InvariantCulture));
        if (request.Trigger is { } trigger && !Enum.IsDefined(trigger))
            return new Refusal(HouseRefusals.SettingAbsurd, "Goods do not come so.", "Choose one of the list.");
        var read = NamedGoods.Read(act.SetUp, request.Item, request.Category, request.Vendor, request.Origin);
        if (read.Refused(out var no))
            return no;
        var rule = new InspectionRule
        {
            PlanId = request.Plan,
            Trigger = request.Trigger,
            AfterDays = request.AfterDays,
            ItemId = read.Value.Item?.Id,
            Category = read.Value.Category,
            VendorId = read.Value.Vendor?.Id,
            Origin = read.Value.Origin ?? "",
            Reason = reason,
            By = act.Person.Name,
            Since = act.Now,
        };
        if (rule.DaysFault is { } badDays)
            return badDays;
        if (rule.Nearness == 0)
            return new Refusal(
                BenchRefusals.InspectionRuleEmpty,
                "A rule that speaks of everything would bring everything to the bench.",
                "Name an item, a group, a vendor, an origin or how it comes."
            );
        if (
            act.SetUp.InspectionRules.Any(r =>
                r.SpeaksOfTheSame(rule) && (r.PlanId == rule.PlanId || r.PlanId is null || rule.PlanId is null)
            )
        )
            return new Refusal(
                BenchRefusals.InspectionRuleThere,
                $"There is such a rule already: {Words(act.SetUp, rule)}.",
                "End that one first, or change what this one speaks of."
            );
        act.Db.InspectionRules.Add(rule);
        await act.Db.SaveChangesAsync();
        return Said(act, rule, new InspectionRuleMade(Words(act.SetUp, rule), NameOf(act, rule), reason));
    }

    public static async Task<Outcome<DoneAnswer>> End(Act act, EndInspectionRuleRequest request)
    {
        if (await act.Db.InspectionRules.FirstOrDefaultAsync(r => r.Id == request.Rule && r.EndedAt == null) is not { } rule)
            return new Refusal(HouseRefusals.NotFound, "That rule is not in force.", "Look at the list again.");
        rule.End(act.Person.Name, act.Now);
        return Said(act, rule, new InspectionRuleEnded(Words(act.SetUp, rule), NameOf(act, rule)));
    }

    static string? NameOf(Act act, InspectionRule rule) => rule.PlanId is { } plan ? act.SetUp.Plans[plan].Name : null;

    static DoneAnswer Said(Act act, InspectionRule rule, Fact fact)
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
        act.Touch("bench", "plans", "site");
        return new DoneAnswer(act.Words(fact));
    }
}
