using MudRoom.Core.Door;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Door;

public sealed class DoorSettingsTests
{
    static readonly DoorSettings good = new()
    {
        Reasons = [new AsideReason("crushed", Aside.Damaged, WantsPicture: true), new AsideReason("wet", Aside.Damaged)],
        Printers = [new Printer("Door 2"), new Printer("Office", "ipp://printserver:631/printers/office")],
        Prints = [new PrintRule(PrintEvent.UnitCounted, 2, "Door 2"), new PrintRule(PrintEvent.CountedAside, null, "Office", "4x6")],
    };

    static string? Fault(DoorSettings settings) => settings.Fault([1, 2, 3])?.Sentence;

    [Fact]
    public void What_a_site_may_choose_has_no_fault()
    {
        Assert.Null(Fault(good));
        Assert.Null(Fault(new DoorSettings()));
    }

    [Fact]
    public void A_blind_count_cannot_propose_what_is_open() =>
        Assert.Contains("blind", Fault(good with { Blind = true, Quantity = QuantityEntry.Proposed }));

    [Fact]
    public void Each_absurd_setting_is_named()
    {
        Assert.Contains(
            "wet stands there twice",
            Fault(good with { Reasons = [new AsideReason("wet", Aside.Damaged), new AsideReason("wet", Aside.LabelWrong)] })
        );
        Assert.Contains("60 characters", Fault(good with { Reasons = [new AsideReason(" ", Aside.Damaged)] }));
        Assert.Contains("no printer of the list", Fault(good with { Prints = [new PrintRule(PrintEvent.UnitCounted, null, "Door 9")] }));
        Assert.Contains("no door 7", Fault(good with { Prints = [new PrintRule(PrintEvent.UnitCounted, 7, "Door 2")] }));
        Assert.Contains("A6 or 4 by 6", Fault(good with { Prints = [new PrintRule(PrintEvent.UnitCounted, 2, "Door 2", "a0")] }));
        Assert.Contains(
            "stands there twice",
            Fault(good with { Printers = [new Printer("Door 2"), new Printer("door 2"), new Printer("Office")] })
        );
        Assert.Contains("none of those offered", Fault(good with { Stops = (Stops)99 }));
        Assert.Contains("missing", Fault(good with { Reasons = null! }));
        Assert.Contains(
            "more than 60",
            Fault(good with { Reasons = [.. Enumerable.Range(0, 61).Select(i => new AsideReason($"reason {i}", Aside.Damaged))] })
        );
        Assert.Contains("separator", new ScannerSettings(Separator: "A").Fault()!.Sentence);
    }

    [Theory]
    [InlineData("ipp://printserver:631/printers/door2", "printserver:631", "door2")]
    [InlineData("ipp://printserver/printers/door2", "printserver:631", "door2")]
    [InlineData("ipps://10.0.0.8:8631/printers/Zone-A_1", "10.0.0.8:8631", "Zone-A_1")]
    public void A_printers_address_names_host_and_queue(string address, string host, string queue) =>
        Assert.Equal((host, queue), Printer.TargetOf(address));

    [Theory]
    [InlineData("http://printserver/printers/door2")]
    [InlineData("ipp://printserver/door2")]
    [InlineData("ipp://printserver/printers/")]
    [InlineData("ipp://printserver/printers/door2;rm")]
    [InlineData("ipp://printserver/printers/-o%20raw")]
    [InlineData("door2")]
    public void What_is_no_address_of_a_printer_is_none(string address)
    {
        Assert.Null(Printer.TargetOf(address));
        Assert.Contains("no address of a printer", Fault(good with { Printers = [new Printer("Door 2", address), new Printer("Office")] }));
    }

