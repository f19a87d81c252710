using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>Works out what the entries of a database from before are about, so that what happened then is found too. Marked as derived, and
/// no part of what is hashed.</summary>
static class ReferencesFromBefore
{
    /// <summary>True where entries are there and it was never noted up to which one the references are written.</summary>
    public const string Missing = $"""
        SELECT EXISTS (SELECT 1 FROM "Ledger") AND ({ReferencesBehind.WrittenUpTo}) = 0
        """;

    /// <summary>Gives them, where there are entries without; nothing otherwise.</summary>
    public static async Task Give(MudRoomDb db)
    {
        if (!await db.Database.SqlQueryRaw<bool>($"SELECT ({Missing}) AS \"Value\"").SingleAsync())
            return;
        await using var whole = await db.Database.BeginTransactionAsync();
        var connection = (Microsoft.Data.Sqlite.SqliteConnection)db.Database.GetDbConnection();
        using var insert = new RowCommands<EntryReference>(connection, db.Model, withKey: true);
        var bins = await BinsByAddress(db);
        var upTo = 0L;
        await foreach (var entry in db.Ledger.IgnoreQueryFilters().AsNoTracking().OrderBy(e => e.Seq).AsAsyncEnumerable())
        {
            foreach (var row in StockBook.RowsOf(entry, bins))
                insert.Insert(row);
            upTo = entry.Seq;
        }

        using var note = new Prepared(connection, ReferencesBehind.NoteText);
        note.Bind(1, upTo.ToString(System.Globalization.CultureInfo.InvariantCulture));
        note.Run();
        await whole.CommitAsync();
    }

    /// <summary>Bins by site and address.</summary>
    public static async Task<Dictionary<(int SiteId, string Address), int>> BinsByAddress(MudRoomDb db) =>
        await db.Bins.AsNoTracking().ToDictionaryAsync(b => (b.SiteId, b.Address), b => b.Id);
}
