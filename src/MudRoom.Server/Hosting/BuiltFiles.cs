using Microsoft.AspNetCore.StaticFiles;
using Microsoft.Extensions.FileProviders;

namespace MudRoom.Server.Hosting;

/// <summary>
/// Hands out the files of the front end, as they were compressed when they were built where the browser takes that. They hold no secret, so
/// that
/// they may be sent compressed by HTTPS too; what the interface answers is not (it mixes secrets with what others wrote).
/// </summary>
static class BuiltFiles
{
    static readonly (string Encoding, string Extension)[] made = [("br", ".br"), ("gzip", ".gz")];

    public static void Use(WebApplication app, string web)
    {
        var files = new PhysicalFileProvider(web);
        app.Use(
            (http, next) =>
            {
                var path = http.Request.Path;
                if (HttpMethods.IsGet(http.Request.Method) && path.HasValue && Takes(http, files, path.Value!) is { } how)
                {
                    http.Request.Path = path.Value + how.Extension;
                    http.Response.Headers.ContentEncoding = how.Encoding;
                }

                return next(http);
            }
        );
        app.UseStaticFiles(
            new StaticFileOptions
            {
                FileProvider = files,
                ContentTypeProvider = new TypeOfOriginal(),
                OnPrepareResponse = Prepare,
            }
        );
    }

    /// <summary>The compressed file that stands beside the one asked for and that the browser takes; null for none. One that is asked for
    /// by its own name is a file like any other.</summary>
    static (string Encoding, string Extension)? Takes(HttpContext http, PhysicalFileProvider files, string path)
    {
        var accepted = http.Request.GetTypedHeaders().AcceptEncoding;
        foreach (var how in made)
            if (
                accepted.Any(a => a.Value.Equals(how.Encoding, StringComparison.OrdinalIgnoreCase) && a.Quality is null or > 0)
                && files.GetFileInfo(path + how.Extension).Exists
            )
                return how;
        return null;
    }

    static void Prepare(StaticFileResponseContext context)
    {
        var headers = context.Context.Response.Headers;
        headers.CacheControl = context.Context.Request.Path.StartsWithSegments("/_app/immutable")
            ? "public, max-age=31536000, immutable"
            : "no-cache";
        headers.Vary = "Accept-Encoding";
    }

    /// <summary>A compressed file has the type of what is in it.</summary>
    sealed class TypeOfOriginal : IContentTypeProvider
    {
        // With what the reader of printed text has learned.
        readonly FileExtensionContentTypeProvider types = new() { Mappings = { [".traineddata"] = "application/octet-stream" } };

        public bool TryGetContentType(string subpath, [System.Diagnostics.CodeAnalysis.MaybeNullWhen(false)] out string contentType)
        {
            var (_, extension) = made.FirstOrDefault(m => subpath.EndsWith(m.Extension, StringComparison.Ordinal));
            return types.TryGetContentType(extension is null ? subpath : subpath[..^extension.Length], out contentType);
        }
    }
}
