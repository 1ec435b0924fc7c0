using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>Lays corrected facts over an item, or says what cannot be right. One place for the bench, the item's page and
/// registration.</summary>
public static class Facts
{
    private const int LongestText = 120;
    private const int MostOutlets = 50;
    private const int MostParts = 40;
    private const int LongestStartUp = 3600;
    private const int MostWatts = 100_000;
    private const int MostConnections = 64;
    private const int MostMonths = 120;
    private const int MostSettings = 12;
    private const int MostJoule = 1000;
    private const int MostMillivolt = 10;

    /// <returns>The item as changed; a fault that names the fact.</returns>
    public static Result<ItemOnBench> Apply(ItemOnBench before, FactChanges changes)
    {
        if (Wrong(before.Equipment, changes) is { } fault)
            return fault;
        try
        {
            var after = before with
            {
                Name = changes.Name?.Trim() ?? before.Name,
                Maker = changes.Maker is null ? before.Maker : Blank(changes.Maker),
                Model = changes.Model is null ? before.Model : Blank(changes.Model),
                Serial = changes.Serial is null ? before.Serial : Blank(changes.Serial),
                Room = changes.Room?.Trim() ?? before.Room,
                Evidence = changes.Evidence ?? before.Evidence,
                Equipment = Changed(before.Equipment, changes),
            };
            return MedicalSystem.Contradiction(after.Equipment) is { } why ? new Fault("members", why) : after;
        }
        catch (ArgumentException impossible)
        {
            return new Fault("", impossible.Message);
        }
    }

    private static Item Changed(Item item, FactChanges to)
    {
        var itemClass = to.Evidence is { } evidence ? ClassDecisions.From(evidence).Class : item.Class;
        var earthed = itemClass is ProtectionClass.I or ProtectionClass.Undecided;
        return item with
        {
            Class = itemClass,
            Use = to.Use ?? item.Use,
            RatedVoltage = to.RatedVoltageV is { } volts ? new Volts(volts) : item.RatedVoltage,
            PartPlates = PlatesOf(item, to),
            RatedPower =
                PlatesOf(item, to) is { IsEmpty: false } plates ? new Watts(plates.Sum(it => it.Power.Value))
                : to.RatedPowerW is { } watts ? new Watts(watts)
                : item.RatedPower,
            Access = to.Access ?? item.Access,
            Care = to.Care is { } care ? [.. care.Distinct().Order()] : item.Care,
            Phases = to.Phases ?? item.Phases,
            AppliedParts = to.AppliedParts is { } parts
                ? [.. parts.Select(it => new AppliedPart(it.Name.Trim(), it.Type, it.Connections, it.Joined, Blank(it.MadeOf ?? "")))]
                : item.AppliedParts,
            // A part that is named says that there is one.
            NoAppliedParts = to.AppliedParts is { Count: > 0 } ? false : to.NoAppliedParts ?? item.NoAppliedParts,
            Defibrillator = to.Defibrillator is not { } defibrillator ? item.Defibrillator : Of(defibrillator),
            Battery =
                to.Battery is not { } battery ? item.Battery
                : battery.Has ? new Battery(battery.FittedOn, battery.LifeMonths)
                : null,
            Accessories = to.Accessories is { } accessories ? [.. accessories.Select(name => name.Trim())] : item.Accessories,
            Maker = to.MakerAsks is { } asks ? Of(asks) : item.Maker,
            RatedCurrent = to.RatedCurrentA is { } amperes ? new Amperes(amperes) : item.RatedCurrent,
            PlugFuse = to.PlugFuseA is { } fuse ? new Amperes(fuse) : item.PlugFuse,
            Plug = to.Plug ?? item.Plug,
            Rcd = to.RcdMa is { } milliamperes ? new Amperes(milliamperes / 1000) : item.Rcd,
            RcdOwnTrip = to.RcdOwnTripMs is { } milliseconds ? new Seconds(milliseconds / 1000) : item.RcdOwnTrip,
            Outlets = to.Outlets ?? item.Outlets,
            MadeIn = to.MadeIn ?? item.MadeIn,
            LifeYears = to.LifeYears ?? item.LifeYears,
            LifeSupporting = to.LifeSupporting ?? item.LifeSupporting,
            EmergencyTransport = to.EmergencyTransport ?? item.EmergencyTransport,
            Heating = to.Heating ?? item.Heating,
            SurgeProtected = to.SurgeProtected ?? item.SurgeProtected,
            AllInsulated = to.AllInsulated ?? item.AllInsulated,
            MainsSwitch = to.MainsSwitch ?? item.MainsSwitch,
            StartUpSeconds = to.StartUpSeconds ?? item.StartUpSeconds,
            EarthedParts =
                !earthed ? []
                : to.EarthedParts is { } metal ? [.. metal.Select(part => part.Trim())]
                : item.EarthedParts,
            UnearthedParts = to.UnearthedParts is { } bare ? [.. bare.Select(part => part.Trim())] : item.UnearthedParts,
            Cord =
                to.FlexLengthM is null && to.FlexMm2 is null && to.Detachable is null && to.Inlet is null
                    ? item.Cord
                    : (item.Cord ?? new()) with
                    {
                        Length = to.FlexLengthM is { } length ? new Metres(length) : item.Cord?.Length,
                        Conductor = to.FlexMm2 is { } size ? new SquareMillimetres(size) : item.Cord?.Conductor,
                        Detachable = to.Detachable ?? item.Cord?.Detachable ?? false,
                        // A lead that is joined for good meets the device by no coupler.
                        Inlet = to.Detachable == false && item.Kind != ItemKind.CordSet ? null : to.Inlet ?? item.Cord?.Inlet,
                    },
        };
    }

