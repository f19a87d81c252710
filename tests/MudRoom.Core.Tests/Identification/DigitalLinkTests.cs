using MudRoom.Core.Identification;

namespace MudRoom.Core.Tests.Identification;

/// <summary>GS1 Digital Link Standard, URI syntax; the addresses are written for these tests.</summary>
public sealed class DigitalLinkTests
{
    const char Gs = ElementStringReader.Separator;

    [Theory]
    [InlineData("https://id.gs1.org/01/09521234543213", "0109521234543213")]
    [InlineData("http://shop.example/eu/products/01/09521234543213/10/L7", "0109521234543213|10L7")]
    [InlineData("https://shop.example/01/09521234543213/10/L7/21/S%2F9?17=271231", "0109521234543213|10L7|21S/9|17271231")]
    [InlineData(
        "https://shop.example/00/395212340000000014?02=09521234543213&37=40&utm_source=label",
        "00395212340000000014|0209521234543213|3740"
    )]
    [InlineData("HTTPS://SHOP.EXAMPLE/01/09521234543213", "0109521234543213")]
    [InlineData("https://shop.example/01/01/09521234543213", "0109521234543213")]
    public void An_address_says_what_its_element_string_says(string address, string elements) =>
        Assert.Equal(elements.Replace('|', Gs), DigitalLink.Read(address)?.Elements);

    [Theory]
    [InlineData("https://shop.example/")]
    [InlineData("https://shop.example/products/4711")]
    [InlineData("https://shop.example/10/L7")]
    [InlineData("https://shop.example/01/09521234543213/lot/L7")]
    [InlineData("https://")]
    [InlineData("ftp://shop.example/01/09521234543213")]
    public void Another_address_is_no_digital_link(string address) => Assert.Null(DigitalLink.Read(address)?.Elements);

    [Fact]
    public void Behind_the_symbology_identifier_of_a_plain_qr_code_it_is_read_too()
    {
        var read = Assert
            .IsType<ScannedCode.Elements>(ScannedCode.Of("]Q1https://id.gs1.org/01/09521234543213/10/L7", new DateOnly(2026, 3, 10)))
            .Read;
        Assert.Equal(("09521234543213", "L7"), (read.Gtin, read.Batch));
    }

    [Theory]
    [InlineData("https://id.gs1.org/01/09521234543214", "check")]
    [InlineData("https://id.gs1.org/01/9521234543213", "01")]
    public void What_is_wrong_in_it_is_said(string address, string names) =>
        Assert.Contains(
            names,
            Assert.IsType<ScannedCode.Wrong>(ScannedCode.Of(address, new DateOnly(2026, 3, 10))).Why.ToString(),
            StringComparison.OrdinalIgnoreCase
        );
}
