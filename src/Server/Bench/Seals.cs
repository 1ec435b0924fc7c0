using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.DataProtection;
using Osierwand.Core.Bench;

namespace Osierwand.Server.Bench;

/// <summary>
/// Seals measurements that this server ran, so that a page cannot call a typed figure an instrument's, nor carry one to another item or
/// person.
/// </summary>
public sealed class Seals(IDataProtectionProvider protection)
{
    private readonly IDataProtector protector = protection.CreateProtector("Osierwand.Bench.Measurement.v1");

    internal ReadingTaken Seal(ReadingTaken reading, Guid itemId, Guid personId) =>
        reading with
        {
            Seal = Convert.ToBase64String(protector.Protect(Digest(reading, itemId, personId))),
        };

    internal bool IsWhole(ReadingTaken reading, Guid itemId, Guid personId)
    {
        if (reading.Seal is null)
            return false;
        try
        {
            var kept = protector.Unprotect(Convert.FromBase64String(reading.Seal));
            return CryptographicOperations.FixedTimeEquals(kept, Digest(reading, itemId, personId));
        }
        catch (Exception broken) when (broken is CryptographicException or FormatException)
        {
            return false;
        }
    }

    private static byte[] Digest(ReadingTaken reading, Guid itemId, Guid personId) =>
        SHA256.HashData(Encoding.UTF8.GetBytes($"{itemId:N} {personId:N} {BenchJson.Write(reading with { Seal = null })}"));
}
