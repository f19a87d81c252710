using System.Net.Sockets;
using System.Text;

namespace MudRoom.Bench;

/// <summary>
/// One scanner: a kept-alive HTTP/1.1 connection that sends the same count with a new act id each time. It is kept this small because real
/// scanners work on processors of their own, and here they share the server's.
/// </summary>
sealed class Scanner : IDisposable
{
    readonly Socket socket;
    readonly byte[] request;
    readonly int[] idsAt;
    readonly byte[] answer = new byte[256 * 1024];

    /// <param name="together">How many counts one request carries: 1, or what waited on a device, sent to its own address.</param>
    /// <param name="site">The code of the site it counts at.</param>
    public Scanner(Uri server, string cookies, string token, byte[] count, int together = 1, string site = "LM")
    {
        socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        socket.Connect(server.Host, server.Port);
        var text = Encoding.ASCII.GetString(count);
        var body =
            together == 1
                ? text
                : "[" + string.Join(",", Enumerable.Repeat($$"""{"id":"{{Guid.Empty}}","request":{{text}}}""", together)) + "]";
        var id = together == 1 ? $"Act-Id: {Guid.Empty}\r\n" : "";
        var all =
            $"POST /api/{site}/door/count{(together == 1 ? "" : "s")} HTTP/1.1\r\nHost: {server.Authority}\r\nCookie: "
            + $"{cookies}\r\nX-Token: {token}\r\nContent-Type: application/json\r\nContent-Length: {body.Length}\r\n{id}\r\n{body}";
        idsAt = [.. Enumerable.Range(0, all.Length - 36).Where(i => string.CompareOrdinal(all, i, Guid.Empty.ToString(), 0, 36) == 0)];
        request = Encoding.ASCII.GetBytes(all);
        Together = together;
    }

    /// <summary>How many counts one request carries.</summary>
    public int Together { get; }

    /// <summary>Sends the request and waits until all its counts are acknowledged; false when one was refused.</summary>
    public bool Send()
    {
        foreach (var at in idsAt)
            Guid.CreateVersion7().TryFormat(request.AsSpan(at), out _);
        for (var sent = 0; sent < request.Length; )
            sent += socket.Send(request.AsSpan(sent));
        var length = 0;
        while (true)
        {
            var more = socket.Receive(answer.AsSpan(length));
            if (more == 0)
                throw new InvalidOperationException("The server closed the connection.");
            length += more;
            if (IsWhole(answer.AsSpan(0, length)))
                return answer.AsSpan(9, 3).SequenceEqual("200"u8) && answer.AsSpan(0, length).IndexOf("\"problem\""u8) < 0;
        }
    }

    public void Dispose() => socket.Dispose();

    static bool IsWhole(ReadOnlySpan<byte> there)
    {
        var end = there.IndexOf("\r\n\r\n"u8);
        if (end < 0)
            return false;
        var head = Encoding.ASCII.GetString(there[..end]);
        var at = head.IndexOf("Content-Length: ", StringComparison.OrdinalIgnoreCase);
        if (at < 0)
            return there.EndsWith("\r\n0\r\n\r\n"u8);
        var line = head.AsSpan(at + 16);
        var stop = line.IndexOf('\r');
        return there.Length >= end + 4 + int.Parse(stop < 0 ? line : line[..stop]);
    }
}
