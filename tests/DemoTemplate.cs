using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.Data.Sqlite;
using MudRoom.Core;
using MudRoom.Data;
using MudRoom.Demo;
using MudRoom.Server;
using MudRoom.Server.Hosting;

namespace MudRoom.Tests;

/// <summary>The demo is made once for all tests of a build; each server that is tested gets a copy of its database.</summary>
public static class DemoTemplate
{
    static readonly Lazy<Task<string>> template = new(Make);
    static readonly Lazy<Scenario> scenario = new(Scenario.Make);

    /// <summary>What the demo is made of, to be read only.</summary>
    public static Scenario Of => scenario.Value;

    /// <summary>The password of a person of the demo.</summary>
    public static string PasswordOf(string name) => Of.People.First(p => p.Person.SignInName == name).Password;

    /// <summary>Lays a copy of the demo's database into a folder, and the keys of its sessions: who has signed in at one copy is signed in
    /// at each.</summary>
    public static async Task CopyTo(string folder)
    {
        var made = await template.Value;
        File.Copy(made, Path.Combine(folder, "mudroom.db"));
        var keys = Directory.CreateDirectory(Path.Combine(folder, "keys"));
        foreach (var key in Directory.EnumerateFiles(Path.Combine(Path.GetDirectoryName(made)!, "demo", "keys")))
            File.Copy(key, Path.Combine(keys.FullName, Path.GetFileName(key)), overwrite: true);
    }

    /// <summary>The demo of one build is the same for every run of it: whoever comes first makes it, others take it.</summary>
    static async Task<string> Make()
    {
        var folder = Path.Combine(Path.GetTempPath(), $"mudroom-template-{Build()}");
        Directory.CreateDirectory(folder);
        var made = Path.Combine(folder, "template.db");
        await using var alone = await Alone(Path.Combine(folder, "lock"));
        if (File.Exists(made))
            return made;
        foreach (var old in Directory.EnumerateDirectories(Path.GetTempPath(), "mudroom-template-*"))
            if (Directory.GetLastWriteTimeUtc(old) < DateTime.UtcNow.AddDays(-1))
                Directory.Delete(old, recursive: true);
        var settings = new ServerSettings(Path.Combine(folder, "demo"), Port: 0, IsDemo: true, StoppedClock: true);
        // What was left by a run that was stopped in the middle is no demo.
        if (Directory.Exists(settings.Folder))
            Directory.Delete(settings.Folder, recursive: true);
        Directory.CreateDirectory(settings.Folder);
        var app = await CommandLine.Start(settings);
        // The first that is protected makes the key.
        app.Services.GetDataProtector("template").Protect("");
        await app.StopAsync();
        await app.DisposeAsync();
        var whole = Path.Combine(settings.Folder, "template.db");
        using (var from = Database.Open(settings.File))
        using (var to = new SqliteConnection($"Data Source={whole};Pooling=False"))
        {
            to.Open();
            from.BackupDatabase(to);
        }

        File.Move(whole, made);
        return made;
    }

    /// <summary>Says which build this is: a change of the code is another one, and so is a change of what is kept of it here.</summary>
    static string Build()
    {
        Type[] each = [typeof(Outcome<>), typeof(Database), typeof(Scenario), typeof(CommandLine)];
        var ids = string.Concat(each.Select(t => t.Module.ModuleVersionId));
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(ids + "database and keys")))[..16];
    }

    /// <summary>Waits until no other run holds a file, and holds it.</summary>
    static async Task<FileStream> Alone(string file)
    {
        while (true)
            try
            {
                return new FileStream(file, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
            }
            catch (IOException)
            {
                await Task.Delay(100);
            }
    }
}
