using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>Nothing, one thing, or several: of which items a bin holds, or of which batches.</summary>
public readonly record struct Kinds
{
    enum Many
    {
        None,
        One,
        Several,
    }

    readonly Many many;
    readonly int? only;

    Kinds(Many many, int? only) => (this.many, this.only) = (many, only);

    /// <summary>Nothing.</summary>
    public static Kinds None => default;

    /// <summary>Only this one.</summary>
    /// <param name="id">The item or the batch; null for goods without a batch, which are a kind of their own.</param>
    public static Kinds Only(int? id) => new(Many.One, id);

    /// <summary>More than one.</summary>
    public static Kinds Several => new(Many.Several, null);

    /// <summary>True where nothing is there.</summary>
    public bool IsNone => many == Many.None;

    /// <summary>True where this one is there and no other.</summary>
    public bool IsOnly(int? id) => many == Many.One && only == id;

    /// <summary>With one more.</summary>
    public Kinds And(int? id) => IsNone || IsOnly(id) ? Only(id) : Several;
}

/// <summary>A bin as the proposal sees it: its limits, and what stands there or is on its way there.</summary>
/// <param name="Bin">The bin.</param>
/// <param name="Mass">Kilograms there and on the way.</param>
/// <param name="Volume">Litres there and on the way.</param>
/// <param name="Items">Of which items.</param>
/// <param name="Batches">Of which batches.</param>
public sealed record BinView(Bin Bin, decimal Mass, decimal Volume, Kinds Items, Kinds Batches)
{
    /// <summary>With nothing in it.</summary>
    public static BinView Empty(Bin bin) => new(bin, 0, 0, Kinds.None, Kinds.None);

    /// <summary>Nothing is there or on its way.</summary>
    public bool IsEmpty => Items.IsNone;

    /// <summary>The same with so much more in it, in base units.</summary>
    public BinView With(Item item, int? batchId, decimal quantity) =>
        this with
        {
            Mass = Mass + quantity * item.Mass,
            Volume = Volume + quantity * item.Volume,
            Items = Items.And(item.Id),
            Batches = Batches.And(batchId),
        };
}
