using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Bench;
using Osierwand.Core.Looking;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>The list to look at, as a lead changes it: versioned, with reasons, in every ruling and record from then on.</summary>
[Collection(BenchHouse.Name)]
public sealed class LookListTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static object Change(
        int revision,
        string kind,
        string reason,
        object? more = null,
        string? pointId = null,
        int? target = null
    ) =>
        new
        {
            revision,
            kind,
            pointId,
            target,
            where = more is null ? null : "Lid",
            text = more is null ? null : "Lid lock holds",
            phrases = new[] { "Lid does not lock", " " },
            // Of portable RCDs alone: no other test of this house looks at one.
            kinds = new[] { "portableRcd" },
            classes = Array.Empty<string>(),
            plugs = Array.Empty<string>(),
            packs = Array.Empty<string>(),
            reason,
        };

    [Fact]
    public async Task A_lead_adds_drops_and_takes_back_and_every_change_counts_and_is_told()
    {
        var lead = await world.App.SignedIn("maud");
        var before = (await lead.Get("/api/v1/look-list")).GetProperty("revision").GetInt32();
        var (status, page) = await lead.Post("/api/v1/look-list", Change(before, "add", "hire counter", new { }));
        status.ShouldBe(200);
        var revision = page.GetProperty("revision").GetInt32();
        revision.ShouldBe(before + 1);
        page.GetProperty("points").GetRawText().ShouldContain($"house/{revision}");
        (await lead.Post("/api/v1/look-list", Change(revision, "drop", "", pointId: "case"))).Status.ShouldBe(422);
        (await lead.Post("/api/v1/look-list", Change(revision, "drop", "nothing", pointId: "nonsense"))).Status.ShouldBe(422);
        (await lead.Post("/api/v1/look-list", Change(before, "drop", "late", pointId: "case"))).Status.ShouldBe(409);
        (await lead.Post("/api/v1/look-list", Change(revision, "drop", "moulded in one", pointId: "case"))).Status.ShouldBe(200);
        var ruling = (await (await Kettle.Register(lead)).Lay()).Look!;
        ruling.Added.ShouldContain(it => it.Id == $"house/{revision}" && it.Phrases.SequenceEqual(new[] { "Lid does not lock" }));
        ruling.Dropped.ShouldContain(it => it.PointId == "case" && it.Reason == "moulded in one");
        // Taken back they hold no more; what was is told for ever.
        (await lead.Post("/api/v1/look-list", Change(revision + 1, "takeBack", "as it was", target: revision))).Status.ShouldBe(200);
        (await lead.Post("/api/v1/look-list", Change(revision + 2, "takeBack", "as it was", target: revision))).Status.ShouldBe(422);
        var (_, last) = await lead.Post("/api/v1/look-list", Change(revision + 2, "takeBack", "as it was", target: revision + 1));
        last.GetProperty("changes").GetArrayLength().ShouldBe(revision + 3);
        last.GetProperty("points").GetRawText().ShouldNotContain($"house/{revision}\"");
        using var ida = await world.App.SignedIn("ida");
        (await ida.Get("/api/v1/look-list")).GetProperty("mayChange").GetBoolean().ShouldBeFalse();
        await Should.ThrowAsync<PostgresException>(() =>
            world.InDatabase(db => db.Database.ExecuteSqlRawAsync("UPDATE look_changes SET reason = ''", Cancel))
        );
    }

    [Fact]
    public async Task A_record_names_the_photos_of_its_item_and_no_others()
    {
        var kettle = await Kettle.Register(await world.App.SignedIn("ida"));
        var foreign = new PhotoTaken
        {
            Id = Guid.NewGuid(),
            At = DateTimeOffset.UtcNow,
            Photo = Guid.NewGuid(),
            Of = "case",
        };
        var (status, refusal) = await kettle.Save([.. await kettle.GoodWork(), foreign]);
        status.ShouldBe(422);
        refusal.Text("detail").ShouldContain("photo");
    }
}
