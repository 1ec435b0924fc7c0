using System.Collections.Frozen;
using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Forms;

/// <summary>Reads one entry of "readings". A property that the entry's test has no use for is refused, as it would be a
/// misunderstanding.</summary>
internal static class ReadingReader
{
    private static readonly string[] Common = ["test", "standard", "void", "cause", "loadA", "point", "note", "override"];
    private static readonly string[] Numeric = ["value", "qualifier", "unit", "accuracy"];

    /// <summary>The properties of each test beside the common ones, and the dimension of its value.</summary>
    private static readonly Dictionary<Test, (string[] Own, Dimension? Dimension)> Shapes = new()
    {
        [Test.EarthContinuity] = ([.. Numeric, "nullOhm", "path", "part", "testCurrentA"], Dimension.Resistance),
        [Test.Insulation] = (
            [.. Numeric, "between", "part", "appliedPart", "testVoltageV", "switchedOn", "probe", "probeProved"],
            Dimension.Resistance
        ),
        [Test.Leakage] = (
            [
                .. Numeric,
                "kind",
                "method",
                "current",
                "mainsVoltageV",
                "polarity",
                "neutral",
                "earth",
                "power",
                "appliedPart",
                "switchedOn",
                "proof",
                "probe",
                "probeProved",
            ],
            Dimension.Current
        ),
        [Test.Polarity] = (["ok", "found"], null),
        [Test.Wiring] = (["ok", "found"], null),
        [Test.Functional] = (["ok", "check"], null),
        [Test.RcdTrip] = ([.. Numeric, "multiple", "phaseDeg", "tripped"], Dimension.Time),
        [Test.DefibEnergy] = ([.. Numeric, "setJ", "makerLimit"], Dimension.Energy),
        [Test.DefibCharge] = ([.. Numeric, "makerLimit"], Dimension.Time),
        [Test.DefibSync] = ([.. Numeric, "trigger", "makerLimit"], Dimension.Time),
        [Test.EcgAmplitude] = ([.. Numeric, "setMv", "makerLimit"], Dimension.Voltage),
        [Test.PadPath] = ([.. Numeric, "makerLimit"], Dimension.Resistance),
    };

    /// <summary>For each property the tests that have a use for it, as bits. One look-up a property: this is read a hundred thousand
    /// times.</summary>
    private static readonly FrozenDictionary<string, uint> UsedBy = Common
        .Concat(Shapes.Values.SelectMany(shape => shape.Own))
        .Distinct()
        .ToFrozenDictionary(
            name => name,
            name =>
                Shapes
                    .Where(shape => Common.Contains(name) || shape.Value.Own.Contains(name))
                    .Aggregate(0u, (bits, shape) => bits | Bit(shape.Key))
        );

    private static uint Bit(Test test) => 1u << (int)test;

    /// <param name="item">Null when the item itself could not be read; then what depends on it goes unchecked.</param>
    /// <param name="pack">Likewise, and null for readings of earlier inspections; an override asks for it.</param>
    public static Reading Read(JsonElement element, Item? item, RulePack? pack = null)
    {
        if (element.ValueKind != JsonValueKind.Object || !element.TryGetProperty("test", out var testElement))
        {
            Properties(
                element,
                (name, _) =>
                {
                    if (!UsedBy.ContainsKey(name))
                        throw Unknown(name);
                }
            );
            throw Missing("test");
        }
        if (
            testElement.ValueKind == JsonValueKind.String
            && Words.Find<Test>(KnownText.Of(testElement)) is { } test
            && Shapes.ContainsKey(test)
        )
            return new Parse(test, item, pack).Run(element);
        // The test itself is the fault unless something unknown stands before it.
        Properties(
            element,
            (name, value) =>
            {
                if (name == "test")
                    throw new FaultException(
                        "",
                        $"“{(value.ValueKind == JsonValueKind.String ? value.GetString() : value.ToString())}” is not one of {string.Join(" | ", Shapes.Keys.Select(Words.Of))}"
                    );
                if (!UsedBy.ContainsKey(name))
                    throw Unknown(name);
            }
        );
        throw Missing("test");
    }

    /// <summary>One entry in the making: fields are gathered and the reading is made once.</summary>
    private sealed class Parse(Test test, Item? item, RulePack? pack)
    {
        private readonly uint bit = Bit(test);
        private readonly Dimension? dimension = Shapes[test].Dimension;
        private double? number,
            makerLimit;
        private Unit? unit;
        private Qualifier qualifier;
        private bool kindGiven,
            switchedOn = true;
        private bool? ok,
            tripped;
        private Ohms nulled;
        private Volts? mains,
            testVoltage;
        private Amperes? load,
            testCurrent;
        private Quantity? set;
        private string? check,
            voided,
            note,
            point,
            proof,
            probeProved,
            appliedPart;
        private ProbeOn? probe;
        private VoidCause? cause;
        private RulePack? borrowed;
        private Accuracy? accuracy;
        private (Status To, string By, string Reason)? decided;
        private ConductorFault? found;
        private LeakageKind kind;
        private LeakageMethod method;
        private CurrentType current;
        private MainsPolarity polarity;
        private ConductorState neutral,
            earth;
        private PowerState power;
        private Between between;
        private EarthPath path;
        private EarthPart part;
        private InsulationPart insulated;
        private SyncTrigger trigger;
        private double multiple = 1;
        private int phase;

