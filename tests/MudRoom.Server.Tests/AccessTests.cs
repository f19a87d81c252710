using System.Diagnostics;
using System.Net;
using System.Text.Json;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Server.Acts;
using MudRoom.Server.SignIn;

namespace MudRoom.Server.Tests;

/// <summary>No open door: sessions end at once, wrong tries count where they belong, nobody reaches beyond their sites.</summary>
public sealed class AccessTests(DemoServer server) : IClassFixture<DemoServer>
{
    async Task<Client> Stranger()
    {
        var client = new Client(server.Url);
        await client.LoadToken();
        return client;
    }

    [Fact]
    public async Task Signing_out_ends_every_session_of_the_person_at_once_and_a_copied_cookie_is_worth_nothing()
    {
        using var one = await server.SignIn("yusuf");
        using var other = await server.SignIn("yusuf");
        Assert.True((await other.Ask("/house")).IsOk);
        using var request = new HttpRequestMessage(HttpMethod.Delete, "/api/session");
        request.Headers.Add("X-Token", one.Token);
        var copied = one.Cookies.GetCookieHeader(new Uri(server.Url));
        Assert.Equal(HttpStatusCode.OK, (await one.Http.SendAsync(request)).StatusCode);
        Assert.Equal(HttpStatusCode.Unauthorized, (await other.Ask("/house")).Status);
        using var thief = new HttpClient(new SocketsHttpHandler { UseCookies = false });
        thief.DefaultRequestHeaders.Add("Cookie", copied);
        Assert.Equal(HttpStatusCode.Unauthorized, (await thief.GetAsync(new Uri(server.Url + "/api/LM/house"))).StatusCode);
        using var back = await server.SignIn("yusuf");
        Assert.True((await back.Ask("/house")).IsOk);
    }

    [Fact]
    public async Task A_taken_badge_a_new_password_and_a_leaver_end_sessions_and_live_lines_at_once()
    {
        using var anselm = await server.SignIn("anselm");
        foreach (
            var (name, end) in new (string, Func<Task<Answer>>)[]
            {
                ("petra", () => anselm.Act("/site/people/badge", new { signInName = "petra", badge = "" })),
                ("efua", () => anselm.Act("/site/people/password", new { signInName = "efua", password = "hollow reed 29" })),
                ("tomasz", () => anselm.Act(
                        "/site/files/import",
                        new
                        {
                            kind = "People",
                            name = "leaver.csv",
                            text = "name,sign_in,roles,sites,active\nTomasz Birkett,tomasz,Receiver,LM,no\n",
                        }
                    )),
            }
        )
        {
            using var client = await server.SignIn(name);
            await using var line = new HubConnectionBuilder().WithUrl(server.Url + "/live", o => o.Cookies = client.Cookies).Build();
            var closed = new TaskCompletionSource();
            line.Closed += _ =>
            {
                closed.TrySetResult();
                return Task.CompletedTask;
            };
            await line.StartAsync();
            Assert.True(await line.InvokeAsync<bool>("Join", "LM"));
            var done = await end();
            Assert.True(done.IsOk, done.Body.ToString());
            Assert.Equal(HttpStatusCode.Unauthorized, (await client.Ask("/house")).Status);
            await closed.Task.WaitAsync(TimeSpan.FromSeconds(10));
        }
    }

    [Fact]
    public async Task The_picture_of_the_set_up_that_was_being_read_when_it_changed_is_not_kept()
    {
        var store = server.App.Services.GetRequiredService<SetUpStore>();
        store.Drop();
        var reading = store.Current().AsTask();
        store.Drop();
        var stale = await reading;
        Assert.NotNull(stale);
        Assert.Same(await store.Current(), await store.Current());
    }

    [Fact]
    public async Task Wrong_signatures_count_like_wrong_passwords()
    {
        using var bram = await server.SignIn("bram");
        for (var i = 0; i < 5; i++)
            Assert.NotEqual(
                "",
                (
                    await bram.Act(
                        "/bench/sign",
                        new
                        {
                            inspection = "I-0024",
                            name = "Bram Okonjo",
                            password = "guess",
                            verdict = "Accepted",
                        }
                    )
                ).Code
            );
        Assert.Equal(
            "locked-out",
            (
                await bram.Act(
                    "/bench/sign",
                    new
                    {
                        inspection = "I-0024",
                        name = "Bram Okonjo",
                        password = "bram-mud-07",
                        verdict = "Accepted",
                    }
                )
            ).Code
        );
        using var stranger = await Stranger();
        Assert.Equal("locked-out", (await stranger.Post("/api/session", new { name = "bram", password = "bram-mud-07" })).Code);
    }

