namespace Osierwand.Core.Review;

/// <summary>What a lead reads beside a finding.</summary>
public static class ReviewText
{
    public static string Of(ReviewReason reason) =>
        reason switch
        {
            ReviewReason.Failed => "failed",
            ReviewReason.FailureSetAside => "failure set aside",
            ReviewReason.TakenAgain => "taken again",
            ReviewReason.Overridden => "decided by a person",
            ReviewReason.LeftOut => "left out",
            ReviewReason.Undecided => "undecided",
            ReviewReason.Drifted => "instrument drifted",
            ReviewReason.LongerInterval => "made longer",
            ReviewReason.OtherEvaluation => "evaluated otherwise",
            ReviewReason.TakenBack => "taken back",
            ReviewReason.NotTested => "not tested",
            ReviewReason.NearLimit => "near its limit",
            ReviewReason.LargeNull => "large null",
            ReviewReason.OddTime => "odd time",
            _ => "typed",
        };
}
