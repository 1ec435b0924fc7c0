using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A round from its plan to its closing: items, exclusions, days, rules of its own, and what may become of it.</summary>
[Collection(RoundHouse.Name)]
public sealed class PlannedRoundTests(World world)
{
    private static string Day(int from) => Planned.Day(from);

    private static object NewRound(string code, string name, bool isPlanned) => Planned.NewRound(code, name, isPlanned);

    private Task<Planned> Plan() => Planned.MakeAsync(world);

    private static string[] Rooms(JsonElement page) =>
        [.. page.GetProperty("rooms").EnumerateArray().Select(room => $"{room.Text("room")} {room.GetProperty("items").GetArrayLength()}")];

    [Fact]
    public async Task A_lead_plans_a_round_by_rules_rooms_days_and_people_and_opens_it()
    {
        var it = await Plan();
        var empty = await it.Page();
        empty.Text("state").ShouldBe("planned");
        empty.GetProperty("moves")[0].Text("whyNot").ShouldContain("Nothing is planned");
        empty
            .GetProperty("offers")
            .EnumerateArray()
            .Select(offer => $"{offer.Text("text")} {offer.GetProperty("count").GetInt32()}")
            .Intersect(["Never inspected 4", "Hall 2", "appliance 4"])
            .Count()
            .ShouldBe(3);
        (await it.Kettle(0).Lay().ShouldThrowAsync<Exception>()).ShouldNotBeNull("it is not open yet");

        (await it.Do("items", new { by = "room", value = "Hall" })).Body.GetProperty("added").GetInt32().ShouldBe(2);
        (await it.Do("items", new { by = "neverSeen" })).Body.GetProperty("added").GetInt32().ShouldBe(2);
        (await it.Do("items", new { by = "everything" })).Body.GetProperty("added").GetInt32().ShouldBe(0);
        Rooms(await it.Page()).ShouldBe(["Bar 1", "Bath 1", "Hall 2"]);
        (await it.Do("rooms", new { rooms = new[] { "Hall", "Bath" } })).Status.ShouldBe(204);
        Rooms(await it.Page()).ShouldBe(["Hall 2", "Bath 1", "Bar 1"]);

        var people = empty.GetProperty("people").EnumerateArray().ToLookup(one => one.Text("name"), one => one.Text("id"));
        async Task<JsonElement> On(string who, int minutes)
        {
            var days = new[]
            {
                new
                {
                    day = Day(1),
                    personId = people[who].First(),
                    minutes,
                },
            };
            (await it.Do("days", new { days })).Status.ShouldBe(204);
            return await it.Page();
        }
        // Nothing of their kind was inspected for this client: ten minutes each, and said so.
        var tight = await On("Ida Fennimore", 25);
        tight
            .GetProperty("remarks")[0]
            .Text("text")
            .ShouldBe("20 min too much for these days: 2 items in Bath, Bar. Add a day or a person, or take something out.");
        tight.Text("basis").ShouldContain("of 4 nothing is known yet");
        var rufus = await On("Rufus Oakhanger", 400);
        var remark = rufus.GetProperty("remarks")[0];
        remark.Text("text").ShouldContain("asks for hard-wired equipment, which nobody on this round holds");
        remark.GetProperty("heldBy").EnumerateArray().Select(one => one.GetString()).ShouldBe(["Ida Fennimore", "Maud Tarrant"]);
        var ida = await On("Ida Fennimore", 400);
        ida.GetProperty("remarks").GetArrayLength().ShouldBe(0);
        ida.GetProperty("days")[0].GetProperty("taken").GetInt32().ShouldBe(40);
        ida.GetProperty("packing")
            .EnumerateArray()
            .Select(line => $"{line.Text("what")}: {line.Text("for")}")
            .Intersect(["Lock-off set, voltage indicator, proving unit: 1 hard-wired item", "Spare fuses 13 A: 2, for 4 fitted"])
            .Count()
            .ShouldBe(2);

        (await it.To("open")).Status.ShouldBe(204);
        var today = await it.Lead.Get($"/api/v1/rounds/today?round={it.Round}");
        today.GetProperty("rooms").EnumerateArray().Select(room => room.Text("room")).ShouldBe(["Hall", "Bath", "Bar"]);
    }

