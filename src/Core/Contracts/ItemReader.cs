using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Contracts;

/// <summary>Reads the "item" object shared by the assess and plan contracts. Contradictions are refused where they stand.</summary>
internal static class ItemReader
{
    /// <summary>More are no lead but a slip of the finger.</summary>
    private const int MostOutlets = 200;

    public static Item Read(JsonElement element)
    {
        var item = new Item { Kind = ItemKind.Appliance };
        var kindGiven = false;
        Properties(element, (name, value) =>
        {
            kindGiven |= name == "kind";
            item = name switch
            {
                "kind" => item with { Kind = Word<ItemKind>(value) },
                "class" => item with { Class = Word<ProtectionClass>(value) },
                "use" => item with { Use = Word<UseOf>(value) },
                "heating" => item with { Heating = Boolean(value) },
                "metalSheathedElement" => item with { MetalSheathedElement = Boolean(value) },
                "surgeProtected" => item with { SurgeProtected = Boolean(value) },
                "mobileXray" => item with { MobileXray = Boolean(value) },
                "ratedPowerW" => item with { RatedPower = new(NotNegative(value)) },
                "ratedCurrentA" => item with { RatedCurrent = new(NotNegative(value)) },
                "ratedVoltageV" => item with { RatedVoltage = new(Positive(value)) },
                "nominalMainsV" => item with { NominalMains = new(Positive(value)) },
                "plugFuseA" => item with { PlugFuse = new(Positive(value)) },
                "outlets" => item with { Outlets = Math.Max(1, Count(value, 0) is <= MostOutlets and var outlets ? outlets : throw new FaultException("", $"must be at most {MostOutlets}")) },
                "allInsulated" => item with { AllInsulated = Boolean(value) },
                "name" => item with { Name = Text(value) },
                "serial" => item with { Serial = Text(value) },
                "tag" => item with { Tag = Text(value) },
                "cord" => item with { Cord = Cord(value) },
                "rcd" => item with { Rcd = Rcd(value) },
                "appliedParts" => item with { AppliedParts = Parts(value) },
                "phases" => item with { Phases = Number(value) is 1 or 3 ? (int)Number(value) : throw new FaultException("", "must be 1 or 3") },
                "earthedParts" => item with { EarthedParts = Names(value) },
                "unearthedParts" => item with { UnearthedParts = Names(value) },
                "startUpS" => item with { StartUpSeconds = Count(value, 0) is <= 3600 and var seconds ? seconds : throw new FaultException("", "must be at most an hour") },
                "defibrillator" => item with { Defibrillator = Defibrillator(value) },
                "mainsSwitch" => item with { MainsSwitch = Word<MainsSwitch>(value) },
                _ => throw Unknown(name),
            };
        });
        if (!kindGiven) throw Missing("kind");
        var medical = item.Kind is ItemKind.MedicalDevice or ItemKind.MedicalSystem;
        if (item.Class == ProtectionClass.Internal && !medical) throw new FaultException("class", "“internal” is for medical devices only");
        if (!item.AppliedParts.IsEmpty && !medical) throw new FaultException("appliedParts", $"a {Words.Of(item.Kind)} has no applied parts; a medicalDevice has");
        if (item.Defibrillator is not null && !medical) throw new FaultException("defibrillator", $"a {Words.Of(item.Kind)} is no defibrillator; a medicalDevice may be");
        if (!item.EarthedParts.IsEmpty && item.Class is not (ProtectionClass.I or ProtectionClass.Undecided)) throw new FaultException("earthedParts", $"class {Words.Of(item.Class)} has no earthed parts");
        return item;
    }

    /// <summary>Names of places on the item, each once.</summary>
    private static ImmutableArray<string> Names(JsonElement element)
    {
        var seen = new HashSet<string>();
        return List(element, entry => NonEmptyText(entry) is var name && seen.Add(name) ? name : throw new FaultException("", $"“{name}” stands twice"));
    }

    private static Defibrillator Defibrillator(JsonElement element)
    {
        var it = new Defibrillator([]);
        Properties(element, (name, value) => it = name switch
        {
            "settingsJ" => it with { SettingsJ = List(value, Positive) },
            "synchronises" => it with { Synchronises = Boolean(value) },
            "ecgSetMv" => it with { EcgSetMv = Positive(value) },
            _ => throw Unknown(name),
        });
        return it;
    }

    private static Cord Cord(JsonElement element)
    {
        var cord = new Cord();
        Properties(element, (name, value) => cord = name switch
        {
            "lengthM" => cord with { Length = new(Positive(value)) },
            "conductorMm2" => cord with { Conductor = new(Positive(value)) },
            "detachable" => cord with { Detachable = Boolean(value) },
            "permanent" => cord with { Permanent = Boolean(value) },
            "temperatureC" => cord with { Temperature = Temperature(value) },
            _ => throw Unknown(name),
        });
        return cord;
    }

    private static Celsius Temperature(JsonElement value) =>
        Number(value) is >= -60 and <= 200 and var degrees ? new(degrees) : throw new FaultException("", "must lie between -60 and 200 degrees Celsius");

    private static Amperes Rcd(JsonElement element)
    {
        Amperes? rated = null;
        Properties(element, (name, value) => rated = name == "ratedResidualMa" ? new(Positive(value) / 1000) : throw Unknown(name));
        return rated ?? throw Missing("ratedResidualMa");
    }

    private static ImmutableArray<AppliedPart> Parts(JsonElement element)
    {
        var names = new HashSet<string>();
        return List(element, entry =>
        {
            var (part, type) = (new AppliedPart("", default), default(AppliedPartType?));
            Properties(entry, (name, value) =>
            {
                switch (name)
                {
                    case "name": part = part with { Name = NonEmptyText(value) }; break;
                    case "type": type = Word<AppliedPartType>(value); break;
                    case "joined": part = part with { Joined = Boolean(value) }; break;
                    case "connections": part = part with { Connections = Count(value) }; break;
                    default: throw Unknown(name);
                }
            });
            if (part.Name.Length == 0) throw Missing("name");
            if (!names.Add(part.Name)) throw new FaultException("name", $"“{part.Name}” stands twice");
            return part with { Type = type ?? throw Missing("type") };
        });
    }
}
