using System.Net;
using System.Security.Claims;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.HttpOverrides;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.SignalR;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using Npgsql;
using Osierwand.Server.Bench;
using Osierwand.Server.Evidence;
using Osierwand.Server.Kit;
using Osierwand.Server.Outlets;
using Osierwand.Server.Papers;
using Osierwand.Server.People;
using Osierwand.Server.Review;
using Osierwand.Server.Rounds;
using Osierwand.Server.Schedule;
using Osierwand.Server.Trust;
using Osierwand.Server.UserChecks;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Serilog;

namespace Osierwand.Server.Hosting;

/// <summary>What the application is put together from. Capabilities register their own endpoints; what serves them all stands
/// here.</summary>
internal static class Setup
{
    public static void AddOsierwand(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        var connection = builder.Configuration.GetConnectionString("Osierwand") ?? "Host=127.0.0.1;Database=osierwand";
        services.AddSingleton(TimeProvider.System);
        services.AddPooledDbContextFactory<OsierwandDb>(options => OsierwandDb.Configure(options, connection));
        services.AddScoped<Sight>();
        services.AddScoped(it =>
        {
            var db = it.GetRequiredService<IDbContextFactory<OsierwandDb>>().CreateDbContext();
            db.Sight = it.GetRequiredService<Sight>();
            return db;
        });
        services.AddSingleton(_ => NpgsqlDataSource.Create(connection));
        services.Configure<InstrumentOptions>(builder.Configuration.GetSection("Instruments"));
        services.Configure<DemoOptions>(builder.Configuration.GetSection("Demo"));
        services.Configure<BookOptions>(builder.Configuration.GetSection("Books"));
        services.AddScoped<Rulings>();
        services.AddScoped<KitAtHand>();
        services.AddScoped<IPhotoStore, DatabasePhotos>();
        services.AddScoped<RoundPlanning>();
        services.AddScoped<Proposals>();
        services.AddScoped<CalendarFeeds>();
        services.AddScoped<CompetenceBook>();
        services.AddScoped<OutletBook>();
        services.AddScoped<Measurements>();
        services.AddScoped<Trail>();
        services.AddSingleton<InstrumentLines>();
        services.AddSingleton<IBenchHands, PeoplesHands>();
        services.AddSingleton<RunningMeasurements>();
        services.Configure<PrinterOptions>(builder.Configuration.GetSection("Printer"));
        services.AddSingleton<PaperPrinter>();
        services.AddSingleton<PaperMaker>();
        services.AddScoped<HtmlRenderer>();
        services.AddScoped<RoundReports>();
        services.AddScoped<PaperQueue>();
        services.AddScoped<RoundReview>();
        services.AddScoped<EvidenceBook>();
        services.AddScoped<UserReports>();
        services.AddSingleton<HeadKey>();
        services.AddSingleton<Anchors>();
        services.AddSingleton<HeadSigner>();
        services.AddSingleton<Verifier>();
        if (!BuildTime.IsDescribing)
        {
            services.AddHostedService(it => it.GetRequiredService<HeadSigner>());
            services.AddHostedService(it => it.GetRequiredService<Verifier>());
            services.AddHostedService(it => it.GetRequiredService<PaperMaker>());
        }

        AddSignIn(builder);
        services.AddAccess();
        services.AddLimits(builder.Configuration);
        builder.WebHost.ConfigureKestrel(server =>
        {
            server.AddServerHeader = false;
            server.Limits.MaxRequestBodySize = Limits.Body;
        });
        Proxies(builder);
        builder.AddTelemetry();
        services.AddResponseCompression();
        services.AddProblemDetails();
        // What was wrong with a request is told in every environment, and not to developers alone.
        services.Configure<RouteHandlerOptions>(it => it.ThrowOnBadRequest = true);
        services.AddExceptionHandler<Problems>();
        services.AddHealthChecks().AddNpgSql(connection, name: "database", timeout: TimeSpan.FromSeconds(3));
        // A nullable enumeration is described where it is used; among the words themselves the generator's null would be wrong.
        services.AddOpenApi(
            "v1",
            openApi =>
                openApi
                    .AddOperationTransformer(WordParameters.Describe)
                    .AddSchemaTransformer(GuardedSchemas.Describe)
                    .AddDocumentTransformer(
                        (document, _, _) =>
                        {
                            foreach (var schema in document.Components?.Schemas?.Values ?? [])
                                if (schema.Enum is { } words)
                                    for (var i = words.Count - 1; i >= 0; i--)
                                        if (words[i] is null || words[i].GetValueKind() == JsonValueKind.Null)
                                            words.RemoveAt(i);
                            return Task.CompletedTask;
                        }
                    )
        );
        services
            .AddSignalR(hub =>
            {
                hub.MaximumReceiveMessageSize = Limits.SheetBody;
                hub.AddFilter(new SightOfTheBench());
            })
            .AddJsonProtocol(json => Json(json.PayloadSerializerOptions));
        services.ConfigureHttpJsonOptions(json => Json(json.SerializerOptions));
    }

    public static void UseOsierwand(this WebApplication app)
    {
        app.UseTelemetry();
        app.UseForwardedHeaders();
        app.UseMiddleware<Headers>();
        // Browsers that once came by TLS come by nothing else any more.
        app.UseHsts();
        // Around everything that still changes the answer: the log says what was sent.
        app.UseSerilogRequestLogging(Logs.Requests);
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseMiddleware<ReadableRequests>();
        app.UseResponseCompression();
        app.UseRouting();
        app.UseRateLimiter();
        app.UseAuthentication();
        app.Use(
            (http, next) =>
            {
                http.RequestServices.GetRequiredService<Sight>().See(http.User);
                return next(http);
            }
        );
        app.UseAuthorization();
        app.UseMiddleware<SameSiteWrites>();
        app.MapOpenApi().For(Access.Reader);
        app.MapHealthChecks("/health/live", new HealthCheckOptions { Predicate = _ => false });
        app.MapHealthChecks("/health/ready");
    }

