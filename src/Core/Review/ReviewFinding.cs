namespace Osierwand.Core.Review;

/// <summary>Why a lead looks at a record before signing; the gravest first, as they are listed.</summary>
public enum ReviewReason
{
    /// <summary>It failed, or a part of it did.</summary>
    Failed,

    /// <summary>A failing reading was made void, or corrected facts took it out of the judgement.</summary>
    FailureSetAside,

    /// <summary>A person decided in place of the comparison.</summary>
    Overridden,

    /// <summary>A procedure left out what the standard requires.</summary>
    LeftOut,

    /// <summary>Passed with a step that nobody could decide or measure.</summary>
    Undecided,

    /// <summary>The instrument that measured it was found drifted later.</summary>
    Drifted,

    /// <summary>Its next date lies later than computed.</summary>
    LongerInterval,

    /// <summary>Its medical evaluation differs from what the figures propose.</summary>
    OtherEvaluation,

    /// <summary>Taken back by a later record.</summary>
    TakenBack,
    NotTested,
    NearLimit,

    /// <summary>An earth was read with more of the test lead taken off than a good one has.</summary>
    LargeNull,

    /// <summary>Bench time, moment or order that is seldom so.</summary>
    OddTime,

    /// <summary>A failure that happens daily was taken back and looked at or measured again.</summary>
    TakenAgain,

    /// <summary>A value was typed though the instrument that measures it was on its line.</summary>
    TypedWhileConnected,
}

/// <param name="Text">A sentence: what was found and where.</param>
public sealed record ReviewFinding(ReviewReason Reason, string Text)
{
    /// <summary>Nobody signs the round before a lead has looked at this record: a person's decision, or an instrument's fault, stands in
    /// it.</summary>
    public bool MustBeSeen =>
        Reason
            is ReviewReason.Failed
                or ReviewReason.FailureSetAside
                or ReviewReason.Overridden
                or ReviewReason.LeftOut
                or ReviewReason.Undecided
                or ReviewReason.Drifted
                or ReviewReason.LongerInterval
                or ReviewReason.OtherEvaluation;
}
