using System.Collections.Immutable;
using BenchmarkDotNet.Attributes;
using Osierwand.Core.Competences;
using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>What the server computes at a save, without the database: the whole sheet anew, its fingerprints and the record.</summary>
[MemoryDiagnoser]
public class EndOfASheet
{
    private static readonly DateTimeOffset At = new(2026, 3, 2, 9, 0, 0, TimeSpan.Zero);
    private Ruling ruling = null!;
    private List<BenchEvent> events = null!;
    private string sent = null!;

    [GlobalSetup]
    public void Setup()
    {
        ruling = Laid();
        events =
        [
            new Looked
            {
                Id = Guid.NewGuid(),
                At = At,
                Points =
                [
                    .. BenchState
                        .Of(ruling, [])
                        .Sheet.Steps.OfType<SheetStep.Look>()
                        .Single()
                        .Points.Select(point => new LookFinding(point.Id, LookAnswer.Good, null)),
                ],
            },
            Read("earthContinuity", "0.05"),
            Read("insulation", ">500M"),
            new OutletChecked
            {
                Id = Guid.NewGuid(),
                At = At,
                Name = "bench, left",
                Room = "Workshop",
                Voltages = [new("L-N", 231), new("L-E", 230), new("N-E", 0.4)],
            },
            Read("leakage/protectiveConductor", "0.31mA"),
            Read("functional", null, true),
        ];
        sent = BenchJson.Write(events);
    }

    /// <summary>Ruling and events to state, as at every start of the instrument.</summary>
    [Benchmark(Baseline = true)]
    public bool State() => BenchState.Of(Anew(), events).HasFailed;

    /// <summary>What the save compares with the page.</summary>
    [Benchmark]
    public int Fingerprints()
    {
        var fresh = Anew();
        return fresh.Fingerprint.Length + BenchState.Of(fresh, events).Fingerprint.Length;
    }

    /// <summary>All of it: events read, state, fingerprints, record written.</summary>
    [Benchmark]
    public int Save()
    {
        var fresh = Anew();
        var happened = BenchJson.ReadEvents(sent).Value;
        var state = BenchState.Of(fresh, happened);
        var record = RecordWriter
            .Write(state, happened, new(EndKind.Pass, null, null), Guid.NewGuid(), At, TimeZoneInfo.Utc, DateOnly.MinValue)
            .Value;
        return fresh.Fingerprint.Length + state.Fingerprint.Length + record.ToJson().Length + BenchJson.Write(record.Taken).Length;
    }

    /// <summary>A ruling remembers what it worked out; the server makes one for each request.</summary>
    private Ruling Anew() => ruling with { Today = new(2026, 3, 2) };

    private static ReadingTaken Read(string step, string? text, bool? ok = null) =>
        new()
        {
            Id = Guid.NewGuid(),
            At = At,
            Step = step,
            Source = ReadingSource.Typed,
            Text = text,
            Ok = ok,
        };

    private static Ruling Laid() =>
        new()
        {
            Item = new(
                Guid.NewGuid(),
                "T-1",
                "Kettle",
                null,
                null,
                null,
                "Site",
                "Room",
                ClassEvidence.EarthSymbolOrPinMetalReachable,
                ItemState.InService,
                3,
                new()
                {
                    Kind = ItemKind.Appliance,
                    Class = ProtectionClass.I,
                    Heating = true,
                    RatedPower = new(2200),
                    RatedVoltage = new(230),
                    PlugFuse = new(13),
                    Cord = new(new Metres(1.5), new SquareMillimetres(1.0)),
                }
            ),
            Round = new(Guid.NewGuid(), "Round", Guid.NewGuid(), "Client", "CLT", "Europe/London"),
            PackId = "uk-cop-5",
            PackVersion = PackLibrary.Find("uk-cop-5")!.Version,
            Scope = Scope.Combined,
            Technician = new(
                Guid.NewGuid(),
                "Ida",
                "IF",
                false,
                [.. CompetenceFor.All.Select(it => new HeldCompetence(it, null, "assessed"))]
            ),
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
        };
}
