using System.Collections.Frozen;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Diagnosis;

/// <summary>What was read of one item, indexed once: every reading is looked at beside the others.</summary>
internal sealed class Surroundings(InspectionFacts facts, Assessment assessment, SessionFacts session)
{
    private readonly ILookup<Conditions, Judgement> counting = assessment
        .Results.Where(it => it.Status != Status.Void && it.Value is not null)
        .ToLookup(it => it.Reading.Under);

    private Dictionary<Conditions, double>? lowestEarth;
    private bool? insulationUnchanged;

    public InspectionFacts Facts => facts;
    public Assessment Assessment => assessment;
    public SessionFacts Session => session;

    /// <summary>Readings that count, taken under one condition.</summary>
    public IEnumerable<Judgement> Under(Conditions under) => counting[under];

    public IEnumerable<Judgement> Counting => counting.SelectMany(group => group);

    /// <summary>The least earth reading under each condition, in ohm; bounds left out.</summary>
    public Dictionary<Conditions, double> LowestEarth =>
        lowestEarth ??= counting
            .Where(group => group.Key is Conditions.EarthContinuity)
            .Select(group =>
                (group.Key, Values: group.Where(it => it.Reading.Value is { IsBound: false }).Select(Assessment.LowestOf).ToArray())
            )
            .Where(group => group.Values.Length > 0)
            .ToDictionary(group => group.Key, group => group.Values.Min());

    public bool InsulationUnchanged(Func<Judgement, bool> isUnchanged) =>
        insulationUnchanged ??=
            Counting.Where(it => it.Reading.Test == Test.Insulation).ToArray() is { Length: > 0 } now && now.All(isUnchanged);
}

/// <summary>One judged reading in its surroundings, as the signs look at it. <see cref="It"/> is null for signs of the whole
/// session.</summary>
internal sealed record Scene(Surroundings Around, Judgement? It)
{
    public InspectionFacts Facts => Around.Facts;
    public Assessment Assessment => Around.Assessment;
    public SessionFacts Session => Around.Session;
    public Item Item => Facts.Item;
    public Reading Reading => It!.Reading;

    /// <summary>Of a leakage reading; null for every other.</summary>
    public Conditions.Leakage? Leakage => Reading.Under as Conditions.Leakage;
    public double Si => It!.Value?.Si ?? 0;
}

/// <summary>The signs that signatures are made of: small predicates over a reading, its item and what else was read.</summary>
internal static class Signs
{
    private static readonly FrozenDictionary<string, Func<Scene, bool>> OfReading = new Dictionary<string, Func<Scene, bool>>
    {
        ["earth"] = s => s.Reading.Test == Test.EarthContinuity,
        ["insulation"] = s => s.Reading.Test == Test.Insulation,
        ["leakage"] = s => s.Reading.Test == Test.Leakage,
        ["wiring"] = s => s.Reading.Test is Test.Polarity or Test.Wiring,
        ["caseLeakage"] = s => s.Leakage is { Kind: LeakageKind.Touch },
        ["patientLeakage"] = s => OnPatient(s.Reading),
        ["failed"] = s => s.It!.Status == Status.Fail,
        ["lead"] = s => s.Item.IsCord,
        ["notLead"] = s => !s.Item.IsCord,
        ["mainsItem"] = s =>
            s.Item.Kind is ItemKind.Appliance or ItemKind.MedicalDevice or ItemKind.MedicalSystem
            && s.Item.Class is not (ProtectionClass.III or ProtectionClass.Internal),
        ["classTwo"] = s => s.Item.Class is ProtectionClass.II or ProtectionClass.IIFunctionalEarth,
        ["heating"] = s => s.Item.Heating,
        ["notHeating"] = s => !s.Item.Heating,
        ["surgeProtected"] = s => s.Item.SurgeProtected,
        ["nothingToProbe"] = s => s.Item.AllInsulated,
        ["noLoadCurrent"] = NoLoadCurrent,
        ["openEarth"] = s => s.Reading.Value is { Qualifier: Qualifier.Above } || s.Si >= Signature.Threshold("open-earth"),
        ["explainedByFlex"] = ExplainedByFlex,
        ["flexEntered"] = s => s.Item.IsHardWired || s.Item.Cord is { Length: not null, Conductor: not null },
        ["flexNotEntered"] = s => !s.Item.IsHardWired && s.Item.Cord is not { Length: not null, Conductor: not null },
        ["variesWithFlex"] = VariesWithFlex,
        ["classInDoubt"] = s => s.It!.Because == Because.ClassInDoubt,
        ["suppressorConducts"] = s => s.It!.Because == Because.SuppressorConducts,
        ["low"] = s => s.It!.Status == Status.Fail,
        ["offScaleHigh"] = s => s.Reading.Value is { Qualifier: Qualifier.Above },
        ["foundShort"] = s => IsFound(s, ConductorFault.ShortCircuit, Test.Wiring),
        ["foundOpen"] = s => IsFound(s, ConductorFault.Open, Test.Wiring),
        ["foundCrossed"] = s => IsFound(s, ConductorFault.Crossed, Test.Polarity),
        ["earthIsOpen"] = s => s.Leakage is { Earth: ConductorState.Open },
        ["fallsOpeningEarth"] = s =>
            Twin(s, it => it with { Earth = ConductorState.Closed }) is { } closed
            && s.Si < closed * Signature.Threshold("earth-open-fall"),
        ["jumpsOpeningEarth"] = s =>
            Twin(s, it => it with { Earth = ConductorState.Closed }) is { } closed
            && s.Si > closed * Signature.Threshold("earth-open-rise"),
        ["higherInThisPolarity"] = s =>
            Twin(s, it => it with { Polarity = it.Polarity == MainsPolarity.Normal ? MainsPolarity.Reversed : MainsPolarity.Normal })
                is { } other
            && other > 0
            && s.Si > other * Signature.Threshold("polarity-ratio"),
        ["grewSinceReference"] = s =>
            Reference(s, s.It!) is { } reference && reference > 0 && s.Si >= reference * Signature.Threshold("growth"),
        ["insulationUnchanged"] = InsulationUnchanged,
        ["zeroOnEvery"] = ZeroOnEvery,
        ["negative"] = s => s.It!.Because == Because.NullIsStale,
    }.ToFrozenDictionary();

