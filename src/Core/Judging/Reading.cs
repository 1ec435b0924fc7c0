using System.Text.Json.Serialization;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Judging;

/// <summary>An instrument's stated accuracy for one reading: ±(percent of reading + digits of resolution).</summary>
/// <param name="Percent">Of the reading.</param>
/// <param name="Digits">Counts of the last digit.</param>
/// <param name="Resolution">One count, in the reading's own unit.</param>
public readonly record struct Accuracy(double Percent, double Digits, double Resolution)
{
    /// <summary>The uncertainty of a reading in its own unit.</summary>
    public double Of(double number) => Math.Abs(number) * Percent / 100 + Digits * Resolution;
}

/// <summary>What is wrong with a lead's conductors.</summary>
public enum LeadFault
{
    [JsonStringEnumMemberName("short")]
    ShortCircuit,
    Open,
    Crossed,
}

/// <summary>One reading as it was taken. Nothing here is judged yet.</summary>
public sealed record Reading
{
    public required Test Test { get; init; }
    public Conditions Under { get; init; } = Conditions.Usual;

    /// <summary>As run sheets and papers print it.</summary>
    public string Name => Planning.StepNames.Of(Test, Under);

    /// <summary>Null for tests answered with good or bad, and for an RCD that did not trip.</summary>
    public Measured? Value { get; init; }

    /// <summary>For polarity, wiring and functional.</summary>
    public bool? Ok { get; init; }

    /// <summary>For an RCD trip test.</summary>
    public bool? Tripped { get; init; }

    /// <summary>The test lead's own resistance, subtracted from earth readings.</summary>
    public Ohms Null { get; init; }

    /// <summary>The mains voltage while the leakage was measured; null where it was not seen, then nothing is scaled.</summary>
    public Volts? Mains { get; init; }

    /// <summary>Test voltage of an insulation reading; null takes the usual one for the item.</summary>
    public Volts? TestVoltage { get; init; }

    /// <summary>What the defibrillator or simulator was set to.</summary>
    public Quantity? Set { get; init; }

    public bool SwitchedOn { get; init; } = true;

    /// <summary>Load current seen while measuring.</summary>
    public Amperes? Load { get; init; }

    /// <summary>Why this reading counts for nothing; null when it counts.</summary>
    public string? Void { get; init; }

    /// <summary>Another pack by whose limit this reading is judged.</summary>
    public RulePack? Borrowed { get; init; }

    public Accuracy? Accuracy { get; init; }

    /// <summary>Current an earth reading was taken with; null where it is not known.</summary>
    public Amperes? TestCurrent { get; init; }

    /// <summary>The maker's own figure for a performance check; it wins where it is tighter.</summary>
    public Quantity? MakerLimit { get; init; }

    /// <summary>What a lead decided in place of the comparison.</summary>
    public Override? Override { get; init; }

    /// <summary>What polarity or wiring showed when it was bad; null where it was not said.</summary>
    public LeadFault? Found { get; init; }
    public string? Note { get; init; }
}
