using Osierwand.Core.Bench;
using Osierwand.Core.Diagnosis;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Core.Tests.Bench;
using Osierwand.Simulator;
using Shouldly;

namespace Osierwand.Instruments.Tests;

/// <summary>Every signature that diagnosis knows is produced by a simulated item, over the real protocol, and told by the real engine;
/// the sound item beside it shows none of it.</summary>
public class SignatureTests
{
    private const string Earth = "earthContinuity";
    private const string Insulation = "insulation";
    private const string Current = "leakage/protectiveConductor";
    private const string Touch = "leakage/touch";

    /// <summary>By signature: what lies on the bench and what is done there.</summary>
    private static readonly Dictionary<string, Func<Workshop, Task<OnTheBench>>> Scenes = new()
    {
        ["no-load"] = shop => On(shop, Things.Kettle, Fault.SwitchedOff, Current),
        ["earth-open"] = shop => On(shop, Things.Kettle, Fault.OpenEarth, Earth),
        ["earth-open-lead"] = shop => On(shop, Things.CordSet, Fault.OpenEarth, Earth),
        ["earth-flex"] = shop => On(shop, Things.Kettle with { Cord = null, Heating = false }, Fault.ThinEarth, Earth),
        ["earth-lead-or-reel"] = async shop =>
        {
            // Nobody nulled the lead, which is a long one.
            await shop.Order(new("instrument", LeadOhm: 0.11));
            await shop.Place(Things.Reel with { Outlets = 1 });
            var sheet = Sheet(Things.Reel with { Outlets = 1 });
            await shop.Measure(sheet, Earth, nullOhm: 0);
            return sheet;
        },
        ["earth-moves"] = shop => On(shop, Things.Kettle, Fault.BrokenStrands, Earth),
        ["class-ii-earth"] = async shop =>
        {
            // Its mark says II, the probe finds the earth pin.
            await shop.Place(Things.Drill, Fault.CaseIsBonded, "bonded");
            var sheet = Sheet(Things.Undecided);
            await shop.Measure(sheet, Earth);
            sheet.Change(new() { Evidence = ClassEvidence.SquareWithinSquare });
            return sheet;
        },
        ["surge-500"] = async shop =>
        {
            await shop.Place(Things.SixWay);
            // Nobody had seen that it protects against surges: measured at 500 V, then its plate was read again.
            var sheet = Sheet(Things.SixWay with { SurgeProtected = false });
            await shop.Measure(sheet, Insulation);
            sheet.Change(new() { SurgeProtected = true });
            return sheet;
        },
        ["insulation-heating"] = shop => On(shop, Things.Kettle, Fault.DampElement, Insulation),
        ["insulation-low"] = shop => On(shop, Things.Pc, Fault.DampInsulation, Insulation),
        ["nothing-to-probe"] = async shop =>
        {
            // The probe lies on plastic.
            await shop.Order(new("hands", Clip: false));
            return await On(shop, Things.Lamp, Fault.None, "insulation/mainsToAccessible");
        },
        ["lead-short"] = shop => On(shop, Things.CordSet, Fault.LineNeutralShort, "wiring"),
        ["crossed"] = shop => On(shop, Things.CordSet, Fault.CrossedLineAndNeutral, "polarity"),
        ["lead-open"] = shop => On(shop, Things.CordSet, Fault.BlownFuse, "wiring"),
        ["falls-earth-open"] = async shop =>
        {
            // A pipe earths it too, and the outlet's own protective conductor stands a little above the pipe.
            await shop.Order(new("mains", EarthVolts: 0.4));
            return await OnMedical(shop, Things.Monitor, Fault.EarthedElsewhere, Touch, $"{Touch}/earthOpen");
        },
        ["one-polarity"] = shop => OnMedical(shop, Things.Monitor, Fault.OneSidedFilter, "leakage/earth", "leakage/earth/reversed"),
        ["jumps-earth-open"] = shop => OnMedical(shop, Things.Monitor, Fault.None, Touch, $"{Touch}/earthOpen"),
        ["leakage-grew"] = async shop =>
        {
            var first = (await On(shop, Things.Pc, Fault.None, Earth, Insulation, Current)).PassTheRest();
            var sheet = new OnTheBench(first.Ruling with { History = first.Record().Taken });
            await shop.Place(Things.Pc, Fault.AgedFilter);
            await shop.Measure(sheet, Insulation);
            await shop.Measure(sheet, Current);
            return sheet;
        },
        ["patient-zero"] = shop =>
            OnMedical(shop, Things.Monitor, Fault.PartsUnplugged, "leakage/patient/part ECG", "leakage/patient/part cuff"),
        ["building-rcd"] = async shop =>
        {
            await shop.Order(new("mains", Isolated: false, StandingAmperes: 0.022));
            await shop.Place(Things.Pc, Fault.AgedFilter);
            var sheet = Sheet(Things.Pc);
            var trouble = await Should.ThrowAsync<InstrumentException>(() => shop.Measure(sheet, Current));
            if (trouble.Trouble == LineTrouble.SupplyLost)
                sheet.Happens(next => new MainsLost
                {
                    Id = next.Id,
                    At = next.At,
                    Step = Current,
                });
            return sheet;
        },
        ["negative"] = async shop =>
        {
            // Nulled with a bad contact at the post, which is gone when the kettle is measured.
            await shop.Order(new("instrument", PostOhm: 0.15));
            var taken = await shop.Instrument.NullAsync(TestContext.Current.CancellationToken);
            await shop.Place(Things.Kettle);
            var sheet = Sheet(Things.Kettle);
            await shop.Measure(sheet, Earth, taken.Value);
            return sheet;
        },
        ["same-offset"] = async shop =>
        {
            // The lead's plug has worked loose since it was nulled; four items of the day, each against its own last reading.
            List<double> offsets = [];
            foreach (var tag in (string[])["A", "B", "C", "D"])
            {
                await shop.Order(new("instrument", LeadOhm: 0.04));
                await shop.Place(Things.Kettle, tag: tag);
                var before = await shop.Measure(new Conditions.EarthContinuity());
                await shop.Order(new("instrument", LeadOhm: 0.12));
                var now = await shop.Measure(new Conditions.EarthContinuity());
                offsets.Add(now.Most!.Value.Number - before.Most!.Value.Number);
            }
            return new(Sheet(Things.Kettle).Ruling with { EarthOffsets = [.. offsets] });
        },
    };

