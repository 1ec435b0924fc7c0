using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Diagnosis;

/// <summary>A pattern of readings and what it usually means.</summary>
/// <param name="Seen">The pattern in the trade's words.</param>
/// <param name="When">Names of the signs that must all be there; see <see cref="Signs"/>.</param>
/// <param name="Says">What a tester's display says in plain words, to search by without an item at hand.</param>
/// <param name="Causes">In the order to check them, cheapest first.</param>
/// <param name="Next">The next move.</param>
public sealed record Signature(
    string Id,
    string Seen,
    ImmutableArray<string> When,
    ImmutableArray<string> Says,
    ImmutableArray<string> Causes,
    string Next
)
{
    /// <summary>All of them, in the order they are shown.</summary>
    public static ImmutableArray<Signature> All => Loaded.Value.Signatures;

    private static readonly ThresholdTable Figures = ThresholdLibrary.Find("signs")!;

    /// <summary>The figure that a sign compares with, by its id in the table of signs: ohm, multiples, shares.</summary>
    internal static double Threshold(string id) =>
        Figures.Find(id) is { } row ? row.InForce.Si : throw new InvalidOperationException($"There is no figure “{id}”.");

    private static readonly Lazy<Table> Loaded = new(Load);

    private sealed record Table(
        ImmutableArray<Signature> Signatures,
        ImmutableDictionary<string, string> Synonyms,
        ImmutableHashSet<string> PassedOver
    );

    /// <summary>
    /// Signatures whose words answer what was typed, the best first: every word must stand there whole, or one that means the same. "OL" is
    /// no part of "polarity". All of them for nothing typed.
    /// </summary>
    public static ImmutableArray<Signature> Search(string words)
    {
        var wanted = WordsOf(words);
        return
        [
            .. All.Select(it => (it, Score: it.Score(wanted), Met: wanted.All(word => it.Score(word) > 0)))
                .Where(found => found.Met)
                .OrderByDescending(found => found.Score)
                .Select(found => found.it),
        ];
    }

    /// <summary>What a display says just so comes first; then by its words.</summary>
    private int Score(HashSet<string> wanted) => (said.Any(phrase => phrase.SetEquals(wanted)) ? 20 : 0) + wanted.Sum(Score);

    /// <summary>What a display says counts more than what the pattern is called, and that more than its causes.</summary>
    private int Score(string word) =>
        (said.Any(phrase => phrase.Contains(word)) ? 4 : 0)
        + (seen.Contains(word) ? 3 : 0)
        + (causes.Any(cause => cause.Contains(word)) ? 1 : 0)
        + (next.Contains(word) ? 1 : 0);

    // Split once: the search runs with every key that is typed.
    private HashSet<string>[] said = [];
    private HashSet<string>[] causes = [];
    private HashSet<string> seen = [];
    private HashSet<string> next = [];

    private Signature Indexed(ImmutableDictionary<string, string> synonyms, ImmutableHashSet<string> passedOver) =>
        this with
        {
            said = [.. Says.Select(text => PlainWords.Of(text, synonyms, passedOver))],
            causes = [.. Causes.Select(text => PlainWords.Of(text, synonyms, passedOver))],
            seen = PlainWords.Of(Seen, synonyms, passedOver),
            next = PlainWords.Of(Next, synonyms, passedOver),
        };

    /// <summary>As searches and complaints are read: what means the same is one word.</summary>
    internal static HashSet<string> WordsOf(string text) => PlainWords.Of(text, Loaded.Value.Synonyms, Loaded.Value.PassedOver);

    private static Table Load()
    {
        var file = JsonSerializer.Deserialize(Embedded.Text("signatures.json")!, JsonRules.File.Of<SignatureFile>())!;
        var unknown = file.Signatures.SelectMany(it => it.When).FirstOrDefault(sign => !Signs.Knows(sign));
        if (unknown is not null)
            throw new InvalidOperationException($"There is no sign “{unknown}”.");
        var means = file.Synonyms.ToImmutableDictionary(StringComparer.OrdinalIgnoreCase);
        var over = file.PassedOver.ToImmutableHashSet(StringComparer.OrdinalIgnoreCase);
        return new([.. file.Signatures.Select(it => it.Indexed(means, over))], means, over);
    }
}

/// <summary>The file of signatures.</summary>
/// <param name="Synonyms">What a display or a person may say, to the word that stands in the signatures.</param>
/// <param name="PassedOver">Words that say nothing.</param>
internal sealed record SignatureFile(
    IReadOnlyDictionary<string, string> Synonyms,
    IReadOnlyList<string> PassedOver,
    IReadOnlyList<Signature> Signatures
);
