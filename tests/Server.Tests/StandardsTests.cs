using System.Net;
using System.Net.Http.Json;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Server.Tests;

[Collection(KitHouse.Name)]
public class StandardsTests(World world)
{
    private const string Row = "/api/v1/standards/en-50699-2020/house/";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static async Task<(HttpStatusCode Status, JsonElement Body)> Put(
        HttpClient client,
        string rule,
        double value,
        string unit,
        string reason
    )
    {
        using var answer = await client.PutAsJsonAsync(
            new Uri(Row + rule, UriKind.Relative),
            new
            {
                value,
                unit,
                reason,
            },
            Cancel
        );
        var text = await answer.Content.ReadAsStringAsync(Cancel);
        return (answer.StatusCode, text.Length == 0 ? default : JsonDocument.Parse(text).RootElement.Clone());
    }

    private static JsonElement RowOf(JsonElement page, string id) =>
        page.GetProperty("groups")
            .EnumerateArray()
            .SelectMany(group => group.GetProperty("rows").EnumerateArray())
            .Single(row => row.Text("id") == id);

    [Fact]
    public async Task Every_pack_is_readable_with_clause_and_caution()
    {
        var client = await world.App.SignedIn();
        var cards = (await client.Get("/api/v1/standards")).EnumerateArray().ToArray();
        cards.Length.ShouldBe(10);
        cards.Count(card => card.GetProperty("scope").ValueKind == JsonValueKind.Null).ShouldBe(4, "what all standards share");
        foreach (var card in cards)
        {
            var page = await client.Get($"/api/v1/standards/{card.Text("id")}");
            page.Text("checkNote").ShouldNotBeEmpty();
            page.GetProperty("groups")
                .EnumerateArray()
                .SelectMany(group => group.GetProperty("rows").EnumerateArray())
                .ShouldAllBe(row => row.GetProperty("clause").GetString() != "" && row.GetProperty("text").GetString() != "");
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
        var edit = await Should.ThrowAsync<PostgresException>(() => world.AsAdmin("DELETE FROM house_changes"));
        edit.Message.ShouldContain("never edited or deleted");
        var trail = (await lead.Get("/api/v1/trust/trail?search=en-50699-2020+touch")).GetProperty("rows");
        trail[0].Text("what").ShouldBe("house limit lifted");
        trail[0].GetProperty("before").GetProperty("value").GetDouble().ShouldBe(0.3);
        trail[1].GetProperty("before").ValueKind.ShouldBe(JsonValueKind.Null, "the standard's own limit stood");
        trail[1].GetProperty("after").GetProperty("value").GetDouble().ShouldBe(0.3);
    }

    /// <summary>Lifted again at the end: tests share one house.</summary>
    [Fact]
    public async Task A_stricter_common_rule_reaches_ruling_kit_and_record()
    {
        var lead = await world.App.SignedIn("maud");
        var row = new Uri("/api/v1/standards/common-rules/house/near-limit", UriKind.Relative);
        using var loosened = await lead.PutAsJsonAsync(
            row,
            new
            {
                value = 95,
                unit = "%",
                reason = "r",
            },
            Cancel
        );
        loosened.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await loosened.Content.ReadAsStringAsync(Cancel)).ShouldContain("95 % would loosen 90 %");
        using var set = await lead.PutAsJsonAsync(
            row,
            new
            {
                value = 40,
                unit = "%",
                reason = "we look early",
            },
            Cancel
        );
        set.StatusCode.ShouldBe(HttpStatusCode.OK);
        try
        {
            var page = JsonDocument.Parse(await set.Content.ReadAsStringAsync(Cancel)).RootElement;
            RowOf(page, "near-limit").GetProperty("house").Text("text").ShouldBe("40 %");
            RowOf(page, "comparison-tolerance").GetProperty("units").GetArrayLength().ShouldBe(0, "nothing to tighten");
            var kettle = await Kettle.Register(lead);
            var ruling = await kettle.Lay();
            ruling.Pack.Thresholds.NearLimit.ShouldBe(0.4, 1e-12);
            ruling.Pack.Thresholds.Table.FullVersion.ShouldContain("+house.");
            ruling.Refusal().ShouldBeNull();
            (ruling with { RulesVersion = "0.9.0" }).Refusal().ShouldNotBeNull().ShouldContain("common rules");
            // The kettle's limit is 0.129 ohm: 0.06 is near it for this house.
            var state = BenchState.Of(ruling, [Kettle.Typed("earthContinuity", "0.06")]);
            state.Readings.Single().Judgement.ShouldNotBeNull().NearLimit.ShouldBeTrue();
        }
        finally
        {
            var lift = new Uri($"{row}?reason=test+over", UriKind.Relative);
            (await lead.DeleteAsync(lift, Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        }
    }

    [Fact]
    public async Task The_bench_judges_by_the_house_and_the_record_names_it()
    {
        // The demo house tightens the insulation of leads under the UK code from 1 to 2 megohm.
        var client = await world.App.SignedIn();
        var lead = (await client.Get("/api/v1/register?search=LMR-0216")).GetProperty("rows")[0].GetProperty("id").GetGuid();
        var round = (await client.Get("/api/v1/rounds/today")).GetProperty("roundId").GetGuid();
        var sheet = await new Kettle(client, lead, round, "LMR-0216").Lay();
        var step = BenchState.Of(sheet, []).Sheet.Steps.OfType<SheetStep.Measure>().First(it => it.Plan.Test == Test.Insulation);
        step.Plan.Limit.ShouldNotBeNull().Derivation.ShouldContain("tighter than the standard's 1 MΩ");
        step.Plan.Limit.Value.ShouldNotBeNull().Si.ShouldBe(2e6);
    }

    [Fact]
    public async Task The_bench_tells_what_readings_mean()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn());
        BenchEvent[] work = [Kettle.Typed("insulation", "0.2M")];
        var (_, answer) = await kettle.Client.Post(
            $"/api/v1/bench/{kettle.Item}/view",
            new { roundId = kettle.Round, events = JsonDocument.Parse(BenchJson.Write(work)).RootElement }
        );
        var view = answer.GetProperty("view");
        view.GetProperty("now").GetProperty("telling")[0].Text("id").ShouldBe("insulation-heating");
        view.GetProperty("now").GetProperty("telling")[0].GetProperty("steps")[0].GetString().ShouldBe("insulation");
        (await kettle.Client.Get("/api/v1/signs?say=crossed"))[0].Text("id").ShouldBe("crossed");
    }

