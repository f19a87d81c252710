using System.Net;
using Microsoft.EntityFrameworkCore;

namespace MudRoom.Server.Tests;

public sealed class SetUpFileTests(DemoServer server) : IClassFixture<DemoServer>
{
    [Theory]
    [InlineData("Items")]
    [InlineData("Packs")]
    [InlineData("Vendors")]
    [InlineData("Doors")]
    [InlineData("Bins")]
    [InlineData("People")]
    public async Task What_is_taken_out_is_brought_in_again_and_changes_nothing(string kind)
    {
        using var anselm = await server.SignIn("anselm");
        var file = await anselm.Http.GetStringAsync($"/api/LM/site/files/{kind}");
        var preview = await anselm.Act("/site/files/preview", new { kind, name = "x.csv", text = file });
        Assert.True(preview.IsOk && preview["faults"].GetArrayLength() == 0, preview.Body.ToString());
        Assert.Equal(0, preview["new"].GetInt32());
        Assert.Equal(file.TrimEnd().Split('\n').Length - 1, preview["changed"].GetInt32());
        Assert.True((await anselm.Act("/site/files/import", new { kind, name = "x.csv", text = file })).IsOk);
        Assert.Equal(file, await anselm.Http.GetStringAsync($"/api/LM/site/files/{kind}"));
    }

    [Fact]
    public async Task A_site_is_brought_in_from_nothing_to_stock_that_can_be_found()
    {
        using var anselm = await server.SignIn("anselm");
        foreach (var (kind, text) in new[]
                 {
                     ("Items", "code,name,unit,asks,shelf_life_days\nNEW-1,New thing,H87,BSD,365\n"),
                     ("Packs", "item,pack,holds,gtin,labelled\nNEW-1,box,12,9521234543213,no\nNEW-1,pallet,480,,yes\n"),
                     ("Vendors", "code,name,country,items\nNEWV,New Vendor,NL,X-77=NEW-1\n"),
                     ("Doors", "number,equipment,vehicles,week\n9,ramp,truck|van,06:00-14:00\n"),
                     ("Bins", "address,zone,function,door\nD9-R1,Receiving,Staging,9\nZ-01-1,Dry reserve,Reserve,\n"),
                     ("Stock", "bin,item,quantity,batch,source_batch,vendor,good_until\nZ-01-1,NEW-1,24,NW-1,S-1,NEWV,2027-01-31\n"),
                 })
        {
            var done = await anselm.Act("/site/files/import", new { kind, name = kind + ".csv", text });
            Assert.True(done.IsOk, $"{kind}: {done.Body}");
        }

        await using var db = server.Db();
        var bin = await db.Bins.FirstAsync(b => b.Address == "Z-01-1");
        Assert.Equal(24, (await db.Balances.SingleAsync(b => b.BinId == bin.Id)).Quantity);
        Assert.Equal(14, server.App.Services.GetService(typeof(Acts.SetUpStore)) is Acts.SetUpStore store ? (await store.Current()).Sites["LM"].Planning.Hours.First(h => h.Door == 9).To.Hour : 0);
        Assert.Empty((await server.Check()).Faults);
        var again = await anselm.Act("/site/files/import", new { kind = "Stock", name = "Stock.csv", text = "bin,item,quantity,batch,source_batch,vendor,good_until\nZ-01-1,NEW-1,24,NW-1,S-1,NEWV,2027-01-31\n" });
        Assert.Equal((0, 1), (again["new"].GetInt32(), again["changed"].GetInt32()));
        Assert.Equal(24, (await db.Balances.AsNoTracking().SingleAsync(b => b.BinId == bin.Id)).Quantity);
    }

