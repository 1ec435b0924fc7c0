using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Server.Standards;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Evidence;

/// <summary>Counts, by kind of item and kind of place, what tests at the interval in force found; and what leads decided of it.</summary>
public sealed class EvidenceBook(OsierwandDb db, TimeProvider time)
{
    private const int MostParts = 8;

    /// <summary>Counted over the books: a failed look is a failure found, though nothing was measured.</summary>
    private sealed record Counted(string KindWord, string Place, double? Months, int Inspections, int Failures);

    private sealed record PartRow(string? Name, int Inspections, int Failures);

    /// <summary>What an item of this kind at this place goes by; null where nothing was decided.</summary>
    internal static async Task<GroupStep?> StepOfAsync(OsierwandDb db, ItemKind kind, Place place, CancellationToken cancel)
    {
        var decisions = await db
            .GroupDecisions.AsNoTracking()
            .Where(it => it.Kind == kind && it.Place == place)
            .OrderBy(it => it.Number)
            .ToListAsync(cancel);
        return StepOf(decisions);
    }

    private static GroupStep? StepOf(IReadOnlyCollection<GroupDecision> decisions)
    {
        var steps = decisions.Sum(it => it.Step);
        var undone = decisions.Select(it => it.Undoes).ToHashSet();
        return steps == 0 || decisions.LastOrDefault(it => it.Undoes is null && it.Step != 0 && !undone.Contains(it.Id)) is not { } last
            ? null
            : new(steps, BecauseOf(last));
    }

    /// <summary>By what and whom: it stands in the because-lines of every item of the group.</summary>
    internal static string BecauseOf(GroupDecision it) =>
        $"evidence of {it.Inspections} inspections of its kind and place, decided by {it.By} on {it.At:yyyy-MM-dd}";

    internal async Task<EvidencePage> PageAsync(bool isLead, CancellationToken cancel)
    {
        var rules = await HousePacks.RulesAsync(db, cancel);
        var groups = await GroupsAsync(rules, null, isLead, cancel);
        return new(
            [
                .. groups
                    .OrderBy(it => it.WhyNot is not null)
                    .ThenBy(it => it.Suggestion == Suggestion.Keep)
                    .ThenBy(it => it.Suggestion != Suggestion.Shorter)
                    .ThenByDescending(it => it.Inspections)
                    .ThenBy(it => it.Name, StringComparer.Ordinal),
            ],
            $"Inspections of the last {rules.EvidenceWindow}, of the whole house, made at the interval that most of the group has now. "
                + $"{Percent(rules.EvidenceTarget)} failing in an interval is accepted.",
            rules.EvidenceTarget,
            isLead
        );
    }

    /// <returns>Null where there is no such group.</returns>
    internal async Task<EvidenceDetail?> OfAsync(ItemKind kind, Place place, bool isLead, CancellationToken cancel)
    {
        var rules = await HousePacks.RulesAsync(db, cancel);
        if (await GroupsAsync(rules, (kind, place), isLead, cancel) is not [var group])
            return null;
        var history = GroupHistory.Of(group.Inspections, group.Failures, group.Months).Value;
        var evidence = GroupEvidence.Of(history, rules);
        var decisions = await db
            .GroupDecisions.AsNoTracking()
            .Where(it => it.Kind == kind && it.Place == place)
            .OrderByDescending(it => it.Number)
            .ToListAsync(cancel);
        var undone = decisions.Select(it => it.Undoes).ToHashSet();
        return new(
            group,
            rules.EvidenceTarget,
            evidence.Because,
            [.. GroupEvidence.Curve(history, rules).Select(it => new CurvePoint(it.Rate, it.Height))],
            await ModelsAsync(kind, place, group.Months, rules, cancel),
            await LeadsAsync(kind, place, group.Months, rules, cancel),
            await CausesAsync(kind, place, group.Months, Since(rules), cancel),
            [.. decisions.Select(it => Card(it, undone.Contains(it.Id), isLead))],
            decisions.Count,
            [
                .. new[] { -1, 0, 1 }.Select(step => new StepChoice(
                    step,
                    step < 0 ? "One step shorter"
                        : step > 0 ? "One step longer"
                        : "Keep it",
                    $"{GroupRule.Then(history.Interval, step)}",
                    step != 0 && GroupRule.Then(history.Interval, step) == evidence.Interval,
                    group.WhyNot ?? GroupRule.Refusal(evidence, history.Interval, step)
                )),
            ]
        );
    }

    private DateOnly Since(Thresholds rules) =>
        DateOnly.FromDateTime(time.GetLocalNow().DateTime).AddMonths(-(int)rules.EvidenceWindow.Months);

