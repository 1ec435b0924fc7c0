using System.Collections.Immutable;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A bench for tests: lay an item on it, let things happen, read the state.</summary>
internal sealed class OnTheBench(Ruling ruling)
{
    /// <summary>When the first thing happens; a server asks that it be neither to come nor before its round.</summary>
    public DateTimeOffset Start { get; init; } = UsualStart;
    private static readonly DateTimeOffset UsualStart = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    public List<BenchEvent> Events { get; } = [];
    public Ruling Ruling { get; } = ruling;
    private readonly BenchMemory memory = new();
    private (int Count, BenchState State)? known;

    /// <summary>Computed once for what has happened so far; events are only added.</summary>
    public BenchState State
    {
        get
        {
            if (known is not { } last || last.Count != Events.Count)
                known = last = (Events.Count, BenchState.Of(Ruling, Events, memory));
            return last.State;
        }
    }

    public static readonly Item Kettle = new()
    {
        Kind = ItemKind.Appliance,
        Class = ProtectionClass.I,
        Heating = true,
        RatedPower = new(2200),
        RatedVoltage = new(230),
        PlugFuse = new(13),
        Cord = new(new Metres(1.5), new SquareMillimetres(1.0)),
    };

    public static readonly Item Drill = Kettle with
    {
        Class = ProtectionClass.II,
        Heating = false,
        Use = UseOf.Handheld,
        RatedPower = new Watts(750),
    };
    public static readonly Item Reel = new()
    {
        Kind = ItemKind.ExtensionLead,
        Outlets = 3,
        PlugFuse = new(13),
        Cord = new(new Metres(10), new SquareMillimetres(1.5)),
    };

    public static readonly Item Pump = new()
    {
        Kind = ItemKind.MedicalDevice,
        Class = ProtectionClass.I,
        RatedPower = new(40),
        RatedVoltage = new(230),
        Cord = new(new Metres(2), new SquareMillimetres(1.0), Detachable: true),
        AppliedParts = [new("drip", AppliedPartType.CF)],
    };

    /// <summary>Of somebody who may test everything.</summary>
    public static readonly ImmutableArray<HeldCompetence> Competent =
    [
        .. CompetenceFor.All.Select(it => new HeldCompetence(it, null, "assessed")),
    ];

    /// <summary>What has no plug is measured with it.</summary>
    public static readonly KitInHand Clamp = OffTheLine(
        "a3",
        "Clamp",
        KitKind.LeakageClamp,
        new StatedAccuracy(Test.Leakage, 2, 3, 0.01, "mA")
    );

    /// <summary>Two probes, no outlet: reads whole hundredths of an ohm, and nothing of leakage.</summary>
    public static readonly KitInHand Meter = OffTheLine(
        "a4",
        "Meter",
        KitKind.Meter,
        new(Test.EarthContinuity, 2, 3, 0.01, "ohm", TestCurrentA: 0.2),
        new(Test.Insulation, 3, 3, 0.01, "Mohm")
    );

    private static KitInHand OffTheLine(string number, string name, KitKind kind, params StatedAccuracy[] stated) =>
        new(
            Guid.Parse($"00000000-0000-0000-0000-0000000000{number}"),
            name,
            number,
            new(2027, 1, 1),
            "",
            null,
            null,
            [],
            [.. stated],
            null,
            false
        )
        {
            Kind = kind,
        };

    public static readonly KitInHand Analyser = new(
        Guid.Parse("00000000-0000-0000-0000-0000000000a1"),
        "Analyser",
        "1",
        new(2027, 1, 1),
        "Lead B",
        0.04,
        UsualStart,
        [
            "earthContinuity",
            "insulation",
            "leakage/protectiveConductor",
            "leakage/touch",
            "leakage/equipment",
            "rcdTrip",
            "polarity",
            "wiring",
        ],
        [],
        null,
        true
    )
    {
        Pieces =
        [
            Piece(KitKind.VoltageIndicator, "V-1"),
            Piece(KitKind.VoltageIndicator, "V-0"),
            Piece(KitKind.VoltageIndicator, "V-2"),
            Piece(KitKind.ProvingUnit, "P-1"),
        ],
        Clamp = Clamp,
    };

