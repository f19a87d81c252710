using MudRoom.Core.Identification;

namespace MudRoom.Core.Book;

/// <summary>The accounts that stand outside the site.</summary>
public enum Account
{
    /// <summary>A bin of the site, and so not outside.</summary>
    Bin = 0,
    Vendor = 1,
    Transit = 2,
    Customer = 3,
    Job = 4,
    Scrap = 5,
    Adjustment = 6,

    /// <summary>The bench: what is looked at there and used up.</summary>
    Bench = 7,

    /// <summary>Goods that are of another item from now on: what leaves one item comes as the other.</summary>
    Regraded = 8,
}

/// <summary>One end of a movement: a bin with a standing, or an account outside.</summary>
/// <param name="Account">Bin, or the account.</param>
/// <param name="BinId">The bin, when it is one.</param>
/// <param name="Standing">The standing of the goods there, when it is a bin.</param>
public sealed record Place(Account Account, int? BinId = null, Standing? Standing = null)
{
    /// <summary>A bin of the site.</summary>
    public static Place In(int binId, Standing standing) => new(Account.Bin, binId, standing);

    /// <summary>True for a bin.</summary>
    public bool IsInside => Account == Account.Bin;
}

/// <summary>What is the same in goods that need not be told apart.</summary>
/// <param name="ItemId">The item.</param>
/// <param name="BatchId">Own batch, for items that have one.</param>
/// <param name="UnitId">The logistic unit it stands on, if any.</param>
/// <param name="Serial">The one piece's serial, if it has one.</param>
/// <param name="LotId">What they came with and are judged with; null where nobody asks, and for goods that are not here.</param>
public sealed record Goods(int ItemId, int? BatchId = null, int? UnitId = null, string? Serial = null, int? LotId = null)
{
    /// <summary>The same goods, of whatever lot: as people see them.</summary>
    public Goods OfAnyLot => LotId is null ? this : this with { LotId = null };

    /// <summary>True when other goods can be told to be of these: by their serial, else their batch, else their unit. Nothing tells goods
    /// without any of them apart.</summary>
    public bool Recognises(Goods other) =>
        ItemId == other.ItemId
        && (Serial, BatchId, UnitId) switch
        {
            ({ } serial, _, _) => serial == other.Serial,
            (null, { } batch, _) => batch == other.BatchId,
            (null, null, { } unit) => unit == other.UnitId,
            _ => false,
        };
}

/// <summary>Goods that go from one place to another: every movement has both ends, so nothing appears or vanishes.</summary>
/// <param name="Goods">What.</param>
/// <param name="Quantity">How much, in base units, above 0.</param>
/// <param name="From">Where it was.</param>
/// <param name="To">Where it is now.</param>
/// <param name="Becomes">The lot it is of from now on, where that is another: it was split off.</param>
public sealed record Movement(Goods Goods, decimal Quantity, Place From, Place To, int? Becomes = null)
{
    /// <summary>The goods as they are now.</summary>
    public Goods Arriving => Becomes is null ? Goods : Goods with { LotId = Becomes };

    /// <summary>True where goods stay where they are and only become another lot.</summary>
    public bool IsInPlace => Becomes is not null && From == To;

    /// <summary>The counter-movement.</summary>
    public Movement Reversed() => new(Arriving, Quantity, To, From, Becomes is null ? null : Goods.LotId);
}

/// <summary>How much of some goods of one lot is in one bin with one standing. Kept beside the ledger in its transaction.</summary>
public sealed class Balance
{
    Balance() { }

    /// <summary>An empty balance for goods at a place.</summary>
    /// <param name="importId">The import it came with, or 0.</param>
    public Balance(int siteId, Goods goods, Place place, int importId = 0)
    {
        ImportId = importId;
        SiteId = siteId;
        BinId = place.BinId!.Value;
        Standing = place.Standing!.Value;
        ItemId = goods.ItemId;
        BatchId = goods.BatchId;
        UnitId = goods.UnitId;
        Serial = goods.Serial;
        LotId = goods.LotId;
        Key = KeyOf(goods, place);
    }

    public long Id { get; private set; }
    public int SiteId { get; private set; }
    public int BinId { get; private set; }
    public int ItemId { get; private set; }
    public int? BatchId { get; private set; }
    public int? UnitId { get; private set; }
    public string? Serial { get; private set; }
    public int? LotId { get; private set; }
    public Standing Standing { get; private set; }

    /// <summary>In base units; never below 0.</summary>
    public decimal Quantity { get; private set; }

    /// <summary>When the first of what stands here came here.</summary>
    public DateTimeOffset Since { get; private set; }

    /// <summary>All that makes this balance the one it is, as one text, so that it is unique with missing parts too.</summary>
    public string Key { get; private set; } = "";

