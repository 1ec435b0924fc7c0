using System.Collections.Immutable;
using Osierwand.Core.Bench;

namespace Osierwand.Core.Quarantine;

/// <summary>How far it is with an item that is out of use.</summary>
public enum Stage
{
    /// <summary>Found bad, and nobody has said that it cannot be plugged in.</summary>
    NotSafe,
    Held,
    InRepair,

    /// <summary>Mended, and not tested since.</summary>
    Repaired,

    /// <summary>Back with the client untested, with its warning.</summary>
    Returned,
    Scrapped,
}

public enum ActKind
{
    MadeSafe,
    SentToRepair,
    Repaired,
    Scrapped,
    ReturnedUntested,
}

/// <summary>
/// An item out of use: why, and what was done about it since. Nothing of this puts it back into service: only a passed inspection after
/// repair does, or a correction of the record that failed it.
/// </summary>
public sealed record Hold(HoldCause Cause, bool IsHardWired, ImmutableArray<DoneAct> Acts)
{
    public Stage Stage => Acts.Aggregate(Stage.NotSafe, (stage, done) => After(stage, done.Act));

    /// <summary>What was mended last; null where nobody has said, or it was made safe again since.</summary>
    public RepairSaid? Repair => Stage == Stage.Repaired ? Acts.Select(done => done.Act).OfType<Repaired>().Last().Said : null;

    /// <summary>What is usually done next; null where it is tested next, or nothing is.</summary>
    public static ActKind? Usual(Stage stage) =>
        stage switch
        {
            Stage.NotSafe or Stage.Returned => ActKind.MadeSafe,
            Stage.Held => ActKind.SentToRepair,
            Stage.InRepair => ActKind.Repaired,
            _ => null,
        };

    /// <summary>It waits for its test after repair.</summary>
    public static bool IsToBeTested(Stage stage) => stage == Stage.Repaired;

    public ImmutableArray<ActKind> May => [.. Enum.GetValues<ActKind>().Where(kind => Refusal(Stage, kind) is null)];

    /// <summary>How nobody can use it: what is hard-wired has no plug to cut.</summary>
    public ImmutableArray<MadeUnusable> Ways =>
        [.. Enum.GetValues<MadeUnusable>().Where(how => how == MadeUnusable.LockedOff == IsHardWired)];

    /// <summary>The hold with one act more, or why it is not done.</summary>
    public Result<Hold> With(DoneAct done)
    {
        if (Refusal(Stage, KindOf(done.Act)) is { } why)
            return new Fault("act", why);
        if (done.Act is MadeSafe { How: var how } && !Ways.Contains(how))
            return new Fault("how", IsHardWired ? "It is hard-wired: lock it off." : "It has a plug: make that unusable, or lock it away.");
        foreach (var (name, text, isNeeded) in done.Act.Texts)
        {
            if (isNeeded && string.IsNullOrWhiteSpace(text))
                return new Fault(name, "Say it in a few words.");
            if (text is not null && (KeptText.Refusal(text, QuarantineAct.LongestText) ?? KeptText.Unseen(text)) is { } odd)
                return new Fault(name, odd);
        }
        return this with { Acts = Acts.Add(done) };
    }

    /// <summary>Of the item in the register.</summary>
    public ItemState State =>
        Stage switch
        {
            Stage.InRepair or Stage.Repaired => ItemState.InRepair,
            Stage.Scrapped => ItemState.Scrapped,
            _ => ItemState.Quarantined,
        };

    /// <summary>The state table of a held item.</summary>
    /// <returns>Why it may not be done, or null.</returns>
    public static string? Refusal(Stage stage, ActKind act) =>
        (stage, act) switch
        {
            (Stage.Scrapped, _) => "It is scrapped.",
            (Stage.Held, ActKind.MadeSafe) => "It is made safe.",
            (_, ActKind.MadeSafe) => null,
            (Stage.Held, ActKind.SentToRepair) => null,
            (Stage.NotSafe, ActKind.SentToRepair) => "Make it safe first: on its way nobody may plug it in.",
            (Stage.Returned, ActKind.SentToRepair or ActKind.Repaired) => "The client has it. Say that it is back and made safe first.",
            (_, ActKind.SentToRepair) => "It is in repair.",
            (_, ActKind.Repaired or ActKind.Scrapped) => null,
            (Stage.Held, ActKind.ReturnedUntested) => null,
            (Stage.NotSafe, ActKind.ReturnedUntested) => "Make it safe first: nobody gets it back ready to be plugged in.",
            (Stage.Returned, ActKind.ReturnedUntested) => "The client has it.",
            _ => "It is in repair: say that it is back and made safe first.",
        };

    public static ActKind KindOf(QuarantineAct act) =>
        act switch
        {
            MadeSafe => ActKind.MadeSafe,
            SentToRepair => ActKind.SentToRepair,
            Quarantine.Repaired => ActKind.Repaired,
            Quarantine.Scrapped => ActKind.Scrapped,
            _ => ActKind.ReturnedUntested,
        };

    private static Stage After(Stage stage, QuarantineAct act) =>
        Refusal(stage, KindOf(act)) is not null
            ? stage
            : act switch
            {
                MadeSafe => Stage.Held,
                SentToRepair => Stage.InRepair,
                Quarantine.Repaired => Stage.Repaired,
                Quarantine.Scrapped => Stage.Scrapped,
                _ => Stage.Returned,
            };
}
