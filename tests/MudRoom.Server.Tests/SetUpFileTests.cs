using System.Net;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Book;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Tests;

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
    [InlineData("Stock")]
    public async Task What_is_taken_out_is_brought_in_again_and_changes_nothing(string kind)
    {
        using var anselm = await server.SignIn("anselm");
        var file = await anselm.Http.GetStringAsync($"/api/LM/site/files/{kind}");
        var preview = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind,
                name = "x.csv",
                text = file,
            }
        );
        Assert.True(preview.IsOk && preview["faults"].GetArrayLength() == 0, preview.Body.ToString());
        Assert.Equal(
            (0, 0, file.TrimEnd().Split('\n').Length - 1),
            (preview["new"].GetInt32(), preview["changed"].GetInt32(), preview["unchanged"].GetInt32())
        );
        Assert.Equal(0, preview["changes"].GetArrayLength());
        Assert.True(
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind,
                        name = "x.csv",
                        text = file,
                    }
                )
            ).IsOk
        );
        Assert.Equal(file, await anselm.Http.GetStringAsync($"/api/LM/site/files/{kind}"));
    }

    [Fact]
    public async Task A_site_is_brought_in_from_nothing_to_stock_that_can_be_found()
    {
        using var anselm = await server.SignIn("anselm");
        foreach (
            var (kind, text) in new[]
            {
                ("Items", "code,name,unit,asks,shelf_life_days\nNEW-1,New thing,H87,BSD,365\n"),
                ("Packs", "item,pack,holds,gtin,labelled\nNEW-1,box,12,9521234543213,no\nNEW-1,pallet,480,,yes\n"),
                ("Vendors", "code,name,country,items\nNEWV,New Vendor,NL,X-77=NEW-1\n"),
                ("Doors", "number,equipment,vehicles,week\n9,ramp,truck|van,06:00-14:00\n"),
                ("Bins", "address,zone,function,door\nD9-R1,Receiving,Staging,9\nZ-01-1,Dry reserve,Reserve,\n"),
                ("Stock", "bin,item,quantity,batch,source_batch,vendor,good_until\nZ-01-1,NEW-1,24,NW-1,S-1,NEWV,2027-01-31\n"),
            }
        )
        {
            var done = await anselm.Act(
                "/site/files/import",
                new
                {
                    kind,
                    name = kind + ".csv",
                    text,
                }
            );
            Assert.True(done.IsOk, $"{kind}: {done.Body}");
        }

        await using var db = server.Db();
        var bin = await db.Bins.FirstAsync(b => b.Address == "Z-01-1");
        Assert.Equal(24, (await db.Balances.SingleAsync(b => b.BinId == bin.Id)).Quantity);
        Assert.Equal(
            14,
            server.App.Services.GetService(typeof(Acts.SetUpStore)) is Acts.SetUpStore store
                ? (await store.Current()).PlanSettings[1].Value.Hours.First(h => h.Door == 9).To.Hour
                : 0
        );
        Assert.Empty((await server.Check()).Faults);
        var again = await anselm.Act(
            "/site/files/import",
            new
            {
                kind = "Stock",
                name = "Stock.csv",
                text = "bin,item,quantity,batch,source_batch,vendor,good_until\nZ-01-1,NEW-1,24,NW-1,S-1,NEWV,2027-01-31\n",
            }
        );
        Assert.Equal((0, 0, 1), (again["new"].GetInt32(), again["changed"].GetInt32(), again["unchanged"].GetInt32()));
        Assert.Equal(24, (await db.Balances.AsNoTracking().SingleAsync(b => b.BinId == bin.Id)).Quantity);
    }

    /// <summary>Who asks the book what happened to an item, a bin, a vendor or a person finds what a file has changed, with what stood
    /// there before; who speaks for a vendor is no business of a book that never forgets.</summary>
    [Fact]
    public async Task What_a_file_changes_is_a_fact_about_the_thing_it_changes()
    {
        using var anselm = await server.SignIn("anselm");
        async Task Import(string kind, string text)
        {
            var done = await anselm.Act(
                "/site/files/import",
                new
                {
                    kind,
                    name = kind.ToLowerInvariant() + ".csv",
                    text,
                }
            );
            Assert.True(done.IsOk, done.Body.ToString());
        }

        async Task<string> Newest(Reference thing)
        {
            await server.App.Services.GetRequiredService<WriteDesk>().CatchUp();
            await using var db = server.Db();
            return (await new History(db).About(thing).OrderByDescending(e => e.Seq).FirstAsync()).InWords();
        }

        await Import("Items", "code,name,unit\nFACT-1,Hoe of facts,H87\n");
        await Import("Items", "code,home_zone,kg\nFACT-1,Dry reserve,2.5\n");
        await Import("Vendors", "code,name,country\nFACTV,Vendor of Facts,NL\n");
        await Import("Vendors", "code,telephone,min_remaining_days\nFACTV,+31 555 0100,20\n");
        await Import("People", "sign_in,name,roles,sites\nfacty,Facty Person,Receiver,LM\n");
        await using var db = server.Db();
        var item = await db.Items.SingleAsync(i => i.Code == "FACT-1");
        var vendor = await db.Vendors.SingleAsync(v => v.Code == "FACTV");
        var person = await db.People.SingleAsync(p => p.SignInName == "facty");
        Assert.Equal("Hoe of facts: kg 0 → 2.5, home zone nothing → Dry reserve, by items.csv.", await Newest(Reference.Item(item.Id)));
        Assert.Equal(
            "Vendor of Facts: telephone changed, min remaining days nothing → 20, by vendors.csv.",
            await Newest(new Reference(ReferenceKind.Vendor, vendor.Id))
        );
        Assert.Equal("Facty Person is new, from people.csv.", await Newest(new Reference(ReferenceKind.Person, person.Id)));
        Assert.False(await db.Ledger.AnyAsync(e => e.Fact.Contains("555 0100")));
        var found = await anselm.Ask("/book/ledger?text=FACT-1");
        Assert.Contains("by items.csv", found.Body.ToString(), StringComparison.Ordinal);
    }

    /// <summary>A file of two columns once wiped all the others: what it does not name stays, and what it changes is said before it
    /// does.</summary>
    [Fact]
    public async Task A_short_file_changes_only_the_columns_it_has_and_says_what_it_would_change()
    {
        using var anselm = await server.SignIn("anselm");
        await using var db = server.Db();
        var before = await db.Items.AsNoTracking().FirstAsync(i => i.InspectionPlanId != null && i.Category != "");
        var plan = (await db.InspectionPlans.FirstAsync(p => p.Id == before.InspectionPlanId)).Name;
        var text = $"code,plan\n{before.Code},\nHH-16,\n";
        var preview = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind = "Items",
                name = "short.csv",
                text,
            }
        );
        Assert.Equal((0, 1, 1), (preview["new"].GetInt32(), preview["changed"].GetInt32(), preview["unchanged"].GetInt32()));
        Assert.Equal(
            [(2, before.Name, "plan", plan, "")],
            preview["changes"]
                .EnumerateArray()
                .Select(c =>
                    (
                        c.GetProperty("line").GetInt32(),
                        c.GetProperty("what").GetString(),
                        c.GetProperty("field").GetString(),
                        c.GetProperty("from").GetString(),
                        c.GetProperty("to").GetString()
                    )
                )
        );
        Assert.Equal(before.InspectionPlanId, (await db.Items.AsNoTracking().FirstAsync(i => i.Id == before.Id)).InspectionPlanId);
        Assert.True(
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "Items",
                        name = "short.csv",
                        text,
                    }
                )
            ).IsOk
        );
        var after = await db.Items.AsNoTracking().FirstAsync(i => i.Id == before.Id);
        Assert.Equal(
            (before.Name, before.Category, before.Mass, before.StorageClass, before.NeedsBatch, (int?)null),
            (after.Name, after.Category, after.Mass, after.StorageClass, after.NeedsBatch, after.InspectionPlanId)
        );
        Assert.Equal(
            "file-faults",
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "Items",
                        name = "new.csv",
                        text = "code,plan\nNOT-THERE,\n",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task Hours_of_a_door_change_on_the_days_that_the_file_names()
    {
        using var anselm = await server.SignIn("anselm");
        Assert.True(
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "Doors",
                        name = "d.csv",
                        text = "number,week,saturday\n8,06:00-14:00,07:00-12:00\n",
                    }
                )
            ).IsOk
        );
        Assert.True(
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "Doors",
                        name = "d.csv",
                        text = "number,week\n8,08:00-16:00\n",
                    }
                )
            ).IsOk
        );
        var hours = (await server.App.Services.GetRequiredService<SetUpStore>().Current())
            .PlanSettings[1]
            .Value.Hours.Where(h => h.Door == 8)
            .ToList();
        Assert.Equal(
            (6, 8, 7),
            (hours.Count, hours.First(h => h.Day == DayOfWeek.Friday).From.Hour, hours.First(h => h.Day == DayOfWeek.Saturday).From.Hour)
        );
    }

    /// <summary>A bin is not changed under the goods that stand in it.</summary>
    [Theory]
    [InlineData("function", "Cage")]
    [InlineData("storage", "Oxidiser")]
    [InlineData("max_kg", "0.001")]
    [InlineData("max_litres", "0.001")]
    public async Task A_bin_with_goods_keeps_what_would_make_them_stand_wrongly(string column, string value)
    {
        using var anselm = await server.SignIn("anselm");
        await using var db = server.Db();
        var full = await db
            .Balances.Where(b => b.SiteId == 1 && b.Standing == Core.Book.Standing.Usable)
            .Join(
                db.Items,
                b => b.ItemId,
                i => i.Id,
                (b, i) =>
                    new
                    {
                        b.BinId,
                        i.Mass,
                        i.Volume,
                        i.StorageClass,
                    }
            )
            .Join(
                db.Bins,
                x => x.BinId,
                b => b.Id,
                (x, b) =>
                    new
                    {
                        b.Address,
                        b.Function,
                        x.Mass,
                        x.Volume,
                        x.StorageClass,
                    }
            )
            .ToListAsync();
        var bin = full.First(b =>
            b.Function == Core.Site.BinFunction.Reserve && b is { Mass: > 0, Volume: > 0, StorageClass: Core.Site.StorageClass.Ambient }
        );
        var empty = await db.Bins.FirstAsync(b =>
            b.SiteId == 1
            && b.Function == Core.Site.BinFunction.Reserve
            && !db.Balances.Any(x => x.BinId == b.Id)
            && !db.Tasks.Any(j => j.TargetBinId == b.Id)
        );
        var preview = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind = "Bins",
                name = "b.csv",
                text = $"address,{column}\n{bin.Address},{value}\n{empty.Address},{value}\n",
            }
        );
        var fault = Assert.Single(preview["faults"].EnumerateArray());
        Assert.Equal((2, column), (fault.GetProperty("line").GetInt32(), fault.GetProperty("field").GetString()));
    }

    /// <summary>Stock with units: each stands on its SSCC, in one bin only.</summary>
    [Fact]
    public async Task Opening_stock_may_stand_on_units_and_in_receiving_places()
    {
        using var anselm = await server.SignIn("anselm");
        await using var db = server.Db();
        var place = await db.Bins.FirstAsync(b => b.SiteId == 1 && b.Function == Core.Site.BinFunction.Staging);
        var (sscc, other) = (Sscc("39521239900000001"), Sscc("39521239900000002"));
        var text = $"bin,item,quantity,unit\n{place.Address},SP-DG,24,{sscc}\nA-01-2,SP-DG,12,{other}\n";
        Assert.Equal(2, (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "Stock",
                        name = "s.csv",
                        text,
                    }
                )
            )["new"].GetInt32());
        Assert.Equal(2, (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "Stock",
                        name = "s.csv",
                        text,
                    }
                )
            )["unchanged"].GetInt32());
        Assert.Equal(place.Id, (await db.Balances.SingleAsync(b => db.Units.Any(u => u.Id == b.UnitId && u.Sscc == sscc))).BinId);
        var elsewhere = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind = "Stock",
                name = "s.csv",
                text = $"bin,item,quantity,unit\nA-01-3,SP-DG,24,{sscc}\n",
            }
        );
        Assert.Equal("unit", Assert.Single(elsewhere["faults"].EnumerateArray()).GetProperty("field").GetString());
        Assert.Contains(place.Address, elsewhere["faults"][0].GetProperty("reason").GetString(), StringComparison.Ordinal);
        Assert.Empty((await server.Check()).Faults);

        static string Sscc(string body) => body + Core.Identification.CheckDigit.For(body);
    }

    [Theory]
    [InlineData("Items", "code,name,unit\nA,B,FURLONG\n", "unit")]
    [InlineData("Items", "code,name\nCB-05,\n", "name")]
    [InlineData("Items", "code,name,unit\nCB-05,Coir,KGM\n", "unit")]
    [InlineData("Items", "code,name\nA,B\nA,C\n", "code")]
    [InlineData("Packs", "item,pack,holds,gtin\nCB-05,carton,4,9521234543214\n", "gtin")]
    [InlineData("Packs", "item,pack,gtin\nHH-16,each,OTHERS\n", "gtin")]
    [InlineData("Packs", "item,pack,holds,gtin\nHH-16,tray,4,9521234999992\nCB-05,tray,4,9521234999992\n", "gtin")]
    [InlineData("Packs", "item,pack\nHH-16,tray\n", "holds")]
    [InlineData("Items", "code,category\nNOT-THERE,Tools\n", "name")]
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
    [InlineData(
        "Stock",
        "bin,item,quantity,batch,source_batch,vendor\nA-01-1,CB-05,1,OB-1,S-1,NILG\nA-01-2,CB-05,1,OB-1,S-1,QUER\n",
        "batch"
    )]
    [InlineData("Stock", "bin,item,quantity,unit\nA-01-1,HH-16,1,395212399000000011\n", "unit")]
    [InlineData("Stock", "bin,item,quantity\nA-01-1,HH-16,1e30\n", "quantity")]
    [InlineData("Stock", "bin,item,quantity\nA-01-1,HH-16,1\nA-01-1,HH-16,2\n", "bin")]
    [InlineData("Stock", "bin,item,colour\nA-01-1,HH-16,red\n", "quantity")]
    public async Task A_fault_names_its_field_and_nothing_is_taken(string kind, string text, string field)
    {
        using var anselm = await server.SignIn("anselm");
        var before = server.LastEntry();
        text = text.Replace("OTHERS", DemoTemplate.Of.Items.First(i => i.Code == "CB-05").BasePack.Gtin, StringComparison.Ordinal);
        var preview = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind,
                name = "x.csv",
                text,
            }
        );
        Assert.Equal([field], preview["faults"].EnumerateArray().Select(f => f.GetProperty("field").GetString()).Distinct());
        Assert.Equal(
            "file-faults",
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind,
                        name = "x.csv",
                        text,
                    }
                )
            ).Code
        );
        Assert.Equal(before, server.LastEntry());
    }

    [Fact]
    public async Task A_column_that_is_not_known_is_named_and_left_alone()
    {
        using var anselm = await server.SignIn("anselm");
        var preview = await anselm.Act(
            "/site/files/preview",
            new
            {
                kind = "Items",
                name = "x.csv",
                text = "code;colour;kg\nCB-05;red;1,25\n",
            }
        );
        Assert.Empty(preview["faults"].EnumerateArray());
        Assert.Equal("Column colour is not known here and was left alone.", preview["notes"].EnumerateArray().Single().GetString());
        Assert.Equal(
            ("kg", "1.25"),
            preview["changes"].EnumerateArray().Single() is var change
                ? (change.GetProperty("field").GetString(), change.GetProperty("to").GetString())
                : default
        );
    }

    [Fact]
    public async Task A_new_person_signs_in_with_what_the_administrator_gave_and_the_password_is_kept_nowhere_in_clear()
    {
        using var anselm = await server.SignIn("anselm");
        const string secret = "correct horse 17";
        Assert.True(
            (
                await anselm.Act(
                    "/site/files/import",
                    new
                    {
                        kind = "People",
                        name = "p.csv",
                        text = "name,sign_in,roles,sites,skills\nNew Driver,newdriver,Driver,LM,reach-truck=2027-01-01\n",
                    }
                )
            ).IsOk
        );
        using var stranger = new Client(server.Url);
        await stranger.LoadToken();
        Assert.Equal(HttpStatusCode.Unauthorized, (await stranger.Post("/api/session", new { name = "newdriver", password = "" })).Status);
        Assert.Equal(
            "password-weak",
            (await anselm.Act("/site/people/password", new { signInName = "newdriver", password = "short" })).Code
        );
        Assert.True((await anselm.Act("/site/people/password", new { signInName = "newdriver", password = secret })).IsOk);
        // It opens nothing but the choice of one's own.
        Assert.Equal("password-must-change", (await stranger.Post("/api/session", new { name = "newdriver", password = secret })).Code);
        Assert.Equal(
            "password-same",
            (
                await stranger.Post(
                    "/api/session/password",
                    new
                    {
                        name = "newdriver",
                        password = secret,
                        newPassword = secret,
                    }
                )
            ).Code
        );
        Assert.Equal(
            "password-weak",
            (
                await stranger.Post(
                    "/api/session/password",
                    new
                    {
                        name = "newdriver",
                        password = secret,
                        newPassword = "Password2026!",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "password-weak",
            (
                await stranger.Post(
                    "/api/session/password",
                    new
                    {
                        name = "newdriver",
                        password = secret,
                        newPassword = "newdriver12",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await stranger.Post(
                    "/api/session/password",
                    new
                    {
                        name = "newdriver",
                        password = secret,
                        newPassword = "mossy gate 41",
                    }
                )
            ).IsOk
        );
        await stranger.LoadToken();
        Assert.Equal(
            "sign-in-failed",
            (
                await stranger.Post(
                    "/api/session/password",
                    new
                    {
                        name = "newdriver",
                        password = secret,
                        newPassword = "another one 7",
                    }
                )
            ).Code
        );
        await using var db = server.Db();
        Assert.False(await db.DoneActs.AnyAsync(a => a.Answer.Contains(secret)) || await db.Ledger.AnyAsync(e => e.Fact.Contains(secret)));
    }
}
