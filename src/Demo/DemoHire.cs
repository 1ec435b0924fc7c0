using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Hire;
using Osierwand.Core.Looking;
using Osierwand.Core.Quarantine;
using Osierwand.Server.Hire;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>A hire fleet in mid-week: some out, one late, one called back, a pile that came back over night, the rest on the
/// wall.</summary>
internal static class DemoHire
{
    private static readonly string[] Customers =
    [
        "Contract 4417, Tarn Head Farm",
        "Contract 4421, Bellweather Roofing",
        "Contract 4425, Skerry Boatyard",
        "Contract 4430, parish hall",
    ];

    /// <summary>In the order of the tags: every start tells the same story.</summary>
    public static void Add(OsierwandDb db, IReadOnlyList<Person> people, DateTimeOffset now)
    {
        var person = people.Single(it => it.UserName == "rufus");
        var today = DateOnly.FromDateTime(now.UtcDateTime);
        var fleet = db
            .Items.Local.Where(it => it is { Place: Place.Hire, HeldCause: null, LastTestedOn: not null, State: ItemState.InService })
            .Where(it => it.Due >= today)
            .OrderBy(it => it.Tag)
            .Select((item, n) => (item, n));
        foreach (var (item, n) in fleet.ToList())
        {
            Add(db, person, item, Moves(n, now, today, item.LastTestedOn!.Value));
            if (n == Reported)
                Report(db, item, now);
        }
    }

    private const int Reported = 9;

    /// <summary>A customer reads the code on what they hired, and says what is wrong: it has to come back.</summary>
    private static void Report(OsierwandDb db, RegisterItem item, DateTimeOffset now)
    {
        var check = new UserCheck
        {
            Id = Guid.CreateVersion7(),
            ItemId = item.Id,
            At = now.AddHours(-1),
            Report = UserReport.Dangerous,
            Words = "It smells burnt, and the switch stays on",
            Name = "at the farm",
            TookOutOfUse = true,
        };
        db.UserChecks.Add(check);
        item.LastUserCheckOn = DateOnly.FromDateTime(check.At.UtcDateTime);
        (item.State, item.Stage) = (ItemState.Quarantined, Stage.NotSafe);
        (item.HeldCause, item.HeldBy, item.HeldFrom) = (check.Id, HeldBy.UserReport, check.From);
        (item.HeldWhy, item.HeldSince) = (check.Words, check.At);
    }

    /// <summary>Issued after its last test, as everything was that is out.</summary>
    private static IEnumerable<(DateTimeOffset At, HireMove Move)> Moves(int n, DateTimeOffset now, DateOnly today, DateOnly tested)
    {
        var days = Math.Clamp(today.DayNumber - tested.DayNumber - 1, 0, 3 + n % 9);
        var issued = now.AddDays(-days).AddHours(-3);
        var backBy = n % 12 == 3 ? today.AddDays(-1) : today.AddDays(2 + n % 5);
        var issue = (issued, (HireMove)new Issued(Customers[n % Customers.Length], backBy));
        var back = (now.AddHours(-2).AddMinutes(n), (HireMove)new Returned());
        return ((n + 3) % 6) switch
        {
            0 or 1 or 2 => [issue],
            3 => [issue, back],
            4 when n % 4 == 0 => [issue, back, (now.AddHours(-1).AddMinutes(n / 2), new LookedAt(HireSeen.Good))],
            _ => [],
        };
    }

    private static void Add(OsierwandDb db, Person person, RegisterItem item, IEnumerable<(DateTimeOffset At, HireMove Move)> moves)
    {
        var standing = HireStanding.Start;
        foreach (var (at, move) in moves)
        {
            var done = new DoneMove(Guid.CreateVersion7(), at, person.DisplayName, move);
            standing = standing.After(done);
            db.HireMoves.Add(HireFleet.Row(item.Id, standing.Moves, person.Id, done));
        }
        if (standing.Moves > 0)
            db.HireItems.Add(new() { ItemId = item.Id, Standing = standing });
    }
}
