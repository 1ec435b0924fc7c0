using CsCheck;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>Promises that hold for every item and reading, not only for examples.</summary>
public class PropertyTests
{
    private static readonly RulePack Uk = PackLibrary.Find("uk-cop-5")!;

    private static Gen<T> OneOf<T>(params T[] values) => Gen.Int[0, values.Length - 1].Select(at => values[at]);

    private static readonly Gen<Item> Items = Gen.Select(
            OneOf(
                ProtectionClass.I,
                ProtectionClass.II,
                ProtectionClass.III,
                ProtectionClass.INoAccessibleMetal,
                ProtectionClass.Undecided
            ),
            Gen.Enum<UseOf>(),
            Gen.Bool,
            Gen.Double[0, 5000],
            Gen.Double[0.1, 60],
            OneOf(0.5, 0.75, 1.0, 1.25, 1.5, 2.5, 0.9, 10)
        )
        .Select(
            (itemClass, use, heating, power, length, size) =>
                new Item
                {
                    Kind = ItemKind.Appliance,
                    Class = itemClass,
                    Use = use,
                    Heating = heating,
                    RatedPower = new(power),
                    Cord = new(new(length), new(size)),
                }
        );

    private static readonly Gen<Reading> Readings = Gen.Select(
            OneOf(Test.EarthContinuity, Test.Insulation, Test.Leakage),
            Gen.Double[0, 30],
            Gen.Enum<Qualifier>(),
            OneOf(LeakageKind.ProtectiveConductor, LeakageKind.Touch)
        )
        .Select(
            (test, number, qualifier, kind) =>
                (Reading)(
                    test switch
                    {
                        Test.Insulation => new Reading.Insulation(new(), new(number, Unit.Megohm, qualifier)),
                        Test.Leakage => new Reading.Leakage(new(kind), new(number, Unit.Milliampere, qualifier)),
                        _ => new Reading.EarthContinuity(new(), new(number, Unit.Ohm, qualifier)),
                    }
                )
        );

    private static readonly Gen<Reading> Functional = Gen.Bool.Select(Reading (ok) => new Reading.Functional(ok));

    /// <summary>The same reading with another number.</summary>
    private static Reading Times(Reading reading, double factor)
    {
        Measured Of(Reading.Numeric it) => it.Shown with { Number = it.Shown.Number * factor };
        return reading switch
        {
            Reading.Insulation it => new Reading.Insulation(it.Under, Of(it)),
            Reading.Leakage it => new Reading.Leakage(it.Under, Of(it)) { Mains = it.Mains },
            Reading.EarthContinuity it => new Reading.EarthContinuity(it.Under, Of(it)) { Null = it.Null },
            _ => reading,
        };
    }

    [Fact]
    public void A_worse_reading_never_judges_better() =>
        Gen.Select(Items, Readings, Gen.Double[1, 10])
            .Sample(
                (item, reading, factor) =>
                {
                    if (reading.Value is not { Qualifier: Qualifier.Exact })
                        return;
                    var worse = Times(reading, reading is Reading.Insulation ? 1 / factor : factor);
                    if (Judge.Of(Uk, item, reading).Status == Status.Fail)
                        Judge.Of(Uk, item, worse).Status.ShouldBe(Status.Fail);
                }
            );

    [Fact]
    public void The_order_of_readings_never_changes_the_verdict() =>
        Gen.Select(Items, Gen.OneOf(Readings, Functional).Array[1, 8], Gen.Int)
            .Sample(
                (item, readings, seed) =>
                {
                    var facts = new InspectionFacts
                    {
                        Pack = Uk,
                        Item = item,
                        Look = Look.Pass,
                        Readings = [.. readings],
                    };
                    var shuffled = readings.ToArray();
                    new Random(seed).Shuffle(shuffled);
                    var (one, other) = (Assessment.Of(facts), Assessment.Of(facts with { Readings = [.. shuffled] }));
                    other.Verdict.ShouldBe(one.Verdict);
                    other.Missing.ShouldBe(one.Missing, ignoreOrder: true);
                }
            );

    [Fact]
    public void Tightening_a_limit_never_turns_a_fail_into_a_pass() =>
        Gen.Select(Items, Readings, Gen.Double[0.01, 0.99], Gen.Int[0, Uk.Limits.Length - 1])
            .Sample(
                (item, reading, share, at) =>
                {
                    var rule = Uk.Limits[at];
                    var unit = Unit.Si(rule.Dimension);
                    var own = rule.Formula switch
                    {
                        Formula.Fixed it => it.Value.Si,
                        Formula.PlusConductor it => it.Base.Value,
                        Formula.PerKilowatt it => it.Ceiling.Si,
                        _ => 1,
                    };
                    var house = HouseLimits.Apply(
                        Uk,
                        [new(rule.Id, rule.Comparator == Comparator.NotLessThan ? own / share : own * share, unit, "house")]
                    );
                    if (!house.TryGet(out var tightened))
                        return;
                    var (by, stricter) = (Judge.Of(Uk, item, reading).Status, Judge.Of(tightened, item, reading).Status);
                    if (by == Status.Fail)
                        stricter.ShouldBe(Status.Fail);
                    if (stricter == Status.Pass)
                        by.ShouldBe(Status.Pass);
                }
            );

