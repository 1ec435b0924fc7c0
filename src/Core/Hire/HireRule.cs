using System.Collections.Immutable;
using System.Globalization;
using Osierwand.Core.Bench;

namespace Osierwand.Core.Hire;

/// <summary>What a fleet asks of an item before it is issued. Schools differ; the stricter one holds where nobody chose.</summary>
public enum HireTests
{
    /// <summary>Looked at and tested since it came back, and never past its date.</summary>
    EachIssue,

    /// <summary>Looked at since it came back, and within its test's date (AS/NZS 3760: the look at each issue, the test every three
    /// months).</summary>
    WhenDue,
}

/// <summary>Where an item of a fleet is on its way from one issue to the next.</summary>
public enum HireStage
{
    /// <summary>Back, and nobody has looked at it.</summary>
    Returned,

    /// <summary>Looked at, or new; it waits for the bench.</summary>
    ForTheBench,
    OnTheBench,
    Ready,
    Out,
    Repair,
    Scrapped,
}

/// <summary>Everything that says where an item is.</summary>
/// <param name="TestedAt">Of the last passed test that stands, by the bench's clock and never later than it was received.</param>
/// <param name="PassedAt">Of the last passed inspection that stands, tested or only looked at.</param>
/// <param name="OffTheBenchAt">When its last run sheet ended, by whatever record or by being discarded.</param>
/// <param name="HeldWhy">What is wrong with it; null while it is in service.</param>
/// <param name="TestedOn">Day of the last test that moved its date.</param>
/// <param name="Doubt">Something was said of it that nobody has decided about yet: a user's report, a run sheet left with a failure; null
/// where nothing was.</param>
/// <param name="Today">At its site.</param>
public sealed record HireFacts(
    ItemState State,
    string? HeldWhy,
    HireStanding Standing,
    DateTimeOffset? TestedAt,
    DateTimeOffset? PassedAt,
    DateTimeOffset? OffTheBenchAt,
    DateOnly? Due,
    DateOnly? VisualDue,
    DateOnly? TestedOn,
    string? Doubt,
    HireTests School,
    DateOnly Today
);

/// <summary>Where an item is, and why nothing better.</summary>
/// <param name="Why">A sentence without its full stop.</param>
/// <param name="CallBack">It is with a customer and must not be used; null otherwise.</param>
public sealed record HireAnswer(HireStage Stage, string Why, string? CallBack = null);

/// <summary>
/// The way of a hire item from one issue to the next. Ready is worked out anew from the book and the moves each time it is asked for: a
/// record taken back, a date gone by or a recall makes an item unready by itself.
/// </summary>
public static class HireRule
{
    public static HireAnswer Of(HireFacts it) =>
        it.State == ItemState.Scrapped ? new(HireStage.Scrapped, "scrapped")
        : it.Standing is { IsOut: true } standing ? Out(it, standing)
        : it.State != ItemState.InService
            ? new(HireStage.Repair, it.State == ItemState.Lost ? "lost" : "out of use until it is mended and tested")
        : IsOnBench(it) ? new(HireStage.OnTheBench, $"on the bench of {it.Standing.LaidBy}")
        : NotReady(it) is not { } why ? new(HireStage.Ready, Readied(it))
        : it.Standing is { ReturnedAt: not null, SeenAt: null } && !HasPassedSince(it.PassedAt, it)
            ? new(HireStage.Returned, "back, not looked at")
        : new(HireStage.ForTheBench, why);

    private static HireAnswer Out(HireFacts it, HireStanding standing)
    {
        var callBack =
            it.State != ItemState.InService
                ? $"{standing.OutTo} has it, and it must not be used{(it.HeldWhy is { Length: > 0 } what ? $": {what}" : "")}"
                : null;
        var late = standing.BackBy is { } day && day < it.Today ? $", due back {Day(day)}" : "";
        var over = it.Due < it.Today ? $", its test ran out {Day(it.Due.Value)}" : "";
        return new(HireStage.Out, $"with {standing.OutTo}{late}{over}", callBack);
    }

    /// <summary>Laid there, and no record has come of it yet.</summary>
    private static bool IsOnBench(HireFacts it) => it.Standing.LaidAt is { } laid && !(it.OffTheBenchAt > laid);

