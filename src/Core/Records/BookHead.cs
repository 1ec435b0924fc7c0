using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Osierwand.Core.Records;

/// <summary>
/// Where a client's book of records stood at a time. Signed with the house's key and printed on the client's papers, it holds the house to
/// what it had recorded by then: no later change of any earlier record fits it.
/// </summary>
/// <param name="Number">Of the last record, from 1; 0 in an empty book.</param>
/// <param name="Hash">That record's own, which covers all before it.</param>
public sealed record BookHead(Guid ClientId, long Number, byte[] Hash, DateTimeOffset At)
{
    /// <summary>ECDSA over P-256 with SHA-256; signatures are 64 bytes, r then s.</summary>
    public static ECDsa NewKey() => ECDsa.Create(ECCurve.NamedCurves.nistP256);

    /// <summary>What is signed, as UTF-8: a line each for format, client, number, hash in hex, and time to the second in UTC.</summary>
    public string Text =>
        string.Create(
            CultureInfo.InvariantCulture,
            $"osierwand-head/1\n{ClientId:D}\n{Number}\n{Convert.ToHexStringLower(Hash)}\n{At.UtcDateTime:yyyy-MM-ddTHH:mm:ssZ}"
        );

    public byte[] Sign(ECDsa key) => key.SignData(Encoding.UTF8.GetBytes(Text), HashAlgorithmName.SHA256);

    public bool IsSignedBy(ECDsa key, byte[] signature) =>
        key.VerifyData(Encoding.UTF8.GetBytes(Text), signature, HashAlgorithmName.SHA256);

    /// <summary>First eight bytes of the SHA-256 of the public key's SubjectPublicKeyInfo, in hex: which key to ask for.</summary>
    public static string KeyId(ECDsa key) => Convert.ToHexStringLower(SHA256.HashData(key.ExportSubjectPublicKeyInfo()).AsSpan(0, 8));
}
