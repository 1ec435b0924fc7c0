using System.Collections;
using System.Globalization;
using System.Net;
using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using System.Text.Json.Serialization.Metadata;
using System.Text.Unicode;
using Microsoft.Net.Http.Headers;
using Osierwand.Core;

namespace Osierwand.Server.Hosting;

/// <summary>
/// What every value from outside has to be before a handler sees it, whichever member it is: text that can be kept, numbers that can be
/// measured, days that a calendar here reaches. A single text in a request never holds more than a remark's worth.
/// </summary>
internal static class Border
{
    /// <summary>Remarks are the longest texts; every field has a narrower limit of its own.</summary>
    public const int LongestText = 4_000;

    /// <summary>Beyond these a figure is no figure of this trade: megohms of a thousand million, picoamperes.</summary>
    private const double Largest = 1e18;
    private const double Smallest = 1e-18;
    private static readonly DateOnly FirstDay = new(1900, 1, 1);
    private static readonly DateOnly LastDay = new(2200, 12, 31);

    public static void Guard(JsonSerializerOptions json)
    {
        json.MaxDepth = 24;
        json.Converters.Add(new TextConverter());
        json.Converters.Add(new NumberConverter());
        json.Converters.Add(new DayConverter());
        json.Converters.Add(new MomentConverter());
        json.Converters.Add(new ElementConverter());
        json.TypeInfoResolver = (json.TypeInfoResolver ?? new DefaultJsonTypeInfoResolver()).WithAddedModifier(RefuseEmptyPlaces);
    }

    /// <summary>A list holds values: a null in it is no value of any of our contracts, and no handler should have to ask.</summary>
    private static void RefuseEmptyPlaces(JsonTypeInfo type)
    {
        if (
            type.Kind != JsonTypeInfoKind.Object
            || type.Type.Assembly.GetName().Name?.StartsWith("Osierwand", StringComparison.Ordinal) != true
        )
            return;
        var lists = type.Properties.Where(it => it.Get is not null && IsListOfObjects(it.PropertyType)).ToArray();
        if (lists.Length == 0)
            return;
        var then = type.OnDeserialized;
        type.OnDeserialized = read =>
        {
            then?.Invoke(read);
            foreach (var list in lists)
                if (list.Get!(read) is IEnumerable values && values.Cast<object?>().Contains(null))
                    throw new JsonException($"{list.Name} holds a null where a value belongs");
        };
    }

    private static bool IsListOfObjects(Type type) =>
        type != typeof(string)
        && type.IsAssignableTo(typeof(IEnumerable))
        && (
            type.IsArray ? type.GetElementType()
            : type.IsGenericType && !type.IsValueType ? type.GetGenericArguments()[0]
            : null
        )
            is { IsValueType: false };

    /// <summary>A file sent whole is read later by its own reader: its letters are looked at here, where a refusal is an answer.</summary>
    private sealed class ElementConverter : JsonConverter<JsonElement>
    {
        public override JsonElement Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            var element = JsonElement.ParseValue(ref reader);
            return Utf8.IsValid(JsonMarshal.GetRawUtf8Value(element)) ? element : throw new JsonException("holds bytes that are no UTF-8");
        }

