namespace Osierwand.Core.Judging;

/// <summary>How an inspection ended.</summary>
public enum Outcome
{
    Pass,
    PassWithAdvice,
    Fail,
    NotTested,

    /// <summary>Fault-finding: what was found, and never a pass. The item stays where and as due as it was.</summary>
    Findings,

    /// <summary>A correction that takes a record back: the item stands as it stood before it.</summary>
    Withdrawn,
}
