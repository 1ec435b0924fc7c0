using System.Collections.Immutable;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Outlets;

/// <param name="Pair">Two contacts: "L-N".</param>
/// <param name="Volts">0 or more.</param>
public sealed record OutletVoltage(string Pair, double Volts);

/// <summary>An outlet that was found good today, as it goes into a ruling.</summary>
/// <param name="IsWorkbench">Items are brought to it; otherwise it serves its room.</param>
/// <param name="By">Who measured it.</param>
public sealed record OutletOfTheDay(
    Guid Id,
    Guid PersonId,
    string Name,
    string Room,
    bool IsWorkbench,
    DateTimeOffset At,
    string By,
    OutletSupply Supply,
    ImmutableArray<OutletVoltage> Voltages
)
{
    /// <summary>By name and room, as people tell outlets apart.</summary>
    public bool IsSame(OutletOfTheDay other) =>
        string.Equals(Name, other.Name, StringComparison.OrdinalIgnoreCase)
        && string.Equals(Room, other.Room, StringComparison.OrdinalIgnoreCase)
        && Supply == other.Supply;

    /// <summary>It is the outlet of an item that lies in this room, without being asked: whoever measured it works there. What a colleague
    /// measured is chosen by a press.</summary>
    public bool Serves(string room, Guid person) =>
        PersonId == person && (IsWorkbench || string.Equals(Room.Trim(), room.Trim(), StringComparison.OrdinalIgnoreCase));
}

/// <summary>What three figures, or ten, say of an outlet: its voltages, its polarity and its earth.</summary>
/// <param name="IsGood">It may power an item of this supply.</param>
/// <param name="Says">In words: what is right, or what is wrong with it.</param>
public sealed record OutletFinding(bool IsGood, string Says)
{
    /// <returns>The finding; a fault where the figures are not those of this supply.</returns>
    public static Result<OutletFinding> Of(OutletSupply supply, IReadOnlyList<OutletVoltage> voltages, Thresholds rules)
    {
        if (voltages.Any(it => !double.IsFinite(it.Volts) || it.Volts < 0))
            return new Fault("voltages", "A voltage is 0 or more.");
        if (voltages.Select(it => it.Pair).Distinct().Count() != voltages.Count)
            return new Fault("voltages", "A pair stands twice.");
        if (supply.Pairs.FirstOrDefault(pair => voltages.All(it => it.Pair != pair)) is { } missing)
            return new Fault("voltages", $"{missing} is missing: {string.Join(", ", supply.Pairs)} are measured.");
        var off = supply.Pairs.Where(pair => !IsAsExpected(supply, pair, At(voltages, pair), rules)).ToArray();
        return off.Length == 0
            ? new OutletFinding(true, $"Voltages as expected, polarity right, earth present: {Figures(supply, voltages)}")
            : new OutletFinding(false, $"{Reason(supply, voltages, off, rules)} {Figures(supply, voltages)}. Nothing is powered from it.");
    }

    private static double At(IReadOnlyList<OutletVoltage> voltages, string pair) => voltages.First(it => it.Pair == pair).Volts;

    private static bool IsAsExpected(OutletSupply supply, string pair, double volts, Thresholds rules)
    {
        var expected = supply.Expected(pair);
        return expected == 0
            ? IsWithin(volts, supply.NominalV * rules.NeutralToEarth, rules)
            : volts >= expected * rules.LowestMains * (1 - rules.ComparisonTolerance)
                && IsWithin(volts, expected * rules.HighestMains, rules);
    }

    private static bool IsWithin(double volts, double most, Thresholds rules) => volts <= most * (1 + rules.ComparisonTolerance);

    /// <summary>The commonest causes by what they do to the figures, the most dangerous first.</summary>
    private static string Reason(OutletSupply supply, IReadOnlyList<OutletVoltage> voltages, string[] off, Thresholds rules)
    {
        if (voltages.All(it => it.Volts < supply.NominalV * rules.NeutralToEarth))
            return "No voltage anywhere: switched off, a fuse, or the breaker. Find out which before anything else.";
        if (supply is { Phases: 3 } or { IsCentreEarthed: true })
            return $"Not as expected between {string.Join(", ", off)}.";
        var (lineNeutral, lineEarth, neutralEarth) = (At(voltages, "L-N"), At(voltages, "L-E"), At(voltages, "N-E"));
        var none = supply.NominalV * rules.NeutralToEarth;
        var full = supply.NominalV * rules.LowestMains;
        return (lineNeutral >= full, lineEarth, neutralEarth) switch
        {
            (true, var line, var neutral) when line <= none && neutral >= full => "Line and neutral are crossed.",
            (false, var line, var neutral) when lineNeutral <= none && line >= full && neutral >= full =>
                "Neutral is open, or both contacts are live.",
            (false, var line, _) when lineNeutral <= none && line >= full => "Neutral is open.",
            (_, var line, var neutral) when line < full && neutral > none =>
                "Earth is missing, or the supply stands free of earth: from each contact a part of the voltage.",
            (true, var line, _) when line < full => "No earth: nothing between line and earth.",
            (_, _, var neutral) when neutral > none => "Neutral stands above earth: a loose or heavily loaded neutral.",
            _ => $"The voltage is out of its range between {string.Join(", ", off)}.",
        };
    }

    private static string Figures(OutletSupply supply, IReadOnlyList<OutletVoltage> voltages) =>
        string.Join(", ", supply.Pairs.Select(pair => $"{pair} {QuantityText.Number(At(voltages, pair), 4)} V"));
}
