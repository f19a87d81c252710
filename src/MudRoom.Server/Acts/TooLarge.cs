using System.Buffers;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Http.Metadata;
using MudRoom.Core;
using MudRoom.Core.Road;

namespace MudRoom.Server.Acts;

/// <summary>
/// Bodies beyond the limit. A server that stops reading breaks the connection, and the sender never sees why; so what is too large is read
/// to its
/// end into nothing, a piece at a time, and then refused. Only people who are signed in come this far.
/// </summary>
static class TooLarge
{
    /// <summary>Largest body that is taken.</summary>
    public const long MostBytes = 64 * 1024 * 1024;

    /// <summary>Beyond this the connection is broken after all.</summary>
    const long MostDrained = 1024L * 1024 * 1024;

    /// <summary>The refusal of a body beyond so many bytes.</summary>
    public static Refusal Beyond(long most) =>
        new(
            HouseRefusals.FileTooLarge,
            $"What was sent is larger than {(most >= 1024 * 1024 ? $"{most / 1024 / 1024} MB" : $"{most / 1024} KB")}.",
            "Part the file. Nothing was changed."
        );

    /// <summary>The refusal of a body that says it is larger than its endpoint takes; null else.</summary>
    public static Refusal? Beyond(HttpContext http) => http.Request.ContentLength > MostOf(http) ? Beyond(MostOf(http)) : null;

    /// <summary>Largest body that the endpoint of a request takes.</summary>
    public static long MostOf(HttpContext http) =>
        http.GetEndpoint()?.Metadata.GetMetadata<IRequestSizeLimitMetadata>()?.MaxRequestBodySize ?? MostBytes;

    /// <summary>The refusal when the body says that it is too large; null else.</summary>
    public static async Task<Refusal?> Refuse(HttpContext http)
    {
        var most = MostOf(http);
        if (http.Request.ContentLength is not { } length || length <= most || length > MostDrained)
            return null;
        if (http.Features.Get<IHttpMaxRequestBodySizeFeature>() is { IsReadOnly: false } limit)
            limit.MaxRequestBodySize = MostDrained;
        var piece = ArrayPool<byte>.Shared.Rent(64 * 1024);
        try
        {
            while (await http.Request.Body.ReadAsync(piece, http.RequestAborted) > 0) { }
        }
        finally
        {
            ArrayPool<byte>.Shared.Return(piece);
        }

        return Beyond(most);
    }
}
