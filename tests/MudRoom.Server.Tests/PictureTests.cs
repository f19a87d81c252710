using MudRoom.Server.Acts;
using SkiaSharp;

namespace MudRoom.Server.Tests;

/// <summary>Photographs are kept upright and small, and stay with what they show.</summary>
public sealed class PictureTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>Where the white corner lies once the picture is upright. Orientations by Exif 2.3, tag 274.</summary>
    [Theory]
    [InlineData(1, 80, 40, false, false)]
    [InlineData(2, 80, 40, true, false)]
    [InlineData(3, 80, 40, true, true)]
    [InlineData(4, 80, 40, false, true)]
    [InlineData(5, 40, 80, false, false)]
    [InlineData(6, 40, 80, true, false)]
    [InlineData(7, 40, 80, true, true)]
    [InlineData(8, 40, 80, false, true)]
    public void A_photograph_is_turned_upright(byte orientation, int width, int height, bool right, bool bottom)
    {
        using var upright = SKBitmap.Decode(Photographs.Reduce(Pictures.Jpeg(80, 40, orientation), "a.jpg").Value);
        Assert.Equal((width, height), (upright.Width, upright.Height));
        var corner = upright.GetPixel(right ? width - 4 : 3, bottom ? height - 4 : 3);
        Assert.True(corner is { Red: > 200, Green: > 200, Blue: > 200 }, corner.ToString());
    }

    [Fact]
    public void A_large_photograph_is_reduced_and_says_nothing_of_its_camera()
    {
        var reduced = Photographs.Reduce(Pictures.Jpeg(4000, 3000, 6), "large.jpg").Value;
        using var picture = SKBitmap.Decode(reduced);
        Assert.Equal((1200, 1600), (picture.Width, picture.Height));
        Assert.Equal(-1, reduced.AsSpan().IndexOf("Exif"u8));
    }

    [Fact]
    public async Task A_picture_stays_with_its_count_and_is_seen_in_bench_and_cage()
    {
        using var leila = await server.SignIn("leila");
        Task<Answer> Attach(object? more = null, string name = "torn.png") =>
            leila.Act(
                "/road/arrivals/attach",
                Merge(
                    new
                    {
                        arrival = "A-2617",
                        name,
                        content = Convert.ToBase64String(Pictures.Png(60, 40)),
                    },
                    more
                )
            );
        Assert.Equal("not-found", (await Attach(new { part = 999999 })).Code);
        Assert.Equal("not-found", (await Attach(new { count = Guid.NewGuid() })).Code);
        var torn = await Attach();
        Assert.True(torn.IsOk, torn.Body.ToString());
        var aside = await leila.Act(
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
                    note = "torn",
                    pictures = new[] { torn["id"].GetInt32() },
                }
            )
        );
        Assert.True(aside.IsOk, aside.Body.ToString());
        Assert.Equal(
            "not-found",
            (
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
                            note = "torn",
                            pictures = new[] { 987654 },
                        }
                    )
                )
            ).Code
        );
        var shown = (await leila.Ask("/door/tally/A-2617"))["pictures"].EnumerateArray().Single();
        Assert.Equal("Coir brick 5 kg", shown.GetProperty("item").GetString());
        Assert.Single((await leila.Ask("/road/pictures/A-2617?item=Coir brick 5 kg")).Body.EnumerateArray());
        Assert.Empty((await leila.Ask("/road/pictures/A-2617?item=SD-MUS")).Body.EnumerateArray());
        Assert.True((await Attach(name: "door open.png")).IsOk);
        Assert.Single((await leila.Ask("/road/pictures/A-2617?item=SD-MUS")).Body.EnumerateArray());
    }

    static Dictionary<string, object?> Merge(object body, object? more) =>
        new[] { body, more }
            .OfType<object>()
            .SelectMany(o => o.GetType().GetProperties().Select(p => (p.Name, Value: p.GetValue(o))))
            .ToDictionary(p => p.Name, p => p.Value);
}
