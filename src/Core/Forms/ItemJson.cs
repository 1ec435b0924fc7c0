using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;

namespace Osierwand.Core.Forms;

/// <summary>Items as JSON in the contract's own words: what the register stores is what the command line reads.</summary>
public static class ItemJson
{
    public static string Write(Item item)
    {
        using var buffer = new MemoryStream();
        using (var writer = new Utf8JsonWriter(buffer))
            Write(item, writer);
        return System.Text.Encoding.UTF8.GetString(buffer.GetBuffer(), 0, (int)buffer.Length);
    }

    /// <returns>The item, or the first fault in document order.</returns>
    public static Result<Item> Read(string json)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            return ItemReader.Read(document.RootElement);
        }
        catch (FaultException fault)
        {
            return fault.Fault;
        }
        catch (JsonException)
        {
            return new Fault("", "is not JSON");
        }
    }

    internal static void Write(Item item, Utf8JsonWriter writer)
    {
        // What members bring is theirs, and is joined again when it is read.
        var it = MedicalSystem.Own(item);
        writer.WriteStartObject();
        writer.WriteString("kind", Words.Of(it.Kind));
        writer.WriteString("class", Words.Of(it.Class));
        writer.WriteString("use", Words.Of(it.Use));
        Flag("heating", it.Heating);
        Flag("metalSheathedElement", it.MetalSheathedElement);
        Flag("surgeProtected", it.SurgeProtected);
        Flag("mobileXray", it.MobileXray);
        Flag("allInsulated", it.AllInsulated);
        Number("ratedPowerW", it.RatedPower?.Value);
        if (!it.PartPlates.IsEmpty)
        {
            writer.WriteStartArray("partPlates");
            foreach (var part in it.PartPlates)
            {
                writer.WriteStartObject();
                writer.WriteString("name", part.Name);
                writer.WriteNumber("powerW", part.Power.Value);
                writer.WriteEndObject();
            }
            writer.WriteEndArray();
        }
        Number("ratedCurrentA", it.RatedCurrent?.Value);
        Number("ratedVoltageV", it.RatedVoltage?.Value);
        Number("nominalMainsV", it.NominalMains?.Value);
        Number("plugFuseA", it.PlugFuse?.Value);
        if (it.Plug != PlugType.Rewirable)
            writer.WriteString("plug", Words.Of(it.Plug));
        if (it.Outlets != 1)
            writer.WriteNumber("outlets", it.Outlets);
        if (it.Cord is { } cord)
        {
            writer.WriteStartObject("cord");
            Number("lengthM", cord.Length?.Value);
            Number("conductorMm2", cord.Conductor?.Value);
            Flag("detachable", cord.Detachable);
            Flag("permanent", cord.Permanent);
            Number("temperatureC", cord.Temperature?.Value);
            if (cord.Inlet is { } inlet)
                writer.WriteString("inlet", Words.Of(inlet));
            writer.WriteEndObject();
        }
        if (it.Rcd is { } rcd)
        {
            writer.WriteStartObject("rcd");
            writer.WriteNumber("ratedResidualMa", rcd.Value * 1000);
            if (it.RcdOwnTrip is { } own)
                writer.WriteNumber("ownTripMs", own.Value * 1000);
            writer.WriteEndObject();
        }
        if (!it.AppliedParts.IsEmpty)
        {
            writer.WriteStartArray("appliedParts");
            foreach (var part in it.AppliedParts)
            {
                writer.WriteStartObject();
                writer.WriteString("name", part.Name);
                writer.WriteString("type", Words.Of(part.Type));
                writer.WriteNumber("connections", part.Connections);
                if (!part.Joined)
                    writer.WriteBoolean("joined", false);
                if (part.MadeOf is { } modules)
                    writer.WriteString("madeOf", modules);
                writer.WriteEndObject();
            }
            writer.WriteEndArray();
        }
        Flag("noAppliedParts", it.NoAppliedParts);
        if (it.MainsSwitch != MainsSwitch.Mechanical)
            writer.WriteString("mainsSwitch", Words.Of(it.MainsSwitch));
        if (it.Phases != 1)
            writer.WriteNumber("phases", it.Phases);
        Names("earthedParts", it.EarthedParts);
        Names("unearthedParts", it.UnearthedParts);
        if (it.StartUpSeconds > 0)
            writer.WriteNumber("startUpS", it.StartUpSeconds);
        Flag("lifeSupporting", it.LifeSupporting);
        Flag("emergencyTransport", it.EmergencyTransport);
        if (it.MadeIn is { } year)
            writer.WriteNumber("madeIn", year);
        Number("lifeYears", it.LifeYears);
        if (it.Defibrillator is { } defibrillator)
        {
            writer.WriteStartObject("defibrillator");
            writer.WriteStartArray("settingsJ");
            foreach (var joule in defibrillator.SettingsJ)
                writer.WriteNumberValue(joule);
            writer.WriteEndArray();
            Flag("synchronises", defibrillator.Synchronises);
            Number("ecgSetMv", defibrillator.EcgSetMv);
            writer.WriteEndObject();
        }
        if (it.Battery is { } battery)
        {
            writer.WriteStartObject("battery");
            if (battery.FittedOn is { } fitted)
                writer.WriteString("fittedOn", fitted.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture));
            Number("lifeMonths", battery.LifeMonths);
            writer.WriteEndObject();
        }
        Names("accessories", it.Accessories);
        if (it.Maker is { IsEmpty: false } maker)
        {
            writer.WriteStartObject("maker");
            Number("intervalMonths", maker.IntervalMonths);
            if (!maker.Limits.IsEmpty)
            {
                writer.WriteStartArray("limits");
                foreach (var limit in maker.Limits)
                {
                    writer.WriteStartObject();
                    writer.WriteString("test", limit.Test);
                    writer.WriteNumber("value", limit.Value);
                    writer.WriteString("unit", limit.Unit);
                    writer.WriteEndObject();
                }
                writer.WriteEndArray();
            }
            Names("checks", maker.Checks);
            writer.WriteEndObject();
        }
        if (it.Access != AccessLevel.FreeStanding)
            writer.WriteString("access", Words.Of(it.Access));
        Names("care", [.. it.Care.Select(Words.Of)]);
        if (!item.Members.IsEmpty)
        {
            writer.WriteStartArray("members");
            foreach (var member in item.Members)
            {
                writer.WriteStartObject();
                writer.WriteString("tag", member.Tag);
                writer.WriteString("name", member.Name);
                writer.WritePropertyName("item");
                Write(member.Equipment, writer);
                writer.WriteEndObject();
            }
            writer.WriteEndArray();
        }
        writer.WriteEndObject();

        void Names(string name, System.Collections.Immutable.ImmutableArray<string> names)
        {
            if (names.IsEmpty)
                return;
            writer.WriteStartArray(name);
            foreach (var one in names)
                writer.WriteStringValue(one);
            writer.WriteEndArray();
        }

        void Flag(string name, bool value)
        {
            if (value)
                writer.WriteBoolean(name, true);
        }

        void Number(string name, double? value)
        {
            if (value is { } number)
                writer.WriteNumber(name, number);
        }
    }
}
