using System.Globalization;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Hosting;
using MudRoom.Server.Road;

namespace MudRoom.Server.Demo;

/// <summary>What the partner is asked to send.</summary>
public enum PartnerMessage
{
    /// <summary>A new order as UBL.</summary>
    Order,

    /// <summary>A change of an open order as EDIFACT.</summary>
    OrderChange,

    /// <summary>A despatch advice of an open order as EDIFACT, with units, batches and dates.</summary>
    Advice,

    /// <summary>The same, days after the order is due.</summary>
    LateAdvice,

    /// <summary>An advice with more than was ordered and an item nobody knows.</summary>
    OddAdvice,

    /// <summary>A file with a wrong check digit and an unknown vendor.</summary>
    WrongFile,
}

/// <summary>Asks the partner for a message.</summary>
public sealed record PartnerRequest(PartnerMessage Message);

/// <summary>The file that was laid into the watched folder.</summary>
public sealed record PartnerAnswer(string File, string Text);

/// <summary>A simulated vendor that ships with Mud Room: it lays messages into the watched folder when it is asked, some late, some
/// wrong.</summary>
public static class Partner
{
    public static void Map(SiteRoutes routes, ServerSettings settings) =>
        routes.Check<PartnerRequest, Results<Ok<PartnerAnswer>, ProblemHttpResult>>("/demo/partner", Right.KeepOrders, (inquiry, request) =>
            Send(inquiry, request, settings)
        );

    static async Task<Results<Ok<PartnerAnswer>, ProblemHttpResult>> Send(Inquiry inquiry, PartnerRequest request, ServerSettings settings)
    {
        if (!settings.IsDemo)
            return Problems.Of(Problems.NotFound("page", "partner"));
        var number =
            inquiry.Now.ToString("HHmmssfff", CultureInfo.InvariantCulture)
            + Random.Shared.Next(100, 1000).ToString(CultureInfo.InvariantCulture);
        var part = await inquiry
            .Db.LineParts.Include(p => p.Line!)
                .ThenInclude(l => l.Order)
            .Where(p => p.SiteId == inquiry.Site.Id && p.IsOpen && p.Coming == null && p.Received == 0)
            .OrderByDescending(p => p.Due)
            .FirstOrDefaultAsync();
        if (part is null && request.Message is not (PartnerMessage.Order or PartnerMessage.WrongFile))
            return Problems.Of(
                new Refusal(HouseRefusals.NothingOpen, "No open order is left that nothing brings yet.", "Ask for an order first.")
            );
        var (extension, text) = request.Message switch
        {
            PartnerMessage.Order => ("xml", Order(inquiry, number)),
            PartnerMessage.OrderChange => ("edi", Change(inquiry, number, part!)),
            PartnerMessage.Advice => ("edi", Advice(inquiry, number, part!, 1, part!.Open, null)),
            PartnerMessage.LateAdvice => (
                "edi",
                Advice(inquiry, number, part!, Math.Max(1, part!.Due.DayNumber - inquiry.Today.DayNumber) + 4, part.Open, null)
            ),
            PartnerMessage.OddAdvice => ("edi", Advice(inquiry, number, part!, 1, part!.Open * 2, "MYSTERY-7")),
            PartnerMessage.WrongFile => (
                "csv",
                $"""
                order,vendor,line,item,quantity,due,site
                PO-{number},NOBODY,1,09521234100074,10,{inquiry.Today:yyyy-MM-dd},{inquiry.Site.Code}
                PO-{number},NOBODY,2,SC-21,-3,1900-01-01,NOWHERE

                """
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(request), request.Message, null),
        };
        var folder = WatchedFolder.FolderOf(settings, inquiry.Site.Code);
        Directory.CreateDirectory(folder);
        var name = $"{request.Message.ToString().ToLowerInvariant()}-{number}.{extension}";
        await File.WriteAllTextAsync(Path.Combine(folder, name), text, new UTF8Encoding(false));
        return TypedResults.Ok(new PartnerAnswer(name, text));
    }

