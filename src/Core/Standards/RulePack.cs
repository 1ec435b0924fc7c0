using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

public enum PackScope
{
    Appliances,
    Medical,
}

/// <summary>Whether a series of measurements must be there for a verdict.</summary>
public enum Need
{
    /// <summary>Each of its conditions.</summary>
    Required,

    /// <summary>At least one reading under any of its conditions.</summary>
    AnyCondition,

    /// <summary>It, or another series of the same group.</summary>
    OneOfGroup,

    /// <summary>Planned, but no verdict waits for it.</summary>
    Optional,
}

/// <summary>What a series is repeated for.</summary>
public enum Repeat
{
    Once,
    PerOutlet,
    PerAppliedPart,

    /// <summary>At each reachable earthed part the item names; once where it names none.</summary>
    PerEarthedPart,

    /// <summary>At each accessible part that is not earthed; once where the item names none.</summary>
    PerUnearthedPart,

    /// <summary>At each accessible part that is not earthed and has a name; not at all where none has.</summary>
    PerNamedUnearthedPart,

    /// <summary>On the chassis, and besides at each accessible part that is not earthed.</summary>
    ChassisAndUnearthedParts,

    /// <summary>For each applied part with two or more connections.</summary>
    PerConnectionPair,

    /// <summary>For each type of which the item has two or more applied parts, joined; named by the first of them.</summary>
    PerJoinedType,

    /// <summary>At each energy setting of a defibrillator.</summary>
    PerSetting,
}

/// <summary>Which policy of the client asks for a series that the standard leaves open.</summary>
public enum AskedBy
{
    Pack,

    /// <summary>Insulation of medical equipment, where the client or the maker wants it.</summary>
    MedicalInsulation,

    /// <summary>Insulation of a medical device's own mains lead alone.</summary>
    MedicalCordInsulation,

    /// <summary>Equipment leakage of what is permanently installed, unless the building's protective measures are tested
    /// regularly.</summary>
    PermanentLeakage,
}

/// <summary>
/// One run of measurements of a pack: the plan walks the series in order, the verdict asks which of them are there. Both read the same
/// rows, so that a plan cannot forget what a verdict will miss.
/// </summary>
/// <param name="Each">The conditions to measure under, in order; at least one.</param>
/// <param name="Satisfied">A reading of this pattern stands for all of <paramref name="Each"/>: the alternative method needs no second
/// polarity.</param>
/// <param name="Group">With <see cref="Need.OneOfGroup"/>: series of one group stand in for one another.</param>
/// <param name="Planned">False for evidence that is accepted but not asked for.</param>
/// <param name="Powered">The item runs on mains while it is measured.</param>
public sealed record Series(
    Test Test,
    ItemPattern Item,
    ReadingPattern Reading,
    ImmutableArray<ReadingPattern> Each,
    ReadingPattern? Satisfied,
    Need Need,
    string? Group,
    Repeat Repeat,
    bool Planned,
    bool Powered
)
{
    /// <summary>Which readings count as this series' evidence; wider than what is planned where a standard takes either kind of
    /// leakage.</summary>
    public required ReadingPattern Accepts { get; init; }

    public AskedBy AskedBy { get; init; }

    /// <summary>The conditions to plan, one for each of <see cref="Each"/>, by the direct method. What depends on a device's own settings
    /// is none of them: see <see cref="Repeat.PerSetting"/>.</summary>
    public ImmutableArray<Conditions> Planning => planning.IsDefault ? planning = [.. Each.Select(Of)] : planning;

    private ImmutableArray<Conditions> planning;

    private Conditions Of(ReadingPattern each) =>
        Test switch
        {
            // Leads plug into the instrument at both ends, so their earth is read end to end.
            Test.EarthContinuity => new Conditions.EarthContinuity { Part = Reading.Parts.First },
            Test.Insulation => new Conditions.Insulation(each.Between.First) { Part = each.InsulationParts.First },
            Test.Leakage => new Conditions.Leakage(Reading.Kinds.First)
            {
                Current = Reading.Currents.First,
                Polarity = each.Polarities.First,
                Neutral = each.Neutral.First,
                Earth = each.Earth.First,
                Power = each.Power.First,
            },
            Test.RcdTrip => new Conditions.RcdTrip(each.Multiple ?? 1, each.PhaseDeg ?? 0),
            Test.Polarity => new Conditions.Polarity(),
            Test.Wiring => new Conditions.Wiring(),
            Test.DefibCharge => new Conditions.DefibCharge(),
            Test.DefibSync => new Conditions.DefibSync(each.Triggers.First),
            Test.PadPath => new Conditions.PadPath(),
            _ => throw new InvalidOperationException($"{Test} is planned by what the device is set to, or by no pack."),
        };

    /// <summary>Whether it is made at the n-th repetition: with applied parts, for this one.</summary>
    public bool IsForPart(Item item, int n) =>
        Repeat switch
        {
            Repeat.PerAppliedPart => Reading.AppliedPartTypes.Has(item.AppliedParts[n].Type),
            Repeat.PerConnectionPair => item.AppliedParts[n].HasPairs && Reading.AppliedPartTypes.Has(item.AppliedParts[n].Type),
            Repeat.PerJoinedType => IsFirstOfSeveral(item.AppliedParts, n),
            _ => true,
        };

    private static bool IsFirstOfSeveral(ImmutableArray<AppliedPart> parts, int n)
    {
        var (before, all) = (0, 0);
        for (var at = 0; at < parts.Length; at++)
        {
            if (parts[at].Type != parts[n].Type)
                continue;
            all++;
            before += at < n ? 1 : 0;
        }
        return all >= 2 && before == 0;
    }

    public bool IsFor(Item item) =>
        item.Class == ProtectionClass.Undecided
            ? Item.Matches(item, ProtectionClass.I) || Item.Matches(item, ProtectionClass.II)
            : Item.Matches(item, item.Class);
}

