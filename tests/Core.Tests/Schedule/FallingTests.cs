using Osierwand.Core.Schedule;
using Shouldly;
using Xunit;

namespace Osierwand.Core.Tests.Schedule;

/// <summary>What an item falls due for, of its two dates; the window is thirty days.</summary>
public sealed class FallingTests
{
    private static DateOnly? Day(string? iso) => iso is null ? null : DateOnly.Parse(iso, null);

    [Theory]
    [InlineData(null, null, DueTier.Combined, null)]
    // Looked at and never tested: it is due for its test at once, whatever the date of its look.
    [InlineData(null, "2026-06-01", DueTier.Combined, null)]
    [InlineData("2026-06-01", null, DueTier.Combined, "2026-06-01")]
    [InlineData("2026-06-01", "2026-06-01", DueTier.Combined, "2026-06-01")]
    // Within the window one visit serves both, by the earlier date.
    [InlineData("2026-06-01", "2026-05-02", DueTier.Combined, "2026-05-02")]
    [InlineData("2026-06-01", "2026-05-01", DueTier.Visual, "2026-05-01")]
    [InlineData("2026-06-01", "2027-01-01", DueTier.Combined, "2026-06-01")]
    public void The_look_comes_alone_only_where_its_test_is_far(string? due, string? visual, DueTier tier, string? by)
    {
        var falling = Falling.Of(Day(due), Day(visual), new(2025, 6, 1), new(2025, 12, 1), 30);
        (falling.Tier, falling.By).ShouldBe((tier, Day(by)));
        falling.Since.ShouldBe(tier == DueTier.Visual ? new DateOnly(2025, 12, 1) : new DateOnly(2025, 6, 1));
    }
}
