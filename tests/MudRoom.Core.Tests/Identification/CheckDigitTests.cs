using CsCheck;
using MudRoom.Core.Identification;

namespace MudRoom.Core.Tests.Identification;

public sealed class CheckDigitTests
{
    // GS1 General Specifications, section 7.9.1: the worked examples of the check digit, from memory.
    [Theory]
    [InlineData("629104150021", 3)]
    [InlineData("37610425002123456", 9)]
    public void The_worked_examples_of_the_General_Specifications_hold(string digits, int check) =>
        Assert.Equal(check, CheckDigit.For(digits));

    [Fact]
    public void Every_single_wrong_digit_is_found() =>
        Gen.Char['0', '9']
            .Array[13]
            .Select(Gen.Int[0, 12], Gen.Int[1, 9])
            .Sample(
                (digits, at, by) =>
                {
                    var right = new string(digits) + CheckDigit.For(digits);
                    var wrong = right.ToCharArray();
                    wrong[at] = (char)('0' + (wrong[at] - '0' + by) % 10);
                    return CheckDigit.Holds(right) && !CheckDigit.Holds(wrong);
                }
            );

    [Fact]
    public void A_wrong_GTIN_is_refused_with_the_digit_it_should_have()
    {
        var refusal = Gtin.Read("9521234543214").Refusal!;
        Assert.Equal("check-digit", refusal.Code);
        Assert.Contains("should be 3, not 4", refusal.Sentence);
    }

    [Fact]
    public void A_GTIN_of_any_length_is_kept_in_fourteen_digits() => Assert.Equal("09521234543213", Gtin.Read("9521234543213").Value);

    [Fact]
    public void An_own_SSCC_is_valid_and_every_serial_gives_another() =>
        Gen.Long[0, 99_999_999]
            .Array[2]
            .Sample(serials =>
            {
                var codes = serials.Select(s => Sscc.Make(3, "9521234", s)).ToList();
                return codes.All(c => Sscc.Read(c).Refusal is null) && (codes[0] == codes[1]) == (serials[0] == serials[1]);
            });

    [Fact]
    public void A_used_up_SSCC_range_is_an_error_and_not_a_number_given_twice() =>
        Assert.Throws<ArgumentOutOfRangeException>(() => Sscc.Make(3, "9521234", 1_000_000_000));
}
