using System.Collections.Immutable;
using System.Globalization;

namespace Osierwand.Core.Equipment;

/// <summary>One plug or lead set of an applied part: "chest leads", six connections.</summary>
public sealed record PartModule(string Name, int Connections)
{
    public override string ToString() => string.Create(CultureInfo.InvariantCulture, $"{Name} {Connections}");
}

/// <summary>
/// What belongs to one function is one applied part, also where it comes out of the device in several places: the limb leads and the chest
/// leads of an ECG are joined for the measurement.
/// </summary>
public static class PartModules
{
    private const int MostModules = 20;

    /// <param name="text">Names with their numbers of connections: "limb leads 4, chest leads 6". A name alone has one.</param>
    /// <param name="connections">Of the whole part.</param>
    /// <returns>The modules, or why the text cannot be right.</returns>
    public static Result<ImmutableArray<PartModule>> Read(string text, int connections)
    {
        var modules = text.Split([',', ';'], StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(Module)
            .ToImmutableArray();
        if (modules.Length > MostModules)
            return new Fault("madeOf", $"A function has at most {MostModules} modules.");
        if (modules.FirstOrDefault(it => it.Name.Length == 0 || it.Connections < 1) is { } odd)
            return new Fault("madeOf", $"“{odd}” is no module: a name and how many connections it has.");
        if (modules.Select(it => it.Name).Distinct(StringComparer.OrdinalIgnoreCase).Count() != modules.Length)
            return new Fault("madeOf", "A module stands twice.");
        var sum = modules.Sum(it => it.Connections);
        return modules.Length > 0 && sum != connections
            ? new Fault("madeOf", $"{string.Join(", ", modules)} make {sum} connections, and the part has {connections}.")
            : modules;
    }

    private static PartModule Module(string text)
    {
        var at = text.LastIndexOf(' ');
        return at >= 0 && int.TryParse(text[(at + 1)..], NumberStyles.None, CultureInfo.InvariantCulture, out var count)
            ? new(text[..at].Trim(), count)
            : new(text, 1);
    }
}
