using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>The words around a step: what must be true first, what is dangerous, what is joined to what.</summary>
internal static class Preparation
{
    public static string? Hazard(HazardKind kind, Item item, Volts? voltage) => kind switch
    {
        HazardKind.TestVoltage => $"{QuantityText.Number(voltage!.Value.Value)} V d.c. on the item. Nobody touches it or the leads; allow it to discharge afterwards.",
        HazardKind.ItemLive when item.Kind == ItemKind.PortableRcd || item.IsLead => "Mains on its outlets. Nothing plugged in but the tester, fingers off pins and contacts.",
        HazardKind.ItemLive => item.Use is UseOf.Handheld ? "The item starts. Blades and bits off, hands clear." : "The item starts. Moving parts free, hands clear.",
        HazardKind.MainsOnPatient => "Mains voltage on the patient connections. Hold to start; hands off item and leads.",
        _ => null,
    };

    public static ImmutableArray<string> Needs(Test test, Item item, Conditions under) => test switch
    {
        Test.EarthContinuity when item.IsLead => ["Both ends in hand", "Lead nulled"],
        Test.EarthContinuity => ["Clip on bare earthed metal", "Lead nulled", "Flex moved along its length while reading"],
        Test.Insulation when item.IsLead => ["Nothing plugged in"],
        Test.Insulation when item.Class is ProtectionClass.II or ProtectionClass.IIFunctionalEarth => ["Item switched on", "Probe on accessible metal, else foil or mesh round the case"],
        Test.Insulation => ["Item switched on"],
        Test.Leakage when under.Method == LeakageMethod.Alternative => ["Item switched on", "Mains pins joined by the instrument"],
        Test.Leakage when under.Power == PowerState.Off => ["Outlet checked", "Device switched off at its own switch"],
        Test.Leakage => ["Outlet checked", "Item switched on", "Item stands isolated from any other earth"],
        Test.RcdTrip => ["Isolating adapter upstream, so that the building's RCD stays in"],
        Test.Polarity => ["Both ends in hand"],
        _ => [],
    };

    /// <summary>What makes the item safe before hands are on it.</summary>
    public static ImmutableArray<string> MakeSafe(Item item)
    {
        var lines = new List<string>();
        if (item.IsHardWired) lines.Add("Safe isolation by someone competent for it: prove dead, lock off, keep the key");
        else lines.Add(item.IsLead ? "Both ends unplugged and in hand" : "Switched off and unplugged");
        if (item.Heating) lines.Add("Cool and empty; nothing hot or under pressure");
        if (item.Use == UseOf.Handheld && !item.IsLead) lines.Add("Cutting, grinding and moving tools off");
        if (item.Kind is ItemKind.MedicalDevice or ItemKind.MedicalSystem) lines.Add("Not connected to a patient, decontaminated, battery state known");
        return [.. lines];
    }

    public static ImmutableArray<string> Functional(Item item) => item.Kind switch
    {
        ItemKind.PortableRcd => ["Press the push-button: it must trip and reset"],
        _ when item.IsLead => ["It carries: try it with a known item"],
        _ when Load(item) is { } load => ["Does its job; interlocks, alarms and lamps work", $"Load near {QuantityText.Number(load.Value)} A"],
        _ => ["Does its job; interlocks, alarms and lamps work"],
    };

    private static Amperes? Load(Item item) =>
        item.RatedCurrent ?? (item is { RatedPower: { Value: > 0 } power, RatedVoltage: { } volts } ? new Amperes(power.Value / volts.Value) : null);

    public static string Terminals(Test test, Item item, Conditions under) => test switch
    {
        Test.EarthContinuity when item.IsLead => under.Point is { } outlet ? $"Earth pin to earth of {outlet}" : "Earth, end to end",
        Test.EarthContinuity when item.IsHardWired => "Exposed metal to the connection unit's earth",
        Test.EarthContinuity => "Earth pin to accessible metal",
        Test.Insulation when item.IsLead => "L+N joined, to E",
        Test.Insulation when under.Between == Between.MainsToAccessible => "L+N joined, to accessible metal or foil",
        Test.Insulation when under.Between == Between.MainsToAppliedPart => "L+N joined, to the applied part",
        Test.Insulation => "L+N joined, to E",
        Test.Leakage when under.Kind == LeakageKind.Touch => "Probe on accessible metal or foil, to earth through the body network",
        Test.Leakage when under.Method == LeakageMethod.Alternative => "L+N joined, supplied by the instrument, to E",
        Test.Leakage => "In the protective conductor, item running",
        Test.RcdTrip => "Line to earth, downstream of the RCD",
        Test.Polarity => under.Point is { } point ? $"L to L, N to N at {point}" : "L to L, N to N",
        Test.Wiring => "L and N end to end; L to N open",
        _ => "",
    };

    public static int Seconds(Test test) => test switch
    {
        Test.EarthContinuity => 3,
        Test.Insulation => 5,
        Test.Leakage => 5,
        Test.RcdTrip => 3,
        Test.Polarity or Test.Wiring => 1,
        _ => 0,
    };
}
