using System.Collections.Immutable;

namespace Osierwand.Core.Equipment;

/// <summary>A class mark that can be read on the item.</summary>
public enum ClassMark
{
    /// <summary>None legible: worn, greasy, missing.</summary>
    None,
    SquareWithinSquare,
    RomanThreeInDiamond,
    EarthSymbol,
}

/// <summary>Where the mark sits. A mark on a component says nothing about the whole.</summary>
public enum MarkPlace
{
    Plate,
    Component,
}

/// <summary>What was seen on the plate and the build. Null is "not looked at, or cannot be told".</summary>
public sealed record ClassFacts
{
    public ClassMark Mark { get; init; }
    public MarkPlace MarkOn { get; init; }

    /// <summary>Cores of the flex: 2 or 3.</summary>
    public int? Cores { get; init; }
    public bool? EarthPin { get; init; }
    public bool? MetalReachable { get; init; }

    /// <summary>Measured: the case is joined to the earth pin.</summary>
    public bool? Bonded { get; init; }

    /// <summary>The plate or the papers say that the earth serves a screen or a filter only.</summary>
    public bool FunctionalEarth { get; init; }

    /// <summary>Extra-low voltage from a safety transformer.</summary>
    public bool? ExtraLowVoltage { get; init; }
}

/// <summary>A class and how it was come to.</summary>
/// <param name="Evidence">What the register keeps as the class's evidence.</param>
/// <param name="Because">The reasoning, a line each.</param>
/// <param name="Ask">What would settle it; null when nothing is open.</param>
public sealed record ClassFinding(ClassEvidence Evidence, ImmutableArray<string> Because, string? Ask)
{
    /// <summary>What the evidence decides: one table for this helper and for the register.</summary>
    public ProtectionClass Class => ClassDecisions.From(Evidence).Class;

    /// <summary>How it is tested, until something settles an undecided one.</summary>
    public string TestAs =>
        Class == ProtectionClass.Undecided ? "as class I and as class II, the stricter limit kept" : $"as class {Words.Of(Class)}";
}

/// <summary>From plate and build to a class, or to "undecided" with the question that would settle it. A metal case proves
/// nothing.</summary>
public static class ClassHelper
{
    private const string AskBonded = "Measure whether the case is bonded to the earth pin; a bonded case is class I.";
    private const string AskPlug =
        "Look whether its plug was replaced, and find the maker's papers. Of something hard-wired say nothing of a pin.";
    private const string AskMetal = "Is metal within reach? Without it there is no earth point to clip to.";

    public static ClassFinding Of(ClassFacts seen)
    {
        // Three cores alone are no evidence: only an earth pin says what the third is for.
        var earthed = seen.EarthPin == true;
        // Against a mark that knows no earth they are doubt enough, as long as nobody looked at the plug.
        var mayBeEarthed = earthed || seen is { Cores: 3, EarthPin: null };
        var mark = seen.MarkOn == MarkPlace.Plate ? seen.Mark : ClassMark.None;
        var stray =
            seen.Mark != ClassMark.None && seen.MarkOn == MarkPlace.Component
                ? "the mark sits on a component: it says nothing about the whole"
                : null;

        if (seen.Cores == 2 && seen.EarthPin == true && seen.Bonded != true)
            return Contradiction(
                "a two-core flex cannot serve an earth pin",
                "Look whether the flex was replaced; find the maker's papers.",
                stray
            );
        if (seen is { Bonded: true, FunctionalEarth: true })
            return Contradiction(
                "an earth said to serve function only, but the case is bonded to it",
                "Ask the maker's papers which it is.",
                stray
            );
        if (seen is { Bonded: true, EarthPin: false })
            return Contradiction("the case is said to be bonded to an earth pin, but there is none", AskPlug, stray);
        // The mark is on a component or build speaks against it; the case was found not bonded: the square within a square stands.
        if (
            seen is { Bonded: false, Mark: ClassMark.SquareWithinSquare, FunctionalEarth: false }
            && (stray is not null || earthed || seen.Cores == 3)
        )
            return Found(
                ClassEvidence.SquareWithinSquare,
                null,
                stray,
                "a square within a square, and the case is not bonded to the earth pin: class II, its metal probed"
            );
        if (seen.Bonded == true && !seen.FunctionalEarth)
            return Found(
                ClassEvidence.EarthSymbolOrPinMetalReachable,
                null,
                stray,
                "the case is bonded to the earth pin: class I",
                mark == ClassMark.SquareWithinSquare ? "the square within a square contradicts that; the bond is what protects" : null
            );
        return mark switch
        {
            ClassMark.RomanThreeInDiamond => Three(seen, mayBeEarthed),
            ClassMark.SquareWithinSquare => Two(seen, mayBeEarthed),
            ClassMark.EarthSymbol when seen.Cores == 2 => Contradiction("an earth symbol, but a two-core flex", Bond(seen), stray),
            ClassMark.EarthSymbol when seen.EarthPin == false => Contradiction("an earth symbol, but no earth pin", AskPlug, stray),
            _ when mark == ClassMark.EarthSymbol || earthed => One(seen, stray),
            _ when stray is not null => new(ClassEvidence.MarkOnComponentOrContradiction, [stray], Bond(seen)),
            _ when seen is { Cores: 3, EarthPin: null } => new(
                ClassEvidence.NoneLegible,
                ["three cores without an earth pin are no evidence"],
                "Look whether its plug has an earth pin that the third core is joined to."
            ),
            _ => new(
                ClassEvidence.NoneLegible,
                [
                    seen.Cores == 2
                        ? "no mark legible; two cores alone prove no double insulation"
                        : "no mark legible, and nothing of the build tells the class",
                ],
                "Ask the maker's papers."
            ),
        };
    }

