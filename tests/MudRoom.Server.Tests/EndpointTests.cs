using System.Net;
using System.Reflection;
using System.Text;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.Extensions.DependencyInjection;
using MudRoom.Core.Site;
using MudRoom.Demo;
using MudRoom.Server.Acts;
using MudRoom.Tests;

namespace MudRoom.Server.Tests;

/// <summary>No endpoint is open by accident: all are walked, and each is tried by a stranger, from another site and without its
/// right.</summary>
public sealed class EndpointTests(DemoServer server) : IClassFixture<DemoServer>
{
    /// <summary>The document of the endpoints knows a request or an answer by its name alone: two of one name would pass for one.</summary>
    [Fact]
    public void No_two_requests_or_answers_have_one_name() =>
        Assert.Empty(
            typeof(Hosting.CommandLine)
                .Assembly.GetTypes()
                .Where(t => t.IsPublic && (t.IsEnum || t.GetMethod("<Clone>$") is not null))
                .GroupBy(t => t.Name)
                .Where(g => g.Count() > 1)
                .Select(g => string.Join(" and ", g.Select(t => t.FullName)))
        );

    [Fact]
    public async Task What_is_too_large_is_refused_with_a_sentence_and_changes_nothing()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = server.LastEntry();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/LM/road/import")
        {
            Content = new ByteArrayContent(new byte[200 * 1024 * 1024]),
        };
        request.Headers.Add("X-Token", wanjiru.Token);
        request.Headers.Add("Act-Id", Guid.NewGuid().ToString());
        request.Content.Headers.ContentType = new("application/json");
        var answer = await wanjiru.Http.SendAsync(request);
        Assert.Equal(HttpStatusCode.RequestEntityTooLarge, answer.StatusCode);
        Assert.Contains("larger than 64 MB", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(before, server.LastEntry());
    }

