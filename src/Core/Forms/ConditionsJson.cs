using System.Text.Json;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Forms;

/// <summary>Writes under which condition something is measured; planned steps and readings share the words.</summary>
internal static class ConditionsJson
{
    public static void Write(Test test, Conditions under, Utf8JsonWriter writer)
    {
        switch (test)
        {
            case Test.EarthContinuity:
                writer.WriteString("path", Words.Of(under.Path));
                writer.WriteString("part", Words.Of(under.Part));
                break;
            case Test.Insulation:
                writer.WriteString("between", Words.Of(under.Between));
                break;
            case Test.Leakage:
                writer.WriteString("kind", Words.Of(under.Kind));
                writer.WriteString("method", Words.Of(under.Method));
                writer.WriteString("current", Words.Of(under.Current));
                writer.WriteString("polarity", Words.Of(under.Polarity));
                writer.WriteString("neutral", Words.Of(under.Neutral));
                writer.WriteString("earth", Words.Of(under.Earth));
                writer.WriteString("power", Words.Of(under.Power));
                break;
            case Test.RcdTrip:
                writer.WriteNumber("multiple", under.Multiple);
                writer.WriteNumber("phaseDeg", under.PhaseDeg);
                break;
            case Test.DefibSync:
                writer.WriteString("trigger", Words.Of(under.Trigger));
                break;
        }
        if (under.AppliedPart is { } part)
            writer.WriteString("appliedPart", part);
        if (under.Point is { } point)
            writer.WriteString("point", point);
    }
}
