using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Quarantine;
using Osierwand.Store;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A record taken back decides nothing any more: nothing becomes due later by it, and no hold ends by it that it did not
/// cause.</summary>
public sealed class TakingBackTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly DateOnly Then = new(2026, 1, 10);
    private static readonly ItemStanding Before = Standing(Then, Then, null);
    private static readonly ItemStanding After = Standing(Then.AddYears(1), Then.AddMonths(6), null);

    private static readonly InspectedSince Nothing = new(false, false, "Pass");

    private static ItemStanding Standing(DateOnly? due, DateOnly? look, HeldFor? held) =>
        new(
            held is null ? "InService" : "Quarantined",
            due,
            look,
            12,
            ["because"],
            "Pass",
            due?.AddYears(-1),
            look?.AddYears(-1),
            Held: held
        );

    private static HeldFor Held(Guid cause) => new(cause, "FailedInspection", "loose earth", DateTimeOffset.UnixEpoch, "Ida", "NotSafe");

    [Fact]
    public void What_a_record_decided_goes_back_to_what_stood_before_it()
    {
        var without = After.Without(Before, After, Guid.NewGuid(), Nothing);
        (without.Due, without.VisualDue, without.LastTestedOn, without.State).ShouldBe(
            (Before.Due, Before.VisualDue, Before.LastTestedOn, "InService")
        );
    }

    [Theory]
    [InlineData(20, 10)]
    [InlineData(-20, -20)]
    public void Of_a_date_that_somebody_moved_since_the_earlier_one_stands(int movedBy, int stands)
    {
        var moved = After with { Due = Then.AddDays(movedBy) };
        moved.Without(Before with { Due = Then.AddDays(10) }, After, Guid.NewGuid(), Nothing).Due.ShouldBe(Then.AddDays(stands));
    }

    [Fact]
    public void What_was_never_tested_before_is_due_at_once_again()
    {
        After.Without(Before with { Due = null }, After, Guid.NewGuid(), Nothing).Due.ShouldBeNull();
        (After with { Due = Then.AddDays(3) }).Without(Before with { Due = null }, After, Guid.NewGuid(), Nothing).Due.ShouldBeNull();
    }

    [Fact]
    public void A_later_test_keeps_its_dates_and_a_later_look_its_own_alone()
    {
        var tested = After.Without(Before, After, Guid.NewGuid(), new(true, true, "Pass"));
        (tested.Due, tested.VisualDue).ShouldBe((After.Due, After.VisualDue));
        var looked = (After with { VisualDue = Then.AddMonths(7) }).Without(Before, After, Guid.NewGuid(), new(false, true, "Pass"));
        (looked.Due, looked.VisualDue).ShouldBe((Before.Due, Then.AddMonths(7)));
    }

    [Fact]
    public void A_hold_ends_with_the_record_that_caused_it_and_comes_back_with_the_one_that_ended_it_and_no_other_changes()
    {
        var (record, other) = (Guid.NewGuid(), Held(Guid.NewGuid()));
        var failed = Standing(Then, Then, Held(record));
        failed.Without(Before, failed, record, Nothing).Held.ShouldBeNull();
        // In repair meanwhile: it is the same hold.
        (failed with { State = "InRepair" })
            .Without(Before, failed, record, Nothing)
            .State.ShouldBe("InService");
        After
            .Without(Standing(Then, Then, other), After, record, new(true, true, "Pass"))
            .Held.ShouldBe(other, "only a pass after repair ends it");
        var reported = Standing(Then, Then, other);
        reported.Without(Before, After, record, Nothing).Held.ShouldBe(other);
        reported.Without(Before, failed, record, Nothing).Held.ShouldBe(other);
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
