using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Road;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Exchange;
using MudRoom.Exchange.Csv;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Road;

/// <summary>A file of orders.</summary>
/// <param name="Name">The file's name, for the book.</param>
/// <param name="Text">Its content.</param>
public sealed record ImportRequest(string Name, string Text);

/// <summary>What an import would do or did.</summary>
/// <param name="Orders">Orders in the file.</param>
/// <param name="Lines">Line parts in the file.</param>
/// <param name="Rows">The first hundred, for looking at.</param>
/// <param name="Faults">What is wrong; when there is any, nothing is imported.</param>
public sealed record ImportAnswer(int Orders, int Lines, IReadOnlyList<ImportRow> Rows, IReadOnlyList<FileFault> Faults);

/// <summary>One row of the preview.</summary>
public sealed record ImportRow(string Order, int Line, string Vendor, string Item, decimal Quantity, string Unit, DateOnly Due, string Site);

/// <summary>Orders from a CSV file: looked at first, then taken whole or not at all.</summary>
public static class ImportOrders
{
    const int MostCharacters = 20_000_000;
    const int Shown = 100;

    public static void Map(SiteRoutes routes)
    {
        routes.Check<ImportRequest, Ok<ImportAnswer>>("/road/import/preview", Right.KeepOrders, Preview);
        routes.Act<ImportRequest, ImportAnswer>("/road/import", Right.KeepOrders, Run);
    }

    static async Task<Ok<ImportAnswer>> Preview(Visit visit, ImportRequest request)
    {
        var (file, faults) = await Read(visit.Db, visit.SetUp, visit.Today, request);
        return TypedResults.Ok(Answer(file, faults));
    }

    /// <summary>Imports; refused whole when anything in the file is wrong.</summary>
    public static async Task<Outcome<ImportAnswer>> Run(Act act, ImportRequest request)
    {
        var (file, faults) = await Read(act.Db, act.SetUp, act.Today, request);
        if (faults.Count > 0)
        {
            var first = faults[0];
            return new Refusal("file-faults", $"{request.Name} has {faults.Count} {(faults.Count == 1 ? "fault" : "faults")}. Line {first.Line}, {first.Field} {first.Value}: {first.Reason}.", "Mend the file and drop it again. Nothing was imported.");
        }

        foreach (var rows in file.Rows.GroupBy(r => r.Order))
        {
            var first = rows.First();
            act.Db.Orders.Add(new Order
            {
                Number = rows.Key,
                Kind = first.Kind,
                VendorId = first.Vendor.Id,
                OrderDate = first.OrderDate,
                Lines = [.. rows.GroupBy(r => r.Line).Select(line => new OrderLine
                {
                    Number = line.Key,
                    ItemId = line.First().Item.Id,
                    Price = line.First().Price,
                    Parts = [.. line.Select(r => new LinePart
                    {
                        ItemId = r.Item.Id, VendorId = r.Vendor.Id, SiteId = r.Site.Id, Due = r.Due, Ordered = r.Quantity, WaitingQuantity = r.WaitingQuantity, WaitingFor = r.WaitingFor,
                    })],
                })],
            });
        }

        var answer = Answer(file, faults);
        act.Write(EntryKind.OrdersImported, request.Name, $"{answer.Orders} orders with {answer.Lines} line parts imported from {request.Name}.");
        act.Touch("road", "house");
        return answer;
    }

    static async Task<(OrderFile File, IReadOnlyList<FileFault> Faults)> Read(MudRoomDb db, SetUp setUp, DateOnly today, ImportRequest request)
    {
        if ((request.Text ?? "").Length > MostCharacters)
            return (new OrderFile([], []), [new FileFault(1, "", "", "The file is larger than 20 million characters. Part it.")]);
        var known = new Known(setUp.Catalogue, setUp.Vendors.Values.ToDictionary(v => v.Code, StringComparer.OrdinalIgnoreCase), setUp.Sites);
        var file = OrderCsv.Read(request.Text ?? "", known, today);
        if (file.Faults.Count > 0) return (file, file.Faults);
        var numbers = file.Rows.Select(r => r.Order).Distinct().ToList();
        var there = await db.Orders.Where(o => numbers.Contains(o.Number)).Select(o => o.Number).ToListAsync();
        var faults = file.Rows.Where(r => there.Contains(r.Order)).DistinctBy(r => r.Order).Take(OrderCsv.MostFaults)
            .Select(r => new FileFault(r.FileLine, "order", r.Order, "an order of this number is here already")).ToList();
        return (file, faults);
    }

    static ImportAnswer Answer(OrderFile file, IReadOnlyList<FileFault> faults) => new(
        file.Rows.Select(r => r.Order).Distinct().Count(), file.Rows.Count,
        [.. file.Rows.Take(Shown).Select(r => new ImportRow(r.Order, r.Line, r.Vendor.Name, r.Item.Name, r.Quantity, r.Item.UnitWord, r.Due, r.Site.Name))], faults);
}
