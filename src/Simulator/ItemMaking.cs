using System.Collections.Immutable;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Simulator;

/// <summary>Makes an item's circuit from its plate, and lets it age.</summary>
public static class ItemMaking
{
    private const double OldestYears = 4.5;

    /// <summary>A joint that works loose settles, mostly short of a failure: whatever the day, some items stand near their limit.</summary>
    private const double SettledOhm = 0.07;
    private const double Open = double.PositiveInfinity;

    /// <summary>What clips, foil and the unnamed metal of an item are called where the register names no parts.</summary>
    public const string OnlyMetal = "metal";

    /// <summary>
    /// The item as made and as aged until a day: the same tag on the same day is always the same item. A share of items has a joint that
    /// works loose, damp insulation or an ageing filter, so that histories hold trends.
    /// </summary>
    /// <param name="made">When it was new.</param>
    /// <param name="day">Whose wear it shows; a day before it was made shows none.</param>
    public static ItemBuild Of(Item item, string tag, DateOnly made, DateOnly day) =>
        item.Members.IsEmpty ? Alone(item, tag, made, day) : Together(item, tag, made, day);

    /// <summary>What hangs on one socket leaks together through the one lead, and every earth goes through its own lead and the
    /// socket's.</summary>
    private static ItemBuild Together(Item system, string tag, DateOnly made, DateOnly day)
    {
        var socket = Alone(MedicalSystem.Own(system), tag, made, day);
        var builds = system.Members.Select(it => Alone(it.Equipment, it.Tag, made, day)).ToArray();
        var labelled = builds.Zip(MedicalSystem.Labels(system.Members)).ToArray();
        var metals = labelled
            .SelectMany(
                it => it.First.Metals.Where(metal => metal.Name != OnlyMetal || double.IsFinite(metal.BondOhm)),
                (it, metal) =>
                    metal with
                    {
                        Name = metal.Name == OnlyMetal ? $"{it.Second}: {MedicalSystem.Metal}" : $"{it.Second}: {metal.Name}",
                        BondOhm = it.First.FlexOhm + it.First.EarthJointOhm + metal.BondOhm,
                    }
            )
            .ToArray();
        return socket with
        {
            Item = system,
            LoadOhm = Parallel(builds.Select(it => it.LoadOhm)),
            RatedWatts = builds.Sum(it => it.RatedWatts),
            Line = Parallel(builds.Select(it => it.Line)),
            Neutral = Parallel(builds.Select(it => it.Neutral)),
            ToMetal = Spread(builds, metals.Length + socket.Metals.Count(metal => metals.Length == 0 || metal.Name != OnlyMetal)),
            SuppressorVolts = builds.Append(socket).Select(it => it.SuppressorVolts).Where(volts => volts > 0).DefaultIfEmpty(0).Min(),
            Metals = [.. socket.Metals.Where(metal => metals.Length == 0 || metal.Name != OnlyMetal), .. metals],
            Parts = [.. labelled.SelectMany(it => it.First.Parts, (it, part) => part with { Name = $"{it.Second}: {part.Name}" })],
        };
    }

    private static double Parallel(IEnumerable<double> ohms) => 1 / ohms.Sum(ohm => 1 / ohm);

    private static InsulationBuild Parallel(IEnumerable<InsulationBuild> paths)
    {
        var all = paths.ToArray();
        return new(Parallel(all.Select(it => it.Ohm)), all.Sum(it => it.Farad), all.Sum(it => it.SoakFarad));
    }

    /// <summary>What lies under each piece of metal by itself, so that all of it together is what the members have under theirs.</summary>
    private static InsulationBuild Spread(ItemBuild[] builds, int metals)
    {
        var all = Parallel(builds.SelectMany(it => it.Metals.Select(_ => it.ToMetal)));
        return new(all.Ohm * metals, all.Farad / metals, all.SoakFarad / metals);
    }

    private static ItemBuild Alone(Item item, string tag, DateOnly made, DateOnly day)
    {
        var dice = new Random(Seed(tag));
        var volts = Volts(item);
        var watts = item.RatedPower?.Value ?? (item.RatedCurrent?.Value ?? 0.3) * volts;
        var filtered = !item.Heating && item.Use is UseOf.It or UseOf.Stationary or UseOf.Movable;
        var filter = filtered ? 0.5e-9 + 2e-9 * dice.NextDouble() : 0.05e-9 + 0.25e-9 * dice.NextDouble();
        // Mineral-filled elements leak a little more for every kilowatt.
        if (item.Heating)
            filter += 0.8e-9 * watts / 1000;
        // An item that old has been replaced by one like it: the demo must not wear out as a whole.
        var years = Math.Clamp((day.DayNumber - made.DayNumber) / 365.25, 0, OldestYears);
        var loosening = dice.NextDouble() < 0.14 ? 0.012 + 0.018 * dice.NextDouble() : 0.0008 * dice.NextDouble();
        var damping = dice.NextDouble() < 0.08 ? 0.4 : 0.97;
        var ageing = dice.NextDouble() < 0.06 ? 0.25 : 0.01;
        var bond = 0.006 + 0.02 * dice.NextDouble() + Math.Min(loosening * years, SettledOhm);
        var insulation = Math.Exp(Math.Log(15e6) + dice.NextDouble() * Math.Log(60)) * Math.Pow(damping, years);
        var neutralFilter = filter * (0.9 + 0.2 * dice.NextDouble());
        var across = 20e-12 + 120e-12 * dice.NextDouble();
        var gathering = 0.018 + 0.014 * dice.NextDouble();
        var pickup = 0.68 + 0.12 * dice.NextDouble();
        var isEarthed = IsEarthed(item);
        var (line, neutral) = isEarthed ? (filter * (1 + ageing * years), neutralFilter) : (across, across);
        return new()
        {
            Item = item,
            FlexOhm = Flex(item),
            FuseOhm = item.PlugFuse is null ? 0.001 : 0.006,
            LoadOhm = HasLoad(item) ? Load(item, volts, watts) : Open,
            RatedWatts = HasLoad(item) ? watts : 0,
            // Two live parts share what is measured with both joined.
            Line = new(2 * insulation, line, Soak(item)),
            Neutral = new(2 * insulation, neutral, Soak(item)),
            ToMetal = new(8 * insulation, across),
            SuppressorVolts = item.SurgeProtected ? 350 : 0,
            HasEarthPin = isEarthed || item.Class == ProtectionClass.IIFunctionalEarth,
            Metals = Metals(item, isEarthed, bond),
            Outlets = item.IsCord || item.Kind == ItemKind.PortableRcd ? Outlets(item, bond) : [],
            Rcd = Rated(item) is { } rated ? new(rated, pickup, pickup, gathering, 0.009, 0) : null,
            Parts = [.. item.AppliedParts.Select(part => Part(part, dice))],
            Shock = item.Defibrillator is null ? null : Shock(dice, years),
        };
    }

