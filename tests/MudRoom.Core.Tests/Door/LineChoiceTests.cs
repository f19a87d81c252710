using CsCheck;
using MudRoom.Core.Door;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

public sealed class LineChoiceTests
{
    static readonly DateOnly today = new(2026, 3, 10);
    static readonly Item brick = new()
    {
        Id = 1,
        Code = "CB-05",
        Name = "Coir brick",
        OverPercent = 2,
        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
    };

    static PartView Part(int id, string order, int dueIn, decimal ordered, decimal received = 0, decimal waiting = 0, bool shut = false) =>
        new(id, order, 1, today.AddDays(-30), today.AddDays(dueIn), ordered, received, Math.Max(0, waiting - received), IsShut: shut);

    static Choice Choose(decimal quantity, int? chosen, params PartView[] parts) =>
        LineChoice.Choose(parts, quantity, brick, chosen, today, 14);

    [Fact]
    public void The_earliest_due_order_takes_the_goods() =>
        Assert.Equal(1, Choose(10, null, Part(2, "PO-2", 7, 100), Part(1, "PO-1", 0, 100)).Shares.Single().PartId);

    [Fact]
    public void Waiting_demand_goes_before_the_date() =>
        Assert.Equal(2, Choose(10, null, Part(1, "PO-1", 0, 100), Part(2, "PO-2", 7, 100, waiting: 100)).Shares.Single().PartId);

    [Fact]
    public void What_was_chosen_by_hand_goes_before_all() =>
        Assert.Equal(2, Choose(10, 2, Part(1, "PO-1", 0, 100, waiting: 100), Part(2, "PO-2", 7, 100)).Shares.Single().PartId);

    [Fact]
    public void A_full_order_is_passed_over_and_the_reason_says_so()
    {
        var choice = Choose(10, null, Part(1, "PO-4471", 0, 1920, 1920), Part(2, "PO-4490", 7, 960));
        Assert.Equal(2, choice.Shares.Single().PartId);
        Assert.Contains("PO-4471 is full", choice.Reason);
    }

    [Fact]
    public void A_count_larger_than_the_open_quantity_flows_on_to_the_next_part()
    {
        var choice = Choose(150, null, Part(1, "PO-1", 0, 100), Part(2, "PO-2", 7, 100));
        Assert.Equal([(1, 100m), (2, 50m)], choice.Shares.Select(s => (s.PartId, s.Quantity)));
        Assert.Equal(0, choice.Over);
    }

    [Fact]
    public void Only_what_no_part_can_take_is_over_and_it_is_booked_on_the_last()
    {
        var choice = Choose(206, null, Part(1, "PO-1", 0, 100), Part(2, "PO-2", 7, 100));
        Assert.Equal(new Share(2, 106, 6), choice.Shares[^1]);
        Assert.Equal((6m, 2m, true), (choice.Over, choice.AllowedOver, choice.BeyondTolerance));
    }

    [Fact]
    public void The_tolerance_does_not_renew_with_each_delivery()
    {
        Assert.False(Choose(2, null, Part(1, "PO-1", 0, 100, 100)).BeyondTolerance);
        Assert.True(Choose(1, null, Part(1, "PO-1", 0, 100, 102)).BeyondTolerance);
    }

    // Common practice, no source: 40 ordered, 43 counted is 3 over.
    [Fact]
    public void Three_of_43_counted_on_40_ordered_are_over() => Assert.Equal(3, Choose(43, null, Part(1, "PO-1", 0, 40)).Over);

    [Theory]
    [InlineData(320, 2, null, 6)]
    [InlineData(49, 2, null, 0)]
    [InlineData(320, 2, 4, 4)]
    public void The_tolerance_is_cut_to_whole_steps_and_to_the_cap(decimal ordered, decimal percent, int? cap, decimal allowed) =>
        Assert.Equal(
            allowed,
            LineChoice.AllowedOver(
                new Item
                {
                    Code = "X",
                    Name = "X",
                    OverPercent = percent,
                    OverCap = cap,
                },
                ordered
            )
        );

