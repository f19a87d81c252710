using System.Threading.Channels;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Book;

namespace MudRoom.Data;

/// <summary>What a piece of writing works with.</summary>
public sealed record WriteScope(MudRoomDb Db, StockBook Book);

/// <summary>
/// All acts are written here, one after another, each in its own savepoint; what waits together is committed together, and
/// nobody is told "done" before the commit is on the disk. One writer needs no locks and cannot deadlock with itself.
/// </summary>
public sealed class WriteDesk : IAsyncDisposable
{
    const int MostTogether = 64;
    readonly Channel<Piece> waiting = Channel.CreateUnbounded<Piece>(new UnboundedChannelOptions { SingleReader = true });
    readonly SqliteConnection connection;
    readonly Task writer;
    MudRoomDb db;
    ChainHead head;

    /// <summary>Opens the one writing connection on a database that is migrated already.</summary>
    public WriteDesk(string file)
    {
        connection = Database.Open(file);
        db = NewContext();
        head = ReadHead();
        writer = Task.Factory.StartNew(Work, TaskCreationOptions.LongRunning).Unwrap();
    }

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
        if (!waiting.Writer.TryWrite(piece)) throw new InvalidOperationException("The write desk is closed.");
        return (T)(await piece.Done.Task)!;
    }

    /// <summary>Finishes what waits, then closes.</summary>
    public async ValueTask DisposeAsync()
    {
        waiting.Writer.TryComplete();
        await writer;
        await db.DisposeAsync();
        await connection.DisposeAsync();
    }

    async Task Work()
    {
        var together = new List<Piece>();
        while (await waiting.Reader.WaitToReadAsync())
        {
            together.Clear();
            while (together.Count < MostTogether && waiting.Reader.TryRead(out var piece)) together.Add(piece);
            await WriteTogether(together);
        }
    }

    async Task WriteTogether(List<Piece> pieces)
    {
        var before = head;
        try
        {
            await using var transaction = connection.BeginTransaction(deferred: false);
            await db.Database.UseTransactionAsync(transaction);
            foreach (var piece in pieces) await WriteOne(piece, transaction);
            await transaction.CommitAsync();
        }
        catch (Exception failure)
        {
            head = before;
            await RenewContext();
            foreach (var piece in pieces) piece.Fail(failure);
            return;
        }

        await db.Database.UseTransactionAsync(null);
        foreach (var piece in pieces) piece.Finish();
    }

    async Task WriteOne(Piece piece, SqliteTransaction transaction)
    {
        transaction.Save("act");
        try
        {
            var book = new StockBook(db, head);
            var (result, keep) = await piece.Work(new WriteScope(db, book));
            if (keep)
            {
                book.Sweep();
                await db.SaveChangesAsync();
                head = book.Head;
            }
            else
            {
                transaction.Rollback("act");
            }

            piece.Result = result;
            db.ChangeTracker.Clear();
        }
        catch (Exception failure)
        {
            transaction.Rollback("act");
            piece.Failure = failure;
            await RenewContext();
            await db.Database.UseTransactionAsync(transaction);
        }
        finally
        {
            transaction.Release("act");
        }
    }

    async Task RenewContext()
    {
        await db.DisposeAsync();
        db = NewContext();
    }

    MudRoomDb NewContext()
    {
        var context = new MudRoomDb(Database.OptionsFor(connection));
        context.Database.AutoSavepointsEnabled = false;
        return context;
    }

    ChainHead ReadHead() =>
        db.Ledger.AsNoTracking().OrderByDescending(e => e.Seq).Select(e => new ChainHead(e.Seq, e.Hash)).FirstOrDefault() ?? ChainHead.Start;

    sealed class Piece(Func<WriteScope, Task<(object? Result, bool Keep)>> work)
    {
        public Func<WriteScope, Task<(object? Result, bool Keep)>> Work { get; } = work;
        public TaskCompletionSource<object?> Done { get; } = new(TaskCreationOptions.RunContinuationsAsynchronously);
        public object? Result { get; set; }
        public Exception? Failure { get; set; }

        public void Finish()
        {
            if (Failure is not null) Done.SetException(Failure);
            else Done.SetResult(Result);
        }

        public void Fail(Exception failure) => Done.SetException(Failure ?? failure);
    }
}
