using CsCheck;
using MudRoom.Core.Door;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

/// <summary>The choice of order lines against an exact search of all ways to part a count: no way books less over, and none serves a more
/// urgent part better.</summary>
public sealed class LineChoiceExactTests
{
    static readonly DateOnly today = new(2026, 3, 10);
    static readonly Item item = new()
    {
        Id = 1,
        Code = "X",
        Name = "Pot",
        OverPercent = 10,
        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
    };

    static readonly Gen<PartView[]> parts = Gen.Select(Gen.Int[1, 6], Gen.Int[0, 6], Gen.Int[-3, 30], Gen.Int[0, 6])
        .Select((ordered, received, due, waiting) => (ordered, received, due, waiting))
        .Array[1, 4]
        .Select(all =>
            all.Select(
                    (p, i) =>
                        new PartView(
                            i + 1,
                            $"PO-{i}",
                            1,
                            today.AddDays(-10),
                            today.AddDays(p.due),
                            p.ordered,
                            Math.Min(p.received, p.ordered),
                            Math.Max(0, p.waiting - Math.Min(p.received, p.ordered))
                        )
                )
                .ToArray()
        );

    [Fact]
    public void No_way_of_parting_a_count_is_better() =>
        Gen.Select(parts, Gen.Int[1, 14])
            .Sample(
                (p, quantity) =>
                {
                    var shares = LineChoice.Choose(p, quantity, item, null, today, 14).Shares;
                    var urgent = p.OrderBy(x => x.Due).ThenBy(x => x.PartId).ToArray();
                    var given = urgent.Select(x => shares.Where(s => s.PartId == x.PartId).Sum(s => s.Quantity)).ToArray();
                    Assert.Equal(quantity, given.Sum());
                    var ours = Worth(urgent, given);
                    foreach (var way in Ways(urgent.Length, quantity))
                        Assert.True(
                            Compare(Worth(urgent, way), ours) <= 0,
                            $"{string.Join(",", way)} is better than {string.Join(",", given)}"
                        );
                }
            );

    [Fact]
    public void The_total_by_item_does_not_depend_on_the_order_of_scans() =>
        Gen.Select(parts, Gen.Int[1, 9].Array[1, 6])
            .Sample(
                (p, scans) =>
                {
                    Assert.Equal(Booked(p, scans), Booked(p, [.. scans.Reverse()]));
                    Assert.Equal(Booked(p, scans), Booked(p, [scans.Sum()]));
                }
            );

    /// <summary>As little over as possible; then what each part takes of what is waited for, then of what it still may, the earliest due
    /// first.</summary>
    static decimal[] Worth(PartView[] urgent, decimal[] way) =>
        [
            -way.Zip(urgent).Sum(w => Math.Max(0, w.First - w.Second.Open)),
            .. way.Zip(urgent).Select(w => Math.Min(w.First, Math.Min(w.Second.Open, w.Second.StillWaited))),
            .. way.Zip(urgent).Select(w => Math.Min(w.First, w.Second.Open)),
        ];

    static int Compare(decimal[] a, decimal[] b)
    {
        for (var i = 0; i < a.Length; i++)
            if (a[i] != b[i])
                return a[i].CompareTo(b[i]);
        return 0;
    }

    static IEnumerable<decimal[]> Ways(int parts, int quantity)
    {
        if (parts == 1)
        {
            yield return [quantity];
            yield break;
        }

        for (var first = 0; first <= quantity; first++)
            foreach (var rest in Ways(parts - 1, quantity - first))
                yield return [first, .. rest];
    }

    static string Booked(PartView[] p, int[] scans)
    {
        var received = p.ToDictionary(x => x.PartId, x => x.Received);
        foreach (var scan in scans)
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
                    scan,
                    item,
                    null,
                    today,
                    14
                )
                .Shares
        )
            received[share.PartId!.Value] += share.Quantity;
        return string.Join(" ", received.OrderBy(r => r.Key).Select(r => $"{r.Key}:{r.Value}"));
    }
}
