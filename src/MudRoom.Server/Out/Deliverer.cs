using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Out;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Out;

/// <summary>
/// Hands over what waits in the outbox: each message as a file in out/SITE beside the database, whole or not at all, under the same name
/// when it is tried again. Who takes the file away has it. What cannot be written waits longer each time, in the end for a person.
/// </summary>
public sealed class Deliverer(
    WriteDesk desk,
    SetUpStore setUps,
    ServerSettings settings,
    Announcer announcer,
    Health health,
    ILogger<Deliverer> logger
) : Watchman(health, logger, "messages out")
{
    const int Together = 50;
    static readonly TimeSpan pause = TimeSpan.FromSeconds(1);

    /// <summary>The folder of a site.</summary>
    public static string FolderOf(ServerSettings settings, string site) => Path.Combine(settings.Folder, "out", site);

    /// <summary>The file of a message: what it tells of, and its id, by which who gets it twice knows it again.</summary>
    static string FileOf(ServerSettings settings, string site, OutKind kind, string subject, Guid id) =>
        Path.Combine(FolderOf(settings, site), OutMessage.FileName(kind, subject, id));

    protected override async Task Work(CancellationToken stopping)
    {
        while (true)
        {
            var sites = (await setUps.Current()).Sites.Values.ToDictionary(s => s.Id, s => s.Code);
            while (await HandOverSome(sites)) { }
            await LookWhatWasTaken(sites);
            Succeeded();
            await Task.Delay(pause, stopping);
        }
    }

    async Task<bool> HandOverSome(Dictionary<int, string> sites)
    {
        var now = TimeProvider.System.GetUtcNow();
        var due = await desk.Do(async scope =>
            (
                await scope
                    .Db.OutMessages.AsNoTracking()
                    .Where(m => m.State == OutState.Waiting && m.NextTry <= now)
                    .OrderBy(m => m.At)
                    .ThenBy(m => m.Id)
                    .Take(Together)
                    .ToListAsync(),
                false
            )
        );
        foreach (var message in due)
        {
            string? why = null;
            try
            {
                await WriteWhole(FileOf(settings, sites[message.SiteId], message.Kind, message.Subject, message.Id), message.Body);
            }
            catch (Exception failure) when (failure is IOException or UnauthorizedAccessException)
            {
                why = failure.Message;
            }

            await Change(sites[message.SiteId], message.Id, m =>
            {
                if (why is null)
                    m.HandOver();
                else
                    m.Fail(TimeProvider.System.GetUtcNow(), why);
            });
        }

        return due.Count == Together;
    }

    /// <summary>What was handed over and lies there no longer has arrived. A folder that is not there says nothing: a share that is gone is
    /// no receiver.</summary>
    async Task LookWhatWasTaken(Dictionary<int, string> sites)
    {
        foreach (var (id, site) in sites.Where(s => Directory.Exists(FolderOf(settings, s.Value))))
        {
            var sent = await desk.Do(async scope =>
                (
                    await scope
                        .Db.OutMessages.Where(m => m.SiteId == id && m.State == OutState.Sent)
                        .Select(m => new
                        {
                            m.Id,
                            m.Kind,
                            m.Subject,
                        })
                        .ToListAsync(),
                    false
                )
            );
            var taken = sent.FindAll(m => !File.Exists(FileOf(settings, site, m.Kind, m.Subject, m.Id)));
            // Gone while it was looked at: then nothing in it was seen.
            if (!Directory.Exists(FolderOf(settings, site)))
                continue;
            foreach (var message in taken)
                await Change(site, message.Id, m => m.Acknowledge());
        }
    }

    /// <summary>A reader never sees half a file: it is written beside its place, and moved there.</summary>
    static async Task WriteWhole(string file, string body)
    {
        Directory.CreateDirectory(Path.GetDirectoryName(file)!);
        var beside = file + ".part";
        await File.WriteAllTextAsync(beside, body);
        File.Move(beside, file, overwrite: true);
    }

    async Task Change(string site, Guid id, Action<OutMessage> change)
    {
        await desk.Do(async scope =>
        {
            change(await scope.Db.OutMessages.FirstAsync(m => m.Id == id));
            return (0, true);
        });
        announcer.Tell(site, ["out"], "deliverer");
    }
}
