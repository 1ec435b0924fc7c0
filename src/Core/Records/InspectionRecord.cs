using System.Collections.Immutable;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Osierwand.Core.Contracts;
using Osierwand.Core.Cords;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Records;

/// <summary>How an inspection ended.</summary>
public enum Outcome
{
    Pass,
    PassWithAdvice,
    Fail,
    NotTested,

    /// <summary>Fault-finding: what was found, and never a pass. The item stays where and as due as it was.</summary>
    Findings,
}

/// <summary>Why an item was not tested. It stays due and appears on the client's paper.</summary>
public enum NotTestedReason
{
    NotFound,
    NotReachable,
    InUse,
    ClientRefused,
    NoCompetence,
    BuiltIn,
    HardWiredOutOfScope,
    UnsafeToPower,
}

/// <summary>Where a reading came from.</summary>
public enum ReadingSource
{
    Instrument,
    Typed,
}

/// <summary>A judged reading with where and when it was taken.</summary>
public sealed record RecordedReading(Judgement Judgement, ReadingSource Source, DateTimeOffset At);

/// <summary>The evaluation of medical equipment.</summary>
/// <param name="Confirmed">By the technician; null where nobody did.</param>
public sealed record Evaluated(EvaluationProposal Proposal, Evaluation? Confirmed);

/// <summary>Everything that is kept of one inspection. Written once; it must explain itself in five years without the program.</summary>
public sealed record InspectionRecord
{
    public required Guid Id { get; init; }
    public required string Tag { get; init; }
    public required string ItemName { get; init; }
    public required InspectionFacts Facts { get; init; }
    public required Assessment Assessment { get; init; }
    public required Outcome Outcome { get; init; }
    public required ImmutableArray<LookFinding> Look { get; init; }
    public required ImmutableArray<RecordedReading> Readings { get; init; }
    public required DateTimeOffset TestedAt { get; init; }
    public required string Technician { get; init; }
    public required string Round { get; init; }

    /// <summary>Instrument, its serial number and calibration; null where nothing was measured.</summary>
    public string? Instrument { get; init; }
    public NotTestedReason? NotTested { get; init; }
    public string? Remarks { get; init; }

    /// <summary>Medical equipment only: what was proposed and what a person confirmed.</summary>
    public Evaluated? Evaluated { get; init; }

    /// <summary>Null when nothing moved the dates: an item that was not tested stays due.</summary>
    public Interval? Next { get; init; }

    /// <summary>A look is never called a test.</summary>
    public static string ScopeName(Scope scope, bool measured) => scope switch
    {
        Scope.FormalVisual => "formal visual",
        Scope.NewItem when !measured => "formal visual of a new item",
        Scope.AfterRepair => "inspection and test after repair",
        Scope.FaultFinding => "fault-finding",
        _ => measured ? "inspection and test" : "formal visual",
    };

    /// <summary>Pass, with advice where any stands; fail as judged. An incomplete inspection has no outcome, but fault-finding that looked at anything has findings.</summary>
    public static Outcome? OutcomeOf(Assessment assessment, Scope scope, Look look) => assessment.Verdict switch
    {
        Verdict.Pass => assessment.Advice.IsEmpty ? Records.Outcome.Pass : Records.Outcome.PassWithAdvice,
        Verdict.Fail => Records.Outcome.Fail,
        _ when scope == Scope.FaultFinding && (look != Judging.Look.NotDone || !assessment.Results.IsEmpty) => Records.Outcome.Findings,
        _ => null,
    };

