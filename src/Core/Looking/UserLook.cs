namespace Osierwand.Core.Looking;

/// <summary>What an equipment user says of an item before use.</summary>
public enum UserReport
{
    AllGood,

    /// <summary>Something is damaged, loose or missing.</summary>
    Damaged,

    /// <summary>A shock, smoke, something burnt, bare metal or wire that should be covered.</summary>
    Dangerous,
}

/// <summary>The look of an equipment user: the first of the three tiers. It moves no date and is no test.</summary>
public static class UserLook
{
    /// <summary>What is dangerous is out of use at once, whoever says so; only a passed inspection after repair frees it.</summary>
    public static bool TakesOutOfUse(UserReport report) => report == UserReport.Dangerous;

    /// <summary>It stands on Today until somebody of the house has looked at it.</summary>
    public static bool IsToBeSeen(UserReport report) => report != UserReport.AllGood;

    public static bool WantsWords(UserReport report) => report != UserReport.AllGood;
}
