using System.Collections.Immutable;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>Reads a pack from its JSON. A pack that misses a member, names something unknown or contradicts itself does not load; the
/// fault names the place.</summary>
public static class PackReader
{
    /// <param name="json">The text of one pack file.</param>
    /// <param name="include">Finds the text of a shared table by the name under "includes", or null.</param>
    public static Result<RulePack> Read(string json, Func<string, string?> include)
    {
        try
        {
            var file = Parsed(json, JsonRules.File.Of<PackFile>());
            var pack = Pack(file, [.. (file.Includes ?? []).Select((name, at) => Shared(name, at, include))]);
            return PackCheck.Contradiction(pack) is { } contradiction ? contradiction : pack;
        }
        catch (FaultException fault)
        {
            return fault.Fault;
        }
    }

    /// <summary>What System.Text.Json finds wrong, by the path that people write.</summary>
    private static T Parsed<T>(string json, JsonTypeInfo<T> type)
        where T : class
    {
        try
        {
            return JsonSerializer.Deserialize(json, type) ?? throw new FaultException("", "is null");
        }
        catch (JsonException broken)
        {
            var fault = JsonFault.Of(broken);
            throw new FaultException(fault.Path, fault.Message);
        }
    }

    private static SharedTable Shared(string name, int at, Func<string, string?> include)
    {
        var text = include(name) ?? throw new FaultException($"includes[{at}]", $"there is no shared table “{name}”");
        return Parsed(text, JsonRules.File.Of<SharedTable>());
    }

    private static RulePack Pack(PackFile file, ImmutableArray<SharedTable> shared)
    {
        var flex = file.Flex ?? shared.Select(table => table.Flex).OfType<IReadOnlyList<FlexRow>>().FirstOrDefault() ?? [];
        var shortFlex = file.ShortFlexM ?? shared.Select(table => table.ShortFlexM).FirstOrDefault(length => length is not null);
        return new()
        {
            Id = Text("id", file.Id),
            Version = Text("version", file.Version),
            Title = Text("title", file.Title),
            Edition = Text("edition", file.Edition),
            ShortName = Text("shortName", file.ShortName),
            Country = Text("country", file.Country),
            Scope = file.Scope,
            Nominal = new(Positive("nominalMainsV", file.NominalMainsV)),
            Hertz = Positive("mainsHz", file.MainsHz),
            ScaleTo = Positive("scaleTo", file.ScaleTo),
            PowerOffIsACondition = file.PowerOffIsACondition,
            Limits = [.. Under("limits", file.Limits, Limit), .. shared.SelectMany(table => Under("limits", table.Limits, Limit))],
            Series = [.. Under("series", file.Series, OneSeries), .. shared.SelectMany(table => Under("series", table.Series, OneSeries))],
            Flex = [.. Under("flex", flex, Flex).OrderBy(row => row.Size.Value)],
            ShortFlex = shortFlex is { } most ? new Metres(Positive("shortFlexM", most)) : null,
            CordLengths = Under("leadLengths", file.LeadLengths, Length),
            Fuse = file.Fuse is { } fuse ? Fuse(fuse) : null,
            FlexedAt = file.FlexedAt,
            EarthCurrent = file.EarthCurrent is { } current ? EarthCurrent(current) : null,
            CombinedByPlace = file.CombinedMonthsByPlace?.ToImmutableDictionary() ?? ImmutableDictionary<Equipment.Place, Period>.Empty,
            RcdIntervals = file.RcdIntervals is { } rcd ? new(rcd.Usual, rcd.ByPlace.ToImmutableDictionary()) : null,
            Dialect = file.Words is { } words ? DialectOf(words) : Dialect.Plain,
        };
    }

    private static ImmutableArray<TTo> Under<TFrom, TTo>(string place, IReadOnlyList<TFrom>? rows, Func<TFrom, TTo> made) =>
        [
            .. (rows ?? []).Select(
                (row, at) =>
                {
                    try
                    {
                        return made(row);
                    }
                    catch (FaultException fault)
                    {
                        throw fault.Under($"{place}[{at}]");
                    }
                }
            ),
        ];

    private static LimitRule Limit(LimitRow row)
    {
        Check(row.Item);
        var formula = FormulaOf(row);
        return new(
            Text("id", row.Id),
            Text("what", row.What),
            row.Test,
            row.Item ?? ItemPattern.Any,
            Check("reading", row.Reading) ?? ReadingPattern.Any,
            row.Comparator,
            formula,
            Text("clause", row.Clause),
            row.Remark
        )
        {
            OwnUpTo = row.OwnUpTo is { } most ? In(row.Unit, Positive("ownUpTo", most)) : null,
        };
    }

