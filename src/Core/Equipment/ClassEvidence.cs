namespace Osierwand.Core.Equipment;

/// <summary>What was seen on the plate and the build that decides the class.</summary>
public enum ClassEvidence
{
    SquareWithinSquare,
    SquareWithinSquareFunctionalEarth,
    RomanThreeInDiamond,
    EarthSymbolOrPinMetalReachable,
    EarthPinNoMetalReachable,
    MarkOnComponentOrContradiction,
    NoneLegible,
}

/// <param name="Class">The class that follows.</param>
/// <param name="Seen">The evidence in words, for the registration form and the record.</param>
/// <param name="Remark">What the tester should bear in mind; empty where there is nothing to add.</param>
public sealed record ClassDecision(ClassEvidence Evidence, ProtectionClass Class, string Seen, string Remark);

/// <summary>Decides the protection class from evidence. A metal case proves nothing; a mark on a component proves nothing about the
/// whole.</summary>
public static class ClassDecisions
{
    public static IReadOnlyList<ClassDecision> All { get; } =
    [
        new(
            ClassEvidence.EarthSymbolOrPinMetalReachable,
            ProtectionClass.I,
            "Earth symbol, or three-core flex with earth pin; metal within reach",
            ""
        ),
        new(
            ClassEvidence.EarthPinNoMetalReachable,
            ProtectionClass.INoAccessibleMetal,
            "Three-core flex with earth pin; no metal within reach",
            "Insulation to the earth pin only; there is no earth point to clip."
        ),
        new(
            ClassEvidence.SquareWithinSquare,
            ProtectionClass.II,
            "Square within a square",
            "Class II even when the case is metal: probe the metal."
        ),
        new(
            ClassEvidence.SquareWithinSquareFunctionalEarth,
            ProtectionClass.IIFunctionalEarth,
            "Square within a square, and an earth for a screen or filter only",
            "The earth does not protect; nothing is judged against an earth limit."
        ),
        new(
            ClassEvidence.RomanThreeInDiamond,
            ProtectionClass.III,
            "Roman III in a diamond, fed by a safety transformer",
            "Its supply unit is an item of its own."
        ),
        new(
            ClassEvidence.MarkOnComponentOrContradiction,
            ProtectionClass.Undecided,
            "The mark sits on a component, or plate and build contradict each other",
            "Ask whether the case is bonded to the earth pin; a bonded case is class I."
        ),
        new(
            ClassEvidence.NoneLegible,
            ProtectionClass.Undecided,
            "No mark legible: worn, greasy or missing",
            "Ask the maker's papers; until then it is tested as I and as II and the stricter limit is kept."
        ),
    ];

    public static ClassDecision From(ClassEvidence evidence) => All.First(decision => decision.Evidence == evidence);
}
