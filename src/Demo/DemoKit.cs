using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Bench;
using Osierwand.Core.Competences;
using Osierwand.Core.Kit;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Server.Kit;
using Osierwand.Simulator;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>The demo house's kit with a month of daily checks, and what its people are competent for.</summary>
internal static class DemoKit
{
    public const double NullOhm = 0.04;

    /// <summary>A working month of daily checks.</summary>
    private const int Days = 24;

    /// <summary>Of everybody who tested in the demo's past.</summary>
    public static readonly ImmutableArray<HeldCompetence> Assessed =
    [
        .. CompetenceFor.All.Select(it => new HeldCompetence(it, null, "Assessed at Withy Lane, on items with hidden faults")),
    ];

    /// <summary>What hard-wired equipment was proved dead with.</summary>
    public static readonly ImmutableArray<KitPiece> ForIsolation =
    [
        new(Guid.Empty, KitKind.VoltageIndicator, "Indicator 1", null, InstallationCategory.IV, KitFitness.Fit, null, null),
        new(Guid.Empty, KitKind.ProvingUnit, "Proving unit 1", null, null, KitFitness.Fit, null, null),
    ];

    /// <summary>Its maker states of it what it says of itself on its line.</summary>
    private static readonly StatedAccuracy[] Analyser = [.. Ranges.Of(InstrumentRole.Safety).Select(Stating)];

    private static readonly StatedAccuracy[] Performance = [.. Ranges.Of(InstrumentRole.Performance).Select(Stating)];

    /// <summary>Calibrated once a year, on the same day of it.</summary>
    /// <param name="due">Its date today.</param>
    public static DateOnly CalibrationOn(DateOnly day, DateOnly due)
    {
        while (due.AddYears(-1) > day)
            due = due.AddYears(-1);
        return due;
    }

    /// <summary>As it was in hand on a day of the past.</summary>
    public static KitInHand AnalyserOn(DateOnly day, DateOnly today) =>
        new(
            DemoWorld.PerformanceAnalyserId,
            "Performance analyser 2",
            "OW-SIM-P2",
            CalibrationOn(day, today.AddMonths(7)),
            "",
            null,
            null,
            [],
            [.. Performance],
            null,
            true
        );

    /// <inheritdoc cref="AnalyserOn"/>
    public static KitInHand ClampOn(DateOnly day, DateOnly today) =>
        new(
            DemoWorld.LeakageClampId,
            "Clamp 3",
            "LC-0388",
            CalibrationOn(day, today.AddMonths(5)),
            "",
            null,
            null,
            [],
            [.. Clamp],
            null,
            false
        )
        {
            Kind = KitKind.LeakageClamp,
        };

    private static StatedAccuracy Stating(InstrumentRange range) =>
        new(range.Test, range.Percent, range.Digits, range.Step, range.Unit.Symbol, range.From, range.To, range.TestAmperes);

    /// <summary>A meter of the coarse kind: good for a board, too coarse for an earth limit of a tenth of an ohm.</summary>
    private static readonly StatedAccuracy[] Meter =
    [
        new(Test.EarthContinuity, 2, 3, 0.1, "ohm", 0, 200, 0.2),
        new(Test.Insulation, 3, 3, 0.01, "Mohm", 0, 1_000),
    ];

    /// <summary>Shows 0.01 mA: fine enough for what a hard-wired item may leak.</summary>
    private static readonly StatedAccuracy[] Clamp = [new(Test.Leakage, 2, 5, 0.01, "mA", 0, 60)];

    private static readonly StatedValue[] Stated =
    [
        new("earth", Test.EarthContinuity, "Earth path", 0.2, "ohm", 0.02),
        new("insulation", Test.Insulation, "Insulation", 1, "Mohm", 0.06),
        new("leakage", Test.Leakage, "Leakage", 0.5, "mA", 0.03),
    ];

