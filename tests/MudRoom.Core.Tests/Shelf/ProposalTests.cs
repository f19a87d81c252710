using CsCheck;
using MudRoom.Core.Book;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Shelf;

public sealed class ProposalTests
{
    static readonly Item brick = new()
    {
        Id = 1,
        Code = "CB-05",
        Name = "Coir brick",
        StorageClass = StorageClass.Dry,
        Mass = 5,
        Volume = 8,
        LongestSide = 0.3m,
        HomeZone = "Dry",
        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
    };

    static Bin NewBin(
        int id,
        BinFunction function = BinFunction.Reserve,
        StorageClass storage = StorageClass.Dry,
        decimal mass = 1000,
        decimal volume = 2000,
        string zone = "Dry",
        decimal x = 10,
        decimal y = 10,
        bool blocked = false
    ) =>
        new()
        {
            Id = id,
            SiteId = 1,
            Address = $"B-{id:000}",
            Zone = zone,
            Function = function,
            StorageClass = storage,
            MaxMass = mass,
            MaxVolume = volume,
            MaxLength = 1.2m,
            X = x,
            Y = y,
            Blocked = blocked,
        };

    static BinView Empty(Bin bin) => BinView.Empty(bin);

    static GoodsToPlace Goods(decimal quantity, StandingKind standing = StandingKind.Usable, bool unit = false) =>
        new(brick, 5, SiteStandings.BuiltIn[new Standing((int)standing)], quantity, 4, unit, 10, 3);

    [Fact]
    public void The_same_batch_in_a_partly_filled_bin_is_better_than_a_nearer_empty_one()
    {
        var proposal = PutAway.Propose(
            Goods(40),
            [Empty(NewBin(1, y: 1)), new BinView(NewBin(2, y: 30), 100, 160, Kinds.Only(1), Kinds.Only(5))]
        );
        Assert.Equal("B-002", proposal.Shares.Single().Address);
        Assert.Equal("The same batch stands there.", proposal.Reason);
    }

    [Fact]
    public void Another_batch_is_not_mixed_in() =>
        Assert.Equal(
            "B-001",
            PutAway
                .Propose(Goods(40), [Empty(NewBin(1, y: 40)), new BinView(NewBin(2), 100, 160, Kinds.Only(1), Kinds.Only(6))])
                .Shares.Single()
                .Address
        );

    [Fact]
    public void Goods_go_where_their_standing_allows_and_nowhere_else()
    {
        BinView[] bins =
        [
            Empty(NewBin(1)),
            Empty(NewBin(2, BinFunction.Cage, StorageClass.Ambient)),
            Empty(NewBin(3, BinFunction.Bench, StorageClass.Ambient)),
        ];
        Assert.Equal("B-001", PutAway.Propose(Goods(4), bins).Shares.Single().Address);
        Assert.Equal("B-002", PutAway.Propose(Goods(4, StandingKind.Held), bins).Shares.Single().Address);
        Assert.Equal("B-003", PutAway.Propose(Goods(4, StandingKind.ToInspect), bins).Shares.Single().Address);
    }

    [Fact]
    public void What_is_on_its_way_to_a_bin_takes_its_room()
    {
        var nearlyPromised = new BinView(NewBin(1), 900, 100, Kinds.Only(1), Kinds.Only(5));
        Assert.Equal(HardLimit.Mass, PutAway.FirstBroken(Goods(40), nearlyPromised, 40));
    }

    // Common practice, no source: 90 into bins that take 60 is 60 and 30.
    [Fact]
    public void When_no_bin_takes_all_the_goods_are_split_over_as_few_as_possible()
    {
        var proposal = PutAway.Propose(Goods(88), [Empty(NewBin(1, mass: 300)), Empty(NewBin(2, mass: 100)), Empty(NewBin(3, mass: 200))]);
        Assert.Equal([("B-001", 60m), ("B-003", 28m)], proposal.Shares.Select(s => (s.Address, s.Quantity)));
        Assert.All(proposal.Shares, s => Assert.Equal(0, s.Quantity % 4));
    }

    [Fact]
    public void A_labelled_unit_is_never_split() =>
        Assert.Empty(PutAway.Propose(Goods(96, unit: true), [Empty(NewBin(1, mass: 300)), Empty(NewBin(2, mass: 300))]).Shares);

    [Fact]
    public void A_blocked_bin_is_refused_in_a_plain_sentence() =>
        Assert.Equal("B-001 is blocked.", PutAway.Refuse(HardLimit.Blocked, Goods(4), NewBin(1, blocked: true)).Sentence);

