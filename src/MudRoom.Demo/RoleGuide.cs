using MudRoom.Core.Site;

namespace MudRoom.Demo;

/// <summary>What somebody does in the demo, and a good first thing to try as them.</summary>
/// <param name="Does">In one sentence.</param>
/// <param name="Try">What to press first.</param>
/// <param name="Page">Where that is.</param>
public sealed record RoleGuide(string Does, string Try, string Page)
{
    /// <summary>The guide of a role.</summary>
    public static RoleGuide Of(Role role) =>
        role switch
        {
            Role.Supervisor => new(
                "Plans the day at the doors, answers what the crew asks, closes tallies.",
                "Drag A-2624 to another door on the plan of the day.",
                "/road"
            ),
            Role.Receiver => new(
                "Counts goods in at a door, by scanner or by hand.",
                "Open A-2618 and press a label of its goods.",
                "/door/A-2618"
            ),
            Role.Inspector => new(
                "Draws the sample, enters what was measured, signs the verdict.",
                "Go on with the sheet I-0024.",
                "/bench/I-0024"
            ),
            Role.Driver => new("Puts goods away into the bin that is proposed.", "Take the first task and scan its goods.", "/shelf"),
            Role.GateHand => new(
                "Lets vehicles in, looks at seals, brings them to their doors.",
                "Let in A-2619 and compare its plate.",
                "/yard"
            ),
            Role.Buyer => new("Orders, changes and chases what is late.", "Look at what is due and who is to be called.", "/road/due"),
            Role.Administrator => new(
                "Keeps people, items, bins, vendors and the settings of the site.",
                "Change how the site counts.",
                "/site/door"
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(role), role, null),
        };
}
