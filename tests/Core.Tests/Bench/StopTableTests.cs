using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>The table of what stops what: each step of each kind of sheet fails in its turn, after good work before it.</summary>
public class StopTableTests
{
    private static readonly Dictionary<string, (Item Item, string Pack)> Sheets = new()
    {
        ["kettle"] = (Kettle, "uk-cop-5"),
        ["drill"] = (Drill, "uk-cop-5"),
        ["heater"] = (Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null }, "uk-cop-5"),
        ["cord"] = (new() { Kind = ItemKind.CordSet, Cord = new(new(2), new(0.75)) }, "uk-cop-5"),
        ["rcd"] = (new() { Kind = ItemKind.PortableRcd, Rcd = new(0.03) }, "uk-cop-5"),
        ["two parts"] = (Kettle with { EarthedParts = ["case", "tap"] }, "uk-cop-5"),
        ["pump"] = (Pump, "iec-62353-2014"),
    };

    [Theory]
    [InlineData("kettle", "visual", "earthContinuity insulation leakage/protectiveConductor functional")]
    [InlineData("kettle", "earthContinuity", "insulation leakage/protectiveConductor functional")]
    [InlineData("kettle", "insulation", "leakage/protectiveConductor functional")]
    [InlineData("kettle", "leakage/protectiveConductor", "functional")]
    [InlineData("kettle", "functional", "")]
    [InlineData("drill", "visual", "insulation/mainsToAccessible leakage/touch functional")]
    [InlineData("drill", "insulation/mainsToAccessible", "leakage/touch functional")]
    [InlineData("drill", "leakage/touch", "functional")]
    [InlineData(
        "heater",
        "visual",
        "earthContinuity insulation restore/reconnect restore/unlock restore/energise leakage/protectiveConductor/differential functional"
    )]
    [InlineData(
        "heater",
        "earthContinuity",
        "insulation restore/reconnect restore/unlock restore/energise leakage/protectiveConductor/differential functional"
    )]
    [InlineData(
        "heater",
        "insulation",
        "restore/reconnect restore/unlock restore/energise leakage/protectiveConductor/differential functional"
    )]
    [InlineData("heater", "leakage/protectiveConductor/differential", "functional")]
    [InlineData("cord", "visual", "earthContinuity insulation polarity wiring functional")]
    [InlineData("cord", "earthContinuity", "insulation polarity wiring functional")]
    [InlineData("cord", "insulation", "functional")]
    [InlineData("cord", "polarity", "functional")]
    [InlineData("cord", "wiring", "functional")]
    [InlineData("rcd", "visual", "0.5x/0 0.5x/180 1x/0 1x/180 5x/0 5x/180 functional")]
    [InlineData("rcd", "rcdTrip/0.5x/0", "0.5x/180 1x/0 1x/180 5x/0 5x/180 functional")]
    [InlineData("rcd", "rcdTrip/1x/0", "1x/180 5x/0 5x/180 functional")]
    [InlineData("rcd", "rcdTrip/5x/180", "functional")]
    [InlineData("two parts", "earthContinuity/case", "insulation leakage/protectiveConductor functional")]
    [InlineData("two parts", "earthContinuity/tap", "insulation leakage/protectiveConductor functional")]
    [InlineData("pump", "visual", "earthContinuity equipment equipment/reversed drip reversed/drip functional")]
    [InlineData("pump", "earthContinuity", "equipment equipment/reversed drip reversed/drip functional")]
    [InlineData("pump", "leakage/equipment", "equipment/reversed drip reversed/drip functional")]
    [InlineData("pump", "leakage/equipment/reversed", "drip reversed/drip functional")]
    [InlineData("pump", "leakage/appliedPart/part drip", "reversed/drip functional")]
    [InlineData("pump", "functional", "")]
    public void A_failure_stops_what_it_must_and_no_more(string sheet, string failing, string stopped)
    {
        var (item, pack) = Sheets[sheet];
        var bench = With(item, pack, kit: Analyser);
        bench.PassUntil(failing);
        bench.State.Current.ShouldBe(failing);
        Fail(bench, failing);
        bench.Stands(failing).ShouldBe(Standing.Fail);
        bench
            .State.Steps.Where(step => step.Standing == Standing.Stopped)
            .Select(step => Short(step.Step.Key))
            .ShouldBe(stopped.Split(' ', StringSplitOptions.RemoveEmptyEntries));
    }

    /// <summary>So much of a key as tells it apart on its sheet.</summary>
    private static string Short(string key) =>
        key.Replace("rcdTrip/", "")
            .Replace("leakage/appliedPart/", "")
            .Replace("leakage/equipment", "equipment")
            .Replace("part drip", "drip");

    /// <summary>After a failure nothing puts the supply back: what was isolated stays isolated.</summary>
    [Fact]
    public void A_hard_wired_item_is_not_energised_again_after_its_insulation_failed_nor_before_it_is_known()
    {
        var (item, pack) = Sheets["heater"];
        var bench = With(item, pack, kit: Analyser);
        bench.PassUntil("insulation");
        foreach (var restoring in new[] { SafeIsolation.Reconnect, SafeIsolation.Unlock, SafeIsolation.Energise })
            bench.Step(restoring).Start.WhyNot.ShouldNotBeNull().ShouldContain("Insulation comes first");
        bench.Type("insulation", "0.1");
        foreach (var restoring in new[] { SafeIsolation.Reconnect, SafeIsolation.Unlock, SafeIsolation.Energise })
            bench.Step(restoring).Start.WhyNot.ShouldNotBeNull().ShouldContain("The insulation failed");
        bench.State.EndOf(EndKind.Fail).Why.ShouldContain("A lock is on");
        bench.LeaveLock(stays: true, "mine; the key hangs with the lead");
        bench.IsOpen(EndKind.Fail).ShouldBeTrue();
    }

    private static void Fail(OnTheBench bench, string key)
    {
        switch (bench.Step(key).Step)
        {
            case SheetStep.Look look:
                bench.LookAs(LookAnswer.Bad, "cracked", look.Points[0].Id);
                break;
            case SheetStep.Measure { Plan: { Under: Conditions.RcdTrip { Multiple: < 1 } } }:
                bench.Type(key, "20");
                break;
            case SheetStep.Measure { Plan: { Limit.Value: { } limit } plan }:
                var factor = plan.Limit!.IsFloor ? 0.1 : 3;
                bench.Type(key, QuantityText.Number(limit.Si * factor / ReadingOf.UsualUnit(plan, bench.Ruling.Pack)!.Factor, 6));
                break;
            default:
                bench.Answer(key, false);
                break;
        }
    }
}
