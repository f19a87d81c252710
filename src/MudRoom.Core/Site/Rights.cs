namespace MudRoom.Core.Site;

/// <summary>Who stands where in the house. A person may have several.</summary>
public enum Role
{
    Supervisor,
    Receiver,
    GateHand,
    Inspector,
    Driver,
    Buyer,
    Administrator,
}

/// <summary>What a role lets a person do. Every endpoint names one.</summary>
public enum Right
{
    /// <summary>See the rooms, the stock and the book of the own sites.</summary>
    See,

    /// <summary>See prices and money values.</summary>
    SeePrices,

    /// <summary>Import orders and change them.</summary>
    KeepOrders,

    /// <summary>Plan arrivals and bring them to a door.</summary>
    PlanArrivals,

    /// <summary>Let vehicles in and out.</summary>
    KeepGate,

    /// <summary>Count goods in.</summary>
    Tally,

    /// <summary>Decide over what a tally found: over, aside.</summary>
    SettleTally,

    /// <summary>Close a tally and post its receipts.</summary>
    CloseTally,

    /// <summary>Draw samples and enter findings.</summary>
    Inspect,

    /// <summary>Sign verdicts.</summary>
    SignVerdict,

    /// <summary>Ask that goods are inspected.</summary>
    AskInspection,

    /// <summary>Draft plans of inspection and sign them in force.</summary>
    KeepPlans,

    /// <summary>Allow or end reduced inspection of a vendor's lots, restart what was stopped.</summary>
    SaySeverity,

    /// <summary>Lay holds by hand.</summary>
    LayHold,

    /// <summary>Lift holds.</summary>
    LiftHold,

    /// <summary>Decide what becomes of nonconforming goods.</summary>
    Decide,

    /// <summary>Take put-away tasks.</summary>
    PutAway,

    /// <summary>Issue goods out of bins.</summary>
    Issue,

    /// <summary>Change the set-up of a site.</summary>
    SetUp,

    /// <summary>Attach papers and pictures.</summary>
    Attach,

    /// <summary>Call vendors and keep what they promised.</summary>
    KeepPromises,
}

/// <summary>Which role has which right.</summary>
public static class Rights
{
    static readonly Dictionary<Role, Right[]> table = new()
    {
        [Role.Supervisor] =
        [
            Right.See,
            Right.KeepOrders,
            Right.PlanArrivals,
            Right.KeepGate,
            Right.Tally,
            Right.SettleTally,
            Right.CloseTally,
            Right.LayHold,
            Right.LiftHold,
            Right.Decide,
            Right.SaySeverity,
            Right.AskInspection,
            Right.PutAway,
            Right.Issue,
            Right.Attach,
            Right.KeepPromises,
        ],
        [Role.Receiver] = [Right.See, Right.Tally, Right.CloseTally, Right.AskInspection, Right.Attach],
        [Role.GateHand] = [Right.See, Right.KeepGate, Right.Attach],
        [Role.Inspector] = [Right.See, Right.Inspect, Right.AskInspection, Right.SignVerdict, Right.KeepPlans, Right.LayHold, Right.Attach],
        [Role.Driver] = [Right.See, Right.PutAway, Right.Issue, Right.AskInspection],
        [Role.Buyer] = [Right.See, Right.SeePrices, Right.KeepOrders, Right.Attach, Right.KeepPromises],
        [Role.Administrator] = [Right.See, Right.SetUp, Right.KeepPlans, Right.KeepOrders],
    };

    /// <summary>True when one of the roles carries the right.</summary>
    public static bool Allow(IEnumerable<Role> roles, Right right) => roles.Any(role => table[role].Contains(right));

    /// <summary>All rights of the roles, each once.</summary>
    public static IReadOnlyList<Right> Of(IEnumerable<Role> roles) => [.. roles.SelectMany(r => table[r]).Distinct().Order()];

    /// <summary>The roles that carry a right, for the sentence that says who to ask.</summary>
    public static string WhoMay(Right right) => string.Join(" or ", table.Where(r => r.Value.Contains(right)).Select(r => Words(r.Key)));

    static string Words(Role role) =>
        role switch
        {
            Role.Supervisor => "a supervisor",
            Role.Receiver => "a receiver",
            Role.GateHand => "a gate hand",
            Role.Inspector => "an inspector",
            Role.Driver => "a driver",
            Role.Buyer => "a buyer",
            Role.Administrator => "an administrator",
            _ => throw new ArgumentOutOfRangeException(nameof(role), role, null),
        };
}
