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

/// <summary>One line of the run sheet. A closed family: only what is measured has a limit, a hazard and terminals.</summary>
public abstract record PlanStep
{
    private PlanStep(Conditions under) => Under = under;

    public Conditions Under { get; }

    public Test Test => Under.Test;

    /// <summary>What must be true before it starts.</summary>
    public ImmutableArray<string> Needs { get; init; } = [];

    /// <summary>Tests that are not done after this one failed.</summary>
    public ImmutableArray<Test> Stops { get; init; } = [];

    /// <summary>The item runs, or mains lies on a part of it, while the step is done.</summary>
    public virtual bool Powers => false;

    /// <summary>Stable within a plan and across visits: "leakage/protectiveConductor/reversed".</summary>
    public virtual string Key => StepKey.Of(Under);

    public string Name => StepNames.Of(Under);

    /// <summary>By eye and hand; it opens every plan.</summary>
    public sealed record Look() : PlanStep(new Conditions.Look());

    /// <summary>Computed from plate, fuse and flex.</summary>
    public sealed record FuseAndFlex() : PlanStep(new Conditions.FuseAndFlex());

    /// <summary>A hard-wired item is put back on its supply, after everything dead and before whatever powers it.</summary>
    public sealed record Restore() : PlanStep(new Conditions.Restore())
    {
        public override bool Powers => true;
    }

    /// <summary>Does it do its job; it ends every plan.</summary>
    public sealed record Functional() : PlanStep(new Conditions.Functional())
    {
        public override bool Powers => true;
    }

    /// <summary>One check of the device's own function that a procedure asks for.</summary>
    /// <param name="Asked">What is checked: "flow".</param>
    /// <param name="Target">What it should show; null where good or bad is answered.</param>
    public sealed record Check(string Asked, CheckRange? Target) : PlanStep(new Conditions.Functional { Name = Asked })
    {
        public override bool Powers => true;
    }

    /// <param name="Limit">Null where good or bad decides, or the pack has none.</param>
    /// <param name="Terminals">What is joined to what, for the instrument and for the meter school.</param>
    /// <param name="Source">What drives the measurement.</param>
    /// <param name="Seconds">How long it takes: start-up, then holding the reading.</param>
    public sealed record Measure(
        Conditions Under,
        ResolvedLimit? Limit,
        HazardKind HazardKind,
        string? Hazard,
        string Terminals,
        string Source,
        int Seconds
    ) : PlanStep(Under)
    {
        /// <summary>Whether a verdict waits for it.</summary>
        public Need Need { get; init; } = Need.Required;

        /// <summary>With <see cref="Need.OneOfGroup"/>: steps of one group stand in for one another.</summary>
        public string? Group { get; init; }

        /// <summary>Why the kit at hand cannot measure it; the step stays, as not measured.</summary>
        public string? NotMeasured { get; init; }

        /// <summary>What the probe lies on must be insulated: an earth that it finds there stops the job before anything is put on the
        /// item.</summary>
        public bool GuardsProbe { get; init; }

        /// <summary>Where the probe lies is said before its reading counts (<see cref="Probing"/>).</summary>
        public bool AsksProbe { get; init; }

        /// <summary>The item has no plug: it runs on its own supply, and no outlet of an instrument powers it.</summary>
        public bool StaysOnSupply { get; init; }

        /// <summary>It may be read for as long as the flex is moved.</summary>
        public bool MayBeHeld { get; init; }

        /// <summary>Why the kit at hand is not good enough for its limit.</summary>
        public string? Unsuitable { get; init; }

        /// <summary>A procedure's own limit; null where it has none. <see cref="Limit"/> is the one that decides.</summary>
        public OwnFigure? Tighter { get; init; }

        /// <summary>The standard it is borrowed from, whose clause judges it; null where it is the plan's own.</summary>
        public RulePack? BorrowedFrom { get; init; }

        /// <summary>The procedure asks for it, whatever the standard requires.</summary>
        public bool IsAskedByProcedure { get; init; }

        /// <summary>Connections of a part that are measured in turn, each a reading of its own; empty where one reading does.</summary>
        public ImmutableArray<string> Spots { get; init; } = [];

        public override string Key => BorrowedFrom is { } pack ? $"{StepKey.Of(Under)}/by {pack.Id}" : StepKey.Of(Under);

        public override bool Powers => HazardKind is HazardKind.ItemLive or HazardKind.MainsOnPatient or HazardKind.Shock;

        /// <summary>Of an insulation test; null for every other.</summary>
        public Volts? TestVoltage => (Under as Conditions.Insulation)?.TestVoltage;
    }
}

