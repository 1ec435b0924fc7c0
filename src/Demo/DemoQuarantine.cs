using Osierwand.Core.Bench;
using Osierwand.Core.Quarantine;
using Osierwand.Server.Quarantine;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>What became of the demo's failed items: some made safe, some in repair, some mended and waiting for their test.</summary>
internal static class DemoQuarantine
{
    /// <summary>What failed first, then in the order of the tags: every start tells the same story, and each pile has
    /// something.</summary>
    public static void Add(OsierwandDb db, IReadOnlyList<Person> people, DateTimeOffset now)
    {
        var person = people.Single(it => it.UserName == "ida");
        Recall(db, now);
        var turn = 0;
        foreach (
            var item in db
                .Items.Local.Where(it => it is { HeldCause: not null, Stage: not null })
                .OrderBy(it => it.HeldBy)
                .ThenBy(it => it.Tag)
                .ToList()
        )
        {
            var hold = new Hold(Holds.CauseOf(item)!, item.Equipment.IsHardWired, []);
            var acts = item.State == ItemState.Scrapped ? Scrapped : ActsFor(item, turn++);
            var at = hold.Cause.Since.AddMinutes(10);
            foreach (var act in acts)
            {
                if (at > now || !hold.With(new(IdOf(item, hold.Acts.Length), at, person.DisplayName, act)).TryGet(out var next))
                    break;
                hold = next;
                db.QuarantineActs.Add(
                    new()
                    {
                        Id = hold.Acts[^1].Id,
                        ItemId = item.Id,
                        Cause = hold.Cause.Id,
                        At = at,
                        PersonId = person.Id,
                        By = person.DisplayName,
                        Act = Holds.Write(act),
                    }
                );
                at = at.AddHours(20);
            }
            (item.State, item.Stage) = (hold.State, hold.Stage);
        }
    }

    /// <summary>Chargers of one model, called back by their maker; of a client whose rooms nobody walks just now.</summary>
    private static void Recall(OsierwandDb db, DateTimeOffset now)
    {
        var client = db.Clients.Local.Single(it => it.Code == "KRD");
        var chargers = db.Items.Local.Where(it =>
            it.ClientId == client.Id && it is { Name: "Battery charger", State: ItemState.InService }
        );
        foreach (var (item, n) in chargers.OrderBy(it => it.Tag).Select((it, n) => (it, n)).ToList())
        {
            item.State = ItemState.Quarantined;
            (item.HeldCause, item.HeldBy, item.HeldFrom) = (
                new Guid("0199a000-0000-7000-8000-00000000c001"),
                HeldBy.Recall,
                "Maud Tarrant"
            );
            (item.HeldWhy, item.HeldSince) = ("its case may part and bare live parts (recall 26/087)", now.AddDays(-6 - n));
            item.Stage = Stage.NotSafe;
        }
    }

    private static readonly MadeSafe Safe = new(MadeUnusable.LockedAway, "the client’s contact on site", "Cage beside the workshop");

    private static QuarantineAct[] Scrapped =>
        [Safe, new Scrapped(ScrappedHow.FlexCutOff, "Seen by the client's contact; left in the metal skip")];

    private static QuarantineAct[] ActsFor(RegisterItem item, int turn) =>
        (turn % 5, item.Equipment.IsHardWired) switch
        {
            (_, true) => [Safe with { How = MadeUnusable.LockedOff, Words = "Lock and tag at its fused unit" }],
            (0, _) => [],
            (1, _) => [Safe],
            (2, _) => [Safe with { How = MadeUnusable.PlugCut }, new SentToRepair("our own workbench")],
            (3, _) =>
            [
                Safe,
                new SentToRepair("our own workbench"),
                new Repaired("as it was told", "mended, and tried on the workbench", null, "Rufus Oakhanger"),
            ],
            _ =>
            [
                Safe,
                new ReturnedUntested("the client’s contact on site", QuarantineText.UsualWarning(item.HeldBy ?? HeldBy.FailedInspection)),
            ],
        };

    private static Guid IdOf(RegisterItem item, int at)
    {
        Span<byte> bytes = stackalloc byte[16];
        item.Id.TryWriteBytes(bytes);
        bytes[15] ^= (byte)(at + 1);
        return new(bytes);
    }
}
