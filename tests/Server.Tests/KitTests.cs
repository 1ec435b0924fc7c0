using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Kit;
using Osierwand.Core.Records;
using Osierwand.Core.Tests.Bench;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>The kit on a server: what is chosen for the day goes into every ruling, and what fails its check bars and tells.</summary>
[Collection(KitHouse.Name)]
public sealed class KitTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static readonly string[] Usual = ["Bench analyser 2", "Lead B", "Probes 2", "Indicator 1", "Proving unit 1", "Adapter 110 V"];

    private static async Task<Dictionary<string, JsonElement>> Kit(HttpClient client) =>
        (await client.Get("/api/v1/kit")).GetProperty("items").EnumerateArray().ToDictionary(it => it.Text("name"));

    private static async Task<(int Status, JsonElement Body)> Choose(HttpClient client, params string[] names)
    {
        var kit = await Kit(client);
        return await client.Post("/api/v1/kit/today", new { items = names.Select(name => kit[name].Text("id")) });
    }

    private static object Read(string key, string text) => new { key, text };

    private static object Range(string test, string unit) =>
        new
        {
            test,
            percent = 3,
            digits = 2,
            resolution = 0.01,
            unit,
        };

    private static object Tester(string name, string serial = "S-1") =>
        new
        {
            kind = "instrument",
            name,
            maker = (string?)null,
            model = (string?)null,
            serial,
            calibratedOn = "2026-01-10",
            calibrationDue = "2099-01-10",
            certificate = (string?)null,
            category = "III",
            productStandard = (string?)null,
            nullsItself = true,
            accuracies = new[] { Range("earthContinuity", "ohm"), Range("insulation", "Mohm"), Range("leakage", "mA") },
            statedValues = Array.Empty<object>(),
        };

    /// <summary>A tester of this test alone, chosen by whoever is signed in.</summary>
    private static async Task<Guid> OwnTester(HttpClient lead, HttpClient user)
    {
        var name = $"Tester {Guid.NewGuid():N}"[..20];
        var (status, made) = await lead.Post("/api/v1/kit", Tester(name, name));
        status.ShouldBe(201);
        (await Choose(user, name, "Lead B")).Status.ShouldBe(204);
        return made.GetProperty("id").GetGuid();
    }

    [Fact]
    public async Task Without_a_kit_of_the_day_a_measured_pass_is_refused_and_nothing_is_lost()
    {
        using var rufus = await world.App.SignedIn("rufus");
        var id = (await rufus.Get("/api/v1/people/me")).GetProperty("id").GetGuid();
        await world.InDatabase(db =>
            db.KitsOfDay.Where(it => it.PersonId == id)
                .ExecuteUpdateAsync(set => set.SetProperty(it => it.At, DateTimeOffset.UtcNow.AddHours(-17)), Cancel)
        );
        try
        {
            var kettle = await Kettle.Register(rufus);
            var ruling = await kettle.Lay();
            ruling.Kit!.Chosen.ShouldBeNull();
            var work = await kettle.GoodWork();
            var refused = await kettle.Save(work);
            (refused.Status, refused.Body.Text("detail").Contains("No kit is chosen", StringComparison.Ordinal)).ShouldBe((422, true));
            (await Choose(rufus, Usual)).Status.ShouldBe(204);
            // What was typed stands; it is judged anew by a ruling with the kit in it.
            Ruling.Differences(ruling, await kettle.Lay()).ShouldContain("The instrument is Bench analyser 2 now.");
            (await kettle.Save(work)).Status.ShouldBe(200);
            var record = await Record(kettle);
            record.Instrument!.Name.ShouldBe("Bench analyser 2");
            record.Instrument.Pieces.Select(it => it.Name).ShouldContain("Indicator 1");
            record.Instrument.Checked!.IsGood.ShouldBeTrue();
            record.Technician.Competences.ShouldNotBeEmpty();
        }
        finally
        {
            await Choose(rufus, Usual);
        }
    }

    [Fact]
    public async Task With_a_meter_alone_the_steps_are_worded_for_it_and_the_record_names_it()
    {
        using var rufus = await world.App.SignedIn("rufus");
        try
        {
            (await Choose(rufus, "Meter 7", "Probes 2")).Status.ShouldBe(204);
            var kettle = await Kettle.Register(rufus);
            var ruling = await kettle.Lay();
            ruling.School.ShouldBe(School.Meter);
            var view = new BenchSession(ruling, []).View();
            view.Sheet!.Steps.Single(step => step.Key.StartsWith("leakage", StringComparison.Ordinal)).NotMeasured!.ShouldContain("beyond");
            List<BenchEvent> work =
            [
                .. await Kettle.Looked(kettle),
                Kettle.Typed("earthContinuity", "0.0"),
                Kettle.Typed("insulation", ">500M"),
                Kettle.Answer("functional", true),
            ];
            // A tenth of an ohm is one step of it: told, and one more would be undecided.
            var (status, saved) = await kettle.Save(work);
            (status, saved.Text("outcome")).ShouldBe((200, "passWithAdvice"));
            (await Record(kettle)).Instrument!.All.Select(kit => kit.Name).ShouldBe(["Meter 7"]);
            work[^3] = Kettle.Typed("earthContinuity", "0.1");
            var again = await Kettle.Register(rufus);
            (await again.Save(work)).Status.ShouldBe(422);

            (await Choose(rufus, "Bench analyser 2", "Meter 7", "Lead B", "Probes 2", "Clamp 3")).Status.ShouldBe(204);
            var both = await kettle.Lay();
            both.School.ShouldBe(School.ApplianceTester);
            both.Kit!.All.Select(kit => kit.Name).ShouldBe(["Bench analyser 2", "Meter 7", "Clamp 3"]);
        }
        finally
        {
            await Choose(rufus, Usual);
        }
    }

    private Task<InspectionRecord> Record(Kettle kettle) =>
        world.InDatabase(async db =>
            InspectionRecord
                .Read(
                    await db
                        .Inspections.Where(it => it.ItemId == kettle.Item)
                        .OrderByDescending(it => it.BookNumber)
                        .Select(it => it.Record)
                        .FirstAsync(Cancel)
                )
                .Value
        );

    [Fact]
    public async Task What_is_barred_cannot_be_chosen_and_says_why()
    {
        using var ida = await world.App.SignedIn();
        (await Choose(ida, "Old analyser", "Lead B")).Body.Text("detail").ShouldContain("Calibration ran out");
        (await Choose(ida, "Bench analyser 2", "Probes 1")).Body.Text("detail").ShouldContain("Taped below the finger guard");
        (await Choose(ida, "Lead B")).Body.Text("detail").ShouldContain("Choose one instrument");
        (await Choose(ida, "Bench analyser 2", "Old analyser")).Body.Text("detail").ShouldContain("Choose one tester or safety analyser");
        var (status, _) = await ida.Post("/api/v1/kit/today", new { items = new[] { Guid.NewGuid() } });
        status.ShouldBe(422);
        var kettle = await Kettle.Register(ida);
        (await kettle.Lay()).Kit!.Name.ShouldBe("Bench analyser 2", "what was chosen before still is");
    }

    [Fact]
    public async Task A_failed_daily_check_bars_the_instrument_and_puts_before_a_lead_what_was_measured_since_the_last_good_one()
    {
        using var maud = await world.App.SignedIn("maud");
        using var ida = await world.App.SignedIn();
        try
        {
            var tester = await OwnTester(maud, ida);
            var box = (await Kit(ida))["Check box 1"].Text("id");
            var before = await Kettle.Register(ida);
            (await before.Save(await before.GoodWork())).Status.ShouldBe(200);
            var good = await Check(ida, tester, box, "0.205");
            (good.GetProperty("isGood").GetBoolean(), good.GetProperty("flagged").GetInt32()).ShouldBe((true, 0));
            var after = await Kettle.Register(ida);
            (await after.Save(await after.GoodWork())).Status.ShouldBe(200);
            var open = await Kettle.Register(ida);
            var work = await open.GoodWork();

            var bad = await Check(ida, tester, box, "0.26");
            (bad.GetProperty("isGood").GetBoolean(), bad.GetProperty("flagged").GetInt32()).ShouldBe((false, 1));
            (await open.Save(work)).Body.Text("detail").ShouldContain("failed its daily check");
            var page = await ida.Get($"/api/v1/kit/{tester}");
            page.GetProperty("card").Text("trouble").ShouldContain("Earth path read 0.26 Ω, 0.18 to 0.22 Ω allowed");
            page.GetProperty("drift")[0].GetProperty("points").GetArrayLength().ShouldBe(2);
            var flag = page.GetProperty("flags").EnumerateArray().ShouldHaveSingleItem();
            (flag.Text("tag"), flag.Text("why").Contains("0.26 Ω", StringComparison.Ordinal)).ShouldBe((after.Tag, true));
            // The record itself is as it was; whoever reads the item's page is told.
            var story = (await after.Page()).GetProperty("history")[0];
            story.Text("outcome").ShouldBe("pass");
            story.GetProperty("flags")[0].GetString()!.ShouldContain("failed its check");
            (await Choose(ida, page.GetProperty("card").Text("name"))).Status.ShouldBe(422);

            // A lead looks at it, and says what was decided.
            var seen = $"/api/v1/kit/flags/{flag.Text("id")}/seen";
            (await ida.Post(seen, new { decision = "fine" })).Status.ShouldBe(403);
            (await maud.Post(seen, new { decision = " " })).Status.ShouldBe(422);
            (await maud.Post(seen, new { decision = "far from its limit; stands" })).Status.ShouldBe(204);
            (await maud.Post(seen, new { decision = "again" })).Status.ShouldBe(409);
            (await maud.Get($"/api/v1/kit/{tester}")).GetProperty("flags").GetArrayLength().ShouldBe(0);

            // Good again, it is barred no more.
            await Check(ida, tester, box, "0.2");
            (await open.Save(work)).Status.ShouldBe(200);
        }
        finally
        {
            await Choose(ida, Usual);
        }
    }

    private static async Task<JsonElement> Check(HttpClient client, Guid tester, string box, string earth)
    {
        var (status, body) = await client.Post(
            $"/api/v1/kit/{tester}/check",
            new { checkBoxId = box, read = new[] { Read("earth", earth), Read("insulation", "1.00"), Read("leakage", "0.50") } }
        );
        status.ShouldBe(200);
        return body;
    }

    [Fact]
    public async Task A_check_that_is_not_whole_keeps_nothing()
    {
        using var maud = await world.App.SignedIn("maud");
        var kit = await Kit(maud);
        var path = $"/api/v1/kit/{kit["Bench analyser 2"].Text("id")}/check";
        var box = kit["Check box 1"].Text("id");
        (await maud.Post(path, new { checkBoxId = box, read = new[] { new { key = "earth", text = "0.2" } } }))
            .Body.Text("detail")
            .ShouldContain("Insulation was not read");
        (await maud.Post(path, new { checkBoxId = Guid.NewGuid(), read = new[] { new { key = "earth", text = "0.2" } } })).Status.ShouldBe(
            404
        );
        (await maud.Post($"/api/v1/kit/{box}/check", new { checkBoxId = box, read = Array.Empty<object>() })).Status.ShouldBe(404);
        (await Kit(maud))["Bench analyser 2"].Text("checkedAt").ShouldBe(kit["Bench analyser 2"].Text("checkedAt"));
    }

    [Fact]
    public async Task A_look_before_use_bars_a_lead_or_keeps_it_for_dead_work_and_isolation_asks_for_todays()
    {
        using var maud = await world.App.SignedIn("maud");
        using var ida = await world.App.SignedIn();
        var name = $"Indicator {Guid.NewGuid():N}"[..24];
        var (status, made) = await maud.Post(
            "/api/v1/kit",
            new
            {
                kind = "voltageIndicator",
                name,
                category = "IV",
                nullsItself = true,
                accuracies = Array.Empty<object>(),
                statedValues = Array.Empty<object>(),
            }
        );
        status.ShouldBe(201);
        try
        {
            (await Choose(ida, "Bench analyser 2", "Lead B", name, "Proving unit 1")).Status.ShouldBe(204);
            var rail = await Kettle.Register(ida, hardWired: true);
            (await Refused(rail)).ShouldContain("It was not looked at today.");
            (await Looked(ida, made.Text("id"), tip: 19)).Text("fitness").ShouldBe("barred");
            (await Refused(rail)).ShouldContain("Bare tip of 19 mm, at most 4 mm");
            (await Looked(ida, made.Text("id"), tip: 2)).Text("fitness").ShouldBe("fit");
            (await Refused(rail)).ShouldBe("");
        }
        finally
        {
            await Choose(ida, Usual);
        }
    }

    private static async Task<string> Refused(Kettle rail)
    {
        var bench = new OnTheBench(await rail.Lay());
        bench.PassUntil("isolation/prove");
        var id = bench.Prove(indicator: bench.Ruling.Kit!.Pieces.Single(it => it.Kind == KitKind.VoltageIndicator).Name);
        return bench.State.Refused.FirstOrDefault(it => it.Id == id)?.Why ?? "";
    }

    private static async Task<JsonElement> Looked(HttpClient client, string id, double tip)
    {
        var points = BeforeUse.PointsOf(KitKind.VoltageIndicator);
        var (status, body) = await client.Post(
            $"/api/v1/kit/{id}/look",
            new
            {
                answers = points.Select(it => new
                {
                    point = Core.Words.Of(it.Point),
                    isGood = true,
                    words = (string?)null,
                    tipMm = it.TakesLength ? tip : (double?)null,
                    isSprung = false,
                }),
                forDeadWork = true,
            }
        );
        status.ShouldBe(200);
        return body;
    }

    [Fact]
    public async Task A_typed_null_is_a_value_and_a_large_one_is_refused_whatever_is_said()
    {
        using var maud = await world.App.SignedIn("maud");
        var name = $"Lead {Guid.NewGuid():N}"[..20];
        var (_, made) = await maud.Post(
            "/api/v1/kit",
            new
            {
                kind = "testLead",
                name,
                nullsItself = true,
                accuracies = Array.Empty<object>(),
                statedValues = Array.Empty<object>(),
            }
        );
        var path = $"/api/v1/kit/{made.Text("id")}/null";
        foreach (var text in new[] { "", "-0.01", ">0.3", "abc", "25", "0.04 A", "1,2,3" })
            (await maud.Post(path, new { text })).Status.ShouldBe(422, text);
        (await maud.Post(path, new { text = "0.51" })).Body.Text("detail").ShouldContain("too much for a good lead");
        (await maud.Post(path, new { text = "0.05" })).Status.ShouldBe(200);
        var (status, again) = await maud.Post(path, new { text = "80m" });
        (status, again.Text("telling").Contains("0.05 Ω before", StringComparison.Ordinal)).ShouldBe((200, true));
        (await maud.Post(path, new { text = "19.9" })).Status.ShouldBe(422);
        (await Kit(maud))[name].Text("nullText").ShouldBe("0.08 Ω");
    }

    [Fact]
    public async Task The_raw_figure_of_a_meter_is_nulled_on_the_record_with_both_figures()
    {
        using var ida = await world.App.SignedIn();
        try
        {
            (await Choose(ida, "Meter 7", "Lead B")).Status.ShouldBe(204);
            var kettle = await Kettle.Register(ida);
            (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
            var earth = (await Record(kettle)).Readings.Single(it => it.Step == "earthContinuity");
            earth.Raw.ShouldBe("0.05 Ω", "as typed");
            earth.Si!.Value.ShouldBe(0.01, 1e-9, "less 0.04 of the lead");
        }
        finally
        {
            await Choose(ida, Usual);
        }
    }

    [Fact]
    public async Task Two_things_never_share_a_name_and_nonsense_is_refused()
    {
        using var maud = await world.App.SignedIn("maud");
        var name = $"Tester {Guid.NewGuid():N}"[..20];
        var (_, made) = await maud.Post("/api/v1/kit", Tester(name));
        (await maud.Post("/api/v1/kit", Tester(name.ToUpperInvariant()))).Status.ShouldBe(409);
        (await maud.Post("/api/v1/kit", Tester(" "))).Status.ShouldBe(422);
        (await maud.Post("/api/v1/kit", Tester(new string('x', 61)))).Status.ShouldBe(422);
        var path = $"/api/v1/kit/{made.Text("id")}";
        (await maud.Post(path, Tester(name + "b"))).Status.ShouldBe(204);
        (await maud.Post($"{path}/retire", new { reason = "" })).Status.ShouldBe(422);
        (await maud.Post($"{path}/retire", new { reason = "fell off the van" })).Status.ShouldBe(204);
        (await Kit(maud)).Keys.ShouldNotContain(name + "b");
        (await maud.Post($"{path}/retire", new { reason = "again" })).Status.ShouldBe(404);
    }

    [Fact]
    public async Task Checks_are_never_changed()
    {
        foreach (var sql in new[] { "UPDATE kit_checks SET is_good = true", "DELETE FROM kit_checks", "TRUNCATE kit_checks CASCADE" })
            (await Should.ThrowAsync<Npgsql.PostgresException>(() => world.AsAdmin(sql))).MessageText.ShouldContain("never changed");
    }

    [Fact]
    public async Task A_coarse_meter_is_told_before_use_by_the_standards_in_force()
    {
        using var ida = await world.App.SignedIn();
        var meter = (await Kit(ida))["Meter 7"];
        var sheet = await ida.Get($"/api/v1/kit/{meter.Text("id")}");
        sheet.GetProperty("unsuited").EnumerateArray().Select(it => it.GetString()!).ShouldContain(it => it.Contains("too coarse"));
        meter
            .GetProperty("warnings")
            .EnumerateArray()
            .Select(it => it.GetString()!)
            .ShouldContain(it => it.StartsWith("Calibration is due"));
    }
}