    /// <summary>The import of opening stock it came with, 0 for none: it is hidden until that is whole.</summary>
    public int ImportId { get; private set; }

    /// <summary>The goods it counts.</summary>
    public Goods Goods => new(ItemId, BatchId, UnitId, Serial, LotId);

    /// <summary>The place it counts them at.</summary>
    public Place Place => Place.In(BinId, Standing);

    /// <summary>Adds what came, or takes off what left.</summary>
    /// <exception cref="InvalidOperationException">It would fall below 0: the caller has not checked.</exception>
    public void Change(decimal by, DateTimeOffset at)
    {
        if (Quantity + by < 0)
            throw new InvalidOperationException($"Balance {Key} holds {Quantity}, {-by} cannot leave it.");
        if (Quantity == 0)
            Since = at;
        Quantity += by;
    }

    /// <summary>The key of goods at a place.</summary>
    public static string KeyOf(Goods goods, Place place) =>
        $"{place.BinId}|{place.Standing?.Id}|{goods.ItemId}|{goods.BatchId}|{goods.UnitId}|{goods.Serial}|{goods.LotId}";
}

/// <summary>The vendor's or maker's own batch of an item.</summary>
public sealed class SourceBatch
{
    public int Id { get; init; }
    public required int ItemId { get; init; }
    public required int VendorId { get; init; }
    public required string Number { get; set; }
    public DateOnly? Production { get; set; }

    /// <summary>True when the label names only the month of production.</summary>
    public bool ProductionMonthOnly { get; set; }
    public DateOnly? BestBefore { get; set; }
    public DateOnly? Expiry { get; set; }

    /// <summary>True when the ruling date was worked out and stood on no label.</summary>
    public bool DateWorkedOut { get; set; }

    /// <summary>ISO 3166 two-letter code.</summary>
    public string? Origin { get; set; }

    /// <summary>Values of the attributes the item asks for, by name.</summary>
    public Dictionary<string, string> Attributes { get; set; } = [];

    /// <summary>Puts right what was entered wrongly, and says what changed, old value and new; empty when nothing did.</summary>
    public IReadOnlyList<string> Correct(
        string number,
        GoodsDate? production,
        DateOnly? bestBefore,
        DateOnly? expiry,
        string? origin,
        IReadOnlyDictionary<string, string> attributes
    )
    {
        var changes = new List<string>();
        Note("number", Number, number);
        Note("production", ProductionAsKnown?.ToString(), production?.ToString());
        Note("best before", Day(BestBefore), Day(bestBefore));
        Note("expiry", Day(Expiry), Day(expiry));
        Note("origin", Origin, origin);
        foreach (var name in Attributes.Keys.Union(attributes.Keys).Order(StringComparer.Ordinal))
            Note(name, Attributes.GetValueOrDefault(name), attributes.GetValueOrDefault(name));
        if (changes.Count == 0)
            return changes;
        (Number, Production, ProductionMonthOnly, BestBefore, Expiry, DateWorkedOut, Origin, Attributes) = (
            number,
            production?.Date,
            production?.MonthOnly ?? false,
            bestBefore,
            expiry,
            false,
            origin,
            new Dictionary<string, string>(attributes)
        );
        return changes;

        void Note(string what, string? before, string? now)
        {
            if (before != now)
                changes.Add($"{what} {before ?? "blank"} → {now ?? "blank"}");
        }

        static string? Day(DateOnly? date) => date?.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>Production as it is known.</summary>
    public GoodsDate? ProductionAsKnown => Production is { } day ? new GoodsDate(day, ProductionMonthOnly) : null;
}

/// <summary>Our own batch of an item. It holds one source batch; a source batch may be in many own batches.</summary>
public sealed class Batch
{
    public int Id { get; init; }
    public required int ItemId { get; init; }
    public required string Number { get; init; }
    public SourceBatch? SourceBatch { get; init; }
    public int? SourceBatchId { get; init; }

    /// <summary>The date that rules, by the item's setting.</summary>
    public DateOnly? Expiry { get; set; }

    /// <summary>The item that its goods were of when they came, where they were regraded; a recall of that item finds them.</summary>
    public int? CameAsItemId { get; init; }
}

/// <summary>A pallet, carton or cage with its own number.</summary>
public sealed class LogisticUnit
{
    public int Id { get; init; }
    public required int SiteId { get; init; }
    public required string Sscc { get; init; }
    public required string PackName { get; init; }

    /// <summary>Package type by UN/ECE Recommendation 21; empty when nobody has said.</summary>
    public string PackageType { get; init; } = "";
    public required DateTimeOffset MadeAt { get; init; }
}
