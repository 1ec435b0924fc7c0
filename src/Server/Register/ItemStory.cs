using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Server.Bench;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <summary>Tells an item's story from its records: every inspection as it was judged that day, and how its values move.</summary>
internal static class ItemStory
{
    private const int Shown = 30;

    public static async Task<ItemPage?> TellAsync(Guid itemId, OsierwandDb db, HousePacks packs, TimeProvider time, CancellationToken cancel)
    {
        var item = await db.Items.AsNoTracking().Include(it => it.Client).Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null) return null;
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var history = await db.Inspections.AsNoTracking().Where(it => it.ItemId == itemId).OrderByDescending(it => it.TestedAt).Take(Shown).ToListAsync(cancel);
        var open = await db.Rounds.AsNoTracking().Where(it => it.SiteId == item.SiteId && it.ClosedOn == null).OrderBy(it => it.EndsOn).FirstOrDefaultAsync(cancel);
        var round = open ?? await LastRoundAsync(history, db, cancel);
        var pack = round is null ? null : await packs.FindAsync(db, round.PackIdFor(item.Equipment.Kind), cancel);
        return new(item.Id, item.Tag, item.Name, item.Client.Name, $"{item.Site.Name}, {item.Room}", ItemText.Class(item.Equipment.Class),
            ClassDecisions.From(item.Evidence).Seen, ItemText.Facts(item), item.State, item.Due, item.VisualDue,
            item.Due is { } due ? today.DayNumber - due.DayNumber : null, item.Because, open?.Id, [.. history.Select(Card)], Trends(item, history, round, pack, today));
    }

    /// <summary>From the record's own text: what was judged then is shown as it was judged then.</summary>
    private static PastInspectionCard Card(Inspection it)
    {
        using var document = JsonDocument.Parse(it.Record);
        var root = document.RootElement;
        var words = new List<string>();
        foreach (var point in root.GetProperty("look").GetProperty("points").EnumerateArray())
            if (point.TryGetProperty("words", out var said) && said.GetString() is { Length: > 0 } bad) words.Add($"Look: {bad}");
        if (root.TryGetProperty("notTested", out var reason)) words.Add($"Not tested: {Spaced(reason.GetString()!)}");
        words.AddRange(root.GetProperty("advice").EnumerateArray().Select(line => line.GetString()!));
        if (root.TryGetProperty("remarks", out var remarks)) words.Add(remarks.GetString()!);
        return new(it.Id, DateOnly.FromDateTime(it.TestedAt.LocalDateTime), it.Outcome, root.GetProperty("kindOfInspection").GetString()!,
            root.GetProperty("technician").GetString()!, root.GetProperty("standard").GetProperty("name").GetString()!, it.BookNumber,
            Convert.ToHexStringLower(it.Hash.AsSpan(0, 4)), words, [.. root.GetProperty("readings").EnumerateArray().Select(Reading)]);
    }

    private static PastReadingCard Reading(JsonElement it)
    {
        var (taken, judged) = (it.GetProperty("taken"), it.GetProperty("judged"));
        var working = judged.GetProperty("working").EnumerateArray().Select(line => line.GetString()!).ToArray();
        var text = taken.TryGetProperty("ok", out var ok) ? (ok.GetBoolean() ? "good" : "bad")
            : taken.TryGetProperty("value", out var value) ? $"{(taken.TryGetProperty("qualifier", out var sign) ? sign.GetString() : "")}{value.GetDouble()} {Label(taken.GetProperty("unit").GetString()!)}"
            : "no trip";
        return new(NameOf(taken), text, working.Length > 1 ? working[0] : null, Words.Find<Status>(judged.GetProperty("status").GetString()!) ?? Status.Undecided,
            judged.GetProperty("nearLimit").GetBoolean(), working);
    }

    private static string NameOf(JsonElement taken)
    {
        var test = Words.Find<Test>(taken.GetProperty("test").GetString()!) ?? Test.Functional;
        var kind = taken.TryGetProperty("kind", out var word) ? Words.Find<LeakageKind>(word.GetString()!) : null;
        return StepNames.Of(test, new() { Kind = kind ?? default, Point = taken.TryGetProperty("point", out var point) ? point.GetString() : null });
    }

    private static List<TrendCard> Trends(RegisterItem item, List<Inspection> history, Round? round, RulePack? pack, DateOnly today)
    {
        if (round is null || pack is null) return [];
        var bench = new OnBench(item, round, pack, item.Client, [.. Enumerable.Reverse(history).Select(LookedBack.Of)]);
        var plan = Planner.Of(pack, item.Equipment, item.Client.Policy);
        var facts = new InspectionFacts { Pack = pack, Item = item.Equipment, History = bench.PastReadings.IsEmpty ? [] : bench.PastReadings[..^1], TestDate = today, DueDate = item.Due, IntervalMonths = item.IntervalMonths };
        var cards = new List<TrendCard>();
        foreach (var step in plan.Steps.Select(step => (Plan: step, Card: StepCards.Of(step, bench, null))).Where(step => step.Card.Earlier.Count > 0))
        {
            var newest = bench.PastReadings[^1].Readings.Where(it => it.Void is null && StepKey.Of(it.Test, it.Under) == step.Plan.Key).Select(it => Judge.Reading(pack, item.Equipment, it)).LastOrDefault();
            var advice = newest is null ? null : Trend.For(facts, newest, bench.PastReadings[^1].Date)?.Advice;
            cards.Add(new(step.Card.Key, step.Card.Name, step.Card.Rail, step.Card.Limit?.Si, step.Card.Limit?.Text, step.Card.Limit?.IsFloor ?? false, step.Card.Earlier, advice));
        }
        return cards;
    }

    /// <summary>Without an open round the rules of the last one still tell how the values stand.</summary>
    private static async Task<Round?> LastRoundAsync(List<Inspection> history, OsierwandDb db, CancellationToken cancel) =>
        history.Count == 0 ? null : await db.Rounds.AsNoTracking().FirstOrDefaultAsync(it => it.Id == history[0].RoundId, cancel);

    private static string Label(string symbol) => Core.Quantities.Unit.Find(symbol)?.Label ?? symbol;

    /// <summary>"hardWiredOutOfScope" as people read it.</summary>
    private static string Spaced(string word) => string.Concat(word.Select(letter => char.IsUpper(letter) ? $" {char.ToLowerInvariant(letter)}" : $"{letter}"));
}
