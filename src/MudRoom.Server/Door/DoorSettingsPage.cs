using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Core.Door;
using MudRoom.Core.Out;
using MudRoom.Core.Site;
using MudRoom.Data;
using MudRoom.Server.Acts;

namespace MudRoom.Server.Door;

/// <summary>How a site counts goods in.</summary>
/// <param name="HasAddresses">False for one undivided store.</param>
/// <param name="Doors">Numbers of its doors.</param>
/// <param name="TestLabel">The label to teach a scanner with, as an element string with brackets.</param>
/// <param name="Receipts">When others are told of a receipt.</param>
public sealed record DoorSettingsAnswer(
    DoorSettings Settings,
    ScannerSettings Scanner,
    ReceiptOut Receipts,
    bool HasAddresses,
    IReadOnlyList<int> Doors,
    string TestLabel,
    SettingsInForce InForce
);

/// <summary>The settings anew, each as a whole.</summary>
/// <param name="Scanner">Null where it stays as it is.</param>
/// <param name="Receipts">Null where it stays as it is.</param>
/// <param name="Version">That was looked at; null for whatever is in force.</param>
public sealed record DoorSettingsRequest(
    DoorSettings Settings,
    bool HasAddresses,
    ScannerSettings? Scanner = null,
    ReceiptOut? Receipts = null,
    int? Version = null
);

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
                new DoorSettingsAnswer(
                    inquiry.DoorSettings,
                    inquiry.Site.Scanner,
                    inquiry.SetUp.OutSettings[inquiry.Site.Id].Value.Receipts,
                    inquiry.Site.HasAddresses,
                    inquiry.SetUp.DoorNumbers(inquiry.Site),
                    TestLabelShown,
                    SettingsInForce.Of(inquiry.SetUp.DoorSettings[inquiry.Site.Id], inquiry.Site)
                )
            )
        );
        routes.Act<DoorSettingsRequest, DoneAnswer>("/site/door", Right.SetUp, Run);
        routes.Check<LearnScannerRequest, Ok<LearnedScanner>>("/site/scanner", Right.SetUp, (inquiry, request) =>
            Task.FromResult(TypedResults.Ok(Learn(request, inquiry.Site.Scanner)))
        );
    }

    public static async Task<Outcome<DoneAnswer>> Run(Act act, DoorSettingsRequest request)
    {
        if (request.Settings is null)
            return new Refusal(HouseRefusals.SettingAbsurd, "No settings were sent.", "Load the page again.");
        if (request.Settings.Fault(act.SetUp.DoorNumbers(act.Site)) is { } fault)
            return fault;
        if (!request.HasAddresses && !act.SetUp.BinsOfSite[act.Site.Id].Any(b => b.Function == BinFunction.Floor))
            return new Refusal(
                HouseRefusals.SettingAbsurd,
                "An undivided store needs one place of function floor, in which everything stands.",
                "Make that place first. Nothing was kept."
            );
        if (request.Scanner?.Fault() is { } untaught)
            return untaught;
        if (request.Receipts is { } receipts && !Enum.IsDefined(receipts))
            return new Refusal(HouseRefusals.SettingAbsurd, "A choice is none of those offered.", "Choose one. Nothing was kept.");
        var before = act.SetUp.DoorSettings[act.Site.Id];
        if (SettingsInForce.Moved(before, request.Version, act.Site) is { } moved)
            return moved;
        var site = await act.Db.Sites.AsTracking().FirstAsync(s => s.Id == act.Site.Id);
        var scanner = request.Scanner ?? site.Scanner;
        if (site.HasAddresses != request.HasAddresses || site.Scanner != scanner)
            act.Changes(SetUpParts.Sites);
        (site.HasAddresses, site.Scanner) = (request.HasAddresses, scanner);
        var settings = request.Settings;
        await SettingsRows.Keep(act.Db, act.Site.Id, SettingsOf.Door, settings, act.Now, act.Person.Name);
        if (request.Receipts is { } told && told != act.SetUp.OutSettings[act.Site.Id].Value.Receipts)
            await SettingsRows.Keep(act.Db, act.Site.Id, SettingsOf.Out, new OutSettings { Receipts = told }, act.Now, act.Person.Name);
        act.Write(
            new CountingChanged(
                act.Site.Code,
                act.Site.Name,
                before.Version + 1,
                settings.Quantity,
                settings.Blind,
                settings.SecondCount,
                settings.ScanForced,
                settings.Reasons.Count,
                settings.Printers.Count,
                settings.Prints.Count
            )
        );
        act.Changes(SetUpParts.Settings);
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
}
