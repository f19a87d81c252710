using System.Text.Json;
using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

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
    public void A_scan_is_sorted_by_its_form_and_symbology(string scan, Type kind) =>
        Assert.IsType(kind, ScannedCode.Of(scan, today), exactMatch: true);

    [Fact]
    public void One_scan_can_carry_item_batch_dates_count_mass_and_origin()
    {
        var read = Assert
            .IsType<ScannedCode.Elements>(
                ScannedCode.Of("(01)09521234543213(11)251031(15)271030(10)MK-F-2291(30)12(422)356(3102)002550", today)
            )
            .Read;
        Assert.Equal("09521234543213", read.Gtin);
        Assert.Equal(new GoodsDate(new DateOnly(2025, 10, 31)), read.Production);
        Assert.Equal(new DateOnly(2027, 10, 30), read.BestBefore!.Value.Date);
        Assert.Equal("MK-F-2291", read.Batch);
        Assert.Equal(12, read.Count);
        Assert.Equal("356", read.Origin);
        Assert.Equal(new Measure(MeasureOf.NetWeight, 25.5m, "KGM"), Assert.Single(read.Measures));
    }

    [Theory]
    [InlineData("(01)09521234543213(3203)002756(3103)001250", "KGM", "1.25")]
    [InlineData("(01)09521234543213(3203)002756", "KGM", "1.2501")]
    [InlineData("(01)09521234543213(3100)000002", "GRM", "2000")]
    [InlineData("(01)09521234543213(3152)000250", "LTR", "2.5")]
    [InlineData("(01)09521234543213(3163)000250", "LTR", "250")]
    [InlineData("(01)09521234543213(3112)000350", "MTR", "3.5")]
    [InlineData("(01)09521234543213(3231)000010", "MTR", "0.9144")]
    [InlineData("(01)09521234543213(3141)000425", "MTK", "42.5")]
    // A width is no length, a gross weight no net one, and a mass no number of pieces.
    [InlineData("(01)09521234543213(3122)000350", "MTR", "1")]
    [InlineData("(01)09521234543213(3303)001250", "KGM", "1")]
    [InlineData("(01)09521234543213(3103)001250(30)7", "H87", "7")]
    [InlineData("(01)09521234543213(3103)000000", "KGM", "1")]
    public void A_measure_is_the_quantity_of_what_is_kept_in_such_a_unit(string label, string unit, string packs)
    {
        var read = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of(label, today)).Read;
        var item = new Item
        {
            Code = "X",
            Name = "X",
            BaseUnit = unit,
            PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
        };
        Assert.Equal(
            decimal.Parse(packs, System.Globalization.CultureInfo.InvariantCulture),
            Math.Round(LabelAmount.Packs(read, item, item.PackLevels[0]), 4)
        );
        Assert.Equal(
            1,
            LabelAmount.Packs(
                read with
                {
                    Elements = [.. read.Elements.Where(e => e.Ai != "30")],
                },
                item,
                new PackLevel { Name = "box", Numerator = 12 }
            )
        );
    }

    static readonly JsonElement shared = JsonDocument
        .Parse(File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "scan-cases.json")))
        .RootElement;

    public static TheoryData<string> Shared =>
        [.. shared.GetProperty("cases").EnumerateArray().Select(c => c.GetProperty("text").GetString()!)];

    /// <summary>The same cases are read by the device's own copy, for dead spots.</summary>
    [Theory]
    [MemberData(nameof(Shared))]
    public void A_device_reads_a_scan_as_we_do(string text)
    {
        var one = shared.GetProperty("cases").EnumerateArray().Single(c => c.GetProperty("text").GetString() == text);
        string? Text(string name) => one.TryGetProperty(name, out var value) ? value.GetString() : null;
        bool Is(string name) => one.TryGetProperty(name, out var value) && value.GetBoolean();
        string Scanner(string name) => shared.GetProperty("scanner").GetProperty(name).GetString()!;
        var site = new WarehouseSite
        {
            Code = "LM",
            Name = "L",
            TimeZone = "Europe/London",
            Scanner = new ScannerSettings(Scanner("prefix"), Scanner("suffix"), Scanner("separator")),
        };
        var code = site.Scan(text, new DateTimeOffset(2026, 3, 10, 12, 0, 0, TimeSpan.Zero));
        Assert.Equal(
            (Text("names"), Text("batch"), Text("serial"), Is("unit"), Is("detail")),
            (
                code.Key,
                code.Batch,
                code.Serial,
                code.UnitSscc is not null,
                code is ScannedCode.Elements { Read: { Gtin: null, Sscc: null } }
            )
        );
    }

    [Fact]
    public void An_expiry_with_its_time_gives_the_day_and_the_minute()
    {
        var read = Assert.IsType<ScannedCode.Elements>(ScannedCode.Of("(01)09521234543213(7003)2703011830", today)).Read;
        Assert.Equal(
            (new GoodsDate(new DateOnly(2027, 3, 1)), new DateTime(2027, 3, 1, 18, 30, 0)),
            (read.Expiry!.Value, read.ExpiresAt!.Value)
        );
    }

    [Theory]
    [InlineData("]C0010952123454321310L7")]
    [InlineData("]d1(01)09521234543213(10)L7")]
    [InlineData("]A0" + "00106141412345678908")]
    public void What_another_symbol_carries_is_no_element_string(string scan) =>
        Assert.IsType<ScannedCode.Plain>(ScannedCode.Of(scan, today));

    [Theory]
    [InlineData("(01)09521234543213(37)12")]
    [InlineData("(01)09521234543213(02)09521234543213(37)2")]
    [InlineData("(01)09521234543213(422)276(426)276")]
    public void Elements_that_exclude_each_other_are_refused(string scan) =>
        Assert.Equal("element-clash", Assert.IsType<ScannedCode.Wrong>(ScannedCode.Of(scan, today)).Why.Code);

    /// <summary>The narrowest thing that a label names is what it is about: the unit before the goods on it, the item before its
    /// batch.</summary>
    [Theory]
    [InlineData("]C1003952123477000012350209521234543213" + "37240", "395212347700001235")]
    [InlineData("(01)09521234543213(10)L7", "09521234543213")]
    [InlineData("(10)L7", "L7")]
    [InlineData("(21)S1", "S1")]
    [InlineData("9521234543213", "09521234543213")]
    [InlineData("9521234543214", "9521234543214")]
    [InlineData("CSQU3054383", "CSQU 305438 3")]
    [InlineData("C-12-2", "C-12-2")]
    public void A_label_is_about_the_narrowest_thing_it_names(string scan, string key) =>
        Assert.Equal(key, ScannedCode.Of(scan, today).Key);

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

    /// <summary>GS1 General Specifications: 21 is a serial number, 00 a logistic unit, 01 alone a kind of goods.</summary>
    [Theory]
    [InlineData("]C121SACK-7", "SACK-7")]
    [InlineData("(01)09521234543213(21)4711", "4711")]
    [InlineData("00106141412345678908", "106141412345678908")]
    [InlineData("SN-77", "SN-77")]
    [InlineData("09521234543213", null)]
    [InlineData("(01)09521234543213(10)LOT-7/A", null)]
    public void One_thing_is_named_by_its_serial_its_unit_or_a_text_of_its_own_and_by_no_number_of_its_kind(string scan, string? name) =>
        Assert.Equal(name, ScannedCode.Of(scan, today).OneThing);
}
