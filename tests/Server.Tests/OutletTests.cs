using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Outlets;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>Outlets that were measured hold for the outlet and the day, for whoever measured them and for colleagues who say
/// so.</summary>
[Collection(BenchHouse.Name)]
public sealed class OutletTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>In a corner that no other test names.</summary>
    private static OutletChecked Measured(string name, double lineNeutral = 231, double lineEarth = 230.4, double neutralEarth = 0.6) =>
        new()
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Name = name,
            Room = "Counter",
            Voltages = [new("L-N", lineNeutral), new("L-E", lineEarth), new("N-E", neutralEarth)],
        };

    [Fact]
    public async Task What_was_measured_at_one_sheet_serves_the_next_and_a_colleague_by_a_press()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        var outlet = Measured($"by the till {Guid.NewGuid():N}");
        (await kettle.Save([outlet, .. await kettle.GoodWork()])).Status.ShouldBe(200);
        var next = await (await Kettle.Register(kettle.Client)).Lay();
        var known = next.Outlets.Single(it => it.Id == outlet.Id);
        (known.Name, known.IsWorkbench, known.Voltages.Length).ShouldBe((outlet.Name, false, 3));
        next.Outlets[0].PersonId.ShouldBe(next.Technician.Id, "one's own come first");
        var colleague = await Kettle.Register(await world.App.SignedIn("rufus"));
        var theirs = await colleague.Lay();
        theirs.Outlets.ShouldContain(it => it.Id == outlet.Id);
        BenchState.Of(theirs, []).Outlet!.InUse!.PersonId.ShouldBe(theirs.Technician.Id);
        var kept = new OutletKept
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Outlet = outlet.Id,
        };
        BenchState.Of(theirs, [kept]).Outlet!.InUse!.Id.ShouldBe(outlet.Id);
        (await colleague.Save([kept, .. await colleague.GoodWork()])).Status.ShouldBe(200);
        var record = await world.InDatabase(db =>
            db.Inspections.Where(it => it.ItemId == colleague.Item).Select(it => it.Record).SingleAsync(Cancel)
        );
        JsonDocument.Parse(record).RootElement.GetProperty("outlet").Text("name").ShouldBe(outlet.Name);
    }

    [Fact]
    public async Task A_wrong_outlet_passes_nothing_is_kept_even_with_a_discarded_sheet_and_stands_on_the_round()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        var crossed = Measured($"behind the urn {Guid.NewGuid():N}", lineEarth: 0.4, neutralEarth: 230);
        List<BenchEvent> sheet = [.. await kettle.GoodWork(), crossed];
        var (status, refusal) = await kettle.Save(sheet);
        status.ShouldBe(422);
        refusal.Text("detail").ShouldContain("crossed");
        (
            await kettle.Client.Post(
                $"/api/v1/bench/{kettle.Item}/discard",
                new
                {
                    id = Guid.NewGuid(),
                    roundId = kettle.Round,
                    events = JsonDocument.Parse(BenchJson.Write(sheet)).RootElement,
                    reason = "the outlet is for the electrician first",
                }
            )
        ).Status.ShouldBe(200);
        (await kettle.Lay()).Outlets.ShouldNotContain(it => it.Name == crossed.Name);
        var round = await kettle.Client.Get($"/api/v1/rounds/{kettle.Round}");
        round.GetProperty("wrongOutlets").GetRawText().ShouldContain(crossed.Name);
        // Mended and measured again it is good, and told no more.
        var mended = Measured(crossed.Name);
        (await kettle.Save([mended, .. await kettle.GoodWork()])).Status.ShouldBe(200);
        (await kettle.Client.Get($"/api/v1/rounds/{kettle.Round}")).GetProperty("wrongOutlets").GetRawText().ShouldNotContain(crossed.Name);
    }

    [Fact]
    public async Task Sent_twice_it_is_kept_once_and_what_is_kept_is_never_changed()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        var outlet = Measured($"twice {Guid.NewGuid():N}");
        var (id, ruling) = (Guid.NewGuid(), await kettle.Lay());
        List<BenchEvent> sheet = [outlet, .. await kettle.GoodWork()];
        (await kettle.Save(sheet, id: id, ruling: ruling)).Status.ShouldBe(200);
        (await kettle.Save(sheet, id: id, ruling: ruling)).Status.ShouldBe(200);
        (await world.InDatabase(db => db.OutletChecks.CountAsync(it => it.Name == outlet.Name, Cancel))).ShouldBe(1);
        foreach (var sql in new[] { "UPDATE outlet_checks SET is_good = true", "DELETE FROM outlet_checks", "TRUNCATE outlet_checks" })
            await Should.ThrowAsync<PostgresException>(() => world.InDatabase(db => db.Database.ExecuteSqlRawAsync(sql, Cancel)));
    }

    [Fact]
    public async Task Nobody_uses_an_outlet_that_nobody_measured_today()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        var forged = new OutletKept
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Outlet = Guid.NewGuid(),
        };
        var bad = Measured($"forged {Guid.NewGuid():N}", 0, 0, 0);
        var (status, refusal) = await kettle.Save([.. await kettle.GoodWork(), bad, forged]);
        status.ShouldBe(422);
        refusal.Text("detail").ShouldContain("No voltage anywhere");
        await world.InDatabase(async db =>
        {
            var yesterday = await db.OutletChecks.AsNoTracking().Where(it => it.IsWorkbench).FirstAsync(Cancel);
            (yesterday.Id, yesterday.Day, yesterday.Name) = (Guid.NewGuid(), yesterday.Day.AddDays(-1), "yesterday's");
            yesterday.At = yesterday.At.AddDays(-1);
            db.OutletChecks.Add(yesterday);
            return await db.SaveChangesAsync(Cancel);
        });
        (await kettle.Lay()).Outlets.ShouldNotContain(it => it.Name == "yesterday's");
    }
}
