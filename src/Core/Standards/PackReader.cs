using System.Collections.Immutable;
using System.Text.Json;
using Osierwand.Core.Json;
using Osierwand.Core.Quantities;
using static Osierwand.Core.Json.JsonWalk;
using static Osierwand.Core.Standards.PatternReader;

namespace Osierwand.Core.Standards;

/// <summary>Reads a pack from its JSON. A pack that misses a field, names something unknown or contradicts itself does not load; the
/// fault names the place.</summary>
public static class PackReader
{
    /// <param name="json">The text of one pack file.</param>
    /// <param name="include">Finds the text of a shared table by the name under "includes", or null.</param>
    public static Result<RulePack> Read(string json, Func<string, string?> include)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            return new Draft(include).Read(document.RootElement);
        }
        catch (FaultException fault)
        {
            return fault.Fault;
        }
        catch (JsonException broken)
        {
            return new Fault("", $"is not JSON: {broken.Message}");
        }
    }

    private sealed class Draft(Func<string, string?> include)
    {
        private readonly Dictionary<string, object> scalars = [];
        private ImmutableArray<LimitRule> limits = [];
        private ImmutableArray<Series> series = [];

        /// <summary>Of a shared table; they come after the pack's own, as its extras do.</summary>
        private ImmutableArray<Series> sharedSeries = [];
        private ImmutableArray<FlexSize> flex = [];
        private Metres? shortFlex;
        private ImmutableArray<CordLength> leadLengths = [];
        private ImmutableDictionary<string, double> byPlace = ImmutableDictionary<string, double>.Empty;
        private FuseRule? fuse;
        private EarthSource? earthSource;
        private RcdIntervals? rcdIntervals;
        private Dialect dialect = Dialect.Plain;

        public RulePack Read(JsonElement root)
        {
            Visit(root);
            var pack = new RulePack
            {
                Id = Must<string>("id"),
                Version = Must<string>("version"),
                Title = Must<string>("title"),
                Edition = Must<string>("edition"),
                ShortName = Must<string>("shortName"),
                Country = Must<string>("country"),
                Scope = Must<PackScope>("scope"),
                Nominal = new(Must<double>("nominalMainsV")),
                Hertz = Must<double>("mainsHz"),
                ScaleTo = scalars.TryGetValue("scaleTo", out var scale) ? (double)scale : 1,
                PowerOffIsACondition = scalars.ContainsKey("powerOffIsACondition"),
                Limits = limits,
                Series = [.. series, .. sharedSeries],
                Flex = flex,
                ShortFlex = shortFlex,
                CordLengths = leadLengths,
                Fuse = fuse,
                EarthSource = earthSource,
                CombinedByPlace = byPlace,
                RcdIntervals = rcdIntervals,
                Dialect = dialect,
            };
            if (PackCheck.Contradiction(pack) is { } contradiction)
                throw new FaultException(contradiction.Path, contradiction.Message);
            return pack;
        }

        private T Must<T>(string name) => scalars.TryGetValue(name, out var value) ? (T)value : throw Missing(name);

        private void Visit(JsonElement root, bool shared = false) =>
            Properties(
                root,
                (name, value) =>
                {
                    switch (name)
                    {
                        case "$schema":
                            break;
                        case "id" or "version" or "title" or "shortName" or "edition" or "country":
                            scalars[name] = NonEmptyText(value);
                            break;
                        case "scope":
                            scalars[name] = Word<PackScope>(value);
                            break;
                        case "shortFlexM":
                            shortFlex = new(Positive(value));
                            break;
                        case "nominalMainsV" or "mainsHz" or "scaleTo":
                            scalars[name] = Positive(value);
                            break;
                        case "powerOffIsACondition":
                            if (Boolean(value))
                                scalars[name] = true;
                            break;
                        case "includes":
                            foreach (var shared in List(value, NonEmptyText))
                                Include(shared);
                            break;
                        case "limits":
                            limits = limits.AddRange(List(value, Limit));
                            break;
                        case "series":
                            if (shared)
                                sharedSeries = sharedSeries.AddRange(List(value, OneSeries));
                            else
                                series = List(value, OneSeries);
                            break;
                        case "flex":
                            flex = [.. List(value, Flex).OrderBy(row => row.Size.Value)];
                            break;
                        case "leadLengths":
                            leadLengths = List(value, Length);
                            break;
                        case "fuse":
                            fuse = Fuse(value);
                            break;
                        case "rcdIntervals":
                            rcdIntervals = RcdIntervalsOf(value);
                            break;
                        case "words":
                            dialect = DialectOf(value);
                            break;
                        case "earthSource":
                            earthSource = Source(value);
                            break;
                        case "combinedMonthsByPlace":
                            Properties(
                                value,
                                (place, months) =>
                                    byPlace = byPlace.SetItem(
                                        Words.Find<Equipment.Place>(place) is null ? throw Unknown(place) : place,
                                        Positive(months)
                                    )
                            );
                            break;
                        default:
                            throw Unknown(name);
                    }
                }
            );

        private static Dialect DialectOf(JsonElement value)
        {
            var words = ImmutableDictionary.CreateBuilder<string, string>();
            Properties(
                value,
                (ours, theirs) =>
                    words[ours] = ours.Any(char.IsUpper)
                        ? throw new FaultException("", "is written in small letters")
                        : NonEmptyText(theirs)
            );
            return new(words.ToImmutable());
        }

        private void Include(string name)
        {
            using var document = JsonDocument.Parse(include(name) ?? throw new FaultException("", $"there is no shared table “{name}”"));
            Visit(document.RootElement, shared: true);
        }

        private static LimitRule Limit(JsonElement element)
        {
            string? id = null,
                what = null,
                clause = null,
                remark = null;
            Test? test = null;
            var (item, reading) = (ItemPattern.Any, ReadingPattern.Any);
            Comparator? comparator = null;
            Unit? unit = null;
            var formula = default(Func<Unit, Formula>);
            var (value, plus, ownUpTo) = (default(double?), false, default(double?));
            Properties(
                element,
                (name, it) =>
                {
                    switch (name)
                    {
                        case "id":
                            id = NonEmptyText(it);
                            break;
                        case "what":
                            what = NonEmptyText(it);
                            break;
                        case "test":
                            test = Word<Test>(it);
                            break;
                        case "item":
                            item = Item(it);
                            break;
                        case "reading":
                            reading = Reading(it);
                            break;
                        case "comparator":
                            comparator = ComparatorOf(it);
                            break;
                        case "unit":
                            unit = Unit.Find(Text(it)) ?? throw new FaultException("", $"“{Text(it)}” is not a unit");
                            break;
                        case "value":
                            value = NotNegative(it);
                            break;
                        case "ownUpTo":
                            ownUpTo = Positive(it);
                            break;
                        case "plusConductor":
                            plus = Boolean(it);
                            break;
                        case "perLength":
                            formula = ByLength(it);
                            break;
                        case "perKilowatt":
                            formula = PerKilowatt(it);
                            break;
                        case "within":
                            formula = Deviation(it);
                            break;
                        case "noTripWithin":
                            formula = In(Positive(it), (amount, _) => new Formula.NoTrip(amount));
                            break;
                        case "clause":
                            clause = NonEmptyText(it);
                            break;
                        case "remark":
                            remark = NonEmptyText(it);
                            break;
                        default:
                            throw Unknown(name);
                    }
                }
            );
            var its = unit ?? throw Missing("unit");
            if ((value is null) == (formula is null))
                throw Missing("value", "a limit has either a value or one formula");
            return new(
                id ?? throw Missing("id"),
                what ?? throw Missing("what"),
                test ?? throw Missing("test"),
                item,
                reading,
                comparator ?? throw Missing("comparator"),
                formula?.Invoke(its)
                    ?? (
                        plus
                            ? new Formula.PlusConductor(new(value!.Value * its.Factor))
                            : new Formula.Fixed(new(value!.Value * its.Factor, its.Dimension))
                    ),
                clause ?? throw Missing("clause"),
                remark
            )
            {
                OwnUpTo = ownUpTo is { } most ? new Quantity(most * its.Factor, its.Dimension) : null,
            };
        }

        private static Func<Unit, Formula> In(double amount, Func<Quantity, Unit, Formula> make) =>
            unit => make(new(amount * unit.Factor, unit.Dimension), unit);

        private static Func<Unit, Formula> ByLength(JsonElement element)
        {
            var n = Numbers(element, "base", "upToM", "stretchM", "step", "ceiling");
            return unit => new Formula.ByLength(
                new(n["base"] * unit.Factor),
                new(n["upToM"]),
                new(n["stretchM"]),
                new(n["step"] * unit.Factor),
                new(n["ceiling"] * unit.Factor)
            );
        }

        private static Func<Unit, Formula> PerKilowatt(JsonElement element)
        {
            var n = Numbers(element, "value", "ceiling", "floor?");
            return unit => new Formula.PerKilowatt(
                new(n["value"] * unit.Factor, unit.Dimension),
                n.TryGetValue("floor", out var floor) ? new Quantity(floor * unit.Factor, unit.Dimension) : null,
                new(n["ceiling"] * unit.Factor, unit.Dimension)
            );
        }

        private static Func<Unit, Formula> Deviation(JsonElement element)
        {
            var n = Numbers(element, "floor", "fraction");
            return unit => new Formula.Deviation(new(n["floor"] * unit.Factor, unit.Dimension), n["fraction"]);
        }

        private static Comparator ComparatorOf(JsonElement element) =>
            Text(element) switch
            {
                "<=" => Comparator.NotMoreThan,
                ">=" => Comparator.NotLessThan,
                "<" => Comparator.Below,
                "within" => Comparator.Within,
                var other => throw new FaultException("", $"“{other}” is not one of <= | >= | < | within"),
            };

        private static Series OneSeries(JsonElement element)
        {
            Test? test = null;
            var (item, reading) = (ItemPattern.Any, ReadingPattern.Any);
            var accepts = default(ReadingPattern);
            ImmutableArray<ReadingPattern> each = [ReadingPattern.Any];
            ReadingPattern? satisfied = null;
            var (need, group, repeat, planned, powered, askedBy) = (Need.Required, default(string), Repeat.Once, true, false, AskedBy.Pack);
            Properties(
                element,
                (name, value) =>
                {
                    switch (name)
                    {
                        case "test":
                            test = Word<Test>(value);
                            break;
                        case "item":
                            item = Item(value);
                            break;
                        case "reading":
                            reading = Reading(value);
                            break;
                        case "accepts":
                            accepts = Reading(value);
                            break;
                        case "each":
                            each = List(value, Reading);
                            break;
                        case "satisfied":
                            satisfied = Reading(value);
                            break;
                        case "need":
                            need = Word<Need>(value);
                            break;
                        case "group":
                            group = NonEmptyText(value);
                            break;
                        case "repeat":
                            repeat = Word<Repeat>(value);
                            break;
                        case "planned":
                            planned = Boolean(value);
                            break;
                        case "powered":
                            powered = Boolean(value);
                            break;
                        case "askedBy":
                            askedBy = Word<AskedBy>(value);
                            break;
                        default:
                            throw Unknown(name);
                    }
                }
            );
            if ((need == Need.OneOfGroup) != (group is not null))
                throw Missing("group", "goes with need “oneOfGroup”, and only with it");
            if (each.IsEmpty)
                throw Missing("each", "must name at least one condition");
            return new(test ?? throw Missing("test"), item, reading, each, satisfied, need, group, repeat, planned, powered)
            {
                Accepts = accepts ?? reading,
                AskedBy = askedBy,
            };
        }

        private static FlexSize Flex(JsonElement element)
        {
            var n = Numbers(element, "mm2", "milliohmPerMetre", "carriesA?", "carriesShortA?");
            return new(
                new(n["mm2"]),
                new(n["milliohmPerMetre"] / 1000),
                n.TryGetValue("carriesA", out var carries) ? new Amperes(carries) : null,
                n.TryGetValue("carriesShortA", out var little) ? new Amperes(little) : null
            );
        }

        private static CordLength Length(JsonElement element)
        {
            var (size, upTo, remark) = (0.0, 0.0, default(string));
            Properties(
                element,
                (name, value) =>
                    _ = name switch
                    {
                        "mm2" => size = Positive(value),
                        "upToM" => upTo = Positive(value),
                        "remark" => (remark = Text(value)).Length,
                        _ => throw Unknown(name),
                    }
            );
            return size > 0 && upTo > 0 ? new(new(size), new(upTo), remark) : throw Missing("mm2", "a lead length has a size and a length");
        }

        private static EarthSource Source(JsonElement element)
        {
            var n = Numbers(element, "atLeastA", "atMostV");
            return new(new(n["atLeastA"]), new(n["atMostV"]));
        }

        private static RcdIntervals RcdIntervalsOf(JsonElement element)
        {
            var usual = default(RcdInterval);
            var byPlace = ImmutableDictionary<Equipment.Place, RcdInterval>.Empty;
            Properties(
                element,
                (name, value) =>
                {
                    if (name == "usual")
                        usual = RcdIntervalOf(value);
                    else
                        byPlace = byPlace.SetItem(Words.Find<Equipment.Place>(name) ?? throw Unknown(name), RcdIntervalOf(value));
                }
            );
            return new(usual ?? throw Missing("usual"), byPlace);
        }

        private static RcdInterval RcdIntervalOf(JsonElement element)
        {
            var (months, button) = (default(double?), default(string));
            Properties(
                element,
                (name, value) =>
                    _ = name switch
                    {
                        "tripMonths" => (months = Positive(value)) > 0,
                        "pushButton" => (button = NonEmptyText(value)).Length > 0,
                        _ => throw Unknown(name),
                    }
            );
            return new(months ?? throw Missing("tripMonths"), button ?? throw Missing("pushButton"));
        }

        private static FuseRule Fuse(JsonElement element)
        {
            var n = Numbers(element, "smallUpToW", "smallA", "largeA", "thinFlexMm2", "thinFlexMostA");
            return new(new(n["smallUpToW"]), new(n["smallA"]), new(n["largeA"]), new(n["thinFlexMm2"]), new(n["thinFlexMostA"]));
        }
    }
}
