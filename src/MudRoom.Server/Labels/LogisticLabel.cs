using MudRoom.Core.Identification;
using SkiaSharp;

namespace MudRoom.Server.Labels;

/// <summary>What stands on a unit, as its label says it.</summary>
public sealed record LabelLine(string Item, string Quantity, string? Batch, string? GoodUntil);

/// <summary>
/// A logistic unit's label: words above, the SSCC as GS1-128 below with its human-readable text. A6 at 8 dots a millimetre.
/// Source: GS1 Logistic Label Guideline; the symbol's modules are 0.5 mm, within the 0.495 to 0.94 mm of the General Specifications.
/// </summary>
public static class LogisticLabel
{
    const int Width = 840;
    const int Height = 1184;
    const int Margin = 48;
    const int Module = 4;
    const int BarHeight = 260;
    static readonly SKTypeface words = Faces.Words;
    static readonly SKTypeface codes = Faces.Codes;

    /// <summary>The label as a PNG.</summary>
    public static byte[] Draw(string sscc, string from, IReadOnlyList<LabelLine> lines)
    {
        using var bitmap = new SKBitmap(Width, Height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        Text(canvas, ink, words, 30, Margin, 80, from);
        Rule(canvas, ink, 104);
        var y = 180f;
        foreach (var line in lines.Take(4))
        {
            Text(canvas, ink, words, 44, Margin, y, line.Item);
            Text(canvas, ink, codes, 72, Margin, y + 84, line.Quantity);
            var small = string.Join("   ", new[] { line.Batch is null ? null : "Batch " + line.Batch, line.GoodUntil is null ? null : "good until " + line.GoodUntil }.Where(t => t is not null));
            Text(canvas, ink, words, 32, Margin, y + 132, small);
            y += 190;
        }

        Rule(canvas, ink, Height - BarHeight - 190);
        Text(canvas, ink, words, 26, Margin, Height - BarHeight - 150, "SSCC");
        Text(canvas, ink, codes, 46, Margin + 90, Height - BarHeight - 148, Sscc.Spaced(sscc));
        Bars(canvas, Code128.Gs1([("00", sscc)]), Height - BarHeight - 120);
        Text(canvas, ink, codes, 34, Margin + 60, Height - 90, "(00) " + sscc);
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    static void Bars(SKCanvas canvas, IReadOnlyList<int> widths, float top)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = false };
        float x = (Width - widths.Sum() * Module) / 2;
        for (var i = 0; i < widths.Count; i++)
        {
            if (i % 2 == 0) canvas.DrawRect(x, top, widths[i] * Module, BarHeight, ink);
            x += widths[i] * Module;
        }
    }

    static void Rule(SKCanvas canvas, SKPaint ink, float y) => canvas.DrawRect(Margin, y, Width - 2 * Margin, 4, ink);

    static void Text(SKCanvas canvas, SKPaint ink, SKTypeface face, float size, float x, float y, string text)
    {
        using var font = new SKFont(face, size);
        while (font.MeasureText(text) > Width - Margin - x && font.Size > 16) font.Size -= 2;
        canvas.DrawText(text, x, y, SKTextAlign.Left, font, ink);
    }
}
