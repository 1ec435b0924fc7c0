using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Bench;

/// <summary>Rulings, events and views as JSON.</summary>
public static class BenchJson
{
    /// <summary>Earlier inspections with their readings, in the contract's words.</summary>
    public static string Write(ImmutableArray<PastInspection> past) =>
        JsonSerializer.Serialize(past, JsonRules.Bench.Of<ImmutableArray<PastInspection>>());

    /// <returns>What <see cref="Write(ImmutableArray{PastInspection})"/> wrote. What this version cannot read gives a fault, never a
    /// guess.</returns>
    public static Result<ImmutableArray<PastInspection>> ReadPast(string json)
    {
        try
        {
            return JsonSerializer.Deserialize(json, JsonRules.Bench.Of<ImmutableArray<PastInspection>>());
        }
        catch (JsonException broken)
        {
            return new Fault(broken.Path ?? "", broken.Message);
        }
    }

    public static string Write(BenchEvent it) => JsonSerializer.Serialize(it, JsonRules.Bench.Of<BenchEvent>());

    internal static byte[] Bytes(Ruling ruling) => JsonSerializer.SerializeToUtf8Bytes(ruling, JsonRules.Bench.Of<Ruling>());

    internal static byte[] Bytes(ImmutableArray<HouseRuling> house) =>
        JsonSerializer.SerializeToUtf8Bytes(house, JsonRules.Bench.Of<ImmutableArray<HouseRuling>>());

    internal static byte[] Bytes(BenchState.Digest digest) =>
        JsonSerializer.SerializeToUtf8Bytes(digest, JsonRules.Bench.Of<BenchState.Digest>());

    public static string Write(Ruling ruling) => JsonSerializer.Serialize(ruling, JsonRules.Bench.Of<Ruling>());

    public static string Write(IReadOnlyList<BenchEvent> events) =>
        JsonSerializer.Serialize([.. events], JsonRules.Bench.Of<List<BenchEvent>>());

    public static string Write(BenchView view) => JsonSerializer.Serialize(view, JsonRules.Bench.Of<BenchView>());

    /// <returns>The ruling, or what is wrong with the text.</returns>
    public static Result<Ruling> ReadRuling(string json) =>
        Understood(() => JsonSerializer.Deserialize(json, JsonRules.Bench.Of<Ruling>()));

    /// <returns>The events, or what is wrong with the text. Unknown kinds and properties are refused, and so is a null in a list.</returns>
    public static Result<List<BenchEvent>> ReadEvents(string json)
    {
        var read = Understood(() => JsonSerializer.Deserialize(json, JsonRules.Bench.Of<List<BenchEvent>>()));
        if (read.Fault is not null)
            return read;
        var at = read.Value.FindIndex(HasNull);
        return at < 0 ? read : new Fault($"$[{at}]", "holds a null where a value belongs");
    }

    private static bool HasNull(BenchEvent? it) =>
        it switch
        {
            null => true,
            Looked look => look.Points.Contains(null!),
            OutletChecked outlet => outlet.Voltages.Contains(null!),
            CircuitSummed circuit => circuit.Items.Contains(null!),
            FactsChanged { Changes: var facts } => (facts.EarthedParts ?? []).Contains(null!)
                || (facts.UnearthedParts ?? []).Contains(null!)
                || (facts.PartPlates ?? []).Contains(null!)
                || (facts.AppliedParts ?? []).Contains(null!)
                || (facts.Accessories ?? []).Contains(null!)
                || facts.Defibrillator is { SettingsJ: null }
                || facts.MakerAsks is { Limits: null }
                || facts.MakerAsks is { Checks: null }
                || (facts.MakerAsks?.Limits ?? []).Contains(null!)
                || (facts.MakerAsks?.Checks ?? []).Contains(null!),
            ReadingTaken { Waveform: { } wave } => wave.Values is null || wave.Of is null || wave.Unit is null || wave.EveryUnit is null,
            _ => false,
        };

    private static Result<T> Understood<T>(Func<T?> read)
        where T : class
    {
        try
        {
            return read() is { } value ? value : new Fault("", "is null");
        }
        catch (JsonException broken)
        {
            return new Fault(broken.Path ?? "", broken.Message);
        }
        catch (NotSupportedException unknown)
        {
            return new Fault("", unknown.Message);
        }
    }
}
