using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>What a device's maker asks beside the standard: tighter figures, checks, an interval, and what belongs to it.</summary>
public sealed class MakerAsksTests
{
    private const string Pack = "iec-62353-2014";
    private const string Earth = "earthContinuity";
    private static readonly MakerAsks Asks = new(
        6,
        [new(Earth, 0.2, "ohm"), new("leakage/equipment", 900, "uA"), new("leakage/appliedPart", 20, "uA")],
        ["Occlusion alarm sounds", "Battery takes over"]
    );
    private static readonly Item Device = Pump with { Maker = Asks, Accessories = ["mains lead", "drop sensor"] };

    private static OnTheBench Laid(Item? device = null) => With(device ?? Device, Pack);

    [Fact]
    public void Its_figure_counts_where_it_is_the_tighter_one_and_says_whose_it_is()
    {
        var bench = Laid();
        bench.LookGood();
        // 0.25 ohm: within the standard's 0.3, beyond the maker's 0.2.
        bench.Type(Earth, "0.25");
        bench.Stands(Earth).ShouldBe(Standing.Fail);
        var card = new BenchSession(bench.Ruling, []).View().Sheet!.Steps.Single(step => step.Key == Earth);
        card.Limit!.Text.ShouldBe("≤ 0.2 Ω");
        card.Limit.Derivation.ShouldBe("maker's figure not more than 0.2 Ω, tighter than the standard's");
        Laid(Pump).View.Steps.ShouldNotBeEmpty();
        With(Pump, Pack).State.Sheet.Find(Earth).ShouldBeOfType<SheetStep.Measure>().Plan.Limit!.Maker.ShouldBeNull();
    }

    [Fact]
    public void A_looser_one_changes_nothing()
    {
        var step = Laid().State.Sheet.Find("leakage/equipment").ShouldBeOfType<SheetStep.Measure>().Plan;
        step.Limit!.Maker.ShouldBeNull();
        step.Limit!.Value!.Value.ToString().ShouldBe("0.5 mA");
    }

    [Fact]
    public void It_holds_under_every_condition_and_for_no_other_test()
    {
        var plans = Laid().State.Sheet.Steps.OfType<SheetStep.Measure>().Select(step => step.Plan).ToArray();
        plans
            .Where(plan => plan.Under is Conditions.Leakage { Kind: LeakageKind.AppliedPart })
            .ShouldAllBe(plan => plan.Limit!.Value!.Value.ToString() == "20 µA");
        plans
            .Count(plan => plan.Limit?.Maker is not null)
            .ShouldBe(
                plans.Count(plan => plan.Test == Test.EarthContinuity || plan.Under is Conditions.Leakage { Kind: LeakageKind.AppliedPart })
            );
    }

    [Fact]
    public void A_pass_waits_for_its_checks_and_a_bad_one_fails()
    {
        var bench = Laid();
        bench.PassUntil("functional/Occlusion alarm sounds");
        bench.State.Sheet.Steps.OfType<SheetStep.Check>().Select(step => step.Name).ShouldBe(Asks.Checks);
        bench.Answer("functional", true);
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("Occlusion alarm sounds");
        bench.Answer("functional/Occlusion alarm sounds", true);
        bench.Answer("functional/Battery takes over", false, "it stops at once");
        bench.State.HasFailed.ShouldBeTrue();
    }

    [Fact]
    public void A_look_alone_asks_none_of_them()
    {
        var bench = Laid();
        bench.Choose(Scope.FormalVisual);
        bench.State.Sheet.Steps.OfType<SheetStep.Check>().ShouldBeEmpty();
    }

    [Fact]
    public void Its_interval_decides_the_next_date()
    {
        var bench = Laid().PassTheRest();
        NextDates.Of(bench.State).ShouldNotBeNull().Due.ShouldBe(bench.Ruling.Today.AddMonths(6));
        var usual = Laid(Pump).PassTheRest();
        NextDates.Of(usual.State).ShouldNotBeNull().Due.ShouldBe(usual.Ruling.Today.AddMonths(12));
    }

    [Fact]
    public void Each_accessory_is_looked_at_by_its_name()
    {
        var point = LookList.For(Device, PackLibrary.Find(Pack)!).Single(it => it.Id == "accessories");
        point.Text.ShouldBe("Accessories present and belonging to the device: mains lead, drop sensor");
        point.Phrases.ShouldContain("Missing: drop sensor");
    }

    /// <summary>Of two figures tighter than the standard's the tighter one decides, whoever set it.</summary>
    [Theory]
    [InlineData(0.1, "0.1 Ω")]
    [InlineData(0.25, "0.2 Ω")]
    public void A_procedures_own_limit_does_not_loosen_the_makers(double own, string limit)
    {
        var procedure = new Procedure
        {
            Id = Guid.NewGuid(),
            Version = 1,
            Name = "Pump with drop sensor",
            PackId = Pack,
            Steps = [new ProcedureStep.Measure(Earth, null, new OwnLimit(own, "ohm", "house"))],
        };
        var bench = new OnTheBench(RulingFor(Device, Pack) with { Procedure = procedure });
        bench.State.Sheet.Find(Earth).ShouldBeOfType<SheetStep.Measure>().Plan.Limit!.Value!.Value.ToString().ShouldBe(limit);
        bench.LookGood();
        bench.Type(Earth, "0.22");
        bench.Stands(Earth).ShouldBe(Standing.Fail);
    }

