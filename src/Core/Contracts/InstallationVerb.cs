using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Forms;
using Osierwand.Core.Installation;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Contracts;

/// <summary>One installation check a request: "loop", "electrode", "thermal", "insulation" or "leakageSum", each an object of its
/// figures.</summary>
internal static class InstallationVerb
{
    public static Action<Utf8JsonWriter> Answer(JsonElement request)
    {
        Check? check = null;
        ImmutableArray<HouseLimit> house = [];
        Properties(
            request,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        return;
                    case "house":
                        house = List(value, RequestReader.House);
                        return;
                }
                if (check is not null)
                    throw new FaultException("", "one check a request");
                check = name switch
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
        var limits = WithHouse(house);
        return check?.Invoke(limits) ?? throw Missing("loop", "is missing: one of loop | electrode | thermal | insulation | leakageSum");
    }

    /// <summary>A check that was read and waits for the limits it is held against.</summary>
    private delegate Action<Utf8JsonWriter> Check(InstallationLimits limits);

    private static InstallationLimits WithHouse(ImmutableArray<HouseLimit> house)
    {
        if (house.IsEmpty)
            return InstallationLimits.Shipped;
        var tightened = HouseLimits.Apply(InstallationLimits.Shipped.Table, house);
        return tightened.Fault is { } fault ? throw new FaultException($"house{fault.Path}", fault.Message) : new(tightened.Value);
    }

    /// <summary>By what it was judged, as every judged answer says.</summary>
    private static void JudgedBy(InstallationLimits limits, string row, Utf8JsonWriter writer)
    {
        writer.WriteString("standard", limits.Table.Id);
        writer.WriteString("version", limits.Table.FullVersion);
        writer.WriteString("clause", limits.Table.Find(row)!.Clause);
    }

    private static Check Loop(JsonElement element)
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
        var (loop, breaker, rated) = (
            new Ohms(zs ?? throw Missing("zsOhm")),
            type ?? throw Missing("breakerType"),
            new Amperes(rating ?? throw Missing("breakerA"))
        );
        return limits =>
            writer =>
            {
                var it = LoopFinding.Of(new(u0), loop, breaker, rated, limits);
                JudgedBy(limits, "loop-supply", writer);
                AnswerJson.Number("faultA", it.Fault.Value, writer);
                AnswerJson.Number("tripA", it.Trip.Value, writer);
                AnswerJson.Number("zsMaxOhm", it.MostZs.Value, writer);
                writer.WriteBoolean("exceedsRating", it.MeetsRuleOfThumb);
                Status(it.Status, it.Working, writer);
            };
    }

    private static Check Electrode(JsonElement element)
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
        var (near, middle, far) = (
            new Ohms(readings[0] ?? throw Missing("at52Ohm")),
            new Ohms(readings[1] ?? throw Missing("at62Ohm")),
            new Ohms(readings[2] ?? throw Missing("at72Ohm"))
        );
        return limits =>
            writer =>
            {
                var it = ElectrodeFinding.Of(near, middle, far, limits);
                JudgedBy(limits, "electrode-agreement", writer);
                AnswerJson.Number("meanOhm", it.Mean?.Value, writer);
                Status(it.Status, it.Working, writer);
                AnswerJson.Lines("advice", it.Advice is { } advice ? [advice] : [], writer);
            };
    }

    private static Check Thermal(JsonElement element)
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
        var difference = kelvin ?? throw Missing("differenceK");
        return limits =>
            writer =>
            {
                var it = ThermalFinding.Of(difference, against, limits);
                JudgedBy(limits, "thermal-similar-possible", writer);
                writer.WriteString("grade", Words.Of(it.Grade));
                writer.WriteString("says", it.Says);
            };
    }

    private static Check Insulation(JsonElement element)
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
        var reading = new Measured(number ?? throw Missing("value"), unit ?? throw Missing("unit"), qualifier);
        return limits =>
            writer =>
            {
                var it = CircuitInsulation.Of(reading, limits);
                JudgedBy(limits, "circuit-insulation", writer);
                Status(it.Status, it.Working, writer);
            };
    }

    private static Check Sum(JsonElement element)
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
        var rating = rated ?? throw Missing("ratedResidualMa");
        return limits =>
            writer =>
            {
                var it = LeakageSum.Of(leakages, rating, limits);
                JudgedBy(limits, "leakage-sum", writer);
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