    /// <summary>What a defibrillator delivers is measured with it.</summary>
    public static readonly KitInHand PerformanceAnalyser = new(
        Guid.Parse("00000000-0000-0000-0000-0000000000a2"),
        "Performance analyser",
        "2",
        new(2027, 1, 1),
        "",
        null,
        null,
        ["padPath", "defibEnergy", "defibCharge", "defibSync", "ecgAmplitude"],
        [new(Test.DefibEnergy, 1, 1, 0.1, "J")],
        null,
        true
    );

    /// <summary>Both in one job.</summary>
    public static readonly KitInHand BothAnalysers = Analyser with { Analyser = PerformanceAnalyser };

    public static KitPiece Piece(
        KitKind kind,
        string name,
        InstallationCategory? category = InstallationCategory.IV,
        KitFitness fitness = KitFitness.Fit,
        string? trouble = null
    ) => new(Guid.NewGuid(), kind, name, null, category, fitness, null, trouble);

    public static Ruling RulingFor(
        Item item,
        string pack = "uk-cop-5",
        bool isLead = false,
        ItemState state = ItemState.InService,
        KitInHand? kit = null
    ) =>
        new()
        {
            Item = new(
                Guid.Parse("00000000-0000-0000-0000-000000000001"),
                "T-1",
                "Thing",
                null,
                null,
                null,
                "Site",
                "Room",
                ClassEvidence.EarthSymbolOrPinMetalReachable,
                state,
                3,
                item
            ),
            Round = new(
                Guid.Parse("00000000-0000-0000-0000-000000000002"),
                "Round",
                Guid.Parse("00000000-0000-0000-0000-000000000003"),
                "Client",
                "CLT",
                "Europe/London"
            ),
            PackId = pack,
            PackVersion = PackLibrary.Find(pack)!.Version,
            Scope = Scopes.Usual(state),
            Kit = kit,
            Technician = new(Guid.Parse("00000000-0000-0000-0000-000000000004"), "Ida", "IF", isLead, Competent),
            Basis = new(
                Place.Kitchen,
                Usage.Normal,
                Moved.Sometimes,
                Users.Trained,
                null,
                new(2026, 4, 1),
                new(2026, 4, 1),
                12,
                false,
                [],
                2
            ),
            Today = new(2026, 3, 2),
            Outlets = [Workbench(item, pack)],
        };

    /// <summary>Found good that morning; items are brought to it.</summary>
    public static OutletOfTheDay Workbench(Item item, string pack = "uk-cop-5")
    {
        var supply = OutletSupply.For(item, PackLibrary.Find(pack)!);
        return new(
            Guid.Parse("00000000-0000-0000-0000-0000000000b1"),
            Guid.Parse("00000000-0000-0000-0000-000000000004"),
            "bench, left",
            "Workshop",
            true,
            UsualStart.AddHours(-1),
            "Ida",
            supply,
            GoodVoltages(supply)
        );
    }

    /// <summary>Just what the supply should give.</summary>
    public static ImmutableArray<OutletVoltage> GoodVoltages(OutletSupply supply) =>
        [
            .. supply.Pairs.Select(pair => new OutletVoltage(
                pair,
                pair == "N-E" ? (supply.IsCentreEarthed ? supply.NominalV / 2 : 0.4)
                    : pair == "L-E" && supply.IsCentreEarthed ? supply.NominalV / 2
                    : pair[^2..] is "-N" or "-E" ? supply.NominalV
                    : supply.NominalV * Math.Sqrt(3)
            )),
        ];

    public static OnTheBench With(
        Item item,
        string pack = "uk-cop-5",
        bool isLead = false,
        ItemState state = ItemState.InService,
        KitInHand? kit = null
    ) => new(RulingFor(item, pack, isLead, state, kit));

    private (Guid Id, DateTimeOffset At) Next() =>
        (Guid.Parse($"10000000-0000-0000-0000-{Events.Count:000000000000}"), Start.AddSeconds(10 * Events.Count));

    /// <summary>Appends and gives back its id.</summary>
    public Guid Happens(Func<(Guid Id, DateTimeOffset At), BenchEvent> made)
    {
        var it = made(Next());
        Events.Add(it);
        return it.Id;
    }

    public OnTheBench LookGood()
    {
        LookAs(LookAnswer.Good);
        return this;
    }

    public Guid LookAs(LookAnswer answer, string? words = null, string? point = null) =>
        Happens(next => new Looked
        {
            Id = next.Id,
            At = next.At,
            Points =
            [
                .. State
                    .Sheet.Steps.OfType<SheetStep.Look>()
                    .First()
                    .Points.Where(it => point is null || it.Id == point)
                    .Select(it => new LookFinding(it.Id, answer, words)),
            ],
        });

