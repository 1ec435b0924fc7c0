using System.Collections.Immutable;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Instruments.Line;

namespace Osierwand.Simulator;

/// <summary>
/// What a performance analyser sees of a device that charges and discharges before it: the load that takes the shock, the simulator that
/// feeds its leads, and a clock between the two.
/// </summary>
internal sealed class Performing(MeasurementRequest asked, PluggedIn item, InstrumentTruth truth, Random noise) : IMeasuring
{
    /// <summary>Of the technician: from a discharge to the charge key, from ready to the discharge key.</summary>
    private const double HandSeconds = 1.2;

    /// <summary>The R peak comes once in so many seconds.</summary>
    private const double Beat = 1;

    public static readonly ImmutableArray<string> Functions =
    [
        .. Enum.GetValues<Test>().Where(Instrumentation.OfPerformance.Has).Select(test => Words.Of(test)),
    ];

    private double seconds;
    private int counted;
    private double nextAt = -1;
    private double last;

    private ShockBuild? Device => item.Build.Shock;

    private double SetJoules =>
        asked.Under.Set is { Dimension: Dimension.Energy } set ? set.Si : item.Build.Item.Defibrillator?.SettingsJ.Max() ?? 0;

    public Shown? Guard() =>
        Device is null ? Stop("nothing that charges lies on the load")
        : item.Build.Shock is { PadOhm: var pad } && double.IsPositiveInfinity(pad) && asked.Test is not Test.PadPath
            ? Stop("no contact: paddles or pads are not on the load, or their cable is open")
        : null;

    public double LiveVolts =>
        asked.Test is Test.DefibEnergy or Test.DefibCharge or Test.DefibSync && Device is { } device ? device.VoltsFor(SetJoules) : 0;

    public Shown Advance(double step, bool isLast = false)
    {
        seconds += step;
        var device = Device!;
        return asked.Test switch
        {
            Test.PadPath => new(new(Test.PadPath, Ranges.Show(Test.PadPath, PadOhms(device))) { Waveform = Path(device) }, true),
            Test.DefibEnergy when asked.Count > 0 => Watch(device),
            Test.DefibEnergy => isLast || IsTime(device) ? Shock(device) : Charging(Test.DefibEnergy, device),
            Test.DefibCharge => Charge(device, isLast),
            Test.DefibSync => isLast || IsTime(device) ? Sync(device) : Charging(Test.DefibSync, device),
            Test.EcgAmplitude => Strip(device),
            _ => throw new NotSupportedException($"This instrument cannot measure {asked.Test}."),
        };
    }

    private double PadOhms(ShockBuild device) => (device.PadOhm + Jitter(0.003)) * truth.Gain;

    /// <summary>What its monitor shows through the paddles: the analyser's signal, or a flat line where the path is open.</summary>
    private static Waveform Path(ShockBuild device) =>
        new(
            "trace through the paddles",
            8,
            "ms",
            "mV",
            [.. Enumerable.Range(0, 100).Select(n => double.IsPositiveInfinity(device.PadOhm) ? 0 : Math.Round(Heartbeat(n * 0.008), 3))]
        );

    /// <summary>A beat as an analyser makes one: a small wave, the R peak, a slow one.</summary>
    private static double Heartbeat(double t)
    {
        static double Bump(double at, double centre, double width, double tall) => tall * Math.Exp(-Math.Pow((at - centre) / width, 2));
        return Bump(t, 0.2, 0.03, 0.12) + Bump(t, 0.36, 0.012, 1) - Bump(t, 0.385, 0.01, 0.2) + Bump(t, 0.6, 0.05, 0.25);
    }

    /// <summary>It is ready, and whoever holds the key has looked round.</summary>
    private bool IsTime(ShockBuild device) => seconds >= device.ChargeSeconds(SetJoules, item.DrawnJoules) + HandSeconds;

    /// <summary>It charges, and nothing has reached the load yet.</summary>
    private Shown Charging(Test test, ShockBuild device)
    {
        var ready = device.ChargeSeconds(SetJoules, item.DrawnJoules);
        return new(new(test, null) { Said = seconds < ready ? "charging" : "ready: stand clear" }, seconds >= ready);
    }

