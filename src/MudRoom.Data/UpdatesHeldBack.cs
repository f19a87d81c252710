using System.Data.Common;

namespace MudRoom.Data;

/// <summary>
/// Updates of rows in hand, held back until somebody asks the database or the transaction ends: thirty counts of one line are one update of
/// it.
/// As an interceptor it sees every question before it is asked, so nobody ever reads a row that is older than what was kept.
/// </summary>
sealed class UpdatesHeldBack : BeforeEachCommand
{
    readonly Dictionary<object, Update> held = new(ReferenceEqualityComparer.Instance);
    readonly Dictionary<object, Update> writtenByPiece = new(ReferenceEqualityComparer.Instance);
    readonly Dictionary<object, object[]> stored = new(ReferenceEqualityComparer.Instance);

    /// <summary>A transaction begins; nothing is held back.</summary>
    public void Begin()
    {
        held.Clear();
        writtenByPiece.Clear();
    }

    /// <summary>A piece begins: what it causes to be written is undone with it.</summary>
    public void BeginPiece() => writtenByPiece.Clear();

    /// <summary>Holds a row as it is now.</summary>
    public void Hold(object row, IRowCommands commands) => held[row] = new Update(commands, commands.ValuesOf(row));

    /// <summary>The piece was taken back to its savepoint: what was written since then is held again.</summary>
    public void TakeBackPiece()
    {
        foreach (var (row, update) in writtenByPiece)
        {
            held.TryAdd(row, update);
            stored.Remove(row);
        }

        writtenByPiece.Clear();
    }

    /// <summary>The rows are let go: others may change what is stored of them from now on.</summary>
    public void Forget() => stored.Clear();

    /// <summary>Writes all that is held.</summary>
    public void Write()
    {
        foreach (var (row, update) in held)
        {
            update.Commands.Update(update.Values, stored.GetValueOrDefault(row));
            stored[row] = update.Values;
            writtenByPiece[row] = update;
        }

        held.Clear();
    }

    protected override void Before(DbCommand command) => Write();

    sealed record Update(IRowCommands Commands, object[] Values);
}
