using System.Collections.Immutable;
using System.Text.Json.Serialization;
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

/// <summary>What may be done next; the page shows those, the server takes no others.</summary>
/// <param name="WhyNot">Null where it may be done.</param>
public sealed record MayAct(ActKind Kind, string? WhyNot);

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
public sealed record Hold(HoldCause Cause, ImmutableArray<DoneAct> Acts)
{
    [JsonIgnore]
    public Stage Stage => Acts.Aggregate(Stage.NotSafe, (stage, done) => After(stage, done.Act));

    /// <summary>The last one; null where nobody has said what was mended.</summary>
    [JsonIgnore]
    public DoneAct? Repair => Stage == Stage.Repaired ? Acts.Last(done => done.Act is Repaired) : null;

    /// <summary>The hold with one act more, or why it is not done.</summary>
    public Result<Hold> With(DoneAct done)
    {
        if (Refusal(Stage, KindOf(done.Act)) is { } why)
            return new Fault("act", why);
        foreach (var (name, text, isNeeded) in done.Act.Texts)
        {
            if (isNeeded && string.IsNullOrWhiteSpace(text))
                return new Fault(name, "Say it in a few words.");
            if (text?.Length > QuarantineAct.LongestText)
                return new Fault(name, $"Longer than {QuarantineAct.LongestText} characters.");
            if (text is not null && KeptText.Unseen(text) is { } unseen)
                return new Fault(name, unseen);
        }
        return this with { Acts = Acts.Add(done) };
    }

    [JsonIgnore]
    public ImmutableArray<MayAct> May => [.. Enum.GetValues<ActKind>().Select(kind => new MayAct(kind, Refusal(Stage, kind)))];

    /// <summary>Of the item in the register.</summary>
    [JsonIgnore]
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
            (Stage.NotSafe or Stage.InRepair or Stage.Repaired or Stage.Returned, ActKind.MadeSafe) => null,
            (Stage.Held, ActKind.MadeSafe) => "It is made safe.",
            (Stage.Held, ActKind.SentToRepair) => null,
            (Stage.NotSafe, ActKind.SentToRepair) => "Make it safe first: on its way nobody may plug it in.",
            (Stage.Returned, ActKind.SentToRepair or ActKind.Repaired) => "The client has it. Say that it is back and made safe first.",
            (_, ActKind.SentToRepair) => "It is in repair.",
            (_, ActKind.Repaired) => null,
            (_, ActKind.Scrapped) => null,
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
