using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>How old an item is and may become, what hangs on a device, and how its lead meets it: the interval and the evidence go by
/// them.</summary>
public sealed class AgeAndRiskTests
{
    private const string Pack = "iec-62353-2014";

    /// <summary>Touches no patient by any part: thirty-six months, unless a life hangs on it.</summary>
    private static readonly Item Device = Pump with { AppliedParts = [], NoAppliedParts = true };

    private static NextCard NextOf(Item item, string pack) => NextDates.Of(With(item, pack).PassTheRest().State).ShouldNotBeNull();

    [Fact]
    public void What_a_life_hangs_on_and_what_goes_with_patients_is_tested_every_year()
    {
        NextOf(Device, Pack).Months.ShouldBe(36);
        var kept = NextOf(Device with { LifeSupporting = true }, Pack);
        kept.Months.ShouldBe(12);
        kept.Because.ShouldContain("life supporting: 12 months");
        var carried = NextOf(Device with { EmergencyTransport = true }, Pack);
        carried.Months.ShouldBe(12);
        carried.Because.ShouldContain("used in emergency transport: 12 months");
    }

    [Fact]
    public void A_system_is_what_any_of_its_members_is()
    {
        var socket = Pump with { Kind = ItemKind.MedicalSystem, AppliedParts = [] };
        var calm = MedicalSystem.Of(socket, [new("D-1", "Device", Device)]);
        (calm.IsLifeSupporting, calm.GoesWithPatients).ShouldBe((false, false));
        var grave = MedicalSystem.Of(
            socket,
            [new("D-1", "Device", Device), new("D-2", "Ventilator", Device with { LifeSupporting = true, EmergencyTransport = true })]
        );
        (grave.IsLifeSupporting, grave.GoesWithPatients).ShouldBe((true, true));
        MedicalSystem.Own(grave).LifeSupporting.ShouldBeFalse("that is the member's");
    }

    [Theory]
    [InlineData(2016, 10.0, true)]
    [InlineData(2017, 10.0, false)]
    [InlineData(2016, 10.5, false)]
    [InlineData(2016, null, false)]
    [InlineData(null, 10.0, false)]
    public void From_the_year_in_which_its_life_ends_it_comes_one_step_sooner(int? made, double? years, bool isOver)
    {
        var kettle = Kettle with { MadeIn = made, LifeYears = years };
        var next = NextOf(kettle, "uk-cop-5");
        next.Because.Contains("at the end of its expected life, or past it: one step shorter").ShouldBe(isOver);
        next.Months!.Value.ShouldBe(isOver ? 6 : NextOf(Kettle, "uk-cop-5").Months!.Value);
    }

    /// <summary>A date that a lead chose later stays where a correction makes nothing shorter; what makes it shorter counts at
    /// once.</summary>
    [Fact]
    public void A_correction_brings_a_date_forward_and_never_back()
    {
        var was = RulingFor(Kettle) with
        {
            Basis = RulingFor(Kettle).Basis with { Due = new(2028, 1, 1), VisualDue = new(2026, 6, 2), Months = 24 },
        };
        var seen = new LastSeen(new(2026, 1, 1), new(2026, 1, 1), ["a lead made it 24 months"]);
        MovedDates After(Item item) =>
            NextDates.AfterCorrection(was, was with { Item = was.Item with { Equipment = item } }, was.Basis, seen);
        var same = After(Kettle with { RatedPower = new(1234) });
        (same.Due, same.VisualDue, same.Months).ShouldBe((new(2028, 1, 1), new(2026, 6, 2), 24));
        same.Because.ShouldBe(seen.Because);
        var old = After(Kettle with { MadeIn = 2000, LifeYears = 10 });
        (old.Due, old.Months).ShouldBe((new DateOnly(2026, 7, 1), 6));
        old.Because.ShouldContain("at the end of its expected life, or past it: one step shorter");
        // Only its look comes sooner: the date of the test, that a lead chose, stays.
        var look = After(Kettle with { Use = UseOf.Handheld });
        (look.Due, look.VisualDue, look.Months).ShouldBe((new(2028, 1, 1), new(2026, 4, 1), 24));
        After(Kettle with { Use = UseOf.Stationary }).Due.ShouldBe(new DateOnly(2028, 1, 1), "longer is earned by the next test");
        NextDates.AfterCorrection(null, null, was.Basis, seen).Due.ShouldBe(new DateOnly(2028, 1, 1));
    }

