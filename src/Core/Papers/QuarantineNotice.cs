using System.Collections.Immutable;
using Osierwand.Core.Quarantine;

namespace Osierwand.Core.Papers;

/// <summary>The item that a notice hangs on, as the register has it.</summary>
public sealed record NoticedItem(string Tag, string Name, string? Maker, string? Model, string? Serial, string Client, string Where);

/// <summary>What hangs on an item out of use, or goes back to the client with it.</summary>
/// <param name="Warning">As it was given with a return, else the usual one.</param>
/// <param name="IsLoose">Nobody has said yet that it cannot be plugged in.</param>
/// <param name="Number">Of the record that failed it, or how it came out of use.</param>
public sealed record QuarantineNotice(
    NoticedItem Item,
    DateOnly Since,
    string StageText,
    string Why,
    string Warning,
    bool IsLoose,
    ImmutableArray<PaperFact> Facts,
    ImmutableArray<string> Done,
    string Number,
    DateOnly MadeOn
)
{
    /// <param name="record">Of the record that failed it: "record 392, 00ff"; null where none did.</param>
    /// <param name="zone">Of the site: dates on paper are local to it.</param>
    public static QuarantineNotice Of(NoticedItem item, Hold hold, string? record, TimeZoneInfo zone, DateTimeOffset now)
    {
        DateOnly DayOf(DateTimeOffset at) => DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, zone).DateTime);
        var plate = new (string Label, string? Text)[]
        {
            ("Found by", hold.Cause.By),
            ("Made by", item.Maker is null && item.Model is null ? null : $"{item.Maker} {item.Model}".Trim()),
            ("Serial", item.Serial),
        };
        return new(
            item,
            DayOf(hold.Cause.Since),
            QuarantineText.Of(hold.Stage),
            hold.Cause.Words,
            hold.Acts.Select(done => done.Act).OfType<ReturnedUntested>().LastOrDefault()?.Warning
                ?? QuarantineText.UsualWarning(hold.Cause.Kind),
            hold.Stage == Stage.NotSafe,
            [.. plate.Where(fact => !string.IsNullOrEmpty(fact.Text)).Select(fact => new PaperFact(fact.Label, fact.Text!))],
            [.. hold.Acts.Select(done => $"{PaperWriter.Day(DayOf(done.At))}, {done.By}: {QuarantineText.Of(done.Act)}")],
            record ?? QuarantineText.Of(hold.Cause.Kind),
            DayOf(now)
        );
    }
}
