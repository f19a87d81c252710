using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Bench;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;
using QRCoder;

namespace MudRoom.Server.Bench;

/// <summary>A signed sheet against its hash.</summary>
/// <param name="Hash">As it was signed.</param>
/// <param name="Now">As it is worked out now from all that the sheet says.</param>
/// <param name="Version">How the hash is made.</param>
/// <param name="Covers">What it covers, in words.</param>
/// <param name="InBook">Sequence number of the entry of the book that names the hash; null where there is none.</param>
public sealed record SheetProofAnswer(string Number, bool IsWhole, string Hash, string Now, int Version, string Covers, long? InBook);

/// <summary>The signed sheet as a paper, and its proof.</summary>
public static class SheetProof
{
    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/bench/proof/{number}", Right.See, Proof);
        routes.Ask("/bench/paper/{number}", Right.See, Paper);
    }

    static async Task<Results<Ok<SheetProofAnswer>, ProblemHttpResult>> Proof(Inquiry inquiry, string number)
    {
        var read = await Signed(inquiry, number);
        if (read.Refused(out var no))
            return Problems.Of(no);
        var (sheet, plan) = read.Value;
        var now = Sheets.Hash(sheet, plan.Name, plan[sheet.PlanVersion]);
        var named = await inquiry
            .Db.Ledger.Where(e => e.SiteId == inquiry.Site.Id && e.Kind == Core.Book.EntryKind.VerdictSigned && e.Subject == sheet.Number)
            .OrderByDescending(e => e.Seq)
            .FirstOrDefaultAsync();
        return TypedResults.Ok(
            new SheetProofAnswer(
                sheet.Number,
                now == sheet.SheetHash,
                sheet.SheetHash!,
                now,
                sheet.SheetVersion,
                Sheets.Covers(sheet.SheetVersion),
                named is not null && (named.Fact + named.Sentence).Contains(sheet.SheetHash!, StringComparison.Ordinal) ? named.Seq : null
            )
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Paper(Inquiry inquiry, string number)
    {
        var read = await Signed(inquiry, number);
        if (read.Refused(out var no))
            return Problems.Of(no);
        var (sheet, plan) = read.Value;
        var says = plan[sheet.PlanVersion].Content;
        var item = inquiry.SetUp.Catalogue[sheet.ItemId];
        var batch = await inquiry.Db.Batches.Where(b => b.Id == sheet.BatchId).Select(b => b.Number).FirstOrDefaultAsync();
        var stand = LotStand.Of(says, sheet.Sample!, sheet.Findings);
        var ids = sheet.Pictures.Select(p => p.Id).ToList();
        var pictures = await inquiry.Db.Set<BenchPicture>().Where(p => ids.Contains(p.Id)).ToDictionaryAsync(p => p.Id, p => p.Content);
        var request = inquiry.Http.Request;
        var leads = $"{request.Scheme}://{request.Host}/bench/{sheet.Number}/sheet?hash={sheet.SheetHash}";
        return TypedResults.File(
            Sheet.Draw(
                new SheetContent(
                    $"Inspection {sheet.Number}: {sheet.Verdict!.Value.ToString().ToLowerInvariant()}",
                    [
                        $"{item.Name}, {Quantities.InPacks(sheet.Quantity, item)}{(batch is null ? "" : $", batch {batch}")}, from "
                            + Inspections.Sender(inquiry.SetUp, sheet),
                        $"{plan.Name}, version {sheet.PlanVersion}: {sheet.Sample!.Size} of {sheet.LotSize} {says.SamplingUnit}",
                        .. stand.Parts.Select(p => p.Judgement.Sentence),
                        .. sheet.Signatures.Select(s =>
                            $"{s.Meaning} by {s.By}, {inquiry.Local(s.At):yyyy-MM-dd HH:mm}{(s.Comment is null ? "" : ": " + s.Comment)}"
                        ),
                    ],
                    [
                        new("Piece", Sheet.Left),
                        new("Characteristic", 90, false),
                        new("Limits", 240, false),
                        new("Found", 370),
                        new("By", 470, false),
                    ],
                    Rows(sheet, says),
                    [
                        .. sheet.Notes.Select(n => $"{About(says, n.Piece, n.CharacteristicId)}{n.Text}, {n.By}"),
                        .. sheet.Pictures.Select((p, i) => $"Picture {i + 1}: {About(says, p.Piece, p.CharacteristicId)}SHA-256 {p.Hash}"),
                        $"SHA-256 of the sheet {sheet.SheetHash}",
                    ],
                    [
                        .. sheet.Pictures.Select(
                            (p, i) =>
                                (
                                    $"picture {i + 1}: {About(says, p.Piece, p.CharacteristicId)}{p.By}, "
                                        + $"{inquiry.Local(p.At):yyyy-MM-dd HH:mm}",
                                    pictures[p.Id]
                                )
                        ),
                    ]
                )
                {
                    Code = new SheetCode(Qr(leads), "The sheet as it is kept"),
                }
            ),
            "application/pdf",
            $"{sheet.Number}.pdf"
        );
    }

    /// <summary>Piece by piece: the name that it bears, then what was found on it.</summary>
    static IReadOnlyList<IReadOnlyList<string>> Rows(Inspection sheet, PlanContent says)
    {
        var names = sheet.Pieces.ToDictionary(p => p.Piece, p => p.Name);
        return
        [
            .. sheet
                .Findings.GroupBy(f => f.Piece)
                .OrderBy(g => g.Key)
                .SelectMany(g =>
                    (
                        names.TryGetValue(g.Key, out var name)
                            ? (string[][])
                                [
                                    [Number(g.Key), $"bears {name}", "", "", ""],
                                ]
                            : []
                    ).Concat(g.OrderBy(f => f.CharacteristicId).Select(f => Row(f, says[f.CharacteristicId]!)))
                ),
        ];

        static string[] Row(Finding f, Characteristic c) =>
            [Number(f.Piece), c.Name, c.LimitWords, Inspection.Words(c, f.Value, f.Conforms) + (f.Conforms ? "" : " ×"), f.By];
        static string Number(int piece) => piece.ToString(System.Globalization.CultureInfo.InvariantCulture);
    }

    /// <summary>What of the lot is spoken of: "piece 3, Gap at the tip: "; empty where it is all of it.</summary>
    static string About(PlanContent says, int? piece, int? characteristic) =>
        string.Join(", ", new[] { piece is { } p ? $"piece {p}" : null, characteristic is { } id ? says[id]?.Name : null }.OfType<string>())
            is { Length: > 0 } about
            ? about + ": "
            : "";

    /// <summary>The dark cells of a QR code (ISO/IEC 18004) of a text, error correction M.</summary>
    static IReadOnlyList<IReadOnlyList<bool>> Qr(string text)
    {
        using var code = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        return [.. code.ModuleMatrix.Select(row => (bool[])[.. row.Cast<bool>()])];
    }

    static async Task<Outcome<(Inspection Sheet, InspectionPlan Plan)>> Signed(Inquiry inquiry, string number)
    {
        var sheet = await inquiry
            .Db.Inspections.AsNoTracking()
            .Include(i => i.Findings)
            .FirstOrDefaultAsync(i => i.SiteId == inquiry.Site.Id && i.Number == number);
        if (sheet is null)
            return Problems.NotFound("inspection", number);
        if (sheet.SheetHash is null)
            return new Refusal(BenchRefusals.NotSigned, $"{number} is not signed: it is still changed on its sheet.", "Open its sheet.");
        return (sheet, inquiry.SetUp.Plans[sheet.PlanId]);
    }
}
