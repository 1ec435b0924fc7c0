using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Competences;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <param name="Kinds">Every competence there is, with its words.</param>
public sealed record CompetencePage(IReadOnlyList<CompetenceKind> Kinds, IReadOnlyList<PersonCompetences> People);

public sealed record CompetenceKind(Competence Competence, string Text);

/// <param name="IsMe">The person who asks.</param>
public sealed record PersonCompetences(Guid PersonId, string Name, bool IsMe, IReadOnlyList<CompetenceCard> Held);

/// <param name="HasLapsed">It holds no more.</param>
/// <param name="IsLapsing">It lapses within thirty days.</param>
public sealed record CompetenceCard(
    Competence Competence,
    string Text,
    DateOnly? ExpiresOn,
    string Evidence,
    bool HasLapsed,
    bool IsLapsing
);

/// <param name="Held">All that the person is competent for from now on; what is not in it is taken away.</param>
public sealed record SetCompetences(IReadOnlyList<HeldCompetence> Held);

/// <summary>Who is competent for what: told to everybody who works, decided by leads.</summary>
internal static class CompetenceEndpoints
{
    private const int Lapsing = 30;

    public static void MapCompetences(this RouteGroupBuilder api)
    {
        var people = api.MapGroup("/people").WithTags("People");
        people.MapGet("/competences", All).For(Access.Worker);
        people.MapPost("/{personId:guid}/competences", Set).For(Access.Lead);
    }

    private static async Task<Ok<CompetencePage>> All(OsierwandDb db, ClaimsPrincipal user, TimeProvider time, CancellationToken cancel)
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var people = await CompetenceBook
            .Working(db)
            .OrderBy(it => it.DisplayName)
            .Select(it => new { it.Id, it.DisplayName })
            .ToListAsync(cancel);
        var held = await db.PersonCompetences.AsNoTracking().ToListAsync(cancel);
        var cards = held.ToLookup(
            it => it.PersonId,
            it => new CompetenceCard(
                it.Competence,
                CompetenceFor.NameOf(it.Competence),
                it.ExpiresOn,
                it.Evidence,
                it.ExpiresOn < today,
                it.ExpiresOn >= today && it.ExpiresOn <= today.AddDays(Lapsing)
            )
        );
        return TypedResults.Ok(
            new CompetencePage(
                [.. CompetenceFor.All.Select(it => new CompetenceKind(it, CompetenceFor.NameOf(it)))],
                [
                    .. people.Select(it => new PersonCompetences(
                        it.Id,
                        it.DisplayName,
                        it.Id == user.Id(),
                        [.. cards[it.Id].OrderBy(card => card.Competence)]
                    )),
                ]
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Set(
        Guid personId,
        SetCompetences sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (await CompetenceBook.Working(db).FirstOrDefaultAsync(it => it.Id == personId, cancel) is not { } person)
            return Refusals.NotFound("person who works here");
        if (Wrong(sent.Held) is { } fault)
            return Refusals.Invalid("Nothing was changed.", fault);
        var before = await db.PersonCompetences.Where(it => it.PersonId == personId).ToListAsync(cancel);
        trail.Add(
            "competences set",
            person.DisplayName,
            personId,
            before.Select(it => new HeldCompetence(it.Competence, it.ExpiresOn, it.Evidence)).OrderBy(it => it.Competence),
            sent.Held
        );
        db.PersonCompetences.RemoveRange(before.Where(it => sent.Held.All(held => held.Competence != it.Competence)));
        foreach (var held in sent.Held)
        {
            var row = before.Find(it => it.Competence == held.Competence);
            if (row is null)
                db.PersonCompetences.Add(
                    row = new()
                    {
                        PersonId = personId,
                        Competence = held.Competence,
                        Evidence = "",
                    }
                );
            (row.ExpiresOn, row.Evidence) = (held.ExpiresOn, held.Evidence.Trim());
        }
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static Fault? Wrong(IReadOnlyList<HeldCompetence> held) =>
        held.GroupBy(it => it.Competence).Any(it => it.Count() > 1) ? new Fault("held", "Each competence is held once.")
        : held.FirstOrDefault(it => string.IsNullOrWhiteSpace(it.Evidence)) is { } bare
            ? new Fault("evidence", $"Say by what it is shown: {CompetenceFor.NameOf(bare.Competence)}.")
        : held.Any(it => it.Evidence.Length > PersonCompetence.LongestEvidence)
            ? new Fault("evidence", $"At most {PersonCompetence.LongestEvidence} characters.")
        : null;
}
