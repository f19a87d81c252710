using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.RegularExpressions;
using CsCheck;
using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Road;
using MudRoom.Core.Shelf;
using MudRoom.Core.Site;
using MudRoom.Core.Yard;

namespace MudRoom.Core.Tests.Book;

/// <summary>What happened is kept as values and said in words on the way out. What was written once is read for ever: docs/formats/facts.md
/// holds one of each as it is hashed. With MUDROOM_WRITE set those that are not there yet are added; what is there stays.</summary>
public sealed class FactTests
{
    static readonly DateTimeOffset at = new(2026, 3, 16, 6, 40, 0, TimeSpan.Zero);
    static readonly DateOnly day = new(2026, 3, 16);
    static readonly Amount hoes = new(1200.5m, "each", "Draw hoe head 16 cm");
    static readonly LineNamed line = new("PO-4334", 2);

    /// <summary>A site two hours before UTC.</summary>
    static readonly Wording there = new(Language.English, instant => instant.UtcDateTime.AddHours(2));

    static readonly Fact[] one =
    [
        new OrdersImported("march.csv", "orders", 2, 7, 1, 1, ["A-2617"]),
        new RefusedFilePutAway("march.csv"),
        new OrderChanged("PO-4334", "Line 2, Draw hoe head 16 cm: 10 → 12 each"),
        new Promised("PO-4334", "Ilse", [line, new LineNamed("PO-4335", 1)], "on Monday.", day) { About = [Reference.Order("PO-4335")] },
        new AdviceTaken("A-2617", "DA-9", AdviceWay.Joined, "Hollowmere Tools", 3, 1, 2),
        new AdviceCancelled("A-2617", "DA-9"),
        new DifferenceDecided("A-2617", "Line 2 is advised with 9.", "Take it."),
        new ArrivalMade("A-2617", 3, ["PO-4334", "PO-4335"]),
        new LinesAdded("A-2617", [line]),
        new LinesTakenOff("A-2617", [.. Enumerable.Range(1, 10).Select(n => new LineNamed("PO-4334", n))]),
        new LineCarried("A-2617", line, hoes, 4),
        new ArrivalDescribed("A-2617", "container", "MUDU 100000 0", 22, Handling.Palletised),
        new ArrivalWithdrawn("A-2617", "it burned"),
        new Attached("A-2617", "seal.jpg"),
        new EtaGiven("A-2617", at, "haulier"),
        new PlannedAtDoor("A-2617", 4, at, ["Leila", "Yusuf"], 3, at.AddHours(-1), [PlanRule.DoorTaken], "it is small"),
        new TakenOffDoor("A-2617"),
        new BroughtToDoor("A-2617", 4),
        new DoorOverruled("A-2617", 4, [PlanRule.DoorTaken], "it is small"),
        new TakenOver("A-2617", hoes, line, false, "BL-7"),
        new Redirected("A-2617", "A-2617", "Low Meadow", "A-2690", 2, "no room"),
        new RosterSet("LM", "Leila", day, new RosterHours(new TimeOnly(6, 0), new TimeOnly(14, 30))),
        new RosterWeekCopied("LM", day),
        new LetIn("A-2617", "Y3", ["The seal differs."], "the driver changed it", "S-2"),
        new SentAway("A-2617", "wrong gate"),
        new UnplannedCame("A-2617", "van"),
        new StepDone("A-2617", YardStep.Call, 4),
        new StoodElsewhere("A-2617", "Y4", "Y3"),
        new StepTakenBack("A-2617", "called", "too soon"),
        new GoodsCounted("A-2617", hoes, "HB-1", line, "D1-R4", true) { About = [Reference.Order("PO-4334")] },
        new CountTakenBack("A-2617", hoes, "the wrong stack"),
        new LeftUncounted("A-2617", "a box", "(01)0\u001d(10)B", "nobody knows it"),
        new ToCountAfterAll("A-2617", "a box"),
        new TallyClosed("A-2617", false, 2) { About = [Reference.Receipt("R-2"), Reference.Receipt("R-1")] },
        new NotAboard("A-2617", hoes),
        new LineClosedShort(line),
        new ReceiptPosted("R-1", "Hollowmere Tools", "DN \"7\"", 1, "A-2617"),
        new ReceiptReversed("R-1", "two notes"),
        new TallyOpenedAgain("A-2617", "two notes"),
        new SecondCountAsked("A-2617", ["Draw hoe head 16 cm"]),
        new CountedAgain("A-2617", hoes, 1200),
        new FirstCountStands("A-2617", hoes, 1200),
        new QuestionAsked("A-2617", "What is 4012?"),
        new QuestionAnswered("A-2617", "What is 4012?", "A rake."),
        new RefusedAtDoor("A-2617", 2, null, "wet"),
        new CodeBound("HOE-16", "Draw hoe head 16 cm", "box", "4012"),
        new Invoiced("R-1"),
        new ReturnedToVendor("V-1", hoes, "Hollowmere Tools", "P-01-1", "R-1", "rusty"),
        new OutworkSent("W-1", hoes, "P-01-1", "Hollowmere Tools", "galvanised", "PO-9"),
        new OutworkBack("W-1", hoes, "Hollowmere Tools", "D1-R4", 3),
        new OutworkEnded("W-1", 3),
        new SampleDrawn("I-1", 32, 500),
        new SampleDrawnOn("I-1", new Amount(20, "each", "pcs")),
        new FindingMade("I-1", 3, "Gap", "0.4 mm", false, "0.3 mm", "Petra", "read wrong"),
        new VerdictSigned("I-1", Verdict.Rejected, "Petra", "9f2c"),
        new HoldLaid("H-1", "Draw hoe head 16 cm", hoes, null, "rusty"),
        new HoldKeeps("H-2", hoes, "H-1", at),
        new HoldRuleSigned(
            "Citrus",
            "all of citrus: 14 calendar days from the tally",
            "Sunita Osei",
            "all of citrus: 21 calendar days from the gate"
        ),
        new HeldAhead("Rusty: soft steel", "everything from Kitagiri Blades: the signature of a supervisor", "Sunita Osei"),
        new HeldAheadEnded("Rusty: soft steel", "everything from Kitagiri Blades", "Wanjiru Aldous", "ten lots were good"),
        new HoldRuleEnded("Citrus", "all of citrus: 14 calendar days from the tally", "Sunita Osei", "the order was repealed"),
        new ConditionMet("H-1", "a test report, looked at by a supervisor", "Wanjiru", "un38.pdf", "both cells"),
        new ConditionOpenAgain("H-1", "a test report, looked at by a supervisor", "Wanjiru", "Sunita", "of another cell"),
        new AttachedToHold("H-1", "un38.pdf", PaperKind.TestReport),
        new HoldLifted("H-1", "Wanjiru", "looked at"),
        new DecisionMade("H-2", DecisionKind.Rework, hoes, "rust that comes off", "H-1"),
        new DecisionTakenBack("H-2", DecisionKind.Rework, "Wanjiru", "it does not come off"),
        new Decided("H-1", DecisionKind.Scrap, "rust to the core"),
        new MailSent("RC-1", "Recall RC-1", "Wanjiru"),
        new GoodsRegraded("H-3", hoes, "Draw hoe head 16 cm, second grade", "scratched"),
        new ConcessionGiven("H-2", hoes, "Hollin Nurseries", "C-20417", at, "scratches do not matter there", "H-1"),
        new ConcessionEnded("H-2", hoes, "4 pieces for C-20417", "Wanjiru", "no more is wanted"),
        new RecallBegun("RC-1", "Draw hoe head 16 cm, source batch SB-1", "heads come off", false),
        new RecallLaid("RC-1", 3),
        new RecallMissed("RC-1", hoes, "P-01-1", "Petra"),
        new RecallLookedIn("RC-1", hoes, "P-01-2", "Petra"),
        new RecallFound("RC-1", hoes, "P-02-1", "Petra"),
        new RecallSeen("RC-1", hoes, "P-03-1", "Petra"),
        new RecallTold("RC-1", "SO-77", "Wanjiru", "called, has 3 left"),
        new RecallEnded("RC-1", "Wanjiru", "all scrapped"),
        new ReturnWasFound("H-0400", "RT-0042", new Amount(10, "each", "Terracotta pot 18 cm"), "leaks", "no fault found: new", "Sunita"),
        new ReturnFindingTakenBack("H-0400", "RT-0042", "no fault found: new", "Sunita", "the wrong pot"),
        new TaskTaken("P-01-1", "Petra", hoes, "D1-R4", "It has room."),
        new TaskTakenOver("P-01-1", "Petra", hoes, "Yusuf"),
        new GoodsLoaded("TRUCK-PETRA", hoes, "D1-R4"),
        new TaskGivenBack("P-01-1", "Petra", hoes, "end of shift"),
        new NoBinLeft("P-01-1", "Petra"),
        new BroughtBack("D1-R4", hoes, "TRUCK-PETRA"),
        new SetDownHalfWay("D2-R1", hoes),
        new GoodsPutAway("P-01-2", hoes, "P-01-1", "it leaks"),
        new BinSaidToBe("P-01-1", "Petra", BinTrouble.Blocked, "Draw hoe head 16 cm", "P-01-2", null),
        new GoodsIssued("SO-77", hoes, "P-01-1"),
        new Undone("P-01-1", new GoodsPutAway("P-01-1", hoes, null, null), null, "the wrong row"),
        new Restood(new HoldLifted("H-1", "Wanjiru", null), 4, "P-01-1", "usable"),
        new LotSplit("H-1", 5, "D1-R4", 8, 7),
        new LotJoined("H-1", 5, "D1-R4", 7),
        new LotNamed(7, 5),
        new StockOpened("P-01-1", hoes),
        new SourceBatchCorrected(12, "SB-1", "Draw hoe head 16 cm", ["origin was NL"], "read wrong"),
        new StandingSet("LM", "bonded", null, StandingKind.Held, false, "cage", Lets.Move | Lets.Count, 4),
        new SetUpFileTaken("LM", "Items", 3, 1, "items.csv"),
        new SetUpRowKept(
            "HOE-16",
            "Draw hoe head 16 cm",
            [new FieldKept("home_zone", "", "B"), new FieldKept("contact", null, null)],
            "items.csv"
        ),
        new TruckMade("TRUCK-PETRA", "Petra"),
        new SiteChanged("LM", "Low Meadow", "Europe/Amsterdam", null, 6),
        new PlanningChanged("LM", "Low Meadow", 3, 2, 9),
        new DecidingChanged("LM", "Low Meadow", 2, 250.5m),
        new CountingChanged("LM", "Low Meadow", 3, QuantityEntry.Typed, true, true, false, 4, 1, 2),
        new VendorChanged("V-HT", "Hollowmere Tools", 30),
        new ItemAsksChanged("HOE-16", "Draw hoe head 16 cm", 2, 1.5m, "L##"),
        new ItemPictureChanged("HOE-16", "Draw hoe head 16 cm", true),
        new BadgeGiven("leila", "Leila"),
        new BadgeTaken("leila", "Leila"),
        new PasswordGiven("leila", "Leila"),
        new SamplePutBack("I-1"),
        new VerdictSignedFirst("I-1", Verdict.Accepted, "Sunita", SignatureMeaning.Checked),
        new SignatureTakenBack("I-1", "Sunita"),
        new PlanDrafted("Cutting tools", 4, [new FieldKept("Length, upper limit", "215", "214")]),
        new PlanDraftDropped("Cutting tools", 4),
        new PlanPutInForce("Cutting tools", 4, at, "Sunita", "length drifts", "ab12"),
        new FindingCleared("I-0017", 4, "Length", "216 mm", "Leila Osei", "caliper not closed"),
        new SheetNoted("I-0017", 4, "Length", "burr at the tip"),
        new InspectionTaken("I-0017", "Leila Osei", "Sunita Rahal"),
        new InspectionLaidDown("I-0017", "Leila Osei"),
        new InspectionAsked("I-0018", new Amount(40, "kg", "Mustard seed"), "Seed", "smells musty"),
        new InspectionSuperseded(
            "I-0017",
            "I-0019",
            Verdict.Accepted,
            new Amount(40, "kg", "Mustard seed"),
            new Amount(10, "kg", "Mustard seed"),
            "wrong sieve"
        ),
        new InspectionRuleMade("Bypass secateurs 21 cm, back from outwork", "Cutting tools", "coating is new"),
        new InspectionRuleEnded("Bypass secateurs 21 cm, back from outwork", "Cutting tools"),
        new InspectionWithdrawn("I-0020", "Leila Osei", "asked for twice"),
        new SampleBrought("I-0017", new Amount(32, "each", "Secateurs"), "R-1", "Q-1"),
        new SampleBack("I-0017", new Amount(28, "each", "Secateurs"), "R-1"),
        new SampleUsedUp("I-0017", new Amount(3, "each", "Secateurs"), "Q-1"),
        new SampleRetained("I-0017", new Amount(1, "each", "Secateurs"), "K-02-1", new DateOnly(2028, 3, 10)),
        new PieceNamed("I-0017", 4, "SN-0004711"),
        new SheetPictured("I-0017", 4, "Length", "9f2c1a"),
        new BuyerTold("I-0017", "Gap at the tip", "Secateurs", "Kitagiri Blades", "Gap at the tip has risen for six lots."),
        new LotSkipped("I-0020", "5 lots accepted in a row; this one was not drawn and passes unseen.", 42),
        new UsedBeforeRejected("I-0017", new Amount(10, "kg", "Mustard seed"), ["JOB-7, 8 kg", "JOB-9, 2 kg"]),
        new GaugeKept("feeler", new DateOnly(2026, 9, 30), new DateOnly(2026, 3, 31)),
        new GaugeDropped("feeler"),
        new SeverityWord("Bypass secateurs 21 cm", "Kitagiri Blades", SeveritySaid.Restarted, "new tool seen"),
        new KeepingEnded("WO-88, glasshouse", hoes, "A-01-2", "they have some"),
    ];

