using MudRoom.Core.Cage;

namespace MudRoom.Core.Tests.Cage;

/// <summary>What must be accepted before it is paid.</summary>
public sealed class InvoiceBlockTests
{
    /// <summary>Quarantine and a paper that is missing are the buyer's own doing: the goods were delivered.</summary>
    [Theory]
    [InlineData(null, true)]
    [InlineData(HoldReason.Nonconforming, true)]
    [InlineData(HoldReason.Rule, false)]
    [InlineData(HoldReason.ByHand, false)]
    [InlineData(HoldReason.CountedAside, false)]
    [InlineData(HoldReason.Retained, false)]
    public void A_line_waits_for_inspections_and_for_what_was_rejected(HoldReason? held, bool waits) =>
        Assert.Equal(waits ? ["X-1"] : [], InvoiceBlock.By([new SpeaksForLine("X-1", held)]));

    [Fact]
    public void Each_is_named_once_and_in_order() =>
        Assert.Equal(["H-2", "I-1"], InvoiceBlock.By([new("I-1", null), new("H-2", HoldReason.Nonconforming), new("I-1", null)]));
}
