using Osierwand.Core.Bench;
using Osierwand.Core.Procedures;

namespace Osierwand.Server.Procedures;

/// <param name="Retired">When, by whom and why, in a sentence; null while it may be chosen.</param>
/// <param name="For">The model it is made for; empty where it is chosen by hand.</param>
public sealed record ProcedureListRow(
    Guid Id,
    string Name,
    int Version,
    string Standard,
    string For,
    IReadOnlyList<string> Adapters,
    int Steps,
    int LeftOut,
    string By,
    DateTimeOffset At,
    string? Retired
);

public sealed record ProcedureList(bool MayChange, IReadOnlyList<ProcedureListRow> Rows);

/// <param name="Lines">What it does otherwise than the version before it.</param>
public sealed record ProcedureVersionCard(int Version, string By, DateTimeOffset At, string Reason, IReadOnlyList<string> Lines);

/// <summary>One version of a procedure, with all that became of it.</summary>
/// <param name="Words">Each measured or left-out step's key in words, in the order of the steps; empty for others.</param>
/// <param name="Limits">Each measured step's own limit as it is read: "300 µA"; empty for others.</param>
/// <param name="Newest">Number of the newest version.</param>
public sealed record ProcedurePage(
    Procedure Procedure,
    IReadOnlyList<string> Words,
    IReadOnlyList<string> Limits,
    int Newest,
    string? Retired,
    bool MayChange,
    IReadOnlyList<ProcedureVersionCard> Versions,
    IReadOnlyList<Choice> Standards
);

/// <param name="Words">Each step's key in words, in the order of the steps; empty for those that have none.</param>
/// <param name="Units">In which own limits are written, by what a step's key begins with.</param>
/// <param name="Borrowable">Steps of other standards that it may borrow.</param>
public sealed record ProcedureWords(IReadOnlyList<string> Words, IReadOnlyList<LimitUnit> Units, IReadOnlyList<BorrowableStep> Borrowable);

/// <param name="Begins">What the key of such a step begins with.</param>
/// <param name="Symbol">In the words of the contract: "uA".</param>
/// <param name="Label">As it is read: "µA".</param>
public sealed record LimitUnit(string Begins, string Symbol, string Label);

public sealed record BorrowableStep(string PackId, string Standard, string Step, string Words);

/// <param name="BasedOn">The version that was edited; 0 for a new procedure.</param>
/// <param name="Reason">Why this version is made.</param>
public sealed record SaveProcedure(Procedure Procedure, int BasedOn, string Reason);

public sealed record ProcedureReason(string Reason);

/// <param name="RoundId">Whose standard and policy make the plan.</param>
public sealed record DraftProcedure(Guid ItemId, Guid RoundId, string Name);

/// <param name="Tag">Of a device to try it on.</param>
public sealed record TryProcedure(Procedure Procedure, string Tag);

/// <param name="Device">Tag, name and client.</param>
public sealed record TriedProcedure(string Device, ProcedurePreview Preview);
