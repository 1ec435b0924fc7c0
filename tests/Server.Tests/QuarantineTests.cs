using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Osierwand.Core.Quarantine;
using Osierwand.Core.Records;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Out of use: from a fail to a red tag, repair, test after repair and back; and every way past that.</summary>
[Collection(RegisterHouse.Name)]
public sealed class QuarantineTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly object Safe = new
    {
        kind = "madeSafe",
        how = "plugCut",
        told = "the cook",
    };
    private static readonly object Sent = new { kind = "sentToRepair", to = "workbench" };
    private static readonly object Mended = new
    {
        kind = "repaired",
        found = "loose core",
        done = "rewired",
        repairedBy = "Rufus",
    };
    private static readonly object Gone = new
    {
        kind = "scrapped",
        how = "flexCutOff",
        proof = "seen by the cook",
    };
    private static readonly object Back = new
    {
        kind = "returnedUntested",
        to = "the owner",
        warning = "not for use",
    };

    private async Task<Kettle> FailedAsync()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var events = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9"));
        (await kettle.Save(events, EndKind.Fail)).Status.ShouldBe(200);
        return kettle;
    }

    private static Task<JsonElement> Story(Kettle kettle) => kettle.Client.Get($"/api/v1/quarantine/{kettle.Item}");

    private static async Task<(int Status, JsonElement Body)> Do(Kettle kettle, object act, Guid? id = null, Guid? cause = null) =>
        await kettle.Client.Post(
            $"/api/v1/quarantine/{kettle.Item}/acts",
            new
            {
                id = id ?? Guid.NewGuid(),
                cause = cause ?? (await Story(kettle)).GetProperty("cause").GetGuid(),
                act,
            }
        );

    private async Task<(string State, string? Stage, Guid? Cause)> Stands(Kettle kettle) =>
        await world.InDatabase(async db =>
        {
            var it = await db.Items.AsNoTracking().SingleAsync(item => item.Id == kettle.Item, Cancel);
            return (it.State.ToString(), it.Stage?.ToString(), it.HeldCause);
        });

    [Fact]
    public async Task From_a_fail_over_repair_to_a_passed_test_that_closes_it()
    {
        var kettle = await FailedAsync();
        (await Stands(kettle)).ShouldSatisfyAllConditions(it => it.State.ShouldBe("Quarantined"), it => it.Stage.ShouldBe("NotSafe"));
        foreach (
            var (act, stage, state) in new[]
            {
                (Safe, "held", "Quarantined"),
                (Sent, "inRepair", "InRepair"),
                (Mended, "repaired", "InRepair"),
            }
        )
        {
            var (status, body) = await Do(kettle, act);
            status.ShouldBe(200, body.ToString());
            body.Text("stage").ShouldBe(stage);
            (await Stands(kettle)).State.ShouldBe(state);
        }
        var ruling = await kettle.Lay();
        ruling.Scope.ShouldBe(Scope.AfterRepair);
        ruling.Item.Held!.Repair.ShouldBe(new("loose core", "rewired", null, "Rufus"));
        ruling.Item.Held.Words.ShouldContain("Earth continuity");
        var (saved, answer) = await kettle.Save(await kettle.GoodWork());
        saved.ShouldBe(200, answer.ToString());
        (await Stands(kettle)).ShouldBe(("InService", null, null));
        // Back in service its story is still told.
        (await kettle.Page())
            .GetProperty("acts")
            .GetArrayLength()
            .ShouldBe(3);
        (await kettle.Page()).GetProperty("history")[0].GetProperty("words").ToString().ShouldContain("Closes the failure of");
        var failed = (await kettle.Page()).GetProperty("history")[1].GetProperty("id").GetGuid();
        var record = await world.InDatabase(db =>
            db.Inspections.Where(it => it.ItemId == kettle.Item)
                .OrderByDescending(it => it.BookNumber)
                .Select(it => it.Record)
                .FirstAsync(Cancel)
        );
        InspectionRecord.Read(record).Value.Closes!.Cause.ShouldBe(failed);
        (await kettle.Client.GetAsync(new Uri($"/api/v1/quarantine/{kettle.Item}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NoContent
        );
    }

    [Fact]
    public async Task Mended_on_the_spot_it_is_told_at_the_bench_and_stands_in_the_story()
    {
        var kettle = await FailedAsync();
        var work = await kettle.GoodWork();
        var (refused, why) = await kettle.Save(work);
        refused.ShouldBe(422);
        why.Text("detail").ShouldContain("say what was found and mended");
        (await kettle.Save([.. work, Kettle.Mended()])).Status.ShouldBe(200);
        (await Stands(kettle)).State.ShouldBe("InService");
        (await world.InDatabase(db => db.QuarantineActs.SingleAsync(it => it.ItemId == kettle.Item, Cancel))).Act.ShouldContain(
            "loose core"
        );
    }

    [Fact]
    public async Task Told_at_a_bench_that_tests_nothing_it_stands_as_repaired_and_the_board_goes_on()
    {
        var kettle = await FailedAsync();
        await Do(kettle, Safe);
        (
            await kettle.Save(await Kettle.Looked(kettle, Kettle.Mended()), EndKind.NotTested, notTested: NotTestedReason.InUse)
        ).Status.ShouldBe(200);
        (await Stands(kettle)).Stage.ShouldBe("Repaired");
        // It is no dead end: what may be done next is done.
        (await Do(kettle, Safe)).Status.ShouldBe(200);
        (await Do(kettle, Sent)).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_second_failure_that_is_taken_back_leaves_the_first_as_far_as_it_is()
    {
        var kettle = await FailedAsync();
        await Do(kettle, Safe);
        var first = (await Stands(kettle)).Cause;
        var again = await Kettle.Looked(kettle, Kettle.Mended(), Kettle.Typed("earthContinuity", "8"));
        (await kettle.Save(again, EndKind.Fail)).Status.ShouldBe(200);
        var failed = (await kettle.Page()).GetProperty("history")[0].GetProperty("id").GetGuid();
        (
            await kettle.Client.Post($"/api/v1/bench/inspections/{failed}/withdraw", new { id = Guid.NewGuid(), reason = "clip was off" })
        ).Status.ShouldBe(200);
        (await Stands(kettle)).ShouldBe(("InRepair", "Repaired", first));
        (await Do(kettle, Safe)).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_second_failure_begins_anew_and_what_was_meant_for_the_first_is_refused()
    {
        var kettle = await FailedAsync();
        var first = (await Story(kettle)).GetProperty("cause").GetGuid();
        await Do(kettle, Safe);
        await Do(kettle, Mended);
        var events = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "8"));
        (await kettle.Save(events, EndKind.Fail)).Status.ShouldBe(200);
        (await Stands(kettle)).Stage.ShouldBe("NotSafe");
        var (status, body) = await Do(kettle, Safe, cause: first);
        status.ShouldBe(409);
        body.Text("detail").ShouldContain("failed again");
    }

    [Fact]
    public async Task Sent_twice_it_is_done_once_and_out_of_order_it_is_refused()
    {
        var kettle = await FailedAsync();
        (await Do(kettle, Sent)).Status.ShouldBe(422);
        (await Do(kettle, Back)).Status.ShouldBe(422);
        (
            await Do(
                kettle,
                new
                {
                    kind = "madeSafe",
                    how = "plugCut",
                    told = "",
                }
            )
        ).Status.ShouldBe(422);
        var id = Guid.NewGuid();
        (await Do(kettle, Safe, id)).Status.ShouldBe(200);
        (await Do(kettle, Safe, id)).Status.ShouldBe(200);
        (await Story(kettle)).GetProperty("acts").GetArrayLength().ShouldBe(1);
        (
            await Do(
                kettle,
                new
                {
                    kind = "scrapped",
                    how = "takenApart",
                    proof = "seen",
                    photo = Guid.NewGuid(),
                }
            )
        ).Body.ToString().ShouldContain("photo");
        (await Do(kettle, Back)).Status.ShouldBe(200);
        (await Stands(kettle)).State.ShouldBe("Quarantined");
        (await Do(kettle, Gone)).Status.ShouldBe(200);
        (await Stands(kettle)).State.ShouldBe("Scrapped");
        (await Do(kettle, Safe)).Status.ShouldBe(422);
    }

    [Fact]
    public async Task Two_that_act_at_once_do_it_once()
    {
        var kettle = await FailedAsync();
        var cause = (await Story(kettle)).GetProperty("cause").GetGuid();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => Do(kettle, Safe, cause: cause)));
        answers.Count(it => it.Status == 200).ShouldBe(1);
        answers.Where(it => it.Status != 200).ShouldAllBe(it => it.Status == 409 || it.Status == 422);
        (await Story(kettle)).GetProperty("acts").GetArrayLength().ShouldBe(1);
    }

    [Fact]
    public async Task A_fail_that_is_taken_back_leaves_no_hold()
    {
        var kettle = await FailedAsync();
        var failed = (await kettle.Page()).GetProperty("history")[0].GetProperty("id").GetGuid();
        var (status, body) = await kettle.Client.Post(
            $"/api/v1/bench/inspections/{failed}/withdraw",
            new { id = Guid.NewGuid(), reason = "the wrong kettle" }
        );
        status.ShouldBe(200, body.ToString());
        (await Stands(kettle)).ShouldBe(("InService", null, null));
    }

    [Fact]
    public async Task The_board_has_it_in_its_pile_with_its_age_and_a_viewer_sees_their_own_alone()
    {
        var kettle = await FailedAsync();
        await Do(kettle, Safe);
        var board = await kettle.Client.Get("/api/v1/quarantine");
        var held = board.GetProperty("piles").EnumerateArray().Single(it => it.Text("stage") == "held");
        var card = held.GetProperty("cards").EnumerateArray().Single(it => it.GetProperty("itemId").GetGuid() == kettle.Item);
        card.GetProperty("days").GetInt32().ShouldBe(0);
        card.Text("lastDone").ShouldContain("told the cook");
        held.GetProperty("total").GetInt32().ShouldBeGreaterThanOrEqualTo(held.GetProperty("cards").GetArrayLength());
        var viewer = await world.App.SignedIn("wilf");
        (await viewer.Get("/api/v1/quarantine"))
            .GetProperty("piles")
            .EnumerateArray()
            .SelectMany(it => it.GetProperty("cards").EnumerateArray())
            .ShouldAllBe(it => it.Text("client").StartsWith("Sorrel Valley"));
    }

    [Fact]
    public async Task Its_notice_says_not_to_use_it_why_and_what_was_done_and_there_is_none_of_what_is_in_service()
    {
        var kettle = await FailedAsync();
        async Task<string> Page() =>
            await kettle.Client.GetStringAsync(new Uri($"/api/v1/papers/quarantine/{kettle.Item}", UriKind.Relative), Cancel);
        (await Page()).ShouldContain("Nothing keeps it from being used yet");
        await Do(kettle, Safe);
        await Do(
            kettle,
            new
            {
                kind = "returnedUntested",
                to = "the owner",
                warning = "Not <b>ever</b> for use",
            }
        );
        var page = await Page();
        page.ShouldContain("Earth continuity");
        page.ShouldContain("told the cook");
        page.ShouldContain("Not &lt;b&gt;ever&lt;/b&gt; for use");
        page.ShouldContain($"record {(await kettle.Page()).GetProperty("history")[0].GetProperty("bookNumber").GetInt64()}");
        var pdf = await kettle.Client.GetByteArrayAsync(
            new Uri($"/api/v1/papers/quarantine/{kettle.Item}?format=pdf", UriKind.Relative),
            Cancel
        );
        using var document = UglyToad.PdfPig.PdfDocument.Open(pdf);
        document.NumberOfPages.ShouldBe(1);
        document.GetPage(1).Text.Replace(" ", "", StringComparison.Ordinal).ShouldContain("Donotuseit");
        var good = await Kettle.Register(kettle.Client);
        (await good.Client.GetAsync(new Uri($"/api/v1/papers/quarantine/{good.Item}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Conflict
        );
    }

    [Fact]
    public async Task A_recall_takes_the_model_out_of_use_and_leaves_what_was_out_already_to_its_own_reason()
    {
        var lead = await world.App.SignedIn("maud");
        var (failed, other, third) = (await FailedAsync(), await Kettle.Register(lead), await Kettle.Register(lead));
        var model = $"R {Guid.NewGuid():N}"[..12];
        foreach (var (it, serial) in new[] { (failed, "A1"), (other, "A2"), (third, "A3") })
            await world.InDatabase(db =>
                db.Items.Where(item => item.Id == it.Item)
                    .ExecuteUpdateAsync(
                        set =>
                            set.SetProperty(item => item.Maker, "Hob & Ember")
                                .SetProperty(item => item.Model, model)
                                .SetProperty(item => item.Serial, serial),
                        Cancel
                    )
            );
        object Recall(Guid id, params string[] serials) =>
            new
            {
                id,
                maker = "hob & ember",
                model,
                serials,
                words = "base may part",
                reference = "26/114",
            };
        var first = Guid.NewGuid();
        var (status, body) = await lead.Post("/api/v1/quarantine/recall", Recall(first, "a2", "Z9"));
        status.ShouldBe(200, body.ToString());
        body.GetProperty("tags")[0].GetString().ShouldBe(other.Tag);
        body.GetProperty("unknown")[0].GetString().ShouldBe("z9");
        (await Story(other)).Text("why").ShouldBe("base may part (recall 26/114)");
        var before = await Stands(failed);
        (await lead.Post("/api/v1/quarantine/recall", Recall(Guid.NewGuid()))).Body.GetProperty("heldBefore").GetInt32().ShouldBe(2);
        (await Stands(failed)).ShouldBe(before);
        (await Stands(third)).State.ShouldBe("Quarantined");
        // Sent again it tells the same, and takes nothing anew.
        (await lead.Post("/api/v1/quarantine/recall", Recall(first, "a2")))
            .Body.GetProperty("tags")
            .GetArrayLength()
            .ShouldBe(1);
        (await (await world.App.SignedIn()).Post("/api/v1/quarantine/recall", Recall(first))).Status.ShouldBe(403);
        (
            await lead.Post(
                "/api/v1/quarantine/recall",
                new
                {
                    id = first,
                    maker = "x",
                    model = "none",
                    serials = Array.Empty<string>(),
                    words = "w",
                    reference = "",
                }
            )
        ).Status.ShouldBe(422);
        (await other.Lay()).Scope.ShouldBe(Scope.AfterRepair);
    }
}
