namespace Osierwand.Server.Papers;

/// <summary>Letters and styles that are part of the program.</summary>
internal static class ShippedFile
{
    /// <exception cref="FileNotFoundException">It was left out of the build.</exception>
    public static Stream Open(string file) =>
        typeof(ShippedFile).Assembly.GetManifestResourceStream(file)
        ?? throw new FileNotFoundException($"{file} does not ship with this build.");

    public static byte[] Bytes(string file)
    {
        using var stream = Open(file);
        var bytes = new byte[stream.Length];
        stream.ReadExactly(bytes);
        return bytes;
    }
}
