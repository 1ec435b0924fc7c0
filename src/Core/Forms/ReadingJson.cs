using System.Text.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Forms;

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
            if (value.IsBound)
                writer.WriteString("qualifier", value.Qualifier == Qualifier.Above ? ">" : "<");
        }
        if (it.Ok is { } ok)
            writer.WriteBoolean("ok", ok);
        if (it.Tripped is { } tripped)
            writer.WriteBoolean("tripped", tripped);
        ConditionsJson.Write(it.Test, it.Under, writer);
        if (it.Test == Test.EarthContinuity)
            writer.WriteNumber("nullOhm", it.Null.Value);
        if (it.TestVoltage is { } volts)
            writer.WriteNumber("testVoltageV", volts.Value);
        if (it.Mains is { } mains)
            writer.WriteNumber("mainsVoltageV", mains.Value);
        if (it.Test is Test.Insulation or Test.Leakage)
            writer.WriteBoolean("switchedOn", it.SwitchedOn);
        if (it.Set is { } set)
            writer.WriteNumber(
                set.Dimension == Dimension.Energy ? "setJ" : "setMv",
                set.Dimension == Dimension.Energy ? set.Si : set.Si * 1000
            );
        if (it.Void is { } reason)
            writer.WriteString("void", reason);
        if (it.Borrowed is { } borrowed)
            writer.WriteString("standard", borrowed.Id);
        if (it.Load is { } load)
            writer.WriteNumber("loadA", load.Value);
        if (it.Note is { } note)
            writer.WriteString("note", note);
        if (it.TestCurrent is { } current)
            writer.WriteNumber("testCurrentA", current.Value);
        if (it.MakerLimit is { } maker && it.Value is { } its)
            writer.WriteNumber("makerLimit", maker.Si / its.Unit.Factor);
        if (it.Found is { } found)
            writer.WriteString("found", Words.Of(found));
        if (it.Override is { } by)
        {
            writer.WriteStartObject("override");
            writer.WriteString("status", Words.Of(by.To));
            writer.WriteString("by", by.By);
            writer.WriteString("role", "lead");
            writer.WriteString("reason", by.Reason);
            writer.WriteEndObject();
        }
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
}
