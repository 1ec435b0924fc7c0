using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What a device is beside its class: its battery, and the modules that one function comes out of it in.</summary>
public sealed class DeviceFactsTests
{
    private const string Pack = "iec-62353-2014";
    private const string Check = $"functional/{RunSheet.RunsOnBattery}";
    private static readonly Item WithBattery = Pump with { Battery = new(new(2024, 3, 1), 24) };

    [Fact]
    public void A_device_with_both_is_seen_to_run_on_its_battery_before_it_passes()
    {
        var bench = With(WithBattery, Pack);
        bench.PassUntil(Check);
        bench.Answer("functional", true);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.Answer(Check, false, "it stops at once");
        bench.State.HasFailed.ShouldBeTrue();
        With(Pump, Pack).State.Sheet.Find(Check).ShouldBeNull();
        With(WithBattery with { Class = ProtectionClass.Internal, Cord = null }, Pack).State.Sheet.Find(Check).ShouldBeNull();
    }

    [Theory]
    [InlineData("2024-03-01", 24.0, "was to be replaced by 2026-03-01")]
    [InlineData("2024-03-02", 24.0, "is to be replaced by 2026-03-02, before its next test")]
    [InlineData("2024-03-03", 24.0, "is to be replaced by 2026-03-03, before its next test")]
    [InlineData("2025-03-02", 24.0, null)]
    [InlineData(null, 24.0, null)]
    [InlineData("2001-01-01", null, null)]
    public void A_battery_past_its_life_is_told_with_the_pass(string? fitted, double? months, string? told)
    {
        var battery = new Battery(fitted is null ? null : DateOnly.Parse(fitted, null), months);
        var bench = With(Pump with { Battery = battery }, Pack).LookGood().PassTheRest();
        var advice = bench.View.Advice.Where(it => it.Contains("battery")).ToArray();
        if (told is null)
            advice.ShouldBeEmpty();
        else
            advice.Single().ShouldContain(told);
        bench.IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void Modules_of_one_function_are_joined_and_named()
    {
        var device = Pump with { AppliedParts = [new("ECG", AppliedPartType.CF, 10, true, "limb leads 4, chest leads 6")] };
        var plan = With(device, Pack)
            .State.Sheet.Steps.OfType<SheetStep.Measure>()
            .First(it => it.Plan.Under is Conditions.Leakage { Kind: LeakageKind.AppliedPart })
            .Plan;
        plan.Needs.ShouldContain("All connections of ECG joined: limb leads 4, chest leads 6");
        PartModules.Read("limb leads 4, chest leads 6", 10).Value.ShouldBe([new("limb leads", 4), new("chest leads", 6)]);
        PartModules.Read("probe", 1).Value.ShouldBe([new("probe", 1)]);
        PartModules.Read("", 3).Value.ShouldBeEmpty();
    }

    [Theory]
    [InlineData("limb leads 4, chest leads 5", "make 9 connections, and the part has 10")]
    [InlineData("limb leads 4, Limb leads 6", "stands twice")]
    [InlineData("limb leads 0, chest leads 10", "no module")]
    [InlineData("4, chest leads 6", "make 7 connections")]
    public void Modules_that_cannot_be_are_refused(string madeOf, string why)
    {
        PartModules.Read(madeOf, 10).Fault!.Message.ShouldContain(why);
        var bench = With(Pump, Pack);
        bench.Change(new() { AppliedParts = [new("ECG", AppliedPartType.CF, 10, true, madeOf)] });
        bench.State.Refused.Single().Why.ShouldContain(why);
        ItemJson
            .Read(
                $$"""{"kind":"medicalDevice","class":"I","appliedParts":[{"name":"ECG","type":"CF","connections":10,"madeOf":"{{madeOf}}"}]}"""
            )
            .Fault!.Message.ShouldContain(why);
    }

    [Fact]
    public void Facts_of_a_battery_are_corrected_and_kept()
    {
        var bench = With(Pump, Pack);
        bench.Change(new() { Battery = new(true, new(2025, 6, 1), 36) });
        var item = bench.State.Ruling.Item.Equipment;
        item.Battery.ShouldBe(new(new(2025, 6, 1), 36));
        ItemJson.Read(ItemJson.Write(item)).Value.Battery.ShouldBe(item.Battery);
        ItemText
            .Facts(bench.State.Ruling.Item, Dialect.Plain)
            .Single(it => it.Label == "Battery")
            .Value.ShouldBe("fitted 2025-06-01, to be replaced after 36 months");
        bench.Change(new() { Battery = new(false) });
        bench.State.Ruling.Item.Equipment.Battery.ShouldBeNull();
        foreach (
            var odd in new BatteryFact[]
            {
                new(true, null, 0),
                new(true, null, double.NaN),
                new(true, new(1900, 1, 1)),
                new(true, new(9999, 12, 1)),
            }
        )
            bench.Change(new() { Battery = odd });
        bench.State.Refused.Length.ShouldBe(4);
        ItemJson
            .Read("""{"kind":"medicalDevice","class":"I","battery":{"fittedOn":"9999-12-01","lifeMonths":24}}""")
            .Fault.ShouldNotBeNull();
        var kettle = With(Kettle);
        kettle.Change(new() { Battery = new(true) });
        kettle.State.Refused.Single().Why.ShouldContain("medical devices");
    }

    [Theory]
    [InlineData(ProtectionClass.I)]
    [InlineData(ProtectionClass.II)]
    public void Where_off_is_a_condition_the_device_is_switched_once_each_way(ProtectionClass itemClass)
    {
        var device = Pump with
        {
            Class = itemClass,
            AppliedParts = [new("drip", AppliedPartType.CF, 3)],
            UnearthedParts = ["handle", "pole"],
        };
        var steps = With(device, "nfpa-99-2012").State.Sheet.Steps;
        steps.OfType<SheetStep.Pause>().Select(it => it.Name).ShouldBe(["Switch it off", "Switch it on"]);
        var powers = steps
            .OfType<SheetStep.Measure>()
            .Select(it => it.Plan.Under)
            .OfType<Conditions.Leakage>()
            .Select(it => it.Power)
            .ToArray();
        powers.ShouldBe(powers.OrderBy(it => it == PowerState.Off ? 0 : 1));
        powers.Count(it => it == PowerState.Off).ShouldBe(powers.Length / 2);
    }
}
