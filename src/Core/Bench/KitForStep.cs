using System.Collections.Immutable;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>What in today's kit measures a step, and why nothing of it may: each step has the instrument it needs, decided here alone.</summary>
public static class KitForStep
{
    private static readonly ImmutableArray<KitKind> Leads = [KitKind.TestLead, KitKind.Clip];
    private static readonly ImmutableArray<KitKind> Tips = [KitKind.Probes];

    /// <returns>Null where nothing in the kit measures it, or no kit is known; <see cref="KitInHand.NotChosen"/> where nobody chose
    /// one.</returns>
    public static KitInHand? KitFor(this Ruling ruling, Conditions under) =>
        ruling.Kit?.Chosen is { } kit ? kit.All.FirstOrDefault(one => Measures(one, ruling, under)) : ruling.Kit;

    /// <returns>What sees and counts each discharge into its load; null as of a step.</returns>
    public static KitInHand? KitForDischarges(this Ruling ruling) =>
        ruling.Kit?.Chosen is { } kit ? kit.All.FirstOrDefault(one => Delivers(one, Test.DefibEnergy)) : ruling.Kit;

    /// <returns>Why no instrument in hand measures it, a phrase; null where one does, or no kit is known.</returns>
    public static string? LacksFor(this Ruling ruling, Conditions under) =>
        ruling.Kit?.Chosen is null || !under.Test.HasFigure() ? null
        : ruling.KitFor(under) is not { } kit ? $"not measured: no {KitText.Of(Needed(ruling, under))} is chosen for today"
        : kit.IsKnownToLack(under.Test) ? $"not measured: {kit.Name} has no such function"
        : null;

    /// <inheritdoc cref="LacksFor"/>
    public static string? LacksForDischarges(this Ruling ruling) =>
        ruling.Kit?.Chosen is not null && ruling.KitForDischarges() is null ? NoAnalyser : null;

    private static readonly string NoAnalyser = $"not measured: no {KitText.Of(KitKind.PerformanceAnalyser)} is chosen for today";

    /// <summary>Of a lead, a clip or probes that it is measured through: all that are in hand may not be used for it.</summary>
    /// <returns>Why, in sentences; null where one may, or none is named.</returns>
    public static string? BarredFor(this Ruling ruling, Conditions under)
    {
        if (ruling.Kit?.Chosen is not { } kit)
            return null;
        foreach (var kind in Through(ruling, under))
        {
            var pieces = kit.Pieces.Where(piece => piece.Kind == kind).ToArray();
            if (pieces.Length > 0 && pieces.All(piece => WhyNot(piece, under) is not null))
                return WhyNot(pieces[0], under);
        }
        return null;
    }

    /// <returns>Why nothing in hand may measure this step now, with the way on, in sentences; null where something may.</returns>
    public static string? KitRefusal(this Ruling ruling, SheetStep step) =>
        step switch
        {
            SheetStep.Measure { Plan.Under: var under } => ruling.LacksFor(under) is { } lacks
                ? $"{Words.Sentence(lacks)} Choose one under Kit."
            : ruling.BarredFor(under) is { } barred ? $"{barred} Choose others under Kit."
            : null,
            SheetStep.Discharges when ruling.LacksForDischarges() is { } lacks => $"{Words.Sentence(lacks)} Choose one under Kit.",
            _ => null,
        };

    /// <returns>What a reading was read off: the one it names where that is in hand and measures it, else the one its step needs.</returns>
    public static KitInHand? KitOf(this Ruling ruling, ReadingTaken taken, Conditions under) =>
        ruling.Kit?.Chosen is { } kit && kit.All.FirstOrDefault(one => one.Id == taken.With) is { } own && !own.IsKnownToLack(under.Test)
            ? own
            : ruling.KitFor(under);

    /// <returns>Why the steps are not shown for this kind of instrument, in sentences; null where one is in hand, or no kit is
    /// known.</returns>
    public static string? Refusal(Ruling ruling, School school)
    {
        var needed = school == School.Meter ? KitKind.Meter : KitKind.Instrument;
        return ruling.Kit?.Chosen is { } kit && kit.All.All(one => one.Kind != needed)
            ? $"No {KitText.Of(needed)} is chosen for today. Choose one under Kit."
            : null;
    }

    private static KitKind Needed(Ruling ruling, Conditions under) =>
        Preparation.IsByClamp(ruling.Item.Equipment, under) ? KitKind.LeakageClamp
        : ruling.School == School.Meter ? KitKind.Meter
        : Instrumentation.OfPerformance.Has(under.Test) ? KitKind.PerformanceAnalyser
        : KitKind.Instrument;

    private static bool Measures(KitInHand kit, Ruling ruling, Conditions under) =>
        Needed(ruling, under) is var needed && needed == KitKind.PerformanceAnalyser ? Delivers(kit, under.Test) : kit.Kind == needed;

    /// <summary>A safety analyser that says so delivers as well as a performance analyser.</summary>
    private static bool Delivers(KitInHand kit, Test test) =>
        kit.Kind == KitKind.PerformanceAnalyser || (kit.Kind == KitKind.Instrument && kit.Analyser is null && kit.Has(test));

    private static ImmutableArray<KitKind> Through(Ruling ruling, Conditions under) =>
        Needed(ruling, under) switch
        {
            KitKind.Meter => under is Conditions.EarthContinuity ? [.. Tips, .. Leads] : Tips,
            KitKind.Instrument when under is Conditions.EarthContinuity => Leads,
            KitKind.Instrument when Probing.IsProbed(ruling.Item.Equipment, under) => Tips,
            _ => [],
        };

    private static string? WhyNot(KitPiece piece, Conditions under) =>
        piece.Fitness == KitFitness.Barred ? $"{piece.Name} may not be used. {piece.Trouble}"
        : piece.Fitness == KitFitness.DeadWorkOnly && IsLive(under)
            ? $"{piece.Name} {(piece.Kind == KitKind.Probes ? "are" : "is")} for dead work only, and this powers the item."
        : null;

    private static bool IsLive(Conditions under) =>
        under is Conditions.RcdTrip or Conditions.Leakage { Method: not LeakageMethod.Alternative };
}
