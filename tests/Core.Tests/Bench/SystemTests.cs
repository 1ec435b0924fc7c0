using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Several devices on one multiple socket, tested as one.</summary>
public sealed class SystemTests
{
    private const string Pack = "iec-62353-2014";

    private static readonly Item Socket = new()
    {
        Kind = ItemKind.MedicalSystem,
        Class = ProtectionClass.I,
        RatedVoltage = new(230),
        Cord = new(new(3), new(1.5)),
        EarthedParts = ["trolley frame"],
    };

    private static readonly Item Screen = Kettle with { Heating = false, RatedPower = new(45) };

    private static readonly Item Scope = Pump with
    {
        AppliedParts = [new("endoscope", AppliedPartType.BF), new("probe", AppliedPartType.CF, 2, false)],
        EarthedParts = ["stud", "rail"],
        UnearthedParts = ["ferrule"],
        MainsSwitch = MainsSwitch.Electronic,
        StartUpSeconds = 5,
    };

    private static readonly ImmutableArray<SystemMember> Members =
    [
        new("E-1", "Video processor", Scope),
        new("E-2", "Screen", Screen),
        new("E-3", "Screen", Screen with { Class = ProtectionClass.II }),
    ];

    private static readonly Item System = MedicalSystem.Of(Socket, Members);

    [Fact]
    public void It_has_what_its_members_bring_and_each_part_says_whose_it_is()
    {
        System.EarthedParts.ShouldBe(["trolley frame", "Video processor: stud", "Video processor: rail", "Screen E-2: accessible metal"]);
        System.UnearthedParts.ShouldBe(["Video processor: ferrule"]);
        System
            .AppliedParts.Select(it => (it.Name, it.Type, it.Joined))
            .ShouldBe([("Video processor: endoscope", AppliedPartType.BF, true), ("Video processor: probe", AppliedPartType.CF, false)]);
        System.MainsSwitch.ShouldBe(MainsSwitch.Electronic);
        System.StartUpSeconds.ShouldBe(5);
        System.RatedPower!.Value.Value.ShouldBe(40 + 45 + 45);
    }

    [Fact]
    public void Taken_apart_and_joined_again_it_is_the_same()
    {
        MedicalSystem.Own(System).ShouldBeEquivalentTo(Socket);
        MedicalSystem.Of(System, Members).ShouldBeEquivalentTo(System);
        ItemJson.Read(ItemJson.Write(System)).Value.ShouldBeEquivalentTo(System);
        MedicalSystem.Of(System, []).ShouldBeEquivalentTo(Socket);
    }

    [Fact]
    public void What_the_socket_is_of_itself_outlives_its_members()
    {
        var guarded = Socket with { SurgeProtected = true, RatedPower = new(2300), StartUpSeconds = 2 };
        var whole = MedicalSystem.Of(guarded, Members);
        MedicalSystem.Own(whole).ShouldBeEquivalentTo(guarded);
        // A member with the same leaves it the socket's, also when that member goes.
        var alike = MedicalSystem.Of(guarded, [new("E-9", "Lamp", Screen with { SurgeProtected = true })]);
        MedicalSystem.Of(ItemJson.Read(ItemJson.Write(alike)).Value, []).ShouldBeEquivalentTo(guarded);
        // Corrected at the socket it is corrected.
        MedicalSystem.Own(whole with { SurgeProtected = false }).SurgeProtected.ShouldBeFalse();
    }

    [Fact]
    public void Every_member_is_measured_and_none_by_anothers_type()
    {
        var plans = With(System, Pack).State.Sheet.Steps.OfType<SheetStep.Measure>().Select(it => it.Plan).ToArray();
        var earths = plans.Where(it => it.Test == Test.EarthContinuity).ToArray();
        earths.Select(it => it.Under.At!.Text).ShouldBe(System.EarthedParts);
        earths.ShouldAllBe(it => it.Limit!.Value!.Value.ToString() == "0.5 Ω");
        foreach (var part in System.AppliedParts)
            plans
                .Where(it => it.Under is Conditions.Leakage { Kind: LeakageKind.AppliedPart } && it.Under.AppliedPart == part.Name)
                .ShouldNotBeEmpty();
        plans
            .Single(it =>
                it.Under.AppliedPart == "Video processor: probe" && it.Under is Conditions.Leakage { Polarity: MainsPolarity.Normal }
            )
            .Limit!.Value!.Value.ToString()
            .ShouldBe("50 µA");
        plans.ShouldContain(it => it.Needs.Contains("Every member switched on"));
        With(System, Pack).State.Sheet.Steps.OfType<SheetStep.Look>().First().MakeSafe.ShouldContain(line => line.Contains("Screen E-3"));
    }

