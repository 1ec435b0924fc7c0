using System.Text.Json;
using System.Text.Json.Nodes;
using Osierwand.Core.Equipment;
using Osierwand.Core.Forms;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>
/// Plan and verdict hold one another: whatever is planned can be passed, its steps are readings as they stand, and what is required is
/// missed. Walked over every kind, class, standard, switch and policy.
/// </summary>
public class PlanAndVerdictTests
{
    private static readonly string[] Conditions =
    [
        "test",
        "kind",
        "method",
        "current",
        "polarity",
        "neutral",
        "earth",
        "power",
        "appliedPart",
        "point",
        "path",
        "part",
        "between",
        "testVoltageV",
        "multiple",
        "phaseDeg",
        "trigger",
        "setJ",
        "setMv",
    ];

    public static TheoryData<string, ItemKind> Everything() =>
        new(PackLibrary.Ids.SelectMany(pack => Enum.GetValues<ItemKind>().Select(kind => (pack, kind))));

    private static IEnumerable<(Item Item, Policy Policy)> Variants(ItemKind kind)
    {
        foreach (var itemClass in Enum.GetValues<ProtectionClass>())
        foreach (var mains in Enum.GetValues<MainsSwitch>())
        foreach (var leakage in Enum.GetValues<LeakagePolicy>())
        foreach (var permanent in new[] { false, true })
        {
            var item = new Item
            {
                Kind = kind,
                Class = itemClass,
                MainsSwitch = mains,
                EarthedParts =
                    permanent && itemClass == ProtectionClass.I && kind is ItemKind.Appliance or ItemKind.MedicalDevice
                        ? ["door", "tap"]
                        : [],
                UnearthedParts = permanent && kind is ItemKind.Appliance or ItemKind.MedicalDevice ? ["knob", "dial"] : [],
                Outlets = kind is ItemKind.ExtensionLead or ItemKind.MultiwayAdapter ? 3 : 1,
                Rcd = kind is ItemKind.PortableRcd || (kind is ItemKind.ExtensionLead && permanent) ? new(0.03) : null,
                Cord = permanent && kind is ItemKind.Appliance or ItemKind.MedicalDevice ? new(Permanent: permanent) : null,
            };
            var policy = new Policy
            {
                Leakage = leakage,
                MedicalMethod = permanent ? LeakageMethod.Differential : LeakageMethod.Alternative,
                MedicalInsulation = permanent ? MedicalInsulationPolicy.Yes : MedicalInsulationPolicy.CordOnly,
                PermanentLeakage = leakage == LeakagePolicy.None ? PermanentLeakagePolicy.LeftOut : PermanentLeakagePolicy.Measure,
                PermanentReason = leakage == LeakagePolicy.None ? "the building is tested yearly" : null,
            };
            yield return (item, policy);
            if (!item.IsMedical)
                continue;
            yield return (item with { AppliedParts = [new("ECG", AppliedPartType.CF, 10), new("cuff", AppliedPartType.BF)] }, policy);
            yield return (item with { AppliedParts = [new("left", AppliedPartType.BF, 2), new("right", AppliedPartType.BF)] }, policy);
            yield return (item with { AppliedParts = [new("bed", AppliedPartType.B)] }, policy);
        }
    }