/// <summary>What a check of a device's function should show.</summary>
/// <param name="Unit">As the device shows it.</param>
public sealed record CheckRange(double Set, double Tolerance, string Unit)
{
    /// <summary>Good from set less tolerance to set plus tolerance, both counted in.</summary>
    public bool Holds(double shown) => Comparison.AtMost(Math.Abs(shown - Set), Tolerance);

    public string Text => $"{QuantityText.Number(Set, 6)} ± {QuantityText.Number(Tolerance, 6)} {Unit}";
}

/// <summary>The computed run sheet of one item under one pack and one policy.</summary>
/// <param name="Remarks">Choices made and their reasons: a look-only policy, a class that is not known, no point to clip to.</param>
public sealed record Plan(RulePack Pack, Item Item, ImmutableArray<PlanStep> Steps, ImmutableArray<string> Remarks);

/// <summary>Identity of what is measured: readings with one key are compared with one another over the years.</summary>
public static class StepKey
{
    public static string Of(Conditions under)
    {
        var key = Words.Of(under.Test) + Variant(under);
        if (under.Set is { } set)
            key += $"/{QuantityText.Number(set.Si, 6)} {Unit.Si(set.Dimension).Symbol}";
        if (under.AppliedPart is { } part)
            key += $"/part {part}";
        if (under.At is { } spot)
            key += $"/{spot.Text}";
        return key;
    }

    /// <summary>A key read aloud: "Equipment leakage, reversed polarity". What it does not know it says as it stands.</summary>
    public static string InWords(string key)
    {
        var words = key.Split('/');
        var said = new List<string> { Known<Test>(words[0]) is { } test ? StepNames.Of(test) : words[0] };
        foreach (var word in words.Skip(1))
        {
            if (said.Count == 1 && words[0] == Words.Of(Test.Leakage) && Known<LeakageKind>(word) is { } kind)
                said = [StepNames.Of(kind)];
            else if (word.StartsWith("part ", StringComparison.Ordinal))
                said[0] += $" {word[5..]}";
            else
                said.Add(InPlainWords.GetValueOrDefault(word, word));
        }
        return string.Join(", ", said);
    }

    private static readonly Dictionary<string, string> InPlainWords = new()
    {
        ["reversed"] = "reversed polarity",
        ["neutralOpen"] = "neutral open",
        ["earthOpen"] = "earth open",
        ["off"] = "device off",
        ["dc"] = "d.c.",
        ["cordAlone"] = "the mains lead alone",
        ["deviceAlone"] = "the device alone",
        ["mainsToAccessible"] = "to accessible parts",
        ["mainsToAppliedPart"] = "to the applied part",
    };

    private static T? Known<T>(string word)
        where T : struct, Enum
    {
        foreach (var value in Enum.GetValues<T>())
            if (Words.Of(value) == word)
                return value;
        return null;
    }

    private static string Variant(Conditions under) =>
        under switch
        {
            Conditions.Leakage leakage => Variant(leakage),
            Conditions.Insulation { Part: InsulationPart.CordAlone } => $"/{Words.Of(InsulationPart.CordAlone)}",
            Conditions.Insulation { Between: not Between.MainsToEarth and var between } => $"/{Words.Of(between)}",
            Conditions.RcdTrip trip => $"/{QuantityText.Number(trip.Multiple)}x/{trip.PhaseDeg}",
            Conditions.EarthContinuity earth => (earth.Path == EarthPath.Loop ? "/loop" : "")
                + (earth.Part == EarthPart.DeviceWithCord ? "" : $"/{Words.Of(earth.Part)}"),
            Conditions.Functional { Name: { } check } => $"/{check}",
            Conditions.DefibSync { Trigger: not SyncTrigger.RPeak and var trigger } => $"/{Words.Of(trigger)}",
            _ => "",
        };

    private static string Variant(Conditions.Leakage under)
    {
        var key = $"/{Words.Of(under.Kind)}";
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
        return key;
    }
}
