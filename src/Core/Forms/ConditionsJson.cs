using System.Text.Json;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Forms;

/// <summary>Writes under which condition something is measured; planned steps and readings share the words.</summary>
internal static class ConditionsJson
{
    public static void Write(Conditions under, Utf8JsonWriter writer)
    {
        switch (under)
        {
            case Conditions.EarthContinuity earth:
                writer.WriteString("path", Words.Of(earth.Path));
                writer.WriteString("part", Words.Of(earth.Part));
                break;
            case Conditions.Insulation insulation:
                writer.WriteString("between", Words.Of(insulation.Between));
                if (insulation.Part != InsulationPart.Device)
                    writer.WriteString("part", Words.Of(insulation.Part));
                if (insulation.TestVoltage is { } volts)
                    writer.WriteNumber("testVoltageV", volts.Value);
                break;
            case Conditions.Leakage leakage:
                writer.WriteString("kind", Words.Of(leakage.Kind));
                writer.WriteString("method", Words.Of(leakage.Method));
                writer.WriteString("current", Words.Of(leakage.Current));
                writer.WriteString("polarity", Words.Of(leakage.Polarity));
                writer.WriteString("neutral", Words.Of(leakage.Neutral));
                writer.WriteString("earth", Words.Of(leakage.Earth));
                writer.WriteString("power", Words.Of(leakage.Power));
                break;
            case Conditions.RcdTrip trip:
                writer.WriteNumber("multiple", trip.Multiple);
                writer.WriteNumber("phaseDeg", trip.PhaseDeg);
                break;
            case Conditions.DefibSync sync:
                writer.WriteString("trigger", Words.Of(sync.Trigger));
                break;
            case Conditions.DefibEnergy energy:
                writer.WriteNumber("setJ", energy.Joules.Si);
                break;
            case Conditions.EcgAmplitude ecg:
                writer.WriteNumber("setMv", ecg.Volts.Si * 1000);
                break;
        }
        if (under.AppliedPart is { } part)
            writer.WriteString("appliedPart", part);
        if (under.At is { } spot)
            writer.WriteString("point", spot.Text);
    }
}
