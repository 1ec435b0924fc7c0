using Osierwand.Core.Bench;
using Osierwand.Core.Looking;
using Osierwand.Core.Outlets;

namespace Osierwand.Bench.Shared;

/// <summary>What the load programs' benches work on: a kettle, and good work on it.</summary>
internal static class Work
{
    public static List<BenchEvent> Good(Ruling ruling)
    {
        var at = DateTimeOffset.UtcNow;
        var laid = BenchState.Of(ruling, []);
        var points = laid.Sheet.Steps.OfType<SheetStep.Look>().First().Points;
        ReadingTaken Read(string step, string? text, bool? ok = null) =>
            new()
            {
                Id = Guid.NewGuid(),
                At = at,
                Step = step,
                Source = ReadingSource.Typed,
                Text = text,
                Ok = ok,
            };
        return
        [
            new Looked
            {
                Id = Guid.NewGuid(),
                At = at,
                Points = [.. points.Select(point => new LookFinding(point.Id, LookAnswer.Good, null))],
            },
            Read("earthContinuity", "0.05"),
            Read("insulation", ">500M"),
            // Of a house that has measured no outlet today: the first save measures its own, and the next ones know it.
            .. laid.Outlet is { InUse: null, Supply: var supply }
                ? (BenchEvent[])
                    [
                        new OutletChecked
                        {
                            Id = Guid.NewGuid(),
                            At = at,
                            Name = "load bench",
                            Room = "Bench",
                            IsWorkbench = true,
                            Voltages = [.. supply.Pairs.Select(pair => new OutletVoltage(pair, supply.Expected(pair)))],
                        },
                    ]
                : [],
            Read("leakage/protectiveConductor", "0.31mA"),
            Read("functional", null, true),
        ];
    }

    public static object NewKettle(Guid roundId, string tag) =>
        new
        {
            roundId,
            tag,
            name = "Load kettle",
            kind = "appliance",
            evidence = "earthSymbolOrPinMetalReachable",
            use = "portable",
            place = "kitchen",
            room = "Bench",
            maker = (string?)null,
            model = (string?)null,
            serial = (string?)null,
            ratedVoltageV = 230,
            ratedPowerW = 2200,
            ratedCurrentA = (double?)null,
            heating = true,
            surgeProtected = false,
            allInsulated = false,
            hardWired = false,
            flexLengthM = 1.5,
            flexMm2 = 1.0,
            plugFuseA = 13,
            plug = "rewirable",
            outlets = 1,
            rcdMa = (double?)null,
            usage = "normal",
            moved = "sometimes",
            users = "trained",
        };
}
