using Osierwand.Core.Bench;
using Osierwand.Core.Quarantine;
using Shouldly;

namespace Osierwand.Core.Tests.Quarantine;

/// <summary>The state table of an item out of use: what may follow what, and that nothing of it leads back into service.</summary>
public sealed class HoldTests
{
    private static readonly DateTimeOffset Since = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    private static readonly HoldCause Cause = new(Guid.NewGuid(), HeldBy.FailedInspection, "Earth: 0.8 above 0.1", Since, "Ida");
    private static readonly MadeSafe Safe = new(MadeUnusable.PlugCut, "the sister of the ward");
    private static readonly SentToRepair Sent = new("workbench");
    private static readonly Repaired Mended = new("loose core", "rewired", null, "Rufus");
    private static readonly Core.Quarantine.Scrapped Gone = new(ScrappedHow.TakenApart, "seen by Maud");
    private static readonly ReturnedUntested Back = new("the owner", QuarantineText.UsualWarning(HeldBy.FailedInspection));
    private static readonly QuarantineAct[] Acts = [Safe, Sent, Mended, Gone, Back];

    private static Hold After(params QuarantineAct[] acts) =>
        acts.Aggregate(
            new Hold(Cause, false, []),
            (hold, act) => hold.With(new(Guid.NewGuid(), Since.AddHours(hold.Acts.Length + 1), "Ida", act)).Value
        );

    /// <summary>A shortest way to every stage.</summary>
    private static Hold At(Stage stage) =>
        stage switch
        {
            Stage.NotSafe => After(),
            Stage.Held => After(Safe),
            Stage.InRepair => After(Safe, Sent),
            Stage.Repaired => After(Safe, Sent, Mended),
            Stage.Returned => After(Safe, Back),
            _ => After(Gone),
        };

    [Theory]
    [InlineData(Stage.NotSafe, "madeSafe>Held, repaired>Repaired, scrapped>Scrapped")]
    [InlineData(Stage.Held, "sentToRepair>InRepair, repaired>Repaired, scrapped>Scrapped, returnedUntested>Returned")]
    [InlineData(Stage.InRepair, "madeSafe>Held, repaired>Repaired, scrapped>Scrapped")]
    [InlineData(Stage.Repaired, "madeSafe>Held, repaired>Repaired, scrapped>Scrapped")]
    [InlineData(Stage.Returned, "madeSafe>Held, scrapped>Scrapped")]
    [InlineData(Stage.Scrapped, "")]
    public void What_may_follow_and_where_it_leads(Stage stage, string follows)
    {
        var hold = At(stage);
        hold.Stage.ShouldBe(stage);
        var led = Acts.Select(act => (Act: act, With: hold.With(new(Guid.NewGuid(), Since.AddDays(1), "Ida", act))))
            .Where(it => it.With.Fault is null)
            .Select(it => $"{Words.Of(Hold.KindOf(it.Act))}>{it.With.Value.Stage}");
        string.Join(", ", led).ShouldBe(follows);
        // What is offered is what is taken, and every refusal has its words.
        hold.May.ShouldBe(
            Acts.Where(act => hold.With(new(Guid.NewGuid(), Since, "Ida", act)).Fault is null).Select(Hold.KindOf),
            ignoreOrder: true
        );
        Enum.GetValues<ActKind>().Select(kind => Hold.Refusal(stage, kind)).OfType<string>().ShouldAllBe(why => why.EndsWith('.'));
        // What is usual may be done; what is to be tested is done with here.
        if (Hold.Usual(stage) is { } usual)
            hold.May.ShouldContain(usual);
        Hold.IsToBeTested(stage).ShouldBe(stage == Stage.Repaired);
    }

    [Fact]
    public void No_way_of_five_acts_leads_back_into_service()
    {
        var ways = new List<Hold> { After() };
        for (var length = 0; length < 5; length++)
            ways =
            [
                .. ways.SelectMany(hold =>
                    Acts.Select(act => hold.With(new(Guid.NewGuid(), Since.AddHours(length), "Ida", act)))
                        .Where(it => it.Fault is null)
                        .Select(it => it.Value)
                ),
            ];
        ways.Count.ShouldBeGreaterThan(50);
        ways.ShouldAllBe(hold => hold.State != ItemState.InService);
    }

    [Fact]
    public void Only_what_was_mended_last_is_the_repair()
    {
        After(Safe, Sent, Mended).Repair.ShouldBe(Mended.Said);
        // Made safe again it is not mended any more, whatever was done before.
        After(Safe, Sent, Mended, Safe).Repair.ShouldBeNull();
        After(Mended, Mended with { Done = "replaced" }).Repair!.Done.ShouldBe("replaced");
    }

    public static TheoryData<QuarantineAct, string> WithoutWords =>
        new()
        {
            { Safe with { Told = " " }, "told" },
            { Mended with { Found = "" }, "found" },
            { Mended with { Done = "" }, "done" },
            { Mended with { RepairedBy = "" }, "repairedBy" },
            { Gone with { Proof = "" }, "proof" },
            { Safe with { Told = new string('x', 501) }, "told" },
            { Safe with { Words = "\u202Eturned" }, "words" },
        };

    [Theory]
    [MemberData(nameof(WithoutWords))]
    public void Without_its_words_nothing_is_done(QuarantineAct act, string place)
    {
        var refused = After().With(new(Guid.NewGuid(), Since, "Ida", act));
        refused.Fault!.Path.ShouldBe(place);
    }

    [Fact]
    public void What_is_hard_wired_is_locked_off_and_what_has_a_plug_is_not()
    {
        Result<Hold> With(bool isHardWired, MadeUnusable how) =>
            new Hold(Cause, isHardWired, []).With(new(Guid.NewGuid(), Since, "Ida", Safe with { How = how }));
        foreach (var isHardWired in new[] { true, false })
        foreach (var how in Enum.GetValues<MadeUnusable>())
            (With(isHardWired, how).Fault is null).ShouldBe(how == MadeUnusable.LockedOff == isHardWired);
        new Hold(Cause, true, []).Ways.ShouldBe([MadeUnusable.LockedOff]);
    }

    [Theory]
    [InlineData("base may part", "26/114", "base may part (recall 26/114)")]
    [InlineData(" base may part ", null, "base may part")]
    [InlineData("", "26/114", null)]
    public void A_recall_says_what_is_wrong_and_its_number(string words, string? reference, string? said)
    {
        var recall = HoldCause.OfRecall(words, reference);
        (recall.Fault is null ? recall.Value : null).ShouldBe(said);
        HoldCause.OfRecall("x", new string('9', 101)).Fault!.Path.ShouldBe("reference");
        HoldCause.OfRecall(new string('x', 501), null).Fault!.Path.ShouldBe("words");
    }

    [Fact]
    public void Each_act_says_what_was_done()
    {
        QuarantineText.Of(Safe).ShouldBe("Made safe: red tag, plug cut off; told the sister of the ward");
        QuarantineText.Of(Mended with { Parts = "plug" }).ShouldBe("Repaired by Rufus: found loose core; rewired; parts: plug");
        QuarantineText.Of(Gone).ShouldBe("Scrapped, taken apart: seen by Maud");
        Acts.ShouldAllBe(act => QuarantineText.Of(act).Length > 0);
        // Nothing failed a test that was only reported or called back.
        QuarantineText.UsualWarning(HeldBy.Recall).ShouldStartWith("It is recalled. It must not be used");
        QuarantineText.UsualWarning(HeldBy.UserReport).ShouldStartWith("It was reported as dangerous.");
    }
}