    /// <summary>The built front end; every path that is nobody else's is a page of it.</summary>
    public static void MapWeb(this WebApplication app)
    {
        app.UseDefaultFiles();
        app.UseMiddleware<PreCompressed>();
        app.UseStaticFiles(
            new StaticFileOptions
            {
                // Hashed names never change their content; the page that names them must always be fresh.
                OnPrepareResponse = file =>
                    file.Context.Response.Headers.CacheControl = PreCompressed.IsNamedByContent(file.Context.Request.Path)
                        ? "public, max-age=31536000, immutable"
                        : "no-cache",
            }
        );
        app.MapFallback(
                "/api/{**rest}",
                () => Results.Problem(statusCode: StatusCodes.Status404NotFound, title: "There is nothing at this address.")
            )
            .For(Access.Anyone);
        app.MapFallbackToFile("index.html");
    }

    private static void AddSignIn(WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services
            .AddIdentity<Person, IdentityRole<Guid>>(identity =>
            {
                // Length is what makes a password strong; rules about characters make it written down.
                identity.Password = new()
                {
                    RequiredLength = PasswordRules.Shortest,
                    RequireDigit = false,
                    RequireLowercase = false,
                    RequireUppercase = false,
                    RequireNonAlphanumeric = false,
                };
            })
            .AddEntityFrameworkStores<OsierwandDb>()
            .AddDefaultTokenProviders()
            .AddPasswordValidator<PasswordRules>();
        services.Configure<IdentityPasskeyOptions>(passkey =>
        {
            // A key that opens without finger, face or code would be a password that lies on the bench.
            passkey.UserVerificationRequirement = "required";
            passkey.ResidentKeyRequirement = "required";
        });
        services.AddSingleton<Sessions>();
        services.Configure<SignInSpan>(builder.Configuration.GetSection("SignIn"));
        services.Configure<SetUpOptions>(builder.Configuration.GetSection("SetUp"));
        services.AddHttpContextAccessor();
        services.AddScoped<Passwords>();
        services.AddScoped<Throttle>();
        services.AddScoped<OneTimeCodes>();
        services
            .AddOptions<CookieAuthenticationOptions>(IdentityConstants.ApplicationScheme)
            .Configure<Sessions, IOptions<SignInSpan>>(
                (cookie, sessions, span) =>
                {
                    cookie.Cookie.Name = "osierwand";
                    cookie.Cookie.HttpOnly = true;
                    cookie.Cookie.SameSite = SameSiteMode.Strict;
                    cookie.Cookie.SecurePolicy = CookieSecurePolicy.SameAsRequest;
                    cookie.ExpireTimeSpan = TimeSpan.FromHours(span.Value.LongestHours);
                    cookie.SlidingExpiration = false;
                    // In place of Identity's own half-hourly look at a stamp: the session's row is asked at every request.
                    cookie.Events.OnValidatePrincipal = sessions.ExchangeAsync;
                    // An API says 401; the page decides where the sign-in is.
                    cookie.Events.OnRedirectToLogin = context => Answer(context.Response, StatusCodes.Status401Unauthorized);
                    cookie.Events.OnRedirectToAccessDenied = context => Answer(context.Response, StatusCodes.Status403Forbidden);
                }
            );
        if (builder.Configuration["Keys"] is { } folder)
            services.AddDataProtection().SetApplicationName("osierwand").PersistKeysToFileSystem(new DirectoryInfo(folder));
    }

    /// <summary>Only proxies that the operator names are believed about who asks and by which scheme.</summary>
    private static void Proxies(WebApplicationBuilder builder) =>
        builder.Services.Configure<ForwardedHeadersOptions>(forwarded =>
        {
            var known = builder.Configuration.GetSection("Proxies").Get<string[]>() ?? [];
            forwarded.KnownProxies.Clear();
            forwarded.KnownIPNetworks.Clear();
            foreach (var proxy in known)
                forwarded.KnownProxies.Add(IPAddress.Parse(proxy));
            forwarded.ForwardedHeaders =
                known.Length == 0
                    ? ForwardedHeaders.None
                    : ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto | ForwardedHeaders.XForwardedHost;
            var hosts = (builder.Configuration["AllowedHosts"] ?? "").Split(';', StringSplitOptions.RemoveEmptyEntries);
            forwarded.AllowedHosts = [.. hosts];
            forwarded.ForwardLimit = Math.Max(1, known.Length);
        });

    private static Task Answer(HttpResponse response, int status)
    {
        response.StatusCode = status;
        return Task.CompletedTask;
    }

    private static void MayBeLeftOut(JsonTypeInfo type)
    {
        foreach (var property in type.Properties)
            if (property is { IsRequired: true, AssociatedParameter.IsNullable: true })
                property.IsRequired = false;
    }

    private static void Json(JsonSerializerOptions json)
    {
        json.PropertyNamingPolicy = JsonNamingPolicy.CamelCase;
        json.UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow;
        json.NumberHandling = JsonNumberHandling.Strict;
        json.AllowOutOfOrderMetadataProperties = true;
        // A member left out is no nought and no first word of a list: it is asked for, unless it may be null.
        json.RespectNullableAnnotations = true;
        json.RespectRequiredConstructorParameters = true;
        json.AllowDuplicateProperties = false;
        json.TypeInfoResolver = new DefaultJsonTypeInfoResolver { Modifiers = { MayBeLeftOut } };
        json.Converters.Add(new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false));
        Border.Guard(json);
    }
}
