using System.Collections.Immutable;
using System.Text;

namespace Osierwand.Core.Standards;

/// <summary>
/// The trade's words where a pack is at home: an American round reads "ground" and "cord". Sentences are written once, in the words of the
/// house, and said in the dialect of the pack that judges; ids, keys and names that people gave are never touched.
/// </summary>
public sealed class Dialect
{
    /// <summary>The words as they are written here.</summary>
    public static readonly Dialect Plain = new(ImmutableDictionary<string, string>.Empty);

    // Not one pattern made of them all: an engine of patterns is a twentieth of what a browser fetches for this assembly.
    private readonly string[] longestFirst;

    /// <param name="words">Ours to theirs, in small letters: "mains lead" to "power cord". Longer phrases win over the words in
    /// them.</param>
    public Dialect(ImmutableDictionary<string, string> words)
    {
        Words = words;
        longestFirst = [.. words.Keys.OrderByDescending(word => word.Length)];
    }

    public ImmutableDictionary<string, string> Words { get; }

    /// <summary>A sentence in this dialect; a capital stays a capital. Whole words only: "earthed" is not "earth". What stands between “ and ”
    /// somebody wrote, and it stays as it was written.</summary>
    public string Say(string sentence)
    {
        if (longestFirst.Length == 0)
            return sentence;
        var (said, kept) = (default(StringBuilder), 0);
        for (var at = 0; at < sentence.Length; at++)
        {
            if (sentence[at] == '“' && sentence.IndexOf('”', at) is > 0 and var closing)
            {
                at = closing;
                continue;
            }
            var begins = IsLetter(sentence, at) && !IsLetter(sentence, at - 1);
            if (!begins || Find(sentence, at) is not { } ours)
                continue;
            var theirs = Words[ours];
            said ??= new StringBuilder(sentence.Length + 16);
            said.Append(sentence, kept, at - kept)
                .Append(char.IsUpper(sentence[at]) ? char.ToUpperInvariant(theirs[0]) : theirs[0])
                .Append(theirs, 1, theirs.Length - 1);
            kept = at + ours.Length;
            at = kept - 1;
        }
        return said is null ? sentence : said.Append(sentence, kept, sentence.Length - kept).ToString();
    }

    public ImmutableArray<string> Say(IEnumerable<string> sentences) => [.. sentences.Select(Say)];

    private string? Find(string sentence, int at)
    {
        foreach (var word in longestFirst)
            if (
                string.Compare(sentence, at, word, 0, word.Length, StringComparison.OrdinalIgnoreCase) == 0
                && !IsLetter(sentence, at + word.Length)
            )
                return word;
        return null;
    }

    private static bool IsLetter(string text, int at) => at >= 0 && at < text.Length && (char.IsLetterOrDigit(text[at]) || text[at] == '_');
}