    [Fact]
    public async Task Closing_needs_every_item_done_not_tested_or_moved()
    {
        var it = await Plan();
        await it.Do("items", new { by = "everything" });
        (await it.To("closed")).Status.ShouldBe(422);
        (await it.To("open")).Status.ShouldBe(204);
        var kettle = it.Kettle(0);
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        (await it.Kettle(1).Save([], EndKind.NotTested, notTested: NotTestedReason.InUse)).Status.ShouldBe(200);
        (await it.To("planned")).Body.Text("detail").ShouldContain("cannot be planned any more");
        (await it.To("review")).Status.ShouldBe(204);
        (await it.Kettle(2).Lay().ShouldThrowAsync<Exception>()).ShouldNotBeNull("in review nothing is laid down");
        (await it.Sign()).Body.Text("detail").ShouldStartWith("2 items are neither done");
        (await it.To("open")).Status.ShouldBe(204);

        var other = (await it.Lead.Post("/api/v1/rounds", NewRound(it.Code, "Later", true))).Body.GetProperty("id").GetGuid();
        (await it.Do("move", new { items = new[] { it.Items[0] }, to = other }))
            .Body.Text("detail")
            .ShouldContain("was inspected in this round");
        (await it.Do("move", new { items = new[] { it.Items[2] }, to = other })).Status.ShouldBe(204);
        (
            await it.Do(
                "leave-out",
                new
                {
                    items = new[] { it.Items[3] },
                    why = "hard-wired",
                    testedBy = " ",
                }
            )
        ).Status.ShouldBe(422);
        (
            await it.Do(
                "leave-out",
                new
                {
                    items = new[] { it.Items[3] },
                    why = "hard-wired",
                    testedBy = "site electrician, in May",
                }
            )
        ).Status.ShouldBe(204);
        var page = await it.Page();
        page.GetProperty("excluded")[0].Text("testedBy").ShouldBe("site electrician, in May");
        var tally = page.GetProperty("tally");
        (tally.GetProperty("done").GetInt32(), tally.GetProperty("notTested").GetInt32(), tally.GetProperty("left").GetInt32()).ShouldBe(
            (1, 1, 0)
        );
        (await it.Kettle(3).Save([], EndKind.NotTested, notTested: NotTestedReason.InUse, ruling: await it.Kettle(0).Lay()))
            .Body.Text("detail")
            .ShouldContain("site electrician, in May tests it");
        (await it.To("review")).Status.ShouldBe(204);
        using var ida = await world.App.SignedIn();
        (await ida.Post($"/api/v1/rounds/{it.Round}/review/signature", new { records = 2, lastNumber = 2 })).Status.ShouldBe(403);
        (await it.To("closed")).Body.Text("detail").ShouldContain("by signing its review");
        (await it.Sign()).Status.ShouldBe(200);
        (await it.To("open")).Body.Text("detail").ShouldContain("stays closed");
        (await it.Do("items", new { by = "everything" })).Status.ShouldBe(422);
        var trail = (await it.Lead.Get("/api/v1/trust/trail")).GetRawText();
        trail.ShouldContain("round signed");
        trail.ShouldContain("items left out of a round");
    }

    [Theory]
    [InlineData("taken back")]
    [InlineData("findings")]
    [InlineData("discarded")]
    public async Task A_round_in_which_anything_happened_is_never_planned_again_and_never_gone(string happened)
    {
        var it = await Planned.OpenAsync(world);
        var kettle = it.Kettle(0);
        var work = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9"));
        if (happened == "findings")
        {
            var choose = new ScopeChosen
            {
                Id = Guid.NewGuid(),
                At = DateTimeOffset.UtcNow,
                Scope = Core.Planning.Scope.FaultFinding,
            };
            (await kettle.Save([choose, .. work], EndKind.Findings)).Status.ShouldBe(200);
        }
        else if (happened == "discarded")
        {
            var events = JsonDocument.Parse(BenchJson.Write(work)).RootElement;
            var sent = new
            {
                id = Guid.NewGuid(),
                roundId = it.Round,
                events,
                reason = "wrong item",
            };
            (await it.Lead.Post($"/api/v1/bench/{kettle.Item}/discard", sent)).Status.ShouldBe(200);
        }
        else
        {
            var (_, saved) = await kettle.Save(work, EndKind.Fail);
            var taken = new { id = Guid.NewGuid(), reason = "clip was off" };
            (await it.Lead.Post($"/api/v1/bench/inspections/{saved.Text("id")}/withdraw", taken)).Status.ShouldBe(200);
        }
        (await it.Page()).GetProperty("tally").GetProperty("left").GetInt32().ShouldBe(3, "nothing of it settles the item");
        (await it.To("planned")).Body.Text("detail").ShouldContain("cannot be planned any more");
        // Planned again by whatever way, it is not swallowed, and the database lets nobody delete it.
        await world.InDatabase(db =>
            db.Rounds.Where(round => round.Id == it.Round)
                .ExecuteUpdateAsync(set => set.SetProperty(round => round.State, Core.Rounds.RoundState.Planned))
        );
        (await it.Lead.Post($"/api/v1/rounds/{it.Open}/merge", new { from = it.Round })).Status.ShouldBe(422);
        await Should.ThrowAsync<PostgresException>(() =>
            world.InDatabase(async db =>
            {
                await db.RoundItems.Where(row => row.RoundId == it.Round).ExecuteDeleteAsync();
                return await db.Rounds.Where(round => round.Id == it.Round).ExecuteDeleteAsync();
            })
        );
    }