        public Reading Run(JsonElement element)
        {
            Properties(element, Take);
            if (cause is not null && voided is null)
                throw new FaultException("cause", "says why a reading is void: it needs \"void\" in words");
            if (probeProved is not null && probe is null)
                throw new FaultException("probeProved", "says what proved the probe's lead: it needs \"probe\"");
            var reading = Made(Complete()) with { Load = load, Void = voided, VoidCause = cause, Borrowed = borrowed, Note = note };
            // What was read before anybody said so stays as it was.
            if (pack is not null && BeyondTheWorld.Refusal(reading, pack.Thresholds) is { } cannot)
                throw new FaultException("value", cannot);
            return decided is { } by ? reading.Overridden(pack, item, by.To, by.By, byLead: true, by.Reason).Value : reading;
        }

        /// <param name="shown">Null for what is answered, and for a trip without its time.</param>
        private Reading Made(Measured? shown)
        {
            var at = point is null ? null : Spot.Of(point);
            return test switch
            {
                Test.EarthContinuity => new Reading.EarthContinuity(
                    new()
                    {
                        Path = path,
                        Part = part,
                        At = at,
                    },
                    shown!.Value
                )
                {
                    Null = nulled,
                    TestCurrent = testCurrent,
                    Accuracy = accuracy,
                },
                Test.Insulation => new Reading.Insulation(
                    new(between, testVoltage)
                    {
                        Part = insulated,
                        AppliedPart = appliedPart,
                        At = at,
                    },
                    shown!.Value
                )
                {
                    SwitchedOn = switchedOn,
                    Probe = Probe,
                    Accuracy = accuracy,
                },
                Test.Leakage => new Reading.Leakage(Leakage(at), shown!.Value)
                {
                    SwitchedOn = switchedOn,
                    Mains = mains,
                    Proof = proof,
                    Probe = Probe,
                    Accuracy = accuracy,
                },
                Test.RcdTrip => Trip(new(multiple, phase) { At = at }, shown),
                Test.Polarity => new Reading.Conductors(new Conditions.Polarity { At = at }, ok!.Value) { Found = found },
                Test.Wiring => new Reading.Conductors(new Conditions.Wiring { At = at }, ok!.Value) { Found = found },
                Test.Functional => new Reading.Functional(ok!.Value, check),
                _ => new Reading.Performance(Performance() with { At = at }, shown!.Value)
                {
                    MakerLimit = makerLimit is { } limit ? new Quantity(limit * unit!.Factor, unit.Dimension) : null,
                    Accuracy = accuracy,
                },
            };
        }

        private ProbePlace? Probe => probe is { } on ? new(on, probeProved) : null;

        private Conditions.Leakage Leakage(Spot? at) =>
            new(kind)
            {
                Method = method,
                Current = current,
                Polarity = polarity,
                Neutral = neutral,
                Earth = earth,
                Power = power,
                AppliedPart = appliedPart,
                At = at,
            };

        private Reading Trip(Conditions.RcdTrip under, Measured? time) =>
            tripped == false ? new Reading.RcdDidNotTrip(under)
            : time is { } it ? new Reading.RcdTripped(under, it) { Accuracy = accuracy }
            : new Reading.RcdTrippedUntimed(under);

        private Conditions.Performance Performance() =>
            test switch
            {
                Test.DefibEnergy => new Conditions.DefibEnergy(set!.Value),
                Test.DefibCharge => new Conditions.DefibCharge(),
                Test.DefibSync => new Conditions.DefibSync(trigger),
                Test.EcgAmplitude => new Conditions.EcgAmplitude(set!.Value),
                _ => new Conditions.PadPath(),
            };

