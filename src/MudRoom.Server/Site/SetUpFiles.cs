using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Site;

/// <summary>What a file sets up.</summary>
public enum SetUpKind
{
    Items,
    Packs,
    Vendors,
    Doors,
    Bins,
    People,
    Stock,
}

/// <summary>A set-up file.</summary>
/// <param name="Text">Its content, where somebody has read it; else blank.</param>
/// <param name="Content">Its bytes, to be read by what they say of themselves.</param>
public sealed record SetUpFileRequest(SetUpKind Kind, string Name, string? Text = null, byte[]? Content = null)
{
    /// <summary>The same with its text.</summary>
    public Outcome<SetUpFileRequest> Opened()
    {
        if (Content is null)
            return this with { Text = Text ?? "" };
        var read = FileText.Read(Content);
        return read.Refused(out var refusal) ? refusal : this with { Text = PlainText.Clean(read.Value), Content = null };
    }
}

/// <summary>What a set-up file would do or did.</summary>
/// <param name="Lines">In the file.</param>
/// <param name="New">What was not there.</param>
/// <param name="Changed">What is there and becomes another.</param>
/// <param name="Unchanged">What is there as the file says.</param>
/// <param name="Changes">Field by field; the first two hundred.</param>
/// <param name="Faults">What is wrong; when there is any, nothing is taken.</param>
/// <param name="Notes">What stands in the file and was left alone.</param>
public sealed record SetUpFileAnswer(
    int Lines,
    int New,
    int Changed,
    int Unchanged,
    IReadOnlyList<FieldChange> Changes,
    IReadOnlyList<FileFault> Faults,
    IReadOnlyList<string> Notes
);

/// <summary>One field that a file changes.</summary>
/// <param name="Line">Of the file.</param>
/// <param name="What">What it belongs to, in words.</param>
/// <param name="Field">The column.</param>
/// <param name="From">As it is, blank for none.</param>
/// <param name="To">As it will be, blank for none.</param>
public sealed record FieldChange(int Line, string What, string Field, string From, string To);

/// <summary>A one-time password for a person, drawn by the administrator's device. It is kept only as its hash, and must be changed when it
/// is used.</summary>
public sealed record PasswordRequest(string SignInName, string Password);

/// <summary>
/// Brings a site in: items, packs and barcodes, vendors, doors, bins, people and opening stock from CSV, looked at first, taken whole or
/// not at
/// all, and given out the same way. Columns: docs/formats/set-up-csv.md.
/// </summary>
public static class SetUpFiles
{
    /// <summary>Least characters of a password.</summary>
    public const int LeastPassword = 10;

    /// <summary>Where set-up files are sent.</summary>
    public const string Path = "/site/files/import";

    public static void Map(SiteRoutes routes, ImportProgress progress)
    {
        routes.Check<SetUpFileRequest, Ok<SetUpFileAnswer>>("/site/files/preview", Right.SetUp, Preview, mostBytes: Edge.FileBytes);
        routes.LongAct<SetUpFileRequest, SetUpFileAnswer>(
            Path,
            Right.SetUp,
            (from, request, services) => services.GetRequiredService<SetUpImporting>().Run(from, request),
            mostBytes: Edge.FileBytes
        );
        routes.Ask("/site/files/progress/{act:guid}", Right.SetUp, (Inquiry _, Guid act) => TypedResults.Ok(progress.Of(act)));
        routes.Ask("/site/files/{kind}", Right.SetUp, Export);
        routes.Act<PasswordRequest, DoneAnswer>("/site/people/password", Right.SetUp, SetPassword, IsWeak);
    }

    static async Task<Ok<SetUpFileAnswer>> Preview(Inquiry inquiry, SetUpFileRequest request)
    {
        var opened = request.Opened();
        if (opened.Refused(out var unread))
            return TypedResults.Ok(new SetUpFileAnswer(0, 0, 0, 0, [], [new FileFault(1, "", "", unread.Sentence)], []));
        var looked = await Look(
            inquiry.Db,
            SetUpFile.Read(opened.Value, inquiry.Site),
            inquiry.SetUp,
            inquiry.Site,
            inquiry.Person,
            inquiry.Now
        );
        inquiry.Db.ChangeTracker.Clear();
        return TypedResults.Ok(looked.Answer());
    }

    /// <summary>Lays all of a file into a context that is thrown away: what it would do, and what is wrong with it.</summary>
    internal static async Task<SetUpWork> Look(
        MudRoomDb db,
        SetUpFile file,
        SetUp setUp,
        WarehouseSite site,
        Person person,
        DateTimeOffset at
    )
    {
        var work = new SetUpWork(file, setUp, site, person, at);
        await work.Lay(db, file.Rows);
        await work.End(db);
        return work;
    }

    internal static Refusal? Faulty(SetUpFile file) =>
        file.Faults is not [var first, ..]
            ? null
            : new Refusal(
                HouseRefusals.FileFaults,
                $"{file.Name} has {file.Faults.Count} {(file.Faults.Count == 1 ? "fault" : "faults")}. Line {first.Line}, "
                    + $"{first.Field} {first.Value}: {first.Reason}.",
                "Mend the file and drop it again. Nothing was imported."
            );

