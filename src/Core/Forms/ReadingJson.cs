using System.Text.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;

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
        ConditionsJson.Write(it.Under, writer);
        WriteOwn(it, writer);
        if (it.Void is { } reason)
            writer.WriteString("void", reason);
        if (it.VoidCause is { } cause)
            writer.WriteString("cause", Words.Of(cause));
        if (it.Borrowed is { } borrowed)
            writer.WriteString("standard", borrowed.Id);
        if (it.Load is { } load)
            writer.WriteNumber("loadA", load.Value);
        if (it.Note is { } note)
            writer.WriteString("note", note);
        if (it.Override is { } by)
        {
            writer.WriteStartObject("override");
            writer.WriteString("status", Words.Of(by.To));
            writer.WriteString("by", by.By);
            writer.WriteString("role", "lead");
            writer.WriteString("reason", by.Reason);
            writer.WriteEndObject();
        }
        if (it is Reading.Numeric { Probe: { } probe })
        {
            writer.WriteString("probe", Words.Of(probe.On));
            if (probe.ProvedBy is { } proved)
                writer.WriteString("probeProved", proved);
        }
        if (it is Reading.Numeric { Accuracy: { } accuracy })
        {
            writer.WriteStartObject("accuracy");
            writer.WriteNumber("percent", accuracy.Percent);
            writer.WriteNumber("digits", accuracy.Digits);
            writer.WriteNumber("resolution", accuracy.Resolution);
            writer.WriteEndObject();
        }
        writer.WriteEndObject();
    }

    /// <summary>The fields that only its kind has.</summary>
    private static void WriteOwn(Reading it, Utf8JsonWriter writer)
    {
        switch (it)
        {
            case Reading.EarthContinuity earth:
                writer.WriteNumber("nullOhm", earth.Null.Value);
                if (earth.TestCurrent is { } current)
                    writer.WriteNumber("testCurrentA", current.Value);
                break;
            case Reading.Insulation insulation:
                writer.WriteBoolean("switchedOn", insulation.SwitchedOn);
                break;
            case Reading.Leakage leakage:
                writer.WriteBoolean("switchedOn", leakage.SwitchedOn);
                if (leakage.Mains is { } mains)
                    writer.WriteNumber("mainsVoltageV", mains.Value);
                if (leakage.Proof is { } proof)
                    writer.WriteString("proof", proof);
                break;
            case Reading.RcdTripped or Reading.RcdTrippedUntimed or Reading.RcdDidNotTrip:
                writer.WriteBoolean("tripped", it is not Reading.RcdDidNotTrip);
                break;
            case Reading.Performance { MakerLimit: { } maker } performance:
                writer.WriteNumber("makerLimit", maker.Si / performance.Shown.Unit.Factor);
                break;
            case Reading.Conductors conductors:
                writer.WriteBoolean("ok", conductors.Ok);
                if (conductors.Found is { } found)
                    writer.WriteString("found", Words.Of(found));
                break;
            case Reading.Functional functional:
                writer.WriteBoolean("ok", functional.Ok);
                if (functional.Check is { } check)
                    writer.WriteString("check", check);
                break;
        }
    }
}
