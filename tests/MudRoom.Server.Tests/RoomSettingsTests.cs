using System.Globalization;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Door;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>What a room goes by at a site is kept by versions that are never changed; whoever keeps it keeps what they had looked
/// at.</summary>
public sealed class RoomSettingsTests(DemoServer server) : IClassFixture<DemoServer>
{
    SetUpStore SetUps => server.App.Services.GetRequiredService<SetUpStore>();

    static async Task<Answer> Blind(Client anselm, bool blind, int? version)
    {
        var settings = JsonNode.Parse((await anselm.Ask("/site/door"))["settings"].GetRawText())!;
        settings["blind"] = blind;
        return await anselm.Act(
            "/site/door",
            new
            {
                settings,
                hasAddresses = true,
                version,
            }
        );
    }

    static async Task<(int Version, string By)> InForce(Client client)
    {
        var there = (await client.Ask("/site/door"))["inForce"];
        return (there.GetProperty("version").GetInt32(), there.GetProperty("by").GetString()!);
    }

    [Fact]
    public async Task What_is_set_anew_is_the_next_version_and_the_one_before_stays()
    {
        using var anselm = await server.SignIn("anselm");
        var (before, _) = await InForce(anselm);
        Assert.True((await Blind(anselm, false, null)).IsOk);
        Assert.True((await Blind(anselm, true, before + 1)).IsOk);
        before++;
        Assert.Equal((before + 1, "Anselm Kirabo"), await InForce(anselm));
        await using var db = server.Db();
        var kept = await db.RoomSettings.Where(s => s.SiteId == 1 && s.Room == SettingsOf.Door).OrderBy(s => s.Version).ToListAsync();
        Assert.Equal(Enumerable.Range(1, before + 1), kept.Select(k => k.Version));
        Assert.Equal([false, true], kept.TakeLast(2).Select(k => k.Value.Contains("\"blind\":true", StringComparison.Ordinal)));
        // The other site has its own.
        Assert.False((await SettingsRows.Load<DoorSettings>(db, SettingsOf.Door))[2].Value.Blind);
        var entry = await db.Ledger.OrderByDescending(e => e.Seq).FirstAsync();
        Assert.Equal((before + 1, true), entry.What is CountingChanged changed ? (changed.Version, changed.Blind) : default);
        Assert.Contains($"version {before + 1}: one for each scan, blind", entry.InWords(), StringComparison.Ordinal);
    }

    [Fact]
    public async Task Who_keeps_what_somebody_has_changed_meanwhile_is_told_who_and_nothing_is_kept()
    {
        using var anselm = await server.SignIn("anselm");
        var (seen, _) = await InForce(anselm);
        Assert.True((await Blind(anselm, true, seen)).IsOk);
        var late = await Blind(anselm, false, seen);
        Assert.Equal("settings-moved", late.Code);
        Assert.Contains("Anselm Kirabo changed these settings", late.Sentence, StringComparison.Ordinal);
        Assert.Equal(seen + 1, (await InForce(anselm)).Version);
        var planning = await anselm.Ask("/site/planning");
        var version = planning["inForce"].GetProperty("version").GetInt32();
        object Plan(int of) =>
            new
            {
                settings = planning["settings"],
                horizonDays = 14,
                version = of,
            };
        Assert.True((await anselm.Act("/site/planning", Plan(version))).IsOk);
        Assert.Equal("settings-moved", (await anselm.Act("/site/planning", Plan(version))).Code);
    }

    /// <summary>The small store goes by what nobody has set: a version that never was is refused there in a sentence too.</summary>
    [Fact]
    public async Task A_version_that_never_was_is_refused_where_nobody_has_set_anything()
    {
        using var anselm = await server.SignIn("anselm");
        var settings = (await Client.Read(await anselm.Http.GetAsync("/api/HB/site/door")))["settings"];
        var late = await anselm.Post(
            "/api/HB/site/door",
            new
            {
                settings,
                hasAddresses = false,
                version = 5,
            }
        );
        Assert.Equal("settings-moved", late.Code);
        Assert.Contains("Nobody has changed these settings yet", late.Sentence, StringComparison.Ordinal);
    }

    static async Task<int> SetUpVersion(Client client)
    {
        using var answer = await client.Http.GetAsync("/api/LM/book/find?text=nothing");
        return int.Parse(answer.Headers.GetValues("Set-Up").Single(), CultureInfo.InvariantCulture);
    }

    [Fact]
    public async Task Every_answer_says_by_which_version_of_the_set_up_it_was_given()
    {
        using var anselm = await server.SignIn("anselm");
        var before = await SetUpVersion(anselm);
        Assert.Equal(before, await SetUpVersion(anselm));
        Assert.True((await Blind(anselm, true, null)).IsOk);
        Assert.Equal(before + 1, await SetUpVersion(anselm));
        // It is kept with the set-up: a server that is started anew goes on from there.
        await using var db = server.Db();
        Assert.Equal(before + 1, (await SetUp.Load(db)).Version);
    }

    [Fact]
    public async Task Only_what_has_changed_is_read_anew()
    {
        using var anselm = await server.SignIn("anselm");
        var before = await SetUps.Current();
        Assert.True((await Blind(anselm, true, null)).IsOk);
        var after = await SetUps.Current();
        Assert.NotSame(before, after);
        Assert.True(after.DoorSettings[1].Value.Blind);
        Assert.Same(before.Catalogue, after.Catalogue);
        Assert.Same(before.Bins, after.Bins);
        Assert.Same(before.People, after.People);
        var done = await anselm.Act(
            "/site/files/import",
            new
            {
                kind = "Bins",
                name = "bins.csv",
                text = "address,zone,function\nZ-09-1,Dry reserve,Reserve\n",
            }
        );
        Assert.True(done.IsOk, done.Body.ToString());
        var more = await SetUps.Current();
        Assert.Same(after.Catalogue, more.Catalogue);
        Assert.Equal(after.Bins.Count + 1, more.Bins.Count);
        Assert.Contains(more.BinsOfSite[1], b => b.Address == "Z-09-1");
    }

    [Fact]
    public async Task An_act_sees_all_parts_that_acts_before_it_have_changed_though_they_are_not_committed()
    {
        await using var db = server.Db();
        var first = await SetUps.Current();
        var (one, other) = (Guid.NewGuid(), Guid.NewGuid());
        SetUps.ChangedAtDesk(one, SetUpParts.Settings);
        SetUps.ChangedAtDesk(other, SetUpParts.Bins);
        var seen = await SetUps.For(db);
        Assert.Same(first.Catalogue, seen.Catalogue);
        Assert.NotSame(first.Bins, seen.Bins);
        Assert.NotSame(first.DoorSettings, seen.DoorSettings);
        SetUps.Settled(one);
        SetUps.Settled(other);
        Assert.Same(first, await SetUps.For(db));
    }
}
