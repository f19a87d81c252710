using System.Text;
using MudRoom.Core.Site;
using MudRoom.Exchange;

namespace MudRoom.Server.Tests.Trade;

/// <summary>
/// Files as other houses write them, by hand from the standards (ISO 9735, UN/EDIFACT D.96A and D.01B, OASIS UBL 2.1, RFC 4180): each is
/// read to what it says, or refused with line, field and reason.
/// </summary>
public sealed class OtherMakersFilesTests
{
    const string First = "340123450000000017",
        Second = "340123450000000024",
        Third = "340123450000000031";
    static readonly DateOnly today = new(2026, 3, 1);

    static readonly WarehouseSite site = new()
    {
        Id = 1,
        Code = "LM",
        Gln = "9521321000032",
        Name = "Low Meadow",
        TimeZone = "Europe/London",
        CompanyPrefix = "9521234",
    };
    static readonly Vendor vendor = new()
    {
        Id = 4,
        Code = "QUER",
        Gln = "9521321000025",
        Name = "Quern",
        Country = "NL",
    };
    static readonly Vendor other = new()
    {
        Id = 5,
        Code = "SALT",
        Name = "Salt",
        Country = "GB",
    };

    static readonly Item shears = new()
    {
        Id = 1,
        Code = "SH-1",
        Name = "Shears",
        PackLevels =
        [
            new PackLevel
            {
                Id = 1,
                Name = "each",
                Numerator = 1,
                Gtin = "09521234543213",
            },
            new PackLevel
            {
                Id = 2,
                Name = "carton",
                Numerator = 4,
                Gtin = "19521234543210",
            },
            new PackLevel
            {
                Id = 3,
                Name = "pallet",
                Numerator = 80,
                IsUnit = true,
            },
        ],
    };

    static readonly Item resin = new()
    {
        Id = 2,
        Code = "RE-25",
        Name = "Resin",
        BaseUnit = "KGM",
        Step = 0.5m,
        PackLevels =
        [
            new PackLevel
            {
                Id = 4,
                Name = "kg",
                Numerator = 1,
            },
            new PackLevel
            {
                Id = 5,
                Name = "drum",
                Numerator = 25,
            },
        ],
    };

    static Known Knowing(FileHabits? habits = null) =>
        Known.Of(new Catalogue([shears, resin]), [vendor, other], [site], habits ?? FileHabits.Plain);

    static TradeFile Read(string text, FileHabits? habits = null) => TradeReader.Read(text, Knowing(habits), today);

    static string Edi(string type, params string[] body) => Message("UNOC", type, body);

    static string Message(string set, string type, string[] body) =>
        string.Join(
            "'",
            [$"UNB+{set}:3+A:14+B:14+260301:0915+1", $"UNH+1+{type}:D:96A:UN", .. body, $"UNT+{body.Length + 2}+1", "UNZ+1+1", ""]
        );

    static readonly string[] orderHead = ["BGM+220+PO-9+9", "DTM+137:20260215:102", "NAD+SU+QUER::92", "NAD+DP+LM::92"];
    static readonly string[] adviceHead = ["BGM+351+DA-9+9", "DTM+137:20260301:102", "NAD+SU+9521321000025::9", "NAD+DP+9521321000032::9"];

    static string OrderEdi(params string[] lines) => Edi("ORDERS", [.. orderHead, .. lines]);

    static string AdviceEdi(params string[] lines) => Edi("DESADV", [.. adviceHead, .. lines]);

    static string Ubl(string root, string body) =>
        $"""
            <?xml version="1.0" encoding="UTF-8"?>
            <{root} xmlns="urn:oasis:names:specification:ubl:schema:xsd:{root}-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2">
            {body}
            </{root}>
            """;

    static string OrderUbl(
        string lines,
        string due = "<cac:RequestedDeliveryPeriod><cbc:EndDate>2026-03-20</cbc:EndDate></cac:RequestedDeliveryPeriod>"
    ) =>
        Ubl(
            "Order",
            $"""
            <cbc:ID>PO-9</cbc:ID><cbc:IssueDate>2026-02-15</cbc:IssueDate>
            <cac:SellerSupplierParty><cac:Party><cac:PartyIdentification><cbc:ID>77</cbc:ID></cac:PartyIdentification><cac:PartyIdentification><cbc:ID schemeID="0088">9521321000025</cbc:ID></cac:PartyIdentification></cac:Party></cac:SellerSupplierParty>
            <cac:Delivery><cac:DeliveryLocation><cbc:ID schemeID="0088">9521321000032</cbc:ID></cac:DeliveryLocation>{due}</cac:Delivery>
            {lines}
            """
        );

