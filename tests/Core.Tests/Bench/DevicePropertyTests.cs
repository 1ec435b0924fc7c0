using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>Whatever parts a device has: every required cell is asked, none twice, and none is held against another part's type.</summary>
public sealed class DevicePropertyTests
{
    private static readonly string[] Packs = ["iec-62353-2014", "nfpa-99-2012", "iec-60601-1-2012"];

    public static TheoryData<string, LeakageMethod, int> Devices()
    {
        var all = new TheoryData<string, LeakageMethod, int>();
        foreach (var pack in Packs)
        foreach (var method in Enum.GetValues<LeakageMethod>())
            for (var seed = 0; seed < 6; seed++)
                all.Add(pack, method, seed);
        return all;
    }

    private static Item Device(int seed)
    {
        var dice = new Random(seed);
        var parts = Enumerable
            .Range(0, dice.Next(1, 6))
            .Select(n => new AppliedPart($"part {n}", (AppliedPartType)dice.Next(3), dice.Next(1, 5), dice.Next(3) > 0));
        var device = Pump with
        {
            Class = dice.Next(3) == 0 ? ProtectionClass.II : ProtectionClass.I,
            MainsSwitch = dice.Next(2) == 0 ? MainsSwitch.Electronic : MainsSwitch.Mechanical,
            UnearthedParts = dice.Next(2) == 0 ? [] : ["handle", "rail"],
            AppliedParts = [.. parts],
        };
        if (dice.Next(3) > 0)
            return device;
        var socket = new Item
        {
            Kind = ItemKind.MedicalSystem,
            RatedVoltage = new(230),
            Cord = new(new(3), new(1.5)),
        };
        return MedicalSystem.Of(socket, [new("A-1", "Scope", device), new("A-2", "Scope", device), new("A-3", "Screen", Kettle)]);
    }

    private static OnTheBench Laid(string pack, LeakageMethod method, int seed)
    {
        var ruling = RulingFor(Device(seed), pack);
        return new(ruling with { Policy = ruling.Policy with { MedicalMethod = method } });
    }

    private static PlanStep.Measure[] Plans(OnTheBench bench) =>
        [.. bench.State.Sheet.Steps.OfType<SheetStep.Measure>().Select(it => it.Plan)];

    [Theory]
    [MemberData(nameof(Devices))]
    public void Every_required_cell_is_asked_once(string pack, LeakageMethod method, int seed)
    {
        var bench = Laid(pack, method, seed);
        var keys = Plans(bench).Select(it => it.Key).ToArray();
        keys.ShouldBeUnique();
        // What is asked is enough: with all of it good, nothing that the standard requires is missing.
        bench.LookGood().PassTheRest();
        bench.State.Assessment.Missing.ShouldBeEmpty();
        bench.IsOpen(EndKind.Pass).ShouldBeTrue(bench.State.EndOf(EndKind.Pass).Why);
    }

    [Theory]
    [MemberData(nameof(Devices))]
    public void No_cell_is_held_against_another_parts_type(string pack, LeakageMethod method, int seed)
    {
        var (bench, item) = (Laid(pack, method, seed), Device(seed));
        foreach (var plan in Plans(bench).Where(it => it.Under.AppliedPart is not null))
        {
            var own = item.AppliedParts.Single(part => part.Name == plan.Under.AppliedPart);
            var alone = MedicalSystem.Own(item) with { AppliedParts = [own], UnearthedParts = item.UnearthedParts };
            var limit = PackLibrary.Find(pack)!.LimitFor(alone, plan.Under);
            plan.Limit?.Value.ShouldBe(limit?.Value, $"{plan.Key} of {Words.Of(own.Type)}");
        }
    }
}
