using System.Security.Cryptography;
using Osierwand.Core.Records;

namespace Osierwand.Store;

/// <summary>What a verification holds the books against and what the database does not have: public keys, and the last signed
/// heads.</summary>
/// <param name="Keys">By <see cref="BookHead.KeyId"/>; null leaves signatures unchecked.</param>
/// <param name="Unreadable">Files that were bent, in words: a house whose anchors are gone must say so, and go on.</param>
public sealed record KeptOutside(IReadOnlyDictionary<string, ECDsa>? Keys, IReadOnlyList<BookHead> Heads, IReadOnlyList<string> Unreadable)
{
    /// <param name="folder">Of the house's key; null or missing where it is not at hand.</param>
    public static KeptOutside Read(string? folder)
    {
        if (folder is null || !Directory.Exists(folder))
            return new(null, [], []);
        var unreadable = new List<string>();
        var keys = ReadKeys(folder, unreadable);
        return new(keys.Count == 0 ? null : keys, ReadHeads(folder, unreadable), unreadable);
    }

    /// <summary>Public keys of now and of before: what was signed with one that cannot be read is told as signed with a key that is not at
    /// hand.</summary>
    public static Dictionary<string, ECDsa> ReadKeys(string folder, ICollection<string> unreadable)
    {
        var keys = new Dictionary<string, ECDsa>();
        foreach (var file in Directory.EnumerateFiles(folder, "*.pub.pem"))
        {
            var key = ECDsa.Create();
            try
            {
                key.ImportFromPem(File.ReadAllText(file));
                keys[BookHead.KeyId(key)] = key;
            }
            catch (Exception bent) when (bent is ArgumentException or CryptographicException or IOException or UnauthorizedAccessException)
            {
                key.Dispose();
                unreadable.Add($"the public key {Path.GetFileName(file)} cannot be read");
            }
        }
        return keys;
    }

    /// <summary>Empty where no head was signed yet.</summary>
    public static IReadOnlyList<BookHead> ReadHeads(string folder, ICollection<string> unreadable)
    {
        try
        {
            var file = Path.Combine(folder, HeadAnchors.FileName);
            return File.Exists(file) ? HeadAnchors.Read(File.ReadAllText(file)) : [];
        }
        catch (Exception bent) when (bent is FormatException or OverflowException or IOException or UnauthorizedAccessException)
        {
            unreadable.Add($"the last signed heads, {HeadAnchors.FileName} beside the signing key, cannot be read ({bent.Message})");
            return [];
        }
    }
}
