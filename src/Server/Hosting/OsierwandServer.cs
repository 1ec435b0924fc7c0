using Osierwand.Server.Bench;
using Osierwand.Server.Evidence;
using Osierwand.Server.Exchange;
using Osierwand.Server.Hire;
using Osierwand.Server.Kit;
using Osierwand.Server.Looking;
using Osierwand.Server.Papers;
using Osierwand.Server.People;
using Osierwand.Server.Procedures;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Register;
using Osierwand.Server.Review;
using Osierwand.Server.Rounds;
using Osierwand.Server.Schedule;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Server.UserChecks;
using Serilog;

namespace Osierwand.Server.Hosting;

/// <summary>The server as a program: prepares a database, or serves. Also started by the demo, which brings what it adds.</summary>
public static class OsierwandServer
{
    /// <param name="args">"prepare" makes the database, with the demo's data where that is asked for, and ends; anything else is
    /// configuration.</param>
    /// <param name="add">What another program adds to the server: services and their settings.</param>
    public static async Task RunAsync(string[] args, Action<WebApplicationBuilder>? add = null)
    {
        var builder = WebApplication.CreateBuilder(args);
        var isPreparing = args is [Preparation.Verb];
        if (isPreparing)
            await Preparation.PrepareAsync(builder.Configuration);
        builder.Host.UseSerilog((context, log) => Logs.Configure(context.Configuration, log));
        builder.AddOsierwand();
        add?.Invoke(builder);

        var app = builder.Build();
        app.UseOsierwand();
        MapApi(app.MapGroup("/api/v1"));
        app.MapHub<BenchHub>("/hubs/bench").For(Access.Worker);
        app.MapWeb();
        AccessRules.EveryEndpointSays(app);

        if (!BuildTime.IsDescribing)
            await Preparation.RunAsync(app);
        if (isPreparing)
            return;
        // Whoever started it on any free port reads here which one that is; while it describes itself it listens on none.
        if (!BuildTime.IsDescribing)
            app.Lifetime.ApplicationStarted.Register(() => Console.Out.WriteLine($"Listening on {string.Join(' ', app.Urls)}"));
        await app.RunAsync();
    }

    private static void MapApi(RouteGroupBuilder api)
    {
        api.MapSignIn();
        api.MapOwnAccount();
        api.MapPasskeys();
        api.MapAccounts();
        api.MapCompetences();
        api.MapRounds();
        api.MapReview();
        api.MapRegister();
        api.MapBench();
        api.MapKit();
        api.MapLook();
        api.MapUserChecks();
        api.MapProcedures();
        api.MapQuarantine();
        api.MapHire();
        api.MapVerdictCodes();
        api.MapRegisterPapers();
        api.MapItemAnswers();
        api.MapSchedule();
        api.MapEvidence();
        api.MapCalendars();
        api.MapLabels();
        api.MapLabelQueue();
        api.MapItemPapers();
        api.MapQuarantineNotices();
        api.MapRoundPapers();
        api.MapKeptPapers();
        api.MapContract();
        api.MapStandards();
        api.MapTrust();
    }
}
