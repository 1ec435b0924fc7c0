using System.Collections.Frozen;
using System.Globalization;
using System.Text.Json;
using BenchmarkDotNet.Attributes;
using BenchmarkDotNet.Configs;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>Every place of Core that is written for speed, beside the plain form it stands for. What gains nothing goes.</summary>
[MemoryDiagnoser]
[GroupBenchmarksBy(BenchmarkLogicalGroupRule.ByCategory)]
[CategoriesColumn]
public class PlainForms
{
    private const string Request =
        """{"standard":"uk-cop-5","item":{"kind":"appliance","class":"I","use":"portable","heating":true,"ratedPowerW":2200,"plugFuseA":13,"cord":{"lengthM":2,"conductorMm2":1.25}},"visual":"pass","readings":[{"test":"earthContinuity","value":0.12,"unit":"ohm","nullOhm":0.03},{"test":"insulation","value":500,"unit":"Mohm","qualifier":">","testVoltageV":500}]}""";

    private readonly double[] figures = [0.1312, 13.04, 0.00042, 230, 1.09, 87.5, 4200, 0.05];

    private readonly JsonElement request = JsonDocument.Parse(Request).RootElement;
    private readonly SetOf<LeakageKind> bits = SetOf<LeakageKind>.Of(LeakageKind.Touch, LeakageKind.Patient);
    private readonly FrozenSet<LeakageKind> set = new[] { LeakageKind.Touch, LeakageKind.Patient }.ToFrozenSet();

    [Benchmark(Baseline = true), BenchmarkCategory("figures to text")]
    public int FiguresPlain()
    {
        var length = 0;
        foreach (var figure in figures)
        {
            var digits = Math.Clamp(2 - (int)Math.Floor(Math.Log10(Math.Abs(figure))), 0, 12);
            length += Math.Round(figure, digits).ToString("0.############", CultureInfo.InvariantCulture).Length;
        }
        return length;
    }

    [Benchmark, BenchmarkCategory("figures to text")]
    public int FiguresByWholeNumbers()
    {
        var length = 0;
        foreach (var figure in figures)
            length += QuantityText.Number(figure).Length;
        return length;
    }

    [Benchmark(Baseline = true), BenchmarkCategory("property names")]
    public int NamesPlain() => Count(request, property => property.Name);

    [Benchmark, BenchmarkCategory("property names")]
    public int NamesKept() => Count(request, KnownText.Of);

    private static int Count(JsonElement element, Func<JsonProperty, string> name)
    {
        var length = 0;
        if (element.ValueKind == JsonValueKind.Object)
            foreach (var property in element.EnumerateObject())
                length += name(property).Length + Count(property.Value, name);
        else if (element.ValueKind == JsonValueKind.Array)
            foreach (var entry in element.EnumerateArray())
                length += Count(entry, name);
        return length;
    }

    [Benchmark(Baseline = true), BenchmarkCategory("a name that stands twice")]
    public int TwicePlain()
    {
        var count = 0;
        foreach (var reading in request.GetProperty("readings").EnumerateArray())
        {
            var seen = new HashSet<string>(StringComparer.Ordinal);
            foreach (var property in reading.EnumerateObject())
                count += seen.Add(property.Name) ? 1 : 0;
        }
        return count;
    }

    [Benchmark, BenchmarkCategory("a name that stands twice")]
    public int TwiceByMarks()
    {
        var count = 0;
        foreach (var reading in request.GetProperty("readings").EnumerateArray())
            JsonWalk.Properties(reading, (_, _) => count++);
        return count;
    }

    [Benchmark(Baseline = true), BenchmarkCategory("words of a list")]
    public int WordsPlain()
    {
        var found = 0;
        foreach (var kind in kinds)
            found += (int)Enum.Parse<LeakageKind>(kind, ignoreCase: true);
        return found;
    }

    [Benchmark, BenchmarkCategory("words of a list")]
    public int WordsFromATable()
    {
        var found = 0;
        foreach (var kind in kinds)
            found += (int)Words.Find<LeakageKind>(kind)!.Value;
        return found;
    }

    private readonly string[] kinds = ["protectiveConductor", "touch", "equipment", "appliedPart"];

    [Benchmark(Baseline = true), BenchmarkCategory("matching a row")]
    public int MatchingPlain()
    {
        var hits = 0;
        foreach (var kind in Enum.GetValues<LeakageKind>())
            hits += set.Contains(kind) ? 1 : 0;
        return hits;
    }

    [Benchmark, BenchmarkCategory("matching a row")]
    public int MatchingByBits()
    {
        var hits = 0;
        foreach (var kind in Enum.GetValues<LeakageKind>())
            hits += bits.Has(kind) ? 1 : 0;
        return hits;
    }
}
