using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Diagnosis;

/// <summary>What a user says is wrong, and where a technician begins to look.</summary>
/// <param name="Seen">The complaint in a few words.</param>
/// <param name="Says">Words by which people say it.</param>
/// <param name="Begin">Tests in the order in which they tell most, cheapest and safest first.</param>
/// <param name="Why">What that order goes by, and the usual caution.</param>
public sealed record Complaint(string Id, string Seen, ImmutableArray<string> Says, ImmutableArray<Test> Begin, string Why)
{
    /// <summary>All of them, in the order they are offered.</summary>
    public static ImmutableArray<Complaint> All => Loaded.Value;

    private static readonly Lazy<ImmutableArray<Complaint>> Loaded = new(() =>
        JsonSerializer
            .Deserialize(Embedded.Text("complaints.json")!, JsonRules.File.Of<ComplaintFile>())!
            .Complaints.Select(row => new Complaint(
                row.Id,
                row.Seen,
                [.. row.Says],
                [
                    .. row.Begin.Select(word =>
                        Words.Find<Test>(word) ?? throw new InvalidOperationException($"“{word}” of the complaint {row.Id} is no test.")
                    ),
                ],
                row.Why
            ))
            .ToImmutableArray()
    );

    /// <summary>Those that a complaint in somebody's own words names, the one that most of it names first: "it trips the RCD when the kettle
    /// is hot" is tripping before it is heat.</summary>
    public static ImmutableArray<Complaint> In(string words)
    {
        var said = Signature.WordsOf(words);
        return
        [
            .. All.Select(it => (it, Met: it.phrases.Count(phrase => phrase.IsSubsetOf(said))))
                .Where(found => found.Met > 0)
                .OrderByDescending(found => found.Met)
                .Select(found => found.it),
        ];
    }

    /// <summary>Split once. A phrase is said where all its words are, in whatever order.</summary>
    private readonly HashSet<string>[] phrases = [.. Says.Select(Signature.WordsOf)];
}

internal sealed record ComplaintRow(string Id, string Seen, IReadOnlyList<string> Says, IReadOnlyList<string> Begin, string Why);

internal sealed record ComplaintFile(IReadOnlyList<ComplaintRow> Complaints);
