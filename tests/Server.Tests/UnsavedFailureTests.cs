using System.Net;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Simulator;
using Osierwand.Store;
using Shouldly;
using static Osierwand.Server.Tests.HubTests;

namespace Osierwand.Server.Tests;

/// <summary>A failure that the server measured is not forgotten by a fresh sheet on another device.</summary>
[Collection(InstrumentHouse.Name)]
public sealed class UnsavedFailureTests(HubBench bench) : IClassFixture<HubBench>, IAsyncLifetime
{
    private const string Earth = "earthContinuity";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => await bench.ComeToRest();

    public ValueTask DisposeAsync() => ValueTask.CompletedTask;

    /// <summary>The instrument finds its earth open; nobody saves it.</summary>
    private async Task<(Kettle Kettle, ReadingTaken Failed, List<BenchEvent> Work)> Failed()
    {
        var kettle = await Kettle.Register(await bench.App.SignedIn());
        await Order(new("fault", Tag: kettle.Tag, Fault: Fault.OpenEarth));
        await using var line = await Line(bench.App);
        var looked = await Kettle.Looked(kettle);
        var failed = await Measured(line, await Asked(kettle, looked, Earth));
        return (kettle, failed, [.. looked, failed]);
    }

    private async Task Order(ControlOrder order)
    {
        using var hands = await SimulatedHands.ConnectAsync("127.0.0.1", bench.ControlPort, Cancel);
        await hands.OrderAsync(order, Cancel);
    }

