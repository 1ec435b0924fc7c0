using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Store;

namespace Osierwand.Server.Trust;

/// <summary>A client's whole book as one file: its records, its head, and the house's signature over it.</summary>
internal static class BookExport
{
    public static async Task<Results<PushStreamHttpResult, ProblemHttpResult>> Export(
        string clientCode,
        OsierwandDb db,
        HeadKey key,
        HeadSigner signer,
        CancellationToken cancel
    )
    {
        var found = await (
            from book in db.Books.AsNoTracking()
            join client in db.Clients on book.ClientId equals client.Id
            where client.Code == clientCode
            select new { book, client.Name }
        ).FirstOrDefaultAsync(cancel);
        if (found is null)
            return Refusals.NotFound("client");
        var (id, number) = (found.book.ClientId, found.book.Number);
        if (await signer.RefusalAsync(db, found.book, cancel) is { } why)
            return Refusals.Of(StatusCodes.Status409Conflict, "This book does not hold, so it is not signed.", $"Tell a lead: {why}.");
        var head = signer.HeadOf(found.book);
        return TypedResults.Stream(
            async stream =>
            {
                await using var text = new StreamWriter(stream, new UTF8Encoding(false), 1 << 16) { NewLine = "\n" };
                await text.WriteLineAsync(BookFile.FirstLine(id, found.Name));
                var records = db
                    .Inspections.AsNoTracking()
                    .Where(it => it.ClientId == id && it.BookNumber <= number)
                    .OrderBy(it => it.BookNumber)
                    .AsAsyncEnumerable();
                await foreach (var it in records.WithCancellation(cancel))
                    await text.WriteLineAsync(BookFile.RecordLine(it.Kept()));
                await text.WriteLineAsync(BookFile.LastLine(head, key.Id, key.Sign(head)));
            },
            "application/jsonl",
            $"book-{clientCode}.jsonl"
        );
    }
}
