using System.Collections.Immutable;

namespace Osierwand.Simulator;

/// <summary>
/// What is true inside a defibrillator: a capacitor that a charger fills from a battery, and that empties through paddles and whatever lies
/// between them. Its maker reckons with the capacitor as it was made; the patient gets what it has become.
/// </summary>
/// <param name="RatedFarad">As made: by it the device works out to what voltage it charges.</param>
/// <param name="Farad">As it is.</param>
/// <param name="SeriesOhm">Switch, choke and cables in the path of the discharge.</param>
/// <param name="Spread">By how much one discharge differs from the next, as a share of the energy.</param>
/// <param name="ChargerWatts">Into the capacitor, from a fresh battery.</param>
/// <param name="BatteryJoules">What the battery holds.</param>
/// <param name="SyncSeconds">From the R peak to the shock.</param>
/// <param name="TraceGain">Of its trace; 1 where it shows what it gets.</param>
/// <param name="TraceSag">Share of a square wave's top that its high-pass loses in a tenth of a second.</param>
/// <param name="PadOhm">Of one paddle or pad with its cable, to its connector.</param>
/// <param name="ArePaddlesSwapped">Apex and sternum have changed places: the first phase flows the other way.</param>
public sealed record ShockBuild(
    double RatedFarad,
    double Farad,
    double SeriesOhm,
    double Spread,
    double ChargerWatts,
    double BatteryJoules,
    double SyncSeconds,
    double TraceGain,
    double TraceSag,
    double PadOhm,
    bool ArePaddlesSwapped = false
)
{
    /// <summary>The charger's own losses.</summary>
    private const double Efficiency = 0.7;

    /// <summary>Of the power that a fresh battery gives, what an empty one still does.</summary>
    private const double PowerWhenEmpty = 0.25;

    /// <summary>The two phases of its shock; between them a moment of nothing.</summary>
    private const double FirstPhase = 0.006;
    private const double Pause = 0.0005;
    private const double SecondPhase = 0.004;

    /// <summary>The analyser's load, as the standard has it.</summary>
    public const double LoadOhm = 50;

    /// <summary>To what voltage it charges for an energy into 50 ohm.</summary>
    public double VoltsFor(double joules) => Math.Sqrt(joules / PerSquareVolt(RatedFarad));

    /// <summary>What reaches the load from a voltage: the current's heat in it over both phases.</summary>
    public double Delivered(double volts) => volts * volts * PerSquareVolt(Farad);

    /// <summary>How long the charge takes from a battery that has given so much already. Power falls with what is left.</summary>
    /// <returns>Infinite where the battery has nothing left.</returns>
    public double ChargeSeconds(double joules, double drawn)
    {
        var stored = Stored(joules);
        var left = Math.Clamp(1 - drawn / BatteryJoules, 0, 1);
        return left <= 0 ? double.PositiveInfinity : stored / (ChargerWatts * (PowerWhenEmpty + (1 - PowerWhenEmpty) * left));
    }

    /// <summary>What one charge takes out of the battery.</summary>
    public double Drawn(double joules) => Stored(joules) / Efficiency;

    private double Stored(double joules)
    {
        var volts = VoltsFor(joules);
        return Farad * volts * volts / 2;
    }

    /// <summary>Amperes through the load at a moment after the shock's begin, from a voltage.</summary>
    public double Amperes(double volts, double seconds)
    {
        var sign = ArePaddlesSwapped ? -1 : 1;
        var tau = (LoadOhm + SeriesOhm) * Farad;
        var first = volts / (LoadOhm + SeriesOhm);
        return seconds < 0 ? 0
            : seconds < FirstPhase ? sign * first * Math.Exp(-seconds / tau)
            : seconds < FirstPhase + Pause ? 0
            : seconds < FirstPhase + Pause + SecondPhase ? -sign * first * Math.Exp(-(seconds - Pause) / tau)
            : 0;
    }

    private double PerSquareVolt(double farad)
    {
        var path = LoadOhm + SeriesOhm;
        var tau = path * farad;
        // The integral of the squared current over both phases, times the load.
        return LoadOhm / (path * path) * tau / 2 * (1 - Math.Exp(-2 * (FirstPhase + SecondPhase) / tau));
    }

    /// <summary>The current of one shock, a value each tenth of a millisecond.</summary>
    public ImmutableArray<double> Shape(double volts) =>
        [.. Enumerable.Range(-5, 120).Select(n => Math.Round(Amperes(volts, n * 1e-4), 2))];

    /// <summary>What its strip shows of a square wave, in millivolt: up for a fifth of a second, down for as long.</summary>
    public ImmutableArray<double> Strip(double millivolts)
    {
        var (tall, decay) = (millivolts * TraceGain, -Math.Log(1 - TraceSag) / 0.1);
        return
        [
            .. Enumerable
                .Range(0, 100)
                .Select(n => n * 0.008)
                .Select(t =>
                    Math.Round(
                        t % 0.4 < 0.2
                            ? tall * Math.Exp(-decay * (t % 0.4))
                            : -tall * (1 - Math.Exp(-decay * 0.2)) * Math.Exp(-decay * (t % 0.4 - 0.2)),
                        3
                    )
                ),
        ];
    }
}
