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
    readonly int idAt;
    readonly byte[] answer = new byte[64 * 1024];

    public Scanner(Uri server, string cookies, string token, string path, byte[] body)
    {
        socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
        socket.Connect(server.Host, server.Port);
        var head = $"POST {path} HTTP/1.1\r\nHost: {server.Authority}\r\nCookie: {cookies}\r\nX-Token: {token}\r\nContent-Type: application/json\r\nContent-Length: {body.Length}\r\nAct-Id: ";
        idAt = Encoding.ASCII.GetByteCount(head);
        request = [.. Encoding.ASCII.GetBytes(head + Guid.Empty + "\r\n\r\n"), .. body];
    }

    /// <summary>Sends one scan and waits until it is acknowledged; false when it was refused.</summary>
    public bool Send()
    {
        Guid.CreateVersion7().TryFormat(request.AsSpan(idAt), out _);
        for (var sent = 0; sent < request.Length;) sent += socket.Send(request.AsSpan(sent));
        var length = 0;
        while (true)
        {
            var more = socket.Receive(answer.AsSpan(length));
            if (more == 0) throw new InvalidOperationException("The server closed the connection.");
            length += more;
            if (IsWhole(answer.AsSpan(0, length))) return answer.AsSpan(9, 3).SequenceEqual("200"u8);
        }
    }

    public void Dispose() => socket.Dispose();

    static bool IsWhole(ReadOnlySpan<byte> there)
    {
        var end = there.IndexOf("\r\n\r\n"u8);
        if (end < 0) return false;
        var head = Encoding.ASCII.GetString(there[..end]);
        var at = head.IndexOf("Content-Length: ", StringComparison.OrdinalIgnoreCase);
        if (at < 0) return there.EndsWith("\r\n0\r\n\r\n"u8);
        var line = head.AsSpan(at + 16);
        var stop = line.IndexOf('\r');
        return there.Length >= end + 4 + int.Parse(stop < 0 ? line : line[..stop]);
    }
}