    [Fact]
    public void Leakage_scales_linearly() =>
        Gen.Select(Gen.Double[0.001, 5], Gen.Double[196, 253])
            .Sample(
                (milliampere, volts) =>
                {
                    var reading = new Reading.Leakage(new(LeakageKind.ProtectiveConductor), new(milliampere, Unit.Milliampere))
                    {
                        Mains = new(volts),
                    };
                    var twice = Times(reading, 2);
                    var item = new Item { Kind = ItemKind.Appliance };
                    Judge.Of(Uk, item, twice).Value!.Value.Si.ShouldBe(2 * Judge.Of(Uk, item, reading).Value!.Value.Si, 1e-12);
                }
            );

    [Fact]
    public void Due_dates_never_run_backwards_with_more_months() =>
        Gen.Select(Gen.Int[0, 20_000], Gen.Int[0, 60], Gen.Int[0, 60])
            .Sample(
                (day, months, more) =>
                {
                    var date = new DateOnly(2000, 1, 1).AddDays(day);
                    new Period(months + more).After(date).ShouldBeGreaterThanOrEqualTo(new Period(months).After(date));
                }
            );

    [Fact]
    public void Every_unit_reads_back_as_it_was_written() =>
        Gen.Select(OneOf([.. Unit.All.Where(unit => unit.Dimension <= Dimension.Energy)]), Gen.Double[0.001, 999], Gen.Enum<Qualifier>())
            .Sample(
                (unit, number, qualifier) =>
                {
                    var measured = new Measured(Math.Round(number, 3), unit, qualifier);
                    ReadingEntry
                        .Parse(measured.ToString(), unit)
                        .Value.ShouldBe(
                            measured with
                            {
                                Number = double.Parse(
                                    QuantityText.Number(measured.Number, 6),
                                    System.Globalization.CultureInfo.InvariantCulture
                                ),
                            }
                        );
                }
            );

    [Fact]
    public void No_text_makes_a_reading_field_throw() =>
        Gen.String.Sample(text =>
            ReadingEntry.Parse(text, Unit.Milliampere) is { Fault: null } it ? it.Value.Unit.Dimension == Dimension.Current : true
        );

    private static readonly Gen<string> Values = OneOf(
        "1",
        "0",
        "-1",
        "-1e308",
        "1e308",
        "1e-320",
        "null",
        "\"x\"",
        "\"\"",
        "\"uk-cop-5\"",
        "\"appliance\"",
        "\"medicalDevice\"",
        "\"2026-13-01\"",
        "\"9999-12-31\"",
        "[]",
        "{}",
        "[1]",
        "[{}]",
        "true",
        "{\"kind\":\"appliance\"}",
        "{\"kind\":\"medicalDevice\",\"appliedParts\":[{\"name\":\"a\",\"type\":\"CF\"}]}",
        "[{\"test\":\"earthContinuity\",\"value\":1e308,\"unit\":\"Gohm\"}]",
        "[{\"test\":\"leakage\",\"kind\":\"touch\",\"value\":1e300,\"unit\":\"A\",\"mainsVoltageV\":1e-300}]",
        "{\"settingsJ\":[1e308]}",
        "{\"zsOhm\":1e-308,\"breakerType\":\"B\",\"breakerA\":1e308}"
    );

    private static readonly Gen<string> Names = OneOf(
        "id",
        "standard",
        "item",
        "readings",
        "visual",
        "policy",
        "history",
        "testDate",
        "dueDate",
        "intervalMonths",
        "place",
        "capMonths",
        "makerMonths",
        "house",
        "meter",
        "scope",
        "session",
        "say",
        "mark",
        "cores",
        "inspections",
        "failures",
        "loop",
        "electrode",
        "thermal",
        "insulation",
        "leakageSum",
        "nonsense"
    );

    [Fact]
    public void No_json_makes_the_contract_throw() =>
        Gen.Select(Names, Values)
            .Array[0, 6]
            .Select(OneOf([.. Contracts.Contract.Verbs]))
            .Sample(
                (properties, verb) =>
                {
                    var request =
                        "{" + string.Join(",", properties.DistinctBy(it => it.Item1).Select(it => $"\"{it.Item1}\":{it.Item2}")) + "}";
                    Ask.One(verb, request).ValueKind.ShouldBe(System.Text.Json.JsonValueKind.Object, request);
                },
                iter: 20_000
            );
}
