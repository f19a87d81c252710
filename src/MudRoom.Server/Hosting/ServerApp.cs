using System.Net;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using MudRoom.Core;
using MudRoom.Data;
using MudRoom.Server.Acts;
using MudRoom.Server.Bench;
using MudRoom.Server.Book;
using MudRoom.Server.Cage;
using MudRoom.Server.Demo;
using MudRoom.Server.Door;
using MudRoom.Server.Out;
using MudRoom.Server.Road;
using MudRoom.Server.Shelf;
using MudRoom.Server.SignIn;
using MudRoom.Server.Site;

namespace MudRoom.Server.Hosting;

/// <summary>Puts the server together.</summary>
public static class ServerApp
{
    /// <summary>Builds it; nothing is opened yet.</summary>
    /// <param name="desk">Opened by whoever asks for it first, and closed with the server.</param>
    public static WebApplication Build(ServerSettings settings, Lazy<WriteDesk> desk)
    {
        var builder = WebApplication.CreateSlimBuilder(
            new WebApplicationOptions
            {
                ContentRootPath = AppContext.BaseDirectory,
                // No file of settings is watched: a machine has few watches, and what is set is set in the house.
                Args = ["--hostBuilder:reloadConfigOnChange=false"],
            }
        );
        builder.Logging.SetMinimumLevel(LogLevel.Warning);
        // Said at every start of a server without a key store of its own; the keys lie with the data, for its owner only.
        builder.Logging.AddFilter("Microsoft.AspNetCore.DataProtection", LogLevel.Error);
        builder.Logging.AddFilter("Microsoft.AspNetCore.Antiforgery", LogLevel.Error);
        builder.WebHost.UseKestrelHttpsConfiguration();
        builder.WebHost.ConfigureKestrel(kestrel =>
        {
            kestrel.AddServerHeader = false;
            kestrel.Limits.MaxRequestBodySize = TooLarge.MostBytes;
            var address = settings.Host == "localhost" ? IPAddress.Loopback : IPAddress.Parse(settings.Host);
            kestrel.Listen(address, settings.Port, listen =>
            {
                if (!settings.IsLocal)
                    listen.UseHttps(Certificates.Load(settings.Certificate, settings.CertificatePassword, settings.Folder));
            });
        });
        AddServices(builder.Services, settings, desk);
        var app = builder.Build();
        Use(app, settings);
        Endpoints.MakeOnce(app);
        return app;
    }

