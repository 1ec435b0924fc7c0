using System.Text.Json;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Trust;

/// <summary>Writes down what people do: who, what, when, from where, before and after. Entries are saved with the change itself, in one
/// transaction, or not at all.</summary>
public sealed class Trail(OsierwandDb db, IHttpContextAccessor http, TimeProvider time)
{
    private const int LongestSubject = 300;

    /// <param name="what">In the past tense: "round opened".</param>
    /// <param name="subject">To whom or what, in words.</param>
    /// <param name="by">Who did it, where the request's own session does not say so yet.</param>
    internal AuditEntry Entry(string what, string subject, Guid? id = null, object? before = null, object? after = null, Person? by = null)
    {
        var user = http.HttpContext?.User;
        var isIn = by is null && user?.Identity?.IsAuthenticated == true;
        return new()
        {
            At = time.GetUtcNow(),
            PersonId = by?.Id ?? (isIn ? user!.Id() : null),
            Person = by?.DisplayName ?? (isIn ? user!.DisplayName() : ""),
            What = what,
            Subject = subject.Length > LongestSubject ? subject[..LongestSubject] : subject,
            SubjectId = id,
            SessionId = isIn ? user!.SessionId() : null,
            Address = Caller.Address(http.HttpContext),
            Before = Json(before),
            After = Json(after),
        };
    }

    /// <summary>Goes in with the handler's own SaveChanges.</summary>
    internal void Add(string what, string subject, Guid? id = null, object? before = null, object? after = null, Person? by = null) =>
        db.AuditEntries.Add(Entry(what, subject, id, before, after, by));

    private static string? Json(object? it) => it is null ? null : JsonSerializer.Serialize(it, JsonSerializerOptions.Web);
}
