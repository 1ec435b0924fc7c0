using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Json;
using static Osierwand.Core.Json.JsonWalk;

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

    /// <summary>The numbers the signs compare with, by name.</summary>
    internal static double Threshold(string name) => Loaded.Value.Thresholds[name];

    private static readonly Lazy<(ImmutableArray<Signature> Signatures, ImmutableDictionary<string, double> Thresholds)> Loaded = new(Load);

    /// <summary>Signatures whose words answer what was typed, the best first; every word must be found. All of them for nothing
    /// typed.</summary>
    public static ImmutableArray<Signature> Search(string words)
    {
        var wanted = words.Split(' ', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries);
        return
        [
            .. All.Select(it => (it, Score: wanted.Sum(it.Score), Met: wanted.All(word => it.Score(word) > 0)))
                .Where(found => found.Met)
                .OrderByDescending(found => found.Score)
                .Select(found => found.it),
        ];
    }

    /// <summary>What a display says counts more than what the pattern is called, and that more than its causes.</summary>
    private int Score(string word) =>
        (Says.Any(text => Has(text, word)) ? 4 : 0)
        + (Has(Seen, word) ? 3 : 0)
        + (Causes.Any(text => Has(text, word)) ? 1 : 0)
        + (Has(Next, word) ? 1 : 0);

    private static bool Has(string text, string word) => text.Contains(word, StringComparison.OrdinalIgnoreCase);

    private static (ImmutableArray<Signature>, ImmutableDictionary<string, double>) Load()
    {
        using var document = JsonDocument.Parse(Embedded.Text("signatures.json")!);
        var thresholds = ImmutableDictionary.CreateBuilder<string, double>();
        ImmutableArray<Signature> signatures = [];
        Properties(
            document.RootElement,
            (name, value) =>
            {
                if (name == "thresholds")
                    Properties(value, (threshold, number) => thresholds[threshold] = Positive(number));
                else if (name == "signatures")
                    signatures = List(value, One);
                else
                    throw Unknown(name);
            }
        );
        return (signatures, thresholds.ToImmutable());
    }

    private static Signature One(JsonElement element)
    {
        var it = new Signature("", "", [], [], [], "");
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "id" => it with { Id = NonEmptyText(value) },
                    "seen" => it with { Seen = NonEmptyText(value) },
                    "when" => it with
                    {
                        When = List(
                            value,
                            entry =>
                                Signs.Knows(Text(entry)) ? Text(entry) : throw new FaultException("", $"there is no sign “{Text(entry)}”")
                        ),
                    },
                    "says" => it with { Says = List(value, NonEmptyText) },
                    "causes" => it with { Causes = List(value, NonEmptyText) },
                    "next" => it with { Next = NonEmptyText(value) },
                    _ => throw Unknown(name),
                }
        );
        return it is { Id.Length: > 0, Seen.Length: > 0, Next.Length: > 0, When.IsEmpty: false, Causes.IsEmpty: false }
            ? it
            : throw Missing("id", "a signature has an id, what is seen, when, causes and the next move");
    }
}
