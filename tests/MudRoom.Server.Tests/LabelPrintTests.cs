using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core.Door;
using MudRoom.Data;
using MudRoom.Server.Hosting;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>Which label comes at which event from which door's printer; the stand-in collects them, a real printer gets a PDF by the
/// system's print command.</summary>
public sealed class LabelPrintTests(DemoServer server) : IClassFixture<DemoServer>
{
    static async Task<List<JsonElement>> Printed(Client client, int atLeast, string printer = "")
    {
        for (var i = 0; i < 100; i++)
        {
            var prints = (await client.Ask($"/door/prints?printer={Uri.EscapeDataString(printer)}"))["prints"].EnumerateArray().ToList();
            if (prints.Count >= atLeast && prints.All(p => p.GetProperty("state").GetString() != "Waiting"))
                return prints;
            await Task.Delay(50);
        }

        throw new InvalidOperationException("The labels were not printed.");
    }

    [Fact]
    public async Task A_counted_pallet_prints_its_label_at_its_door_and_goods_set_aside_say_that_they_are_held()
    {
        using var leila = await server.SignIn("leila");
        var before = (await leila.Ask("/door/prints"))["inAll"].GetInt32();
        var sscc = (await leila.Act("/door/count", Client.Count("1", "A-2617", "CB-05", "pallet", new { sourceBatch = "NC-1201" })))[
            "units"
        ]
            [0]
            .GetString();
        await leila.Act(
            "/door/count",
            Client.Count(
                "1",
                "A-2617",
                "CB-05",
                "carton",
                new
                {
                    sourceBatch = "NC-1201",
                    aside = "Damaged",
                    reason = "Wet",
                    note = "dripping",
                }
            )
        );
        await leila.Act("/door/count", Client.Count("1", "A-2617", "CB-05", "carton", new { sourceBatch = "NC-1201" }));
        var prints = await Printed(leila, 2, "Door 3");
        Assert.Equal(before + 2, (await leila.Ask("/door/prints"))["inAll"].GetInt32());
        Assert.Equal(("HELD: Wet", null), (prints[0].GetProperty("banner").GetString(), prints[0].GetProperty("sscc").GetString()));
        Assert.Equal(sscc, prints[1].GetProperty("sscc").GetString());
        var picture = await leila.Http.GetByteArrayAsync($"/api/LM/door/prints/{prints[1].GetProperty("id").GetInt32()}");
        Assert.True(picture.AsSpan(1, 3).SequenceEqual("PNG"u8));
        var id = prints[1].GetProperty("id").GetInt32();
        Assert.True((await leila.Act("/door/prints/again", new { print = id })).IsOk);
        Assert.Equal("printer-unknown", (await leila.Act("/door/prints/again", new { print = id, printer = "Nowhere" })).Code);
        Assert.Equal("not-found", (await leila.Act("/door/prints/again", new { print = 999999 })).Code);
        Assert.Equal(sscc, (await Printed(leila, 3, "Door 3"))[0].GetProperty("sscc").GetString());
        Assert.Equal(
            "label-size",
            (
                await leila.Act(
                    "/door/prints/unit",
                    new
                    {
                        sscc,
                        printer = "Door 3",
                        size = "a4",
                    }
                )
            ).Code
        );
        Assert.True(
            (
                await leila.Act(
                    "/door/prints/unit",
                    new
                    {
                        sscc,
                        printer = "Door 3",
                        size = "4x6",
                    }
                )
            ).IsOk
        );
    }

