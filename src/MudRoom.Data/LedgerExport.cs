using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>Writes the ledger so that another program can verify it: one entry a line, as docs/formats/ledger.md says.</summary>
public static class LedgerExport
{
    /// <summary>Writes all entries, in order.</summary>
    /// <returns>How many.</returns>
    public static async Task<long> Write(MudRoomDb db, TextWriter to)
    {
        var count = 0L;
        await foreach (var entry in db.Ledger.IgnoreQueryFilters().AsNoTracking().OrderBy(e => e.Seq).AsAsyncEnumerable())
        {
            await to.WriteAsync(Line(entry) + "\n");
            count++;
        }

        return count;
    }

    /// <summary>One entry as JSON. What JSON's numbers cannot hold exactly is text.</summary>
    static string Line(LedgerEntry e) =>
        new JsonObject
        {
            ["hashVersion"] = e.HashVersion,
            ["previousHash"] = e.PreviousHash,
            ["seq"] = e.Seq,
            ["siteId"] = e.SiteId,
            ["kind"] = (int)e.Kind,
            ["atTicks"] = e.At.UtcTicks.ToString(CultureInfo.InvariantCulture),
            ["personId"] = e.PersonId,
            ["personName"] = e.PersonName,
            ["device"] = e.Device,
            ["actId"] = e.ActId.ToString("N"),
            ["subject"] = e.Subject,
            ["sentence"] = e.Sentence,
            ["undoes"] = e.Undoes,
            ["itemId"] = e.ItemId,
            ["batchId"] = e.BatchId,
            ["unitId"] = e.UnitId,
            ["serial"] = e.Serial,
            ["quantity"] = e.Quantity?.ToString(LedgerEntry.QuantityForm, CultureInfo.InvariantCulture),
            ["fromAccount"] = (int?)e.FromAccount,
            ["fromBinId"] = e.FromBinId,
            ["fromStanding"] = e.FromStanding?.Id,
            ["toAccount"] = (int?)e.ToAccount,
            ["toBinId"] = e.ToBinId,
            ["toStanding"] = e.ToStanding?.Id,
            ["lotId"] = e.LotId,
            ["toLotId"] = e.ToLotId,
            ["fact"] = e.Fact,
            ["hash"] = e.Hash,
        }.ToJsonString(JsonSerializerOptions.Default);
}
