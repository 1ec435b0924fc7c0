using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>The patient side of a device, solved as a circuit and read over the real protocol: what is broken there is not passed in
/// silence.</summary>
public class PatientTests
{
    private const string Iec = "iec-62353-2014";
    private const string General = "iec-60601-1-2012";
    private const string Ecg = "leakage/appliedPart/part ECG";

    private static readonly Item TenLeads = Things.Monitor with { AppliedParts = [new("ECG", AppliedPartType.CF, 10, Joined: false)] };

    private static OnTheBench Sheet(Item item, string pack) =>
        new(OnTheBench.RulingFor(item, pack, kit: OnTheBench.Analyser with { Functions = Measuring.Functions }));

    private static async Task<OnTheBench> Measured(Workshop shop, Item item, string pack, string step, int times = 1)
    {
        var sheet = Sheet(item, pack);
        for (var n = 0; n < times; n++)
            await shop.Measure(sheet, step);
        return sheet;
    }

    [Fact]
    public async Task Ten_sound_connections_are_read_in_turn_and_each_shows_its_microamperes()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(TenLeads);
        var sheet = await Measured(shop, TenLeads, Iec, Ecg, times: 10);
        sheet.Stands(Ecg).ShouldBe(Standing.Pass);
        sheet.State.Readings.Select(it => it.Event.Point).ShouldBe(TenLeads.AppliedParts[0].ConnectionNames);
        sheet.State.Readings.ShouldAllBe(it => it.Judgement!.Value!.Value.Si > 1e-6);
    }

    [Fact]
    public async Task One_broken_lead_of_ten_is_undecided_until_it_is_mended()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(TenLeads, tag: "ten");
        await shop.Order(new("fault", Tag: "ten", Fault: Fault.BrokenLead, Outlet: 7));
        await shop.Place(TenLeads, tag: "ten");
        var sheet = await Measured(shop, TenLeads, Iec, Ecg, times: 10);
        sheet.Stands(Ecg).ShouldBe(Standing.Undecided);
        var silent = sheet.State.Readings.Single(it => it.Judgement!.Status == Status.Undecided);
        (silent.Event.Point, silent.Judgement!.Because).ShouldBe(("connection 7", Because.SilentConnection));
        sheet.Step(Ecg).Left.ShouldBe(["connection 7"]);
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();

        await shop.Order(new("mend", Tag: "ten"));
        await shop.Place(TenLeads, tag: "ten");
        await shop.Measure(sheet, Ecg);
        sheet.Stands(Ecg).ShouldBe(Standing.Pass);
        sheet.State.Readings[^1].Event.Point.ShouldBe("connection 7");
    }

    [Fact]
    public async Task A_part_built_to_a_lesser_type_than_its_mark_fails_by_its_mark()
    {
        await using var shop = await Workshop.OpenAsync();
        await shop.Place(Things.Monitor, Fault.LesserBarrier);
        var sheet = await Measured(shop, Things.Monitor, Iec, Ecg);
        sheet.Stands(Ecg).ShouldBe(Standing.Fail);
        // The very same current is nothing on a BF part.
        sheet.State.Readings[^1].Judgement!.Value!.Value.Si.ShouldBeLessThan(5e-3);
    }

    [Fact]
    public async Task Leads_in_each_others_sockets_show_where_the_smaller_limit_is()
    {
        await using var shop = await Workshop.OpenAsync();
        var item = Things.Monitor with { AppliedParts = [new("ECG", AppliedPartType.CF), new("cuff", AppliedPartType.BF)] };
        await shop.Place(item, Fault.SwappedLeads);
        var sheet = await Measured(shop, item, Iec, Ecg);
        sheet.Stands(Ecg).ShouldBe(Standing.Fail);
    }

    [Fact]
    public async Task A_direct_current_that_the_electronics_push_through_the_patient_is_found_at_its_connection()
    {
        await using var shop = await Workshop.OpenAsync();
        var auxiliary = new Conditions.Leakage(LeakageKind.PatientAuxiliary) { Current = CurrentType.Dc, AppliedPart = "ECG" };
        var limit = PackLibrary.Find(General)!.LimitFor(Things.Monitor, auxiliary)!.Value!.Value.Si;
        await shop.Place(Things.Monitor);
        (await shop.Measure(auxiliary)).Value!.Value.Quantity.Si.ShouldBeLessThan(limit);
        await shop.Place(Things.Monitor, Fault.DriftedBias);
        var drifted = await shop.Measure(auxiliary);
        drifted.Value!.Value.Quantity.Si.ShouldBeGreaterThan(limit);
        drifted.Spot.ShouldBe("connection 1 to the others");
    }

    [Fact]
    public async Task Every_pair_is_tried_and_the_largest_is_kept_with_its_pair()
    {
        await using var shop = await Workshop.OpenAsync();
        const string key = "leakage/leadToLead/part ECG";
        var item = Things.Monitor with { RatedVoltage = new(120) };
        await shop.Place(item, Fault.DriftedBias);
        var sheet = await Measured(shop, item, "nfpa-99-2012", key);
        sheet.State.Readings[^1].Event.Note.ShouldNotBeNull().ShouldMatch("^the largest: connection [123] to connection [123]$");
        sheet.State.Readings[^1].Event.Point.ShouldBeNull("measured again it is the same place, whichever pair is the largest then");
    }

    [Fact]
    public async Task Switched_off_it_shows_nothing_on_every_connection_and_nothing_is_decided()
    {
        await using var shop = await Workshop.OpenAsync();
        var item = TenLeads with { MainsSwitch = MainsSwitch.Mechanical };
        await shop.Place(item, Fault.SwitchedOff);
        var sheet = await Measured(shop, item, Iec, Ecg, times: 2);
        sheet.State.Readings.ShouldAllBe(it => it.Judgement!.Status == Status.Undecided);
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
    }
}
