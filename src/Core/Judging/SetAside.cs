using System.Collections.Immutable;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Judging;

/// <summary>Why a reading was made void, as it is chosen; <see cref="Other"/> says it in words alone.</summary>
public enum VoidCause
{
    Clip,
    Probe,
    WrongEnd,
    WrongItem,
    Instrument,
    Outlet,
    Other,
}

/// <summary>What took a failure out of the judgement.</summary>
public enum SetAsideBy
{
    /// <summary>It was made void.</summary>
    Void,

    /// <summary>A bad answer of the look was taken back.</summary>
    Look,

    /// <summary>The facts that it was judged by were corrected afterwards.</summary>
    Facts,

    /// <summary>It was measured on another sheet that nobody saved, and measured again on this one.</summary>
    Elsewhere,

    /// <summary>Scope, procedure, method or a second standard were chosen otherwise afterwards.</summary>
    Choice,
}

/// <summary>A failure that decides nothing any more (readings that cannot be, rules 9 and 12): no end hides it.</summary>
/// <param name="Name">What it was a reading of.</param>
/// <param name="Value">As it was shown; "bad" of what is answered good or bad.</param>
/// <param name="Why">What was said.</param>
/// <param name="IsExcused">It happens daily and was measured again: listed for the lead, told to nobody else.</param>
/// <param name="WantsLead">Only a lead ends it as a pass, with a photo of the mark or the plate.</param>
public sealed record SetAside(SetAsideBy By, string Name, string Value, string Why, bool IsExcused = false, bool WantsLead = false)
{
    /// <summary>Of these readings the ones that failed and were made void.</summary>
    /// <param name="judgements">In the order they were taken.</param>
    internal static ImmutableArray<SetAside> Voided(InspectionFacts facts, IReadOnlyList<Judgement> judgements)
    {
        var voided = default(ImmutableArray<SetAside>.Builder?);
        for (var at = 0; at < judgements.Count; at++)
        {
            var reading = judgements[at].Reading;
            if (reading.Void is not { } why || !HadFailed(facts, reading))
                continue;
            voided ??= ImmutableArray.CreateBuilder<SetAside>();
            voided.Add(new(SetAsideBy.Void, NameOf(reading), ValueOf(reading), why, IsDailyClip(judgements, at)));
        }
        // Read twice alike and made void alike, it is told once.
        return voided is null ? [] : [.. voided.Distinct()];
    }

    private static bool HadFailed(InspectionFacts facts, Reading reading) =>
        Judge.Of(facts.Pack, facts.Item, reading with { Void = null }, facts.DecisionRule).Status == Status.Fail;

    /// <summary>By another standard it says which.</summary>
    internal static string NameOf(Reading reading) => reading.Borrowed is { } pack ? $"{reading.Name} by {pack.Id}" : reading.Name;

    internal static string ValueOf(Reading reading) => reading.Value?.ToString() ?? "bad";

    /// <summary>An earth off the scale because the clip was off, and two readings of the instrument there after it.</summary>
    private static bool IsDailyClip(IReadOnlyList<Judgement> judgements, int at) =>
        judgements[at].Reading is Reading.EarthContinuity { VoidCause: VoidCause.Clip, Shown.Qualifier: Qualifier.Above } off
        && judgements
            .Skip(at + 1)
            .Count(later =>
                later is { Status: Status.Pass, Reading: Reading.EarthContinuity { IsTyped: false } }
                && later.Reading.Under == off.Under
                && later.Reading.Borrowed == off.Borrowed
            ) >= 2;

    /// <summary>A sentence for the paper.</summary>
    public string Text =>
        By switch
        {
            SetAsideBy.Void => $"{Name}: {Value} was read and failed; made void: {Why}.",
            SetAsideBy.Look => $"{Name}: “{Value}” was found and taken back: {Why}.",
            SetAsideBy.Facts => $"{Name}: {Value} failed; the facts were corrected afterwards: {Why}.",
            SetAsideBy.Elsewhere => $"{Name}: {Value} failed on an earlier run sheet that nobody saved ({Why}); measured again since.",
            _ => $"{Name}: {Value} failed; chosen otherwise afterwards: {Why}.",
        };
}