    /// <summary>Nothing is asked twice: a case that was measured leaves the papers.</summary>
    private static string Bond(ClassFacts seen) => seen.Bonded is null ? AskBonded : "Ask the maker's papers.";

    private static ClassFinding Three(ClassFacts seen, bool earthed) =>
        seen switch
        {
            _ when earthed => Contradiction("a roman III, but an earth in the flex", Bond(seen), null),
            { ExtraLowVoltage: false } => Contradiction(
                "a roman III, but fed by mains voltage",
                "Find its safety transformer; without one it is no class III.",
                null
            ),
            _ => Found(
                ClassEvidence.RomanThreeInDiamond,
                seen.ExtraLowVoltage is null ? "Is it fed by a safety transformer? The supply unit is an item of its own." : null,
                null,
                "roman III in a diamond on the plate: extra-low voltage from a safety transformer"
            ),
        };

    private static ClassFinding Two(ClassFacts seen, bool earthed)
    {
        if (seen.FunctionalEarth)
            return Found(
                ClassEvidence.SquareWithinSquareFunctionalEarth,
                null,
                null,
                "square within a square, and an earth that serves a screen or a filter only: nothing is judged against an earth limit"
            );
        return earthed
            ? Contradiction(
                "a square within a square, but an earth in the flex",
                Bond(seen) + " An earth that only serves a screen or a filter makes it class II with functional earth.",
                null
            )
            : Found(
                ClassEvidence.SquareWithinSquare,
                null,
                null,
                "square within a square on the plate: class II",
                seen.MetalReachable == true ? "a metal case changes nothing: probe the metal" : null
            );
    }

    private static ClassFinding One(ClassFacts seen, string? stray) =>
        seen switch
        {
            { FunctionalEarth: true } => Contradiction(
                "an earth said to serve function only, without the square within a square",
                "Ask the maker's papers which it is.",
                stray
            ),
            { MetalReachable: false } => Found(
                ClassEvidence.EarthPinNoMetalReachable,
                null,
                stray,
                "earth in the flex and no metal within reach: insulation to the earth pin only"
            ),
            { MetalReachable: true, Bonded: false } => Contradiction(
                "an earth in the flex, but the metal within reach is not bonded to it",
                "Look for a broken bond, or for the class II mark: until then it is not used.",
                stray
            ),
            _ => Found(
                ClassEvidence.EarthSymbolOrPinMetalReachable,
                seen.MetalReachable is null ? AskMetal : null,
                stray,
                "earth symbol, or a three-core flex with earth pin: class I"
            ),
        };

    private static ClassFinding Found(ClassEvidence evidence, string? ask, params string?[] because) =>
        new(evidence, [.. because.OfType<string>()], ask);

    private static ClassFinding Contradiction(string what, string ask, string? stray) =>
        new(
            ClassEvidence.MarkOnComponentOrContradiction,
            [.. new[] { stray, $"plate and build contradict each other: {what}" }.OfType<string>()],
            ask
        );
}
