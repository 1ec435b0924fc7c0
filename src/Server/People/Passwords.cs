using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>Compares name and password. A name that nobody has, an account that is closed and a wrong password take the same time and get
/// the same answer.</summary>
public sealed class Passwords(OsierwandDb db, IPasswordHasher<Person> hasher)
{
    private static readonly Person Nobody = new() { DisplayName = "", Initials = "" };
    private static string? nobodysHash;

    /// <returns>The person, or null when they do not fit or the account is closed.</returns>
    internal async Task<Person?> FitsAsync(string userName, string password, CancellationToken cancel)
    {
        var name = userName.Trim().ToUpperInvariant();
        var person = await db.Users.FirstOrDefaultAsync(it => it.NormalizedUserName == name, cancel);
        var hash = person?.PasswordHash ?? (nobodysHash ??= hasher.HashPassword(Nobody, Guid.NewGuid().ToString()));
        var result = hasher.VerifyHashedPassword(person ?? Nobody, hash, Cut(password));
        if (person is not { PasswordHash: not null, ClosedAt: null } || result == PasswordVerificationResult.Failed)
            return null;
        if (result == PasswordVerificationResult.SuccessRehashNeeded)
            person.PasswordHash = hasher.HashPassword(person, password);
        return person;
    }

    // Longer ones are nobody's; hashing them would only cost time.
    private static string Cut(string password) =>
        password.Length > PasswordRules.Longest ? password[..(PasswordRules.Longest + 1)] : password;
}