    public Guid Type(string step, string text, string? at = null) =>
        Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = step,
            Source = ReadingSource.Typed,
            Text = text,
            Point = at,
        });

    public Guid Answer(string step, bool ok, string? note = null) =>
        Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = step,
            Source = ReadingSource.Typed,
            Ok = ok,
            Note = ok ? note : note ?? "broken",
        });

    public Guid NoTrip(string step) =>
        Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = step,
            Source = ReadingSource.Typed,
            Tripped = false,
        });

    /// <summary>Charged to the maximum and discharged, so many times, ten seconds apart.</summary>
    public void Discharge(int times)
    {
        for (var n = 0; n < times; n++)
            Happens(next => new Discharged
            {
                Id = next.Id,
                At = next.At,
                Step = SheetStep.Discharges.OwnKey,
            });
    }

    public Guid Void(Guid target, string reason = "clip was off", string? point = null, VoidCause? cause = null) =>
        Happens(next => new Voided
        {
            Id = next.Id,
            At = next.At,
            Target = target,
            Reason = reason,
            Point = point,
            Cause = cause,
        });

    public Guid Photograph(string of) =>
        Happens(next => new PhotoTaken
        {
            Id = next.Id,
            At = next.At,
            Photo = Guid.NewGuid(),
            Of = of,
        });

    /// <summary>As an instrument measures an earth while the flex is moved.</summary>
    public Guid Flex(double ohm, string step = "earthContinuity") =>
        Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = step,
            Number = ohm,
            Unit = "ohm",
            Source = ReadingSource.Instrument,
            Seal = "s",
            With = Ruling.Kit?.Id,
            Lowest = ohm,
        });

    public Guid Confirm(string step, string? words = null) =>
        Happens(next => new Confirmed
        {
            Id = next.Id,
            At = next.At,
            Step = step,
            Words = words ?? (step == SafeIsolation.Identify ? "ring 3, fused unit 7; Ida of the kitchen; the fridge goes dark" : null),
        });

    /// <param name="indicator">The first of the day's kit where none is named.</param>
    public Guid Prove(bool works = true, string? indicator = null, IndicatorKind type = IndicatorKind.TwoPole) =>
        Happens(next => new IndicatorProved
        {
            Id = next.Id,
            At = next.At,
            Indicator = indicator ?? Ruling.Kit?.Pieces.FirstOrDefault(it => it.Kind == KitKind.VoltageIndicator)?.Name ?? "V-1",
            Type = type,
            Works = works,
        });

    public Guid TestDead(Side side, string pair, double volts = 0) =>
        Happens(next => new DeadTested
        {
            Id = next.Id,
            At = next.At,
            Side = side,
            Pair = pair,
            Volts = volts,
        });

    public Guid BeginIsolationAgain(string reason = "to measure again") =>
        Happens(next => new IsolationBegunAgain
        {
            Id = next.Id,
            At = next.At,
            Reason = reason,
        });

    public Guid LeaveLock(bool stays, string words) =>
        Happens(next => new LockLeft
        {
            Id = next.Id,
            At = next.At,
            Stays = stays,
            Words = words,
        });

    public Guid CheckOutlet(string name = "by the door", bool isWorkbench = false, params OutletVoltage[] voltages) =>
        Happens(next => new OutletChecked
        {
            Id = next.Id,
            At = next.At,
            Name = name,
            Room = Ruling.Item.Room,
            IsWorkbench = isWorkbench,
            Voltages = voltages.Length > 0 ? voltages : GoodVoltages(State.Outlet!.Supply),
        });

    public Guid KeepOutlet(Guid outlet) =>
        Happens(next => new OutletKept
        {
            Id = next.Id,
            At = next.At,
            Outlet = outlet,
        });

    public Guid Choose(Scope scope) =>
        Happens(next => new ScopeChosen
        {
            Id = next.Id,
            At = next.At,
            Scope = scope,
        });

    public Guid Override(Guid target, Status to, string reason = "second instrument") =>
        Happens(next => new Overridden
        {
            Id = next.Id,
            At = next.At,
            Target = target,
            To = to,
            Reason = reason,
        });

    public Guid Change(FactChanges changes) =>
        Happens(next => new FactsChanged
        {
            Id = next.Id,
            At = next.At,
            Changes = changes,
            Reason = "read off the plate",
        });

    /// <summary>On metal where its facts allow that, else on foil.</summary>
    public Guid PlaceProbe(ProbeOn? on = null) =>
        Happens(next => new ProbePlaced
        {
            Id = next.Id,
            At = next.At,
            On = on ?? Probing.Offered(State.Ruling.Item.Equipment)[0],
        });

    public Guid TryProbe(bool works) =>
        Happens(next => new ProbeTried
        {
            Id = next.Id,
            At = next.At,
            Works = works,
        });

    public StepState Step(string key) => State.Steps.Single(step => step.Step.Key == key);

    public Standing Stands(string key) => Step(key).Standing;

    public bool IsOpen(EndKind kind) => State.EndOf(kind).IsOpen;

    public StateView View => new BenchSession(Ruling, Events).View(null).Now;

    /// <summary>As it would be saved a minute after the last thing happened.</summary>
    public InspectionRecord Record(EndKind end = EndKind.Pass) =>
        RecordWriter.Write(State, Events, new(end), Guid.NewGuid(), Next().At.AddMinutes(1), TimeZoneInfo.Utc, new(2026, 1, 1)).Value;

    /// <summary>Where the probe lies and what touches the patient is said when it is asked.</summary>
    public bool Says { get; init; } = true;

    /// <summary>What is read through a probe shows something.</summary>
    public bool Shows { get; init; } = true;

    /// <summary>Everything that is left is done well.</summary>
    public OnTheBench PassTheRest()
    {
        PassUntil(null);
        if (State.AsksProbeTried && Says && Shows)
            TryProbe(works: true);
        EvaluateAsProposed();
        return this;
    }

    public void EvaluateAsProposed()
    {
        if (State.Proposal is { } proposal)
            Happens(next => new Evaluated
            {
                Id = next.Id,
                At = next.At,
                Evaluation = proposal.Evaluation,
            });
    }

    /// <summary>Everything before a step is done well; null: everything.</summary>
    public void PassUntil(string? step)
    {
        // What stays undecided however often it is read would fill the sheet; no step wants more points than these.
        var tries = new Dictionary<string, int>();
        while (State.Current is { } key && key != step && (tries[key] = tries.GetValueOrDefault(key) + 1) <= 8)
        {
            switch (Step(key).Step)
            {
                case SheetStep.Look:
                    LookGood();
                    break;
                case SheetStep.Discharges discharges:
                    Discharge(discharges.Needed - Step(key).Taken.Length);
                    break;
                case SheetStep.Confirm or SheetStep.Pause or SheetStep.ChangeOver:
                    Confirm(key);
                    break;
                case SheetStep.Outlet:
                    CheckOutlet();
                    break;
                case SheetStep.Prove:
                    Prove();
                    break;
                case SheetStep.Dead dead:
                    foreach (var pair in State.Isolation.Pairs)
                        TestDead(dead.Side, pair);
                    break;
                case SheetStep.Function or SheetStep.Check { Plan.Target: null }:
                    Answer(key, true);
                    break;
                case SheetStep.Measure when Says && !State.Ruling.Item.Equipment.IsPatientSideKnown:
                    Change(new() { NoAppliedParts = true });
                    break;
                case SheetStep.Measure { Plan.AsksProbe: true } when Says && State.Probe is null:
                    PlaceProbe();
                    break;
                case SheetStep.Measure measure:
                    Pass(measure.Plan);
                    break;
            }
        }
    }

    private void Pass(PlanStep plan)
    {
        if (plan.Under is Conditions.RcdTrip { Multiple: < 1 })
            NoTrip(plan.Key);
        else if (ReadingOf.UsualUnit(plan, Ruling.Pack) is null)
            Answer(plan.Key, true);
        else if (plan.Under.Set is { } set)
            Type(plan.Key, QuantityText.Number(set.Si / ReadingOf.UsualUnit(plan, Ruling.Pack)!.Factor));
        else
            Type(
                plan.Key,
                plan.Test == Test.Insulation ? ">200M"
                    : !Shows && Probing.IsProbed(State.Ruling.Item.Equipment, plan.Under) ? "0"
                    : QuantityText.Number(
                        ((plan as PlanStep.Measure)?.Limit?.Value?.Si ?? 1) * 0.3 / ReadingOf.UsualUnit(plan, Ruling.Pack)!.Factor,
                        6
                    )
            );
    }
}
