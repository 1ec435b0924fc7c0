using System.Collections.Frozen;

namespace Osierwand.Core.Standards;

/// <summary>The threshold tables that ship with Osierwand: every file in Standards/rules.</summary>
public static class ThresholdLibrary
{
    private const string Folder = "rules/";

    private static readonly string[] Files = [.. Embedded.Names(Folder).Order(StringComparer.Ordinal)];

    private static readonly FrozenDictionary<string, ThresholdTable> ById = Files.Select(Load).ToFrozenDictionary(table => table.Id);

    /// <summary>In the order in which screens list them.</summary>
    public static IReadOnlyList<ThresholdTable> All { get; } = [.. Files.Select(file => ById.Values.Single(it => IsOf(file, it.Id)))];

    /// <summary>The table with exactly this id, or null.</summary>
    public static ThresholdTable? Find(string id) => ById.GetValueOrDefault(id);

    /// <summary>The text of a shipped table's file, or null.</summary>
    public static string? Source(string id) =>
        Files.FirstOrDefault(file => IsOf(file, id)) is { } file ? Embedded.Text(Folder + file) : null;

    private static bool IsOf(string file, string id) => file.EndsWith($"-{id}.json", StringComparison.Ordinal);

    private static ThresholdTable Load(string file)
    {
        var table = ThresholdTable.Read(Embedded.Text(Folder + file)!);
        return table.Fault is { } fault
            ? throw new InvalidOperationException($"The shipped table {file} does not load: {fault}")
            : table.Value;
    }
}
