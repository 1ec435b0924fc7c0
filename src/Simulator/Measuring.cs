using System.Collections.Immutable;
using Osierwand.Core;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;

namespace Osierwand.Simulator;

/// <summary>Why a simulated measurement cannot go on.</summary>
public sealed record Stopped(LineTrouble Trouble, string Text);

/// <summary>What the simulated display shows at one moment.</summary>
/// <param name="Trouble">The measurement is over without a reading.</param>
/// <param name="IsOver">It ends here by itself: what was waited for has happened.</param>
public sealed record Shown(InstrumentReading Reading, bool IsSettled, Stopped? Trouble = null, bool IsOver = false);

/// <summary>One measurement as it goes on.</summary>
internal interface IMeasuring
{
    /// <summary>Before anything is put on the item.</summary>
    /// <returns>Null where nothing is in the way.</returns>
    Shown? Guard();

    /// <summary>Voltage that the item has on it while this goes on: 0 for what no one could feel.</summary>
    double LiveVolts { get; }

    /// <param name="step">Seconds of the item's life that pass.</param>
    /// <param name="isLast">The reading that counts.</param>
    Shown Advance(double step, bool isLast = false);
}

/// <summary>
/// One measurement as it goes on: the front end takes what the circuit says, moment by moment, and adds what every real instrument adds —
/// its lead, noise, steps and the ends of its ranges.
/// </summary>
public sealed class Measuring : IMeasuring
{
    /// <summary>How often a flex is bent to and fro by the hand that looks for a broken strand.</summary>
    private const double BendsPerSecond = 0.7;

    /// <summary>An RCD that must not trip is watched for so long.</summary>
    private const double WatchedSeconds = 2;

    /// <summary>Less behind an RCD, and it is open.</summary>
    private const double AliveVolts = 50;

    /// <summary>Less between probe and earth is a path that somebody made, and no damp.</summary>
    private const double EarthedOhm = 100;
    private const int RestingFrames = 5;
    private const double RestingShare = 0.02;

    /// <summary>Functions by the words of the contract.</summary>
    public static readonly ImmutableArray<string> Functions =
    [
        Words.Of(Test.EarthContinuity),
        Words.Of(Test.Insulation),
        Words.Of(Test.Polarity),
        Words.Of(Test.Wiring),
        Words.Of(Test.RcdTrip),
        .. Enum.GetValues<LeakageKind>().Select(kind => $"{Words.Of(Test.Leakage)}/{Words.Of(kind)}"),
    ];

    private readonly MeasurementRequest asked;
    private readonly PluggedIn item;
    private readonly Hands hands;
    private readonly MainsHere mains;
    private readonly InstrumentTruth truth;
    private readonly Random noise;
    private readonly TestSet set;
    private readonly List<double> charged = [];
    private readonly Queue<double> lately = new();
    private double seconds;
    private double powered;
    private double least = double.PositiveInfinity;
    private double most = double.NegativeInfinity;

    public Measuring(MeasurementRequest asked, PluggedIn item, Hands hands, MainsHere mains, InstrumentTruth truth, Random noise)
    {
        (this.asked, this.item, this.hands, this.mains, this.truth, this.noise) = (asked, item, hands, mains, truth, noise);
        set = new(item.Build, hands, mains);
    }

    /// <summary>The whole measurement at one go: what its display would show at the end.</summary>
    public static Shown Whole(
        MeasurementRequest asked,
        PluggedIn item,
        Random noise,
        Hands? hands = null,
        MainsHere? mains = null,
        InstrumentTruth? truth = null
    )
    {
        IMeasuring measuring = Instrumentation.OfPerformance.Has(asked.Test)
            ? new Performing(asked, item, truth ?? new(), noise)
            : new Measuring(asked, item, hands ?? new(), mains ?? new(), truth ?? new(), noise);
        const double Frame = 0.25;
        for (var left = asked.Seconds; left > Frame; left -= Frame)
            if (measuring.Advance(Frame) is var shown && (shown.Trouble is not null || shown.IsOver))
                return shown;
        return measuring.Advance(Frame, isLast: true);
    }

