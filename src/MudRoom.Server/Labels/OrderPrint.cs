using MudRoom.Core.Road;
using SkiaSharp;

namespace MudRoom.Server.Labels;

/// <summary>One line of a printed order.</summary>
public sealed record PrintLine(string Number, string Item, string Ordered, string Received, string Due);

/// <summary>An order on A4 as PDF: header, lines, approvals; as many pages as it takes. Prices are never on it.</summary>
public static class OrderPrint
{
    const float Width = 595;
    const float Height = 842;
    const float Left = 42;
    static readonly SKTypeface words = Faces.Words;
    static readonly SKTypeface codes = Faces.Codes;
    static readonly (float X, string Title)[] columns = [(Left, "Line"), (Left + 36, "Item"), (330, "Ordered"), (410, "Received"), (490, "Due")];

    /// <summary>The PDF's bytes.</summary>
    public static byte[] Draw(string number, string kind, string vendor, string state, DateOnly ordered, string site, IReadOnlyList<PrintLine> lines, IReadOnlyList<Approval> approvals)
    {
        using var bytes = new MemoryStream();
        using (var document = SKDocument.CreatePdf(bytes, new SKDocumentPdfMetadata { Title = number, Creator = "Mud Room" }))
        {
            const int perPage = 34;
            var pages = Math.Max(1, (lines.Count + perPage - 1) / perPage);
            for (var page = 0; page < pages; page++)
            {
                using var canvas = document.BeginPage(Width, Height);
                using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
                Text(canvas, ink, codes, 24, Left, 62, number);
                Text(canvas, ink, words, 12, Left, 84, $"{kind}, {vendor}, ordered {ordered:yyyy-MM-dd}, {state}");
                Text(canvas, ink, words, 12, Left, 100, $"To be received at {site}");
                var y = 134f;
                foreach (var (x, title) in columns) Text(canvas, ink, words, 10, x, y, title);
                canvas.DrawRect(Left, y + 6, Width - 2 * Left, 1.2f, ink);
                foreach (var line in lines.Skip(page * perPage).Take(perPage))
                {
                    y += 18;
                    string[] cells = [line.Number, line.Item, line.Ordered, line.Received, line.Due];
                    for (var i = 0; i < cells.Length; i++) Text(canvas, ink, i == 1 ? words : codes, 10, columns[i].X, y + 4, cells[i], i < 4 ? columns[i + 1].X - 6 : Width - Left);
                }

                if (page == pages - 1)
                    foreach (var approval in approvals)
                        Text(canvas, ink, words, 10, Left, y += 22, $"Approved by {approval.By}, {approval.On:yyyy-MM-dd}{(approval.Note is null ? "" : ": " + approval.Note)}");
                Text(canvas, ink, words, 9, Left, Height - 34, $"{number}, page {page + 1} of {pages}");
                document.EndPage();
            }

            document.Close();
        }

        return bytes.ToArray();
    }

    static void Text(SKCanvas canvas, SKPaint ink, SKTypeface face, float size, float x, float y, string text, float until = Width - Left)
    {
        using var font = new SKFont(face, size);
        while (font.MeasureText(text) > until - x && text.Length > 1) text = text[..^1];
        canvas.DrawText(text, x, y, SKTextAlign.Left, font, ink);
    }
}
