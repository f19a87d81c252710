namespace MudRoom.Core.Book;

/// <summary>What the movements of a balance come to.</summary>
/// <param name="Goods">What.</param>
/// <param name="Place">Where.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Since">When the first of what stands there came.</param>
public sealed record Computed(Goods Goods, Place Place, decimal Quantity, DateTimeOffset Since);

/// <summary>Recomputes from movements what stands where.</summary>
public sealed class Accounts
{
    readonly Dictionary<(Goods, Place), Computed> inside = [];
    readonly Dictionary<int, decimal> inTransit = [];

    /// <summary>What stands where; what came to 0 is left out.</summary>
    public IEnumerable<Computed> Balances => inside.Values.Where(b => b.Quantity != 0);

    /// <summary>What is ours and still on the way, in base units, by item id; items that came to 0 are left out.</summary>
    public IReadOnlyDictionary<int, decimal> InTransit => inTransit.Where(t => t.Value != 0).ToDictionary();

    /// <summary>Applies one movement.</summary>
    public void Apply(Movement movement, DateTimeOffset at)
    {
        var since = movement.IsInPlace ? inside.GetValueOrDefault((movement.Goods, movement.From))?.Since ?? at : at;
        if (movement.From.IsInside)
            Add(movement.Goods, movement.From, -movement.Quantity, at);
        if (movement.To.IsInside)
            Add(movement.Arriving, movement.To, movement.Quantity, since);
        if (movement.From.Account == Account.Transit)
            Travel(movement.Goods.ItemId, -movement.Quantity);
        if (movement.To.Account == Account.Transit)
            Travel(movement.Goods.ItemId, movement.Quantity);
    }

    void Travel(int itemId, decimal by) => inTransit[itemId] = inTransit.GetValueOrDefault(itemId) + by;

    void Add(Goods goods, Place place, decimal by, DateTimeOffset at)
    {
        var before = inside.GetValueOrDefault((goods, place));
        inside[(goods, place)] = before is null or { Quantity: 0 }
            ? new Computed(goods, place, by, at)
            : before with
            {
                Quantity = before.Quantity + by,
            };
    }
}
