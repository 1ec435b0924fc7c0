using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A procedure orders, adds and tightens. What the standard asks stays asked, types stay the device's.</summary>
public class ProcedureTests
{
    private const string Iec = "iec-62353-2014";
    private static readonly Item Monitor = OnTheBench.Pump with
    {
        AppliedParts = [new("ECG", AppliedPartType.CF, 3), new("SpO2", AppliedPartType.BF)],
    };

    private static Procedure From(Item item, string pack = Iec) =>
        ProcedureRules.From(
            Planner.Of(PackLibrary.Find(pack)!, item, Policy.Usual),
            "Monitor with ECG comb",
            Guid.Parse("00000000-0000-0000-0000-0000000000c1")
        );

    private static Procedure With(Procedure of, params ProcedureStep[] added) => of with { Steps = [.. of.Steps, .. added] };

    private static OnTheBench By(Procedure procedure, Item? item = null, string pack = Iec) =>
        new(OnTheBench.RulingFor(item ?? Monitor, pack) with { Procedure = procedure, Procedures = [procedure] });

    private static string[] Keys(OnTheBench bench) => [.. bench.State.Sheet.Steps.Select(step => step.Key)];

    [Fact]
    public void Made_from_a_plan_it_asks_what_the_plan_asks()
    {
        var bench = By(From(Monitor));
        Keys(bench).ShouldBe(Keys(OnTheBench.With(Monitor, Iec)));
        bench.State.Sheet.Remarks.ShouldBe(OnTheBench.With(Monitor, Iec).State.Sheet.Remarks);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue();
        bench.Record().Rules.Procedure.ShouldBe("Monitor with ECG comb, version 1");
    }

    [Fact]
    public async Task It_reads_back_as_it_was_written_and_follows_its_schema()
    {
        var it = With(
            From(Monitor) with
            {
                Adapters = ["ECG comb"],
                Maker = "Heronsgate",
                Model = "Vita 6",
            },
            new ProcedureStep.Pause("Set it to demo", 5),
            new ProcedureStep.Check("heart rate", new(60, 2, "1/min")),
            new ProcedureStep.Check("alarm sounds"),
            new ProcedureStep.Borrow("nfpa-99-2012", "leakage/touch/earthOpen")
        );
        var text = it.ToJson();
        Procedure.Read(text).Value.ToJson().ShouldBe(text);
        var schema = await NJsonSchema.JsonSchema.FromJsonAsync(Procedure.Schema(), TestContext.Current.CancellationToken);
        schema.Validate(text).ShouldBeEmpty();
    }

    [Theory]
    [InlineData("\"format\": \"osierwand-procedure/1\"", "\"format\": \"something/9\"", "osierwand-procedure/1")]
    [InlineData("\"connections\": 3", "\"connections\": 0", "From 1 to 64")]
    [InlineData("\"name\": \"ECG\"", "\"name\": \"\"", "in words")]
    [InlineData("\"do\": \"measure\"", "\"do\": \"skip\"", "skip")]
    [InlineData("\"version\": 1", "\"version\": 1, \"colour\": \"red\"", "colour")]
    [InlineData("\"name\": \"ECG\"", "\"name\": \"EC\u200bG\"", "cannot be seen")]
    [InlineData("\"name\": \"ECG\"", "\"name\": \"E\\nG\"", "one line")]
    public void A_file_that_is_none_says_why(string from, string to, string why)
    {
        var text = From(Monitor).ToJson();
        text.ShouldContain(from);
        Procedure.Read(text.Replace(from, to, StringComparison.Ordinal)).Fault!.Message.ShouldContain(why);
    }

    [Theory]
    [InlineData(AppliedPartType.BF, 3, "takes “ECG” for BF, and on this device it is CF")]
    [InlineData(AppliedPartType.CF, 5, "counts 5 connections of “ECG”, and this device has 3")]
    public void A_module_that_claims_what_the_device_is_not_is_refused(AppliedPartType type, int connections, string why)
    {
        var claims = From(Monitor) with { Modules = [new("ECG", type, connections, true)] };
        ProcedureRules.Refusal(claims, Monitor, Iec)!.ShouldContain(why);
        var bench = new OnTheBench(OnTheBench.RulingFor(Monitor, Iec) with { Procedures = [claims] });
        bench.Happens(next => new ProcedureChosen
        {
            Id = next.Id,
            At = next.At,
            Procedure = claims.Id,
            Version = 1,
        });
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldContain(why);
        bench.State.Ruling.Procedure.ShouldBeNull();
    }

