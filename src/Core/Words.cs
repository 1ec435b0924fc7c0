using System.Collections.Frozen;
using System.Reflection;
using System.Text.Json;
using System.Text.Json.Serialization;

namespace Osierwand.Core;

/// <summary>The words by which enumerations stand in packs, contracts and records: camelCase, except where a member names its own, as classes and applied-part types do to keep the trade's capitals.</summary>
public static class Words
{
    /// <summary>The word for a value: <c>EarthContinuity</c> is "earthContinuity", class I without accessible metal is "I-noAccessibleMetal".</summary>
    public static string Of<T>(T value) where T : struct, Enum => Table<T>.ToWord[value];

    /// <summary>The value with exactly this word, or null.</summary>
    public static T? Find<T>(string word) where T : struct, Enum => Table<T>.FromWord.TryGetValue(word, out var value) ? value : null;

    /// <summary>Every word of an enumeration, in declaration order, for error messages.</summary>
    public static string AllOf<T>() where T : struct, Enum => string.Join(" | ", Enum.GetValues<T>().Select(Of));

    private static class Table<T> where T : struct, Enum
    {
        public static readonly FrozenDictionary<T, string> ToWord = Enum.GetValues<T>().ToFrozenDictionary(value => value, Spell);
        public static readonly FrozenDictionary<string, T> FromWord = ToWord.ToFrozenDictionary(pair => pair.Value, pair => pair.Key);

        private static string Spell(T value) =>
            typeof(T).GetField(value.ToString())!.GetCustomAttribute<JsonStringEnumMemberNameAttribute>()?.Name ?? JsonNamingPolicy.CamelCase.ConvertName(value.ToString());
    }
}
