using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Identification;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Site;

/// <summary>How a vendor is reached, and how long goods of theirs must keep.</summary>
/// <param name="Gln">Global Location Number by which messages name it; blank for none.</param>
/// <param name="MinimumRemainingDays">Days that must remain when they come in; null for the items' own rules alone.</param>
public sealed record KeepVendorRequest(
    string Code,
    string? Contact,
    string? Telephone,
    string? Mail,
    int? MinimumRemainingDays,
    string? Gln = null
);

/// <summary>One vendor, changed by hand; new ones come by a file.</summary>
public static class VendorPage
{
    const int MostCharacters = 120;

    public static void Map(SiteRoutes routes) => routes.Act<KeepVendorRequest, DoneAnswer>("/site/vendor", Right.SetUp, Keep);

    public static async Task<Outcome<DoneAnswer>> Keep(Act act, KeepVendorRequest request)
    {
        var code = (request.Code ?? "").Trim();
        var vendor = await act.Db.Vendors.AsTracking().FirstOrDefaultAsync(v => v.Code == code);
        if (vendor is null)
            return Problems.NotFound("vendor", code);
        if (request.MinimumRemainingDays is < 0 or > 36_500)
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "The minimum remaining life is 0 to 36 500 days.",
                "Look at the number again. Nothing was kept."
            );
        if (new[] { request.Contact, request.Telephone, request.Mail }.Any(t => t is { Length: > MostCharacters }))
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                $"A contact, telephone or mail address has at most {MostCharacters} characters.",
                "Shorten it. Nothing was kept."
            );
        if (request.Mail.OrNull() is { } mail && !mail.Contains('@', StringComparison.Ordinal))
            return new Refusal(HouseRefusals.SettingAbsurd, $"{mail} is no mail address.", "Look at it again. Nothing was kept.");
        var gln = Gln.Read(request.Gln);
        if (gln.Refused(out var noGln))
            return noGln;
        if (gln.Value is not null && await act.Db.Vendors.FirstOrDefaultAsync(v => v.Gln == gln.Value && v.Id != vendor.Id) is { } other)
            return new Refusal(
                SiteRefusals.GlnTaken,
                $"GLN {gln.Value} is that of {other.Name}.",
                "Every vendor has its own. Nothing was kept."
            );
        vendor.Gln = gln.Value;
        (vendor.ContactName, vendor.Telephone, vendor.Mail, vendor.MinimumRemainingDays) = (
            request.Contact.OrNull(),
            request.Telephone.OrNull(),
            request.Mail.OrNull(),
            request.MinimumRemainingDays
        );
        act.Write(
            new VendorChanged(vendor.Code, vendor.Name, vendor.MinimumRemainingDays)
            {
                About = [new Reference(ReferenceKind.Vendor, vendor.Id)],
            }
        );
        act.Changes(SetUpParts.Vendors);
        act.Touch("site", "road", "door");
        return new DoneAnswer($"{vendor.Name} is kept.");
    }
}