    /// <returns>Null where no setting is named: then it is none.</returns>
    private static Defibrillator? Of(DefibrillatorFact it) =>
        it.SettingsJ.Count == 0 ? null : new([.. it.SettingsJ.Distinct().Order()], it.Synchronises, it.EcgSetMv);

    /// <returns>Null where nothing is asked.</returns>
    private static MakerAsks? Of(MakerFact it) =>
        new MakerAsks(it.IntervalMonths, [.. it.Limits.Select(limit => limit.AsLimit)], [.. it.Checks.Select(name => name.Trim())])
            is { IsEmpty: false } asks
            ? asks
            : null;

    /// <summary>A single plate said anew takes the place of parts that were added up before.</summary>
    private static ImmutableArray<PartPlate> PlatesOf(Item item, FactChanges to) =>
        to.PartPlates is { } plates ? [.. plates.Select(it => new PartPlate(it.Name.Trim(), new(it.PowerW)))]
        : to.RatedPowerW is null ? item.PartPlates
        : [];

    private static Fault? Wrong(Item item, FactChanges changes)
    {
        if (changes.Name is { } name && string.IsNullOrWhiteSpace(name))
            return new("name", "The name is missing.");
        if (changes.Room is { } room && string.IsNullOrWhiteSpace(room))
            return new("room", "The room is missing.");
        var texts = new[]
        {
            ("name", changes.Name),
            ("maker", changes.Maker),
            ("model", changes.Model),
            ("serial", changes.Serial),
            ("room", changes.Room),
        };
        foreach (var (path, text) in texts)
        {
            if (text?.Length > LongestText || text?.Any(char.IsControl) == true)
                return new(path, $"The {path} is too long or holds characters that cannot be printed.");
        }
        var amounts = new[]
        {
            ("ratedVoltageV", changes.RatedVoltageV, 1000, "Volts"),
            ("ratedPowerW", changes.RatedPowerW, MostWatts, "Watts"),
            ("ratedCurrentA", changes.RatedCurrentA, 400, "Amperes"),
            ("flexLengthM", changes.FlexLengthM, 500, "The flex's length"),
            ("flexMm2", changes.FlexMm2, 50, "The flex's size"),
            ("plugFuseA", changes.PlugFuseA, 63, "The fuse"),
            ("rcdMa", changes.RcdMa, 1000, "The RCD's rating"),
            ("rcdOwnTripMs", changes.RcdOwnTripMs, 1000, "The time its own standard allows"),
            ("lifeYears", changes.LifeYears, Item.LongestLifeYears, "The years its maker expects of it"),
        };
        foreach (var (path, value, most, what) in amounts)
        {
            if (value is { } number && !(number > 0 && number <= most))
                return new(path, $"{what} must be above 0 and at most {most}.");
        }
        if (changes.Outlets is < 1 or > MostOutlets)
            return new("outlets", $"A lead has 1 to {MostOutlets} outlets.");
        if (changes.StartUpSeconds is < 0 or > LongestStartUp)
            return new("startUpSeconds", "Start-up takes no seconds up to an hour.");
        if (changes.Evidence is { } seen && item.Class == ProtectionClass.Internal && ClassDecisions.From(seen).Class != item.Class)
            return new("evidence", "It runs on its own battery; register what has a mains connection anew.");
        if (changes.Phases is { } phases && phases is not (1 or 3))
            return new("phases", "Equipment has one phase or three.");
        if (changes.Detachable is true && item.IsHardWired)
            return new("detachable", "Hard-wired equipment has no lead that unplugs.");
        if (changes.MadeIn is < Item.EarliestYear or > Item.LatestYear)
            return new("madeIn", $"A year lies between {Item.EarliestYear} and {Item.LatestYear}.");
        if (changes.Inlet is not null && item.Kind != ItemKind.CordSet && !(changes.Detachable ?? item.Cord?.Detachable ?? false))
            return new("inlet", "Only a lead that unplugs meets its device by a coupler: say first that it unplugs.");
        if (!item.IsMedical && (changes.LifeSupporting is true || changes.EmergencyTransport is true))
            return new(
                changes.LifeSupporting is true ? "lifeSupporting" : "emergencyTransport",
                "That is kept of medical devices: their interval goes by it."
            );
        return Names("earthedParts", changes.EarthedParts)
            ?? Names("unearthedParts", changes.UnearthedParts)
            ?? Plates(changes.PartPlates)
            ?? Applied(item, changes.AppliedParts)
            ?? None(item, changes)
            ?? Delivers(item, changes.Defibrillator)
            ?? RunsOn(item, changes.Battery)
            ?? Belongs(item, changes.Accessories)
            ?? Asks(item, changes.MakerAsks);
    }

