using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Site;

/// <summary>What a house numbers its units, arrivals and places by.</summary>
public sealed class HouseNumbersTests
{
    static WarehouseSite Fresh() =>
        new()
        {
            Code = "S1",
            Name = "First site",
            TimeZone = "Etc/UTC",
        };

    [Fact]
    public void No_unit_gets_a_number_before_somebody_said_whose()
    {
        var site = Fresh();
        Assert.Equal("numbers-not-set", site.MayNumber()!.Code);
        Assert.Throws<InvalidOperationException>(site.TakeSscc);
        Assert.Null(site.NumberBy("9521234", own: false, 3, 1));
        Assert.Null(site.MayNumber());
        Assert.Equal("395212340000000014", site.TakeSscc());
    }

    /// <summary>GS1 General Specifications, list of GS1 Prefixes: 040 to 049 are for restricted circulation within a company.</summary>
    [Fact]
    public void Own_numbers_begin_with_a_prefix_no_other_house_can_have()
    {
        var site = Fresh();
        Assert.Null(site.NumberBy(null, own: true, 0, 1));
        var sscc = site.TakeSscc();
        Assert.InRange(int.Parse(sscc.AsSpan(1, 3)), 40, 49);
        Assert.True(Sscc.Read(sscc).Accepted(out _));
    }

    [Fact]
    public void A_number_that_was_given_is_never_given_again()
    {
        var site = Fresh();
        site.NumberBy("9521234", own: false, 3, 100);
        site.TakeSscc();
        Assert.Equal("range-wrong", site.NumberBy("9521234", own: false, 3, 100)!.Code);
        Assert.Null(site.NumberBy("9521234", own: false, 4, 0));
        Assert.Null(site.NumberBy("95212345", own: false, 4, 0));
    }

    [Theory]
    [InlineData("952", 3, 1, "prefix-wrong")]
    [InlineData("9521234567890", 3, 1, "prefix-wrong")]
    [InlineData("95212A4", 3, 1, "prefix-wrong")]
    [InlineData("9521234", 10, 1, "prefix-wrong")]
    [InlineData("9521234", 3, -1, "range-wrong")]
    [InlineData("9521234", 3, 1_000_000_000, "range-wrong")]
    public void A_range_that_cannot_be_is_refused_and_nothing_is_kept(string prefix, int extension, long next, string code)
    {
        var site = Fresh();
        Assert.Equal(code, site.NumberBy(prefix, own: false, extension, next)!.Code);
        Assert.Null(site.NumberPrefix);
    }

    [Fact]
    public void Arrivals_of_all_sites_are_numbered_as_one_house()
    {
        WarehouseSite[] house = [Fresh(), Fresh()];
        house[0].BeginNumbersAfter("A", 2617);
        Assert.Equal(
            ["A-2618", "A-2619", "A-2620"],
            new[] { house[1], house[0], house[1] }.Select(s => WarehouseSite.TakeHouseNumber("A", s, house))
        );
        Assert.Equal("R-0001", house[1].TakeNumber("R"));
    }

    /// <summary>GS1 General Specifications, section 7.9: the example GLN 9521321000018 has its check digit.</summary>
    [Fact]
    public void A_gln_has_13_digits_and_its_check_digit()
    {
        Assert.Equal("9521321000018", Gln.Read(" 9521321000018 ").Value);
        Assert.Null(Gln.Read("  ").Value);
        Assert.Contains("should be 8", Gln.Read("9521321000019").Refusal!.Sentence, StringComparison.Ordinal);
        Assert.Equal("gln-wrong", Gln.Read("952132100001").Refusal!.Code);
    }

    [Theory]
    [InlineData("0001-01-01")]
    [InlineData("9999-12-31")]
    [InlineData("2026-03-29")]
    public void A_range_of_days_can_be_asked_for_at_the_edge_of_the_calendar(string day)
    {
        var site = new WarehouseSite
        {
            Code = "LM",
            Name = "Low Meadow",
            TimeZone = "Europe/London",
        };
        var (begin, end) = site.Days(DateOnly.Parse(day), DateOnly.Parse(day));
        // On 29 March 2026 the clocks of London go forward: the day has 23 hours.
        Assert.Equal(day == "2026-03-29" ? 23 : 24, Math.Round((end - begin).TotalHours));
    }

    [Theory]
    [InlineData("9999-12-31")]
    [InlineData("9999-12")]
    [InlineData("0001-01-01")]
    public void A_date_of_goods_at_the_edge_of_the_calendar_gets_a_sentence(string text) =>
        Assert.Contains("outside the years 1990 to 2200", GoodsDate.Typed("Best before", text).Refusal!.Sentence, StringComparison.Ordinal);

    [Theory]
    [InlineData("2026-03-31", DateForm.MonthDayYear, "2026-03-31")]
    [InlineData("31.03.26", DateForm.DayMonthYear, "2026-03-31")]
    [InlineData("31/3/2026", DateForm.DayMonthYear, "2026-03-31")]
    [InlineData("03/31/2026", DateForm.MonthDayYear, "2026-03-31")]
    [InlineData("04/05/2026", DateForm.DayMonthYear, "2026-05-04")]
    [InlineData("04/05/2026", DateForm.MonthDayYear, "2026-04-05")]
    [InlineData("1.1.99", DateForm.DayMonthYear, "2099-01-01")]
    [InlineData("03/31/2026", DateForm.DayMonthYear, null)]
    [InlineData("31.02.2026", DateForm.DayMonthYear, null)]
    [InlineData("9999-12-31", DateForm.DayMonthYear, null)]
    [InlineData("0001-01-01", DateForm.DayMonthYear, null)]
    [InlineData("", DateForm.DayMonthYear, null)]
    public void A_date_is_read_in_iso_and_in_the_form_of_the_site(string text, DateForm form, string? date) =>
        Assert.Equal(date, TradeDates.Read(text, form).Accepted(out var read) ? read.ToString("yyyy-MM-dd") : null);
}
