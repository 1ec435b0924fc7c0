using System.Collections.Immutable;

namespace Osierwand.Simulator;

/// <summary>Something wrong with an item, by what happened to it. Each is an edit of its circuit and nothing more.</summary>
public enum Fault
{
    None,

    /// <summary>The protective conductor is broken.</summary>
    OpenEarth,

    /// <summary>A corroded or painted joint.</summary>
    HighBond,

    /// <summary>Strands break at the strain relief: the earth comes and goes while the flex is moved.</summary>
    BrokenStrands,

    /// <summary>A conductor thinner than the plate and the register say, or a coiled reel's worn contact.</summary>
    ThinEarth,
    DampInsulation,

    /// <summary>Moisture in the mineral filling of a cold element; it goes as the element warms.</summary>
    DampElement,
    SwitchedOff,
    BlownFuse,
    OpenLine,
    OpenNeutral,
    CrossedLineAndNeutral,
    LineNeutralShort,

    /// <summary>A thermostat or relay has not closed.</summary>
    CutOut,

    /// <summary>Not a fault but looks like one: nothing flows until it has been on mains for a while.</summary>
    SoftStarter,

    /// <summary>Metal that should be insulated lies against something earthed.</summary>
    CaseTouchesEarth,

    /// <summary>The case is joined to the earth pin, whatever its marks say.</summary>
    CaseIsBonded,

    /// <summary>Its earthed metal is also earthed by a pipe or a screen.</summary>
    EarthedElsewhere,

    /// <summary>A filter capacitor has aged, on the line side.</summary>
    AgedFilter,

    /// <summary>One of a pair of filter capacitors is open.</summary>
    OneSidedFilter,
    WornSuppressor,

    /// <summary>The plug or one outlet has no earth: of a lead with several outlets, that one alone.</summary>
    OutletWithoutEarth,
    OutletCrossed,
    OutletWithoutLine,
    SlowRcd,
    DeadRcd,

    /// <summary>It answers to one half-wave alone.</summary>
    OneHalfWaveRcd,
    DeadRcdButton,

    /// <summary>The barrier of an applied part leaks.</summary>
    LeakingPart,

    /// <summary>No applied part is plugged in.</summary>
    PartsUnplugged,

    /// <summary>One connection's lead is broken: of each part that has it, that one alone.</summary>
    BrokenLead,

    /// <summary>The leads of the first two parts are in each other's sockets.</summary>
    SwappedLeads,

    /// <summary>The barrier of a part is that of a lesser type than its mark says: CF marked, BF built.</summary>
    LesserBarrier,

    /// <summary>The electronics put more direct voltage on the connections than they should.</summary>
    DriftedBias,

    /// <summary>A defibrillator's battery holds little and gives less: the fifteenth charge crawls.</summary>
    WeakBattery,

    /// <summary>A defibrillator's capacitor has lost a quarter of what it was: every setting delivers less.</summary>
    AgedCapacitor,

    /// <summary>A synchronised shock comes late after the R peak.</summary>
    LateShock,

    /// <summary>The trace is taller than the signal, and a square wave sags.</summary>
    WrongTrace,

    /// <summary>A pad's connector is worn.</summary>
    WornPads,

    /// <summary>No paddle or pad reaches its connector.</summary>
    PadsOpen,

    /// <summary>Apex and sternum have changed places.</summary>
    SwappedPaddles,
}

/// <summary>A fault and, of a lead, at which outlet.</summary>
/// <param name="Outlet">Counted from 1.</param>
public sealed record FaultAt(Fault Fault, int Outlet = 1);

/// <summary>What each fault does to a circuit.</summary>
public static class Faults
{
    private const double Open = double.PositiveInfinity;

