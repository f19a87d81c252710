using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Shelf;

/// <summary>Goods that want a place.</summary>
/// <param name="Item">The item.</param>
/// <param name="BatchId">Own batch, or null.</param>
/// <param name="Standing">What they may be used for.</param>
/// <param name="Quantity">In base units.</param>
/// <param name="Pack">Base units that stay together when split.</param>
/// <param name="IsUnit">True for a logistic unit, which is never split.</param>
/// <param name="FromX">Where they are, metres from the west wall.</param>
/// <param name="FromY">Metres from the wall with the doors.</param>
public sealed record GoodsToPlace(
    Item Item,
    int? BatchId,
    StandingDefinition Standing,
    decimal Quantity,
    decimal Pack,
    bool IsUnit,
    decimal FromX,
    decimal FromY
);

/// <summary>The hard limits, in the order in which they rule bins out.</summary>
public enum HardLimit
{
    Blocked,

    /// <summary>A driver said today that it does not take these goods.</summary>
    SaidUnusable,
    Function,
    StorageClass,
    Size,
    Mass,
    Volume,
    Mixing,
}

/// <summary>The wishes, in the site's order; a better tier always wins.</summary>
public enum Tier
{
    SameBatch,
    HomeZone,
    NearestEmpty,
    SpillOver,
}

/// <summary>How many bins a limit ruled out.</summary>
public sealed record RuledOut(HardLimit Limit, int Bins);

/// <summary>A bin that was left, with its figures.</summary>
/// <param name="BinId">The bin.</param>
/// <param name="Address">Its address.</param>
/// <param name="Tier">The wish it meets.</param>
/// <param name="Metres">Travel along the aisles.</param>
/// <param name="Travel">Metres times the weight of the pick-rate class.</param>
/// <param name="Lift">Metres of height times tonnes.</param>
/// <param name="RoomLeft">Litres left unusable, in hundreds.</param>
/// <param name="Takes">Base units it can take.</param>
public sealed record Candidate(
    int BinId,
    string Address,
    Tier Tier,
    decimal Metres,
    decimal Travel,
    decimal Lift,
    decimal RoomLeft,
    decimal Takes
)
{
    /// <summary>The sum of the parts, all in the weight of one metre.</summary>
    public decimal Cost => Travel + Lift + RoomLeft;
}

/// <summary>One part of a proposal: so much into this bin.</summary>
public sealed record ProposedShare(int BinId, string Address, decimal Quantity);

/// <summary>The proposed bin or split, and the trail of how it was chosen.</summary>
/// <param name="LookedAt">Bins of the site.</param>
/// <param name="RuledOut">By each limit, in order.</param>
/// <param name="Left">How many were left.</param>
/// <param name="Best">The best few that were left.</param>
/// <param name="Shares">Where the goods should go; empty when nowhere.</param>
/// <param name="Reason">In one sentence.</param>
public sealed record Proposal(
    int LookedAt,
    IReadOnlyList<RuledOut> RuledOut,
    int Left,
    IReadOnlyList<Candidate> Best,
    IReadOnlyList<ProposedShare> Shares,
    string Reason
);

/// <summary>Proposes a bin for goods: hard limits first, then wishes tier by tier, then least cost.</summary>
public static class PutAway
{
    const int Shown = 6;
    static readonly HardLimit[] limits = Enum.GetValues<HardLimit>();

    /// <summary>Proposes. Pure: the same bins and goods give the same answer, whatever their order.</summary>
    /// <param name="saidUnusable">Bins of which drivers have said today that they do not take these goods.</param>
    public static Proposal Propose(GoodsToPlace goods, IReadOnlyList<BinView> bins, IReadOnlySet<int>? saidUnusable = null)
    {
        var ruledOut = new int[limits.Length];
        var best = new List<Candidate>(Shown + 1);
        var left = 0;
        var need = goods.IsUnit ? goods.Quantity : goods.Pack;
        var lookedAt = 0;
        foreach (var bin in bins)
        {
            // A truck is no place to stay.
            if (bin.Bin.Function == BinFunction.Truck)
                continue;
            lookedAt++;
            var broken = FirstBroken(goods, bin, need);
            if (broken is not HardLimit.Blocked && saidUnusable?.Contains(bin.Bin.Id) is true)
                broken = HardLimit.SaidUnusable;
            if (broken is { } limit)
            {
                ruledOut[(int)limit]++;
                continue;
            }

            left++;
            Keep(goods, best, Judge(goods, bin));
        }

        // Only where no bin takes all of it are all of them wanted.
        var shares =
            best is [{ } first, ..] && first.Takes >= goods.Quantity
                ? [new ProposedShare(first.BinId, first.Address, goods.Quantity)]
                : Share(goods, All(goods, bins, need, saidUnusable));
        return new Proposal(
            lookedAt,
            [.. limits.Select(l => new RuledOut(l, ruledOut[(int)l]))],
            left,
            best,
            shares,
            Reason(goods, best, shares)
        );
    }