    [Theory]
    [MemberData(nameof(Everything))]
    public void Every_plan_can_be_passed_and_whatever_it_requires_is_missed(string packId, ItemKind kind)
    {
        var pack = PackLibrary.Find(packId)!;
        var planned = 0;
        foreach (var (item, policy) in Variants(kind).Where(it => ItemJson.Read(ItemJson.Write(it.Item)).TryGet(out _)))
        {
            var named = $"{packId} {item.Class} {item.MainsSwitch} {policy.Leakage} {ItemJson.Write(item)}";
            if (ScopeOf.Refusal(pack, item, Scope.Combined, policy) is { } refusal)
            {
                refusal.ShouldBe(ScopeOf.NoTest, named);
                Assess(packId, item, policy, []).GetProperty("error").GetProperty("path").GetString().ShouldBe("standard", named);
                continue;
            }
            planned++;
            var plan = Planner.Of(pack, item, policy);
            plan.Steps.Select(step => step.Key).ShouldBeUnique(named);
            var steps = plan.Steps.OfType<PlanStep.Measure>().ToArray();
            var told = Planned(packId, item, policy);
            told.Length.ShouldBe(steps.Length, named);
            var readings = steps.Select((step, at) => Good(step, told[at])).ToArray();
            var whole = Assess(packId, item, policy, readings);
            (whole.TryGetProperty("verdict", out var passed) && passed.GetString() == "pass").ShouldBeTrue($"{named}: {whole}");
            for (var left = 0; left < steps.Length; left++)
            {
                if (steps[left].Need != Need.Required || IsServedByAnother(item, steps[left]))
                    continue;
                var verdict = Assess(packId, item, policy, [.. readings.Where((_, at) => at != left)]).GetProperty("verdict").GetString();
                verdict.ShouldBe("incomplete", $"without {steps[left].Key}: {named}");
            }
            foreach (
                var group in steps
                    .Where(step => step.Group is not null)
                    .GroupBy(step => step.Group)
                    .Where(_ => item.Class != ProtectionClass.Undecided)
            )
            {
                var rest = readings.Where((_, at) => steps[at].Group != group.Key);
                Assess(packId, item, policy, [.. rest]).GetProperty("verdict").GetString().ShouldBe("incomplete", $"{group.Key}: {named}");
            }
        }
        (planned > 0).ShouldBe(
            PackLibrary.Find(packId)!.Series.Any(series => series.Need != Need.Optional && series.Item.Kinds.Has(kind)),
            "what the standard speaks of has plans"
        );
    }

    /// <summary>An insulation reading of an undecided item serves both classes.</summary>
    private static bool IsServedByAnother(Item item, PlanStep.Measure step) =>
        item.Class == ProtectionClass.Undecided && step.Test == Test.Insulation;

    /// <summary>A reading that meets the step's limit, in the words of the plan's own answer.</summary>
    private static JsonObject Good(PlanStep.Measure step, JsonElement told)
    {
        var reading = new JsonObject();
        foreach (var property in told.EnumerateObject().Where(property => Conditions.Contains(property.Name)))
            reading[property.Name] = JsonNode.Parse(property.Value.GetRawText());
        switch (step.Test)
        {
            case Test.Polarity or Test.Wiring:
                reading["ok"] = true;
                break;
            case Test.RcdTrip when step.Under is Conditions.RcdTrip { Multiple: < 1 }:
                reading["tripped"] = false;
                break;
            default:
                var limit = step.Limit.ShouldNotBeNull(step.Key).Value!.Value;
                (reading["value"], reading["unit"]) = (
                    limit.Si * (step.Limit!.IsFloor ? 2 : 0.5),
                    Quantities.Unit.Si(limit.Dimension).Symbol
                );
                break;
        }
        return reading;
    }

    private static JsonElement[] Planned(string pack, Item item, Policy policy)
    {
        var request = new JsonObject
        {
            ["standard"] = pack,
            ["item"] = JsonNode.Parse(ItemJson.Write(item)),
            ["policy"] = new JsonObject
            {
                ["leakage"] = Words.Of(policy.Leakage),
                ["medicalMethod"] = Words.Of(policy.MedicalMethod),
                ["medicalInsulation"] = Words.Of(policy.MedicalInsulation),
                ["permanentLeakage"] = Words.Of(policy.PermanentLeakage),
                ["permanentReason"] = policy.PermanentReason ?? "none",
            },
        };
        return
        [
            .. Ask.One("plan", request.ToJsonString())
                .GetProperty("steps")
                .EnumerateArray()
                .Where(step => step.GetProperty("test").GetString() is not ("visual" or "fuse" or "restore" or "functional")),
        ];
    }

    private static JsonElement Assess(string pack, Item item, Policy policy, JsonObject[] readings)
    {
        var request = new JsonObject
        {
            ["standard"] = pack,
            ["item"] = JsonNode.Parse(ItemJson.Write(item)),
            ["visual"] = "pass",
            ["policy"] = new JsonObject { ["permanentLeakage"] = Words.Of(policy.PermanentLeakage) },
            ["readings"] = new JsonArray([
                .. readings.Select(it => it.DeepClone()),
                new JsonObject { ["test"] = "functional", ["ok"] = true },
            ]),
        };
        if (policy.PermanentReason is { } reason)
            request["policy"]!["permanentReason"] = reason;
        return Ask.One("assess", request.ToJsonString());
    }