/// <summary>A lead of this size should not be longer than this; longer asks for an RCD.</summary>
public sealed record CordLength(SquareMillimetres Size, Metres UpTo, string? Remark);

/// <summary>How often a portable RCD's button is pressed by its user and its trip time is measured, in general and by place.</summary>
public sealed record RcdIntervals(RcdInterval Usual, ImmutableDictionary<Equipment.Place, RcdInterval> ByPlace)
{
    /// <returns>Months to the trip time, and what the user does meanwhile.</returns>
    public (Period Trip, string UserCheck) For(Equipment.Place place)
    {
        var it = ByPlace.GetValueOrDefault(place, Usual);
        return (it.TripMonths, it.PushButton);
    }
}

/// <param name="PushButton">"push-button daily".</param>
public sealed record RcdInterval(Period TripMonths, string PushButton);

/// <summary>With what current a protective earth is judged.</summary>
/// <param name="DecidesFrom">A reading with less is undecided; null where the standard names none.</param>
/// <param name="AdvisedFrom">A reading with less is told; null where the standard names none.</param>
/// <param name="TimesRated">Or so many times the rated current, where that is more; 0 for none.</param>
/// <param name="OpenAtMost">Most voltage of the source while nothing is connected; null where the standard names none.</param>
public sealed record EarthCurrent(Amperes? DecidesFrom, Amperes? AdvisedFrom, double TimesRated, Volts? OpenAtMost)
{
    /// <summary>What is asked of the source; null where nothing is asked of its voltage.</summary>
    public string? Source { get; } =
        DecidesFrom is { } least && OpenAtMost is { } open
            ? $"at least {QuantityText.Number(least.Value * 1000)} mA, at most {QuantityText.Number(open.Value)} V open"
            : null;

    /// <returns>What is asked of this item and what was not reached; null where the current does.</returns>
    public (Amperes Asked, bool Decides)? NotReached(Amperes current, Amperes? rated)
    {
        if (DecidesFrom is { } least && !Comparison.AtLeast(current.Value, least.Value))
            return (least, true);
        if (AdvisedFrom is not { } advised)
            return null;
        var asked = new Amperes(Math.Max(advised.Value, TimesRated * (rated?.Value ?? 0)));
        return Comparison.AtLeast(current.Value, asked.Value) ? null : (asked, false);
    }
}

/// <summary>Which fuse a plug should carry when the maker's marking does not say.</summary>
/// <param name="LargestMade">No larger one is made for that plug: something else bridges the holder.</param>
public sealed record FuseRule(
    Watts SmallUpTo,
    Amperes Small,
    Amperes Large,
    SquareMillimetres ThinFlex,
    Amperes ThinFlexMost,
    Amperes LargestMade
)
{
    public string Text =>
        $"Up to {QuantityText.Number(SmallUpTo.Value)} W {QuantityText.Number(Small.Value)} A, above {QuantityText.Number(Large.Value)} A; the maker's marking wins. A flex of {QuantityText.Number(ThinFlex.Value)} mm² never behind more than {QuantityText.Number(ThinFlexMost.Value)} A.";
}

/// <summary>
/// A standard as data: every limit with its clause, and which measurements make a verdict. Read-only; saved records keep
/// <see cref="Id"/> and <see cref="Version"/> so that they still explain themselves in five years.
/// </summary>
public sealed record RulePack
{
    public required string Id { get; init; }

