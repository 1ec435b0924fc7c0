using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using System.Threading.RateLimiting;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Diagnostics.HealthChecks;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.RateLimiting;
using Osierwand.Server.Bench;
using Osierwand.Server.Kit;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Serilog;

namespace Osierwand.Server.Hosting;

/// <summary>What the application is put together from. Capabilities register their own endpoints; what serves them all stands
/// here.</summary>
internal static class Setup
{
    public const string SignInLimit = "sign-in";
    private const int SignInsPerMinute = 20;

    /// <summary>A run sheet goes along with every start of the instrument; the largest has some hundred events.</summary>
    private const int LargestSheet = 512 * 1024;

    public static void AddOsierwand(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        var connection = builder.Configuration.GetConnectionString("Osierwand") ?? "Host=127.0.0.1;Database=osierwand";
        services.AddSingleton(TimeProvider.System);
        services.AddDbContextPool<OsierwandDb>(options => OsierwandDb.Configure(options, connection));
        services.Configure<SimulatorOptions>(builder.Configuration.GetSection("Simulator"));
        services.Configure<DemoOptions>(builder.Configuration.GetSection("Demo"));
        services.AddScoped<Rulings>();
        services.AddSingleton<Seals>();
        services.AddSingleton<InstrumentLine>();

        AddSignIn(builder);
        services.AddAuthorizationBuilder().AddPolicy(Person.Lead, policy => policy.RequireRole(Person.Lead));
        services.AddRateLimiter(limits =>
        {
            limits.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limits.AddPolicy(
                SignInLimit,
                context =>
                    RateLimitPartition.GetFixedWindowLimiter(
                        context.Connection.RemoteIpAddress?.ToString() ?? "unknown",
                        _ =>
                            new()
                            {
                                PermitLimit = builder.Configuration.GetValue("SignIn:PerMinute", SignInsPerMinute),
                                Window = TimeSpan.FromMinutes(1),
                            }
                    )
            );
        });
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
            .AddSignalR(hub => hub.MaximumReceiveMessageSize = LargestSheet)
            .AddJsonProtocol(json => Json(json.PayloadSerializerOptions));
        services.ConfigureHttpJsonOptions(json => Json(json.SerializerOptions));
    }

    public static void UseOsierwand(this WebApplication app)
    {
        app.UseExceptionHandler();
        app.UseStatusCodePages();
        app.UseSerilogRequestLogging(log =>
        {
            // Route patterns, not paths: tags and names are nobody's business in a log.
            log.MessageTemplate = "{RequestMethod} {Route} answered {StatusCode} in {Elapsed:0} ms";
            log.EnrichDiagnosticContext = (context, http) =>
                context.Set("Route", (http.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "(static)");
        });
        app.UseMiddleware<Headers>();
        app.UseResponseCompression();
        app.UseRouting();
        app.UseRateLimiter();
        app.UseAuthentication();
        app.UseAuthorization();
        app.UseMiddleware<SameSiteWrites>();
        app.MapOpenApi();
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
        );
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
                    RequiredLength = 12,
                    RequireDigit = false,
                    RequireLowercase = false,
                    RequireUppercase = false,
                    RequireNonAlphanumeric = false,
                };
                identity.Lockout.MaxFailedAccessAttempts = 6;
                identity.Lockout.DefaultLockoutTimeSpan = TimeSpan.FromMinutes(5);
            })
            .AddEntityFrameworkStores<OsierwandDb>()
            .AddDefaultTokenProviders()
            .AddClaimsPrincipalFactory<PersonClaims>();
        services.ConfigureApplicationCookie(cookie =>
        {
            cookie.Cookie.Name = "osierwand";
            cookie.Cookie.HttpOnly = true;
            cookie.Cookie.SameSite = SameSiteMode.Strict;
            cookie.ExpireTimeSpan = TimeSpan.FromHours(12);
            cookie.SlidingExpiration = true;
            // An API says 401; the page decides where the sign-in is.
            cookie.Events.OnRedirectToLogin = context => Answer(context.Response, StatusCodes.Status401Unauthorized);
            cookie.Events.OnRedirectToAccessDenied = context => Answer(context.Response, StatusCodes.Status403Forbidden);
        });
        if (builder.Configuration["Keys"] is { } folder)
            services.AddDataProtection().SetApplicationName("osierwand").PersistKeysToFileSystem(new DirectoryInfo(folder));
    }

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
    }
}
