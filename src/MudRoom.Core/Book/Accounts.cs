namespace MudRoom.Core.Book;

/// <summary>Recomputes from movements what stands where.</summary>
public sealed class Accounts
{
    readonly Dictionary<string, decimal> byKey = [];
    readonly Dictionary<int, decimal> inTransit = [];

    /// <summary>Quantity by balance key; keys that came to 0 are left out.</summary>
    public IReadOnlyDictionary<string, decimal> Balances => byKey.Where(b => b.Value != 0).ToDictionary();

    /// <summary>What is ours and still on the way, in base units, by item id; items that came to 0 are left out.</summary>
    public IReadOnlyDictionary<int, decimal> InTransit => inTransit.Where(t => t.Value != 0).ToDictionary();

    /// <summary>Applies one movement.</summary>
    public void Apply(Movement movement)
    {
        if (movement.From.IsInside) Add(Balance.KeyOf(movement.Goods, movement.From), -movement.Quantity);
        if (movement.To.IsInside) Add(Balance.KeyOf(movement.Goods, movement.To), movement.Quantity);
        if (movement.From.Account == Account.Transit) Travel(movement.Goods.ItemId, -movement.Quantity);
        if (movement.To.Account == Account.Transit) Travel(movement.Goods.ItemId, movement.Quantity);
    }

    void Travel(int itemId, decimal by) => inTransit[itemId] = inTransit.GetValueOrDefault(itemId) + by;

    void Add(string key, decimal by) => byKey[key] = byKey.GetValueOrDefault(key) + by;
}