    [Fact]
    public async Task An_unknown_name_takes_about_as_long_as_a_known_one()
    {
        using var stranger = await Stranger();
        async Task<double> Time(string name)
        {
            var watch = Stopwatch.StartNew();
            for (var i = 0; i < 3; i++)
                await stranger.Post("/api/session", new { name, password = "wrong" });
            return watch.Elapsed.TotalMilliseconds;
        }

        await Time("warm-up");
        var known = await Time("dilys");
        Assert.True(await Time("nobody-of-this-name") > known / 2);
    }

    [Fact]
    public async Task Tries_from_one_address_are_counted_whatever_name_they_are_for()
    {
        using var tries = new Tries(TimeProvider.System);
        var http = new Microsoft.AspNetCore.Http.DefaultHttpContext { Connection = { RemoteIpAddress = IPAddress.Parse("192.0.2.7") } };
        for (var i = 0; i < Tries.MostFromAddress; i++)
        {
            Assert.Null(tries.FromAddress(http));
            tries.Wrong(http);
        }

        Assert.Equal("too-many-tries", tries.FromAddress(http)?.Code);
        http.Connection.RemoteIpAddress = IPAddress.Parse("192.0.2.8");
        Assert.Null(tries.FromAddress(http));
        await Task.CompletedTask;
    }

    [Fact]
    public void A_badge_is_locked_on_the_device_where_wrong_PINs_were_typed_and_everywhere_only_after_many()
    {
        using var tries = new Tries(TimeProvider.System);
        Microsoft.AspNetCore.Http.DefaultHttpContext At(string device) =>
            new() { Connection = { RemoteIpAddress = IPAddress.Loopback }, Request = { Headers = { ["Device"] = device } } };
        for (var i = 0; i < Tries.MostAtDevice; i++)
            tries.WrongPin(At("handheld-1"), 7);
        Assert.Equal("badge-locked", tries.OfBadge(At("handheld-1"), 7)?.Code);
        Assert.Null(tries.OfBadge(At("handheld-2"), 7));
        Assert.Null(tries.OfBadge(At("handheld-1"), 8));
        for (var i = 0; i < Tries.MostOfBadge; i++)
            tries.WrongPin(At($"made-up-{i}"), 7);
        Assert.Equal("badge-locked", tries.OfBadge(At("handheld-2"), 7)?.Code);
    }