    [Fact]
    public void One_of_each_is_kept_as_it_is_hashed_and_as_it_reads()
    {
        Assert.Equal(FactText.Known.Keys.Order(), one.Select(f => FactText.NameOf(f.GetType())).Order());
        var kept = Kept().ToDictionary(k => NameIn(k.Text), k => k);
        if (Environment.GetEnvironmentVariable("MUDROOM_WRITE") is not null)
            Write([.. one.Where(f => !kept.ContainsKey(FactText.NameOf(f.GetType()))).Select(f => (FactText.Write(f), f.Words(there)))]);
        Assert.Equal(
            one.Select(f => (FactText.Write(f), f.Words(there))).OrderBy(f => NameIn(f.Item1)),
            Kept().OrderBy(k => NameIn(k.Text))
        );
    }

    /// <summary>What a fact may say since is told, and survives being kept.</summary>
    [Fact]
    public void A_value_that_was_typed_where_it_should_be_read_is_told()
    {
        var typed = new FindingMade("I-1", 3, "Gap", "0.4 mm", false, null, null, null, IsTyped: true);
        Assert.Equal("Piece 3, Gap: 0.4 mm, nonconforming, typed and not read.", typed.Words(there));
        Assert.Equal(typed.Words(there), FactText.Read(FactText.Write(typed))!.Words(there));
        var listed = new DecidingChanged("LM", "Low Meadow", 2, null, ["Rusty", "Bent"]);
        Assert.EndsWith("one person is enough. Reasons: Rusty, Bent", listed.Words(there), StringComparison.Ordinal);
        Assert.Equal(listed.Words(there), FactText.Read(FactText.Write(listed))!.Words(there));
    }

