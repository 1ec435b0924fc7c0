using System.Security.Claims;
using System.Security.Cryptography;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <param name="Clients">Codes of the clients a viewer reads; empty for the house's own.</param>
/// <param name="HasPassword">False until an invitation was taken up.</param>
/// <param name="Sessions">Browsers on which they are signed in now.</param>
public sealed record PersonRow(
    Guid Id,
    string UserName,
    string DisplayName,
    string Initials,
    string Role,
    IReadOnlyList<string> Clients,
    bool IsDemo,
    bool IsClosed,
    bool HasPassword,
    bool HasTwoStep,
    int Passkeys,
    int Sessions,
    DateTimeOffset? SeenAt
);

/// <param name="Clients">Every client, for the choice of what a viewer reads.</param>
public sealed record PeoplePage(IReadOnlyList<PersonRow> People, IReadOnlyList<Register.ClientName> Clients);

public sealed record Invite(string UserName, string DisplayName, string Initials, string Role, IReadOnlyList<string> Clients);

/// <param name="Token">Goes into the link after "#", where no server and no log sees it; it is told this once.</param>
public sealed record InviteLink(Guid PersonId, string Token, DateTimeOffset EndsAt);

public sealed record ChangeRole(string Role, IReadOnlyList<string> Clients);

/// <summary>The house's accounts, for leads: inviting, roles, links for a new password, closing. Everything takes effect with the
/// person's next request.</summary>
internal static class AccountEndpoints
{
    private static readonly TimeSpan LinkLasts = TimeSpan.FromHours(72);

    public static void MapAccounts(this RouteGroupBuilder api)
    {
        var people = api.MapGroup("/people").WithTags("People");
        people.MapGet("/", All).For(Access.Lead);
        people.MapPost("/", InviteOne).For(Access.Lead);
        people.MapPost("/{personId:guid}/role", Change).For(Access.Lead);
        people.MapPost("/{personId:guid}/link", NewLink).For(Access.Lead);
        people.MapPost("/{personId:guid}/close", Close).For(Access.Lead);
        people.MapPost("/{personId:guid}/reopen", Reopen).For(Access.Lead);
        people.MapPost("/{personId:guid}/sign-out", SignOut).For(Access.Lead);
        people.MapPost("/{personId:guid}/drop-two-step", DropTwoStep).For(Access.Lead);
    }

    private static async Task<Ok<PeoplePage>> All(OsierwandDb db, TimeProvider time, CancellationToken cancel)
    {
        var now = time.GetUtcNow();
        var people = await (
            from person in db.Users
            join link in db.UserRoles on person.Id equals link.UserId
            join role in db.Roles on link.RoleId equals role.Id
            orderby person.DisplayName
            select new { person, role = role.Name! }
        ).ToListAsync(cancel);
        var clients = await (
            from link in db.PersonClients
            join client in db.Clients on link.ClientId equals client.Id
            orderby client.Code
            select new { link.PersonId, client.Code }
        ).ToListAsync(cancel);
        var passkeys = await db
            .UserPasskeys.GroupBy(it => it.UserId)
            .Select(it => new { it.Key, Count = it.Count() })
            .ToDictionaryAsync(it => it.Key, it => it.Count, cancel);
        var sessions = await db
            .Sessions.GroupBy(it => it.PersonId)
            .Select(it => new
            {
                it.Key,
                Open = it.Count(one => one.EndedAt == null && one.EndsAt > now),
                Seen = it.Max(one => one.SeenAt),
            })
            .ToDictionaryAsync(it => it.Key, cancel);
        return TypedResults.Ok(
            new PeoplePage(
                [
                    .. people.Select(it => new PersonRow(
                        it.person.Id,
                        it.person.UserName!,
                        it.person.DisplayName,
                        it.person.Initials,
                        it.role,
                        [.. clients.Where(link => link.PersonId == it.person.Id).Select(link => link.Code)],
                        it.person.IsDemo,
                        it.person.ClosedAt is not null,
                        it.person.PasswordHash is not null,
                        it.person.TwoFactorEnabled,
                        passkeys.GetValueOrDefault(it.person.Id),
                        sessions.GetValueOrDefault(it.person.Id)?.Open ?? 0,
                        sessions.GetValueOrDefault(it.person.Id)?.Seen
                    )),
                ],
                await db.Clients.OrderBy(it => it.Name).Select(it => new Register.ClientName(it.Code, it.Name)).ToListAsync(cancel)
            )
        );
    }

