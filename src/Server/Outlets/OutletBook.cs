using System.Collections.Immutable;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Outlets;
using Osierwand.Server.Kit;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Outlets;

/// <summary>Outlets as they were measured: valid for the outlet and the day.</summary>
public sealed class OutletBook(OsierwandDb db)
{
    /// <summary>Offered at the bench; a day at one site checks no more.</summary>
    private const int MostOffered = 60;

    /// <returns>Those whose last check of the day was good, the person's own first, the latest before earlier ones.</returns>
    internal async Task<ImmutableArray<OutletOfTheDay>> OfTodayAsync(Guid site, DateOnly today, Guid person, CancellationToken cancel)
    {
        var checks = await db
            .OutletChecks.AsNoTracking()
            .Where(it => it.SiteId == site && it.Day == today)
            .OrderByDescending(it => it.At)
            .ToListAsync(cancel);
        // Of each outlet the last check counts, whoever made it; where it is good, everybody who measured it has it for their own.
        return
        [
            .. checks
                .GroupBy(Same)
                .Where(outlet => outlet.First().IsGood)
                .SelectMany(outlet => outlet.Where(it => it.IsGood).DistinctBy(it => it.PersonId))
                .OrderByDescending(it => it.PersonId == person)
                .Take(MostOffered)
                .Select(it => new OutletOfTheDay(
                    it.Id,
                    it.PersonId,
                    it.Name,
                    it.Room,
                    it.IsWorkbench,
                    it.At,
                    it.Person,
                    SupplyOf(it),
                    JsonSerializer.Deserialize<ImmutableArray<OutletVoltage>>(it.Voltages, KitAtHand.Stored)
                )),
        ];
    }

    /// <returns>Of each outlet the last check since that day, where that one was not good.</returns>
    internal async Task<List<OutletCheck>> FoundWrongAsync(Guid site, DateOnly since, CancellationToken cancel)
    {
        var checks = await db
            .OutletChecks.AsNoTracking()
            .Where(it => it.SiteId == site && it.Day >= since)
            .OrderByDescending(it => it.At)
            .ToListAsync(cancel);
        return [.. checks.DistinctBy(Same).Where(it => !it.IsGood)];
    }

    /// <summary>By which people tell outlets apart.</summary>
    private static (string, string, OutletSupply) Same(OutletCheck it) =>
        (it.Name.ToUpperInvariant(), it.Room.ToUpperInvariant(), SupplyOf(it));

    /// <summary>Keeps what was measured on a sheet, whatever became of the sheet. What is kept already is kept once.</summary>
    /// <param name="now">What a page dates later than this was not measured later.</param>
    internal async Task KeepAsync(BenchState state, Site site, DateTimeOffset now, CancellationToken cancel)
    {
        if (state.Outlet?.Measured is not { IsEmpty: false } measured)
            return;
        foreach (var it in measured)
        {
            var row = Row(it with { Outlet = it.Outlet with { At = it.Outlet.At > now ? now : it.Outlet.At } }, site);
            await db.Database.ExecuteSqlAsync(
                $"""
                INSERT INTO outlet_checks (id, site_id, person_id, person, at, day, name, room, is_workbench, nominal_v, phases,
                    is_centre_earthed, voltages, is_good, says)
                VALUES ({row.Id}, {row.SiteId}, {row.PersonId}, {row.Person}, {row.At}, {row.Day}, {row.Name}, {row.Room},
                    {row.IsWorkbench}, {row.NominalV}, {row.Phases}, {row.IsCentreEarthed}, {row.Voltages}::json, {row.IsGood}, {row.Says})
                ON CONFLICT (id) DO NOTHING
                """,
                cancel
            );
        }
    }

    internal static OutletCheck Row(MeasuredOutlet it, Site site) =>
        new()
        {
            Id = it.Outlet.Id,
            SiteId = site.Id,
            PersonId = it.Outlet.PersonId,
            Person = it.Outlet.By,
            At = it.Outlet.At.ToUniversalTime(),
            Day = site.DayOf(it.Outlet.At),
            Name = it.Outlet.Name,
            Room = it.Outlet.Room,
            IsWorkbench = it.Outlet.IsWorkbench,
            NominalV = it.Outlet.Supply.NominalV,
            Phases = it.Outlet.Supply.Phases,
            IsCentreEarthed = it.Outlet.Supply.IsCentreEarthed,
            Voltages = JsonSerializer.Serialize(it.Outlet.Voltages, KitAtHand.Stored),
            IsGood = it.Finding.IsGood,
            Says = it.Finding.Says,
        };

    private static OutletSupply SupplyOf(OutletCheck it) => new(it.NominalV, it.Phases, it.IsCentreEarthed);
}
