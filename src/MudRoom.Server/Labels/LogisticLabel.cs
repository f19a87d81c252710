using MudRoom.Core.Identification;
using SkiaSharp;

namespace MudRoom.Server.Labels;

/// <summary>What stands on a unit, as its label says it.</summary>
public sealed record LabelLine(string Item, string Quantity, string? Batch, string? GoodUntil);

/// <summary>The size of a label in dots, 8 to a millimetre.</summary>
public sealed record LabelSize(int Width, int Height);

/// <summary>
/// A logistic unit's label: words above, the SSCC as GS1-128 below with its human-readable text. 8 dots a millimetre, on A6 or 4 by 6 inches.
/// Source: GS1 Logistic Label Guideline; the symbol's modules are 0.5 mm, within the 0.495 to 0.94 mm of the General Specifications.
/// </summary>
public static class LogisticLabel
{
    /// <summary>105 by 148 mm.</summary>
    public static LabelSize A6 { get; } = new(840, 1184);

    /// <summary>101.6 by 152.4 mm.</summary>
    public static LabelSize FourBySix { get; } = new(812, 1219);

    const float PointsPerDot = 72f / 25.4f / 8;

    const int Margin = 48;
    const int Module = 4;
    const int BarHeight = 260;
    static readonly SKTypeface words = Faces.Words;
    static readonly SKTypeface codes = Faces.Codes;

    /// <summary>The label as a PNG.</summary>
    public static byte[] Draw(string sscc, string from, IReadOnlyList<LabelLine> lines, LabelSize? size = null)
    {
        var on = size ?? A6;
        using var bitmap = new SKBitmap(on.Width, on.Height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        Paint(canvas, on, sscc, from, lines);
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    /// <summary>The label as a PDF of its true size.</summary>
    public static byte[] Pdf(string sscc, string from, IReadOnlyList<LabelLine> lines, LabelSize size)
    {
        using var bytes = new MemoryStream();
        using (var document = SKDocument.CreatePdf(bytes, new SKDocumentPdfMetadata { Title = sscc, Creator = "Mud Room" }))
        {
            using var canvas = document.BeginPage(size.Width * PointsPerDot, size.Height * PointsPerDot);
            canvas.Scale(PointsPerDot);
            Paint(canvas, size, sscc, from, lines);
            document.EndPage();
            document.Close();
        }

        return bytes.ToArray();
    }

    static void Paint(SKCanvas canvas, LabelSize on, string sscc, string from, IReadOnlyList<LabelLine> lines)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        Text(canvas, on, ink, words, 30, Margin, 80, from);
        Rule(canvas, on, ink, 104);
        var y = 180f;
        foreach (var line in lines.Take(4))
        {
            Text(canvas, on, ink, words, 44, Margin, y, line.Item);
            Text(canvas, on, ink, codes, 72, Margin, y + 84, line.Quantity);
            var small = string.Join("   ", new[] { line.Batch is null ? null : "Batch " + line.Batch, line.GoodUntil is null ? null : "good until " + line.GoodUntil }.Where(t => t is not null));
            Text(canvas, on, ink, words, 32, Margin, y + 132, small);
            y += 190;
        }

        Rule(canvas, on, ink, on.Height - BarHeight - 190);
        Text(canvas, on, ink, words, 26, Margin, on.Height - BarHeight - 150, "SSCC");
        Text(canvas, on, ink, codes, 46, Margin + 90, on.Height - BarHeight - 148, Sscc.Spaced(sscc));
        Bars(canvas, on, Code128.Gs1([("00", sscc)]), on.Height - BarHeight - 120);
        Text(canvas, on, ink, codes, 34, Margin + 60, on.Height - 90, "(00) " + sscc);
    }

    static void Bars(SKCanvas canvas, LabelSize on, IReadOnlyList<int> widths, float top)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = false };
        float x = (on.Width - widths.Sum() * Module) / 2;
        for (var i = 0; i < widths.Count; i++)
        {
            if (i % 2 == 0) canvas.DrawRect(x, top, widths[i] * Module, BarHeight, ink);
            x += widths[i] * Module;
        }
    }

    static void Rule(SKCanvas canvas, LabelSize on, SKPaint ink, float y) => canvas.DrawRect(Margin, y, on.Width - 2 * Margin, 4, ink);

    static void Text(SKCanvas canvas, LabelSize on, SKPaint ink, SKTypeface face, float size, float x, float y, string text)
    {
        using var font = new SKFont(face, size);
        while (font.MeasureText(text) > on.Width - Margin - x && font.Size > 16) font.Size -= 2;
        canvas.DrawText(text, x, y, SKTextAlign.Left, font, ink);
    }
}