    private static bool HasPassedSince(DateTimeOffset? passed, HireFacts it) => passed is { } at && !(at < it.Standing.ReturnedAt);

    /// <returns>Why it may not be issued, or null.</returns>
    private static string? NotReady(HireFacts it) =>
        it.Doubt is { } doubt ? doubt
        : it.Standing is { Seen: { } seen, SeenAt: { } at } && !HireVerdict.Of(seen).IsGood && !(it.PassedAt > at)
            ? $"seen on its return: {HireVerdict.InWords(new(seen))}"
        : it.Due is null ? "never tested"
        : it.Due < it.Today ? $"its test ran out {Day(it.Due.Value)}"
        : it.Due <= it.TestedOn ? "due at once since its last test"
        : it.VisualDue < it.Today ? $"its formal visual ran out {Day(it.VisualDue.Value)}"
        : it.School == HireTests.EachIssue && !HasPassedSince(it.TestedAt, it)
            ? it.Standing.ReturnedAt is null ? "no test of it stands"
                : "not tested since it came back"
        : it.School == HireTests.WhenDue && it.TestedAt is null ? "no test of it stands"
        : it.School == HireTests.WhenDue && it.Standing.Seen is null && !HasPassedSince(it.PassedAt, it)
            ? "not looked at since it came back"
        : null;

    private static string Readied(HireFacts it) =>
        HasPassedSince(it.TestedAt, it)
            ? $"tested, good until {Day(it.Due!.Value)}"
            : $"looked at{(it.Standing.SeenBy is { } by ? $" by {by}" : "")}, its test is good until {Day(it.Due!.Value)}";

    /// <summary>What may be done with an item that is so far.</summary>
    /// <returns>Why it is not done, or null.</returns>
    public static string? Refusal(HireAnswer at, HireMoveKind move) =>
        (move, at.Stage) switch
        {
            (_, HireStage.Scrapped) => "It is scrapped.",
            (HireMoveKind.Issued, HireStage.Ready) => null,
            (HireMoveKind.Issued, HireStage.Out) => $"It is out already, {at.Why}. Say first that it is back.",
            (HireMoveKind.Issued, _) => $"It is not ready: {at.Why}.",
            (HireMoveKind.Returned, HireStage.Out) => null,
            (HireMoveKind.Returned, _) => "It is in the house already.",
            (HireMoveKind.LookedAt, HireStage.Repair) =>
                "It is out of use: it goes to the workbench, and comes back by a passed test after repair.",
            (HireMoveKind.LookedAt, _) when at.CallBack is not null =>
                "It must not be used. Say that it is back, and put it with what is out of use.",
            (HireMoveKind.LookedAt, _) => null,
            (HireMoveKind.Laid, HireStage.Out) => $"By the register it is out, {at.Why}. If it is this one, say first that it is back.",
            _ => null,
        };

    /// <summary>What a move takes: whoever looks at what was out has it in hand, so it is back.</summary>
    public static ImmutableArray<HireMove> Steps(HireAnswer at, HireMove move) =>
        move is LookedAt && at is { Stage: HireStage.Out, CallBack: null } ? [new Returned(), move] : [move];

    /// <summary>The moves that follow from one, or why nothing is done.</summary>
    public static Result<ImmutableArray<HireMove>> Do(HireAnswer at, HireMove move) =>
        Refusal(at, KindOf(move)) is { } why ? new Fault("move", why)
        : move.Wrong is { } wrong ? wrong
        : Steps(at, move);

    /// <returns>What is wrong with it, of an item that has to come out of use at once; null otherwise.</returns>
    public static string? TakesOutOfUse(HireMove move) =>
        move is LookedAt it && !HireVerdict.Of(it.Seen).IsGood ? HireVerdict.InWords(it) : null;

    /// <summary>Said when it is issued all the same: the customer may keep it past its test.</summary>
    public static string? Warning(DateOnly? due, DateOnly? backBy) =>
        backBy > due ? $"Its test runs out {Day(due!.Value)}, before it is back." : null;

    public static HireMoveKind KindOf(HireMove move) =>
        move switch
        {
            Issued => HireMoveKind.Issued,
            Returned => HireMoveKind.Returned,
            LookedAt => HireMoveKind.LookedAt,
            _ => HireMoveKind.Laid,
        };

    private static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