    /// <summary>Keeps the best few: what takes the whole quantity is better than a part; within that tier, cost, then address.</summary>
    static void Keep(GoodsToPlace goods, List<Candidate> best, Candidate candidate)
    {
        if (best.Count == Shown && Compare(goods, candidate, best[^1]) >= 0)
            return;
        var at = best.FindIndex(b => Compare(goods, candidate, b) < 0);
        best.Insert(at < 0 ? best.Count : at, candidate);
        if (best.Count > Shown)
            best.RemoveAt(Shown);
    }

    static IEnumerable<Candidate> All(GoodsToPlace goods, IReadOnlyList<BinView> bins, decimal need, IReadOnlySet<int>? saidUnusable) =>
        bins.Where(b => FirstBroken(goods, b, need) is null && saidUnusable?.Contains(b.Bin.Id) is not true).Select(b => Judge(goods, b));

    /// <summary>The first limit that keeps goods out of a bin, or null when it may take at least <paramref name="quantity"/>.</summary>
    public static HardLimit? FirstBroken(GoodsToPlace goods, BinView view, decimal quantity)
    {
        var bin = view.Bin;
        var item = goods.Item;
        if (bin.Blocked)
            return HardLimit.Blocked;
        if (!goods.Standing.Places.Contains(bin.Function))
            return HardLimit.Function;
        if (!ClassFits(item, bin))
            return HardLimit.StorageClass;
        if (item.LongestSide > bin.MaxLength)
            return HardLimit.Size;
        if (view.Mass + quantity * item.Mass > bin.MaxMass)
            return HardLimit.Mass;
        if (view.Volume + quantity * item.Volume > bin.MaxVolume)
            return HardLimit.Volume;
        if (!view.IsEmpty && !bin.MixItems && !view.Items.IsOnly(item.Id))
            return HardLimit.Mixing;
        if (!view.IsEmpty && !bin.MixBatches && !view.Batches.IsOnly(goods.BatchId))
            return HardLimit.Mixing;
        return null;
    }

    /// <summary>The plain sentence for a limit, for a bin that somebody chose by hand.</summary>
    public static Refusal Refuse(HardLimit limit, GoodsToPlace goods, Bin bin) =>
        limit switch
        {
            HardLimit.Blocked => No($"{bin.Address} is blocked."),
            HardLimit.SaidUnusable => No($"A driver said today that {bin.Address} does not take them."),
            HardLimit.Function => No(
                $"{bin.Address} is a {bin.Function.ToString().ToLowerInvariant()} place; {goods.Standing.Word} goods may "
                    + $"not stand there."
            ),
            HardLimit.StorageClass => No(
                $"{bin.Address} is {Word(bin.StorageClass)}; {goods.Item.Name} wants {Word(goods.Item.StorageClass)}."
            ),
            HardLimit.Size => No(
                $"{goods.Item.Name} is {Quantities.Show(goods.Item.LongestSide)} m long; {bin.Address} takes "
                    + $"{Quantities.Show(bin.MaxLength)} m."
            ),
            HardLimit.Mass => No(
                $"{bin.Address} carries {Quantities.Show(bin.MaxMass)} kg; with what stands there and is on its way it would be too heavy."
            ),
            HardLimit.Volume => No(
                $"{bin.Address} has no room for {Quantities.Show(goods.Quantity)} {goods.Item.UnitWord}, counting what is on its way there."
            ),
            HardLimit.Mixing => No($"{bin.Address} holds another item or batch, and may not mix them."),
            _ => throw new ArgumentOutOfRangeException(nameof(limit), limit, null),
        };

    static Refusal No(string sentence) => new(ShelfRefusals.BinRefused, sentence, "Take the proposed bin, or another one.");

    /// <summary>A storage class on the screen.</summary>
    public static string Word(StorageClass c) =>
        c switch
        {
            StorageClass.Oxidiser => "for oxidisers, class 5.1",
            StorageClass.Gas => "for gases, class 2.1",
            _ => c.ToString().ToLowerInvariant(),
        };

    /// <summary>Cage, bench, scrap and despatch places take any class but dangerous goods; other bins must offer what the item needs;
    /// ambient goods may stand dry.</summary>
    public static bool ClassFits(Item item, Bin bin)
    {
        if (item.StorageClass == bin.StorageClass)
            return true;
        var dangerous = item.StorageClass is StorageClass.Oxidiser or StorageClass.Gas;
        if (bin.Function is BinFunction.Cage or BinFunction.Bench or BinFunction.Scrap or BinFunction.Dispatch)
            return !dangerous && bin.StorageClass == StorageClass.Ambient;
        return item.StorageClass == StorageClass.Ambient && bin.StorageClass == StorageClass.Dry;
    }

