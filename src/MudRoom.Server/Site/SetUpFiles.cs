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
using MudRoom.Server.Road;
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
public sealed record SetUpFileRequest(SetUpKind Kind, string Name, string Text);

/// <summary>What a set-up file would do or did.</summary>
public sealed record SetUpFileAnswer(int Lines, int New, int Changed, IReadOnlyList<FileFault> Faults);

/// <summary>A one-time password for a person, drawn by the administrator's device. It is kept only as its hash, and must be changed when it is used.</summary>
public sealed record PasswordRequest(string SignInName, string Password);

/// <summary>
/// Brings a site in: items, packs and barcodes, vendors, doors, bins, people and opening stock from CSV, looked at first, taken whole or not at
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
        routes.LongAct<SetUpFileRequest, SetUpFileAnswer>(Path, Right.SetUp, (from, request, services) => services.GetRequiredService<SetUpImporting>().Run(from, request), mostBytes: Edge.FileBytes);
        routes.Ask("/site/files/progress/{act:guid}", Right.SetUp, (Visit _, Guid act) => TypedResults.Ok(progress.Of(act)));
        routes.Ask("/site/files/{kind}", Right.SetUp, Export);
        routes.Act<PasswordRequest, DoneAnswer>("/site/people/password", Right.SetUp, SetPassword, IsWeak);
    }

    static async Task<Ok<SetUpFileAnswer>> Preview(Visit visit, SetUpFileRequest request)
    {
        var looked = await Look(visit.Db, SetUpFile.Read(request), visit.SetUp, visit.Site, visit.Person);
        visit.Db.ChangeTracker.Clear();
        return TypedResults.Ok(looked.Answer());
    }

    /// <summary>Lays all of a file into a context that is thrown away: what it would do, and what is wrong with it.</summary>
    internal static async Task<SetUpWork> Look(MudRoomDb db, SetUpFile file, SetUp setUp, WarehouseSite site, Person person)
    {
        var work = new SetUpWork(file, setUp, site, person);
        await work.Lay(db, file.Rows);
        await work.End(db);
        return work;
    }

    internal static Refusal? Faulty(SetUpFile file) => file.Faults is not [var first, ..] ? null
        : new Refusal("file-faults", $"{file.Name} has {file.Faults.Count} {(file.Faults.Count == 1 ? "fault" : "faults")}. Line {first.Line}, {first.Field} {first.Value}: {first.Reason}.", "Mend the file and drop it again. Nothing was imported.");

    public static async Task<Outcome<DoneAnswer>> SetPassword(Act act, PasswordRequest request)
    {
        var name = (request.SignInName ?? "").Trim().ToUpperInvariant();
        var account = await act.Db.Users.FirstOrDefaultAsync(u => u.NormalizedUserName == name);
        if (account is null || act.SetUp.People.GetValueOrDefault(account.Id) is not { } person) return Problems.NotFound("person", request.SignInName ?? "");
        if (Access.Borders(act.Person, person) is { } border) return border;
        account.PasswordHash = SignInAccounts.New(person, request.Password!).PasswordHash;
        account.MustChange = true;
        account.LockoutEnd = null;
        account.AccessFailedCount = 0;
        act.EndSessions(account);
        act.Write(EntryKind.SetUpChanged, person.SignInName, $"{person.Name} was given a password for one time.");
        act.Touch("site");
        return new DoneAnswer($"{person.Name} signs in with it once and then chooses one of their own.");
    }

    /// <summary>Looks at a password by Identity's validators, before the write desk.</summary>
    static async Task<Refusal?> IsWeak(Visit visit, PasswordRequest request)
    {
        var accounts = visit.Http.RequestServices.GetRequiredService<UserManager<SignInAccount>>();
        if (await accounts.FindByNameAsync((request.SignInName ?? "").Trim()) is not { } account) return Problems.NotFound("person", request.SignInName ?? "");
        if ((request.Password ?? "").Length > 200) return new Refusal("password-weak", "A password has at most 200 characters.", "Choose a shorter one.");
        foreach (var validator in accounts.PasswordValidators)
            if (await validator.ValidateAsync(accounts, account, request.Password) is { Succeeded: false } weak) return Session.Weak(weak);
        return null;
    }

    static async Task<FileContentHttpResult> Export(Visit visit, SetUpKind kind)
    {
        var setUp = visit.SetUp;
        var csv = kind switch
        {
            SetUpKind.Items => CsvOut.Write(SetUpWork.Columns(kind), setUp.Catalogue.Items.OrderBy(i => i.Code, StringComparer.Ordinal).Select(i => new object?[]
            {
                i.Code, i.Name, i.Category, i.BaseUnit, i.Step, i.StorageClass, i.Mass, i.Volume, i.LongestSide, i.PickRateClass, i.HomeZone, SetUpWork.Asks(i), i.ShelfLifeDays, i.MinimumRemainingDays,
                i.RulingDate, i.BatchPrefix, i.OverPercent, i.OverCap, i.InspectionPlanId is { } plan ? setUp.Plans[plan].Name : null,
            })),
            SetUpKind.Packs => CsvOut.Write(SetUpWork.Columns(kind), setUp.Catalogue.Items.OrderBy(i => i.Code, StringComparer.Ordinal).SelectMany(i => i.PackLevels.Select(p => new object?[] { i.Code, p.Name, p.Numerator, p.Denominator, p.Gtin, p.IsUnit ? "yes" : "no" }))),
            SetUpKind.Vendors => CsvOut.Write(SetUpWork.Columns(kind), setUp.Vendors.Values.OrderBy(v => v.Code, StringComparer.Ordinal).Select(v => new object?[]
            {
                v.Code, v.Name, v.Country, v.ContactName, v.Telephone, v.Mail, string.Join('|', setUp.Catalogue.Items.SelectMany(i => i.VendorCodes.Where(c => c.VendorId == v.Id).Select(c => $"{c.Code}={i.Code}"))), v.MinimumRemainingDays,
            })),
            SetUpKind.Doors => CsvOut.Write(SetUpWork.Columns(kind), setUp.Doors.Values.Where(d => d.SiteId == visit.Site.Id).OrderBy(d => d.Number).Select(d =>
            {
                var week = visit.Site.Planning.Hours.FirstOrDefault(h => h.Door == d.Number && h.Day == DayOfWeek.Monday);
                var saturday = visit.Site.Planning.Hours.FirstOrDefault(h => h.Door == d.Number && h.Day == DayOfWeek.Saturday);
                return new object?[] { d.Number, d.Equipment, string.Join('|', d.Vehicles), string.Join('|', d.Special), d.X, Hours(week), Hours(saturday) };
            })),
            SetUpKind.Bins => CsvOut.Write(SetUpWork.Columns(kind), setUp.BinsOfSite[visit.Site.Id].OrderBy(b => b.Address, StringComparer.Ordinal).Select(b => new object?[]
            {
                b.Address, b.Zone, b.Aisle, b.Bay, b.Level, b.Function, b.StorageClass, b.MaxMass, b.MaxVolume, b.MaxLength, b.X, b.Y, b.Height, b.MixItems ? "yes" : "no", b.MixBatches ? "yes" : "no",
                b.Blocked ? "yes" : "no", b.DoorId is { } door ? setUp.Doors[door].Number : null,
            })),
            SetUpKind.People => CsvOut.Write(SetUpWork.Columns(kind), setUp.People.Values.OrderBy(p => p.SignInName, StringComparer.Ordinal).Select(p => new object?[]
            {
                p.Name, p.SignInName, string.Join('|', p.Roles), string.Join('|', p.Sites), string.Join('|', p.Skills.Select(s => $"{s.Name.Replace(' ', '-')}={s.Until:yyyy-MM-dd}")), p.Active ? "yes" : "no",
            })),
            SetUpKind.Stock => await Stock(visit),
            _ => throw new ArgumentOutOfRangeException(nameof(kind), kind, null),
        };
        return TypedResults.File(csv, "text/csv; charset=utf-8", $"{kind.ToString().ToLowerInvariant()}-{visit.Site.Code}.csv");
    }

    static string? Hours(DoorHours? hours) => hours is null ? null : $"{hours.From:HH:mm}-{hours.To:HH:mm}";

    static async Task<byte[]> Stock(Visit visit)
    {
        var rows = await visit.Db.Balances.Where(b => b.SiteId == visit.Site.Id && b.Quantity > 0).OrderBy(b => b.BinId).ThenBy(b => b.Id).Take(500_000)
            .Select(b => new { b.BinId, b.ItemId, b.Quantity, b.Standing, b.Serial, b.BatchId }).ToListAsync();
        var ids = rows.Select(r => r.BatchId).Distinct().ToList();
        var batches = await visit.Db.Batches.Include(b => b.SourceBatch).Where(b => ids.Contains(b.Id)).ToDictionaryAsync(b => b.Id);
        return CsvOut.Write(SetUpWork.Columns(SetUpKind.Stock), rows.Select(r =>
        {
            var batch = r.BatchId is { } id ? batches.GetValueOrDefault(id) : null;
            var from = batch?.SourceBatch is { } source ? visit.SetUp.Vendors[source.VendorId].Code : null;
            return new object?[] { visit.SetUp.Address(r.BinId), visit.SetUp.Catalogue[r.ItemId].Code, r.Quantity, r.Standing, batch?.Number, batch?.SourceBatch?.Number, from, batch?.Expiry, r.Serial };
        }));
    }
}
