namespace Osierwand.Store.Entities;

/// <summary>A tester of the house, and where its line is.</summary>
public sealed class Instrument
{
    public Guid Id { get; set; }
    public required string Name { get; set; }
    public required string Serial { get; set; }
    public DateOnly CalibrationDue { get; set; }
    public required string TestLeadName { get; set; }

    /// <summary>Resistance of the test lead, subtracted from earth readings; null until it was measured.</summary>
    public double? NullOhm { get; set; }
    public DateTimeOffset? NulledAt { get; set; }

    /// <summary>What the maker states, by test: JSON of <see cref="Core.Bench.StatedAccuracy"/>.</summary>
    public string Accuracies { get; set; } = "[]";
}
