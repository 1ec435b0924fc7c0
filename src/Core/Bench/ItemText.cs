using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>Items in the trade's words, for the bench, the item's page and the record.</summary>
public static class ItemText
{
    public static IReadOnlyList<FactLine> Facts(ItemOnBench item, Dialect say)
    {
        var it = item.Equipment;
        var lines = new List<FactLine>();
        void Add(string label, params string?[] parts)
        {
            var present = parts.Where(part => !string.IsNullOrEmpty(part)).ToArray();
            if (present.Length > 0)
                lines.Add(new(say.Say(label), string.Join(", ", present)));
        }
        Add("Made by", item.Maker, item.Model);
        Add("Serial", item.Serial);
        Add(
            "Plate",
            N(it.RatedVoltage?.Value, "V"),
            N(it.RatedPower?.Value, "W"),
            N(it.RatedCurrent?.Value, "A"),
            it.Heating ? "heating" : null,
            it.Phases == 3 ? "three-phase" : null
        );
        Add("Sum of", [.. it.PartPlates.Select(part => $"{part.Name} {N(part.Power.Value, "W")}")]);
        Add(
            "Flex",
            it.IsHardWired ? "none, hard-wired" : null,
            N(it.Cord?.Length?.Value, "m"),
            N(it.Cord?.Conductor?.Value, "mm²"),
            it.Cord?.Detachable == true ? "detachable" : null,
            it.Cord?.Inlet is { } inlet ? EquipmentText.Coupler(inlet) : null
        );
        Add(
            "Plug",
            it.Plug == PlugType.Rewirable ? null : Words.Of(it.Plug),
            it.PlugFuse is null ? null : $"{N(it.PlugFuse.Value.Value, "A")} fuse"
        );
        Add("Outlets", it.IsCord && it.Kind != ItemKind.CordSet ? $"{it.Outlets}" : null);
        Add("RCD", N(it.Rcd?.Value * 1000, "mA"), it.RcdOwnTrip is { } own ? $"own standard {N(own.Value * 1000, "ms")}" : null);
        if (it.Kind == ItemKind.MedicalDevice && it.AppliedParts.IsEmpty)
            Add("Parts", it.NoAppliedParts ? "none applied" : "applied parts not known");
        Add("Parts", [.. it.AppliedParts.Select(part => $"{part.Name} {part.Type}" + (part.MadeOf is { } modules ? $" ({modules})" : ""))]);
        Add("Made in", it.MadeIn is { } year ? $"{year}" : null, it.LifeYears is { } years ? $"to last {N(years, "years")}" : null);
        Add("Risk", it.IsLifeSupporting ? "life supporting" : null, it.GoesWithPatients ? "emergency transport" : null);
        Add("Delivers", it.Defibrillator is { } one ? Of(new DefibrillatorFact(one.SettingsJ, one.Synchronises, one.EcgSetMv)) : null);
        Add("Battery", it.Battery is { } battery ? Of(new BatteryFact(true, battery.FittedOn, battery.LifeMonths)) : null);
        Add("With it", [.. it.Accessories]);
        Add("Maker asks", Fact(it.Maker) is { } asks ? Of(asks) : null);
        Add("Members", [.. it.Members.Select(member => $"{member.Name} {member.Tag}")]);
        Add("Earthed", [.. it.EarthedParts]);
        Add("Bare", [.. it.UnearthedParts]);
        Add("Reached", it.Access == AccessLevel.FreeStanding ? null : OfAccess(it.Access));
        if (it.MainsSwitch == MainsSwitch.Electronic)
            Add("Switch", "electronic");
        if (it.SurgeProtected)
            Add("Note", "surge protected");
        return lines;
    }

