namespace Osierwand.Server.Hosting;

/// <summary>Searched text as itself: per cent and underscore stand for themselves.</summary>
internal static class Like
{
    /// <summary>To be handed on with every pattern: without it the database takes a backslash as it stands.</summary>
    public const string EscapedBy = @"\";

    public static string Escape(string text) => text.Replace(@"\", @"\\").Replace("%", @"\%").Replace("_", @"\_");
}
