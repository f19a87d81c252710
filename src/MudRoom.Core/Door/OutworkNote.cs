using MudRoom.Core.Site;

namespace MudRoom.Core.Door;

/// <summary>Goods of ours that went to somebody for a treatment, and come back against the number of this note.</summary>
public sealed class OutworkNote
{
    public int Id { get; init; }
    public required string Number { get; init; }
    public required int SiteId { get; init; }

    /// <summary>Who treats them.</summary>
    public required int VendorId { get; init; }

    /// <summary>The order of the treatment; several notes may have the same one.</summary>
    public required string Order { get; init; }
    public required int ItemId { get; init; }
    public int? BatchId { get; init; }
    public required string Treatment { get; init; }
    public required decimal Sent { get; init; }
    public decimal Back { get; private set; }

    /// <summary>What was lost or spoilt in the treatment.</summary>
    public decimal Lost { get; private set; }
    public required string By { get; init; }
    public required DateTimeOffset At { get; init; }

    /// <summary>Kept with the row so that open notes are found by an index.</summary>
    public bool IsOpen { get; private set; } = true;

    /// <summary>What is still out.</summary>
    public decimal Out => Sent - Back - Lost;

    /// <summary>Takes goods back; with the rest as lost when nothing more is to come.</summary>
    public Refusal? TakeBack(decimal quantity, bool restLost)
    {
        if (quantity < 0 || quantity == 0 && !restLost)
            return new Refusal(HouseRefusals.QuantityNotPositive, "A count is more than 0.", "Type what came back.");
        if (quantity > Out)
            return new Refusal(
                DoorRefusals.MoreThanOut,
                $"Only {Quantities.Show(Out)} of {Number} are still out.",
                "Look at the number again, or at the note."
            );
        Back += quantity;
        if (restLost)
            Lost += Out;
        IsOpen = Out > 0;
        return null;
    }
}