        private void Take(string name, JsonElement value)
        {
            if (!UsedBy.TryGetValue(name, out var tests))
                throw Unknown(name);
            if ((tests & bit) == 0)
                throw new FaultException("", $"has no use in {Words.Of(test)}");
            switch (name)
            {
                case "test":
                    CheckTest();
                    break;
                case "standard":
                    borrowed = PackLibrary.Find(Text(value)) ?? throw NoPack(value);
                    break;
                case "void":
                    voided = NonEmptyText(value);
                    break;
                case "cause":
                    cause = Word<VoidCause>(value);
                    break;
                case "loadA":
                    load = new(NotNegative(value));
                    break;
                case "point":
                    point = NonEmptyText(value);
                    break;
                case "proof":
                    proof = NonEmptyText(value);
                    break;
                case "probe":
                    probe = Word<ProbeOn>(value);
                    break;
                case "probeProved":
                    probeProved = NonEmptyText(value);
                    break;
                case "note":
                    note = Text(value);
                    break;
                // Only a raw earth reading may be negative: the null may have been taken too high.
                case "value":
                    number = test == Test.EarthContinuity ? Number(value) : NotNegative(value);
                    break;
                case "qualifier":
                    qualifier = QualifierOf(value);
                    break;
                case "unit":
                    unit = UnitOf(value, dimension!.Value, Words.Of(test));
                    break;
                case "accuracy":
                    accuracy = AccuracyOf(value);
                    break;
                case "nullOhm":
                    nulled = NullOf(value);
                    break;
                case "path":
                    path = Word<EarthPath>(value);
                    break;
                case "part":
                    if (test == Test.Insulation)
                        insulated = Word<InsulationPart>(value);
                    else
                        part = Word<EarthPart>(value);
                    break;
                case "between":
                    between = Word<Between>(value);
                    break;
                case "check":
                    check = JsonWalk.Text(value);
                    break;
                case "appliedPart":
                    appliedPart = PartNamed(value);
                    break;
                case "testVoltageV":
                    testVoltage = new(Positive(value));
                    break;
                case "switchedOn":
                    switchedOn = Boolean(value);
                    break;
                case "kind":
                    kind = KindOf(value);
                    break;
                case "method":
                    method = Word<LeakageMethod>(value);
                    break;
                case "current":
                    current = Word<CurrentType>(value);
                    break;
                case "mainsVoltageV":
                    mains = new(Positive(value));
                    break;
                case "polarity":
                    polarity = Word<MainsPolarity>(value);
                    break;
                case "neutral":
                    neutral = Word<ConductorState>(value);
                    NotBothOpen();
                    break;
                case "earth":
                    earth = Word<ConductorState>(value);
                    NotBothOpen();
                    break;
                case "power":
                    power = Word<PowerState>(value);
                    break;
                case "ok":
                    ok = Boolean(value);
                    break;
                case "multiple":
                    multiple = Number(value) is 0.5 or 1 or 5 ? Number(value) : throw new FaultException("", "must be 0.5, 1 or 5");
                    break;
                case "phaseDeg":
                    phase = Number(value) is 0 or 180 ? (int)Number(value) : throw new FaultException("", "must be 0 or 180");
                    break;
                case "tripped":
                    tripped = Boolean(value);
                    break;
                case "testCurrentA":
                    testCurrent = new(Positive(value));
                    break;
                case "trigger":
                    trigger = Word<SyncTrigger>(value);
                    break;
                case "makerLimit":
                    makerLimit = Positive(value);
                    break;
                case "found":
                    found = Word<ConductorFault>(value);
                    break;
                case "override":
                    decided = OverrideOf(value);
                    break;
                case "setJ":
                    set = new Quantity(Positive(value), Dimension.Energy);
                    break;
                case "setMv":
                    set = new Quantity(Positive(value) / 1000, Dimension.Voltage);
                    break;
            }
        }

        private void CheckTest()
        {
            if (item is null)
                return;
            if (test == Test.EarthContinuity && item.Class is ProtectionClass.III or ProtectionClass.Internal)
                throw new FaultException("", $"class {Words.Of(item.Class)} has no earth to measure");
            if (test == Test.RcdTrip && item.Rcd is null && item.Kind != ItemKind.PortableRcd)
                throw new FaultException("", "the item carries no RCD: give item.rcd.ratedResidualMa");
        }

        private void NotBothOpen()
        {
            if (neutral == ConductorState.Open && earth == ConductorState.Open)
                throw new FaultException("", "neutral and earth cannot both be open");
        }

        /// <summary>A larger null than the common rules accept would take away what is measured. What was read before they said so stays
        /// as it was.</summary>
        private Ohms NullOf(JsonElement value)
        {
            var taken = new Ohms(NotNegative(value));
            if (pack?.Thresholds.LargestNull is { } most && Comparison.Above(taken.Value, most.Value))
                throw new FaultException("", $"a null above {QuantityText.Show(most)} hides a bad lead: null again, with a sound one");
            return taken;
        }

        private LeakageKind KindOf(JsonElement value)
        {
            kindGiven = true;
            var its = Word<LeakageKind>(value);
            if (OnPatient(its) && item is { AppliedParts.IsEmpty: true })
                throw new FaultException("", "the item has no applied parts");
            return its;
        }

