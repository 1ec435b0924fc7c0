namespace Osierwand.Server.Papers;

/// <summary>A paper as a page may stand in a frame of the application; it runs no script and fetches nothing.</summary>
internal static class PaperHeaders
{
    private static readonly object Key = new();

    public const string Policy =
        "default-src 'none'; style-src 'unsafe-inline'; font-src data:; img-src data:; base-uri 'none'; form-action 'none'; frame-ancestors 'self'";

    public static void Allow(HttpContext http) => http.Items[Key] = Policy;

    public static bool Is(HttpContext http) => http.Items.ContainsKey(Key);
}
