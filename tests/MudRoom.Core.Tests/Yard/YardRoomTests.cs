using CsCheck;
using MudRoom.Core.Yard;

namespace MudRoom.Core.Tests.Yard;

public sealed class YardRoomTests
{
    static readonly DateTime eight = new(2026, 3, 10, 8, 0, 0, DateTimeKind.Unspecified);

    static YardStay Stay(string vehicle, int from, int to) => new(vehicle, eight.AddMinutes(from), eight.AddMinutes(to));

    [Fact]
    public void A_vehicle_finds_a_spot_that_takes_it() =>
        Assert.Null(
            YardRoom.Lacks(
                [
                    ["truck", "van"],
                ],
                Stay("truck", 0, 60),
                []
            )
        );

    [Fact]
    public void A_spot_that_is_taken_is_said_with_its_hour() =>
        Assert.Equal(
            "All 1 spot for a truck are taken at 08:20.",
            YardRoom.Lacks(
                [
                    ["truck"],
                ],
                Stay("truck", 0, 60),
                [Stay("truck", 20, 90)]
            )
        );

    [Fact]
    public void A_spot_is_free_the_moment_the_other_is_at_its_door() =>
        Assert.Null(
            YardRoom.Lacks(
                [
                    ["truck"],
                ],
                Stay("truck", 30, 60),
                [Stay("truck", 0, 30)]
            )
        );

    [Fact]
    public void No_spot_takes_a_parcel_van() =>
        Assert.Equal(
            "No spot of this yard takes a van.",
            YardRoom.Lacks(
                [
                    ["truck"],
                ],
                Stay("van", 0, 60),
                []
            )
        );

    [Fact]
    public void A_van_that_could_stand_elsewhere_leaves_the_truck_its_spot() =>
        Assert.Null(
            YardRoom.Lacks(
                [
                    ["truck", "van"],
                    ["van"],
                ],
                Stay("truck", 0, 60),
                [Stay("van", 0, 60)]
            )
        );

    [Fact]
    public void Two_vans_and_a_truck_do_not_fit_on_two_spots() =>
        Assert.NotNull(
            YardRoom.Lacks(
                [
                    ["truck", "van"],
                    ["van"],
                ],
                Stay("truck", 0, 60),
                [Stay("van", 0, 60), Stay("van", 0, 60)]
            )
        );

    [Fact]
    public void A_yard_without_a_list_of_spots_has_room_for_all() =>
        Assert.Null(YardRoom.Lacks([], Stay("truck", 0, 60), [Stay("truck", 0, 60)]));

    /// <summary>Against trying every way to give the vehicles their spots, one moment after the other.</summary>
    [Fact]
    public void There_is_room_just_when_the_vehicles_can_be_given_spots()
    {
        string[] kinds = ["truck", "container", "van"];
        var spot = Gen.Int[1, 7].Select(bits => (IReadOnlyList<string>)[.. kinds.Where((_, i) => (bits >> i & 1) == 1)]);
        var stay = Gen.Select(Gen.Int[0, 2], Gen.Int[0, 5], Gen.Int[1, 4], (k, from, length) =>
            Stay(kinds[k], from * 10, (from + length) * 10)
        );
        Gen.Select(spot.List[1, 4], stay.List[0, 4], stay)
            .Sample(
                (spots, others, mine) =>
                {
                    var placeable = others.Where((o, i) => Fits(spots, [.. others.Take(i)], o)).ToList();
                    // Only yards that were possible before the vehicle came tell anything about it.
                    if (placeable.Count < others.Count)
                        return;
                    Assert.Equal(Fits(spots, placeable, mine), YardRoom.Lacks(spots, mine, placeable) is null);
                },
                iter: 3000
            );
    }

    static bool Fits(IReadOnlyList<IReadOnlyList<string>> spots, List<YardStay> others, YardStay mine)
    {
        for (var at = mine.From; at < mine.To; at = at.AddMinutes(10))
        {
            var there = others.Where(o => o.StandsAt(at)).Select(o => o.Vehicle).Append(mine.Vehicle).ToList();
            if (!Given(there, [.. spots]))
                return false;
        }

        return true;
    }

    static bool Given(List<string> vehicles, List<IReadOnlyList<string>> spots) =>
        vehicles.Count == 0
        || spots
            .Where(s => s.Contains(vehicles[0]))
            .Any(s => Given([.. vehicles.Skip(1)], [.. spots.Where(other => !ReferenceEquals(other, s))]));
}
