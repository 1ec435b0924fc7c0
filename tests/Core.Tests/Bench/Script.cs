using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests.Bench;

/// <summary>
/// Numbers that are read as things that happen on a bench: every script can be played, so that one that breaks a claim is made shorter by
/// leaving numbers out. All claims are held against the same scripts, which are played once.
/// </summary>
/// <param name="Thing">Which of the things lies on the bench.</param>
/// <param name="State">Its state in the register.</param>
/// <param name="LookOnly">Its client has class II looked at alone.</param>
internal sealed record Script(int Thing, int State, bool Lead, bool LookOnly, ImmutableArray<int> Numbers)
{
    private const int Kinds = 38;
    private const int Longest = 28;

    /// <summary>./test --long plays many of another seed each time, and says which.</summary>
    private static readonly bool IsLong = Environment.GetEnvironmentVariable("OSIERWAND_LONG") is { Length: > 0 };

    private static readonly int Seed = int.TryParse(Environment.GetEnvironmentVariable("OSIERWAND_SEED"), out var seed) ? seed : 1868;
    private static readonly int Count = IsLong ? 30_000 : 1_500;

    private static readonly Lazy<ImmutableArray<(Script Script, ImmutableArray<BenchEvent> Events)>> Played = new(() =>
        [.. Made(new Random(Seed)).Take(Count).AsParallel().AsOrdered().Select(script => (script, script.Play().Events.ToImmutableArray()))]
    );

    /// <summary>Every script with what happened in it.</summary>
    public static IEnumerable<(Script Script, ImmutableArray<BenchEvent> Events)> All => Played.Value;

    public static readonly (Item Item, string Pack)[] Things =
    [
        (Kettle, "uk-cop-5"),
        (Kettle, "as-nzs-3760-2022"),
        (Kettle, "en-50699-2020"),
        (Kettle with { EarthedParts = ["case", "tap"] }, "uk-cop-5"),
        (Kettle with { Class = ProtectionClass.Undecided }, "uk-cop-5"),
        (Kettle with { Class = ProtectionClass.INoAccessibleMetal }, "en-50699-2020"),
        (Kettle with { Cord = new(Permanent: true), Use = UseOf.Fixed, PlugFuse = null }, "uk-cop-5"),
        (Kettle with { SurgeProtected = true }, "uk-cop-5"),
        (Kettle with { MainsSwitch = MainsSwitch.Electronic }, "uk-cop-5"),
        (Kettle with { Access = AccessLevel.RemovableFixings, Care = [CareNeed.Water] }, "uk-cop-5"),
        (Drill, "uk-cop-5"),
        (Drill, "as-nzs-3760-2022"),
        (Drill with { AllInsulated = true, Use = UseOf.Portable }, "uk-cop-5"),
        (new() { Kind = ItemKind.Appliance, Class = ProtectionClass.III }, "uk-cop-5"),
        (Reel, "uk-cop-5"),
        (Reel with { Rcd = new(0.03) }, "en-50699-2020"),
        (new() { Kind = ItemKind.CordSet, Cord = new(new(2), new(0.75)) }, "uk-cop-5"),
        (new() { Kind = ItemKind.PortableRcd, Rcd = new(0.03) }, "uk-cop-5"),
        (new() { Kind = ItemKind.PortableRcd, Rcd = new(0.1) }, "as-nzs-3760-2022"),
        (Pump, "iec-62353-2014"),
        (Pump, "iec-60601-1-2012"),
        (Pump with { RatedVoltage = new(120), StartUpSeconds = 20 }, "nfpa-99-2012"),
        (Pump with { Class = ProtectionClass.II }, "iec-62353-2014"),
        (Pump with { Class = ProtectionClass.Internal }, "iec-62353-2014"),
        (Pump with { AppliedParts = [] }, "iec-62353-2014"),
    ];

    private static readonly string[] Typed =
    [
        "0.01",
        "0.05",
        "0.2",
        "0.9",
        "5",
        "40",
        "900",
        "30000",
        ">25",
        ">200M",
        "<0.01",
        "-0.01",
        "-0.5",
        "0",
        "nonsense",
        "1,500",
    ];

    private static IEnumerable<Script> Made(Random dice)
    {
        while (true)
            yield return new(
                dice.Next(Things.Length),
                dice.Next(3),
                dice.Next(2) == 0,
                dice.Next(2) == 0,
                [.. Enumerable.Range(0, dice.Next(Longest + 1)).Select(_ => dice.Next(1_000_000))]
            );
    }

    /// <summary>Holds a claim against every script; of one that breaks it the shortest that still does is told.</summary>
    public static void Hold(Action<OnTheBench, BenchState> claim)
    {
        var broken = All.AsParallel().FirstOrDefault(played => played.Script.Broken(claim, played.Events) is not null);
        if (broken.Script is null)
            return;
        var (shortest, why) = broken.Script.Shortened(claim);
        throw new InvalidOperationException($"seed {Seed}, {shortest.InWords()}: {why.Message}", why);
    }

