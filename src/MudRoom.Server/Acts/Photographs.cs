using MudRoom.Core;
using SkiaSharp;

namespace MudRoom.Server.Acts;

/// <summary>Photographs as they are kept: turned upright, no larger than a screen, without what the camera wrote into them (place,
/// device).</summary>
public static class Photographs
{
    /// <summary>Longest side in pixels.</summary>
    public const int MostPixels = 1600;

    /// <summary>More pixels than this are not unpacked: a JPEG can be unpacked smaller than it is, the others cannot.</summary>
    const long MostOfJpeg = 120_000_000,
        MostOfOthers = 24_000_000;

    /// <summary>One picture is unpacked at a time: several at once would take memory several times over.</summary>
    static readonly SemaphoreSlim one = new(1, 1);

    const int Quality = 82;

    /// <summary>A JPEG of the picture, upright and reduced; refused when it cannot be drawn.</summary>
    /// <param name="bytes">PNG, JPEG or WebP.</param>
    /// <param name="name">For the sentence.</param>
    public static Outcome<byte[]> Reduce(byte[] bytes, string name)
    {
        var unreadable = new Refusal(HouseRefusals.Unreadable, $"{name} could not be drawn.", "Take the picture again.");
        using var data = SKData.CreateCopy(bytes);
        using var codec = SKCodec.Create(data);
        if (codec is null)
            return unreadable;
        if ((long)codec.Info.Width * codec.Info.Height > (codec.EncodedFormat == SKEncodedImageFormat.Jpeg ? MostOfJpeg : MostOfOthers))
            return new Refusal(
                HouseRefusals.FileTooLarge,
                $"{name} has {codec.Info.Width} by {codec.Info.Height} pixels; that is too large.",
                "Take a smaller picture."
            );
        one.Wait();
        try
        {
            return Drawn(codec) is { } drawn ? drawn : unreadable;
        }
        finally
        {
            one.Release();
        }
    }

    /// <summary>Unpacked no larger than it need be, turned and reduced; null when it cannot be.</summary>
    static byte[]? Drawn(SKCodec codec)
    {
        // A JPEG is unpacked at as many eighths of its size as are still large enough.
        var size = Enumerable
            .Range(1, 8)
            .Select(eighths => codec.GetScaledDimensions(eighths / 8f))
            .FirstOrDefault(s => Math.Max(s.Width, s.Height) >= MostPixels, codec.Info.Size);
        using var raw = new SKBitmap(new SKImageInfo(size.Width, size.Height));
        if (codec.GetPixels(raw.Info, raw.GetPixels()) is not (SKCodecResult.Success or SKCodecResult.IncompleteInput))
            return null;
        var origin = codec.EncodedOrigin;
        var turned =
            origin is SKEncodedOrigin.LeftTop or SKEncodedOrigin.RightTop or SKEncodedOrigin.RightBottom or SKEncodedOrigin.LeftBottom;
        var (width, height) = turned ? (raw.Height, raw.Width) : (raw.Width, raw.Height);
        var scale = Math.Min(1f, (float)MostPixels / Math.Max(width, height));
        using var upright = new SKBitmap(Math.Max(1, (int)Math.Round(width * scale)), Math.Max(1, (int)Math.Round(height * scale)));
        using (var canvas = new SKCanvas(upright))
        {
            canvas.Clear(SKColors.White);
            canvas.Scale(scale);
            canvas.Concat(Upright(origin, raw.Width, raw.Height));
            using var image = SKImage.FromBitmap(raw);
            canvas.DrawImage(image, 0, 0, new SKSamplingOptions(SKCubicResampler.Mitchell));
        }

        using var drawn = SKImage.FromBitmap(upright);
        return drawn.Encode(SKEncodedImageFormat.Jpeg, Quality).ToArray();
    }

    /// <summary>How a picture is turned that the camera wrote with this orientation (Exif 2.3, tag 274).</summary>
    static SKMatrix Upright(SKEncodedOrigin origin, float w, float h) =>
        origin switch
        {
            SKEncodedOrigin.TopRight => new SKMatrix(-1, 0, w, 0, 1, 0, 0, 0, 1),
            SKEncodedOrigin.BottomRight => new SKMatrix(-1, 0, w, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.BottomLeft => new SKMatrix(1, 0, 0, 0, -1, h, 0, 0, 1),
            SKEncodedOrigin.LeftTop => new SKMatrix(0, 1, 0, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightTop => new SKMatrix(0, -1, h, 1, 0, 0, 0, 0, 1),
            SKEncodedOrigin.RightBottom => new SKMatrix(0, -1, h, -1, 0, w, 0, 0, 1),
            SKEncodedOrigin.LeftBottom => new SKMatrix(0, 1, 0, -1, 0, w, 0, 0, 1),
            _ => SKMatrix.Identity,
        };
}
