using Microsoft.AspNetCore.Components;

namespace Osierwand.Server.Papers;

/// <summary>The letters and the sheet of every paper, within the paper itself: it reads the same on a screen, in print and from a
/// folder.</summary>
internal static class PaperStyle
{
    public static readonly MarkupString Sheet = new($"<style>{Fonts()}{Rules()}</style>");

    private static string Fonts() => Face("AtkinsonHyperlegibleNext-Regular.ttf", 400) + Face("AtkinsonHyperlegibleNext-Bold.ttf", 700);

    private static string Face(string file, int weight) =>
        $"@font-face{{font-family:Paper;font-weight:{weight};src:url(data:font/ttf;base64,{Convert.ToBase64String(ShippedFile.Bytes(file))})}}";

    private static string Rules() => System.Text.Encoding.UTF8.GetString(ShippedFile.Bytes("paper.css"));
}
