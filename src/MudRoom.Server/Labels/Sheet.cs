using SkiaSharp;

namespace MudRoom.Server.Labels;

/// <summary>A column of a printed sheet.</summary>
/// <param name="X">Where it begins, in points from the left of an A4 page.</param>
/// <param name="IsCode">True for numbers and codes, set in the even face.</param>
public sealed record SheetColumn(string Title, float X, bool IsCode = true);

/// <summary>A sheet to be printed: heading, a table over as many pages as it takes, closing lines, pictures.</summary>
/// <param name="Heading">Lines beneath the title; a long one goes on in the next.</param>
/// <param name="Rows">Cells by column; <see cref="Sheet.Blank"/> is a line to write on.</param>
/// <param name="Closing">Lines beneath the table; a long one goes on in the next.</param>
/// <param name="Pictures">Each on the rest of a page, with its caption; what cannot be drawn is named.</param>
public sealed record SheetContent(
    string Title,
    IReadOnlyList<string> Heading,
    IReadOnlyList<SheetColumn> Columns,
    IReadOnlyList<IReadOnlyList<string>> Rows,
    IReadOnlyList<string> Closing,
    IReadOnlyList<(string Caption, byte[] Image)> Pictures,
    float RowHeight = 18
)
{
    /// <summary>A code in the head of the first page; null for none.</summary>
    public SheetCode? Code { get; init; }
}

/// <summary>A code of square cells, as QR codes are.</summary>
/// <param name="Cells">Dark ones true, row by row, with their quiet zone.</param>
/// <param name="Caption">Beneath it.</param>
public sealed record SheetCode(IReadOnlyList<IReadOnlyList<bool>> Cells, string Caption);

/// <summary>Draws sheets on A4 as PDF.</summary>
public static class Sheet
{
    /// <summary>A cell that is left blank with a line to write on.</summary>
    public const string Blank = "\u2009";

    const float Width = 595;
    const float Height = 842;
    const float CodeSide = 96;
    const float ClosingHeight = 22;

    /// <summary>Where text beside a code ends.</summary>
    const float Beside = Width - 42 - CodeSide - 8;

    /// <summary>The left margin, where first columns begin.</summary>
    public const float Left = 42;

    /// <summary>The PDF's bytes.</summary>
    public static byte[] Draw(SheetContent sheet)
    {
        using var bytes = new MemoryStream();
        using (var document = SKDocument.CreatePdf(bytes, new SKDocumentPdfMetadata { Title = sheet.Title, Creator = "Mud Room" }))
        {
            var heading = Wrapped(sheet.Heading, 12, sheet.Code is null ? Width - Left : Beside);
            var below = Wrapped(sheet.Closing, 10, Width - Left);
            var begins = 102f + 16 * heading.Count;
            var perPage = (int)((Height - 108 - begins) / sheet.RowHeight);
            var tables = Math.Max(1, (sheet.Rows.Count + perPage - 1) / perPage);
            // Lines that have no room beneath the table go on with further pages.
            var beneath = (int)((Height - 54 - begins - (sheet.Rows.Count - perPage * (tables - 1)) * sheet.RowHeight) / ClosingHeight);
            var further = (int)((Height - 54 - begins) / ClosingHeight);
            var pages = tables + (Math.Max(0, below.Count - beneath) + further - 1) / further;
            for (var page = 0; page < pages; page++)
            {
                using var canvas = document.BeginPage(Width, Height);
                using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
                Text(canvas, ink, Faces.Codes, 24, Left, 62, sheet.Title);
                if (page == 0 && sheet.Code is { } code)
                    Cells(canvas, code);
                var y = 68f;
                foreach (var line in heading)
                    Text(canvas, ink, Faces.Words, 12, Left, y += 16, line);
                y += 34;
                foreach (var column in sheet.Columns)
                    Text(canvas, ink, Faces.Words, 10, column.X, y, column.Title);
                canvas.DrawRect(Left, y + 6, Width - 2 * Left, 1.2f, ink);
                foreach (var row in sheet.Rows.Skip(page * perPage).Take(perPage))
                {
                    y += sheet.RowHeight;
                    for (var i = 0; i < sheet.Columns.Count; i++)
                        Cell(canvas, ink, sheet, row, i, y);
                }

                var closing =
                    page < tables - 1 ? []
                    : page == tables - 1 ? below.Take(beneath)
                    : below.Skip(beneath + (page - tables) * further).Take(further);
                foreach (var line in closing)
                    Text(canvas, ink, Faces.Words, 10, Left, y += ClosingHeight, line);
                Text(canvas, ink, Faces.Words, 9, Left, Height - 34, $"{sheet.Title}, page {page + 1} of {pages}");
                document.EndPage();
            }

            foreach (var (caption, image) in sheet.Pictures)
                Picture(document, sheet.Title, caption, image);
            document.Close();
        }

        return bytes.ToArray();
    }