    [Theory]
    [InlineData("iec-62353-2014", """{"kind":"appliance"}""", "earthContinuity, leakage, leakage")]
    [InlineData("iec-62353-2014", """{"kind":"cordSet"}""", "earthContinuity")]
    [InlineData("nfpa-99-2012", """{"kind":"extensionLead","outlets":2}""", "earthContinuity, earthContinuity")]
    [InlineData("iec-60601-1-2012", """{"kind":"appliance","class":"II"}""", "leakage, leakage, leakage, leakage")]
    [InlineData("iec-62353-2014", """{"kind":"cordSet","class":"II"}""", null)]
    [InlineData("iec-62353-2014", """{"kind":"appliance","class":"III"}""", null)]
    [InlineData("iec-62353-2014", """{"kind":"portableRcd","rcd":{"ratedResidualMa":30}}""", null)]
    [InlineData("nfpa-99-2012", """{"kind":"portableRcd","rcd":{"ratedResidualMa":30}}""", null)]
    [InlineData("iec-60601-1-2012", """{"kind":"medicalDevice","class":"III"}""", null)]
    [InlineData("uk-cop-5", """{"kind":"medicalDevice"}""", null)]
    public void A_standard_tests_an_item_as_what_it_is_or_is_refused(string pack, string item, string? tests)
    {
        var answer = Ask.One("plan", $$"""{"standard":"{{pack}}","item":{{item}}}""");
        if (tests is null)
        {
            var error = answer.GetProperty("error");
            error.GetProperty("path").GetString().ShouldBe("standard");
            error.GetProperty("message").GetString().ShouldBe("this standard has no test for it; choose another");
            return;
        }
        var measured = answer
            .GetProperty("steps")
            .EnumerateArray()
            .Select(step => step.GetProperty("test").GetString())
            .Where(test => test is not ("visual" or "fuse" or "functional"));
        string.Join(", ", measured).ShouldBe(tests);
    }

    [Fact]
    public void Looked_at_only_no_standard_needs_a_test_for_it() =>
        Ask.One("plan", """{"standard":"iec-62353-2014","scope":"formalVisual","item":{"kind":"cordSet","class":"II"}}""")
            .TryGetProperty("error", out _)
            .ShouldBeFalse();

    /// <summary>No words of mains where there is none, and no start of a device that is switched off.</summary>
    [Theory]
    [InlineData("internal", "off", null)]
    [InlineData("internal", "on", "The item runs on its own battery. Moving parts free, hands clear.")]
    [InlineData("II", "off", "Mains on the item, though it is switched off. Hands clear.")]
    [InlineData("II", "on", "The item starts. Moving parts free, hands clear.")]
    public void A_hazard_says_what_is_so(string itemClass, string power, string? hazard)
    {
        var steps = Ask.One("plan", $$$"""{"standard":"nfpa-99-2012","item":{"kind":"medicalDevice","class":"{{{itemClass}}}"}}""")
            .GetProperty("steps")
            .EnumerateArray()
            .Where(step => step.TryGetProperty("power", out var told) && told.GetString() == power)
            .ToArray();
        steps.ShouldNotBeEmpty();
        steps.Select(step => step.TryGetProperty("hazard", out var told) ? told.GetString() : null).ShouldAllBe(told => told == hazard);
    }

    [Fact]
    public void Of_equipment_leakage_neither_part_makes_the_other_forgotten()
    {
        var needs = Ask.One(
                "plan",
                """{"standard":"iec-62353-2014","item":{"kind":"medicalDevice","unearthedParts":["knob"],"appliedParts":[{"name":"bed","type":"B"}]}}"""
            )
            .GetProperty("steps")
            .EnumerateArray()
            .First(step => step.TryGetProperty("kind", out var kind) && kind.GetString() == "equipment")
            .GetProperty("needs")
            .ToString();
        needs.ShouldContain("knob, which are not earthed");
        needs.ShouldContain("type B joined to the measurement");
    }
}
