using Osierwand.Core.Kit;

namespace Osierwand.Store.Entities;

/// <summary>A thing of the kit: an instrument, a lead, an indicator, a check box.</summary>
public sealed class KitItem
{
    public Guid Id { get; set; }
    public KitKind Kind { get; set; }

    /// <summary>By which it is named at the bench and in records; no two of a house share one.</summary>
    public required string Name { get; set; }
    public string? Maker { get; set; }
    public string? Model { get; set; }

    /// <summary>Of an instrument on a line: by it the line knows it again.</summary>
    public string? Serial { get; set; }
    public DateOnly? CalibratedOn { get; set; }

    /// <summary>Of instruments and check boxes, which are not used without; of others where they have one.</summary>
    public DateOnly? CalibrationDue { get; set; }
    public string? Certificate { get; set; }

    /// <summary>As marked on it; null where no mark is legible.</summary>
    public InstallationCategory? Category { get; set; }
    public string? ProductStandard { get; set; }

    /// <summary>Of an instrument: what its display shows of an earth path is net of its lead.</summary>
    public bool NullsItself { get; set; } = true;

    /// <summary>Resistance of a test lead, subtracted from earth readings; null until it was measured.</summary>
    public double? NullOhm { get; set; }
    public DateTimeOffset? NulledAt { get; set; }

    /// <summary>What an instrument's maker states, by test and range: JSON of <see cref="Core.Bench.StatedAccuracy"/>.</summary>
    public string Accuracies { get; set; } = "[]";

    /// <summary>What a check box shows at its terminals: JSON of <see cref="Core.Kit.StatedValue"/>.</summary>
    public string StatedValues { get; set; } = "[]";

    /// <summary>The last look before use.</summary>
    public DateTimeOffset? LookedAt { get; set; }
    public KitFitness? LookFitness { get; set; }
    public string[] LookLines { get; set; } = [];

    /// <summary>The last daily check, and the drift that it showed.</summary>
    public DateTimeOffset? CheckedAt { get; set; }
    public string? CheckedBy { get; set; }
    public string? CheckedWith { get; set; }
    public string? CheckTrouble { get; set; }
    public string[] CheckLines { get; set; } = [];
    public string[] Drifts { get; set; } = [];
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>What decides whether it may be used.</summary>
    public KitFacts Facts() =>
        new(
            Kind,
            CalibrationDue,
            RetiredAt is not null,
            LookedAt is { } looked && LookFitness is { } fitness ? (looked, new(fitness, [.. LookLines])) : null,
            CheckedAt is { } at ? (at, CheckTrouble) : null,
            [.. Drifts]
        );
}

/// <summary>What kind of check of a thing of the kit was made.</summary>
public enum KitCheckKind
{
    Look,
    Daily,
    Null,
}

/// <summary>One check of a thing of the kit. Never edited.</summary>
public sealed class KitCheck
{
    public Guid Id { get; set; }
    public Guid KitItemId { get; set; }
    public KitItem KitItem { get; set; } = null!;
    public KitCheckKind Kind { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid PersonId { get; set; }
    public required string Person { get; set; }
    public bool IsGood { get; set; }

    /// <summary>The check box that it was checked with.</summary>
    public Guid? CheckBoxId { get; set; }

    /// <summary>What was found, a sentence each.</summary>
    public string[] Lines { get; set; } = [];

    /// <summary>Answers or lines as they were judged, as JSON.</summary>
    public required string Result { get; set; }
}

/// <summary>What one person chose to work with; it holds for a working day.</summary>
public sealed class KitOfDay
{
    public Guid PersonId { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid[] Items { get; set; } = [];
}

/// <summary>A record that a lead looks at again. The record itself is never changed.</summary>
public sealed class ReviewFlag
{
    public Guid Id { get; set; }
    public Guid InspectionId { get; set; }
    public Inspection Inspection { get; set; } = null!;

    /// <summary>The check that gave rise to it.</summary>
    public Guid KitCheckId { get; set; }
    public DateTimeOffset At { get; set; }
    public required string Why { get; set; }

    /// <summary>Null until a lead has looked at it.</summary>
    public string? SeenBy { get; set; }
    public DateTimeOffset? SeenAt { get; set; }

    /// <summary>What the lead decided, in words.</summary>
    public string? Decision { get; set; }
}
