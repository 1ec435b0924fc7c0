using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Equipment;
using Osierwand.Core.Records;
using Osierwand.Core.Rounds;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Register;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>Loads the demo world once: people, kit, five clients, about four hundred items and three years of inspections.</summary>
internal sealed class DemoWorld : IDemoWorld
{
    /// <summary>Every run makes the same world for the same day.</summary>
    internal static readonly Guid AnalyserId = new("0199a000-0000-7000-8000-00000000a002");
    internal static readonly Guid LeakageClampId = new("0199a000-0000-7000-8000-00000000a004");
    internal static readonly Guid PerformanceAnalyserId = new("0199a000-0000-7000-8000-00000000a003");

    public async Task LoadAsync(IServiceProvider services)
    {
        var db = services.GetRequiredService<OsierwandDb>();
        if (await db.Clients.AnyAsync())
            return;
        var time = services.GetRequiredService<TimeProvider>();
        var log = services.GetRequiredService<ILoggerFactory>().CreateLogger("Osierwand.Demo");
        var started = time.GetTimestamp();
        var people = await AddPeopleAsync(services);
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        await using var transaction = await db.Database.BeginTransactionAsync();
        // Everything is new: nothing has to be compared, thousands of rows at each look.
        db.ChangeTracker.AutoDetectChangesEnabled = false;
        DemoKit.Add(db, people, time.GetUtcNow(), today);
        db.HouseChanges.Add(
            new()
            {
                PackId = "uk-cop-5",
                Revision = 1,
                RuleId = "insulation-lead",
                Value = 2,
                Unit = "Mohm",
                Reason = "a lead lies in the wet: below 2 MΩ its sheath is on the way",
                By = people.Single(it => it.UserName == "maud").DisplayName,
                At = time.GetUtcNow().AddDays(-40),
            }
        );
        foreach (var client in DemoCatalogue.Clients())
            Add(db, client, people, today);
        DemoQuarantine.Add(db, people, time.GetUtcNow());
        DemoPlan.Add(db, people, today);
        DemoProcedures.Add(db, time.GetUtcNow());
        foreach (var round in db.Rounds.Local.Where(it => it.ClosedOn is null).DistinctBy(it => it.SiteId).ToList())
            DemoOutlets.Add(db, people, round, time.GetUtcNow());
        DemoHire.Add(db, people, time.GetUtcNow());
        DemoUserChecks.Add(db, time.GetUtcNow());
        DemoReview.Add(db, people, time.GetUtcNow());
        // A client's own reader: of the hospital, whose papers matter most.
        var viewer = people.Single(it => it.UserName == DemoCatalogue.Viewer.UserName);
        var hospital = db.Clients.Local.Single(it => it.Code == DemoCatalogue.Viewer.Client);
        db.PersonClients.Add(new() { PersonId = viewer.Id, ClientId = hospital.Id });
        await db.SaveChangesAsync();
        await transaction.CommitAsync();
        db.ChangeTracker.Clear();
        Told(log, time.GetElapsedTime(started).TotalSeconds, null);
    }

    private static readonly Action<ILogger, double, Exception?> Told = LoggerMessage.Define<double>(
        LogLevel.Information,
        new EventId(1, "DemoLoaded"),
        "The demo world was loaded in {Seconds:0.0} s"
    );

    private static async Task<List<Person>> AddPeopleAsync(IServiceProvider services)
    {
        var users = services.GetRequiredService<UserManager<Person>>();
        var db = services.GetRequiredService<OsierwandDb>();
        await Accounts.EnsureRolesAsync(db, CancellationToken.None);
        var people = new List<Person>();
        foreach (var (userName, name, initials, role) in DemoCatalogue.People)
        {
            // A start that was stopped half-way may have made some already.
            if (await users.FindByNameAsync(userName) is { } known)
            {
                people.Add(known);
                continue;
            }
            var person = new Person
            {
                UserName = userName,
                DisplayName = name,
                Initials = initials,
                IsDemo = true,
            };
            // Without a password: the demo's own door is the only one they have.
            var made = await users.CreateAsync(person);
            if (!made.Succeeded)
                throw new InvalidOperationException(
                    $"The demo person {userName} was refused: {string.Join(' ', made.Errors.Select(it => it.Description))}"
                );
            await Accounts.GiveRoleAsync(db, person.Id, role, CancellationToken.None);
            people.Add(person);
        }
        return people;
    }

