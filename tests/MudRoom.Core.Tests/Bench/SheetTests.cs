using MudRoom.Core.Bench;
using MudRoom.Core.Book;
using MudRoom.Core.Site;

namespace MudRoom.Core.Tests.Bench;

/// <summary>What may be done with a sheet, and what may not any more once it is signed.</summary>
public sealed class SheetTests
{
    static readonly SiteTime local = at => at.UtcDateTime;
    static readonly DateTimeOffset now = new(2026, 3, 10, 11, 0, 0, TimeSpan.Zero);

    static readonly Item item = new()
    {
        Id = 1,
        Code = "SC-21",
        Name = "Secateurs",
        PackLevels = [new PackLevel { Name = "each", Numerator = 1 }],
    };

    static readonly PlanContent says = new()
    {
        SamplingUnit = "each",
        Rules = new Dictionary<CharacteristicClass, SampleRule> { [CharacteristicClass.Major] = new SampleRule.Fixed(4, 1) },
        Characteristics =
        [
            new Characteristic
            {
                Id = 1,
                Name = "Length",
                Class = CharacteristicClass.Major,
                Unit = "mm",
                Lower = 209,
                Upper = 215,
            },
            new Characteristic
            {
                Id = 2,
                Name = "Coating",
                Class = CharacteristicClass.Major,
            },
        ],
    };

    static readonly InspectionPlan plan = InForce();

    static InspectionPlan InForce()
    {
        var made = new InspectionPlan { Id = 1, Name = "Cutting tools" };
        Assert.Null(made.Write(says, "Priya", now).Sign("Priya", now, now, null));
        return made;
    }

    static Inspection Drawn()
    {
        var sheet = new Inspection
        {
            Number = "I-0001",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
        };
        Assert.Null(sheet.Grow(40));
        Assert.Null(sheet.Draw(plan, plan.InForce(now), item, _ => Severity.Normal));
        return sheet;
    }

    static Outcome<Finding> Length(Inspection sheet, int piece, decimal value, string by = "Leila") =>
        sheet.Find(says, new Observation(piece, 1, value, null, IsSure: true), by, now, local);

    static Inspection Full()
    {
        var sheet = Drawn();
        for (var piece = 1; piece <= 4; piece++)
        {
            Assert.Null(Length(sheet, piece, 212).Refusal);
            Assert.Null(sheet.Find(says, new Observation(piece, 2, null, true), "Leila", now, local).Refusal);
        }

        return sheet;
    }

    static Inspection Signed()
    {
        var sheet = Full();
        Assert.Equal(Verdict.Accepted, sheet.Sign(plan, new Signature("Leila", now, SignatureMeaning.Checked, null), local).Value);
        return sheet;
    }

    [Fact]
    public void One_has_it_in_hand_another_takes_it_over_only_by_saying_so()
    {
        var sheet = Drawn();
        Assert.Null(sheet.Take(1, "Leila", now, local));
        Assert.Null(sheet.Take(1, "Leila", now, local));
        Assert.Equal("taken-by-other", sheet.Take(2, "Sunita", now, local)!.Code);
        Assert.Equal("Leila", sheet.TakenBy);
        Assert.Equal("not-in-hand", sheet.LayDown(2, local)!.Code);
        Assert.Null(sheet.Take(2, "Sunita", now, local, over: true));
        Assert.Null(sheet.LayDown(2, local));
        Assert.Null(sheet.TakenBy);
        Assert.Equal("not-in-hand", sheet.LayDown(2, local)!.Code);
    }

    [Fact]
    public void A_cleared_value_counts_no_longer_and_stays_on_the_sheet_until_another_stands_there()
    {
        var sheet = Drawn();
        Assert.Null(Length(sheet, 1, 216).Refusal);
        Assert.Equal(1, LotStand.Of(says, sheet.Sample!, sheet.Findings).Parts[0].Nonconforming);
        Assert.Equal("reason-missing", sheet.Clear(says, 1, 1, null, "Leila", local).Refusal!.Code);
        Assert.Null(sheet.Clear(says, 1, 1, "caliper not closed", "Leila", local).Refusal);
        Assert.Equal(0, LotStand.Of(says, sheet.Sample!, sheet.Findings).Parts[0].Nonconforming);
        Assert.Equal("216 mm", Assert.Single(Assert.Single(sheet.Cleared).Before).Was);
        Assert.Equal("nothing-found", sheet.Clear(says, 1, 1, "again", "Leila", local).Refusal!.Code);
        // With something cleared on it the sample was used: it is not put back.
        Assert.Equal("findings-made", sheet.PutBack(local)!.Code);
        var again = Length(sheet, 1, 214).Value;
        Assert.Empty(sheet.Cleared);
        Assert.Equal("caliper not closed", Assert.Single(again.Before).Reason);
    }

