using System.Collections.Immutable;
using MathNet.Numerics;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Kit;

/// <summary>What a check box is stated to show at one of its terminals.</summary>
/// <param name="Key">Names the line from one check to the next.</param>
/// <param name="Unit">Symbol of the contract; the tolerance is in it too.</param>
/// <param name="Tolerance">± around the value, in its unit.</param>
public sealed record StatedValue(string Key, Test Test, string Name, double Value, string Unit, double Tolerance)
{
    /// <returns>Why this is no stated value, or null.</returns>
    public Fault? Refusal() =>
        string.IsNullOrWhiteSpace(Key) || string.IsNullOrWhiteSpace(Name) ? new Fault("name", "Name every line of the check box.")
        : Quantities.Unit.Find(Unit) is null ? new Fault("unit", $"“{Unit}” is not a unit.")
        : !double.IsFinite(Value) || Value <= 0 ? new Fault("value", $"{Name}: a stated value is greater than 0.")
        : !double.IsFinite(Tolerance) || Tolerance <= 0 || Tolerance >= Value
            ? new Fault("tolerance", $"{Name}: the tolerance is greater than 0 and smaller than the value.")
        : null;
}

/// <summary>One line of a daily check.</summary>
/// <param name="Deviation">Of the tolerance, with its sign: 1 is at its upper end.</param>
public sealed record CheckLine(
    string Key,
    string Name,
    string Stated,
    string Allowed,
    string Read,
    double Deviation,
    bool IsGood,
    bool IsNear
);

/// <summary>A whole check of an instrument against a check box.</summary>
public sealed record CheckResult(ImmutableArray<CheckLine> Lines)
{
    public bool IsGood => Lines.All(line => line.IsGood);

    /// <summary>"earth continuity read 0.24 Ω, 0.18 to 0.22 Ω allowed", for whatever is out.</summary>
    public string Trouble =>
        string.Join("; ", Lines.Where(line => !line.IsGood).Select(line => $"{line.Name} read {line.Read}, {line.Allowed} allowed"));
}

/// <summary>How one line moved over the checks.</summary>
/// <param name="Reaches">The day on which it would leave its tolerance at this rate; null where it does not move that way, or slower than
/// anybody looks ahead.</param>
/// <param name="Warning">A sentence; null where nothing needs saying.</param>
public sealed record Drift(string Key, DateOnly? Reaches, string? Warning);

/// <summary>The daily check of an instrument: known values measured, compared with what is stated, kept and watched over time.</summary>
public static class DailyCheck
{
    /// <summary>Checks looked back on: a month of working days.</summary>
    public const int LookBack = 30;

    /// <param name="tests">What the instrument can measure; a line of another test is not asked of it.</param>
    /// <param name="read">As typed, by key: "0.21", "1.02M".</param>
    /// <returns>The result, or which line is missing or cannot be read.</returns>
    public static Result<CheckResult> Judge(
        IReadOnlyList<StatedValue> box,
        SetOf<Test> tests,
        IReadOnlyDictionary<string, string> read,
        Thresholds rules
    )
    {
        var lines = ImmutableArray.CreateBuilder<CheckLine>();
        foreach (var stated in box.Where(line => tests.Has(line.Test)))
        {
            if (!read.TryGetValue(stated.Key, out var text) || string.IsNullOrWhiteSpace(text))
                return new Fault(stated.Key, $"{stated.Name} was not read.");
            var unit = Unit.Find(stated.Unit)!;
            var entered = ReadingEntry.Parse(text, unit);
            if (entered.Fault is { } fault)
                return new Fault(stated.Key, $"{stated.Name}: {fault.Message}");
            if (entered.Value.Qualifier != Qualifier.Exact)
                return new Fault(stated.Key, $"{stated.Name}: a value off the scale is no reading of a check box.");
            lines.Add(LineOf(stated, unit, entered.Value.Quantity.Si, rules));
        }
        return lines.Count == 0
            ? new Fault("checkBox", "This check box has nothing that the instrument measures.")
            : new CheckResult(lines.ToImmutable());
    }

    private static CheckLine LineOf(StatedValue stated, Unit unit, double read, Thresholds rules)
    {
        var deviation = (read / unit.Factor - stated.Value) / stated.Tolerance;
        var isGood = Comparison.AtMost(Math.Abs(deviation), 1);
        return new(
            stated.Key,
            stated.Name,
            $"{Show(stated.Value)} {unit.Label}",
            $"{Show(stated.Value - stated.Tolerance)} to {Show(stated.Value + stated.Tolerance)} {unit.Label}",
            $"{Show(read / unit.Factor)} {unit.Label}",
            deviation,
            isGood,
            isGood && Comparison.AtLeast(Math.Abs(deviation), rules.CheckNear)
        );
    }

    /// <summary>As fine as a display: three digits would round a reading into its tolerance.</summary>
    private static string Show(double value) => QuantityText.Number(value, 5);

    /// <summary>Where a line is going: a straight line through its deviations, and the day on which it would leave the
    /// tolerance.</summary>
    /// <param name="earlier">Day and deviation of every check since the last calibration, oldest first, today's last.</param>
    public static Drift DriftOf(string key, string name, IReadOnlyList<(DateOnly Day, double Deviation)> earlier, Thresholds rules)
    {
        var points = earlier.Skip(Math.Max(0, earlier.Count - LookBack)).ToArray();
        var last = points.Length == 0 ? 0 : points[^1].Deviation;
        var near =
            Math.Abs(last) < 1 && Comparison.AtLeast(Math.Abs(last), rules.CheckNear)
                ? $"{name} has used {QuantityText.Number(Math.Abs(last) * 100)} % of its tolerance."
                : null;
        if (points.Length < rules.CheckFew || points[0].Day == points[^1].Day || Math.Abs(last) >= 1)
            return new(key, null, near);
        var days = points.Select(it => (double)(it.Day.DayNumber - points[0].Day.DayNumber)).ToArray();
        var (at, perDay) = Fit.Line(days, [.. points.Select(it => it.Deviation)]);
        var now = at + perDay * days[^1];
        // It moves outward on the side it is on, and gets there while somebody still looks ahead.
        var left = (Math.Sign(perDay) - now) / perDay;
        if (perDay == 0 || Math.Sign(perDay) * now < 0 || !double.IsFinite(left) || left > 3650)
            return new(key, null, near);
        var reaches = points[^1].Day.AddDays(Math.Max(0, (int)left));
        return new(
            key,
            reaches,
            left <= rules.CheckAhead ? $"{name} drifts: at this rate it leaves its tolerance about {reaches:yyyy-MM-dd}." : near
        );
    }
}