    private Exception? Broken(Action<OnTheBench, BenchState> claim, IEnumerable<BenchEvent> events)
    {
        try
        {
            // A bench of its own: a claim may go on working at it.
            var bench = new OnTheBench(Ruling());
            bench.Events.AddRange(events);
            claim(bench, bench.State);
            return null;
        }
        catch (Exception why)
        {
            return why;
        }
    }

    private (Script Shortest, Exception Why) Shortened(Action<OnTheBench, BenchState> claim)
    {
        for (var at = 0; at < Numbers.Length; at++)
        {
            var shorter = this with { Numbers = Numbers.RemoveAt(at) };
            if (shorter.Broken(claim, shorter.Play().Events) is not null)
                return shorter.Shortened(claim);
        }
        return (this, Broken(claim, Play().Events) ?? new InvalidOperationException("It holds when it is played again."));
    }

    private string InWords() =>
        $"{Things[Thing].Pack}, {Words.Of(Things[Thing].Item.Kind)}, {(ItemState)State}{(Lead ? ", lead" : "")}{(LookOnly ? ", look only" : "")}, "
        + $"[{string.Join(", ", Play().Events.Select(e => e.GetType().Name))}]";

    private Ruling Ruling()
    {
        var (item, pack) = Things[Thing];
        // A meter lies beside the tester; some have probes that may not be used.
        var probes = Piece(KitKind.Probes, "Probes", fitness: State == 1 ? KitFitness.Barred : KitFitness.Fit, trouble: "Taped.");
        var kit = Analyser with { Meter = Meter, Clamp = LookOnly ? null : Clamp, Pieces = Analyser.Pieces.Add(probes) };
        var ruling = RulingFor(item, pack, Lead, (ItemState)State, kit);
        if (LookOnly)
            ruling = ruling with { Policy = new() { ClassII = ClassIIPolicy.LookOnly } };
        // Half of them know no outlet yet.
        return Thing % 2 == (Lead ? 0 : 1) ? ruling with { Outlets = [] } : ruling;
    }

    private OnTheBench Play()
    {
        var bench = new OnTheBench(Ruling());
        foreach (var number in Numbers)
            Happen(bench, number);
        return bench;
    }