    private static void Add(OsierwandDb db, DemoClient demo, List<Person> people, DateOnly today)
    {
        var client = demo.Client;
        db.Clients.Add(client);
        var inspections = new List<(Inspection Inspection, InspectionRecord Record)>();
        foreach (var place in demo.Sites)
        {
            var site = new Site
            {
                Id = Guid.CreateVersion7(),
                ClientId = client.Id,
                Name = place.Name,
                TimeZone = demo.TimeZone,
                NominalV = demo.Mains?.Volts,
                MainsHz = demo.Mains?.Hertz,
            };
            db.Sites.Add(site);
            var rounds = new DemoRounds(site, demo, place.OpenRound, today);
            var number = place.FirstNumber;
            foreach (var room in place.Rooms)
            {
                var stands = new List<RegisterItem>();
                for (var i = 0; i < room.Count; i++)
                {
                    var tag = $"{client.Code}-{number++:0000}";
                    var history = DemoHistory.Of(tag, today, people);
                    var model = room.Models[i % room.Models.Length];
                    var item = history.NewItem(client, site, room, model, tag, place.OpenRound is not null);
                    if (item.Equipment.Kind == ItemKind.MedicalSystem)
                    {
                        item.Equipment = Systems.Whole(item, stands);
                        stands.ForEach(member => member.PartOf = item.Id);
                    }
                    stands.Add(item);
                    db.Items.Add(item);
                    inspections.AddRange(history.Live(item, client, rounds));
                }
            }
            db.Rounds.AddRange(rounds.All);
        }
        // The book runs in the order of the days, as if each had been saved then.
        var (hash, at) = (RecordChain.Start, 0L);
        foreach (var (inspection, record) in inspections.OrderBy(it => it.Inspection.TestedAt))
        {
            inspection.Record = record.ToJson();
            inspection.BookNumber = ++at;
            inspection.Hash = hash = inspection.Kept().HashAfter(hash);
            db.Inspections.Add(inspection);
        }
        db.Books.Add(
            new()
            {
                ClientId = client.Id,
                Number = at,
                Hash = hash,
            }
        );
    }
}

/// <summary>The rounds of one site: a closed one for every quarter of history, and the one being walked.</summary>
internal sealed class DemoRounds(Site site, DemoClient demo, string? openName, DateOnly today)
{
    public Site Site => site;

    private readonly Dictionary<int, Round> byQuarter = [];
    private readonly Round? open = openName is null
        ? null
        : New(site, demo, openName, today.AddDays(-3), today.AddDays(site.Name == "Summit café" ? 2 : 11), null);

    public IEnumerable<Round> All => open is null ? byQuarter.Values : byQuarter.Values.Append(open);

    public Round On(DateOnly day)
    {
        var quarter = day.Year * 4 + (day.Month - 1) / 3;
        if (byQuarter.TryGetValue(quarter, out var round))
            return round;
        var start = new DateOnly(day.Year, (day.Month - 1) / 3 * 3 + 1, 1);
        var end = start.AddMonths(3).AddDays(-1);
        return byQuarter[quarter] = New(site, demo, $"{site.Name}, {start:MMMM yyyy}", start, end, end < today ? end : today.AddDays(-4));
    }

    private static Round New(Site site, DemoClient demo, string name, DateOnly from, DateOnly to, DateOnly? closed) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            SiteId = site.Id,
            Name = name,
            StandardId = demo.StandardId,
            MedicalStandardId = demo.MedicalStandardId,
            StartsOn = from,
            EndsOn = to,
            ClosedOn = closed,
            State = closed is null ? RoundState.Open : RoundState.Closed,
        };
}
