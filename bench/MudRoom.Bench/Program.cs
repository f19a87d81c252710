using MudRoom.Bench;

var root = new DirectoryInfo(AppContext.BaseDirectory);
while (!File.Exists(Path.Combine(root.FullName, "MudRoom.slnx"))) root = root.Parent ?? throw new InvalidOperationException("MudRoom.slnx is nowhere above.");
var folder = Directory.CreateTempSubdirectory("mudroom-bench-").FullName;
try
{
    var good = true;
    Disk.Report(folder);
    var dll = Environment.GetEnvironmentVariable("MUDROOM_SERVER_DLL") ?? Path.Combine(root.FullName, "artifacts", "server", "MudRoom.Server.dll");
    good &= await Scans.Report(dll, folder);
    good &= await Proposals.Report(folder);
    good &= await Road.Report(dll, folder);
    Console.WriteLine(good ? "\nEvery figure is within its limit." : "\nA figure is beyond its limit.");
    return good ? 0 : 1;
}
finally
{
    Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    Directory.Delete(folder, recursive: true);
}