    /// <summary>Somebody presses the test button of an RCD on a live outlet.</summary>
    /// <returns>Whether it opens; it is open afterwards.</returns>
    public static bool PressButton(PluggedIn item, MainsHere mains)
    {
        if (item.Build.Rcd is not { } rcd)
            return false;
        var asked = new MeasurementRequest(new Conditions.RcdTrip(), new(230), RcdAmperes: rcd.RatedAmperes);
        var residual = new TestSet(item.Build, new(), mains).ButtonAmperes(asked, new(item.IsOn, IsRcdClosed: item.IsRcdClosed));
        if (RcdMechanism.OpensAfter(rcd, residual, 0, asked.Hertz, WatchedSeconds) is null)
            return false;
        item.IsRcdClosed = false;
        return true;
    }

    /// <summary>What the lead shorted on the instrument's own post reads.</summary>
    public static double NullOhms(InstrumentTruth truth, Random noise) =>
        Math.Round((truth.LeadOhm + truth.PostOhm) * truth.Gain + Jitter(noise, 0.0015), 3);

    /// <summary>With few volts, before anything else.</summary>
    /// <returns>Null where the probe finds no earth, or nobody asked.</returns>
    public Shown? Guard()
    {
        if (!asked.GuardsProbe)
            return null;
        var ohms = set.ProbeToEarthOhms(asked.Under.At, Now());
        return ohms > EarthedOhm ? null : Stop(LineTrouble.ProbeEarthed, Ranges.Show(Test.EarthContinuity, Math.Min(ohms, 24)).ToString());
    }

    /// <summary>Voltage that the item has on it while this goes on: 0 for what no one could feel.</summary>
    public double LiveVolts =>
        asked.Under switch
        {
            Conditions.Insulation => asked.TestVolts,
            Conditions.Leakage or Conditions.RcdTrip => asked.Supply.NominalV * mains.Share,
            _ => 0,
        };

    /// <param name="step">Seconds of the item's life that pass.</param>
    /// <param name="isLast">The reading that counts.</param>
    public Shown Advance(double step, bool isLast = false)
    {
        seconds += step;
        return asked.Under switch
        {
            Conditions.EarthContinuity earth => Earth(earth),
            Conditions.Insulation insulation => Insulation(insulation, step),
            Conditions.Leakage leakage => Leakage(leakage, step),
            Conditions.RcdTrip trip => isLast ? Trip(trip) : new(new(Test.RcdTrip, null), false),
            Conditions.Polarity => new(Polarity(), true),
            Conditions.Wiring => new(Wiring(), true),
            _ => throw new NotSupportedException($"This instrument cannot measure {asked.Test}."),
        };
    }

    private Moment Now(double? poweredSeconds = null) => new(item.IsOn, poweredSeconds, item.Warmth, 0, item.IsRcdClosed);

    private Shown Earth(Conditions.EarthContinuity under)
    {
        var bend = hands.MovesFlex && !item.Build.Item.IsHardWired ? Math.Max(0, Math.Sin(2 * Math.PI * BendsPerSecond * seconds)) : 0;
        var ohms = set.EarthOhms(under, Now() with { Bend = Math.Pow(bend, 3) });
        var raw = (ohms + truth.LeadOhm) * truth.Gain + Jitter(noise, 0.002);
        (least, most) = (Math.Min(least, raw), Math.Max(most, raw));
        Measured Display(double value) => Ranges.Show(Test.EarthContinuity, value);
        return new(
            new(Test.EarthContinuity, Display(raw)) { Least = Display(least), Most = Display(most) },
            // A joint that comes and goes never rests: then its largest is the reading.
            IsAtRest(raw)
        );
    }

    private Shown Insulation(Conditions.Insulation under, double step)
    {
        var raw = set.InsulationOhms(under, asked.TestVolts, Now(), step, charged) * truth.Gain * (1 + Jitter(noise, 0.004));
        return new(
            new(Test.Insulation, Ranges.Show(Test.Insulation, raw)) { PathSeen = under.Part == InsulationPart.Device ? Path(Now()) : null },
            IsAtRest(Math.Min(raw, 1e12))
        );
    }

    /// <summary>Of leads, RCDs and extra-low voltage nothing is expected between L and N.</summary>
    private bool? Path(Moment now) => item.Build.RatedWatts > 0 ? set.SeesPath(now, asked.Hertz) : null;

