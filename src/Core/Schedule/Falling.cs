namespace Osierwand.Core.Schedule;

/// <summary>What an item falls due for.</summary>
public enum DueTier
{
    /// <summary>The inspection with its tests; the look is part of it.</summary>
    Combined,

    /// <summary>The formal visual alone.</summary>
    Visual,
}

/// <summary>What an item falls due for, and by when, of its two dates. A test is a look too: one that falls due within the window after
/// the look is done with it, by the earlier date.</summary>
/// <param name="By">The last day on which it is in time; null where it was never tested, and is due at once.</param>
/// <param name="Since">When that was done last; null where it never was.</param>
public sealed record Falling(DueTier Tier, DateOnly? By, DateOnly? Since)
{
    /// <param name="window">Days within which a round is planned.</param>
    public static Falling Of(DateOnly? due, DateOnly? visualDue, DateOnly? tested, DateOnly? looked, int window)
    {
        var isLook = visualDue is { } look && due is { } test && look.AddDays(window) < test;
        var by = due is null || visualDue is null || due <= visualDue ? due : visualDue;
        return isLook ? new(DueTier.Visual, by, looked) : new(DueTier.Combined, by, tested);
    }

    public static string Text(DueTier tier) => tier == DueTier.Visual ? "formal visual" : "inspection and test";
}
