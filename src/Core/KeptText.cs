using System.Globalization;
using System.Text;

namespace Osierwand.Core;

/// <summary>What text may be kept: everything that people can read and a database can store. What cannot be seen, or turns what stands
/// beside it round, is refused with the reason.</summary>
public static class KeptText
{
    /// <summary>Line feeds and tabs are text; other control characters are not.</summary>
    /// <returns>Why not; null when it may be kept.</returns>
    public static string? Refusal(string text, int longest)
    {
        if (text.Length > longest)
            return $"{text.Length.ToString(CultureInfo.InvariantCulture)} characters are too many; {longest.ToString(CultureInfo.InvariantCulture)} fit.";
        return Unreadable(text);
    }

    /// <returns>What no person wrote: control characters, halves of characters, what Unicode keeps for nobody.</returns>
    public static string? Unreadable(string text)
    {
        for (var at = 0; at < text.Length; at++)
        {
            var letter = text[at];
            if (letter is >= ' ' and <= '~' or '\n' or '\r' or '\t')
                continue;
            if (char.IsSurrogate(letter))
            {
                if (!Rune.TryGetRuneAt(text, at, out var rune))
                    return "It holds half a character: it was cut, or sent in another encoding.";
                at += rune.Utf16SequenceLength - 1;
            }
            else if (char.IsControl(letter) || letter is '\ufffe' or '\uffff')
            {
                return "It holds characters that cannot be printed.";
            }
        }
        return null;
    }

    /// <summary>For tags and names, by which things are told apart: direction marks and characters without width are wanted in none of
    /// them, since two that look alike would be two.</summary>
    public static string? Unseen(string text)
    {
        foreach (var letter in text.Where(IsUnseen))
            return $"It holds a character that cannot be seen (U+{(int)letter:X4}); type it again without.";
        return Unreadable(text);
    }

    private static bool IsUnseen(char it) =>
        it
            is '\u00ad'
                or '\u034f'
                or '\u061c'
                or '\u115f'
                or '\u1160'
                or '\u17b4'
                or '\u17b5'
                or '\u180e'
                or '\u3164'
                or '\ufeff'
                or '\uffa0'
        || it is >= '\u200b' and <= '\u200f'
        || it is >= '\u2028' and <= '\u202e'
        || it is >= '\u2060' and <= '\u206f';
}
