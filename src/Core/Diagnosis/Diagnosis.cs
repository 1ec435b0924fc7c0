using System.Collections.Immutable;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Diagnosis;

/// <summary>What is known of the day beside the item on the bench.</summary>
/// <param name="BuildingRcdTripped">The building's RCD went during a powered test.</param>
/// <param name="EarthOffsets">For items measured today: earth reading less its reference, in ohm.</param>
public sealed record SessionFacts(bool BuildingRcdTripped, ImmutableArray<double> EarthOffsets)
{
    public static readonly SessionFacts Nothing = new(false, []);
}

/// <summary>A signature that shows, and the readings it shows in.</summary>
/// <param name="Readings">Their places in the inspection; empty when the whole session shows it.</param>
public sealed record Telling(Signature Signature, ImmutableArray<int> Readings);

/// <summary>Says what strange readings usually mean. It never blocks and never judges: it names what to check, cheapest first.</summary>
public static class Diagnose
{
    /// <returns>The signatures that show, in the order of the table.</returns>
    public static ImmutableArray<Telling> Of(InspectionFacts facts, Assessment assessment, SessionFacts? session = null)
    {
        var around = new Surroundings(facts, assessment, session ?? SessionFacts.Nothing);
        var scenes = assessment.Results.Select(it => new Scene(around, it)).ToArray();
        var whole = new Scene(around, null);
        var tellings = ImmutableArray.CreateBuilder<Telling>();
        foreach (var signature in Signature.All)
        {
            if (Signs.IsOfSession(signature))
            {
                if (Signs.Shows(signature, whole))
                    tellings.Add(new(signature, []));
                continue;
            }
            var shown = Enumerable
                .Range(0, scenes.Length)
                .Where(at => scenes[at].It!.Status != Status.Void && Signs.Shows(signature, scenes[at]))
                .ToImmutableArray();
            if (!shown.IsEmpty)
                tellings.Add(new(signature, shown));
        }
        return tellings.ToImmutable();
    }
}