    static Candidate Judge(GoodsToPlace goods, BinView view)
    {
        var bin = view.Bin;
        var item = goods.Item;
        var takes = Math.Min(goods.Quantity, Room(goods, view));
        // Along the cross aisle beside the doors, then into the bin's own aisle.
        var metres = Math.Abs(bin.X - goods.FromX) + bin.Y + goods.FromY;
        var roomLeft = Math.Max(0, bin.MaxVolume - view.Volume - takes * item.Volume);
        return new Candidate(
            bin.Id,
            bin.Address,
            TierOf(goods, view),
            metres,
            Travel: metres * Weight(item.PickRateClass),
            Lift: bin.Height * takes * item.Mass / 1000m,
            RoomLeft: view.IsEmpty ? decimal.Round(roomLeft / 100m, 2) : 0,
            takes
        );
    }

    static decimal Room(GoodsToPlace goods, BinView view)
    {
        var byMass = goods.Item.Mass > 0 ? (view.Bin.MaxMass - view.Mass) / goods.Item.Mass : decimal.MaxValue;
        var byVolume = goods.Item.Volume > 0 ? (view.Bin.MaxVolume - view.Volume) / goods.Item.Volume : decimal.MaxValue;
        var room = Math.Min(Math.Min(byMass, byVolume), goods.Quantity);
        return room >= goods.Quantity ? goods.Quantity : Math.Floor(room / goods.Pack) * goods.Pack;
    }

    static Tier TierOf(GoodsToPlace goods, BinView view)
    {
        if (view.Items.IsOnly(goods.Item.Id) && view.Batches.IsOnly(goods.BatchId))
            return Tier.SameBatch;
        if (goods.Item.HomeZone.Length > 0 && view.Bin.Zone == goods.Item.HomeZone)
            return Tier.HomeZone;
        return view.IsEmpty ? Tier.NearestEmpty : Tier.SpillOver;
    }

    static decimal Weight(PickRateClass c) =>
        c switch
        {
            PickRateClass.A => 3,
            PickRateClass.B => 2,
            _ => 1,
        };

    static int Compare(GoodsToPlace goods, Candidate a, Candidate b)
    {
        var byWhole = (b.Takes >= goods.Quantity).CompareTo(a.Takes >= goods.Quantity);
        if (byWhole != 0)
            return byWhole;
        var byTier = a.Tier.CompareTo(b.Tier);
        if (byTier != 0)
            return byTier;
        var byCost = a.Cost.CompareTo(b.Cost);
        return byCost != 0 ? byCost : string.CompareOrdinal(a.Address, b.Address);
    }

    /// <summary>As few bins as possible, the roomiest first, full packs.</summary>
    static List<ProposedShare> Share(GoodsToPlace goods, IEnumerable<Candidate> left)
    {
        var shares = new List<ProposedShare>();
        var rest = goods.Quantity;
        foreach (
            var candidate in left.Where(c => c.Takes > 0)
                .OrderByDescending(c => c.Takes)
                .ThenBy(c => c.Tier)
                .ThenBy(c => c.Cost)
                .ThenBy(c => c.Address, StringComparer.Ordinal)
        )
        {
            if (rest == 0)
                break;
            var takes = Math.Min(rest, candidate.Takes);
            shares.Add(new ProposedShare(candidate.BinId, candidate.Address, takes));
            rest -= takes;
        }

        return shares;
    }

    static string Reason(GoodsToPlace goods, List<Candidate> left, List<ProposedShare> shares)
    {
        if (shares.Count == 0)
            return $"No bin may take {goods.Item.Name} as {goods.Standing.Word}.";
        var placed = shares.Sum(s => s.Quantity);
        if (placed < goods.Quantity)
            return $"There is room for only {Quantities.Show(placed)} of {Quantities.Show(goods.Quantity)} {goods.Item.UnitWord}.";
        if (shares.Count > 1)
            return $"No bin takes all {Quantities.Show(goods.Quantity)} {goods.Item.UnitWord}: it is split over {shares.Count}.";
        return left[0].Tier switch
        {
            Tier.SameBatch => goods.BatchId is null ? "The same item stands there." : "The same batch stands there.",
            Tier.HomeZone => $"It is the item's home zone, {goods.Item.HomeZone}, and the least way.",
            Tier.NearestEmpty => "It is the nearest empty bin.",
            _ => "It is the nearest with room; nothing better is free.",
        };
    }
}
