using Osierwand.Core.Rounds;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Demo;

/// <summary>A round that is planned and not open yet: half a year's tools of the track gangs, two people, one item another tests.</summary>
internal static class DemoPlan
{
    private const string Site = "Track gang store";

    public static void Add(OsierwandDb db, IReadOnlyList<Person> people, DateOnly today)
    {
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