        public override void Write(Utf8JsonWriter writer, JsonElement value, JsonSerializerOptions options) => value.WriteTo(writer);
    }

    private sealed class TextConverter : JsonConverter<string>
    {
        public override string? Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType is not JsonTokenType.String)
                throw new JsonException("is not text");
            var length = reader.HasValueSequence ? reader.ValueSequence.Length : reader.ValueSpan.Length;
            // Six bytes a character at most, as it may be escaped.
            if (length > 6 * LongestText)
                throw new JsonException($"is longer than {LongestText} characters");
            try
            {
                var text = reader.GetString()!;
                return KeptText.Refusal(text, LongestText) is { } why ? throw new JsonException(why) : text;
            }
            catch (InvalidOperationException)
            {
                // The framework's own words for bytes that are no text.
                throw new JsonException("It holds half a character: it was cut, or sent in another encoding.");
            }
        }

        public override void Write(Utf8JsonWriter writer, string value, JsonSerializerOptions options) => writer.WriteStringValue(value);
    }

    private sealed class NumberConverter : JsonConverter<double>
    {
        public override double Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType is not JsonTokenType.Number)
                throw new JsonException("is not a number");
            var number = reader.GetDouble();
            if (!double.IsFinite(number) || Math.Abs(number) > Largest || (number != 0 && Math.Abs(number) < Smallest))
                throw new JsonException("is beyond what can be measured");
            return number;
        }

        public override void Write(Utf8JsonWriter writer, double value, JsonSerializerOptions options) => writer.WriteNumberValue(value);
    }

    private sealed class DayConverter : JsonConverter<DateOnly>
    {
        public override DateOnly Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (
                reader.TokenType is not JsonTokenType.String
                || reader.HasValueSequence
                || !DateOnly.TryParseExact(
                    Encoding.UTF8.GetString(reader.ValueSpan),
                    "yyyy-MM-dd",
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.None,
                    out var day
                )
            )
                throw new JsonException("is not a day, written 2026-03-31");
            if (day < FirstDay || day > LastDay)
                throw new JsonException("must lie in the years 1900 to 2200");
            return day;
        }

        public override void Write(Utf8JsonWriter writer, DateOnly value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
    }

    private sealed class MomentConverter : JsonConverter<DateTimeOffset>
    {
        public override DateTimeOffset Read(ref Utf8JsonReader reader, Type typeToConvert, JsonSerializerOptions options)
        {
            if (reader.TokenType is not JsonTokenType.String || !reader.TryGetDateTimeOffset(out var moment))
                throw new JsonException("is not a time, written 2026-03-31T14:05:00Z");
            if (DateOnly.FromDateTime(moment.UtcDateTime) < FirstDay || DateOnly.FromDateTime(moment.UtcDateTime) > LastDay)
                throw new JsonException("must lie in the years 1900 to 2200");
            return moment;
        }

        public override void Write(Utf8JsonWriter writer, DateTimeOffset value, JsonSerializerOptions options) =>
            writer.WriteStringValue(value);
    }
}

/// <summary>Refuses addresses that hold what no text of ours may, since a NUL in a query would stop the database, and bodies in another
/// encoding than UTF-8, which every program speaks.</summary>
internal sealed class ReadableRequests(RequestDelegate next)
{
    private const int Longest = 2_000;

    public Task InvokeAsync(HttpContext context)
    {
        var request = context.Request;
        var query = request.QueryString.Value ?? "";
        var why =
            query.Length + (request.Path.Value?.Length ?? 0) > Longest
                ? $"It is longer than {Longest} characters."
                : request
                    .Query.SelectMany(it => it.Value.Append(it.Key))
                    .Prepend(request.Path.Value)
                    .Select(text => Why(text ?? ""))
                    .FirstOrDefault(it => it is not null);
        var charset = MediaTypeHeaderValue.TryParse(request.ContentType, out var type) ? type.Charset.Value?.Trim('"') : null;
        if (charset is not (null or "") && !charset.Equals("utf-8", StringComparison.OrdinalIgnoreCase))
            return Results
                .Problem(
                    statusCode: StatusCodes.Status415UnsupportedMediaType,
                    title: "The request was not understood.",
                    detail: "Send it as UTF-8."
                )
                .ExecuteAsync(context);
        return why is null
            ? next(context)
            : Results
                .Problem(statusCode: StatusCodes.Status400BadRequest, title: "The address was not understood.", detail: why)
                .ExecuteAsync(context);
    }

    // Bytes that are no UTF-8 arrive as the mark for them. Other control characters are a scanner's, and its handler says what to do.
    private static string? Why(string text) => text.AsSpan().ContainsAny('\ufffd', '\0') ? "It holds bytes that are no text." : null;
}