    static string LineUbl(string inner, string quantity = "7", string unit = "CT") =>
        $"""<cac:OrderLine><cac:LineItem><cbc:ID>1</cbc:ID><cbc:Quantity unitCode="{unit}">{quantity}</cbc:Quantity>{inner}<cac:Item><cac:BuyersItemIdentification><cbc:ID>SH-1</cbc:ID></cac:BuyersItemIdentification></cac:Item></cac:LineItem></cac:OrderLine>""";

    static string AdviceUbl(string shipment, string lines, string more = "") =>
        Ubl(
            "DespatchAdvice",
            $"""
            <cbc:ID>DA-9</cbc:ID><cbc:IssueDate>2026-03-01</cbc:IssueDate>{more}<cac:OrderReference><cbc:ID>PO-9</cbc:ID></cac:OrderReference>
            <cac:DespatchSupplierParty><cac:Party><cac:PartyIdentification><cbc:ID>9521321000025</cbc:ID></cac:PartyIdentification></cac:Party></cac:DespatchSupplierParty>
            <cac:Shipment><cbc:ID>S</cbc:ID>{shipment.Replace("@", "Unit", StringComparison.Ordinal)}</cac:Shipment>
            {lines}
            """
        );

    static string DespatchLine(string quantity, string item = "", string id = "1") =>
        $"""<cac:DespatchLine><cbc:ID>{id}</cbc:ID><cbc:DeliveredQuantity unitCode="EA">{quantity}</cbc:DeliveredQuantity><cac:Item><cac:BuyersItemIdentification><cbc:ID>SH-1</cbc:ID></cac:BuyersItemIdentification>{item}</cac:Item></cac:DespatchLine>""";

    static string OnUnit(string sscc, string quantity, string item = "") =>
        $"""<cac:TransportHandling@><cbc:ID>{sscc}</cbc:ID><cac:Handling@DespatchLine><cbc:ID>1</cbc:ID>{(quantity.Length > 0 ? $"""<cbc:DeliveredQuantity unitCode="EA">{quantity}</cbc:DeliveredQuantity>""" : "")}{item}</cac:Handling@DespatchLine></cac:TransportHandling@>""";

    static string Instance(string lot, string serial = "") =>
        $"<cac:ItemInstance>{(serial.Length > 0 ? $"<cbc:SerialID>{serial}</cbc:SerialID>" : "")}<cac:LotIdentification><cbc:LotNumberID>{lot}</cbc:LotNumberID></cac:LotIdentification></cac:ItemInstance>";

    static FileFault Only(TradeFile file)
    {
        Assert.Empty(file.Orders);
        Assert.Empty(file.Advices);
        return Assert.Single(file.Faults);
    }

    [Fact]
    public void Ubl_a_line_on_two_pallets_is_on_both_each_with_its_own()
    {
        var advice = Assert.Single(Read(AdviceUbl(OnUnit(First, "60") + OnUnit(Second, "20"), DespatchLine("80"))).Advices);
        Assert.Equal([(First, 60m), (Second, 20m)], advice.Lines.Select(l => (l.Sscc!, l.Quantity)));
    }

    [Theory]
    [InlineData("", "", "without saying how much on each")]
    [InlineData("60", "30", "its units hold 90, not 80")]
    public void Ubl_a_line_whose_pallets_do_not_add_up_is_refused(string first, string second, string reason) =>
        Assert.Contains(
            reason,
            Only(Read(AdviceUbl(OnUnit(First, first) + OnUnit(Second, second), DespatchLine("80")))).Reason,
            StringComparison.Ordinal
        );

    [Fact]
    public void Ubl_two_lots_are_told_apart_by_the_pallets_they_stand_on()
    {
        var lines = Assert
            .Single(
                Read(
                    AdviceUbl(
                        OnUnit(First, "60", $"<cac:Item>{Instance("L1")}</cac:Item>")
                            + OnUnit(Second, "20", $"<cac:Item>{Instance("L2")}</cac:Item>"),
                        DespatchLine("80", Instance("L1") + Instance("L2"))
                    )
                ).Advices
            )
            .Lines;
        Assert.Equal([("L1", 60m), ("L2", 20m)], lines.Select(l => (l.SourceBatch!, l.Quantity)));
    }