    [Fact]
    public void Kinds_without_a_reason_of_the_list_keep_one_by_their_own_name()
    {
        var inForce = good.ReasonsInForce;
        Assert.Equal(["crushed", "wet"], inForce.Where(r => r.Kind == Aside.Damaged).Select(r => r.Name));
        Assert.All(Enum.GetValues<Aside>(), kind => Assert.Contains(inForce, r => r.Kind == kind));
        Assert.Contains(new DoorSettings().ReasonsInForce, r => r is { Kind: Aside.Damaged, WantsSentence: true });
    }

    [Fact]
    public void A_reason_is_found_by_name_or_by_kind_and_must_fit_both()
    {
        Assert.Null(good.ReasonOf(null, null).Value);
        Assert.Equal("wet", good.ReasonOf(null, "wet").Value!.Name);
        Assert.Equal("crushed", good.ReasonOf(Aside.Damaged, null).Value!.Name);
        Assert.Equal("reason-unknown", good.ReasonOf(Aside.LabelWrong, "wet").Refusal!.Code);
        Assert.Equal("reason-unknown", good.ReasonOf(null, "eaten by goats").Refusal!.Code);
    }

    [Fact]
    public void Printers_that_rules_name_for_a_door_come_first_there()
    {
        Assert.Equal(["Door 2", "Office"], good.PrintersFor(2));
        Assert.Equal(["Door 2", "Office"], good.PrintersFor(null));
        Assert.Equal(["Office", "Door 2"], (good with { Prints = [new PrintRule(PrintEvent.UnitCounted, 3, "Office")] }).PrintersFor(3));
    }

    /// <summary>A scanner that puts signs around a code, and another character in place of control character 29, is read as if it did
    /// not.</summary>
    [Theory]
    [InlineData("", "", "")]
    [InlineData("*", "#", "|")]
    [InlineData("", "", "{GS")]
    public void What_a_scanner_is_taught_gives_back_what_it_read(string prefix, string suffix, string separator)
    {
        const string known = "0109521234100014\u001d10AB-7\u001d21X1";
        string Typed(string code) =>
            prefix + code.Replace("\u001d", separator.Length == 0 ? "\u001d" : separator, StringComparison.Ordinal) + suffix;
        var learnt = ScannerSettings.Learn(Typed(known), known);
        Assert.Equal(new ScannerSettings(prefix, suffix, separator), learnt.Value);
        Assert.Equal("10NC-9\u001d37144", learnt.Value.Code(Typed("10NC-9\u001d37144")));
    }

    /// <summary>The identifier of ISO/IEC 15424 differs from symbol to symbol; learned as a prefix it would stay before every code of
    /// another kind.</summary>
    [Theory]
    [InlineData("]C1", "")]
    [InlineData("~]d2", "~")]
    public void The_symbology_identifier_before_the_test_label_is_no_part_of_the_prefix(string before, string prefix)
    {
        var learnt = ScannerSettings.Learn(before + "0109521234100014^10AB-7", "0109521234100014\u001d10AB-7");
        Assert.Equal(new ScannerSettings(prefix, "", "^"), learnt.Value);
        Assert.Equal("]E09521234100014", learnt.Value.Code(prefix + "]E09521234100014"));
    }

    [Theory]
    [InlineData("something else", "not the test label")]
    [InlineData("0109521234100014", "Only a part")]
    [InlineData("010952123410001410AB-721X1", "leaves the separator")]
    [InlineData("0109521234100014|10AB-7;21X1", "Two different characters")]
    public void What_cannot_be_learnt_from_is_said(string typed, string sentence) =>
        Assert.Contains(sentence, ScannerSettings.Learn(typed, "0109521234100014\u001d10AB-7\u001d21X1").Refusal!.Sentence);

    [Fact]
    public void A_code_that_only_begins_like_the_prefix_keeps_what_is_its_own()
    {
        var scanner = new ScannerSettings("X", "Z");
        Assert.Equal("XYZ", scanner.Code("XXYZZ"));
        Assert.Equal("ABC", scanner.Code("ABC"));
    }
}
