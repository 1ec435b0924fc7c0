using System.Collections.Immutable;

namespace Osierwand.Core.Hire;

/// <summary>What somebody sees on an item that came back.</summary>
public enum HireSeen
{
    Good,
    Flex,
    Plug,
    Case,
    Part,
    WetOrBurnt,
    Other,
}

/// <summary>A verdict over an item that came back, as a scanner says it: its code stands on the screen and on a card beside the
/// pile.</summary>
/// <param name="Seen">Null where nobody looks now: it is only counted in, or put aside.</param>
/// <param name="Digit">The same by a number pad.</param>
public sealed record HireVerdict(string Code, int Digit, string Text, HireSeen? Seen, bool WantsWords = false)
{
    /// <summary>Begins every code, and no tag that a house would choose.</summary>
    private const string Prefix = "LOOK-";

    private static HireVerdict At(int digit, string text, HireSeen? seen, bool wantsWords = false) =>
        new($"{Prefix}{digit}", digit, text, seen, wantsWords);

    public static ImmutableArray<HireVerdict> All { get; } =
    [
        At(1, "Looks whole", HireSeen.Good),
        At(2, "Flex or lead damaged", HireSeen.Flex),
        At(3, "Plug damaged", HireSeen.Plug),
        At(4, "Case or cover damaged", HireSeen.Case),
        At(5, "Guard or part missing", HireSeen.Part),
        At(6, "Wet, burnt, or smells of it", HireSeen.WetOrBurnt),
        At(7, "Something else is wrong", HireSeen.Other, wantsWords: true),
        At(9, "It is back; looked at later", null),
        At(0, "Not this one: put it aside", null),
    ];

    public static HireVerdict Of(HireSeen seen) => All.Single(it => it.Seen == seen);

    /// <summary>A tag that a digit of the number pad could be: a fleet that has one gives its verdicts by codes alone.</summary>
    public static bool IsDigit(string tag) => tag.Trim() is [>= '0' and <= '9'];

    public bool IsGood => Seen == HireSeen.Good;

    /// <summary>It is only said to be back.</summary>
    public bool OnlyCounts => Digit == 9;

    /// <summary>What was seen, in the middle of a sentence.</summary>
    public static string InWords(LookedAt it) =>
        string.IsNullOrWhiteSpace(it.Words) ? Lower(Of(it.Seen).Text)
        : Of(it.Seen).WantsWords ? it.Words.Trim()
        : $"{Lower(Of(it.Seen).Text)}; {it.Words.Trim()}";

    private static string Lower(string text) => char.ToLowerInvariant(text[0]) + text[1..];
}
