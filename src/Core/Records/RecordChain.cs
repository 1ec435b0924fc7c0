using System.Security.Cryptography;
using System.Text;

namespace Osierwand.Core.Records;

/// <summary>
/// Links the records of one client's book: each hash covers its record and the hash before it, so that a missing or altered record shows.
/// </summary>
public static class RecordChain
{
    /// <summary>What stands before a book's first record.</summary>
    public static readonly byte[] Start = new byte[SHA256.HashSizeInBytes];

    /// <summary>SHA-256 over the hash before, then the record's UTF-8 text.</summary>
    public static byte[] Next(byte[] before, string record)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(before);
        hash.AppendData(Encoding.UTF8.GetBytes(record));
        return hash.GetHashAndReset();
    }

    /// <returns>The position of the first record whose hash does not follow, or null when the book is whole.</returns>
    public static int? FirstBreak(IEnumerable<(string Record, byte[] Hash)> book)
    {
        var (before, at) = (Start, 0);
        foreach (var (record, hash) in book)
        {
            if (!Next(before, record).AsSpan().SequenceEqual(hash))
                return at;
            before = hash;
            at++;
        }
        return null;
    }
}
