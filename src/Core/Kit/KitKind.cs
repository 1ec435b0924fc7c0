using System.Collections.Immutable;
using System.Text.Json.Serialization;

namespace Osierwand.Core.Kit;

/// <summary>What a thing of the kit is.</summary>
public enum KitKind
{
    Instrument,
    TestLead,
    Probes,
    Clip,
    VoltageIndicator,
    ProvingUnit,
    CheckBox,
    Adapter,

    /// <summary>Beside the instrument that tests for safety: what a defibrillator delivers is measured with it.</summary>
    PerformanceAnalyser,

    /// <summary>A multifunction or insulation tester with two probes, and no outlet for the item.</summary>
    Meter,

    /// <summary>Laid round line and neutral of what has no plug, or round an earth conductor.</summary>
    LeakageClamp,
}

/// <summary>For which part of a supply a lead, a probe or an indicator is marked. Higher serves for lower.</summary>
public enum InstallationCategory
{
    /// <summary>Appliances.</summary>
    [JsonStringEnumMemberName("II")]
    II,

    /// <summary>Boards and outlets.</summary>
    [JsonStringEnumMemberName("III")]
    III,

    /// <summary>The origin of a supply.</summary>
    [JsonStringEnumMemberName("IV")]
    IV,
}

/// <summary>What may be done with a thing of the kit.</summary>
public enum KitFitness
{
    Fit,

    /// <summary>On nothing that may be live.</summary>
    DeadWorkOnly,
    Barred,
}

/// <summary>Kit in the trade's words.</summary>
public static class KitText
{
    public static string Of(KitKind kind) =>
        kind switch
        {
            KitKind.Instrument => "tester or safety analyser",
            KitKind.TestLead => "test lead",
            KitKind.Probes => "probes",
            KitKind.Clip => "clip",
            KitKind.VoltageIndicator => "voltage indicator",
            KitKind.ProvingUnit => "proving unit",
            KitKind.CheckBox => "check box",
            KitKind.PerformanceAnalyser => "performance analyser",
            KitKind.Meter => "meter",
            KitKind.LeakageClamp => "leakage clamp",
            _ => "adapter",
        };

    /// <summary>What measures is calibrated, and every record names it.</summary>
    public static readonly ImmutableArray<KitKind> Measuring =
    [
        KitKind.Instrument,
        KitKind.Meter,
        KitKind.LeakageClamp,
        KitKind.PerformanceAnalyser,
    ];

    /// <inheritdoc cref="Measuring"/>
    public static bool Measures(this KitKind kind) => Measuring.Contains(kind);

    /// <summary>A check box says every day whether it still reads right.</summary>
    public static bool IsCheckedDaily(this KitKind kind) => kind is KitKind.Instrument or KitKind.Meter;

    public static string Of(KitFitness fitness) =>
        fitness switch
        {
            KitFitness.Fit => "fit for use",
            KitFitness.DeadWorkOnly => "dead work only",
            _ => "barred",
        };
}
