using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Outlets;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Simulator;
using Osierwand.Store;
using Shouldly;

namespace Osierwand.Server.Tests;

/// <summary>What the demo's histories show is what the circuits of its items give.</summary>
[Collection(RegisterHouse.Name)]
public sealed class DemoTests(World world)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_demo_item_has_a_circuit_that_gives_what_its_last_passed_inspection_shows()
    {
        var lately = DateTimeOffset.UtcNow.AddDays(-3);
        var rows = await world.InDatabase(db =>
            db.Standing()
                .Where(it => it.IsTest && it.Outcome == Outcome.Pass)
                // Only the demo's own: others were registered by tests, and measured by nobody's circuit.
                .Where(it => it.TestedAt < lately)
                .Select(it => new
                {
                    it.Day,
                    it.Taken,
                    it.Item.Tag,
                    it.Item.Equipment,
                    it.Item.RegisteredOn,
                })
                .ToListAsync(Cancel)
        );
        rows.Count.ShouldBeGreaterThan(300);
        var (compared, apart) = (0, new List<string>());
        foreach (var row in rows)
        {
            var plugged = new PluggedIn(row.Tag, ItemMaking.Of(row.Equipment, row.Tag, row.RegisteredOn, row.Day));
            foreach (var reading in BenchJson.ReadPast(row.Taken).Value[^1].Readings.OfType<Reading.Numeric>())
            {
                if (reading is not (Reading.EarthContinuity or Reading.Insulation) || reading.Void is not null)
                    continue;
                var now = Measuring.Whole(Asking(reading), plugged, new(1)).Reading;
                compared++;
                if (!Fits(reading.Shown, now.Most ?? now.Value!.Value))
                    apart.Add($"{row.Tag} {row.Day}: {reading.Name} was {reading.Shown}, is {now.Most ?? now.Value}");
            }
        }
        compared.ShouldBeGreaterThan(600);
        apart.ShouldBeEmpty();
    }

    private static MeasurementRequest Asking(Reading.Numeric reading) =>
        new(
            reading.Under,
            new OutletSupply(230),
            TestVolts: (reading.Under as Conditions.Insulation)?.TestVoltage?.Value ?? 500,
            Seconds: 0.5
        );

    /// <summary>But for noise: two hundredths of an ohm, four hundredths of an insulation; at the end of a range it may be a bound one time
    /// and a value the other.</summary>
    private static bool Fits(Measured was, Measured now) =>
        was.Quantity.Si < 100
            ? was.Qualifier == now.Qualifier && Math.Abs(was.Quantity.Si - now.Quantity.Si) < 0.02
            : Math.Abs(was.Quantity.Si / now.Quantity.Si - 1) < 0.04;
}
