using System.Collections.Immutable;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>Somebody of the house who works.</summary>
internal sealed record WorkingPerson(Guid Id, string Name, ImmutableArray<HeldCompetence> Held);

/// <summary>Who holds which competence, until when.</summary>
public sealed class CompetenceBook(OsierwandDb db)
{
    /// <summary>In the order of the enumeration: a ruling's fingerprint runs over it.</summary>
    internal async Task<ImmutableArray<HeldCompetence>> HeldByAsync(Guid person, CancellationToken cancel)
    {
        var held = await db
            .PersonCompetences.Where(it => it.PersonId == person)
            .Select(it => new HeldCompetence(it.Competence, it.ExpiresOn, it.Evidence))
            .ToListAsync(cancel);
        return [.. held.OrderBy(it => it.Competence)];
    }

    /// <summary>Everybody who works here, by name, with what they hold.</summary>
    internal static async Task<WorkingPerson[]> PeopleAsync(OsierwandDb db, CancellationToken cancel)
    {
        var people = await Working(db).OrderBy(it => it.DisplayName).Select(it => new { it.Id, it.DisplayName }).ToListAsync(cancel);
        var held = (await db.PersonCompetences.AsNoTracking().ToListAsync(cancel)).ToLookup(
            it => it.PersonId,
            it => new HeldCompetence(it.Competence, it.ExpiresOn, it.Evidence)
        );
        return [.. people.Select(it => new WorkingPerson(it.Id, it.DisplayName, [.. held[it.Id]]))];
    }

    /// <summary>Of the house, with an open account: a client's viewer tests nothing.</summary>
    internal static IQueryable<Person> Working(OsierwandDb db) =>
        from person in db.Users
        join link in db.UserRoles on person.Id equals link.UserId
        join role in db.Roles on link.RoleId equals role.Id
        where person.ClosedAt == null && role.Name != Person.Viewer
        select person;

    /// <summary>Names of the house's own people who may test this item today.</summary>
    internal async Task<ImmutableArray<string>> WhoMayTestAsync(Ruling ruling, CancellationToken cancel)
    {
        var held = await (
            from person in Working(db)
            join one in db.PersonCompetences on person.Id equals one.PersonId
            where person.Id != ruling.Technician.Id
            select new
            {
                person.Id,
                person.DisplayName,
                Held = new HeldCompetence(one.Competence, one.ExpiresOn, one.Evidence),
            }
        ).ToListAsync(cancel);
        return
        [
            .. held.GroupBy(it => (it.Id, it.DisplayName), it => it.Held)
                .Where(it => CompetenceFor.Lacking(ruling.Item.Equipment, [.. it], ruling.Today).IsEmpty)
                .Select(it => it.Key.DisplayName)
                .Distinct()
                .Order(),
        ];
    }
}
