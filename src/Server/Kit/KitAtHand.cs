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
        if (items.FirstOrDefault(it => it.Kind == KitKind.Instrument) is not { } instrument)
            return KitInHand.NotChosen;
        var identity = await lines.IdentityAsync(instrument.Serial, cancel);
        var isConnected = identity is not null;
        var lead = items.FirstOrDefault(it => it.Kind == KitKind.TestLead);
        var standing = StandingOf(instrument, rules);
        return new(
            instrument.Id,
            instrument.Name,
            instrument.Serial ?? "",
            instrument.CalibrationDue ?? default,
            lead?.Name ?? "no test lead",
            lead?.NullOhm,
            lead?.NulledAt,
            isConnected ? [.. identity!.Functions] : [],
            AccuraciesOf(instrument),
            standing.Trouble ?? (lead is not null && (isConnected || !instrument.NullsItself) ? NullTrouble(lead, rules) : null),
            isConnected
        )
        {
            Pieces =
            [
                .. items.Where(it => it.Id != instrument.Id && it.Kind != KitKind.PerformanceAnalyser).Select(it => Piece(it, rules)),
            ],
            Checked = instrument.CheckedAt is { } at
                ? new(
                    at,
                    instrument.CheckedBy ?? "",
                    instrument.CheckedWith ?? "",
                    instrument.CheckTrouble is null,
                    [.. instrument.CheckLines]
                )
                : null,
            NullsItself = instrument.NullsItself,
            AsksForNull = isConnected && lead is not null && (NullOf(lead) is null || NullTrouble(lead, rules) is not null),
            Warning = standing.Warnings.IsEmpty ? null : string.Join(" ", standing.Warnings),
            Analyser = items.FirstOrDefault(it => it.Kind == KitKind.PerformanceAnalyser) is { } analyser
                ? await SecondAsync(analyser, rules, cancel)
                : null,
        };
    }

    /// <summary>It has no lead that is nulled and no kit of its own.</summary>
    private async Task<KitInHand> SecondAsync(KitItem it, Thresholds rules, CancellationToken cancel)
    {
        var identity = await lines.IdentityAsync(it.Serial, cancel);
        var standing = StandingOf(it, rules);
        return new(
            it.Id,
            it.Name,
            it.Serial ?? "",
            it.CalibrationDue ?? default,
            "",
            null,
            null,
            identity is null ? [] : [.. identity.Functions],
            AccuraciesOf(it),
            standing.Trouble,
            identity is not null
        )
        {
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