    private async Task<EvidenceGroup[]> GroupsAsync(
        Thresholds rules,
        (ItemKind Kind, Place Place)? only,
        bool isLead,
        CancellationToken cancel
    )
    {
        var since = Since(rules);
        var (kindWord, placeWord) = only is { } one ? (Words.Of(one.Kind), one.Place.ToString()) : ("", "");
        var items = await db
            .Items.Where(it => it.State == ItemState.InService && it.IntervalMonths != null)
            .Where(it => kindWord == "" || it.KindWord == kindWord)
            .GroupBy(it => new
            {
                it.KindWord,
                it.Place,
                it.IntervalMonths,
            })
            .Select(it => new { it.Key, Count = it.Count() })
            .ToListAsync(cancel);
        var counted = (
            await db
                .Database.SqlQuery<Counted>(
                    $"""
                    SELECT i.kind_word, i.place, (n.before->>'IntervalMonths')::float8 AS months, count(*)::int AS inspections,
                        (count(*) FILTER (WHERE n.outcome = 'Fail'))::int AS failures
                    FROM inspections n JOIN items i ON i.id = n.item_id
                    WHERE n.day >= {since} AND (n.is_test OR n.outcome = 'Fail') AND n.outcome IN ('Pass', 'PassWithAdvice', 'Fail')
                        AND NOT i.is_loose AND ({kindWord} = '' OR (i.kind_word = {kindWord} AND i.place = {placeWord}))
                        AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = n.id)
                    GROUP BY i.kind_word, i.place, (n.before->>'IntervalMonths')::float8
                    """
                )
                .ToListAsync(cancel)
        ).ToLookup(it => (it.KindWord, it.Place));
        var decisions = (await db.GroupDecisions.AsNoTracking().OrderBy(it => it.Number).ToListAsync(cancel)).ToLookup(it =>
            (it.Kind, it.Place)
        );
        return
        [
            .. items
                .Where(it => only is null || it.Key.Place == only.Value.Place)
                .GroupBy(it => (it.Key.KindWord, it.Key.Place))
                // A kind that this version does not know has no rule to decide about.
                .Where(group => Words.Find<ItemKind>(group.Key.KindWord) is not null)
                .Select(group =>
                {
                    var kind = Words.Find<ItemKind>(group.Key.KindWord)!.Value;
                    var most = group.OrderByDescending(it => it.Count).ThenBy(it => it.Key.IntervalMonths).First();
                    var months = most.Key.IntervalMonths!.Value;
                    var at = counted[(group.Key.KindWord, group.Key.Place.ToString())].Where(it => it.Months == months).ToArray();
                    var history = GroupHistory.Of(at.Sum(it => it.Inspections), at.Sum(it => it.Failures), months).Value;
                    var evidence = GroupEvidence.Of(history, rules);
                    return new EvidenceGroup(
                        kind,
                        group.Key.Place,
                        NameOf(kind, group.Key.Place),
                        group.Sum(it => it.Count),
                        months,
                        $"{history.Interval}",
                        most.Count,
                        history.Inspections,
                        history.Failures,
                        evidence.Low,
                        evidence.Median,
                        evidence.High,
                        evidence.Suggestion,
                        evidence.InShort,
                        StepOf([.. decisions[(kind, group.Key.Place)]])?.Steps ?? 0,
                        GroupRule.NoGroup(kind, group.Key.Place) ?? (isLead ? null : "A lead decides.")
                    );
                }),
        ];
    }

    private async Task<EvidencePart[]> ModelsAsync(ItemKind kind, Place place, double months, Thresholds rules, CancellationToken cancel)
    {
        var (kindWord, placeWord, since) = (Words.Of(kind), place.ToString(), Since(rules));
        var rows = await db
            .Database.SqlQuery<PartRow>(
                $"""
                SELECT nullif(trim(concat_ws(' ', i.maker, i.model)), '') AS name, count(*)::int AS inspections,
                    (count(*) FILTER (WHERE n.outcome = 'Fail'))::int AS failures
                FROM inspections n JOIN items i ON i.id = n.item_id
                WHERE n.day >= {since} AND (n.is_test OR n.outcome = 'Fail') AND n.outcome IN ('Pass', 'PassWithAdvice', 'Fail')
                    AND NOT i.is_loose AND i.kind_word = {kindWord} AND i.place = {placeWord}
                    AND (n.before->>'IntervalMonths')::float8 = {months}
                    AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = n.id)
                GROUP BY 1 ORDER BY 3 DESC, 2 DESC LIMIT {MostParts}
                """
            )
            .ToListAsync(cancel);
        return [.. rows.Select(it => Part(it.Name ?? "no model known", it.Inspections, it.Failures, rules))];
    }

