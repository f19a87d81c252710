using System.Globalization;
using Microsoft.AspNetCore.Http.HttpResults;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A file that the watched folder refused.</summary>
/// <param name="Name">Its name in the folder of refused files.</param>
/// <param name="At">When, on the clock of the site.</param>
public sealed record RefusedFile(string Name, DateTime At, string Why, long Bytes);

/// <summary>A refused file that nobody wants to try again.</summary>
public sealed record PutAwayFileRequest(string Name);

/// <summary>
/// The files that the watched folder refused: listed on the import page, looked at with all their faults, tried again or put away. They
/// lie beside the database, in inbox/SITE/refused, each with a text of its own that says why.
/// </summary>
public sealed class RefusedFiles(ServerSettings settings, TimeProvider clock)
{
    const string WhyEnding = ".why.txt";
    const int Most = 200;

    /// <summary>Moves a file that was taken out of the way.</summary>
    public void Taken(string site, string file) => File.Move(file, Free(FolderOf(site, "taken"), Path.GetFileName(file)));

    /// <summary>Keeps a file that was refused, with why. One of the same name that lies there is kept too.</summary>
    public void Refuse(string site, string file, string why)
    {
        var to = Free(FolderOf(site, "refused"), Path.GetFileName(file));
        File.WriteAllText(to + WhyEnding, $"{clock.GetUtcNow():O}\n{why}\n");
        File.Move(file, to);
    }

    /// <summary>It was taken after all.</summary>
    public void Settle(string site, string name) => MoveTo(site, name, "taken");

    /// <summary>Nobody wants to try it again.</summary>
    /// <returns>False where there is no such file.</returns>
    public bool PutAway(string site, string name) => MoveTo(site, name, "put-away");

    /// <summary>The refused files of a site, the latest first.</summary>
    public IReadOnlyList<RefusedFile> Of(WarehouseSite site)
    {
        var folder = FolderOf(site.Code, "refused");
        return
        [
            .. Directory
                .EnumerateFiles(folder, "*" + WhyEnding)
                .Select(why => (Why: why, File: why[..^WhyEnding.Length]))
                .Where(f => File.Exists(f.File))
                .Select(f => (Text: File.ReadAllText(f.Why).Split('\n', 2), File: new FileInfo(f.File)))
                .Select(f =>
                    (
                        At: DateTimeOffset.TryParse(f.Text[0], CultureInfo.InvariantCulture, out var at) ? at : f.File.LastWriteTimeUtc,
                        Why: f.Text[^1].Trim(),
                        f.File
                    )
                )
                .OrderByDescending(f => f.At)
                .Take(Most)
                .Select(f => new RefusedFile(f.File.Name, site.LocalTime(f.At), f.Why, f.File.Length)),
        ];
    }

    /// <summary>The content of one; null where there is none of this name.</summary>
    public byte[]? Read(WarehouseSite site, string name) => PathOf(site.Code, name) is { } file ? File.ReadAllBytes(file) : null;

    bool MoveTo(string site, string name, string folder)
    {
        if (PathOf(site, name) is not { } file)
            return false;
        File.Move(file, Free(FolderOf(site, folder), name));
        File.Delete(file + WhyEnding);
        return true;
    }

    /// <summary>The file of a name in the folder of refused ones; a name with a way in it is none.</summary>
    string? PathOf(string site, string name)
    {
        var file = Path.Combine(FolderOf(site, "refused"), Path.GetFileName(name));
        return name.Length > 0 && Path.GetFileName(name) == name && File.Exists(file) && File.Exists(file + WhyEnding) ? file : null;
    }

    string FolderOf(string site, string name)
    {
        var folder = Path.Combine(WatchedFolder.FolderOf(settings, site), name);
        Directory.CreateDirectory(folder);
        return folder;
    }

    /// <summary>A place in a folder where nothing lies: the name itself, else with a number.</summary>
    static string Free(string folder, string name)
    {
        var (stem, ending) = (Path.GetFileNameWithoutExtension(name), Path.GetExtension(name));
        var to = Path.Combine(folder, name);
        for (var n = 2; File.Exists(to); n++)
            to = Path.Combine(folder, $"{stem} ({n}){ending}");
        return to;
    }
}

/// <summary>The refused files of the watched folder, for those who keep orders.</summary>
public static class RefusedFilePages
{
    public static void Map(SiteRoutes routes, RefusedFiles files)
    {
        routes.Ask("/road/import/refused", Right.KeepOrders, (Inquiry inquiry) => TypedResults.Ok(files.Of(inquiry.Site)));
        routes.Ask(
            "/road/import/refused/{name}",
            Right.KeepOrders,
            Results<FileContentHttpResult, ProblemHttpResult> (Inquiry inquiry, string name) =>
                files.Read(inquiry.Site, name) is { } content
                    ? TypedResults.File(content, "application/octet-stream", name)
                    : Problems.Of(Problems.NotFound("file", name))
        );
        routes.Act<PutAwayFileRequest, DoneAnswer>("/road/import/put-away", Right.KeepOrders, (act, request) =>
            Task.FromResult(PutAway(act, files, request.Name ?? ""))
        );
    }

    static Outcome<DoneAnswer> PutAway(Act act, RefusedFiles files, string name)
    {
        if (!files.PutAway(act.Site.Code, name))
            return Problems.NotFound("file", name);
        act.Write(new RefusedFilePutAway(name));
        act.Touch("road");
        return new DoneAnswer($"{name} is put away.");
    }
}