    [Fact]
    public void Ubl_two_lots_are_told_apart_by_the_serial_numbers_of_their_pieces()
    {
        var lines = Assert
            .Single(Read(AdviceUbl("", DespatchLine("3", Instance("L1", "S1") + Instance("L1", "S2") + Instance("L2", "S3")))).Advices)
            .Lines;
        Assert.Equal([("L1", 2m, "S1 S2"), ("L2", 1m, "S3")], lines.Select(l => (l.SourceBatch!, l.Quantity, string.Join(' ', l.Serials))));
    }

    [Fact]
    public void Ubl_two_lots_on_a_line_that_does_not_say_how_much_of_each_are_refused() =>
        Assert.Equal(
            ("cac:ItemInstance", "L1, L2"),
            (
                Only(Read(AdviceUbl("", DespatchLine("80", Instance("L1") + Instance("L2"))))) is var fault
                    ? (fault.Field, fault.Value)
                    : default
            )
        );

    [Fact]
    public void Ubl_a_pallet_that_holds_only_cartons_is_a_unit_of_its_own()
    {
        var shipment =
            $"<cac:TransportHandling@><cbc:ID>{First}</cbc:ID><cac:ActualPackage><cbc:ID>{Second}</cbc:ID><cac:DespatchLine><cbc:ID>1</cbc:ID></cac:DespatchLine></cac:ActualPackage></cac:TransportHandling@>";
        var lines = Assert.Single(Read(AdviceUbl(shipment, DespatchLine("4"))).Advices).Lines;
        Assert.Equal([(First, null, 0m), (Second, First, 4m)], lines.Select(l => (l.Sscc!, l.ParentSscc, l.Quantity)));
    }

    /// <summary>XML Schema part 2: 08:00:00Z is an instant; in March London's clock shows the same, in July one hour more.</summary>
    [Theory]
    [InlineData("2026-03-09", "08:00:00Z", "2026-03-09T08:00:00Z")]
    [InlineData("2026-07-09", "08:00:00Z", "2026-07-09T08:00:00Z")]
    [InlineData("2026-07-09", "08:00:00", "2026-07-09T07:00:00Z")]
    [InlineData("2026-07-09", "08:00:00.5+02:00", "2026-07-09T06:00:00.5Z")]
    [InlineData("2026-07-09+02:00", "08:00:00", "2026-07-09T06:00:00Z")]
    [InlineData("2026-07-09Z", "", "2026-07-09T09:00:00Z")]
    public void Ubl_a_time_with_a_zone_is_that_instant(string day, string time, string instant)
    {
        var shipment =
            $"<cac:Delivery><cac:EstimatedDeliveryPeriod><cbc:StartDate>{day}</cbc:StartDate><cbc:StartTime>{time}</cbc:StartTime></cac:EstimatedDeliveryPeriod></cac:Delivery>";
        var advice = Assert.Single(Read(AdviceUbl(shipment, DespatchLine("4"))).Advices);
        Assert.Equal(DateTimeOffset.Parse(instant, System.Globalization.CultureInfo.InvariantCulture), advice.Arrives!.At(site));
    }

    [Theory]
    [InlineData("Revised", AdviceAction.Replace)]
    [InlineData("Cancelled", AdviceAction.Cancel)]
    public void Ubl_an_advice_may_replace_or_cancel_one(string status, AdviceAction action) =>
        Assert.Equal(
            action,
            Assert
                .Single(Read(AdviceUbl("", DespatchLine("4"), $"<cbc:DocumentStatusCode>{status}</cbc:DocumentStatusCode>")).Advices)
                .Action
        );

    /// <summary>Code list 1225: 1 cancellation, 4 change, 5 replacement, 9 original.</summary>
    [Theory]
    [InlineData("1", AdviceAction.Cancel)]
    [InlineData("4", AdviceAction.Replace)]
    [InlineData("5", AdviceAction.Replace)]
    [InlineData("9", AdviceAction.New)]
    public void Edifact_an_advice_may_replace_or_cancel_one(string function, AdviceAction action)
    {
        string[] goods = action == AdviceAction.Cancel ? [] : ["CPS+1", "LIN+1++19521234543210:SRV", "QTY+12:2"];
        Assert.Equal(
            action,
            Assert
                .Single(Read(AdviceEdi(goods).Replace("BGM+351+DA-9+9", "BGM+351+DA-9+" + function, StringComparison.Ordinal)).Advices)
                .Action
        );
    }