    /// <summary>Whoever asks over the contract gets the same answer as at the bench, and the plan says the same limit.</summary>
    [Fact]
    public void It_holds_on_the_command_line_too()
    {
        const string Item =
            """{"kind":"medicalDevice","class":"I","maker":{"limits":[{"test":"earthContinuity","value":0.2,"unit":"ohm"}]}}""";
        var answer = Ask.Assess(
            $$"""{"id":"m","standard":"iec-62353-2014","visual":"pass","item":{{Item}},"readings":[{"test":"earthContinuity","value":0.25,"unit":"ohm"}]}"""
        );
        answer.GetProperty("verdict").GetString().ShouldBe("fail");
        answer.GetProperty("results")[0].GetProperty("limit").GetDouble().ShouldBe(0.2);
        Ask.One("plan", $$"""{"id":"m","standard":"iec-62353-2014","item":{{Item}}}""").ToString().ShouldContain("0.2");
    }

    [Fact]
    public void An_item_is_written_and_read_with_all_of_it()
    {
        var read = ItemJson.Read(ItemJson.Write(Device)).Value;
        read.Accessories.ShouldBe(Device.Accessories);
        read.Maker!.IntervalMonths.ShouldBe(6);
        read.Maker.Limits.ShouldBe(Asks.Limits);
        read.Maker.Checks.ShouldBe(Asks.Checks);
    }

    [Theory]
    [InlineData("""{"kind":"appliance","maker":{"intervalMonths":6}}""", "maker")]
    [InlineData("""{"kind":"appliance","accessories":["lead"]}""", "accessories")]
    [InlineData("""{"kind":"medicalDevice","maker":{"limits":[{"test":"earthContinuity","value":1,"unit":"mA"}]}}""", "maker.limits[0]")]
    [InlineData("""{"kind":"medicalDevice","maker":{"limits":[{"test":"leakage","value":1,"unit":"mA"}]}}""", "maker.limits[0]")]
    [InlineData("""{"kind":"medicalDevice","maker":{"limits":[{"test":"functional","value":1,"unit":"mA"}]}}""", "maker.limits[0]")]
    [InlineData("""{"kind":"medicalDevice","maker":{"limits":[{"test":"insulation","unit":"Mohm"}]}}""", "maker.limits[0].value")]
    [InlineData("""{"kind":"medicalDevice","maker":{"intervalMonths":0}}""", "maker.intervalMonths")]
    [InlineData("""{"kind":"medicalDevice","maker":{"colour":"red"}}""", "maker.colour")]
    public void What_cannot_be_asked_is_refused_at_its_place(string item, string path) =>
        ItemJson.Read(item).Fault.ShouldNotBeNull().Path.ShouldBe(path);

    public static TheoryData<MakerFact> Impossible =>
        new()
        {
            new MakerFact(0, [], []),
            new MakerFact(121, [], []),
            new MakerFact(null, [new(Earth, 0, "ohm")], []),
            new MakerFact(null, [new(Earth, 0.1, "mA")], []),
            new MakerFact(null, [new(Earth, 0.1, "ohm"), new(Earth, 0.2, "ohm")], []),
            new MakerFact(null, [], ["Alarm", " alarm "]),
            new MakerFact(null, [], [""]),
        };

    [Theory]
    [MemberData(nameof(Impossible))]
    public void What_no_maker_can_ask_is_refused_on_the_bench(MakerFact asks) =>
        Facts.Apply(Laid().Ruling.Item, new() { MakerAsks = asks }).Fault.ShouldNotBeNull().Path.ShouldBe("makerAsks");

    [Fact]
    public void It_is_corrected_taken_back_and_offered_to_others_of_the_model()
    {
        var item = Laid().Ruling.Item;
        var changes = new FactChanges { MakerAsks = new(null, [], []), Accessories = ["mains lead"] };
        var bare = Facts.Apply(item, changes).Value;
        bare.Equipment.Maker.ShouldBeNull();
        bare.Equipment.Accessories.ShouldBe(["mains lead"]);
        ModelFacts.Of(changes).ShouldNotBeNull().MakerAsks.ShouldBe(changes.MakerAsks);
        ItemText
            .Facts(item, PackLibrary.Find(Pack)!.Dialect)
            .Single(line => line.Label == "Maker asks")
            .Value.ShouldStartWith("every 6 months; ");
        Facts.Apply(RulingFor(Kettle).Item, new() { Accessories = ["lid"] }).Fault.ShouldNotBeNull().Path.ShouldBe("accessories");
    }
}
