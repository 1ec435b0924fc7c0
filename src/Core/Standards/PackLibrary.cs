using System.Collections.Frozen;

namespace Osierwand.Core.Standards;

/// <summary>The packs that ship with Osierwand, read once on first use.</summary>
public static class PackLibrary
{
    private static readonly string[] Shipped =
        ["uk-cop-5", "as-nzs-3760-2022", "en-50699-2020", "iec-62353-2014", "iec-60601-1-2012", "nfpa-99-2012"];

    private static readonly FrozenDictionary<string, Lazy<RulePack>> ById =
        Shipped.ToFrozenDictionary(id => id, id => new Lazy<RulePack>(() => Load(id)));

    /// <summary>Ids of all shipped packs, appliances first.</summary>
    public static IReadOnlyList<string> Ids => Shipped;

    public static IEnumerable<RulePack> All => Shipped.Select(id => ById[id].Value);

    /// <summary>The pack with exactly this id, or null.</summary>
    public static RulePack? Find(string id) => ById.GetValueOrDefault(id)?.Value;

    /// <summary>The text of a shared table or pack that ships inside this assembly, or null.</summary>
    public static string? SharedTable(string name) => Embedded.Text($"{name}.json");

    /// <summary>The JSON schema that pack files follow.</summary>
    public static string Schema => Embedded.Text("pack.schema.json")!;

    private static RulePack Load(string id)
    {
        var pack = PackReader.Read(SharedTable(id) ?? "", SharedTable);
        return pack.Fault is null ? pack.Value : throw new InvalidOperationException($"The shipped pack {id} does not load: {pack.Fault}");
    }
}
