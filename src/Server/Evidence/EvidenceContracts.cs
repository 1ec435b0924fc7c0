using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;

namespace Osierwand.Server.Evidence;

/// <summary>What inspections say of the intervals, group by group; those that ask for a decision first.</summary>
/// <param name="Basis">What counts, in a sentence.</param>
public sealed record EvidencePage(IReadOnlyList<EvidenceGroup> Groups, string Basis, double Target, bool MayDecide);

/// <summary>All items of one kind in one kind of place.</summary>
/// <param name="Items">In service now.</param>
/// <param name="Months">The interval that most of them have now: what is counted was inspected at it.</param>
/// <param name="AtIt">How many of the items have it.</param>
/// <param name="Low">5 % quantile of the failure rate in an interval, as a share.</param>
/// <param name="Says">The suggestion in a few words.</param>
/// <param name="Step">Decided until now, on the ladder.</param>
/// <param name="WhyNot">Why nothing is decided for it; null where a lead may.</param>
public sealed record EvidenceGroup(
    ItemKind Kind,
    Place Place,
    string Name,
    int Items,
    double Months,
    string Interval,
    int AtIt,
    int Inspections,
    int Failures,
    double Low,
    double Median,
    double High,
    Suggestion Suggestion,
    string Says,
    int Step,
    string? WhyNot
);

/// <param name="Because">How the suggestion follows, a line each.</param>
/// <param name="Curve">How likely each failure rate is.</param>
/// <param name="Models">Failures by model, the worst first.</param>
/// <param name="Leads">By how its mains lead is joined to it.</param>
/// <param name="Causes">What failed, the most frequent first.</param>
/// <param name="Decisions">The last first.</param>
/// <param name="Decided">How many decisions there are: what a new one goes by.</param>
public sealed record EvidenceDetail(
    EvidenceGroup Group,
    double Target,
    IReadOnlyList<string> Because,
    IReadOnlyList<CurvePoint> Curve,
    IReadOnlyList<EvidencePart> Models,
    IReadOnlyList<EvidencePart> Leads,
    IReadOnlyList<EvidencePart> Causes,
    IReadOnlyList<DecisionCard> Decisions,
    int Decided,
    IReadOnlyList<StepChoice> Choices
);

public sealed record CurvePoint(double Rate, double Height);

/// <param name="Inspections">0 where only failures are counted.</param>
/// <param name="Between">In which share of them fail, with what may be said of so many; null where only failures are counted.</param>
public sealed record EvidencePart(string Name, int Inspections, int Failures, string? Between = null);

/// <param name="Interval">What the group would have then.</param>
/// <param name="IsSuggested">The evidence asks for it.</param>
/// <param name="WhyNot">Null where it may be decided.</param>
public sealed record StepChoice(int Step, string Text, string Interval, bool IsSuggested, string? WhyNot);

/// <param name="Figures">By which it was decided, in a sentence.</param>
/// <param name="IsUndone">Another decision took it back.</param>
/// <param name="MayBeUndone">By a lead, once.</param>
public sealed record DecisionCard(
    Guid Id,
    string Text,
    string By,
    DateTimeOffset At,
    string Reason,
    string Figures,
    bool IsUndone,
    bool MayBeUndone
);

/// <param name="Step">-1 shorter, 0 keep, 1 longer.</param>
/// <param name="Decided">How many decisions the page knew.</param>
public sealed record DecideGroup(Guid Id, int Step, string Reason, int Decided);

public sealed record UndoDecision(Guid Id, string Reason);
