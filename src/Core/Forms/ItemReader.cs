using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Forms;

/// <summary>Reads the "item" object shared by the assess and plan contracts. Contradictions are refused where they stand.</summary>
internal static class ItemReader
{
    /// <summary>More are no lead but a slip of the finger.</summary>
    private const int MostOutlets = 200;

    private const int LongestStartUp = 3600;

    public static Item Read(JsonElement element)
    {
        var draft = new Draft();
        Properties(element, draft.Take);
        return draft.Finished();
    }

    /// <summary>An item in the making: fields are gathered and the item is made once.</summary>
    private sealed class Draft
    {
        private ItemKind? kind;
        private ProtectionClass protection;
        private UseOf use = UseOf.Portable;
        private bool heating,
            sheathed,
            surge,
            xray,
            allInsulated;
        private Watts? power;
        private Amperes? current,
            fuse,
            rcd;
        private Seconds? ownTrip;
        private Volts? rated,
            nominal;
        private int outlets = 1,
            phases = 1,
            startUp;
        private int? madeIn;
        private double? lifeYears;
        private bool noParts,
            lifeSupporting,
            transport;
        private string? itemName,
            serial,
            tag;
        private Cord? cord;
        private ImmutableArray<AppliedPart> parts = [];
        private ImmutableArray<string> earthed = [],
            unearthed = [],
            accessories = [];
        private MakerAsks? maker;
        private Battery? battery;
        private Defibrillator? defibrillator;
        private MainsSwitch mainsSwitch;
        private PlugType plug;
        private AccessLevel access;
        private ImmutableArray<CareNeed> care = [];
        private ImmutableArray<PartPlate> plates = [];
        private ImmutableArray<SystemMember> members = [];

        public void Take(string name, JsonElement value)
        {
            switch (name)
            {
                case "kind":
                    kind = Word<ItemKind>(value);
                    break;
                case "class":
                    protection = Word<ProtectionClass>(value);
                    break;
                case "use":
                    use = Word<UseOf>(value);
                    break;
                case "heating":
                    heating = Boolean(value);
                    break;
                case "metalSheathedElement":
                    sheathed = Boolean(value);
                    break;
                case "surgeProtected":
                    surge = Boolean(value);
                    break;
                case "mobileXray":
                    xray = Boolean(value);
                    break;
                case "ratedPowerW":
                    power = new(NotNegative(value));
                    break;
                case "ratedCurrentA":
                    current = new(NotNegative(value));
                    break;
                case "ratedVoltageV":
                    rated = new(Positive(value));
                    break;
                case "nominalMainsV":
                    nominal = new(Positive(value));
                    break;
                case "plugFuseA":
                    fuse = new(Positive(value));
                    break;
                case "plug":
                    plug = Word<PlugType>(value);
                    break;
                case "outlets":
                    outlets = Math.Max(1, AtMost(value, MostOutlets, $"{MostOutlets}"));
                    break;
                case "allInsulated":
                    allInsulated = Boolean(value);
                    break;
                case "name":
                    itemName = Text(value);
                    break;
                case "serial":
                    serial = Text(value);
                    break;
                case "tag":
                    tag = Text(value);
                    break;
                case "cord":
                    cord = Cord(value);
                    break;
                case "rcd":
                    (rcd, ownTrip) = Rcd(value);
                    break;
                case "appliedParts":
                    parts = Parts(value);
                    break;
                case "noAppliedParts":
                    noParts = Boolean(value);
                    break;
                case "phases":
                    phases = Number(value) is 1 or 3 ? (int)Number(value) : throw new FaultException("", "must be 1 or 3");
                    break;
                case "earthedParts":
                    earthed = Names(value);
                    break;
                case "unearthedParts":
                    unearthed = Names(value);
                    break;
                case "startUpS":
                    startUp = AtMost(value, LongestStartUp, "an hour");
                    break;
                case "lifeSupporting":
                    lifeSupporting = Boolean(value);
                    break;
                case "emergencyTransport":
                    transport = Boolean(value);
                    break;
                case "madeIn":
                    madeIn = Year(value);
                    break;
                case "lifeYears":
                    lifeYears = Positive(value) is <= Item.LongestLifeYears and var years
                        ? years
                        : throw new FaultException("", $"must be at most {Item.LongestLifeYears}");
                    break;
                case "defibrillator":
                    defibrillator = Defibrillator(value);
                    break;
                case "battery":
                    battery = Battery(value);
                    break;
                case "accessories":
                    accessories = Names(value);
                    break;
                case "maker":
                    maker = Maker(value);
                    break;
                case "access":
                    access = Word<AccessLevel>(value);
                    break;
                case "care":
                    care = List(value, Word<CareNeed>);
                    break;
                case "partPlates":
                    plates = List(value, Plate);
                    break;
                case "members":
                    members = List(value, Member);
                    break;
                case "mainsSwitch":
                    mainsSwitch = Word<MainsSwitch>(value);
                    break;
                default:
                    throw Unknown(name);
            }
        }

