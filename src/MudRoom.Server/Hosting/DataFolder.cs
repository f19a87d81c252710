using System.Buffers.Binary;
using System.Runtime.InteropServices;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Data;

namespace MudRoom.Server.Hosting;

/// <summary>The server cannot start, or a command cannot do what it was asked: said in a sentence, without a trace of the stack.</summary>
public sealed class StartException(Refusal refusal) : Exception(refusal.Sentence)
{
    public Refusal Refusal { get; } = refusal;
}

/// <summary>The folder with the database: one server at a time, files for their owner only, and nothing opened that is no database of
/// ours.</summary>
public sealed class DataFolder : IDisposable
{
    readonly FileStream mark;

    DataFolder(FileStream mark) => this.mark = mark;

    /// <summary>Takes the folder for this server, until it is disposed of.</summary>
    /// <exception cref="StartException">Another server has it, or it cannot be written.</exception>
    public static DataFolder Take(ServerSettings settings)
    {
        OwnerOnly();
        var file = Path.Combine(settings.Folder, "mudroom.lock");
        try
        {
            Directory.CreateDirectory(settings.Folder);
            if (!OperatingSystem.IsWindows())
                File.SetUnixFileMode(settings.Folder, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
            return new DataFolder(new FileStream(file, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None));
        }
        catch (UnauthorizedAccessException)
        {
            throw new StartException(
                new Refusal(
                    HouseRefusals.FolderClosed,
                    $"{settings.Folder} cannot be written.",
                    "Give it to the user who runs Mud Room, or name another folder with --data."
                )
            );
        }
        catch (IOException failure)
        {
            throw new StartException(
                File.Exists(file)
                    ? new Refusal(
                        HouseRefusals.FolderTaken,
                        $"Another Mud Room is running on {settings.Folder}.",
                        "Stop it first, or name another folder with --data. One server has one folder."
                    )
                    : new Refusal(
                        HouseRefusals.FolderClosed,
                        $"{settings.Folder} cannot be used: {failure.Message}",
                        "Name another folder with --data."
                    )
            );
        }
    }

    public void Dispose() => mark.Dispose();

    /// <summary>What keeps a file from being opened as a database of this version, or null; a file that is not there is none.</summary>
    public static async Task<Refusal?> Look(string file)
    {
        if (!File.Exists(file))
            return null;
        var name = Path.GetFileName(file);
        var header = new byte[100];
        try
        {
            await using var stream = new FileStream(file, FileMode.Open, FileAccess.ReadWrite, FileShare.ReadWrite);
            if (stream.Length == 0)
                return null;
            if (
                await stream.ReadAtLeastAsync(header, header.Length, throwOnEndOfStream: false) < header.Length
                || !header.AsSpan(0, 16).SequenceEqual("SQLite format 3\0"u8)
            )
                return new Refusal(
                    HouseRefusals.NoDatabase,
                    $"{file} is no database.",
                    "Look whether it is the right file. Restore a backup if it was spoilt: mudroom restore FILE."
                );
            // Offsets by the file format of SQLite: page size at 16, size in pages at 28.
            long pageSize = BinaryPrimitives.ReadUInt16BigEndian(header.AsSpan(16)) is var size && size == 1 ? 65536 : size;
            var pages = BinaryPrimitives.ReadUInt32BigEndian(header.AsSpan(28));
            if (stream.Length < pages * pageSize && new FileInfo(file + "-wal") is not { Exists: true, Length: > 0 })
                return new Refusal(
                    HouseRefusals.DatabaseCut,
                    $"{name} is cut short: {stream.Length} of {pages * pageSize} bytes are there.",
                    "Restore a backup: mudroom restore FILE."
                );
        }
        catch (UnauthorizedAccessException)
        {
            return new Refusal(HouseRefusals.DatabaseReadOnly, $"{file} cannot be written.", "Give it to the user who runs Mud Room.");
        }

        try
        {
            var applied = Database.Applied(file);
            if (applied.Count == 0)
                return new Refusal(
                    HouseRefusals.DatabaseForeign,
                    $"{name} is a database of another program.",
                    "Name the right folder with --data."
                );
            return applied.All(Database.Migrations.Contains)
                ? null
                : new Refusal(
                    HouseRefusals.DatabaseNewer,
                    $"{name} was written by a newer version of Mud Room.",
                    "Run that version, or restore a backup of this one: mudroom restore FILE."
                );
        }
        catch (SqliteException failure)
        {
            return new Refusal(
                HouseRefusals.NoDatabase,
                $"{name} cannot be read: {failure.Message}",
                "Restore a backup: mudroom restore FILE."
            );
        }
    }

    /// <summary>Makes the database or brings it up to date; an older one is copied first.</summary>
    /// <returns>The copy that was made, or null.</returns>
    public static async Task<string?> BringUpToDate(string file, TimeProvider clock)
    {
        if (await Look(file) is { } refusal)
            throw new StartException(refusal);
        string? copy = null;
        if (File.Exists(file) && new FileInfo(file).Length > 0 && !Database.IsUpToDate(file))
            CopyTo(file, copy = Path.Combine(Path.GetDirectoryName(file)!, $"before-upgrade-{clock.GetUtcNow():yyyyMMdd-HHmmss}.db"));

        await Database.BringUpToDate(file);
        return copy;
    }

    /// <summary>Copies a database while it may be in use.</summary>
    public static void CopyTo(string file, string target)
    {
        using var from = Database.Open(file);
        using var to = new SqliteConnection($"Data Source={target};Pooling=False");
        to.Open();
        from.BackupDatabase(to);
    }

    /// <summary>Every file that this process makes is for its owner only.</summary>
    public static void OwnerOnly()
    {
        if (OperatingSystem.IsLinux())
            _ = umask(0b000_111_111);
    }

#pragma warning disable SYSLIB1054, CA5392, IDE1006
    [DllImport("libc")]
    static extern int umask(int mask);
#pragma warning restore SYSLIB1054, CA5392, IDE1006
}
