using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Competences;
using Osierwand.Core.Rounds;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <summary>One person's bench time on one day.</summary>
/// <param name="Free">Minutes, but for what rounds have taken.</param>
/// <param name="Taken">By rounds that are planned or open.</param>
internal sealed record BenchDay(DateOnly Day, Guid PersonId, int Free, int Taken);

/// <summary>Who stands at the bench when, and how far sites are: what a plan is laid into.</summary>
internal static class BenchDays
{
    private const string NotKept = "Nothing was changed.";

    /// <summary>Days on which somebody has bench time or a round takes it, those two included.</summary>
    public static async Task<List<BenchDay>> OfAsync(OsierwandDb db, DateOnly first, DateOnly until, CancellationToken cancel)
    {
        var hours = await db
            .BenchHours.AsNoTracking()
            .Where(it => CompetenceBook.Working(db).Any(person => person.Id == it.PersonId))
            .ToListAsync(cancel);
        var taken = (
            await (
                from day in db.RoundDays
                join round in db.Rounds on day.RoundId equals round.Id
                where day.Day >= first && day.Day <= until && (round.State == RoundState.Planned || round.State == RoundState.Open)
                select new
                {
                    day.Day,
                    day.PersonId,
                    Minutes = day.Minutes + round.Site.TravelMinutes,
                }
            ).ToListAsync(cancel)
        ).ToLookup(it => (it.Day, it.PersonId), it => it.Minutes);
        var days = new List<BenchDay>();
        for (var day = first; day <= until; day = day.AddDays(1))
            foreach (var it in hours)
            {
                var (all, gone) = (it.On(day), taken[(day, it.PersonId)].Sum());
                if (all > 0 || gone > 0)
                    days.Add(new(day, it.PersonId, Math.Max(0, all - gone), gone));
            }
        return days;
    }

    public static async Task<Ok<BenchHoursPage>> Page(OsierwandDb db, CancellationToken cancel)
    {
        var people = await CompetenceBook.PeopleAsync(db, cancel);
        var hours = await db.BenchHours.AsNoTracking().ToDictionaryAsync(it => it.PersonId, cancel);
        return TypedResults.Ok(
            new BenchHoursPage(
                [
                    .. people.Select(it =>
                    {
                        var own = hours.GetValueOrDefault(it.Id);
                        return new PersonHours(
                            it.Id,
                            it.Name,
                            own?.Minutes ?? new int[BenchHours.DaysOfWeek],
                            own?.DaysOff ?? [],
                            [.. it.Held.Select(held => held.Competence).Order().Select(CompetenceFor.NameOf)]
                        );
                    }),
                ],
                await db
                    .Sites.OrderBy(it => it.Client.Name)
                    .ThenBy(it => it.Name)
                    .Select(it => new SiteTravel(it.Id, it.Name, it.Client.Name, it.TravelMinutes))
                    .ToListAsync(cancel)
            )
        );
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> SetPerson(
        Guid personId,
        SetHours sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (await CompetenceBook.Working(db).FirstOrDefaultAsync(it => it.Id == personId, cancel) is not { } person)
            return Refusals.NotFound("person");
        if (sent.Minutes.Count != BenchHours.DaysOfWeek || sent.Minutes.Any(it => it is < 0 or > BenchHours.MostMinutes))
            return Refusals.Invalid(
                NotKept,
                new Fault("minutes", $"Seven days, Monday first, each from 0 to {BenchHours.MostMinutes} minutes.")
            );
        if (sent.DaysOff.Count > BenchHours.MostDaysOff)
            return Refusals.Invalid(NotKept, new Fault("daysOff", $"At most {BenchHours.MostDaysOff} days off are kept."));
        var hours = await db.BenchHours.FindAsync([personId], cancel);
        if (hours is null)
            db.BenchHours.Add(
                hours = new()
                {
                    PersonId = personId,
                    Minutes = [],
                    DaysOff = [],
                }
            );
        var before = new { hours.Minutes, hours.DaysOff };
        (hours.Minutes, hours.DaysOff) = ([.. sent.Minutes], [.. sent.DaysOff.Distinct().Order()]);
        trail.Add("bench hours", person.DisplayName, personId, before, new { hours.Minutes, hours.DaysOff });
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> SetSite(
        Guid siteId,
        SetTravel sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (await db.Sites.FirstOrDefaultAsync(it => it.Id == siteId, cancel) is not { } site)
            return Refusals.NotFound("site");
        if (sent.Minutes is < 0 or > BenchHours.MostMinutes)
            return Refusals.Invalid(NotKept, new Fault("minutes", $"From 0 to {BenchHours.MostMinutes} minutes, there and back."));
        trail.Add("travel to a site", site.Name, siteId, new { site.TravelMinutes }, sent);
        site.TravelMinutes = sent.Minutes;
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }
}
