using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Cords;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Intervals;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Contracts;

internal static class AssessVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        var facts = RequestReader.Assess(request);
        RequestReader.Refuse(facts.Pack, facts.Item, facts.Scope, facts.Policy);
        var assessment = Assessment.Of(facts);
        return writer =>
        {
            AnswerJson.Write(assessment, writer);
            AnswerJson.Steps("notRead", NotRead.Of(facts, assessment), writer);
            if (EvaluationProposal.Of(facts, assessment) is not { } proposal)
                return;
            writer.WriteStartObject("evaluation");
            writer.WriteString("proposal", Words.Of(proposal.Evaluation));
            AnswerJson.Lines("because", proposal.Because, writer);
            writer.WriteEndObject();
        };
    }
}

internal static class PlanVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        var plan = RequestReader.Plan(request);
        return writer => AnswerJson.Write(plan, writer);
    }
}

internal static class IntervalVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        var interval = IntervalRule.Of(RequestReader.Interval(request));
        return writer => AnswerJson.Write(interval, writer);
    }
}

/// <summary>Either "say", the words of a display, or a request as for assess with "session" beside it.</summary>
internal static class DiagnoseVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        if (request.ValueKind == JsonValueKind.Object && request.TryGetProperty("say", out _))
            return Search(request);
        var session = SessionFacts.Nothing;
        var facts = RequestReader.Assess(
            request,
            (name, value) =>
            {
                if (name != "session")
                    return false;
                session = Session(value);
                return true;
            }
        );
        var tellings = Diagnose.Of(facts, Assessment.Of(facts), session);
        return writer => Write(tellings, writer);
    }

    /// <summary>What a display says fits in far less.</summary>
    private const int MostWords = 1000;

    private static Action<Utf8JsonWriter> Search(JsonElement request)
    {
        var say = "";
        Properties(
            request,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        break;
                    case "say":
                        say = NonEmptyText(value) is { Length: <= MostWords } words
                            ? words
                            : throw new FaultException("", $"is longer than {MostWords} characters");
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        ImmutableArray<Telling> found = [.. Signature.Search(say).Select(it => new Telling(it, []))];
        return writer => Write(found, writer);
    }

    private static SessionFacts Session(JsonElement element)
    {
        var it = SessionFacts.Nothing;
        Properties(
            element,
            (name, value) =>
                it = name switch
                {
                    "buildingRcdTripped" => it with { BuildingRcdTripped = Boolean(value) },
                    "earthOffsetsOhm" => it with { EarthOffsets = List(value, Number) },
                    _ => throw Unknown(name),
                }
        );
        return it;
    }

    private static void Write(ImmutableArray<Telling> tellings, Utf8JsonWriter writer)
    {
        writer.WriteStartArray("findings");
        foreach (var it in tellings)
        {
            writer.WriteStartObject();
            writer.WriteString("signature", it.Signature.Id);
            writer.WriteString("seen", it.Signature.Seen);
            writer.WriteStartArray("readings");
            foreach (var at in it.Readings)
                writer.WriteNumberValue(at);
            writer.WriteEndArray();
            AnswerJson.Lines("causes", it.Signature.Causes, writer);
            writer.WriteString("next", it.Signature.Next);
            writer.WriteEndObject();
        }
        writer.WriteEndArray();
    }
}

internal static class ClassVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        var seen = new ClassFacts();
        Properties(
            request,
            (name, value) =>
            {
                if (name == "id")
                    Text(value);
                else
                    seen = Fact(seen, name, value);
            }
        );
        var finding = ClassHelper.Of(seen);
        return writer =>
        {
            writer.WriteString("class", Words.Of(finding.Class));
            writer.WriteString("evidence", Words.Of(finding.Evidence));
            AnswerJson.Lines("because", finding.Because, writer);
            writer.WriteString("ask", finding.Ask);
            writer.WriteString("testAs", finding.TestAs);
        };
    }

    private static ClassFacts Fact(ClassFacts seen, string name, JsonElement value) =>
        name switch
        {
            "mark" => seen with { Mark = Word<ClassMark>(value) },
            "markOn" => seen with { MarkOn = Word<MarkPlace>(value) },
            "cores" => seen with { Cores = Number(value) is 2 or 3 ? (int)Number(value) : throw new FaultException("", "must be 2 or 3") },
            "earthPin" => seen with { EarthPin = Boolean(value) },
            "metalReachable" => seen with { MetalReachable = Boolean(value) },
            "bonded" => seen with { Bonded = Boolean(value) },
            "functionalEarth" => seen with { FunctionalEarth = Boolean(value) },
            "extraLowVoltage" => seen with { ExtraLowVoltage = Boolean(value) },
            _ => throw Unknown(name),
        };
}

internal static class EvidenceVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        var (inspections, failures, months) = (default(int?), default(int?), default(double?));
        Properties(
            request,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        break;
                    case "inspections":
                        inspections = Count(value, 0);
                        break;
                    case "failures":
                        failures = Count(value, 0);
                        break;
                    case "intervalMonths":
                        months = Positive(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var group = GroupHistory.Of(
            inspections ?? throw Missing("inspections"),
            failures ?? throw Missing("failures"),
            months ?? throw Missing("intervalMonths")
        );
        if (group.Fault is { } fault)
            throw new FaultException(fault.Path, fault.Message);
        var evidence = GroupEvidence.Of(group.Value, Thresholds.Shipped);
        return writer =>
        {
            writer.WriteNumber("low", evidence.Low);
            writer.WriteNumber("median", evidence.Median);
            writer.WriteNumber("high", evidence.High);
            writer.WriteString("suggestion", Words.Of(evidence.Suggestion));
            writer.WriteNumber("months", evidence.Interval.Months);
            AnswerJson.Number("cleanNeeded", evidence.CleanNeeded, writer);
            AnswerJson.Lines("because", evidence.Because, writer);
        };
    }
}

/// <summary>Fuse against plate and flex, conductor resistance and voltage drop, without any reading.</summary>
internal static class CordVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        var (pack, item) = (default(RulePack), default(Item));
        Properties(
            request,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        break;
                    case "standard":
                        pack = RequestReader.Pack(value);
                        break;
                    case "item":
                        item = ItemReader.Read(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var (its, under) = (item ?? throw Missing("item"), pack ?? throw Missing("standard"));
        return writer =>
        {
            var facts = FuseAndFlex.Facts(its, under);
            var drop = FuseAndFlex.VoltageDrop(its, under);
            AnswerJson.Number("loadA", facts.Load?.Value, writer);
            AnswerJson.Number("fuseA", facts.Fuse?.Value, writer);
            AnswerJson.Number("flexCarriesA", facts.Carries?.Value, writer);
            AnswerJson.Number("recommendedFuseA", facts.Recommended?.Value, writer);
            AnswerJson.Number("conductorOhm", ConductorResistance.Of(its.Cord, under)?.Value.Value, writer);
            AnswerJson.Number("voltageDropV", drop?.Drop.Value, writer);
            AnswerJson.Number("voltageDropShare", drop?.Share, writer);
            AnswerJson.Number("earthLimitOhm", under.LimitFor(its, new Conditions.EarthContinuity())?.Value?.Si, writer);
            writer.WriteStartArray("findings");
            foreach (var finding in FuseAndFlex.Check(its, under))
            {
                writer.WriteStartObject();
                writer.WriteBoolean("fault", finding.IsFault);
                writer.WriteString("text", finding.Text);
                writer.WriteEndObject();
            }
            writer.WriteEndArray();
        };
    }
}
