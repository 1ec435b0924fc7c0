using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>How a step is dangerous; it decides whether a deliberate hold starts it.</summary>
public enum HazardKind
{
    None,

    /// <summary>250 V or 500 V d.c. on the item.</summary>
    TestVoltage,

    /// <summary>The item starts.</summary>
    ItemLive,

    /// <summary>Mains on the patient connections.</summary>
    MainsOnPatient,

    /// <summary>A defibrillator's shock.</summary>
    Shock,
}

/// <summary>One line of the run sheet.</summary>
/// <param name="Limit">Null where good or bad decides, or the pack has none.</param>
/// <param name="Needs">What must be true before it starts.</param>
/// <param name="Stops">Tests that are not done after this one failed.</param>
/// <param name="Terminals">What is joined to what, for the instrument and for the meter school.</param>
/// <param name="Source">What drives the measurement.</param>
/// <param name="Seconds">How long it takes: start-up, then holding the reading.</param>
public sealed record PlanStep(
    Test Test,
    Conditions Under,
    Volts? TestVoltage,
    ResolvedLimit? Limit,
    HazardKind HazardKind,
    string? Hazard,
    ImmutableArray<string> Needs,
    ImmutableArray<Test> Stops,
    string Terminals,
    string Source,
    int Seconds
)
{
    /// <summary>What the device is set to for this step: joule or volt.</summary>
    public Quantity? Set { get; init; }

    /// <summary>Whether a verdict waits for it.</summary>
    public Need Need { get; init; } = Need.Required;

    /// <summary>With <see cref="Need.OneOfGroup"/>: steps of one group stand in for one another.</summary>
    public string? Group { get; init; }

    /// <summary>The item runs, or mains lies on a part of it, while the step is done; the functional check included.</summary>
    public bool Powers => Test == Test.Functional || HazardKind is HazardKind.ItemLive or HazardKind.MainsOnPatient or HazardKind.Shock;

    /// <summary>Why the kit at hand cannot measure it; the step stays, as not measured.</summary>
    public string? NotMeasured { get; init; }

    /// <summary>Why the kit at hand is not good enough for its limit.</summary>
    public string? Unsuitable { get; init; }

    /// <summary>Stable within a plan and across visits: "leakage/protectiveConductor/reversed".</summary>
    public string Key => StepKey.Of(Test, Under);

    public string Name => StepNames.Of(Test, Under);
}

/// <summary>The computed run sheet of one item under one pack and one policy.</summary>
/// <param name="Remarks">Choices made and their reasons: a look-only policy, a class that is not known, no point to clip to.</param>
public sealed record Plan(RulePack Pack, Item Item, ImmutableArray<PlanStep> Steps, ImmutableArray<string> Remarks);

/// <summary>Identity of what is measured: readings with one key are compared with one another over the years.</summary>
public static class StepKey
{
    public static string Of(Test test, Conditions under)
    {
        var key = Words.Of(test);
        if (test == Test.Leakage)
        {
            key += $"/{Words.Of(under.Kind)}";
            if (under.Method != LeakageMethod.Direct)
                key += $"/{Words.Of(under.Method)}";
            if (under.Current != CurrentType.Ac)
                key += "/dc";
            if (under.Polarity != MainsPolarity.Normal)
                key += "/reversed";
            if (under.Neutral != ConductorState.Closed)
                key += "/neutralOpen";
            if (under.Earth != ConductorState.Closed)
                key += "/earthOpen";
            if (under.Power != PowerState.On)
                key += "/off";
        }
        if (test == Test.Insulation && under.Between != Between.MainsToEarth)
            key += $"/{Words.Of(under.Between)}";
        if (test == Test.RcdTrip)
            key += $"/{QuantityText.Number(under.Multiple)}x/{under.PhaseDeg}";
        if (test == Test.EarthContinuity && under.Path == EarthPath.Loop)
            key += "/loop";
        if (test == Test.EarthContinuity && under.Part != EarthPart.DeviceWithCord)
            key += $"/{Words.Of(under.Part)}";
        if (test == Test.DefibSync && under.Trigger != SyncTrigger.RPeak)
            key += $"/{Words.Of(under.Trigger)}";
        if (under.AppliedPart is { } part)
            key += $"/part {part}";
        if (under.Point is { } point)
            key += $"/{point}";
        return key;
    }
}