    [Fact]
    public void Parts_beyond_the_horizon_count_as_early() => Assert.Single(Choose(5, null, Part(1, "PO-1", 20, 100)).EarlyParts);

    static readonly Gen<PartView[]> parts = Gen.Select(Gen.Int[0, 30], Gen.Int[1, 50], Gen.Int[0, 60], Gen.Int[0, 50])
        .Array[1, 6]
        .Select(all => all.Select((p, i) => Part(i + 1, $"PO-{i}", p.Item1, p.Item2, Math.Min(p.Item2, p.Item3), p.Item4)).ToArray());

    [Fact]
    public void Nothing_is_lost_and_no_part_takes_more_than_is_open_but_the_last() =>
        parts
            .Select(Gen.Int[1, 400])
            .Sample(
                (p, quantity) =>
                {
                    var choice = Choose(quantity, null, p);
                    return choice.Shares.Sum(s => s.Quantity) == quantity
                        && choice.Shares.All(s => s.Quantity - s.Over <= p.First(x => x.PartId == s.PartId).Open)
                        && choice.Shares.SkipLast(1).All(s => s.Over == 0);
                }
            );

    [Fact]
    public void The_total_on_each_part_does_not_depend_on_how_the_count_is_cut() =>
        parts
            .Select(Gen.Int[1, 60].Array[1, 8])
            .Sample(
                (p, counts) =>
                {
                    decimal[] Totals(IEnumerable<int> order)
                    {
                        var received = p.ToDictionary(x => x.PartId, x => x.Received);
                        foreach (var count in order)
                        foreach (
                            var share in LineChoice
                                .Choose(
                                    [
                                        .. p.Select(x =>
                                            x with
                                            {
                                                Received = received[x.PartId],
                                                StillWaited = Math.Max(0, x.StillWaited + x.Received - received[x.PartId]),
                                            }
                                        ),
                                    ],
                                    count,
                                    brick,
                                    null,
                                    today,
                                    14
                                )
                                .Shares
                        )
                            received[share.PartId!.Value] += share.Quantity;
                        return [.. p.Select(x => Math.Min(received[x.PartId], x.Ordered))];
                    }

                    return Totals(counts).SequenceEqual(Totals(counts.Reverse())) && Totals(counts).SequenceEqual(Totals([counts.Sum()]));
                }
            );

    [Fact]
    public void Nothing_goes_on_a_cancelled_part_while_another_is_open_even_where_it_was_chosen()
    {
        Assert.Equal(2, Choose(10, 1, Part(1, "PO-1", 0, 100, waiting: 50, shut: true), Part(2, "PO-2", 7, 100)).Shares.Single().PartId);
        Assert.Equal(
            new Share(2, 130, 30),
            Choose(130, null, Part(1, "PO-1", 0, 100, shut: true), Part(2, "PO-2", 7, 100)).Shares.Single()
        );
        Assert.Equal(
            new Share(1, 130, 30),
            Choose(130, null, Part(1, "PO-1", 0, 100), Part(2, "PO-2", 7, 100, shut: true)).Shares.Single()
        );
        var alone = Choose(10, null, Part(1, "PO-1", 0, 100, 40, shut: true));
        Assert.Equal((new Share(1, 10, 10), 10m, 0m, true), (alone.Shares.Single(), alone.Over, alone.AllowedOver, alone.BeyondTolerance));
    }

    [Fact]
    public void Only_what_is_still_waited_for_goes_first()
    {
        var choice = Choose(60, null, Part(1, "PO-1", 0, 100), Part(2, "PO-2", 7, 100, 10, waiting: 30));
        Assert.Equal([(2, 20m), (1, 40m)], choice.Shares.Select(s => (s.PartId!.Value, s.Quantity)));
    }
}
