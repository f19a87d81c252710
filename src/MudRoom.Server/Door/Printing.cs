using System.Diagnostics;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;

namespace MudRoom.Server.Door;

/// <summary>
/// Takes waiting labels to their printers, in order: the stand-in keeps them to be looked at, a real one gets a PDF over IPP by the
/// system's print
/// command. What a printer does not take is shown with the reason and can be sent again.
/// </summary>
public sealed class Printing(
    WriteDesk desk,
    SetUpStore setUps,
    Announcer announcer,
    ServerSettings settings,
    Health health,
    ILogger<Printing> logger
) : Watchman(health, logger, "printing")
{
    const int Together = 50;
    static readonly TimeSpan patience = TimeSpan.FromSeconds(20);
    readonly SemaphoreSlim something = new(1, 1);

    public override void Dispose()
    {
        announcer.Told -= Wake;
        something.Dispose();
        base.Dispose();
    }

    protected override async Task Work(CancellationToken stopping)
    {
        announcer.Told -= Wake;
        announcer.Told += Wake;
        while (true)
        {
            while (await PrintSome()) { }
            Succeeded();
            await something.WaitAsync(stopping);
        }
    }

    void Wake(string topic)
    {
        if (topic != "prints" || something.CurrentCount > 0)
            return;
        try
        {
            something.Release();
        }
        catch (SemaphoreFullException)
        {
            // It is awake already.
        }
    }

    async Task<bool> PrintSome()
    {
        var jobs = await desk.Do(async scope =>
            (
                await scope
                    .Db.PrintJobs.AsNoTracking()
                    .Where(j => j.State == PrintState.Waiting)
                    .OrderBy(j => j.Id)
                    .Take(Together)
                    .ToListAsync(),
                false
            )
        );
        if (jobs.Count == 0)
            return false;
        var setUp = await setUps.Current();
        var sites = setUp.Sites.Values.ToDictionary(s => s.Id);
        var results = new Dictionary<int, string?>();
        foreach (var job in jobs)
            results[job.Id] = await Print(job, sites[job.SiteId].Name, setUp.DoorSettings[job.SiteId].Value.Printers);
        var ids = results.Keys.ToList();
        await desk.Do(async scope =>
        {
            foreach (var job in await scope.Db.PrintJobs.Where(j => ids.Contains(j.Id)).ToListAsync())
                if (results[job.Id] is { } why)
                    job.Fail(why);
                else
                    job.Done();
            return (0, true);
        });
        foreach (var site in jobs.Select(j => j.SiteId).Distinct())
            announcer.Tell(sites[site].Code, ["printed"], "the printer");
        return true;
    }

    /// <summary>Null when the printer took it, else why not.</summary>
    async Task<string?> Print(PrintJob job, string site, IReadOnlyList<Printer> printers)
    {
        if (printers.FirstOrDefault(p => p.Name == job.Printer) is not { } printer)
            return $"{job.Printer} is no printer of the site any more.";
        if (printer.Target is not { } target)
            return null;
        var file = Path.Combine(settings.Folder, $"label-{job.Id}.pdf");
        try
        {
            await File.WriteAllBytesAsync(file, LogisticLabel.Pdf(PrintDesk.Content(job, site), LogisticLabel.Size(job.Size), job.Copies));
            return await Send(target.Host, target.Queue, file);
        }
        finally
        {
            File.Delete(file);
        }
    }

    async Task<string?> Send(string host, string queue, string file)
    {
        using var process = new Process
        {
            StartInfo = new ProcessStartInfo(settings.PrintCommand, ["-h", host, "-d", queue, file])
            {
                RedirectStandardError = true,
                RedirectStandardOutput = true,
            },
        };
        try
        {
            process.Start();
        }
        catch (System.ComponentModel.Win32Exception)
        {
            return $"The print command {settings.PrintCommand} is not on this server: install the CUPS client.";
        }

        using var limit = new CancellationTokenSource(patience);
        try
        {
            var said = await process.StandardError.ReadToEndAsync(limit.Token);
            await process.WaitForExitAsync(limit.Token);
            return process.ExitCode == 0 ? null
                : said.Trim() is { Length: > 0 } why ? why
                : $"The print command ended with {process.ExitCode}.";
        }
        catch (OperationCanceledException)
        {
            process.Kill(entireProcessTree: true);
            return $"{host} did not answer within {patience.TotalSeconds:0} s.";
        }
    }
}
