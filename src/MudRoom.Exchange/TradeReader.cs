using MudRoom.Core.Site;
using MudRoom.Exchange.Csv;
using MudRoom.Exchange.Edifact;
using MudRoom.Exchange.Ubl;

namespace MudRoom.Exchange;

/// <summary>Reads any file of trade that Mud Room knows, by what is in it and not by its name.</summary>
public static class TradeReader
{
    /// <summary>Reads and checks the whole text.</summary>
    public static TradeFile Read(string text, Known known, DateOnly today)
    {
        var begins = text.AsSpan().TrimStart('\ufeff').TrimStart();
        if (begins.StartsWith("UNA") || begins.StartsWith("UNB"))
            return EdifactReader.Read(text, known);
        if (begins.StartsWith("<"))
            return UblReader.Read(text, known);
        if (begins.StartsWith("%PDF") || begins.StartsWith("PK\u0003") || text.AsSpan(0, Math.Min(text.Length, 4000)).Contains('\0'))
            return TradeFile.Unread("unknown", new FileFault(1, "", "", "This is no CSV, UBL or EDIFACT file."));
        var file = OrderCsv.Read(text, known, today);
        return new TradeFile("CSV orders", [.. file.Rows.GroupBy(r => r.Order).Select(MessageOf)], [], file.Faults) { Notes = file.Notes };
    }

    static OrderMessage MessageOf(IGrouping<string, OrderRow> rows) =>
        new(
            rows.First().FileLine,
            OrderAction.New,
            rows.Key,
            rows.First().Kind,
            rows.First().Vendor,
            rows.First().OrderDate,
            [
                .. rows.Select(r => new TradeLine(
                    r.FileLine,
                    LineAction.Add,
                    r.Line,
                    r.Item,
                    r.Quantity,
                    r.Due,
                    r.Site,
                    r.Price,
                    null,
                    r.AsksInspection,
                    r.Waits,
                    r.Return
                )),
            ],
            []
        );
}
