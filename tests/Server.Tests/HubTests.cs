using System.Net;
using System.Net.Sockets;
using Microsoft.AspNetCore.Http.Connections;
using Microsoft.AspNetCore.SignalR;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Osierwand.Instruments.Line;
using Osierwand.Server.Bench;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What the hub starts and what it refuses, over a real connection and with a simulated instrument.</summary>
[Collection(InstrumentHouse.Name)]
public sealed class HubTests(World world, HubBench bench) : IClassFixture<HubBench>, IAsyncLifetime
{
    private readonly CancellationTokenSource stop = new();

    private Host App => bench.App;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync() => await bench.ComeToRest();

    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        stop.Dispose();
    }

    private static int PortOf(TcpListener it) => ((IPEndPoint)it.LocalEndpoint).Port;

    [Fact]
    public async Task A_measurement_is_the_instruments_and_is_saved_as_that()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        var looked = await Kettle.Looked(kettle);
        await using var line = await Line(App);
        var reading = await Measured(line, await Asked(kettle, looked, "earthContinuity"));
        (reading.Source, reading.Unit, reading.Seal.ShouldNotBeNull().Length > 20).ShouldBe((ReadingSource.Instrument, "ohm", true));
        reading.NullOhm.ShouldBe((await kettle.Lay()).Kit!.NullOhm);
        List<BenchEvent> work = [.. looked, reading, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true)];
        (await kettle.Save(work)).Status.ShouldBe(200);
        // The same figure said to be another, or carried to another item, is nobody's measurement.
        var other = await Kettle.Register(kettle.Client);
        List<BenchEvent> carried = [.. await Kettle.Looked(other), reading, .. work[^2..]];
        (await other.Save(carried)).Body.Text("conflict").ShouldBe("unproved");
        List<BenchEvent> bent = [.. await Kettle.Looked(kettle), reading with { Number = 0.01 }, .. work[^2..]];
        (await kettle.Save(bent)).Body.Text("conflict").ShouldBe("unproved");
    }

    [Fact]
    public async Task What_was_measured_without_a_tag_stays_the_instruments_under_the_tag_it_gets()
    {
        var known = await Kettle.Register(await App.SignedIn());
        var loose = await LooseItemTests.Laid(known.Client);
        var looked = await Kettle.Looked(loose);
        await using var line = await Line(App);
        var reading = await Measured(line, await Asked(loose, looked, "earthContinuity"));
        List<BenchEvent> work = [.. looked, reading, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true)];
        (await known.Save(work)).Body.Text("conflict").ShouldBe("unproved", "so far it is another item's");
        var named = await LooseItemTests.Name(loose, known.Tag, work, known.Item);
        named.Status.ShouldBe(200, named.Body.ToString());
        var sheet = LooseItemTests.Events(named.Body);
        sheet.OfType<ReadingTaken>().ShouldContain(it => it.Id == reading.Id && it.Source == ReadingSource.Instrument);
        (await known.Save(sheet)).Status.ShouldBe(200);
        (await known.Save(sheet)).Body.Text("conflict").ShouldBe("unproved", "once used it is used");
    }

    [Theory]
    [InlineData("insulation", "Look first", false)]
    [InlineData("leakage/protectiveConductor", "Look first", false)]
    [InlineData("insulation", "Earth continuity comes first", true)]
    [InlineData("visual", "not measured", true)]
    [InlineData("functional", "not measured", true)]
    [InlineData("leakage/nowhere", "not on the run sheet", true)]
    public async Task What_the_state_does_not_allow_is_not_started(string step, string why, bool isLooked)
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        (await Refused(line, await Asked(kettle, isLooked ? await Kettle.Looked(kettle) : [], step))).ShouldContain(why);
    }

    [Fact]
    public async Task After_a_failed_earth_nothing_live_is_started_whatever_the_page_says()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        var failed = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.9"));
        await using var line = await Line(App);
        foreach (var step in new[] { "insulation", "leakage/protectiveConductor" })
            (await Refused(line, await Asked(kettle, failed, step))).ShouldContain("The earth path failed");
        (await Refused(line, await Asked(kettle, failed, "earthContinuity"))).ShouldContain("say why this reading does not count");
        (await Refused(line, await Asked(kettle, failed, "earthContinuity") with { Point = "Handle" })).ShouldContain("It failed");
    }

    [Fact]
    public async Task A_further_point_is_measured_once_and_never_a_further_insulation()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        var earthed = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.05"));
        await using var line = await Line(App);
        (await Refused(line, await Asked(kettle, earthed, "earthContinuity"))).ShouldContain("It is done");
        var handle = await Measured(line, await Asked(kettle, earthed, "earthContinuity") with { Point = "Handle" });
        handle.Point.ShouldBe("Handle");
        List<BenchEvent> both = [.. earthed, handle, Kettle.Typed("insulation", ">500M")];
        (await Refused(line, await Asked(kettle, both, "earthContinuity") with { Point = "Handle" })).ShouldContain("was measured already");
        (await Refused(line, await Asked(kettle, both, "insulation") with { Point = "Handle" })).ShouldContain("It is done");
    }

    [Fact]
    public async Task An_instrument_that_fell_silent_since_the_item_was_laid_is_named_and_no_change_of_rules_is_told()
    {
        using var ida = await App.SignedIn();
        var kettle = await Kettle.Register(ida);
        var asked = await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity");
        await using var withoutLine = new Host(world.Connection);
        await using var line = await Line(withoutLine);
        (await Refused(line, asked)).ShouldMatch("Not started. .* does not answer");
    }

    [Fact]
    public async Task An_outdated_ruling_a_stranger_and_too_many_events_are_refused()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        var asked = await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity");
        await using var line = await Line(App);
        (await Refused(line, asked with { Ruling = "0123456789abcdef" })).ShouldContain("Nothing was started");
        (await Refused(line, asked with { RoundId = Guid.NewGuid() })).ShouldContain("no such item");
        var many = Enumerable.Range(0, BenchState.MostEvents + 1).Select(_ => Kettle.Typed("earthContinuity", "0.05")).ToList();
        (await Refused(line, asked with { Events = many })).ShouldContain("events");
        await Should.ThrowAsync<HttpRequestException>(() => Line(App, who: null));
    }

    [Fact]
    public async Task One_instrument_measures_for_one_bench_at_a_time_and_is_free_when_the_stream_is_closed()
    {
        var here = await Kettle.Register(await App.SignedIn());
        var there = await Kettle.Register(await App.SignedIn("rufus"));
        await using var first = await Line(App);
        await using var second = await Line(App, "rufus");
        var asked = await Asked(there, await Kettle.Looked(there), "earthContinuity");
        using var closing = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        // It does not end by itself before the second has asked, however slow the machine is.
        await Order(new("pace", Pace: 0.1));
        var running = first
            .StreamAsync<LiveReport>("Measure", await Asked(here, await Kettle.Looked(here), "earthContinuity"), closing.Token)
            .GetAsyncEnumerator(closing.Token);
        (await running.MoveNextAsync()).ShouldBeTrue();
        (await Refused(second, asked)).ShouldContain("in use");
        await Order(new("pace"));
        await closing.CancelAsync();
        // The server hears of it by the closed stream; until then the instrument is still spoken for.
        for (var attempt = 0; ; attempt++)
            try
            {
                (await Measured(second, asked)).Source.ShouldBe(ReadingSource.Instrument);
                break;
            }
            catch (HubException busy) when (attempt < 50 && busy.Message.Contains("in use", StringComparison.Ordinal))
            {
                await Task.Delay(100, Cancel);
            }
    }

    [Fact]
    public async Task What_was_measured_is_kept_by_the_server_and_stands_in_one_record_of_one_person()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        var reading = await Measured(line, await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity"));
        var kept = await world.InDatabase(db => db.Measurements.SingleAsync(it => it.Id == reading.Id, Cancel));
        BenchJson.ReadEvents(kept.Reading).Value.ShouldHaveSingleItem().ShouldBe(reading with { Seal = null });
        (kept.ItemId, kept.SessionId is null).ShouldBe((kettle.Item, false));
        async Task<List<BenchEvent>> Work() =>
            [.. await Kettle.Looked(kettle), reading, Kettle.Typed("insulation", ">500M"), Kettle.Answer("functional", true)];
        // Somebody else says it was theirs; nobody handed it to them.
        var other = kettle with
        {
            Client = await App.SignedIn("rufus"),
        };
        (await other.Save(await Work())).Body.Text("conflict").ShouldBe("unproved");
        (await kettle.Save(await Work())).Status.ShouldBe(200);
        // The good figure of that day, sent again for the next inspection.
        (await kettle.Save(await Work()))
            .Body.Text("conflict")
            .ShouldBe("unproved");
        // Said by the page to be an instrument's, without the server's knowing anything of it: it is typed.
        var invented = reading with
        {
            Id = Guid.NewGuid(),
            Seal = new string('a', 64),
        };
        List<BenchEvent> forged =
        [
            .. await Kettle.Looked(kettle),
            invented,
            Kettle.Typed("insulation", ">500M"),
            Kettle.Answer("functional", true),
        ];
        (await kettle.Save(forged)).Body.GetProperty("readings")[0].GetGuid().ShouldBe(invented.Id);
    }

    [Fact]
    public async Task What_was_measured_before_the_instrument_was_barred_does_not_pass_with_it()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        var reading = await Measured(line, await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity"));
        List<BenchEvent> work =
        [
            .. await Kettle.Looked(kettle),
            reading,
            Kettle.Typed("insulation", ">500M"),
            Kettle.Answer("functional", true),
        ];
        var due = await world.InDatabase(db =>
            db.Kit.Where(it => it.Serial == "OW-SIM-2").Select(it => it.CalibrationDue).FirstAsync(Cancel)
        );
        await Calibrated(DateOnly.FromDateTime(DateTime.UtcNow).AddDays(-3));
        try
        {
            var refused = await kettle.Save(work);
            (refused.Status, refused.Body.Text("detail").Contains("may not be used", StringComparison.Ordinal)).ShouldBe((422, true));
            // The way on: void it, choose another instrument for the day, and type what that one shows.
            work.Add(
                new Voided
                {
                    Id = Guid.NewGuid(),
                    At = DateTimeOffset.UtcNow,
                    Target = reading.Id,
                    Reason = "instrument barred",
                }
            );
            // It reads in steps of a tenth.
            work.Add(Kettle.Typed("earthContinuity", "0.0"));
            (await kettle.Save(work)).Body.Text("detail").ShouldContain("may not be used");
            await ChosenFor(kettle.Client, "Meter 7");
            (await kettle.Save(work)).Status.ShouldBe(200);
        }
        finally
        {
            await Calibrated(due);
            await ChosenFor(kettle.Client, "Bench analyser 2", "Lead B", "Indicator 1", "Proving unit 1");
        }
    }

    [Fact]
    public async Task An_earth_path_is_read_until_the_bench_has_moved_the_flex_enough_and_the_largest_counts()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await Order(new("fault", Tag: kettle.Tag, Fault: Fault.BrokenStrands));
        await using var line = await Line(App);
        var asked = await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity") with { IsHeld = true };
        ReadingTaken? reading = null;
        double most = 0;
        await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
        {
            most = Math.Max(most, report.MostSi ?? 0);
            reading = report.Kept as ReadingTaken ?? reading;
            // Seen to have opened, not for so long: how often it is looked at in a second is the machine's.
            if (report.Elapsed > 1 && most > 0.3)
                await line.InvokeAsync("Finish", Cancel);
        }
        reading.ShouldNotBeNull().Lowest.ShouldNotBeNull().ShouldBeLessThan(0.15);
        reading.Number.ShouldNotBeNull().ShouldBeGreaterThan(0.3);
        (reading.Number.Value - reading.NullOhm!.Value).ShouldBe(most, 0.01);
        // Nothing runs any more: finishing does nothing.
        await line.InvokeAsync("Finish", Cancel);
    }

    [Fact]
    public async Task Only_an_earth_path_is_held()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        var asked = await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity");
        var reading = await Measured(line, asked);
        List<BenchEvent> work = [.. await Kettle.Looked(kettle), reading];
        await foreach (
            var report in line.StreamAsync<LiveReport>("Measure", (await Asked(kettle, work, "insulation")) with { IsHeld = true }, Cancel)
        )
            report.Seconds.ShouldBeLessThan(10, "500 V stands on nothing for as long as somebody likes");
    }

    [Fact]
    public async Task What_the_instrument_finds_instead_of_a_reading_is_an_event_to_keep_and_other_trouble_is_words_alone()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        await Order(new("mains", Isolated: false, StandingAmperes: 0.03));
        try
        {
            var earth = await Measured(line, await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity"));
            List<BenchEvent> work = [.. await Kettle.Looked(kettle), earth];
            work.Add(await Measured(line, await Asked(kettle, work, "insulation")));
            var (kept, words) = await Troubled(line, await Asked(kettle, work, "leakage/protectiveConductor"));
            kept.ShouldBeOfType<MainsLost>().Step.ShouldBe("leakage/protectiveConductor");
            words.ShouldContain("The mains went away");
        }
        finally
        {
            await Order(new("mains", Isolated: true, StandingAmperes: 0.003));
        }
        await Order(new("line", Line: LineState.Garbage));
        try
        {
            var (kept, words) = await Troubled(line, await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity"));
            kept.ShouldBeNull();
            // Asked who it is meanwhile, it does not answer that either.
            words.ShouldMatch("not a reading|does not answer");
        }
        finally
        {
            await Order(new("line", Line: LineState.Whole));
        }
    }

    /// <summary>The program stops in mid-step, as at an update: nobody is left who could switch off, so the instrument does.</summary>
    [Fact]
    public async Task When_the_server_goes_away_in_mid_step_the_item_is_dead_and_the_next_server_goes_on()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        var work = await Kettle.Looked(kettle, Kettle.Typed("earthContinuity", "0.05"), Kettle.Typed("insulation", ">500M"));
        var asked = await Asked(kettle, work, "leakage/protectiveConductor");
        var line = await Line(App);
        var running = Task.Run(
            async () =>
            {
                await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
                    report.Kept.ShouldBeNull("it is stopped long before it is done");
            },
            Cancel
        );
        await Until(async () => (await Order(new("look"))).LiveVolts > 200);
        await bench.App.DisposeAsync();
        await Until(async () => (await Order(new("look"))).LiveVolts == 0);
        // The page's end of the line breaks as well: not with a reading.
        await Should.ThrowAsync<Exception>(running.WaitAsync(TimeSpan.FromSeconds(30), Cancel));

        bench.StartServer();
        var same = kettle with { Client = await App.SignedIn() };
        await using var again = await Line(App);
        var reading = await Measured(again, await Asked(same, work, "leakage/protectiveConductor"));
        (await same.Save([.. work, reading, Kettle.Answer("functional", true)])).Status.ShouldBe(200);
    }

    private static async Task Until(Func<Task<bool>> isSo)
    {
        for (var looks = 0; looks < 200; looks++)
        {
            if (await isSo())
                return;
            await Task.Delay(25, Cancel);
        }
        Assert.Fail("It did not come to that within five seconds.");
    }

    private static async Task<(BenchEvent? Kept, string Words)> Troubled(HubConnection line, MeasureRequest asked)
    {
        BenchEvent? kept = null;
        var failed = await Should.ThrowAsync<HubException>(async () =>
        {
            await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
                kept = report.Kept ?? kept;
        });
        return (kept, failed.Message);
    }

    private async Task<ControlAnswer> Order(ControlOrder order)
    {
        using var hands = await SimulatedHands.ConnectAsync("127.0.0.1", bench.ControlPort, Cancel);
        return await hands.OrderAsync(order, Cancel);
    }

    [Fact]
    public async Task A_measurement_ends_with_the_session_it_belongs_to()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var slow = await SlowHost();
        await using var line = await Line(slow);
        var asked = await Asked(kettle with { Client = await slow.SignedIn() }, await Kettle.Looked(kettle), "earthContinuity");
        // Ended from elsewhere while it runs: the line itself is refused as well, whichever is told first.
        await Should.ThrowAsync<Exception>(async () =>
        {
            await foreach (var _ in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
                await EndAllSessions();
        });
        var lines = slow.Services.GetRequiredService<Kit.InstrumentLines>();
        for (var n = 0; n < 50 && lines.InUseBy("OW-SIM-2") is not null; n++)
            await Task.Delay(100, Cancel);
        lines.InUseBy("OW-SIM-2").ShouldBeNull("the item was taken off its supply");
        (await world.InDatabase(db => db.Measurements.CountAsync(it => it.Id == asked.EventId, Cancel))).ShouldBe(0);
    }

    private Task<int> EndAllSessions() =>
        world.InDatabase(db =>
            db.Sessions.Where(it => it.EndedAt == null)
                .ExecuteUpdateAsync(set => set.SetProperty(it => it.EndedAt, DateTimeOffset.UtcNow), Cancel)
        );

    private async Task<Host> SlowHost()
    {
        var (line, hands) = await SlowInstrument();
        return new(world.Connection, line, hands);
    }

    private async Task<(int Line, int Control)> SlowInstrument()
    {
        var (listener, hands) = (new TcpListener(IPAddress.Loopback, 0), new TcpListener(IPAddress.Loopback, 0));
        listener.Start();
        hands.Start();
        _ = SimulatorServer.RunAsync([(new SimulatedBench(1), listener)], hands, 0.5, stop.Token);
        await Task.Yield();
        return (PortOf(listener), PortOf(hands));
    }

    [Fact]
    public async Task Two_servers_know_of_each_others_turn_at_the_instrument()
    {
        var slow = await SlowInstrument();
        await using var one = new Host(world.Connection, slow.Line, slow.Control);
        await using var two = new Host(world.Connection, slow.Line, slow.Control);
        var here = await Kettle.Register(await one.SignedIn());
        var there = await Kettle.Register(await two.SignedIn("rufus"));
        await using var first = await Line(one);
        await using var second = await Line(two, "rufus");
        using var closing = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        await using var running = first
            .StreamAsync<LiveReport>("Measure", await Asked(here, await Kettle.Looked(here), "earthContinuity"), closing.Token)
            .GetAsyncEnumerator(closing.Token);
        (await running.MoveNextAsync()).ShouldBeTrue();
        (await Refused(second, await Asked(there, await Kettle.Looked(there), "earthContinuity"))).ShouldContain("at another bench");
        await closing.CancelAsync();
    }

    [Fact]
    public async Task Out_of_calibration_it_measures_nothing()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        var due = await world.InDatabase(db =>
            db.Kit.Where(it => it.Serial == "OW-SIM-2").Select(it => it.CalibrationDue).FirstAsync(Cancel)
        );
        await Calibrated(DateOnly.FromDateTime(DateTime.UtcNow).AddDays(-3));
        try
        {
            (await Refused(line, await Asked(kettle, await Kettle.Looked(kettle), "earthContinuity"))).ShouldContain("type the reading");
        }
        finally
        {
            await Calibrated(due);
        }
    }

    [Fact]
    public async Task A_test_voltage_is_started_by_a_hold_and_by_nothing_else()
    {
        var kettle = await Kettle.Register(await App.SignedIn());
        await using var line = await Line(App);
        List<BenchEvent> work = [.. await Kettle.Looked(kettle)];
        work.Add(await Measured(line, await Asked(kettle, work, "earthContinuity") with { StartedBy = "press" }));
        (await Refused(line, await Asked(kettle, work, "insulation") with { StartedBy = "press" })).ShouldContain("deliberate hold");
    }

    /// <summary>Foil that nobody laid is not there: the simulated hands lay what was said, and nothing else.</summary>
    [Fact]
    public async Task Class_II_is_not_started_before_the_probe_is_placed_and_foil_is_really_laid()
    {
        var plastic = await Device(world, await App.SignedIn("maud"), OnTheBench.Drill with { AllInsulated = true });
        await using var line = await Line(App, "maud");
        List<BenchEvent> work = [.. await Kettle.Looked(plastic)];
        const string step = "insulation/mainsToAccessible";
        (await Refused(line, await Asked(plastic, work, step))).ShouldContain("what the probe lies on");
        async Task<ReadingTaken> On(ProbeOn on) =>
            await Measured(
                line,
                await Asked(
                    plastic,
                    [
                        .. work,
                        new ProbePlaced
                        {
                            Id = Guid.NewGuid(),
                            At = DateTimeOffset.UtcNow,
                            On = on,
                        },
                    ],
                    step
                )
            );
        (await On(ProbeOn.Nothing)).Qualifier.ShouldBe(">", "there is nothing under the probe");
        var foil = await On(ProbeOn.Foil);
        foil.Number.ShouldNotBeNull().ShouldBeGreaterThan(7);
    }

    [Fact]
    public async Task Mains_on_patient_parts_is_started_by_a_hold_and_by_nothing_else()
    {
        using var analyser = new TcpListener(IPAddress.Loopback, 0);
        analyser.Start();
        _ = SaysItCan(analyser, "earthContinuity,leakage/equipment,leakage/appliedPart", stop.Token);
        await using var ward = new Host(world.Connection, PortOf(analyser));
        var lead = await ward.SignedIn("maud");
        var monitor = new Item { Kind = ItemKind.MedicalDevice, AppliedParts = [new("ECG", AppliedPartType.CF, 3)] };
        var device = await Device(world, lead, monitor);
        var ruling = await device.Lay();
        var sheet = new OnTheBench(ruling);
        const string step = "leakage/appliedPart/part ECG";
        sheet.PassUntil(step);
        sheet.State.Current.ShouldBe(step);
        await using var line = await Line(ward, "maud");
        var asked = await Asked(device, sheet.Events, step);
        (await Refused(line, asked with { StartedBy = "press" })).ShouldContain("deliberate hold");
        // Held, it is asked of the instrument, which here can say what it is and no more.
        (await Refused(line, asked)).ShouldNotContain("Not started");
    }

    /// <summary>A medical device of its own on a ward of its own.</summary>
    internal static async Task<Kettle> Device(World world, HttpClient lead, Item item)
    {
        var code = $"W{Random.Shared.Next(1_000_000, 9_999_999)}";
        var (_, opened) = await lead.Post(
            "/api/v1/rounds",
            new
            {
                clientCode = code,
                clientName = "Ward",
                site = "Ward",
                name = "Visit",
                standardId = "uk-cop-5",
                medicalStandardId = "iec-62353-2014",
                endsOn = DateOnly.FromDateTime(DateTime.UtcNow).AddDays(7),
            }
        );
        var round = opened.GetProperty("id").GetGuid();
        var (_, made) = await lead.Post("/api/v1/register", Kettle.New(round, "M-1"));
        var kettle = new Kettle(lead, made.GetProperty("itemId").GetGuid(), round, "M-1");
        await world.InDatabase(db =>
            db.Items.Where(it => it.Id == kettle.Item).ExecuteUpdateAsync(set => set.SetProperty(it => it.Equipment, item), Cancel)
        );
        return kettle;
    }

    private static async Task ChosenFor(HttpClient client, params string[] names)
    {
        var page = await client.Get("/api/v1/kit");
        var items = page.GetProperty("items").EnumerateArray().Where(it => names.Contains(it.Text("name"))).Select(it => it.Text("id"));
        (await client.Post("/api/v1/kit/today", new { items })).Status.ShouldBe(204);
    }

    private Task<int> Calibrated(DateOnly? until) =>
        world.InDatabase(db =>
            db.Kit.Where(it => it.Serial == "OW-SIM-2").ExecuteUpdateAsync(set => set.SetProperty(it => it.CalibrationDue, until), Cancel)
        );

    internal static async Task<MeasureRequest> Asked(Kettle kettle, IReadOnlyList<BenchEvent> events, string step) =>
        new(kettle.Item, kettle.Round, (await kettle.Lay()).Fingerprint, step, null, "hold", Guid.NewGuid(), events);

    internal static async Task<ReadingTaken> Measured(HubConnection line, MeasureRequest asked)
    {
        BenchEvent? reading = null;
        await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
            reading = report.Kept ?? reading;
        return reading.ShouldBeOfType<ReadingTaken>();
    }

    internal static async Task<string> Refused(HubConnection line, MeasureRequest asked) =>
        (await Should.ThrowAsync<HubException>(() => Measured(line, asked))).Message;

    /// <summary>A bench's own connection, with the cookie of who is signed in there.</summary>
    internal static async Task<HubConnection> Line(Host app, string? who = "ida")
    {
        using var browser = app.Server.CreateClient();
        var cookies = "";
        if (who is not null)
        {
            using var answer = await browser.PostAsync(
                new Uri($"/api/v1/people/demo-sign-in?userName={who}", UriKind.Relative),
                null,
                Cancel
            );
            cookies = string.Join("; ", answer.Headers.GetValues("Set-Cookie").Select(cookie => cookie.Split(';')[0]));
        }
        var line = new HubConnectionBuilder()
            .WithUrl(
                new Uri(app.Server.BaseAddress, "hubs/bench"),
                options =>
                {
                    options.HttpMessageHandlerFactory = _ => app.Server.CreateHandler();
                    options.Transports = HttpTransportType.LongPolling;
                    if (cookies.Length > 0)
                        options.Headers["Cookie"] = cookies;
                }
            )
            .AddJsonProtocol(protocol => protocol.PayloadSerializerOptions = Http.Json)
            .Build();
        await line.StartAsync(Cancel);
        return line;
    }

    /// <summary>An instrument that says what it can do and then does not deliver.</summary>
    private static async Task SaysItCan(TcpListener at, string functions, CancellationToken stop)
    {
        try
        {
            while (true)
            {
                var client = await at.AcceptTcpClientAsync(stop);
                _ = Answer(client);
            }
        }
        catch (Exception ended) when (ended is OperationCanceledException or ObjectDisposedException or SocketException) { }

        async Task Answer(TcpClient client)
        {
            using var _ = client;
            using var reader = new StreamReader(client.GetStream());
            await using var writer = new StreamWriter(client.GetStream()) { AutoFlush = true, NewLine = "\n" };
            while (await reader.ReadLineAsync(stop) is { } line)
            {
                var words = line.Split(' ');
                await writer.WriteLineAsync(
                    Message.Checked(
                        words[1] == "IDENTIFY"
                            ? $"{words[0]} OK name=Analyser serial=OW-SIM-2 firmware=1 functions={functions}"
                            : $"{words[0]} FAULT code=refused text=no"
                    )
                );
            }
        }
    }
}
