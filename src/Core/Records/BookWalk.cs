using System.Globalization;
using System.Text.Json;

namespace Osierwand.Core.Records;

/// <summary>One record as it is kept in a book, with all that its hash covers.</summary>
/// <param name="Form">1 or 2: <see cref="RecordChain.Form"/>.</param>
/// <param name="StandsAfter">Empty in form 1.</param>
public sealed record KeptRecord(
    long Number,
    short Form,
    RecordColumns Columns,
    ReadOnlyMemory<byte> Record,
    ReadOnlyMemory<byte> Taken,
    ReadOnlyMemory<byte> StoodBefore,
    ReadOnlyMemory<byte> StandsAfter,
    byte[] Hash
)
{
    /// <summary>The hash that this record must have when it follows the given one.</summary>
    public byte[] HashAfter(ReadOnlySpan<byte> before) =>
        Form == 1
            ? RecordChain.Next(before, Record.Span)
            : RecordChain.Next(before, Number, Columns, Record.Span, Taken.Span, StoodBefore.Span, StandsAfter.Span);
}

/// <summary>Walks through a book, or a stretch of it, record by record, and says where it first breaks.</summary>
/// <param name="number">Of the record before the first one; 0 at the start of a book.</param>
/// <param name="hash">Of that record.</param>
/// <param name="form">Of that record; 1 at the start of a book.</param>
public sealed class BookWalk(long number, byte[] hash, short form)
{
    public static BookWalk FromStart() => new(0, RecordChain.Start, 1);

    /// <summary>Of the last record that followed.</summary>
    public long Number { get; private set; } = number;
    public byte[] Hash { get; private set; } = hash;
    private short last = form;

    /// <returns>Null when the record follows the one before; else what is wrong, for a person.</returns>
    public string? Take(KeptRecord next)
    {
        if (next.Number != Number + 1)
            return next.Number > Number + 1
                ? $"record {Text(Number + 1)} is missing; the next one has number {Text(next.Number)}"
                : $"record {Text(next.Number)} stands where {Text(Number + 1)} belongs";
        if (next.Form is < 1 or > RecordChain.Form || next.Form < last)
            return $"record {Text(next.Number)} is in chain form {next.Form} after form {last}";
        if (!next.HashAfter(Hash).AsSpan().SequenceEqual(next.Hash))
            return $"record {Text(next.Number)} ({next.Columns.Id:D}) was altered, or the one before it was replaced";
        if (next.Form == 1 && Contradiction(next) is { } column)
            return $"record {Text(next.Number)} ({next.Columns.Id:D}): its {column} says otherwise than its text";
        (Number, Hash, last) = (next.Number, next.Hash, next.Form);
        return null;
    }

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);

    /// <summary>Form 1 covers the text alone: what was written beside it is held against the text.</summary>
    private static string? Contradiction(KeptRecord it)
    {
        using var record = JsonDocument.Parse(it.Record);
        var root = record.RootElement;
        bool Says(string name, bool value) => root.GetProperty(name).GetBoolean() == value;
        var columns = it.Columns;
        return root.GetProperty("id").GetGuid() != columns.Id ? "id"
            : !string.Equals(root.GetProperty("outcome").GetString(), columns.Outcome, StringComparison.OrdinalIgnoreCase) ? "outcome"
            : root.GetProperty("item").GetProperty("id").GetGuid() != columns.ItemId ? "item"
            : root.GetProperty("times").GetProperty("date").GetString() != columns.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                ? "date"
            : !Says("isTest", columns.IsTest) ? "kind"
            : !Says("nearLimit", columns.NearLimit) || !Says("rising", columns.Rising) ? "trend"
            // What takes a record back has no readings of its own beside it.
            : columns.Corrects is null && !SameJson(root.GetProperty("taken"), it.Taken) ? "readings"
            : null;
    }

    private static bool SameJson(JsonElement one, ReadOnlyMemory<byte> other)
    {
        using var document = JsonDocument.Parse(other);
        return JsonElement.DeepEquals(one, document.RootElement);
    }
}
