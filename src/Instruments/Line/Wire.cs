using System.Globalization;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Outlets;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Instruments.Line;

/// <summary>Requests, readings and ranges as named values of a message, both ways.</summary>
internal static class Wire
{
    /// <summary>No measurement is held longer.</summary>
    public const double LongestSeconds = 600;

    public static Message Start(int number, MeasurementRequest it)
    {
        var (leakage, insulation) = (it.Under as Conditions.Leakage, it.Under as Conditions.Insulation);
        var (trip, earth) = (it.Under as Conditions.RcdTrip, it.Under as Conditions.EarthContinuity);
        return Message.Of(
            number,
            "START",
            ("test", Words.Of(it.Test)),
            ("at", it.Under.At?.Text),
            ("path", Word(earth?.Path)),
            ("part", earth is not null ? Word<EarthPart>(earth.Part) : Word(insulation?.Part)),
            ("kind", Word(leakage?.Kind)),
            ("method", Word(leakage?.Method)),
            ("current", Word(leakage?.Current)),
            ("polarity", Word(leakage?.Polarity)),
            ("neutral", Word(leakage?.Neutral)),
            ("earth", Word(leakage?.Earth)),
            ("power", Word(leakage?.Power)),
            ("between", Word(insulation?.Between)),
            ("applied", it.Under.AppliedPart),
            ("multiple", trip?.Multiple),
            ("phase", trip?.PhaseDeg),
            ("rated", trip is null ? null : it.RcdAmperes),
            ("volts", insulation is null ? null : it.TestVolts),
            ("mains", it.Supply.NominalV),
            ("hertz", it.Hertz),
            ("phases", it.Supply.Phases == 1 ? null : it.Supply.Phases),
            ("centre", it.Supply.IsCentreEarthed ? "earthed" : null),
            ("set", it.Under.Set?.Si),
            ("trigger", Word((it.Under as Conditions.DefibSync)?.Trigger)),
            ("count", it.Count > 0 ? it.Count : null),
            ("guard", it.GuardsProbe ? "probe" : null),
            ("seconds", it.Seconds)
        );
    }

    /// <returns>Null when nothing is asked for that could be measured.</returns>
    public static MeasurementRequest? Request(Message it) =>
        Asked(it) is { } under
            ? new(
                it.Text("at") is { } spot ? under with { At = Spot.Of(spot) } : under,
                new(Math.Clamp(it.Amount("mains") ?? 230, 24, 500), it.Amount("phases") == 3 ? 3 : 1, it.Text("centre") == "earthed"),
                it.Amount("hertz") == 60 ? 60 : 50,
                Math.Clamp(it.Amount("volts") ?? 500, 50, 500),
                Math.Clamp(it.Amount("seconds") ?? 1, 0, LongestSeconds),
                it.Amount("rated")
            )
            {
                GuardsProbe = it.Text("guard") == "probe",
                Count = (int)Math.Clamp(it.Amount("count") ?? 0, 0, 50),
            }
            : null;

    private static Conditions? Asked(Message it) =>
        Enum<Test>(it, "test") switch
        {
            Test.EarthContinuity => new Conditions.EarthContinuity
            {
                Path = Enum<EarthPath>(it, "path") ?? default,
                Part = Enum<EarthPart>(it, "part") ?? default,
            },
            Test.Insulation => new Conditions.Insulation(Enum<Between>(it, "between") ?? default)
            {
                Part = Enum<InsulationPart>(it, "part") ?? default,
                AppliedPart = it.Text("applied"),
            },
            Test.Leakage when Enum<LeakageKind>(it, "kind") is { } kind => new Conditions.Leakage(kind)
            {
                Method = Enum<LeakageMethod>(it, "method") ?? default,
                Current = Enum<CurrentType>(it, "current") ?? default,
                Polarity = Enum<MainsPolarity>(it, "polarity") ?? default,
                Neutral = Enum<ConductorState>(it, "neutral") ?? default,
                Earth = Enum<ConductorState>(it, "earth") ?? default,
                Power = Enum<PowerState>(it, "power") ?? default,
                AppliedPart = it.Text("applied"),
            },
            Test.RcdTrip when it.Amount("multiple") is > 0 and <= 10 and var multiple => new Conditions.RcdTrip(
                multiple,
                it.Amount("phase") == 180 ? 180 : 0
            ),
            Test.PadPath => new Conditions.PadPath(),
            Test.DefibEnergy when it.Amount("set") is > 0 and <= 1000 and var joules => new Conditions.DefibEnergy(
                new(joules, Dimension.Energy)
            ),
            Test.DefibCharge => new Conditions.DefibCharge(),
            Test.DefibSync => new Conditions.DefibSync(Enum<SyncTrigger>(it, "trigger") ?? default),
            Test.EcgAmplitude when it.Amount("set") is > 0 and <= 0.1 and var volts => new Conditions.EcgAmplitude(
                new(volts, Dimension.Voltage)
            ),
            Test.Polarity => new Conditions.Polarity(),
            Test.Wiring => new Conditions.Wiring(),
            _ => null,
        };

