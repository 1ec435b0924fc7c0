using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Osierwand.Instruments.Line;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>A defibrillator before a performance analyser: charged, discharged and judged over the real protocol.</summary>
public class ShockTests
{
    private const string Pack = "iec-62353-2014";
    private static readonly int[] Settings = [20, 50, 100, 200, 360];
    private static readonly Item Device = Things.Monitor with
    {
        Defibrillator = new([20, 50, 100, 200, 360], Synchronises: true, EcgSetMv: 1),
    };

    private static OnTheBench Sheet() =>
        new(OnTheBench.RulingFor(Device, Pack, kit: OnTheBench.BothAnalysers with { Functions = Measuring.Functions }));

    private static Task<Workshop> AtTheAnalyser(double pace = 0) => Workshop.OpenAsync(pace, role: InstrumentRole.Performance);

    /// <summary>Fourteen discharges, as the hub has them counted.</summary>
    private static async Task<int> Watch(Workshop shop, OnTheBench sheet)
    {
        var step = sheet.State.Sheet.Steps.OfType<SheetStep.Discharges>().Single();
        var reports = await shop.Reports(sheet.State.Ruling.WatchFor(step, step.Needed));
        sheet.Discharge(reports[^1].Showing.Counted ?? 0);
        return reports[^1].Showing.Counted ?? 0;
    }

