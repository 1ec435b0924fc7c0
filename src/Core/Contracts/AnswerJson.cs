using System.Text.Encodings.Web;
using System.Text.Json;
using Osierwand.Core.Forms;
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
        for (var at = 0; at < it.Results.Length; at++)
            Write(it.Results[at], writer, it.IsWorst(at));
        writer.WriteEndArray();
        Steps("missing", it.Missing, writer);
        Steps("unsettled", it.Unsettled, writer);
    }

    /// <param name="worst">It stands for several readings of the same test.</param>
    public static void Write(Judgement it, Utf8JsonWriter writer, bool worst = false)
    {
        var limit = it.Limit?.Value;
        writer.WriteStartObject();
        writer.WriteString(Name.Test, Encoded<Test>.Words[(int)it.Reading.Test]);
        writer.WriteString(Name.Status, Encoded<Status>.Words[(int)it.Status]);
        Number(Name.JudgedValue, it.Value?.Si, writer);
        if ((it.Value ?? limit) is { } quantity)
            writer.WriteString(Name.Unit, SiSymbols[(int)quantity.Dimension]);
        else
            writer.WriteNull(Name.Unit);
        Number(Name.Limit, limit?.Si, writer);
        if (limit is null)
            writer.WriteNull(Name.Comparator);
        else
            writer.WriteString(Name.Comparator, Signs[(int)it.Limit!.Comparator]);
        Number(Name.Use, it.Use, writer);
        writer.WriteBoolean(Name.NearLimit, it.NearLimit);
        writer.WritePropertyName(Name.Clause);
        if (it.Limit is { } resolved)
            writer.WriteStringValue(resolved.Clause);
        else
            writer.WriteNullValue();
        writer.WriteStartArray(Name.Working);
        var working = it.Working;
        for (var at = 0; at < working.Count; at++)
            writer.WriteStringValue(working[at]);
        writer.WriteEndArray();
        if (it.Doubt is { } doubt)
            writer.WriteString("expected", doubt.Expected);
        if (worst)
            writer.WriteBoolean("worst", true);
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
        foreach (var step in it.Steps)
            Write(step, writer);
        writer.WriteEndArray();
        Lines("remarks", it.Remarks, writer);
    }

    private static void Write(PlanStep it, Utf8JsonWriter writer)
    {
        writer.WriteStartObject();
        writer.WriteString("test", Words.Of(it.Test));
        writer.WriteString("key", it.Key);
        ConditionsJson.Write(it.Under, writer);
        var measured = it as PlanStep.Measure;
        Number("limit", measured?.Limit?.Value?.Si, writer);
        writer.WriteString("comparator", measured?.Limit is { Value: not null } compared ? Sign(compared.Comparator) : null);
        if (measured?.Limit is { } limit)
        {
            writer.WriteString("derivation", Standards.LimitText.LimitLine(limit));
            writer.WriteString("clause", limit.Clause);
        }
        if (measured?.Hazard is { } hazard)
            writer.WriteString("hazard", hazard);
        if (measured?.NotMeasured is { } lacking)
            writer.WriteString("notMeasured", lacking);
        if (measured?.Unsuitable is { } trouble)
            writer.WriteString("unsuitable", trouble);
        writer.WriteString("terminals", measured?.Terminals ?? "");
        if (measured?.Source is { Length: > 0 } source)
            writer.WriteString("source", source);
        writer.WriteNumber("seconds", measured?.Seconds ?? 0);
        Lines("needs", it.Needs, writer);
        Lines("stops", it.Stops.Select(Words.Of), writer);
        writer.WriteEndObject();
    }

    public static void Write(Interval it, Utf8JsonWriter writer)
    {
        writer.WriteString("userCheck", it.UserCheck);
        Number("visualMonths", it.Visual.Months, writer);
        Number("combinedMonths", it.Combined?.Months, writer);
        if (it.Performance is { } performance)
            writer.WriteNumber("performanceMonths", performance.Months);
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
            if (step.Kind is { } kind)
                writer.WriteString("kind", Words.Of(kind));
            writer.WriteString("detail", step.Detail);
            writer.WriteEndObject();
        }
        writer.WriteEndArray();
    }

    public static void Lines(string name, IEnumerable<string> lines, Utf8JsonWriter writer)
    {
        writer.WriteStartArray(name);
        foreach (var line in lines)
            writer.WriteStringValue(line);
        writer.WriteEndArray();
    }

    private static void Number(JsonEncodedText name, double? value, Utf8JsonWriter writer)
    {
        if (value is { } it && double.IsFinite(it))
            writer.WriteNumber(name, it);
        else
            writer.WriteNull(name);
    }

    public static void Number(string name, double? value, Utf8JsonWriter writer)
    {
        if (value is { } it && double.IsFinite(it))
            writer.WriteNumber(name, it);
        else
            writer.WriteNull(name);
    }

    /// <summary>The comparator as the contract and packs write it.</summary>
    public static string Sign(Comparator comparator) =>
        comparator switch
        {
            Comparator.NotLessThan => ">=",
            Comparator.Below => "<",
            Comparator.Within => "within",
            _ => "<=",
        };

    /// <summary>Names that stand in every result, encoded once.</summary>
    private static class Name
    {
        public static readonly JsonEncodedText Test = JsonEncodedText.Encode("test"),
            Status = JsonEncodedText.Encode("status"),
            JudgedValue = JsonEncodedText.Encode("judgedValue"),
            Unit = JsonEncodedText.Encode("unit"),
            Limit = JsonEncodedText.Encode("limit"),
            Comparator = JsonEncodedText.Encode("comparator"),
            Use = JsonEncodedText.Encode("use"),
            NearLimit = JsonEncodedText.Encode("nearLimit"),
            Clause = JsonEncodedText.Encode("clause"),
            Working = JsonEncodedText.Encode("working");
    }

    private static readonly JsonEncodedText[] SiSymbols =
    [
        .. Enum.GetValues<Dimension>().Select(dimension => JsonEncodedText.Encode(Unit.Si(dimension).Symbol)),
    ];

    private static readonly JsonEncodedText[] Signs =
    [
        .. Enum.GetValues<Comparator>()
            .Select(comparator => JsonEncodedText.Encode(Sign(comparator), JavaScriptEncoder.UnsafeRelaxedJsonEscaping)),
    ];

    private static class Encoded<T>
        where T : struct, Enum
    {
        public static readonly JsonEncodedText[] Words =
        [
            .. Enum.GetValues<T>().Select(value => JsonEncodedText.Encode(Core.Words.Of(value))),
        ];
    }
}
