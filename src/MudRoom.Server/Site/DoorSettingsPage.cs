using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Book;
using MudRoom.Core.Site;
using MudRoom.Server.Acts;
using MudRoom.Server.Road;

namespace MudRoom.Server.Site;

/// <summary>How a site counts goods in.</summary>
/// <param name="HasAddresses">False for one undivided store.</param>
/// <param name="Doors">Numbers of its doors.</param>
/// <param name="TestLabel">The label to teach a scanner with, as an element string with brackets.</param>
public sealed record DoorSettingsAnswer(DoorSettings Settings, bool HasAddresses, IReadOnlyList<int> Doors, string TestLabel);

/// <summary>The settings anew, as a whole.</summary>
public sealed record DoorSettingsRequest(DoorSettings Settings, bool HasAddresses);

/// <summary>What a scanner typed when it read the test label.</summary>
/// <param name="Slowest">Most milliseconds between two of its characters.</param>
public sealed record LearnScannerRequest(string Typed, int Slowest = 0);

/// <summary>What was learned of a scanner, or why nothing was.</summary>
public sealed record LearnedScanner(ScannerSettings? Settings, string Words, Refusal? Problem);

/// <summary>Shows and changes how a site counts, and learns how its scanners type.</summary>
public static class DoorSettingsPage
{
    /// <summary>What a scanner reads from the test label: an item, a batch of open length, and a serial behind the separator.</summary>
    public const string TestLabel = "010952123499999710TEST-A1\u001d2110";

    /// <summary>The same as it is drawn and printed below the bars.</summary>
    public const string TestLabelShown = "(01)09521234999997(10)TEST-A1(21)10";

    public static void Map(SiteRoutes routes)
    {
        routes.Ask("/site/door", Right.See, (Inquiry inquiry) =>
            TypedResults.Ok(
                new DoorSettingsAnswer(inquiry.Site.Door, inquiry.Site.HasAddresses, DoorsOf(inquiry.SetUp, inquiry.Site), TestLabelShown)
            )
        );
        routes.Act<DoorSettingsRequest, DoneAnswer>("/site/door", Right.SetUp, Run);
        routes.Check<LearnScannerRequest, Ok<LearnedScanner>>("/site/scanner", Right.SetUp, (inquiry, request) =>
            Task.FromResult(TypedResults.Ok(Learn(request, inquiry.Site.Door.Scanner)))
        );
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, DoorSettingsRequest request)
    {
        if (request.Settings is null)
            return new Refusal(SiteRefusals.SettingAbsurd, "No settings were sent.", "Load the page again.");
        if (request.Settings.Fault(DoorsOf(act.SetUp, act.Site)) is { } fault)
            return fault;
        if (!request.HasAddresses && !act.SetUp.BinsOfSite[act.Site.Id].Any(b => b.Function == BinFunction.Floor))
            return new Refusal(
                SiteRefusals.SettingAbsurd,
                "An undivided store needs one place of function floor, in which everything stands.",
                "Make that place first. Nothing was kept."
            );
        var site = await act.Db.Sites.AsTracking().FirstAsync(s => s.Id == act.Site.Id);
        (site.Door, site.HasAddresses) = (request.Settings, request.HasAddresses);
        var settings = request.Settings;
        act.Write(
            new CountingChanged(
                act.Site.Code,
                act.Site.Name,
                settings.Quantity,
                settings.Blind,
                settings.SecondCount,
                settings.ScanForced,
                settings.Reasons.Count,
                settings.Printers.Count,
                settings.Prints.Count
            )
        );
        act.SetUpChanged = true;
        act.Touch("site", "door", "shelf", "house");
        return new DoneAnswer("Kept. Every door goes by it from now on.");
    }

    static LearnedScanner Learn(LearnScannerRequest request, ScannerSettings now)
    {
        var learned = ScannerSettings.Learn(request.Typed ?? "", TestLabel);
        if (learned.Refused(out var refusal))
            return new LearnedScanner(null, refusal.Sentence, refusal);
        var whole = learned.Value with { Pace = ScannerSettings.PaceOf(Math.Max(0, request.Slowest)), RepeatWithin = now.RepeatWithin };
        var (prefix, suffix, separator) = (learned.Value.Prefix, learned.Value.Suffix, learned.Value.Separator);
        var parts = new[]
        {
            prefix.Length > 0 ? $"types {prefix} before each code" : "",
            suffix.Length > 0 ? $"types {suffix} behind it" : "",
            separator.Length > 0 ? $"sends {separator} for the separator" : "sends the separator as it is",
            whole.Pace > ScannerSettings.UsualPace ? $"types slowly, up to {request.Slowest} ms between two characters" : "",
        };
        return new LearnedScanner(whole, $"This scanner {string.Join(", ", parts.Where(p => p.Length > 0))}.", whole.Fault());
    }

    static List<int> DoorsOf(SetUp setUp, WarehouseSite site) =>
        [.. setUp.Doors.Values.Where(d => d.SiteId == site.Id).Select(d => d.Number).Order()];
}
