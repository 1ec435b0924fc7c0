using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Instruments;

namespace Osierwand.Simulator;

/// <summary>Gives orders on a simulator's control channel: what a technician's hands do at a real bench.</summary>
public sealed class SimulatedHands : IDisposable
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase) },
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    private readonly TcpClient client;
    private readonly StreamReader reader;
    private readonly StreamWriter writer;

    private SimulatedHands(TcpClient client)
    {
        this.client = client;
        reader = new(client.GetStream(), new UTF8Encoding(false));
        writer = new(client.GetStream(), new UTF8Encoding(false)) { AutoFlush = true, NewLine = "\n" };
    }

    /// <exception cref="InstrumentException">No simulator listens there.</exception>
    public static async Task<SimulatedHands> ConnectAsync(string host, int port, CancellationToken cancel)
    {
        var client = new TcpClient { NoDelay = true };
        try
        {
            await client.ConnectAsync(host, port, cancel);
            return new(client);
        }
        catch (SocketException failure)
        {
            client.Dispose();
            throw new InstrumentException(LineTrouble.Unreachable, "The simulated bench does not answer.", failure);
        }
    }

    /// <summary>Plugs an item in.</summary>
    /// <exception cref="InstrumentException">The order was refused, or the channel broke.</exception>
    public Task PlaceAsync(string tag, Item item, DateOnly made, DateOnly day, Fault fault, CancellationToken cancel, int bench = 1) =>
        OrderAsync(
            new(
                "place",
                bench,
                tag,
                JsonDocument.Parse(ItemJson.Write(item)).RootElement,
                made.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture),
                fault
            ),
            cancel
        );

    /// <inheritdoc cref="PlaceAsync"/>
    public async Task<ControlAnswer> OrderAsync(ControlOrder order, CancellationToken cancel)
    {
        try
        {
            await writer.WriteLineAsync(JsonSerializer.Serialize(order, Json).AsMemory(), cancel);
            var line = await reader.ReadLineAsync(cancel) ?? throw new IOException("The channel was closed.");
            var answer = JsonSerializer.Deserialize<ControlAnswer>(line, Json)!;
            return answer.Ok ? answer : throw new InstrumentException(LineTrouble.Refused, $"The simulated bench refused: {answer.Why}");
        }
        catch (IOException failure)
        {
            throw new InstrumentException(LineTrouble.Lost, "The connection to the simulated bench was lost.", failure);
        }
    }

    public void Dispose()
    {
        reader.Dispose();
        client.Dispose();
    }
}
