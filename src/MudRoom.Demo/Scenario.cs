using MudRoom.Core.Bench;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Demo;

/// <summary>A person of the demo with the password that is printed at its start.</summary>
public sealed record DemoPerson(Person Person, string Password)
{
    /// <summary>What stands on the person's badge.</summary>
    public static string Badge(Person person) => $"BADGE-{person.Id:000}";

    /// <summary>The PIN that goes with the badge.</summary>
    public static string Pin(Person person) => $"{1000 + person.Id}";
}

/// <summary>A file that a partner has sent, and nobody has read yet.</summary>
public sealed record PartnerFile(string Name, string Text)
{
    /// <summary>Orders from the office with four faults: an item that is none, a quantity in words, a day that is none, a vendor that is
    /// none.</summary>
    public static PartnerFile WithFaults { get; } =
        new(
            "orders-0310.csv",
            """
            order,vendor,line,item,quantity,unit,due,site
            PO-4503,BRAC,1,HT-12,96,box,2026-04-07,LM
            PO-4503,BRAC,2,HT-99,48,box,2026-04-07,LM
            PO-4504,OLLE,1,MT-40,twenty,carton,2026-04-02,LM
            PO-4504,OLLE,2,SR-38,400,carton,2026-04-31,LM
            PO-4505,OLLY,1,GL-09,144,pack,2026-04-02,LM

            """
        );
}

/// <summary>
/// Thistlebrook Growers' Supply, all made up: the set-up of its two sites, its orders, and what people did there up to the
/// demo's Tuesday, 2026-03-10 at 11:20. Made by code from a seed, the same every time.
/// </summary>
public sealed record Scenario(
    IReadOnlyList<WarehouseSite> Sites,
    IReadOnlyList<DockDoor> Doors,
    IReadOnlyList<Bin> Bins,
    IReadOnlyList<Vendor> Vendors,
    IReadOnlyList<InspectionPlan> Plans,
    IReadOnlyList<InspectionRule> InspectionRules,
    IReadOnlyList<Gauge> Gauges,
    IReadOnlyList<HoldRule> HoldRules,
    IReadOnlyList<Item> Items,
    IReadOnlyList<DemoPerson> People,
    IReadOnlyList<Order> Orders,
    IReadOnlyList<OpeningStock> OpeningStock,
    IReadOnlyList<YardSpot> Spots,
    IReadOnlyList<RosterEntry> Roster,
    IReadOnlyList<Step> Steps,
    IReadOnlyList<PartnerFile> Inbox
)
{
    /// <summary>How the main depot counts goods in; the small store goes by what nobody has set.</summary>
    public static DoorSettings Counting { get; } = Layout.Counting();

    /// <summary>How the main depot plans its days.</summary>
    public static PlanSettings Planning { get; } = Layout.Plan();

    /// <summary>Where the demo's clock begins, at the site's wall clock (London in March keeps UTC).</summary>
    public static DateTimeOffset Begins { get; } = new(2026, 3, 10, 11, 20, 0, TimeSpan.Zero);

    /// <summary>Makes it.</summary>
    public static Scenario Make()
    {
        var vendors = VendorList.Make();
        var plans = PlanList.Make();
        var items = ItemList.Make(vendors);
        var layout = Layout.Make();
        var people = PeopleList.Make();
        var story = new Story(items, vendors);
        return new Scenario(
            layout.Sites,
            layout.Doors,
            layout.Bins,
            vendors,
            plans,
            PlanList.Rules(items),
            PlanList.Gauges(layout.Sites[0].Id),
            [
                new HoldRule
                {
                    Id = 1,
                    Name = "Plant-health quarantine, 14 days",
                    Category = "bare-root tree",
                    Days = 14,
                },
                new HoldRule
                {
                    Id = 2,
                    Name = "Citrus from Italy, 21 days",
                    Category = "citrus",
                    Origin = "IT",
                    Days = 21,
                },
                new HoldRule
                {
                    Id = 3,
                    Name = "Lithium cells want their test report",
                    ItemId = items.Single(i => i.Code == "SP-03").Id,
                    Days = 0,
                    Besides =
                    [
                        new Wanted(ConditionKind.Paper, "lithium cells by UN 38.3", Right.LiftHold, PaperKind.TestReport, WithinDays: 4),
                    ],
                },
            ],
            items,
            people,
            story.Orders,
            story.OpeningStock,
            Layout.Spots(),
            PeopleList.Roster(people),
            story.Steps,
            [PartnerFile.WithFaults]
        );
    }
}
