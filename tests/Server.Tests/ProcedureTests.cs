using System.Text.Json;
using System.Text.Json.Nodes;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Procedures;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Procedures are the house's: a lead makes them, everybody runs them, a version is never changed.</summary>
[Collection(BenchHouse.Name)]
public class ProcedureTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>A procedure made from a kettle's plan, not yet saved.</summary>
    private static async Task<JsonObject> Draft(Kettle kettle, string name = "Kettles")
    {
        var made = JsonNode
            .Parse(
                (
                    await kettle.Client.Post(
                        "/api/v1/procedures/draft",
                        new
                        {
                            itemId = kettle.Item,
                            roundId = kettle.Round,
                            name,
                        }
                    )
                ).Body.GetRawText()
            )!
            .AsObject();
        // What insulation may stand for is asked of everybody once a procedure names it; here it does not.
        var steps = made["steps"]!.AsArray();
        foreach (var step in steps.Where(it => it!["step"]!.GetValue<string>().StartsWith("leakage", StringComparison.Ordinal)).ToList())
            steps.Remove(step);
        return made;
    }

    private static Task<(int Status, JsonElement Body)> Save(
        HttpClient lead,
        JsonObject procedure,
        int basedOn = 0,
        string reason = "for the team"
    ) =>
        lead.Post(
            "/api/v1/procedures",
            new
            {
                procedure,
                basedOn,
                reason,
            }
        );

    private static JsonObject WithCheck(JsonObject of, string name)
    {
        var copy = of.DeepClone().AsObject();
        copy["steps"]!.AsArray().Add(new JsonObject { ["do"] = "check", ["name"] = name });
        return copy;
    }

    [Fact]
    public async Task It_is_made_from_a_plan_chosen_run_and_kept_with_its_version()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var lead = await world.App.SignedIn("maud");
        var draft = await Draft(kettle, $"Kettles {Guid.NewGuid():N}");
        (await Save(kettle.Client, draft)).Status.ShouldBe(403);
        var (status, page) = await Save(lead, draft);
        status.ShouldBe(200, page.ToString());
        (await Save(lead, WithCheck(draft, "lid closes"), 1, "the lid")).Status.ShouldBe(200);

        var ruling = await kettle.Lay();
        var offered = ruling.Procedures.Single(it => it.Id == draft["id"]!.GetValue<Guid>());
        offered.Version.ShouldBe(2);
        List<BenchEvent> work =
        [
            new ProcedureChosen
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Procedure = offered.Id,
                Version = 2,
            },
            .. await kettle.GoodWork(),
        ];
        var half = await kettle.Save(work);
        (half.Status, half.Body.Text("detail")).ShouldBe((422, "Still open: lid closes."));
        work.Add(Kettle.Answer("functional/lid closes", true));
        var (saved, body) = await kettle.Save(work);
        saved.ShouldBe(200, body.ToString());
        var paper = await kettle.Client.GetStringAsync(new Uri($"/api/v1/papers/inspections/{body.Text("id")}", UriKind.Relative), Cancel);
        paper.ShouldContain($"{offered.Name}, version 2");
        paper.ShouldContain("lid closes");
    }

    [Fact]
    public async Task A_sheet_goes_on_with_the_version_it_runs_though_a_newer_one_was_made()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var lead = await world.App.SignedIn("maud");
        var draft = await Draft(kettle, $"Kettles {Guid.NewGuid():N}");
        await Save(lead, draft);
        List<BenchEvent> work =
        [
            new ProcedureChosen
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Procedure = draft["id"]!.GetValue<Guid>(),
                Version = 1,
            },
            .. await kettle.GoodWork(),
        ];
        var ruling = await kettle.Lay();
        (await Save(lead, WithCheck(draft, "lid closes"), 1)).Status.ShouldBe(200);
        (await kettle.Save(work, ruling: ruling)).Body.Text("outcome").ShouldBe("pass");
    }

    [Fact]
    public async Task Who_edits_an_older_version_is_told_and_nothing_is_written_over()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var lead = await world.App.SignedIn("maud");
        var draft = await Draft(kettle);
        await Save(lead, draft);
        (await Save(lead, WithCheck(draft, "lid closes"), 1)).Status.ShouldBe(200);
        var (status, body) = await Save(lead, WithCheck(draft, "handle holds"), 1);
        (status, body.Text("title")).ShouldBe((409, "Not saved: somebody made another version meanwhile."));
        var page = await lead.Get($"/api/v1/procedures/{draft["id"]}");
        page.GetProperty("newest").GetInt32().ShouldBe(2);
        page.GetProperty("versions")[0].GetProperty("lines")[0].GetString().ShouldBe("New: check: lid closes");
        var answers = await Task.WhenAll(Enumerable.Range(0, 5).Select(n => Save(lead, WithCheck(draft, $"check {n}"), 2)));
        answers.Count(it => it.Status == 200).ShouldBe(1);
        answers.Where(it => it.Status != 200).ShouldAllBe(it => it.Status == 409);
        var error = await Should.ThrowAsync<PostgresException>(() =>
            world.AsAdmin($"UPDATE procedure_versions SET reason = 'other' WHERE procedure_id = '{draft["id"]}'")
        );
        error.SqlState.ShouldBe(PostgresErrorCodes.RestrictViolation);
    }

    [Fact]
    public async Task A_retired_one_is_offered_to_nobody_and_comes_back()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var lead = await world.App.SignedIn("maud");
        var draft = await Draft(kettle);
        await Save(lead, draft);
        var id = draft["id"]!.GetValue<Guid>();
        (await lead.Post($"/api/v1/procedures/{id}/retire", new { reason = "" })).Status.ShouldBe(422);
        (await lead.Post($"/api/v1/procedures/{id}/retire", new { reason = "nobody has these kettles any more" })).Status.ShouldBe(200);
        (await kettle.Lay()).Procedures.ShouldNotContain(it => it.Id == id);
        (await kettle.Lay()).EarlierProcedures.ShouldContain(it => it.Id == id);
        (await Save(lead, draft, 1)).Body.Text("detail").ShouldContain("retired");
        (await lead.Post($"/api/v1/procedures/{id}/restore", new { reason = "they are back" })).Status.ShouldBe(200);
        (await kettle.Lay()).Procedures.ShouldContain(it => it.Id == id);
    }

    [Fact]
    public async Task Every_fault_is_told_where_it_is_and_nothing_is_kept()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var lead = await world.App.SignedIn("maud");
        var bad = WithCheck(await Draft(kettle, new string('x', 121)), "");
        var (status, body) = await Save(lead, bad);
        status.ShouldBe(422);
        body.GetProperty("faults").EnumerateArray().Select(it => it.Text("path")).ShouldContain("name");
        body.GetProperty("faults").GetArrayLength().ShouldBe(2);
        (await lead.GetAsync(new Uri($"/api/v1/procedures/{bad["id"]}", UriKind.Relative), Cancel)).StatusCode.ShouldBe(
            System.Net.HttpStatusCode.NotFound
        );
    }

    [Fact]
    public async Task It_leaves_as_a_file_and_comes_back_from_it()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var lead = await world.App.SignedIn("maud");
        var draft = await Draft(kettle);
        await Save(lead, draft);
        for (var n = 0; n < 60; n++)
            draft = WithCheck(draft, $"a check with a name that makes the file longer than any text of a form, number {n}");
        (await Save(lead, draft, 1)).Status.ShouldBe(200);
        var file = await lead.GetStringAsync(new Uri($"/api/v1/procedures/{draft["id"]}/file", UriKind.Relative), Cancel);
        file.Length.ShouldBeGreaterThan(4_000);
        Procedure.Read(file).Value.Version.ShouldBe(2);
        var (status, read) = await lead.Post("/api/v1/procedures/read", JsonNode.Parse(file)!);
        (status, read.Text("name")).ShouldBe((200, draft["name"]!.GetValue<string>()));
        foreach (var other in new object[] { new { format = "x" }, new[] { 1 }, "text", 7 })
            (await lead.Post("/api/v1/procedures/read", other)).Status.ShouldBe(422, other.ToString());
    }

    [Fact]
    public async Task It_is_tried_on_a_device_before_it_is_saved()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var draft = await Draft(kettle);
        var (status, tried) = await kettle.Client.Post(
            "/api/v1/procedures/try",
            new { procedure = WithCheck(draft, "lid closes"), tag = kettle.Tag }
        );
        status.ShouldBe(200, tried.ToString());
        var preview = tried.GetProperty("preview");
        preview.GetProperty("refusal").ValueKind.ShouldBe(JsonValueKind.Null);
        preview.GetProperty("steps").EnumerateArray().Select(it => it.Text("name")).ShouldContain("lid closes");
        var claims = draft.DeepClone().AsObject();
        claims["modules"] = new JsonArray(
            new JsonObject
            {
                ["name"] = "ECG",
                ["type"] = "BF",
                ["connections"] = 1,
                ["joined"] = true,
            }
        );
        var refused = (await kettle.Client.Post("/api/v1/procedures/try", new { procedure = claims, tag = kettle.Tag })).Body;
        refused.GetProperty("preview").Text("refusal").ShouldContain("no such part");
    }

    [Fact]
    public async Task Made_for_a_model_it_is_taken_without_asking()
    {
        var client = await world.App.SignedIn();
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var model = $"K{Guid.NewGuid():N}"[..10];
        var plate = JsonSerializer.SerializeToNode(Kettle.New(round, $"T-{Guid.NewGuid():N}"[..12]))!.AsObject();
        plate["model"] = model;
        var (_, made) = await client.Post("/api/v1/register", plate);
        var kettle = new Kettle(client, made.GetProperty("itemId").GetGuid(), round, plate["tag"]!.GetValue<string>());
        (await kettle.Lay()).Procedure.ShouldBeNull();
        var draft = await Draft(kettle);
        draft["model"]!.GetValue<string>().ShouldBe(model);
        await Save(await world.App.SignedIn("maud"), draft);
        (await kettle.Lay()).Procedure!.Id.ShouldBe(draft["id"]!.GetValue<Guid>());
    }
}