    /// <summary>The record as JSON, stable to the letter: the chain's hash runs over exactly these characters.</summary>
    public string ToJson()
    {
        using var buffer = new MemoryStream(4096);
        using (var writer = new Utf8JsonWriter(buffer, new JsonWriterOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping })) Write(writer);
        return Encoding.UTF8.GetString(buffer.GetBuffer(), 0, (int)buffer.Length);
    }

    private void Write(Utf8JsonWriter writer)
    {
        var (facts, pack) = (Facts, Facts.Pack);
        var measured = ScopeOf.IncludesMeasuring(facts.Scope, facts.Policy, facts.Item, pack);
        writer.WriteStartObject();
        writer.WriteString("format", "osierwand-inspection/1");
        writer.WriteString("id", Id);
        writer.WriteString("tag", Tag);
        writer.WriteString("name", ItemName);
        writer.WriteString("testedAt", TestedAt);
        writer.WriteString("technician", Technician);
        writer.WriteString("round", Round);
        writer.WriteStartObject("standard");
        writer.WriteString("id", pack.Id);
        writer.WriteString("version", pack.FullVersion);
        writer.WriteString("name", pack.FullName);
        writer.WriteEndObject();
        writer.WriteString("scope", Words.Of(facts.Scope));
        writer.WriteString("kindOfInspection", ScopeName(facts.Scope, measured));
        writer.WriteString("decisionRule", Words.Of(facts.DecisionRule));
        writer.WriteStartObject("policy");
        writer.WriteString("classII", Words.Of(facts.Policy.ClassII));
        writer.WriteString("newItem", Words.Of(facts.Policy.NewItem));
        writer.WriteEndObject();
        writer.WriteString("instrument", Instrument);
        writer.WritePropertyName("item");
        ItemJson.Write(facts.Item, writer);
        writer.WriteStartObject("look");
        writer.WriteString("outcome", Words.Of(facts.Look));
        writer.WriteStartArray("points");
        foreach (var finding in Look)
        {
            writer.WriteStartObject();
            writer.WriteString("point", finding.PointId);
            writer.WriteString("answer", Words.Of(finding.Answer));
            if (finding.Words is { } words) writer.WriteString("words", words);
            writer.WriteEndObject();
        }
        writer.WriteEndArray();
        writer.WriteString("fuse", FuseAndFlex.Facts(facts.Item, pack).Summary(facts.Item));
        writer.WriteEndObject();
        writer.WriteStartArray("readings");
        foreach (var reading in Readings) Write(reading, writer);
        writer.WriteEndArray();
        writer.WriteString("outcome", Words.Of(Outcome));
        if (NotTested is { } reason) writer.WriteString("notTested", Words.Of(reason));
        Lines("advice", Assessment.Advice, writer);
        if (Remarks is { } remarks) writer.WriteString("remarks", remarks);
        if (Evaluated is { } evaluated)
        {
            writer.WriteStartObject("evaluation");
            writer.WriteString("proposed", Words.Of(evaluated.Proposal.Evaluation));
            writer.WriteString("confirmed", evaluated.Confirmed is { } confirmed ? Words.Of(confirmed) : null);
            Lines("because", evaluated.Proposal.Because, writer);
            writer.WriteEndObject();
        }
        if (Next is { } next)
        {
            writer.WriteStartObject("next");
            writer.WriteString("due", next.Due.ToString("yyyy-MM-dd"));
            writer.WriteString("visualDue", next.VisualDue.ToString("yyyy-MM-dd"));
            writer.WriteString("decidedBy", Words.Of(next.DecidedBy));
            Lines("because", next.Because, writer);
            writer.WriteEndObject();
        }
        writer.WriteEndObject();
    }

    private static void Write(RecordedReading it, Utf8JsonWriter writer)
    {
        var judged = it.Judgement;
        writer.WriteStartObject();
        writer.WritePropertyName("taken");
        ReadingJson.Write(judged.Reading, writer);
        writer.WriteString("key", StepKey.Of(judged.Reading.Test, judged.Reading.Under));
        writer.WriteString("source", Words.Of(it.Source));
        writer.WriteString("at", it.At);
        writer.WritePropertyName("judged");
        AnswerJson.Write(judged, writer);
        writer.WriteEndObject();
    }

    private static void Lines(string name, IEnumerable<string> lines, Utf8JsonWriter writer)
    {
        writer.WriteStartArray(name);
        foreach (var line in lines) writer.WriteStringValue(line);
        writer.WriteEndArray();
    }

    /// <summary>The readings alone with the item they were taken of: what the trend looks back on, a tenth of the record's size.</summary>
    public string TakenJson()
    {
        using var buffer = new MemoryStream(1024);
        using (var writer = new Utf8JsonWriter(buffer, new JsonWriterOptions { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping }))
        {
            writer.WriteStartObject();
            writer.WriteString("testedAt", TestedAt);
            writer.WriteString("scope", Words.Of(Facts.Scope));
            writer.WritePropertyName("item");
            ItemJson.Write(Facts.Item, writer);
            writer.WriteStartArray("readings");
            foreach (var reading in Readings) ReadingJson.Write(reading.Judgement.Reading, writer);
            writer.WriteEndArray();
            writer.WriteEndObject();
        }
        return Encoding.UTF8.GetString(buffer.GetBuffer(), 0, (int)buffer.Length);
    }

    /// <summary>What <see cref="TakenJson"/> wrote. What this version cannot read gives a fault, never a guess.</summary>
    public static Result<PastInspection> ReadTaken(string json)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            var root = document.RootElement;
            var item = ItemReader.Read(root.GetProperty("item"));
            var readings = JsonWalk.List(root.GetProperty("readings"), entry => ReadingReader.Read(entry, item));
            var date = DateOnly.FromDateTime(root.GetProperty("testedAt").GetDateTimeOffset().UtcDateTime);
            return new PastInspection(date, root.GetProperty("scope").GetString() == Words.Of(Scope.AfterRepair), readings);
        }
        catch (FaultException fault)
        {
            return fault.Fault;
        }
        catch (Exception broken) when (broken is JsonException or KeyNotFoundException or FormatException)
        {
            return new Fault("", $"is not what an inspection took: {broken.Message}");
        }
    }
}
