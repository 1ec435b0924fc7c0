using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>What making and changing an account has in common.</summary>
internal static class Accounts
{
    private const int LongestName = 100;
    private const int LongestInitials = 5;
    private const int LongestUserName = 60;

    /// <summary>Changes of who may do what come one after the other: two at once could leave a house without a lead.</summary>
    private const int Lock = 1868;

    /// <summary>Until the transaction ends.</summary>
    public static Task OneAtATimeAsync(OsierwandDb db, CancellationToken cancel) =>
        db.Database.ExecuteSqlAsync($"SELECT pg_advisory_xact_lock({Lock})", cancel);

    public static Person New(string userName, string displayName, string initials) =>
        new()
        {
            UserName = userName.Trim(),
            DisplayName = displayName.Trim(),
            Initials = initials.Trim(),
        };

    public static Fault? Wrong(string userName, string displayName, string initials) =>
        !IsName(userName, LongestUserName) || userName.Trim().Any(it => !char.IsAsciiLetterOrDigit(it) && !"-._@+".Contains(it))
            ? new("userName", $"To sign in by: 1 to {LongestUserName} letters, digits and - . _ @ +")
        : !IsName(displayName, LongestName) ? new("displayName", $"The name on papers has 1 to {LongestName} printable characters.")
        : !IsName(initials, LongestInitials) ? new("initials", $"Labels carry 1 to {LongestInitials} initials.")
        : null;

    private static bool IsName(string text, int most) =>
        text.Trim() is { Length: > 0 } trimmed && trimmed.Length <= most && KeptText.Unseen(trimmed) is null;

    public static Fault[] Faults(IdentityResult refused) =>
        [
            .. refused.Errors.Select(it =>
                it.Code == nameof(IdentityErrorDescriber.DuplicateUserName)
                    ? new Fault("userName", "Somebody signs in by this name already.")
                    : new Fault("password", it.Description)
            ),
        ];

    public static async Task GiveRoleAsync(OsierwandDb db, Guid personId, string role, CancellationToken cancel)
    {
        await EnsureRolesAsync(db, cancel);
        var roleId = await db.Roles.Where(it => it.Name == role).Select(it => it.Id).FirstAsync(cancel);
        await db.UserRoles.Where(it => it.UserId == personId).ExecuteDeleteAsync(cancel);
        db.UserRoles.Add(new() { UserId = personId, RoleId = roleId });
        await db.SaveChangesAsync(cancel);
    }

    public static async Task EnsureRolesAsync(OsierwandDb db, CancellationToken cancel)
    {
        var known = await db.Roles.Select(it => it.Name).ToListAsync(cancel);
        db.Roles.AddRange(
            Person
                .Roles.Except(known)
                .Select(it => new IdentityRole<Guid>
                {
                    Id = Guid.CreateVersion7(),
                    Name = it,
                    NormalizedName = it!.ToUpperInvariant(),
                })
        );
        await db.SaveChangesAsync(cancel);
    }

    public static Task<string> RoleAsync(OsierwandDb db, Guid personId, CancellationToken cancel) =>
        (
            from link in db.UserRoles
            join role in db.Roles on link.RoleId equals role.Id
            where link.UserId == personId
            select role.Name!
        ).FirstAsync(cancel);
}
