using System.Data.Common;
using Microsoft.EntityFrameworkCore.Diagnostics;

namespace MudRoom.Data;

/// <summary>Sees every command of a context before it runs, whichever way it is run.</summary>
abstract class BeforeEachCommand : DbCommandInterceptor
{
    protected abstract void Before(DbCommand command);

    public sealed override InterceptionResult<DbDataReader> ReaderExecuting(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result
    ) => Seen(command, result);

    public sealed override InterceptionResult<object> ScalarExecuting(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<object> result
    ) => Seen(command, result);

    public sealed override InterceptionResult<int> NonQueryExecuting(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<int> result
    ) => Seen(command, result);

    public sealed override ValueTask<InterceptionResult<DbDataReader>> ReaderExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<DbDataReader> result,
        CancellationToken cancellationToken = default
    ) => ValueTask.FromResult(Seen(command, result));

    public sealed override ValueTask<InterceptionResult<object>> ScalarExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<object> result,
        CancellationToken cancellationToken = default
    ) => ValueTask.FromResult(Seen(command, result));

    public sealed override ValueTask<InterceptionResult<int>> NonQueryExecutingAsync(
        DbCommand command,
        CommandEventData eventData,
        InterceptionResult<int> result,
        CancellationToken cancellationToken = default
    ) => ValueTask.FromResult(Seen(command, result));

    InterceptionResult<T> Seen<T>(DbCommand command, InterceptionResult<T> result)
    {
        Before(command);
        return result;
    }
}
