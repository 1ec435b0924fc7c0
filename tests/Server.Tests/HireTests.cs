using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Store.Entities;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Hire items from one issue to the next, against the database: nothing leaves that was not found good since it came
/// back.</summary>
[Collection(RegisterHouse.Name)]
public sealed class HireTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly object Back = new { kind = "returned" };
    private static readonly object Whole = new { kind = "lookedAt", seen = "good" };
    private static readonly object Cut = new { kind = "lookedAt", seen = "flex" };
    private static readonly object Laid = new { kind = "laid" };

    private static object Out(string to = "Contract 1", string? backBy = null) =>
        new
        {
            kind = "issued",
            to,
            backBy,
        };

    private static async Task<Kettle> HiredAsync(HttpClient client) => await Kettle.Register(client, name: "Hired kettle", place: "hire");

    private static async Task<Guid> PassedAsync(Kettle kettle)
    {
        var (status, body) = await kettle.Save(await kettle.GoodWork());
        status.ShouldBe(200, body.ToString());
        return body.GetProperty("id").GetGuid();
    }

    private static Task<(int Status, JsonElement Body)> Move(Kettle kettle, object move, Guid? id = null) =>
        kettle.Client.Post($"/api/v1/hire/{kettle.Item}/moves", new { id = id ?? Guid.NewGuid(), move });

    private static async Task<(string Stage, string Why)> AtAsync(Kettle kettle)
    {
        var item = (await kettle.Client.Get($"/api/v1/hire/{kettle.Item}")).GetProperty("item");
        return (item.GetProperty("stage").GetString()!, item.GetProperty("why").GetString()!);
    }

    private static async Task Done(Kettle kettle, params object[] moves)
    {
        foreach (var move in moves)
        {
            var (status, body) = await Move(kettle, move);
            status.ShouldBe(200, body.ToString());
        }
    }

    private static string Detail((int Status, JsonElement Body) refused) => refused.Body.GetProperty("detail").GetString()!;

    [Fact]
    public async Task It_goes_the_whole_way_and_leaves_only_when_it_was_tested_since_it_came_back()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        (await AtAsync(kettle)).ShouldBe(("forTheBench", "never tested"));
        Detail(await Move(kettle, Out())).ShouldBe("It is not ready: never tested.");
        await PassedAsync(kettle);
        (await AtAsync(kettle)).Stage.ShouldBe("ready");
        await Done(kettle, Out("Contract 7", "2026-01-01"));
        (await AtAsync(kettle)).ShouldBe(("out", "with Contract 7, due back 1 Jan 2026"));

        var bench = await kettle.Client.GetAsync(new Uri($"/api/v1/bench/{kettle.Item}?round={kettle.Round}", UriKind.Relative), Cancel);
        var told = await bench.Content.ReadAsStringAsync(Cancel);
        ((int)bench.StatusCode).ShouldBe(422);
        told.ShouldContain("By the register it is out, with Contract 7");
        told.ShouldContain("\"hire\"");

        await Done(kettle, Back);
        (await AtAsync(kettle)).Stage.ShouldBe("returned");
        await Done(kettle, Whole);
        (await AtAsync(kettle)).ShouldBe(("forTheBench", "not tested since it came back"));
        await Done(kettle, Laid);
        (await AtAsync(kettle)).Stage.ShouldBe("onTheBench");
        (await Move(kettle, Out())).Status.ShouldBe(409);
        var record = await PassedAsync(kettle);
        (await AtAsync(kettle)).Stage.ShouldBe("ready");

        using var lead = await world.App.SignedIn("maud");
        (
            await lead.Post($"/api/v1/inspections/{record}/take-back", new { id = Guid.NewGuid(), reason = "it was another" })
        ).Status.ShouldBe(200);
        (await AtAsync(kettle)).Stage.ShouldBe("forTheBench", "the test that made it ready counts no more");
    }

    [Fact]
    public async Task What_came_back_bad_is_out_of_use_at_once_and_comes_back_only_by_a_test_after_repair()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await Done(kettle, Out());
        var (status, moved) = await Move(kettle, Cut);
        status.ShouldBe(200, moved.ToString());
        moved.GetProperty("isOutOfUse").GetBoolean().ShouldBeTrue();
        moved.GetProperty("said").GetString().ShouldBe("Out of use: flex or lead damaged. Red tag on it, and away from the pile");
        (await AtAsync(kettle)).Stage.ShouldBe("repair");
        var hold = await kettle.Client.Get($"/api/v1/quarantine/{kettle.Item}");
        (hold.GetProperty("stage").GetString(), hold.GetProperty("by").GetString()).ShouldBe(("notSafe", "seen on its return"));
        Detail(await Move(kettle, Whole)).ShouldStartWith("It is out of use");
        Detail(await Move(kettle, Out())).ShouldStartWith("It is not ready: out of use");
        // Of a device that is held the bench knows one scope alone.
        var (saved, body) = await kettle.Save([Kettle.Mended(), .. await kettle.GoodWork()]);
        saved.ShouldBe(200, body.ToString());
        (await AtAsync(kettle)).Stage.ShouldBe("ready");
    }

    [Fact]
    public async Task What_a_customer_reports_as_dangerous_is_called_back()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await Done(kettle, Out("Contract 9"));
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item)
                .ExecuteUpdateAsync(
                    row =>
                        row.SetProperty(it => it.State, ItemState.Quarantined)
                            .SetProperty(it => it.HeldCause, (Guid?)Guid.NewGuid())
                            .SetProperty(it => it.HeldBy, (Core.Quarantine.HeldBy?)Core.Quarantine.HeldBy.UserReport)
                            .SetProperty(it => it.HeldSince, (DateTimeOffset?)DateTimeOffset.UtcNow)
                            .SetProperty(it => it.Stage, (Core.Quarantine.Stage?)Core.Quarantine.Stage.NotSafe),
                    Cancel
                )
        );
        var fleet = await kettle.Client.Get("/api/v1/hire?client=LMR");
        var called = fleet
            .GetProperty("callBack")
            .GetProperty("items")
            .EnumerateArray()
            .Single(it => it.GetProperty("itemId").GetGuid() == kettle.Item);
        called.GetProperty("callBack").GetString().ShouldBe("Contract 9 has it, and it must not be used");
        (await Move(kettle, Whole)).Status.ShouldBe(409);
        await Done(kettle, Back);
        (await AtAsync(kettle)).Stage.ShouldBe("repair");
    }

    [Fact]
    public async Task A_scan_sent_twice_happens_once_and_two_counters_do_not_issue_one_item()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        var id = Guid.NewGuid();
        (await Move(kettle, Out("Contract 1"), id)).Status.ShouldBe(200);
        (await Move(kettle, Out("Contract 1"), id)).Status.ShouldBe(200);
        (await Move(kettle, Out("Contract 2"), id)).Status.ShouldBe(409, "another move under the same number");
        (await world.InDatabase(db => db.HireMoves.CountAsync(it => it.ItemId == kettle.Item, Cancel))).ShouldBe(1);

        var other = await HiredAsync(kettle.Client);
        await PassedAsync(other);
        (await Move(other, Out(), id)).Status.ShouldBe(409, "the number is another item's");
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(n => Move(other, Out($"Contract {n}"))));
        answers.Count(it => it.Status == 200).ShouldBe(1, string.Join(" ", answers.Select(it => it.Status)));
        answers.ShouldAllBe(it => it.Status == 200 || it.Status == 409);
        (await world.InDatabase(db => db.HireMoves.CountAsync(it => it.ItemId == other.Item, Cancel))).ShouldBe(1);
    }

    /// <summary>It was ready when it was looked up, and is taken out of use before the issue is kept.</summary>
    [Fact]
    public async Task What_is_taken_out_of_use_at_the_moment_of_its_issue_is_not_issued()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await world.InDatabase(async db =>
        {
            await using var recall = await db.Database.BeginTransactionAsync(Cancel);
            await db
                .Items.Where(it => it.Id == kettle.Item)
                .ExecuteUpdateAsync(
                    row => row.SetProperty(it => it.State, ItemState.Quarantined).SetProperty(it => it.Revision, it => it.Revision + 1),
                    Cancel
                );
            var issue = Move(kettle, Out());
            (await Task.WhenAny(issue, Task.Delay(700, Cancel))).ShouldNotBe(issue, "it waits for who holds the item");
            await recall.CommitAsync(Cancel);
            Detail(await issue).ShouldBe($"{kettle.Tag} was inspected or taken out of use just now. Scan it again.");
            return 0;
        });
        (await world.InDatabase(db => db.HireMoves.CountAsync(it => it.ItemId == kettle.Item, Cancel))).ShouldBe(0);
    }

    [Fact]
    public async Task What_waits_for_somebodys_decision_is_not_ready()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await world.InDatabase(db =>
        {
            db.UserChecks.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    ItemId = kettle.Item,
                    At = DateTimeOffset.UtcNow,
                    Report = Core.Looking.UserReport.Damaged,
                    Words = "the lid is loose",
                }
            );
            return db.SaveChangesAsync(Cancel);
        });
        (await AtAsync(kettle)).ShouldBe(("forTheBench", "a user reported: the lid is loose"));
    }

    [Fact]
    public async Task What_a_report_took_out_of_use_is_decided_by_its_test_after_repair()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await world.InDatabase(db =>
        {
            db.UserChecks.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    ItemId = kettle.Item,
                    At = DateTimeOffset.UtcNow,
                    Report = Core.Looking.UserReport.Dangerous,
                    Words = "it sparks",
                    TookOutOfUse = true,
                }
            );
            return db.SaveChangesAsync(Cancel);
        });
        (await AtAsync(kettle)).Stage.ShouldBe("ready", "back in service since, and nobody has to say so twice");
    }

    [Fact]
    public async Task What_an_instrument_failed_and_nobody_saved_keeps_it_on_the_bench_for_whoever_asks()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        (await AtAsync(kettle)).Stage.ShouldBe("ready");
        await world.InDatabase(db =>
        {
            db.MeasuredFailures.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    ItemId = kettle.Item,
                    RoundId = kettle.Round,
                    At = DateTimeOffset.UtcNow,
                    Day = new(2026, 3, 2),
                    Person = "Tom",
                    Step = "earthContinuity",
                    Name = "Earth continuity",
                    Value = "12.3 Ω",
                }
            );
            return db.SaveChangesAsync(Cancel);
        });
        (await AtAsync(kettle)).ShouldBe(("forTheBench", "a run sheet with a failure was left"));
        (await Move(kettle, Out())).Status.ShouldBe(409);
        var (_, _, owner) = await SessionTests.Newcomer(world.App, "viewer");
        (await AtAsync(kettle with { Client = owner })).Stage.ShouldBe("forTheBench");
        owner.Dispose();
    }

    [Fact]
    public async Task A_sheet_discarded_takes_it_off_the_bench_and_a_failure_on_it_keeps_it_there()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await Done(kettle, Laid);
        (await Move(kettle, Out())).Status.ShouldBe(409);
        async Task Discard(params BenchEvent[] events)
        {
            var sent = new
            {
                id = Guid.NewGuid(),
                roundId = kettle.Round,
                events = JsonDocument.Parse(BenchJson.Write(await Kettle.Looked(kettle, events))).RootElement,
                reason = "called away",
            };
            (await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/discard", sent)).Status.ShouldBeLessThan(300);
        }
        await Discard();
        (await AtAsync(kettle)).Stage.ShouldBe("ready");
        await Done(kettle, Laid);
        await Discard(Kettle.Typed("earthContinuity", "9"));
        (await AtAsync(kettle)).ShouldBe(("forTheBench", "a run sheet with a failure was left"));

        // Its owner is told the same: never that it is ready where the house knows better.
        var (_, _, owner) = await SessionTests.Newcomer(world.App, "viewer");
        (await AtAsync(kettle with { Client = owner })).ShouldBe(("forTheBench", "a run sheet with a failure was left"));
        owner.Dispose();
    }

    [Fact]
    public async Task Its_owner_sees_the_fleet_and_moves_nothing_and_nobody_else_sees_it()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        await Done(kettle, Out("Contract 11"));
        var (_, _, owner) = await SessionTests.Newcomer(world.App, "viewer");
        var seen = kettle with { Client = owner };
        (await AtAsync(seen)).ShouldBe(("out", "with Contract 11"));
        (await owner.Get($"/api/v1/hire/{kettle.Item}")).GetProperty("moves").GetArrayLength().ShouldBe(1);
        (await owner.Get("/api/v1/hire/fleets")).EnumerateArray().Select(it => it.Text("code")).ShouldBe(["LMR"]);
        (await owner.Get("/api/v1/hire/items?client=LMR&stage=out"))
            .GetProperty("items")
            .EnumerateArray()
            .ShouldContain(it => it.GetProperty("itemId").GetGuid() == kettle.Item);
        (await Move(seen, Back)).Status.ShouldBe(403);
        (await owner.GetAsync(new Uri("/api/v1/hire?client=MTH", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NotFound
        );
        owner.Dispose();

        using var foreign = await world.App.SignedIn("wilf");
        (await foreign.GetAsync(new Uri($"/api/v1/hire/{kettle.Item}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NotFound
        );
        (await foreign.Get("/api/v1/hire/fleets")).GetArrayLength().ShouldBe(0);
    }

    [Fact]
    public async Task A_lead_chooses_the_school_of_a_fleet_with_a_reason()
    {
        using var lead = await world.App.SignedIn("maud");
        using var ida = await world.App.SignedIn();
        const string Path = "/api/v1/hire/clients/KRD/school";
        var chosen = new { school = "whenDue", reason = "AS/NZS 3760" };
        (await ida.Put(Path, chosen)).Status.ShouldBe(403);
        (await lead.Put(Path, new { school = "whenDue", reason = " " })).Status.ShouldBe(422);
        (await lead.Put("/api/v1/hire/clients/NOBODY/school", chosen)).Status.ShouldBe(404);
        (await lead.Put(Path, chosen)).Status.ShouldBe(204);
        (await world.InDatabase(db => db.Clients.SingleAsync(it => it.Code == "KRD", Cancel))).HireTests.ShouldBe(
            Core.Hire.HireTests.WhenDue
        );
        (await world.InDatabase(db => db.AuditEntries.AnyAsync(it => it.What == "tests of a hire fleet chosen", Cancel))).ShouldBeTrue();
    }

    [Fact]
    public async Task A_scan_tells_what_is_in_the_hand_and_refuses_what_is_of_no_fleet()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        var card = await kettle.Client.Get($"/api/v1/hire/scan?client=LMR&tag={kettle.Tag.ToLowerInvariant()}");
        card.GetProperty("item").GetProperty("tag").GetString().ShouldBe(kettle.Tag);
        card.TryGetProperty("whyNoIssue", out var no).ShouldBeTrue();
        no.ValueKind.ShouldBe(JsonValueKind.Null);
        card.GetProperty("lookAt").GetArrayLength().ShouldBeGreaterThan(3);
        var inKitchen = await Kettle.Register(kettle.Client);
        foreach (
            var (tag, status) in new[]
            {
                ("NO-SUCH-TAG", 404),
                (inKitchen.Tag, 404),
                ("", 422),
                (new string('9', 41), 422),
                ("a\u0001b", 422),
            }
        )
        {
            var answer = await kettle.Client.GetAsync(
                new Uri($"/api/v1/hire/scan?client=LMR&tag={Uri.EscapeDataString(tag)}", UriKind.Relative),
                Cancel
            );
            ((int)answer.StatusCode).ShouldBe(status, tag);
        }
        var nothing = await kettle.Client.GetAsync(new Uri($"/api/v1/hire/{inKitchen.Item}", UriKind.Relative), Cancel);
        ((int)nothing.StatusCode).ShouldBe(204);
        (await Move(inKitchen, Back)).Status.ShouldBe(404);
    }

    [Fact]
    public async Task Words_are_checked_and_moves_are_never_edited()
    {
        var kettle = await HiredAsync(await world.App.SignedIn());
        await PassedAsync(kettle);
        foreach (var bad in new[] { Out(" "), Out(new string('x', 201)), Out("a\u0000b"), new { kind = "lookedAt", seen = "other" } })
            (await Move(kettle, bad)).Status.ShouldBeOneOf(400, 422);
        (await Move(kettle, new { kind = "thrown" })).Status.ShouldBe(400);
        (await Move(kettle, new { kind = "lookedAt", seen = "fine" })).Status.ShouldBe(400);
        await Done(kettle, Out("Größe & <b>Söhne</b>"));
        (await AtAsync(kettle)).Why.ShouldBe("with Größe & <b>Söhne</b>");
        await Should.ThrowAsync<PostgresException>(() =>
            world.InDatabase(db =>
                db.HireMoves.Where(it => it.ItemId == kettle.Item).ExecuteUpdateAsync(row => row.SetProperty(it => it.By, "nobody"), Cancel)
            )
        );
    }

    [Fact]
    public async Task The_card_for_the_pile_holds_every_code()
    {
        using var client = await world.App.SignedIn();
        var page = await client.GetStringAsync("/api/v1/papers/verdict-card", Cancel);
        foreach (var verdict in Core.Hire.HireVerdict.All)
            page.ShouldContain(verdict.Text);
        (page.Split("<svg").Length - 1).ShouldBe(Core.Hire.HireVerdict.All.Length);
        (await client.GetStringAsync("/api/v1/hire/codes/LOOK-1", Cancel)).ShouldContain("<svg");
        ((int)(await client.GetAsync(new Uri("/api/v1/hire/codes/LOOK-8", UriKind.Relative), Cancel)).StatusCode).ShouldBe(404);
    }
}
