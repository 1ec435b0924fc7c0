using System.Security.Cryptography;
using System.Text;
using Ical.Net;
using Ical.Net.CalendarComponents;
using Ical.Net.DataTypes;
using Ical.Net.Serialization;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Core.Standards;
using Osierwand.Server.Standards;
using Osierwand.Server.UserChecks;
using Osierwand.Store;

namespace Osierwand.Server.Schedule;

/// <summary>One entry, of whole days: a date is local to its site and has no clock, so that no summer time moves it.</summary>
/// <param name="Id">Stays the same as long as it is about the same.</param>
/// <param name="Until">Its last day.</param>
/// <param name="IsBusy">Somebody's time is taken by it.</param>
/// <param name="WeeklyUntil">It comes every week, up to this day; null where it comes once.</param>
public sealed record CalendarEntry(
    string Id,
    DateOnly From,
    DateOnly Until,
    string Title,
    string Words,
    string Where,
    bool IsBusy,
    DateOnly? WeeklyUntil = null
);

/// <summary>What a calendar link tells: a person's bench days, or a client's due dates and rounds.</summary>
public sealed class CalendarFeeds(OsierwandDb db, TimeProvider time)
{
    private const int DaysBack = 30;
    private const int MonthsAhead = 12;

    /// <summary>Named one by one in an entry; the rest is counted.</summary>
    private const int MostNamed = 25;
    private const string Ours = "-//Osierwand//Schedule//EN";

    public DateOnly Today => DateOnly.FromDateTime(time.GetLocalNow().DateTime);

    /// <summary>Days on which a person has bench time in a round.</summary>
    public async Task<List<CalendarEntry>> OfPersonAsync(Guid person, CancellationToken cancel)
    {
        var since = Today.AddDays(-DaysBack);
        var days = await (
            from day in db.RoundDays
            join round in db.Rounds on day.RoundId equals round.Id
            where day.PersonId == person && day.Day >= since && round.State != RoundState.Closed
            orderby day.Day, round.Name
            select new
            {
                day.Day,
                day.Minutes,
                round.Id,
                round.Name,
                Site = round.Site.Name,
                Client = round.Site.Client.Name,
                Items = db.RoundItems.Count(it => it.RoundId == round.Id && it.ExcludedWhy == null),
            }
        ).ToListAsync(cancel);
        return
        [
            .. days.Select(it => new CalendarEntry(
                $"round-{it.Id:N}-{it.Day:yyyyMMdd}",
                it.Day,
                it.Day,
                $"{it.Site}: {it.Name}",
                $"{DayPlan.Minutes(TimeSpan.FromMinutes(it.Minutes))} at the bench. {PlanText.Items(it.Items)} in the round.",
                $"{it.Client}, {it.Site}",
                true
            )),
        ];
    }

    /// <summary>What falls due at a client's sites, day by day, the rounds that are planned there, and what the users look at.</summary>
    public async Task<List<CalendarEntry>> OfClientAsync(Guid client, CancellationToken cancel)
    {
        var (today, window) = (Today, (await HousePacks.RulesAsync(db, cancel)).DueWindow);
        var due = await DueItems
            .By(db, today.AddMonths(MonthsAhead))
            .AsNoTracking()
            .Where(it => it.ClientId == client)
            .OrderBy(it => it.Tag)
            .Select(it => new
            {
                it.SiteId,
                Site = it.Site.Name,
                it.Tag,
                it.Name,
                it.Room,
                it.Due,
                it.VisualDue,
            })
            .ToListAsync(cancel);
        var entries = due.Select(it => (Item: it, Falls: Falling.Of(it.Due, it.VisualDue, null, null, window)))
            // What is over is to be seen today, whenever it was due.
            .GroupBy(it =>
                (it.Item.SiteId, it.Item.Site, Day: it.Falls.By is { } day && day >= today ? day : today, IsOver: !(it.Falls.By >= today))
            )
            .Select(day => new CalendarEntry(
                day.Key.IsOver ? $"over-{day.Key.SiteId:N}" : $"due-{day.Key.SiteId:N}-{day.Key.Day:yyyyMMdd}",
                day.Key.Day,
                day.Key.Day,
                $"{day.Key.Site}: {PlanText.Items(day.Count())} {(day.Key.IsOver ? "past due" : "due")}",
                Named([.. day], it => $"{it.Item.Tag} {it.Item.Name}, {it.Item.Room}: {Falling.Text(it.Falls.Tier)}"),
                day.Key.Site,
                false
            ));
        var since = today.AddDays(-DaysBack);
        var rounds = await db
            .Rounds.Where(it => it.Site.ClientId == client && it.EndsOn >= since && it.State != RoundState.Closed)
            .Select(it => new
            {
                it.Id,
                it.Name,
                it.StartsOn,
                it.EndsOn,
                Site = it.Site.Name,
            })
            .ToListAsync(cancel);
        return
        [
            .. entries
                .Concat(
                    rounds.Select(it => new CalendarEntry(
                        $"round-{it.Id:N}",
                        it.StartsOn,
                        it.EndsOn,
                        $"{it.Site}: testers come",
                        it.Name,
                        it.Site,
                        false
                    ))
                )
                .Concat(await UserChecksAsync(client, today, cancel))
                .OrderBy(it => it.From)
                .ThenBy(it => it.Id, StringComparer.Ordinal),
        ];
    }

