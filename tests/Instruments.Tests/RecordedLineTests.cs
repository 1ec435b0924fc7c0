using System.Runtime.CompilerServices;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Line;
using Osierwand.Instruments.Meters;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>What docs/protocol.md shows is what a driver and an instrument say to one another: its transcripts are played.</summary>
public class RecordedLineTests
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task The_transcripts_of_the_protocols_page_are_played_to_their_end()
    {
        var played = 0;
        foreach (var (title, lines) in Transcripts())
        {
            await using var line = new RecordedLine(lines);
            var instrument = new LineInstrument(line, TimeSpan.FromSeconds(1));
            switch (title)
            {
                case "Who are you":
                    var identity = await instrument.IdentifyAsync(Cancel);
                    (identity.Name, identity.Serial, identity.Ranges.Length).ShouldBe(("Bench analyser 2", "OW-SIM-2", 7));
                    identity.Ranges.ShouldBe(Ranges.Of(InstrumentRole.Safety));
                    (await instrument.SelfTestAsync(Cancel)).ShouldBeNull();
                    (await instrument.NullAsync(Cancel)).Value.ShouldBe(0.041);
                    break;
                case "Earth while the flex is moved":
                    var earth = await Measured(instrument, Workshop.Asking(new Conditions.EarthContinuity()));
                    (earth.Value.ToString(), earth.Most.ToString(), earth.Least.ToString()).ShouldBe(("0.087 Ω", "0.092 Ω", "0.084 Ω"));
                    break;
                case "A powered reading":
                    var current = await Measured(instrument, Workshop.Asking(new Conditions.Leakage(LeakageKind.ProtectiveConductor), 5));
                    (current.Value.ToString(), current.Mains, current.LoadAmperes).ShouldBe(("0.42 mA", 234.6, 9.75));
                    break;
                case "Stopped":
                    await foreach (
                        var report in instrument.MeasureAsync(Workshop.Asking(new Conditions.Insulation(TestVoltage: new(500)), 5), Cancel)
                    )
                    {
                        report.IsSettled.ShouldBeFalse();
                        break;
                    }
                    break;
                case "Held as long as it takes":
                    await foreach (var report in instrument.MeasureAsync(Workshop.Asking(new Conditions.EarthContinuity(), 120), Cancel))
                        if (report.Reading is { } held)
                            held.Most.ToString().ShouldBe("0.31 Ω");
                        else
                            await instrument.FinishAsync(Cancel);
                    break;
                case "Refused":
                    (
                        await Should.ThrowAsync<InstrumentException>(() =>
                            Measured(instrument, Workshop.Asking(new Conditions.RcdTrip(), 1) with { RcdAmperes = 0.03 })
                        )
                    ).Trouble.ShouldBe(LineTrouble.NeedsReset);
                    break;
                case "A shock and its curve":
                    var shock = await Measured(instrument, Workshop.Asking(Energy(200), 20));
                    shock.Value.ToString().ShouldBe("197.4 J");
                    shock.Waveform!.Values.ShouldBe([0, 33.1, 31.2, 29.4, 27.7, 0, -24.6, 0]);
                    break;
                case "Fourteen discharges, watched":
                    var watched = await Measured(instrument, Workshop.Asking(Energy(360), 600) with { Count = 14 });
                    (watched.Counted, watched.Said).ShouldBe((14, "counting"));
                    break;
                default:
                    throw new InvalidOperationException($"No test plays “{title}”.");
            }
            line.IsAtEnd.ShouldBeTrue(title);
            played++;
        }
        played.ShouldBe(8);
    }

    private static Conditions.DefibEnergy Energy(double joule) => new(new(joule, Dimension.Energy));

    [Fact]
    public async Task A_recording_answers_to_nothing_else()
    {
        var file = Path.GetTempFileName();
        await File.WriteAllLinesAsync(
            file,
            ["a remark", $"> {Message.Checked("1 NULL")}", $"< {Message.Checked("1 OK ohm=0.04")}"],
            Cancel
        );
        await using (var played = RecordedLine.Open(file))
            (await new LineInstrument(played).NullAsync(Cancel)).Value.ShouldBe(0.04);
        await using var line = RecordedLine.Open(file);
        File.Delete(file);
        var instrument = new LineInstrument(line, TimeSpan.FromSeconds(1));
        (await Should.ThrowAsync<InstrumentException>(() => instrument.SelfTestAsync(Cancel))).Trouble.ShouldBe(LineTrouble.Lost);
        line.IsAtEnd.ShouldBeFalse();
    }

    [Theory]
    [InlineData("0.083 ohm", "0.083 Ω", null)]
    [InlineData("OL 200 ohm", ">200 Ω", null)]
    [InlineData("OL ohm", null, LineTrouble.Garbled)]
    [InlineData("0.083", null, LineTrouble.Garbled)]
    [InlineData("0,083 ohm", null, LineTrouble.Garbled)]
    [InlineData("NaN ohm", null, LineTrouble.Garbled)]
    [InlineData("12 uA", null, LineTrouble.WrongTest)]
    [InlineData("ready", null, LineTrouble.Garbled)]
    public async Task A_plain_meter_is_believed_where_it_says_a_value_of_this_test(string said, string? shown, LineTrouble? trouble)
    {
        await using var meter = new PlainMeter(new Repeated(said), Papers, TimeSpan.FromSeconds(1));
        var request = Workshop.Asking(new Conditions.EarthContinuity(), 0.2);
        if (trouble is { } expected)
            (await Should.ThrowAsync<InstrumentException>(() => Measured(meter, request))).Trouble.ShouldBe(expected);
        else
            (await Measured(meter, request)).Value.ToString().ShouldBe(shown);
    }

    [Fact]
    public async Task What_lay_in_a_meters_line_from_before_is_of_another_item()
    {
        // Ten values of the last item wait in the line; the new one's follow.
        await using var meter = new PlainMeter(new Repeated("0.9 ohm", stale: "0.05 ohm", staleLines: 10), Papers);
        var reading = await Measured(meter, Workshop.Asking(new Conditions.EarthContinuity(), 0.2));
        (reading.Value.ToString(), reading.Least.ToString()).ShouldBe(("0.9 Ω", "0.9 Ω"));
        (await Should.ThrowAsync<InstrumentException>(() => Measured(meter, Workshop.Asking(new Conditions.Polarity())))).Trouble.ShouldBe(
            LineTrouble.Refused
        );
        (await meter.NullAsync(Cancel)).Value.ShouldBe(0.9);
    }

    private static readonly InstrumentIdentity Papers = new("Meter 7", "M-7", "", ["earthContinuity", "insulation"], []);

    private static async Task<InstrumentReading> Measured(IInstrument instrument, MeasurementRequest request)
    {
        InstrumentReading? reading = null;
        await foreach (var report in instrument.MeasureAsync(request, Cancel))
            reading = report.Reading ?? reading;
        return reading.ShouldNotBeNull();
    }

    /// <summary>Titles and lines of the fenced transcripts.</summary>
    private static IEnumerable<(string Title, string[] Lines)> Transcripts([CallerFilePath] string here = "")
    {
        var page = File.ReadAllText(Path.Combine(Path.GetDirectoryName(here)!, "..", "..", "docs", "protocol.md"));
        foreach (var block in page.Split("```transcript ").Skip(1))
        {
            var lines = block[..block.IndexOf("```", StringComparison.Ordinal)].Split('\n');
            yield return (lines[0].Trim(), lines[1..]);
        }
    }

    /// <summary>A display of few values a second, always the same.</summary>
    private sealed class Repeated(string said, string stale = "", int staleLines = 0) : ILineTransport
    {
        private int left = staleLines;

        public Task SendAsync(string line, CancellationToken cancel) => Task.CompletedTask;

        public async Task<string?> ReceiveAsync(CancellationToken cancel)
        {
            if (left-- > 0)
                return stale;
            await Task.Delay(40, cancel);
            return said;
        }

        public ValueTask DisposeAsync() => ValueTask.CompletedTask;
    }
}