    private static async Task<Results<Ok<InviteLink>, ProblemHttpResult>> InviteOne(
        Invite sent,
        UserManager<Person> people,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (Accounts.Wrong(sent.UserName, sent.DisplayName, sent.Initials) is { } fault)
            return Refusals.Invalid("Not invited.", fault);
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Accounts.OneAtATimeAsync(db, cancel);
        var clients = await ClientsAsync(db, sent.Role, sent.Clients, cancel);
        if (clients.Fault is { } wrong)
            return Refusals.Invalid("Not invited.", wrong);
        var person = Accounts.New(sent.UserName, sent.DisplayName, sent.Initials);
        var made = await people.CreateAsync(person);
        if (!made.Succeeded)
            return Refusals.Invalid("Not invited.", Accounts.Faults(made));
        await SetRoleAsync(db, person.Id, sent.Role, clients.Value, cancel);
        var link = AddLink(db, person.Id, time);
        trail.Add("person invited", person.DisplayName, person.Id, after: new { sent.Role, sent.Clients });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(link);
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> Change(
        Guid personId,
        ChangeRole sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Accounts.OneAtATimeAsync(db, cancel);
        if (await db.Users.FirstOrDefaultAsync(it => it.Id == personId, cancel) is not { } person)
            return Refusals.NotFound("person");
        var clients = await ClientsAsync(db, sent.Role, sent.Clients, cancel);
        if (clients.Fault is { } wrong)
            return Refusals.Invalid("Not changed.", wrong);
        var before = await Accounts.RoleAsync(db, personId, cancel);
        if (before == Person.Lead && sent.Role != Person.Lead && await IsLastLeadAsync(db, personId, cancel))
            return LastLead();
        await SetRoleAsync(db, personId, sent.Role, clients.Value, cancel);
        trail.Add("role changed", person.DisplayName, personId, new { Role = before }, new { sent.Role, sent.Clients });
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.NoContent();
    }

    /// <summary>The password they had is gone at once, and with it every passkey: a link is asked for when it was forgotten or
    /// told.</summary>
    private static Task<Results<Ok<InviteLink>, ProblemHttpResult>> NewLink(
        Guid personId,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        WithPersonAsync<InviteLink>(
            personId,
            db,
            trail,
            "link for a new password made",
            async person =>
            {
                if (person.IsDemo)
                    return new Fault("person", "Invented people of a demo have no password.");
                var now = time.GetUtcNow();
                person.PasswordHash = null;
                await Passkeys.DropAsync(db, personId, cancel);
                await db.PasswordLinks.Where(it => it.PersonId == personId && it.UsedAt == null).ExecuteDeleteAsync(cancel);
                await db.Sessions.Where(it => it.PersonId == personId).EndAsync(now, cancel);
                return AddLink(db, personId, time);
            },
            cancel
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Close(
        Guid personId,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        Bare(
            await WithPersonAsync<bool>(
                personId,
                db,
                trail,
                "account closed",
                async person =>
                {
                    if (await IsLastLeadAsync(db, personId, cancel))
                        return new Fault("person", LastLeadSays);
                    person.ClosedAt ??= time.GetUtcNow();
                    await db.Sessions.Where(it => it.PersonId == personId).EndAsync(time.GetUtcNow(), cancel);
                    return true;
                },
                cancel
            )
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Reopen(
        Guid personId,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    ) =>
        Bare(
            await WithPersonAsync<bool>(
                personId,
                db,
                trail,
                "account opened again",
                person =>
                {
                    person.ClosedAt = null;
                    return Task.FromResult<Result<bool>>(true);
                },
                cancel
            )
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> SignOut(
        Guid personId,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        Bare(
            await WithPersonAsync<bool>(
                personId,
                db,
                trail,
                "signed out everywhere by a lead",
                async _ =>
                {
                    await db.Sessions.Where(it => it.PersonId == personId).EndAsync(time.GetUtcNow(), cancel);
                    return true;
                },
                cancel
            )
        );

    /// <summary>For a lost phone: they sign in by password alone until they set it up again. What the phone keeps opens nothing any
    /// more.</summary>
    private static async Task<Results<NoContent, ProblemHttpResult>> DropTwoStep(
        Guid personId,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    ) =>
        Bare(
            await WithPersonAsync<bool>(
                personId,
                db,
                trail,
                "two-step sign-in and passkeys taken off by a lead",
                async person =>
                {
                    person.TwoFactorEnabled = false;
                    await Passkeys.DropAsync(db, personId, cancel);
                    await db.UserTokens.Where(it => it.UserId == personId).ExecuteDeleteAsync(cancel);
                    await db.Sessions.Where(it => it.PersonId == personId).EndAsync(time.GetUtcNow(), cancel);
                    return true;
                },
                cancel
            )
        );

    /// <summary>One change of one account with its line in the trail, both or neither.</summary>
    private static async Task<Results<Ok<T>, ProblemHttpResult>> WithPersonAsync<T>(
        Guid personId,
        OsierwandDb db,
        Trail trail,
        string what,
        Func<Person, Task<Result<T>>> change,
        CancellationToken cancel
    )
    {
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        await Accounts.OneAtATimeAsync(db, cancel);
        if (await db.Users.FirstOrDefaultAsync(it => it.Id == personId, cancel) is not { } person)
            return Refusals.NotFound("person");
        var made = await change(person);
        if (made.Fault is { } fault)
            return Refusals.Invalid("Not changed.", fault);
        trail.Add(what, person.DisplayName, personId);
        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return TypedResults.Ok(made.Value);
    }

    private static Results<NoContent, ProblemHttpResult> Bare(Results<Ok<bool>, ProblemHttpResult> answer) =>
        answer.Result is ProblemHttpResult problem ? problem : TypedResults.NoContent();

    private static InviteLink AddLink(OsierwandDb db, Guid personId, TimeProvider time)
    {
        var token = Microsoft.AspNetCore.WebUtilities.WebEncoders.Base64UrlEncode(RandomNumberGenerator.GetBytes(32));
        var endsAt = time.GetUtcNow() + LinkLasts;
        db.PasswordLinks.Add(
            new()
            {
                TokenHash = PasswordLinks.Digest(token),
                PersonId = personId,
                EndsAt = endsAt,
            }
        );
        return new(personId, token, endsAt);
    }

    private static async Task SetRoleAsync(
        OsierwandDb db,
        Guid personId,
        string role,
        IReadOnlyList<Guid> clients,
        CancellationToken cancel
    )
    {
        await Accounts.GiveRoleAsync(db, personId, role, cancel);
        await db.PersonClients.Where(it => it.PersonId == personId).ExecuteDeleteAsync(cancel);
        db.PersonClients.AddRange(clients.Select(it => new PersonClient { PersonId = personId, ClientId = it }));
    }

    private static async Task<Result<IReadOnlyList<Guid>>> ClientsAsync(
        OsierwandDb db,
        string role,
        IReadOnlyList<string> codes,
        CancellationToken cancel
    )
    {
        if (!Person.Roles.Contains(role))
            return new Fault("role", $"A role is one of {string.Join(", ", Person.Roles)}.");
        if (role != Person.Viewer)
            return codes.Count == 0
                ? (Result<IReadOnlyList<Guid>>)Array.Empty<Guid>()
                : new Fault("clients", "Only a viewer is bound to clients.");
        var known = await db.Clients.Where(it => codes.Contains(it.Code)).Select(it => it.Id).ToListAsync(cancel);
        return known.Count == 0 || known.Count != codes.Distinct().Count()
            ? new Fault("clients", "A viewer reads what one or more clients own: choose them by their codes.")
            : known;
    }

    private const string LastLeadSays = "This is the house's only lead: make somebody else one first.";

    private static ProblemHttpResult LastLead() => Refusals.Invalid("Not changed.", new Fault("role", LastLeadSays));

    private static async Task<bool> IsLastLeadAsync(OsierwandDb db, Guid personId, CancellationToken cancel)
    {
        var leads = await (
            from person in db.Users
            join link in db.UserRoles on person.Id equals link.UserId
            join role in db.Roles on link.RoleId equals role.Id
            where role.Name == Person.Lead && person.ClosedAt == null
            select person.Id
        ).ToListAsync(cancel);
        return leads is [var only] && only == personId;
    }
}