    [Fact]
    public async Task Loose_packs_get_a_label_each_when_somebody_asks_and_as_a_PDF_without_a_printer()
    {
        using var tomasz = await server.SignIn("tomasz");
        var id = Guid.NewGuid();
        Assert.True(
            (
                await tomasz.Act(
                    "/door/count",
                    Client.Count(
                        "3",
                        "A-2617",
                        "CB-05",
                        "carton",
                        new { sourceBatch = "NC-1201", more = new[] { new { pack = "each", packs = "2" } } }
                    ),
                    id
                )
            ).IsOk
        );
        var printed = await tomasz.Act(
            "/door/prints/packs",
            new
            {
                count = id,
                pack = "carton",
                printer = "Door 3",
                size = "a6",
            }
        );
        Assert.StartsWith("3 labels of Coir brick 5 kg, carton are sent", printed["sentence"].GetString());
        Assert.Equal(3, (await tomasz.Ask("/door/prints?printer=Door 3"))["prints"][0].GetProperty("copies").GetInt32());
        using var pdf = await tomasz.Http.GetAsync($"/api/LM/door/count-label/{id}?pack=each&size=4x6");
        Assert.Equal("application/pdf", pdf.Content.Headers.ContentType!.MediaType);
        Assert.True((await pdf.Content.ReadAsByteArrayAsync()).AsSpan(0, 5).SequenceEqual("%PDF-"u8));
        Assert.Equal(
            "printer-unknown",
            (
                await tomasz.Act(
                    "/door/prints/packs",
                    new
                    {
                        count = id,
                        pack = "carton",
                        printer = "Nowhere",
                        size = "a6",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "label-size",
            (
                await tomasz.Act(
                    "/door/prints/packs",
                    new
                    {
                        count = id,
                        pack = "carton",
                        printer = "Door 3",
                        size = "a0",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "not-found",
            (
                await tomasz.Act(
                    "/door/prints/packs",
                    new
                    {
                        count = id,
                        pack = "sack",
                        printer = "Door 3",
                        size = "a6",
                    }
                )
            ).Code
        );
        Assert.Equal(
            "not-found",
            (
                await tomasz.Act(
                    "/door/prints/packs",
                    new
                    {
                        count = Guid.NewGuid(),
                        pack = "carton",
                        printer = "Door 3",
                        size = "a6",
                    }
                )
            ).Code
        );
        Assert.True((await tomasz.Act("/door/take-back", new { arrival = "A-2617", count = id })).IsOk);
        Assert.Equal(
            "not-found",
            (
                await tomasz.Act(
                    "/door/prints/packs",
                    new
                    {
                        count = id,
                        pack = "carton",
                        printer = "Door 3",
                        size = "a6",
                    }
                )
            ).Code
        );
    }

    [Fact]
    public async Task A_mixed_units_label_printed_again_still_names_all_that_stands_on_it()
    {
        using var tomasz = await server.SignIn("tomasz");
        var sscc = (await tomasz.Act("/door/count", Client.Count("1", "A-2617", "CB-05", "pallet", new { sourceBatch = "NC-1201" })))[
            "units"
        ]
            [0]
            .GetString();
        Assert.True((await tomasz.Act("/door/count", Client.Count("7", "A-2617", "CP-08", "each", new { onto = sscc }))).IsOk);
        Assert.True(
            (
                await tomasz.Act(
                    "/door/prints/unit",
                    new
                    {
                        sscc,
                        printer = "Door 3",
                        size = "a6",
                    }
                )
            ).IsOk
        );
        var first = (await tomasz.Ask("/door/prints?printer=Door 3"))["prints"][0];
        Assert.Equal("2 items on one unit", first.GetProperty("title").GetString());
        Assert.True(
            (await tomasz.Act("/door/prints/again", new { print = first.GetProperty("id").GetInt32(), printer = "Doors 1 and 2" })).IsOk
        );
        await using var db = server.Db();
        var tasks = db.PrintJobs.Where(j => j.Sscc == sscc).OrderByDescending(j => j.Id).Take(2).ToList();
        Assert.Equal(["Doors 1 and 2", "Door 3"], tasks.Select(j => j.Printer));
        Every.One(tasks, j => Assert.Equal(2, j.Lines.Count));
    }

    [Fact]
    public async Task What_cannot_be_printed_is_said_and_nothing_is_sent()
    {
        using var tomasz = await server.SignIn("tomasz");
        var before = (await tomasz.Ask("/door/prints"))["inAll"].GetInt32();
        object?[] bodies =
        [
            new { },
            new
            {
                count = Guid.Empty,
                pack = (string?)null,
                printer = (string?)null,
                size = (string?)null,
            },
            new
            {
                count = "not an id",
                pack = "carton",
                printer = "Door 3",
                size = "a6",
            },
            new
            {
                count = Guid.NewGuid(),
                pack = new string('x', 5000),
                printer = "Door 3",
                size = "a6",
            },
        ];
        foreach (var body in bodies)
        {
            var answer = await tomasz.Act("/door/prints/packs", body!);
            Assert.False(answer.IsOk);
            Assert.NotNull(answer.Code);
        }

        foreach (var address in new[] { $"{Guid.NewGuid()}?pack=carton", $"{Guid.NewGuid()}", "no-id?pack=carton" })
            Assert.InRange((int)(await tomasz.Http.GetAsync($"/api/LM/door/count-label/{address}")).StatusCode, 400, 499);
        Assert.Equal(before, (await tomasz.Ask("/door/prints"))["inAll"].GetInt32());
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task A_real_printer_gets_a_PDF_by_the_print_command_and_what_it_refuses_keeps_its_reason(bool takes)
    {
        var folder = Directory.CreateTempSubdirectory("mudroom-print-").FullName;
        await DemoTemplate.CopyTo(folder);
        var command = Path.Combine(folder, "lp");
        await File.WriteAllTextAsync(
            command,
            takes
                ? $"#!/bin/sh\necho \"$@\" > {folder}/said\ncp \"$5\" {folder}/got.pdf\n"
                : "#!/bin/sh\necho 'the queue does not exist' >&2\nexit 1\n"
        );
        if (!OperatingSystem.IsWindows())
            File.SetUnixFileMode(command, UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute);
        await using var app = await CommandLine.Start(
            new ServerSettings(folder, Port: 0, IsDemo: true, StoppedClock: true, PrintCommand: command)
        );
        try
        {
            using var anselm = await Client.SignIn(app.Urls.First(), "anselm");
            using var leila = await Client.SignIn(app.Urls.First(), "leila");
            var settings = JsonSerializer.Deserialize<Dictionary<string, object?>>((await anselm.Ask("/site/door"))["settings"])!;
            settings["printers"] = new[] { new { name = "Real", address = "ipp://printserver:8631/printers/door3" } };
            settings["prints"] = new[]
            {
                new
                {
                    @event = "UnitCounted",
                    door = (int?)3,
                    printer = "Real",
                    size = "4x6",
                },
            };
            Assert.True((await anselm.Act("/site/door", new { settings, hasAddresses = true })).IsOk);
            Assert.True(
                (await leila.Act("/door/count", Client.Count("1", "A-2617", "CB-05", "pallet", new { sourceBatch = "NC-1201" }))).IsOk
            );
            var print = (await Printed(leila, 1, "Real"))[0];
            if (takes)
            {
                Assert.Equal("Printed", print.GetProperty("state").GetString());
                Assert.StartsWith(
                    "-h printserver:8631 -d door3 ",
                    await File.ReadAllTextAsync(Path.Combine(folder, "said")),
                    StringComparison.Ordinal
                );
                Assert.True((await File.ReadAllBytesAsync(Path.Combine(folder, "got.pdf"))).AsSpan().StartsWith("%PDF"u8));
            }
            else
            {
                Assert.Equal(
                    ("Failed", "the queue does not exist"),
                    (print.GetProperty("state").GetString(), print.GetProperty("error").GetString())
                );
                await File.WriteAllTextAsync(command, "#!/bin/sh\nexit 0\n");
                Assert.True((await leila.Act("/door/prints/again", new { print = print.GetProperty("id").GetInt32() })).IsOk);
                await using var db = Database.Context(Path.Combine(folder, "mudroom.db"));
                for (var i = 0; i < 100 && await db.PrintJobs.AnyAsync(j => j.Printer == "Real" && j.State != PrintState.Printed); i++)
                    await Task.Delay(50);
                Assert.Equal(1, await db.PrintJobs.CountAsync(j => j.Printer == "Real" && j.State == PrintState.Printed));
            }

            Assert.Empty(Directory.GetFiles(folder, "label-*.pdf"));
        }
        finally
        {
            await app.StopAsync();
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }
}
