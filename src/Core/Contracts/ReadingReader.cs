using System.Text.Json;
using Osierwand.Core.Equipment;
using Osierwand.Core.Json;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using static Osierwand.Core.Json.JsonWalk;

namespace Osierwand.Core.Contracts;

/// <summary>Reads one entry of "readings". A property that the entry's test has no use for is refused, as it would be a misunderstanding.</summary>
internal static class ReadingReader
{
    private static readonly string[] Common = ["test", "standard", "void", "loadA", "point", "note", "override"];
    private static readonly string[] Numeric = ["value", "qualifier", "unit", "accuracy"];

    /// <summary>The properties of each test beside the common ones, and the dimension of its value.</summary>
    private static readonly Dictionary<Test, (string[] Own, Dimension? Dimension)> Shapes = new()
    {
        [Test.EarthContinuity] = ([.. Numeric, "nullOhm", "path", "part", "testCurrentA"], Dimension.Resistance),
        [Test.Insulation] = ([.. Numeric, "between", "appliedPart", "testVoltageV", "switchedOn"], Dimension.Resistance),
        [Test.Leakage] = ([.. Numeric, "kind", "method", "current", "mainsVoltageV", "polarity", "neutral", "earth", "power", "appliedPart", "switchedOn"], Dimension.Current),
        [Test.Polarity] = (["ok", "found"], null),
        [Test.Wiring] = (["ok", "found"], null),
        [Test.Functional] = (["ok"], null),
        [Test.RcdTrip] = ([.. Numeric, "multiple", "phaseDeg", "tripped"], Dimension.Time),
        [Test.DefibEnergy] = ([.. Numeric, "setJ", "makerLimit"], Dimension.Energy),
        [Test.DefibCharge] = ([.. Numeric, "makerLimit"], Dimension.Time),
        [Test.DefibSync] = ([.. Numeric, "trigger", "makerLimit"], Dimension.Time),
        [Test.EcgAmplitude] = ([.. Numeric, "setMv", "makerLimit"], Dimension.Voltage),
        [Test.PadPath] = ([.. Numeric, "makerLimit"], Dimension.Resistance),
    };

    private static readonly HashSet<string> Known = [.. Common, .. Shapes.Values.SelectMany(shape => shape.Own)];

    /// <param name="item">Null when the item itself could not be read; then what depends on it goes unchecked.</param>
    /// <param name="pack">Likewise; an override asks for it.</param>
    public static Reading Read(JsonElement element, Item? item, RulePack? pack = null)
    {
        if (element.ValueKind != JsonValueKind.Object || !element.TryGetProperty("test", out var testElement))
        {
            Properties(element, (name, _) => { if (!Known.Contains(name)) throw Unknown(name); });
            throw Missing("test");
        }
        var parse = new Parse(element, testElement, item, pack);
        return parse.Run();
    }

    private sealed class Parse(JsonElement element, JsonElement testElement, Item? item, RulePack? pack)
    {
        private Test test;
        private Reading reading = null!;
        private Conditions under = Conditions.Usual;
        private double? number;
        private Unit? unit;
        private Qualifier qualifier;
        private bool kindGiven;
        private double? makerLimit;

        public Reading Run()
        {
            var known = Words.Find<Test>(testElement.ValueKind == JsonValueKind.String ? testElement.GetString()! : "");
            if (known is { } it && Shapes.TryGetValue(it, out var shape))
            {
                test = it;
                reading = new Reading { Test = test };
                Properties(element, (name, value) => Take(name, value, shape));
            }
            else
            {
                // The test itself is the fault unless something unknown stands before it.
                Properties(element, (name, value) =>
                {
                    if (name == "test") throw new FaultException("", $"“{(value.ValueKind == JsonValueKind.String ? value.GetString() : value.ToString())}” is not one of {string.Join(" | ", Shapes.Keys.Select(Words.Of))}");
                    if (!Known.Contains(name)) throw Unknown(name);
                });
            }
            Complete(Shapes[test].Dimension);
            return reading with { Under = under };
        }

