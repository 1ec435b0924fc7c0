using CsCheck;
using Osierwand.Core.Bench;
using Osierwand.Core.Hire;
using Shouldly;

namespace Osierwand.Core.Tests.Hire;

/// <summary>The way of a hire item from one issue to the next, and that nothing but a good item is ever ready.</summary>
public sealed class HireRuleTests
{
    private static readonly DateTimeOffset Monday = new(2026, 11, 23, 7, 0, 0, TimeSpan.Zero);
    private static readonly DateOnly Today = new(2026, 11, 23);

    private static HireStanding After(params HireMove[] moves) =>
        moves
            .Select((move, n) => new DoneMove(Guid.NewGuid(), Monday.AddHours(n), "Ida", move))
            .Aggregate(HireStanding.Start, (it, done) => it.After(done));

    /// <summary>Tested well a week before, and in service.</summary>
    private static readonly HireFacts Good = new(
        ItemState.InService,
        null,
        HireStanding.Start,
        Monday.AddDays(-7),
        Monday.AddDays(-7),
        Monday.AddDays(-7),
        Today.AddDays(80),
        Today.AddDays(80),
        Today.AddDays(-7),
        null,
        HireTests.EachIssue,
        Today
    );

    private static readonly Issued Out = new("Contract 4417");
    private static readonly Returned Back = new();
    private static readonly LookedAt Whole = new(HireSeen.Good);
    private static readonly LookedAt Cut = new(HireSeen.Flex);
    private static readonly Laid OnBench = new();

    public static TheoryData<HireMove[], HireTests, HireStage> Ways =>
        new()
        {
            { [], HireTests.EachIssue, HireStage.Ready },
            { [Out], HireTests.EachIssue, HireStage.Out },
            { [Out, Back], HireTests.EachIssue, HireStage.Returned },
            { [Out, Back, Whole], HireTests.EachIssue, HireStage.ForTheBench },
            { [Out, Back, Whole, OnBench], HireTests.EachIssue, HireStage.OnTheBench },
            { [Out, Back, OnBench, Whole], HireTests.EachIssue, HireStage.ForTheBench },
            { [Out, Back], HireTests.WhenDue, HireStage.Returned },
            { [Out, Back, Whole], HireTests.WhenDue, HireStage.Ready },
            { [Out, Back, Whole, OnBench], HireTests.WhenDue, HireStage.OnTheBench },
            { [Out, Back, Whole, Out, Back], HireTests.WhenDue, HireStage.Returned },
            { [Out, Back, Cut], HireTests.WhenDue, HireStage.ForTheBench },
            { [OnBench], HireTests.EachIssue, HireStage.OnTheBench },
        };

    [Theory]
    [MemberData(nameof(Ways))]
    public void Moves_lead_from_stage_to_stage(HireMove[] moves, HireTests school, HireStage stage) =>
        HireRule.Of(Good with { Standing = After(moves), School = school }).Stage.ShouldBe(stage);

    [Theory]
    [InlineData(HireTests.EachIssue)]
    [InlineData(HireTests.WhenDue)]
    public void A_test_since_it_came_back_makes_it_ready_and_one_from_before_does_not(HireTests school)
    {
        var facts = Good with { Standing = After(Out, Back, Whole, OnBench), School = school };
        var tested = Monday.AddHours(5);
        HireRule.Of(facts with { TestedAt = tested, PassedAt = tested, OffTheBenchAt = tested }).Stage.ShouldBe(HireStage.Ready);
        // Taken on a bench before it left, and come in only now.
        var late = HireRule.Of(facts with { OffTheBenchAt = tested });
        late.Stage.ShouldBe(school == HireTests.EachIssue ? HireStage.ForTheBench : HireStage.Ready);
    }

    [Fact]
    public void A_formal_visual_is_no_test_where_each_issue_asks_for_one()
    {
        var looked = Good with { Standing = After(Out, Back), PassedAt = Monday.AddHours(4), OffTheBenchAt = Monday.AddHours(4) };
        var (strict, other) = (HireRule.Of(looked), HireRule.Of(looked with { School = HireTests.WhenDue }));
        (strict.Stage, strict.Why).ShouldBe((HireStage.ForTheBench, "not tested since it came back"));
        other.Stage.ShouldBe(HireStage.Ready);
    }

