using System.Net;

namespace MudRoom.Server;

/// <summary>How a server is to run.</summary>
/// <param name="Folder">Where the database, keys and certificate lie.</param>
/// <param name="Host">Address to listen on; beyond this machine only with HTTPS.</param>
/// <param name="Port">0 for any free one.</param>
/// <param name="IsDemo">With the demo's data and clock.</param>
/// <param name="StoppedClock">The demo's clock stands still.</param>
/// <param name="Certificate">PKCS#12 file, or null for a self-made one.</param>
/// <param name="CertificatePassword">Its password.</param>
/// <param name="Watches">True to work on by itself: import what is laid into the inbox, take labels to their printers.</param>
/// <param name="PrintCommand">The system's command that sends a file to a printer over IPP, as of CUPS.</param>
/// <param name="Web">Folder of the built front end, or null for the one beside the program.</param>
public sealed record ServerSettings(
    string Folder,
    string Host = "127.0.0.1",
    int Port = 5199,
    bool IsDemo = false,
    bool StoppedClock = false,
    string? Certificate = null,
    string? CertificatePassword = null,
    string? Web = null,
    bool Watches = true,
    string PrintCommand = "lp"
)
{
    /// <summary>The database file.</summary>
    public string File => Path.Combine(Folder, "mudroom.db");

    /// <summary>True when only this machine can reach it.</summary>
    public bool IsLocal => Host is "localhost" || IPAddress.TryParse(Host, out var address) && IPAddress.IsLoopback(address);
}