    static readonly Gen<BinView> anyBin = Gen.Select(
        Gen.Int[1, 500],
        Gen.Enum<BinFunction>(),
        Gen.Enum<StorageClass>(),
        Gen.Int[50, 900],
        Gen.Int[0, 400],
        Gen.Int[0, 3],
        Gen.Int[0, 60],
        Gen.Bool,
        (id, function, storage, mass, load, only, xy, blocked) =>
        {
            var bin = NewBin(id, function, storage, mass, mass * 2, xy % 2 == 0 ? "Dry" : "Other", xy, xy / 2m, blocked && xy > 50);
            return only == 0
                ? Empty(bin)
                : new BinView(bin, load, load, only == 3 ? Kinds.Several : Kinds.Only(only), Kinds.Only(only == 1 ? 5 : 6));
        }
    );

    /// <summary>Counted again without the code that is tried: whether a bin may take one pack of four coir bricks (20 kg, 32 litres, 0.3 m,
    /// dry) of batch 5, by 7-sums.</summary>
    static bool MayTake(BinView view, StandingKind standing)
    {
        var bin = view.Bin;
        BinFunction[] places = standing switch
        {
            StandingKind.Usable => [BinFunction.Pick, BinFunction.Reserve, BinFunction.Floor],
            StandingKind.ToInspect => [BinFunction.Bench],
            StandingKind.Held => [BinFunction.Cage],
            StandingKind.Rejected => [BinFunction.Cage, BinFunction.Scrap],
            _ => [],
        };
        var fits = bin.StorageClass == StorageClass.Dry;
        var isApart = bin.Function is BinFunction.Cage or BinFunction.Bench or BinFunction.Scrap;
        var isOthers = !view.IsEmpty && !(view.Items.IsOnly(1) && view.Batches.IsOnly(5));
        return !bin.Blocked
            && places.Contains(bin.Function)
            && (fits || isApart && bin.StorageClass == StorageClass.Ambient)
            && view.Mass + 20 <= bin.MaxMass
            && view.Volume + 32 <= bin.MaxVolume
            && !isOthers;
    }

    [Fact]
    public void Looked_at_is_ruled_out_plus_left_always() =>
        anyBin
            .Array[0, 60]
            .Select(Gen.Int[1, 60], Gen.Enum<StandingKind>())
            .Sample(
                (bins, packs, standing) =>
                {
                    var proposal = PutAway.Propose(Goods(packs * 4, standing), bins);
                    var recount = bins.Count(b => MayTake(b, standing));
                    // A truck is no place to stay, and is not looked at.
                    return proposal.LookedAt == bins.Count(b => b.Bin.Function != BinFunction.Truck)
                        && proposal.LookedAt == proposal.RuledOut.Sum(r => r.Bins) + proposal.Left
                        && proposal.Left == recount;
                },
                iter: 4000
            );

    [Fact]
    public void No_bin_that_was_left_is_better_by_the_rules_than_the_proposed_one() =>
        anyBin
            .Array[1, 60]
            .Select(Gen.Int[1, 60])
            .Sample(
                (bins, packs) =>
                {
                    var goods = Goods(packs * 4);
                    var proposal = PutAway.Propose(goods, bins);
                    if (proposal.Shares.Count != 1)
                        return true;
                    var chosen = proposal.Best[0];
                    var singly = bins.Select(b => PutAway.Propose(goods, [b]))
                        .Where(p => p.Left == 1)
                        .Select(p => p.Best[0])
                        .Where(c => c.Takes >= goods.Quantity);
                    return chosen.Takes < goods.Quantity
                        ? !singly.Any()
                        : !singly.Any(c => c.Tier < chosen.Tier || c.Tier == chosen.Tier && c.Cost < chosen.Cost);
                }
            );

    [Fact]
    public void A_proposal_never_breaks_a_hard_limit_and_never_proposes_more_than_there_is() =>
        anyBin
            .Array[1, 60]
            .Select(Gen.Int[1, 200])
            .Sample(
                (bins, packs) =>
                {
                    var unique = bins.DistinctBy(b => b.Bin.Id).ToArray();
                    var goods = Goods(packs * 4);
                    var proposal = PutAway.Propose(goods, unique);
                    return proposal.Shares.Sum(s => s.Quantity) <= goods.Quantity
                        && proposal.Shares.All(s => PutAway.FirstBroken(goods, unique.First(b => b.Bin.Id == s.BinId), s.Quantity) is null);
                }
            );

    [Fact]
    public void The_answer_does_not_depend_on_the_order_of_the_bins() =>
        anyBin
            .Array[1, 40]
            .Sample(bins =>
            {
                var unique = bins.DistinctBy(b => b.Bin.Id).ToArray();
                return PutAway.Propose(Goods(16), unique).Shares.SequenceEqual(PutAway.Propose(Goods(16), [.. unique.Reverse()]).Shares);
            });
}
