using Microsoft.AspNetCore.Identity;
using Osierwand.Core.Competences;

namespace Osierwand.Store.Entities;

/// <summary>Someone who signs in: a technician, a lead, or a client's viewer.</summary>
public sealed class Person : IdentityUser<Guid>
{
    public const string Technician = "technician";
    public const string Lead = "lead";

    /// <summary>Of one or more clients; reads what is theirs and changes nothing.</summary>
    public const string Viewer = "viewer";

    public static readonly string[] Roles = [Technician, Lead, Viewer];

    public required string DisplayName { get; set; }

    /// <summary>As printed on labels.</summary>
    public required string Initials { get; set; }

    /// <summary>Invented, and there without a password: only a demo lets them in.</summary>
    public bool IsDemo { get; set; }

    /// <summary>A lead closed the account; null while it is open.</summary>
    public DateTimeOffset? ClosedAt { get; set; }

    /// <summary>The last one-time code that was accepted, and the 30-second step it was accepted in: no code serves twice.</summary>
    public string? LastCode { get; set; }
    public long? LastCodeStep { get; set; }
}

/// <summary>What somebody was found competent to test, by what evidence and until when.</summary>
public sealed class PersonCompetence
{
    public const int LongestEvidence = 300;

    public Guid PersonId { get; set; }
    public Competence Competence { get; set; }

    /// <summary>The last day it holds; null where it does not lapse.</summary>
    public DateOnly? ExpiresOn { get; set; }
    public required string Evidence { get; set; }
}

/// <summary>How long somebody stands at the bench, day by day of the week, and when not.</summary>
public sealed class BenchHours
{
    public const int DaysOfWeek = 7;
    public const int MostMinutes = 16 * 60;
    public const int MostDaysOff = 400;

    public Guid PersonId { get; set; }

    /// <summary>Seven of them, Monday first.</summary>
    public required int[] Minutes { get; set; }
    public required DateOnly[] DaysOff { get; set; }

    /// <summary>On that day.</summary>
    public int On(DateOnly day) => DaysOff.Contains(day) ? 0 : Minutes[((int)day.DayOfWeek + 6) % DaysOfWeek];
}

/// <summary>A calendar that another program reads by a link nobody guesses.</summary>
public sealed class CalendarLink
{
    public Guid Id { get; set; }

    /// <summary>Of the link: whoever reads the database reads no calendar by it.</summary>
    public required byte[] TokenHash { get; set; }

    /// <summary>Who made it. It holds as long as they may see what it tells.</summary>
    public Guid PersonId { get; set; }

    /// <summary>Whose due dates it holds; null where it holds the person's own bench days.</summary>
    public Guid? ClientId { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public DateTimeOffset? RevokedAt { get; set; }

    /// <summary>To the hour.</summary>
    public DateTimeOffset? ReadAt { get; set; }
}

/// <summary>A client whose register and papers a viewer reads.</summary>
public sealed class PersonClient
{
    public Guid PersonId { get; set; }
    public Guid ClientId { get; set; }
}

/// <summary>One sign-in on one device, until it ends. The cookie holds nothing but its number.</summary>
public sealed class Session
{
    public Guid Id { get; set; }
    public Guid PersonId { get; set; }
    public DateTimeOffset StartedAt { get; set; }

    /// <summary>Of the last request, to the minute.</summary>
    public DateTimeOffset SeenAt { get; set; }

    /// <summary>However busy it is kept.</summary>
    public DateTimeOffset EndsAt { get; set; }
    public DateTimeOffset? EndedAt { get; set; }
    public required string Address { get; set; }

    /// <summary>What the browser said of itself.</summary>
    public required string Browser { get; set; }
}

/// <summary>A link by which one person sets a password once: an invitation, or a reset by a lead.</summary>
public sealed class PasswordLink
{
    /// <summary>SHA-256 of the token; the token itself is known to whoever holds the link and nobody else.</summary>
    public required byte[] TokenHash { get; set; }
    public Guid PersonId { get; set; }
    public DateTimeOffset EndsAt { get; set; }
    public DateTimeOffset? UsedAt { get; set; }
}

/// <summary>A try to sign in by password, for the throttle and the trail. Never edited.</summary>
public sealed class SignInAttempt
{
    public long Id { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>Digest of the name that was typed: people type passwords into the wrong field.</summary>
    public required byte[] Name { get; set; }
    public required string Address { get; set; }

    /// <summary>From a browser that this account was signed in on before.</summary>
    public bool IsKnownBrowser { get; set; }
    public bool Succeeded { get; set; }
}