    [Theory]
    [InlineData("Items", "code,name,unit\nA,B,FURLONG\n", "unit")]
    [InlineData("Items", "code,name\nCB-05,\n", "name")]
    [InlineData("Items", "code,name,unit\nCB-05,Coir,KGM\n", "unit")]
    [InlineData("Items", "code,name\nA,B\nA,C\n", "code")]
    [InlineData("Packs", "item,pack,holds,gtin\nCB-05,carton,4,9521234543214\n", "gtin")]
    [InlineData("Packs", "item,pack,holds\nNOTHING,carton,4\n", "item")]
    [InlineData("Packs", "item,pack,holds\nCB-05,carton,0\n", "holds")]
    [InlineData("Vendors", "code,name,country\nV,Name,Atlantis\n", "country")]
    [InlineData("Bins", "address,zone,function\nQ-1,Receiving,Staging\n", "door")]
    [InlineData("Bins", "address,zone,max_kg\nQ-1,Zone,-5\n", "max_kg")]
    [InlineData("Doors", "number,week\n1,17:00-06:00\n", "week")]
    [InlineData("People", "name,sign_in,roles,sites\nX,x,Emperor,LM\n", "roles")]
    [InlineData("People", "name,sign_in,roles,sites\nX,x,Driver,ZZ\n", "sites")]
    [InlineData("People", "name,sign_in,roles,sites,first_password\nX,x,Driver,LM,short\n", "first_password")]
    [InlineData("Stock", "bin,item,quantity\nNOWHERE,HH-16,1\n", "bin")]
    [InlineData("Stock", "bin,item,quantity,standing\nA-01-1,HH-16,1,Held\n", "standing")]
    [InlineData("Stock", "bin,item,quantity,standing\nA-01-1,HH-16,1,Rejected\n", "standing")]
    [InlineData("Stock", "bin,item,quantity\nA-01-1,HH-16,1e30\n", "quantity")]
    [InlineData("Stock", "bin,item,quantity\nA-01-1,HH-16,1\nA-01-1,HH-16,2\n", "bin")]
    [InlineData("Stock", "bin,item,quantity,colour\nA-01-1,HH-16,1,red\n", "colour")]
    public async Task A_fault_names_its_field_and_nothing_is_taken(string kind, string text, string field)
    {
        using var anselm = await server.SignIn("anselm");
        var before = server.LastEntry();
        var preview = await anselm.Act("/site/files/preview", new { kind, name = "x.csv", text });
        Assert.Equal([field], preview["faults"].EnumerateArray().Select(f => f.GetProperty("field").GetString()).Distinct());
        Assert.Equal("file-faults", (await anselm.Act("/site/files/import", new { kind, name = "x.csv", text })).Code);
        Assert.Equal(before, server.LastEntry());
    }

    [Fact]
    public async Task A_new_person_signs_in_with_what_the_administrator_gave_and_the_password_is_kept_nowhere_in_clear()
    {
        using var anselm = await server.SignIn("anselm");
        const string secret = "correct horse 17";
        Assert.True((await anselm.Act("/site/files/import", new { kind = "People", name = "p.csv", text = "name,sign_in,roles,sites,skills\nNew Driver,newdriver,Driver,LM,reach-truck=2027-01-01\n" })).IsOk);
        using var stranger = new Client(server.Url);
        await stranger.LoadToken();
        Assert.Equal(HttpStatusCode.Unauthorized, (await stranger.Post("/api/session", new { name = "newdriver", password = "" })).Status);
        Assert.Equal("password-weak", (await anselm.Act("/site/people/password", new { signInName = "newdriver", password = "short" })).Code);
        Assert.True((await anselm.Act("/site/people/password", new { signInName = "newdriver", password = secret })).IsOk);
        // It opens nothing but the choice of one's own.
        Assert.Equal("password-must-change", (await stranger.Post("/api/session", new { name = "newdriver", password = secret })).Code);
        Assert.Equal("password-same", (await stranger.Post("/api/session/password", new { name = "newdriver", password = secret, newPassword = secret })).Code);
        Assert.Equal("password-weak", (await stranger.Post("/api/session/password", new { name = "newdriver", password = secret, newPassword = "Password2026!" })).Code);
        Assert.Equal("password-weak", (await stranger.Post("/api/session/password", new { name = "newdriver", password = secret, newPassword = "newdriver12" })).Code);
        Assert.True((await stranger.Post("/api/session/password", new { name = "newdriver", password = secret, newPassword = "mossy gate 41" })).IsOk);
        await stranger.LoadToken();
        Assert.Equal("sign-in-failed", (await stranger.Post("/api/session/password", new { name = "newdriver", password = secret, newPassword = "another one 7" })).Code);
        await using var db = server.Db();
        Assert.False(await db.DoneActs.AnyAsync(a => a.Answer.Contains(secret)) || await db.Ledger.AnyAsync(e => e.Sentence.Contains(secret)));
    }
}