    public static Message Value(int number, string word, InstrumentReading it, double elapsed, bool isSettled, DateTimeOffset? at = null) =>
        Message.Of(
            number,
            word,
            ("test", Words.Of(it.Test)),
            ("value", it.Value?.Number),
            ("unit", it.Value?.Unit.Symbol),
            ("qualifier", Sign(it.Value)),
            ("least", Plain(it.Least, it.Value)),
            ("most", Plain(it.Most, it.Value)),
            ("ok", YesNo(it.Ok)),
            ("found", Word(it.Found)),
            ("tripped", YesNo(it.Tripped)),
            ("mains", it.Mains),
            ("load", it.LoadAmperes),
            ("path", YesNo(it.PathSeen)),
            ("worst", it.Spot),
            ("counted", it.Counted),
            ("said", it.Said),
            ("settled", word == "PROGRESS" ? YesNo(isSettled) : null),
            ("elapsed", Math.Round(elapsed, 2)),
            ("at", at?.ToUnixTimeMilliseconds())
        );

    /// <returns>Null when the message is not a reading, or one that cannot be: a unit that its test does not have, a figure that is
    /// none. Of a progress only the figure may be missing.</returns>
    public static InstrumentReading? Reading(Message it)
    {
        if (Enum<Test>(it, "test") is not { } test)
            return null;
        Measured? value = null;
        if (it.Text("value") is not null)
        {
            if (
                it.Amount("value") is not { } number
                || Unit.Find(it.Text("unit") ?? "") is not { } unit
                || unit.Dimension != TestFigure.DimensionOf(test)
            )
                return null;
            if (it.Text("qualifier") is not (null or ">" or "<"))
                return null;
            value = new(number, unit, QualifierOf(it.Text("qualifier")));
        }
        var (ok, tripped) = (it.Flag("ok"), it.Flag("tripped"));
        if (value is null && ok is null && tripped is null && it.Word != "PROGRESS")
            return null;
        return new(test, value, ok, tripped, it.Amount("mains"), it.Amount("load"))
        {
            Found = Enum<ConductorFault>(it, "found"),
            PathSeen = it.Flag("path"),
            Least = Bound(it, "least", value),
            Most = Bound(it, "most", value),
            Spot = it.Text("worst"),
            Counted = it.Amount("counted") is >= 0 and <= 50 and var counted ? (int)counted : null,
            Said = it.Text("said") is { Length: <= 120 } said ? said : null,
        };
    }

    /// <summary>When the instrument showed it; null where it does not say, or what it says is no time of this age.</summary>
    public static DateTimeOffset? At(Message it) =>
        it.Amount("at") is >= 0 and < 4e12 and var at ? DateTimeOffset.FromUnixTimeMilliseconds((long)at) : null;

    public static Message Range(int number, InstrumentRange it) =>
        Message.Of(
            number,
            "RANGE",
            ("test", Words.Of(it.Test)),
            ("from", it.From),
            ("to", it.To),
            ("step", it.Step),
            ("unit", it.Unit.Symbol),
            ("percent", it.Percent),
            ("digits", it.Digits),
            ("drives", it.TestAmperes)
        );

