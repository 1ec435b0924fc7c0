using System.Collections.Immutable;
using System.Text.Json.Serialization;
using Osierwand.Core.Kit;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>The instrument in hand. All of it comes from the server; a page cannot say it.</summary>
/// <param name="Functions">Contract words: "insulation", "leakage/touch". What it says itself while it answers; not part of the ruling's
/// fingerprint.</param>
/// <param name="Trouble">Why it may not be used: out of calibration.</param>
/// <param name="Connected">It answers on its line now. Not part of the ruling's fingerprint.</param>
public sealed record KitInHand(
    Guid Id,
    string Name,
    string Serial,
    DateOnly CalibrationDue,
    string TestLeadName,
    double? NullOhm,
    DateTimeOffset? NulledAt,
    ImmutableArray<string> Functions,
    ImmutableArray<StatedAccuracy> Accuracies,
    string? Trouble,
    bool Connected
)
{
    /// <summary>Leads, probes, indicators and what else was chosen for the day with it.</summary>
    public ImmutableArray<KitPiece> Pieces
    {
        get;
        // A draft that an older page kept says nothing of them.
        init => field = value.IsDefault ? [] : value;
    } = [];

    /// <summary>Its last daily check; null where none is kept.</summary>
    public KitChecked? Checked { get; init; }

    /// <summary>It subtracts the null by itself: what its display shows is net. Otherwise what is typed is the raw figure.</summary>
    public bool NullsItself { get; init; } = true;

    /// <summary>The test lead was never nulled, or too long ago, or its null hides a bad lead: it is nulled before the next earth
    /// reading.</summary>
    public bool AsksForNull { get; init; }

    /// <summary>Worth telling before it is used; it may be used all the same.</summary>
    public string? Warning { get; init; }

    /// <summary>What it is: an appliance tester or safety analyser, or, where none was chosen, the meter.</summary>
    public KitKind Kind { get; init; } = KitKind.Instrument;

    /// <summary>The performance analyser chosen beside it; null where there is none.</summary>
    public KitInHand? Analyser
    {
        get;
        // A record that is older than kinds says nothing of them.
        init => field = value is null ? null : value with { Kind = KitKind.PerformanceAnalyser };
    }

    /// <summary>The meter with two probes chosen beside an appliance tester; null where there is none.</summary>
    public KitInHand? Meter { get; init; }

    /// <summary>The leakage clamp chosen beside it; null where there is none.</summary>
    public KitInHand? Clamp { get; init; }

    /// <summary>All that measures: itself, then what was chosen beside it.</summary>
    [JsonIgnore]
    public IEnumerable<KitInHand> All => new[] { this, Meter, Clamp, Analyser }.OfType<KitInHand>();

    /// <summary>Without what an instrument says of itself while it answers.</summary>
    internal KitInHand Steady =>
        this with
        {
            Connected = false,
            Functions = [],
            AsksForNull = false,
            Meter = Meter?.Steady,
            Clamp = Clamp?.Steady,
            Analyser = Analyser?.Steady,
        };

    /// <summary>What it measures is known, by itself or by its maker, and this is not among it.</summary>
    public bool IsKnownToLack(Test test) => !(Functions.IsEmpty && Accuracies.IsEmpty) && !Has(test);

    /// <summary>It measures this, as far as it says so itself or its maker does.</summary>
    public bool Has(Test test) =>
        Functions.Any(function => function == Words.Of(test) || function.StartsWith($"{Words.Of(test)}/", StringComparison.Ordinal))
        || Accuracies.Any(stated => stated.Test == test);

    /// <summary>Null where nobody chose a kit for the day.</summary>
    [JsonIgnore]
    public KitInHand? Chosen => Id == Guid.Empty ? null : this;

    /// <summary>What stands in a ruling of somebody who chose none.</summary>
    public static readonly KitInHand NotChosen = new(
        Guid.Empty,
        "No kit",
        "",
        default,
        "",
        null,
        null,
        [],
        [],
        "No kit is chosen for today: a reading needs the instrument that took it. Choose it under Kit.",
        false
    );
}

/// <summary>A thing chosen for the day beside the instrument.</summary>
/// <param name="Trouble">Why it may not be used for what it is for; null where it may.</param>
public sealed record KitPiece(
    Guid Id,
    KitKind Kind,
    string Name,
    string? Serial,
    InstallationCategory? Category,
    KitFitness Fitness,
    DateOnly? CalibrationDue,
    string? Trouble
);

/// <param name="Lines">Each line as it was read, a sentence each.</param>
public sealed record KitChecked(DateTimeOffset At, string By, string CheckBox, bool IsGood, ImmutableArray<string> Lines);

/// <summary>What the maker states for one test and range: ± (percent of reading + digits of resolution), all in the unit.</summary>
/// <param name="From">Beginning of the range it is stated for; null from nothing.</param>
/// <param name="To">End of the range; null without end.</param>
/// <param name="TestCurrentA">Of an earth test, in ampere; null where it is not stated.</param>
public sealed record StatedAccuracy(
    Test Test,
    double Percent,
    double Digits,
    double Resolution,
    string Unit,
    double? From = null,
    double? To = null,
    double? TestCurrentA = null
)
{
    /// <summary>As far as it decides whether the instrument is fine enough.</summary>
    public InstrumentFunction AsFunction() =>
        new(
            Test,
            Quantities.Unit.Find(Unit) is { } unit ? new(Resolution * unit.Factor, unit.Dimension) : null,
            TestCurrentA is { } amperes ? new(amperes) : null
        );
}
