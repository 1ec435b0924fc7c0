using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Papers;

/// <summary>An item as a client's register has it on one day.</summary>
/// <param name="What">Maker, model and serial; empty where none is known.</param>
/// <param name="Outcome">Of the last inspection; null where there was none.</param>
/// <param name="Checked">Day of that.</param>
/// <param name="Due">Null where it was never inspected: it is due at once.</param>
public sealed record RegisteredItem(
    string Tag,
    string Name,
    string What,
    string Site,
    string Room,
    string ClassText,
    ItemState State,
    Outcome? Outcome,
    DateOnly? Checked,
    DateOnly? Due
);

/// <param name="Standing">"in service", "out of use" ...</param>
/// <param name="Outcome">Shown as a ring; null where it was never inspected.</param>
/// <param name="Next">"overdue since 3 May 2026"; null where nothing falls due any more.</param>
public sealed record RegisterLine(
    string Tag,
    string Name,
    string What,
    string ClassText,
    string Standing,
    bool IsOut,
    Outcome? Outcome,
    DateOnly? Checked,
    string? Next,
    bool IsOver
);

public sealed record RegisterRoom(string Site, string Room, ImmutableArray<RegisterLine> Lines);

/// <summary>A client's whole register on paper: what it owns, how that stands, and when it is due.</summary>
/// <param name="Origin">The client's book, up to which the register stood.</param>
public sealed record RegisterPaper(
    string Client,
    DateOnly On,
    int Items,
    int Out,
    int Over,
    int Never,
    ImmutableArray<RegisterRoom> Rooms,
    ImmutableArray<string> Origin
)
{
    /// <param name="items">Of the client; what is scrapped or lost stands with the rest, so that nothing is missing unsaid.</param>
    /// <param name="number">Of the last record in the client's book; 0 where it is empty.</param>
    /// <param name="hash">Of that record.</param>
    public static RegisterPaper Of(string client, IReadOnlyCollection<RegisteredItem> items, DateOnly on, long number, string hash)
    {
        var lines = items
            .OrderBy(it => it.Site, StringComparer.Ordinal)
            .ThenBy(it => it.Room, StringComparer.OrdinalIgnoreCase)
            .ThenBy(it => it.Tag, StringComparer.OrdinalIgnoreCase)
            .Select(it => (it.Site, it.Room, Line: LineOf(it, on)))
            .ToArray();
        return new(
            client,
            on,
            lines.Length,
            lines.Count(it => it.Line.IsOut),
            lines.Count(it => it.Line.IsOver),
            items.Count(it => it.Checked is null && !IsGone(it.State)),
            [
                .. lines
                    .GroupBy(it => (it.Site, it.Room))
                    .Select(it => new RegisterRoom(it.Key.Site, it.Key.Room, [.. it.Select(row => row.Line)])),
            ],
            [
                $"register of {PaperWriter.Day(on)}",
                number == 0 ? "no record yet" : $"up to record {number}, {hash}",
                "It tells how the register stood on that day. The record of each inspection says how it was judged.",
            ]
        );
    }

    private static bool IsGone(ItemState state) => state is ItemState.Scrapped or ItemState.Lost;

    internal static RegisterLine LineOf(RegisteredItem it, DateOnly on)
    {
        var (isGone, isOver) = (IsGone(it.State), it.Due is null || it.Due < on);
        return new(
            it.Tag,
            it.Name,
            it.What,
            it.ClassText,
            it.State switch
            {
                ItemState.InService => "in service",
                ItemState.Scrapped => "scrapped",
                ItemState.Lost => "lost",
                _ => "out of use",
            },
            it.State is ItemState.Quarantined or ItemState.InRepair,
            it.Outcome,
            it.Checked,
            isGone ? null
                : it.Due is not { } due ? "due at once"
                : due < on ? $"over since {PaperWriter.ShortDay(due)}"
                : PaperWriter.ShortDay(due),
            isOver && !isGone
        );
    }
}
