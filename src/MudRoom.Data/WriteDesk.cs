using System.Runtime.ExceptionServices;
using System.Threading.Channels;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;

namespace MudRoom.Data;

/// <summary>What a piece of writing works with.</summary>
/// <param name="Db">Tracks what the piece reads and changes.</param>
/// <param name="Book">The ledger and the balances.</param>
/// <param name="InHand">What earlier pieces left in hand for the next.</param>
/// <param name="Store">What stands in every bin, before this piece.</param>
/// <param name="Sheets">The findings of the sheets that were written on last.</param>
/// <param name="FindDone">Looks for an act that was done already.</param>
public sealed record WriteScope(
    MudRoomDb Db,
    StockBook Book,
    InHand InHand,
    StorePicture Store,
    SheetsRead Sheets,
    Func<Guid, DoneAct?> FindDone
)
{
    readonly List<object> appended = [];

    /// <summary>Rows to be appended when the piece is kept, in order.</summary>
    public IReadOnlyList<object> Appended => appended;

    /// <summary>Appends a row that nothing tracks.</summary>
    public void Append(object row) => appended.Add(row);
}

/// <summary>
/// What a run of alike pieces keeps in hand, untracked and as saved: the one writer is the only one who changes it, so it need
/// not be read again. A piece that does not say that it keeps to this, and any that is refused or fails, lets all of it go.
/// </summary>
public sealed class InHand
{
    readonly Dictionary<string, object> kept = [];
    readonly HashSet<object> changed = [];

    /// <summary>True when the piece that runs now keeps to what is in hand.</summary>
    public bool Stays { get; private set; }

    /// <summary>What the piece has changed of it; written, once for all of a group, when the piece is kept.</summary>
    public IReadOnlyCollection<object> Changed => changed;

    /// <summary>Said first by a piece that reads these rows only from here, so that there is one instance of each.</summary>
    public void ReadOnlyFromHere() => Stays = true;

    /// <summary>What is in hand under a name; read, untracked, when it is not there; null when it is nowhere.</summary>
    public T? Get<T>(string name, Func<T?> read)
        where T : class
    {
        if (kept.TryGetValue(name, out var there))
            return (T)there;
        var found = read();
        if (found is not null)
            kept[name] = found;
        return found;
    }

    /// <summary>Marks a row that is in hand as changed.</summary>
    public void Change(object row) => changed.Add(row);

    /// <summary>A new piece begins: nothing is in its hand until it says so.</summary>
    internal void Begin()
    {
        Stays = false;
        changed.Clear();
    }

    /// <summary>Lets all go.</summary>
    internal void Forget() => kept.Clear();
}

/// <summary>
/// All acts are written here, one after another, each in its own savepoint; what waits together is committed together, and
/// nobody is told "done" before the commit is on the disk. One writer needs no locks and cannot deadlock with itself.
/// </summary>
public sealed class WriteDesk : IAsyncDisposable
{
    const int MostTogether = 256;

    readonly TimeSpan idle;
    readonly Channel<Piece> waiting = Channel.CreateUnbounded<Piece>(new UnboundedChannelOptions { SingleReader = true });
    readonly SqliteConnection connection;
    readonly Task writer;
    readonly Dictionary<Type, IRowCommands> rows;
    readonly ReferencesBehind references;
    readonly DoneActLookup doneActs;
    readonly Savepoint savepoint;
    readonly InHand inHand = new();
    readonly SheetsRead sheets = new();
    readonly UpdatesHeldBack updates = new();
    MudRoomDb db;
    ChainHead head;

    /// <summary>Opens the one writing connection on a database that is migrated already.</summary>
    /// <param name="file">The database.</param>
    /// <param name="idle">So long nothing comes before what is left to write behind is written; a quarter of a second unless it is
    /// said.</param>
    public WriteDesk(string file, TimeSpan? idle = null)
    {
        this.idle = idle ?? TimeSpan.FromMilliseconds(250);
        connection = Database.Open(file);
        // The log is folded into the database less often, and what is written much stays in memory: 16 MB of the one, 8 of the other.
        using (var tune = connection.CreateCommand())
        {
            // What a savepoint might have to put back lies in memory, not in a file of its own: it is worth nothing after a crash.
            tune.CommandText = "PRAGMA wal_autocheckpoint=4000; PRAGMA cache_size=-8000; PRAGMA temp_store=MEMORY;";
            tune.ExecuteNonQuery();
        }

        var path = Path.GetFullPath(file);
        Store = new StorePicture(() => HiddenImport.Of(path) != HiddenImport.None);
        references = new ReferencesBehind(connection);
        db = NewContext();
        head = ReadHead();
        references.Hold(NotYetWritten());
        rows = new Dictionary<Type, IRowCommands>
        {
            [typeof(LedgerEntry)] = new RowCommands<LedgerEntry>(connection, db.Model),
            [typeof(DoneAct)] = new RowCommands<DoneAct>(connection, db.Model),
            [typeof(TallyEntry)] = new RowCommands<TallyEntry>(connection, db.Model),
            [typeof(ManifestLine)] = new RowCommands<ManifestLine>(connection, db.Model),
            [typeof(LinePart)] = new RowCommands<LinePart>(connection, db.Model),
            [typeof(Balance)] = new RowCommands<Balance>(connection, db.Model),
            [typeof(StoreTask)] = new RowCommands<StoreTask>(connection, db.Model),
            [typeof(Order)] = new RowCommands<Order>(connection, db.Model, withKey: true),
            [typeof(OrderLine)] = new RowCommands<OrderLine>(connection, db.Model, withKey: true),
        };
        doneActs = new DoneActLookup(connection);
        savepoint = new Savepoint(connection);
        writer = Task.Factory.StartNew(Work, TaskCreationOptions.LongRunning).Unwrap();
    }