    [Fact]
    public void A_device_that_lost_a_part_does_not_pass_by_a_procedure_that_measures_it()
    {
        var bench = By(From(Monitor));
        bench.PassTheRest();
        bench.Change(new() { AppliedParts = [new("ECG", AppliedPartType.CF, 3, true)] });
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.State.EndOf(EndKind.Pass).Why.ShouldContain("does not fit this device");
        bench.Happens(next => new ProcedureChosen { Id = next.Id, At = next.At });
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void A_part_that_the_procedure_does_not_know_is_measured_all_the_same()
    {
        var bench = By(From(OnTheBench.Pump with { AppliedParts = [new("ECG", AppliedPartType.CF, 3)] }));
        Keys(bench).Order().ShouldBe(Keys(OnTheBench.With(Monitor, Iec)).Order());
        bench.State.Sheet.Remarks.ShouldContain(it =>
            it.StartsWith("Not named by the procedure, asked by the standard: Applied part leakage SpO2")
        );
    }

    [Fact]
    public void A_required_step_is_left_out_with_a_reason_and_the_paper_says_it()
    {
        var left = From(Monitor);
        left = left with
        {
            Steps =
            [
                .. left.Steps.Where(it => it is not ProcedureStep.Measure { Step: "leakage/equipment/reversed" }),
                new ProcedureStep.LeaveOut("leakage/equipment/reversed", "Its pump does not run backwards on the ward's supply."),
            ],
        };
        var bench = By(left);
        Keys(bench).ShouldNotContain("leakage/equipment/reversed");
        var record = bench.PassTheRest().Record();
        record.LeftOut!.ShouldHaveSingleItem().Reason.ShouldContain("does not run backwards");
        Core.Papers.PaperWriter.Of(record, new(1, "00", []), [], TimeZoneInfo.Utc)
            .Notices.ShouldContain(it =>
                it.Contains("Left out, though the standard asks it: Equipment leakage, direct, reversed polarity")
            );
        // Not named is not left out: then it stays.
        Keys(By(left with { Steps = [.. left.Steps.SkipLast(1)] })).ShouldContain("leakage/equipment/reversed");
    }

    [Theory]
    [InlineData("", "in words")]
    [InlineData("visual", "part of every inspection")]
    public void Nothing_is_left_out_without_a_reason_and_never_the_look(string what, string why)
    {
        var line = what.Length == 0 ? new ProcedureStep.LeaveOut("earthContinuity", " ") : new ProcedureStep.LeaveOut(what, "no time");
        ProcedureRules.Faults(With(From(Monitor) with { Steps = [] }, line)).ShouldContain(it => it.Message.Contains(why));
    }

    [Fact]
    public void Nothing_is_powered_before_its_earth_is_known()
    {
        var turned = From(Monitor);
        turned = turned with { Steps = [.. turned.Steps.Reverse()] };
        ProcedureRules.Faults(turned).ShouldContain(it => it.Message.Contains("earth first, then insulation"));
        ProcedureRules
            .Faults(With(From(Monitor) with { Steps = [] }, new ProcedureStep.Check("flow"), new ProcedureStep.Measure("earthContinuity")))
            .ShouldNotBeEmpty();
    }

    [Theory]
    [InlineData(100, "uA", "150", Standing.Fail)]
    [InlineData(100, "uA", "99", Standing.Advice)]
    [InlineData(5, "mA", "400", Standing.Pass)]
    [InlineData(5, "mA", "600", Standing.Fail)]
    public void A_tighter_limit_decides_and_a_looser_one_changes_nothing(double limit, string unit, string read, Standing stands)
    {
        var own = From(Monitor);
        own = own with
        {
            Steps =
            [
                .. own.Steps.Select(it =>
                    it is ProcedureStep.Measure { Step: "leakage/equipment" } measure
                        ? measure with
                        {
                            Limit = new(limit, unit, "the maker's manual"),
                        }
                        : it
                ),
            ],
        };
        var bench = By(own);
        bench.PassUntil("leakage/equipment");
        bench.Type("leakage/equipment", read);
        bench.Stands("leakage/equipment").ShouldBe(stands);
        if (unit == "uA")
            bench.State.Readings[^1].Judgement!.Limit!.Clause.ShouldEndWith("tightened: the maker's manual");
    }

    [Theory]
    [InlineData("102", Standing.Pass)]
    [InlineData("105", Standing.Pass)]
    [InlineData("95,0", Standing.Pass)]
    [InlineData("105.1", Standing.Fail)]
    [InlineData("−100", Standing.Fail)]
    public void A_check_with_a_set_value_is_good_within_its_tolerance(string shown, Standing stands)
    {
        var bench = By(With(From(Monitor), new ProcedureStep.Check("flow", new(100, 5, "ml/h"))));
        bench.PassUntil("functional/flow");
        bench.Type("functional/flow", shown);
        bench.Stands("functional/flow").ShouldBe(stands);
        bench.View.Readings[^1].Text.ShouldEndWith(" ml/h");
        bench.View.Readings[^1].Status.ShouldBe(stands == Standing.Fail ? Status.Fail : Status.Pass);
        bench.State.HasFailed.ShouldBe(stands == Standing.Fail);
    }

    [Fact]
    public void A_check_that_was_not_made_is_waited_for_and_is_no_functional_check()
    {
        var bench = By(With(From(Monitor), new ProcedureStep.Check("alarm sounds")));
        bench.PassUntil("functional/alarm sounds");
        bench.Answer("functional/alarm sounds", true);
        bench.State.Assessment.Missing.ShouldContain(it => it.Detail == "functional check");
        var other = By(With(From(Monitor), new ProcedureStep.Check("alarm sounds")));
        other.PassUntil("functional/alarm sounds");
        other.Answer("functional", true);
        other.IsOpen(EndKind.Pass).ShouldBeFalse();
        other.State.Assessment.Missing.ShouldContain(it => it.Detail == "alarm sounds");
        other.Type("functional/alarm sounds", "x");
        other.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void A_borrowed_step_is_judged_by_its_own_standard_and_stands_for_none_of_the_required()
    {
        var bench = By(With(From(Monitor), new ProcedureStep.Borrow("nfpa-99-2012", "leakage/touch/earthOpen")));
        const string key = "leakage/touch/earthOpen/by nfpa-99-2012";
        bench.PassUntil(key);
        bench.Type(key, "600");
        bench.Stands(key).ShouldBe(Standing.Fail);
        var judged = bench.State.Readings[^1].Judgement!;
        judged.Limit!.Clause.ShouldStartWith("nfpa-99-2012");
        judged.NeverSatisfies.ShouldBeTrue();
    }

    [Fact]
    public void Connections_are_measured_in_turn_and_the_last_one_is_waited_for()
    {
        var each = From(Monitor) with { Modules = [new("ECG", AppliedPartType.CF, 3, false)] };
        var bench = By(each);
        const string key = "leakage/appliedPart/part ECG";
        bench.PassUntil(key);
        bench.Step(key).Left.ShouldBe(["connection 1", "connection 2", "connection 3"]);
        bench.Type(key, "8");
        bench.Type(key, "9");
        (bench.Stands(key), bench.State.Current).ShouldBe((Standing.Open, key));
        bench.Step(key).Left.ShouldBe(["connection 3"]);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench.Type(key, "12");
        bench.Stands(key).ShouldBe(Standing.Pass);
        bench.State.Readings.Single(it => it.Event.Id == bench.Step(key).Stands).Event.Point.ShouldBe("connection 3");
    }

    [Fact]
    public void Ten_connections_of_which_one_leaks_fail_at_that_one()
    {
        var ten = Monitor with { AppliedParts = [new("ECG", AppliedPartType.CF, 10, Joined: false)] };
        var bench = OnTheBench.With(ten, Iec);
        const string key = "leakage/appliedPart/part ECG";
        bench.PassUntil(key);
        foreach (var read in new[] { "8", "8", "8", "8", "8", "8", "61" })
            bench.Type(key, read);
        bench.Stands(key).ShouldBe(Standing.Fail);
        bench.State.Readings[^1].Event.Point.ShouldBe("connection 7");
        bench.State.HasFailed.ShouldBeTrue();
    }

    [Fact]
    public void A_voided_connection_is_the_next_one_that_is_read()
    {
        var bench = OnTheBench.With(Monitor with { AppliedParts = [new("ECG", AppliedPartType.CF, 3, Joined: false)] }, Iec);
        const string key = "leakage/appliedPart/part ECG";
        bench.PassUntil(key);
        var first = bench.Type(key, "60");
        bench.Type(key, "8");
        bench.Type(key, "8");
        bench.Void(first, "clip was off");
        bench.Stands(key).ShouldBe(Standing.Void);
        bench.Type(key, "9");
        (bench.Stands(key), bench.State.Readings[^1].Event.Point).ShouldBe((Standing.Pass, "connection 1"));
    }

    [Fact]
    public void One_connection_alone_is_not_the_part_once_all_of_it_are_joined()
    {
        var each = From(Monitor) with { Modules = [new("ECG", AppliedPartType.CF, 3, false)] };
        var bench = By(each);
        const string key = "leakage/appliedPart/part ECG";
        bench.PassUntil(key);
        bench.Type(key, "8");
        bench.Happens(next => new ProcedureChosen { Id = next.Id, At = next.At });
        bench.Stands(key).ShouldBe(Standing.Undecided);
        bench.State.Readings[^1].Judgement!.Because.ShouldBe(Because.OneConnection);
        bench.Type(key, "9");
        bench.Stands(key).ShouldBe(Standing.Pass);
    }

    [Theory]
    [InlineData("0")]
    [InlineData("<1")]
    public void A_connection_where_nothing_flows_is_undecided_beside_others_where_something_does(string nothing)
    {
        var bench = OnTheBench.With(Monitor with { AppliedParts = [new("ECG", AppliedPartType.CF, 3, Joined: false)] }, Iec);
        const string key = "leakage/appliedPart/part ECG";
        bench.PassUntil(key);
        foreach (var read in new[] { "8", nothing, "8" })
            bench.Type(key, read);
        bench.Stands(key).ShouldBe(Standing.Undecided);
        bench.Step(key).Left.ShouldBe(["connection 2"]);
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public void Nothing_passes_with_everything_left_out()
    {
        var battery = Monitor with { Class = ProtectionClass.Internal, Cord = null };
        foreach (var item in new[] { Monitor, battery })
        {
            var all = From(item);
            all = all with
            {
                Steps = [.. all.Steps.Cast<ProcedureStep.Measure>().Select(it => new ProcedureStep.LeaveOut(it.Step, "no time"))],
            };
            ProcedureRules.Faults(all).ShouldBeEmpty();
            var bench = By(all, item).PassTheRest();
            bench.IsOpen(EndKind.Pass).ShouldBeFalse();
            bench.State.EndOf(EndKind.Pass).Why.ShouldBe("Nothing was measured, so it cannot pass as tested.");
        }
    }

    [Fact]
    public void A_limit_in_the_unit_of_something_else_is_refused_and_a_looser_one_is_told()
    {
        Procedure Limited(double value, string unit) =>
            From(Monitor) with
            {
                Steps =
                [
                    .. From(Monitor)
                        .Steps.Select(it =>
                            it is ProcedureStep.Measure { Step: "leakage/equipment" } own ? own with { Limit = new(value, unit, "x") } : it
                        ),
                ],
            };
        ProcedureRules.Faults(Limited(1, "ohm")).ShouldHaveSingleItem().Message.ShouldContain("no unit of this measurement");
        By(Limited(5, "mA")).State.Sheet.Remarks.ShouldContain(it => it.Contains("no tighter than the standard's"));
        By(Limited(100, "uA")).State.Sheet.Remarks.ShouldNotContain(it => it.Contains("no tighter"));
    }

    [Fact]
    public void A_procedure_that_came_to_the_model_is_told_and_one_merely_on_offer_changes_nothing()
    {
        var plain = OnTheBench.RulingFor(Monitor, Iec);
        var taken = plain with { Procedure = From(Monitor), Procedures = [From(Monitor)] };
        Ruling.Differences(plain, taken).ShouldBe(["Its model is inspected by “Monitor with ECG comb, version 1” now."]);
        Ruling.Differences(taken, plain).ShouldBe(["Its model has no procedure of its own any more."]);
        (plain with { Procedures = [From(Monitor)] }).Fingerprint.ShouldBe(plain.Fingerprint);
        taken.Fingerprint.ShouldNotBe(plain.Fingerprint);
    }

    private static Procedure WithoutReversed(Procedure of) =>
        of with
        {
            Steps =
            [
                .. of.Steps.Select(it =>
                    it is ProcedureStep.Measure { Step: "leakage/equipment/reversed" } left
                        ? new ProcedureStep.LeaveOut(left.Step, "no time")
                        : it
                ),
            ],
        };

    private static Guid ChooseOn(OnTheBench bench, Procedure? procedure) =>
        bench.Happens(next => new ProcedureChosen
        {
            Id = next.Id,
            At = next.At,
            Procedure = procedure?.Id,
            Version = procedure?.Version ?? 0,
        });

    [Fact]
    public void What_failed_does_not_go_by_choosing_another_list()
    {
        var lighter = WithoutReversed(From(Monitor));
        var bench = new OnTheBench(OnTheBench.RulingFor(Monitor, Iec) with { Procedures = [lighter] });
        bench.PassUntil("leakage/equipment/reversed");
        var failed = bench.Type("leakage/equipment/reversed", "900");
        ChooseOn(bench, lighter);
        bench.State.Refused.ShouldHaveSingleItem().Why.ShouldStartWith("Something failed");
        bench.State.HasFailed.ShouldBeTrue();
        // Voided first, it is owed all the same.
        bench.Void(failed, "clip was off");
        ChooseOn(bench, lighter);
        bench.PassTheRest();
        bench.IsOpen(EndKind.Pass).ShouldBeFalse();
        bench
            .State.EndOf(EndKind.Pass)
            .Why.ShouldBe("Equipment leakage, reversed polarity failed and was voided: it is not left out before it was measured again.");
        ChooseOn(bench, null);
        bench.PassTheRest().IsOpen(EndKind.Pass).ShouldBeTrue();
    }

    [Fact]
    public void A_failed_check_does_not_go_with_its_procedure()
    {
        var bench = By(With(From(Monitor), new ProcedureStep.Check("flow", new(100, 5, "ml/h"))));
        bench.PassUntil("functional/flow");
        bench.Type("functional/flow", "80");
        ChooseOn(bench, null);
        bench.State.Refused.ShouldHaveSingleItem();
        bench.State.HasFailed.ShouldBeTrue();
    }

    [Fact]
    public void A_check_typed_while_it_settles_is_no_reading()
    {
        var bench = By(
            With(From(Monitor), new ProcedureStep.Pause("let it settle", 60), new ProcedureStep.Check("flow", new(100, 5, "ml/h")))
        );
        bench.PassUntil("pause/own/1");
        bench.Confirm("pause/own/1");
        bench.Type("functional/flow", "100");
        bench.State.Readings[^1].Void.ShouldBe("read 50 s before it had started");
        bench.Stands("functional/flow").ShouldNotBe(Standing.Pass);
    }

    [Theory]
    [InlineData(LeakageMethod.Direct)]
    [InlineData(LeakageMethod.Alternative)]
    public void Of_what_is_isolated_everything_dead_comes_before_the_supply_is_restored(LeakageMethod method)
    {
        var wired = Monitor with { Cord = new(Permanent: true) };
        var policy = Policy.Usual with { MedicalMethod = method };
        var procedure = ProcedureRules.From(Planner.Of(PackLibrary.Find(Iec)!, wired, policy), "wired", Guid.NewGuid());
        foreach (var steps in new[] { procedure.Steps, [], [.. procedure.Steps.Skip(1)] })
        {
            var ruling = OnTheBench.RulingFor(wired, Iec) with { Policy = policy, Procedure = procedure with { Steps = steps } };
            var sheet = RunSheet.Of(ruling).Steps;
            var plain = RunSheet.Of(ruling with { Procedure = null }).Steps;
            sheet.Select(step => step.Key).Order().ShouldBe(plain.Select(step => step.Key).Order());
            var restored = sheet.Select(step => step.Key).ToList().IndexOf(Core.Isolation.SafeIsolation.Reconnect);
            restored.ShouldBeGreaterThan(0);
            sheet.OfType<SheetStep.Measure>().ShouldAllBe(step => step.Powers == sheet.IndexOf(step) > restored);
        }
    }

    [Fact]
    public void A_borrowed_twin_stands_beside_the_matrix_and_comes_back_from_the_record()
    {
        var general = "iec-60601-1-2012";
        var bench = By(With(From(Monitor, general), new ProcedureStep.Borrow("nfpa-99-2012", "leakage/touch/earthOpen")), pack: general);
        const string key = "leakage/touch/earthOpen/by nfpa-99-2012";
        var view = new BenchSession(bench.Ruling, bench.Events).View(null);
        view.Sheet!.Steps.Single(step => step.Key == key).Detail.ShouldBe("powered, earth open, by NFPA 99:2012");
        view.Sheet.Matrix!.Rows.SelectMany(row => row.Cells).ShouldNotContain(key);
        view.Sheet.Matrix.Rows.SelectMany(row => row.Cells).ShouldContain("leakage/touch/earthOpen");
        var record = bench.PassTheRest().Record();
        Core.Records.InspectionRecord.Read(record.ToJson()).Value.ToJson().ShouldBe(record.ToJson());
    }

    [Fact]
    public void Two_versions_say_what_became_otherwise()
    {
        var before = From(Monitor);
        var after = With(before, new ProcedureStep.Check("flow", new(100, 5, "ml/h"))) with { Adapters = ["comb"] };
        ProcedureDifference.Between(before, before).ShouldBeEmpty();
        ProcedureDifference
            .Between(before, after)
            .ShouldBe(["To bring: nothing → “comb”", "New: check: flow, set 100 ml/h, within 5 ml/h"]);
    }

    /// <summary>Over devices of random parts: each step of the standard's plan is on the sheet exactly once, whatever a procedure names,
    /// and every cell is judged by its own part's type.</summary>
    [Fact]
    public void Whatever_a_procedure_names_nothing_that_is_asked_is_missing_or_doubled()
    {
        var pack = PackLibrary.Find(Iec)!;
        var part = Gen.Select(Gen.OneOf([.. Enum.GetValues<AppliedPartType>().Select(Gen.Const)]), Gen.Int[1, 5], Gen.Bool);
        Gen.Select(part.Array[0, 4], Gen.Int[0, 1000], Gen.Bool)
            .Sample(
                (parts, seed, isInternal) =>
                {
                    var item = OnTheBench.Pump with
                    {
                        Class = isInternal ? ProtectionClass.Internal : ProtectionClass.I,
                        AppliedParts = [.. parts.Select((it, n) => new AppliedPart($"part {n}", it.Item1, it.Item2, it.Item3))],
                    };
                    if (ScopeOf.Refusal(pack, item, Scope.Combined, Policy.Usual) is not null)
                        return;
                    var plan = Planner.Of(pack, item, Policy.Usual);
                    var random = new Random(seed);
                    var procedure = ProcedureRules.From(plan, "x", Guid.NewGuid());
                    procedure = procedure with { Steps = [.. procedure.Steps.Where(_ => random.Next(3) > 0)] };
                    var sheet = By(procedure, item).State.Sheet;
                    var asked = plan.Steps.OfType<PlanStep.Measure>().Select(step => step.Key).Order();
                    var steps = sheet.Steps.OfType<SheetStep.Measure>().ToArray();
                    steps.Select(step => step.Key).Order().ShouldBe(asked);
                    foreach (var step in steps.Where(step => step.Plan.Under.AppliedPart is not null))
                        step.Plan.Limit.ShouldBe(pack.LimitFor(item, step.Plan.Under));
                    var ranks = steps.Select(step => ProcedureRules.RankOf(step.Key)).ToArray();
                    ranks.ShouldBe(ranks.Order());
                },
                iter: 200
            );
    }
}
