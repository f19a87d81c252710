using MudRoom.Core.Door;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using SkiaSharp;

namespace MudRoom.Server.Labels;

/// <summary>The size of a label in dots, 8 to a millimetre.</summary>
public sealed record LabelSize(int Width, int Height);

/// <summary>
/// A label: words above, what is in it as GS1-128, and for a unit its SSCC lowest, each with its human-readable text. 8 dots a millimetre,
/// on A6 or 4 by 6
/// inches. Source: GS1 Logistic Label Guideline (SSCC in the lowest symbol, symbols 32 mm high); modules are 0.5 mm, within the 0.495 to
/// 0.94 mm of
/// the General Specifications. A symbol that would be wider than the label stands in words only.
/// </summary>
public static class LogisticLabel
{
    /// <summary>105 by 148 mm.</summary>
    public static LabelSize A6 { get; } = new(840, 1184);

    /// <summary>101.6 by 152.4 mm.</summary>
    public static LabelSize FourBySix { get; } = new(812, 1219);

    /// <summary>The size by its name: a6 or 4x6.</summary>
    public static LabelSize Size(string? name) => name == "4x6" ? FourBySix : A6;

    const float PointsPerDot = 72f / 25.4f / 8;

    const int Margin = 48;
    const int Module = 4;
    const int QuietZone = 10 * Module;
    const int BarHeight = 256;
    const int SymbolHeight = BarHeight + 74;
    static readonly SKTypeface words = Faces.Words;
    static readonly SKTypeface codes = Faces.Codes;

    /// <summary>The label as a PNG.</summary>
    public static byte[] Draw(LabelContent label, LabelSize? size = null)
    {
        var on = size ?? A6;
        using var bitmap = new SKBitmap(on.Width, on.Height);
        using var canvas = new SKCanvas(bitmap);
        canvas.Clear(SKColors.White);
        Paint(canvas, on, label);
        using var image = SKImage.FromBitmap(bitmap);
        return image.Encode(SKEncodedImageFormat.Png, 100).ToArray();
    }

    /// <summary>The label as a PDF of its true size, so many times.</summary>
    public static byte[] Pdf(LabelContent label, LabelSize size, int copies = 1)
    {
        using var bytes = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(
                bytes,
                new SKDocumentPdfMetadata
                {
                    Title = label.Sscc ?? (label.Lines.Count > 0 ? label.Lines[0].Item : "label"),
                    Creator = "Mud Room",
                }
            )
        )
        {
            for (var copy = 0; copy < copies; copy++)
            {
                using var canvas = document.BeginPage(size.Width * PointsPerDot, size.Height * PointsPerDot);
                canvas.Scale(PointsPerDot);
                Paint(canvas, size, label);
                document.EndPage();
            }

            document.Close();
        }

        return bytes.ToArray();
    }

    static void Paint(SKCanvas canvas, LabelSize on, LabelContent label)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        Text(
            canvas,
            on,
            ink,
            words,
            30,
            Margin,
            76,
            label.PackageType.Length > 0 ? $"{label.From} · {PackageTypes.Word(label.PackageType)}" : label.From
        );
        Rule(canvas, on, ink, 98);
        var y = 102f;
        if (label.Banner is not null)
        {
            canvas.DrawRect(0, y + 14, on.Width, 76, ink);
            using var paper = new SKPaint { Color = SKColors.White, IsAntialias = true };
            Text(canvas, on, paper, words, 50, Margin, y + 68, label.Banner);
            y += 90;
        }

        var bottom = (float)on.Height - 30;
        if (label.Sscc is { } sscc)
        {
            bottom -= SymbolHeight + 52;
            Text(canvas, on, ink, words, 26, Margin, bottom + 36, "SSCC");
            Text(canvas, on, ink, codes, 44, Margin + 90, bottom + 38, Sscc.Spaced(sscc));
            Symbol(canvas, on, [("00", sscc)], bottom + 54);
        }

        var code = label.Code.Select(e => (e.Ai, e.Value)).ToList();
        if (code.Count > 0 && Fits(on, code))
        {
            bottom -= SymbolHeight;
            Symbol(canvas, on, code, bottom);
        }
        else if (code.Count > 1 && Fits(on, [code[0]]))
        {
            bottom -= SymbolHeight;
            Symbol(canvas, on, [code[0]], bottom);
        }

        Lines(canvas, on, ink, label, y, bottom);
        Rule(canvas, on, ink, bottom - 8);
    }

    /// <summary>As many lines as there is room for; what finds none is counted on the last.</summary>
    static void Lines(SKCanvas canvas, LabelSize on, SKPaint ink, LabelContent label, float top, float bottom)
    {
        const int tall = 172;
        var room = Math.Max(1, (int)((bottom - top - 20) / tall));
        var y = top + 58;
        foreach (var line in label.Lines.Take(label.Lines.Count > room ? room - 1 : room))
        {
            Text(canvas, on, ink, words, 42, Margin, y, line.Item);
            Text(canvas, on, ink, codes, 66, Margin, y + 72, line.Quantity);
            var small = string.Join(
                "   ",
                new[]
                {
                    line.Batch is null ? null : "Batch " + line.Batch,
                    line.GoodUntil is null ? null : "good until " + line.GoodUntil,
                }.Where(t => t is not null)
            );
            Text(canvas, on, ink, words, 31, Margin, y + 114, small);
            y += tall;
        }

        if (label.Lines.Count > room)
            Text(canvas, on, ink, words, 42, Margin, y, $"and {label.Lines.Count - Math.Max(0, room - 1)} more items");
    }

    static bool Fits(LabelSize on, IReadOnlyList<(string, string)> code) => Code128.Gs1(code).Sum() * Module + 2 * QuietZone <= on.Width;

    static void Symbol(SKCanvas canvas, LabelSize on, IReadOnlyList<(string Ai, string Value)> code, float top)
    {
        var widths = Code128.Gs1(code);
        using var bars = new SKPaint { Color = SKColors.Black, IsAntialias = false };
        float x = (on.Width - widths.Sum() * Module) / 2;
        for (var i = 0; i < widths.Count; i++)
        {
            if (i % 2 == 0)
                canvas.DrawRect(x, top, widths[i] * Module, BarHeight, bars);
            x += widths[i] * Module;
        }

        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        Text(canvas, on, ink, codes, 34, Margin + 20, top + BarHeight + 42, string.Concat(code.Select(e => $"({e.Ai}){e.Value}")));
    }

    static void Rule(SKCanvas canvas, LabelSize on, SKPaint ink, float y) => canvas.DrawRect(Margin, y, on.Width - 2 * Margin, 4, ink);

    static void Text(SKCanvas canvas, LabelSize on, SKPaint ink, SKTypeface face, float size, float x, float y, string text)
    {
        using var font = new SKFont(face, size);
        while (font.MeasureText(text) > on.Width - Margin - x && font.Size > 16)
            font.Size -= 2;
        canvas.DrawText(text, x, y, SKTextAlign.Left, font, ink);
    }
}