    private Shown Shock(ShockBuild device)
    {
        if (device.ChargeSeconds(SetJoules, item.DrawnJoules) > seconds)
            return Stop("it did not get ready in the time: nothing was discharged");
        var volts = Discharge(device);
        var joules = device.Delivered(volts) * truth.Gain;
        return new(
            new(Test.DefibEnergy, Ranges.Show(Test.DefibEnergy, joules))
            {
                Waveform = new("current into 50 Ω", 0.1, "ms", "A", device.Shape(volts)),
                Said = device.ArePaddlesSwapped ? "the first phase is negative: apex and sternum have changed places" : null,
            },
            true,
            IsOver: true
        );
    }

    /// <summary>Charged and discharged once: the battery has given what that takes.</summary>
    /// <returns>Volts on its capacitor before the shock.</returns>
    private double Discharge(ShockBuild device)
    {
        item.DrawnJoules += device.Drawn(SetJoules);
        return device.VoltsFor(SetJoules) * Math.Sqrt(1 + Jitter(device.Spread));
    }

    private Shown Charge(ShockBuild device, bool isLast)
    {
        var ready = device.ChargeSeconds(SetJoules, item.DrawnJoules);
        if (seconds < ready)
            return new(
                new(Test.DefibCharge, isLast ? new Measured(Math.Round(seconds, 1), Unit.Second, Qualifier.Above) : null)
                {
                    Said = "charging",
                },
                isLast
            );
        item.DrawnJoules += device.Drawn(SetJoules);
        return new(
            new(Test.DefibCharge, Ranges.Show(Test.DefibCharge, ready + Jitter(0.05)))
            {
                Waveform = new(
                    "energy on its capacitor",
                    Math.Round(ready / 60, 4),
                    "s",
                    "J",
                    // The charger's power is steady within one charge: energy rises on a line.
                    [.. Enumerable.Range(0, 61).Select(n => Math.Round(SetJoules * n / 60, 1))]
                ),
            },
            true,
            IsOver: true
        );
    }

    private Shown Sync(ShockBuild device)
    {
        if (device.ChargeSeconds(SetJoules, item.DrawnJoules) > seconds)
            return Stop("it did not get ready in the time: nothing was discharged");
        Discharge(device);
        var after = device.SyncSeconds + Math.Abs(Jitter(0.003));
        const double Every = 0.002;
        // The R peak of the analyser's beat stands at 0.36 s; what the shock does to the trace stands after it.
        var drawn = Enumerable
            .Range(0, 200)
            .Select(n => 0.26 + n * Every)
            .Select(t =>
                Math.Round(
                    t < 0.36 + after ? Heartbeat(t)
                        : t < 0.36 + after + 0.012 ? -1.5
                        : Heartbeat(t),
                    3
                )
            );
        return new(
            new(Test.DefibSync, Ranges.Show(Test.DefibSync, after * truth.Gain))
            {
                Waveform = new("beat and shock", Every * 1000, "ms", "mV", [.. drawn]),
            },
            true,
            IsOver: true
        );
    }

    private Shown Strip(ShockBuild device)
    {
        var set = (asked.Under.Set?.Si ?? 0.001) * 1000;
        var strip = device.Strip(set);
        return new(
            new(Test.EcgAmplitude, Ranges.Show(Test.EcgAmplitude, set * device.TraceGain * (1 + Jitter(0.004)) / 1000))
            {
                Waveform = new("square wave on the strip", 8, "ms", "mV", strip),
            },
            true
        );
    }

    /// <summary>Somebody charges and discharges, again and again; each one that reaches the load is counted.</summary>
    private Shown Watch(ShockBuild device)
    {
        if (nextAt < 0)
            nextAt = Cycle(device);
        if (seconds >= nextAt && counted < asked.Count)
        {
            last = device.Delivered(Discharge(device)) * truth.Gain;
            counted++;
            nextAt += Cycle(device);
        }
        var isOver = counted >= asked.Count;
        return new(
            new(Test.DefibEnergy, counted > 0 ? Ranges.Show(Test.DefibEnergy, last) : null) { Counted = counted, Said = "counting" },
            isOver,
            double.IsPositiveInfinity(nextAt) ? new(LineTrouble.Refused, "the device charges no more: its battery is empty") : null,
            isOver
        );
    }

    private double Cycle(ShockBuild device) => device.ChargeSeconds(SetJoules, item.DrawnJoules) + HandSeconds + Beat;

    private Shown Stop(string text) => new(new(asked.Test, null), false, new(LineTrouble.Refused, text));

    private double Jitter(double spread) => (noise.NextDouble() * 2 - 1) * spread;
}