    /// <summary>What stands in every bin.</summary>
    public StorePicture Store { get; }

    /// <summary>The connection, for the test that asserts its settings.</summary>
    public SqliteConnection Connection => connection;

    /// <summary>Does a piece of writing. When it returns false in Keep, or throws, nothing of it stays.</summary>
    /// <returns>What the work returned, once it is durable.</returns>
    public async Task<T> Do<T>(Func<WriteScope, Task<(T Result, bool Keep)>> work)
    {
        var piece = new Piece(async scope =>
        {
            var (result, keep) = await work(scope);
            return (result, keep);
        });
        if (!waiting.Writer.TryWrite(piece))
            throw new InvalidOperationException("The write desk is closed.");
        return (T)(await piece.Done.Task)!;
    }

    /// <summary>Tries whether it can write: done when what waits is written and a row was written and taken back.</summary>
    public Task Probe() =>
        Do(async scope =>
        {
            await scope.Db.Database.ExecuteSqlRawAsync(
                "INSERT INTO Notes (Name, Value) VALUES ('probe', randomblob(4096)) ON CONFLICT (Name) DO UPDATE SET Value = excluded.Value"
            );
            return (0, false);
        });

    /// <summary>Lets SQLite look at samples of its indexes, so that it chooses the right one for each question; some milliseconds at any
    /// size. Connections that are in use keep what they knew.</summary>
    public async Task Analyze()
    {
        await Do(async scope =>
        {
            await scope.Db.Database.ExecuteSqlRawAsync("PRAGMA analysis_limit=400; ANALYZE;");
            return (0, true);
        });
        SqliteConnection.ClearAllPools();
    }

    /// <summary>
    /// Waits until every entry is found from what it is about. To be called before the instant that is read begins. Where nothing can be
    /// written, on a full disk, nobody waits: what was found before is.
    /// </summary>
    public async Task CatchUp()
    {
        if (!references.Waits)
            return;
        try
        {
            await Do(scope =>
            {
                scope.InHand.ReadOnlyFromHere();
                references.Write();
                return Task.FromResult((0, true));
            });
        }
        catch (SqliteException)
        {
            // Reading goes on where writing cannot.
        }
    }

    /// <summary>Finishes what waits, then closes.</summary>
    public async ValueTask DisposeAsync()
    {
        waiting.Writer.TryComplete();
        await writer;
        foreach (var commands in rows.Values)
            commands.Dispose();
        references.Dispose();
        savepoint.Dispose();
        await db.DisposeAsync();
        await connection.DisposeAsync();
    }

    async Task Work()
    {
        var together = new List<Piece>();
        while (await NextOrIdle())
        {
            together.Clear();
            while (together.Count < MostTogether && waiting.Reader.TryRead(out var piece))
                together.Add(piece);
            try
            {
                await WriteTogether(together);
            }
            catch (Exception failure)
            {
                // Whatever happens to one group, the desk goes on with the next.
                foreach (var piece in together)
                    piece.Fail(failure);
            }
        }
    }

    /// <summary>Waits for the next piece; where none comes for a while, what is left to write behind is written.</summary>
    /// <returns>False when the desk is closed.</returns>
    async Task<bool> NextOrIdle()
    {
        var next = waiting.Reader.WaitToReadAsync().AsTask();
        if (references.Waits && !next.IsCompleted && await Task.WhenAny(next, Task.Delay(idle)) != next)
            await WriteBehind();
        var more = await next;
        if (!more && references.Waits)
            await WriteBehind();
        return more;
    }

    /// <summary>Writes what is left; where that fails it waits on, and the desk goes on.</summary>
    async Task WriteBehind()
    {
        try
        {
            await WriteTogether([]);
        }
        catch (Exception failure) when (failure is SqliteException or InvalidOperationException)
        {
            // Whoever asks for it next tries again, and the next start at the latest.
        }
    }

