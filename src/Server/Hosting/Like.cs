namespace Osierwand.Server.Hosting;

/// <summary>Searched text as itself: per cent and underscore stand for themselves.</summary>
internal static class Like
{
    public static string Escape(string text) => text.Replace(@"\", @"\\").Replace("%", @"\%").Replace("_", @"\_");
}
