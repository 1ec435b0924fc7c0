using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Forms;
using Osierwand.Core.Installation;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Contracts;

/// <summary>One installation check a request: "loop", "electrode", "thermal", "insulation" or "leakageSum", each an object of its
/// figures.</summary>
internal static class InstallationVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        Action<Utf8JsonWriter>? answer = null;
        Properties(
            request,
            (name, value) =>
            {
                if (name == "id")
                {
                    Text(value);
                    return;
                }
                if (answer is not null)
                    throw new FaultException("", "one check a request");
                answer = name switch
                {
                    "loop" => Loop(value),
                    "electrode" => Electrode(value),
                    "thermal" => Thermal(value),
                    "insulation" => Insulation(value),
                    "leakageSum" => Sum(value),
                    _ => throw Unknown(name),
                };
            }
        );
        return answer ?? throw Missing("loop", "is missing: one of loop | electrode | thermal | insulation | leakageSum");
    }

    private static Action<Utf8JsonWriter> Loop(JsonElement element)
    {
        var (u0, zs, rating, type) = (230.0, default(double?), default(double?), default(BreakerType?));
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "u0V":
                        u0 = Positive(value);
                        break;
                    case "zsOhm":
                        zs = Positive(value);
                        break;
                    case "breakerA":
                        rating = Positive(value);
                        break;
                    case "breakerType":
                        type = Word<BreakerType>(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var it = LoopFinding.Of(
            new(u0),
            new(zs ?? throw Missing("zsOhm")),
            type ?? throw Missing("breakerType"),
            new(rating ?? throw Missing("breakerA"))
        );
        return writer =>
        {
            AnswerJson.Number("faultA", it.Fault.Value, writer);
            AnswerJson.Number("tripA", it.Trip.Value, writer);
            AnswerJson.Number("zsMaxOhm", it.MostZs.Value, writer);
            writer.WriteBoolean("exceedsRating", it.MeetsRuleOfThumb);
            Status(it.Status, it.Working, writer);
        };
    }

    private static Action<Utf8JsonWriter> Electrode(JsonElement element)
    {
        var readings = new double?[3];
        Properties(
            element,
            (name, value) =>
            {
                var at = name switch
                {
                    "at52Ohm" => 0,
                    "at62Ohm" => 1,
                    "at72Ohm" => 2,
                    _ => throw Unknown(name),
                };
                readings[at] = NotNegative(value);
            }
        );
        var it = ElectrodeFinding.Of(
            new(readings[0] ?? throw Missing("at52Ohm")),
            new(readings[1] ?? throw Missing("at62Ohm")),
            new(readings[2] ?? throw Missing("at72Ohm"))
        );
        return writer =>
        {
            AnswerJson.Number("meanOhm", it.Mean?.Value, writer);
            Status(it.Status, it.Working, writer);
            AnswerJson.Lines("advice", it.Advice is { } advice ? [advice] : [], writer);
        };
    }

    private static Action<Utf8JsonWriter> Thermal(JsonElement element)
    {
        var (kelvin, against) = (default(double?), ThermalReference.SimilarPart);
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "differenceK":
                        kelvin = NotNegative(value);
                        break;
                    case "against":
                        against = Word<ThermalReference>(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var it = ThermalFinding.Of(kelvin ?? throw Missing("differenceK"), against);
        return writer =>
        {
            writer.WriteString("grade", Words.Of(it.Grade));
            writer.WriteString("says", it.Says);
        };
    }

    private static Action<Utf8JsonWriter> Insulation(JsonElement element)
    {
        var (number, unit, qualifier) = (default(double?), default(Unit), Qualifier.Exact);
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "value":
                        number = NotNegative(value);
                        break;
                    case "unit":
                        unit = ReadingReader.UnitOf(value, Dimension.Resistance, "insulation");
                        break;
                    case "qualifier":
                        qualifier = ReadingReader.QualifierOf(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var it = CircuitInsulation.Of(new(number ?? throw Missing("value"), unit ?? throw Missing("unit"), qualifier));
        return writer => Status(it.Status, it.Working, writer);
    }

    private static Action<Utf8JsonWriter> Sum(JsonElement element)
    {
        var (leakages, rated) = (ImmutableArray<Amperes>.Empty, default(Amperes?));
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "leakagesMa":
                        leakages = List(value, entry => new Amperes(NotNegative(entry) / 1000));
                        break;
                    case "ratedResidualMa":
                        rated = new(Positive(value) / 1000);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var it = LeakageSum.Of(leakages, rated ?? throw Missing("ratedResidualMa"));
        return writer =>
        {
            AnswerJson.Number("sumA", it.Sum.Value, writer);
            writer.WriteBoolean("explainsTrip", it.Explains);
            AnswerJson.Lines("working", it.Working, writer);
        };
    }

    private static void Status(Status status, ImmutableArray<string> working, Utf8JsonWriter writer)
    {
        writer.WriteString("status", Words.Of(status));
        AnswerJson.Lines("working", working, writer);
    }
}
