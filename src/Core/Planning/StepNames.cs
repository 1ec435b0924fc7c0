using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>The trade's names for tests and conditions, as run sheets and papers print them.</summary>
public static class StepNames
{
    public static string Of(Test test) =>
        test switch
        {
            Test.EarthContinuity => "Earth continuity",
            Test.Insulation => "Insulation",
            Test.Leakage => "Leakage",
            Test.Polarity => "Polarity",
            Test.Wiring => "L and N through, no short",
            Test.RcdTrip => "RCD trip",
            Test.DefibEnergy => "Delivered energy",
            Test.DefibCharge => "Charge time",
            Test.DefibSync => "Synchronised shock",
            Test.EcgAmplitude => "ECG check trace",
            Test.PadPath => "Paddle or pad path",
            Test.Functional => "Functional check",
            Test.Visual => "Look",
            Test.Restore => "Restored",
            _ => "Fuse and flex",
        };

    public static string Of(LeakageKind kind) =>
        kind switch
        {
            LeakageKind.ProtectiveConductor => "Protective conductor current",
            LeakageKind.Touch => "Touch current",
            LeakageKind.Equipment => "Equipment leakage",
            LeakageKind.AppliedPart => "Applied part leakage",
            LeakageKind.Earth => "Earth leakage",
            LeakageKind.Patient => "Patient leakage",
            LeakageKind.TotalPatient => "Total patient leakage",
            LeakageKind.PatientAuxiliary => "Patient auxiliary current",
            LeakageKind.MainsOnAppliedPart => "Mains on applied part",
            LeakageKind.LeadToGround => "Lead to ground",
            LeakageKind.LeadToLead => "Lead to lead",
            _ => "Mains on an accessible part",
        };

    public static string Of(Conditions under) =>
        under is Conditions.Functional { Name: { } check }
            ? check
            : (under is Conditions.Leakage leakage ? Of(leakage.Kind) : Of(under.Test))
                + Part(under)
                + (under.AppliedPart is { } part ? $" {part}" : "")
                + (under.Set is { } set ? $", {set}" : "")
                + (under.At is { } spot ? $", {spot.Text}" : "");

    private static string Part(Conditions under) =>
        under switch
        {
            Conditions.Insulation { Part: InsulationPart.CordAlone } or Conditions.EarthContinuity { Part: EarthPart.CordAlone } =>
                " of the mains lead",
            Conditions.EarthContinuity { Part: EarthPart.DeviceAlone } => " without its lead",
            _ => "",
        };

    /// <summary>How a leakage current is read, where it is not as usual: reversed polarity, a conductor open, the device off.</summary>
    public static IEnumerable<string> Unusual(Conditions.Leakage under)
    {
        if (under.Polarity == MainsPolarity.Reversed)
            yield return "reversed polarity";
        if (under.Earth == ConductorState.Open)
            yield return "earth open";
        if (under.Neutral == ConductorState.Open)
            yield return "neutral open";
        if (under.Power == PowerState.Off)
            yield return "device off";
    }

    /// <summary>The conditions a pattern fixes, in words; empty when it fixes none.</summary>
    public static string Of(ReadingPattern pattern)
    {
        var words = new List<string>(4);
        if (!pattern.Earth.IsAny)
            words.Add(pattern.Earth.Has(ConductorState.Open) ? "earth open" : "earth closed");
        if (pattern.Neutral.Has(ConductorState.Open) && !pattern.Neutral.IsAny)
            words.Add("neutral open");
        if (!pattern.Polarities.IsAny)
            words.Add(pattern.Polarities.Has(MainsPolarity.Reversed) ? "reversed polarity" : "normal polarity");
        if (!pattern.Power.IsAny)
            words.Add(pattern.Power.Has(PowerState.Off) ? "device off" : "device on");
        if (pattern.Multiple is { } multiple)
            words.Add($"{QuantityText.Number(multiple)} ×");
        if (pattern.PhaseDeg is { } phase)
            words.Add($"{phase}°");
        return string.Join(", ", words);
    }
}
