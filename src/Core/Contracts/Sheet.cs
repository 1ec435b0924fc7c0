using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;
using Osierwand.Core.Cords;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Contracts;

/// <summary>One line of a spreadsheet by column name; empty cells may be left out.</summary>
/// <param name="Line">As the spreadsheet numbers it, the header being line 1.</param>
public sealed record SheetLine(int Line, IReadOnlyDictionary<string, string> Cells);

/// <summary>What became of one item of the sheet.</summary>
/// <param name="Line">Its first line.</param>
/// <param name="Verdict">Null when the line was not understood; then <paramref name="Fault"/> says why.</param>
/// <param name="Reasons">Failed and undecided readings with their working, and what is asked and was not read.</param>
public sealed record SheetAnswer(int Line, string Tag, Verdict? Verdict, string Reasons, string Advice, string Missing, Fault? Fault);

/// <summary>
/// Re-judges a spreadsheet of readings: one line an item, a following line with the same tag adds readings to it (more earth points, more
/// outlets).
/// Readings are written as at the bench: "0.08", "&gt;500", "0.31mA"; a bare number is in the column's unit.
/// </summary>
public static class Sheet
{
    private enum Cell
    {
        Tag,
        Text,
        Number,
        Flag,
        Good,
        Reading,
    }

    /// <param name="Path">Where the cell goes in a request to assess; for readings, the property of the reading.</param>
    private sealed record Column(string Name, string What, Cell Cell, string Path = "", Test? Test = null, Unit? Unit = null);

    private static readonly Column[] All =
    [
        new("tag", "identity; lines with the same tag in a row are one item", Cell.Tag),
        new("standard", "pack id, as uk-cop-5", Cell.Text, "standard"),
        new("scope", "combined, formalVisual, newItem, afterRepair, faultFinding", Cell.Text, "scope"),
        new("kind", "appliance, cordSet, extensionLead, multiwayAdapter, portableRcd, medicalDevice", Cell.Text, "item.kind"),
        new("class", "I, II, III, I-noAccessibleMetal, II-functionalEarth, undecided", Cell.Text, "item.class"),
        new("use", "handheld, portable, movable, stationary, it, fixed", Cell.Text, "item.use"),
        new("heating", "yes or no", Cell.Flag, "item.heating"),
        new("surgeProtected", "yes or no", Cell.Flag, "item.surgeProtected"),
        new("allInsulated", "yes or no", Cell.Flag, "item.allInsulated"),
        new("ratedPowerW", "from the plate", Cell.Number, "item.ratedPowerW"),
        new("ratedVoltageV", "from the plate", Cell.Number, "item.ratedVoltageV"),
        new("plugFuseA", "fuse in the plug", Cell.Number, "item.plugFuseA"),
        new("flexLengthM", "length of the flex or lead", Cell.Number, "item.cord.lengthM"),
        new("flexMm2", "size of its conductors", Cell.Number, "item.cord.conductorMm2"),
        new("outlets", "of a lead or adaptor", Cell.Number, "item.outlets"),
        new("rcdMa", "rated residual current", Cell.Number, "item.rcd.ratedResidualMa"),
        new("visual", "pass, fail or notDone", Cell.Text, "visual"),
        new("earth", "earth continuity in ohm", Cell.Reading, "", Test.EarthContinuity, Unit.Ohm),
        new("earthNull", "null of the test lead in ohm", Cell.Number, "nullOhm", Test.EarthContinuity),
        new("earthTestA", "current that it was read with, in ampere", Cell.Number, "testCurrentA", Test.EarthContinuity),
        new("earthPoint", "where the probe sat", Cell.Text, "point", Test.EarthContinuity),
        new("insulation", "in megohm", Cell.Reading, "", Test.Insulation, Unit.Megohm),
        new("insulationV", "test voltage", Cell.Number, "testVoltageV", Test.Insulation),
        new("leakage", "in milliampere", Cell.Reading, "", Test.Leakage, Unit.Milliampere),
        new("leakageKind", "protectiveConductor (default), touch, equipment", Cell.Text, "kind", Test.Leakage),
        new("leakageMethod", "direct (default), differential, alternative", Cell.Text, "method", Test.Leakage),
        new("mainsV", "mains voltage while the leakage was read", Cell.Number, "mainsVoltageV", Test.Leakage),
        new("polarity", "good or bad", Cell.Good, "", Test.Polarity),
        new("functional", "good or bad", Cell.Good, "", Test.Functional),
    ];

