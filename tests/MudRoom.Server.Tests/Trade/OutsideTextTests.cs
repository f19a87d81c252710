using System.Diagnostics;
using CsCheck;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;

namespace MudRoom.Server.Tests.Trade;

/// <summary>
/// Text from outside, bent at random: no reader crashes or hangs, whatever stands in it. Each runs for two seconds here;
/// MUDROOM_FUZZ_SECONDS sets another time.
/// </summary>
public sealed class OutsideTextTests
{
    static readonly int seconds = int.TryParse(Environment.GetEnvironmentVariable("MUDROOM_FUZZ_SECONDS"), out var s) ? s : 2;
    static readonly DateOnly today = new(2026, 3, 10);
    static readonly WarehouseSite site = new()
    {
        Id = 1,
        Code = "LM",
        Name = "Low Meadow",
        TimeZone = "Etc/UTC",
        CompanyPrefix = "9521234",
    };
    static readonly Vendor vendor = new()
    {
        Id = 4,
        Code = "QUER",
        Name = "Quern",
        Country = "NL",
    };
    static readonly Known known = new(
        new Catalogue([
            new Item
            {
                Id = 1,
                Code = "PF-50",
                Name = "Compost",
                PackLevels =
                [
                    new PackLevel
                    {
                        Id = 1,
                        Name = "each",
                        Numerator = 1,
                        Gtin = "09521234543213",
                    },
                ],
            },
        ]),
        new Dictionary<string, Vendor> { [vendor.Code] = vendor },
        new Dictionary<string, WarehouseSite> { [site.Code] = site },
        FileHabits.Plain
    );

    static readonly string[] scans =
    [
        "(01)09521234543213(10)L7(15)271231",
        "]d20109521234543213\u001d10L7\u001d17261231",
        "]C100395212340000000014",
        "https://id.example/01/09521234543213/10/L7?17=261231",
        "CSQU3054383",
        "PF-50",
        "4012345123456",
        "01095212345432133103000125",
        "(00)395212340000000014(02)09521234543213(37)12",
        "\u001d\u001d",
        "]Q3",
        "()()()",
        "8008260310",
    ];

    static readonly string[] files =
    [
        "order,vendor,line,item,quantity,due,site\nPO-1,QUER,1,PF-50,12,2026-03-10,LM\n",
        "\ufefforder;vendor;line;item;quantity;due;site\r\nPO-1;QUER;1;PF-50;\"12\";2026-03-10;LM\r\n",
        "UNA:+.? 'UNB+UNOC:3+A:14+B:14+260310:0800+U1'UNH+1+ORDERS:D:96A:UN'BGM+220+PO-9+9'DTM+137:20260310:102'NAD+SU+QUER::92'LIN+1++09521234543213:EN'QTY+21:12'UNS+S'UNT+8+1'UNZ+1+U1'",
        "<?xml version=\"1.0\"?><Order xmlns=\"urn:oasis:names:specification:ubl:schema:xsd:Order-2\" "
            + "xmlns:cbc=\"urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2\"><cbc:ID>PO-1</cbc:ID></Order>",
        "<DespatchAdvice xmlns=\"urn:oasis:names:specification:ubl:schema:xsd:DespatchAdvice-2\"/>",
        "<!DOCTYPE x [<!ENTITY a \"b\">]><x>&a;</x>",
        "%PDF-1.7",
        "PK\u0003\u0004",
    ];

    static readonly string[] hurts =
    [
        "'",
        "+",
        "?",
        ":",
        "<",
        "&",
        "\"",
        ",",
        "\n",
        "\0",
        "\u001d",
        "(",
        ")",
        "]",
        "9999999999999999999999",
        "-1",
        "1e308",
        "😀",
        "\ud800",
        "NaN",
    ];

    /// <summary>One of the seeds with pieces cut out, doubled, swapped or replaced by what is likely to hurt.</summary>
    static Gen<string> Bent(string[] seeds) =>
        Gen.Select(
                Gen.Int[0, seeds.Length - 1],
                Gen.Select(Gen.Int[0, 5], Gen.Int[0, 400], Gen.Int[1, 30], Gen.Int[0, hurts.Length - 1]).Array[0, 6]
            )
            .Select(
                (seed, cuts) =>
                {
                    var text = seeds[seed];
                    foreach (var (way, where, length, hurt) in cuts)
                    {
                        var put = hurts[hurt];
                        var at = text.Length == 0 ? 0 : where % text.Length;
                        var end = Math.Min(text.Length, at + length);
                        text = way switch
                        {
                            0 => text[..at] + text[end..],
                            1 => text[..end] + text[at..],
                            2 => text[..at] + put + text[at..],
                            3 => text[..at] + put + text[end..],
                            4 => text[at..] + text[..at],
                            _ => text[..at],
                        };
                    }

                    return text;
                }
            );

    static void Survives(string[] seeds, Action<string> read)
    {
        var watch = Stopwatch.StartNew();
        var tried = 0;
        while (watch.Elapsed.TotalSeconds < seconds)
            Bent(seeds)
                .Sample(
                    text =>
                    {
                        tried++;
                        var one = Stopwatch.StartNew();
                        read(text);
                        Assert.True(one.Elapsed < TimeSpan.FromSeconds(5), $"five seconds over {text}");
                    },
                    iter: 300,
                    threads: 1
                );
        Assert.True(tried >= 300);
    }

    [Fact]
    public void The_scan_line() => Survives(scans, text =>
        {
            _ = ScannedCode.Of(text, today);
        });

    [Fact]
    public void Files_of_trade() => Survives(files, text =>
        {
            var read = TradeReader.Read(text, known, today);
            Assert.True(read.Faults.Count == 0 || read.Orders.Count + read.Advices.Count == 0);
        });

    [Fact]
    public void Serial_numbers_and_numbers_and_dates() =>
        Survives(["IC-0101 to IC-0150", "1 250.5", "2026-03", "10.03.2026", "0,5"], text =>
        {
            _ = Core.Door.Serials.Read(text);
            _ = Quantities.Read(text);
            _ = GoodsDate.Typed("Date", text);
            _ = SizeType.Read(text);
            _ = ContainerNumber.Read(text);
        });
}