    async Task WriteTogether(List<Piece> pieces)
    {
        var before = head;
        Exception? why = null;
        try
        {
            await using var transaction = connection.BeginTransaction(deferred: false);
            try
            {
                await db.Database.UseTransactionAsync(transaction);
                updates.Begin();
                references.Begin();
                foreach (var piece in pieces)
                    await WriteOne(piece, transaction);
                updates.Write();
                if (pieces.Count == 0)
                    references.Write();
                else
                    references.WriteIfMany();
                await transaction.CommitAsync();
                references.Committed();
            }
            catch (Exception failure)
            {
                // Taking back what is taken back already fails too, and would hide why.
                why = failure;
                throw;
            }
        }
        catch (Exception last)
        {
            var failure = why ?? last;
            head = before;
            references.TakeBack(head.Seq);
            Store.LetGo();
            Forget();
            await RenewContext();
            foreach (var piece in pieces)
                piece.Fail(failure);
            return;
        }

        await db.Database.UseTransactionAsync(null);
        foreach (var piece in pieces)
            piece.Finish();
    }

    async Task WriteOne(Piece piece, SqliteTransaction transaction)
    {
        savepoint.Save();
        try
        {
            Store.Begin(db);
            inHand.Begin();
            updates.BeginPiece();
            references.BeginPiece();
            var book = new StockBook(db, head, inHand);
            var scope = new WriteScope(db, book, inHand, Store, sheets, id => doneActs.Find(id, transaction));
            var (result, keep) = await piece.Work(scope);
            if (keep)
            {
                book.Sweep();
                if (db.ChangeTracker.HasChanges())
                    await db.SaveChangesAsync();
                foreach (var row in book.Written.Concat(scope.Appended))
                    rows[row.GetType()].Insert(row);
                references.Hold(book.Written);
                foreach (var row in inHand.Changed)
                    updates.Hold(row, rows[row.GetType()]);
                head = book.Head;
                // What an import writes is hidden until it is whole: then all is read anew.
                if (book.Import != 0)
                    Store.LetGo();
                else
                    foreach (var entry in book.Written)
                        if (entry.Movement is { } movement)
                            Store.Apply(movement);
            }
            else
            {
                TakeBack();
            }

            if (!keep || !inHand.Stays)
                Forget();

            piece.Result = result;
            db.ChangeTracker.Clear();
        }
        catch (Exception failure)
        {
            try
            {
                TakeBack();
            }
            catch (Exception rollback) when (rollback is SqliteException or InvalidOperationException)
            {
                // A full disk takes the whole transaction back, savepoints and all: why is what matters.
                ExceptionDispatchInfo.Throw(failure);
            }

            piece.Failure = failure;
            Forget();
            await RenewContext();
            await db.Database.UseTransactionAsync(transaction);
        }

        savepoint.Release();
    }

    void Forget()
    {
        inHand.Forget();
        updates.Forget();
    }

    void TakeBack()
    {
        savepoint.TakeBack();
        updates.TakeBackPiece();
        references.TakeBackPiece();
    }

    async Task RenewContext()
    {
        await db.DisposeAsync();
        db = NewContext();
    }

    MudRoomDb NewContext()
    {
        var context = new MudRoomDb(Database.OptionsFor(connection, updates, references));
        context.Database.AutoSavepointsEnabled = false;
        return context;
    }

    ChainHead ReadHead() =>
        db.Ledger.IgnoreQueryFilters()
            .AsNoTracking()
            .OrderByDescending(e => e.Seq)
            .Select(e => new ChainHead(e.Seq, e.Hash))
            .FirstOrDefault()
        ?? ChainHead.Start;

    List<LedgerEntry> NotYetWritten()
    {
        using var command = connection.CreateCommand();
        command.CommandText = ReferencesBehind.WrittenUpTo;
        var upTo = (long)command.ExecuteScalar()!;
        return [.. db.Ledger.IgnoreQueryFilters().AsNoTracking().Where(e => e.Seq > upTo).OrderBy(e => e.Seq)];
    }

    sealed class Piece(Func<WriteScope, Task<(object? Result, bool Keep)>> work)
    {
        public Func<WriteScope, Task<(object? Result, bool Keep)>> Work { get; } = work;
        public TaskCompletionSource<object?> Done { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);
        public object? Result { get; set; }
        public Exception? Failure { get; set; }

        public void Finish()
        {
            if (Failure is not null)
                Done.TrySetException(Failure);
            else
                Done.TrySetResult(Result);
        }

        public void Fail(Exception failure) => Done.TrySetException(Failure ?? failure);
    }
}