    [Fact]
    public void A_good_value_of_ones_own_is_cleared_without_a_word_somebody_elses_is_not()
    {
        var sheet = Drawn();
        Assert.Null(Length(sheet, 1, 212).Refusal);
        Assert.Equal("reason-missing", sheet.Clear(says, 1, 1, " ", "Sunita", local).Refusal!.Code);
        Assert.Null(sheet.Clear(says, 1, 1, null, "Leila", local).Refusal);
    }

    [Fact]
    public void A_note_stands_on_a_piece_of_the_sample_a_characteristic_of_the_plan_or_the_lot()
    {
        var sheet = Drawn();
        Assert.Null(sheet.Write(says, new SheetNote(2, 1, " burr ", "Leila", now), local));
        Assert.Null(sheet.Write(says, new SheetNote(null, null, "wet cartons", "Leila", now), local));
        Assert.Equal(["burr", "wet cartons"], sheet.Notes.Select(n => n.Text));
        Assert.Equal("piece-outside", sheet.Write(says, new SheetNote(5, null, "x", "Leila", now), local)!.Code);
        Assert.Equal("characteristic-unknown", sheet.Write(says, new SheetNote(1, 9, "x", "Leila", now), local)!.Code);
        Assert.Equal("note-missing", sheet.Write(says, new SheetNote(1, null, " ", "Leila", now), local)!.Code);
        Assert.Equal("note-missing", sheet.Write(says, new SheetNote(1, null, new string('x', 501), "Leila", now), local)!.Code);
    }

    /// <summary>A wrong sheet must not go on speaking for a vendor because its goods were used.</summary>
    [Fact]
    public void Where_none_of_its_goods_are_here_a_superseded_sheet_counts_no_longer_and_nothing_is_inspected_again()
    {
        var nothing = Signed().SupersededBy("I-0002", 0, "wrong sieve", "Leila", now).Value;
        Assert.Equal(
            (InspectionState.Withdrawn, "wrong sieve", "Leila", 0m),
            (nothing.State, nothing.WithdrawnBecause, nothing.WithdrawnBy, nothing.Quantity)
        );
        Assert.Equal("inspection-withdrawn", nothing.Draw(plan, plan.InForce(now), item, _ => Severity.Normal)!.Code);
        Assert.NotNull(nothing.SupersedesId);
    }

    [Fact]
    public void Only_a_signed_sheet_is_superseded_and_with_a_reason()
    {
        Assert.Equal("not-signed", Full().SupersededBy("I-0002", 40, "wrong sieve", "Leila", now).Refusal!.Code);
        var signed = Signed();
        Assert.Equal("reason-missing", signed.SupersededBy("I-0002", 40, " ", "Leila", now).Refusal!.Code);
        var later = now.AddDays(3);
        var again = signed.SupersededBy("I-0002", 30, "wrong sieve", "Leila", later).Value;
        Assert.Equal((30, InspectionState.Waiting, signed.SignedAt), (again.Quantity, again.State, again.CountsAs));
        // Its own successor counts where the first did, however often it is done again.
        var third = Inspection(again).SupersededBy("I-0003", 30, "again", "Leila", later.AddDays(1)).Value;
        Assert.Equal(signed.SignedAt, third.CountsAs);

        Inspection Inspection(Inspection open)
        {
            Assert.Null(open.Draw(plan, plan.InForce(later), item, _ => Severity.Normal));
            for (var piece = 1; piece <= 4; piece++)
            {
                Assert.Null(Length(open, piece, 212).Refusal);
                Assert.Null(open.Find(says, new Observation(piece, 2, null, true), "Leila", later, local).Refusal);
            }

            Assert.Null(open.Sign(plan, new Signature("Leila", later, SignatureMeaning.Checked, null), local).Refusal);
            return open;
        }
    }

