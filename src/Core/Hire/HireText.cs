namespace Osierwand.Core.Hire;

/// <summary>A fleet in words.</summary>
public static class HireText
{
    public static string Of(HireStage stage) =>
        stage switch
        {
            HireStage.Returned => "Returned",
            HireStage.ForTheBench => "For the bench",
            HireStage.OnTheBench => "On the bench",
            HireStage.Ready => "Ready",
            HireStage.Out => "Out",
            HireStage.Repair => "Repair",
            _ => "Scrapped",
        };

    public static string Of(HireTests school) =>
        school == HireTests.EachIssue ? "Looked at and tested before each issue" : "Looked at before each issue, tested within its date";

    /// <summary>What was said of an item and nobody has decided about yet.</summary>
    /// <param name="reported">By somebody who uses it.</param>
    /// <param name="isLeft">A run sheet that holds a failure came to no end that says so.</param>
    public static string? Doubt(string? reported, bool isLeft) =>
        isLeft ? "a run sheet with a failure was left"
        : reported is not null ? $"a user reported: {reported}"
        : null;

    /// <summary>What happened, in a sentence.</summary>
    public static string Of(HireMove move) =>
        move switch
        {
            Issued { BackBy: { } day } it => $"Out with {it.To}, back by {day:yyyy-MM-dd}",
            Issued it => $"Out with {it.To}",
            Returned => "Back",
            LookedAt it => $"Looked at: {HireVerdict.InWords(it)}",
            _ => "Laid on the bench",
        };

    /// <summary>Said to whoever gave a verdict.</summary>
    public static string After(HireMove move, HireAnswer now) =>
        HireRule.TakesOutOfUse(move) is { } why ? $"Out of use: {why}. Red tag on it, and away from the pile"
        : now.CallBack is { } callBack ? callBack
        : now.Stage switch
        {
            HireStage.Ready => $"Ready: {now.Why}",
            HireStage.Repair => "Put it with what is out of use",
            HireStage.ForTheBench => $"To the bench: {now.Why}",
            HireStage.Returned => "Back; somebody looks at it later",
            HireStage.Out => $"Out {now.Why}",
            _ => now.Why,
        };
}
