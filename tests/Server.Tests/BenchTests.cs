using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Store;
using Shouldly;

namespace Osierwand.Server.Tests;

[Collection(BenchHouse.Name)]
public class BenchTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_good_kettle_is_judged_saved_and_dated()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await kettle.GoodWork();
        var (_, answer) = await kettle.Client.Post(
            $"/api/v1/bench/{kettle.Item}/view",
            new { roundId = kettle.Round, events = JsonDocument.Parse(BenchJson.Write(work)).RootElement }
        );
        var now = answer.GetProperty("view").GetProperty("now");
        now.Text("outcome").ShouldBe("pass");
        now.GetProperty("readings")[0].Text("margin").ShouldBe("39 % of the limit");

        var (status, saved) = await kettle.Save(work);
        status.ShouldBe(200);
        saved.GetProperty("next").Text("due").ShouldBe(DateOnly.FromDateTime(DateTime.Now).AddMonths(12).ToString("yyyy-MM-dd"));
        var page = await kettle.Page();
        page.GetProperty("history").GetArrayLength().ShouldBe(1);
        page.GetProperty("history")[0].GetProperty("readings").GetArrayLength().ShouldBe(3);
        page.GetProperty("trends").GetArrayLength().ShouldBeGreaterThan(0);
    }

    [Fact]
    public async Task Sending_a_save_twice_stores_it_once()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var (work, id, ruling) = (await kettle.GoodWork(), Guid.NewGuid(), await kettle.Lay());
        (await kettle.Save(work, id: id, ruling: ruling)).Status.ShouldBe(200);
        var again = await kettle.Save(work, id: id, ruling: ruling);
        again.Status.ShouldBe(200);
        again.Body.GetProperty("already").GetBoolean().ShouldBeTrue();
        var other = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "9"));
        (await kettle.Save(other, EndKind.Fail, id)).Body.Text("conflict").ShouldBe("id");
        (await Count(kettle)).ShouldBe(1);
    }

    [Fact]
    public async Task Two_benches_saving_one_item_at_once_leave_one_record_and_the_other_is_laid_anew()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var (work, ruling) = (await kettle.GoodWork(), await kettle.Lay());
        var answers = await Task.WhenAll(Enumerable.Range(0, 6).Select(_ => kettle.Save(work, ruling: ruling)));
        answers.Count(it => it.Status == 200).ShouldBe(1);
        answers.Where(it => it.Status != 200).ShouldAllBe(it => it.Status == 409 && it.Body.Text("conflict") == "ruling");
        (await Count(kettle)).ShouldBe(1);
        // The way on: laid anew by what holds now, it is saved.
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
    }

    [Fact]
    public async Task Fault_finding_ends_with_findings_never_with_a_pass_and_moves_nothing()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        BenchEvent[] work =
        [
            new ScopeChosen
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Scope = Scope.FaultFinding,
            },
            Kettle.Typed("insulation", ">500M"),
        ];
        (await kettle.Save(work)).Status.ShouldBe(422);
        var (status, saved) = await kettle.Save(work, EndKind.Findings);
        (status, saved.Text("outcome")).ShouldBe((200, "findings"));
        var page = await kettle.Page();
        page.GetProperty("due").ValueKind.ShouldBe(JsonValueKind.Null);
        page.GetProperty("history")[0].Text("kind").ShouldBe("fault-finding");
        (await kettle.Client.GetAsync(new Uri($"/api/v1/papers/labels/{saved.Text("id")}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Conflict
        );
    }

    [Fact]
    public async Task A_failed_item_is_quarantined_and_freed_by_nothing_lighter_than_a_test_after_repair()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var bad = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9"));
        (await kettle.Save(bad, EndKind.NotTested, notTested: NotTestedReason.InUse)).Body.Text("detail").ShouldContain("failed");
        (await kettle.Save(bad, EndKind.Pass)).Status.ShouldBe(422);
        (await kettle.Save(bad, EndKind.Fail)).Body.Text("outcome").ShouldBe("fail");
        (await kettle.Page()).Text("state").ShouldBe("quarantined");

        foreach (var scope in new[] { Scope.FormalVisual, Scope.NewItem, Scope.Combined })
        {
            List<BenchEvent> lighter =
            [
                new ScopeChosen
                {
                    Id = Guid.NewGuid(),
                    At = DateTimeOffset.UtcNow,
                    Scope = scope,
                },
                .. await Kettle.Looked(kettle, Kettle.Answer("functional", true)),
            ];
            (await kettle.Save(lighter)).Status.ShouldBe(422, $"{scope}");
        }
        (await kettle.Page()).Text("state").ShouldBe("quarantined");
        (await kettle.Save([.. await kettle.GoodWork(), Kettle.Mended()])).Status.ShouldBe(200);
        (await kettle.Page()).Text("state").ShouldBe("inService");
    }

    [Fact]
    public async Task A_formal_visual_moves_the_date_of_the_look_alone_and_is_labelled_so()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        await kettle.Save(await kettle.GoodWork());
        var due = (await kettle.Page()).Text("due");
        List<BenchEvent> look =
        [
            new ScopeChosen
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Scope = Scope.FormalVisual,
            },
            .. await Kettle.Looked(kettle, Kettle.Answer("functional", true)),
        ];
        var (status, saved) = await kettle.Save(look);
        (status, saved.GetProperty("isTest").GetBoolean()).ShouldBe((200, false));
        var page = await kettle.Page();
        page.Text("due").ShouldBe(due);
        page.GetProperty("history")[0].Text("kind").ShouldBe("formal visual");
        (await kettle.Lay()).Basis.Past.Length.ShouldBe(1, "a look is not counted among the tests");
        var pdf = await kettle.Client.GetByteArrayAsync(new Uri($"/api/v1/papers/labels/{saved.Text("id")}", UriKind.Relative), Cancel);
        using var label = UglyToad.PdfPig.PdfDocument.Open(pdf);
        string.Concat(label.GetPage(1).Letters.Select(letter => letter.Value)).ShouldContain("VISUAL");
    }

    [Fact]
    public async Task Half_a_run_sheet_is_refused_and_an_untested_item_stays_due()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.05"));
        var refused = await kettle.Save(work);
        refused.Status.ShouldBe(422);
        refused.Body.Text("detail").ShouldContain("functional");
        (await kettle.Save(work, EndKind.NotTested, notTested: NotTestedReason.NotFound)).Body.Text("detail").ShouldContain("it was found");
        (await kettle.Save(work, EndKind.NotTested, notTested: NotTestedReason.InUse)).Body.Text("outcome").ShouldBe("notTested");
        var page = await kettle.Page();
        page.GetProperty("due").ValueKind.ShouldBe(JsonValueKind.Null);
        page.GetProperty("history")[0].GetProperty("words")[0].GetString().ShouldBe("Not tested: In use");
    }

    [Theory]
    [InlineData("insulation", "20 furlongs", "Try")]
    [InlineData("insulation", "-5", "below nothing")]
    [InlineData("leakage/protectiveConductor", "1,500", "1.500 or 1500")]
    [InlineData("nonsense", "1", "not on the run sheet")]
    public async Task A_garbled_reading_says_why_and_leaves_the_others_judged(string step, string typed, string why)
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        BenchEvent[] work = [Kettle.Typed(step, typed), Kettle.Typed("earthContinuity", "0.05")];
        var (status, answer) = await kettle.Client.Post(
            $"/api/v1/bench/{kettle.Item}/view",
            new
            {
                roundId = kettle.Round,
                events = JsonDocument.Parse(BenchJson.Write(work)).RootElement,
                trial = new { step, text = typed },
            }
        );
        status.ShouldBe(200);
        answer.Text("trialFault").ShouldContain(why);
        var readings = answer.GetProperty("view").GetProperty("now").GetProperty("readings");
        readings[0].Text("fault").ShouldContain(why);
        readings[1].Text("status").ShouldBe("pass");
    }

    [Fact]
    public async Task What_only_the_server_knows_is_never_taken_from_the_page()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var forged = new ReadingTaken
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Step = "earthContinuity",
            Source = ReadingSource.Instrument,
            Number = 5.05,
            Unit = "ohm",
            NullOhm = 5,
            Seal = "bm90IGEgc2VhbA==",
        };
        var work = await Kettle.Looked(kettle, forged, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true));
        var refused = await kettle.Save(work);
        (refused.Status, refused.Body.Text("conflict")).ShouldBe((409, "unproved"));
        // The way on: it counts as typed, and then 5.05 ohm is what it is.
        work.Add(
            new Unproved
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Target = forged.Id,
            }
        );
        (await kettle.Save(work)).Status.ShouldBe(422);
        (await kettle.Save(work, EndKind.Fail)).Status.ShouldBe(200);
        // Neither is a state that the server does not compute itself.
        var other = await Kettle.Register(kettle.Client);
        (await other.Save(await other.GoodWork(), state: "0123456789abcdef")).Body.Text("conflict").ShouldBe("state");
        (await Count(other)).ShouldBe(0);
    }

    [Fact]
    public async Task A_fail_is_taken_back_within_its_minute_by_a_correcting_record()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        await kettle.Save(await kettle.GoodWork());
        var due = (await kettle.Page()).Text("due");
        var (_, saved) = await kettle.Save(await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9")), EndKind.Fail);
        saved.GetProperty("withdrawUntil").ValueKind.ShouldBe(JsonValueKind.String);
        var stranger = kettle with { Client = await world.App.SignedIn("rufus") };
        var path = $"/api/v1/bench/inspections/{saved.Text("id")}/withdraw";
        (await stranger.Client.Post(path, new { id = Guid.NewGuid(), reason = "clip was off" })).Status.ShouldBe(404);
        (await kettle.Client.Post(path, new { id = Guid.NewGuid(), reason = " " })).Status.ShouldBe(422);
        var taken = new { id = Guid.NewGuid(), reason = "clip was off" };
        (await kettle.Client.Post(path, taken)).Status.ShouldBe(200);
        (await kettle.Client.Post(path, taken)).Body.GetProperty("already").GetBoolean().ShouldBeTrue();
        var page = await kettle.Page();
        (page.Text("state"), page.Text("due")).ShouldBe(("inService", due));
        page.GetProperty("history").GetArrayLength().ShouldBe(3);
        page.GetProperty("history")[1].GetProperty("isTakenBack").GetBoolean().ShouldBeTrue();
        (await kettle.Lay()).Basis.Past.Length.ShouldBe(1, "what was taken back counts for nothing");
    }

    [Fact]
    public async Task Discarding_a_failure_hides_nothing()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var work = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9"));
        object Sent(string reason) =>
            new
            {
                id = Guid.NewGuid(),
                roundId = kettle.Round,
                events = JsonDocument.Parse(BenchJson.Write(work)).RootElement,
                reason,
            };
        (await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/discard", Sent(""))).Status.ShouldBe(422);
        var (status, answer) = await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/discard", Sent("wrong item"));
        (status, answer.GetProperty("holdsFailure").GetBoolean()).ShouldBe((200, true));
        (await kettle.Lay()).Item.LeftFailure.ShouldNotBeNull().Text.ShouldContain("wrong item");
        (await kettle.Client.GetAsync(new Uri("/api/v1/bench/discarded", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Forbidden
        );
        var lead = await world.App.SignedIn("maud");
        var card = (await lead.Get("/api/v1/bench/discarded"))
            .EnumerateArray()
            .Single(it => it.GetProperty("itemId").GetGuid() == kettle.Item);
        card.GetProperty("failures")[0].GetString().ShouldNotBeNull().ShouldContain("Earth continuity");
        (await lead.Post($"/api/v1/bench/discarded/{card.Text("id")}/seen", new { })).Status.ShouldBe(204);
        (await kettle.Lay()).Item.LeftFailure.ShouldBeNull();
    }

    [Fact]
    public async Task Facts_are_corrected_and_what_they_were_is_kept()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var change = new FactsChanged
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Reason = "measured",
            Changes = new() { FlexLengthM = 3 },
        };
        (await kettle.Save([change, .. await kettle.GoodWork()])).Status.ShouldBe(200);
        var page = await kettle.Page();
        page.GetProperty("changes")[0].GetProperty("lines")[0].GetString().ShouldBe("Flex length, m: 1.5 → 3");
        var revision = page.GetProperty("revision").GetInt32();
        var path = $"/api/v1/register/{kettle.Item}/facts";
        (
            await kettle.Client.Post(
                path,
                new
                {
                    revision,
                    changes = new { plugFuseA = -1 },
                    reason = "typo",
                }
            )
        ).Body.Text("detail").ShouldContain("above 0");
        (
            await kettle.Client.Post(
                path,
                new
                {
                    revision,
                    changes = new { plugFuseA = 5 },
                    reason = "read off the fuse",
                }
            )
        ).Status.ShouldBe(204);
        (
            await kettle.Client.Post(
                path,
                new
                {
                    revision,
                    changes = new { plugFuseA = 3 },
                    reason = "late",
                }
            )
        ).Status.ShouldBe(409);
        (await kettle.Page()).GetProperty("changes").GetArrayLength().ShouldBe(2);
    }

    [Fact]
    public async Task House_limits_hold_on_every_server_at_once_and_for_borrowed_standards_too()
    {
        await using var other = new Host(world.Connection);
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var there = kettle with { Client = await other.SignedIn("rufus") };
        await there.Lay();
        var lead = await world.App.SignedIn("maud");
        using var set = await lead.PutAsJsonAsync(
            new Uri("/api/v1/standards/as-nzs-3760-2022/house/leakage-I", UriKind.Relative),
            new
            {
                value = 4,
                unit = "mA",
                reason = "wet decks",
            },
            Cancel
        );
        set.StatusCode.ShouldBe(System.Net.HttpStatusCode.OK, await set.Content.ReadAsStringAsync(Cancel));
        var (here, far) = (await kettle.Lay(), await there.Lay());
        far.House.ShouldContain(house => house.PackId == "as-nzs-3760-2022");
        // Who works and what they have in hand are theirs; all else is the same on every server.
        BenchJson.Write(far with { Technician = here.Technician, Kit = here.Kit, Outlets = here.Outlets }).ShouldBe(BenchJson.Write(here));
    }

    [Fact]
    public async Task A_medical_device_is_never_judged_by_the_appliances_standard()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var device = new Core.Equipment.Item { Kind = Core.Equipment.ItemKind.MedicalDevice };
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item).ExecuteUpdateAsync(set => set.SetProperty(it => it.Equipment, device), Cancel)
        );
        using var answer = await kettle.Client.GetAsync(
            new Uri($"/api/v1/bench/{kettle.Item}?round={kettle.Round}", UriKind.Relative),
            Cancel
        );
        answer.StatusCode.ShouldBe(System.Net.HttpStatusCode.UnprocessableEntity);
        (await answer.Content.ReadAsStringAsync(Cancel)).ShouldContain("no standard for medical devices");
    }

    [Theory]
    [InlineData(true)]
    [InlineData(false)]
    public async Task Nothing_is_saved_into_a_closed_round_or_for_a_scrapped_item(bool isRound)
    {
        var lead = await world.App.SignedIn("maud");
        var code = $"C{Random.Shared.Next(1_000_000, 9_999_999)}";
        var (_, opened) = await lead.Post(
            "/api/v1/rounds",
            new
            {
                clientCode = code,
                clientName = "Closing",
                site = "Barn",
                name = "Visit",
                standardId = "uk-cop-5",
                medicalStandardId = (string?)null,
                endsOn = DateOnly.FromDateTime(DateTime.Now).AddDays(7),
            }
        );
        var round = opened.GetProperty("id").GetGuid();
        var (_, made) = await lead.Post("/api/v1/register", Kettle.New(round, "1"));
        var kettle = new Kettle(lead, made.GetProperty("itemId").GetGuid(), round, "1");
        var (work, ruling) = (await kettle.GoodWork(), await kettle.Lay());
        await world.InDatabase(db =>
            isRound
                ? db
                    .Rounds.Where(it => it.Id == round)
                    .ExecuteUpdateAsync(set => set.SetProperty(it => it.ClosedOn, DateOnly.FromDateTime(DateTime.Now)), Cancel)
                : db
                    .Items.Where(it => it.Id == kettle.Item)
                    .ExecuteUpdateAsync(set => set.SetProperty(it => it.State, ItemState.Scrapped), Cancel)
        );
        (await kettle.Save(work, ruling: ruling)).Status.ShouldBe(422);
        (await Count(kettle)).ShouldBe(0);
    }

    [Fact]
    public async Task A_saved_record_cannot_be_changed_or_deleted()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        await kettle.Save(await kettle.GoodWork());
        foreach (var sql in new[] { "UPDATE inspections SET outcome = 'Fail'", "DELETE FROM inspections", "TRUNCATE inspections CASCADE" })
        {
            // A superuser's hand would have to take a trigger away first; the server's own role has not even the right to try.
            var mayNot = await Should.ThrowAsync<PostgresException>(() =>
                world.InDatabase(db => db.Database.ExecuteSqlRawAsync(sql, Cancel))
            );
            mayNot.SqlState.ShouldBe(PostgresErrorCodes.InsufficientPrivilege);
            var refused = await Should.ThrowAsync<PostgresException>(() => world.AsAdmin(sql));
            refused.MessageText.ShouldContain("never changed");
        }
    }

    [Fact]
    public async Task Every_book_is_a_whole_chain_also_after_saving_from_many_benches()
    {
        var client = await world.App.SignedIn();
        var kettles = new List<Kettle>();
        for (var i = 0; i < 8; i++)
            kettles.Add(await Kettle.Register(client));
        await Task.WhenAll(kettles.Select(async kettle => (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200)));
        // One snapshot of both: other tests go on saving.
        var (books, ends) = await world.InDatabase(async db =>
        {
            await using var snapshot = await db.Database.BeginTransactionAsync(System.Data.IsolationLevel.RepeatableRead, Cancel);
            return (
                await db.Inspections.AsNoTracking().OrderBy(it => it.BookNumber).ToListAsync(Cancel),
                await db.Books.ToDictionaryAsync(it => it.ClientId, Cancel)
            );
        });
        foreach (var book in books.GroupBy(it => it.ClientId))
        {
            var walk = BookWalk.FromStart();
            book.Select(it => walk.Take(it.Kept())).ShouldAllBe(what => what == null);
            book.Select(it => it.BookNumber).ShouldBe(Enumerable.Range(1, book.Count()).Select(n => (long)n));
            book.Last().Hash.ShouldBe(ends[book.Key].Hash);
        }
    }

    [Fact]
    public async Task Two_servers_on_one_database_see_the_same_item()
    {
        await using var other = new Host(world.Connection);
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var there = kettle with { Client = await other.SignedIn() };
        var (id, work, ruling) = (Guid.NewGuid(), await kettle.GoodWork(), await kettle.Lay());
        (await there.Save(work, id: id, ruling: ruling)).Status.ShouldBe(200);
        (await kettle.Save(work, id: id, ruling: ruling)).Body.GetProperty("already").GetBoolean().ShouldBeTrue();
    }

    private Task<int> Count(Kettle kettle) => world.InDatabase(db => db.Inspections.CountAsync(it => it.ItemId == kettle.Item, Cancel));

    /// <summary>References are kept with the item; gathered from the records they are the same, and what is taken back gives them
    /// back.</summary>
    [Fact]
    public async Task References_outlive_the_history_come_back_from_the_records_and_from_a_withdrawal()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        var kept = await kettle.Lay();
        // The second earth reading is no reference, and a bound of insulation is none at all.
        var reference = kept.References.ShouldHaveSingleItem().Readings.ShouldHaveSingleItem();
        reference.Test.ShouldBe(Core.Standards.Test.EarthContinuity);
        reference.Value.ShouldNotBeNull().Number.ShouldBe(0.05);

        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item)
                .ExecuteUpdateAsync(set => set.SetProperty(it => it.ReferenceValues, (string?)null), Cancel)
        );
        (await kettle.Lay()).Fingerprint.ShouldBe(kept.Fingerprint, "gathered from every record they are the same");

        var (status, failed) = await kettle.Save(
            await Kettle.Looked(kettle, Kettle.Typed("leakage/protectiveConductor", "4.9mA")),
            EndKind.Fail
        );
        status.ShouldBe(200);
        (await kettle.Lay()).References.Length.ShouldBe(2, "a decided current is the first of its kind");
        var back = await kettle.Client.Post(
            $"/api/v1/bench/inspections/{failed.Text("id")}/withdraw",
            new { id = Guid.NewGuid(), reason = "wrong item" }
        );
        back.Status.ShouldBe(200);
        (await kettle.Lay()).References.Length.ShouldBe(1);
    }
}
