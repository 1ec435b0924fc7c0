using System.Collections.Frozen;

namespace Osierwand.Core.Standards;

/// <summary>The packs that ship with Osierwand: every file in Standards/packs, read once on first use. A further pack is a further
/// file.</summary>
public static class PackLibrary
{
    private const string Folder = "packs/";

    /// <summary>Files are named "10-uk-cop-5.json": the number gives the order on screens, the rest is the pack's id.</summary>
    private static readonly (string Id, string File)[] Shipped =
    [
        .. Embedded.Names(Folder).Order(StringComparer.Ordinal).Select(file => (IdOf(file), file)),
    ];

    private static readonly FrozenDictionary<string, Lazy<RulePack>> ById = Shipped.ToFrozenDictionary(
        it => it.Id,
        it => new Lazy<RulePack>(() => Load(it.Id, it.File))
    );

    /// <summary>Ids of all shipped packs, appliances first.</summary>
    public static IReadOnlyList<string> Ids { get; } = [.. Shipped.Select(it => it.Id)];

    public static IEnumerable<RulePack> All => Ids.Select(id => ById[id].Value);

    /// <summary>The pack with exactly this id, or null.</summary>
    public static RulePack? Find(string id) => ById.GetValueOrDefault(id)?.Value;

    /// <summary>The text of a table that packs share, by the name under "includes", or null.</summary>
    public static string? SharedTable(string name) => Embedded.Text($"{name}.json");

    /// <summary>The JSON schema that pack files follow.</summary>
    public static string Schema => PackSchema.Text();

    /// <summary>The text of a shipped pack file, or null.</summary>
    public static string? Source(string id) =>
        Shipped.FirstOrDefault(it => it.Id == id).File is { } file ? Embedded.Text(Folder + file) : null;

    private static string IdOf(string file)
    {
        var name = file[..file.LastIndexOf('.')];
        var dash = name.IndexOf('-', StringComparison.Ordinal);
        return dash > 0 && name.AsSpan(0, dash).IndexOfAnyExceptInRange('0', '9') < 0 ? name[(dash + 1)..] : name;
    }

    private static RulePack Load(string id, string file)
    {
        var pack = PackReader.Read(Embedded.Text(Folder + file)!, SharedTable);
        if (pack.Fault is { } fault)
            throw new InvalidOperationException($"The shipped pack {file} does not load: {fault}");
        return pack.Value.Id == id
            ? pack.Value
            : throw new InvalidOperationException($"The shipped pack {file} calls itself {pack.Value.Id}");
    }
}
