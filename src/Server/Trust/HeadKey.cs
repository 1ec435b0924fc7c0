using System.Security.Cryptography;
using Microsoft.Extensions.Options;
using Osierwand.Core.Records;
using Osierwand.Store;

namespace Osierwand.Server.Trust;

/// <summary>How the books are kept honest.</summary>
public sealed class BookOptions
{
    /// <summary>Folder of the house's signing key; without one it lasts as long as this process.</summary>
    public string? KeyFolder { get; set; }
    public double SignEverySeconds { get; set; } = 5;
    public double VerifyEveryHours { get; set; } = 24;
}

/// <summary>
/// The house's key, in a file beside the database and never in it: who can change the database cannot sign what they made of it. Keys of
/// before stay as "*.pub.pem", so that what they signed can be checked.
/// </summary>
public sealed class HeadKey : IDisposable
{
    private const string PrivateFile = "books.key.pem";
    private readonly ECDsa key;

    public HeadKey(IOptions<BookOptions> options)
    {
        var folder = options.Value.KeyFolder;
        Folder = folder;
        key = folder is null ? BookHead.NewKey() : Open(folder);
        Id = BookHead.KeyId(key);
        PublicPem = key.ExportSubjectPublicKeyInfoPem();
        var all = new Dictionary<string, ECDsa> { [Id] = key };
        if (folder is not null)
        {
            File.WriteAllText(Path.Combine(folder, $"books-{Id}.pub.pem"), PublicPem);
            var unreadable = new List<string>();
            foreach (var (id, known) in KeptOutside.ReadKeys(folder, unreadable))
                all.TryAdd(id, known);
            Unreadable = unreadable;
        }
        All = all;
    }

    /// <summary>Null where the key lasts as long as this process.</summary>
    public string? Folder { get; }
    public string Id { get; }
    public string PublicPem { get; }

    /// <summary>Every public key of the house, by its id.</summary>
    public IReadOnlyDictionary<string, ECDsa> All { get; }

    /// <summary>Files of keys of before that were bent, in words.</summary>
    public IReadOnlyList<string> Unreadable { get; } = [];

    public byte[] Sign(BookHead head)
    {
        lock (key)
            return head.Sign(key);
    }

    public void Dispose()
    {
        foreach (var it in All.Values)
            it.Dispose();
    }

    private static ECDsa Open(string folder)
    {
        Directory.CreateDirectory(folder);
        var file = Path.Combine(folder, PrivateFile);
        try
        {
            using var fresh = BookHead.NewKey();
            // Whoever of two servers is first makes it; only this user reads it.
            using var made = new FileStream(
                file,
                new FileStreamOptions
                {
                    Mode = FileMode.CreateNew,
                    Access = FileAccess.Write,
#pragma warning disable CA1416 // Osierwand runs on Linux
                    UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
#pragma warning restore CA1416
                }
            );
            made.Write(System.Text.Encoding.ASCII.GetBytes(fresh.ExportPkcs8PrivateKeyPem()));
        }
        catch (IOException) when (File.Exists(file))
        {
            // There already.
        }
        var key = ECDsa.Create();
        key.ImportFromPem(File.ReadAllText(file));
        return key;
    }
}
