namespace Osierwand.Core;

/// <summary>Data files compiled into this assembly. Core opens no file of its own.</summary>
internal static class Embedded
{
    public static string? Text(string name)
    {
        using var stream = typeof(Embedded).Assembly.GetManifestResourceStream(name);
        if (stream is null) return null;
        using var reader = new StreamReader(stream);
        return reader.ReadToEnd();
    }
}