    private static EvidencePart Part(string name, int inspections, int failures, Thresholds rules) =>
        new(name, inspections, failures, GroupEvidence.Between(inspections, failures, rules));

    private sealed record LeadRow(bool IsHardWired, bool? Unplugs, string? Inlet, int Inspections, int Failures);

    /// <summary>A lead that unplugs wears at its inlet, one that is fixed at its entry.</summary>
    private async Task<EvidencePart[]> LeadsAsync(ItemKind kind, Place place, double months, Thresholds rules, CancellationToken cancel)
    {
        var (kindWord, placeWord, since) = (Words.Of(kind), place.ToString(), Since(rules));
        var rows = await db
            .Database.SqlQuery<LeadRow>(
                $"""
                SELECT coalesce((i.equipment->'cord'->>'permanent')::boolean, false) AS is_hard_wired,
                    CASE WHEN i.equipment->'cord' IS NOT NULL THEN coalesce((i.equipment->'cord'->>'detachable')::boolean, false) END AS unplugs,
                    i.equipment->'cord'->>'inlet' AS inlet,
                    count(*)::int AS inspections, (count(*) FILTER (WHERE n.outcome = 'Fail'))::int AS failures
                FROM inspections n JOIN items i ON i.id = n.item_id
                WHERE n.day >= {since} AND (n.is_test OR n.outcome = 'Fail') AND n.outcome IN ('Pass', 'PassWithAdvice', 'Fail')
                    AND NOT i.is_loose AND i.kind_word = {kindWord} AND i.place = {placeWord}
                    AND (n.before->>'IntervalMonths')::float8 = {months}
                    AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = n.id)
                GROUP BY 1, 2, 3 ORDER BY 5 DESC, 4 DESC
                """
            )
            .ToListAsync(cancel);
        return [.. rows.Select(it => Part(NameOf(it), it.Inspections, it.Failures, rules))];
    }

    private static string NameOf(LeadRow it) =>
        EquipmentText.Lead(it.IsHardWired, it.Unplugs, it.Inlet is { } word ? Words.Find<InletType>(word) : null);

    /// <summary>By what stands before the first colon of what failed: "Look", "Earth continuity".</summary>
    private async Task<EvidencePart[]> CausesAsync(ItemKind kind, Place place, double months, DateOnly since, CancellationToken cancel)
    {
        var (kindWord, placeWord) = (Words.Of(kind), place.ToString());
        var rows = await db
            .Database.SqlQuery<PartRow>(
                $"""
                SELECT left(regexp_replace(n.record->'reasons'->>0, '^(Look: [^,;]*|[^:]*).*$', '\1'), 120) AS name, 0 AS inspections,
                    count(*)::int AS failures
                FROM inspections n JOIN items i ON i.id = n.item_id
                WHERE n.day >= {since} AND n.outcome = 'Fail'
                    AND NOT i.is_loose AND i.kind_word = {kindWord} AND i.place = {placeWord}
                    AND (n.before->>'IntervalMonths')::float8 = {months}
                    AND NOT EXISTS (SELECT 1 FROM inspections later WHERE later.corrects = n.id)
                GROUP BY 1 ORDER BY 3 DESC, 1 LIMIT {MostParts}
                """
            )
            .ToListAsync(cancel);
        return [.. rows.Select(it => new EvidencePart(it.Name ?? "not said", 0, it.Failures))];
    }

    private static DecisionCard Card(GroupDecision it, bool isUndone, bool isLead) =>
        new(
            it.Id,
            it.Undoes is not null ? "undone"
                : it.Step < 0 ? $"one step shorter{(it.Moved > 0 ? $", {it.Moved} due earlier" : "")}"
                : it.Step > 0 ? "one step longer"
                : "kept",
            it.By,
            it.At,
            it.Reason,
            $"{it.Failures} of {it.Inspections} failed at {new Period(it.Months)}: between {Percent(it.Low)} and {Percent(it.High)}, "
                + $"{Percent(it.Target)} accepted",
            isUndone,
            isLead && !isUndone && it is { Undoes: null, Step: not 0 }
        );

    /// <summary>"Extension lead, workshop".</summary>
    private static string NameOf(ItemKind kind, Place place)
    {
        var name = $"{EquipmentText.Kind(kind)}, {Words.Of(place)}";
        return char.ToUpperInvariant(name[0]) + name[1..];
    }

    internal static string Percent(double rate) => $"{QuantityText.Number(rate * 100, 2)} %";
}
