using System.Text;
using MudRoom.Core.Site;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Site;

/// <summary>A set-up file, read into its lines.</summary>
/// <param name="Kind">What it sets up.</param>
/// <param name="Name">Its name, for the book.</param>
/// <param name="Rows">Its lines.</param>
/// <param name="Faults">What is wrong with it; what is found in a line is added here.</param>
/// <param name="Notes">What was left alone.</param>
/// <param name="Separator">Between its columns.</param>
sealed record SetUpFile(
    SetUpKind Kind,
    string Name,
    IReadOnlyList<CsvRow> Rows,
    List<FileFault> Faults,
    IReadOnlyList<string> Notes,
    char Separator
)
{
    const int MostCharacters = 40_000_000;

    /// <param name="site">Whose habits of numbers and dates are read beside the plain ones.</param>
    public static SetUpFile Read(SetUpFileRequest request, WarehouseSite site)
    {
        if ((request.Text ?? "").Length > MostCharacters)
            return new SetUpFile(
                request.Kind,
                request.Name,
                [],
                [new FileFault(1, "", "", "The file is larger than 40 million characters. Part it.")],
                [],
                ','
            );
        var (rows, read) = CsvTable.Rows(
            request.Text ?? "",
            SetUpColumns.Required(request.Kind),
            SetUpColumns.Optional(request.Kind),
            FileHabits.Of(site)
        );
        return new SetUpFile(request.Kind, request.Name, rows, read.Faults, read.Notes, read.Separator);
    }

    /// <summary>The same file with each first password as its hash: made before the write desk, since a hash is slow on purpose.</summary>
    public SetUpFile WithHashes() =>
        With(r => r.Optional(SetUpColumns.FirstPassword) ? SignInAccounts.Hash(r.Raw(SetUpColumns.FirstPassword)) : "");

    public SetUpFile WithoutPasswords() => With(_ => "");

    /// <summary>As text again.</summary>
    public string Text() =>
        Encoding.UTF8.GetString(
            CsvOut.Write(Rows[0].Columns, Rows.Select(r => r.Columns.Select(c => (object?)r.Raw(c)).ToArray()), Separator)
        );

    SetUpFile With(Func<CsvRow, string> password) =>
        Kind == SetUpKind.People ? this with { Rows = [.. Rows.Select(r => r.With(SetUpColumns.FirstPassword, password(r)))] } : this;
}
