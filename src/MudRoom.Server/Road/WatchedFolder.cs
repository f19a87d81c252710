using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>
/// Imports what is laid into inbox/SITE beside the database, by the same act people use. Taken files go to inbox/SITE/taken, refused ones
/// to
/// inbox/SITE/refused with a text that says why, and are listed on the import page. A file is read once it has not grown for a moment.
/// </summary>
public sealed class WatchedFolder(
    ServerSettings settings,
    IServiceProvider services,
    SetUpStore setUps,
    TimeProvider clock,
    Health health,
    RefusedFiles refusedFiles,
    ILogger<WatchedFolder> logger
) : Watchman(health, logger, "watched folder")
{
    static readonly TimeSpan pause = TimeSpan.FromSeconds(1);

    /// <summary>Where the folders of the sites lie.</summary>
    public static string InboxOf(ServerSettings settings) => Path.Combine(settings.Folder, "inbox");

    /// <summary>The folder of a site.</summary>
    public static string FolderOf(ServerSettings settings, string site) => Path.Combine(InboxOf(settings), site);

    protected override async Task Work(CancellationToken stopping)
    {
        var sizes = new Dictionary<string, long>();
        while (true)
        {
            foreach (var site in (await setUps.Current()).Sites.Values)
            {
                var folder = FolderOf(settings, site.Code);
                Directory.CreateDirectory(folder);
                foreach (var file in Directory.EnumerateFiles(folder).Order(StringComparer.Ordinal).ToList())
                {
                    var size = new FileInfo(file).Length;
                    if (sizes.GetValueOrDefault(file, -1) != size)
                    {
                        sizes[file] = size;
                        continue;
                    }

                    sizes.Remove(file);
                    await Take(site, file);
                }
            }

            Succeeded();
            await Task.Delay(pause, stopping);
        }
    }

    async Task Take(WarehouseSite site, string file)
    {
        var name = Path.GetFileName(file);
        string? why;
        if (new FileInfo(file).Length > ImportOrders.MostCharacters)
        {
            why = "The file is larger than 40 million characters. Part it.";
        }
        else
        {
            try
            {
                var content = await File.ReadAllBytesAsync(file);
                // Asked for here and not at the start, for the write desk opens the database.
                var outcome = await services
                    .GetRequiredService<Importing>()
                    .Run(
                        new ActFrom(site.Code, ActFrom.Nobody, "inbox", Guid.CreateVersion7(clock.GetUtcNow())),
                        new ImportRequest(name, Content: content)
                    );
                why = outcome.Refused(out var refusal) ? $"{refusal.Sentence} {refusal.Next}" : null;
            }
            catch (IOException)
            {
                return;
            }
            catch (Exception failure) when (Problems.OfFailure(failure) is { Code: "broken" } broken)
            {
                // One file never stands in the way of the next ones. A full disk does, until there is room.
                Failed(failure);
                why = $"{broken.Sentence} The file could not be taken.";
            }
        }

        if (why is null)
            refusedFiles.Taken(site.Code, file);
        else
            refusedFiles.Refuse(site.Code, file, why);
    }
}
