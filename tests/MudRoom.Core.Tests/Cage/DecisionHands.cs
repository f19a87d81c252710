using MudRoom.Core.Cage;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Cage;

/// <summary>Decisions as tests make them.</summary>
static class DecisionHands
{
    /// <summary>A decision with all that belongs to its kind.</summary>
    public static HoldDecision By(this DecisionKind kind, Hand by, DateTimeOffset at) =>
        new(kind, by, at, "why")
        {
            Concession = kind == DecisionKind.ReleaseUnderConcession ? new Concession("Perrow Gardens", "C-20417") : null,
            IntoItemId = kind == DecisionKind.Regrade ? 2 : null,
        };
}
