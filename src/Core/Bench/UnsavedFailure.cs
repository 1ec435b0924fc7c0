using System.Text.Json.Serialization;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;

namespace Osierwand.Core.Bench;

/// <summary>
/// What an instrument of the server measured of an item and failed, while no saved record holds it and no lead has explained it: on
/// whatever bench the item is opened next, the failure stands there.
/// </summary>
/// <param name="Id">Of the event: a reading, or an earth that was found.</param>
/// <param name="Class">Of the item when it was measured.</param>
/// <param name="Name">What it was a reading of.</param>
/// <param name="Value">As it was shown.</param>
/// <param name="By">Who measured it.</param>
/// <param name="Day">At the site.</param>
public sealed record UnsavedFailure(
    Guid Id,
    string Step,
    string? Point,
    ProtectionClass Class,
    string Name,
    string Value,
    string By,
    DateOnly Day
)
{
    /// <param name="state">With the event in it.</param>
    /// <returns>Null where it did not fail.</returns>
    public static UnsavedFailure? Of(BenchState state, BenchEvent e)
    {
        var (item, by, day) = (state.Ruling.Item.Equipment, state.Ruling.Technician.Name, state.Ruling.Today);
        return e switch
        {
            EarthFound earth when state.EarthsFound.Contains(earth) => new(
                earth.Id,
                earth.Step,
                null,
                item.Class,
                "Path to earth",
                earth.Words,
                by,
                day
            ),
            ReadingTaken taken
                when state.Readings.FirstOrDefault(read => read.Event.Id == taken.Id)
                    is { Judgement: { Status: Status.Fail, Reading: var reading } } => new(
                taken.Id,
                taken.Step,
                taken.Point,
                item.Class,
                reading.Name,
                SetAside.ValueOf(reading),
                by,
                day
            ),
            _ => null,
        };
    }

    /// <summary>What a record answers for. A look and findings are no answer; but of an item that is out of use the failure is why it
    /// is.</summary>
    /// <param name="isTest">Something was measured.</param>
    public static Guid[] SettledBy(Ruling ruling, Outcome outcome, bool isTest) =>
        outcome == Outcome.Fail
        || (outcome is Outcome.Pass or Outcome.PassWithAdvice && isTest)
        || (outcome == Outcome.Findings && Scopes.IsHeld(ruling.Item.State))
            ? [.. ruling.UnsavedFailures.Select(failure => failure.Id)]
            : [];

    /// <summary>Half a sentence.</summary>
    [JsonIgnore]
    public string Text => $"{Name}: {Value} failed on {Day:yyyy-MM-dd} ({By}, with the instrument) and was not saved";

    internal bool IsAt(TakenReading read) => read.StepKey == Step && read.Event.Point == Point;
}
