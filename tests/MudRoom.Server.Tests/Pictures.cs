using SkiaSharp;

namespace MudRoom.Server.Tests;

/// <summary>Pictures made for tests: the left half red, the right half blue, the top left corner white.</summary>
public static class Pictures
{
    public static byte[] Png(int width, int height) => Draw(width, height, SKEncodedImageFormat.Png);

    /// <summary>A JPEG in which the camera says how it was held (Exif 2.3, tag 274, little-endian, in the first segment).</summary>
    public static byte[] Jpeg(int width, int height, byte orientation)
    {
        var plain = Draw(width, height, SKEncodedImageFormat.Jpeg);
        byte[] tiff = [(byte)'I', (byte)'I', 42, 0, 8, 0, 0, 0, 1, 0, 0x12, 0x01, 3, 0, 1, 0, 0, 0, orientation, 0, 0, 0, 0, 0, 0, 0];
        byte[] exif = [.. "Exif\0\0"u8, .. tiff];
        var length = exif.Length + 2;
        return [0xFF, 0xD8, 0xFF, 0xE1, (byte)(length >> 8), (byte)length, .. exif, .. plain.AsSpan(2)];
    }

    /// <summary>A small PNG that says it is as large as this (PNG specification, third edition: IHDR, IDAT, IEND, each with its
    /// CRC-32).</summary>
    public static byte[] PngHeader(int width, int height)
    {
        byte[] size = [.. BigEndian((uint)width), .. BigEndian((uint)height), 8, 2, 0, 0, 0];
        using var packed = new MemoryStream();
        using (var zlib = new System.IO.Compression.ZLibStream(packed, System.IO.Compression.CompressionLevel.Fastest, leaveOpen: true))
            zlib.Write(new byte[4096]);
        return [0x89, .. "PNG\r\n\x1a\n"u8, .. Chunk("IHDR"u8, size), .. Chunk("IDAT"u8, packed.ToArray()), .. Chunk("IEND"u8, [])];

        static byte[] Chunk(ReadOnlySpan<byte> kind, byte[] content) =>
            [.. BigEndian((uint)content.Length), .. kind, .. content, .. BigEndian(Crc([.. kind, .. content]))];

        static byte[] BigEndian(uint value) => [(byte)(value >> 24), (byte)(value >> 16), (byte)(value >> 8), (byte)value];

        static uint Crc(byte[] bytes)
        {
            var crc = uint.MaxValue;
            foreach (var b in bytes)
            {
                crc ^= b;
                for (var i = 0; i < 8; i++)
                    crc = (crc & 1) == 1 ? crc >> 1 ^ 0xEDB88320 : crc >> 1;
            }

            return ~crc;
        }
    }

    static byte[] Draw(int width, int height, SKEncodedImageFormat format)
    {
        using var bitmap = new SKBitmap(width, height);
        using (var canvas = new SKCanvas(bitmap))
        using (var ink = new SKPaint())
        {
            canvas.Clear(SKColors.Blue);
            ink.Color = SKColors.Red;
            canvas.DrawRect(0, 0, width / 2f, height, ink);
            ink.Color = SKColors.White;
            canvas.DrawRect(0, 0, width / 4f, height / 4f, ink);
        }

        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(format, 95).ToArray();
    }
}
