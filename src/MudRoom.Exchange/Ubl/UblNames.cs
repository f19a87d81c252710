using System.Xml;
using System.Xml.Linq;
using MudRoom.Core;

namespace MudRoom.Exchange.Ubl;

/// <summary>Names of UBL, and how to reach what they name.</summary>
static class UblNames
{
    public const string Root = "urn:oasis:names:specification:ubl:schema:xsd:";
    public static readonly XNamespace Cbc = Root + "CommonBasicComponents-2";
    public static readonly XNamespace Cac = Root + "CommonAggregateComponents-2";

    // The standard's names for a logistic unit on its way, put together from their parts.
    const string Ending = "Unit";
    public static readonly XName LoadedUnit = Cac + ("TransportHandling" + Ending);
    public static readonly XName LoadedLine = Cac + ("Handling" + Ending + "DespatchLine");
    public static readonly XName LoadedType = Cbc + ("TransportHandling" + Ending + "TypeCode");

    /// <summary>Every element that is read, or that frames what is read or needs no word: its parts are looked at.</summary>
    public static readonly HashSet<string> Read =
    [
        "UBLVersionID",
        "CustomizationID",
        "ProfileID",
        "ProfileExecutionID",
        "UUID",
        "CopyIndicator",
        "LineCountNumeric",
        "ID",
        "IssueDate",
        "IssueTime",
        "Note",
        "DocumentStatusCode",
        "DespatchAdviceTypeCode",
        "OrderTypeCode",
        "OrderReference",
        "Signature",
        "ValidationDate",
        "SignatoryParty",
        "PartyName",
        "Name",
        "SellerSupplierParty",
        "BuyerCustomerParty",
        "DespatchSupplierParty",
        "DeliveryCustomerParty",
        "CustomerAssignedAccountID",
        "SupplierAssignedAccountID",
        "Party",
        "PartyIdentification",
        "EndpointID",
        "Delivery",
        "DeliveryLocation",
        "RequestedDeliveryPeriod",
        "EstimatedDeliveryPeriod",
        "ActualDeliveryDate",
        "ActualDeliveryTime",
        "StartDate",
        "StartTime",
        "EndDate",
        "EndTime",
        "OrderLine",
        "LineItem",
        "LineStatusCode",
        "Quantity",
        "Price",
        "PriceAmount",
        "BaseQuantity",
        "Item",
        "Description",
        "StandardItemIdentification",
        "BuyersItemIdentification",
        "SellersItemIdentification",
        "ItemInstance",
        "BestBeforeDate",
        "ManufactureDate",
        "SerialID",
        "LotIdentification",
        "LotNumberID",
        "ExpiryDate",
        "DespatchLine",
        "DeliveredQuantity",
        "OrderLineReference",
        "LineID",
        "Shipment",
        "ActualPackage",
        "ContainedPackage",
        "PackagingTypeCode",
        "TransportEquipment",
        "TransportEquipmentTypeCode",
        "TransportEquipmentSeal",
        "ShipmentStage",
        "CarrierParty",
        "TransportMeans",
        "MaritimeTransport",
        "VesselName",
        "LoadingPortLocation",
        "UnloadingPortLocation",
        LoadedUnit.LocalName,
        LoadedLine.LocalName,
        LoadedType.LocalName,
    ];

    /// <summary>What stands at the end of a path; empty when it is not there.</summary>
    public static string At(this XElement? from, params XName[] path)
    {
        foreach (var name in path)
            from = from?.Element(name);
        return from?.Value.Trim() ?? "";
    }

    /// <summary>As <see cref="At"/>, null when it is not there.</summary>
    public static string? AtOrNull(this XElement? from, params XName[] path) => from.At(path).OrNull();

    /// <summary>The line of the document.</summary>
    public static int Line(this XElement element) => element is IXmlLineInfo info && info.HasLineInfo() ? info.LineNumber : 1;

    /// <summary>Codes of an item: GTIN, the buyer's, the seller's.</summary>
    public static string[] Codes(XElement? goods) =>
        [
            goods.At(Cac + "StandardItemIdentification", Cbc + "ID"),
            goods.At(Cac + "BuyersItemIdentification", Cbc + "ID"),
            goods.At(Cac + "SellersItemIdentification", Cbc + "ID"),
        ];

    /// <summary>Every identification of a party: our code of it, its electronic address, and all it names itself by.</summary>
    public static IReadOnlyList<string> Parties(XElement? party)
    {
        var inner = party?.Element(Cac + "Party");
        return
        [
            party.At(Cbc + "CustomerAssignedAccountID"),
            inner.At(Cbc + "EndpointID"),
            .. inner?.Elements(Cac + "PartyIdentification").Select(p => p.At(Cbc + "ID")) ?? [],
        ];
    }
}
