using System.Reflection;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Osierwand.Core;

/// <summary>The words by which enumerations stand in packs, contracts and records: camelCase, except where a member names its own, as
/// classes and applied-part types do to keep the trade's capitals.</summary>
public static class Words
{
    /// <summary>As a sentence begins: its first letter large.</summary>
    public static string Capital(string text) => $"{char.ToUpperInvariant(text[0])}{text[1..]}";

    /// <summary>A phrase as a sentence of its own.</summary>
    public static string Sentence(string phrase) => $"{Capital(phrase)}.";

    /// <summary>The word for a value: <c>EarthContinuity</c> is "earthContinuity", class I without accessible metal is
    /// "I-noAccessibleMetal".</summary>
    public static string Of<T>(T value)
        where T : struct, Enum => Table<T>.Words[Unsafe.As<T, int>(ref value)];

    /// <summary>The value with exactly this word, or null.</summary>
    public static T? Find<T>(string word)
        where T : struct, Enum
    {
        if (!Table<T>.Values.TryGetValue(word, out var at))
            return null;
        return Unsafe.As<int, T>(ref at);
    }

    /// <summary>Every word of an enumeration that is known by its type only.</summary>
    public static IReadOnlyList<string> Listed(Type type) => Spell(type);

    /// <summary>Every word of an enumeration, in declaration order, for error messages.</summary>
    public static string AllOf<T>()
        where T : struct, Enum => string.Join(" | ", Table<T>.Words);

    /// <summary>Enumerations here count from 0 without gaps. Tables are over text and numbers, not over T: the runtime compiles them once
    /// for all enumerations.</summary>
    private static class Table<T>
        where T : struct, Enum
    {
        public static readonly string[] Words = Spell(typeof(T));
        public static readonly Dictionary<string, int> Values = Number(Words);
    }

    [System.Diagnostics.CodeAnalysis.UnconditionalSuppressMessage(
        "Trimming",
        "IL2070",
        Justification = "The fields of an enumeration that is kept are never trimmed."
    )]
    private static string[] Spell(Type type) =>
        [
            .. type.GetFields(BindingFlags.Public | BindingFlags.Static)
                .OrderBy(field => (int)field.GetRawConstantValue()!)
                .Select(field =>
                    field.GetCustomAttribute<JsonStringEnumMemberNameAttribute>()?.Name
                    ?? JsonNamingPolicy.CamelCase.ConvertName(field.Name)
                ),
        ];

    private static Dictionary<string, int> Number(string[] words)
    {
        var values = new Dictionary<string, int>(words.Length);
        for (var at = 0; at < words.Length; at++)
            values[words[at]] = at;
        return values;
    }
}
