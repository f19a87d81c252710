using MudRoom.Core.Site;

namespace MudRoom.Core.Book;

/// <summary>Somebody mailed somebody outside. To whom stands with the letter, and not in the book, which never forgets.</summary>
/// <param name="Of">The number of what it is about.</param>
/// <param name="Title">Its subject.</param>
public sealed record MailSent(string Of, string Title, string By) : Fact(EntryKind.Mailed, Of)
{
    public override string Words(Wording wording) => $"{By} mailed about {Of}: {Title}";
}

/// <summary>An entry was undone.</summary>
/// <param name="Of">The subject of what was undone.</param>
/// <param name="What">What was undone; null for an entry from before there were facts.</param>
/// <param name="Said">Such an entry's sentence.</param>
public sealed record Undone(string Of, Fact? What, string? Said, string Reason) : Fact(EntryKind.Undone, Of)
{
    public override string Words(Wording wording) =>
        $"Taken back: {(What?.Words(wording) ?? Said)!.TrimEnd('.')}. Why: {Reason.TrimEnd('.')}.";
}

/// <summary>Goods have another standing, since something else is said of them.</summary>
/// <param name="Since">What happened that they have it.</param>
public sealed record Restood(Fact Since, decimal Quantity, string Bin, string Standing) : Fact(Since.Kind, Since.Subject)
{
    public override string Words(Wording wording) =>
        $"{Since.Words(wording).TrimEnd('.')}: {Quantities.Show(Quantity)} in {Bin} now {Standing}.";
}

/// <param name="Of">The papers for which they were parted.</param>
public sealed record LotSplit(string Of, decimal Quantity, string Bin, int Lot, int Parent) : Fact(EntryKind.LotSplit, Of)
{
    public override string Words(Wording wording) => $"{Quantities.Show(Quantity)} in {Bin} are lot {Lot} now, split off lot {Parent}.";
}

/// <param name="Of">The papers for which they had been parted.</param>
public sealed record LotJoined(string Of, decimal Quantity, string Bin, int Lot) : Fact(EntryKind.LotJoined, Of)
{
    public override string Words(Wording wording) => $"{Quantities.Show(Quantity)} in {Bin} are of lot {Lot} again.";
}

/// <summary>Goods from before there were lots were given one.</summary>
public sealed record LotNamed(int Lot, decimal Quantity) : Fact(EntryKind.LotNamed, $"lot {Lot}")
{
    public override string Words(Wording wording) => $"{Quantities.Show(Quantity)} are lot {Lot} from now on.";
}

/// <summary>Goods stood here when the book began.</summary>
public sealed record StockOpened(string Bin, Amount Goods) : Fact(EntryKind.OpeningStock, Bin)
{
    public override string Words(Wording wording) => $"{Goods.Words} stood in {Bin}.";
}

/// <param name="SourceBatch">By which the book finds its corrections, whatever its number was and is.</param>
/// <param name="Changes">What is known now and was known before, in words.</param>
public sealed record SourceBatchCorrected(int SourceBatch, string Number, string Item, IReadOnlyList<string> Changes, string Reason)
    : Fact(EntryKind.SourceBatchCorrected, SubjectOf(SourceBatch))
{
    public override string Words(Wording wording) => $"Source batch {Number} of {Item}: {string.Join("; ", Changes)}. {Reason}";

    /// <summary>The subject of a source batch's entries.</summary>
    public static string SubjectOf(int id) => $"source batch {id}";
}

/// <summary>What a standing means was said anew.</summary>
/// <param name="Was">Its word before; null where it is new.</param>
/// <param name="Places">The places that may take it, in words.</param>
public sealed record StandingSet(string Site, string Word, string? Was, StandingKind Of, bool Retired, string Places, Lets Lets, int Rank)
    : Fact(EntryKind.SetUpChanged, Site)
{
    /// <summary>What became of it, without what it means.</summary>
    public string Done() =>
        Was is null ? $"Standing {Word} was added, of the kind {StandingDefinition.KindWord(Of)}"
        : Retired ? $"Standing {Word} was retired"
        : Was != Word ? $"Standing {Was} is called {Word} from now on"
        : $"Standing {Word} was changed";

    public override string Words(Wording wording) =>
        $"{Done()}: stands in {Places}, lets {StandingDefinition.LetsWords(Lets)}, rank {Rank}.";
}

/// <summary>Goods that were kept for somebody are free for anybody.</summary>
/// <param name="Demand">Who waited for them.</param>
public sealed record KeepingEnded(string Demand, Amount Goods, string Bin, string Reason) : Fact(EntryKind.KeepingEnded, Demand)
{
    public override string Words(Wording wording) => $"{Goods.Words} in {Bin} are not kept for {Demand} any more{Behind(": ", Reason)}.";
}