        public Item Finished()
        {
            var its = kind ?? throw Missing("kind");
            var medical = its is ItemKind.MedicalDevice or ItemKind.MedicalSystem;
            if (protection == ProtectionClass.Internal && !medical)
                throw new FaultException("class", "“internal” is for medical devices only");
            if (!parts.IsEmpty && !medical)
                throw new FaultException("appliedParts", $"a {Words.Of(its)} has no applied parts; a medicalDevice has");
            if (noParts && (!medical || !parts.IsEmpty))
                throw new FaultException(
                    "noAppliedParts",
                    medical ? "says that there are none, and appliedParts names some" : $"of a {Words.Of(its)} it is not kept"
                );
            if (defibrillator is not null && !medical)
                throw new FaultException("defibrillator", $"a {Words.Of(its)} is no defibrillator; a medicalDevice may be");
            if ((lifeSupporting || transport) && !medical)
                throw new FaultException(
                    lifeSupporting ? "lifeSupporting" : "emergencyTransport",
                    $"of a {Words.Of(its)} it is not kept; of a medicalDevice it is"
                );
            if (battery is not null && !medical)
                throw new FaultException("battery", $"of a {Words.Of(its)} it is not kept; of a medicalDevice it is");
            if ((maker is not null || !accessories.IsEmpty) && !medical)
                throw new FaultException(
                    maker is null ? "accessories" : "maker",
                    $"of a {Words.Of(its)} they are not kept; of a medicalDevice they are"
                );
            if (!earthed.IsEmpty && protection is not (ProtectionClass.I or ProtectionClass.Undecided))
                throw new FaultException("earthedParts", $"class {Words.Of(protection)} has no earthed parts");
            var item = new Item
            {
                Kind = its,
                Class = protection,
                Use = use,
                Heating = heating,
                MetalSheathedElement = sheathed,
                SurgeProtected = surge,
                MobileXray = xray,
                AllInsulated = allInsulated,
                RatedPower = power,
                PartPlates = plates,
                Access = access,
                Care = care,
                RatedCurrent = current,
                RatedVoltage = rated,
                NominalMains = nominal,
                PlugFuse = fuse,
                Plug = plug,
                Outlets = outlets,
                Cord = cord,
                Rcd = rcd,
                RcdOwnTrip = ownTrip,
                AppliedParts = parts,
                NoAppliedParts = noParts,
                MainsSwitch = mainsSwitch,
                Phases = phases,
                EarthedParts = earthed,
                UnearthedParts = unearthed,
                StartUpSeconds = startUp,
                LifeSupporting = lifeSupporting,
                EmergencyTransport = transport,
                MadeIn = madeIn,
                LifeYears = lifeYears,
                Defibrillator = defibrillator,
                Battery = battery,
                Accessories = accessories,
                Maker = maker,
                Name = itemName,
                Serial = serial,
                Tag = tag,
            };
            return members.IsEmpty ? item : System(item, members);
        }

        private static int Year(JsonElement value) =>
            AtMost(value, Item.LatestYear, $"{Item.LatestYear}") is >= Item.EarliestYear and var year
                ? year
                : throw new FaultException("", $"must be at least {Item.EarliestYear}");

        private static int AtMost(JsonElement value, int most, string words) =>
            Count(value, 0) is var count && count <= most ? count : throw new FaultException("", $"must be at most {words}");
    }

    private static Item System(Item socket, ImmutableArray<SystemMember> members)
    {
        if (socket.Kind != ItemKind.MedicalSystem)
            throw new FaultException("members", $"a {Words.Of(socket.Kind)} has no members; a medicalSystem has");
        if (members.Length > MedicalSystem.MostMembers)
            throw new FaultException("members", $"must be at most {MedicalSystem.MostMembers}");
        if (members.Select(it => it.Tag).Distinct(StringComparer.OrdinalIgnoreCase).Count() != members.Length)
            throw new FaultException("members", "a member stands twice");
        if (members.Any(it => !it.Equipment.Members.IsEmpty))
            throw new FaultException("members", "a system is no member of another");
        return MedicalSystem.Of(socket, members);
    }

