using System.Collections.Immutable;

namespace Osierwand.Core.Diagnosis;

/// <summary>Splits what people and displays say into words to compare.</summary>
internal static class PlainWords
{
    /// <summary>Letters or figures together are a word; a sign between two is where one ends.</summary>
    /// <param name="synonyms">To the word that stands for all that mean the same.</param>
    /// <param name="passedOver">Words that say nothing.</param>
    public static HashSet<string> Of(string text, ImmutableDictionary<string, string> synonyms, ImmutableHashSet<string> passedOver)
    {
        var words = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
        var start = 0;
        for (var at = 0; at <= text.Length; at++)
        {
            if (
                at < text.Length
                && (char.IsLetterOrDigit(text[at]) || (text[at] == '.' && at + 1 < text.Length && char.IsDigit(text[at + 1])))
            )
                continue;
            var word = text[start..at];
            start = at + 1;
            if (word.Length > 0 && !passedOver.Contains(word))
                words.Add(synonyms.GetValueOrDefault(word, word));
        }
        return words;
    }
}