    /// <summary>Of this file, not of the standard.</summary>
    public required string Version { get; init; }
    public required string Title { get; init; }
    public required string Edition { get; init; }

    /// <summary>For screens, where the full name does not fit.</summary>
    public required string ShortName { get; init; }
    public required string Country { get; init; }
    public required PackScope Scope { get; init; }
    public required Volts Nominal { get; init; }

    /// <summary>Of mains; 0 is direct current, which a site may have and no standard supposes.</summary>
    public required double Hertz { get; init; }

    /// <summary>Mains in words: "230 V, 50 Hz", "110 V d.c.".</summary>
    public string Supply =>
        Hertz == 0
            ? $"{QuantityText.Number(Nominal.Value)} V d.c."
            : $"{QuantityText.Number(Nominal.Value)} V, {QuantityText.Number(Hertz)} Hz";

    /// <summary>Leakage is scaled to nominal mains times this.</summary>
    public required double ScaleTo { get; init; }

    /// <summary>"Device off" is a condition of its own, powered at the outlet, and not a switched-off mains part.</summary>
    public bool PowerOffIsACondition { get; init; }

    /// <summary>In the pack's order: the first row that matches counts.</summary>
    public required ImmutableArray<LimitRule> Limits
    {
        get;
        // Indexed as they are set, so that a copy with other limits can never keep the old index.
        init => (field, byTest) = (value, [.. Enum.GetValues<Test>().Select(test => value.Where(rule => rule.Test == test).ToArray())]);
    }

    public required ImmutableArray<Series> Series { get; init; }
    public ImmutableArray<FlexSize> Flex { get; init; } = [];

    /// <summary>Up to this length an appliance's own flex sheds its heat through both ends and carries more; null where the table does not
    /// say.</summary>
    public Metres? ShortFlex { get; init; }
    public ImmutableArray<CordLength> CordLengths { get; init; } = [];
    public FuseRule? Fuse { get; init; }

    /// <summary>What judging reckons with beside the limits: the common rules, with the organisation's figures over them.</summary>
    public Thresholds Thresholds { get; init; } = Thresholds.Shipped;

    /// <summary>The trade's words where this standard is at home.</summary>
    public Dialect Dialect { get; init; } = Dialect.Plain;

    /// <summary>With what current it has a protective earth judged; null where it names none.</summary>
    public EarthCurrent? EarthCurrent { get; init; }

    /// <summary>Where a flex is moved while its earth is read; null for all along it.</summary>
    public string? FlexedAt { get; init; }

    /// <summary>Counts the changes of the organisation's house limits; 0 where none apply. Kept with every judged record.</summary>
    public int HouseRevision { get; init; }

    /// <summary>Version of the pack with the house limits that tightened it: "1.0.0", "1.0.0+house.3".</summary>
    public string FullVersion => HouseRevision == 0 ? Version : $"{Version}+house.{HouseRevision}";

    /// <summary>Combined intervals by place that replace the common table, in months.</summary>
    public ImmutableDictionary<Equipment.Place, Period> CombinedByPlace { get; init; } = ImmutableDictionary<Equipment.Place, Period>.Empty;

    /// <summary>Portable RCDs where the standard treats them apart; null where they follow the table.</summary>
    public RcdIntervals? RcdIntervals { get; init; }

    /// <summary>Title and edition, as papers name it.</summary>
    public string FullName => $"{Title}, {Edition}";

    /// <summary>Nominal voltage leakage is scaled to for this item, before <see cref="ScaleTo"/>.</summary>
    public Volts NominalFor(Item item) => item.NominalMains ?? ToNeutral(item) ?? Nominal;

    /// <summary>A three-phase plate gives the voltage between lines; leakage flows to earth from each line alone.</summary>
    private static Volts? ToNeutral(Item item) =>
        item is { Phases: 3, RatedVoltage: { } lines } ? new Volts(lines.Value / Math.Sqrt(3)) : item.RatedVoltage;

    /// <summary>
    /// The limit for a reading or a planned step: the first row that matches, worked out for the item. For an undecided class the
    /// stricter of
    /// its class I and class II rows. Null when the pack has none.
    /// </summary>
    public ResolvedLimit? LimitFor(Item item, Conditions under)
    {
        if (item.Class != ProtectionClass.Undecided)
            return LimitAs(item, item.Class, under);
        var asOne = LimitAs(item, ProtectionClass.I, under);
        var asTwo = LimitAs(item, ProtectionClass.II, under);
        if (asOne?.Value is not { } one)
            return asTwo;
        if (asTwo?.Value is not { } two)
            return asOne;
        return (asOne.IsFloor ? one.Si >= two.Si : one.Si <= two.Si) ? asOne : asTwo;
    }