    static Inspection Waiting(bool letsUse = false)
    {
        var sheet = new Inspection
        {
            Number = "I-0001",
            SiteId = 1,
            ArrivalId = 1,
            ItemId = 1,
            VendorId = 1,
            PlanId = 1,
            Since = now,
            LetsUse = letsUse,
        };
        Assert.Null(sheet.Grow(40));
        return sheet;
    }

    [Fact]
    public void Where_only_the_sample_waits_the_rest_may_go_and_come_back_after_it_is_drawn_and_the_size_of_the_lot_stays()
    {
        var sheet = Waiting(letsUse: true);
        Assert.Equal(Standing.Usable, sheet.Asks);
        Assert.Null(sheet.Draw(plan, plan.InForce(now), item, _ => Severity.Normal));
        Assert.Equal(4, sheet.Sampled);
        Assert.Null(sheet.Shrink(30));
        Assert.Null(sheet.Grow(5));
        Assert.Equal((15m, 40L), (sheet.Quantity, sheet.LotSize));
        Assert.Equal("sample-drawn", Drawn().Shrink(1)!.Code);
    }

    [Fact]
    public void A_lot_passes_unseen_only_after_enough_in_a_row_and_by_a_seed_that_draws_the_same_again()
    {
        var skip = new SkipLot(3, 0.25);
        var short_ = Waiting();
        short_.Skip(skip, [true, false, true, true], Severity.Normal, 1);
        Assert.Equal(InspectionState.Waiting, short_.State);
        var tight = Waiting();
        tight.Skip(skip, [true, true, true], Severity.Tightened, 1);
        Assert.Equal(InspectionState.Waiting, tight.State);
        var skipped = 0;
        for (var seed = 0; seed < 4000; seed++)
        {
            var (one, again) = (Waiting(), Waiting());
            one.Skip(skip, [true, true, true], Severity.Normal, seed);
            again.Skip(skip, [true, true, true], Severity.Normal, seed);
            Assert.Equal(one.State, again.State);
            skipped += one.State == InspectionState.Skipped ? 1 : 0;
        }

        // Three in four, within four standard errors.
        Assert.InRange(skipped / 4000.0, 0.75 - 0.028, 0.75 + 0.028);
        var unseen = Waiting();
        unseen.Skip(skip, [true, true, true], Severity.Normal, Enumerable.Range(0, 100).First(s => SkipLot.Draw((ulong)s) >= 0.25));
        Assert.Equal("sample-not-drawn", unseen.PutBack(local)!.Code);
        Assert.NotNull(unseen.Draw(plan, plan.InForce(now), item, _ => Severity.Normal));
    }

    [Theory]
    [InlineData("2026-03-10", true)]
    [InlineData("2026-03-09", false)]
    [InlineData(null, true)]
    public void A_gauge_reads_until_the_end_of_its_last_day(string? until, bool may)
    {
        var gauge = new Gauge
        {
            SiteId = 1,
            Name = "caliper",
            CalibratedUntil = until is null ? null : DateOnly.Parse(until, System.Globalization.CultureInfo.InvariantCulture),
            KeptBy = "Leila",
            KeptAt = now,
        };
        Assert.Equal(may, gauge.MayRead(new DateOnly(2026, 3, 10)) is null);
    }

    /// <summary>Sizes of units by definition: the inch 25.4 mm, the pound 0.45359237 kg (NIST Special Publication 811, appendix
    /// B).</summary>
    [Theory]
    [InlineData("1 in", "mm", 25.4)]
    [InlineData("8.5 cm", "mm", 85)]
    [InlineData("0.0035 in", "mm", 0.0889)]
    [InlineData("1 lb", "g", 453.59237)]
    [InlineData("25.4 mm", "in", 1)]
    [InlineData("1 mm", "in", 0.03937)]
    [InlineData("7", "mm", 7)]
    public void A_reading_in_another_unit_is_what_it_is_in_the_plans(string text, string unit, double expected)
    {
        var reading = Gauges.Read(text)!;
        var measured = new Characteristic
        {
            Id = 1,
            Name = "x",
            Unit = unit,
        };
        Assert.Equal((decimal)expected, Math.Round(Gauges.ValueIn(reading, measured), 5));
        Assert.Equal(measured, Gauges.For(reading, [measured], null).Value);
        Assert.Equal("gauge-none", Gauges.For(Gauges.Read("1 L")!, [measured], null).Refusal!.Code);
    }

