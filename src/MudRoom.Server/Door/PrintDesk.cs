using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Labels;
using MudRoom.Server.Road;

namespace MudRoom.Server.Door;

/// <summary>A label in the list of what was printed.</summary>
public sealed record PrintRow(
    int Id,
    string Printer,
    string Title,
    string? Sscc,
    string? Banner,
    string Size,
    int Copies,
    string By,
    DateTime At,
    PrintState State,
    string? Error
);

/// <summary>What was printed, and on which printers more can be.</summary>
public sealed record PrintsAnswer(IReadOnlyList<PrintRow> Prints, int InAll, int PageSize, IReadOnlyList<Printer> Printers);

/// <summary>Prints a label again.</summary>
/// <param name="Print">The label that was printed before.</param>
/// <param name="Printer">On another printer; null for the same.</param>
public sealed record ReprintRequest(int Print, string? Printer);

/// <summary>Prints the label of a unit as it stands now.</summary>
public sealed record PrintUnitRequest(string Sscc, string Printer, string Size);

/// <summary>Prints a label for each pack of a count.</summary>
/// <param name="Count">The count's act.</param>
/// <param name="Pack">Which of its pack levels.</param>
public sealed record PrintPacksRequest(Guid Count, string Pack, string Printer, string Size);

/// <summary>Labels on their way to paper: which come by themselves, what was printed, and printing again.</summary>
public static class PrintDesk
{
    const int PageSize = 40;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/door/prints", Right.See, List, BlindView.Open);
        routes.Ask("/door/prints/{id:int}", Right.See, Picture, BlindView.Open);
        routes.Act<ReprintRequest, DoneAnswer>("/door/prints/again", Right.Tally, Again, blind: BlindView.Open);
        routes.Act<PrintUnitRequest, DoneAnswer>("/door/prints/unit", Right.Tally, PrintUnit, blind: BlindView.Open);
        routes.Act<PrintPacksRequest, DoneAnswer>("/door/prints/packs", Right.Tally, PrintPacks, blind: BlindView.Open);
        routes.Ask("/door/count-label/{count:guid}", Right.See, PacksPdf, BlindView.Open);
    }

    /// <summary>What the site's print rules ask for when goods were counted.</summary>
    /// <param name="made">Units that got their number with this count.</param>
    /// <param name="waited">Who waited for the item before this count, and for how much.</param>
    public static void Queue(
        Act act,
        DockDoor door,
        Count count,
        Standing standing,
        Batch? batch,
        IReadOnlyList<LogisticUnit> made,
        IReadOnlyList<(string Who, decimal Quantity)> waited
    )
    {
        foreach (var rule in act.DoorSettings.Prints.Where(r => r.Door is null || r.Door == door.Number))
        {
            var label = rule.Event switch
            {
                PrintEvent.UnitCounted when made.Count > 0 => true,
                PrintEvent.PackCounted when made.Count == 0 && count.Aside is null && !count.Pack.IsMeasure => true,
                PrintEvent.CountedAside when count.Aside is not null => true,
                _ => false,
            };
            if (!label)
                continue;
            var packs = made.Count > 0 ? made.Count : new PackLabels(count.Item, count.Pack, count.Packs, batch, null).Copies;
            var whom = LabelCodes
                .ForWhom(waited, count.Pack.Content(1), packs)
                .Select(who => LabelCodes.Banner(act.Standings[standing], count.Reason?.Name, who))
                .ToList();
            if (made.Count > 0 && rule.Event == PrintEvent.UnitCounted)
                foreach (var (unit, banner) in made.Zip(whom))
                    Add(
                        act,
                        rule.Printer,
                        rule.Size,
                        $"{count.Item.Name}, {count.Pack.Name}",
                        new LabelContent(
                            act.Site.Name,
                            unit.Sscc,
                            LabelCodes.Contained(count.Item, count.Pack.Content(1)),
                            [UnitLabel.LineOf(count.Item, count.Pack.Content(1), batch)],
                            banner,
                            unit.PackageType
                        )
                    );
            else if (rule.Event == PrintEvent.CountedAside)
                Add(
                    act,
                    rule.Printer,
                    rule.Size,
                    $"{count.Item.Name}, aside",
                    new LabelContent(
                        act.Site.Name,
                        null,
                        LabelCodes.OfPack(count.Pack, batch?.Number),
                        [UnitLabel.LineOf(count.Item, count.Quantity, batch)],
                        LabelCodes.Banner(act.Standings[standing], count.Reason?.Name, null)
                    )
                );
            else
                foreach (var alike in whom.GroupBy(banner => banner))
                    Add(act, rule.Printer, rule.Size, new PackLabels(count.Item, count.Pack, alike.Count(), batch, alike.Key));
        }
    }

    static void Add(Act act, string printer, string size, PackLabels labels) =>
        Add(act, printer, size, labels.Title, labels.Content(act.Site.Name), labels.Copies);

    static void Add(Act act, string printer, string size, string title, LabelContent label, int copies = 1)
    {
        act.Db.PrintJobs.Add(
            new PrintJob
            {
                SiteId = act.Site.Id,
                Printer = printer,
                Title = title,
                Sscc = label.Sscc,
                Code = label.Code,
                Lines = label.Lines,
                Banner = label.Banner,
                PackageType = label.PackageType,
                Size = size,
                Copies = copies,
                By = act.Person.Name,
                At = act.Now,
            }
        );
        act.Touch("prints");
    }

    /// <summary>The content of a label that was sent to paper.</summary>
    public static LabelContent Content(PrintJob job, string from) => new(from, job.Sscc, job.Code, job.Lines, job.Banner, job.PackageType);

    static async Task<Ok<PrintsAnswer>> List(Inquiry inquiry, string? printer, int page = 1)
    {
        var all = inquiry.Db.PrintJobs.Where(j => j.SiteId == inquiry.Site.Id && (printer == null || j.Printer == printer));
        var rows = await all.OrderByDescending(j => j.Id).Skip((Math.Clamp(page, 1, 100_000) - 1) * PageSize).Take(PageSize).ToListAsync();
        return TypedResults.Ok(
            new PrintsAnswer(
                [
                    .. rows.Select(j => new PrintRow(
                        j.Id,
                        j.Printer,
                        j.Title,
                        j.Sscc,
                        j.Banner,
                        j.Size,
                        j.Copies,
                        j.By,
                        inquiry.Local(j.At),
                        j.State,
                        j.Error
                    )),
                ],
                await all.CountAsync(),
                PageSize,
                inquiry.DoorSettings.Printers
            )
        );
    }

    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Picture(Inquiry inquiry, int id, string? pdf)
    {
        var job = await inquiry.Db.PrintJobs.FirstOrDefaultAsync(j => j.Id == id && j.SiteId == inquiry.Site.Id);
        if (job is null)
            return Problems.Of(Problems.NotFound("label", id.ToString()));
        var (label, size) = (Content(job, inquiry.Site.Name), LogisticLabel.Size(job.Size));
        return pdf is null
            ? TypedResults.File(LogisticLabel.Draw(label, size), "image/png")
            : TypedResults.File(LogisticLabel.Pdf(label, size, job.Copies), "application/pdf", $"label-{job.Id}.pdf");
    }

    static async Task<Outcome<DoneAnswer>> Again(Act act, ReprintRequest request)
    {
        var job = await act.Db.PrintJobs.FirstOrDefaultAsync(j => j.Id == request.Print && j.SiteId == act.Site.Id);
        if (job is null)
            return Problems.NotFound("label", request.Print.ToString());
        var printer = request.Printer.OrNull() ?? job.Printer;
        if (NoPrinter(act, printer) is { } refusal)
            return refusal;
        if (job.State == PrintState.Failed && printer == job.Printer)
        {
            job.Again();
            act.Touch("prints");
        }
        else
        {
            Add(act, printer, job.Size, job.Title, Content(job, act.Site.Name), job.Copies);
        }

        return new DoneAnswer($"{job.Title} is sent to {printer}.");
    }

    static async Task<Outcome<DoneAnswer>> PrintUnit(Act act, PrintUnitRequest request)
    {
        var unit = await act.Db.Units.FirstOrDefaultAsync(u => u.SiteId == act.Site.Id && u.Sscc == request.Sscc);
        if (unit is null)
            return Problems.NotFound("unit", request.Sscc ?? "");
        if (NoPrinter(act, request.Printer) is { } refusal)
            return refusal;
        if (request.Size is not ("a6" or "4x6"))
            return WrongSize;
        var label = await UnitLabel.Content(act.Db, act.SetUp, act.Site, unit);
        Add(
            act,
            request.Printer,
            request.Size,
            label.Lines.Count == 1 ? label.Lines[0].Item : $"{label.Lines.Count} items on one unit",
            label
        );
        return new DoneAnswer($"The label of unit {Core.Identification.Sscc.Spaced(unit.Sscc)} is sent to {request.Printer}.");
    }

    static async Task<Outcome<DoneAnswer>> PrintPacks(Act act, PrintPacksRequest request)
    {
        var found = await PackLabels.Of(act.Db, act.SetUp, act.Site, request.Count, request.Pack ?? "");
        if (found.Refused(out var none))
            return none;
        if (NoPrinter(act, request.Printer) is { } refusal)
            return refusal;
        if (request.Size is not ("a6" or "4x6"))
            return WrongSize;
        Add(act, request.Printer, request.Size, found.Value);
        return new DoneAnswer(
            $"{found.Value.Copies} {(found.Value.Copies == 1 ? "label" : "labels")} of {found.Value.Title} "
                + $"{(found.Value.Copies == 1 ? "is" : "are")} sent to {request.Printer}."
        );
    }

    /// <summary>The labels of a count's packs as a PDF of their true size, for a printer that Mud Room does not know.</summary>
    static async Task<Results<FileContentHttpResult, ProblemHttpResult>> PacksPdf(Inquiry inquiry, Guid count, string pack, string? size)
    {
        var found = await PackLabels.Of(inquiry.Db, inquiry.SetUp, inquiry.Site, count, pack);
        if (found.Refused(out var none))
            return Problems.Of(none);
        return TypedResults.File(
            LogisticLabel.Pdf(found.Value.Content(inquiry.Site.Name), LogisticLabel.Size(size), found.Value.Copies),
            "application/pdf",
            $"labels-{count:N}.pdf"
        );
    }

    static Refusal WrongSize => new(DoorRefusals.LabelSize, "A label is A6 or 4 by 6 inches.", "Choose one of the two.");

    static Refusal? NoPrinter(Act act, string? printer) =>
        act.DoorSettings.Printers.Any(p => p.Name == printer)
            ? null
            : new Refusal(
                DoorRefusals.PrinterUnknown,
                $"{printer} is no printer of {act.Site.Name}.",
                act.DoorSettings.Printers.Count == 0
                    ? "Set one up in Site, how goods are counted."
                    : $"Choose {string.Join(" or ", act.DoorSettings.Printers.Select(p => p.Name))}."
            );
}
