using System.Text.Json;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Contracts;

/// <summary>Writes what Core computed in the contract's words.</summary>
internal static class AnswerJson
{
    public static void Write(Assessment it, Utf8JsonWriter writer)
    {
        writer.WriteString("verdict", Words.Of(it.Verdict));
        Lines("advice", it.Advice, writer);
        writer.WriteStartArray("results");
        for (var at = 0; at < it.Results.Length; at++) Write(it.Results[at], writer, it.IsWorst(at));
        writer.WriteEndArray();
        Steps("missing", it.Missing, writer);
        Steps("unsettled", it.Unsettled, writer);
    }

    /// <param name="worst">It stands for several readings of the same test.</param>
    public static void Write(Judgement it, Utf8JsonWriter writer, bool worst = false)
    {
        writer.WriteStartObject();
        writer.WriteString("test", Words.Of(it.Reading.Test));
        writer.WriteString("status", Words.Of(it.Status));
        Number("judgedValue", it.Value?.Si, writer);
        writer.WriteString("unit", (it.Value ?? it.Limit?.Value) is { } quantity ? Unit.Si(quantity.Dimension).Symbol : null);
        Number("limit", it.Limit?.Value?.Si, writer);
        writer.WriteString("comparator", it.Limit?.Value is null ? null : Sign(it.Limit.Comparator));
        Number("use", it.Use, writer);
        writer.WriteBoolean("nearLimit", it.NearLimit);
        writer.WriteString("clause", it.Limit?.Clause);
        Lines("working", it.Working, writer);
        if (worst) writer.WriteBoolean("worst", true);
        if (it.Overridden is { } own && it.Reading.Override is { } by)
        {
            writer.WriteStartObject("overridden");
            writer.WriteString("from", Words.Of(own));
            writer.WriteString("by", by.By);
            writer.WriteString("reason", by.Reason);
            writer.WriteEndObject();
        }
        writer.WriteEndObject();
    }

    public static void Write(Plan it, Utf8JsonWriter writer)
    {
        writer.WriteStartArray("steps");
        foreach (var step in it.Steps) Write(step, writer);
        writer.WriteEndArray();
        Lines("remarks", it.Remarks, writer);
    }

    private static void Write(PlanStep it, Utf8JsonWriter writer)
    {
        var under = it.Under;
        writer.WriteStartObject();
        writer.WriteString("test", Words.Of(it.Test));
        writer.WriteString("key", it.Key);
        ConditionsJson.Write(it.Test, under, writer);
        if (it.TestVoltage is { } volts) writer.WriteNumber("testVoltageV", volts.Value);
        Number("limit", it.Limit?.Value?.Si, writer);
        writer.WriteString("comparator", it.Limit?.Value is null ? null : Sign(it.Limit.Comparator));
        if (it.Limit is { } limit)
        {
            writer.WriteString("derivation", WorkingText.LimitLine(limit));
            writer.WriteString("clause", limit.Clause);
        }
        if (it.Hazard is { } hazard) writer.WriteString("hazard", hazard);
        if (it.Set is { } set) Number(set.Dimension == Dimension.Energy ? "setJ" : "setMv", set.Dimension == Dimension.Energy ? set.Si : set.Si * 1000, writer);
        if (it.NotMeasured is { } lacking) writer.WriteString("notMeasured", lacking);
        if (it.Unsuitable is { } trouble) writer.WriteString("unsuitable", trouble);
        writer.WriteString("terminals", it.Terminals);
        if (it.Source.Length > 0) writer.WriteString("source", it.Source);
        writer.WriteNumber("seconds", it.Seconds);
        Lines("needs", it.Needs, writer);
        Lines("stops", it.Stops.Select(Words.Of), writer);
        writer.WriteEndObject();
    }

    public static void Write(Interval it, Utf8JsonWriter writer)
    {
        writer.WriteString("userCheck", it.UserCheck);
        Number("visualMonths", it.VisualMonths, writer);
        Number("combinedMonths", it.CombinedMonths, writer);
        if (it.PerformanceMonths is { } performance) writer.WriteNumber("performanceMonths", performance);
        writer.WriteString("due", Iso(it.Due));
        writer.WriteString("visualDue", Iso(it.VisualDue));
        Lines("because", it.Because, writer);
        writer.WriteString("decidedBy", Words.Of(it.DecidedBy));
    }

    private static string Iso(DateOnly date) => date.ToString("yyyy-MM-dd");

    public static void Steps(string name, IEnumerable<MissingStep> steps, Utf8JsonWriter writer)
    {
        writer.WriteStartArray(name);
        foreach (var step in steps)
        {
            writer.WriteStartObject();
            writer.WriteString("test", Words.Of(step.Test));
            if (step.Kind is { } kind) writer.WriteString("kind", Words.Of(kind));
            writer.WriteString("detail", step.Detail);
            writer.WriteEndObject();
        }
        writer.WriteEndArray();
    }

    public static void Lines(string name, IEnumerable<string> lines, Utf8JsonWriter writer)
    {
        writer.WriteStartArray(name);
        foreach (var line in lines) writer.WriteStringValue(line);
        writer.WriteEndArray();
    }

    public static void Number(string name, double? value, Utf8JsonWriter writer)
    {
        if (value is { } it && double.IsFinite(it)) writer.WriteNumber(name, it);
        else writer.WriteNull(name);
    }

    /// <summary>The comparator as the contract and packs write it.</summary>
    public static string Sign(Comparator comparator) => comparator switch
    {
        Comparator.NotLessThan => ">=",
        Comparator.Below => "<",
        Comparator.Within => "within",
        _ => "<=",
    };
}
