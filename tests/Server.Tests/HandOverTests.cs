using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Records;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A run sheet goes from one bench to another: whole, once, and nobody's reading becomes another's own.</summary>
[Collection(BenchHouse.Name)]
public class HandOverTests(World world)
{
    [Fact]
    public async Task What_was_handed_over_is_taken_once_and_saved_by_the_taker_as_begun_by_the_giver()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var begun = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.05"));
        var sheet = await HandedOver(kettle, begun, "end of my shift");
        var taker = kettle with { Client = await world.App.SignedIn("rufus") };
        var events = await Taken(taker, sheet);
        events.Take(begun.Count).Select(BenchJson.Write).ShouldBe(begun.Select(BenchJson.Write));
        events[^1].ShouldBeOfType<TakenOver>().From.ShouldBe("Ida Fennimore");
        // An answer that got lost on the way is asked for again and is the same; somebody else finds it taken.
        (await Taken(taker, sheet))
            .Select(BenchJson.Write)
            .ShouldBe(events.Select(BenchJson.Write));
        (await Take(kettle, sheet)).Status.ShouldBe(409);

        List<BenchEvent> done = [.. events, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true)];
        var (status, saved) = await taker.Save(done);
        status.ShouldBe(200);
        var record = await world.InDatabase(async db =>
            InspectionRecord.Read((await db.Inspections.FindAsync(saved.GetProperty("id").GetGuid()))!.Record).Value
        );
        record.Technician.Name.ShouldBe("Rufus Oakhanger");
        record.Advice.ShouldContain("Begun by Ida Fennimore, who handed the sheet over.");
        (await Open(taker)).ShouldNotContain(sheet);
        (await Take(taker, sheet)).Status.ShouldBe(409);
    }

    [Fact]
    public async Task Sent_twice_it_waits_once()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var sheet = await HandedOver(kettle, await Kettle.Looked(kettle), "wants another instrument");
        await HandedOver(kettle, await Kettle.Looked(kettle), "wants another instrument", sheet);
        (await Open(kettle)).Count(id => id == sheet).ShouldBe(1);
    }

    [Fact]
    public async Task A_failure_marks_the_item_until_whoever_took_it_ends_it()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var sheet = await HandedOver(kettle, await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9")), "look at this");
        (await kettle.Lay()).Item.LeftFailure.ShouldNotBeNull().Text.ShouldContain("nobody has taken it");
        var taker = kettle with { Client = await world.App.SignedIn("rufus") };
        var events = await Taken(taker, sheet);
        (await kettle.Lay()).Item.LeftFailure.ShouldNotBeNull().Text.ShouldContain("Rufus Oakhanger has it");
        Warning(await taker.Lay(), events).ShouldBeNull("it lies before their eyes");
        Warning(await taker.Lay(), []).ShouldNotBeNull("a sheet of their own hides it from nobody");
        // Leaving the failure out is no way around it, neither by a pass nor by discarding what is left.
        List<BenchEvent> without = [.. events.Where(it => it is not ReadingTaken), .. (await taker.GoodWork()).Skip(1)];
        var (status, body) = await taker.Save(without);
        (status, body.Text("detail")).ShouldBe((422, "Something of what Ida Fennimore handed over is not on this sheet any more."));
        await Discarded(taker, without);
        (await kettle.Lay()).Item.LeftFailure.ShouldNotBeNull();
        (await taker.Save(events, EndKind.Fail)).Status.ShouldBe(200);
        (await kettle.Lay()).Item.LeftFailure.ShouldBeNull();
    }

    [Fact]
    public async Task A_lead_sees_a_failure_that_whoever_took_it_does_not_end_and_takes_it_from_them()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var sheet = await HandedOver(kettle, await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9")), "look at this");
        var harmless = await HandedOver(kettle, await Kettle.Looked(kettle), "end of my shift");
        var gone = kettle with { Client = await world.App.SignedIn("rufus") };
        var left = await Taken(gone, sheet);
        await Taken(gone, harmless);
        (await Take(kettle, sheet)).Status.ShouldBe(409);
        (await Open(kettle)).ShouldNotContain(sheet);

        var lead = kettle with { Client = await world.App.SignedIn("maud") };
        var card = (await lead.Client.Get("/api/v1/bench/handed-over"))
            .EnumerateArray()
            .Single(it => it.GetProperty("itemId").GetGuid() == kettle.Item);
        (card.GetProperty("id").GetGuid(), card.Text("takenBy")).ShouldBe((sheet, "Rufus Oakhanger"));
        var events = await Taken(lead, sheet);
        (await gone.Save(left, EndKind.Fail)).Status.ShouldBe(422, "it is not theirs any more");
        (await lead.Save(events, EndKind.Fail)).Status.ShouldBe(200);
        (await kettle.Lay()).Item.LeftFailure.ShouldBeNull();
    }

    [Fact]
    public async Task Handed_over_from_two_tabs_at_once_it_waits_once_and_neither_breaks()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var events = await Kettle.Looked(kettle);
        var sheet = Guid.NewGuid();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => HandOver(kettle, events, "end of my shift", sheet)));
        answers.ShouldAllBe(answer => answer.Status == 204 || answer.Status == 409);
        answers.ShouldContain(answer => answer.Status == 204);
        (await Open(kettle)).Count(id => id == sheet).ShouldBe(1);
    }

    /// <summary>A sheet that goes from hand to hand ends at each with the next, both or neither.</summary>
    [Fact]
    public async Task Handed_on_it_waits_once_and_keeps_its_failure()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var first = await HandedOver(kettle, await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9")), "look at this");
        var second = kettle with { Client = await world.App.SignedIn("rufus") };
        var next = await HandedOver(second, await Taken(second, first), "and you at this");
        (await Open(kettle)).Where(id => id == first || id == next).ShouldBe([next]);
        (await kettle.Lay()).Item.LeftFailure.ShouldNotBeNull().HandOver.ShouldBe(next);
    }

    private static string? Warning(Ruling ruling, IEnumerable<BenchEvent> events) =>
        new BenchSession(ruling, [.. events]).View().Now.Warning;

    [Fact]
    public async Task Nobody_says_of_a_sheet_that_it_was_handed_to_them_when_it_was_not()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var sheet = await HandedOver(kettle, await Kettle.Looked(kettle), "end of my shift");
        var stranger = kettle with { Client = await world.App.SignedIn("maud") };
        List<BenchEvent> claimed = [.. await stranger.GoodWork(), Claim(sheet, "Ida Fennimore")];
        (await stranger.Save(claimed)).Status.ShouldBe(422);
        List<BenchEvent> invented = [.. await stranger.GoodWork(), Claim(Guid.NewGuid(), "Nobody")];
        (await stranger.Save(invented)).Status.ShouldBe(422);
    }

    [Fact]
    public async Task A_sheet_that_nobody_can_go_on_with_is_left_to_the_leads_review()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var sheet = await HandedOver(kettle, await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9")), "look at this");
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item)
                .ExecuteUpdateAsync(set => set.SetProperty(it => it.State, ItemState.Scrapped), TestContext.Current.CancellationToken)
        );
        var taker = kettle with { Client = await world.App.SignedIn("rufus") };
        (await Discarded(taker, await Taken(taker, sheet))).Body.GetProperty("holdsFailure").GetBoolean().ShouldBeTrue();
        (await Open(taker)).ShouldNotContain(sheet);
        var review = (await (await world.App.SignedIn("maud")).Get("/api/v1/bench/discarded")).EnumerateArray();
        review.ShouldContain(card => card.GetProperty("itemId").GetGuid() == kettle.Item);
    }

    [Theory]
    [InlineData("", 1)]
    [InlineData("end of my shift", 0)]
    public async Task Without_words_or_work_nothing_is_handed_over(string words, int work)
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var events = (await Kettle.Looked(kettle)).Take(work).ToList();
        (await HandOver(kettle, events, words, Guid.NewGuid())).Status.ShouldBe(422);
    }

    private static TakenOver Claim(Guid sheet, string from) =>
        new()
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            HandOver = sheet,
            From = from,
        };

    private static async Task<Guid> HandedOver(Kettle kettle, IReadOnlyList<BenchEvent> events, string words, Guid? id = null)
    {
        var sheet = id ?? Guid.NewGuid();
        (await HandOver(kettle, events, words, sheet)).Status.ShouldBe(204);
        return sheet;
    }

    private static Task<(int Status, JsonElement Body)> HandOver(Kettle kettle, IReadOnlyList<BenchEvent> events, string words, Guid id) =>
        kettle.Client.Post(
            $"/api/v1/bench/{kettle.Item}/hand-over",
            new
            {
                id,
                roundId = kettle.Round,
                events = JsonDocument.Parse(BenchJson.Write(events)).RootElement,
                words,
            }
        );

    private static Task<(int Status, JsonElement Body)> Discarded(Kettle kettle, IReadOnlyList<BenchEvent> events) =>
        kettle.Client.Post(
            $"/api/v1/bench/{kettle.Item}/discard",
            new
            {
                id = Guid.NewGuid(),
                roundId = kettle.Round,
                events = JsonDocument.Parse(BenchJson.Write(events)).RootElement,
                reason = "started by mistake",
            }
        );

    private static Task<(int Status, JsonElement Body)> Take(Kettle kettle, Guid sheet) =>
        kettle.Client.Post($"/api/v1/bench/handed-over/{sheet}/take", new { });

    private static async Task<List<BenchEvent>> Taken(Kettle kettle, Guid sheet)
    {
        var (status, body) = await Take(kettle, sheet);
        status.ShouldBe(200);
        return BenchJson.ReadEvents(body.GetProperty("events").GetRawText()).Value;
    }

    private static async Task<List<Guid>> Open(Kettle kettle) =>
        [.. (await kettle.Client.Get("/api/v1/bench/handed-over")).EnumerateArray().Select(it => it.GetProperty("id").GetGuid())];
}
