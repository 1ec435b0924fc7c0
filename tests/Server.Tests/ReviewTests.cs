using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A lead looks at what asks for it, and signs; nothing is signed unseen.</summary>
[Collection(RoundHouse.Name)]
public sealed class ReviewTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>One failed, one passed, one not tested, one left out; walked.</summary>
    private async Task<(Planned Round, Guid Failed)> WalkedAsync()
    {
        var it = await Planned.OpenAsync(world);
        var failed = await it.FailAsync(0);
        await it.PassAsync(1);
        (await it.Kettle(2).Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await it.To("review")).Status.ShouldBe(204);
        return (it, failed);
    }

    private static JsonElement RecordOf(JsonElement review, Guid id) =>
        review.GetProperty("records").EnumerateArray().Single(it => it.GetProperty("id").GetGuid() == id);

    [Fact]
    public async Task A_failure_is_looked_at_before_anybody_signs_and_signing_closes_the_round()
    {
        var (it, failed) = await WalkedAsync();
        var review = await it.Review();
        review.GetProperty("records")[0].GetProperty("id").GetGuid().ShouldBe(failed, "the gravest first");
        RecordOf(review, failed).GetProperty("mustBeSeen").GetBoolean().ShouldBeTrue();
        RecordOf(review, failed).GetProperty("findings")[0].Text("reason").ShouldBe("failed");
        review.Text("whyNot").ShouldBe("One record has to be looked at first.");
        (await it.Sign()).Status.ShouldBe(422);

        (await it.Do($"review/records/{failed}", new { words = "plug cut, seen by myself" })).Status.ShouldBe(204);
        (await it.Do($"review/records/{failed}", new { words = "another word" })).Status.ShouldBe(204, "looking twice is looking once");
        RecordOf(await it.Review(), failed).GetProperty("seen").Text("words").ShouldBe("plug cut, seen by myself");

        var (status, signed) = await it.Sign("all as agreed");
        status.ShouldBe(200, signed.ToString());
        signed.Text("state").ShouldBe("closed");
        signed.GetProperty("signature").Text("words").ShouldBe("all as agreed");
        signed.GetProperty("signature").GetProperty("records").GetInt32().ShouldBe(3);
        (await it.Page()).Text("state").ShouldBe("closed");
        (await it.Sign()).Body.Text("detail").ShouldBe("It is closed.");
        var own = await it.Lead.Get($"/api/v1/rounds/{it.Round}/review");
        own.GetProperty("signature").GetProperty("isOwnWork").GetBoolean().ShouldBeTrue("the lead walked it as well, and it is said");
    }

    [Fact]
    public async Task What_came_in_since_the_page_was_read_is_not_signed_unseen()
    {
        var (it, failed) = await WalkedAsync();
        await it.Do($"review/records/{failed}", new { words = "" });
        var read = await it.Review();
        var (records, last) = (read.GetProperty("total").GetInt32(), read.GetProperty("lastNumber").GetInt64());
        (await it.Do("review/signature", new { records = records - 1, lastNumber = last })).Status.ShouldBe(409);
        (await it.Do("review/signature", new { records, lastNumber = last - 1 })).Status.ShouldBe(409);
        (
            await it.Do(
                "review/signature",
                new
                {
                    records,
                    lastNumber = last,
                    words = new string('x', 501),
                }
            )
        ).Status.ShouldBe(422);
        (await it.Do("review/signature", new { records, lastNumber = last })).Status.ShouldBe(200);
    }

    [Fact]
    public async Task Of_two_leads_who_sign_at_once_one_signs()
    {
        var (it, failed) = await WalkedAsync();
        await it.Do($"review/records/{failed}", new { words = "" });
        var answers = await Task.WhenAll(Enumerable.Range(0, 4).Select(_ => it.Sign()));
        answers.Count(answer => answer.Status == 200).ShouldBe(1, string.Join(' ', answers.Select(answer => answer.Status)));
        answers.ShouldAllBe(answer => answer.Status == 200 || answer.Status == 422 || answer.Status == 409);
        (await world.InDatabase(db => db.RoundSignatures.CountAsync(row => row.RoundId == it.Round, Cancel))).ShouldBe(1);
    }

    [Fact]
    public async Task A_record_of_another_round_is_no_record_of_this_one_and_a_look_has_a_length()
    {
        var (it, failed) = await WalkedAsync();
        var (other, _) = await WalkedAsync();
        (await other.Do($"review/records/{failed}", new { words = "" })).Status.ShouldBe(404);
        (await it.Do($"review/records/{failed}", new { words = new string('x', 501) })).Status.ShouldBe(422);
        (await it.Do($"review/records/{failed}", new { words = (string?)null })).Status.ShouldBe(400);
        RecordOf(await it.Review(), failed).TryGetProperty("seen", out var seen).ShouldBeTrue();
        seen.ValueKind.ShouldBe(JsonValueKind.Null);
    }

    [Fact]
    public async Task A_record_that_is_taken_back_leaves_its_item_to_do_and_the_round_unsigned()
    {
        var (it, failed) = await WalkedAsync();
        (
            await it.Lead.Post(
                $"/api/v1/bench/inspections/{failed}/withdraw",
                new { id = Guid.NewGuid(), reason = "it was another kettle" }
            )
        ).Status.ShouldBe(200);
        var review = await it.Review();
        RecordOf(review, failed).GetProperty("findings")[0].Text("reason").ShouldBe("takenBack");
        RecordOf(review, failed).GetProperty("findings")[0].Text("text").ShouldContain("it was another kettle");
        review.Text("whyNot").ShouldStartWith("One item is neither done");
    }

    [Fact]
    public async Task A_look_and_a_signature_cannot_be_written_over()
    {
        var (it, failed) = await WalkedAsync();
        await it.Do($"review/records/{failed}", new { words = "seen" });
        (await it.Sign()).Status.ShouldBe(200);
        await Should.ThrowAsync<Exception>(() =>
            world.InDatabase(db =>
                db.RoundSignatures.Where(row => row.RoundId == it.Round)
                    .ExecuteUpdateAsync(row => row.SetProperty(one => one.By, "somebody else"), Cancel)
            )
        );
        await Should.ThrowAsync<Exception>(() =>
            world.InDatabase(db => db.ReviewedRecords.Where(row => row.InspectionId == failed).ExecuteDeleteAsync(Cancel))
        );
    }
}
