using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Kit;
using Osierwand.Core.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Kit;

/// <summary>What a person has in hand today, as it goes into every ruling.</summary>
public sealed class KitAtHand(OsierwandDb db, InstrumentLines lines, TimeProvider time)
{
    internal static readonly JsonSerializerOptions Stored = new(JsonSerializerDefaults.Web)
    {
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.CamelCase, allowIntegerValues: false) },
    };

    /// <returns><see cref="KitInHand.NotChosen"/> where nothing was chosen within a working day, or no instrument is among it.</returns>
    internal async Task<KitInHand> InHandAsync(Guid person, ImmutableArray<HouseRuling> house, CancellationToken cancel)
    {
        Thresholds rules = new(HouseRuling.Table(house, Thresholds.Id)!);
        var since = time.GetUtcNow() - rules.KitKeeps;
        var items = await (
            from day in db.KitsOfDay
            from item in db.Kit
            where day.PersonId == person && day.At > since && day.Items.Contains(item.Id)
            orderby item.Kind, item.Name
            select item
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        KitItem? One(KitKind kind) => items.FirstOrDefault(item => item.Kind == kind);
        if ((One(KitKind.Instrument) ?? One(KitKind.Meter)) is not { } first)
            return KitInHand.NotChosen;
        var lead = One(KitKind.TestLead);
        Task<KitInHand>? Beside(KitKind kind, KitItem? with = null) =>
            One(kind) is { } item && item != first ? MeasuringAsync(item, with, "", rules, cancel) : null;
        return await MeasuringAsync(first, lead, "no test lead", rules, cancel) with
        {
            Pieces = [.. items.Where(item => !item.Kind.Measures()).Select(item => Piece(item, rules))],
            Analyser = Beside(KitKind.PerformanceAnalyser) is { } analyser ? await analyser : null,
            Meter = Beside(KitKind.Meter, lead) is { } meter ? await meter : null,
            Clamp = Beside(KitKind.LeakageClamp) is { } clamp ? await clamp : null,
        };
    }

    /// <param name="lead">What its earth readings are taken through; null where it has none that is nulled.</param>
    private async Task<KitInHand> MeasuringAsync(KitItem item, KitItem? lead, string noLead, Thresholds rules, CancellationToken cancel)
    {
        var identity = await lines.IdentityAsync(item.Serial, cancel);
        var isConnected = identity is not null;
        var standing = StandingOf(item, rules);
        return new(
            item.Id,
            item.Name,
            item.Serial ?? "",
            item.CalibrationDue ?? default,
            lead?.Name ?? noLead,
            lead?.NullOhm,
            lead?.NulledAt,
            isConnected ? [.. identity!.Functions] : [],
            AccuraciesOf(item),
            standing.Trouble ?? (lead is not null && (isConnected || !item.NullsItself) ? NullTrouble(lead, rules) : null),
            isConnected
        )
        {
            Kind = item.Kind,
            Checked = item.CheckedAt is { } at
                ? new(at, item.CheckedBy ?? "", item.CheckedWith ?? "", item.CheckTrouble is null, [.. item.CheckLines])
                : null,
            NullsItself = item.NullsItself,
            AsksForNull = isConnected && lead is not null && (NullOf(lead) is null || NullTrouble(lead, rules) is not null),
            Warning = standing.Warnings.IsEmpty ? null : string.Join(" ", standing.Warnings),
        };
    }

    /// <summary>Of the instrument that a lead is nulled on: the one chosen for today that is on a line, or, where none was chosen, the only
    /// one there is.</summary>
    internal async Task<string?> SerialInHandAsync(Guid person, CancellationToken cancel)
    {
        var connected = (await lines.ConnectedAsync(cancel)).Select(it => it.Serial).ToArray();
        var chosen = await (
            from day in db.KitsOfDay
            from item in db.Kit
            where day.PersonId == person && day.Items.Contains(item.Id) && item.Kind == KitKind.Instrument
            orderby day.At descending
            select item.Serial
        ).ToListAsync(cancel);
        return chosen.Find(connected.Contains) ?? (connected.Length == 1 ? connected[0] : null);
    }

    internal KitStanding StandingOf(KitItem it, Thresholds rules) =>
        KitStanding.Of(it.Facts(), time.GetUtcNow(), DateOnly.FromDateTime(time.GetLocalNow().DateTime), rules);

    /// <summary>Why earth readings cannot be nulled by what is kept of the lead. One that was never nulled bars nothing: with the lead in
    /// it, a reading only comes out too large; a stale null could take too much away.</summary>
    private string? NullTrouble(KitItem lead, Thresholds rules) =>
        NullOf(lead) is not { } taken ? null
        : !taken.IsAccepted(rules) ? $"The null of {taken.Value.Value} ohm hides a bad lead: null again."
        : taken.IsStale(time.GetUtcNow(), rules) ? $"The null of {lead.Name} is of {taken.At:yyyy-MM-dd}: null it again."
        : null;

    /// <summary>Null while none was taken.</summary>
    internal static TestLeadNull? NullOf(KitItem it) =>
        it is { NullOhm: { } ohm, NulledAt: { } at } ? new TestLeadNull(new(ohm), at) : null;

    private KitPiece Piece(KitItem it, Thresholds rules)
    {
        var standing = StandingOf(it, rules);
        return new(
            it.Id,
            it.Kind,
            it.Name,
            it.Serial,
            it.Category,
            standing.Fitness,
            it.CalibrationDue,
            standing.Trouble ?? (standing.IsLookedAt ? null : "It was not looked at today.")
        );
    }

    internal static ImmutableArray<StatedAccuracy> AccuraciesOf(KitItem it) =>
        JsonSerializer.Deserialize<ImmutableArray<StatedAccuracy>>(it.Accuracies, Stored);

    internal static ImmutableArray<StatedValue> StatedOf(KitItem it) =>
        JsonSerializer.Deserialize<ImmutableArray<StatedValue>>(it.StatedValues, Stored);
}
