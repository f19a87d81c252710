using CsCheck;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

public sealed class NumberBlockTests
{
    static WarehouseSite Site(string prefix = "9521234") =>
        new()
        {
            Code = "LM",
            Name = "Low Meadow",
            TimeZone = "Europe/London",
            CompanyPrefix = prefix,
        };

    [Fact]
    public void A_number_lies_in_its_block_from_the_first_to_the_last()
    {
        var block = new NumberBlock
        {
            SiteId = 1,
            Kind = BlockKind.Unit,
            Device = "handheld-7",
            From = 101,
            To = 150,
            GivenAt = default,
        };
        Assert.Equal([false, true, true, false], new long[] { 100, 101, 150, 151 }.Select(block.Has));
    }

    /// <summary>Whatever is taken at the desk and reserved for devices, in any order: no unit number twice, and each of a device is known
    /// as its own.</summary>
    [Fact]
    public void Unit_numbers_of_desk_and_devices_are_never_the_same() =>
        Gen.Int[0, 60]
            .List[1, 30]
            .Sample(steps =>
            {
                var site = Site();
                var given = new List<string>();
                foreach (var step in steps)
                    if (step == 0)
                    {
                        given.Add(site.TakeSscc());
                    }
                    else
                    {
                        var (from, to) = site.ReserveSsccs(step);
                        Assert.Equal(step, to - from + 1);
                        for (var serial = from; serial <= to; serial++)
                            given.Add(Sscc.Make(site.SsccExtension, site.NumberPrefix!, serial));
                    }

                Assert.Equal(given.Count, given.Distinct().Count());
                Assert.All(given, sscc => Assert.True(Sscc.Read(sscc).Accepted(out _)));
            });

    [Fact]
    public void The_serial_reference_is_read_back_from_every_own_number() =>
        Gen.Select(Gen.Int[0, 9], Gen.Int[0, 2], Gen.Int[0, 9_999_999])
            .Sample(
                (extension, longer, serial) =>
                {
                    var prefix = "952123456"[..(7 + longer)];
                    Assert.Equal(serial, NumberBlock.SerialOf(Sscc.Make(extension, prefix, serial), extension, prefix));
                }
            );

    [Theory]
    [InlineData("395212340000007110", "wrong check digit")]
    [InlineData("49521234000000711", "too short")]
    [InlineData("39521234000000711A", "no digits")]
    public void What_is_no_number_of_ours_has_none(string text, string _) => Assert.Null(NumberBlock.SerialOf(text, 3, "9521234"));

    [Fact]
    public void Another_firms_number_is_none_of_ours() => Assert.Null(NumberBlock.SerialOf(Sscc.Make(3, "9529999", 711), 3, "9521234"));
}