    /// <summary>What is looked at every week comes every week, whoever looked when; what has longer has its days.</summary>
    private async Task<List<CalendarEntry>> UserChecksAsync(Guid client, DateOnly today, CancellationToken cancel)
    {
        var (monday, until) = (DueWeeks.MondayOf(today), today.AddMonths(MonthsAhead));
        var entries = new List<CalendarEntry>();
        var sites = await db
            .Sites.Where(it => it.ClientId == client)
            .OrderBy(it => it.Name)
            .Select(it => new { it.Id, it.Name })
            .ToListAsync(cancel);
        foreach (var site in sites)
        {
            var all = await UserCheckWeeks.DatedAsync(db, site.Id, today, cancel);
            CalendarEntry Entry(string id, DateOnly day, IEnumerable<UserCheckDue> of, DateOnly? weekly = null)
            {
                var named = of.OrderBy(it => it.Room, StringComparer.Ordinal).ThenBy(it => it.Tag, StringComparer.Ordinal).ToArray();
                return new(
                    id,
                    day,
                    day,
                    $"{site.Name}: users look over {PlanText.Items(named.Length)}",
                    Named(named, it => $"{it.Tag} {it.Name}, {it.Room}: {it.Rhythm}"),
                    site.Name,
                    false,
                    weekly
                );
            }
            if (all.Where(it => it.Looks.IsWeekly).ToArray() is { Length: > 0 } weekly)
                entries.Add(Entry($"users-{site.Id:N}-weekly", monday, weekly, until));
            entries.AddRange(
                all.Where(it => !it.Looks.IsWeekly)
                    .SelectMany(it => it.Days(today, until).Select(day => (Day: day, It: it)))
                    .GroupBy(it => it.Day, it => it.It)
                    .Select(it => Entry($"users-{site.Id:N}-{it.Key:yyyyMMdd}", it.Key, it))
            );
        }
        return entries;
    }

    private static string Named<T>(T[] all, Func<T, string> line) =>
        string.Join('\n', all.Take(MostNamed).Select(line).Concat(all.Length > MostNamed ? [$"and {all.Length - MostNamed} more"] : []));

    /// <summary>As RFC 5545 has it. The same entries on the same day are the same to the letter, so that whoever reads it every minute is
    /// told that nothing changed.</summary>
    public byte[] Write(string name, IReadOnlyList<CalendarEntry> entries)
    {
        var calendar = new Calendar { ProductId = Ours };
        calendar.AddProperty("X-WR-CALNAME", name);
        var refresh = new CalendarProperty("REFRESH-INTERVAL", "PT1H");
        refresh.Parameters.Add(new CalendarParameter("VALUE", "DURATION"));
        calendar.Properties.Add(refresh);
        // When this version was made: to the day, for an hour would make every reading another.
        var stamp = new CalDateTime(Today.ToDateTime(TimeOnly.MinValue, DateTimeKind.Utc));
        foreach (var it in entries)
        {
            var written = new CalendarEvent
            {
                Uid = $"{it.Id}@osierwand",
                DtStamp = stamp,
                Start = new CalDateTime(it.From),
                // The first day after it, as the format counts.
                End = new CalDateTime(it.Until.AddDays(1)),
                Summary = it.Title,
                Description = it.Words,
                Location = it.Where,
                Transparency = it.IsBusy ? TransparencyType.Opaque : TransparencyType.Transparent,
            };
            if (it.WeeklyUntil is { } last)
                written.RecurrenceRule = new(FrequencyType.Weekly) { Until = new CalDateTime(last) };
            calendar.Events.Add(written);
        }
        return Encoding.UTF8.GetBytes(new CalendarSerializer().SerializeToString(calendar)!);
    }

    /// <summary>For whoever asks again: the same words have the same tag.</summary>
    public static string TagOf(byte[] text) => $"\"{Convert.ToHexStringLower(SHA256.HashData(text).AsSpan(0, 12))}\"";
}
