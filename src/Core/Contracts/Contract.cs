using System.Text.Json;
using Osierwand.Core.Intervals;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Contracts;

/// <summary>
/// The exchange contract: one JSON request in, one JSON answer out. The command line and <c>POST /api/v1/assess|plan|interval</c> both speak it.
/// </summary>
public static class Contract
{
    public static IReadOnlyList<string> Verbs { get; } = ["assess", "plan", "interval"];

    /// <summary>
    /// Answers one request. A request that is not understood is answered with <c>{"id", "error": {"path", "message"}}</c>, naming the first
    /// offending place in document order.
    /// </summary>
    /// <param name="verb">One of <see cref="Verbs"/>.</param>
    /// <returns>False when the request was not understood.</returns>
    public static bool Answer(string verb, JsonElement request, Utf8JsonWriter writer)
    {
        try
        {
            switch (verb)
            {
                case "assess":
                    var assessment = Assessment.Of(RequestReader.Assess(request));
                    Open(request, writer);
                    Write(assessment, writer);
                    break;
                case "plan":
                    var plan = RequestReader.Plan(request);
                    Open(request, writer);
                    Write(plan, writer);
                    break;
                case "interval":
                    var interval = IntervalRule.Of(RequestReader.Interval(request));
                    Open(request, writer);
                    Write(interval, writer);
                    break;
                default:
                    throw new ArgumentException($"There is no verb “{verb}”.", nameof(verb));
            }
        }
        catch (FaultException fault)
        {
            Open(request, writer);
            writer.WriteStartObject("error");
            writer.WriteString("path", fault.Path);
            writer.WriteString("message", fault.Message);
            writer.WriteEndObject();
            writer.WriteEndObject();
            return false;
        }
        writer.WriteEndObject();
        return true;
    }

    private static void Open(JsonElement request, Utf8JsonWriter writer)
    {
        writer.WriteStartObject();
        writer.WritePropertyName("id");
        if (request.ValueKind == JsonValueKind.Object && request.TryGetProperty("id", out var id)) id.WriteTo(writer);
        else writer.WriteNullValue();
    }

    private static void Write(Assessment it, Utf8JsonWriter writer)
    {
        writer.WriteString("verdict", Words.Of(it.Verdict));
        Lines("advice", it.Advice, writer);
        writer.WriteStartArray("results");
        foreach (var result in it.Results) Write(result, writer);
        writer.WriteEndArray();
        Steps("missing", it.Missing, writer);
        Steps("unsettled", it.Unsettled, writer);
    }

    internal static void Write(Judgement it, Utf8JsonWriter writer)
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
        writer.WriteEndObject();
    }

    private static void Write(Plan it, Utf8JsonWriter writer)
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
        switch (it.Test)
        {
            case Test.Leakage:
                writer.WriteString("kind", Words.Of(under.Kind));
                writer.WriteString("method", Words.Of(under.Method));
                writer.WriteString("polarity", Words.Of(under.Polarity));
                writer.WriteString("neutral", Words.Of(under.Neutral));
                writer.WriteString("earth", Words.Of(under.Earth));
                writer.WriteString("power", Words.Of(under.Power));
                break;
            case Test.Insulation:
                writer.WriteString("between", Words.Of(under.Between));
                writer.WriteNumber("testVoltageV", it.TestVoltage!.Value.Value);
                break;
            case Test.RcdTrip:
                writer.WriteNumber("multiple", under.Multiple);
                writer.WriteNumber("phaseDeg", under.PhaseDeg);
                break;
        }
        if (under.AppliedPart is { } part) writer.WriteString("appliedPart", part);
        if (under.Point is { } point) writer.WriteString("point", point);
        Number("limit", it.Limit?.Value?.Si, writer);
        writer.WriteString("comparator", it.Limit?.Value is null ? null : Sign(it.Limit.Comparator));
        if (it.Limit is { } limit)
        {
            writer.WriteString("derivation", WorkingText.LimitLine(limit));
            writer.WriteString("clause", limit.Clause);
        }
        if (it.Hazard is { } hazard) writer.WriteString("hazard", hazard);
        writer.WriteString("terminals", it.Terminals);
        writer.WriteNumber("seconds", it.Seconds);
        Lines("needs", it.Needs, writer);
        Lines("stops", it.Stops.Select(Words.Of), writer);
        writer.WriteEndObject();
    }

    private static void Write(Interval it, Utf8JsonWriter writer)
    {
        writer.WriteString("userCheck", it.UserCheck);
        Number("visualMonths", it.VisualMonths, writer);
        Number("combinedMonths", it.CombinedMonths, writer);
        writer.WriteString("due", Iso(it.Due));
        writer.WriteString("visualDue", Iso(it.VisualDue));
        Lines("because", it.Because, writer);
        writer.WriteString("decidedBy", Words.Of(it.DecidedBy));
    }

    private static string Iso(DateOnly date) => date.ToString("yyyy-MM-dd");

    private static void Steps(string name, IEnumerable<MissingStep> steps, Utf8JsonWriter writer)
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

    private static void Lines(string name, IEnumerable<string> lines, Utf8JsonWriter writer)
    {
        writer.WriteStartArray(name);
        foreach (var line in lines) writer.WriteStringValue(line);
        writer.WriteEndArray();
    }

    private static void Number(string name, double? value, Utf8JsonWriter writer)
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
