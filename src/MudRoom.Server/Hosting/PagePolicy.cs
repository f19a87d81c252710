using System.Security.Cryptography;
using System.Text;
using System.Text.RegularExpressions;

namespace MudRoom.Server.Hosting;

/// <summary>What a page may load and run (Content Security Policy, W3C level 3): only what comes from here, and the start-up script that
/// the build wrote, known by its hash.</summary>
static partial class PagePolicy
{
    /// <summary>The policy for a built page; without one, for the interface alone.</summary>
    public static string Of(string index)
    {
        var hashes = File.Exists(index)
            ? string.Concat(
                InlineScript()
                    .Matches(File.ReadAllText(index))
                    .Select(m => $" 'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(m.Groups[1].Value)))}'")
            )
            : "";
        return string.Join(
            "; ",
            "default-src 'self'",
            // The camera's reader is WebAssembly.
            $"script-src 'self' 'wasm-unsafe-eval'{hashes}",
            // Widths of bars and places of drawings are styles of elements.
            "style-src 'self' 'unsafe-inline'",
            "img-src 'self' data: blob:",
            "media-src 'self' blob:",
            "connect-src 'self'",
            "worker-src 'self' blob:",
            "object-src 'none'",
            "base-uri 'self'",
            "form-action 'self'",
            "frame-ancestors 'none'"
        );
    }

    [GeneratedRegex("<script>([\\s\\S]*?)</script>")]
    private static partial Regex InlineScript();
}
