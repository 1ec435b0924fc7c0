using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Rounds;
using Osierwand.Core.Schedule;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Schedule;

/// <summary>What falls due, as piles by week against the hours that people have.</summary>
internal static class DueWeeks
{
    public const int FewestWeeks = 2;
    public const int MostWeeks = 26;

    /// <summary>Inspections that the bench time of a kind is taken from.</summary>
    private const int KindLooksBack = 1_000;

    public static async Task<Ok<DueBoard>> Board(
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel,
        int weeks = 8,
        Word<DueBy>? by = null,
        string? client = null
    )
    {
        var rules = await HousePacks.RulesAsync(db, cancel);
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var monday = MondayOf(today);
        var count = Math.Clamp(weeks, FewestWeeks, MostWeeks);
        var until = monday.AddDays(count * DueItems.DaysInAWeek - 1);
        var due = DueItems.By(db, until);
        if (!string.IsNullOrEmpty(client))
            due = due.Where(it => it.Client.Code == client);
        var counted = await DueItems.CountedAsync(due, monday, today, rules.DueWindow, cancel);
        var minutes = await MinutesAsync(db, rules, cancel);
        var sites = await db
            .Sites.Select(it => new
            {
                it.Id,
                it.Name,
                Client = it.Client.Name,
            })
            .ToDictionaryAsync(it => it.Id, cancel);
        (string Key, string Name, string? Under) RowOf(DueCount it) =>
            (by?.Value ?? DueBy.Site) switch
            {
                DueBy.Kind => (it.Kind, KindText(it.Kind), null),
                DueBy.Tier => (Words.Of(it.Tier), Falling.Text(it.Tier), null),
                _ => ($"{it.SiteId}", sites[it.SiteId].Name, sites[it.SiteId].Client),
            };
        var rows = counted
            .GroupBy(RowOf)
            .OrderBy(it => it.Key.Under)
            .ThenBy(it => it.Key.Name)
            .Select(row => new DueRow(
                row.Key.Key,
                row.Key.Name,
                row.Key.Under,
                [
                    .. Enumerable
                        .Range(0, count)
                        .Select(week => row.Where(it => it.Week == week).ToArray())
                        .Select(all => new DuePile(
                            all.Sum(it => it.Items),
                            all.Where(it => it.IsOver).Sum(it => it.Items),
                            (int)Math.Round(all.Sum(it => it.Items * minutes(it.Kind, it.Tier)))
                        )),
                ]
            ))
            .ToList();
        var held = db.Items.Where(it => it.State == ItemState.Quarantined || it.State == ItemState.InRepair);
        if (!string.IsNullOrEmpty(client))
            held = held.Where(it => it.Client.Code == client);
        return TypedResults.Ok(
            new DueBoard(
                [.. Enumerable.Range(0, count).Select(week => monday.AddDays(week * DueItems.DaysInAWeek))],
                rows,
                db.Sight.SeesAll ? await HoursAsync(db, rows, monday, today, count, cancel) : null,
                counted.Sum(it => it.Items),
                counted.Where(it => it.IsOver).Sum(it => it.Items),
                counted.Where(it => it.IsNever).Sum(it => it.Items),
                await held.CountAsync(cancel),
                await db.Clients.OrderBy(it => it.Name).Select(it => new ScheduleClient(it.Code, it.Name)).ToListAsync(cancel)
            )
        );
    }

    public static DateOnly MondayOf(DateOnly day) => day.AddDays(-(((int)day.DayOfWeek + 6) % DueItems.DaysInAWeek));

    private static async Task<List<WeekHours>> HoursAsync(
        OsierwandDb db,
        List<DueRow> rows,
        DateOnly monday,
        DateOnly today,
        int count,
        CancellationToken cancel
    )
    {
        var days = await BenchDays.OfAsync(db, today, monday.AddDays(count * DueItems.DaysInAWeek - 1), cancel);
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(week =>
                {
                    var inWeek = days.Where(it => (it.Day.DayNumber - monday.DayNumber) / DueItems.DaysInAWeek == week).ToArray();
                    return new WeekHours(rows.Sum(row => row.Piles[week].Minutes), inWeek.Sum(it => it.Free), inWeek.Sum(it => it.Taken));
                }),
        ];
    }

    /// <summary>What a kind takes at the bench, in minutes, by its last inspections: exact enough for a pile, and read in one go.</summary>
    private static async Task<Func<string, DueTier, double>> MinutesAsync(OsierwandDb db, Thresholds rules, CancellationToken cancel)
    {
        var recent = await (
            from it in db.Inspections.Where(it => it.BenchSeconds != null).OrderByDescending(it => it.TestedAt).Take(KindLooksBack)
            join item in db.Items on it.ItemId equals item.Id
            select new
            {
                item.KindWord,
                it.IsTest,
                Seconds = it.BenchSeconds!.Value,
            }
        ).ToListAsync(cancel);
        var known = recent.ToLookup(it => (it.KindWord, it.IsTest), it => TimeSpan.FromSeconds(it.Seconds));
        // A pile of every site and week asks for the same few kinds.
        var medians = new Dictionary<(string, DueTier), double>();
        return (kind, tier) =>
        {
            if (medians.TryGetValue((kind, tier), out var median))
                return median;
            var isTest = tier == DueTier.Combined;
            var unknown = isTest ? rules.BenchUnknown : rules.LookUnknown;
            return medians[(kind, tier)] = BenchTime.Of([], known[(kind, isTest)], rules, unknown).Median.TotalMinutes;
        };
    }

    private static string KindText(string word) => Words.Find<ItemKind>(word) is { } kind ? EquipmentText.Kind(kind) : word;
}
