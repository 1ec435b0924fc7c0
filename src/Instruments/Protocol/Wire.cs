using Osierwand.Core;
using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;
using Osierwand.Instruments.Simulation;

namespace Osierwand.Instruments.Protocol;

/// <summary>Requests, readings and simulated items as named values of a message, both ways.</summary>
internal static class Wire
{
    public static Message Start(int number, MeasurementRequest it) =>
        Message.Of(
            number,
            "START",
            ("test", Words.Of(it.Test)),
            ("kind", it.Test == Test.Leakage ? Words.Of(it.Under.Kind) : null),
            ("method", Words.Of(it.Under.Method)),
            ("polarity", Words.Of(it.Under.Polarity)),
            ("neutral", Words.Of(it.Under.Neutral)),
            ("earth", Words.Of(it.Under.Earth)),
            ("power", Words.Of(it.Under.Power)),
            ("between", Words.Of(it.Under.Between)),
            ("multiple", it.Under.Multiple),
            ("phase", it.Under.PhaseDeg),
            ("volts", it.TestVolts),
            ("mains", it.NominalVolts),
            ("hertz", it.Hertz),
            ("seconds", it.Seconds)
        );

    public static MeasurementRequest? Request(Message it) =>
        Enum<Test>(it, "test") is { } test
            ? new(
                test,
                new()
                {
                    Kind = Enum<LeakageKind>(it, "kind") ?? default,
                    Method = Enum<LeakageMethod>(it, "method") ?? default,
                    Polarity = Enum<MainsPolarity>(it, "polarity") ?? default,
                    Neutral = Enum<ConductorState>(it, "neutral") ?? default,
                    Earth = Enum<ConductorState>(it, "earth") ?? default,
                    Power = Enum<PowerState>(it, "power") ?? default,
                    Between = Enum<Between>(it, "between") ?? default,
                    Multiple = it.Amount("multiple") ?? 1,
                    PhaseDeg = (int)(it.Amount("phase") ?? 0),
                },
                it.Amount("volts") ?? 500,
                it.Amount("mains") ?? 230,
                it.Amount("hertz") ?? 50,
                Math.Clamp(it.Amount("seconds") ?? 1, 0, 60)
            )
            : null;

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

    public static Message Place(int number, string tag, Item item, DateOnly day, Defect defect) =>
        Message.Of(
            number,
            "PLACE",
            ("tag", tag),
            ("day", day.ToString("yyyy-MM-dd")),
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
            || !DateOnly.TryParseExact(it.Text("day"), "yyyy-MM-dd", out var day)
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
        return HiddenState.Of(item, tag, day).With(Enum<Defect>(it, "defect") ?? Defect.None);
    }

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