    /// <summary>Names of the columns and what stands in them, in the order of the documented header. None but tag, standard and kind must
    /// be there.</summary>
    public static IReadOnlyList<(string Name, string What)> Columns { get; } = [.. All.Select(column => (column.Name, column.What))];

    private static readonly string[] MustBeThere = ["tag", "standard", "kind"];

    /// <returns>The first column nobody knows, or one that must be there and is not; null when the header will do.</returns>
    public static Fault? Header(IReadOnlyCollection<string> names)
    {
        if (names.FirstOrDefault(name => All.All(column => column.Name != name)) is { } unknown)
            return new Fault($"column “{unknown}”", $"is not known; known are {string.Join(", ", All.Select(column => column.Name))}");
        if (names.GroupBy(name => name).FirstOrDefault(group => group.Count() > 1) is { } twice)
            return new Fault($"column “{twice.Key}”", "stands twice");
        return MustBeThere.FirstOrDefault(name => !names.Contains(name)) is { } missing
            ? new Fault($"column “{missing}”", "is missing")
            : null;
    }

    /// <summary>Judges the lines, an item at a time, as they come.</summary>
    public static IEnumerable<SheetAnswer> Judge(IEnumerable<SheetLine> lines)
    {
        var item = new List<SheetLine>();
        foreach (var line in lines)
        {
            // Two lines without a tag are two items that nobody can tell apart, and no item of two lines.
            if (item.Count > 0 && (Tag(line) != Tag(item[0]) || Tag(line).Length == 0))
            {
                yield return JudgeItem(item);
                item.Clear();
            }
            item.Add(line);
        }
        if (item.Count > 0)
            yield return JudgeItem(item);
    }

    private static string Tag(SheetLine line) => line.Cells.GetValueOrDefault("tag", "").Trim();

    private static SheetAnswer JudgeItem(List<SheetLine> lines)
    {
        try
        {
            if (Tag(lines[0]).Length == 0)
                throw new FaultException($"line {lines[0].Line}, column “tag”", "is empty");
            var request = new JsonObject();
            var readings = new JsonArray();
            foreach (var line in lines)
                Add(line, request, readings);
            request["readings"] = readings;
            using var document = JsonDocument.Parse(request.ToJsonString());
            var facts = RequestReader.Assess(document.RootElement);
            RequestReader.Refuse(facts.Pack, facts.Item, facts.Scope, facts.Policy);
            var it = Assessment.Of(facts);
            return new(
                lines[0].Line,
                Tag(lines[0]),
                it.Verdict,
                string.Join(
                    "; ",
                    it.Results.Where(result => result.Status is Status.Fail or Status.Undecided)
                        .Select(result => $"{result.Reading.Name}: {result.Working[^1]}")
                        .Concat(NotRead.Of(facts, it).Select(step => $"Not read: {step.Detail}"))
                ),
                string.Join(" ", [.. it.Advice, .. NotEntered(facts, it)]),
                string.Join("; ", it.Missing.Select(step => step.Detail)),
                null
            );
        }
        catch (FaultException fault)
        {
            return new(lines[0].Line, Tag(lines[0]), null, "", "", "", Located(fault.Fault, lines[0].Line));
        }
    }

