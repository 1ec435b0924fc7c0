using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Trust;

/// <param name="Breaks">Empty when every book held.</param>
public sealed record VerificationCard(DateTimeOffset At, double Seconds, long Records, IReadOnlyList<string> Breaks);

/// <param name="SignedAt">When its newest signed head was signed; null before the first.</param>
public sealed record BookCard(string Client, string ClientCode, long Records, string Head, long SignedNumber, DateTimeOffset? SignedAt);

/// <param name="Last">Null before the first verification.</param>
/// <param name="PublicKey">What a checker of exports and papers needs, as PEM.</param>
public sealed record TrustPage(VerificationCard? Last, IReadOnlyList<BookCard> Books, string KeyId, string PublicKey);

/// <param name="Broken">What the last verification found first; null while the books hold.</param>
/// <param name="UnverifiedSince">When a verification last came to an end, where two or more are overdue.</param>
public sealed record BooksStanding(string? Broken, DateTimeOffset? UnverifiedSince);

public sealed record TrailRow(
    long Id,
    DateTimeOffset At,
    string Person,
    string What,
    string Subject,
    string Address,
    JsonElement? Before,
    JsonElement? After
);

/// <param name="Earlier">To ask for what lies before these; null at the beginning.</param>
public sealed record TrailPage(IReadOnlyList<TrailRow> Rows, long? Earlier);

/// <summary>Whether the books hold, what people did, and a book to take away.</summary>
internal static class TrustEndpoints
{
    private const int PageSize = 50;

    public static void MapTrust(this RouteGroupBuilder api)
    {
        var trust = api.MapGroup("/trust").WithTags("Trust");
        trust.MapGet("/standing", Standing).For(Access.Worker);
        trust.MapGet("/", Page).For(Access.Lead);
        trust.MapPost("/verify", Verify).For(Access.Lead).RequireRateLimiting(Limits.Heavy);
        trust.MapGet("/trail", Trail).For(Access.Lead);
        trust.MapGet("/books/{clientCode}", BookExport.Export).For(Access.Reader).RequireRateLimiting(Limits.Heavy);
    }

    private static async Task<Ok<BooksStanding>> Standing(OsierwandDb db, Verifier verifier, CancellationToken cancel)
    {
        var last = await LastAsync(db, cancel);
        return TypedResults.Ok(new BooksStanding(last?.Breaks.FirstOrDefault(), verifier.OverdueSince(last?.At)));
    }

    private static async Task<Ok<TrustPage>> Page(OsierwandDb db, HeadKey key, CancellationToken cancel)
    {
        var last = await LastAsync(db, cancel);
        var books = await (
            from book in db.Books
            join client in db.Clients on book.ClientId equals client.Id
            orderby client.Name
            select new
            {
                client.Name,
                client.Code,
                book.Number,
                book.Hash,
                Signed = db
                    .SignedHeads.Where(it => it.ClientId == book.ClientId)
                    .OrderByDescending(it => it.Number)
                    .Select(it => new { it.Number, At = (DateTimeOffset?)it.At })
                    .FirstOrDefault(),
            }
        ).ToListAsync(cancel);
        return TypedResults.Ok(
            new TrustPage(
                last is null ? null : Card(last),
                [
                    .. books.Select(it => new BookCard(
                        it.Name,
                        it.Code,
                        it.Number,
                        Convert.ToHexStringLower(it.Hash.AsSpan(0, 8)),
                        it.Signed?.Number ?? 0,
                        it.Signed?.At
                    )),
                ],
                key.Id,
                key.PublicPem
            )
        );
    }

    private static async Task<Ok<VerificationCard>> Verify(Verifier verifier, OsierwandDb db, Trail trail, CancellationToken cancel)
    {
        var made = await verifier.RunAsync(cancel);
        trail.Add("books verified", made.Breaks.Length == 0 ? "all hold" : made.Breaks[0]);
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok(Card(made));
    }

    /// <param name="before">Entries with a smaller number; the newest when left out.</param>
    private static async Task<Ok<TrailPage>> Trail(OsierwandDb db, CancellationToken cancel, long? before = null, string? search = null)
    {
        var entries = db.AuditEntries.AsNoTracking();
        if (before is { } end)
            entries = entries.Where(it => it.Id < end);
        if (!string.IsNullOrWhiteSpace(search))
        {
            var like = $"%{Like.Escape(search.Trim())}%";
            entries = entries.Where(it =>
                EF.Functions.ILike(it.Person, like, Like.EscapedBy)
                || EF.Functions.ILike(it.What, like, Like.EscapedBy)
                || EF.Functions.ILike(it.Subject, like, Like.EscapedBy)
            );
        }
        var rows = await entries.OrderByDescending(it => it.Id).Take(PageSize + 1).ToListAsync(cancel);
        return TypedResults.Ok(
            new TrailPage(
                [
                    .. rows.Take(PageSize)
                        .Select(it => new TrailRow(
                            it.Id,
                            it.At,
                            it.Person,
                            it.What,
                            it.Subject,
                            it.Address,
                            Element(it.Before),
                            Element(it.After)
                        )),
                ],
                rows.Count > PageSize ? rows[PageSize - 1].Id : null
            )
        );
    }

    private static JsonElement? Element(string? json)
    {
        if (json is null)
            return null;
        using var document = JsonDocument.Parse(json);
        return document.RootElement.Clone();
    }

    private static Task<Verification?> LastAsync(OsierwandDb db, CancellationToken cancel) =>
        db.Verifications.IgnoreQueryFilters().AsNoTracking().OrderByDescending(it => it.Id).FirstOrDefaultAsync(cancel);

    private static VerificationCard Card(Verification it) => new(it.At, it.Seconds, it.Records, it.Breaks);
}