    [Fact]
    public void Edifact_several_units_in_one_group_are_all_there_and_share_what_it_holds()
    {
        var lines = Assert
            .Single(
                Read(
                    AdviceEdi(
                        "CPS+1",
                        "PAC+3++PX",
                        "GIN+BJ+" + First + "+" + Second,
                        "GIN+BJ+" + Third,
                        "LIN+1++09521234543213:SRV",
                        "QTY+12:240"
                    )
                ).Advices
            )
            .Lines;
        Assert.Equal([(First, 80m), (Second, 80m), (Third, 80m)], lines.Select(l => (l.Sscc!, l.Quantity)));
    }

    [Fact]
    public void Edifact_units_that_cannot_share_evenly_are_refused() =>
        Assert.Contains(
            "100 on 3 units",
            Only(
                Read(AdviceEdi("CPS+1", "GIN+BJ+" + First + "+" + Second + "+" + Third, "LIN+1++09521234543213:SRV", "QTY+12:100"))
            ).Reason,
            StringComparison.Ordinal
        );

    [Fact]
    public void Edifact_two_batches_on_a_line_are_refused() =>
        Assert.Contains(
            "several batches",
            Only(Read(AdviceEdi("CPS+1", "LIN+1++09521234543213:SRV", "QTY+12:100", "PCI+36E", "GIN+BX+A1+A2"))).Reason,
            StringComparison.Ordinal
        );

    [Fact]
    public void Edifact_goods_in_a_group_without_a_number_stand_on_the_unit_around_it()
    {
        var line = Assert.Single(
            Read(AdviceEdi("CPS+1", "PAC+1++PX", "GIN+BJ+" + First, "CPS+2+1", "PAC+20++CT", "LIN+1++19521234543210:SRV", "QTY+12:20"))
                .Advices[0]
                .Lines,
            l => l.Quantity > 0
        );
        Assert.Equal((First, 80m), (line.Sscc!, line.Quantity));
    }

    /// <summary>Code list 2379: 102 CCYYMMDD, 203 with hours and minutes, 303 with a zone.</summary>
    [Theory]
    [InlineData("DTM+17:20260709:102", "2026-07-09T08:00:00Z")]
    [InlineData("DTM+17:202607090730:203", "2026-07-09T06:30:00Z")]
    [InlineData("DTM+17:202607090730UTC:303", "2026-07-09T07:30:00Z")]
    [InlineData("DTM+17:202607090730?+02:303", "2026-07-09T05:30:00Z")]
    public void Edifact_times_are_read_in_their_formats(string dtm, string instant)
    {
        var advice = Assert.Single(Read(AdviceEdi(dtm, "CPS+1", "LIN+1++09521234543213:SRV", "QTY+12:4")).Advices);
        Assert.Equal(DateTimeOffset.Parse(instant, System.Globalization.CultureInfo.InvariantCulture), advice.Arrives!.At(site));
    }

    /// <summary>UN/ECE Recommendation 21: CT carton, PX pallet; Recommendation 20: EA each, DZN dozen, TNE tonne, GRM gram; X before a
    /// package code.</summary>
    [Theory]
    [InlineData("SH-1", "7", "CT", 28)]
    [InlineData("SH-1", "7", "XCT", 28)]
    [InlineData("SH-1", "7", "carton", 28)]
    [InlineData("SH-1", "7", "Cartons", 28)]
    [InlineData("SH-1", "2", "PX", 160)]
    [InlineData("SH-1", "2", "PF", 160)]
    [InlineData("SH-1", "7", "EA", 7)]
    [InlineData("SH-1", "7", "C62", 7)]
    [InlineData("SH-1", "2", "DZN", 24)]
    [InlineData("SH-1", "7", "", 7)]
    [InlineData("19521234543210", "7", "", 28)]
    [InlineData("19521234543210", "7", "CS", 28)]
    [InlineData("19521234543210", "7", "EA", 7)]
    [InlineData("RE-25", "1.5", "TNE", 1500)]
    [InlineData("RE-25", "1500", "GRM", 1.5)]
    [InlineData("RE-25", "3", "drum", 75)]
    public void A_quantity_is_turned_into_base_units_by_its_unit(string item, string quantity, string unit, decimal wanted)
    {
        var edifact = Read(
            OrderEdi(
                "DTM+2:20260310:102",
                item.Length == 14 ? $"LIN+1++{item}:SRV" : $"LIN+1+++",
                item.Length == 14 ? "PIA+1" : $"PIA+1+{item}:IN",
                $"QTY+21:{quantity}:{unit}"
            )
        );
        Assert.Empty(edifact.Faults);
        Assert.Equal(wanted, edifact.Orders[0].Lines[0].Quantity);
    }