    /// <returns>Null when the message does not describe a range.</returns>
    public static InstrumentRange? Range(Message it) =>
        Enum<Test>(it, "test") is { } test
        && Unit.Find(it.Text("unit") ?? "") is { } unit
        && unit.Dimension == TestFigure.DimensionOf(test)
        && it.Amount("from") is { } from
        && it.Amount("to") is { } to
        && it.Amount("step") is > 0 and var step
        && it.Amount("percent") is >= 0 and var percent
        && it.Amount("digits") is >= 0 and var digits
            ? new(test, from, to, step, unit, percent, digits, it.Amount("drives"))
            : null;

    /// <summary>So many figures of a curve fit a line.</summary>
    private const int FiguresALine = 40;

    /// <summary>A curve as lines of its own, before the reading that it belongs to.</summary>
    public static IEnumerable<Message> Waves(int number, Waveform it) =>
        it
            .Values.Chunk(FiguresALine)
            .Select(
                (part, at) =>
                    Message.Of(
                        number,
                        "WAVE",
                        ("from", at * FiguresALine),
                        ("of", at == 0 ? it.Of : null),
                        ("every", at == 0 ? it.Every : null),
                        ("per", at == 0 ? it.EveryUnit : null),
                        ("unit", at == 0 ? it.Unit : null),
                        ("values", string.Join(',', part.Select(value => value.ToString(CultureInfo.InvariantCulture))))
                    )
            );

    /// <summary>A curve from its lines, or from as many as have come.</summary>
    /// <returns>Null where they are no curve.</returns>
    public static Waveform? Wave(IReadOnlyList<Message> lines)
    {
        if (lines is not [{ } first, ..] || first.Amount("every") is not { } every)
            return null;
        var values = new List<double>();
        foreach (var line in lines)
        {
            if (line.Amount("from") != values.Count)
                return null;
            foreach (var text in (line.Text("values") ?? "").Split(','))
            {
                if (!double.TryParse(text, NumberStyles.Float, CultureInfo.InvariantCulture, out var value))
                    return null;
                // A negative nothing is nothing: a page would send it back as 0, and it would not be what was kept.
                values.Add(value + 0.0);
            }
        }
        var wave = new Waveform(first.Text("of") ?? "", every, first.Text("per") ?? "", first.Text("unit") ?? "", values);
        return wave.IsSound ? wave : null;
    }

    private static string? Sign(Measured? value) =>
        value?.Qualifier switch
        {
            Qualifier.Above => ">",
            Qualifier.Below => "<",
            _ => null,
        };

    private static Qualifier QualifierOf(string? sign) =>
        sign switch
        {
            ">" => Qualifier.Above,
            "<" => Qualifier.Below,
            _ => Qualifier.Exact,
        };

    /// <summary>The smallest and the largest in the unit of the value, with their sign where they are bounds: ">24".</summary>
    private static string? Plain(Measured? it, Measured? beside) =>
        it is { } value && beside is { } unit
            ? Sign(value) + Math.Round(value.Quantity.Si / unit.Unit.Factor, 6).ToString(CultureInfo.InvariantCulture)
            : null;

    private static Measured? Bound(Message it, string name, Measured? beside)
    {
        if (beside is not { } value || it.Text(name) is not { Length: > 0 } text)
            return null;
        var sign = text[0] is '<' or '>' ? text[..1] : null;
        return
            double.TryParse(text[(sign?.Length ?? 0)..], NumberStyles.Float, CultureInfo.InvariantCulture, out var number)
            && double.IsFinite(number)
            ? new(number, value.Unit, QualifierOf(sign))
            : null;
    }

    private static string? Word<T>(T? value)
        where T : struct, Enum => value is { } it ? Words.Of(it) : null;

    private static T? Enum<T>(Message it, string name)
        where T : struct, Enum => it.Text(name) is { } word ? Words.Find<T>(word) : null;

    private static string? YesNo(bool? flag) =>
        flag switch
        {
            true => "yes",
            false => "no",
            _ => null,
        };
}