    /// <summary>A spreadsheet tells what its columns left out; a bare request is judged by what it gives.</summary>
    private static string[] NotEntered(InspectionFacts facts, Assessment assessment) =>
        assessment.Verdict == Verdict.Pass
        && ScopeOf.IncludesMeasuring(facts.Scope, facts.Policy, facts.Item, facts.Pack)
        && FuseAndFlex.NotEntered(facts.Item, facts.Pack) is { } missing
            ? [missing]
            : [];

    /// <summary>By line and column, as whoever has the sheet before them looks for it.</summary>
    private static Fault Located(Fault fault, int line) =>
        fault.Path.StartsWith("line ", StringComparison.Ordinal) ? fault
        : All.FirstOrDefault(column => column.Path == fault.Path) is { } column
            ? fault with
            {
                Path = $"line {line}, column “{column.Name}”",
            }
        : fault with { Path = $"line {line}, {fault.Path}" };

    private static void Add(SheetLine line, JsonObject request, JsonArray readings)
    {
        var made = new Dictionary<Test, JsonObject>();
        foreach (var column in All)
        {
            if (!line.Cells.TryGetValue(column.Name, out var cell) || string.IsNullOrWhiteSpace(cell))
                continue;
            try
            {
                Add(column, cell.Trim(), request, made);
            }
            catch (FaultException fault)
            {
                throw fault.Under($"line {line.Line}, column “{column.Name}”");
            }
        }
        foreach (var (test, reading) in made)
        {
            // A null, a point or a voltage without its reading says nothing.
            if (!reading.ContainsKey("value") && !reading.ContainsKey("ok"))
                continue;
            if (test == Test.Leakage && !reading.ContainsKey("kind"))
                reading["kind"] = Words.Of(LeakageKind.ProtectiveConductor);
            readings.Add(reading);
        }
    }

    private static void Add(Column column, string cell, JsonObject request, Dictionary<Test, JsonObject> made)
    {
        switch (column.Cell)
        {
            case Cell.Tag:
                return;
            case Cell.Reading:
                var value = ReadingEntry.Parse(cell, column.Unit!);
                if (value.Fault is { } fault)
                    throw new FaultException("", fault.Message);
                var reading = Of(column.Test!.Value, made);
                reading["value"] = value.Value.Number;
                reading["unit"] = value.Value.Unit.Symbol;
                if (value.Value.IsBound)
                    reading["qualifier"] = value.Value.Qualifier == Qualifier.Above ? ">" : "<";
                return;
            case Cell.Good:
                Of(column.Test!.Value, made)["ok"] = IsYes(cell, "good", "bad");
                return;
            default:
                JsonNode node = column.Cell switch
                {
                    Cell.Number => NumberOf(cell),
                    Cell.Flag => IsYes(cell, "yes", "no"),
                    _ => cell,
                };
                if (column.Test is { } test)
                    Of(test, made)[column.Path] = node;
                else
                    Place(request, column.Path, node);
                return;
        }
    }

    private static JsonObject Of(Test test, Dictionary<Test, JsonObject> made)
    {
        if (!made.TryGetValue(test, out var reading))
            made[test] = reading = new JsonObject { ["test"] = Words.Of(test) };
        return reading;
    }

    private static void Place(JsonObject at, string path, JsonNode value)
    {
        var parts = path.Split('.');
        foreach (var part in parts[..^1])
            at = (JsonObject)(at[part] ??= new JsonObject());
        at[parts[^1]] = value;
    }

    private static double NumberOf(string cell) =>
        ReadingEntry.Ambiguity(cell) is { } twoWays ? throw new FaultException("", twoWays)
        : double.TryParse(cell.Replace(',', '.'), NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
        && double.IsFinite(number)
            ? number
        : throw new FaultException("", $"“{cell}” is not a number");

    private static bool IsYes(string cell, string yes, string no) =>
        cell.Equals(yes, StringComparison.OrdinalIgnoreCase)
        || (
            !cell.Equals(no, StringComparison.OrdinalIgnoreCase)
                ? throw new FaultException("", $"“{cell}” is neither {yes} nor {no}")
                : false
        );
}
