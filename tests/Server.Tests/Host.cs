using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Demo;
using Osierwand.Store;
using Shouldly;
using Xunit.Sdk;
using Xunit.v3;

namespace Osierwand.Server.Tests;

/// <summary>The server under test.</summary>
/// <param name="instrument">Port of a simulated instrument; 0: none.</param>
/// <param name="settings">In place of, or beside, those of the demo world.</param>
/// <param name="clock">In place of the machine's.</param>
internal sealed class Host(
    string connection,
    int instrument = 0,
    int control = 0,
    IReadOnlyDictionary<string, string>? settings = null,
    TimeProvider? clock = null
) : WebApplicationFactory<DemoServer>
{
    /// <summary>Says from which address a test's request comes.</summary>
    public const string AddressHeader = "X-Of-The-Test-Address";

    protected override void ConfigureWebHost(IWebHostBuilder builder)
    {
        builder.ConfigureServices(services =>
        {
            services.AddSingleton<IStartupFilter, Addresses>();
            if (clock is not null)
                services.AddSingleton(clock);
        });
        // As a house runs it: what developers alone would be told is told to nobody.
        builder.UseEnvironment("Production");
        // The settings are the server's; the demo has none of its own.
        builder.UseSolutionRelativeContentRoot("src/Server", "*.slnx");
        builder.UseSetting("ConnectionStrings:Osierwand", connection);
        builder.UseSetting("Demo:Enabled", "true");
        builder.UseSetting("Instruments:Lines:0:Port", instrument.ToString(CultureInfo.InvariantCulture));
        builder.UseSetting("Simulator:ControlPort", control.ToString(CultureInfo.InvariantCulture));
        builder.UseSetting("SignIn:PerMinute", "1000");
        builder.UseSetting("Heavy:PerMinute", "1000");
        foreach (var (name, value) in settings ?? new Dictionary<string, string>())
            builder.UseSetting(name, value);
        foreach (var level in new[] { "Default", "Override:Microsoft", "Override:Microsoft.EntityFrameworkCore", "Override:System" })
            builder.UseSetting($"Serilog:MinimumLevel:{level}", "Fatal");
    }

    private sealed class Addresses : IStartupFilter
    {
        public Action<IApplicationBuilder> Configure(Action<IApplicationBuilder> next) =>
            app =>
            {
                app.Use(
                    (http, go) =>
                    {
                        http.Connection.RemoteIpAddress = System.Net.IPAddress.Parse(
                            http.Request.Headers[AddressHeader].FirstOrDefault() ?? "127.0.0.1"
                        );
                        return go(http);
                    }
                );
                next(app);
            };
    }

    /// <summary>Started, and its database answers.</summary>
    public async Task ReadyAsync() => (await CreateClient().GetAsync(new Uri("/health/ready", UriKind.Relative))).EnsureSuccessStatusCode();

    public async Task<HttpClient> SignedIn(string who = "ida")
    {
        var client = CreateClient();
        (await client.PostAsync(new Uri($"/api/v1/people/demo-sign-in?userName={who}", UriKind.Relative), null)).EnsureSuccessStatusCode();
        return client;
    }
}

internal static class Http
{
    /// <summary>Words as the server writes them.</summary>
    public static JsonSerializerOptions Json { get; } =
        new(JsonSerializerDefaults.Web) { Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) } };

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>Of a paper that is made in the background: its card once it is made, has failed or was called off.</summary>
    public static async Task<JsonElement> PaperMade(this HttpClient client, Guid paper)
    {
        for (var tries = 0; tries < 300; tries++)
        {
            var card = await client.Get($"/api/v1/papers/kept/{paper}");
            if (card.Text("state") is not ("waiting" or "making"))
                return card;
            await Task.Delay(100, TestContext.Current.CancellationToken);
        }
        throw new TimeoutException("The paper was not made in half a minute.");
    }

    public static async Task<JsonElement> Get(this HttpClient client, string path) =>
        await client.GetFromJsonAsync<JsonElement>(new Uri(path, UriKind.Relative), Cancel);

    public static async Task<(int Status, JsonElement Body)> Post(this HttpClient client, string path, object body)
    {
        using var answer = await client.PostAsJsonAsync(new Uri(path, UriKind.Relative), body, Cancel);
        return await Read(answer);
    }

    public static async Task<(int Status, JsonElement Body)> Put(this HttpClient client, string path, object body)
    {
        using var answer = await client.PutAsJsonAsync(new Uri(path, UriKind.Relative), body, Cancel);
        return await Read(answer);
    }

    private static async Task<(int Status, JsonElement Body)> Read(HttpResponseMessage answer)
    {
        var text = await answer.Content.ReadAsStringAsync(Cancel);
        return ((int)answer.StatusCode, text.Length == 0 ? default : JsonDocument.Parse(text).RootElement.Clone());
    }

    public static string Text(this JsonElement it, string name) => it.GetProperty(name).GetString().ShouldNotBeNull();
}