    private static SystemMember Member(JsonElement element)
    {
        var (memberTag, memberName, its) = ("", "", default(Item));
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "tag":
                        memberTag = NonEmptyText(value);
                        break;
                    case "name":
                        memberName = NonEmptyText(value);
                        break;
                    case "item":
                        its = Read(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        return new(
            memberTag.Length > 0 ? memberTag : throw Missing("tag"),
            memberName.Length > 0 ? memberName : throw Missing("name"),
            its ?? throw Missing("item")
        );
    }

    /// <summary>Names of places on the item, each once.</summary>
    private static ImmutableArray<string> Names(JsonElement element)
    {
        var seen = new HashSet<string>();
        return List(
            element,
            entry => NonEmptyText(entry) is var name && seen.Add(name) ? name : throw new FaultException("", $"“{name}” stands twice")
        );
    }

    private static PartPlate Plate(JsonElement element)
    {
        var (its, power) = ("", default(Watts?));
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "name":
                        its = NonEmptyText(value);
                        break;
                    case "powerW":
                        power = new(Positive(value));
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        return new(its.Length > 0 ? its : throw Missing("name"), power ?? throw Missing("powerW"));
    }

    private static Defibrillator Defibrillator(JsonElement element)
    {
        var it = new Defibrillator([]);
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "settingsJ" => it with { SettingsJ = List(value, Positive) },
                    "synchronises" => it with { Synchronises = Boolean(value) },
                    "ecgSetMv" => it with { EcgSetMv = Positive(value) },
                    _ => throw Unknown(name),
                }
        );
        return it;
    }

    private static Battery Battery(JsonElement element)
    {
        var it = new Battery();
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "fittedOn" => it with { FittedOn = Date(value) },
                    "lifeMonths" => it with { LifeMonths = Positive(value) },
                    _ => throw Unknown(name),
                }
        );
        return it.Refusal() is { } why ? throw new FaultException("", why) : it;
    }

    private static MakerAsks Maker(JsonElement element)
    {
        var it = MakerAsks.Nothing;
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "intervalMonths" => it with { IntervalMonths = Positive(value) },
                    "limits" => it with { Limits = List(value, MakerLimit) },
                    "checks" => it with { Checks = Names(value) },
                    _ => throw Unknown(name),
                }
        );
        return it;
    }

    private static MakerLimit MakerLimit(JsonElement element)
    {
        var it = new MakerLimit("", 0, "");
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "test" => it with { Test = NonEmptyText(value) },
                    "value" => it with { Value = Positive(value) },
                    "unit" => it with { Unit = NonEmptyText(value) },
                    _ => throw Unknown(name),
                }
        );
        return it.Test.Length == 0 ? throw Missing("test")
            : it.Unit.Length == 0 ? throw Missing("unit")
            : it.Value <= 0 ? throw Missing("value")
            : MakerFigures.Of(it) is null ? throw new FaultException("", $"“{it.Test}” has no limit in {it.Unit}")
            : it;
    }

    private static Cord Cord(JsonElement element)
    {
        var cord = new Cord();
        Properties(
            element,
            (name, value) =>
                cord = name switch
                {
                    "lengthM" => cord with { Length = new(Positive(value)) },
                    "conductorMm2" => cord with { Conductor = new(Positive(value)) },
                    "detachable" => cord with { Detachable = Boolean(value) },
                    "permanent" => cord with { Permanent = Boolean(value) },
                    "inlet" => cord with { Inlet = Word<InletType>(value) },
                    "temperatureC" => cord with { Temperature = Temperature(value) },
                    _ => throw Unknown(name),
                }
        );
        return cord;
    }

    private static Celsius Temperature(JsonElement value) =>
        Number(value) is >= -60 and <= 200 and var degrees
            ? new(degrees)
            : throw new FaultException("", "must lie between -60 and 200 degrees Celsius");

    private static (Amperes Rated, Seconds? OwnTrip) Rcd(JsonElement element)
    {
        var (rated, own) = (default(Amperes?), default(Seconds?));
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "ratedResidualMa":
                        rated = new(Positive(value) / 1000);
                        break;
                    case "ownTripMs":
                        own = new(Positive(value) / 1000);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        return (rated ?? throw Missing("ratedResidualMa"), own);
    }

    private static ImmutableArray<AppliedPart> Parts(JsonElement element)
    {
        var names = new HashSet<string>();
        return List(
            element,
            entry =>
            {
                var (part, type) = (new AppliedPart("", default), default(AppliedPartType?));
                Properties(
                    entry,
                    (name, value) =>
                    {
                        switch (name)
                        {
                            case "name":
                                part = part with { Name = NonEmptyText(value) };
                                break;
                            case "type":
                                type = Word<AppliedPartType>(value);
                                break;
                            case "joined":
                                part = part with { Joined = Boolean(value) };
                                break;
                            case "connections":
                                part = part with { Connections = Count(value) };
                                break;
                            case "madeOf":
                                part = part with { MadeOf = NonEmptyText(value) };
                                break;
                            default:
                                throw Unknown(name);
                        }
                    }
                );
                if (part.Name.Length == 0)
                    throw Missing("name");
                if (!names.Add(part.Name))
                    throw new FaultException("name", $"“{part.Name}” stands twice");
                if (part.MadeOf is { } modules && PartModules.Read(modules, part.Connections).Fault is { } fault)
                    throw new FaultException("madeOf", fault.Message);
                return part with { Type = type ?? throw Missing("type") };
            }
        );
    }
}
