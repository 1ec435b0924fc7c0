using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>How a value stands to its limit. Equality passes except with <see cref="Below"/>, which is strict.</summary>
public enum Comparator
{
    NotMoreThan,
    NotLessThan,
    Below,

    /// <summary>The deviation from a set value lies within the limit.</summary>
    Within,
}

/// <summary>Comparators as people write them.</summary>
public static class ComparatorText
{
    public static string Sign(this Comparator it) =>
        it switch
        {
            Comparator.NotLessThan => "≥",
            Comparator.Below => "<",
            Comparator.Within => "±",
            _ => "≤",
        };
}

/// <summary>How a row's limit follows from the item. The numbers are the pack's; the code knows only these shapes.</summary>
public abstract record Formula
{
    private Formula() { }

    /// <summary>One value, whatever the item.</summary>
    public sealed record Fixed(Quantity Value) : Formula;

    /// <summary>A base plus the resistance of the flex's protective conductor.</summary>
    public sealed record PlusConductor(Ohms Base) : Formula;

    /// <summary>A base up to a length, a step more for each further stretch begun, and a ceiling.</summary>
    public sealed record ByLength(Ohms Base, Metres UpTo, Metres Stretch, Ohms Step, Ohms Ceiling) : Formula;

    /// <summary>So much per kilowatt of rated power, with a floor and a ceiling.</summary>
    public sealed record PerKilowatt(Quantity PerKw, Quantity? Floor, Quantity Ceiling) : Formula;

    /// <summary>Within the greater of an amount and a fraction of the set value.</summary>
    public sealed record Deviation(Quantity Floor, double Fraction) : Formula;

    /// <summary>The RCD must stay closed for this long.</summary>
    public sealed record NoTrip(Quantity Watch) : Formula;
}

/// <summary>One row of a pack.</summary>
/// <param name="Id">Unique in its pack.</param>
/// <param name="What">The row in words.</param>
/// <param name="Clause">Where it stands in the standard.</param>
public sealed record LimitRule(
    string Id,
    string What,
    Test Test,
    ItemPattern Item,
    ReadingPattern Reading,
    Comparator Comparator,
    Formula Formula,
    string Clause,
    string? Remark
)
{
    /// <summary>Up to here an RCD's own product standard may allow more than the row; null where the row is the last word. A stricter own
    /// standard wins everywhere.</summary>
    public Quantity? OwnUpTo { get; init; }

    /// <summary>The organisation's own, stricter limit on this row, if it has one.</summary>
    public HouseLimit? House { get; init; }

    /// <summary>The house's own limit in words, as <see cref="Text"/>; null without one.</summary>
    public string? HouseText =>
        House is null ? null : $"{Comparator.Sign()} {House.Bound}{(Formula is Formula.PlusConductor ? " + R" : "")}";

    /// <summary>A fixed limit in words, written once: it stands in the working of every reading it judges.</summary>
    internal string? FixedText { get; set; }

    /// <summary>With its pack's id, written once.</summary>
    internal string? FullClause { get; set; }

    /// <summary>The row's limit in words, for whatever item: "≤ 0.1 Ω + R", "≤ 0.75 mA per kW, at least 0.75 mA, at most 5 mA".</summary>
    public string Text => LimitText.RowText(this);

    /// <summary>What the row's numbers measure.</summary>
    public Dimension Dimension =>
        Formula switch
        {
            Formula.Fixed it => it.Value.Dimension,
            Formula.PerKilowatt it => it.PerKw.Dimension,
            Formula.Deviation it => it.Floor.Dimension,
            Formula.NoTrip => Dimension.Time,
            _ => Dimension.Resistance,
        };
}

/// <summary>A limit of one's own, tighter than the standard's, and whose it is.</summary>
public sealed record OwnFigure(Quantity Value, string Why);

/// <summary>A row's limit worked out for one item: the number and everything it came from.</summary>
/// <param name="Value">Null for a row that only asks that nothing trips.</param>
/// <param name="Base">The plain limit before any allowance.</param>
/// <param name="Conductor">The protective conductor whose resistance was allowed, if any.</param>
/// <param name="LoopConductor">The line conductor added because the reading ran as a loop, if any.</param>
/// <param name="Standard">What the standard alone would allow, where a house limit is tighter; null otherwise.</param>
public sealed record ResolvedLimit(
    RulePack Pack,
    LimitRule Rule,
    Quantity? Value,
    Quantity? Base = null,
    ConductorResistance? Conductor = null,
    ConductorResistance? LoopConductor = null,
    Quantity? Standard = null
)
{
    /// <summary>The item's power or length that the row's formula was worked out with; null where it asks for neither or it is not
    /// known.</summary>
    public double? Amount { get; init; }

    /// <summary>What the RCD's own product standard allows, where that is the limit; null otherwise.</summary>
    public Quantity? OwnTrip { get; init; }

    /// <summary>The maker's own figure where it is the tighter one; null otherwise.</summary>
    public Quantity? Maker { get; init; }

    /// <summary>Whose figure it is where a procedure's own limit is the tighter one; null otherwise.</summary>
    public string? OwnWhy { get; init; }

    /// <summary>A procedure's own figure in place of the standard's where it is tighter; a looser one changes nothing.</summary>
    public ResolvedLimit Tightened(OwnFigure own) =>
        Value is { } value
        && own.Value.Dimension == value.Dimension
        && WithMaker(own.Value) is { Maker: not null } tighter
        && tighter.Value != value
            ? tighter with
            {
                OwnWhy = own.Why,
            }
            : this;

    /// <summary>The maker's figure in place of the standard's where it is tighter.</summary>
    public ResolvedLimit WithMaker(Quantity? maker) =>
        maker is { } own && Value is { } value && (IsFloor ? own.Si > value.Si : own.Si < value.Si)
            ? this with
            {
                Value = own,
                Maker = own,
            }
            : this;

    public Comparator Comparator => Rule.Comparator;

    /// <summary>Pack and clause, as printed beside every judged reading.</summary>
    public string Clause =>
        OwnWhy is not null ? $"{Pack.Id} {Rule.Clause}, tightened: {OwnWhy}"
        : Maker is not null ? $"{Pack.Id} {Rule.Clause}, maker's figure"
        : Standard is null ? Rule.FullClause ??= $"{Pack.Id} {Rule.Clause}"
        : $"{Pack.Id} {Rule.Clause}, house limit";

    /// <summary>How the limit was worked out, on one line a person could redo with a pencil.</summary>
    public string Derivation => LimitText.LimitLine(this);

    /// <summary>Whether larger readings are better.</summary>
    public bool IsFloor => Comparator == Comparator.NotLessThan;
}
