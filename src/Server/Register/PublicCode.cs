using System.Text.RegularExpressions;

namespace Osierwand.Server.Register;

/// <summary>A label's square code may hold the address of an item's public page: to a bench it is the item's tag.</summary>
internal static partial class PublicCode
{
    /// <returns>The token in it; null where the text is no such address.</returns>
    public static string? TokenIn(string? text) =>
        text is not null && Address().Match(text.Trim()) is { Success: true } found ? found.Groups[1].Value : null;

    [GeneratedRegex("^https?://[^/ ]{1,200}/u/([A-Za-z0-9_-]{16,64})$", RegexOptions.IgnoreCase)]
    private static partial Regex Address();
}
