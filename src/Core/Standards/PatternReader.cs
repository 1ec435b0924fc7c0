using System.Text.Json;
using Osierwand.Core.Json;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Standards;

/// <summary>Reads the patterns by which rows of a data file say which items and readings they speak of.</summary>
internal static class PatternReader
{
    /// <summary>An object of exactly these numbers; a name ending in "?" may be left out.</summary>
    public static Dictionary<string, double> Numbers(JsonElement element, params string[] names)
    {
        var numbers = new Dictionary<string, double>();
        Properties(
            element,
            (name, value) =>
            {
                if (!names.Any(known => known.TrimEnd('?') == name))
                    throw Unknown(name);
                numbers[name] = NotNegative(value);
            }
        );
        var absent = names.FirstOrDefault(name => !name.EndsWith('?') && !numbers.ContainsKey(name));
        return absent is null ? numbers : throw Missing(absent);
    }

    public static ItemPattern Item(JsonElement element)
    {
        var it = ItemPattern.Any;
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "kinds" => it with { Kinds = WordSet<Equipment.ItemKind>(value) },
                    "classes" => it with { Classes = WordSet<Equipment.ProtectionClass>(value) },
                    "uses" => it with { Uses = WordSet<Equipment.UseOf>(value) },
                    "heating" => it with { Heating = Boolean(value) },
                    "metalSheathedElement" => it with { MetalSheathedElement = Boolean(value) },
                    "mobileXray" => it with { MobileXray = Boolean(value) },
                    "hardWired" => it with { HardWired = Boolean(value) },
                    "hasRcd" => it with { HasRcd = Boolean(value) },
                    "electronicSwitch" => it with { ElectronicSwitch = Boolean(value) },
                    "hasAppliedParts" => it with { HasAppliedParts = Boolean(value) },
                    "hasDefibrillator" => it with { HasDefibrillator = Boolean(value) },
                    "synchronises" => it with { Synchronises = Boolean(value) },
                    "showsEcg" => it with { ShowsEcg = Boolean(value) },
                    "hasConnectionPairs" => it with { HasConnectionPairs = Boolean(value) },
                    "partTypes" => it with { PartTypes = WordSet<Equipment.AppliedPartType>(value) },
                    "powerW" => it with { PowerW = RangeOf(value) },
                    "conductorMm2" => it with { ConductorMm2 = RangeOf(value) },
                    "rcdMa" => it with { RcdMa = RangeOf(value) },
                    _ => throw Unknown(name),
                }
        );
        return it;
    }

    public static Range RangeOf(JsonElement element)
    {
        var n = Numbers(element, "above?", "upTo?", "atLeast?");
        double? Of(string name) => n.TryGetValue(name, out var value) ? value : null;
        var range = new Range(Of("above"), Of("upTo"), Of("atLeast"));
        if (range.IsAny || range.UpTo <= range.Above || range.UpTo < range.AtLeast)
            throw new FaultException("", "is an empty range");
        return range;
    }

    public static ReadingPattern Reading(JsonElement element)
    {
        var it = ReadingPattern.Any;
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "kinds" => it with { Kinds = WordSet<LeakageKind>(value) },
                    "methods" => it with { Methods = WordSet<LeakageMethod>(value) },
                    "currents" => it with { Currents = WordSet<CurrentType>(value) },
                    "polarities" => it with { Polarities = WordSet<MainsPolarity>(value) },
                    "neutral" => it with { Neutral = WordSet<ConductorState>(value) },
                    "earth" => it with { Earth = WordSet<ConductorState>(value) },
                    "power" => it with { Power = WordSet<PowerState>(value) },
                    "between" => it with { Between = WordSet<Between>(value) },
                    "parts" => it with { Parts = WordSet<EarthPart>(value) },
                    "insulationParts" => it with { InsulationParts = WordSet<InsulationPart>(value) },
                    "appliedPartTypes" => it with { AppliedPartTypes = WordSet<Equipment.AppliedPartType>(value) },
                    "triggers" => it with { Triggers = WordSet<SyncTrigger>(value) },
                    "multiple" => it with { Multiple = Positive(value) },
                    "phaseDeg" => it with { PhaseDeg = Count(value, 0) },
                    _ => throw Unknown(name),
                }
        );
        return it;
    }
}