    [Fact]
    public void What_was_kept_is_read_and_says_the_same()
    {
        var kept = Kept();
        Assert.True(kept.Count > 80, $"{kept.Count} facts were found.");
        foreach (var (text, words) in kept)
        {
            var fact = FactText.Read(text)!;
            Assert.Equal(words, fact.Words(there));
            Assert.Equal(text, FactText.Write(fact));
        }
    }

    [Fact]
    public void Every_value_of_a_fact_is_kept()
    {
        foreach (var fact in one.Where(f => f.About.Count == 0))
            Assert.Equal(
                JsonSerializer.Serialize(fact, fact.GetType(), Whole),
                JsonSerializer.Serialize(FactText.Read(FactText.Write(fact)), fact.GetType(), Whole)
            );
    }

    static readonly JsonSerializerOptions Whole = new() { Converters = { new ByItsType() } };

    /// <summary>A fact within a fact, with all that its own type has.</summary>
    sealed class ByItsType : System.Text.Json.Serialization.JsonConverter<Fact>
    {
        public override bool CanConvert(Type typeToConvert) => typeToConvert == typeof(Fact);

        public override Fact Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options) =>
            throw new NotSupportedException();

        public override void Write(Utf8JsonWriter writer, Fact value, JsonSerializerOptions options) =>
            JsonSerializer.Serialize(writer, value, value.GetType());
    }

    /// <summary>The string of RFC 8785, section 3.2.2: "€$\u000f\nA'B\"\\\\\"/".</summary>
    [Fact]
    public void A_string_is_escaped_as_RFC_8785_says() =>
        Assert.Contains(
            "\"question\":\"\u20ac$\\u000f\\nA'B\\\"\\\\\\\\\\\"/\"",
            FactText.Write(new QuestionAsked("A-1", "\u20ac$\u000F\u000aA'\u0042\u0022\u005c\\\"/")),
            StringComparison.Ordinal
        );

    [Fact]
    public void Whatever_is_typed_comes_back_and_keys_stand_in_order() =>
        Gen.Select(Gen.String, Gen.Decimal[0, 1_000_000_000], Gen.Int[0, 9], Gen.DateTimeOffset)
            .Sample(
                (typed, quantity, lines, instant) =>
                {
                    var text = new string([.. typed.Where(c => !char.IsSurrogate(c))]);
                    quantity = decimal.Round(quantity, 6);
                    var keeps = new HoldKeeps(text, new Amount(quantity, text, text), text, instant);
                    var written = FactText.Write(keeps);
                    var promised = new Promised(text, text, [.. Enumerable.Repeat(new LineNamed(text, lines), lines)], text, null);
                    using var json = JsonDocument.Parse(written);
                    return (HoldKeeps)FactText.Read(written)! with
                        {
                            About = keeps.About,
                        } == keeps with { Until = instant.ToUniversalTime() }
                        && ((Promised)FactText.Read(FactText.Write(promised))!).Lines.SequenceEqual(promised.Lines)
                        && InOrder(json.RootElement);
                }
            );

    static bool InOrder(JsonElement element)
    {
        if (element.ValueKind != JsonValueKind.Object)
            return true;
        var keys = element.EnumerateObject().Select(p => p.Name).ToList();
        return keys.SequenceEqual(keys.Order(StringComparer.Ordinal)) && element.EnumerateObject().All(p => InOrder(p.Value));
    }

    [Fact]
    public void A_fact_of_a_newer_program_is_no_fault()
    {
        var text = FactText.Write(new Invoiced("R-1")).Replace("invoiced", "beamedUp", StringComparison.Ordinal);
        Assert.Null(FactText.Read(text));
        Assert.Equal([Reference.Receipt("R-1")], References.Read(text));
    }

    [Fact]
    public void An_instant_is_said_by_the_clock_of_who_reads()
    {
        var given = new EtaGiven("A-2617", at, "haulier");
        Assert.Equal("A-2617 is thought to come 2026-03-16 08:40, says haulier.", given.Words(there));
        Assert.Equal(
            "A-2617 is thought to come 2026-03-16 06:40, says haulier.",
            given.Words(there with { Local = instant => instant.UtcDateTime })
        );
    }

    static string NameIn(string text) => Regex.Match(text, "\"what\":\"(\\w+)\",\"with\":\\{").Groups[1].Value;

    static List<(string Text, string Words)> Kept() =>
        [
            .. Regex
                .Matches(File.ReadAllText(Page()), "^- `(.*)`\n  (.*)$", RegexOptions.Multiline)
                .Select(m => (m.Groups[1].Value, m.Groups[2].Value)),
        ];

    static void Write(IReadOnlyList<(string Text, string Words)> more) =>
        File.AppendAllLines(Page(), more.Select(m => $"- `{m.Text}`\n  {m.Words}"));

    static string Page([CallerFilePath] string file = "") =>
        Path.GetFullPath(Path.Combine(Path.GetDirectoryName(file)!, "../../../docs/formats/facts.md"));
}
