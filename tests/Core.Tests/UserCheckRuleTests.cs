using CsCheck;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The first of the three tiers: how often an item's users look at it, and on which days.</summary>
public sealed class UserCheckRuleTests
{
    private static readonly string?[] Packs = ["uk-cop-5", "as-nzs-3760-2022", "iec-62353-2014", null];
    private static readonly double[] Periods = [0.25, 1, 3];
    private static readonly DateOnly Today = new(2026, 2, 27);

    private static UserRhythm Of(Place place, UseOf use, ItemKind kind = ItemKind.Appliance, string? pack = "uk-cop-5") =>
        UserChecks.Of(place, use, kind, pack is null ? null : PackLibrary.Find(pack));

    [Theory]
    [InlineData(Place.Office, UseOf.Handheld, ItemKind.Appliance, "uk-cop-5", "before use", null)]
    [InlineData(Place.Office, UseOf.Portable, ItemKind.Appliance, "uk-cop-5", "weekly", 0.25)]
    [InlineData(Place.Office, UseOf.It, ItemKind.Appliance, "uk-cop-5", "none", null)]
    [InlineData(Place.Kitchen, UseOf.Fixed, ItemKind.Appliance, "uk-cop-5", "none", null)]
    [InlineData(Place.Hire, UseOf.Portable, ItemKind.Appliance, "uk-cop-5", "each issue", null)]
    [InlineData(Place.Medical, UseOf.Movable, ItemKind.MedicalDevice, "iec-62353-2014", "before use", null)]
    [InlineData(Place.School, UseOf.Portable, ItemKind.PortableRcd, "as-nzs-3760-2022", "push-button every 3 months", 3.0)]
    [InlineData(Place.Workshop, UseOf.Portable, ItemKind.PortableRcd, "as-nzs-3760-2022", "push-button before use or daily", null)]
    [InlineData(Place.School, UseOf.Portable, ItemKind.PortableRcd, "uk-cop-5", "weekly", 0.25)]
    [InlineData(Place.School, UseOf.Portable, ItemKind.PortableRcd, null, "weekly", 0.25)]
    public void How_often_follows_place_use_and_standard(Place place, UseOf use, ItemKind kind, string? pack, string words, double? months)
    {
        var rhythm = Of(place, use, kind, pack);
        (rhythm.Words, rhythm.Every?.Months).ShouldBe((words, months));
        (rhythm.Sentence is null).ShouldBe(words == "none");
        rhythm.IsAsked.ShouldBe(words != "none");
    }

    /// <summary>A word that the table does not know would be a rule that nobody is reminded of.</summary>
    [Fact]
    public void Every_word_of_every_table_is_known()
    {
        foreach (var pack in Packs)
        foreach (var place in Enum.GetValues<Place>())
        foreach (var use in Enum.GetValues<UseOf>())
        foreach (var kind in Enum.GetValues<ItemKind>())
            Should.NotThrow(() => Of(place, use, kind, pack)).Words.ShouldNotBeEmpty();
        PackLibrary
            .Find("as-nzs-3760-2022")!
            .RcdIntervals!.ByPlace.Values.Select(it => it.PushButton)
            .ShouldAllBe(word => IntervalTable.Shipped.UserEvery.ContainsKey(word));
    }

    /// <summary>What the schedule says is what the saved record says.</summary>
    [Fact]
    public void The_interval_rule_names_the_same()
    {
        foreach (var place in Enum.GetValues<Place>().Where(it => it != Place.Medical))
        foreach (var use in Enum.GetValues<UseOf>())
        foreach (var kind in new[] { ItemKind.Appliance, ItemKind.ExtensionLead, ItemKind.PortableRcd })
        foreach (var pack in new[] { "uk-cop-5", "as-nzs-3760-2022" })
            IntervalRule
                .Of(
                    new()
                    {
                        Pack = PackLibrary.Find(pack)!,
                        Place = place,
                        Use = use,
                        Kind = kind,
                        TestDate = Today,
                    }
                )
                .UserCheck.ShouldBe(Of(place, use, kind, pack).Words);
    }

    [Theory]
    [InlineData("2026-02-25", "2026-03-04,2026-03-11,2026-03-18")]
    [InlineData("2026-02-20", "2026-02-27,2026-03-06,2026-03-13")]
    [InlineData("2026-01-01", "2026-02-27,2026-03-06,2026-03-13")] // what is over is to be done today
    [InlineData(null, "2026-02-27,2026-03-06,2026-03-13")]
    public void A_weekly_look_comes_every_seventh_day(string? last, string days) =>
        string.Join(
                ',',
                new UserRhythm("weekly", Period.Week)
                    .Days(last is null ? null : DateOnly.Parse(last, null), Today, Today.AddDays(19))
                    .Select(day => day.ToString("yyyy-MM-dd"))
            )
            .ShouldBe(days);

    [Fact]
    public void Three_months_from_the_last_of_november_is_the_last_of_february() =>
        new UserRhythm("push-button every 3 months", new(3)).Due(new(2025, 11, 30), Today).ShouldBe(new DateOnly(2026, 2, 28));

    [Fact]
    public void Its_days_lie_in_the_time_asked_for_and_each_a_period_after_the_one_before() =>
        Gen.Select(Gen.Int[-400, 40], Gen.Int[0, 200], Gen.Int[0, 2])
            .Sample(
                (ago, ahead, which) =>
                {
                    var (until, every) = (Today.AddDays(ahead), new Period(Periods[which]));
                    var days = new UserRhythm("", every).Days(Today.AddDays(ago), Today, until).ToArray();
                    days.ShouldAllBe(day => day >= Today && day <= until);
                    foreach (var (one, next) in days.Zip(days.Skip(1)))
                        next.ShouldBe(every.After(one));
                    if (every.After(Today.AddDays(ago)) <= until)
                        days.ShouldNotBeEmpty();
                }
            );
}
