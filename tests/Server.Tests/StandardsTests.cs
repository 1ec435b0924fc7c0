using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Shouldly;

namespace Osierwand.Server.Tests;

public class StandardsTests(World world)
{
    private const string Row = "/api/v1/standards/en-50699-2020/house/";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<(HttpStatusCode Status, JsonElement Body)> Put(HttpClient client, string rule, double value, string unit, string reason)
    {
        using var answer = await client.PutAsJsonAsync(new Uri(Row + rule, UriKind.Relative), new { value, unit, reason }, Cancel);
        var text = await answer.Content.ReadAsStringAsync(Cancel);
        return (answer.StatusCode, text.Length == 0 ? default : JsonDocument.Parse(text).RootElement.Clone());
    }

    private static JsonElement RowOf(JsonElement page, string id) =>
        page.GetProperty("groups").EnumerateArray().SelectMany(group => group.GetProperty("rows").EnumerateArray()).Single(row => row.Text("id") == id);

    [Fact]
    public async Task Every_pack_is_readable_with_clause_and_caution()
    {
        var client = await world.App.SignedIn();
        var cards = (await client.Get("/api/v1/standards")).EnumerateArray().ToArray();
        cards.Length.ShouldBe(6);
        foreach (var card in cards)
        {
            var page = await client.Get($"/api/v1/standards/{card.Text("id")}");
            page.Text("checkNote").ShouldContain("your own copy");
            page.GetProperty("groups").EnumerateArray().SelectMany(group => group.GetProperty("rows").EnumerateArray()).ShouldAllBe(row => row.GetProperty("clause").GetString() != "" && row.GetProperty("text").GetString() != "");
        }
        (await client.Get("/api/v1/standards/schema")).Text("title").ShouldBe("Osierwand rule pack");
        (await client.GetAsync(new Uri("/api/v1/standards/none", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_lead_tightens_and_lifts_a_loosening_is_refused_and_all_of_it_is_kept()
    {
        var lead = await world.App.SignedIn("maud");
        (await Put(await world.App.SignedIn(), "touch", 0.3, "mA", "house")).Status.ShouldBe(HttpStatusCode.Forbidden);
        var refused = await Put(lead, "touch", 0.6, "mA", "house");
        refused.Status.ShouldBe(HttpStatusCode.UnprocessableEntity);
        refused.Body.GetProperty("faults")[0].Text("message").ShouldContain("may only tighten");
        (await Put(lead, "touch", 0.3, "mA", " ")).Status.ShouldBe(HttpStatusCode.UnprocessableEntity);

        var set = await Put(lead, "touch", 0.3, "mA", "children use them");
        set.Status.ShouldBe(HttpStatusCode.OK);
        RowOf(set.Body, "touch").GetProperty("house").Text("text").ShouldBe("≤ 0.3 mA");
        set.Body.GetProperty("changes")[0].Text("by").ShouldBe("Maud Tarrant");

        (await lead.DeleteAsync(new Uri(Row + "touch", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await lead.DeleteAsync(new Uri(Row + "touch?reason=no+longer", UriKind.Relative), Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        var page = await lead.Get("/api/v1/standards/en-50699-2020");
        RowOf(page, "touch").GetProperty("house").ValueKind.ShouldBe(JsonValueKind.Null);
        page.GetProperty("changes").GetArrayLength().ShouldBe(2);
        var edit = await Should.ThrowAsync<PostgresException>(() => world.InDatabase(db => db.HouseChanges.ExecuteDeleteAsync(Cancel)));
        edit.Message.ShouldContain("never edited or deleted");
    }

    [Fact]
    public async Task The_bench_judges_by_the_house_and_the_record_names_it()
    {
        // The demo house tightens the insulation of leads under the UK code from 1 to 2 megohm.
        var client = await world.App.SignedIn();
        var lead = (await client.Get("/api/v1/register?search=LMR-0216")).GetProperty("rows")[0].GetProperty("id").GetGuid();
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var sheet = await client.Get($"/api/v1/bench/{lead}?round={round}");
        var step = sheet.GetProperty("steps").EnumerateArray().Single(it => it.Text("test") == "insulation");
        step.GetProperty("limit").Text("text").ShouldBe("≥ 2 MΩ");
        step.GetProperty("limit").Text("derivation").ShouldContain("tighter than the standard's 1 MΩ");
    }

    [Fact]
    public async Task The_bench_words_its_steps_for_a_meter_and_tells_what_readings_mean()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        var sheet = await kettle.Client.Get($"/api/v1/bench/{kettle.Item}?round={kettle.Round}&school=meter");
        sheet.GetProperty("steps").EnumerateArray().Single(it => it.Text("test") == "leakage").Text("notMeasured").ShouldContain("beyond");
        var (_, judged) = await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/judge", await kettle.Work(Kettle.Read("insulation", "0.2M")));
        judged.GetProperty("telling")[0].Text("id").ShouldBe("insulation-heating");
        judged.GetProperty("telling")[0].GetProperty("stepKeys")[0].GetString().ShouldBe("insulation");
        (await kettle.Client.Get("/api/v1/signs?say=crossed"))[0].Text("id").ShouldBe("crossed");
    }

    [Theory]
    [InlineData("ida", "Only a lead may override", null)]
    [InlineData("maud", null, "passWithAdvice")]
    public async Task A_lead_overrides_at_the_bench_and_nobody_else(string who, string? fault, string? outcome)
    {
        var kettle = await Kettle.Register(await world.App.SignedIn(who));
        var work = await kettle.Work(
            new { stepKey = "earthContinuity", source = "typed", at = DateTimeOffset.UtcNow, text = "0.2", @override = new { status = "pass", reason = "confirmed with a second instrument" } },
            Kettle.Read("insulation", ">299M"), Kettle.Answer("functional", true));
        var (_, judged) = await kettle.Client.Post($"/api/v1/bench/{kettle.Item}/judge", work);
        if (fault is not null)
        {
            judged.GetProperty("entries")[0].GetProperty("fault").Text("message").ShouldContain(fault, Case.Insensitive);
            return;
        }
        judged.Text("outcome").ShouldBe(outcome);
        var (status, saved) = await kettle.Save(work);
        status.ShouldBe(200);
        var id = saved.GetProperty("id").GetGuid();
        var record = JsonDocument.Parse(await world.InDatabase(db => db.Inspections.Where(it => it.Id == id).Select(it => it.Record).SingleAsync(Cancel))).RootElement;
        record.Text("technician").ShouldBe("Maud Tarrant");
        record.GetProperty("readings")[0].GetProperty("judged").GetProperty("overridden").Text("by").ShouldBe("Maud Tarrant");
    }

    [Fact]
    public async Task A_medical_device_is_evaluated_and_a_person_confirms_it()
    {
        var client = await world.App.SignedIn();
        var today = await client.Get("/api/v1/rounds/today");
        var round = today.GetProperty("rounds").EnumerateArray().Single(it => it.Text("client").StartsWith("Sorrel", StringComparison.Ordinal)).GetProperty("id").GetGuid();
        var bed = (await client.Get("/api/v1/register?search=SVH-1003")).GetProperty("rows")[0].GetProperty("id").GetGuid();
        var sheet = await client.Get($"/api/v1/bench/{bed}?round={round}");
        sheet.GetProperty("evaluated").GetBoolean().ShouldBeTrue();
        var entries = sheet.GetProperty("steps").EnumerateArray().Select(step => (Key: step.Text("key"), Test: step.Text("test"))).Where(step => step.Test is not ("visual" or "fuse"))
            .Select(step => step.Test == "functional" ? Kettle.Answer(step.Key, true) : Kettle.Read(step.Key, step.Test == "earthContinuity" ? "0.08" : "40u")).ToArray();
        var work = new { roundId = round, scope = sheet.Text("scope"), look = sheet.GetProperty("look").EnumerateArray().Select(point => new { pointId = point.Text("id"), answer = "good", words = (string?)null }), entries };
        var (_, judged) = await client.Post($"/api/v1/bench/{bed}/judge", work);
        judged.GetProperty("evaluation").Text("proposal").ShouldBeOneOf("noDeficiency", "noDirectRisk");
        var id = Guid.NewGuid();
        var (status, _) = await client.Post($"/api/v1/bench/{bed}/inspections", new { id, work, revision = sheet.GetProperty("item").GetProperty("revision").GetInt32(), notTested = (string?)null, remarks = (string?)null, evaluation = "noDirectRisk" });
        status.ShouldBe(200);
        var record = JsonDocument.Parse(await world.InDatabase(db => db.Inspections.Where(it => it.Id == id).Select(it => it.Record).SingleAsync(Cancel))).RootElement;
        record.GetProperty("evaluation").Text("confirmed").ShouldBe("noDirectRisk");
    }

    [Theory]
    [InlineData("diagnose", """[{"say":"negative"}]""", "findings")]
    [InlineData("class", """[{"cores":2}]""", "testAs")]
    [InlineData("evidence", """[{"inspections":10,"failures":0,"intervalMonths":12}]""", "suggestion")]
    [InlineData("installation", """[{"thermal":{"differenceK":2}}]""", "grade")]
    [InlineData("cord", """[{"standard":"uk-cop-5","item":{"kind":"appliance"}}]""", "findings")]
    public async Task Every_verb_answers_over_http(string verb, string requests, string property)
    {
        var client = await world.App.SignedIn();
        var (status, answers) = await client.Post($"/api/v1/{verb}", JsonDocument.Parse(requests).RootElement);
        status.ShouldBe(200);
        answers[0].TryGetProperty(property, out _).ShouldBeTrue(answers.ToString());
    }
}