        private void Take(string name, JsonElement value, (string[] Own, Dimension? Dimension) shape)
        {
            if (!Known.Contains(name)) throw Unknown(name);
            if (!Common.Contains(name) && !shape.Own.Contains(name)) throw new FaultException("", $"has no use in {Words.Of(test)}");
            switch (name)
            {
                case "test": CheckTest(); break;
                case "standard": reading = reading with { Borrowed = PackLibrary.Find(Text(value)) ?? throw NoPack(value) }; break;
                case "void": reading = reading with { Void = NonEmptyText(value) }; break;
                case "loadA": reading = reading with { Load = new(NotNegative(value)) }; break;
                case "point": under = under with { Point = NonEmptyText(value) }; break;
                case "note": reading = reading with { Note = Text(value) }; break;
                // Only a raw earth reading may be negative: the null may have been taken too high.
                case "value": number = test == Test.EarthContinuity ? Number(value) : NotNegative(value); break;
                case "qualifier": qualifier = QualifierOf(value); break;
                case "unit": unit = UnitOf(value, shape.Dimension!.Value, Words.Of(test)); break;
                case "accuracy": reading = reading with { Accuracy = AccuracyOf(value) }; break;
                case "nullOhm": reading = reading with { Null = new(NotNegative(value)) }; break;
                case "path": under = under with { Path = Word<EarthPath>(value) }; break;
                case "part": under = under with { Part = Word<EarthPart>(value) }; break;
                case "between": under = under with { Between = Word<Between>(value) }; break;
                case "appliedPart": under = under with { AppliedPart = PartNamed(value) }; break;
                case "testVoltageV": reading = reading with { TestVoltage = new(Positive(value)) }; break;
                case "switchedOn": reading = reading with { SwitchedOn = Boolean(value) }; break;
                case "kind": under = under with { Kind = KindOf(value) }; break;
                case "method": under = under with { Method = Word<LeakageMethod>(value) }; break;
                case "current": under = under with { Current = Word<CurrentType>(value) }; break;
                case "mainsVoltageV": reading = reading with { Mains = new(Positive(value)) }; break;
                case "polarity": under = under with { Polarity = Word<MainsPolarity>(value) }; break;
                case "neutral": under = under with { Neutral = Word<ConductorState>(value) }; NotBothOpen(); break;
                case "earth": under = under with { Earth = Word<ConductorState>(value) }; NotBothOpen(); break;
                case "power": under = under with { Power = Word<PowerState>(value) }; break;
                case "ok": reading = reading with { Ok = Boolean(value) }; break;
                case "multiple": under = under with { Multiple = Number(value) is 0.5 or 1 or 5 ? Number(value) : throw new FaultException("", "must be 0.5, 1 or 5") }; break;
                case "phaseDeg": under = under with { PhaseDeg = Number(value) is 0 or 180 ? (int)Number(value) : throw new FaultException("", "must be 0 or 180") }; break;
                case "tripped": reading = reading with { Tripped = Boolean(value) }; break;
                case "testCurrentA": reading = reading with { TestCurrent = new(Positive(value)) }; break;
                case "trigger": under = under with { Trigger = Word<SyncTrigger>(value) }; break;
                case "makerLimit": makerLimit = Positive(value); break;
                case "found": reading = reading with { Found = Word<LeadFault>(value) }; break;
                case "override": reading = reading with { Override = OverrideOf(value) }; break;
                case "setJ": reading = reading with { Set = new Quantity(Positive(value), Dimension.Energy) }; break;
                case "setMv": reading = reading with { Set = new Quantity(Positive(value) / 1000, Dimension.Voltage) }; break;
            }
        }

        private void CheckTest()
        {
            if (item is null) return;
            if (test == Test.EarthContinuity && item.Class is ProtectionClass.III or ProtectionClass.Internal)
                throw new FaultException("", $"class {Words.Of(item.Class)} has no earth to measure");
            if (test == Test.RcdTrip && item.Rcd is null) throw new FaultException("", "the item carries no RCD: give item.rcd.ratedResidualMa");
        }

        private void NotBothOpen()
        {
            if (under is { Neutral: ConductorState.Open, Earth: ConductorState.Open }) throw new FaultException("", "neutral and earth cannot both be open");
        }

        private LeakageKind KindOf(JsonElement value)
        {
            kindGiven = true;
            var kind = Word<LeakageKind>(value);
            if (OnPatient(kind) && item is { AppliedParts.IsEmpty: true }) throw new FaultException("", "the item has no applied parts");
            return kind;
        }

        private string PartNamed(JsonElement value)
        {
            var name = NonEmptyText(value);
            return item is null || item.AppliedParts.Any(part => part.Name == name) ? name
                : throw new FaultException("", $"the item has no applied part “{name}”");
        }