    public static TheoryData<string> Signatures => [.. Signature.All.Select(it => it.Id)];

    [Theory]
    [MemberData(nameof(Signatures))]
    public async Task A_simulated_item_shows_it_and_the_engine_tells_it(string signature)
    {
        Scenes.ShouldContainKey(signature);
        await using var shop = await Workshop.OpenAsync();
        var sheet = await Scenes[signature](shop);
        var told = sheet.View.Telling.Select(it => it.Id).ToArray();
        told.ShouldContain(signature, $"told was: {string.Join(", ", told)}; {Shown(sheet)}");
    }

    [Fact]
    public async Task Sound_items_show_nothing_strange()
    {
        await using var shop = await Workshop.OpenAsync();
        foreach (
            var (item, steps) in new[]
            {
                (Things.Kettle, new[] { Earth, Insulation, Current }),
                (Things.Pc, [Earth, Insulation]),
                (Things.Electronic, [Earth, Insulation, Current]),
                (Things.Drill, ["insulation/mainsToAccessible"]),
                (Things.CordSet, [Earth, Insulation, "polarity", "wiring"]),
            }
        )
        {
            var sheet = await On(shop, item, Fault.None, steps);
            sheet.View.Telling.Select(it => it.Id).ShouldBeEmpty(Shown(sheet));
        }
    }

    private static string Shown(OnTheBench sheet) =>
        string.Join("; ", sheet.View.Readings.Select(it => $"{it.Step} {it.Text} {it.Status} {it.Swing}"));

    private static OnTheBench Sheet(Item item, string pack = "uk-cop-5") =>
        new(OnTheBench.RulingFor(item, pack, kit: OnTheBench.Analyser with { Functions = Measuring.Functions }));

    private static Task<OnTheBench> On(Workshop shop, Item item, Fault fault, params string[] steps) => On(shop, Sheet(item), fault, steps);

    private static Task<OnTheBench> OnMedical(Workshop shop, Item item, Fault fault, params string[] steps) =>
        On(shop, Sheet(item, "iec-60601-1-2012"), fault, steps);

    private static async Task<OnTheBench> On(Workshop shop, OnTheBench sheet, Fault fault, string[] steps)
    {
        await shop.Place(sheet.Ruling.Item.Equipment, fault);
        foreach (var step in steps)
            await shop.Measure(sheet, step);
        return sheet;
    }
}
