using System.Collections.Concurrent;
using System.Globalization;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Osierwand.Core.Forms;
using Osierwand.Core.Planning;
using Osierwand.Instruments.Line;

namespace Osierwand.Simulator;

/// <summary>One order on the control channel; what it leaves out stays as it is.</summary>
/// <param name="Do">place, clear, fault, mend, hands, mains, instrument, line, pace, look.</param>
/// <param name="Bench">Counted from 1.</param>
/// <param name="Item">With place: the item in the words of the exchange contract.</param>
/// <param name="Made">With place: when it was new, as 2024-05-31.</param>
/// <param name="Day">With place: whose wear it shows.</param>
/// <param name="Fault">With fault: what is wrong from now on with whatever carries this tag; with place: today's fault.</param>
public sealed record ControlOrder(
    string Do,
    int Bench = 1,
    string? Tag = null,
    JsonElement? Item = null,
    string? Made = null,
    string? Day = null,
    Fault? Fault = null,
    int? Outlet = null,
    bool? Switch = null,
    bool? Clip = null,
    double? ClipOhm = null,
    bool? MovesFlex = null,
    bool? ResetsRcd = null,
    ProbeOn? ProbeOn = null,
    bool? PressesButton = null,
    double? MainsShare = null,
    double? EarthVolts = null,
    double? StandingAmperes = null,
    bool? Isolated = null,
    double? LeadOhm = null,
    double? PostOhm = null,
    double? Gain = null,
    string? Illness = null,
    LineState? Line = null,
    double? Pace = null
);

/// <summary>What the control channel answers.</summary>
/// <param name="Why">What was wrong with the order; then nothing was done.</param>
/// <param name="LiveVolts">With look: what stands on the item now.</param>
/// <param name="Opened">With a press of an RCD's button: whether it opened.</param>
public sealed record ControlAnswer(
    bool Ok,
    string? Why = null,
    string? Tag = null,
    double? LiveVolts = null,
    bool? IsOn = null,
    bool? Opened = null
);

/// <summary>
/// The hands and the world around simulated benches: which item is plugged in, what is wrong with it, where the clip sits, what the mains
/// and the cable do. <b>No real tester has such a channel</b>, and nothing that measures uses it; one JSON object a line, one answer each.
/// </summary>
public sealed class ControlChannel(IReadOnlyList<SimulatedBench> benches)
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
        UnmappedMemberHandling = JsonUnmappedMemberHandling.Disallow,
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
    };

    /// <summary>What was done to items by their tags: it stays with them, wherever they are plugged in.</summary>
    private readonly ConcurrentDictionary<string, FaultAt[]> lasting = new();

    /// <summary>More items than a long day sees; beyond them the first ones are cold again.</summary>
    private const int MostKnown = 1000;

    /// <summary>Items that were on a bench keep their warmth and their switch.</summary>
    private readonly ConcurrentDictionary<string, PluggedIn> known = new();

    public async Task ServeAsync(TcpClient client, CancellationToken stop)
    {
        using var _ = client;
        using var reader = new StreamReader(client.GetStream(), new UTF8Encoding(false));
        await using var writer = new StreamWriter(client.GetStream(), new UTF8Encoding(false)) { AutoFlush = true, NewLine = "\n" };
        try
        {
            while (await reader.ReadLineAsync(stop) is { } line)
                await writer.WriteLineAsync(JsonSerializer.Serialize(Answer(line), Json));
        }
        catch (Exception ended) when (ended is IOException or OperationCanceledException or ObjectDisposedException) { }
    }

    /// <summary>Does what one line orders.</summary>
    public ControlAnswer Answer(string line)
    {
        try
        {
            return JsonSerializer.Deserialize<ControlOrder>(line, Json) is { } order ? Done(order) : new(false, "an order is an object");
        }
        catch (JsonException garbled)
        {
            return new(false, garbled.Message);
        }
    }

    private ControlAnswer Done(ControlOrder order)
    {
        if (order.Bench < 1 || order.Bench > benches.Count)
            return new(false, $"there are {benches.Count} benches");
        var bench = benches[order.Bench - 1];
        switch (order.Do)
        {
            case "place":
                return Place(bench, order);
            case "clear":
                bench.Item = null;
                break;
            case "fault" when order is { Tag: { } tag, Fault: { } fault }:
                lasting.AddOrUpdate(tag, [new(fault, order.Outlet ?? 1)], (_, had) => [.. had, new(fault, order.Outlet ?? 1)]);
                known.TryRemove(tag, out _);
                break;
            case "mend" when order.Tag is { } tag:
                lasting.TryRemove(tag, out _);
                known.TryRemove(tag, out _);
                break;
            case "hands":
                bench.Hands = bench.Hands with
                {
                    IsClipOn = order.Clip ?? bench.Hands.IsClipOn,
                    ClipOhm = order.ClipOhm ?? bench.Hands.ClipOhm,
                    MovesFlex = order.MovesFlex ?? bench.Hands.MovesFlex,
                    ProbeOn = order.ProbeOn ?? bench.Hands.ProbeOn,
                };
                if (bench.Item is { } item)
                {
                    item.IsOn = order.Switch ?? item.IsOn;
                    item.IsRcdClosed |= order.ResetsRcd == true;
                    if (order.PressesButton == true)
                        return new(true, Opened: Measuring.PressButton(item, bench.Mains));
                }
                break;
            case "mains":
                bench.Mains = bench.Mains with
                {
                    Share = order.MainsShare ?? bench.Mains.Share,
                    EarthVolts = order.EarthVolts ?? bench.Mains.EarthVolts,
                    StandingAmperes = order.StandingAmperes ?? bench.Mains.StandingAmperes,
                    IsIsolated = order.Isolated ?? bench.Mains.IsIsolated,
                };
                break;
            case "instrument":
                bench.Truth = bench.Truth with
                {
                    LeadOhm = order.LeadOhm ?? bench.Truth.LeadOhm,
                    PostOhm = order.PostOhm ?? bench.Truth.PostOhm,
                    Gain = order.Gain ?? bench.Truth.Gain,
                    Illness = order.Illness is "" ? null : order.Illness ?? bench.Truth.Illness,
                };
                break;
            case "pace":
                // Without a figure it runs as all of them do again.
                bench.Pace = order.Pace is > 0 and <= 100 ? order.Pace : null;
                break;
            case "line" when order.Line is { } state:
                bench.Line = state;
                break;
            case "look":
                return new(true, null, bench.Item?.Tag, bench.Item?.LiveVolts, bench.Item?.IsOn);
            default:
                return new(false, $"there is no such order, or something of it is missing: {order.Do}");
        }
        return new(true);
    }

    private ControlAnswer Place(SimulatedBench bench, ControlOrder order)
    {
        if (order is not { Tag: { } tag, Item: { } described } || Day(order.Made) is not { } made || Day(order.Day) is not { } day)
            return new(false, "place wants tag, item, made and day");
        var read = ItemJson.Read(described.GetRawText());
        if (read.Fault is { } fault)
            return new(false, $"{fault.Path}: {fault.Message}");
        var build = ItemMaking.Of(read.Value, tag, made, day).With(order.Fault ?? Fault.None).With(lasting.GetValueOrDefault(tag, []));
        if (known.Count >= MostKnown)
            known.Clear();
        var item = known.GetOrAdd(tag, _ => new(tag, build));
        // The plate may have been corrected meanwhile.
        item.Build = build;
        bench.Item = item;
        return new(true, null, tag);
    }

    private static DateOnly? Day(string? text) =>
        DateOnly.TryParseExact(text, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}
