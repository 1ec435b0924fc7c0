using System.Collections.Immutable;
using System.Text.RegularExpressions;

namespace Osierwand.Core.Standards;

/// <summary>
/// The trade's words where a pack is at home: an American round reads "ground" and "cord". Sentences are written once, in the words of the
/// house, and said in the dialect of the pack that judges; ids, keys and names that people gave are never touched.
/// </summary>
public sealed class Dialect
{
    /// <summary>The words as they are written here.</summary>
    public static readonly Dialect Plain = new(ImmutableDictionary<string, string>.Empty);

    private readonly ImmutableDictionary<string, string> words;
    private readonly Regex? anyOf;

    /// <param name="words">Ours to theirs, in small letters: "mains lead" to "power cord". Longer phrases win over the words in
    /// them.</param>
    public Dialect(ImmutableDictionary<string, string> words)
    {
        this.words = words;
        if (words.IsEmpty)
            return;
        var longestFirst = words.Keys.OrderByDescending(word => word.Length).Select(Regex.Escape);
        anyOf = new($@"\b({string.Join('|', longestFirst)})\b", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant);
    }

    public ImmutableDictionary<string, string> Words => words;

    /// <summary>A sentence in this dialect; a capital stays a capital.</summary>
    public string Say(string sentence) => anyOf is null ? sentence : anyOf.Replace(sentence, Said);

    public ImmutableArray<string> Say(IEnumerable<string> sentences) => [.. sentences.Select(Say)];

    private string Said(Match match)
    {
        var theirs = words[match.Value.ToLowerInvariant()];
        return char.IsUpper(match.Value[0]) ? char.ToUpperInvariant(theirs[0]) + theirs[1..] : theirs;
    }
}
