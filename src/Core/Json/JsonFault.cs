using System.Text.Json;

namespace Osierwand.Core.Json;

/// <summary>What System.Text.Json refuses, told as our own readers tell it: the place as people write it, and no name of a type.</summary>
internal static class JsonFault
{
    private const string MissingBefore = "missing required properties including: '";

    public static Fault Of(JsonException broken)
    {
        var place = (broken.Path ?? "").TrimStart('$').TrimStart('.');
        return Missing(broken.Message) is { } missing ? new Fault(place.Length == 0 ? missing : $"{place}.{missing}", "is missing")
            : broken.Message.Contains("could not be mapped to any .NET member", StringComparison.Ordinal)
                ? new Fault(place, "is not a known property here")
            : broken.Message.Contains("uplicate propert", StringComparison.Ordinal) ? new Fault(place, "stands twice")
            : broken.Message.Contains("could not be converted", StringComparison.Ordinal) ? new Fault(place, "is of the wrong kind")
            : new Fault(place, Plain(broken.Message));
    }

    /// <summary>The first member that was left out, or null where the fault is another.</summary>
    private static string? Missing(string message)
    {
        var at = message.IndexOf(MissingBefore, StringComparison.Ordinal);
        if (at < 0)
            return null;
        var name = message[(at + MissingBefore.Length)..];
        return name[..name.IndexOf('\'', StringComparison.Ordinal)];
    }

    private static string Plain(string message)
    {
        var end = message.IndexOf(" Path:", StringComparison.Ordinal);
        return end < 0 ? message : message[..end];
    }
}