    private static Fault? Plates(IReadOnlyList<PlateFact>? plates) =>
        plates is null ? null
        : plates.Any(it => !(it.PowerW > 0 && it.PowerW <= MostWatts))
            ? new("partPlates", $"Watts must be above 0 and at most {MostWatts}.")
        : plates.Sum(it => it.PowerW) > MostWatts ? new("partPlates", $"Together more than {MostWatts} W.")
        : Names("partPlates", [.. plates.Select(it => it.Name)]);

    private static Fault? Applied(Item item, IReadOnlyList<AppliedPartFact>? parts) =>
        parts is not { Count: > 0 } ? null
        : !item.IsMedical ? new("appliedParts", "Only medical devices have applied parts.")
        : parts.Any(it => it.Connections is < 1 or > MostConnections)
            ? new("appliedParts", $"An applied part has 1 to {MostConnections} connections.")
        : parts.Any(it => it.MadeOf is { Length: > LongestText } || it.MadeOf?.Any(char.IsControl) == true)
            ? new("appliedParts", "What a part is made of is too long, or holds characters that cannot be printed.")
        : parts.Select(it => PartModules.Read(it.MadeOf ?? "", it.Connections).Fault).FirstOrDefault(fault => fault is not null)
            is { } wrong
            ? new("appliedParts", wrong.Message)
        : Names("appliedParts", [.. parts.Select(it => it.Name)]);

    private static Fault? None(Item item, FactChanges changes) =>
        changes.NoAppliedParts is not true ? null
        : item.Kind != ItemKind.MedicalDevice ? new("noAppliedParts", "That is kept of medical devices.")
        : (changes.AppliedParts?.Count ?? item.AppliedParts.Length) > 0
            ? new("noAppliedParts", "It has applied parts: take them out first, or leave this open.")
        : null;

    private static Fault? RunsOn(Item item, BatteryFact? it) =>
        it is not { Has: true } ? null
        : !item.IsMedical ? new("battery", "A battery is kept of medical devices.")
        : new Battery(it.FittedOn, it.LifeMonths).Refusal() is { } why ? new("battery", why)
        : null;

    private static Fault? Delivers(Item item, DefibrillatorFact? it) =>
        it is null || (it.SettingsJ.Count == 0 && item.Defibrillator is null) ? null
        : !item.IsMedical && it.SettingsJ.Count > 0 ? new("defibrillator", "Only medical devices deliver a shock.")
        : it.SettingsJ.Count > MostSettings ? new("defibrillator", $"At most {MostSettings} energies are checked.")
        : it.SettingsJ.Any(joule => !(joule > 0 && joule <= MostJoule))
            ? new("defibrillator", $"An energy lies above 0 and at most at {MostJoule} J.")
        : it.EcgSetMv is { } set && !(set > 0 && set <= MostMillivolt)
            ? new("defibrillator", $"The check trace is above 0 and at most {MostMillivolt} mV.")
        : null;

    private static Fault? Belongs(Item item, IReadOnlyList<string>? accessories) =>
        accessories is { Count: > 0 } && !item.IsMedical
            ? new("accessories", "Accessories are kept of medical devices.")
            : Names("accessories", accessories);

    private static Fault? Asks(Item item, MakerFact? it)
    {
        if (it is null)
            return null;
        if (!item.IsMedical)
            return new("makerAsks", "What a maker asks is kept of medical devices.");
        if (it.IntervalMonths is { } months && !(months > 0 && months <= MostMonths))
            return new("makerAsks", $"An interval is above 0 and at most {MostMonths} months.");
        if (it.Limits.FirstOrDefault(limit => MakerFigures.Of(limit.AsLimit) is null) is { } odd)
            return new("makerAsks", $"“{odd.Test}” has no limit of {QuantityText.Number(odd.Value, 4)} {odd.Unit}.");
        if (it.Limits.Select(limit => limit.Test).Distinct().Count() != it.Limits.Count)
            return new("makerAsks", "A maker's figure stands twice for the same test.");
        return Names("makerAsks", it.Checks);
    }

    private static Fault? Names(string path, IReadOnlyList<string>? names)
    {
        if (names is null)
            return null;
        if (names.Count > MostParts)
            return new(path, $"More than {MostParts} parts.");
        if (names.Any(name => string.IsNullOrWhiteSpace(name) || name.Length > LongestText || name.Any(char.IsControl)))
            return new(path, "Every part has a name that can be printed.");
        return names.Select(name => name.Trim()).Distinct(StringComparer.OrdinalIgnoreCase).Count() == names.Count
            ? null
            : new Fault(path, "A name stands twice.");
    }

    private static string? Blank(string text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
