using MudRoom.Bench;

var root = new DirectoryInfo(AppContext.BaseDirectory);
while (!File.Exists(Path.Combine(root.FullName, "MudRoom.slnx"))) root = root.Parent ?? throw new InvalidOperationException("MudRoom.slnx is nowhere above.");
var folder = Directory.CreateTempSubdirectory("mudroom-bench-").FullName;
try
{
    var good = true;
    Disk.Report(folder);
    var dll = Environment.GetEnvironmentVariable("MUDROOM_SERVER_DLL") ?? Path.Combine(root.FullName, "artifacts", "server", "MudRoom.Server.dll");
    // A word behind the command measures one part only.
    var only = args.FirstOrDefault();
    if (only is null or "scans") good &= await Scans.Report(dll, folder);
    if (only is "fast") good &= await Scans.Fast(dll, folder);
    if (only is null or "proposals") good &= await Proposals.Report(folder);
    if (only is null or "road") good &= await Road.Report(dll, folder);
    Console.WriteLine(good ? "\nEvery figure is within its limit." : "\nA figure is beyond its limit.");
    return good ? 0 : 1;
}
finally
{
    Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    Directory.Delete(folder, recursive: true);
}
