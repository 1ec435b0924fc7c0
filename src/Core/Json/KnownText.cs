using System.Runtime.InteropServices;
using System.Text;
using System.Text.Json;

namespace Osierwand.Core.Json;

/// <summary>
/// Property names and words that come again in every request, kept once. A request has some fifty of them, and making each anew is a good
/// part of the time to read it.
/// </summary>
internal static class KnownText
{
    private const int Slots = 1024;
    private const int Longest = 32;

    private sealed record Entry(byte[] Utf8, string Text);

    private static readonly Entry?[] Table = new Entry?[Slots];

    public static string Of(JsonProperty property)
    {
        var raw = JsonMarshal.GetRawUtf8PropertyName(property);
        return Find(raw) ?? Keep(raw, property.Name);
    }

    /// <param name="element">A string.</param>
    public static string Of(JsonElement element)
    {
        var raw = JsonMarshal.GetRawUtf8Value(element)[1..^1];
        return Find(raw) ?? Keep(raw, element.GetString()!);
    }

    private static string? Find(ReadOnlySpan<byte> raw) =>
        Table[Slot(raw)] is { } entry && raw.SequenceEqual(entry.Utf8) ? entry.Text : null;

    /// <summary>Keeps the first to come to a slot: the table never grows and never thrashes. An escaped text is not its own bytes and is
    /// not kept.</summary>
    private static string Keep(ReadOnlySpan<byte> raw, string text)
    {
        var slot = Slot(raw);
        if (raw.Length <= Longest && Table[slot] is null && Encoding.UTF8.GetByteCount(text) == raw.Length && !raw.Contains((byte)'\\'))
            Table[slot] = new(raw.ToArray(), text);
        return text;
    }

    private static int Slot(ReadOnlySpan<byte> raw)
    {
        var hash = (uint)raw.Length;
        foreach (var one in raw.Length > Longest ? raw[..Longest] : raw)
            hash = hash * 31 + one;
        return (int)(hash % Slots);
    }
}
