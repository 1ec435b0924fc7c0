using System.Globalization;
using System.IO.Hashing;
using System.Text;

namespace Osierwand.Instruments.Line;

/// <summary>
/// One line of the instrument protocol: <c>7 START test=earthContinuity seconds=3 check=5d0a1c44</c>. A number that pairs question and
/// answer, a word, and named values; a value with blanks stands in double quotes. The last is the CRC-32 of all before it: a line with one
/// digit changed would otherwise be a reading. docs/protocol.md describes the whole conversation.
/// </summary>
public sealed record Message(int Number, string Word, IReadOnlyDictionary<string, string> Values)
{
    /// <summary>Longer lines are garbage: no message comes near it.</summary>
    public const int LongestLine = 600;

    public static Message Of(int number, string word, params (string Name, object? Value)[] values) =>
        new(
            number,
            word,
            values
                .Where(pair => pair.Value is not null)
                .ToDictionary(pair => pair.Name, pair => Convert.ToString(pair.Value, CultureInfo.InvariantCulture)!)
        );

    public string? Text(string name) => Values.GetValueOrDefault(name);

    public double? Amount(string name) =>
        Values.TryGetValue(name, out var text)
        && double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var value)
        && double.IsFinite(value)
            ? value
            : null;

    public bool? Flag(string name) =>
        Text(name) switch
        {
            "yes" => true,
            "no" => false,
            _ => null,
        };

    private const string CheckName = " check=";

    /// <summary>A line's text with its check.</summary>
    public static string Checked(string text) => $"{text}{CheckName}{Crc32.HashToUInt32(Encoding.UTF8.GetBytes(text)):x8}";

    /// <summary>The line without its line feed.</summary>
    public override string ToString()
    {
        var line = new StringBuilder(string.Create(CultureInfo.InvariantCulture, $"{Number} {Word}"));
        foreach (var (name, value) in Values)
            line.Append(' ')
                .Append(name)
                .Append('=')
                .Append(value.Length > 0 && value.All(it => it > ' ' && it != '"') ? value : $"\"{value.Replace('"', '\'')}\"");
        return Checked(line.ToString());
    }

    /// <returns>Null for anything that is not a message.</returns>
    public static Message? Parse(string line) =>
        line.Length <= LongestLine
        && !line.Any(char.IsControl)
        && line.LastIndexOf(CheckName, StringComparison.Ordinal) is > 0 and var end
        && Checked(line[..end]) == line
            ? Read(line[..end])
            : null;

    private static Message? Read(string line)
    {
        var first = line.IndexOf(' ');
        if (first < 1 || !int.TryParse(line.AsSpan(0, first), NumberStyles.None, CultureInfo.InvariantCulture, out var number))
            return null;
        var rest = line[(first + 1)..];
        var end = rest.IndexOf(' ');
        var word = end < 0 ? rest : rest[..end];
        if (word.Length == 0 || !word.All(char.IsAsciiLetterUpper))
            return null;
        var values = new Dictionary<string, string>();
        for (var at = end < 0 ? rest.Length : end + 1; at < rest.Length; )
        {
            var equals = rest.IndexOf('=', at);
            if (equals <= at)
                return null;
            var name = rest[at..equals];
            // Said twice it means nothing: a line that lost its line feed runs into the next.
            if (name.Contains(' ') || values.ContainsKey(name))
                return null;
            if (equals + 1 < rest.Length && rest[equals + 1] == '"')
            {
                var close = rest.IndexOf('"', equals + 2);
                if (close < 0 || (close + 1 < rest.Length && rest[close + 1] != ' '))
                    return null;
                values[name] = rest[(equals + 2)..close];
                at = close + 2;
            }
            else
            {
                var stop = rest.IndexOf(' ', equals);
                if (stop < 0)
                    stop = rest.Length;
                values[name] = rest[(equals + 1)..stop];
                at = stop + 1;
            }
        }
        return new(number, word, values);
    }
}
