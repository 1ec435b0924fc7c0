using System.Collections.Immutable;
using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Register;

/// <param name="Revision">Of the system as the page knew it.</param>
/// <param name="Tags">All that hangs on its multiple socket from now on; what was there and is not named is taken out.</param>
public sealed record SetMembers(int Revision, IReadOnlyList<string> Tags);

/// <summary>A device of a system, or the system that a device belongs to.</summary>
public sealed record MemberCard(Guid Id, string Tag, string Name, string ClassText, ItemState State, DateOnly? Due, int? DaysOver);

/// <summary>Medical systems: which devices hang on whose multiple socket. Every member stays an item of its own, with its own
/// tests.</summary>
internal static class Systems
{
    private const string Title = "The members were not changed.";

    /// <summary>Gives a system what its members are now, as the register knows them.</summary>
    /// <returns>Members that are out of use, each in words; nothing of what is no system.</returns>
    public static async Task<ImmutableArray<string>> JoinAsync(OsierwandDb db, RegisterItem item, CancellationToken cancel)
    {
        if (item.Equipment.Kind != ItemKind.MedicalSystem)
            return [];
        var rows = await MembersOf(db, item.Id).AsNoTracking().ToListAsync(cancel);
        item.Equipment = Whole(item, rows);
        return [.. rows.Where(it => it.State != ItemState.InService).Select(it => $"{it.Name} {it.Tag} is {Out(it.State)}")];
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> Set(
        Guid itemId,
        SetMembers sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var item = await db.Items.Include(it => it.Site).FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        if (item.Equipment.Kind != ItemKind.MedicalSystem)
            return Refusals.Invalid(Title, new Fault("tags", $"{item.Tag} is no medical system: only a system has members."));
        var found = await FindAsync(db, item.ClientId, item.SiteId, item.Id, item.Equipment, sent.Tags, cancel);
        if (!found.TryGet(out var members))
            return Refusals.Invalid(Title, found.Fault!);
        var before = await MembersOf(db, item.Id).ToListAsync(cancel);
        var (added, removed) = (members.ExceptBy(before.Select(Id), Id).ToArray(), before.ExceptBy(members.Select(Id), Id).ToArray());
        if (added.Length + removed.Length == 0)
            return TypedResults.NoContent();
        var today = item.Site.DayOf(time.GetUtcNow());
        string[] because = [$"Its members changed on {today:yyyy-MM-dd}: it is tested as it stands now before it is used."];
        string[] lines =
        [
            .. added.Select(it => $"Joined: {it.Name} {it.Tag}"),
            .. removed.Select(it => $"Taken out: {it.Name} {it.Tag}"),
            $"Due: {item.Due:yyyy-MM-dd} → {today:yyyy-MM-dd}",
        ];
        var whole = Whole(item, members);
        return
            await new ItemEdit(db, trail, user, time).KeepAsync(
                item,
                sent.Revision,
                row =>
                    row.SetProperty(it => it.Equipment, whole)
                        .SetProperty(it => it.Due, today)
                        .SetProperty(it => it.VisualDue, today)
                        .SetProperty(it => it.Because, because)
                        // What another set of devices leaked is no reference for this one.
                        .SetProperty(it => it.ReferenceValues, "[]"),
                "members changed",
                lines,
                "system's members changed",
                Title,
                cancel,
                () => JoinAsync(db, item.Id, members, cancel)
            )
                is { } refused
            ? refused
            : TypedResults.NoContent();
    }

    /// <summary>The items by their tags, or why one of them is no member of a system on this socket.</summary>
    /// <param name="systemId">Whose members they are to be.</param>
    public static async Task<Result<List<RegisterItem>>> FindAsync(
        OsierwandDb db,
        Guid clientId,
        Guid siteId,
        Guid systemId,
        Item socket,
        IReadOnlyList<string> tags,
        CancellationToken cancel
    )
    {
        if (tags.Count > MedicalSystem.MostMembers)
            return new Fault("tags", $"A system has at most {MedicalSystem.MostMembers} members.");
        var members = new List<RegisterItem>();
        foreach (var text in tags)
        {
            if (!Tags.Read(text).TryGet(out var tag))
                return Tags.Read(text).Fault!;
            var lower = tag.ToLowerInvariant();
#pragma warning disable CA1304, CA1311, CA1862 // runs in the database, on the index over lower(tag)
            var it = await db.Items.FirstOrDefaultAsync(row => row.ClientId == clientId && row.Tag.ToLower() == lower, cancel);
#pragma warning restore CA1304, CA1311, CA1862
            if (it is null)
                return new Fault("tags", $"This client has no item {tag}. Register it first.");
            if (members.Exists(known => known.Id == it.Id))
                return new Fault("tags", $"{it.Tag} stands twice.");
            if (it.SiteId != siteId)
                return new Fault("tags", $"{it.Tag} is at another site.");
            if (it.PartOf is { } other && other != systemId)
                return new Fault("tags", $"{it.Tag} belongs to {await TagOfAsync(db, other, cancel)}: take it out there first.");
            if (it.PartOf is null && it.State != ItemState.InService)
                return new Fault("tags", $"{it.Tag} is {Out(it.State)}: it joins a system when it is back in service.");
            if (MedicalSystem.Refusal(MedicalSystem.Own(socket), AsMember(it)) is { } why)
                return new Fault("tags", why);
            members.Add(it);
        }
        return members;
    }

    /// <summary>Marks them as the system's, in the caller's transaction; nothing else is.</summary>
    /// <returns>Why it was not done: another system took one meanwhile.</returns>
    public static async Task<string?> JoinAsync(OsierwandDb db, Guid systemId, List<RegisterItem> members, CancellationToken cancel)
    {
        var ids = members.Select(Id).ToArray();
        await db
            .Items.Where(it => it.PartOf == systemId && !ids.Contains(it.Id))
            .ExecuteUpdateAsync(row => row.SetProperty(it => it.PartOf, (Guid?)null), cancel);
        var joined = await db
            .Items.Where(it => ids.Contains(it.Id) && (it.PartOf == null || it.PartOf == systemId))
            .ExecuteUpdateAsync(row => row.SetProperty(it => it.PartOf, (Guid?)systemId), cancel);
        return joined == ids.Length ? null : "One of them was taken into another system meanwhile. Look at it again.";
    }

    public static Item Whole(RegisterItem system, IEnumerable<RegisterItem> members) =>
        MedicalSystem.Of(system.Equipment, [.. members.Select(AsMember)]);

    public static Task<List<MemberCard>> CardsAsync(OsierwandDb db, Guid systemId, DateOnly today, CancellationToken cancel) =>
        Cards(MembersOf(db, systemId), today, cancel);

    /// <returns>The system that an item belongs to; null where it stands alone.</returns>
    public static async Task<MemberCard?> OwnerAsync(OsierwandDb db, RegisterItem item, DateOnly today, CancellationToken cancel) =>
        item.PartOf is { } system ? (await Cards(db.Items.Where(it => it.Id == system), today, cancel)).FirstOrDefault() : null;

    private static async Task<List<MemberCard>> Cards(IQueryable<RegisterItem> items, DateOnly today, CancellationToken cancel) =>
        [
            .. (await items.AsNoTracking().ToListAsync(cancel)).Select(it => new MemberCard(
                it.Id,
                it.Tag,
                it.Name,
                EquipmentText.Class(it.Equipment.Class),
                it.State,
                it.Due,
                it.Due is { } due ? today.DayNumber - due.DayNumber : null
            )),
        ];

    private static IQueryable<RegisterItem> MembersOf(OsierwandDb db, Guid systemId) =>
        db.Items.Where(it => it.PartOf == systemId).OrderBy(it => it.Tag);

    private static SystemMember AsMember(RegisterItem it) => new(it.Tag, it.Name, it.Equipment);

    private static Guid Id(RegisterItem it) => it.Id;

    private static Task<string?> TagOfAsync(OsierwandDb db, Guid id, CancellationToken cancel) =>
        db.Items.Where(it => it.Id == id).Select(it => it.Tag).FirstOrDefaultAsync(cancel);

    private static string Out(ItemState it) =>
        it switch
        {
            ItemState.InRepair => "in repair",
            _ => Words.Of(it),
        };
}