    [Fact]
    public async Task Rounds_are_split_merged_and_copied_and_a_copy_chooses_its_standard_anew()
    {
        var it = await Plan();
        await it.Do("items", new { by = "everything" });
        object Part(params string[] rooms) =>
            new
            {
                rooms,
                name = "Bar only",
                startsOn = Day(2),
                endsOn = Day(3),
            };
        (await it.Do("split", Part("Cellar"))).Status.ShouldBe(422);
        var part = (await it.Do("split", Part("Bar"))).Body.GetProperty("id").GetGuid();
        Rooms(await it.Page()).ShouldBe(["Bath 1", "Hall 2"]);
        Rooms(await it.Lead.Get($"/api/v1/rounds/{part}")).ShouldBe(["Bar 1"]);
        (await it.Do("merge", new { from = it.Open })).Status.ShouldBe(422, "an open round is not swallowed");
        (await it.Do("merge", new { from = part })).Status.ShouldBe(204);
        Rooms(await it.Page()).ShouldBe(["Bar 1", "Bath 1", "Hall 2"]);
        (
            await it.Lead.GetAsync(new Uri($"/api/v1/rounds/{part}", UriKind.Relative), TestContext.Current.CancellationToken)
        ).StatusCode.ShouldBe(System.Net.HttpStatusCode.NotFound);

        object Copy(string standard) =>
            new
            {
                name = "Next year",
                startsOn = Day(360),
                endsOn = Day(363),
                standardId = standard,
                medicalStandardId = (string?)null,
            };
        (await it.Do("duplicate", Copy("nonsense"))).Status.ShouldBe(422);
        var copy = (await it.Do("duplicate", Copy("en-50699-2020"))).Body.GetProperty("id").GetGuid();
        var page = await it.Lead.Get($"/api/v1/rounds/{copy}");
        (page.Text("state"), page.Text("standardId"), Rooms(page).Length).ShouldBe(("planned", "en-50699-2020", 3));
    }

    [Fact]
    public async Task A_round_that_differs_from_the_client_says_why_and_rules_by_its_own_choice()
    {
        var it = await Plan();
        await it.Do("items", new { by = "everything" });
        object Details(object? policy, string? reason, string standard = "uk-cop-5", string? from = null) =>
            new
            {
                name = "Spring round",
                startsOn = from ?? Day(0),
                endsOn = Day(5),
                standardId = standard,
                medicalStandardId = (string?)null,
                scopeWords = "All plug-in equipment; nothing hard-wired",
                policy,
                policyReason = reason,
            };
        var own = new { leakage = "none" };
        (await it.Do("details", Details(own, " "))).Status.ShouldBe(422);
        (await it.Do("details", Details(own, null, from: Day(9)))).Status.ShouldBe(422);
        (await it.Do("details", Details(own, "the client's generator does not carry it"))).Status.ShouldBe(204);
        await it.To("open");
        (await it.Kettle(0).Lay()).Policy.Leakage.ShouldBe(Core.Planning.LeakagePolicy.None);
        var page = await it.Page();
        page.GetProperty("choices")
            .EnumerateArray()
            .Select(one => one.GetString())
            .ShouldContain("no leakage where insulation may stand alone");
        (page.Text("scopeWords"), page.Text("policyReason")).ShouldBe(
            ("All plug-in equipment; nothing hard-wired", "the client's generator does not carry it")
        );
        var kettle = it.Kettle(0);
        (await kettle.Save(await kettle.GoodWork())).Status.ShouldBe(200);
        (await it.Do("details", Details(null, null, "en-50699-2020"))).Body.Text("detail").ShouldContain("judged in this round already");
    }

    [Fact]
    public async Task Nonsense_is_refused_and_changes_nothing()
    {
        var it = await Plan();
        await it.Do("items", new { by = "room", value = "Hall" });
        (await it.Do("items", new { by = "kind", value = "dragon" })).Status.ShouldBe(422);
        (await it.Do("items", new { by = "chosen", items = new[] { Guid.NewGuid() } })).Body.GetProperty("added").GetInt32().ShouldBe(0);
        (await it.Do("take-out", new { items = new[] { Guid.NewGuid() } })).Status.ShouldBe(422);
        var me = (await it.Lead.Get("/api/v1/people/me")).Text("id");
        foreach (
            var (day, person, minutes) in new[]
            {
                (Day(-3), me, 60),
                (Day(1), Guid.NewGuid().ToString(), 60),
                (Day(1), me, 0),
                (Day(1), me, 2000),
            }
        )
            (
                await it.Do(
                    "days",
                    new
                    {
                        days = new[]
                        {
                            new
                            {
                                day,
                                personId = person,
                                minutes,
                            },
                        },
                    }
                )
            ).Status.ShouldBe(422);
        (await it.Lead.Post($"/api/v1/rounds/{Guid.NewGuid()}/items", new { by = "due" })).Status.ShouldBe(404);
        Rooms(await it.Page()).ShouldBe(["Hall 2"]);
    }
}