    public static void Add(OsierwandDb db, IReadOnlyList<Person> people, DateTimeOffset now, DateOnly today)
    {
        var analyser = new KitItem
        {
            Id = DemoWorld.AnalyserId,
            Kind = KitKind.Instrument,
            Name = "Bench analyser 2",
            Maker = "Hollin Instruments",
            Model = "HA 40",
            Serial = "OW-SIM-2",
            CalibratedOn = today.AddMonths(-8),
            CalibrationDue = today.AddMonths(4),
            Certificate = "HC 2207",
            Category = InstallationCategory.III,
            Accuracies = Json(Analyser),
        };
        var box = new KitItem
        {
            Id = Guid.CreateVersion7(),
            Kind = KitKind.CheckBox,
            Name = "Check box 1",
            Maker = "Hollin Instruments",
            Serial = "CB-114",
            CalibratedOn = today.AddMonths(-3),
            CalibrationDue = today.AddMonths(9),
            Certificate = "HC 2291",
            StatedValues = Json(Stated),
        };
        KitItem[] chosen =
        [
            analyser,
            new()
            {
                Id = Guid.CreateVersion7(),
                Kind = KitKind.TestLead,
                Name = "Lead B",
                Maker = "Hollin Instruments",
                Category = InstallationCategory.III,
                ProductStandard = "EN 61010-031",
                NullOhm = NullOhm,
                NulledAt = now.AddHours(-2),
            },
            Looked(KitKind.Probes, "Probes 2", InstallationCategory.III),
            Looked(KitKind.VoltageIndicator, "Indicator 1", InstallationCategory.IV),
            Looked(KitKind.ProvingUnit, "Proving unit 1", null),
            Looked(KitKind.Adapter, "Adapter 110 V", null),
            new()
            {
                Id = DemoWorld.PerformanceAnalyserId,
                Kind = KitKind.PerformanceAnalyser,
                Name = "Performance analyser 2",
                Maker = "Hollin Instruments",
                Model = "HP 12",
                Serial = "OW-SIM-P2",
                CalibratedOn = today.AddMonths(-5),
                CalibrationDue = today.AddMonths(7),
                Certificate = "HC 2238",
                Accuracies = Json(Performance),
            },
            new()
            {
                Id = DemoWorld.LeakageClampId,
                Kind = KitKind.LeakageClamp,
                Name = "Clamp 3",
                Maker = "Tarn & Holt",
                Model = "TH 60",
                Serial = "LC-0388",
                CalibratedOn = today.AddMonths(-7),
                CalibrationDue = today.AddMonths(5),
                Certificate = "HC 2215",
                Category = InstallationCategory.III,
                Accuracies = Json(Clamp),
            },
        ];
        KitItem[] others =
        [
            box,
            new()
            {
                Id = Guid.CreateVersion7(),
                Kind = KitKind.Meter,
                Name = "Meter 7",
                Maker = "Tarn & Holt",
                Model = "TH 210",
                Serial = "70-311",
                CalibratedOn = today.AddMonths(-11).AddDays(-12),
                CalibrationDue = today.AddDays(19),
                Certificate = "HC 2189",
                Category = InstallationCategory.IV,
                NullsItself = false,
                Accuracies = Json(Meter),
            },
            new()
            {
                Id = Guid.CreateVersion7(),
                Kind = KitKind.Instrument,
                Name = "Old analyser",
                Maker = "Hollin Instruments",
                Model = "HA 12",
                Serial = "HA12-0091",
                CalibratedOn = today.AddMonths(-14),
                CalibrationDue = today.AddMonths(-2),
                Accuracies = Json(Analyser),
            },
            new()
            {
                Id = Guid.CreateVersion7(),
                Kind = KitKind.Probes,
                Name = "Probes 1",
                Category = InstallationCategory.II,
                LookedAt = now.AddDays(-6),
                LookFitness = KitFitness.Barred,
                LookLines = ["Taped below the finger guard (Insulation whole over its length and at both entries; a tape repair is none)"],
            },
        ];
        foreach (var thing in chosen.Where(thing => !thing.Kind.Measures()))
            (thing.LookedAt, thing.LookFitness) = (now.AddHours(-2), KitFitness.Fit);
        Checked(db, analyser, box, people.Single(it => it.UserName == "ida"), now);
        foreach (var it in chosen.Where(it => it.LookedAt is not null))
            db.KitChecks.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    KitItemId = it.Id,
                    KitItem = it,
                    Kind = KitCheckKind.Look,
                    At = it.LookedAt!.Value,
                    PersonId = people.Single(one => one.UserName == "ida").Id,
                    Person = people.Single(one => one.UserName == "ida").DisplayName,
                    IsGood = true,
                    Result = "[]",
                }
            );
        db.Kit.AddRange([.. chosen, .. others]);
        foreach (var person in people.Where(it => it.UserName != DemoCatalogue.Viewer.UserName))
            db.KitsOfDay.Add(
                new()
                {
                    PersonId = person.Id,
                    At = now.AddHours(-2),
                    Items = [.. chosen.Select(it => it.Id)],
                }
            );
        Competences(db, people, today);
    }

    /// <summary>The leads hold all of it; of the technicians one is yet to be assessed for hard-wired equipment.</summary>
    private static void Competences(OsierwandDb db, IReadOnlyList<Person> people, DateOnly today)
    {
        foreach (var person in people.Where(it => it.UserName != DemoCatalogue.Viewer.UserName))
        {
            foreach (var competence in CompetenceFor.All.Where(it => it != Competence.InstallationChecks || person.UserName == "maud"))
            {
                if (person.UserName == "rufus" && competence is Competence.HardWired or Competence.ThreePhase)
                    continue;
                db.PersonCompetences.Add(
                    new()
                    {
                        PersonId = person.Id,
                        Competence = competence,
                        ExpiresOn = competence == Competence.HardWired ? today.AddMonths(7) : null,
                        Evidence =
                            competence == Competence.HardWired
                                ? "Course in safe isolation, assessed at Withy Lane"
                                : "Assessed at Withy Lane, on items with hidden faults",
                    }
                );
            }
        }
    }

    private static KitItem Looked(KitKind kind, string name, InstallationCategory? category) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            Kind = kind,
            Name = name,
            Maker = "Hollin Instruments",
            Category = category,
            ProductStandard = kind == KitKind.VoltageIndicator ? "EN 61243-3" : null,
        };

    /// <summary>Every working day a check, by the same judgement as at the bench; the leakage slowly creeps upward.</summary>
    private static void Checked(OsierwandDb db, KitItem analyser, KitItem box, Person by, DateTimeOffset now)
    {
        var tests = KitChecking.TestsOf(analyser);
        var kept = new List<KitCheck>();
        for (var day = Days; day >= 0; day--)
        {
            var creep = (Days - day) * 0.0008;
            var wobble = day % 3 - 1;
            var read = new Dictionary<string, string>
            {
                ["earth"] = Figure(0.202 + wobble * 0.002),
                ["insulation"] = Figure(1.01 + wobble * 0.01),
                ["leakage"] = Figure(0.499 + creep + wobble * 0.001),
            };
            var result = DailyCheck.Judge(Stated, tests, read, Thresholds.Shipped).Value;
            kept.Add(
                new()
                {
                    Id = Guid.CreateVersion7(),
                    KitItemId = analyser.Id,
                    KitItem = analyser,
                    Kind = KitCheckKind.Daily,
                    At = now.AddDays(-day).AddHours(-2),
                    PersonId = by.Id,
                    Person = by.DisplayName,
                    IsGood = result.IsGood,
                    CheckBoxId = box.Id,
                    Lines = [.. result.Lines.Select(line => $"{line.Name}: {line.Read}, {line.Allowed} allowed")],
                    Result = Json(result.Lines),
                }
            );
        }
        db.KitChecks.AddRange(kept);
        var last = kept[^1];
        (analyser.CheckedAt, analyser.CheckedBy, analyser.CheckedWith, analyser.CheckLines) = (last.At, last.Person, box.Name, last.Lines);
        analyser.Drifts =
        [
            .. KitChecking.DriftOf(kept, analyser.CalibratedOn, Thresholds.Shipped).Select(it => it.Warning).OfType<string>(),
        ];
    }

    private static string Figure(double value) => value.ToString("0.###", System.Globalization.CultureInfo.InvariantCulture);

    private static string Json<T>(T it) => JsonSerializer.Serialize(it, KitAtHand.Stored);
}
