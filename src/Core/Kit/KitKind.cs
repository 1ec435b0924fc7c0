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
            KitKind.Instrument => "instrument",
            KitKind.TestLead => "test lead",
            KitKind.Probes => "probes",
            KitKind.Clip => "clip",
            KitKind.VoltageIndicator => "voltage indicator",
            KitKind.ProvingUnit => "proving unit",
            KitKind.CheckBox => "check box",
            KitKind.PerformanceAnalyser => "performance analyser",
            _ => "adapter",
        };

    public static string Of(KitFitness fitness) =>
        fitness switch
        {
            KitFitness.Fit => "fit for use",
            KitFitness.DeadWorkOnly => "dead work only",
            _ => "barred",
        };
}
