using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Quarantine;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A record taken back decides nothing any more: nothing becomes due later by it, and no hold ends by it that it did not
/// cause.</summary>
[Collection(TrustHouse.Name)]
public sealed class TakingBackTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>An item's life, made up: what happens to it is known to two sides, the rows of its book and a plain list.</summary>
    private sealed class Life(Random dice)
    {
        private sealed record Deed(Guid Id, string What, DateOnly Day, bool Frees);

        private readonly List<Deed> deeds = [];
        private readonly HashSet<Guid> takenBack = [];
        private readonly List<PastRow> rows = [];
        private DateOnly day = new(2020, 1, 1);

        public ItemStanding Now { get; private set; } = new("InService", null, null, null, [], null, null, null);

        public void Goes()
        {
            day = day.AddDays(1 + dice.Next(200));
            string[] all = ["test", "test", "look", "fail", "knock", "report", "back"];
            var what = all[dice.Next(all.Length)];
            if (what == "back")
                TakesBack();
            else if (!(what is "look" or "report" && Now.Held is not null))
                Happens(new(Guid.NewGuid(), what, day, what == "test" && Now.Held is not null));
        }

        private void Happens(Deed it)
        {
            var before = Now;
            deeds.Add(it);
            Now = After(Now, it);
            if (it.What is "test" or "look" or "fail")
                rows.Add(new(it.Id, true, it.What == "fail" ? Outcome.Fail : Outcome.Pass, it.What != "look", before, Now));
        }

        private void TakesBack()
        {
            var standing = rows.Where(row => row.Stands).ToArray();
            if (standing.Length == 0)
                return;
            var one = standing[dice.Next(standing.Length)];
            takenBack.Add(one.Id);
            rows[rows.IndexOf(one)] = one with { Stands = false };
            var before = Now;
            Now = TakingBack.Replay(rows, Now);
            rows.Add(new(Guid.NewGuid(), false, Outcome.Withdrawn, false, before, Now));
        }

        private static ItemStanding After(ItemStanding it, Deed deed) =>
            deed.What switch
            {
                "test" => it with
                {
                    Due = deed.Day.AddMonths(12),
                    VisualDue = deed.Day.AddMonths(6),
                    IntervalMonths = 12,
                    Because = [$"{deed.Day}"],
                    LastOutcome = "Pass",
                    LastTestedOn = deed.Day,
                    LastLookedOn = deed.Day,
                    State = deed.Frees ? "InService" : it.State,
                    Held = deed.Frees ? null : it.Held,
                },
                "look" => it with { VisualDue = deed.Day.AddMonths(6), LastLookedOn = deed.Day, LastOutcome = "Pass" },
                "fail" => it with
                {
                    State = "Quarantined",
                    Held = Held(deed.Id),
                    LastOutcome = "Fail",
                    LastTestedOn = deed.Day,
                    LastLookedOn = deed.Day,
                },
                "knock" => it with { Due = Sooner(it.Due, deed.Day), VisualDue = Sooner(it.VisualDue, deed.Day) },
                _ => it with { State = "Quarantined", Held = Held(deed.Id) },
            };

        private static DateOnly? Sooner(DateOnly? due, DateOnly day) => due is null || due < day ? due : day;

        /// <summary>As it would stand had nothing that was taken back ever been saved.</summary>
        public ItemStanding WithoutThem() =>
            deeds
                .Where(it => !takenBack.Contains(it.Id))
                .Aggregate(new ItemStanding("InService", null, null, null, [], null, null, null), After);
    }

    private static HeldFor Held(Guid cause) => new(cause, "FailedInspection", "loose earth", DateTimeOffset.UnixEpoch, "Ida", "NotSafe");

    /// <summary>Whatever was done in whatever order, and whatever of it was taken back when: it stands as if that had never been.</summary>
    [Fact]
    public void However_records_are_taken_back_the_item_stands_as_if_they_had_never_been()
    {
        for (var seed = 0; seed < 3_000; seed++)
        {
            var life = new Life(new Random(seed));
            for (var step = 0; step < 14; step++)
            {
                life.Goes();
                var (now, never) = (life.Now, life.WithoutThem());
                var told = $"seed {seed}, step {step}";
                (now.State, now.Held?.Cause).ShouldBe((never.State, never.Held?.Cause), told);
                (now.Due, now.VisualDue, now.IntervalMonths).ShouldBe((never.Due, never.VisualDue, never.IntervalMonths), told);
                (now.LastTestedOn, now.LastLookedOn, now.LastOutcome).ShouldBe(
                    (never.LastTestedOn, never.LastLookedOn, never.LastOutcome),
                    told
                );
            }
        }
    }

    private static Guid IdOf(JsonElement saved) => saved.GetProperty("id").GetGuid();

    private async Task<RegisterItem> Item(Kettle kettle) =>
        await world.InDatabase(db => db.Items.AsNoTracking().SingleAsync(it => it.Id == kettle.Item, Cancel));

    private async Task<(int Status, JsonElement Body)> TakeBack(Guid record, Guid? id = null, string reason = "wrong item")
    {
        using var lead = await world.App.SignedIn("maud");
        return await lead.Post($"/api/v1/inspections/{record}/take-back", new { id = id ?? Guid.NewGuid(), reason });
    }

    [Fact]
    public async Task A_pass_taken_back_moves_no_date_and_sent_twice_it_is_taken_back_once()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var passed = IdOf((await kettle.Save(await kettle.GoodWork())).Body);
        (await Item(kettle)).Due.ShouldNotBeNull();
        var id = Guid.NewGuid();
        var (status, body) = await TakeBack(passed, id);
        status.ShouldBe(200, body.ToString());
        var item = await Item(kettle);
        (item.Due, item.LastTestedOn, item.LastOutcome).ShouldBe((null, null, null));
        var again = await TakeBack(passed, id);
        (again.Status, again.Body.GetProperty("number").GetInt64()).ShouldBe((200, body.GetProperty("number").GetInt64()));
        (await TakeBack(passed, id, "another reason")).Status.ShouldBe(409);
        (await TakeBack(passed)).Body.Text("detail").ShouldBe("It was taken back already.");
        (await TakeBack(id)).Body.Text("detail").ShouldContain("takes another record back");
        (await TakeBack(Guid.NewGuid())).Status.ShouldBe(404);
        (await TakeBack(passed, reason: " ")).Status.ShouldBe(422);
        (await kettle.Client.Post($"/api/v1/inspections/{passed}/take-back", new { id = Guid.NewGuid(), reason = "mine" })).Status.ShouldBe(
            403
        );
        // The record and the one that names it both stay, and the sheet goes on from there.
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_pass_after_repair_taken_back_leaves_the_item_out_of_use_and_its_failure_taken_back_too_puts_it_back()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var failed = IdOf((await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail)).Body);
        var passed = IdOf((await kettle.Save([.. await kettle.GoodWork(), Kettle.Mended()])).Body);
        (await Item(kettle)).State.ShouldBe(ItemState.InService);
        (await TakeBack(passed)).Body.Text("state").ShouldNotBe("inService");
        var item = await Item(kettle);
        (item.HeldCause, item.State == ItemState.InService).ShouldBe((failed, false));
        (await TakeBack(failed)).Body.Text("state").ShouldBe("inService");
        item = await Item(kettle);
        (item.HeldCause, item.Stage, item.State).ShouldBe((null, null, ItemState.InService));
    }

    [Fact]
    public async Task A_failure_taken_back_first_is_not_what_a_later_one_brings_back()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var failed = IdOf((await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail)).Body);
        var passed = IdOf((await kettle.Save([.. await kettle.GoodWork(), Kettle.Mended()])).Body);
        (await TakeBack(failed)).Status.ShouldBe(200);
        (await Item(kettle)).State.ShouldBe(ItemState.InService);
        (await TakeBack(passed)).Status.ShouldBe(200);
        (await Item(kettle)).HeldCause.ShouldBeNull("the failure that it closed counts no more");
    }

    [Fact]
    public async Task A_pass_taken_back_under_a_later_failure_does_not_come_back_with_it()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var passed = IdOf((await kettle.Save(await kettle.GoodWork())).Body);
        var failed = IdOf((await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail)).Body);
        (await TakeBack(passed)).Status.ShouldBe(200);
        (await Item(kettle)).HeldCause.ShouldBe(failed, "it failed all the same");
        (await TakeBack(failed)).Status.ShouldBe(200);
        var item = await Item(kettle);
        (item.State, item.Due, item.LastTestedOn, item.LastOutcome, item.IntervalMonths).ShouldBe(
            (ItemState.InService, null, null, null, null),
            "nothing that stands ever tested it"
        );
    }

    [Fact]
    public async Task A_second_failure_taken_back_does_not_free_what_the_first_one_holds()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var first = IdOf((await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9")), EndKind.Fail)).Body);
        var mended = IdOf((await kettle.Save([.. await kettle.GoodWork(), Kettle.Mended()])).Body);
        var second = IdOf((await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "8")), EndKind.Fail)).Body);
        (await TakeBack(mended)).Status.ShouldBe(200);
        (await Item(kettle)).HeldCause.ShouldBe(second);
        (await TakeBack(second)).Status.ShouldBe(200);
        var item = await Item(kettle);
        (item.State == ItemState.InService, item.HeldCause).ShouldBe((false, first), "its repair was taken back, and it failed");
    }

    [Fact]
    public async Task Tests_taken_back_from_the_first_on_leave_no_date_of_one_that_counts_no_more()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var first = IdOf((await kettle.Save(await kettle.GoodWork())).Body);
        var second = IdOf((await kettle.Save(await kettle.GoodWork())).Body);
        (await TakeBack(first)).Status.ShouldBe(200);
        (await Item(kettle)).Due.ShouldNotBeNull("the second stands");
        (await TakeBack(second)).Status.ShouldBe(200);
        var item = await Item(kettle);
        (item.Due, item.LastTestedOn, item.LastOutcome).ShouldBe((null, null, null));
    }

    [Fact]
    public async Task What_a_user_reported_since_stays_out_of_use()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var passed = IdOf((await kettle.Save(await kettle.GoodWork())).Body);
        var report = Guid.NewGuid();
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item)
                .ExecuteUpdateAsync(
                    it =>
                        it.SetProperty(row => row.State, ItemState.Quarantined)
                            .SetProperty(row => row.HeldCause, (Guid?)report)
                            .SetProperty(row => row.HeldBy, (HeldBy?)HeldBy.UserReport)
                            .SetProperty(row => row.HeldWhy, "sparks")
                            .SetProperty(row => row.HeldFrom, "the cook")
                            .SetProperty(row => row.HeldSince, (DateTimeOffset?)DateTimeOffset.UtcNow)
                            .SetProperty(row => row.Stage, (Stage?)Stage.NotSafe),
                    Cancel
                )
        );
        (await TakeBack(passed)).Status.ShouldBe(200);
        var item = await Item(kettle);
        (item.State, item.HeldCause, item.Due).ShouldBe((ItemState.Quarantined, report, null));
    }

    [Fact]
    public async Task Two_leads_take_it_back_once_and_the_book_holds()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var passed = IdOf((await kettle.Save(await kettle.GoodWork())).Body);
        var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => TakeBack(passed)));
        answers.Count(it => it.Status == 200).ShouldBe(1);
        answers.ShouldAllBe(it => it.Status == 200 || it.Status == 409);
        (await world.InDatabase(db => db.Inspections.CountAsync(it => it.Corrects == passed, Cancel))).ShouldBe(1);
    }
}
