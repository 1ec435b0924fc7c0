using Osierwand.Server.Bench;
using Osierwand.Server.Evidence;
using Osierwand.Server.Exchange;
using Osierwand.Server.Hire;
using Osierwand.Server.Hosting;
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

var builder = WebApplication.CreateBuilder(args);
if (args is [Preparation.Verb])
{
    await Preparation.PrepareAsync(builder.Configuration);
    return;
}
builder.Host.UseSerilog((context, log) => Logs.Configure(context.Configuration, log));
builder.AddOsierwand();

var app = builder.Build();
app.UseOsierwand();

var api = app.MapGroup("/api/v1");
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
app.MapHub<BenchHub>("/hubs/bench").For(Access.Worker);
app.MapWeb();
AccessRules.EveryEndpointSays(app);

if (!BuildTime.IsDescribing)
    await Preparation.RunAsync(app);
await app.RunAsync();

/// <summary>The server; public so that tests can host it.</summary>
public partial class Program;