    [Theory]
    [InlineData("ida", EndKind.Fail)]
    [InlineData("maud", EndKind.Pass)]
    public async Task A_lead_overrides_at_the_bench_and_nobody_else(string who, EndKind end)
    {
        var kettle = await Kettle.Register(await world.App.SignedIn(who));
        var earth = Kettle.Typed("earthContinuity", "0.2");
        var by = new Overridden
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Target = earth.Id,
            To = Status.Pass,
            Reason = "confirmed with a second instrument",
        };
        var work = await Kettle.Looked(kettle, earth, by, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true));
        (await kettle.Save(work, end == EndKind.Pass ? EndKind.Fail : EndKind.Pass)).Status.ShouldBe(422);
        var (status, saved) = await kettle.Save(work, end);
        status.ShouldBe(200);
        var id = saved.GetProperty("id").GetGuid();
        var record = InspectionRecord
            .Read(await world.InDatabase(db => db.Inspections.Where(it => it.Id == id).Select(it => it.Record).SingleAsync(Cancel)))
            .Value;
        record.Readings[0].Override?.By.ShouldBe("Maud Tarrant");
        (record.Readings[0].Override is not null).ShouldBe(end == EndKind.Pass);
    }

    [Fact]
    public async Task A_medical_device_is_evaluated_and_a_person_confirms_it()
    {
        var client = await world.App.SignedIn();
        var today = await client.Get("/api/v1/rounds/today");
        var round = today
            .GetProperty("rounds")
            .EnumerateArray()
            .Single(it => it.Text("client").StartsWith("Sorrel", StringComparison.Ordinal))
            .GetProperty("id")
            .GetGuid();
        var bed = (await client.Get("/api/v1/register?search=SVH-1003")).GetProperty("rows")[0].GetProperty("id").GetGuid();
        var device = new Kettle(client, bed, round, "SVH-1003");
        var bench = new Core.Tests.Bench.OnTheBench(await device.Lay()) { Start = DateTimeOffset.UtcNow.AddHours(-6) }.PassTheRest();
        var unevaluated = bench.Events.Where(it => it is not Evaluated).ToArray();
        (await device.Save(unevaluated)).Body.Text("detail").ShouldContain("evaluation");
        var contradicting = new Evaluated
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Evaluation = Evaluation.OutOfUse,
        };
        (await device.Save([.. unevaluated, contradicting])).Status.ShouldBe(422);
        var id = Guid.NewGuid();
        (await device.Save(bench.Events, id: id)).Status.ShouldBe(200);
        var record = InspectionRecord
            .Read(await world.InDatabase(db => db.Inspections.Where(it => it.Id == id).Select(it => it.Record).SingleAsync(Cancel)))
            .Value;
        record.Evaluation.ShouldNotBeNull().Confirmed.ShouldBe(record.Evaluation!.Proposed);
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