        private static bool OnPatient(LeakageKind kind) => kind is LeakageKind.AppliedPart or LeakageKind.Patient or LeakageKind.TotalPatient
            or LeakageKind.PatientAuxiliary or LeakageKind.MainsOnAppliedPart or LeakageKind.LeadToGround or LeakageKind.LeadToLead;

        private void Complete(Dimension? dimension)
        {
            if (test == Test.Leakage && !kindGiven) throw Missing("kind");
            if (dimension is null)
            {
                if (reading.Ok is null) throw Missing("ok");
                return;
            }
            if (test == Test.RcdTrip && !NeedsTripTime()) return;
            if (test == Test.DefibEnergy && reading.Set is null) throw Missing("setJ");
            if (test == Test.EcgAmplitude && reading.Set is null) throw Missing("setMv");
            PartForMeasurement();
            if (number is null) throw Missing("value");
            var its = unit ?? throw Missing("unit");
            reading = reading with
            {
                Value = new Measured(number.Value, its, qualifier),
                MakerLimit = makerLimit is { } limit ? new Quantity(limit * its.Factor, its.Dimension) : null,
            };
        }

        /// <summary>False for a test that did not trip, or tripped where it must not and no time was taken.</summary>
        private bool NeedsTripTime()
        {
            if (reading.Tripped is null)
            {
                if (number is null) throw Missing("tripped");
                reading = reading with { Tripped = true };
            }
            if (reading.Tripped == false && number is not null) throw new FaultException("value", "has no use when it did not trip");
            return reading.Tripped == true && (number is not null || under.Multiple >= 1);
        }

        /// <summary>A part must be named where there are several; a single one is meant. Joined measurements name none.</summary>
        private void PartForMeasurement()
        {
            var perPart = (test == Test.Leakage && OnPatient(under.Kind) && under.Kind is not (LeakageKind.LeadToGround or LeakageKind.TotalPatient)) ||
                (test == Test.Insulation && under.Between == Between.MainsToAppliedPart);
            if (item is null || under.AppliedPart is not null || !perPart) return;
            under = item.AppliedParts.Length switch
            {
                1 => under with { AppliedPart = item.AppliedParts[0].Name },
                0 => throw new FaultException("between", "the item has no applied parts"),
                _ => throw Missing("appliedPart", $"is missing: one of {string.Join(" | ", item.AppliedParts.Select(part => part.Name))}"),
            };
        }

        private Override? OverrideOf(JsonElement value)
        {
            var (to, by, role, reason) = (default(Status?), "", "", "");
            Properties(value, (name, it) => _ = name switch
            {
                "status" => (to = Word<Status>(it)) is not null,
                "by" => (by = NonEmptyText(it)).Length > 0,
                "role" => (role = Text(it)).Length > 0,
                "reason" => (reason = NonEmptyText(it)).Length > 0,
                _ => throw Unknown(name),
            });
            if (item is null || pack is null) return null;
            var made = Override.Of(pack, item, test, to ?? throw Missing("status"), by, role == "lead", reason);
            return made.Fault is { } fault ? throw new FaultException(fault.Path, fault.Message) : made.Value;
        }

        private static Accuracy AccuracyOf(JsonElement element)
        {
            var it = new Accuracy(0, 0, 0);
            Properties(element, (name, value) => it = name switch
            {
                "percent" => it with { Percent = NotNegative(value) },
                "digits" => it with { Digits = NotNegative(value) },
                "resolution" => it with { Resolution = NotNegative(value) },
                _ => throw Unknown(name),
            });
            return it;
        }
    }

    internal static Qualifier QualifierOf(JsonElement value) => Text(value) switch
    {
        "" => Qualifier.Exact,
        ">" => Qualifier.Above,
        "<" => Qualifier.Below,
        var other => throw new FaultException("", $"“{other}” is not one of > | < or empty"),
    };

    internal static Unit UnitOf(JsonElement value, Dimension dimension, string test)
    {
        var symbol = Text(value);
        return Unit.Find(symbol) is { } found && found.Dimension == dimension ? found
            : throw new FaultException("", $"“{symbol}” is not a unit of {test}: {string.Join(" | ", Unit.All.Where(u => u.Dimension == dimension).Select(u => u.Symbol))}");
    }

    internal static FaultException NoPack(JsonElement value) =>
        new("", $"there is no standard “{value.GetString()}”; there is {string.Join(" | ", PackLibrary.Ids)}");
}