    /// <summary>The item with one more thing wrong. A fault that this item cannot have leaves it as it is.</summary>
    public static ItemBuild With(this ItemBuild it, Fault fault, int outlet = 1) =>
        fault switch
        {
            Fault.None => it,
            Fault.OpenEarth => it with { EarthJointOhm = Open },
            Fault.HighBond => it.WithBonds(bond => bond + 0.35 + 10 * it.FlexOhm),
            Fault.BrokenStrands => it with { EarthWobbleOhm = 0.4 },
            Fault.ThinEarth => it.WithBonds(bond => bond + 0.09),
            Fault.DampInsulation => it.WithInsulation(0.36e6),
            Fault.DampElement => it with { Moisture = Math.Max(0, it.Line.Ohm / 0.4e6) },
            Fault.SwitchedOff => it with { IsSwitchedOn = false },
            Fault.BlownFuse => it with { FuseOhm = Open },
            Fault.OpenLine => it with { LineJointOhm = Open },
            Fault.OpenNeutral => it with { NeutralJointOhm = Open },
            Fault.CrossedLineAndNeutral => it with { IsCrossedInPlug = !it.IsCrossedInPlug },
            Fault.LineNeutralShort => it with { LineToNeutralOhm = 0.02 },
            Fault.CutOut => it with { IsCutOut = true },
            Fault.SoftStarter => it with { SoftStartSeconds = 3 },
            Fault.CaseTouchesEarth => it.WithMetals(metal =>
                double.IsPositiveInfinity(metal.BondOhm) ? metal with { StrayOhm = 2 } : metal
            ),
            Fault.CaseIsBonded => it.WithMetals(metal => metal with { BondOhm = Math.Min(metal.BondOhm, 0.03) }) with
            {
                HasEarthPin = true,
            },
            Fault.EarthedElsewhere => it.WithMetals(metal => metal with { StrayOhm = 0.4 }),
            Fault.AgedFilter => it.WithFilter(line: 60e-9, neutral: null),
            Fault.OneSidedFilter => it.WithFilter(line: null, neutral: 5e-12),
            Fault.WornSuppressor => it with { SuppressorVolts = Math.Min(it.SuppressorVolts, 180) },
            Fault.OutletWithoutEarth => it.WithOutlet(outlet, its => its with { EarthOhm = Open }),
            Fault.OutletCrossed => it.WithOutlet(outlet, its => its with { IsCrossed = true }),
            Fault.OutletWithoutLine => it.WithOutlet(outlet, its => its with { LineOhm = Open }),
            Fault.SlowRcd => it.WithRcd(its => its with { OpeningSeconds = 0.34 }),
            Fault.DeadRcd => it.WithRcd(its => its with { PositivePickup = Open, NegativePickup = Open }),
            Fault.OneHalfWaveRcd => it.WithRcd(its => its with { NegativePickup = Open, PositivePickup = 0.6 }),
            Fault.DeadRcdButton => it.WithRcd(its => its with { ButtonOhm = Open }),
            Fault.LeakingPart => it with { Parts = [.. it.Parts.Select(part => part with { ToMetal = new(1e6, 8e-9) })] },
            Fault.PartsUnplugged => it with { Parts = [.. it.Parts.Select(part => part with { IsConnected = false })] },
            Fault.BrokenLead => it with { Parts = [.. it.Parts.Select(part => part.WithLead(outlet, Open))] },
            Fault.SwappedLeads when it.Parts.Length >= 2 => it with
            {
                Parts = [it.Parts[1] with { Name = it.Parts[0].Name }, it.Parts[0] with { Name = it.Parts[1].Name }, .. it.Parts[2..]],
            },
            Fault.SwappedLeads => it,
            Fault.LesserBarrier => it with { Parts = [.. it.Parts.Select(part => part with { ToMetal = new(part.ToMetal.Ohm, 0.8e-9) })] },
            Fault.DriftedBias => it with { Parts = [.. it.Parts.Select(part => part with { BiasVolts = part.BiasVolts == 0 ? 0 : 500 })] },
            Fault.WeakBattery => it.WithShock(its => its with { BatteryJoules = 12e3, ChargerWatts = its.ChargerWatts * 0.6 }),
            Fault.AgedCapacitor => it.WithShock(its => its with { Farad = its.RatedFarad * 0.75 }),
            Fault.LateShock => it.WithShock(its => its with { SyncSeconds = its.SyncSeconds + 0.05 }),
            Fault.WrongTrace => it.WithShock(its => its with { TraceGain = 1.18, TraceSag = 0.35 }),
            Fault.WornPads => it.WithShock(its => its with { PadOhm = its.PadOhm + 0.7 }),
            Fault.PadsOpen => it.WithShock(its => its with { PadOhm = Open }),
            Fault.SwappedPaddles => it.WithShock(its => its with { ArePaddlesSwapped = !its.ArePaddlesSwapped }),
            _ => throw new ArgumentOutOfRangeException(nameof(fault), fault, "There is no such fault."),
        };

    public static ItemBuild With(this ItemBuild it, IEnumerable<FaultAt> faults) =>
        faults.Aggregate(it, (build, fault) => build.With(fault.Fault, fault.Outlet));

    private static PartBuild WithLead(this PartBuild it, int connection, double ohm) =>
        connection < 1 || connection > it.ConnectionOhm.Length
            ? it
            : it with
            {
                ConnectionOhm = it.ConnectionOhm.SetItem(connection - 1, ohm),
            };

    private static ItemBuild WithMetals(this ItemBuild it, Func<MetalBuild, MetalBuild> edit) =>
        it with
        {
            Metals = [.. it.Metals.Select(edit)],
        };

    private static ItemBuild WithBonds(this ItemBuild it, Func<double, double> edit) =>
        it.WithMetals(metal => metal with { BondOhm = edit(metal.BondOhm) }) with
        {
            Outlets = [.. it.Outlets.Select(outlet => outlet with { EarthOhm = edit(outlet.EarthOhm) })],
        };

    private static ItemBuild WithInsulation(this ItemBuild it, double ohm) =>
        it with
        {
            Line = it.Line with { Ohm = ohm },
            Neutral = it.Neutral with { Ohm = ohm },
        };

    private static ItemBuild WithFilter(this ItemBuild it, double? line, double? neutral) =>
        it with
        {
            Line = it.Line with { Farad = line ?? it.Line.Farad },
            Neutral = it.Neutral with { Farad = neutral ?? it.Neutral.Farad },
        };

    private static ItemBuild WithOutlet(this ItemBuild it, int number, Func<OutletBuild, OutletBuild> edit) =>
        number < 1 || number > it.Outlets.Length ? it : it with { Outlets = it.Outlets.SetItem(number - 1, edit(it.Outlets[number - 1])) };

    private static ItemBuild WithShock(this ItemBuild it, Func<ShockBuild, ShockBuild> edit) =>
        it.Shock is { } shock ? it with { Shock = edit(shock) } : it;

    private static ItemBuild WithRcd(this ItemBuild it, Func<RcdBuild, RcdBuild> edit) =>
        it.Rcd is { } rcd ? it with { Rcd = edit(rcd) } : it;
}