    private static void Happen(OnTheBench bench, int number)
    {
        var (kind, more) = (number % Kinds, number / Kinds);
        var state = bench.State;
        var step = state.Sheet.Steps[more % state.Sheet.Steps.Length];
        var earlier = bench.Events.Count == 0 ? Guid.NewGuid() : bench.Events[more % bench.Events.Count].Id;
        var point = state.Sheet.Steps.OfType<SheetStep.Look>().First().Points is var points ? points[more % points.Length].Id : "";
        switch (kind)
        {
            case 0:
                bench.LookGood();
                break;
            case 1:
                bench.LookAs((LookAnswer)(more % 4), more % 3 == 0 ? null : "words", point);
                break;
            case 2 or 3 or 4:
                bench.Type(step.Key, Typed[more % Typed.Length]);
                break;
            case 5:
                bench.Type(step.Key, Typed[more % Typed.Length], at: more % 2 == 0 ? "handle" : "tap");
                break;
            case 6:
                bench.Answer(step.Key, more % 3 != 0);
                break;
            case 7:
                bench.Void(earlier, more % 5 == 0 ? "" : "clip was off", more % 4 == 0 ? point : null);
                break;
            case 8:
                bench.Choose((Scope)(more % 5));
                break;
            case 9:
                bench.Override(earlier, more % 2 == 0 ? Status.Pass : Status.Fail);
                break;
            case 10:
                bench.Confirm(step.Key);
                break;
            case 11:
                bench.Change(
                    more % 11 == 10
                        ? new() { NoAppliedParts = more % 2 == 0 }
                        : new() { Evidence = (ClassEvidence)(more % 7), FlexLengthM = more % 9 }
                );
                break;
            case 12:
                bench.Happens(next => new Borrowed
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                    PackId = PackLibrary.Ids[more % PackLibrary.Ids.Count],
                });
                break;
            case 13:
                bench.Happens(next => new Evaluated
                {
                    Id = next.Id,
                    At = next.At,
                    Evaluation = (Evaluation)(more % 4),
                });
                break;
            case 14:
                bench.Happens(next => new EarthFound
                {
                    Id = next.Id,
                    At = next.At,
                    Step = step.Key,
                    Words = "case",
                });
                break;
            case 15:
                bench.Happens(next => new Withdrawn
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                });
                break;
            case 17 when state.Outlet is { } outlet:
                bench.CheckOutlet(voltages: [.. GoodVoltages(outlet.Supply).Select(it => more % 2 == 0 ? it : it with { Volts = 100 })]);
                break;
            case 18 when state.Outlet is { Offered: { IsEmpty: false } offered }:
                bench.KeepOutlet(offered[0].Id);
                break;
            case 16:
                IsolationTests.Happen(bench, more);
                break;
            case 20:
                StrangeReadingTests.Measured(
                    bench,
                    step.Key,
                    (more % 7) * 0.3,
                    more % 3 == 0 ? "ohm"
                        : more % 3 == 1 ? "Mohm"
                        : "uA",
                    it =>
                        it with
                        {
                            PathSeen = more % 2 == 0,
                            LoadA = more % 5 == 0 ? 0 : null,
                            Lowest = (more % 4) * 0.2,
                            Mains = more % 6 == 0 ? 230 : null,
                        }
                );
                break;
            case 21:
                bench.Happens(next => new PathExplained
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                    Words = more % 5 == 0 ? "" : "soft starter",
                });
                break;
            case 22 when more % 4 == 1:
                bench.Happens(next => new ConnectionProved
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                    Words = more % 5 == 0 ? "" : "its trace stands on the screen",
                });
                break;
            case 22 when more % 8 == 3:
                bench.Happens(next => new FactsMoved
                {
                    Id = next.Id,
                    At = next.At,
                    Was = Things[more % Things.Length].Item,
                });
                break;
            case 22 when more % 2 == 0:
                bench.Happens(next => new LeakageMethodChosen
                {
                    Id = next.Id,
                    At = next.At,
                    Leakage = (LeakagePolicy)(more / 2 % 3),
                    Reason = "no mains at hand",
                });
                break;
            case 22:
                bench.Happens(next => new CauseTried
                {
                    Id = next.Id,
                    At = next.At,
                    Signature = "earth-open",
                    Words = "clip moved",
                });
                break;
            case 23:
                bench.Happens(next => new MainsLost
                {
                    Id = next.Id,
                    At = next.At,
                    Step = step.Key,
                });
                break;
            case 24:
                bench.Happens(next => new Unproved
                {
                    Id = next.Id,
                    At = next.At,
                    Target = earlier,
                });
                break;
            case 25:
                bench.Happens(next => new TakenOver
                {
                    Id = next.Id,
                    At = next.At,
                    HandOver = Guid.NewGuid(),
                    From = "Rufus",
                });
                break;
            case 26:
                bench.Happens(next => new Named
                {
                    Id = next.Id,
                    At = next.At,
                    Loose = Guid.NewGuid(),
                    Tag = "X-1",
                    SeenAs = "appliance, class I",
                    WasKnown = more % 2 == 0,
                });
                break;
            case 27:
                bench.Happens(next => new ProcedureChosen
                {
                    Id = next.Id,
                    At = next.At,
                    Procedure = more % 3 == 0 ? null : Guid.NewGuid(),
                    Version = more % 3,
                });
                break;
            case 28:
                bench.Happens(next => new StandingSaid
                {
                    Id = next.Id,
                    At = next.At,
                    IsIsolated = more % 2 == 0,
                    By = more % 3 == 0 ? null : "a data cable",
                });
                break;
            case 29:
                bench.Happens(next => new RepairTold
                {
                    Id = next.Id,
                    At = next.At,
                    Found = "loose core",
                    Done = "rewired",
                    RepairedBy = more % 4 == 0 ? "" : "Ida",
                });
                break;
            case 30:
                bench.Happens(next => new IntervalChosen
                {
                    Id = next.Id,
                    At = next.At,
                    Months = more % 3 == 0 ? null : more % 50,
                    Reason = more % 4 == 0 ? null : "wet room",
                });
                break;
            case 31:
                bench.Happens(next => new Discharged
                {
                    Id = next.Id,
                    At = next.At,
                    Step = step.Key,
                });
                break;
            case 32:
                bench.Happens(next => new Parked { Id = next.Id, At = next.At });
                break;
            case 33:
                bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
                break;
            case 34:
                bench.Happens(next => Told(next.Id, next.At, step.Key, more));
                break;
            case 35:
                bench.PlaceProbe((ProbeOn)(more % 4));
                break;
            case 36 when more % 3 == 0:
                bench.TryProbe(more % 2 == 0);
                break;
            default:
                bench.PassTheRest();
                break;
        }
    }

    /// <summary>What is only told, and moves no verdict by itself.</summary>
    private static BenchEvent Told(Guid id, DateTimeOffset at, string step, int more) =>
        (more % 7) switch
        {
            0 => new PhotoTaken
            {
                Id = id,
                At = at,
                Photo = Guid.NewGuid(),
                Of = step,
            },
            1 => new ComplaintTold
            {
                Id = id,
                At = at,
                Words = "trips the RCD",
            },
            2 => new WorkOrderTold
            {
                Id = id,
                At = at,
                Number = "W-7",
            },
            3 => new StickerSaid
            {
                Id = id,
                At = at,
                IsFitted = more % 4 == 0,
            },
            4 => new CircuitSummed
            {
                Id = id,
                At = at,
                RcdMa = 30,
                Items = [new("Dishwasher", "4"), new("Kettle", more % 5 == 0 ? "nonsense" : "0.8")],
            },
            5 => new LeadParted
            {
                Id = id,
                At = at,
                IsApart = more % 3 > 0,
            },
            _ => new SchoolChosen
            {
                Id = id,
                At = at,
                School = (School)(more % Enum.GetValues<School>().Length),
            },
        };
}
