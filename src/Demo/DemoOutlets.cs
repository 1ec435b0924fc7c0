using Osierwand.Core.Equipment;
using Osierwand.Core.Outlets;
using Osierwand.Core.Standards;
using Osierwand.Server.Outlets;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>What everybody measured this morning: the outlet of their workbench, of each supply that the site has.</summary>
internal static class DemoOutlets
{
    /// <summary>How far a supply lies from its nominal voltage, of it: real ones are never on the spot.</summary>
    private const double Above = 0.013;

    public static void Add(OsierwandDb db, IEnumerable<Person> people, Round round, DateTimeOffset now)
    {
        var pack = PackLibrary.Find(round.StandardId)!;
        var mains = round.Site.NominalV ?? pack.Nominal.Value;
        // Good is good for the day: of a world that is loaded just after midnight it was a moment ago.
        var morning = now.AddMinutes(-100);
        var at = round.Site.DayOf(morning) == round.Site.DayOf(now) ? morning : now;
        foreach (var person in people.Where(it => it.UserName != DemoCatalogue.Viewer.UserName))
        foreach (var (supply, name) in Supplies(mains))
        {
            var outlet = Of(supply, name, person, at);
            var finding = OutletFinding.Of(supply, outlet.Voltages, pack.Thresholds).Value;
            db.OutletChecks.Add(OutletBook.Row(new(outlet, finding), round.Site));
        }
    }

    /// <summary>What an item of the demo's past was powered from.</summary>
    public static OutletOfTheDay Workbench(Item item, RulePack pack, Person person, DateTimeOffset at) =>
        Of(OutletSupply.For(item, pack), "Workbench, left outlet", person, at);

    private static OutletOfTheDay Of(OutletSupply supply, string name, Person person, DateTimeOffset at) =>
        new(
            Guid.CreateVersion7(),
            person.Id,
            name,
            "workbench",
            true,
            at,
            person.DisplayName,
            supply,
            [.. supply.Pairs.Select(pair => new OutletVoltage(pair, Measured(supply, pair)))]
        );

    private static IEnumerable<(OutletSupply Supply, string Name)> Supplies(double mains)
    {
        yield return (new(mains), "Workbench, left outlet");
        // Where mains are higher than site tools are made for, they have a transformer of their own.
        if (mains > 200)
            yield return (new(110, 1, true), "Workbench, 110 V outlet");
        yield return (new(mains, 3), "Workbench, three-phase outlet");
    }

    private static double Measured(OutletSupply supply, string pair) =>
        Math.Round(supply.Expected(pair) is > 0 and var volts ? volts * (1 + Above) : supply.NominalV * 0.002, 1);
}
