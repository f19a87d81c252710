using MudRoom.Core.Site;

namespace MudRoom.Core.Bench;

/// <summary>What brings goods to the bench.</summary>
public enum InspectionTrigger
{
    /// <summary>Counted in on a purchase order.</summary>
    Receipt = 0,

    /// <summary>A customer sends them back.</summary>
    Return = 1,

    /// <summary>They come from another site of the house.</summary>
    Transfer = 2,

    /// <summary>They are back from outwork.</summary>
    Outwork = 3,

    /// <summary>Somebody asked for it.</summary>
    ByHand = 4,

    /// <summary>Counted in on a purchase order whose line asks that it is inspected.</summary>
    OrderLine = 5,

    /// <summary>They have been in store for long.</summary>
    Age = 6,
}

/// <summary>Goods of which it is asked by which plans they are inspected.</summary>
/// <param name="VendorId">Who sent them; null where nobody knows.</param>
/// <param name="Origin">Two letters of ISO 3166; null where it was not asked.</param>
public sealed record GoodsToInspect(InspectionTrigger Trigger, Item Item, int? VendorId, string? Origin);

/// <summary>Which goods go by a plan. A rule is never changed: it ends, and another is made.</summary>
public sealed class InspectionRule
{
    public int Id { get; init; }

    /// <summary>The plan; null says that none is wanted.</summary>
    public int? PlanId { get; init; }

    /// <summary>Only what comes so; null for however it comes. By hand and after days in store are meant only where a rule says
    /// so.</summary>
    public InspectionTrigger? Trigger { get; init; }

    /// <summary>Days in store, or since they were last accepted, after which they are inspected; null but for that trigger.</summary>
    public int? AfterDays { get; init; }

    /// <summary>Most days in store of a rule: ten years.</summary>
    public const int MostDays = 3650;
    public int? ItemId { get; init; }

    /// <summary>Item group; empty for any.</summary>
    public string Category { get; init; } = "";
    public int? VendorId { get; init; }

    /// <summary>Two letters of ISO 3166; empty for any.</summary>
    public string Origin { get; init; } = "";
    public required string Reason { get; init; }
    public required string By { get; init; }
    public required DateTimeOffset Since { get; init; }
    public string? EndedBy { get; private set; }
    public DateTimeOffset? EndedAt { get; private set; }

    /// <summary>True while it is in force.</summary>
    public bool IsOpen => EndedAt is null;

    /// <summary>Ends it.</summary>
    public void End(string by, DateTimeOffset at)
    {
        if (IsOpen)
            (EndedBy, EndedAt) = (by, at);
    }

    /// <summary>True where it speaks of these goods.</summary>
    public bool Fits(GoodsToInspect goods) =>
        IsOpen
        && ComesSo(goods.Trigger)
        && MayFit(goods.Item)
        && (VendorId is null || VendorId == goods.VendorId)
        && (Origin.Length == 0 || Origin.Equals(goods.Origin, StringComparison.OrdinalIgnoreCase));

    /// <summary>What is wrong with how it speaks of days in store; null where nothing is.</summary>
    public Refusal? DaysFault =>
        Trigger == InspectionTrigger.Age != AfterDays is >= 1 and <= MostDays
            ? new Refusal(
                BenchRefusals.InspectionRuleDays,
                $"A rule of goods that are long in store names 1 to {MostDays} days, and no other rule does.",
                "Type after how many days."
            )
        : this is { Trigger: InspectionTrigger.Age, PlanId: null }
            ? new Refusal(
                BenchRefusals.InspectionRuleDays,
                "A rule of goods that are long in store names the plan that they are inspected by.",
                "Choose a plan."
            )
        : null;

    /// <summary>True where goods have been in store as long as it says.</summary>
    /// <param name="since">When they came, or were last accepted.</param>
    public bool IsDue(DateTimeOffset since, DateTimeOffset now) => AfterDays is { } days && since.AddDays(days) <= now;

    /// <summary>What the order line asks for is received as any other.</summary>
    bool ComesSo(InspectionTrigger trigger) =>
        Trigger switch
        {
            null => trigger is not (InspectionTrigger.ByHand or InspectionTrigger.Age),
            InspectionTrigger.Receipt => trigger is InspectionTrigger.Receipt or InspectionTrigger.OrderLine,
            var own => own == trigger,
        };

    /// <summary>True where it speaks of some goods of an item.</summary>
    public bool MayFit(Item item) =>
        (ItemId is null || ItemId == item.Id)
        && (Category.Length == 0 || Category.Equals(item.Category, StringComparison.OrdinalIgnoreCase));

    /// <summary>
    /// How near it is to the goods that it speaks of: an item is nearer than its group, that nearer than the vendor, that nearer than the
    /// origin, that nearer than how they come; each by more than all behind it together.
    /// </summary>
    public int Nearness =>
        (ItemId is null ? 0 : OfItem)
        + (Category.Length == 0 ? 0 : 8)
        + (VendorId is null ? 0 : 4)
        + (Origin.Length == 0 ? 0 : 2)
        + (Trigger is null ? 0 : 1);

