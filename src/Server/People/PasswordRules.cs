using System.Collections.Frozen;
using System.IO.Compression;
using System.Text;
using Microsoft.AspNetCore.Identity;
using Osierwand.Store.Entities;

namespace Osierwand.Server.People;

/// <summary>
/// Refuses passwords that are guessed first: those on a shipped list of leaked ones, such a one with decoration, the person's or the
/// house's own name, runs and repetitions. Rules about kinds of characters there are none: they make passwords be written down.
/// </summary>
public sealed class PasswordRules : IPasswordValidator<Person>
{
    public const int Shortest = 12;
    public const int Longest = 128;
    private const int FewestDifferent = 6;

    /// <summary>So much must remain beside what everybody knows.</summary>
    private const int LeastOfItsOwn = 6;

    private static readonly FrozenSet<string> Leaked = Load();
    private static readonly string[] Everybodys =
    [
        "osierwand",
        "withylane",
        "password",
        "passwort",
        "qwerty",
        "letmein",
        "welcome",
        "admin",
    ];
    private const string Rows =
        "abcdefghijklmnopqrstuvwxyz 01234567890 qwertyuiop asdfghjkl zxcvbnm qwertzuiop yxcvbnm 1qaz2wsx3edc4rfv5tgb6yhn7ujm";
    private static readonly string Runs = Rows + " " + new string([.. Rows.Reverse()]);

    public Task<IdentityResult> ValidateAsync(UserManager<Person> manager, Person user, string? password) =>
        Task.FromResult(
            Refusal(password ?? "", user) is { } why
                ? IdentityResult.Failed(new IdentityError { Code = "Password", Description = why })
                : IdentityResult.Success
        );

    /// <returns>Why not, for a person; null when it may be used.</returns>
    public static string? Refusal(string password, Person user)
    {
        if (password.EnumerateRunes().Count() < Shortest)
            return $"A password has at least {Shortest} characters; a few words of your own are easy to keep.";
        if (password.Length > Longest)
            return $"A password has at most {Longest} characters.";
        var plain = Plain(password);
        if (plain.Distinct().Count() < FewestDifferent)
            return "The same few characters over and over are guessed first.";
        if (Leaked.Contains(password.ToLowerInvariant()) || Leaked.Contains(plain))
            return "This password is on the lists that guessers begin with.";
        var rest = Plain(WithoutRuns(password.ToLowerInvariant()));
        foreach (var known in Everybodys.Concat(Names(user)).Where(it => it.Length > 2).OrderByDescending(it => it.Length))
            rest = rest.Replace(known, "", StringComparison.Ordinal);
        return rest.Distinct().Count() < LeastOfItsOwn || Leaked.Contains(rest)
            ? "Names, well-known words and runs of keys are guessed first; take something of your own."
            : null;
    }

    private static IEnumerable<string> Names(Person user) =>
        $"{user.UserName} {user.DisplayName}".Split([' ', '.', '-', '_', '@'], StringSplitOptions.RemoveEmptyEntries).Select(Plain);

    /// <summary>Lower case, letters for the digits that stand for them, decoration taken away.</summary>
    private static string Plain(string text)
    {
        var plain = new StringBuilder(text.Length);
        foreach (var letter in text.ToLowerInvariant().Where(it => !char.IsPunctuation(it) && !char.IsWhiteSpace(it) || it is '@' or '!'))
            plain.Append(
                letter switch
                {
                    '0' => 'o',
                    '3' => 'e',
                    '4' or '@' => 'a',
                    '5' or '$' => 's',
                    '7' => 't',
                    '!' => 'i',
                    _ => letter,
                }
            );
        return plain.ToString();
    }

    /// <summary>Stretches of four and more that lie side by side on a keyboard or in the alphabet, or repeat one character.</summary>
    private static string WithoutRuns(string text)
    {
        var kept = new StringBuilder();
        for (var at = 0; at < text.Length; )
        {
            var length = 1;
            while (
                at + length < text.Length
                && (
                    Runs.Contains(text.Substring(at, length + 1), StringComparison.Ordinal)
                    || text.AsSpan(at, length + 1).IndexOfAnyExcept(text[at]) < 0
                )
            )
                length++;
            if (length < 4)
                kept.Append(text, at, length);
            at += length;
        }
        return kept.ToString();
    }

    private static FrozenSet<string> Load()
    {
        using var packed = typeof(PasswordRules).Assembly.GetManifestResourceStream("leaked-passwords.txt.gz")!;
        using var text = new StreamReader(new GZipStream(packed, CompressionMode.Decompress));
        return text.ReadToEnd().Split('\n', StringSplitOptions.RemoveEmptyEntries).ToFrozenSet(StringComparer.Ordinal);
    }
}
