using Osierwand.Core.Planning;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>A condition of the supply, as all its cells have it.</summary>
/// <param name="Words">What is not as usual: "neutral open", "device off"; "as usual" where nothing is.</param>
public sealed record MatrixColumn(IReadOnlyList<string> Words, bool IsReversed, bool IsNeutralOpen, bool IsEarthOpen, bool IsOff);

/// <param name="Cells">Key of the step under each column; empty where the standard does not ask for it.</param>
public sealed record MatrixRow(string Name, string Detail, IReadOnlyList<string> Cells);

/// <summary>Every leakage that a sheet asks for, side by side: a row for what is measured and where, a column for a condition of the
/// supply.</summary>
public sealed record MatrixCard(IReadOnlyList<MatrixColumn> Columns, IReadOnlyList<MatrixRow> Rows)
{
    /// <summary>Fewer are read more easily one below the other.</summary>
    private const int FewestCells = 4;

    /// <returns>Null where there are but a few, or all under one condition.</returns>
    internal static MatrixCard? Of(RunSheet sheet, Dialect say)
    {
        var cells = sheet
            .Steps.OfType<SheetStep.Measure>()
            // What is borrowed may ask the same of the same part by another limit: it stands in a line of its own.
            .Where(step => step.Plan is { Under: Conditions.Leakage, BorrowedFrom: null })
            .Select(step => (step.Plan, Under: (Conditions.Leakage)step.Plan.Under))
            .ToArray();
        // The usual condition first, then one thing after the other that is opened, changed over or switched off.
        var conditions = cells
            .Select(cell => Condition(cell.Under))
            .Distinct()
            .OrderBy(it => it.Power)
            .ThenBy(it => it.Earth)
            .ThenBy(it => it.Neutral)
            .ThenBy(it => it.Polarity)
            .ToArray();
        if (cells.Length < FewestCells || conditions.Length < 2)
            return null;
        return new(
            [.. conditions.Select(it => Column(it, say))],
            [
                .. cells
                    .GroupBy(cell => StepKey.Of(Usual(cell.Under)))
                    .Select(row => new MatrixRow(
                        say.Say(StepNames.Of(row.First().Under)),
                        say.Say(Method(row.First().Under)),
                        [.. conditions.Select(it => row.FirstOrDefault(cell => Condition(cell.Under) == it).Plan?.Key ?? "")]
                    )),
            ]
        );
    }

    private static (PowerState Power, ConductorState Earth, ConductorState Neutral, MainsPolarity Polarity) Condition(
        Conditions.Leakage it
    ) => (it.Power, it.Earth, it.Neutral, it.Polarity);

    private static Conditions.Leakage Usual(Conditions.Leakage it) =>
        it with
        {
            Power = default,
            Earth = default,
            Neutral = default,
            Polarity = default,
        };

    private static MatrixColumn Column(
        (PowerState Power, ConductorState Earth, ConductorState Neutral, MainsPolarity Polarity) it,
        Dialect say
    )
    {
        var (isReversed, isNeutralOpen) = (it.Polarity == MainsPolarity.Reversed, it.Neutral == ConductorState.Open);
        var (isEarthOpen, isOff) = (it.Earth == ConductorState.Open, it.Power == PowerState.Off);
        string[] words =
        [
            .. isOff ? ["device off"] : (string[])[],
            .. isEarthOpen ? ["earth open"] : (string[])[],
            .. isNeutralOpen ? ["neutral open"] : (string[])[],
            .. isReversed ? ["polarity reversed"] : (string[])[],
        ];
        return new(say.Say(words.Length > 0 ? words : ["as usual"]), isReversed, isNeutralOpen, isEarthOpen, isOff);
    }

    private static string Method(Conditions.Leakage it) =>
        it.Method switch
        {
            LeakageMethod.Alternative => "alternative",
            LeakageMethod.Differential => "differential",
            _ => it.Current == CurrentType.Dc ? "d.c." : "",
        };
}
