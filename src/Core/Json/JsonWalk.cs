using System.Collections.Immutable;
using System.Text.Json;

namespace Osierwand.Core.Json;

/// <summary>Carries a fault outwards through nested objects; caught where the input entered, where it becomes a value again.</summary>
internal sealed class FaultException(string path, string message) : Exception(message)
{
    public string Path { get; } = path;

    public Fault Fault => new(Path, Message);

    public FaultException Under(string parent) =>
        new(
            Path.Length == 0 ? parent
                : Path[0] == '[' ? parent + Path
                : $"{parent}.{Path}",
            Message
        );
}

/// <summary>Strict reading of JSON values: every refusal names the offending place and what would be right.</summary>
internal static class JsonWalk
{
    public delegate void OnProperty(string name, JsonElement value);

    /// <summary>Visits an object's properties in document order, so that the first fault found is the first in the document.</summary>
    public static void Properties(JsonElement element, OnProperty visit)
    {
        if (element.ValueKind != JsonValueKind.Object)
            throw new FaultException("", $"must be an object, not {Kind(element)}");
        var (seen, at) = (0UL, 0);
        foreach (var property in element.EnumerateObject())
        {
            var name = Name(property);
            var mark = 1UL << (name.GetHashCode() & 63);
            if ((seen & mark) != 0 && Stands(name, element, at))
                throw new FaultException(name, "stands twice");
            (seen, at) = (seen | mark, at + 1);
            try
            {
                visit(name, property.Value);
            }
            catch (FaultException fault)
            {
                throw fault.Under(name);
            }
        }
    }

    /// <summary>Whether a name stands among the first so many. Asked only where two names share a mark.</summary>
    private static bool Stands(string name, JsonElement element, int first)
    {
        foreach (var property in element.EnumerateObject())
        {
            if (first-- == 0)
                return false;
            if (property.NameEquals(name))
                return true;
        }
        return false;
    }

    private static string Name(JsonProperty property)
    {
        try
        {
            return KnownText.Of(property);
        }
        catch (InvalidOperationException)
        {
            throw new FaultException("", "a property's name is no text: it holds half a character");
        }
    }

    /// <param name="most">More is refused: what is compared each with each must not grow without end.</param>
    public static ImmutableArray<T> List<T>(JsonElement element, Func<JsonElement, T> read, int most = int.MaxValue)
    {
        if (element.ValueKind != JsonValueKind.Array)
            throw new FaultException("", $"must be a list, not {Kind(element)}");
        if (element.GetArrayLength() is var length && length > most)
            throw new FaultException("", $"has {length} entries, and one request may have {most}: send several");
        var items = ImmutableArray.CreateBuilder<T>(element.GetArrayLength());
        foreach (var entry in element.EnumerateArray())
        {
            try
            {
                items.Add(read(entry));
            }
            catch (FaultException fault)
            {
                throw fault.Under($"[{items.Count}]");
            }
        }
        return items.MoveToImmutable();
    }

    public static string Text(JsonElement element)
    {
        if (element.ValueKind != JsonValueKind.String)
            throw new FaultException("", $"must be text, not {Kind(element)}");
        try
        {
            return element.GetString()!;
        }
        catch (InvalidOperationException)
        {
            throw new FaultException("", "is no text: it holds half a character, or bytes that are none");
        }
    }

    public static string NonEmptyText(JsonElement element) =>
        Text(element) is { Length: > 0 } text ? text : throw new FaultException("", "must not be empty");

    public static bool Boolean(JsonElement element) =>
        element.ValueKind switch
        {
            JsonValueKind.True => true,
            JsonValueKind.False => false,
            _ => throw new FaultException("", $"must be true or false, not {Kind(element)}"),
        };

    public static double Number(JsonElement element)
    {
        if (element.ValueKind != JsonValueKind.Number)
            throw new FaultException("", $"must be a number, not {Kind(element)}");
        return element.TryGetDouble(out var value) && Math.Abs(value) <= Largest
            ? value
            : throw new FaultException("", "is beyond what can be measured");
    }

    /// <summary>Far beyond anything measured, and far from where sums and products overflow.</summary>
    private const double Largest = 1e18;

    public static double Positive(JsonElement element) =>
        Number(element) is > 0 and var value ? value : throw new FaultException("", "must be greater than 0");

    public static double NotNegative(JsonElement element) =>
        Number(element) is >= 0 and var value ? value : throw new FaultException("", "must not be negative");

    public static int Count(JsonElement element, int atLeast = 1) =>
        element.ValueKind == JsonValueKind.Number && element.TryGetInt32(out var value) && value >= atLeast
            ? value
            : throw new FaultException("", $"must be a whole number of at least {atLeast}");

    public static T Word<T>(JsonElement element)
        where T : struct, Enum
    {
        var word = element.ValueKind == JsonValueKind.String ? KnownWord(element) : Text(element);
        return Words.Find<T>(word) ?? throw new FaultException("", $"“{word}” is not one of {Words.AllOf<T>()}");
    }

    private static string KnownWord(JsonElement element)
    {
        try
        {
            return KnownText.Of(element);
        }
        catch (InvalidOperationException)
        {
            return Text(element);
        }
    }

    public static SetOf<T> WordSet<T>(JsonElement element)
        where T : struct, Enum => SetOf<T>.Of(List(element, Word<T>).AsSpan());

    public static DateOnly Date(JsonElement element) =>
        !DateOnly.TryParseExact(Text(element), "yyyy-MM-dd", out var date) ? throw new FaultException("", "must be a date like 2026-03-31")
        : date.Year is < FirstYear or > LastYear ? throw new FaultException("", $"must lie in the years {FirstYear} to {LastYear}")
        : date;

    private const int FirstYear = 1900;
    private const int LastYear = 2200;

    public static FaultException Unknown(string name) => new("", $"“{name}” is not a known property here");

    public static FaultException Missing(string name, string why = "is missing") => new(name, why);

    private static string Kind(JsonElement element) =>
        element.ValueKind switch
        {
            JsonValueKind.Null => "null",
            JsonValueKind.Array => "a list",
            JsonValueKind.Object => "an object",
            JsonValueKind.String => "text",
            JsonValueKind.Number => "a number",
            _ => "true or false",
        };
}