    static void AddServices(IServiceCollection services, ServerSettings settings, Lazy<WriteDesk> desk)
    {
        var clock = settings.IsDemo ? new DemoClock() : null;
        services.AddSingleton(new Mode(settings.File, settings.IsDemo));
        services.AddSingleton(settings);
        services.AddSingleton<Health>();
        // A piece that fails says so and goes on; should one fail past that, the house stands all the same.
        services.Configure<HostOptions>(host => host.BackgroundServiceExceptionBehavior = BackgroundServiceExceptionBehavior.Ignore);
        services.AddSingleton<TimeProvider>(clock ?? TimeProvider.System);
        if (clock is not null)
        {
            services.AddSingleton(clock);
            services.AddSingleton<DemoLoader>();
            services.AddHostedService<DemoClockKeeper>();
        }

        services.AddSingleton(Database.Factory(settings.File));
        services.AddScoped(provider => provider.GetRequiredService<IDbContextFactory<MudRoomDb>>().CreateDbContext());
        services.AddSingleton(_ => desk.Value);
        services.AddSingleton<SetUpStore>();
        services.AddSingleton<ActRunner>();
        // What is held anew changes what is to be done.
        services.AddSingleton<IAfterAct, RecallsFollow>();
        services.AddSingleton<IAfterAct, StoreTasks>();
        services.AddSingleton<ILayHolds, HandHolds>();
        services.AddSingleton<PastLoadStore>();
        services.AddSingleton<ForecastStore>();
        services.AddSingleton<ImportProgress>();
        services.AddSingleton<RefusedFiles>();
        services.AddSingleton<Staging>();
        services.AddSingleton<Importing>();
        services.AddSingleton<SetUpImporting>();
        services.AddKeyedSingleton<IStagedKind>(IStagedKind.OfOrders, (provider, _) => provider.GetRequiredService<Importing>());
        services.AddKeyedSingleton<IStagedKind>(IStagedKind.OfSetUp, (provider, _) => provider.GetRequiredService<SetUpImporting>());
        services.AddSingleton<ScaleStore>();
        services.AddSingleton<GaugeLines>();
        if (settings.Watches)
        {
            services.AddHostedService(provider => provider.GetRequiredService<Staging>());
            services.AddHostedService<WatchedFolder>();
            services.AddHostedService<Printing>();
            services.AddHostedService<Deliverer>();
            services.AddHostedService<LongInStoreWatch>();
            services.AddHostedService<ConcessionWatch>();
            services.AddHostedService<RecallsAtHand>();
        }

        services.AddSingleton<Announcer>();
        services.AddHostedService(provider => provider.GetRequiredService<Announcer>());

        services
            .AddDataProtection()
            .SetApplicationName("mud-room")
            .PersistKeysToFileSystem(new DirectoryInfo(Path.Combine(settings.Folder, "keys")));
        services.AddAuthentication(IdentityConstants.ApplicationScheme).AddIdentityCookies();
        services
            .AddIdentityCore<SignInAccount>(identity =>
            {
                identity.Lockout.MaxFailedAccessAttempts = 5;
                identity.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(5);
                identity.Password.RequiredLength = SetUpFiles.LeastPassword;
                identity.Password.RequireLowercase = false;
                identity.Password.RequireNonAlphanumeric = false;
                identity.Password.RequireUppercase = false;
                identity.Password.RequireDigit = false;
            })
            .AddEntityFrameworkStores<MudRoomDb>()
            .AddSignInManager()
            .AddPasswordValidator<CommonPasswords>();
        services.AddSingleton<Sessions>();
        services.AddSingleton<Tries>();
        services.AddScoped<Session.Entrance>();
        services.ConfigureApplicationCookie(cookie =>
        {
            cookie.Cookie.Name = "mudroom";
            cookie.Cookie.SameSite = SameSiteMode.Strict;
            cookie.Cookie.HttpOnly = true;
            cookie.Cookie.SecurePolicy = settings.IsLocal ? CookieSecurePolicy.SameAsRequest : CookieSecurePolicy.Always;
            cookie.ExpireTimeSpan = TimeSpan.FromHours(14);
            // Browsers judge cookies by the real time, whatever the demo's clock says.
            cookie.TimeProvider = TimeProvider.System;
            cookie.Events.OnValidatePrincipal = Sessions.Validate;
            cookie.Events.OnRedirectToLogin = context =>
                Problems.Of(new Refusal(HouseRefusals.NotSignedIn, "You are not signed in.", "Sign in.")).ExecuteAsync(context.HttpContext);
            cookie.Events.OnRedirectToAccessDenied = context =>
                Problems
                    .Of(new Refusal(HouseRefusals.RightMissing, "You have not the right to do this.", "Ask the administrator."))
                    .ExecuteAsync(context.HttpContext);
        });
        services.Configure<SecurityStampValidatorOptions>(stamp =>
        {
            stamp.TimeProvider = TimeProvider.System;
            stamp.ValidationInterval = TimeSpan.FromMinutes(1);
        });
        services.AddAuthorizationBuilder().SetFallbackPolicy(new AuthorizationPolicyBuilder().RequireAuthenticatedUser().Build());
        services.PostConfigure<CookieAuthenticationOptions>(IdentityConstants.ApplicationScheme, cookie =>
            cookie.TicketDataFormat = new RememberedTickets(cookie.TicketDataFormat)
        );
        services.AddSingleton<TokenCheck>();
        services.AddAntiforgery(antiforgery =>
        {
            antiforgery.HeaderName = "X-Token";
            antiforgery.Cookie.Name = "mudroom-token";
            antiforgery.Cookie.SameSite = SameSiteMode.Strict;
            antiforgery.Cookie.SecurePolicy = settings.IsLocal ? CookieSecurePolicy.SameAsRequest : CookieSecurePolicy.Always;
        });
        services.ConfigureHttpJsonOptions(json =>
        {
            json.SerializerOptions.Converters.Add(new JsonStringEnumConverter(namingPolicy: null, allowIntegerValues: false));
            json.SerializerOptions.Converters.Add(new PlainText());
            json.SerializerOptions.NumberHandling = JsonNumberHandling.Strict;
        });
        services.AddSignalR().AddJsonProtocol();
        services.AddResponseCompression(compression => compression.EnableForHttps = false);
        services.AddProblemDetails();
        services.Configure<RouteHandlerOptions>(handlers => handlers.ThrowOnBadRequest = true);
        // Texts have a converter of their own, which the document would else say nothing of.
        services.AddOpenApi(document =>
            document.AddSchemaTransformer(
                (schema, context, _) =>
                {
                    PlainText.Describe(schema, context.JsonTypeInfo, context.JsonPropertyInfo);
                    // It is worked out of the kind, and always there.
                    if (context.JsonTypeInfo.Type == typeof(Refusal))
                        (schema.Required ??= new HashSet<string>()).Add("code");
                    return Task.CompletedTask;
                }
            )
        );
    }

    static void Use(WebApplication app, ServerSettings settings)
    {
        // What a caller sent wrong is answered, not logged as a failure of ours.
        app.UseExceptionHandler(
            new ExceptionHandlerOptions
            {
                ExceptionHandler = Problems.Handle,
                SuppressDiagnosticsCallback = context => context.Exception is BadHttpRequestException,
            }
        );
        // A body without a length turns out too large only while it is read.
        app.UseStatusCodePages(context =>
            context.HttpContext.Response.StatusCode == StatusCodes.Status413PayloadTooLarge
                ? Problems.Of(TooLarge.Beyond(TooLarge.MostOf(context.HttpContext))).ExecuteAsync(context.HttpContext)
                : Task.CompletedTask
        );
        var web = settings.Web ?? Path.Combine(AppContext.BaseDirectory, "wwwroot");
        var policy = PagePolicy.Of(Path.Combine(web, "index.html"));
        app.Use(
            (http, next) =>
            {
                var headers = http.Response.Headers;
                headers.XContentTypeOptions = "nosniff";
                headers["Referrer-Policy"] = "no-referrer";
                headers.XFrameOptions = "DENY";
                headers.ContentSecurityPolicy = policy;
                return next(http);
            }
        );
        if (!settings.IsLocal)
            app.UseHsts();
        app.UseResponseCompression();
        if (Directory.Exists(web))
            BuiltFiles.Use(app, web);
        app.UseRouting();
        app.UseAuthentication();
        app.UseAuthorization();
        app.UseMiddleware<InquiryMaker>();
        Endpoints.Map(app);
        if (Directory.Exists(web))
            Endpoints.MapWeb(app, web);
    }
}