    /// <summary>The nearness of a rule of an item alone, as the plan is that the set-up names with an item.</summary>
    public const int OfItem = 16;

    /// <summary>True where two rules speak of the same goods.</summary>
    public bool SpeaksOfTheSame(InspectionRule other) =>
        (Trigger, ItemId, VendorId) == (other.Trigger, other.ItemId, other.VendorId)
        && Category.Equals(other.Category, StringComparison.OrdinalIgnoreCase)
        && Origin.Equals(other.Origin, StringComparison.OrdinalIgnoreCase);

    /// <summary>The goods in words: "Bypass secateurs from Kitagiri Blades, back from outwork".</summary>
    public string Words(Func<int, string> item, Func<int, string> vendor)
    {
        var what =
            ItemId is { } id ? item(id)
            : Category.Length > 0 ? $"all of {Category}"
            : "everything";
        return what
            + (VendorId is { } sender ? $" from {vendor(sender)}" : "")
            + (Origin.Length > 0 ? $" of origin {Origin.ToUpperInvariant()}" : "")
            + (
                AfterDays is { } days ? $", {days} days in store"
                : Trigger is { } comes ? $", {WordOf(comes)}"
                : ""
            );
    }

    /// <summary>How goods come, in words.</summary>
    public static string WordOf(InspectionTrigger trigger) =>
        trigger switch
        {
            InspectionTrigger.Receipt => "received on an order",
            InspectionTrigger.Return => "returned by a customer",
            InspectionTrigger.Transfer => "transferred from another site",
            InspectionTrigger.Outwork => "back from outwork",
            InspectionTrigger.ByHand => "asked for by hand",
            InspectionTrigger.OrderLine => "received on an order line that asks for it",
            InspectionTrigger.Age => "long in store",
            _ => throw new InvalidOperationException($"{trigger} is no way in which goods come."),
        };
}

/// <summary>A plan that goods go by.</summary>
/// <param name="PlanId">The plan.</param>
/// <param name="Rule">The rule that says so; null for the plan that the set-up names with the item.</param>
public sealed record PlanChosen(int PlanId, InspectionRule? Rule);

/// <summary>Decides by which plans goods are inspected.</summary>
public static class WhichPlans
{
    /// <summary>
    /// The plans of the nearest rules that speak of the goods. The plan that the set-up names with an item counts as a rule of that item.
    /// Where several are equally near each has its own sheet; where one of them says that none is wanted, none is, unless the order line
    /// itself asks.
    /// </summary>
    public static IReadOnlyList<PlanChosen> For(GoodsToInspect goods, IEnumerable<InspectionRule> rules)
    {
        var own = goods.Trigger is InspectionTrigger.ByHand or InspectionTrigger.Age ? null : goods.Item.InspectionPlanId;
        var nearest = own is null ? 0 : InspectionRule.OfItem;
        List<InspectionRule> near = [];
        foreach (var rule in rules)
        {
            if (!rule.Fits(goods) || rule.Nearness < nearest || rule.PlanId is null && goods.Trigger == InspectionTrigger.OrderLine)
                continue;
            if (rule.Nearness > nearest)
            {
                near.Clear();
                (nearest, own) = (rule.Nearness, null);
            }

            near.Add(rule);
        }

        if (near.Exists(r => r.PlanId is null))
            return [];
        var chosen = near.OrderBy(r => r.Id).Select(r => new PlanChosen(r.PlanId!.Value, r));
        return [.. (own is { } plan ? chosen.Prepend(new PlanChosen(plan, null)) : chosen).DistinctBy(c => c.PlanId)];
    }

    /// <summary>The plans that usable goods go by because they are long in store: by rules whose days are over, and by none while they wait
    /// for a verdict anyway.</summary>
    /// <param name="opened">When they came.</param>
    /// <param name="sheets">The inspections that speak for them, or have.</param>
    public static IReadOnlyList<PlanChosen> Due(
        GoodsToInspect goods,
        IEnumerable<InspectionRule> rules,
        DateTimeOffset opened,
        IReadOnlyCollection<Inspection> sheets,
        DateTimeOffset now
    )
    {
        if (sheets.Any(i => i.State is InspectionState.Waiting or InspectionState.Drawn))
            return [];
        var since = sheets.Select(i => i.SignedAt).OfType<DateTimeOffset>().Append(opened).Max();
        return For(goods with { Trigger = InspectionTrigger.Age }, rules.Where(r => r.IsDue(since, now)));
    }

    /// <summary>The plans that are meant where somebody asks for an inspection: those of rules for that, else those by which the goods
    /// would be received.</summary>
    public static IReadOnlyList<PlanChosen> ByHand(GoodsToInspect goods, IReadOnlyCollection<InspectionRule> rules) =>
        For(goods with { Trigger = InspectionTrigger.ByHand }, rules) is { Count: > 0 } asked
            ? asked
            : For(goods with { Trigger = InspectionTrigger.Receipt }, rules);
}
