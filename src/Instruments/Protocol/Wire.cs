using System.Globalization;
using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Instruments.Protocol;

/// <summary>Requests, readings and simulated items as named values of a message, both ways.</summary>
internal static class Wire
{
    private const string DayFormat = "yyyy-MM-dd";

    public static Message Start(int number, MeasurementRequest it)
    {
        var (leakage, insulation) = (it.Under as Conditions.Leakage, it.Under as Conditions.Insulation);
        var trip = it.Under as Conditions.RcdTrip;
        return Message.Of(
            number,
            "START",
            ("test", Words.Of(it.Test)),
            ("kind", Word(leakage?.Kind)),
            ("method", Word(leakage?.Method)),
            ("polarity", Word(leakage?.Polarity)),
            ("neutral", Word(leakage?.Neutral)),
            ("earth", Word(leakage?.Earth)),
            ("power", Word(leakage?.Power)),
            ("between", Word(insulation?.Between)),
            ("multiple", trip?.Multiple),
            ("phase", trip?.PhaseDeg),
            ("volts", insulation is null ? null : it.TestVolts),
            ("mains", it.NominalVolts),
            ("hertz", it.Hertz),
            ("seconds", it.Seconds)
        );
    }

    /// <returns>Null when nothing that this instrument could measure is asked for.</returns>
    public static MeasurementRequest? Request(Message it) =>
        Asked(it) is { } under
            ? new(
                under,
                it.Amount("volts") ?? 500,
                it.Amount("mains") ?? 230,
                it.Amount("hertz") ?? 50,
                Math.Clamp(it.Amount("seconds") ?? 1, 0, 60)
            )
            : null;

    private static Conditions? Asked(Message it) =>
        Enum<Test>(it, "test") switch
        {
            Test.EarthContinuity => new Conditions.EarthContinuity(),
            Test.Insulation => new Conditions.Insulation(Enum<Between>(it, "between") ?? default),
            Test.Leakage when Enum<LeakageKind>(it, "kind") is { } kind => new Conditions.Leakage(kind)
            {
                Method = Enum<LeakageMethod>(it, "method") ?? default,
                Polarity = Enum<MainsPolarity>(it, "polarity") ?? default,
                Neutral = Enum<ConductorState>(it, "neutral") ?? default,
                Earth = Enum<ConductorState>(it, "earth") ?? default,
                Power = Enum<PowerState>(it, "power") ?? default,
            },
            Test.RcdTrip => new Conditions.RcdTrip(it.Amount("multiple") ?? 1, (int)(it.Amount("phase") ?? 0)),
            Test.Polarity => new Conditions.Polarity(),
            Test.Wiring => new Conditions.Wiring(),
            _ => null,
        };

    private static string? Word<T>(T? value)
        where T : struct, Enum => value is { } it ? Words.Of(it) : null;

    public static Message Value(int number, string word, InstrumentReading it) =>
        Message.Of(
            number,
            word,
            ("test", Words.Of(it.Test)),
            ("value", it.Value?.Number),
            ("unit", it.Value?.Unit.Symbol),
            (
                "qualifier",
                it.Value?.Qualifier switch
                {
                    Qualifier.Above => ">",
                    Qualifier.Below => "<",
                    _ => null,
                }
            ),
            ("ok", YesNo(it.Ok)),
            ("tripped", YesNo(it.Tripped)),
            ("mains", it.Mains),
            ("load", it.LoadAmperes)
        );

    /// <returns>Null when the message is not a whole reading.</returns>
    public static InstrumentReading? Reading(Message it)
    {
        if (Enum<Test>(it, "test") is not { } test)
            return null;
        Measured? value = null;
        if (it.Amount("value") is { } number)
        {
            if (Unit.Find(it.Text("unit") ?? "") is not { } unit)
                return null;
            value = new(
                number,
                unit,
                it.Text("qualifier") switch
                {
                    ">" => Qualifier.Above,
                    "<" => Qualifier.Below,
                    _ => Qualifier.Exact,
                }
            );
        }
        var (ok, tripped) = (it.Flag("ok"), it.Flag("tripped"));
        return value is null && ok is null && tripped is null ? null : new(test, value, ok, tripped, it.Amount("mains"), it.Amount("load"));
    }

    public static Message Place(int number, string tag, Item item, DateOnly made, DateOnly day, Defect defect) =>
        Message.Of(
            number,
            "PLACE",
            ("tag", tag),
            ("made", made.ToString(DayFormat, CultureInfo.InvariantCulture)),
            ("day", day.ToString(DayFormat, CultureInfo.InvariantCulture)),
            ("defect", Words.Of(defect)),
            ("kind", Words.Of(item.Kind)),
            ("class", Words.Of(item.Class)),
            ("use", Words.Of(item.Use)),
            ("heating", YesNo(item.Heating)),
            ("surge", YesNo(item.SurgeProtected)),
            ("watts", item.RatedPower?.Value),
            ("amperes", item.RatedCurrent?.Value),
            ("volts", item.RatedVoltage?.Value),
            ("metres", item.Cord?.Length?.Value),
            ("mm2", item.Cord?.Conductor?.Value),
            ("wired", YesNo(item.IsHardWired)),
            ("rcd", item.Rcd?.Value)
        );

    /// <returns>Null when the message does not describe an item.</returns>
    public static HiddenState? Placed(Message it)
    {
        if (
            Enum<ItemKind>(it, "kind") is not { } kind
            || Enum<ProtectionClass>(it, "class") is not { } itemClass
            || it.Text("tag") is not { } tag
            || Day(it, "made") is not { } made
            || Day(it, "day") is not { } day
        )
            return null;
        var item = new Item
        {
            Kind = kind,
            Class = itemClass,
            Use = Enum<UseOf>(it, "use") ?? UseOf.Portable,
            Heating = it.Flag("heating") == true,
            SurgeProtected = it.Flag("surge") == true,
            RatedPower = it.Amount("watts") is { } watts ? new Watts(watts) : null,
            RatedCurrent = it.Amount("amperes") is { } amperes ? new Amperes(amperes) : null,
            RatedVoltage = it.Amount("volts") is { } volts ? new Volts(volts) : null,
            Cord = new(
                it.Amount("metres") is { } metres ? new Metres(metres) : null,
                it.Amount("mm2") is { } size ? new SquareMillimetres(size) : null,
                Permanent: it.Flag("wired") == true
            ),
            Rcd = it.Amount("rcd") is { } rcd ? new Amperes(rcd) : null,
        };
        return HiddenState.Of(item, tag, made, day).With(Enum<Defect>(it, "defect") ?? Defect.None);
    }

    private static T? Enum<T>(Message it, string name)
        where T : struct, Enum => it.Text(name) is { } word ? Words.Find<T>(word) : null;

    private static DateOnly? Day(Message it, string name) =>
        DateOnly.TryParseExact(it.Text(name), DayFormat, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;

    private static string? YesNo(bool? flag) =>
        flag switch
        {
            true => "yes",
            false => "no",
            _ => null,
        };
}