    public static async Task<Outcome<DoneAnswer>> SetPassword(Act act, PasswordRequest request)
    {
        var name = (request.SignInName ?? "").Trim().ToUpperInvariant();
        var account = await act.Db.Users.FirstOrDefaultAsync(u => u.NormalizedUserName == name);
        if (account is null || act.SetUp.People.GetValueOrDefault(account.Id) is not { } person)
            return Problems.NotFound("person", request.SignInName ?? "");
        if (Access.Borders(act.Person, person) is { } border)
            return border;
        account.PasswordHash = SignInAccounts.New(person, request.Password!).PasswordHash;
        account.MustChange = true;
        account.LockoutEnd = null;
        account.AccessFailedCount = 0;
        act.EndSessions(account);
        act.Write(new PasswordGiven(person.SignInName, person.Name) { About = [new Reference(ReferenceKind.Person, person.Id)] });
        act.Touch("site");
        return new DoneAnswer($"{person.Name} signs in with it once and then chooses one of their own.");
    }

    /// <summary>Looks at a password by Identity's validators, before the write desk.</summary>
    static async Task<Refusal?> IsWeak(Inquiry inquiry, PasswordRequest request)
    {
        var accounts = inquiry.Http.RequestServices.GetRequiredService<UserManager<SignInAccount>>();
        if (await accounts.FindByNameAsync((request.SignInName ?? "").Trim()) is not { } account)
            return Problems.NotFound("person", request.SignInName ?? "");
        if ((request.Password ?? "").Length > 200)
            return new Refusal(HouseRefusals.PasswordWeak, "A password has at most 200 characters.", "Choose a shorter one.");
        foreach (var validator in accounts.PasswordValidators)
            if (await validator.ValidateAsync(accounts, account, request.Password) is { Succeeded: false } weak)
                return Session.Weak(weak);
        return null;
    }

    static async Task<FileContentHttpResult> Export(Inquiry inquiry, SetUpKind kind)
    {
        var setUp = inquiry.SetUp;
        var items = setUp.Catalogue.Items.OrderBy(i => i.Code, StringComparer.Ordinal);
        var ofVendor = new Lazy<ILookup<int, Item>>(() => SetUpColumns.ByVendor(items));
        var csv =
            kind == SetUpKind.Stock
                ? await Stock(inquiry)
                : CsvOut.Write(
                    SetUpColumns.Out(kind),
                    kind switch
                    {
                        SetUpKind.Items => items.Select(i => SetUpColumns.Of(i, setUp)),
                        SetUpKind.Packs => items.SelectMany(i => i.PackLevels.Select(p => SetUpColumns.Of(i, p))),
                        SetUpKind.Vendors => setUp
                            .Vendors.Values.OrderBy(v => v.Code, StringComparer.Ordinal)
                            .Select(v => SetUpColumns.Of(v, ofVendor.Value[v.Id])),
                        SetUpKind.Doors => setUp
                            .Doors.Values.Where(d => d.SiteId == inquiry.Site.Id)
                            .OrderBy(d => d.Number)
                            .Select(d => SetUpColumns.Of(d, inquiry.PlanSettings.Hours)),
                        SetUpKind.Bins => setUp
                            .BinsOfSite[inquiry.Site.Id]
                            .OrderBy(b => b.Address, StringComparer.Ordinal)
                            .Select(b => SetUpColumns.Of(b, setUp)),
                        SetUpKind.People => setUp.People.Values.OrderBy(p => p.SignInName, StringComparer.Ordinal).Select(SetUpColumns.Of),
                        _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
                    }
                );
        return TypedResults.File(csv, "text/csv; charset=utf-8", $"{kind.ToString().ToLowerInvariant()}-{inquiry.Site.Code}.csv");
    }

    static async Task<byte[]> Stock(Inquiry inquiry)
    {
        var rows = await inquiry
            .Db.Balances.Where(b => b.SiteId == inquiry.Site.Id && b.Quantity > 0)
            .OrderBy(b => b.BinId)
            .ThenBy(b => b.Id)
            .Take(500_000)
            .Select(b => new
            {
                b.BinId,
                b.ItemId,
                b.Quantity,
                b.Standing,
                b.Serial,
                Batch = inquiry
                    .Db.Batches.Where(x => x.Id == b.BatchId)
                    .Select(x => new
                    {
                        x.Number,
                        x.Expiry,
                        Source = x.SourceBatch == null ? null : x.SourceBatch.Number,
                        Vendor = x.SourceBatch == null ? 0 : x.SourceBatch.VendorId,
                    })
                    .FirstOrDefault(),
                Unit = inquiry.Db.Units.Where(u => u.Id == b.UnitId).Select(u => new { u.Sscc, u.PackName }).FirstOrDefault(),
            })
            .ToListAsync();
        // Lots of the same goods in the same place are one line.
        return CsvOut.Write(
            SetUpColumns.Out(SetUpKind.Stock),
            from r in rows
            group r by (r.BinId, r.ItemId, r.Standing, r.Serial, r.Batch?.Number, r.Unit?.Sscc) into line
            let r = line.First()
            select new object?[]
            {
                inquiry.SetUp.Address(r.BinId),
                inquiry.SetUp.Catalogue[r.ItemId].Code,
                line.Sum(l => l.Quantity),
                inquiry.Standings.Word(r.Standing),
                r.Batch?.Number,
                r.Batch?.Source,
                inquiry.SetUp.Vendors.GetValueOrDefault(r.Batch?.Vendor ?? 0)?.Code,
                r.Batch?.Expiry,
                r.Serial,
                r.Unit?.Sscc,
                r.Unit?.PackName,
            }
        );
    }
}
