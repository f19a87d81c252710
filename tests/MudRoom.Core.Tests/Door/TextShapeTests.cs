using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

/// <summary>What a scanner types is not always what it seems.</summary>
public sealed class TextShapeTests
{
    static readonly DateOnly today = new(2026, 3, 10);

    [Theory]
    [InlineData("NC-0311-2", true)]
    [InlineData("NC-0311-12", true)]
    [InlineData("NC-311-2", true)]
    [InlineData("NC-11-2", false)]
    [InlineData("NCX-0311-2", false)]
    [InlineData("NC/0311/2", false)]
    [InlineData("FRAGILE", false)]
    [InlineData("", false)]
    public void A_number_looks_like_those_before_it_by_its_letters_signs_and_about_as_many_digits(string text, bool fits) =>
        Assert.Equal(fits, TextShape.Fits(text, ["NC-0310-2"]));

    [Fact]
    public void Where_nothing_is_known_nothing_fits() => Assert.False(TextShape.Fits("NC-0310-2", []));

    [Theory]
    [InlineData("(01)09521234000013(10)229111251031", "2291", "2025-10-31", null)]
    [InlineData("(01)09521234000013(10)AB-715251001", "AB-7", null, "2025-10-01")]
    [InlineData("(10)A71125090115271001", "A7", "2025-09-01", "2027-10-01")]
    [InlineData("(10)AB152710013024", "AB", null, "2027-10-01")]
    public void A_batch_that_ends_with_a_whole_date_may_have_swallowed_it(
        string label,
        string batch,
        string? production,
        string? bestBefore
    )
    {
        var suspect = SwallowedIdentifiers.Suspect(ElementStringReader.Read(label, today).Value, today)!.Value.Instead;
        Assert.Equal((batch, production, bestBefore), (suspect.Batch, suspect.Production?.ToString(), suspect.BestBefore?.ToString()));
    }

    [Theory]
    [InlineData("(01)09521234000013(10)2291")]
    [InlineData("(01)09521234000013(10)229111259931")]
    [InlineData("(01)09521234000013(10)229111651031")]
    [InlineData("(01)09521234000013(11)251001(10)229111251031")]
    [InlineData("(10)229111251031(21)7")]
    [InlineData("(10)11251031")]
    [InlineData("(10)LOT3024")]
    public void Nothing_is_suspected_where_it_is_no_date_stands_there_already_or_a_separator_follows(string label) =>
        Assert.Null(SwallowedIdentifiers.Suspect(ElementStringReader.Read(label, today).Value, today));

    [Theory]
    [InlineData("119521234100918", true)]
    [InlineData("09521234000013", true)]
    [InlineData("09521234000014", false)]
    [InlineData("]C110AB", true)]
    [InlineData("10AB\u001d21X", true)]
    [InlineData("(01)09521234000013", true)]
    [InlineData("240000", false)]
    [InlineData("2.5", false)]
    [InlineData("", false)]
    public void A_barcode_s_content_is_known_by_its_form_and_never_becomes_a_quantity(string text, bool isCode) =>
        Assert.Equal(isCode, ScannedCode.IsCode(text));

    [Theory]
    [InlineData(8, 0)]
    [InlineData(70, 105)]
    [InlineData(400, ScannerSettings.SlowestPace)]
    public void A_slow_scanner_s_pace_is_learned_with_some_room(int slowest, int pace) =>
        Assert.Equal(pace, ScannerSettings.PaceOf(slowest));

    [Theory]
    [InlineData("2,5", true, "2.5")]
    [InlineData("2.5", true, "2.5")]
    [InlineData("1 200,25", true, "1200.25")]
    [InlineData("2,5", false, null)]
    [InlineData("1,200,5", true, null)]
    [InlineData("1.200,5", true, null)]
    public void A_comma_stands_before_decimals_only_where_the_site_says_so(string typed, bool comma, string? number) =>
        Assert.Equal(
            number,
            Quantities.Read(typed, comma).Accepted(out var read) ? read.ToString(System.Globalization.CultureInfo.InvariantCulture) : null
        );

    [Fact]
    public void Labels_say_for_whom_on_the_packs_that_fill_what_is_waited_for_and_on_no_more()
    {
        Assert.Equal(["C-204", "C-204", "J-218", null, null], LabelCodes.ForWhom([("C-204", 20), ("J-218", 5)], 12, 5));
        Assert.Equal(["C-204", "C-204"], LabelCodes.ForWhom([("C-204", 500)], 12, 2));
        Assert.Equal([null, null], LabelCodes.ForWhom([], 12, 2));
    }
}
