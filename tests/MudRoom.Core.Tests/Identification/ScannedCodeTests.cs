using MudRoom.Core.Identification;

namespace MudRoom.Core.Tests.Identification;

public sealed class ScannedCodeTests
{
    static readonly DateOnly today = new(2026, 3, 10);

    [Theory]
    [InlineData("]C10109521234543213", typeof(ScannedCode.Elements))]
    [InlineData("]d20109521234543213\u001d10A", typeof(ScannedCode.Elements))]
    [InlineData("]E09521234543213", typeof(ScannedCode.TradeItem))]
    [InlineData("]I109521234543213", typeof(ScannedCode.TradeItem))]
    [InlineData("]C0PO-4471", typeof(ScannedCode.Plain))]
    [InlineData("9521234543213", typeof(ScannedCode.TradeItem))]
    [InlineData("9521234543214", typeof(ScannedCode.Wrong))]
    [InlineData("106141412345678908", typeof(ScannedCode.Unit))]
    [InlineData("]C100106141412345678908", typeof(ScannedCode.Unit))]
    [InlineData("00106141412345678908", typeof(ScannedCode.Unit))]
    [InlineData("(01)09521234543213(10)LOT-7/A", typeof(ScannedCode.Elements))]
    [InlineData("010952123454321310LOT7", typeof(ScannedCode.Elements))]
    [InlineData("CSQU3054383", typeof(ScannedCode.Container))]
    [InlineData("CSQU3054390", typeof(ScannedCode.Wrong))]
    [InlineData("C-12-2", typeof(ScannedCode.Plain))]
    [InlineData("PO-4471", typeof(ScannedCode.Plain))]
    public void A_scan_is_sorted_by_its_form_and_symbology(string scan, Type kind) => Assert.IsType(kind, ScannedCode.Of(scan, today), exactMatch: true);

    [Fact]
    public void One_scan_can_carry_item_batch_dates_count_mass_and_origin()
    {
        var read = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of("(01)09521234543213(11)251031(15)271030(10)MK-F-2291(30)12(422)356(3102)002550", today)).Read;
        Assert.Equal("09521234543213", read.Gtin);
        Assert.Equal(new GoodsDate(new DateOnly(2025, 10, 31)), read.Production);
        Assert.Equal(new DateOnly(2027, 10, 30), read.BestBefore!.Value.Date);
        Assert.Equal("MK-F-2291", read.Batch);
        Assert.Equal(12, read.Count);
        Assert.Equal("356", read.Origin);
        Assert.Equal(25.5m, read.NetMass);
    }

    [Fact]
    public void A_separator_ends_a_batch_and_its_absence_runs_it_on()
    {
        var with = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of("]d20109521234543213" + "10A17\u001d21S1", today)).Read;
        Assert.Equal(("A17", "S1"), (with.Batch, with.Serial));
        var without = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of("]d2010952123454321310A1721S1", today)).Read;
        Assert.Equal("A1721S1", without.Batch);
    }

    [Theory]
    [InlineData("(01)09521234543213(10)A(10)B", "element-twice")]
    [InlineData("(01)0952123454321", "element-short")]
    [InlineData("(01)09521234543213(10)ABCDEFGHIJKLMNOPQRSTU", "element-long")]
    [InlineData("(05)123", "ai-unknown")]
    [InlineData("(01)09521234543213(17)261331", "date-impossible")]
    [InlineData("(01)09521234543214", "check-digit")]
    [InlineData("(01)09521234543213(10)LOT^1", "element-characters")]
    [InlineData("(01)09521234543213(17)26\0231", "element-characters")]
    public void Each_fault_has_its_own_code_and_its_place(string scan, string code)
    {
        var wrong = Assert.IsType<ScannedCode.Wrong>(ScannedCode.Of(scan, today));
        Assert.Equal(code, wrong.Why.Code);
        Assert.Contains("place", wrong.Why.Sentence);
    }

    // GS1 General Specifications, section 7.12: the two-digit year against the year of today.
    [Theory]
    [InlineData("260310", 2026, "2026-03-10")]
    [InlineData("750101", 2026, "2075-01-01")]
    [InlineData("770101", 2026, "1977-01-01")]
    [InlineData("010101", 2099, "2101-01-01")]
    [InlineData("480101", 2099, "2148-01-01")]
    [InlineData("500101", 2099, "2050-01-01")]
    public void The_century_of_a_date_is_the_nearest(string digits, int year, string expected) =>
        Assert.Equal(DateOnly.Parse(expected), GoodsDate.Read(digits, new DateOnly(year, 6, 1), DayZero.Refused)!.Value.Date);

    [Theory]
    [InlineData("260200", "2026-02-28")]
    [InlineData("280200", "2028-02-29")]
    public void Day_00_of_a_best_before_is_the_last_of_its_month(string digits, string expected) =>
        Assert.Equal(DateOnly.Parse(expected), GoodsDate.Read(digits, today, DayZero.LastOfMonth)!.Value.Date);

    [Fact]
    public void Day_00_of_a_production_date_is_known_to_the_month_only()
    {
        var made = GoodsDate.Read("260200", today, DayZero.MonthOnly)!.Value;
        Assert.True(made.MonthOnly);
        Assert.Equal("2026-02", made.ToString());
    }

    [Fact]
    public void Countries_are_found_by_code_number_and_name()
    {
        Assert.Equal("IN", Countries.Find("India")?.Code);
        Assert.Equal("IN", Countries.Find("356")?.Code);
        Assert.Null(Countries.Find("Atlantis"));
    }
}
