using Osierwand.Core.Bench;

namespace Osierwand.Core.Quarantine;

/// <summary>Holds in words, for the board, the item's page and papers.</summary>
public static class QuarantineText
{
    public static string Of(Stage stage) =>
        stage switch
        {
            Stage.NotSafe => "Not made safe",
            Stage.Held => "Held",
            Stage.InRepair => "In repair",
            Stage.Repaired => "Repaired, to be tested",
            Stage.Returned => "Back with the client, not for use",
            _ => "Scrapped",
        };

    /// <summary>As it stands in the middle of a sentence.</summary>
    private static string InSentence(Stage stage) => char.ToLowerInvariant(Of(stage)[0]) + Of(stage)[1..];

    /// <summary>How an item that failed stands now, in the middle of a sentence.</summary>
    /// <param name="stage">Of what it is held for; null where that is something else, or nothing.</param>
    public static string Now(ItemState state, Stage? stage) =>
        state == ItemState.InService ? "back in use"
        : stage is { } held ? InSentence(held)
        : state == ItemState.Scrapped ? "scrapped"
        : "out of use";

    public static string Of(MadeUnusable how) =>
        how switch
        {
            MadeUnusable.PlugCut => "plug cut off",
            MadeUnusable.PlugLocked => "lock on its plug",
            MadeUnusable.LockedAway => "locked away",
            _ => "locked off at its isolator",
        };

    public static string Of(ScrappedHow how) =>
        how switch
        {
            ScrappedHow.FlexCutOff => "flex cut off at the case",
            ScrappedHow.TakenApart => "taken apart",
            _ => "handed to disposal",
        };

    public static string Of(HeldBy by) =>
        by switch
        {
            HeldBy.FailedInspection => "failed",
            HeldBy.UserReport => "reported",
            HeldBy.HireReturn => "seen on its return",
            _ => "recalled",
        };

    /// <summary>What was done, in a sentence.</summary>
    public static string Of(QuarantineAct act) =>
        act switch
        {
            MadeSafe it => $"Made safe: red tag, {Of(it.How)}; told {it.Told}{More(it.Words)}",
            SentToRepair it => $"To repair: {it.To}",
            Repaired it => $"R{it.Said.Text[1..]}",
            Scrapped it => $"Scrapped, {Of(it.How)}: {it.Proof}",
            ReturnedUntested it => $"Returned untested to {it.To}. Warning: {it.Warning}",
            _ => "",
        };

    /// <summary>Words on offer; nobody is held to them.</summary>
    public static IReadOnlyList<string> WhoIsTold { get; } = ["the client’s contact on site", "whoever uses it", "the shift leader"];

    /// <inheritdoc cref="WhoIsTold"/>
    public static IReadOnlyList<string> WhoRepairs { get; } = ["our own workbench", "its maker", "the client’s electrician"];

    public static IEnumerable<Choice> Choices<T>(IEnumerable<T> of, Func<T, string> text)
        where T : struct, Enum => of.Select(value => new Choice(Words.Of(value), Words.Capital(text(value))));

    /// <summary>What a client gets with an item that was not mended, by what took it out of use.</summary>
    public static string UsualWarning(HeldBy by) =>
        by switch
        {
            HeldBy.FailedInspection => "It failed its safety test.",
            HeldBy.UserReport => "It was reported as dangerous.",
            HeldBy.HireReturn => "It came back from hire damaged.",
            _ => "It is recalled.",
        } + " It must not be used, lent or sold before it is repaired and tested.";

    private static string More(string? text) => string.IsNullOrWhiteSpace(text) ? "" : $"; {text}";
}