    [Fact]
    public void One_leakage_of_all_together_is_held_against_one_limit()
    {
        var bench = With(System, Pack).LookGood();
        bench.PassUntil("leakage/equipment");
        bench.Type("leakage/equipment", "0.51mA");
        bench.Stands("leakage/equipment").ShouldBe(Standing.Fail);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void Its_record_holds_the_members_as_they_were_that_day()
    {
        var bench = With(System, Pack).LookGood().PassTheRest();
        var item = bench.Record().Item;
        item.Equipment.Members.Select(it => it.Tag).ShouldBe(["E-1", "E-2", "E-3"]);
        item.Facts.ShouldContain(it => it.Label == "Members" && it.Value.Contains("Video processor E-1"));
        Osierwand.Core.Records.InspectionRecord.Read(bench.Record().ToJson()).Value.Item.Equipment.ShouldBeEquivalentTo(System);
    }

    [Theory]
    [InlineData(false, "name its members")]
    [InlineData(true, "Screen E-2 is quarantined: the system is looked at and not tested")]
    public void Without_members_or_with_one_out_of_use_it_is_looked_at_and_not_tested(bool hasMembers, string why)
    {
        var ruling = RulingFor(hasMembers ? System : Socket, Pack);
        var bench = new OnTheBench(
            ruling with
            {
                Item = ruling.Item with { MembersHeld = hasMembers ? ["Screen E-2 is quarantined"] : [] },
            }
        );
        bench.LookGood();
        var earth = bench.State.Steps.First(it => it.Step is SheetStep.Measure);
        earth.Start.IsGiven.ShouldBeFalse();
        earth.Start.WhyNot!.ShouldContain(why);
        bench.State.EndOf(EndKind.Pass).IsOpen.ShouldBeFalse();
        bench.State.EndOf(EndKind.NotTested).IsOpen.ShouldBeTrue();
        bench.View.Ahead.Why.ShouldContain(why);
    }

    [Fact]
    public void What_a_member_brings_is_not_taken_away_at_the_system()
    {
        var bench = With(System, Pack);
        bench.Change(new() { AppliedParts = [new("Video processor: endoscope", AppliedPartType.BF, 1, true)] });
        bench.Change(new() { EarthedParts = ["trolley frame"] });
        bench.Change(new() { MainsSwitch = MainsSwitch.Mechanical });
        bench.State.Refused.Length.ShouldBe(3);
        bench.State.Refused[0].Why.ShouldContain("“Video processor: probe” belongs to a member");
        bench.Change(new() { EarthedParts = [.. System.EarthedParts, "drawer"] });
        bench.State.Refused.Length.ShouldBe(3);
        MedicalSystem.Own(bench.State.Ruling.Item.Equipment).EarthedParts.ShouldBe(["trolley frame", "drawer"]);
    }

    public static TheoryData<string, Item> NoMembers =>
        new()
        {
            { "hard-wired", Screen with { Cord = new(Permanent: true), Use = UseOf.Fixed } },
            { "three phases", Screen with { Phases = 3 } },
            { "own battery", Pump with { Class = ProtectionClass.Internal } },
            { "not decided", Screen with { Class = ProtectionClass.Undecided } },
            { "members are devices", Reel },
        };

    [Theory]
    [MemberData(nameof(NoMembers))]
    public void Not_everything_hangs_on_a_multiple_socket(string why, Item its) =>
        MedicalSystem.Refusal(Socket, new("X-1", "Thing", its)).ShouldNotBeNull().ShouldContain(why);

    [Fact]
    public void Class_I_wants_a_socket_with_an_earth()
    {
        var bare = Socket with { Class = ProtectionClass.II, EarthedParts = [] };
        MedicalSystem.Refusal(bare, new("E-2", "Screen", Screen)).ShouldNotBeNull().ShouldContain("has no earth");
        MedicalSystem.Refusal(bare, new("E-3", "Screen", Screen with { Class = ProtectionClass.II })).ShouldBeNull();
    }

    [Fact]
    public void With_a_member_that_cannot_be_one_nothing_is_planned_and_nothing_passes()
    {
        var odd = MedicalSystem.Of(Socket, [new("E-2", "Screen", Screen with { Class = ProtectionClass.Undecided })]);
        Planner
            .Of(PackLibrary.Find(Pack)!, odd, Policy.Usual)
            .Remarks.ShouldContain(it => it.StartsWith("No plan: The class of E-2 is not decided"));
        var bench = With(odd, Pack).LookGood();
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("is not decided");
        bench.State.EndOf(EndKind.NotTested).IsOpen.ShouldBeTrue();
    }

    [Fact]
    public void The_contract_reads_members_and_refuses_what_cannot_be()
    {
        static Result<Item> Read(string members, string kind = "medicalSystem") =>
            ItemJson.Read($$"""{"kind":"{{kind}}","class":"I","members":[{{members}}]}""");
        const string One = """{"tag":"E-1","name":"Pump","item":{"kind":"medicalDevice","class":"I"}}""";
        Read(One).Value.EarthedParts.ShouldBe(["Pump: accessible metal"]);
        Read(One, "medicalDevice").Fault!.Message.ShouldContain("has no members");
        Read($"{One},{One}").Fault!.Message.ShouldContain("stands twice");
        Read("""{"tag":"E-1","name":"Pump"}""").Fault!.Path.ShouldContain("members");
        Read("""{"tag":"S-1","name":"S","item":{"kind":"medicalSystem","class":"I","members":[""" + One + "]}}")
            .Fault!.Message.ShouldContain("no member of another");
    }
}
