using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Shouldly;

namespace Osierwand.Core.Tests.Bench;

/// <summary>A device that needs time to start is read when it has started, after every switching on.</summary>
public class StartUpTests
{
    private const string Leakage = "leakage/equipment";

    /// <summary>15 s to start; whatever happens at this bench is 10 s apart.</summary>
    private static OnTheBench Started(int seconds = 15)
    {
        var bench = OnTheBench.With(
            OnTheBench.Pump with
            {
                StartUpSeconds = seconds,
                MainsSwitch = MainsSwitch.Electronic,
                AppliedParts = [],
            },
            "iec-62353-2014"
        );
        bench.PassUntil("pause/1");
        bench.State.Current.ShouldBe("pause/1");
        bench.Confirm("pause/1");
        return bench;
    }

    private static TakenReading Last(OnTheBench bench) => bench.State.Readings[^1];

    [Fact]
    public void What_is_typed_before_it_has_started_is_kept_and_counts_for_nothing()
    {
        var bench = Started();
        bench.Type(Leakage, "120u");
        Last(bench).Void.ShouldBe("read 5 s before it had started");
        bench.Stands(Leakage).ShouldNotBe(Standing.Pass);
        bench.View.RunsFrom.ShouldBe(bench.Events[^2].At.AddSeconds(15));
        bench.Type(Leakage, "120u");
        Last(bench).Void.ShouldBeNull();
        bench.Stands(Leakage).ShouldBe(Standing.Pass);
    }

    [Fact]
    public void A_failure_is_one_however_early()
    {
        var bench = Started();
        bench.Type(Leakage, "900u");
        Last(bench).Void.ShouldBeNull();
        bench.State.HasFailed.ShouldBeTrue();
    }

    [Fact]
    public void What_starts_fast_enough_waits_for_nothing()
    {
        var bench = Started(seconds: 10);
        bench.Type(Leakage, "120u");
        Last(bench).Void.ShouldBeNull();
    }

    [Fact]
    public void An_instrument_waits_by_itself()
    {
        var bench = Started();
        bench.Happens(next => new ReadingTaken
        {
            Id = next.Id,
            At = next.At,
            Step = Leakage,
            Source = ReadingSource.Instrument,
            Seal = "kept by the server",
            Number = 120,
            Unit = "uA",
            Mains = 230,
            LoadA = 0.2,
        });
        Last(bench).Void.ShouldBeNull();
    }

    [Theory]
    [InlineData("parked")]
    [InlineData("mainsLost")]
    [InlineData("takenOver")]
    public void Whatever_took_its_mains_away_asks_for_switching_it_on_again(string how)
    {
        var bench = Started();
        bench.Step(Leakage).Start.IsGiven.ShouldBeTrue();
        if (how == "parked")
            bench.Happens(next => new Parked { Id = next.Id, At = next.At });
        bench.Happens(next =>
            how switch
            {
                "parked" => new Resumed { Id = next.Id, At = next.At },
                "mainsLost" => new MainsLost
                {
                    Id = next.Id,
                    At = next.At,
                    Step = Leakage,
                },
                _ => new TakenOver
                {
                    Id = next.Id,
                    At = next.At,
                    HandOver = Guid.NewGuid(),
                    From = "Ida",
                },
            }
        );
        bench.State.RunsFrom.ShouldBeNull();
        bench.Step(Leakage).Start.IsGiven.ShouldBeFalse();
        bench.PassUntil(Leakage);
        bench.Step(Leakage).Start.IsGiven.ShouldBeTrue();
        bench.State.RunsFrom.ShouldNotBeNull();
    }

    /// <summary>With "device off" as a condition of its own it is switched several times: only how it stood last is brought back.</summary>
    [Fact]
    public void What_was_switched_before_is_past()
    {
        var bench = OnTheBench.With(OnTheBench.Pump with { AppliedParts = [] }, "nfpa-99-2012");
        var pauses = bench.State.Sheet.Steps.OfType<SheetStep.Pause>().Select(it => it.Key).ToArray();
        pauses.Length.ShouldBeGreaterThan(1);
        bench.PassUntil(pauses[1]);
        bench.Confirm(pauses[1]);
        bench.Happens(next => new Parked { Id = next.Id, At = next.At });
        bench.Happens(next => new Resumed { Id = next.Id, At = next.At });
        bench.Stands(pauses[0]).ShouldBe(Standing.Pass);
        bench.Stands(pauses[1]).ShouldBe(Standing.Open);
        bench.State.Current.ShouldBe(pauses[1]);
    }
}
