using Osierwand.Core.Bench;
using Osierwand.Core.Kit;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Kit;

/// <summary>A thing of the kit as it is listed.</summary>
/// <param name="Trouble">Why it cannot be chosen; null where it can.</param>
/// <param name="Warnings">Worth telling of one that can be.</param>
/// <param name="AsksForLook">It is looked at point by point before use.</param>
/// <param name="NullStale">Of a test lead: its null is missing or too old.</param>
/// <param name="IsConnected">Of an instrument: it answers on its line now.</param>
/// <param name="IsToday">It is in the kit that the person who asks chose for today.</param>
public sealed record KitCard(
    Guid Id,
    KitKind Kind,
    string KindText,
    string Name,
    string? Maker,
    string? Model,
    string? Serial,
    InstallationCategory? Category,
    DateOnly? CalibrationDue,
    KitFitness Fitness,
    string FitnessText,
    string? Trouble,
    IReadOnlyList<string> Warnings,
    bool AsksForLook,
    bool IsLookedAt,
    DateTimeOffset? LookedAt,
    DateTimeOffset? CheckedAt,
    string? NullText,
    DateTimeOffset? NulledAt,
    bool NullStale,
    bool IsConnected,
    bool IsToday
);

/// <param name="Until">When the choice lapses; null where nothing is chosen.</param>
/// <param name="Last">What the person chose last, whether or not it still holds.</param>
/// <param name="Flagged">Records that wait for a lead's look.</param>
public sealed record KitPage(IReadOnlyList<KitCard> Items, DateTimeOffset? Until, IReadOnlyList<Guid> Last, int Flagged);

/// <summary>One thing of the kit with its story.</summary>
/// <param name="Points">What is looked at before use.</param>
/// <param name="Lines">Of a check box: what it is stated to show.</param>
/// <param name="Drift">Of an instrument: each line of its checks over time.</param>
/// <param name="Unsuited">Of an instrument: limits in force here that it is too coarse for.</param>
/// <param name="Flags">Records that were measured with it before a check failed and that nobody has looked at again.</param>
public sealed record KitSheet(
    KitCard Card,
    KitDetails Details,
    IReadOnlyList<KitPointCard> Points,
    IReadOnlyList<CheckBoxChoice> CheckBoxes,
    IReadOnlyList<DriftLine> Drift,
    IReadOnlyList<string> Unsuited,
    IReadOnlyList<KitCheckLine> Checks,
    IReadOnlyList<FlagCard> Flags
);

/// <param name="Lines">The terminals that the instrument can measure.</param>
/// <param name="Trouble">Why it checks nothing now.</param>
public sealed record CheckBoxChoice(Guid Id, string Name, string? Trouble, IReadOnlyList<StatedValue> Lines);

/// <param name="Name">Of the line, as the check box states it.</param>
/// <param name="Warning">A sentence; null where nothing needs saying.</param>
public sealed record DriftLine(string Key, string Name, IReadOnlyList<DriftPoint> Points, DateOnly? Reaches, string? Warning);

/// <param name="Deviation">Of the tolerance, with its sign: 1 is at its upper end.</param>
public sealed record DriftPoint(DateTimeOffset At, double Deviation, string Read);

public sealed record KitCheckLine(DateTimeOffset At, string Person, KitCheckKind Kind, bool IsGood, IReadOnlyList<string> Lines);

public sealed record FlagCard(Guid Id, Guid ItemId, string Tag, string Name, DateOnly Day, string Why);

/// <summary>What a lead keeps of a thing of the kit.</summary>
public sealed record KitDetails(
    KitKind Kind,
    string Name,
    string? Maker,
    string? Model,
    string? Serial,
    DateOnly? CalibratedOn,
    DateOnly? CalibrationDue,
    string? Certificate,
    InstallationCategory? Category,
    string? ProductStandard,
    bool NullsItself,
    IReadOnlyList<StatedAccuracy> Accuracies,
    IReadOnlyList<StatedValue> StatedValues
);

public sealed record KitTaken(Guid Id);

/// <param name="Items">One instrument, at most one test lead, and whatever else is taken along.</param>
public sealed record ChooseKit(IReadOnlyList<Guid> Items);

/// <param name="ForDeadWork">It is kept for dead work where live work is all that it failed for.</param>
public sealed record LookAtKit(IReadOnlyList<KitAnswer> Answers, bool ForDeadWork);

public sealed record CheckInstrument(Guid CheckBoxId, IReadOnlyList<TerminalRead> Read);

/// <param name="Key">Of the check box's line.</param>
/// <param name="Text">As typed.</param>
public sealed record TerminalRead(string Key, string Text);

/// <param name="Lines">Each line as it was judged.</param>
/// <param name="Flagged">Records that were put before a lead because of it.</param>
public sealed record InstrumentChecked(bool IsGood, IReadOnlyList<CheckLine> Lines, IReadOnlyList<string> Warnings, int Flagged);

/// <param name="Text">As the instrument showed it; null where the instrument on the line is to measure it.</param>
public sealed record NullLead(string? Text);

/// <param name="Telling">What the null says beside its value; null where nothing.</param>
public sealed record LeadNulled(string Text, string? Telling);

public sealed record RetireKit(string Reason);

public sealed record FlagSeen(string Decision);