    private static readonly FrozenDictionary<string, Func<Scene, bool>> OfSession = new Dictionary<string, Func<Scene, bool>>
    {
        ["buildingRcdTripped"] = s => s.Session.BuildingRcdTripped,
        ["sameOffsetToday"] = s => SameOffset(s.Session),
    }.ToFrozenDictionary();

    public static bool Knows(string sign) => OfReading.ContainsKey(sign) || OfSession.ContainsKey(sign);

    /// <summary>Signatures of the whole session speak of no single reading.</summary>
    public static bool IsOfSession(Signature signature) => signature.When.All(OfSession.ContainsKey);

    public static bool Shows(Signature signature, Scene scene) =>
        signature.When.All(sign =>
            OfSession.TryGetValue(sign, out var ofSession) ? ofSession(scene) : scene.It is not null && OfReading[sign](scene)
        );

    /// <summary>Nothing flows where something should: with the neutral open nothing can, and behind an electronic switch nothing does while
    /// it is dead.</summary>
    private static bool NoLoadCurrent(Scene s) =>
        s.Reading.Load is { Value: 0 }
        && s.Leakage is not { Neutral: ConductorState.Open }
        && !(
            s.Item.SwitchHidesMains
            && (s.Reading.Under is Conditions.Insulation or Conditions.Leakage { Method: LeakageMethod.Alternative })
        );

    /// <summary>Over its limit by less than a conductor that was not allowed for: the item's own flex, or an unknown one.</summary>
    private static bool ExplainedByFlex(Scene s)
    {
        if (s.It!.Limit is not { Value: { } limit } resolved || s.Reading.Value is not { IsBound: false })
            return false;
        var flex = resolved.Conductor is not null
            ? 0
            : ConductorResistance.Of(s.Item.Cord, s.Facts.Pack)?.Value.Value
                ?? (s.Item.IsHardWired ? 0 : Signature.Threshold("unknown-flex"));
        var lead = s.Reading is Reading.EarthContinuity { Null.Value: 0 } ? Signature.Threshold("lead-not-nulled") : 0;
        return s.Si - limit.Si < flex + lead;
    }

    private static bool VariesWithFlex(Scene s) =>
        s.Reading.Value is { IsBound: false }
        && s.Around.LowestEarth.TryGetValue(s.Reading.Under, out var lowest)
        && Comparison.Above(s.Si - lowest, s.Facts.Pack.Thresholds.FlexSpread.Value);

    private static bool InsulationUnchanged(Scene s) =>
        s.Around.InsulationUnchanged(it =>
            it.Status == Status.Pass
            && (
                it.Reading.Value is { Qualifier: Qualifier.Above }
                || Reference(s, it) is not { } reference
                || it.Value!.Value.Si >= reference * Signature.Threshold("unchanged-insulation")
            )
        );

    private static bool ZeroOnEvery(Scene s)
    {
        var all = s.Assessment.Results.Where(it => it.Status != Status.Void && OnPatient(it.Reading)).ToArray();
        return all.Length > 1 && all.All(it => it.Value is { Si: 0 });
    }

    private static bool OnPatient(Reading reading) =>
        reading.Under is Conditions.Leakage { Kind: var kind }
        && kind
            is LeakageKind.AppliedPart
                or LeakageKind.Patient
                or LeakageKind.TotalPatient
                or LeakageKind.PatientAuxiliary
                or LeakageKind.LeadToGround
                or LeakageKind.LeadToLead;

    private static bool SameOffset(SessionFacts session)
    {
        if (session.EarthOffsets.Length < Signature.Threshold("least-items"))
            return false;
        var mean = session.EarthOffsets.Average();
        return Math.Abs(mean) >= Signature.Threshold("least-offset")
            && session.EarthOffsets.All(offset => Math.Abs(offset - mean) <= Signature.Threshold("same-offset"));
    }

    /// <summary>The same measurement under another condition, in SI; null when it was not made.</summary>
    private static double? Twin(Scene s, Func<Conditions.Leakage, Conditions> other) =>
        s.Leakage is { } own && other(own) is var under
            ? s.Around.Under(under).FirstOrDefault(it => !ReferenceEquals(it, s.It))?.Value?.Si
            : null;

    /// <summary>Where the tester only said "bad", everything it could have been is named.</summary>
    private static bool IsFound(Scene s, ConductorFault fault, Test saidBy) =>
        s.Reading is Reading.Conductors conductors && (conductors.Found == fault || (conductors.Found is null && s.Reading.Test == saidBy));

    /// <summary>The first value of the same measurement, or the first after the last repair.</summary>
    private static double? Reference(Scene s, Judgement it) =>
        Trend.For(s.Facts, it, s.Facts.TestDate ?? DateOnly.MaxValue) is { } trend ? it.Value!.Value.Si - trend.SinceReference.Si : null;
}
