using System.Data.Common;
using System.Reflection;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Design;
using Microsoft.EntityFrameworkCore.Diagnostics;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;

namespace MudRoom.Data;

/// <summary>How every connection to the database is opened.</summary>
public static class Database
{
    /// <summary>The settings a connection must have: what was acknowledged survives a power cut, and rows do not point nowhere.</summary>
    public const string Pragmas = "PRAGMA journal_mode=WAL; PRAGMA synchronous=FULL; PRAGMA foreign_keys=ON; PRAGMA busy_timeout=10000;";

    /// <summary>
    /// Makes contexts for reading, on connections of their own. All contexts have the same services, and so the same model:
    /// that lets compiled queries serve readers and the writer alike.
    /// </summary>
    public static IDbContextFactory<MudRoomDb> Factory(string file) => new PooledDbContextFactory<MudRoomDb>(Options(file));

    static DbContextOptions<MudRoomDb> Options(string file) =>
        new DbContextOptionsBuilder<MudRoomDb>().UseSqlite(ConnectionString(file), Questions).AddInterceptors(SetPragmas.Instance).Options;

    /// <summary>Options for contexts on a connection that is open already.</summary>
    public static DbContextOptions<MudRoomDb> OptionsFor(SqliteConnection connection, params IInterceptor[] more) =>
        new DbContextOptionsBuilder<MudRoomDb>().UseSqlite(connection, Questions).AddInterceptors([SetPragmas.Instance, .. more]).Options;

    /// <summary>
    /// How questions are put to SQLite.
    /// What belongs to a row is asked for by a question of its own. In one question, lines with their parts are joined to the order from
    /// the outside, and SQLite then makes the whole inner table, of all orders, before it looks for one.
    /// Source: SQLite documentation, "The SQLite Query Optimizer Overview", subquery flattening, rule 3a.
    /// A list of keys is one parameter, as JSON, however many they are. With a parameter for each key the SQL is made and prepared anew
    /// for every new number of keys, and that of some hundreds keeps whoever waits at the desk for half a second.
    /// </summary>
    static void Questions(SqliteDbContextOptionsBuilder sqlite) =>
        sqlite
            .UseQuerySplittingBehavior(QuerySplittingBehavior.SplitQuery)
            .UseParameterizedCollectionMode(ParameterTranslationMode.Parameter);

    /// <summary>Lets all that a context reads until it is disposed be of one instant, whatever is written meanwhile.</summary>
    public static void ReadOneInstant(MudRoomDb db)
    {
        db.Database.OpenConnection();
        db.Database.UseTransaction(((SqliteConnection)db.Database.GetDbConnection()).BeginTransaction(deferred: true));
    }

    /// <summary>An open connection with the settings.</summary>
    public static SqliteConnection Open(string file)
    {
        var connection = new SqliteConnection(ConnectionString(file));
        connection.Open();
        SetPragmas.On(connection);
        return connection;
    }

    /// <summary>Makes the database, or brings it to the schema of this version in place. Where nothing is to be done, that costs one
    /// question.</summary>
    public static async Task BringUpToDate(string file)
    {
        if (File.Exists(file) && IsUpToDate(file))
            return;
        await using var db = Context(file);
        await db.Database.MigrateAsync();
        await LotsFromBefore.Give(db, TimeProvider.System);
        await ReferencesFromBefore.Give(db);
        await WaitingTasks.Restate(db, TimeProvider.System.GetUtcNow());
    }

    /// <summary>True when all migrations of this version are in a database, its stock has lots and its entries their
    /// references.</summary>
    public static bool IsUpToDate(string file) =>
        Migrations.All(Applied(file).Contains)
        && !IsSo(file, $"EXISTS (SELECT 1 FROM \"Balances\" WHERE \"LotId\" IS NULL) OR ({ReferencesFromBefore.Missing})");

    /// <summary>Asks a database of this version whether a condition in SQL holds; see <see cref="Number"/>.</summary>
    public static bool IsSo(string file, string condition) => Number(file, condition) != 0;

    /// <summary>Asks a database of this version for a number in SQL, without the model: that takes a second to make, and a server that
    /// starts makes it beside its endpoints.</summary>
    public static long Number(string file, string expression)
    {
        using var connection = Open(file);
        using var command = connection.CreateCommand();
        command.CommandText = $"SELECT {expression}";
        return (long)command.ExecuteScalar()!;
    }

    /// <summary>The migrations of this version.</summary>
    public static IReadOnlyList<string> Migrations { get; } =
    [.. typeof(MudRoomDb).Assembly.GetTypes().Select(t => t.GetCustomAttribute<MigrationAttribute>()?.Id).OfType<string>()];

    /// <summary>The migrations that are in a database; none where it is not one of ours.</summary>
    public static HashSet<string> Applied(string file)
    {
        using var connection = Open(file);
        var tables = Texts("SELECT name FROM sqlite_master WHERE type = 'table'");
        return tables.Contains("__EFMigrationsHistory") && tables.Contains("Ledger")
            ? Texts("SELECT MigrationId FROM __EFMigrationsHistory")
            : [];

        HashSet<string> Texts(string sql)
        {
            using var command = connection.CreateCommand();
            command.CommandText = sql;
            using var reader = command.ExecuteReader();
            var texts = new HashSet<string>();
            while (reader.Read())
                texts.Add(reader.GetString(0));
            return texts;
        }
    }

    /// <summary>A context of its own, for commands outside the server.</summary>
    public static MudRoomDb Context(string file) => new(Options(file));

    static string ConnectionString(string file) =>
        new SqliteConnectionStringBuilder
        {
            DataSource = file,
            ForeignKeys = true,
            DefaultTimeout = 30,
        }.ToString();

    sealed class SetPragmas : DbConnectionInterceptor
    {
        public static readonly SetPragmas Instance = new();

        public static void On(DbConnection connection)
        {
            using var command = connection.CreateCommand();
            command.CommandText = Pragmas;
            command.ExecuteNonQuery();
        }

        public override void ConnectionOpened(DbConnection connection, ConnectionEndEventData eventData) => On(connection);

        public override Task ConnectionOpenedAsync(
            DbConnection connection,
            ConnectionEndEventData eventData,
            CancellationToken cancellationToken = default
        )
        {
            On(connection);
            return Task.CompletedTask;
        }
    }
}

/// <summary>For the migrations tool.</summary>
sealed class DesignTime : IDesignTimeDbContextFactory<MudRoomDb>
{
    public MudRoomDb CreateDbContext(string[] args) => Database.Context("design.db");
}
