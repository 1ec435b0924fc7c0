using System.Collections.Immutable;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;

namespace Osierwand.Core.Papers;

/// <summary>An inspector's question about one item, answered on one sheet: when was it last checked, how does it stand, when is it
/// due.</summary>
/// <param name="Warning">Said loudly before anything else: it is out of use, its date is over, it was never inspected; null where there is
/// nothing of the kind.</param>
/// <param name="Outcome">Of the last check; null where there was none.</param>
public sealed record ItemAnswer(
    string Tag,
    string Name,
    string Client,
    string Where,
    DateOnly On,
    string Condition,
    string? Warning,
    Outcome? Outcome,
    ImmutableArray<PaperFact> Item,
    ImmutableArray<PaperFact> LastCheck,
    string? Next,
    string Origin
)
{
    /// <param name="last">The last inspection that stands; null where there is none.</param>
    /// <param name="number">Of that record in its book, with its hash.</param>
    /// <param name="heldWhy">What it is out of use for; null while it is in service.</param>
    public static ItemAnswer Of(RegisteredItem item, string client, DateOnly on, InspectionRecord? last, string? number, string? heldWhy)
    {
        var line = RegisterPaper.LineOf(item, on);
        return new(
            item.Tag,
            item.Name,
            client,
            $"{item.Site}, {item.Room}",
            on,
            line.Standing,
            line.IsOut ? $"It is out of use{(heldWhy is { Length: > 0 } why ? $": {why}" : "")}. Nobody may use it."
                : last is null ? "It was never inspected. Nothing here says that it is safe."
                : line.IsOver ? $"Its date is over: {line.Next}."
                : null,
            last?.Outcome,
            [
                .. new PaperFact?[]
                {
                    item.What.Length > 0 ? new("Made by", item.What) : null,
                    new("Class", item.ClassText),
                }.OfType<PaperFact>(),
            ],
            last is null ? [] : Facts(last),
            line.Next,
            number is null ? "no record" : number
        );
    }

    private static ImmutableArray<PaperFact> Facts(InspectionRecord it) =>
        [
            new("When", PaperWriter.Day(it.Times.Date)),
            new("What was done", it.KindOfInspection),
            new("Verdict", it.OutcomeText),
            .. it.Reasons.Take(MostReasons).Select(reason => new PaperFact("Why", reason)),
            new("Judged by", it.Rules.Standard),
            new(it.IsTest ? "Tested by" : "Inspected by", it.Technician.Name),
        ];

    private const int MostReasons = 3;
}
