using System.Text.Json;
using MudRoom.Core.Site;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Exchange.Edifact;
using MudRoom.Tests;

namespace MudRoom.Server.Tests.Trade;

public sealed class TradeFileTests
{
    static readonly DateOnly today = new(2026, 3, 1);
    static readonly WarehouseSite site = new()
    {
        Id = 1,
        Code = "9521321000032",
        Name = "Low Meadow",
        TimeZone = "Etc/UTC",
        CompanyPrefix = "9521234",
    };
    static readonly Vendor vendor = new()
    {
        Id = 4,
        Code = "9521321000025",
        Name = "Widgets",
        Country = "NL",
    };

    static readonly Known known = new(
        new Catalogue([
            new Item
            {
                Id = 1,
                Code = "ITEM-100",
                Name = "Widget 10 mm",
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
            new Item
            {
                Id = 2,
                Code = "ITEM-200",
                Name = "Resin drum",
                BaseUnit = "KGM",
                Step = 0.5m,
                PackLevels =
                [
                    new PackLevel
                    {
                        Id = 2,
                        Name = "kg",
                        Numerator = 1,
                        Gtin = "09521234543220",
                    },
                ],
            },
        ]),
        new Dictionary<string, Vendor> { [vendor.Code] = vendor },
        new Dictionary<string, WarehouseSite> { [site.Code] = site },
        FileHabits.Plain
    );

    static string Sample(string name) => File.ReadAllText(Path.Combine(AppContext.BaseDirectory, "Trade", "data", name));

    static TradeFile Read(string text) => TradeReader.Read(text, known, today);

    /// <summary>The segments as the parser of npm ts-edifact 0.0.14 (Apache-2.0) gave them, recorded once; in capitals, for it knows no
    /// others.</summary>
    [Theory]
    [InlineData("orders_d01b")]
    [InlineData("desadv_d01b")]
    public void Segments_are_cut_as_an_independent_parser_cuts_them(string name)
    {
        var recorded = JsonSerializer.Deserialize<string[]>(Sample(name + ".segments.json"))!;
        var (segments, _, fault) = Segments.Cut(Sample(name + ".edi").ToUpperInvariant());
        Assert.Null(fault);
        Assert.Equal(recorded, segments.Select(s => s.Tag + "+" + string.Join('\u001e', s.Elements.Select(e => string.Join('\u001f', e)))));
    }

    [Fact]
    public void An_edifact_order_gives_its_lines()
    {
        var order = Assert.Single(Read(Sample("orders_d01b.edi")).Orders);
        Assert.Equal(("PO-4711", OrderAction.New, vendor), (order.Number, order.Action, order.Vendor));
        Assert.Equal(
            [(1, "ITEM-100", 960m, 1.25m), (2, "ITEM-200", 1200m, 3.4m)],
            order.Lines.Select(l => (l.Number, l.Item!.Code, l.Quantity!.Value, l.Price!.Value))
        );
        Every.One(order.Lines, l => Assert.Equal((new DateOnly(2026, 3, 10), site), (l.Due!.Value, l.Site)));
    }

    [Fact]
    public void An_edifact_despatch_advice_gives_its_units_batches_and_dates()
    {
        var advice = Assert.Single(Read(Sample("desadv_d01b.edi")).Advices);
        Assert.Equal(
            ("DA-1001", "CSQU3054383", "45G1", "SEAL123", "V042", "NLRTM", "GBFXT"),
            (advice.Number, advice.Container, advice.SizeType, advice.Seal, advice.Voyage, advice.PortFrom, advice.PortTo)
        );
        Assert.Equal(new TradeTime(new DateTime(2026, 3, 10, 14, 0, 0), null), advice.Arrives);
        Assert.Equal(
            [("340123450000000017", "PO-4711", 1, 960m, "LOT-7A"), ("340123450000000024", "PO-4711", 2, 1200m, "B+26'1")],
            advice.Lines.Select(l => (l.Sscc!, l.Order!, l.OrderLine!.Value, l.Quantity, l.SourceBatch!))
        );
        Assert.Equal(new DateOnly(2027, 12, 31), advice.Lines[0].BestBefore);
    }

    [Fact]
    public void A_carton_on_a_pallet_names_the_pallet()
    {
        var text = Sample("desadv_d01b.edi").Replace("CPS+3+1+3'", "CPS+3+2+1'", StringComparison.Ordinal);
        Assert.Equal("340123450000000017", Read(text).Advices[0].Lines[1].ParentSscc);
    }

    [Theory]
    [InlineData("UNT+24+1", "UNT+25+1", "UNT")]
    [InlineData("UNT+24+1", "UNT+24+2", "UNT")]
    [InlineData("UNZ+1+O1", "UNZ+2+O1", "UNZ")]
    [InlineData("ORDERS:D", "INVOIC:D", "UNH")]
    [InlineData("09521234543213", "09521234543214", "LIN")]
    [InlineData("QTY+21:960:EA", "QTY+21:-5:EA", "QTY")]
    [InlineData("QTY+21:960:EA", "QTY+21:1e30:EA", "QTY")]
    [InlineData("QTY+21:960:EA", "QTY+21:960:LTR", "QTY")]
    [InlineData("QTY+21:960:EA", "QTY+21:9.5:EA", "QTY")]
    [InlineData("DTM+2:20260310", "DTM+2:19000101", "DTM")]
    [InlineData("DTM+2:20260310", "DTM+2:99990101", "DTM")]
    [InlineData("DTM+2:20260310", "DTM+2:20260231", "DTM")]
    [InlineData("NAD+SU+9521321000025", "NAD+SU+NOBODY", "NAD")]
    [InlineData("NAD+DP+9521321000032", "NAD+DP+NOWHERE", "NAD")]
    [InlineData("LIN+2+", "LIN+1+", "line")]
    [InlineData("UNZ+1+O1'", "UNZ+1+O1", "")]
    public void One_wrong_value_refuses_the_whole_interchange_and_says_where(string right, string wrong, string field)
    {
        var text = Sample("orders_d01b.edi");
        Assert.Contains(right, text, StringComparison.Ordinal);
        // The product code that stands beside the number would be taken instead.
        if (field == "LIN")
            text = text.Replace("PIA+1+ITEM-100:IN'\r\n", "", StringComparison.Ordinal)
                .Replace("PIA+1+ITEM-100:IN'\n", "", StringComparison.Ordinal)
                .Replace("UNT+24", "UNT+23", StringComparison.Ordinal);
        var file = Read(text.Replace(right, wrong, StringComparison.Ordinal));
        Assert.Empty(file.Orders);
        var fault = Assert.Single(file.Faults.DistinctBy(f => f.Field));
        Assert.Equal(field, fault.Field);
        Assert.True(fault.Line > 0 && fault.Reason.Length > 5);
    }

    [Fact]
    public void A_wrong_check_digit_is_told_from_an_unknown_number()
    {
        var text = Sample("orders_d01b.edi").Replace("PIA+1+ITEM-100:IN'", "PIA+1+X:IN'", StringComparison.Ordinal);
        Assert.Contains(
            "wrong check digit",
            Read(text.Replace("09521234543213", "09521234543219", StringComparison.Ordinal)).Faults[0].Reason,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_unit_the_item_is_not_counted_in_is_no_fault_of_an_advice_but_kept_for_a_decision()
    {
        var text = Sample("desadv_d01b.edi");
        var wrong = Read(text.Replace("QTY+12:960:EA", "QTY+12:960:KGM", StringComparison.Ordinal));
        Assert.Empty(wrong.Faults);
        var line = wrong.Advices[0].Lines[0];
        Assert.Equal((960m, "KGM"), (line.Quantity, line.WrongUnit));
        var match = Core.Road.AdviceRules.Match([line], [new Core.Road.AdvisablePart(1, "PO-4711", 1, 1, today, 960)], _ => "Widget");
        Assert.Empty(match.Expected);
        Assert.Equal(
            "Widget is said to come in KGM, a unit it is not counted in. 960 on unit 340123450000000017.",
            Assert.Single(match.Differences)
        );
    }

    [Fact]
    public void An_item_nobody_knows_is_no_fault_of_an_advice_but_kept_in_words()
    {
        var text = Sample("desadv_d01b.edi")
            .Replace("09521234543213", "", StringComparison.Ordinal)
            .Replace("ITEM-100", "MYSTERY", StringComparison.Ordinal);
        var line = Read(text).Advices.Single().Lines[0];
        Assert.Equal((null, "MYSTERY", 960m), (line.ItemId, line.ItemText, line.Quantity));
    }

    static string Ubl(string root, string body) =>
        $"""
            <?xml version="1.0" encoding="UTF-8"?>
            <{root} xmlns="urn:oasis:names:specification:ubl:schema:xsd:{root}-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2">
            {body}
            </{root}>
            """;

    const string Head = """
        <cbc:ID>PO-5001</cbc:ID><cbc:IssueDate>2026-02-15</cbc:IssueDate>
        <cac:Signature><cbc:ID>1</cbc:ID><cbc:ValidationDate>2026-02-14</cbc:ValidationDate><cac:SignatoryParty><cac:PartyName><cbc:Name>Head of buying</cbc:Name></cac:PartyName></cac:SignatoryParty></cac:Signature>
        <cac:SellerSupplierParty><cac:Party><cac:PartyIdentification><cbc:ID>9521321000025</cbc:ID></cac:PartyIdentification></cac:Party></cac:SellerSupplierParty>
        <cac:Delivery><cac:DeliveryLocation><cbc:ID>9521321000032</cbc:ID></cac:DeliveryLocation><cac:RequestedDeliveryPeriod><cbc:EndDate>2026-03-20</cbc:EndDate></cac:RequestedDeliveryPeriod></cac:Delivery>
        """;

    static string Line(string id = "1", string quantity = "960", string code = "ITEM-100", string more = "") =>
        $"""<cac:OrderLine><cac:LineItem><cbc:ID>{id}</cbc:ID>{more}<cbc:Quantity unitCode="EA">{quantity}</cbc:Quantity><cac:Item><cac:BuyersItemIdentification><cbc:ID>{code}</cbc:ID></cac:BuyersItemIdentification></cac:Item></cac:LineItem></cac:OrderLine>""";

    [Fact]
    public void A_ubl_order_gives_its_lines_and_who_approved_it()
    {
        var order = Assert.Single(Read(Ubl("Order", Head + Line())).Orders);
        Assert.Equal(
            ("PO-5001", vendor, new DateOnly(2026, 3, 20), 960m),
            (order.Number, order.Vendor, order.Lines[0].Due!.Value, order.Lines[0].Quantity!.Value)
        );
        Assert.Equal(("Head of buying", new DateOnly(2026, 2, 14)), (order.Approvals[0].By, order.Approvals[0].On));
    }

    [Fact]
    public void A_ubl_order_change_says_what_it_changes()
    {
        var body =
            "<cbc:ID>C-1</cbc:ID><cbc:IssueDate>2026-02-20</cbc:IssueDate><cac:OrderReference><cbc:ID>PO-5001</cbc:ID></cac:OrderReference>"
            + Line("1", "1000", more: "<cbc:LineStatusCode>Revised</cbc:LineStatusCode>")
            + Line("2", "5", "ITEM-100", "<cbc:LineStatusCode>Cancelled</cbc:LineStatusCode>");
        var change = Assert.Single(Read(Ubl("OrderChange", body)).Orders);
        Assert.Equal(("PO-5001", OrderAction.Change), (change.Number, change.Action));
        Assert.Equal([LineAction.Change, LineAction.Cancel], change.Lines.Select(l => l.Action));
    }

    [Fact]
    public void A_ubl_despatch_advice_nests_cartons_in_pallets()
    {
        var body = """
            <cbc:ID>DA-7</cbc:ID><cbc:IssueDate>2026-03-01</cbc:IssueDate><cac:OrderReference><cbc:ID>PO-4711</cbc:ID></cac:OrderReference>
            <cac:DespatchSupplierParty><cac:Party><cac:PartyIdentification><cbc:ID>9521321000025</cbc:ID></cac:PartyIdentification></cac:Party></cac:DespatchSupplierParty>
            <cac:Shipment><cbc:ID>S</cbc:ID>
              <cac:Delivery><cac:DeliveryLocation><cbc:ID>9521321000032</cbc:ID></cac:DeliveryLocation><cac:EstimatedDeliveryPeriod><cbc:StartDate>2026-03-09</cbc:StartDate><cbc:StartTime>07:30:00</cbc:StartTime></cac:EstimatedDeliveryPeriod></cac:Delivery>
              <cac:TransportHandling@><cbc:ID>340123450000000017</cbc:ID><cac:ActualPackage><cbc:ID>340123450000000024</cbc:ID><cac:DespatchLine><cbc:ID>1</cbc:ID></cac:DespatchLine></cac:ActualPackage></cac:TransportHandling@>
            </cac:Shipment>
            <cac:DespatchLine><cbc:ID>1</cbc:ID><cbc:DeliveredQuantity unitCode="EA">40</cbc:DeliveredQuantity><cac:OrderLineReference><cbc:LineID>1</cbc:LineID></cac:OrderLineReference>
              <cac:Item><cac:StandardItemIdentification><cbc:ID>9521234543213</cbc:ID></cac:StandardItemIdentification><cac:ItemInstance><cbc:BestBeforeDate>2027-05-31</cbc:BestBeforeDate><cac:LotIdentification><cbc:LotNumberID>L9</cbc:LotNumberID></cac:LotIdentification></cac:ItemInstance></cac:Item>
            </cac:DespatchLine>
            """;
        var advice = Assert.Single(Read(Ubl("DespatchAdvice", body.Replace("@", "Unit", StringComparison.Ordinal))).Advices);
        Assert.Equal(("340123450000000017", 0m), (advice.Lines[0].Sscc, advice.Lines[0].Quantity));
        var line = Assert.Single(advice.Lines.Skip(1));
        Assert.Equal(
            ("340123450000000024", "340123450000000017", "L9", 40m, new DateOnly(2027, 5, 31)),
            (line.Sscc, line.ParentSscc, line.SourceBatch, line.Quantity, line.BestBefore!.Value)
        );
        Assert.Equal(new TradeTime(new DateTime(2026, 3, 9, 7, 30, 0), null), advice.Arrives);
    }

    [Theory]
    [InlineData("<Order><a></Order>")]
    [InlineData("<!DOCTYPE a [<!ENTITY x SYSTEM \"file:///etc/passwd\">]><Order>&x;</Order>")]
    [InlineData("<Order xmlns='urn:other'/>")]
    [InlineData("%PDF-1.7 something")]
    [InlineData("PK\u0003\u0004")]
    [InlineData("")]
    [InlineData("UNB+UNOC:3+A+B+260301:0915+1'UNZ+0+1'")]
    public void What_is_not_what_it_says_is_refused_with_a_reason(string text)
    {
        var file = Read(text);
        Assert.Empty(file.Orders);
        Assert.NotEmpty(file.Faults[0].Reason);
        Assert.DoesNotContain("passwd", file.Faults[0].Value + file.Faults[0].Reason, StringComparison.Ordinal);
    }

    [Fact]
    public void A_file_full_of_faults_names_the_first_hundred_at_once()
    {
        var csv =
            "order,vendor,line,item,quantity,due,site\n"
            + string.Concat(Enumerable.Range(1, 400).Select(n => $"PO-{n},NOBODY,1,ITEM-100,1,2026-03-10,9521321000032\n"));
        Assert.Equal(100, Read(csv).Faults.Count);
    }

    [Fact]
    public void Csv_that_is_written_is_read_again_and_holds_no_formula()
    {
        var text = System.Text.Encoding.UTF8.GetString(
            CsvOut.Write(
                ["code", "name"],
                [
                    ["A;1", "two\nlines, \"quoted\""],
                    ["B", "=1+1"],
                ]
            )
        );
        var rows = new List<(string, string)>();
        Assert.Empty(
            CsvTable
                .Read(text.Replace("A;1", "A1", StringComparison.Ordinal), ["code", "name"], [], FileHabits.Plain, row =>
                    rows.Add((row.Raw("code"), row.Raw("name")))
                )
                .Faults
        );
        Assert.Equal(("A1", "two\nlines, \"quoted\""), rows[0]);
        Assert.Contains("'=1+1", text, StringComparison.Ordinal);
        Assert.Equal("=1+1", rows[1].Item2);
    }
}