    /// <summary>Lines as they fit from the left margin to where text ends, broken between words; a word that is longer than a line is
    /// broken too.</summary>
    static List<string> Wrapped(IReadOnlyList<string> lines, float size, float until)
    {
        using var font = new SKFont(Faces.Words, size);
        var wrapped = new List<string>();
        foreach (var line in lines)
        {
            var rest = line;
            while (font.MeasureText(rest) > until - Left)
            {
                var fits = Math.Max(1, font.BreakText(rest, until - Left));
                var space = rest.LastIndexOf(' ', Math.Min(fits, rest.Length - 1));
                var end = space > 0 ? space : fits;
                wrapped.Add(rest[..end]);
                rest = rest[end..].TrimStart();
            }

            wrapped.Add(rest);
        }

        return wrapped;
    }

    static void Cells(SKCanvas canvas, SheetCode code)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = false };
        var cell = CodeSide / code.Cells.Count;
        var (left, top) = (Width - Left - CodeSide, 22f);
        for (var row = 0; row < code.Cells.Count; row++)
        for (var column = 0; column < code.Cells[row].Count; column++)
            if (code.Cells[row][column])
                canvas.DrawRect(left + column * cell, top + row * cell, cell, cell, ink);
        Text(canvas, ink, Faces.Words, 8, left, top + CodeSide + 8, code.Caption);
    }

    static void Cell(SKCanvas canvas, SKPaint ink, SheetContent sheet, IReadOnlyList<string> row, int column, float y)
    {
        // A text goes on over cells that are empty.
        var next = column + 1;
        while (next < sheet.Columns.Count && row[next].Length == 0)
            next++;
        var (x, until) = (sheet.Columns[column].X, next < sheet.Columns.Count ? sheet.Columns[next].X - 6 : Width - Left);
        var text = row[column];
        if (text == Blank)
            canvas.DrawRect(x, y + 6, until - x, 0.6f, ink);
        else
            Text(canvas, ink, sheet.Columns[column].IsCode ? Faces.Codes : Faces.Words, 10, x, y + 4, text, until);
    }

    static void Picture(SKDocument document, string title, string caption, byte[] image)
    {
        using var canvas = document.BeginPage(Width, Height);
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        Text(canvas, ink, Faces.Words, 12, Left, 62, $"{title}: {caption}");
        using var codec = SKCodec.Create(new MemoryStream(image));
        using var bitmap = codec is null ? null : SKBitmap.Decode(codec);
        if (bitmap is null)
        {
            Text(canvas, ink, Faces.Words, 10, Left, 90, "This picture could not be drawn.");
        }
        else
        {
            var scale = Math.Min((Width - 2 * Left) / bitmap.Width, (Height - 150) / bitmap.Height);
            using var drawn = SKImage.FromBitmap(bitmap);
            canvas.DrawImage(
                drawn,
                new SKRect(Left, 80, Left + bitmap.Width * scale, 80 + bitmap.Height * scale),
                new SKSamplingOptions(SKCubicResampler.Mitchell),
                ink
            );
        }

        document.EndPage();
    }

    static void Text(SKCanvas canvas, SKPaint ink, SKTypeface face, float size, float x, float y, string text, float until = Width - Left)
    {
        using var font = new SKFont(face, size);
        while (font.MeasureText(text) > until - x && text.Length > 1)
            text = text[..^1];
        canvas.DrawText(text, x, y, SKTextAlign.Left, font, ink);
    }
}