    private static Formula FormulaOf(LimitRow row)
    {
        var unit = row.Unit;
        Formula?[] formulas =
        [
            row.PerLength is { } it
                ? new Formula.ByLength(
                    Ohms("perLength.base", it.Base, unit),
                    new(NotNegative("perLength.upToM", it.UpToM)),
                    new(Positive("perLength.stretchM", it.StretchM)),
                    Ohms("perLength.step", it.Step, unit),
                    Ohms("perLength.ceiling", it.Ceiling, unit)
                )
                : null,
            row.PerKilowatt is { } power
                ? new Formula.PerKilowatt(
                    In(unit, NotNegative("perKilowatt.value", power.Value)),
                    power.Floor is { } floor ? In(unit, NotNegative("perKilowatt.floor", floor)) : null,
                    In(unit, NotNegative("perKilowatt.ceiling", power.Ceiling))
                )
                : null,
            row.Within is { } within
                ? new Formula.Deviation(
                    In(unit, NotNegative("within.floor", within.Floor)),
                    NotNegative("within.fraction", within.Fraction)
                )
                : null,
            row.NoTripWithin is { } watch ? new Formula.NoTrip(In(unit, Positive("noTripWithin", watch))) : null,
            row.Value is { } value ? Valued(NotNegative("value", value), row) : null,
        ];
        return formulas.Count(formula => formula is not null) == 1
            ? formulas.Single(formula => formula is not null)!
            : throw new FaultException("value", "a limit has either a value or one formula");
    }

    private static Formula Valued(double value, LimitRow row) =>
        row.PlusConductor ? new Formula.PlusConductor(new(value * row.Unit.Factor)) : new Formula.Fixed(In(row.Unit, value));

    private static Series OneSeries(SeriesRow row)
    {
        Check(row.Item);
        if ((row.Need == Need.OneOfGroup) != (row.Group is not null))
            throw new FaultException("group", "goes with need “oneOfGroup”, and only with it");
        if (row.Each is { Count: 0 })
            throw new FaultException("each", "must name at least one condition");
        var reading = Check("reading", row.Reading) ?? ReadingPattern.Any;
        return new(
            row.Test,
            row.Item ?? ItemPattern.Any,
            reading,
            row.Each is null ? [ReadingPattern.Any] : Under("each", row.Each, each => Check("", each)!),
            Check("satisfied", row.Satisfied),
            row.Need,
            row.Group,
            row.Repeat,
            row.Planned,
            row.Powered
        )
        {
            Accepts = Check("accepts", row.Accepts) ?? reading,
            AskedBy = row.AskedBy,
        };
    }

    private static void Check(ItemPattern? item)
    {
        if (item is null)
            return;
        foreach (var (name, range) in new[] { ("powerW", item.PowerW), ("conductorMm2", item.ConductorMm2), ("rcdMa", item.RcdMa) })
            if (range is { } given && (given.IsAny || given.UpTo <= given.Above || given.UpTo < given.AtLeast))
                throw new FaultException($"item.{name}", "is an empty range");
    }

    private static ReadingPattern? Check(string place, ReadingPattern? reading) =>
        reading is { Multiple: <= 0 } or { PhaseDeg: < 0 }
            ? throw new FaultException(place, "has a multiple or a half-wave that nothing is tripped at")
            : reading;

    private static FlexSize Flex(FlexRow row) =>
        new(
            new(Positive("mm2", row.Mm2)),
            new(Positive("milliohmPerMetre", row.MilliohmPerMetre) / 1000),
            row.CarriesA is { } carries ? new Amperes(Positive("carriesA", carries)) : null,
            row.CarriesShortA is { } little ? new Amperes(Positive("carriesShortA", little)) : null
        );

    private static CordLength Length(LeadLengthRow row) =>
        new(new(Positive("mm2", row.Mm2)), new(Positive("upToM", row.UpToM)), row.Remark);

    private static FuseRule Fuse(FuseRow row) =>
        new(
            new(Positive("fuse.smallUpToW", row.SmallUpToW)),
            new(Positive("fuse.smallA", row.SmallA)),
            new(Positive("fuse.largeA", row.LargeA)),
            new(Positive("fuse.thinFlexMm2", row.ThinFlexMm2)),
            new(Positive("fuse.thinFlexMostA", row.ThinFlexMostA)),
            new(Positive("fuse.largestMadeA", row.LargestMadeA))
        );

    private static EarthCurrent EarthCurrent(EarthCurrentRow row) =>
        new(
            row.DecidesFromA is { } least ? new Amperes(Positive("earthCurrent.decidesFromA", least)) : null,
            row.AdvisedFromA is { } advised ? new Amperes(Positive("earthCurrent.advisedFromA", advised)) : null,
            row.TimesRated is { } times ? Positive("earthCurrent.timesRated", times) : 0,
            row.OpenAtMostV is { } open ? new Volts(Positive("earthCurrent.openAtMostV", open)) : null
        );

    private static Dialect DialectOf(IReadOnlyDictionary<string, string> words)
    {
        foreach (var (ours, theirs) in words)
            if (ours.Any(char.IsUpper) || theirs.Length == 0)
                throw new FaultException($"words.{ours}", "is written in small letters, and says something");
        return new(words.ToImmutableDictionary());
    }

    private static Quantity In(Unit unit, double amount) => new(amount * unit.Factor, unit.Dimension);

    private static Ohms Ohms(string place, double amount, Unit unit) => new(NotNegative(place, amount) * unit.Factor);

    private static string Text(string place, string text) => text.Length > 0 ? text : throw new FaultException(place, "must not be empty");

    private static double Positive(string place, double number) =>
        number > 0 ? number : throw new FaultException(place, "must be greater than 0");

    private static double NotNegative(string place, double number) =>
        number >= 0 ? number : throw new FaultException(place, "must not be negative");
}