    [Theory]
    [InlineData("SH-1", "DR")]
    [InlineData("SH-1", "KGM")]
    [InlineData("SH-1", "QQQ")]
    [InlineData("RE-25", "CT")]
    [InlineData("RE-25", "DZN")]
    public void A_unit_an_item_does_not_come_in_is_refused_with_those_it_does(string item, string unit)
    {
        var fault = Only(Read(OrderEdi("DTM+2:20260310:102", "LIN+1+++", $"PIA+1+{item}:IN", $"QTY+21:7:{unit}")));
        Assert.Equal(unit, fault.Value);
        Assert.EndsWith(
            item == "SH-1" ? "it comes in each, carton of 4, pallet of 80" : "it comes in kg, drum of 25",
            fault.Reason,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("PRI+AAA:10", 2.5)]
    [InlineData("PRI+AAA:10:::1:EA", 10)]
    [InlineData("PRI+AAA:1250:::100:CT", 3.125)]
    [InlineData("PRI+AAA:1250:::1000", 0.3125)]
    public void A_price_is_for_its_own_unit_and_so_many_of_it(string pri, decimal each) =>
        Assert.Equal(each, Read(OrderEdi("DTM+2:20260310:102", "LIN+1+++", "PIA+1+SH-1:IN", "QTY+21:7:CT", pri)).Orders[0].Lines[0].Price);

    [Theory]
    [InlineData("<cac:Price><cbc:PriceAmount currencyID=\"EUR\">10</cbc:PriceAmount></cac:Price>", 2.5)]
    [InlineData(
        "<cac:Price><cbc:PriceAmount currencyID=\"EUR\">10</cbc:PriceAmount><cbc:BaseQuantity "
            + "unitCode=\"EA\">1</cbc:BaseQuantity></cac:Price>",
        10
    )]
    [InlineData(
        "<cac:Price><cbc:PriceAmount currencyID=\"EUR\">1250</cbc:PriceAmount><cbc:BaseQuantity "
            + "unitCode=\"CT\">100</cbc:BaseQuantity></cac:Price>",
        3.125
    )]
    public void Ubl_a_price_is_for_its_own_unit_and_so_many_of_it(string price, decimal each) =>
        Assert.Equal(
            (28m, each),
            (Read(OrderUbl(LineUbl(price))).Orders[0].Lines[0]) is { } line ? (line.Quantity!.Value, line.Price!.Value) : default
        );

    [Fact]
    public void Edifact_a_line_with_a_delivery_schedule_is_a_part_for_each_delivery()
    {
        var order = Assert.Single(
            Read(
                OrderEdi(
                    "DTM+2:20260310:102",
                    "LIN+1+++",
                    "PIA+1+SH-1:IN",
                    "QTY+21:10:CT",
                    "SCC+1",
                    "QTY+11:6",
                    "DTM+2:20260401:102",
                    "QTY+11:4",
                    "DTM+2:20260501:102",
                    "LIN+2+++",
                    "PIA+1+RE-25:IN",
                    "QTY+21:25:KGM"
                )
            ).Orders
        );
        Assert.Equal(
            [(1, 24m, "2026-04-01"), (1, 16m, "2026-05-01"), (2, 25m, "2026-03-10")],
            order.Lines.Select(l => (l.Number, l.Quantity!.Value, l.Due!.Value.ToString("yyyy-MM-dd")))
        );
    }

    [Fact]
    public void Ubl_a_line_with_several_deliveries_is_a_part_for_each()
    {
        static string Delivery(string quantity, string due) =>
            $"""<cac:Delivery><cbc:Quantity unitCode="CT">{quantity}</cbc:Quantity><cac:RequestedDeliveryPeriod><cbc:EndDate>{due}</cbc:EndDate></cac:RequestedDeliveryPeriod></cac:Delivery>""";
        var order = Assert.Single(Read(OrderUbl(LineUbl(Delivery("6", "2026-04-01") + Delivery("4", "2026-05-01"), "10"))).Orders);
        Assert.Equal([(24m, 4), (16m, 5)], order.Lines.Select(l => (l.Quantity!.Value, l.Due!.Value.Month)));
        Assert.Contains(
            "sum to 36, not to 40",
            Only(Read(OrderUbl(LineUbl(Delivery("6", "2026-04-01") + Delivery("3", "2026-05-01"), "10")))).Reason,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_line_without_a_date_has_the_one_of_the_order_and_without_any_it_is_a_fault()
    {
        Assert.Equal(new DateOnly(2026, 3, 20), Read(OrderUbl(LineUbl(""))).Orders[0].Lines[0].Due);
        Assert.Equal("cac:RequestedDeliveryPeriod", Only(Read(OrderUbl(LineUbl(""), ""))).Field);
        Assert.Equal(
            new DateOnly(2026, 3, 10),
            Read(OrderEdi("DTM+2:20260310:102", "LIN+1+++", "PIA+1+SH-1:IN", "QTY+21:7:CT")).Orders[0].Lines[0].Due
        );
        Assert.Equal("DTM+2", Only(Read(OrderEdi("LIN+1+++", "PIA+1+SH-1:IN", "QTY+21:7:CT"))).Field);
    }

    [Fact]
    public void A_change_that_names_no_item_is_a_fault()
    {
        Assert.Equal("no item is named", Only(Read(Edi("ORDCHG", [.. orderHead, "LIN+1+3", "QTY+21:7:CT"]))).Reason);
        Assert.Equal(
            "no item is named",
            Only(
                Read(
                    OrderUbl(LineUbl(""))
                        .Replace(
                            "<cac:BuyersItemIdentification><cbc:ID>SH-1</cbc:ID></cac:BuyersItemIdentification>",
                            "",
                            StringComparison.Ordinal
                        )
                )
            ).Reason
        );
    }

    [Theory]
    [InlineData("NAD+SU+QUER::92", "QUER")]
    [InlineData("NAD+SU+9521321000025::9", "QUER")]
    [InlineData("NAD+SU+77::92'NAD+SU+9521321000025::9", "QUER")]
    [InlineData("NAD+SU+SALT::92", "SALT")]
    public void A_vendor_is_known_by_code_or_gln_or_any_of_several(string nad, string code)
    {
        string[] head =
        [
            "BGM+220+PO-9+9",
            "DTM+137:20260215:102",
            .. nad.Split('\''),
            "NAD+DP+9521321000032::9",
            "DTM+2:20260310:102",
            "LIN+1+++",
            "PIA+1+SH-1:IN",
            "QTY+21:7:CT",
        ];
        var order = Assert.Single(Read(Edi("ORDERS", head)).Orders);
        Assert.Equal((code, site), (order.Vendor!.Code, order.Lines[0].Site));
    }

    [Fact]
    public void Codes_that_name_two_vendors_are_a_fault()
    {
        string[] head =
        [
            "BGM+220+PO-9+9",
            "DTM+137:20260215:102",
            "NAD+SU+SALT::92",
            "NAD+SU+9521321000025::9",
            "NAD+DP+LM::92",
            "DTM+2:20260310:102",
            "LIN+1+++",
            "PIA+1+SH-1:IN",
            "QTY+21:7:CT",
        ];
        Assert.Equal("these codes name more than one vendor", Only(Read(Edi("ORDERS", head))).Reason);
    }

    /// <summary>ISO 9735: the third character behind UNA is the decimal mark, the fourth the release character, blank for none.</summary>
    [Fact]
    public void Edifact_the_service_string_advice_is_kept_to()
    {
        string[] body =
        [
            "BGM!220!PO?9!9",
            "DTM!137.20260215.102",
            "NAD!SU!QUER..92",
            "NAD!DP!LM..92",
            "DTM!2.20260310.102",
            "LIN!1!!!",
            "PIA!1!RE-25.IN",
            "QTY!21.7,5.KGM",
        ];
        var text =
            "UNA.!,  ~\r\n"
            + string.Join(
                "~\r\n",
                ["UNB!UNOC.3!A.14!B.14!260301.0915!1", "UNH!1!ORDERS.D.96A.UN", .. body, $"UNT!{body.Length + 2}!1", "UNZ!1!1", ""]
            );
        var order = Assert.Single(Read(text).Orders);
        Assert.Equal(("PO?9", 7.5m), (order.Number, order.Lines[0].Quantity));
        Assert.NotEmpty(Read(text.Replace("UNA.!,  ~", "UNA.!.  ~", StringComparison.Ordinal)).Faults);
    }

    /// <summary>ISO 9735: level B parts with information separators that cannot be printed.</summary>
    [Fact]
    public void Edifact_level_b_is_read_with_its_own_separators()
    {
        var text = OrderEdi("DTM+2:20260310:102", "LIN+1+++", "PIA+1+SH-1:IN", "QTY+21:7:CT")
            .Replace("UNOC", "UNOB", StringComparison.Ordinal)
            .Replace('\'', '\u001c')
            .Replace('+', '\u001d')
            .Replace(':', '\u001f');
        Assert.Equal(28m, Assert.Single(Read(text).Orders).Lines[0].Quantity);
    }

    [Fact]
    public void What_is_not_needed_is_passed_over_with_a_note()
    {
        var edifact = Read(
            OrderEdi("DTM+2:20260310:102", "CUX+2:EUR:9", "LIN+1+++", "PIA+1+SH-1:IN", "IMD+F++:::Shears", "IMD+F++:::Red", "QTY+21:7:CT")
        );
        Assert.Single(edifact.Orders);
        Assert.Equal(
            ["Segment CUX is not needed and was passed over.", "Segment IMD is not needed and was passed over, 2 times."],
            edifact.Notes
        );
        var ubl = Read(OrderUbl(LineUbl("<cac:TaxTotal><cbc:TaxAmount>4</cbc:TaxAmount></cac:TaxTotal>")));
        Assert.Single(ubl.Orders);
        Assert.Equal(["Element TaxTotal is not needed and was passed over."], ubl.Notes);
    }

    [Theory]
    [InlineData("order,vendor,line,item,quantity,due,site\nPO-1,QUER,1,RE-25,7.5,2026-03-10,LM\n", false, DateForm.DayMonthYear)]
    [InlineData("order;vendor;line;item;quantity;due;site\r\nPO-1;QUER;1;RE-25;7,5;10.03.2026;LM\r\n", false, DateForm.DayMonthYear)]
    [InlineData(
        "site\tdue\tquantity\titem\tline\tvendor\torder\nLM\t10/03/26\t7,5\tRE-25\t1\t9521321000025\tPO-1\n",
        true,
        DateForm.DayMonthYear
    )]
    [InlineData(
        "order,vendor,line,item,quantity,due,site\nPO-1,QUER,1,RE-25,\"7,5\",3/10/2026,9521321000032\n",
        true,
        DateForm.MonthDayYear
    )]
    public void Csv_is_read_with_its_separator_and_the_habits_of_the_site(string text, bool comma, DateForm dates)
    {
        var file = Read(text, new FileHabits(comma, dates));
        Assert.Empty(file.Faults);
        Assert.Equal(
            (7.5m, new DateOnly(2026, 3, 10), vendor),
            (file.Orders[0].Lines[0].Quantity, file.Orders[0].Lines[0].Due!.Value, file.Orders[0].Vendor)
        );
    }

    [Theory]
    [InlineData("CT", 28)]
    [InlineData("cartons", 28)]
    [InlineData("DZN", 84)]
    [InlineData("", 7)]
    public void Csv_units_are_those_of_every_other_format(string unit, decimal wanted) =>
        Assert.Equal(
            wanted,
            Read($"order,vendor,line,item,quantity,unit,due,site\nPO-1,QUER,1,SH-1,7,{unit},2026-03-10,LM\n").Orders[0].Lines[0].Quantity
        );

    [Theory]
    [InlineData("yes", true)]
    [InlineData("1", true)]
    [InlineData("no", false)]
    [InlineData("", false)]
    public void Csv_says_of_a_line_whether_it_is_to_be_inspected(string inspect, bool asks) =>
        Assert.Equal(
            asks,
            Read($"order,vendor,line,item,quantity,inspect,due,site\nPO-1,QUER,1,SH-1,7,{inspect},2026-03-10,LM\n")
                .Orders[0]
                .Lines[0]
                .AsksInspection
        );

    [Theory]
    [InlineData("2026-03-10 14:00", "2026-03-10T14:00:00")]
    [InlineData("2026-03-10T09:05:00", "2026-03-10T09:05:00")]
    [InlineData("10.03.2026 9:05", "2026-03-10T09:05:00")]
    [InlineData("", "")]
    public void Csv_says_by_which_hour_somebody_waits(string by, string kept) =>
        Assert.Equal(
            new WaitingDemand(5, "a job", kept.Length > 0 ? DateTime.Parse(kept, System.Globalization.CultureInfo.InvariantCulture) : null),
            Assert.Single(Waited(by).Orders).Lines[0].Waits
        );

    /// <summary>Who waits is words of another program's making: a tab in them parts nothing.</summary>
    [Fact]
    public void Csv_keeps_who_waits_as_it_is_written() =>
        Assert.Equal("job 7\tbay 2", Assert.Single(Waited("2026-03-10 14:00", "job 7\tbay 2").Orders).Lines[0].Waits?.For);

    [Fact]
    public void Csv_with_an_hour_for_which_nobody_waits_is_refused() =>
        Assert.Equal("waiting_by", Assert.Single(Waited("2026-03-10 14:00", who: "").Faults).Field);

    [Theory]
    [InlineData("14:00")]
    [InlineData("2026-03-10")]
    [InlineData("2026-03-10 25:00")]
    [InlineData("2026-02-30 14:00")]
    [InlineData("soon")]
    public void Csv_with_an_hour_that_is_none_is_refused(string by) => Assert.Equal("waiting_by", Assert.Single(Waited(by).Faults).Field);

    static TradeFile Waited(string by, string who = "a job") =>
        Read(
            "order,vendor,line,item,quantity,waiting_quantity,waiting_for,waiting_by,due,site\n"
                + $"PO-1,QUER,1,SH-1,7,5,{who},{by},2026-03-10,LM\n"
        );

    [Fact]
    public void Csv_that_says_neither_yes_nor_no_of_an_inspection_is_refused() =>
        Assert.Equal(
            "inspect",
            Assert.Single(Read("order,vendor,line,item,quantity,inspect,due,site\nPO-1,QUER,1,SH-1,7,maybe,2026-03-10,LM\n").Faults).Field
        );

    [Fact]
    public void Csv_other_columns_are_named_and_left_alone()
    {
        var file = Read("order,vendor,line,item,buyer,quantity,due,site\nPO-1,QUER,1,SH-1,Jo,4,2026-03-10,LM\n");
        Assert.Single(file.Orders);
        Assert.Equal("Column buyer is not known here and was left alone.", Assert.Single(file.Notes));
        Assert.Equal(
            ["quantity"],
            Read("order,vendor,line,item,qty,due,site\nPO-1,QUER,1,SH-1,4,2026-03-10,LM\n").Faults.Select(f => f.Field)
        );
    }

    /// <summary>The same words in the bytes of each encoding: byte-order marks by Unicode, XML 1.0 appendix F, ISO 9735 syntax
    /// identifiers.</summary>
    public static TheoryData<byte[], string> Encoded() =>
        new()
        {
            { [.. Encoding.UTF8.Preamble, .. "Größe"u8], "Größe" },
            { Encoding.UTF8.GetBytes("Größe"), "Größe" },
            { [.. Encoding.Unicode.Preamble, .. Encoding.Unicode.GetBytes("Größe")], "Größe" },
            { [.. Encoding.BigEndianUnicode.Preamble, .. Encoding.BigEndianUnicode.GetBytes("Größe")], "Größe" },
            { Encoding.Unicode.GetBytes("<a>ß</a>"), "<a>ß</a>" },
            {
                Encoding.Latin1.GetBytes("<?xml version='1.0' encoding='ISO-8859-1'?><a>ß</a>"),
                "<?xml version='1.0' encoding='ISO-8859-1'?><a>ß</a>"
            },
            { Encoding.Latin1.GetBytes("UNB+UNOC:3+Größe'"), "UNB+UNOC:3+Größe'" },
            { Encoding.Latin1.GetBytes("UNA:+.? 'UNB+UNOC:3+Größe'"), "UNA:+.? 'UNB+UNOC:3+Größe'" },
            { Encoding.UTF8.GetBytes("UNB+UNOY:3+Größe'"), "UNB+UNOY:3+Größe'" },
            { "UNB+UNOA:3+GROESSE'"u8.ToArray(), "UNB+UNOA:3+GROESSE'" },
        };

    [Theory]
    [MemberData(nameof(Encoded))]
    public void A_file_is_read_in_the_encoding_it_says(byte[] bytes, string text) => Assert.Equal(text, FileText.Read(bytes).Value);

    public static TheoryData<byte[], string> Unreadable() =>
        new()
        {
            { Encoding.Latin1.GetBytes("Größe"), "The file is no UTF-8: byte 3 is none of its characters." },
            { Encoding.Latin1.GetBytes("UNB+UNOY:3+Größe'"), "The file is no UNOY" },
            { Encoding.UTF8.GetBytes("UNB+UNOA:3+Größe'"), "The file is no UNOA" },
            { "UNB+UNOX:3+A'"u8.ToArray(), "written in UNOX" },
            { "<?xml version='1.0' encoding='KLINGON'?><a/>"u8.ToArray(), "written in KLINGON" },
        };

    [Theory]
    [MemberData(nameof(Unreadable))]
    public void A_file_that_is_not_in_its_encoding_is_refused(byte[] bytes, string sentence)
    {
        Assert.True(FileText.Read(bytes).Refused(out var refusal));
        Assert.Contains(sentence, refusal.Sentence, StringComparison.Ordinal);
    }
}
