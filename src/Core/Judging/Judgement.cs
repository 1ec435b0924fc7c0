using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

public enum Status
{
    Pass,
    Fail,
    Undecided,
    Void,
}

/// <summary>What kept a reading from being compared plainly, or decided it without a comparison.</summary>
public enum Because
{
    Compared,
    Voided,
    NoLimit,
    NullIsStale,
    BoundSaysNothing,
    MainsOutOfRange,
    SwitchedOff,
    SuppressorConducts,
    TooCloseForInstrument,
    ClassInDoubt,

    /// <summary>An open earth while the class is not known.</summary>
    ClassAsked,

    /// <summary>Nothing flows at one connection while something flows at the others.</summary>
    SilentConnection,

    /// <summary>One connection was measured where all of the part are joined.</summary>
    OneConnection,

    /// <summary>It would pass and cannot be: see <see cref="Judgement.Doubt"/>.</summary>
    Contradicts,

    /// <summary>An instrument failed here and nobody saved it: only an instrument decides.</summary>
    FailedHere,

    /// <summary>A charge was timed before the discharges that tire it.</summary>
    NotTired,
    Tripped,
    DidNotTrip,
    Good,
    Bad,
}

/// <summary>A reading held against its limit, with everything needed to redo the arithmetic by hand.</summary>
/// <param name="Value">What was compared, in SI: nulled, scaled. Null where there was no number to compare.</param>
/// <param name="ScaledFrom">Nominal and measured mains when the reading was scaled.</param>
/// <param name="Uncertainty">Instrument's u in SI, 0 under the simple decision rule.</param>
/// <param name="NeverSatisfies">A dead reading behind an electronic switch, a borrowed limit, or no limit at all: judged, but no step
/// counts as done by it.</param>
public sealed record Judgement(
    Reading Reading,
    Status Status,
    Because Because,
    ResolvedLimit? Limit,
    Quantity? Value,
    (Volts To, Volts From)? ScaledFrom = null,
    double Uncertainty = 0,
    bool NeverSatisfies = false
)
{
    /// <summary>What it contradicts; null where it was decided, or is undecided for another reason.</summary>
    public Doubt? Doubt { get; init; }

    /// <summary>What the comparison had said where a lead overrode it; null otherwise.</summary>
    public Status? Overridden { get; init; }

    /// <summary>Whose window the mains voltage lay outside of; null where it did not.</summary>
    public Thresholds? OutsideWindowOf { get; init; }

    /// <summary>Share of the limit that is used up: value / limit, or limit / value for a floor. Null for bounds and where there is
    /// nothing to divide.</summary>
    public double? Use
    {
        get
        {
            if (Status == Status.Void || Value is not { } value || Limit?.Value is not { } limit || Reading.Value is { IsBound: true })
                return null;
            var (part, whole) = Limit.Comparator switch
            {
                Comparator.NotLessThan => (limit.Si, value.Si),
                Comparator.Within => (Math.Abs(value.Si - (Reading.Under.Set?.Si ?? 0)), limit.Si),
                _ => (value.Si, limit.Si),
            };
            return whole > 0 && part >= 0 && part / whole is var use && double.IsFinite(use) ? use : null;
        }
    }

    /// <summary>From 90 % of the limit to the limit itself, or from what the house says.</summary>
    public bool NearLimit =>
        Status is Status.Pass or Status.Undecided
        && Use is { } use
        && Comparison.AtLeast(use, Limit!.Pack.Thresholds.NearLimit)
        && Comparison.AtMost(use, 1);

    /// <summary>Decided against a limit of its own pack, so that a required step is done by it.</summary>
    public bool Settles => Status is Status.Pass or Status.Fail && !NeverSatisfies;

    /// <summary>The lines a person could redo with a pencil.</summary>
    public IReadOnlyList<string> Working => WorkingText.Of(this);
}
