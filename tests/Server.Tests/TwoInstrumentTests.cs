using System.Globalization;
using System.Net;
using System.Net.Sockets;
using Microsoft.AspNetCore.SignalR.Client;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Equipment;
using Osierwand.Core.Kit;
using Osierwand.Core.Records;
using Osierwand.Core.Tests.Bench;
using Osierwand.Server.Bench;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>A safety analyser and a performance analyser on two lines, in one job.</summary>
[Collection(InstrumentHouse.Name)]
public sealed class TwoInstrumentTests(World world) : IAsyncLifetime
{
    private static readonly Item Defibrillator = new()
    {
        Kind = ItemKind.MedicalDevice,
        AppliedParts = [new("paddles", AppliedPartType.BF, 2)],
        Defibrillator = new([50, 200]),
    };

    private readonly TcpListener[] listening = [.. Enumerable.Range(0, 3).Select(_ => new TcpListener(IPAddress.Loopback, 0))];
    private readonly CancellationTokenSource stop = new();
    private Host app = null!;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public ValueTask InitializeAsync()
    {
        foreach (var one in listening)
            one.Start();
        _ = SimulatorServer.RunAsync(
            [(new SimulatedBench(1), listening[0]), (new SimulatedBench(2, role: InstrumentRole.Performance), listening[1])],
            listening[2],
            20,
            stop.Token
        );
        app = new Host(
            world.Connection,
            PortOf(0),
            PortOf(2),
            new Dictionary<string, string> { ["Instruments:Lines:1:Port"] = PortOf(1).ToString(CultureInfo.InvariantCulture) }
        );
        return ValueTask.CompletedTask;
    }

    public async ValueTask DisposeAsync()
    {
        await stop.CancelAsync();
        await app.DisposeAsync();
        foreach (var one in listening)
            one.Dispose();
        stop.Dispose();
    }

    private int PortOf(int at) => ((IPEndPoint)listening[at].LocalEndpoint).Port;

    /// <summary>Safe, and changed over.</summary>
    private async Task<(Kettle Device, OnTheBench Sheet)> ChangedOver()
    {
        var device = await HubTests.Device(world, await app.SignedIn("maud"), Defibrillator);
        var ruling = await device.Lay();
        var sheet = new OnTheBench(ruling) { Start = DateTimeOffset.UtcNow.AddMinutes(-20) };
        sheet.PassUntil(SheetStep.ChangeOver.OwnKey);
        sheet.Confirm(SheetStep.ChangeOver.OwnKey);
        return (device, sheet);
    }

    [Fact]
    public async Task Both_are_in_the_ruling_and_each_measures_what_is_its_own()
    {
        var (device, sheet) = await ChangedOver();
        sheet.Ruling.Kit!.Analyser!.Serial.ShouldBe("OW-SIM-P2");
        sheet.Ruling.Kit.Analyser.Connected.ShouldBeTrue();
        sheet.Ruling.Kit.Pieces.ShouldNotContain(piece => piece.Kind == KitKind.PerformanceAnalyser);
        await using var line = await HubTests.Line(app, "maud");
        var asked = await HubTests.Asked(device, sheet.Events, "padPath");
        var pads = await HubTests.Measured(line, asked);
        pads.With.ShouldBe(sheet.Ruling.Kit.Analyser.Id);
        pads.Waveform.ShouldNotBeNull().Values.Count.ShouldBe(100);
        var kept = await world.InDatabase(db => db.Measurements.SingleAsync(it => it.Id == pads.Id, Cancel));
        kept.InstrumentId.ShouldBe(sheet.Ruling.Kit.Analyser.Id);
    }