    /// <summary>The same facts by the names under which they are corrected.</summary>
    public static FactChanges Fields(ItemOnBench item, IntervalBasis basis)
    {
        var it = item.Equipment;
        return new()
        {
            Name = item.Name,
            Maker = item.Maker,
            Model = item.Model,
            Serial = item.Serial,
            Room = item.Room,
            Place = basis.Place,
            Evidence = item.Evidence,
            Use = it.Use,
            RatedVoltageV = it.RatedVoltage?.Value,
            RatedPowerW = it.RatedPower?.Value,
            RatedCurrentA = it.RatedCurrent?.Value,
            FlexLengthM = it.Cord?.Length?.Value,
            FlexMm2 = it.Cord?.Conductor?.Value,
            PlugFuseA = it.PlugFuse?.Value,
            Plug = it.Plug,
            RcdMa = it.Rcd?.Value * 1000,
            RcdOwnTripMs = it.RcdOwnTrip?.Value * 1000,
            Outlets = it.Outlets,
            Heating = it.Heating,
            SurgeProtected = it.SurgeProtected,
            AllInsulated = it.AllInsulated,
            MainsSwitch = it.MainsSwitch,
            StartUpSeconds = it.StartUpSeconds,
            EarthedParts = [.. it.EarthedParts],
            UnearthedParts = [.. it.UnearthedParts],
            Access = it.Access,
            Care = [.. it.Care],
            PartPlates = [.. it.PartPlates.Select(part => new PlateFact(part.Name, part.Power.Value))],
            Phases = it.Phases,
            Detachable = it.Cord?.Detachable ?? false,
            Inlet = it.Cord?.Inlet,
            MadeIn = it.MadeIn,
            LifeYears = it.LifeYears,
            LifeSupporting = it.IsMedical ? it.LifeSupporting : null,
            EmergencyTransport = it.IsMedical ? it.EmergencyTransport : null,
            Defibrillator = it.Defibrillator is { } one ? new([.. one.SettingsJ], one.Synchronises, one.EcgSetMv) : null,
            Battery = it.IsMedical ? new(it.Battery is not null, it.Battery?.FittedOn, it.Battery?.LifeMonths) : null,
            Accessories = it.IsMedical ? [.. it.Accessories] : null,
            MakerAsks = Fact(it.Maker),
            // Nothing else can have any.
            AppliedParts = it.IsMedical
                ? [.. it.AppliedParts.Select(part => new AppliedPartFact(part.Name, part.Type, part.Connections, part.Joined, part.MadeOf))]
                : null,
            NoAppliedParts = it.Kind == ItemKind.MedicalDevice ? it.NoAppliedParts : null,
        };
    }

    /// <summary>At what a defibrillator is checked: "10, 50, 200 J; synchronised; trace 1 mV".</summary>
    internal static string Of(DefibrillatorFact it) =>
        $"{string.Join(", ", it.SettingsJ.Select(joule => QuantityText.Number(joule, 4)))} J"
        + (it.Synchronises ? "; synchronised" : "")
        + (it.EcgSetMv is { } set ? $"; trace {QuantityText.Number(set, 3)} mV" : "");

    /// <summary>"fitted 2024-05-01, to be replaced after 24 months".</summary>
    internal static string Of(BatteryFact it) =>
        string.Join(
            ", ",
            new[]
            {
                it.FittedOn is { } fitted ? $"fitted {fitted:yyyy-MM-dd}" : "fitted nobody knows when",
                it.LifeMonths is { } months ? $"to be replaced after {QuantityText.Number(months, 3)} months" : null,
            }.OfType<string>()
        );

    private static MakerFact? Fact(MakerAsks? it) =>
        it is { IsEmpty: false }
            ? new(
                it.IntervalMonths,
                [.. it.Limits.Select(limit => new MakerLimitFact(limit.Test, limit.Value, limit.Unit))],
                [.. it.Checks]
            )
            : null;

    /// <summary>What a maker asks, in a line: "every 12 months; leakage/equipment 100 µA; alarm sounds".</summary>
    internal static string Of(MakerFact it) =>
        string.Join(
            "; ",
            new[] { it.IntervalMonths is { } months ? $"every {QuantityText.Number(months, 3)} months" : "" }
                .Concat(
                    it.Limits.Select(limit =>
                        $"{StepKey.InWords(limit.Test)} {QuantityText.Number(limit.Value, 4)} {Unit.Find(limit.Unit)?.Label}"
                    )
                )
                .Concat(it.Checks)
                .Where(text => text.Length > 0)
        );

    private static string OfAccess(AccessLevel it) =>
        it == AccessLevel.SealedIn ? "sealed in or plumbed, never forced" : "behind a few fixings";

    private static string? N(double? value, string unit) => value is { } number ? $"{QuantityText.Number(number, 4)} {unit}" : null;
}