    static string Order(Inquiry inquiry, string number)
    {
        var item = inquiry
            .SetUp.Catalogue.Items.OrderBy(i => i.Id)
            .ElementAt(int.Parse(number[^3..], CultureInfo.InvariantCulture) % inquiry.SetUp.Catalogue.Items.Count);
        var vendor = inquiry.SetUp.Vendors[item.VendorCodes[0].VendorId];
        var pack = item.PackLevels.MaxBy(p => p.Content(1))!;
        return $"""
            <?xml version="1.0" encoding="UTF-8"?>
            <Order xmlns="urn:oasis:names:specification:ubl:schema:xsd:Order-2"
                xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2"
                xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2">
              <cbc:UBLVersionID>2.1</cbc:UBLVersionID>
              <cbc:ID>PO-{number}</cbc:ID>
              <cbc:IssueDate>{inquiry.Today:yyyy-MM-dd}</cbc:IssueDate>
              <cac:BuyerCustomerParty>
                <cac:Party><cac:PartyIdentification><cbc:ID>{inquiry.Site.Code}</cbc:ID></cac:PartyIdentification></cac:Party>
              </cac:BuyerCustomerParty>
              <cac:SellerSupplierParty>
                <cac:Party><cac:PartyIdentification><cbc:ID>{vendor.Code}</cbc:ID></cac:PartyIdentification></cac:Party>
              </cac:SellerSupplierParty>
              <cac:Delivery>
                <cac:DeliveryLocation><cbc:ID>{inquiry.Site.Code}</cbc:ID></cac:DeliveryLocation>
                <cac:RequestedDeliveryPeriod><cbc:EndDate>{inquiry.Today.AddDays(6):yyyy-MM-dd}</cbc:EndDate></cac:RequestedDeliveryPeriod>
              </cac:Delivery>
              <cac:OrderLine>
                <cac:LineItem>
                  <cbc:ID>1</cbc:ID>
                  <cbc:Quantity unitCode="{item.BaseUnit}">{Quantities.Show(pack.Content(4)).Replace(
                " ",
                "",
                StringComparison.Ordinal
            )}</cbc:Quantity>
                  <cac:Item><cbc:Name>{System.Security.SecurityElement.Escape(
                item.Name
            )}</cbc:Name><cac:BuyersItemIdentification><cbc:ID>{item.Code}</cbc:ID></cac:BuyersItemIdentification></cac:Item>
                </cac:LineItem>
              </cac:OrderLine>
            </Order>
            """;
    }

    static string Change(Inquiry inquiry, string number, LinePart part)
    {
        var item = inquiry.SetUp.Catalogue[part.ItemId];
        return Interchange(
            inquiry,
            number,
            "ORDCHG",
            [
                $"BGM+230+C{number}+4",
                $"DTM+137:{inquiry.Today:yyyyMMdd}:102",
                $"RFF+ON:{part.Line!.Order!.Number}",
                $"LIN+{part.Line.Number}+3",
                $"PIA+1+{item.Code}:IN",
                $"QTY+21:{Plain(part.Ordered + item.PackLevels.Where(p => !p.IsUnit).Max(p => p.Content(1)))}:{item.BaseUnit}",
                $"DTM+2:{part.Due.AddDays(2):yyyyMMdd}:102",
                "UNS+S",
            ]
        );
    }

    static string Advice(Inquiry inquiry, string number, LinePart part, int inDays, decimal quantity, string? strange)
    {
        var item = inquiry.SetUp.Catalogue[part.ItemId];
        var vendor = inquiry.SetUp.Vendors[part.VendorId];
        var unit = item.PackLevels.Find(p => p.IsUnit)?.Content(1) ?? quantity;
        var segments = new List<string>
        {
            $"BGM+351+DA-{number}+9",
            $"DTM+137:{inquiry.Today:yyyyMMdd}:102",
            $"DTM+17:{inquiry.Today.AddDays(inDays):yyyyMMdd}1000:203",
            $"RFF+ON:{part.Line!.Order!.Number}",
            $"NAD+SU+{vendor.Code}",
            $"NAD+DP+{inquiry.Site.Code}",
            "CPS+1",
        };
        var group = 2;
        var left = quantity;
        for (var n = 0; left > 0 && n < 40; n++)
        {
            var takes = Math.Min(left, unit);
            var body = $"39521236{number[^6..]}{n:000}";
            segments.AddRange([
                $"CPS+{group++}+1",
                "PAC+1++201",
                "PCI+33E",
                $"GIN+BJ+{body}{CheckDigit.For(body)}",
                $"LIN+{n + 1}",
                $"PIA+1+{item.Code}:IN",
                $"QTY+12:{Plain(takes)}:{item.BaseUnit}",
                $"RFF+ON:{part.Line.Order.Number}:{part.Line.Number}",
            ]);
            if (item.NeedsDates)
                segments.AddRange([
                    $"DTM+94:{inquiry.Today.AddDays(-20):yyyyMMdd}:102",
                    $"DTM+361:{inquiry.Today.AddDays((item.ShelfLifeDays ?? 400) - 20):yyyyMMdd}:102",
                ]);
            if (item.NeedsSourceBatch)
                segments.AddRange(["PCI+36E", $"GIN+BX+{item.BatchPrefix}-{number[^4..]}"]);
            left -= takes;
        }

        if (strange is not null)
            segments.AddRange([$"CPS+{group}+1", "PAC+1++201", "LIN+90", $"PIA+1+{strange}:SA", "QTY+12:24:EA"]);
        return Interchange(inquiry, number, "DESADV", segments);
    }

    static string Interchange(Inquiry inquiry, string number, string type, List<string> segments)
    {
        var text = new StringBuilder("UNA:+.? '\n");
        text.Append(
            CultureInfo.InvariantCulture,
            $"UNB+UNOC:3+PARTNER+{inquiry.Site.Code}+{inquiry.Now:yyMMdd}:{inquiry.Now:HHmm}+{number}'\nUNH+1+{type}:D:01B:UN'\n"
        );
        foreach (var segment in segments)
            text.Append(segment).Append("'\n");
        text.Append(CultureInfo.InvariantCulture, $"UNT+{segments.Count + 2}+1'\nUNZ+1+{number}'\n");
        return text.ToString();
    }

    static string Plain(decimal quantity) => quantity.ToString("0.######", CultureInfo.InvariantCulture);
}
