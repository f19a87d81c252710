using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Tests;

/// <summary>Entries of the book as a site at UTC reads them.</summary>
static class EntryWords
{
    public static string InWords(this LedgerEntry entry) => entry.Words(new Wording(Language.English, at => at.UtcDateTime));
}
