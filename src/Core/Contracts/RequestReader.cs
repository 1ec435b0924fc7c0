using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Intervals;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Contracts;

/// <summary>Reads the requests of the command-line contract. Throws <see cref="FaultException"/>; <see cref="Contract"/> turns it into an
/// answer.</summary>
internal static class RequestReader
{
    /// <param name="other">Takes properties of the request that are not the assessment's; false for those it does not know.</param>
    public static InspectionFacts Assess(JsonElement root, Func<string, JsonElement, bool>? other = null)
    {
        var (pack, item) = (default(RulePack), default(Item));
        var (look, rule, scope, policy) = (Look.NotDone, DecisionRule.Simple, Scope.Combined, Policy.Usual);
        ImmutableArray<Reading> readings = [];
        ImmutableArray<PastInspection> history = [];
        ImmutableArray<HouseLimit> house = [];
        (DateOnly? tested, DateOnly? due, Period? months) = (null, null, null);
        Properties(
            root,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        break;
                    case "standard":
                        pack = Pack(value);
                        break;
                    case "decisionRule":
                        rule = Word<DecisionRule>(value);
                        break;
                    case "scope":
                        scope = Word<Scope>(value);
                        break;
                    case "policy":
                        policy = Policies(value, "classII", "newItem", "permanentLeakage", "permanentReason");
                        break;
                    case "item":
                        item = ItemReader.Read(value);
                        break;
                    case "visual":
                        look = Word<Look>(value);
                        break;
                    case "readings":
                        readings = Readings(value, item ?? Peek(root), pack ?? PeekPack(root));
                        break;
                    case "history":
                        history = List(value, entry => Past(entry, item ?? Peek(root)), MostHistory);
                        if (history.Sum(past => past.Readings.Length) > MostHistoryReadings)
                            throw new FaultException("", $"holds more than {MostHistoryReadings} readings in all: send the last years");
                        break;
                    case "house":
                        house = List(value, House);
                        break;
                    case "testDate":
                        tested = Date(value);
                        break;
                    case "dueDate":
                        due = Date(value);
                        break;
                    case "intervalMonths":
                        months = Months(value);
                        break;
                    default:
                        if (other is null || !other(name, value))
                            throw Unknown(name);
                        break;
                }
            }
        );
        pack = WithHouse(pack ?? throw Missing("standard"), house);
        return new()
        {
            Pack = pack,
            Item = item ?? throw Missing("item"),
            Look = look,
            Readings = readings,
            DecisionRule = rule,
            Scope = scope,
            Policy = policy,
            History = history,
            TestDate = tested,
            DueDate = due,
            Interval = months,
        };
    }

    public static Plan Plan(JsonElement root)
    {
        var (pack, item, policy, scope, kit) = (default(RulePack), default(Item), Policy.Usual, Scope.Combined, default(Instrumentation));
        ImmutableArray<HouseLimit> house = [];
        Properties(
            root,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        break;
                    case "standard":
                        pack = Pack(value);
                        break;
                    case "item":
                        item = ItemReader.Read(value);
                        break;
                    case "policy":
                        policy = Policies(
                            value,
                            "classII",
                            "newItem",
                            "leakage",
                            "medicalMethod",
                            "medicalInsulation",
                            "hardWired",
                            "permanentLeakage",
                            "permanentReason"
                        );
                        break;
                    case "scope":
                        scope = Word<Scope>(value);
                        break;
                    case "house":
                        house = List(value, House);
                        break;
                    case "meter":
                        kit = Meter(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        pack = WithHouse(pack ?? throw Missing("standard"), house);
        Refuse(pack, item ?? throw Missing("item"), scope, policy);
        return Planner.Of(pack, item, policy, scope, kit);
    }

    /// <summary>No plan, no verdict: where a standard asks nothing of an item another one is chosen.</summary>
    public static void Refuse(RulePack pack, Item item, Scope scope, Policy policy)
    {
        if (ScopeOf.Refusal(pack, item, scope, policy) is { } refusal)
            throw new FaultException("standard", refusal);
    }

    public static IntervalFacts Interval(JsonElement root)
    {
        var (pack, tested) = (default(RulePack), default(DateOnly?));
        var facts = new IntervalFacts
        {
            Pack = null!,
            Place = Place.Office,
            TestDate = default,
        };
        Properties(
            root,
            (name, value) =>
            {
                switch (name)
                {
                    case "id":
                        Text(value);
                        break;
                    case "standard":
                        pack = Pack(value);
                        break;
                    case "testDate":
                        tested = Date(value);
                        break;
                    default:
                        facts = IntervalFact(facts, name, value);
                        break;
                }
            }
        );
        return facts with { Pack = pack ?? throw Missing("standard"), TestDate = tested ?? throw Missing("testDate") };
    }

    private static IntervalFacts IntervalFact(IntervalFacts facts, string name, JsonElement value) =>
        name switch
        {
            "place" => facts with { Place = Word<Place>(value) },
            "use" => facts with { Use = Word<UseOf>(value) },
            "class" => facts with { Class = Word<ProtectionClass>(value) },
            "kind" => facts with { Kind = Word<ItemKind>(value) },
            "allInsulated" => facts with { AllInsulated = Boolean(value) },
            "usage" => facts with { Usage = Word<Usage>(value) },
            "moved" => facts with { Moved = Word<Moved>(value) },
            "users" => facts with { Users = Word<Users>(value) },
            "history" => facts with { History = [.. List(value, PastTestOf, MostHistory).OfType<PastTest>()] },
            "overLife" => facts with { OverLife = Boolean(value) },
            "harshEvent" => facts with { HarshEvent = Boolean(value) },
            "policy" => facts with { ClassII = Policies(value, "classII").ClassII },
            "capMonths" => facts with { Cap = Months(value) },
            "makerMonths" => facts with { Maker = Months(value) },
            "appliedPartType" => facts with { AppliedPart = Word<AppliedPartType>(value) },
            "emergencyTransport" => facts with { EmergencyTransport = Boolean(value) },
            "lifeSupporting" => facts with { LifeSupporting = Boolean(value) },
            "patientContact" => facts with { PatientContact = Boolean(value) },
            "defibrillator" => facts with { Defibrillator = Boolean(value) },
            "repaired" => facts with { Repaired = Boolean(value) },
            _ => throw Unknown(name),
        };

    /// <summary>Months far beyond any equipment's life would run off the calendar.</summary>
    private static Period Months(JsonElement value) =>
        Positive(value) is <= 1200 and var months ? new(months) : throw new FaultException("", "must be at most 1200 months");

    private static ImmutableArray<Reading> Readings(JsonElement value, Item? item, RulePack? pack = null) =>
        List(value, entry => ReadingReader.Read(entry, item, pack), MostReadings);

    /// <summary>Of one inspection. A device with forty steps, each measured fifty times, has as many.</summary>
    private const int MostReadings = 2000;

    /// <summary>Earlier inspections, or tests, of one item: more than a week apart for twenty years.</summary>
    private const int MostHistory = 1000;

    private const int MostHistoryReadings = 20_000;

    internal static HouseLimit House(JsonElement element)
    {
        var (rule, value, unit, reason) = ("", default(double?), default(Unit), "");
        Properties(
            element,
            (name, it) =>
            {
                switch (name)
                {
                    case "limit":
                        rule = NonEmptyText(it);
                        break;
                    case "value":
                        value = Number(it);
                        break;
                    case "unit":
                        unit = Unit.Find(Text(it)) ?? throw new FaultException("", $"“{Text(it)}” is not a unit");
                        break;
                    case "reason":
                        reason = NonEmptyText(it);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        return new(
            rule.Length > 0 ? rule : throw Missing("limit"),
            value ?? throw Missing("value"),
            unit ?? throw Missing("unit"),
            reason.Length > 0 ? reason : throw Missing("reason")
        );
    }

    private static RulePack WithHouse(RulePack pack, ImmutableArray<HouseLimit> house)
    {
        var tightened = HouseLimits.Apply(pack, house);
        return tightened.Fault is { } fault ? throw new FaultException($"house{fault.Path}", fault.Message) : tightened.Value;
    }

    /// <summary>What the technician measures with: the school, and where it matters what the instrument can do.</summary>
    private static Instrumentation Meter(JsonElement element)
    {
        var (school, functions) = (School.Meter, ImmutableArray<InstrumentFunction>.Empty);
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "school":
                        school = Word<School>(value);
                        break;
                    case "functions":
                        functions = List(value, Function);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        return new(school, functions);
    }

    private static InstrumentFunction Function(JsonElement element)
    {
        var (test, resolution, unit, current) = (default(Test?), default(double?), default(Unit), default(Amperes?));
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "test":
                        test = Word<Test>(value);
                        break;
                    case "resolution":
                        resolution = Positive(value);
                        break;
                    case "unit":
                        unit = Unit.Find(Text(value)) ?? throw new FaultException("", $"“{Text(value)}” is not a unit");
                        break;
                    case "testCurrentA":
                        current = new(Positive(value));
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        Quantity? count =
            resolution is not { } it ? null
            : unit is null ? throw Missing("unit")
            : new Quantity(it * unit.Factor, unit.Dimension);
        return new(test ?? throw Missing("test"), count, current);
    }

    private static RulePack? PeekPack(JsonElement root) =>
        root.TryGetProperty("standard", out var element) && element.ValueKind == JsonValueKind.String
            ? PackLibrary.Find(element.GetString()!)
            : null;

    /// <summary>The item of a request whose readings stand before it. A fault in it is reported when its turn comes.</summary>
    private static Item? Peek(JsonElement root)
    {
        try
        {
            return root.TryGetProperty("item", out var element) ? ItemReader.Read(element) : null;
        }
        catch (FaultException)
        {
            return null;
        }
    }

    public static RulePack Pack(JsonElement value) => PackLibrary.Find(Text(value)) ?? throw ReadingReader.NoPack(value);

    private static Policy Policies(JsonElement element, params string[] allowed)
    {
        var policy = Policy.Usual;
        Properties(
            element,
            (name, value) =>
                policy = name switch
                {
                    _ when !allowed.Contains(name) => throw Unknown(name),
                    "classII" => policy with { ClassII = Word<ClassIIPolicy>(value) },
                    "newItem" => policy with { NewItem = Word<NewItemPolicy>(value) },
                    "leakage" => policy with { Leakage = Word<LeakagePolicy>(value) },
                    "medicalInsulation" => policy with { MedicalInsulation = Word<MedicalInsulationPolicy>(value) },
                    "permanentLeakage" => policy with { PermanentLeakage = Word<PermanentLeakagePolicy>(value) },
                    "permanentReason" => policy with { PermanentReason = NonEmptyText(value) },
                    "fixings" => policy with { Fixings = Word<FixingsPolicy>(value) },
                    "hardWired" => policy with { HardWired = Word<HardWiredPolicy>(value) },
                    _ => policy with { MedicalMethod = Word<LeakageMethod>(value) },
                }
        );
        return policy is { PermanentLeakage: PermanentLeakagePolicy.LeftOut, PermanentReason: null }
            ? throw Missing("permanentReason")
            : policy;
    }

    private static PastInspection Past(JsonElement element, Item? item)
    {
        var (date, repaired) = (default(DateOnly?), false);
        ImmutableArray<Reading> readings = [];
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "date":
                        date = Date(value);
                        break;
                    case "afterRepair":
                        repaired = Boolean(value);
                        break;
                    case "readings":
                        readings = Readings(value, item);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        return new(date ?? throw Missing("date"), repaired, readings);
    }

    /// <returns>Null for what was no combined test: it is no clean one, and no failure of one.</returns>
    private static PastTest? PastTestOf(JsonElement element)
    {
        var (date, verdict, near, rising) = (default(DateOnly?), default(Verdict?), false, false);
        var scope = Scope.Combined;
        Properties(
            element,
            (name, value) =>
            {
                switch (name)
                {
                    case "date":
                        date = Date(value);
                        break;
                    case "verdict":
                        verdict = Word<Verdict>(value);
                        break;
                    case "nearLimit":
                        near = Boolean(value);
                        break;
                    case "rising":
                        rising = Boolean(value);
                        break;
                    case "scope":
                        scope = Word<Scope>(value);
                        break;
                    default:
                        throw Unknown(name);
                }
            }
        );
        var past = new PastTest(date ?? throw Missing("date"), verdict ?? throw Missing("verdict"), near, rising);
        return scope is Scope.Combined or Scope.AfterRepair ? past : null;
    }
}