    [Fact]
    public async Task Fourteen_discharges_are_watched_by_a_hold_alone_and_each_is_an_event()
    {
        var (device, sheet) = await ChangedOver();
        await using var line = await HubTests.Line(app, "maud");
        var asked = await HubTests.Asked(device, sheet.Events, SheetStep.Discharges.OwnKey);
        (await HubTests.Refused(line, asked with { StartedBy = "press" })).ShouldContain("deliberate hold");
        var seen = new List<BenchEvent>();
        await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
            if (report.Kept is { } kept)
                seen.Add(kept);
        seen.Count.ShouldBe(14);
        seen.ShouldAllBe(it => it is Discharged);
        seen.Select(it => it.Id).Distinct().Count().ShouldBe(14);
        sheet.Events.AddRange(seen);
        sheet.Stands(SheetStep.Discharges.OwnKey).ShouldBe(Standing.Pass);
        var charge = await HubTests.Measured(line, await HubTests.Asked(device, sheet.Events, "defibCharge"));
        sheet.Events.Add(charge);
        sheet.Stands("defibCharge").ShouldBe(Standing.Pass);
    }

    [Fact]
    public async Task A_watch_that_is_stopped_goes_on_where_it_was()
    {
        var (device, sheet) = await ChangedOver();
        await using var line = await HubTests.Line(app, "maud");
        var asked = await HubTests.Asked(device, sheet.Events, SheetStep.Discharges.OwnKey);
        using var hand = CancellationTokenSource.CreateLinkedTokenSource(Cancel);
        try
        {
            await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, hand.Token))
                if (report.Kept is { } kept)
                {
                    sheet.Events.Add(kept);
                    if (sheet.Events.OfType<Discharged>().Count() == 3)
                        await hand.CancelAsync();
                }
        }
        catch (OperationCanceledException) { }
        var before = sheet.Step(SheetStep.Discharges.OwnKey).Taken.Length;
        before.ShouldBeInRange(3, 4);
        asked = await HubTests.Asked(device, sheet.Events, SheetStep.Discharges.OwnKey);
        var more = 0;
        string? first = null;
        await foreach (var report in line.StreamAsync<LiveReport>("Measure", asked, Cancel))
        {
            first ??= report.Text;
            more += report.Kept is null ? 0 : 1;
        }
        first.ShouldBe($"{before} of 14");
        (before + more).ShouldBe(14);
    }

    [Fact]
    public async Task A_record_of_both_is_kept_and_says_which_took_what()
    {
        var (device, sheet) = await ChangedOver();
        sheet.PassTheRest();
        var saved = await device.Save(JustNow(sheet.Events));
        saved.Status.ShouldBe(200, saved.Body.ToString());
        var text = await world.InDatabase(db =>
            db.Inspections.Where(it => it.ItemId == device.Item).Select(it => it.Record).SingleAsync(Cancel)
        );
        var record = InspectionRecord.Read(text).Value;
        record.Instrument!.Serial.ShouldBe("OW-SIM-2");
        record.Instrument.Analyser!.Serial.ShouldBe("OW-SIM-P2");
    }

    /// <summary>Within the last second: a test that runs at midnight belongs to one day.</summary>
    private static List<BenchEvent> JustNow(List<BenchEvent> events)
    {
        var now = DateTimeOffset.UtcNow;
        return
        [
            .. events.Select(
                (it, n) =>
                    (it is Discharged discharged ? discharged with { Source = ReadingSource.Instrument } : it) with
                    {
                        At = now.AddMilliseconds(n - events.Count),
                    }
            ),
        ];
    }

    [Fact]
    public async Task Two_performance_analysers_are_one_too_many()
    {
        var lead = await app.SignedIn("maud");
        var page = await lead.Get("/api/v1/kit");
        var (_, made) = await lead.Post(
            "/api/v1/kit",
            new
            {
                kind = "performanceAnalyser",
                name = "Performance analyser 9",
                calibrationDue = DateOnly.FromDateTime(DateTime.UtcNow).AddMonths(3),
                nullsItself = true,
                accuracies = Array.Empty<object>(),
                statedValues = Array.Empty<object>(),
            }
        );
        var items = page.GetProperty("items")
            .EnumerateArray()
            .Where(it => it.Text("name") is "Bench analyser 2" or "Performance analyser 2")
            .Select(it => it.GetProperty("id").GetGuid())
            .Append(made.GetProperty("id").GetGuid());
        var refused = await lead.Post("/api/v1/kit/today", new { items });
        refused.Status.ShouldBe(422);
        refused.Body.ToString().ShouldContain("Choose one performance analyser");
    }
}
