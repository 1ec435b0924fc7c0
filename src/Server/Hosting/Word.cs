using System.Diagnostics.CodeAnalysis;
using System.Text.Json.Nodes;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Osierwand.Core;

namespace Osierwand.Server.Hosting;

/// <summary>An enumeration in a query string, by the same word as in JSON. The framework's own binding wants the C# spelling, case and
/// all.</summary>
public readonly record struct Word<T>(T Value) : IParsable<Word<T>>
    where T : struct, Enum
{
    public static Word<T> Parse(string s, IFormatProvider? provider) =>
        TryParse(s, provider, out var word) ? word : throw new FormatException($"“{s}” is not one of {Words.AllOf<T>()}");

    public static bool TryParse([NotNullWhen(true)] string? s, IFormatProvider? provider, out Word<T> result)
    {
        var found = s is null ? null : Words.Find<T>(s);
        result = new(found ?? default);
        return found is not null;
    }
}

/// <summary>Describes such parameters by their words, so that the front end's types know them.</summary>
internal static class WordParameters
{
    public static Task Describe(OpenApiOperation operation, OpenApiOperationTransformerContext context, CancellationToken cancel)
    {
        foreach (var description in context.Description.ParameterDescriptions)
        {
            var type =
                Nullable.GetUnderlyingType(description.ParameterDescriptor.ParameterType) ?? description.ParameterDescriptor.ParameterType;
            if (!type.IsGenericType || type.GetGenericTypeDefinition() != typeof(Word<>))
                continue;
            if (operation.Parameters?.FirstOrDefault(it => it.Name == description.Name) is not OpenApiParameter parameter)
                continue;
            var words = (string)
                typeof(Words).GetMethod(nameof(Words.AllOf))!.MakeGenericMethod(type.GetGenericArguments()[0]).Invoke(null, null)!;
            parameter.Schema = new OpenApiSchema
            {
                Type = JsonSchemaType.String,
                Enum = [.. words.Split(" | ").Select(word => (JsonNode)word)],
            };
        }
        return Task.CompletedTask;
    }
}