    /// <summary>Of one live part to neutral, in volt: a plate of three phases gives it between lines.</summary>
    internal static double Volts(Item item)
    {
        var plate = item.RatedVoltage?.Value ?? item.NominalMains?.Value ?? 230;
        return item.Phases == 3 ? plate / Math.Sqrt(3) : plate;
    }

    internal static bool IsEarthed(Item item) =>
        item.Class is ProtectionClass.I or ProtectionClass.INoAccessibleMetal or ProtectionClass.Undecided;

    private static bool HasLoad(Item item) => !item.IsCord && item.Kind != ItemKind.PortableRcd && item.Class != ProtectionClass.Internal;

    /// <summary>Of one phase; a thing whose plate gives nothing still draws a little.</summary>
    private static double Load(Item item, double volts, double watts) =>
        watts > 0 ? volts * volts * (item.Phases == 3 ? 3 : 1) / watts : 20e3;

    private static double? Rated(Item item) => item.Rcd?.Value ?? (item.Kind == ItemKind.PortableRcd ? 0.03 : null);

    private static double Soak(Item item) => item.IsCord ? 0.05e-9 : 0.2e-9;

    private static ImmutableArray<MetalBuild> Metals(Item item, bool isEarthed, double bond)
    {
        var metals = new List<MetalBuild>();
        if (isEarthed && item.Class != ProtectionClass.INoAccessibleMetal)
            metals.AddRange(
                item.EarthedParts.IsEmpty
                    ? [new(OnlyMetal, bond)]
                    : item.EarthedParts.Select((name, n) => new MetalBuild(name, bond * (1 + 0.3 * n)))
            );
        metals.AddRange(item.UnearthedParts.Select(name => new MetalBuild(name, Open)));
        if (metals.Count == 0)
            metals.Add(new(OnlyMetal, Open));
        return [.. metals];
    }

    private static ImmutableArray<OutletBuild> Outlets(Item item, double bond) =>
        [.. Enumerable.Range(0, Math.Max(1, item.Outlets)).Select(n => new OutletBuild(0.004, 0.004, bond * (1 + 0.15 * n)))];

    private static PartBuild Part(AppliedPart part, Random dice)
    {
        var barrier = part.Type switch
        {
            AppliedPartType.CF => 60e-12 + 60e-12 * dice.NextDouble(),
            AppliedPartType.BF => 0.3e-9 + 0.6e-9 * dice.NextDouble(),
            _ => 1e-9 + 1e-9 * dice.NextDouble(),
        };
        return new(
            part.Name,
            part.Type,
            [.. Enumerable.Range(0, Math.Max(1, part.Connections)).Select(_ => 900 + 200 * dice.NextDouble())],
            new(400e6 + 400e6 * dice.NextDouble(), barrier),
            new(2e9, part.Type == AppliedPartType.CF ? 4e-12 : 20e-12),
            part.Type == AppliedPartType.B ? 0 : 0.5
        );
    }

    /// <summary>Its capacitor loses a little every year, and its battery a little more.</summary>
    private static ShockBuild Shock(Random dice, double years)
    {
        var farad = 130e-6 + 40e-6 * dice.NextDouble();
        return new(
            farad,
            farad * (1 - 0.004 * years) * (0.985 + 0.03 * dice.NextDouble()),
            6 + 4 * dice.NextDouble(),
            0.008,
            75 + 20 * dice.NextDouble(),
            90e3 * (1 - 0.08 * years),
            0.022 + 0.014 * dice.NextDouble(),
            0.98 + 0.04 * dice.NextDouble(),
            0.03 + 0.03 * dice.NextDouble(),
            0.08 + 0.12 * dice.NextDouble()
        );
    }

    private static double Flex(Item item) =>
        item.IsHardWired ? 0.001 : ConductorResistance.Of(item.Cord, PackLibrary.Find("uk-cop-5")!)?.Value.Value ?? 0.02;

    /// <summary>The framework's string hash changes with every process; this one does not.</summary>
    private static int Seed(string text) => text.Aggregate(17, (hash, character) => unchecked(hash * 31 + character));
}
