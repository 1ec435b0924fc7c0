using System.Globalization;

namespace Osierwand.Core.Records;

/// <summary>
/// The last signed head of every book, as a file that lies beside the signing key and outside the database: whoever writes a book anew,
/// its signed heads with it, has this against them, and the house signs nothing that does not continue it.
/// </summary>
public static class HeadAnchors
{
    public const string FileName = "books-heads.txt";

    /// <summary>One line a book: client, number, hash in hex, time.</summary>
    public static string Write(IEnumerable<BookHead> heads) =>
        string.Concat(
            heads
                .OrderBy(it => it.ClientId)
                .Select(it =>
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{it.ClientId:D} {it.Number} {Convert.ToHexStringLower(it.Hash)} {it.At.UtcDateTime:yyyy-MM-ddTHH:mm:ssZ}\n"
                    )
                )
        );

    /// <exception cref="FormatException">It is no such file: it was cut or edited.</exception>
    public static IReadOnlyList<BookHead> Read(string text) =>
        [.. text.Split('\n', StringSplitOptions.RemoveEmptyEntries).Select(ReadLine)];

    private static BookHead ReadLine(string line) =>
        line.Split(' ') is [var client, var number, var hash, var at]
            ? new(
                Guid.ParseExact(client, "D"),
                long.Parse(number, NumberStyles.None, CultureInfo.InvariantCulture),
                Convert.FromHexString(hash),
                DateTimeOffset.ParseExact(at, "yyyy-MM-ddTHH:mm:ssZ", CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal)
            )
            : throw new FormatException($"“{line}” is no line of signed heads.");
}