    [Theory]
    [InlineData(null, null, null)]
    [InlineData("seed testing", null, "and you do not have it")]
    [InlineData("seed testing", "2026-03-09", "yours was good until 2026-03-09")]
    [InlineData("Seed Testing", "2026-03-10", null)]
    public void Who_lacks_the_ticket_of_a_plan_or_whose_is_over_does_not_inspect_by_it(string? wants, string? until, string? says)
    {
        var day = new DateOnly(2026, 3, 10);
        var person = new Person
        {
            Name = "Bram",
            SignInName = "bram",
            Roles = [Role.Inspector],
            Sites = ["LM"],
            Skills = until is null
                ? [new Skill("reach truck", day)]
                : [new Skill("seed testing", DateOnly.Parse(until, System.Globalization.CultureInfo.InvariantCulture))],
        };
        var refusal = (SheetTests.says with { Qualification = wants }).Lacks(person, day);
        if (says is null)
            Assert.Null(refusal);
        else
            Assert.Contains(says, refusal!.Sentence);
    }

    /// <summary>Whatever anybody tries with a signed sheet is refused, and leaves it as it was signed.</summary>
    [Fact]
    public void A_signed_sheet_never_changes()
    {
        var random = new Random(20260310);
        for (var round = 0; round < 40; round++)
        {
            var sheet = Signed();
            var hash = sheet.SheetHash;
            for (var step = 0; step < 25; step++)
            {
                var (piece, characteristic, by) = (random.Next(0, 6), random.Next(0, 4), random.Next(2) == 0 ? "Leila" : "Sunita");
                var seen = new Observation(piece, characteristic, random.Next(200, 220), random.Next(2) == 0, "why", IsSure: true);
                var refused = random.Next(12) switch
                {
                    9 => sheet.Name(says, new NamedPiece(piece, "SN-1", by, now), local),
                    10 => sheet.Show(says, new SheetPicture(1, "9f2c", null, null, by, now), local),
                    11 => sheet.Withdraw("why", by, local),
                    0 => sheet.Find(says, seen, by, now, local).Refusal,
                    1 => sheet.Clear(says, piece, characteristic, "why", by, local).Refusal,
                    2 => sheet.Write(says, new SheetNote(null, null, "x", by, now), local),
                    3 => sheet.Sign(plan, new Signature(by, now, SignatureMeaning.Approved, "x"), local).Refusal,
                    4 => sheet.TakeSignatureBack(by, local),
                    5 => sheet.PutBack(local),
                    6 => sheet.Grow(random.Next(1, 9)),
                    7 => sheet.Shrink(random.Next(1, 9)),
                    _ => sheet.Take(7, by, now, local, over: true),
                };
                Assert.NotNull(refused);
            }

            Assert.True(Sheets.IsWhole(sheet, plan.Name, plan[1]));
            Assert.Equal(hash, Sheets.Hash(sheet, plan.Name, plan[1]));
        }
    }

    /// <summary>The hash covers what stands around the findings too: an altered copy is found out.</summary>
    [Fact]
    public void The_hash_covers_how_it_came_what_was_cleared_and_the_notes()
    {
        Assert.Equal(5, Signed().SheetVersion);
        Assert.NotEqual(Hash(_ => { }), Hash(s => Assert.Null(s.Write(says, new SheetNote(1, null, "burr", "Leila", now), local))));
        Assert.NotEqual(
            Hash(_ => { }),
            Hash(s =>
            {
                Assert.Null(s.Clear(says, 1, 1, null, "Leila", local).Refusal);
                Assert.Null(Length(s, 1, 212).Refusal);
            })
        );

        static string Hash(Action<Inspection> before)
        {
            var sheet = Full();
            before(sheet);
            Assert.Null(sheet.Sign(plan, new Signature("Leila", now, SignatureMeaning.Checked, null), local).Refusal);
            return sheet.SheetHash!;
        }
    }
}
