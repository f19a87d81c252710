using MudRoom.Core.Site;
using SkiaSharp;

namespace MudRoom.Server.Demo;

/// <summary>Pictures of the demo's items: simple drawings by category, each in a tint of its own.</summary>
static class DemoPictures
{
    const int Side = 240;

    /// <summary>A JPEG.</summary>
    public static byte[] Of(Item item)
    {
        using var bitmap = new SKBitmap(Side, Side);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(new SKColor(0xF4, 0xF3, 0xEC));
        using var ink = new SKPaint { IsAntialias = true, Color = SKColor.FromHsl(item.Id * 47 % 360, 38, 46) };
        using var dark = new SKPaint { IsAntialias = true, Color = SKColor.FromHsl(item.Id * 47 % 360, 40, 28) };
        switch (item.Category)
        {
            case "pot":
                Pot(canvas, ink, dark);
                break;
            case "seed" or "sets":
                Pouch(canvas, ink, dark);
                break;
            case "growing medium" or "fertiliser":
                Sack(canvas, ink, dark);
                break;
            case "tool":
                Tool(canvas, ink, dark);
                break;
            case "bare-root tree" or "citrus":
                Tree(canvas, ink, dark);
                break;
            case "cane" or "fleece":
                Rods(canvas, ink, dark);
                break;
            default:
                Box(canvas, ink, dark);
                break;
        }

        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Jpeg, 82).ToArray();
    }

    static void Pot(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        Shape(canvas, ink, (60, 90), (180, 90), (158, 205), (82, 205));
        canvas.DrawRect(50, 62, 140, 34, dark);
    }

    static void Pouch(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        canvas.DrawRect(70, 40, 100, 165, ink);
        canvas.DrawRect(70, 40, 100, 18, dark);
        canvas.DrawOval(120, 128, 26, 38, dark);
    }

    static void Sack(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        canvas.DrawRoundRect(48, 52, 144, 152, 26, 26, ink);
        Shape(canvas, dark, (88, 52), (152, 52), (140, 26), (100, 26));
        canvas.DrawRect(74, 110, 92, 12, dark);
        canvas.DrawRect(74, 134, 62, 10, dark);
    }

    static void Tool(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        canvas.Save();
        canvas.RotateDegrees(38, Side / 2f, Side / 2f);
        canvas.DrawRoundRect(108, 80, 24, 140, 10, 10, ink);
        Shape(canvas, dark, (96, 92), (144, 92), (152, 18), (120, 6));
        canvas.Restore();
    }

    static void Tree(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        canvas.DrawRect(113, 100, 14, 112, dark);
        canvas.DrawCircle(120, 84, 46, ink);
        canvas.DrawCircle(88, 108, 28, ink);
        canvas.DrawCircle(152, 108, 28, ink);
    }

    static void Rods(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        for (var i = 0; i < 6; i++)
            canvas.DrawRoundRect(58 + i * 21, 26, 15, 188, 7, 7, i % 2 == 0 ? ink : dark);
        canvas.DrawRect(50, 112, 140, 14, dark);
    }

    static void Box(SKCanvas canvas, SKPaint ink, SKPaint dark)
    {
        canvas.DrawRect(54, 84, 132, 116, ink);
        Shape(canvas, dark, (54, 84), (186, 84), (206, 56), (74, 56));
        canvas.DrawRect(108, 84, 24, 50, dark);
    }

    static void Shape(SKCanvas canvas, SKPaint paint, params (float X, float Y)[] corners)
    {
        using var builder = new SKPathBuilder();
        builder.MoveTo(corners[0].X, corners[0].Y);
        foreach (var (x, y) in corners.AsSpan(1))
            builder.LineTo(x, y);
        builder.Close();
        using var path = builder.Detach();
        canvas.DrawPath(path, paint);
    }
}
