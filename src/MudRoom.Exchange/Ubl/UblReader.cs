using System.Xml;
using System.Xml.Linq;

namespace MudRoom.Exchange.Ubl;

/// <summary>
/// Order, OrderChange, OrderCancellation and DespatchAdvice of OASIS UBL 2.x, in the subset of docs/formats/ubl.md. The structure stands
/// here from the standard; the schemas are not at hand. Document types and outside entities are refused.
/// </summary>
public static class UblReader
{
    /// <summary>Deepest nesting; the deepest that UBL uses lies below 20.</summary>
    const int MostDeep = 40;

    /// <summary>Most elements of a document.</summary>
    const int MostElements = 4_000_000;

    /// <summary>Reads and checks the whole document.</summary>
    public static TradeFile Read(string text, Known known)
    {
        if (TooMuch(text) is { } much)
            return TradeFile.Unread("UBL", much);
        XElement root;
        try
        {
            using var reader = Reader(text);
            root = XElement.Load(reader, LoadOptions.SetLineInfo);
        }
        catch (XmlException failure)
        {
            var reason = failure.Message.Contains("DTD", StringComparison.Ordinal)
                ? "A document type is not taken."
                : "This is no well-formed XML.";
            return TradeFile.Unread("UBL", new FileFault(Math.Max(1, failure.LineNumber), "", "", reason));
        }

        var name = root.Name.LocalName;
        if (root.Name.NamespaceName != $"{UblNames.Root}{name}-2")
            return TradeFile.Unread("UBL", new FileFault(root.Line(), name, root.Name.NamespaceName, "This is no document of UBL 2."));
        var resolver = new Resolver(known);
        List<OrderMessage> orders = [];
        List<AdviceMessage> advices = [];
        switch (name)
        {
            case "Order":
                if (UblOrders.Read(root, OrderAction.New, resolver) is { } order)
                    orders.Add(order);
                break;
            case "OrderChange":
                if (UblOrders.Read(root, OrderAction.Change, resolver) is { } change)
                    orders.Add(change);
                break;
            case "OrderCancellation":
                if (UblOrders.Read(root, OrderAction.Cancel, resolver) is { } cancellation)
                    orders.Add(cancellation);
                break;
            case "DespatchAdvice":
                if (UblAdvices.Read(root, resolver) is { } advice)
                    advices.Add(advice);
                break;
            default:
                resolver.Fault(root.Line(), name, "", "only Order, OrderChange, OrderCancellation and DespatchAdvice are taken");
                break;
        }

        PassOver(root, resolver);
        return resolver.Finish($"UBL {name}", orders, advices);
    }

    static XmlReader Reader(string text) =>
        XmlReader.Create(
            new StringReader(text.TrimStart('\ufeff').TrimStart()),
            new XmlReaderSettings { DtdProcessing = DtdProcessing.Prohibit, XmlResolver = null }
        );

    /// <summary>Looks over the document once, without building it: what is nested or repeated beyond all use is refused before it costs
    /// anything.</summary>
    static FileFault? TooMuch(string text)
    {
        try
        {
            using var reader = Reader(text);
            var elements = 0;
            while (reader.Read())
            {
                if (reader.NodeType != XmlNodeType.Element)
                    continue;
                if (reader.Depth > MostDeep)
                    return new FileFault(
                        ((IXmlLineInfo)reader).LineNumber,
                        reader.LocalName,
                        "",
                        $"The document is nested more than {MostDeep} deep."
                    );
                if (++elements > MostElements)
                    return new FileFault(
                        ((IXmlLineInfo)reader).LineNumber,
                        reader.LocalName,
                        "",
                        $"The document has more than {MostElements} elements."
                    );
            }
        }
        catch (XmlException)
        {
            // The reading itself says where it is not well formed.
        }

        return null;
    }

    /// <summary>Notes every element that is none of those read here, without going into it.</summary>
    static void PassOver(XElement from, Resolver resolver)
    {
        foreach (var child in from.Elements())
        {
            if (UblNames.Read.Contains(child.Name.LocalName))
                PassOver(child, resolver);
            else
                resolver.PassOver("Element " + child.Name.LocalName);
        }
    }
}
