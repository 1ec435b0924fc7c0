using System.Collections.Immutable;
using Osierwand.Core.Equipment;

namespace Osierwand.Core.Competences;

/// <summary>What somebody was found competent to test. It never replaces what the law asks of those who work on installations.</summary>
public enum Competence
{
    /// <summary>Plug-in appliances and cords.</summary>
    PlugIn,
    PortableRcd,

    /// <summary>Hard-wired equipment, with safe isolation.</summary>
    HardWired,
    ThreePhase,
    Medical,

    /// <summary>Medical devices with patient applied parts; it holds for devices without them too.</summary>
    AppliedParts,
    DefibrillatorPerformance,
    InstallationChecks,
}

/// <summary>One competence of one person.</summary>
/// <param name="ExpiresOn">The last day it holds; null where it does not lapse.</param>
/// <param name="Evidence">By what it is shown: a course, an assessment, years under somebody.</param>
public sealed record HeldCompetence(Competence Competence, DateOnly? ExpiresOn, string Evidence)
{
    public bool HoldsOn(DateOnly day) => ExpiresOn is not { } last || day <= last;
}

/// <summary>What an item asks of whoever tests it, and whether somebody holds it. Anybody may look.</summary>
public static class CompetenceFor
{
    public static readonly ImmutableArray<Competence> All = [.. Enum.GetValues<Competence>()];

    public static string NameOf(Competence it) =>
        it switch
        {
            Competence.PlugIn => "plug-in appliances and cords",
            Competence.PortableRcd => "portable RCDs",
            Competence.HardWired => "hard-wired equipment",
            Competence.ThreePhase => "three-phase equipment",
            Competence.Medical => "medical devices",
            Competence.AppliedParts => "medical devices with patient applied parts",
            Competence.DefibrillatorPerformance => "defibrillator performance",
            _ => "installation checks",
        };

    /// <summary>Everything that testing the item asks for, by its kind and how it is connected.</summary>
    public static ImmutableArray<Competence> Testing(Item item)
    {
        var needed = ImmutableArray.CreateBuilder<Competence>(3);
        needed.Add(
            !item.IsMedical ? Competence.PlugIn
            : item.AppliedParts.IsEmpty ? Competence.Medical
            : Competence.AppliedParts
        );
        if (item.Kind == ItemKind.PortableRcd || item.Rcd is not null)
            needed.Add(Competence.PortableRcd);
        if (item.IsHardWired)
            needed.Add(Competence.HardWired);
        if (item.Phases == 3)
            needed.Add(Competence.ThreePhase);
        if (item.Defibrillator is not null)
            needed.Add(Competence.DefibrillatorPerformance);
        return needed.ToImmutable();
    }

    /// <returns>What is lacking for it on that day, in words: "hard-wired equipment (lapsed on 2026-03-01)"; empty where nothing
    /// is.</returns>
    public static ImmutableArray<string> Lacking(Item item, IReadOnlyCollection<HeldCompetence> held, DateOnly day)
    {
        var lacking = ImmutableArray.CreateBuilder<string>(0);
        foreach (var needed in Testing(item))
        {
            var own = held.Where(it => Serves(it.Competence, needed)).ToArray();
            if (own.Any(it => it.HoldsOn(day)))
                continue;
            var lapsed = own.Max(it => it.ExpiresOn);
            lacking.Add(lapsed is { } on ? $"{NameOf(needed)} (lapsed after {on:yyyy-MM-dd})" : NameOf(needed));
        }
        return lacking.ToImmutable();
    }

    /// <summary>Somebody who holds these may do, on that day, what asks for it.</summary>
    public static bool Holds(IEnumerable<HeldCompetence> held, Competence needed, DateOnly day) =>
        held.Any(it => Serves(it.Competence, needed) && it.HoldsOn(day));

    private static bool Serves(Competence held, Competence needed) =>
        held == needed || (held == Competence.AppliedParts && needed == Competence.Medical);
}
