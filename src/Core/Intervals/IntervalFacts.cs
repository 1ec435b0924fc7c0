using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Intervals;

public enum Usage
{
    Normal,

    /// <summary>Less than monthly.</summary>
    Rare,

    /// <summary>All day.</summary>
    Constant,
}

public enum Moved
{
    Sometimes,
    Never,
    Daily,
}

public enum Users
{
    Trained,
    Unknown,
}

/// <summary>An earlier combined test, as far as the interval asks.</summary>
public sealed record PastTest(DateOnly Date, Verdict Verdict, bool NearLimit = false, bool Rising = false, bool IsClean = true);

/// <summary>Everything that decides when an item is looked at and tested next.</summary>
public sealed record IntervalFacts
{
    public required RulePack Pack { get; init; }
    public required Place Place { get; init; }
    public UseOf Use { get; init; } = UseOf.Portable;
    public ProtectionClass Class { get; init; }
    public ItemKind Kind { get; init; }
    public bool AllInsulated { get; init; }
    public Usage Usage { get; init; }
    public Moved Moved { get; init; }
    public Users Users { get; init; }

    /// <summary>Newest last.</summary>
    public ImmutableArray<PastTest> History { get; init; } = [];

    /// <summary>By which it fell due now; null where it is not known.</summary>
    public Period? InForce { get; init; }
    public bool OverLife { get; init; }

    /// <summary>What a lead decided for its whole group by the evidence; null where nothing was decided.</summary>
    public GroupStep? Group { get; init; }

    /// <summary>Dropped, wet, moved house: due at once.</summary>
    public bool HarshEvent { get; init; }
    public ClassIIPolicy ClassII { get; init; }

    /// <summary>The client's or insurer's fixed interval.</summary>
    public Period? Cap { get; init; }
    public required DateOnly TestDate { get; init; }
    public Period? Maker { get; init; }
    public AppliedPartType? AppliedPart { get; init; }
    public bool LifeSupporting { get; init; }
    public bool EmergencyTransport { get; init; }
    public bool PatientContact { get; init; }

    /// <summary>It has performance to check beside its electrical safety.</summary>
    public bool Defibrillator { get; init; }

    /// <summary>Repaired since: tested before it returns to use, whatever the months say.</summary>
    public bool Repaired { get; init; }

    public bool IsMedical => Pack.Scope == PackScope.Medical || Place == Place.Medical;

    /// <summary>Its combined tier adds nothing; the formal visual carries the date.</summary>
    public bool LooksOnly =>
        !IsMedical
        && ScopeOf.LooksOnly(
            new() { ClassII = ClassII },
            new()
            {
                Kind = Kind,
                Class = Class,
                Use = Use,
                AllInsulated = AllInsulated,
            },
            Pack
        );
}

/// <summary>A lead's decision for all items of one kind in one kind of place.</summary>
/// <param name="Steps">On the ladder: below 0 shorter, above 0 longer.</param>
/// <param name="Because">By what and whom, without the step: it becomes a because-line.</param>
public sealed record GroupStep(int Steps, string Because)
{
    /// <summary>"…, decided by Maud: one step shorter".</summary>
    public string Line =>
        $"{Because}: {(Math.Abs(Steps) == 1 ? "one step" : $"{Math.Abs(Steps)} steps")} {(Steps > 0 ? "longer" : "shorter")}";
}

public enum DecidedBy
{
    Computed,
    Cap,
    Maker,
    Event,

    /// <summary>Chosen at the bench, with a reason.</summary>
    Person,
}

/// <summary>The next dates and why.</summary>
/// <param name="UserCheck">"before use", "weekly", "none", "each issue".</param>
/// <param name="Combined">Null when the item is looked at only.</param>
/// <param name="Because">One line a step, in the order they were taken.</param>
public sealed record Interval(
    string UserCheck,
    Period Visual,
    Period? Combined,
    DateOnly Due,
    DateOnly VisualDue,
    ImmutableArray<string> Because,
    DecidedBy DecidedBy
)
{
    /// <summary>Until the next performance check of a defibrillator; null for everything else.</summary>
    public Period? Performance { get; init; }
}
