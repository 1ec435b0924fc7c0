using System.Collections;
using System.Globalization;

namespace Osierwand.Core.Bench;

/// <summary>What of an item changed, a line each, old value kept.</summary>
public static class FactLines
{
    public static IEnumerable<string> Between(ItemOnBench before, IntervalBasis basisBefore, ItemOnBench after, IntervalBasis basisAfter)
    {
        return from it in Differences(ItemText.Fields(before, basisBefore), ItemText.Fields(after, basisAfter))
            select $"{it.Name}: {it.Was} → {it.Is}";
    }

    /// <summary>Each fact that differs, by its name.</summary>
    internal static IEnumerable<(string Name, string Was, string Is)> Differences(FactChanges was, FactChanges now) =>
        from it in Named
        let pair = (Was: Text(it.Of(was)), Is: Text(it.Of(now)))
        where pair.Was != pair.Is
        select (it.Name, pair.Was, pair.Is);

    private static readonly (string Name, Func<FactChanges, object?> Of)[] Named =
    [
        ("Name", it => it.Name),
        ("Maker", it => it.Maker),
        ("Model", it => it.Model),
        ("Serial", it => it.Serial),
        ("Room", it => it.Room),
        ("Place", it => Word(it.Place)),
        ("Class seen by", it => Word(it.Evidence)),
        ("Use", it => Word(it.Use)),
        ("Volts", it => it.RatedVoltageV),
        ("Watts", it => it.RatedPowerW),
        ("Amperes", it => it.RatedCurrentA),
        ("Flex length, m", it => it.FlexLengthM),
        ("Flex size, mm²", it => it.FlexMm2),
        ("Plug fuse, A", it => it.PlugFuseA),
        ("Plug", it => Word(it.Plug)),
        ("RCD, mA", it => it.RcdMa),
        ("RCD's own trip time, ms", it => it.RcdOwnTripMs),
        ("Outlets", it => it.Outlets),
        ("Heating", it => it.Heating),
        ("Surge protected", it => it.SurgeProtected),
        ("All insulated", it => it.AllInsulated),
        ("Mains switch", it => Word(it.MainsSwitch)),
        ("Start-up, s", it => it.StartUpSeconds),
        ("Earthed parts", it => it.EarthedParts),
        ("Parts not earthed", it => it.UnearthedParts),
        ("Reached", it => Word(it.Access)),
        ("Care", it => it.Care?.Select(care => (object)Words.Of(care)).ToArray()),
        ("Parts' plates", it => it.PartPlates?.Select(part => (object)$"{part.Name} {part.PowerW} W").ToArray()),
        ("Phases", it => it.Phases),
        ("Lead unplugs", it => it.Detachable),
        ("Coupler", it => Word(it.Inlet)),
        ("Made in", it => it.MadeIn),
        ("Expected life, years", it => it.LifeYears),
        ("Life supporting", it => it.LifeSupporting),
        ("Emergency transport", it => it.EmergencyTransport),
        ("Defibrillator", it => it.Defibrillator is { SettingsJ.Count: > 0 } one ? ItemText.Of(one) : null),
        ("Battery", it => it.Battery is { Has: true } battery ? ItemText.Of(battery) : null),
        ("Accessories", it => it.Accessories),
        ("Its maker asks", it => it.MakerAsks is { } asks ? ItemText.Of(asks) : null),
        ("No applied parts, looked", facts => facts.NoAppliedParts),
        ("Applied parts", it => it.AppliedParts?.Select(part => (object)AppliedText(part)).ToArray()),
    ];

    private static string AppliedText(AppliedPartFact it) =>
        $"{it.Name} {Words.Of(it.Type)}, {it.Connections} {(it.Joined ? "joined" : "each by itself")}"
        + (it.MadeOf is { } modules ? $" ({modules})" : "");

    private static string? Word<T>(T? value)
        where T : struct, Enum => value is { } it ? Words.Of(it) : null;

    private static string Text(object? value) =>
        value switch
        {
            null or "" => "none",
            bool yes => yes ? "yes" : "no",
            string text => text,
            IEnumerable list => string.Join(", ", list.Cast<object>()) is { Length: > 0 } names ? names : "none",
            IFormattable number => number.ToString(null, CultureInfo.InvariantCulture),
            _ => value.ToString()!,
        };
}
