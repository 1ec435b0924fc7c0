using System.Buffers;
using System.Text;
using System.Text.Json;

namespace Osierwand.Core.Json;

/// <summary>
/// Writes sentences as they are. Ours hold Ω and ≤ but seldom anything that JSON escapes, and to look for that is cheaper than to ask an
/// encoder of every sign.
/// </summary>
internal static class PlainText
{
    private const int Longest = 512;

    private static readonly SearchValues<char> Escaped = SearchValues.Create([
        .. Enumerable.Range(0, 32).Select(it => (char)it),
        '"',
        '\\',
    ]);

    [ThreadStatic]
    private static byte[]? scratch;

    public static void Write(string text, Utf8JsonWriter writer)
    {
        if (text.Length > Longest || text.AsSpan().ContainsAny(Escaped))
        {
            writer.WriteStringValue(text);
            return;
        }
        var raw = scratch ??= new byte[3 * Longest + 2];
        raw[0] = (byte)'"';
        var length = Encoding.UTF8.GetBytes(text, raw.AsSpan(1));
        raw[length + 1] = (byte)'"';
        writer.WriteRawValue(raw.AsSpan(0, length + 2), skipInputValidation: true);
    }
}