    [Fact]
    public async Task An_administrator_gives_nobody_and_least_of_all_themself_more_than_they_have()
    {
        using var anselm = await server.SignIn("anselm");
        Task<Answer> People(string rows) =>
            anselm.Act(
                "/site/files/import",
                new
                {
                    kind = "People",
                    name = "p.csv",
                    text = "name,sign_in,roles,sites\n" + rows,
                }
            );
        Assert.Contains(
            "nobody gives themself",
            (await People("Anselm Kirabo,anselm,Administrator|Supervisor,LM|HB\n")).Sentence,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "nobody gives themself",
            (await People("Anselm Kirabo,anselm,Administrator,LM\n")).Sentence,
            StringComparison.Ordinal
        );
        Assert.Contains("is none of", (await People("New One,newone,+9,LM\n")).Sentence, StringComparison.Ordinal);
        // Somebody who administers one site only.
        Assert.True((await People("Rhosyn Vale,rhosyn,Administrator,HB\n")).IsOk);
        Assert.True((await anselm.Act("/site/people/password", new { signInName = "rhosyn", password = "hollow reed 31" })).IsOk);
        using var rhosyn = await Stranger();
        Assert.True(
            (
                await rhosyn.Post(
                    "/api/session/password",
                    new
                    {
                        name = "rhosyn",
                        password = "hollow reed 31",
                        newPassword = "barn owl 5521",
                    }
                )
            ).IsOk
        );
        await rhosyn.LoadToken();
        Task<Answer> AtBarn(string path, object body) => rhosyn.Post("/api/HB" + path, body);
        Assert.Equal(
            "site-not-yours",
            (await AtBarn("/site/people/password", new { signInName = "wanjiru", password = "taken over 77" })).Code
        );
        Assert.Equal("site-not-yours", (await AtBarn("/site/people/badge", new { signInName = "leila", badge = "" })).Code);
        Assert.Contains(
            "you may not work at LM",
            (
                await AtBarn(
                    "/site/files/import",
                    new
                    {
                        kind = "People",
                        name = "p.csv",
                        text = "name,sign_in,roles,sites\nFriend,friend,Supervisor,LM\n",
                    }
                )
            ).Sentence,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "works at a site where you may not",
            (
                await AtBarn(
                    "/site/files/import",
                    new
                    {
                        kind = "People",
                        name = "p.csv",
                        text = "name,sign_in,roles,sites\nWanjiru Holloway,wanjiru,Receiver,HB\n",
                    }
                )
            ).Sentence,
            StringComparison.Ordinal
        );
        // Orders of the other site are neither brought in nor cancelled from here, and a scan tells nothing of them.
        const string order = "order,kind,vendor,order_date,line,item,quantity,due,site\n";
        Assert.Contains(
            "you may not work at this site",
            (
                await AtBarn(
                    "/road/import",
                    new { name = "o.csv", text = order + "PO-X1,purchase,NILG,2026-03-01,1,CB-05,10,2026-03-20,LM\n" }
                )
            ).Sentence,
            StringComparison.Ordinal
        );
        using var petra = await server.SignIn("wanjiru");
        Assert.Equal("Order", (await petra.Ask("/scan?text=PO-4471"))["kind"].GetString());
        var scanned = await Client.Read(await rhosyn.Http.GetAsync("/api/HB/scan?text=PO-4471"));
        Assert.Equal("Unknown", scanned["kind"].GetString());
        Assert.DoesNotContain("Nilgama", scanned.Body.GetRawText(), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("/road/due?state=-1")]
    [InlineData("/road/due?state=99")]
    [InlineData("/road/received?from=9999-12-31")]
    [InlineData("/road/received?to=0001-01-01")]
    public async Task Choices_and_dates_that_nobody_can_mean_are_refused_at_the_edge(string path)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var answer = await wanjiru.Ask(path);
        Assert.Equal((HttpStatusCode.BadRequest, "unreadable"), (answer.Status, answer.Code));
    }