    private static async Task<List<BenchEvent>> TypedGood(Kettle kettle) =>
        await Kettle.Looked(kettle, Kettle.Typed(Earth, "0.02"), Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true));

    [Fact]
    public async Task It_stands_on_a_fresh_sheet_whatever_is_typed_there_and_the_fail_settles_it()
    {
        var (kettle, failed, work) = await Failed();
        var fresh = await kettle.Lay();
        fresh.UnsavedFailures.ShouldHaveSingleItem().Id.ShouldBe(failed.Id);
        fresh.UnsavedFailures[0].By.ShouldBe(fresh.Technician.Name);
        (await kettle.Page()).Text("leftFailure").ShouldContain("Earth continuity");
        var typed = await TypedGood(kettle);
        var refused = await kettle.Save(typed);
        (refused.Status, refused.Body.Text("detail")).ShouldSatisfyAllConditions(
            it => it.Status.ShouldBe(422),
            it => it.Item2.ShouldContain("Measure it again with the instrument")
        );
        // A page that was laid before it was measured shows a pass, and is told that it is out of date.
        var unaware = fresh with
        {
            UnsavedFailures = [],
        };
        var outdated = await kettle.Save(typed, state: BenchState.Of(unaware, typed).Fingerprint);
        (outdated.Status, outdated.Body.Text("conflict")).ShouldBe((409, "state"));
        (await kettle.Save(work, EndKind.Fail)).Status.ShouldBe(200);
        (await kettle.Lay()).UnsavedFailures.ShouldBeEmpty();
    }

    [Fact]
    public async Task Measured_again_by_an_instrument_it_passes_with_advice_and_is_settled()
    {
        var (kettle, _, _) = await Failed();
        await Order(new("mend", Tag: kettle.Tag));
        await using var line = await Line(bench.App);
        var looked = await Kettle.Looked(kettle);
        var again = await Measured(line, await Asked(kettle, looked, Earth));
        List<BenchEvent> work = [.. looked, again, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true)];
        var (status, saved) = await kettle.Save(work);
        status.ShouldBe(200, saved.ToString());
        saved.Text("outcome").ShouldBe("passWithAdvice");
        (await kettle.Lay()).UnsavedFailures.ShouldBeEmpty();
    }

    [Fact]
    public async Task A_lead_explains_it_in_words_and_nobody_else_does()
    {
        var (kettle, failed, _) = await Failed();
        var path = $"/api/v1/bench/unsaved-failures/{failed.Id}/explain";
        (await kettle.Client.Post(path, new { words = "clip" })).Status.ShouldBe((int)HttpStatusCode.Forbidden);
        var lead = await bench.App.SignedIn("maud");
        var card = (await lead.Get("/api/v1/bench/unsaved-failures"))
            .GetProperty("failures")
            .EnumerateArray()
            .Single(it => it.GetProperty("id").GetGuid() == failed.Id);
        (card.Text("tag"), card.Text("text").Contains("was not saved", StringComparison.Ordinal)).ShouldBe((kettle.Tag, true));
        (await lead.Post(path, new { words = " " })).Status.ShouldBe(422);
        (await lead.Post(path, new { words = new string('x', 501) })).Status.ShouldBe(422);
        (await lead.Post(path, new { words = "measured on the wrong item" })).Status.ShouldBe(204);
        (await lead.Post(path, new { words = "once more" })).Status.ShouldBe(404);
        (await kettle.Lay()).UnsavedFailures.ShouldBeEmpty();
        var (status, saved) = await kettle.Save(await TypedGood(kettle));
        (status, saved.Text("outcome")).ShouldBe((200, "pass"));
    }

    [Fact]
    public async Task A_discarded_sheet_explains_it_once_a_lead_has_seen_it()
    {
        var (kettle, failed, work) = await Failed();
        var sent = new
        {
            id = Guid.NewGuid(),
            roundId = kettle.Round,
            events = System.Text.Json.JsonDocument.Parse(BenchJson.Write(work)).RootElement,
            reason = "wrong item",
        };
        (await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/discard", sent)).Status.ShouldBe(200);
        (await kettle.Save(await TypedGood(kettle))).Status.ShouldBe(422);
        var lead = await bench.App.SignedIn("maud");
        (await lead.Get("/api/v1/bench/unsaved-failures"))
            .GetProperty("failures")
            .EnumerateArray()
            .ShouldNotContain(it => it.GetProperty("id").GetGuid() == failed.Id, "it is seen with its sheet");
        (await lead.Post($"/api/v1/bench/discarded/{sent.id}/seen", new { })).Status.ShouldBe(204);
        (await kettle.Save(await TypedGood(kettle))).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_fail_that_is_taken_back_settles_nothing_any_more()
    {
        var (kettle, failed, work) = await Failed();
        var id = Guid.NewGuid();
        (await kettle.Save(work, EndKind.Fail, id)).Status.ShouldBe(200);
        var taken = new { id = Guid.NewGuid(), reason = "clip was off" };
        (await kettle.Client.Post($"/api/v1/bench/inspections/{id}/withdraw", taken)).Status.ShouldBe(200);
        (await kettle.Lay()).UnsavedFailures.ShouldHaveSingleItem().Id.ShouldBe(failed.Id);
        (await kettle.Save(await TypedGood(kettle))).Status.ShouldBe(422);
    }

    [Fact]
    public async Task Its_class_corrected_on_its_page_meanwhile_asks_for_the_lead_and_the_mark()
    {
        var (kettle, failed, work) = await Failed();
        var page = await kettle.Page();
        var corrected = await kettle.Client.Post(
            $"/api/v1/register/{kettle.Item}/facts",
            new
            {
                revision = page.GetProperty("revision").GetInt32(),
                changes = new { evidence = "squareWithinSquare" },
                reason = "was entered wrong",
            }
        );
        corrected.Status.ShouldBe(204);
        List<BenchEvent> rest =
        [
            .. work,
            .. (await Kettle.Looked(kettle)),
            Kettle.Typed("insulation", ">500M"),
            Kettle.Answer("functional", true),
        ];
        var (status, refused) = await kettle.Save(rest);
        (status, refused.Text("detail")).ShouldSatisfyAllConditions(
            it => it.status.ShouldBe(422),
            it => it.Item2.ShouldContain("before the facts were corrected")
        );
        failed.Seal.ShouldNotBeNull();
    }

    [Fact]
    public async Task What_failed_and_what_became_of_it_is_written_once()
    {
        var (_, failed, _) = await Failed();
        await using var scope = bench.App.Services.CreateAsyncScope();
        var db = scope.ServiceProvider.GetRequiredService<OsierwandDb>();
        await Should.ThrowAsync<Npgsql.PostgresException>(() => db.Database.ExecuteSqlAsync($"TRUNCATE settled_failures", Cancel));
        await Should.ThrowAsync<Npgsql.PostgresException>(() =>
            db.Database.ExecuteSqlAsync($"DELETE FROM measured_failures WHERE id = {failed.Id}", Cancel)
        );
    }
}