    [Fact]
    public void What_was_seen_to_be_bad_stays_so_until_a_pass_after_it()
    {
        var bad = Good with { Standing = After(Out, Back, Cut), School = HireTests.WhenDue };
        HireRule.Of(bad with { PassedAt = Monday.AddHours(1.5) }).Stage.ShouldBe(HireStage.ForTheBench, "the pass is older than the look");
        HireRule.Of(bad with { PassedAt = Monday.AddHours(3) }).Stage.ShouldBe(HireStage.Ready);
    }

    [Fact]
    public void A_date_gone_by_a_doubt_or_an_event_makes_it_unready_by_itself()
    {
        HireRule.Of(Good with { Today = Today.AddDays(80) }).Stage.ShouldBe(HireStage.Ready, "due on that day is not over");
        var reasons = new[]
        {
            Good with
            {
                Today = Today.AddDays(81),
            },
            Good with
            {
                VisualDue = Today.AddDays(-1),
            },
            Good with
            {
                Due = null,
            },
            Good with
            {
                TestedAt = null,
            },
            Good with
            {
                Due = Today.AddDays(-7),
                Today = Today.AddDays(-7),
            },
            Good with
            {
                Doubt = HireText.Doubt("it sparks", isLeft: false),
            },
            Good with
            {
                Doubt = HireText.Doubt(null, isLeft: true),
            },
        };
        foreach (var school in Enum.GetValues<HireTests>())
            reasons
                .Select(it => HireRule.Of(it with { School = school }))
                .ShouldAllBe(it => it.Stage == HireStage.ForTheBench && it.Why.Length > 0);
    }

    [Fact]
    public void What_is_out_and_must_not_be_used_is_called_back_and_is_out_of_use_when_it_is_back()
    {
        var called = Good with { State = ItemState.Quarantined, HeldWhy = "it smells burnt", Standing = After(Out) };
        var there = HireRule.Of(called);
        (there.Stage, there.CallBack).ShouldBe((HireStage.Out, "Contract 4417 has it, and it must not be used: it smells burnt"));
        HireRule.Do(there, Whole).Fault.ShouldNotBeNull().Message.ShouldContain("must not be used");
        HireRule.Do(there, Back).Value.ShouldBe([Back]);
        HireRule.Of(called with { Standing = After(Out, Back) }).Stage.ShouldBe(HireStage.Repair);
    }

    public static TheoryData<HireStage, string> May =>
        new()
        {
            { HireStage.Returned, "LookedAt Laid" },
            { HireStage.ForTheBench, "LookedAt Laid" },
            { HireStage.OnTheBench, "LookedAt Laid" },
            { HireStage.Ready, "Issued LookedAt Laid" },
            { HireStage.Out, "Returned LookedAt" },
            { HireStage.Repair, "Laid" },
            { HireStage.Scrapped, "" },
        };

    [Theory]
    [MemberData(nameof(May))]
    public void What_may_be_done_at_each_stage(HireStage stage, string may) =>
        string.Join(" ", Enum.GetValues<HireMoveKind>().Where(kind => HireRule.Refusal(new(stage, "so"), kind) is null)).ShouldBe(may);

    [Fact]
    public void Looking_at_what_was_out_says_that_it_is_back()
    {
        var steps = HireRule.Do(HireRule.Of(Good with { Standing = After(Out) }), Cut);
        steps.Value.ShouldBe([new Returned(), Cut]);
        HireRule.TakesOutOfUse(Cut).ShouldBe("flex or lead damaged");
        HireRule.TakesOutOfUse(Whole).ShouldBeNull();
    }

    [Theory]
    [InlineData("", "Say who has it.")]
    [InlineData("  ", "Say who has it.")]
    [InlineData("farm\u0007", null)]
    public void Words_that_say_nothing_are_refused(string to, string? says)
    {
        var refused = HireRule.Do(new(HireStage.Ready, "tested"), new Issued(to)).Fault.ShouldNotBeNull();
        refused.Path.ShouldBe("to");
        if (says is not null)
            refused.Message.ShouldBe(says);
        HireRule.Do(new(HireStage.Returned, "back"), new LookedAt(HireSeen.Other)).Fault!.Path.ShouldBe("words");
        HireRule.Do(new(HireStage.Ready, "tested"), new Issued(new string('x', 201))).Fault!.Path.ShouldBe("to");
    }

