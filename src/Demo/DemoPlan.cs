using Osierwand.Core.Rounds;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>Who stands at the bench when, how far sites are, and a round that is planned and not open yet: half a year's tools of the track
/// gangs, two people, one item another tests.</summary>
internal static class DemoPlan
{
    private const string Site = "Track gang store";

    /// <summary>There and back, in minutes: the café lies at the top of the line, the reef a ferry away.</summary>
    private static readonly Dictionary<string, int> Travel = new()
    {
        ["Summit café"] = 110,
        ["Workshops"] = 50,
        [Site] = 50,
        ["First-aid post"] = 55,
        ["Main building"] = 40,
        ["Dive shop"] = 150,
        ["Clinic"] = 90,
        ["Counter and yard"] = 20,
    };

    /// <summary>Minutes at the bench, Monday first.</summary>
    private static readonly (string Who, int[] Minutes, int[] OffIn)[] Hours =
    [
        ("ida", [300, 300, 0, 300, 300, 0, 0], [15, 18]),
        ("rufus", [330, 330, 0, 330, 0, 0, 0], []),
    ];

    public static void Add(OsierwandDb db, IReadOnlyList<Person> people, DateOnly today)
    {
        foreach (var one in db.Sites.Local)
            one.TravelMinutes = Travel.GetValueOrDefault(one.Name, one.TravelMinutes);
        foreach (var (who, minutes, off) in Hours)
            db.BenchHours.Add(
                new()
                {
                    PersonId = people.Single(it => it.UserName == who).Id,
                    Minutes = minutes,
                    DaysOff = [.. off.Select(today.AddDays)],
                }
            );
        var site = db.Sites.Local.FirstOrDefault(it => it.Name == Site);
        if (site is null)
            return;
        var round = new Round
        {
            Id = Guid.CreateVersion7(),
            SiteId = site.Id,
            Name = "Track gangs, before the thaw",
            StandardId = "uk-cop-5",
            StartsOn = today.AddDays(6),
            EndsOn = today.AddDays(8),
            State = RoundState.Planned,
            IsPlanned = true,
            ScopeWords = "All 110 V tools, reels and RCDs in the store. Nothing hard-wired. Chargers stay with the stores clerk.",
        };
        db.Rounds.Add(round);
        var items = db.Items.Local.Where(it => it.SiteId == site.Id).OrderBy(it => it.Tag).ToArray();
        foreach (var item in items)
            db.RoundItems.Add(
                new()
                {
                    RoundId = round.Id,
                    ItemId = item.Id,
                    ExcludedWhy = item == items[^1] ? "on loan to the bridge crew until February" : null,
                    TestedBy = item == items[^1] ? "the bridge crew's own tester" : null,
                }
            );
        foreach (var (who, day, minutes) in new[] { ("ida", 6, 90), ("rufus", 7, 75) })
            db.RoundDays.Add(
                new()
                {
                    RoundId = round.Id,
                    Day = today.AddDays(day),
                    PersonId = people.Single(it => it.UserName == who).Id,
                    Minutes = minutes,
                }
            );
    }
}
