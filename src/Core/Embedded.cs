namespace Osierwand.Core;

/// <summary>Data files compiled into this assembly. Core opens no file of its own.</summary>
internal static class Embedded
{
    /// <summary>Names of the files in one folder.</summary>
    public static IEnumerable<string> Names(string folder) =>
        typeof(Embedded)
            .Assembly.GetManifestResourceNames()
            .Where(name => name.StartsWith(folder, StringComparison.Ordinal))
            .Select(name => name[folder.Length..]);

    public static string? Text(string name)
    {
        using var stream = typeof(Embedded).Assembly.GetManifestResourceStream(name);
        if (stream is null)
            return null;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