        private string PartNamed(JsonElement value)
        {
            var name = NonEmptyText(value);
            return item is null || item.AppliedParts.Any(part => part.Name == name)
                ? name
                : throw new FaultException("", $"the item has no applied part “{name}”");
        }

        private static bool OnPatient(LeakageKind kind) =>
            kind
                is LeakageKind.AppliedPart
                    or LeakageKind.Patient
                    or LeakageKind.TotalPatient
                    or LeakageKind.PatientAuxiliary
                    or LeakageKind.MainsOnAppliedPart
                    or LeakageKind.LeadToGround
                    or LeakageKind.LeadToLead;

        private Measured? Complete()
        {
            if (test == Test.Leakage && !kindGiven)
                throw Missing("kind");
            if (dimension is null)
                return ok is null ? throw Missing("ok") : null;
            if (test == Test.RcdTrip && !NeedsTripTime())
                return null;
            if (test == Test.DefibEnergy && set is null)
                throw Missing("setJ");
            if (test == Test.EcgAmplitude && set is null)
                throw Missing("setMv");
            PartForMeasurement();
            return number is null ? throw Missing("value") : new Measured(number.Value, unit ?? throw Missing("unit"), qualifier);
        }

        /// <summary>False for a test that did not trip, or tripped where it must not and no time was taken.</summary>
        private bool NeedsTripTime()
        {
            if (tripped is null)
            {
                if (number is null)
                    throw Missing("tripped");
                tripped = true;
            }
            if (tripped == false && number is not null)
                throw new FaultException("value", "has no use when it did not trip");
            return tripped == true && (number is not null || multiple >= 1);
        }

        /// <summary>A part must be named where there are several; a single one is meant. Joined measurements name none.</summary>
        private void PartForMeasurement()
        {
            var perPart =
                (test == Test.Leakage && OnPatient(kind) && kind is not (LeakageKind.LeadToGround or LeakageKind.TotalPatient))
                || (test == Test.Insulation && between == Between.MainsToAppliedPart);
            if (item is null || appliedPart is not null || !perPart)
                return;
            appliedPart = item.AppliedParts.Length switch
            {
                1 => item.AppliedParts[0].Name,
                0 => throw new FaultException("between", "the item has no applied parts"),
                _ => throw Missing("appliedPart", $"is missing: one of {string.Join(" | ", item.AppliedParts.Select(part => part.Name))}"),
            };
        }

        private (Status To, string By, string Reason)? OverrideOf(JsonElement value)
        {
            var (to, by, role, reason) = (default(Status?), "", "", "");
            Properties(
                value,
                (name, it) =>
                    _ = name switch
                    {
                        "status" => (to = Word<Status>(it)) is not null,
                        "by" => (by = NonEmptyText(it)).Length > 0,
                        "role" => (role = Text(it)).Length > 0,
                        "reason" => (reason = NonEmptyText(it)).Length > 0,
                        _ => throw Unknown(name),
                    }
            );
            var status = to ?? throw Missing("status");
            // Asked here, so that a fault names its place; it is attached once the reading is whole.
            return Override.Of(pack, item, test, status, by, role == "lead", reason).Fault is { } fault
                ? throw new FaultException(fault.Path, fault.Message)
                : (status, by, reason);
        }

        private static Accuracy AccuracyOf(JsonElement element)
        {
            var it = new Accuracy(0, 0, 0);
            Properties(
                element,
                (name, value) =>
                    it = name switch
                    {
                        "percent" => it with { Percent = NotNegative(value) },
                        "digits" => it with { Digits = NotNegative(value) },
                        "resolution" => it with { Resolution = NotNegative(value) },
                        _ => throw Unknown(name),
                    }
            );
            return it;
        }
    }

    internal static Qualifier QualifierOf(JsonElement value) =>
        Text(value) switch
        {
            "" => Qualifier.Exact,
            ">" => Qualifier.Above,
            "<" => Qualifier.Below,
            var other => throw new FaultException("", $"“{other}” is not one of > | < or empty"),
        };

    internal static Unit UnitOf(JsonElement value, Dimension dimension, string test)
    {
        var symbol = value.ValueKind == JsonValueKind.String ? KnownText.Of(value) : Text(value);
        return Unit.Find(symbol) is { } found && found.Dimension == dimension
            ? found
            : throw new FaultException(
                "",
                $"“{symbol}” is not a unit of {test}: {string.Join(" | ", Unit.All.Where(u => u.Dimension == dimension).Select(u => u.Symbol))}"
            );
    }

    internal static FaultException NoPack(JsonElement value) =>
        new("", $"there is no standard “{value.GetString()}”; there is {string.Join(" | ", PackLibrary.Ids)}");
}