    private Shown Leakage(Conditions.Leakage under, double step)
    {
        var isAlternative = under.Method == LeakageMethod.Alternative;
        powered += step;
        var isOn = item.IsOn && under.Power == PowerState.On;
        var found = set.Leakage(under, asked, Now(isAlternative ? null : powered) with { IsOn = isOn });
        if (!isAlternative && mains.Trips(found.ResidualAmperes))
            return Stop(LineTrouble.SupplyLost, "the mains went away: the building's residual-current device tripped");
        if (!isAlternative && found.LoadAmperes * found.MainsVolts > item.Build.RatedWatts / 2)
            item.Warm(step);
        var amperes = found.Amperes * truth.Gain * (1 + Jitter(noise, 0.006));
        return new(
            new(
                Test.Leakage,
                Ranges.Show(Test.Leakage, amperes),
                Mains: Math.Round(found.MainsVolts * (1 + Jitter(noise, 0.002)), 1),
                LoadAmperes: isAlternative ? null : Math.Round(found.LoadAmperes, 2)
            )
            {
                PathSeen = isAlternative ? Path(Now()) : null,
                Spot = found.Spot,
            },
            IsAtRest(amperes)
        );
    }

    private Shown Trip(Conditions.RcdTrip under)
    {
        if (item.Build.Rcd is not { } rcd)
            return Stop(LineTrouble.Refused, "there is no residual-current device in it");
        var wanted = under.Multiple * (asked.RcdAmperes ?? rcd.RatedAmperes);
        var (residual, behind) = set.Residual(wanted, asked, Now());
        if (behind < AliveVolts)
            return Stop(LineTrouble.NeedsReset, "no voltage behind it: reset it, and look that its line is whole");
        if (mains.Trips(residual))
            return Stop(LineTrouble.SupplyLost, "the mains went away: the building's residual-current device tripped first");
        var opens = RcdMechanism.OpensAfter(rcd, residual, under.PhaseDeg, asked.Hertz, WatchedSeconds);
        if (opens is not { } after)
            return new(new(Test.RcdTrip, null, Tripped: false, Mains: Supplied), true);
        item.IsRcdClosed = false;
        var shown = Ranges.Show(Test.RcdTrip, after + Jitter(noise, 0.0004));
        return new(new(Test.RcdTrip, shown, Tripped: true, Mains: Supplied), true);
    }

    private double Supplied => Math.Round(asked.Supply.NominalV * mains.Share, 1);

    private InstrumentReading Polarity()
    {
        var (isShort, isOpen, isCrossed) = set.Conductors(Outlet, Now());
        var found =
            isCrossed ? ConductorFault.Crossed
            : isOpen ? ConductorFault.Open
            : (ConductorFault?)null;
        return new(Test.Polarity, null, Ok: found is null && !isShort) { Found = found ?? (isShort ? ConductorFault.ShortCircuit : null) };
    }

    private InstrumentReading Wiring()
    {
        var (isShort, isOpen, _) = set.Conductors(Outlet, Now());
        var found =
            isShort ? ConductorFault.ShortCircuit
            : isOpen ? ConductorFault.Open
            : (ConductorFault?)null;
        return new(Test.Wiring, null, Ok: found is null) { Found = found };
    }

    private int? Outlet => asked.Under.At is Spot.Outlet outlet ? outlet.Number : null;

    /// <summary>Whether the last frames agree: within two hundredths and two counts.</summary>
    private bool IsAtRest(double value)
    {
        lately.Enqueue(value);
        if (lately.Count > RestingFrames)
            lately.Dequeue();
        if (lately.Count < RestingFrames)
            return false;
        var finest = Ranges.All.First(range => range.Test == asked.Test);
        return lately.Max() - lately.Min() <= RestingShare * Math.Abs(value) + 4 * finest.Step * finest.Unit.Factor;
    }

    private Shown Stop(LineTrouble trouble, string text) => new(new(asked.Test, null), false, new(trouble, text));

    private static double Jitter(Random noise, double spread) => (noise.NextDouble() * 2 - 1) * spread;
}
