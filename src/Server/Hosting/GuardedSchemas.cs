using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace Osierwand.Server.Hosting;

/// <summary>Describes values whose reader is the border's own (<see cref="Border"/>): the generator cannot look into a reader and would
/// call them anything.</summary>
internal static class GuardedSchemas
{
    public static Task Describe(OpenApiSchema schema, OpenApiSchemaTransformerContext context, CancellationToken cancel)
    {
        // The elements of a list are described with it, and are never null.
        var isSilent = schema.Items is null or OpenApiSchema { Type: null, OneOf: null };
        if (isSilent && context.JsonTypeInfo.ElementType is { } element && Known(element) is { } each)
            schema.Items = new OpenApiSchema { Type = each.Type, Format = each.Format };
        var type = context.JsonTypeInfo.Type;
        var bare = Nullable.GetUnderlyingType(type) ?? type;
        if (Known(bare) is not { } found)
            return Task.CompletedTask;
        var mayBeNull = bare != type || (bare == typeof(string) && context.JsonPropertyInfo?.IsGetNullable == true);
        schema.Type = found.Type | (mayBeNull ? JsonSchemaType.Null : 0);
        schema.Format = found.Format;
        if (bare == typeof(string))
            schema.MaxLength = Border.LongestText;
        return Task.CompletedTask;
    }

    private static (JsonSchemaType Type, string? Format)? Known(Type type) =>
        type == typeof(string) ? (JsonSchemaType.String, null)
        : type == typeof(double) ? (JsonSchemaType.Number, "double")
        : type == typeof(DateOnly) ? (JsonSchemaType.String, "date")
        : type == typeof(DateTimeOffset) ? (JsonSchemaType.String, "date-time")
        : null;
}