    [Theory]
    [InlineData("9999-12-31")]
    [InlineData("0001-01-01")]
    public async Task Dates_at_the_edge_of_the_calendar_get_a_sentence_from_every_act(string day)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        (string Path, object Body)[] acts =
        [
            (
                "/road/plan",
                new
                {
                    arrival = "A-2621",
                    door = 1,
                    start = $"{day}T12:00:00",
                    version = 0,
                }
            ),
            (
                "/road/plan/check",
                new
                {
                    arrival = "A-2621",
                    door = 1,
                    start = $"{day}T12:00:00",
                    version = 0,
                }
            ),
            ("/road/plan/propose", new { date = day }),
            (
                "/road/eta",
                new
                {
                    arrival = "A-2621",
                    eta = $"{day}T12:00:00",
                    source = "driver",
                }
            ),
            (
                "/road/arrivals",
                new
                {
                    orders = new[] { "PO-4438" },
                    planned = $"{day}T12:00:00",
                    atOnce = false,
                }
            ),
            (
                "/road/orders/new",
                new
                {
                    number = "PO-EDGE",
                    kind = "Purchase",
                    vendor = "SALT",
                    lines = new[]
                    {
                        new
                        {
                            item = "CN-25",
                            quantity = "1",
                            due = day,
                        },
                    },
                }
            ),
            ("/road/roster", new { personId = 2, day }),
            ("/road/roster/copy", new { monday = day }),
            ("/door/count", Client.Count("1", more: new { bestBefore = day })),
            ("/door/count", Client.Count("1", more: new { production = day[..7] })),
        ];
        foreach (var (path, body) in acts)
        {
            var answer = await wanjiru.Act(path, body);
            Assert.True(
                (int)answer.Status is >= 400 and < 500 && answer.Body.TryGetProperty("detail", out _),
                $"{path}: {answer.Status} {answer.Body}"
            );
        }
    }

    [Fact]
    public async Task Numbers_in_the_place_of_choices_and_bodies_beyond_their_endpoint_are_refused()
    {
        using var leila = await server.SignIn("leila");
        var kind = await leila.Act(
            "/door/ask",
            new
            {
                arrival = "A-2617",
                kind = 99,
                code = "X",
            }
        );
        Assert.Equal((HttpStatusCode.BadRequest, "unreadable"), (kind.Status, kind.Code));
        using var stranger = await Stranger();
        var large = await stranger.Post("/api/session", new { name = "x", password = new string('x', 10_000) });
        Assert.True(large.Code == "file-too-large", $"{large.Status} {large.Body}");
        var count = await leila.Act("/door/count", Client.Count("1", more: new { note = new string('x', 200_000) }));
        Assert.Equal((HttpStatusCode.RequestEntityTooLarge, "file-too-large"), (count.Status, count.Code));
    }

    [Fact]
    public async Task The_same_act_id_with_other_content_is_another_act_and_refused()
    {
        using var maren = await server.SignIn("maren");
        var id = Guid.NewGuid();
        Assert.True((await maren.Act("/door/count", Client.Count("1"), id)).IsOk);
        Assert.True((await maren.Act("/door/count", Client.Count("1"), id)).IsOk);
        Assert.Equal("act-id-used", (await maren.Act("/door/count", Client.Count("2"), id)).Code);
        await using var db = server.Db();
        Assert.Single(db.TallyEntries.Where(e => e.ActId == id));
    }

    [Fact]
    public async Task Control_and_turning_characters_leave_every_text()
    {
        using var leila = await server.SignIn("leila");
        var asked = await leila.Act(
            "/door/ask",
            new
            {
                arrival = "A-2618",
                kind = "UnknownItem",
                packs = "1",
                note = "blue\u0007 sack\u202e gnp\u0000.exe",
            }
        );
        Assert.True(asked.IsOk, asked.Body.ToString());
        await using var db = server.Db();
        Assert.Contains(db.TallyQuestions.Select(q => q.Sentence), s => s.Contains("blue sack gnp.exe", StringComparison.Ordinal));
    }

    [Fact]
    public async Task A_page_may_load_and_run_only_what_comes_from_here()
    {
        using var stranger = await Stranger();
        var policy = (await stranger.Http.GetAsync("/api/session")).Headers.GetValues("Content-Security-Policy").Single();
        Assert.Contains("default-src 'self'", policy, StringComparison.Ordinal);
        Assert.Contains("script-src 'self'", policy, StringComparison.Ordinal);
        Assert.DoesNotContain(
            "'unsafe-inline'",
            policy.Split(';').Single(p => p.TrimStart().StartsWith("script-src", StringComparison.Ordinal)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task An_upload_is_named_by_what_it_is()
    {
        using var leila = await server.SignIn("leila");
        var attached = await leila.Act(
            "/road/arrivals/attach",
            new
            {
                arrival = "A-2618",
                name = "..\\..\\evil.exe",
                content = Convert.ToBase64String("%PDF-1.7\n"u8.ToArray()),
            }
        );
        Assert.Equal("evil.pdf", attached["name"].GetString());
    }

    [Fact]
    public async Task A_picture_too_large_to_unpack_is_refused_by_its_pixels_before_it_is_unpacked()
    {
        using var leila = await server.SignIn("leila");
        var huge = Pictures.PngHeader(30_000, 30_000);
        var before = GC.GetTotalAllocatedBytes();
        var answer = await leila.Act(
            "/road/arrivals/attach",
            new
            {
                arrival = "A-2618",
                name = "huge.png",
                content = Convert.ToBase64String(huge),
            }
        );
        Assert.Contains(answer.Code, new[] { "file-too-large", "unreadable" });
        Assert.True(GC.GetTotalAllocatedBytes() - before < 200_000_000);
    }

    [Fact]
    public async Task A_door_without_a_receiving_place_says_so_when_goods_are_counted_there()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        await using var db = server.Db();
        var door = db.Doors.First(d => d.SiteId == 1 && d.Number == 2).Id;
        var places = await db.Bins.Where(b => b.DoorId == door).ToListAsync();
        async Task Stand(int? at)
        {
            foreach (var place in places)
                place.DoorId = at;
            await db.SaveChangesAsync();
            server.App.Services.GetRequiredService<SetUpStore>().Drop();
        }

        await Stand(null);
        Assert.Equal("place-missing", (await wanjiru.Act("/door/count", Client.Count())).Code);
        using var anselm = await server.SignIn("anselm");
        Assert.Contains(
            "Door 2 has no receiving place",
            (await anselm.Ask("/site"))["warnings"].EnumerateArray().Select(w => w.GetString()).Aggregate("", string.Concat),
            StringComparison.Ordinal
        );
        await Stand(door);
    }
}
