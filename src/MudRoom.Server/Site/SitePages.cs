using Microsoft.AspNetCore.Http.HttpResults;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Site;

/// <summary>An item in the list.</summary>
public sealed record ItemRow(
    string Code,
    string Name,
    string Category,
    string Unit,
    IReadOnlyList<PackView> Packs,
    IReadOnlyList<string> Asks,
    StorageClass StorageClass,
    decimal OverPercent,
    string HomeZone,
    PickRateClass PickRateClass,
    string? Plan
);

/// <summary>A bin in the list.</summary>
public sealed record BinRow(
    string Address,
    string Zone,
    BinFunction Function,
    StorageClass StorageClass,
    decimal MaxMass,
    decimal MaxVolume,
    bool Blocked
);

/// <summary>A person in the list.</summary>
public sealed record PersonRow(string Name, string SignInName, IReadOnlyList<Role> Roles, IReadOnlyList<string> Sites, bool Active);

/// <summary>A vendor in the list.</summary>
public sealed record VendorRow(
    string Code,
    string Name,
    string Country,
    string? Contact,
    string? Telephone,
    string? Mail,
    int? MinimumRemainingDays,
    string? Gln
);

/// <summary>The set-up of a site.</summary>
public sealed record SetUpAnswer(
    string Code,
    string Name,
    string TimeZone,
    int HorizonDays,
    IReadOnlyList<ItemRow> Items,
    IReadOnlyList<VendorRow> Vendors,
    IReadOnlyList<PersonRow> People,
    IReadOnlyList<BinRow> Bins,
    int BinsInAll,
    IReadOnlyList<string> HoldRules,
    IReadOnlyList<string> Warnings
);

/// <summary>What the site is made of.</summary>
public static class SitePages
{
    const int MostBins = 400;

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site", Right.See, Run);
        routes.Ask("/site/countries", Right.See, (Inquiry _) => TypedResults.Ok(Countries.All), BlindView.Open);
    }

    static Ok<SetUpAnswer> Run(Inquiry inquiry)
    {
        var setUp = inquiry.SetUp;
        var bins = setUp.BinsOfSite[inquiry.Site.Id];
        return TypedResults.Ok(
            new SetUpAnswer(
                inquiry.Site.Code,
                inquiry.Site.Name,
                inquiry.Site.TimeZone,
                inquiry.Site.HorizonDays,
                [
                    .. setUp
                        .Catalogue.Items.OrderBy(i => i.Code, StringComparer.Ordinal)
                        .Select(i => new ItemRow(
                            i.Code,
                            i.Name,
                            i.Category,
                            i.UnitWord,
                            [
                                .. i
                                    .PackLevels.OrderBy(p => p.Content(1))
                                    .Select(p => new PackView(p.Name, p.Content(1), p.IsUnit, p.PackageType)),
                            ],
                            Asks(i),
                            i.StorageClass,
                            i.OverPercent,
                            i.HomeZone,
                            i.PickRateClass,
                            i.InspectionPlanId is { } plan ? setUp.Plans[plan].Name : null
                        )),
                ],
                [
                    .. setUp
                        .Vendors.Values.OrderBy(v => v.Name, StringComparer.Ordinal)
                        .Select(v => new VendorRow(
                            v.Code,
                            v.Name,
                            Countries.ByCode(v.Country)?.Name ?? v.Country,
                            v.ContactName,
                            v.Telephone,
                            v.Mail,
                            v.MinimumRemainingDays,
                            v.Gln
                        )),
                ],
                [
                    .. setUp
                        .People.Values.Where(p => p.Sites.Contains(inquiry.Site.Code))
                        .OrderBy(p => p.Name, StringComparer.Ordinal)
                        .Select(p => new PersonRow(p.Name, p.SignInName, p.Roles, p.Sites, p.Active)),
                ],
                [
                    .. bins.OrderBy(b => b.Address, StringComparer.Ordinal)
                        .Take(MostBins)
                        .Select(b => new BinRow(b.Address, b.Zone, b.Function, b.StorageClass, b.MaxMass, b.MaxVolume, b.Blocked)),
                ],
                bins.Count,
                [.. setUp.HoldRules.Select(r => $"{r.Name}: {r.Words(i => setUp.Catalogue[i].Name, v => setUp.Vendors[v].Name)}")],
                Warnings(setUp, inquiry.Site)
            )
        );
    }

    /// <summary>What is set up so that work would stop at it.</summary>
    static List<string> Warnings(SetUp setUp, WarehouseSite site) =>
        [
            .. setUp
                .Doors.Values.Where(d => d.SiteId == site.Id && setUp.StagingOf(d).Count == 0)
                .OrderBy(d => d.Number)
                .Select(d =>
                    $"Door {d.Number} has no receiving place: nothing can be counted "
                    + $"there{(site.HasAddresses ? "" : " that is not usable at once")}."
                ),
            .. setUp
                .Catalogue.Items.Where(i =>
                    i.InspectionPlanId is { } plan && i.PackLevels.All(p => p.Name != setUp.Plans[plan].SamplingUnit)
                )
                .OrderBy(i => i.Code, StringComparer.Ordinal)
                .Select(i =>
                    $"{i.Name} is inspected by {setUp.Plans[i.InspectionPlanId!.Value].Name}, which samples by "
                    + $"{setUp.Plans[i.InspectionPlanId!.Value].SamplingUnit}, and has no such pack: the size of each lot must be typed."
                ),
        ];

    static string[] Asks(Item item) =>
        [
            .. new[]
            {
                (item.NeedsBatch, "batch"),
                (item.NeedsSourceBatch, "source batch"),
                (item.NeedsDates, "dates"),
                (item.NeedsOrigin, "origin"),
                (item.NeedsSerial, "serial"),
            }
                .Where(a => a.Item1)
                .Select(a => a.Item2),
        ];
}
