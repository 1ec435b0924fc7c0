using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Records;
using Shouldly;

namespace Osierwand.Server.Tests;

public class BenchTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_good_kettle_is_judged_saved_and_dated()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await kettle.GoodWork();
        var (_, judged) = await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/judge", work);
        judged.Text("outcome").ShouldBe("pass");
        judged.GetProperty("entries")[0].Text("margin").ShouldBe("39 % of the limit");

        var (status, saved) = await kettle.Save(work);
        status.ShouldBe(200);
        saved.GetProperty("next").Text("due").ShouldBe(DateOnly.FromDateTime(DateTime.Now).AddMonths(12).ToString("yyyy-MM-dd"));
        var page = await kettle.Client.Get($"/api/v1/register/{kettle.Item}");
        page.GetProperty("history").GetArrayLength().ShouldBe(1);
        page.GetProperty("history")[0].GetProperty("readings").GetArrayLength().ShouldBe(3);
        page.GetProperty("trends").GetArrayLength().ShouldBeGreaterThan(0);
    }

    [Fact]
    public async Task Sending_a_save_twice_stores_it_once()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var (work, id) = (await kettle.GoodWork(), Guid.NewGuid());
        (await kettle.Save(work, id)).Status.ShouldBe(200);
        var again = await kettle.Save(work, id);
        again.Status.ShouldBe(200);
        again.Body.GetProperty("already").GetBoolean().ShouldBeTrue();
        (await kettle.Save(await kettle.Work(Kettle.Read("earthContinuity", "9")), id)).Status.ShouldBe(409);
        (await Count(kettle)).ShouldBe(1);
    }

    [Fact]
    public async Task Two_benches_saving_one_item_at_once_leave_one_record()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await kettle.GoodWork();
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => kettle.Save(work)));
        answers.Count(it => it.Status == 200).ShouldBe(1);
        answers.Where(it => it.Status != 200).ShouldAllBe(it => it.Status == 409 && it.Body.Text("title").Contains("another bench"));
        (await Count(kettle)).ShouldBe(1);
    }

    [Fact]
    public async Task Fault_finding_ends_with_findings_never_with_a_pass_and_moves_nothing()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = new { roundId = kettle.Round, scope = "faultFinding", look = Array.Empty<object>(), entries = new[] { Kettle.Read("insulation", ">299M") } };
        (await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/judge", work)).Body.Text("outcome").ShouldBe("findings");
        var (status, saved) = await kettle.Save(work);
        (status, saved.Text("outcome")).ShouldBe((200, "findings"));
        var page = await kettle.Client.Get($"/api/v1/register/{kettle.Item}");
        page.GetProperty("due").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        page.GetProperty("history")[0].Text("kind").ShouldBe("fault-finding");
        (await kettle.Client.GetAsync(new Uri($"/api/v1/papers/labels/{saved.Text("id")}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(System.Net.HttpStatusCode.Conflict);
        (await kettle.Save(await kettle.GoodWork(), revision: 1)).Status.ShouldBe(200);
    }

    [Fact]
    public async Task A_failed_earth_stops_the_rest_and_quarantines_the_item()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await kettle.Work(Kettle.Read("earthContinuity", "0.9"));
        var (_, judged) = await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/judge", work);
        judged.GetProperty("stopped").EnumerateObject().Select(it => it.Name).ShouldBe(["insulation", "leakage/protectiveConductor", "functional"], ignoreOrder: true);
        (await kettle.Save(work)).Body.Text("outcome").ShouldBe("fail");
        (await kettle.Client.Get($"/api/v1/register/{kettle.Item}")).Text("state").ShouldBe("quarantined");
        (await kettle.Client.Get($"/api/v1/bench/{kettle.Item}?round={kettle.Round}")).Text("scope").ShouldBe("afterRepair");
    }

    [Fact]
    public async Task Half_a_run_sheet_is_refused_and_an_untested_item_stays_due()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await kettle.Work(Kettle.Read("earthContinuity", "0.05"));
        var refused = await kettle.Save(work);
        refused.Status.ShouldBe(422);
        refused.Body.Text("detail").ShouldContain("functional");
        (await kettle.Save(work, notTested: "inUse")).Body.Text("outcome").ShouldBe("notTested");
        var page = await kettle.Client.Get($"/api/v1/register/{kettle.Item}");
        page.GetProperty("due").ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Null);
        page.GetProperty("history")[0].GetProperty("words")[0].GetString().ShouldBe("Not tested: in use");
    }

    [Theory]
    [InlineData("insulation", "20 furlongs", "Try")]
    [InlineData("insulation", "-5", "below nothing")]
    [InlineData("leakage/protectiveConductor", "1,500", "1.500 or 1500")]
    [InlineData("nonsense", "1", "not on the run sheet")]
    public async Task A_garbled_reading_says_why_and_leaves_the_others_judged(string step, string typed, string why)
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var (status, judged) = await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/judge", await kettle.Work(Kettle.Read(step, typed), Kettle.Read("earthContinuity", "0.05")));
        status.ShouldBe(200);
        judged.GetProperty("entries")[0].GetProperty("fault").Text("message").ShouldContain(why);
        judged.GetProperty("entries")[1].Text("status").ShouldBe("pass");
    }

    [Fact]
    public async Task A_saved_record_cannot_be_changed_or_deleted()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        await kettle.Save(await kettle.GoodWork());
        foreach (var sql in new[] { "UPDATE inspections SET outcome = 'Fail'", "DELETE FROM inspections", "TRUNCATE inspections" })
        {
            var refused = await Should.ThrowAsync<PostgresException>(() => world.InDatabase(db => db.Database.ExecuteSqlRawAsync(sql, Cancel)));
            refused.MessageText.ShouldContain("never changed");
        }
    }

    [Fact]
    public async Task Every_book_is_a_whole_chain_also_after_saving_from_many_benches()
    {
        var client = await world.App.SignedIn();
        var kettles = new List<Kettle>();
        for (var i = 0; i < 8; i++) kettles.Add(await Kettle.Register(client));
        await Task.WhenAll(kettles.Select(async kettle => (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200)));
        // One snapshot of both: other tests go on saving.
        var (books, ends) = await world.InDatabase(async db =>
        {
            await using var snapshot = await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, Cancel);
            return (await db.Inspections.OrderBy(it => it.BookNumber).Select(it => new { it.ClientId, it.BookNumber, it.Record, it.Hash }).ToListAsync(Cancel),
                await db.Books.ToDictionaryAsync(it => it.ClientId, Cancel));
        });
        foreach (var book in books.GroupBy(it => it.ClientId))
        {
            RecordChain.FirstBreak(book.Select(it => (it.Record, it.Hash))).ShouldBeNull();
            book.Select(it => it.BookNumber).ShouldBe(Enumerable.Range(1, book.Count()).Select(n => (long)n));
            book.Last().Hash.ShouldBe(ends[book.Key].Hash);
        }
    }

    [Fact]
    public async Task Two_servers_on_one_database_see_the_same_item()
    {
        await using var other = new Host(world.Connection);
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var there = kettle with { Client = await other.SignedIn("rufus") };
        var (id, work) = (Guid.NewGuid(), await kettle.GoodWork());
        (await there.Save(work, id)).Status.ShouldBe(200);
        (await kettle.Save(work, id)).Body.GetProperty("already").GetBoolean().ShouldBeTrue();
    }

    private Task<int> Count(Kettle kettle) => world.InDatabase(db => db.Inspections.CountAsync(it => it.ItemId == kettle.Item, Cancel));
}