    /// <summary>A desk lamp that is only looked at was never tested: its look carries its date, from the day it was looked at.</summary>
    [Fact]
    public void What_is_only_looked_at_comes_earlier_too_when_it_is_moved_or_knocked()
    {
        var lamp = Kettle with { Class = ProtectionClass.II, AllInsulated = true };
        var ruling = RulingFor(lamp) with { Policy = new() { ClassII = Osierwand.Core.Planning.ClassIIPolicy.LookOnly } };
        var basis = ruling.Basis with { Place = Place.Office, Due = new(2026, 12, 1), VisualDue = new(2026, 12, 1), Months = 12 };
        var seen = new LastSeen(null, new(2025, 12, 1), []);
        var harder = NextDates.AfterMove(ruling with { Basis = basis with { Place = Place.Construction } }, basis, seen, knocked: null);
        (harder.Due, harder.VisualDue, harder.Months).ShouldBe((new(2026, 1, 1), new(2026, 1, 1), 1));
        NextDates.AfterMove(ruling with { Basis = basis }, basis, seen, knocked: new(2026, 3, 2)).Due.ShouldBe(new DateOnly(2026, 3, 2));
        var never = basis with { Due = null, VisualDue = null, Months = null };
        NextDates.AfterMove(ruling with { Basis = never }, never, new(null, null, []), knocked: new(2026, 3, 2)).Due.ShouldBeNull();
    }

    [Fact]
    public void They_are_corrected_kept_and_told()
    {
        var before = RulingFor(Pump, Pack).Item;
        FactChanges said = new()
        {
            MadeIn = 2015,
            LifeYears = 8,
            LifeSupporting = true,
            EmergencyTransport = true,
            Detachable = true,
            Inlet = InletType.C13,
        };
        var after = Facts.Apply(before, said).Value;
        var again = ItemJson.Read(ItemJson.Write(after.Equipment)).Value;
        (again.MadeIn, again.LifeYears, again.LifeSupporting, again.EmergencyTransport, again.Cord!.Inlet).ShouldBe(
            (2015, 8, true, true, InletType.C13)
        );
        var fields = ItemText.Fields(after, RulingFor(Pump, Pack).Basis);
        (fields.MadeIn, fields.LifeYears, fields.LifeSupporting, fields.EmergencyTransport, fields.Inlet).ShouldBe(
            (2015, 8, true, true, InletType.C13)
        );
        var lines = ItemText.Facts(after, Dialect.Plain).Select(line => $"{line}").ToArray();
        lines.ShouldContain(line => line.Contains("C13 coupler"));
        lines.ShouldContain(line => line.Contains("2015, to last 8 years"));
        lines.ShouldContain(line => line.Contains("life supporting, emergency transport"));
        Facts
            .Apply(after, new() { Detachable = false })
            .Value.Equipment.Cord!.Inlet.ShouldBeNull("it meets its device by no coupler any more");
    }

    [Fact]
    public void What_cannot_be_is_refused_by_its_name()
    {
        var kettle = RulingFor(Kettle).Item;
        string? Fault(FactChanges changes) => Facts.Apply(kettle, changes).Fault?.Path;
        Fault(new() { MadeIn = 1899 }).ShouldBe("madeIn");
        Fault(new() { MadeIn = 9999 }).ShouldBe("madeIn");
        Fault(new() { LifeYears = 0 }).ShouldBe("lifeYears");
        Fault(new() { LifeYears = double.NaN }).ShouldBe("lifeYears");
        Fault(new() { LifeYears = 61 }).ShouldBe("lifeYears");
        Fault(new() { LifeSupporting = true }).ShouldBe("lifeSupporting");
        Fault(new() { EmergencyTransport = true }).ShouldBe("emergencyTransport");
        Fault(new() { Inlet = InletType.C13 }).ShouldBe("inlet");
        Fault(new() { Inlet = InletType.C13, Detachable = true }).ShouldBeNull();
        Facts.Apply(RulingFor(Kettle with { Kind = ItemKind.CordSet }).Item, new() { Inlet = InletType.C15 }).Fault.ShouldBeNull();
    }
}
