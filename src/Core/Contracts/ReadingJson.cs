using System.Text.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Contracts;

/// <summary>Writes a reading in the words in which <see cref="ReadingReader"/> reads it.</summary>
internal static class ReadingJson
{
    public static void Write(Reading it, Utf8JsonWriter writer)
    {
        writer.WriteStartObject();
        writer.WriteString("test", Words.Of(it.Test));
        if (it.Value is { } value)
        {
            writer.WriteNumber("value", value.Number);
            writer.WriteString("unit", value.Unit.Symbol);
            if (value.IsBound) writer.WriteString("qualifier", value.Qualifier == Qualifier.Above ? ">" : "<");
        }
        if (it.Ok is { } ok) writer.WriteBoolean("ok", ok);
        if (it.Tripped is { } tripped) writer.WriteBoolean("tripped", tripped);
        Conditions(it, writer);
        if (it.Set is { } set) writer.WriteNumber(set.Dimension == Dimension.Energy ? "setJ" : "setMv", set.Dimension == Dimension.Energy ? set.Si : set.Si * 1000);
        if (it.Void is { } reason) writer.WriteString("void", reason);
        if (it.Borrowed is { } borrowed) writer.WriteString("standard", borrowed.Id);
        if (it.Load is { } load) writer.WriteNumber("loadA", load.Value);
        if (it.Note is { } note) writer.WriteString("note", note);
        if (it.Accuracy is { } accuracy)
        {
            writer.WriteStartObject("accuracy");
            writer.WriteNumber("percent", accuracy.Percent);
            writer.WriteNumber("digits", accuracy.Digits);
            writer.WriteNumber("resolution", accuracy.Resolution);
            writer.WriteEndObject();
        }
        writer.WriteEndObject();
    }

    private static void Conditions(Reading it, Utf8JsonWriter writer)
    {
        var under = it.Under;
        switch (it.Test)
        {
            case Test.EarthContinuity:
                writer.WriteNumber("nullOhm", it.Null.Value);
                writer.WriteString("path", Words.Of(under.Path));
                writer.WriteString("part", Words.Of(under.Part));
                break;
            case Test.Insulation:
                writer.WriteString("between", Words.Of(under.Between));
                if (it.TestVoltage is { } volts) writer.WriteNumber("testVoltageV", volts.Value);
                writer.WriteBoolean("switchedOn", it.SwitchedOn);
                break;
            case Test.Leakage:
                writer.WriteString("kind", Words.Of(under.Kind));
                writer.WriteString("method", Words.Of(under.Method));
                writer.WriteString("current", Words.Of(under.Current));
                writer.WriteString("polarity", Words.Of(under.Polarity));
                writer.WriteString("neutral", Words.Of(under.Neutral));
                writer.WriteString("earth", Words.Of(under.Earth));
                writer.WriteString("power", Words.Of(under.Power));
                if (it.Mains is { } mains) writer.WriteNumber("mainsVoltageV", mains.Value);
                writer.WriteBoolean("switchedOn", it.SwitchedOn);
                break;
            case Test.RcdTrip:
                writer.WriteNumber("multiple", under.Multiple);
                writer.WriteNumber("phaseDeg", under.PhaseDeg);
                break;
        }
        if (under.AppliedPart is { } part) writer.WriteString("appliedPart", part);
        if (under.Point is { } point) writer.WriteString("point", point);
    }
}