/// <summary>A kettle registered for one test, and what a bench would send for it.</summary>
internal sealed record Kettle(HttpClient Client, Guid Item, Guid Round, string Tag)
{
    public static async Task<Kettle> Register(
        HttpClient client,
        bool hardWired = false,
        string name = "Test kettle",
        string place = "kitchen"
    )
    {
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var tag = $"T-{Guid.NewGuid():N}"[..12];
        var (status, made) = await client.Post("/api/v1/register", New(round, tag, hardWired, name, place));
        status.ShouldBe(201);
        return new(client, made.GetProperty("itemId").GetGuid(), round, tag);
    }

    public static object New(Guid round, string tag, bool hardWired = false, string name = "Test kettle", string place = "kitchen") =>
        new
        {
            roundId = round,
            tag,
            name,
            kind = "appliance",
            evidence = "earthSymbolOrPinMetalReachable",
            use = "portable",
            place,
            room = "Counter",
            maker = (string?)null,
            model = (string?)null,
            serial = (string?)null,
            ratedVoltageV = 230,
            ratedPowerW = 2200,
            ratedCurrentA = (double?)null,
            heating = true,
            surgeProtected = false,
            allInsulated = false,
            hardWired,
            flexLengthM = 1.5,
            flexMm2 = 1.0,
            plugFuseA = 13,
            plug = "rewirable",
            outlets = 1,
            rcdMa = (double?)null,
            usage = "normal",
            moved = "sometimes",
            users = "trained",
        };

    public async Task<Ruling> Lay()
    {
        var text = await Client.GetStringAsync(
            new Uri($"/api/v1/bench/{Item}?round={Round}", UriKind.Relative),
            TestContext.Current.CancellationToken
        );
        return BenchJson.ReadRuling(text).Value;
    }

    public static BenchEvent Typed(string step, string text) =>
        new ReadingTaken
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Step = step,
            Source = ReadingSource.Typed,
            Text = text,
        };

    public static BenchEvent Answer(string step, bool ok) =>
        new ReadingTaken
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Step = step,
            Source = ReadingSource.Typed,
            Ok = ok,
            Note = ok ? null : "broken",
        };

    public static BenchEvent Mended() =>
        new RepairTold
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Found = "loose core",
            Done = "rewired",
            RepairedBy = "Ida",
        };

    /// <summary>A good look, then whatever follows.</summary>
    public static async Task<List<BenchEvent>> Looked(Kettle kettle, params BenchEvent[] more)
    {
        var laid = BenchState.Of(await kettle.Lay(), []);
        var points = laid
            .Sheet.Steps.OfType<SheetStep.Look>()
            .First()
            .Points.Select(point => new LookFinding(point.Id, LookAnswer.Good, null));
        return
        [
            new Looked
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Points = [.. points],
            },
            // Where nobody has measured an outlet yet: at a site that a test made for itself.
            .. laid.Outlet is { InUse: null, Supply: var supply } ? (BenchEvent[])[Outlet(supply)] : [],
            .. more,
        ];
    }

    private static OutletChecked Outlet(OutletSupply supply) =>
        new()
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Name = "bench, left",
            Room = "Workshop",
            IsWorkbench = true,
            Voltages = [.. supply.Pairs.Select(pair => new OutletVoltage(pair, supply.Expected(pair)))],
        };

    public Task<List<BenchEvent>> GoodWork() =>
        Looked(this, Typed("earthContinuity", "0.05"), Typed("insulation", ">500M"), Answer("functional", true));

    /// <summary>Saves as a bench does: ruling and state as its own engine computed them.</summary>
    public async Task<(int Status, JsonElement Body)> Save(
        IReadOnlyList<BenchEvent> events,
        EndKind end = EndKind.Pass,
        Guid? id = null,
        NotTestedReason? notTested = null,
        Ruling? ruling = null,
        string? state = null
    )
    {
        ruling ??= await Lay();
        var shown = state ?? BenchState.Of(ruling, events).Fingerprint;
        return await Client.Post(
            $"/api/v1/bench/{Item}/inspections",
            new
            {
                id = id ?? Guid.NewGuid(),
                roundId = Round,
                ruling = ruling.Fingerprint,
                state = shown,
                events = JsonDocument.Parse(BenchJson.Write(events)).RootElement,
                end = Words.Of(end),
                notTested = notTested is { } reason ? Words.Of(reason) : null,
            }
        );
    }

    public Task<JsonElement> Page() => Client.Get($"/api/v1/register/{Item}");
}
