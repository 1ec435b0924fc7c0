using Osierwand.Server.Bench;
using Osierwand.Server.Hosting;

namespace Osierwand.Demo;

/// <summary>
/// The server with what stands in for a world: invented people and data where <c>Demo:Enabled</c> asks for them, and the hands at a
/// simulated instrument where <c>Simulator:ControlPort</c> names one. A house with real instruments runs the server alone.
/// </summary>
public sealed class DemoServer
{
    private DemoServer() { }

    public static Task Main(string[] args) =>
        OsierwandServer.RunAsync(
            args,
            builder =>
            {
                builder.Services.Configure<SimulatorOptions>(builder.Configuration.GetSection("Simulator"));
                builder.Services.AddSingleton<IDemoWorld, DemoWorld>();
                builder.Services.AddSingleton<IBenchHands, SimulatedBenches>();
            }
        );
}
