using CsCheck;
using MudRoom.Core.Door;

namespace MudRoom.Core.Tests.Door;

public sealed class SerialsTests
{
    static string Code(string text) => Serials.Read(text).Refusal!.Code;

    [Fact]
    public void A_range_names_every_serial_between_its_ends() =>
        Assert.Equal(["IC-0098", "IC-0099", "IC-0100", "IC-0101"], Serials.Read("IC-0098 to IC-0101").Value);

    [Fact]
    public void Digits_alone_keep_their_noughts() => Assert.Equal(["0101", "0102"], Serials.Read("0101 to 0102").Value);

    [Fact]
    public void Several_stand_beside_ranges() => Assert.Equal(["A7", "B1", "B2", "C"], Serials.Read("A7, B1 to B2;C").Value);

    [Theory]
    [InlineData("0150 to 0101", "serial-range")]
    [InlineData("A01 to B09", "serial-range")]
    [InlineData("A1 to A10", "serial-range")]
    [InlineData("A to B", "serial-range")]
    [InlineData("1 to 2 to 3", "serial-range")]
    [InlineData("0001 to 9999", "serials-many")]
    [InlineData("X1, x1", "serial-twice")]
    [InlineData(" , ;", "serial-missing")]
    public void What_is_no_range_is_refused(string text, string code) => Assert.Equal(code, Code(text));

    [Fact]
    public void A_range_has_as_many_as_the_ends_say_each_once_and_all_of_one_length() =>
        Gen.Select(Gen.Int[0, 90_000], Gen.Int[0, 300], Gen.Int[5, 9])
            .Sample(
                (first, more, digits) =>
                {
                    var (a, b) = (first.ToString().PadLeft(digits, '0'), (first + more).ToString().PadLeft(digits, '0'));
                    var all = Serials.Read($"S{a} to S{b}").Value;
                    Assert.Equal(more + 1, all.Distinct().Count());
                    Assert.All(all, s => Assert.Equal(digits + 1, s.Length));
                    Assert.Equal(all.Order(StringComparer.Ordinal), all);
                }
            );

    [Fact]
    public void No_text_breaks_it() =>
        Gen.String.Sample(text =>
        {
            _ = Serials.Read(text);
        });
}
