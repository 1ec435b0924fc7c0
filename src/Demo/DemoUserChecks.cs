using Osierwand.Core.Bench;
using Osierwand.Core.Looking;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>What the users of weekly items told of these days: most of them, some a week late, some nobody.</summary>
internal static class DemoUserChecks
{
    /// <summary>In the order of the tags: every start tells the same story.</summary>
    public static void Add(OsierwandDb db, DateTimeOffset now)
    {
        var weekly = db
            .Items.Local.Where(it => it is { State: ItemState.InService, HeldCause: null, LastLookedOn: not null })
            .Where(it => Core.Intervals.UserChecks.Of(it.Place, it.Equipment.Use, it.Equipment.Kind, null).IsWeekly)
            .OrderBy(it => it.Tag)
            .Select((item, n) => (item, n));
        foreach (var (item, n) in weekly.ToList())
        {
            if (n % 5 == 4)
                continue;
            var at = now.AddDays(n % 7 == 6 ? -9 : -(n % 6)).AddHours(-2).AddMinutes(n % 50);
            if (item.Site.DayOf(at) < item.LastLookedOn)
                continue;
            db.UserChecks.Add(
                new()
                {
                    Id = Guid.CreateVersion7(at),
                    ItemId = item.Id,
                    At = at,
                    Report = UserReport.AllGood,
                    Name = "morning shift",
                }
            );
            item.LastUserCheckOn = item.Site.DayOf(at);
        }
    }
}