    [Fact]
    public void Codes_and_digits_of_verdicts_are_told_apart()
    {
        HireVerdict.All.Select(it => it.Code).ShouldBeUnique();
        HireVerdict.All.Select(it => it.Digit).ShouldBeUnique();
        Enum.GetValues<HireSeen>().ShouldAllBe(seen => HireVerdict.Of(seen).Seen == seen);
        HireVerdict.All.Count(it => it.IsGood).ShouldBe(1);
        (HireVerdict.IsDigit("1"), HireVerdict.IsDigit(" 0 "), HireVerdict.IsDigit("11"), HireVerdict.IsDigit("A")).ShouldBe(
            (true, true, false, false)
        );
    }

    [Fact]
    public void A_warning_says_that_the_test_runs_out_before_it_is_back()
    {
        HireRule.Warning(Today, Today.AddDays(1)).ShouldBe("Its test runs out 23 Nov 2026, before it is back.");
        HireRule.Warning(Today, Today).ShouldBeNull();
        HireRule.Warning(Today, null).ShouldBeNull();
    }

    private enum Event
    {
        Issue,
        Return,
        LookGood,
        LookBad,
        Lay,
        PassTest,
        PassLook,
        Fail,
        Repair,
    }

    /// <summary>Whatever happens in whatever order, an issue never lets out what was not found good since it came back.</summary>
    [Fact]
    public void Nothing_is_ever_issued_that_was_not_found_good_since_it_came_back() =>
        Gen.Select(Gen.Int[0, 1], Gen.Int[0, 8].Select(it => (Event)it).Array[0, 60])
            .Sample(
                (school, events) =>
                {
                    var facts = Good with { School = (HireTests)school };
                    var (now, isProven) = (Monday, true);
                    foreach (var it in events)
                    {
                        now = now.AddMinutes(7);
                        var at = HireRule.Of(facts);
                        HireMove? move = it switch
                        {
                            Event.Issue => Out,
                            Event.Return => Back,
                            Event.LookGood => Whole,
                            Event.LookBad => Cut,
                            Event.Lay => OnBench,
                            _ => null,
                        };
                        if (move is not null && HireRule.Do(at, move).TryGet(out var steps))
                        {
                            if (move == Out)
                                isProven.ShouldBeTrue($"{string.Join(" ", events)}");
                            foreach (var step in steps)
                                facts = facts with { Standing = facts.Standing.After(new(Guid.NewGuid(), now, "Ida", step)) };
                            if (steps.Contains(Back))
                                isProven = false;
                            if (move == Whole && facts.School == HireTests.WhenDue)
                                isProven = true;
                            if (move == Cut)
                                (facts, isProven) = (facts with { State = ItemState.Quarantined }, false);
                        }
                        var isHeld = facts.State != ItemState.InService;
                        if (it == Event.PassTest && !isHeld && at.Stage != HireStage.Out)
                            (facts, isProven) = (facts with { TestedAt = now, PassedAt = now, OffTheBenchAt = now }, true);
                        if (it == Event.PassLook && !isHeld && at.Stage != HireStage.Out)
                            (facts, isProven) = (
                                facts with
                                {
                                    PassedAt = now,
                                    OffTheBenchAt = now,
                                },
                                isProven || facts.School == HireTests.WhenDue
                            );
                        if (it == Event.Fail)
                            (facts, isProven) = (facts with { State = ItemState.Quarantined, OffTheBenchAt = now }, false);
                        if (it == Event.Repair && isHeld && at.Stage != HireStage.Out)
                            (facts, isProven) = (
                                facts with
                                {
                                    State = ItemState.InService,
                                    TestedAt = now,
                                    PassedAt = now,
                                    OffTheBenchAt = now,
                                },
                                true
                            );
                    }
                },
                iter: 20_000
            );
}