    [Theory]
    [InlineData("/road/due?from=abc")]
    [InlineData("/road/due?page=x")]
    [InlineData("/road/due?state=Purple")]
    public async Task A_question_that_cannot_be_read_gets_a_sentence(string path)
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var answer = await wanjiru.Ask(path);
        Assert.Equal((HttpStatusCode.BadRequest, "unreadable"), (answer.Status, answer.Code));
    }

    static readonly string[] openOnPurpose =
    [
        "/api/session",
        "/api/session/badge",
        "/api/session/password",
        "/api/demo/people",
        "/health",
        "/api/openapi.json",
        "/api/{**rest}",
        "/{**page}",
    ];

    List<RouteEndpoint> All() =>
        [.. server.App.Services.GetServices<EndpointDataSource>().SelectMany(s => s.Endpoints).OfType<RouteEndpoint>()];

    List<RouteEndpoint> OfSites() => [.. All().Where(e => e.Metadata.GetMetadata<RightNeeded>() is not null)];

    [Fact]
    public void Every_endpoint_names_a_right_or_is_open_on_purpose()
    {
        Assert.True(OfSites().Count > 30, $"only {OfSites().Count} endpoints were walked");
        foreach (var endpoint in All().Where(e => e.Metadata.GetMetadata<RightNeeded>() is null))
        {
            var path = "/" + endpoint.RoutePattern.RawText!.TrimStart('/');
            var isLive = path.StartsWith("/live", StringComparison.Ordinal) && endpoint.Metadata.GetMetadata<IAuthorizeData>() is not null;
            Assert.True(isLive || openOnPurpose.Contains(path), $"{path} is open");
        }
    }

    [Fact]
    public void Every_endpoint_of_a_site_lies_under_the_site() =>
        Every.One(OfSites(), e => Assert.StartsWith("/api/{site}/", e.RoutePattern.RawText));

    [Fact]
    public void What_each_takes_is_said_though_nobody_has_asked_it_yet()
    {
        Every.One(OfSites(), e => Assert.NotNull(e.Metadata.GetMetadata<MethodInfo>()));
        Every.One(OfSites().Where(e => e.Metadata.GetMetadata<IHttpMethodMetadata>()!.HttpMethods.Contains(HttpMethods.Post)), e =>
            Assert.Equal(["application/json"], e.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes)
        );
    }

    [Fact]
    public async Task Those_who_come_first_to_an_endpoint_at_once_are_all_answered()
    {
        using var anselm = await server.SignIn("anselm");
        Every.One(await Task.WhenAll(Enumerable.Range(0, 8).Select(_ => anselm.Ask("/site/standings"))), a => Assert.True(a.IsOk));
    }

    [Fact]
    public async Task A_stranger_gets_nothing()
    {
        using var stranger = new Client(server.Url);
        await stranger.LoadToken();
        foreach (var endpoint in OfSites())
            Assert.Equal(HttpStatusCode.Unauthorized, (await Call(stranger, endpoint, "LM")).Status);
    }

    [Fact]
    public async Task A_person_of_another_site_gets_nothing()
    {
        using var tomasz = await server.SignIn("tomasz");
        foreach (var endpoint in OfSites())
            Assert.Equal("site-not-yours", (await Call(tomasz, endpoint, "HB")).Code);
        foreach (var endpoint in OfSites())
            Assert.Equal("site-not-yours", (await Call(tomasz, endpoint, "NOWHERE")).Code);
    }

    [Fact]
    public async Task A_person_without_the_right_is_told_whom_to_ask()
    {
        var people = DemoTemplate.Of.People.Select(p => p.Person).ToList();
        var tried = 0;
        foreach (var group in OfSites().GroupBy(e => e.Metadata.GetMetadata<RightNeeded>()!.Right))
        {
            var without = people.Find(p => p.Sites.Contains("LM") && !Rights.Allow(p.Roles, group.Key));
            if (without is null)
                continue;
            using var client = await server.SignIn(without.SignInName);
            foreach (var endpoint in group)
            {
                var answer = await Call(client, endpoint, "LM");
                Assert.Equal("right-missing", answer.Code);
                Assert.StartsWith("Ask ", answer["next"].GetString());
                tried++;
            }
        }

        Assert.True(tried > 12, $"only {tried} were tried");
    }

    [Fact]
    public async Task Nothing_is_changed_without_the_anti_forgery_token()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        var before = server.LastEntry();
        foreach (
            var endpoint in OfSites()
                .Where(e => Method(e) == "POST" && Rights.Allow([Role.Supervisor], e.Metadata.GetMetadata<RightNeeded>()!.Right))
        )
            Assert.Equal("token-missing", (await wanjiru.Post(Path(endpoint, "LM"), new { }, withToken: false)).Code);
        Assert.Equal(before, server.LastEntry());
    }

    [Fact]
    public async Task An_address_that_is_not_there_is_a_problem_and_not_a_page()
    {
        using var wanjiru = await server.SignIn("wanjiru");
        Assert.Equal("not-found", (await wanjiru.Ask("/nothing/here")).Code);
    }

    [Fact]
    public async Task Cookies_are_strict_and_closed_to_scripts()
    {
        using var client = new Client(server.Url);
        await client.LoadToken();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/session");
        request.Headers.Add("X-Token", client.Token);
        request.Content = new StringContent("""{"name":"leila","password":"leila-mud-03"}""", Encoding.UTF8, "application/json");
        var response = await client.Http.SendAsync(request);
        var cookie = response
            .Headers.GetValues("Set-Cookie")
            .Single(c => c.StartsWith("mudroom=", StringComparison.Ordinal))
            .ToLowerInvariant();
        Assert.Contains("samesite=strict", cookie);
        Assert.Contains("httponly", cookie);
    }

    [Fact]
    public async Task Five_wrong_passwords_lock_the_name()
    {
        using var client = new Client(server.Url);
        await client.LoadToken();
        for (var i = 0; i < 5; i++)
            await client.Post("/api/session", new { name = "bram", password = "wrong" });
        var answer = await client.Post("/api/session", new { name = "bram", password = "bram-mud-07" });
        Assert.Equal("locked-out", answer.Code);
    }

    static Task<Answer> Call(Client client, RouteEndpoint endpoint, string site) =>
        Method(endpoint) == "POST" ? client.Post(Path(endpoint, site), new { }) : Get(client, Path(endpoint, site));

    static async Task<Answer> Get(Client client, string path) => await Client.Read(await client.Http.GetAsync(path));

    static string Method(RouteEndpoint endpoint) => endpoint.Metadata.GetMetadata<HttpMethodMetadata>()!.HttpMethods[0];

    static string Path(RouteEndpoint endpoint, string site) =>
        string.Concat(
            endpoint.RoutePattern.PathSegments.Select(s =>
                "/"
                + string.Concat(
                    s.Parts.Select(p =>
                        p switch
                        {
                            RoutePatternParameterPart { Name: "site" } => site,
                            RoutePatternParameterPart { ParameterPolicies: [{ Content: "guid" }] } => Guid.Empty.ToString(),
                            RoutePatternParameterPart { ParameterPolicies.Count: > 0 } => "1",
                            RoutePatternParameterPart => "x",
                            RoutePatternLiteralPart literal => literal.Content,
                            _ => "",
                        }
                    )
                )
            )
        );
}
