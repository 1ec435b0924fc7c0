namespace Osierwand.Core;

/// <summary>A set of enumeration values as bits; empty means "any". Limits are looked up for every reading, so matching must cost
/// nothing.</summary>
public readonly record struct SetOf<T>(ulong Bits)
    where T : struct, Enum
{
    public static readonly SetOf<T> Any;

    public static SetOf<T> Of(params ReadOnlySpan<T> values)
    {
        var bits = 0UL;
        foreach (var value in values)
            bits |= Bit(value);
        return new(bits);
    }

    public bool IsAny => Bits == 0;

    /// <summary>The first value of the set in declaration order; of "any" the enumeration's own first.</summary>
    public T First
    {
        get
        {
            var at = Bits == 0 ? 0 : System.Numerics.BitOperations.TrailingZeroCount(Bits);
            return System.Runtime.CompilerServices.Unsafe.As<int, T>(ref at);
        }
    }

    public bool Has(T value) => Bits == 0 || (Bits & Bit(value)) != 0;

    /// <summary>Whether it holds everything the other holds.</summary>
    public bool Covers(SetOf<T> other) => Bits == 0 || (other.Bits != 0 && (other.Bits & ~Bits) == 0);

    /// <summary>Whether some value lies in both.</summary>
    public bool Overlaps(SetOf<T> other) => Bits == 0 || other.Bits == 0 || (Bits & other.Bits) != 0;

    private static ulong Bit(T value) => 1UL << System.Runtime.CompilerServices.Unsafe.As<T, int>(ref value);
}