    private ResolvedLimit? LimitAs(Item item, ProtectionClass itemClass, Conditions under)
    {
        var partType = PartType(item, under);
        foreach (var rule in byTest[(int)under.Test])
        {
            if (rule.Item.Matches(item, itemClass) && rule.Reading.Matches(under, partType))
                return Resolve(rule, item, under);
        }
        return null;
    }

    private static AppliedPartType? PartType(Item item, Conditions under)
    {
        AppliedPartType? type = null;
        foreach (var part in item.AppliedParts)
        {
            if (under.AppliedPart is { } name ? part.Name == name : true)
                type = type is null || part.Type > type ? part.Type : type;
        }
        return type;
    }

    private ResolvedLimit Resolve(LimitRule rule, Item item, Conditions under)
    {
        var plain = rule.Formula switch
        {
            Formula.Fixed it => new ResolvedLimit(this, rule, it.Value, it.Value),
            Formula.PlusConductor it => WithConductor(rule, it, item),
            Formula.ByLength it => new ResolvedLimit(this, rule, ByLength(it, item.Cord?.Length), it.Base)
            {
                Amount = item.Cord?.Length?.Value,
            },
            Formula.PerKilowatt it => new ResolvedLimit(this, rule, PerKilowatt(it, item.RatedPower), it.PerKw)
            {
                Amount = item.RatedPower?.Value / 1000,
            },
            Formula.Deviation it => new ResolvedLimit(
                this,
                rule,
                it.Floor with
                {
                    Si = Math.Max(it.Floor.Si, it.Fraction * (under.Set?.Si ?? 0)),
                },
                it.Floor
            ),
            _ => new ResolvedLimit(this, rule, null),
        };
        if (item.RcdOwnTrip is { } ownTrip && under is Conditions.RcdTrip { Multiple: 1 })
            plain = WithOwnTrip(plain, ownTrip);
        if (rule.House is { } house)
            plain = Tightened(plain, house);
        if (under is not Conditions.EarthContinuity { Path: EarthPath.Loop })
            return plain;
        var line = ConductorResistance.Of(item.Cord, this);
        return line is null || plain.Value is not { } value
            ? plain
            : plain with
            {
                Value = value with { Si = value.Si + line.Value.Value },
                Standard = plain.Standard is { } own ? own with { Si = own.Si + line.Value.Value } : null,
                LoopConductor = line,
            };
    }

    /// <summary>An RCD trips as its own standard allows: a stricter one wins, a slower one only as far as the row lets it.</summary>
    private static ResolvedLimit WithOwnTrip(ResolvedLimit plain, Seconds own)
    {
        if (plain.Value is not { } row)
            return plain;
        var allowed = Math.Min(own.Value, plain.Rule.OwnUpTo?.Si ?? row.Si);
        return allowed == row.Si ? plain : plain with { Value = row with { Si = allowed }, OwnTrip = row with { Si = allowed } };
    }

    /// <summary>The house limit where it is the stricter one. On a row with an allowance for the conductor it replaces the plain value
    /// under the allowance.</summary>
    private static ResolvedLimit Tightened(ResolvedLimit plain, HouseLimit house)
    {
        if (plain.Value is not { } own)
            return plain;
        var bound = house.Bound.Si + (plain.Rule.Formula is Formula.PlusConductor ? plain.Conductor?.Value.Value ?? 0 : 0);
        var tighter = plain.IsFloor ? bound > own.Si : bound < own.Si;
        return tighter ? plain with { Value = own with { Si = bound }, Standard = own } : plain;
    }

    private ResolvedLimit WithConductor(LimitRule rule, Formula.PlusConductor formula, Item item)
    {
        var conductor = ConductorResistance.Of(item.Cord, this);
        return new(this, rule, conductor is { } r ? formula.Base + r.Value : formula.Base, formula.Base, conductor);
    }

    private static Quantity ByLength(Formula.ByLength it, Metres? length)
    {
        var beyond = (length?.Value ?? 0) - it.UpTo.Value;
        // 12.5 m is exactly one stretch: rounding noise must not begin a second one.
        var stretches = beyond <= 0 ? 0 : Math.Ceiling(beyond / it.Stretch.Value - 1e-9);
        return new Ohms(Math.Min(it.Ceiling.Value, it.Base.Value + stretches * it.Step.Value));
    }

    private static Quantity PerKilowatt(Formula.PerKilowatt it, Watts? power) =>
        it.PerKw with
        {
            Si = Math.Min(it.Ceiling.Si, Math.Max(it.Floor?.Si ?? 0, it.PerKw.Si * (power?.Value ?? 0) / 1000)),
        };

    private readonly LimitRule[][] byTest = [];
}
