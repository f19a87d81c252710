using MudRoom.Bench;

var root = new DirectoryInfo(AppContext.BaseDirectory);
while (!File.Exists(Path.Combine(root.FullName, "MudRoom.slnx")))
    root = root.Parent ?? throw new InvalidOperationException("MudRoom.slnx is nowhere above.");
var folder = Directory.CreateTempSubdirectory("mudroom-bench-").FullName;
try
{
    var good = true;
    await Part("disk", () => Task.FromResult(Disk.Report(folder)));
    var dll = Environment.GetEnvironmentVariable("MUDROOM_SERVER_DLL")
        ?? Path.Combine(root.FullName, "artifacts", "server", "MudRoom.Server.dll");
    // A word behind the command measures one part only; each part makes the demo it needs.
    var only = args.FirstOrDefault();
    if (only is null or "scans")
        await Part("scans", () => Scans.Report(dll, folder));
    if (only is "fast")
        await Part("fast", () => Scans.Fast(dll, folder));
    // Another build's server, to be compared with.
    if (only is "turns" && Environment.GetEnvironmentVariable("MUDROOM_OTHER_SERVER_DLL") is { } other)
        await Part("turns", () => Turns.Report(dll, other, folder));
    if (only is null or "import")
        await Part("import", () => Import.Report(dll, Directory.CreateDirectory(Path.Combine(folder, "import")).FullName));
    if (only is null or "proposals")
        await Part("proposals", () => Proposals.Report(folder));
    if (only is null or "sheets")
        await Part("sheets", () => SheetsAndCurves.Report(folder));
    if (only is null or "house")
        await Part("house", () => LargeHouse.Report(dll, Path.Combine(root.FullName, "artifacts", "large-house"), folder));
    if (only is null or "road")
        await Part("road", () => Road.Report(dll, folder));

    // One figure that fails is said, and the rest is measured all the same.
    async Task Part(string name, Func<Task<bool>> measure)
    {
        try
        {
            good &= await measure();
        }
        catch (Exception failure)
        {
            good = false;
            Console.WriteLine($"{name} failed: {failure.Message}");
        }
    }

    Console.WriteLine(good ? "\nEvery figure is within its limit." : "\nA figure is beyond its limit.");
    return good ? 0 : 1;
}
finally
{
    Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    Directory.Delete(folder, recursive: true);
}
