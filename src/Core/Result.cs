using System.Diagnostics.CodeAnalysis;

namespace Osierwand.Core;

/// <summary>What a user got wrong: where, and what would be right.</summary>
/// <param name="Path">The offending place in the input, as in "readings[0].unit"; empty for the whole.</param>
public sealed record Fault(string Path, string Message)
{
    public override string ToString() => Path.Length == 0 ? Message : $"{Path}: {Message}";
}

/// <summary>Either a value or the fault that kept it from being made.</summary>
public readonly record struct Result<T>
{
    private readonly T? value;

    private Result(T? value, Fault? fault) => (this.value, Fault) = (value, fault);

    /// <summary>Null when there is a value.</summary>
    public Fault? Fault { get; }

    /// <summary>The value. Asking a failed result for it is a programming error and throws.</summary>
    public T Value => Fault is null ? value! : throw new InvalidOperationException($"No value: {Fault}");

    public bool TryGet([MaybeNullWhen(false)] out T it)
    {
        it = value;
        return Fault is null;
    }

    public static implicit operator Result<T>(T value) => new(value, null);

    public static implicit operator Result<T>(Fault fault) => new(default, fault);
}
