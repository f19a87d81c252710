using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Cage;
using MudRoom.Core.Door;
using MudRoom.Core.Out;

namespace MudRoom.Server.Tests;

/// <summary>What needs whom, over HTTP: to each by their rights, and gone when it is done.</summary>
public sealed class NoticeTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<List<(string Kind, string Subject, string Href)>> Of(Client client)
    {
        var answer = await client.Ask("/notices");
        Assert.True(answer.IsOk, answer.Body.ToString());
        var all = answer["notices"]
            .EnumerateArray()
            .Select(n => (n.GetProperty("kind").GetString()!, n.GetProperty("subject").GetString()!, n.GetProperty("href").GetString()!))
            .ToList();
        Assert.Equal(answer["total"].GetInt32(), all.Count);
        return all;
    }

    [Fact]
    public async Task The_demos_tuesday_tells_each_what_needs_them()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var sunita = await server.SignIn("sunita");
        using var petra = await server.SignIn("petra");
        await using var db = server.Db();
        var trees = await db
            .Holds.Where(h => h.IsOpen && h.Until != null && h.Reason == HoldReason.Rule)
            .OrderBy(h => h.Until)
            .FirstAsync();
        var cells = await db.Holds.Where(h => h.Sentence == "Lithium cells want their test report").Select(h => h.Number).SingleAsync();
        var supervisor = await Of(wanjiru);
        Assert.Equal(("Missing", "RC-0001", "/cage/recalls/RC-0001"), supervisor[0]);
        Assert.Contains(("Overdue", cells, $"/cage?hold={cells}"), supervisor);
        Assert.Contains(("ToLift", trees.Number, $"/cage?hold={trees.Number}"), supervisor);
        // A hold asks one thing of one person.
        var holds = supervisor.Where(n => n.Subject.StartsWith("H-", StringComparison.Ordinal)).Select(n => n.Subject).ToList();
        Assert.Equal(holds.Distinct().Count(), holds.Count);
        var inspector = await Of(sunita);
        Assert.Contains(inspector, n => n.Kind == "WaitedFor");
        Assert.DoesNotContain(inspector, n => n.Kind is "ToLift" or "ToDecide" or "Missing");
        Assert.Empty(await Of(petra));

        var lifted = await wanjiru.Act("/cage/lift", new { hold = trees.Number });
        Assert.True(lifted.IsOk, lifted.Body.ToString());
        Assert.DoesNotContain(await Of(wanjiru), n => n.Subject == trees.Number);
    }

    /// <summary>The drift of the demo's secateurs is told to who inspects, until the buyer is told of it.</summary>
    [Fact]
    public async Task A_warning_of_a_chart_stays_until_the_buyer_is_told()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        var coming = (await sunita.Ask("/bench/coming")).Body.EnumerateArray().ToList();
        var warnings = (await Of(sunita)).Where(n => n.Kind == "Warning").ToList();
        Assert.NotEmpty(warnings);
        string Way(System.Text.Json.JsonElement c) =>
            "/bench/coming/"
            + string.Join('/', new[] { "planId", "itemId", "vendorId", "characteristic" }.Select(p => c.GetProperty(p).GetInt32()));
        // Each is one that the page of what is coming shows as such, and one alone of its plan, item and vendor.
        var bad = coming.Where(c => c.GetProperty("state").GetString() is "PassesLimit" or "RuleBroken").Select(Way).ToList();
        Assert.All(warnings, w => Assert.Contains(w.Href, bad));
        Assert.Equal(warnings.Count, warnings.Select(w => w.Href[..w.Href.LastIndexOf('/')]).Distinct().Count());
        await using (var db = server.Db())
        {
            var week = new DateTimeOffset(2026, 3, 3, 11, 20, 0, TimeSpan.Zero);
            foreach (var w in warnings)
                Assert.True((await db.Inspections.SingleAsync(i => i.SiteId == 1 && i.Number == w.Subject)).SignedAt >= week);
        }

        Assert.DoesNotContain(await Of(wanjiru), n => n.Kind == "Warning" && !warnings.Exists(w => w.Href == n.Href));
        var ids = warnings[0].Href.Split('/')[^4..].Select(int.Parse).ToList();
        var told = await sunita.Act(
            "/bench/coming/tell",
            new
            {
                plan = ids[0],
                item = ids[1],
                vendor = ids[2],
                characteristic = ids[3],
            }
        );
        Assert.True(told.IsOk, told.Body.ToString());
        Assert.DoesNotContain(await Of(sunita), n => n.Href == warnings[0].Href);
    }

    [Fact]
    public async Task A_question_is_told_to_who_may_answer_and_its_answer_to_who_asked()
    {
        using var leila = await server.SignIn("leila");
        using var maren = await server.SignIn("maren");
        using var wanjiru = await server.SignIn("wanjiru");
        var before = (await Of(wanjiru)).Count(n => n.Kind == "Question");
        var asked = await leila.Act(
            "/door/ask",
            new
            {
                arrival = "A-2617",
                kind = "UnknownItem",
                packs = "2",
                note = "two green tubs",
            }
        );
        Assert.True(asked.IsOk, asked.Body.ToString());
        Assert.Equal(before + 1, (await Of(wanjiru)).Count(n => n.Kind == "Question"));
        Assert.DoesNotContain(await Of(leila), n => n.Kind == "Answer");
        await using var db = server.Db();
        var question = await db
            .TallyQuestions.Where(q => q.IsOpen && q.Kind == QuestionKind.UnknownItem)
            .OrderByDescending(q => q.Id)
            .FirstAsync();
        var answered = await wanjiru.Act(
            "/door/answer",
            new
            {
                question = question.Id,
                yes = false,
                bind = false,
                note = "not ours, send them back",
            }
        );
        Assert.True(answered.IsOk, answered.Body.ToString());
        Assert.Contains(("Answer", "A-2617", "/door/A-2617"), await Of(leila));
        Assert.DoesNotContain(await Of(maren), n => n.Kind == "Answer");
        Assert.Equal(before, (await Of(wanjiru)).Count(n => n.Kind == "Question"));
    }

    [Fact]
    public async Task A_return_goes_from_the_inspectors_list_to_the_supervisors()
    {
        using var sunita = await server.SignIn("sunita");
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var hold = await db.Holds.Where(h => h.IsOpen && h.Reason == HoldReason.CustomerReturn).Select(h => h.Number).FirstAsync();
        Assert.Contains(await Of(sunita), n => n == ("ToFind", hold, "/cage/returns/RT-0001"));
        Assert.DoesNotContain(await Of(wanjiru), n => n.Subject == hold);
        var found = await sunita.Act(
            "/cage/returns/finding",
            new
            {
                hold,
                found = "OtherFault",
                quantity = "1",
                note = "the door of the cells is broken",
            }
        );
        Assert.True(found.IsOk, found.Body.ToString());
        Assert.DoesNotContain(await Of(sunita), n => n.Subject == hold);
        Assert.Contains(await Of(wanjiru), n => n == ("ToDecide", hold, "/cage/returns/RT-0001"));
    }

    /// <summary>A person's act is the yes; the letter lies in the drop folder as any mail program reads it (RFC 5322).</summary>
    [Fact]
    public async Task A_mail_goes_when_somebody_sends_it_and_is_a_letter()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        using var leila = await server.SignIn("leila");
        var letter = new
        {
            about = "H-0331",
            to = "quality@malo.example",
            title = "Apple trees: Zwölf Kisten 12 €",
            text = "They are free today.\n.\nPlease fetch them.",
        };
        Assert.Equal("right-missing", (await leila.Act("/notices/mail", letter)).Code);
        foreach (
            var to in new[]
            {
                "",
                "malo",
                "a@b",
                "a@@malo.example",
                "a@malo.example, b@malo.example",
                "a@malo.example\nBcc: all@malo.example",
                "Quality <quality@malo.example>",
            }
        )
            Assert.Equal(
                "address-wrong",
                (
                    await wanjiru.Act(
                        "/notices/mail",
                        new
                        {
                            letter.about,
                            to,
                            letter.title,
                            letter.text,
                        }
                    )
                ).Code
            );
        foreach (var (title, text) in new[] { ("", "x"), ("a\nBcc: all@malo.example", "x"), ("x", " "), (new string('x', 151), "x") })
            Assert.Equal(
                "mail-empty",
                (
                    await wanjiru.Act(
                        "/notices/mail",
                        new
                        {
                            letter.about,
                            letter.to,
                            title,
                            text,
                        }
                    )
                ).Code
            );
        await using var db = server.Db();
        Assert.Equal(
            "reference-missing",
            (
                await wanjiru.Act(
                    "/notices/mail",
                    new
                    {
                        about = "H-0331\nX",
                        letter.to,
                        letter.title,
                        letter.text,
                    }
                )
            ).Code
        );
        Assert.False(await db.OutMessages.AnyAsync(m => m.Kind == OutKind.Mail));
        var sent = await wanjiru.Act("/notices/mail", letter);
        Assert.True(sent.IsOk, sent.Body.ToString());
        var message = await db.OutMessages.AsNoTracking().SingleAsync(m => m.Kind == OutKind.Mail);
        Assert.Equal("H-0331", message.Subject);
        using var read = new MemoryStream(System.Text.Encoding.UTF8.GetBytes(message.Body));
        using var mail = await MimeKit.MimeMessage.LoadAsync(read);
        Assert.Equal((letter.to, letter.title), (mail.To.Mailboxes.Single().Address, mail.Subject));
        Assert.Empty(mail.Bcc);
        Assert.Contains("Please fetch them.", mail.TextBody, StringComparison.Ordinal);
        Assert.Contains("Wanjiru Holloway, Low Meadow", mail.TextBody, StringComparison.Ordinal);
        // The book says that it went, and not to whom.
        var said = (await wanjiru.Ask("/book/ledger?text=H-0331")).Body.ToString();
        Assert.Contains("mailed about H-0331", said, StringComparison.Ordinal);
        Assert.DoesNotContain("malo.example", said, StringComparison.Ordinal);
    }
}
