using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Osierwand.Core.Records;

/// <summary>What is kept of a record beside its text, for finding and sorting. The chain covers it, so that a screen which reads it shows
/// no more than the record says.</summary>
/// <param name="Outcome">As kept: "Pass".</param>
/// <param name="Revision">Of the item, as this record made it.</param>
/// <param name="Sent">Digest of what the bench sent.</param>
public sealed record RecordColumns(
    Guid Id,
    Guid ClientId,
    Guid ItemId,
    Guid RoundId,
    Guid TechnicianId,
    Guid? Corrects,
    DateTimeOffset TestedAt,
    DateTimeOffset ReceivedAt,
    DateOnly Day,
    string Outcome,
    bool IsTest,
    bool NearLimit,
    bool Rising,
    int Revision,
    byte[] Sent
)
{
    /// <summary>One line a column, times in whole microseconds since 1970, as precise as the database keeps them.</summary>
    public override string ToString() =>
        string.Join(
            '\n',
            Id.ToString("D"),
            ClientId.ToString("D"),
            ItemId.ToString("D"),
            RoundId.ToString("D"),
            TechnicianId.ToString("D"),
            Corrects?.ToString("D") ?? "",
            Microseconds(TestedAt),
            Microseconds(ReceivedAt),
            Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture),
            Outcome,
            Flag(IsTest),
            Flag(NearLimit),
            Flag(Rising),
            Revision.ToString(CultureInfo.InvariantCulture),
            Convert.ToHexStringLower(Sent)
        );

    /// <summary>Reads what <see cref="ToString"/> wrote.</summary>
    /// <exception cref="FormatException">It is something else.</exception>
    public static RecordColumns Read(string text)
    {
        var parts = text.Split('\n');
        if (parts.Length != 15)
            throw new FormatException("These are not the columns of a record.");
        return new(
            Guid.Parse(parts[0]),
            Guid.Parse(parts[1]),
            Guid.Parse(parts[2]),
            Guid.Parse(parts[3]),
            Guid.Parse(parts[4]),
            parts[5].Length == 0 ? null : Guid.Parse(parts[5]),
            At(parts[6]),
            At(parts[7]),
            DateOnly.ParseExact(parts[8], "yyyy-MM-dd", CultureInfo.InvariantCulture),
            parts[9],
            parts[10] == "t",
            parts[11] == "t",
            parts[12] == "t",
            int.Parse(parts[13], CultureInfo.InvariantCulture),
            Convert.FromHexString(parts[14])
        );
    }

    private static DateTimeOffset At(string microseconds) =>
        DateTimeOffset.UnixEpoch.AddTicks(long.Parse(microseconds, CultureInfo.InvariantCulture) * TimeSpan.TicksPerMicrosecond);

    private static string Microseconds(DateTimeOffset at) =>
        ((at.UtcTicks - DateTime.UnixEpoch.Ticks) / TimeSpan.TicksPerMicrosecond).ToString(CultureInfo.InvariantCulture);

    private static string Flag(bool it) => it ? "t" : "f";
}

/// <summary>
/// Links the records of one client's book: each hash covers its record and the hash before it, so that a missing, altered or moved record
/// shows. All text is hashed as UTF-8; its parts are kept apart by line feeds, of which compact JSON has none.
/// </summary>
public static class RecordChain
{
    /// <summary>What new hashes cover. Form 1 was SHA-256 over the hash before, then the record's text, and nothing else.</summary>
    public const short Form = 2;

    /// <summary>What stands before a book's first record.</summary>
    public static readonly byte[] Start = new byte[SHA256.HashSizeInBytes];

    private static readonly byte[] LineFeed = "\n"u8.ToArray();

    /// <summary>Form 2: the hash before, then number, columns, record, readings for the trend, and how the item stood before and
    /// after.</summary>
    public static byte[] Next(
        ReadOnlySpan<byte> before,
        long number,
        RecordColumns columns,
        ReadOnlySpan<byte> record,
        ReadOnlySpan<byte> taken,
        ReadOnlySpan<byte> stoodBefore,
        ReadOnlySpan<byte> standsAfter
    )
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(before);
        hash.AppendData(Encoding.UTF8.GetBytes($"{number.ToString(CultureInfo.InvariantCulture)}\n{columns}\n"));
        hash.AppendData(record);
        hash.AppendData(LineFeed);
        hash.AppendData(taken);
        hash.AppendData(LineFeed);
        hash.AppendData(stoodBefore);
        hash.AppendData(LineFeed);
        hash.AppendData(standsAfter);
        return hash.GetHashAndReset();
    }

    /// <summary>Form 1: the hash before, then the record's text.</summary>
    public static byte[] Next(ReadOnlySpan<byte> before, ReadOnlySpan<byte> record)
    {
        using var hash = IncrementalHash.CreateHash(HashAlgorithmName.SHA256);
        hash.AppendData(before);
        hash.AppendData(record);
        return hash.GetHashAndReset();
    }
}
