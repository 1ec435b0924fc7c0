using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Hosting;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Records;
using Shouldly;

namespace Osierwand.Server.Tests;

[Collection(PeopleHouse.Name)]
public class HostingTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Nobody_unknown_gets_in_and_guessing_is_slowed()
    {
        var stranger = world.App.CreateClient();
        (await stranger.GetAsync(new Uri("/api/v1/register", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Unauthorized);
        (
            await stranger.Post("/api/v1/people/sign-in", new { userName = $"nobody-{Guid.NewGuid():N}", password = "wrong wrong wrong" })
        ).Status.ShouldBe(401);

        await using var strict = world.App.WithWebHostBuilder(builder => builder.UseSetting("SignIn:PerMinute", "3"));
        var guesser = strict.CreateClient();
        var answers = new List<int>();
        for (var i = 0; i < 5; i++)
            answers.Add((await guesser.Post("/api/v1/people/sign-in", new { userName = "nobody", password = $"guess number {i}" })).Status);
        answers.ShouldBe([401, 401, 401, 429, 429]);
    }

    [Fact]
    public async Task A_write_from_another_site_is_refused()
    {
        var client = await world.App.SignedIn();
        using var request = new HttpRequestMessage(HttpMethod.Post, "/api/v1/people/sign-out");
        request.Headers.Add("Origin", "http://elsewhere.example");
        using var answer = await client.SendAsync(request, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await client.GetAsync(new Uri("/api/v1/people/me", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Pages_carry_their_protection_and_errors_are_problem_details()
    {
        var client = await world.App.SignedIn();
        using var answer = await client.GetAsync(new Uri("/api/v1/nowhere", UriKind.Relative), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.NotFound);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        answer.Headers.GetValues("Content-Security-Policy").Single().ShouldContain("script-src 'self' 'wasm-unsafe-eval';");
        using var garbled = new StringContent("{ not json", Encoding.UTF8, "application/json");
        using var refused = await client.PostAsync(new Uri("/api/v1/register", UriKind.Relative), garbled, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.BadRequest);
        refused.Content.Headers.ContentType!.MediaType.ShouldBe("application/problem+json");
        (
            await client.Post(
                "/api/v1/people/sign-in",
                new
                {
                    userName = "a",
                    password = "b",
                    colour = "red",
                }
            )
        ).Status.ShouldBe(400);
    }

    [Fact]
    public async Task A_stopped_database_is_told_and_nothing_is_half_saved()
    {
        await using var cable = new Cable(world.Connection);
        await using var server = new Host(cable.Connection);
        var kettle = await Kettle.Register(await server.SignedIn());
        var (work, id, ruling) = (await kettle.GoodWork(), Guid.NewGuid(), await kettle.Lay());
        cable.Cut();
        var (status, body) = await kettle.Save(work, id: id, ruling: ruling);
        status.ShouldBe(503);
        body.Text("detail").ShouldContain("kept on this screen");
        using (var health = await kettle.Client.GetAsync(new Uri("/health/ready", UriKind.Relative), Cancel))
            health.StatusCode.ShouldBe(HttpStatusCode.ServiceUnavailable);
        // What needs no database is served to whoever is signed in all the same: the page opens, and with it what is on the device.
        using (var live = await kettle.Client.GetAsync(new Uri("/health/live", UriKind.Relative), Cancel))
            live.StatusCode.ShouldBe(HttpStatusCode.OK);
        cable.Mend();
        (await kettle.Save(work, id: id, ruling: ruling)).Status.ShouldBe(200);
        (await world.InDatabase(db => db.Inspections.CountAsync(it => it.ItemId == kettle.Item, Cancel))).ShouldBe(1);
    }

    [Fact]
    public async Task A_save_whose_answer_was_lost_is_told_as_unknown_and_the_repeated_one_settles_it()
    {
        await using var cable = new Cable(world.Connection);
        await using var server = new Host(cable.Connection);
        var kettle = await Kettle.Register(await server.SignedIn());
        var (work, id, ruling) = (await kettle.GoodWork(), Guid.NewGuid(), await kettle.Lay());
        cable.LosesTheAnswerTo = Encoding.UTF8.GetBytes(InspectionRecord.Version);
        var (status, body) = await kettle.Save(work, id: id, ruling: ruling);
        status.ShouldBe(503);
        body.Text("detail").ShouldContain("is not known");
        (await world.InDatabase(db => db.Inspections.CountAsync(it => it.ItemId == kettle.Item, Cancel))).ShouldBe(1, "it had been stored");
        cable.Mend();
        var again = await kettle.Save(work, id: id, ruling: ruling);
        (again.Status, again.Body.GetProperty("already").GetBoolean()).ShouldBe((200, true));
        (await world.InDatabase(db => db.Inspections.CountAsync(it => it.ItemId == kettle.Item, Cancel))).ShouldBe(1);
    }

    /// <summary>Two servers on one database: what one of them sets and saves, the other knows with its next question.</summary>
    [Fact]
    public async Task Two_servers_on_one_database_are_one_house()
    {
        await using var database = await OwnDatabase.WithDemoAsync();
        await using var one = new Host(database.Connection);
        await using var two = new Host(database.Connection);
        using var lead = await one.SignedIn("maud");
        using var set = await lead.PutAsJsonAsync(
            new Uri("/api/v1/standards/uk-cop-5/house/insulation-I", UriKind.Relative),
            new
            {
                value = 20,
                unit = "Mohm",
                reason = "two servers",
            },
            Cancel
        );
        set.IsSuccessStatusCode.ShouldBeTrue(await set.Content.ReadAsStringAsync(Cancel));
        using var other = await two.SignedIn("maud");
        var house = (await other.Get("/api/v1/standards/uk-cop-5")).GetProperty("changes")[0];
        house.Text("reason").ShouldBe("two servers");
        // Eight benches on both, saving at once into one book: no number twice, none left out, nothing lost.
        var saved = await Task.WhenAll(
            Enumerable
                .Range(0, 8)
                .Select(async n =>
                {
                    var kettle = await Kettle.Register(await (n % 2 == 0 ? one : two).SignedIn(n % 3 == 0 ? "ida" : "rufus"));
                    var statuses = new List<int>();
                    for (var times = 0; times < 3; times++)
                        statuses.Add((await kettle.Save(await kettle.GoodWork())).Status);
                    return statuses;
                })
        );
        saved.SelectMany(it => it).ShouldAllBe(it => it == 200);
        await using var source = Npgsql.NpgsqlDataSource.Create(database.Admin);
        (await Store.BookCheck.RunAsync(source, null, Store.KeptOutside.Read(null), Cancel)).Breaks.ShouldBeEmpty();
    }

    [Fact]
    public async Task The_contract_is_answered_over_http_as_on_the_command_line()
    {
        var client = await world.App.SignedIn();
        using var body = JsonContent.Create(
            new object[]
            {
                new
                {
                    id = "a",
                    standard = "uk-cop-5",
                    testDate = "2026-03-31",
                    place = "office",
                    use = "it",
                },
                new { id = "b", standard = "none" },
            }
        );
        using var answer = await client.PostAsync(new Uri("/api/v1/interval", UriKind.Relative), body, Cancel);
        var answers = await answer.Content.ReadFromJsonAsync<JsonElement>(Cancel);
        answers[0].Text("due").ShouldBe("2031-03-31");
        answers[1].GetProperty("error").Text("path").ShouldBe("standard");
    }

    [Fact]
    public async Task A_dead_instrument_is_said_and_readings_can_be_typed()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var ruling = await kettle.Lay();
        ruling.Kit.ShouldNotBeNull().Connected.ShouldBeFalse();
        var looked = BenchState.Of(ruling, await Kettle.Looked(kettle));
        looked.Steps.ShouldAllBe(step => step.Action != StepAction.Press && step.Action != StepAction.Hold);
        looked.Steps.Single(step => step.Step.Key == "insulation").Action.ShouldBe(StepAction.Type);
        var lead = ruling.Kit.Pieces.Single(it => it.Kind == Core.Kit.KitKind.TestLead).Id;
        var (status, problem) = await kettle.Client.Post($"/api/v1/kit/{lead}/null", new { text = (string?)null });
        status.ShouldBe(502);
        problem.Text("detail").ShouldContain("No instrument is connected");
    }

    /// <summary>Steps of before the baseline, which no version has any more.</summary>
    [Theory]
    [InlineData("20261127203452_FallsOn", true)]
    [InlineData("20261127193036_UserCheckDates", false)]
    public async Task A_database_of_before_the_baseline_goes_on_where_its_tables_are_the_same_and_else_is_refused_unchanged(
        string lastStep,
        bool goesOn
    )
    {
        await using var database = await OwnDatabase.EmptyAsync();
        await database.AsAdmin(AsAtTheBaseline);
        await database.AsAdmin($"UPDATE \"__EFMigrationsHistory\" SET migration_id = '{lastStep}'");
        var prepared = await Record.ExceptionAsync(database.PrepareAgainAsync);
        (prepared is null).ShouldBe(goesOn, prepared?.Message);
        await using var source = NpgsqlDataSource.Create(database.Admin);
        await using var asked = source.CreateCommand(
            "SELECT string_agg(migration_id, ' ' ORDER BY migration_id) FROM \"__EFMigrationsHistory\""
        );
        var steps = (string?)await asked.ExecuteScalarAsync(Cancel);
        if (goesOn)
            steps.ShouldNotBeNull().ShouldMatch("^[0-9]+_Foundations [0-9]+_MeasuredFailures [0-9]+_RoundsStay$");
        else
            steps.ShouldBe(lastStep);
    }

    /// <summary>Takes back what came after the baseline.</summary>
    private const string AsAtTheBaseline = """
        DROP TABLE settled_failures, measured_failures;
        ALTER TABLE inspections DROP CONSTRAINT fk_inspections_rounds_round_id;
        ALTER TABLE handed_sheets DROP CONSTRAINT fk_handed_sheets_rounds_round_id;
        ALTER TABLE discarded_sheets DROP CONSTRAINT fk_discarded_sheets_rounds_round_id;
        DROP INDEX ix_handed_sheets_round_id, ix_discarded_sheets_round_id;
        ALTER TABLE kit_items ADD null_reason character varying(300);
        DELETE FROM "__EFMigrationsHistory" WHERE migration_id NOT LIKE '%_Foundations';
        """;
}