    [Fact]
    public async Task A_sound_one_delivers_what_it_is_set_to_and_all_of_it_passes()
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Device, tag: "sound");
        var sheet = Sheet();
        await shop.Measure(sheet, "padPath");
        foreach (var joule in Settings)
            await shop.Measure(sheet, $"defibEnergy/{joule} J");
        (await Watch(shop, sheet)).ShouldBe(14);
        await shop.Measure(sheet, "defibCharge");
        await shop.Measure(sheet, "defibSync");
        await shop.Measure(sheet, "ecgAmplitude/0.001 V");
        sheet.State.Readings.ShouldAllBe(it => it.Judgement!.Status == Status.Pass);
        sheet.State.Readings.Length.ShouldBe(Settings.Length + 4);
    }

    public static TheoryData<Fault, string, Status> Broken =>
        new()
        {
            { Fault.AgedCapacitor, "defibEnergy/50 J", Status.Fail },
            { Fault.AgedCapacitor, "defibEnergy/360 J", Status.Fail },
            { Fault.LateShock, "defibSync", Status.Fail },
            { Fault.WrongTrace, "ecgAmplitude/0.001 V", Status.Fail },
            { Fault.WornPads, "padPath", Status.Fail },
            { Fault.PadsOpen, "padPath", Status.Fail },
            // The patient gets the same energy either way round.
            { Fault.SwappedPaddles, "defibEnergy/200 J", Status.Pass },
        };

    [Theory]
    [MemberData(nameof(Broken))]
    public async Task What_is_wrong_with_it_shows_where_it_should(Fault fault, string step, Status status)
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Device, fault, tag: "broken");
        var sheet = Sheet();
        await shop.Measure(sheet, step);
        sheet.State.Readings[^1].Judgement!.Status.ShouldBe(status);
    }

    [Fact]
    public async Task Swapped_paddles_are_told_though_the_energy_is_right()
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Device, Fault.SwappedPaddles);
        var sheet = Sheet();
        await shop.Measure(sheet, "defibEnergy/200 J");
        var reading = sheet.View.Readings[^1];
        reading.Note.ShouldBe("the first phase is negative: apex and sternum have changed places");
        reading.Waveform!.Values.Take(20).Min().ShouldBeLessThan(-10);
    }

    /// <summary>A fresh battery hides it: that is why fourteen come before.</summary>
    [Fact]
    public async Task A_weak_battery_shows_at_the_fifteenth_charge_and_not_at_the_first()
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Device, Fault.WeakBattery, tag: "weak");
        var first = await shop.Measure(new Conditions.DefibCharge(), seconds: 60);
        first.Value!.Value.Number.ShouldBeLessThan(15);
        var sheet = Sheet();
        (await Watch(shop, sheet)).ShouldBe(14);
        await shop.Measure(sheet, "defibCharge");
        sheet.Stands("defibCharge").ShouldBe(Standing.Fail);
        sheet.IsOpen(EndKind.Pass).ShouldBeFalse();
    }

    [Fact]
    public async Task Without_contact_nothing_is_charged()
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Device, Fault.PadsOpen);
        var refused = await Should.ThrowAsync<InstrumentException>(() => shop.Measure(Sheet(), "defibEnergy/20 J"));
        refused.Message.ShouldContain("no contact");
        (await shop.Hands.OrderAsync(new("look"), TestContext.Current.CancellationToken)).LiveVolts.ShouldBe(0);
    }

    [Fact]
    public async Task What_delivers_no_shock_is_refused_and_so_is_what_it_cannot_measure()
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Things.Monitor);
        (await Should.ThrowAsync<InstrumentException>(() => shop.Measure(Sheet(), "padPath"))).Message.ShouldContain(
            "nothing that charges"
        );
        (await Should.ThrowAsync<InstrumentException>(() => shop.Measure(new Conditions.EarthContinuity()))).Trouble.ShouldBe(
            LineTrouble.Refused
        );
        await using var other = await Workshop.OpenAsync();
        await other.Place(Device);
        (await Should.ThrowAsync<InstrumentException>(() => other.Measure(Sheet(), "padPath"))).Trouble.ShouldBe(LineTrouble.Refused);
    }

    [Fact]
    public async Task While_it_charges_it_is_live_and_a_stop_discharges_nothing_into_the_figures()
    {
        await using var shop = await AtTheAnalyser(pace: 1);
        await shop.Place(Device, tag: "stopped");
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(TestContext.Current.CancellationToken);
        var request = Sheet()
            .State.Ruling.RequestFor(
                Sheet().State.Sheet.Steps.OfType<SheetStep.Measure>().Single(step => step.Key == "defibEnergy/360 J").Plan
            );
        var live = 0.0;
        try
        {
            await foreach (var report in shop.Instrument.MeasureAsync(request, stop.Token))
            {
                report.Showing.Value.ShouldBeNull();
                live = Math.Max(live, shop.Benches[0].Item!.LiveVolts);
                await stop.CancelAsync();
            }
        }
        catch (OperationCanceledException) { }
        live.ShouldBeGreaterThan(1000);
        shop.Benches[0].Item!.LiveVolts.ShouldBe(0);
        shop.Benches[0].Item!.DrawnJoules.ShouldBe(0);
    }

    /// <summary>The heat of the current that is drawn, in the load, is the energy that is shown: 50 ohm times the integral of its
    /// square.</summary>
    [Theory]
    [InlineData(50)]
    [InlineData(200)]
    [InlineData(360)]
    public async Task The_curve_holds_the_energy_that_is_shown(int joule)
    {
        await using var shop = await AtTheAnalyser();
        await shop.Place(Device, tag: "drawn");
        var sheet = Sheet();
        var shown = await shop.Measure(sheet, $"defibEnergy/{joule} J");
        var drawn = shown.Waveform!;
        (drawn.Unit, drawn.EveryUnit).ShouldBe(("A", "ms"));
        // Trapezoids, but for the four steps between rising and falling: within three in a hundred.
        var heat = drawn.Values.Sum(amperes => amperes * amperes) * drawn.Every / 1000 * ShockBuild.LoadOhm;
        heat.ShouldBe(shown.Value!.Value.Number, shown.Value.Value.Number * 0.03);
    }

    [Fact]
    public async Task A_curve_that_did_not_come_whole_takes_nothing_from_the_figure()
    {
        const string Reading = "READING test=defibEnergy value=199.5 unit=J elapsed=9";
        string[] whole = ["WAVE from=0 of=current every=0.1 per=ms unit=A values=0,40,20", "WAVE from=3 values=10,0"];
        (await Heard([.. whole, Reading])).Waveform!.Values.ShouldBe([0, 40, 20, 10, 0]);
        foreach (
            var lines in (string[][])
                [
                    [whole[1]],
                    [whole[0], "WAVE from=7 values=1"],
                    [whole[0], "WAVE from=3 values=1,x"],
                    ["WAVE from=0 of=current every=0 per=ms unit=A values=0,1"],
                    ["WAVE from=0 of=current every=1 per=days unit=A values=0,1"],
                ]
        )
        {
            var heard = await Heard([.. lines, Reading]);
            heard.Waveform.ShouldBeNull(string.Join(" | ", lines));
            heard.Value!.Value.ToString().ShouldBe("199.5 J");
        }
    }

    /// <summary>JavaScript writes a negative nothing as 0; the server compares what comes back with what it kept.</summary>
    [Fact]
    public async Task Nothing_that_is_kept_holds_a_negative_nothing()
    {
        var heard = await Heard([
            "WAVE from=0 of=current every=0.1 per=ms unit=A values=-0,40,-0.0",
            "READING test=defibEnergy value=-0 unit=J",
        ]);
        var step = Sheet().State.Sheet.Steps.OfType<SheetStep.Measure>().Single(it => it.Key == "defibEnergy/200 J").Plan;
        var text = BenchJson.Write([heard.AsTaken(step, Guid.NewGuid(), DateTimeOffset.UnixEpoch, null)]);
        text.ShouldContain("\"number\":0,");
        text.ShouldContain("\"values\":[0,40,0]");
    }

    private static async Task<InstrumentReading> Heard(string[] lines)
    {
        await using var instrument = new LineInstrument(new Said(lines), TimeSpan.FromSeconds(1));
        InstrumentReading? last = null;
        var request = Workshop.Asking(new Conditions.DefibEnergy(new(200, Core.Quantities.Dimension.Energy)));
        await foreach (var report in instrument.MeasureAsync(request, TestContext.Current.CancellationToken))
            last = report.Reading;
        return last.ShouldNotBeNull();
    }

    /// <summary>Says the same lines to every question.</summary>
    private sealed class Said(string[] lines) : ILineTransport
    {
        private readonly Queue<string> left = new(lines.Select(line => Message.Checked($"1 {line}")));

        public Task SendAsync(string line, CancellationToken cancel) => Task.CompletedTask;

        public Task<string?> ReceiveAsync(CancellationToken cancel) => Task.FromResult(left.TryDequeue(out var line) ? line : null);

        public ValueTask DisposeAsync() => ValueTask.CompletedTask;
    }
}
