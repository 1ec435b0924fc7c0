using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>The part of the view that no reading changes: item, steps with limits and earlier values, words on offer.</summary>
internal static class SheetCards
{
    /// <summary>Earlier values a rail shows.</summary>
    private const int EarlierShown = 6;

    /// <summary>Shown wherever limits are.</summary>
    public const string CheckNote = "Check limits against your own copy of the standard.";

    public static SheetView Of(BenchState state)
    {
        var (ruling, item, pack) = (state.Ruling, state.Ruling.Item, state.Ruling.Pack);
        var say = pack.Dialect;
        var look = state.Sheet.Steps.OfType<SheetStep.Look>().First();
        var fuse = state.Sheet.Steps.OfType<SheetStep.FuseAndFlex>().FirstOrDefault();
        return new(
            item.Tag,
            item.Name,
            $"{item.Site}, {item.Room}",
            EquipmentText.Class(item.Equipment.Class),
            item.Equipment.Class,
            say.Say(ClassDecisions.From(item.Evidence).Seen),
            ItemText.Facts(item, say),
            ItemText.Fields(item, ruling.Basis),
            ruling.Scope,
            ruling.School,
            LeakageChoice.Of(ruling),
            LeadApart.IsOffered(ruling) ? ruling.IsLeadApart : null,
            ruling.Procedure is { } procedure
                ? new(PhrasesOnOffer.Value(procedure), procedure.Title, procedure.Remark, procedure.Adapters, ruling.ProcedureTrouble)
                : null,
            pack.ShortName,
            pack.Id,
            pack.Supply,
            CheckNote,
            pack.Scope == PackScope.Medical,
            [.. state.Sheet.Steps.Select(step => Card(step, ruling))],
            MatrixCard.Of(state.Sheet, say),
            say.Say(state.Sheet.Remarks),
            [
                .. look.Points.Select(point => new LookCard(
                    point.Id,
                    say.Say(point.Where),
                    say.Say(point.Text),
                    say.Say(point.Phrases),
                    say.Say(point.Fails),
                    point.Measured
                )),
            ],
            new(
                say.Say(fuse?.Summary ?? ""),
                [.. look.CordFindings.Select(finding => new FuseLine(finding.IsFault, say.Say(finding.Text)))]
            ),
            PhrasesOnOffer.Of(ruling)
        );
    }

    private static StepCard Card(SheetStep step, Ruling ruling)
    {
        var say = ruling.Pack.Dialect;
        return step switch
        {
            SheetStep.Look look => Plain(step, say, look.MakeSafe, []),
            SheetStep.Confirm confirm => Plain(step, say, [], confirm.Lines) with { AsksFor = confirm.AsksFor },
            SheetStep.Outlet outlet => Plain(step, say, [], []) with
            {
                Detail = say.Say(outlet.Supply.Text),
                Joining = Drawn(Joining.AtOutlet(outlet.Supply.Phases), say),
            },
            SheetStep.Prove prove => Plain(step, say, [], prove.Lines),
            SheetStep.Dead dead => Plain(step, say, [], dead.Lines) with
            {
                Side = dead.Side,
                Joining = Drawn(Joining.ProvingDead(ruling.Item.Equipment.Phases, $"{Words.Of(dead.Side)} side"), say),
            },
            SheetStep.Pause pause => Plain(step, say, [], pause.Lines) with { Seconds = pause.Seconds },
            SheetStep.ChangeOver change => Plain(step, say, [], change.Lines),
            SheetStep.Discharges discharges => Plain(step, say, Preparation.Discharges, []) with
            {
                Detail = "into 50 Ω, one after the other, before the charge that is timed",
                HazardKind = HazardKind.Shock,
                Hazard = say.Say(Preparation.Shock),
                Needed = discharges.Needed,
                With = With(ruling.KitForDischarges()),
            },
            SheetStep.Function function => Plain(step, say, function.Plan.Needs, []) with { Test = Test.Functional },
            SheetStep.Measure measure => Measured(measure.Plan, ruling),
            SheetStep.Check check => Plain(step, say, [], []) with
            {
                Detail = check.Plan.Target is { } target ? target.Text : "",
                Unit = check.Plan.Target?.Unit,
            },
            _ => Plain(step, say, [], []),
        };
    }

    private static StepCard Plain(SheetStep step, Dialect say, IEnumerable<string> needs, IEnumerable<string> lines) =>
        new(
            step.Key,
            step.Family,
            null,
            say.Say(step.Name),
            "",
            "",
            null,
            HazardKind.None,
            null,
            say.Say(needs),
            0,
            null,
            null,
            [],
            "",
            null,
            false,
            false,
            null,
            null,
            [],
            false,
            step.Powers,
            say.Say(lines)
        );

    private static StepCard Measured(PlanStep.Measure step, Ruling ruling)
    {
        var (say, unit) = (ruling.Pack.Dialect, ReadingOf.UsualUnit(step, ruling.Pack));
        var earlier = Earlier(step, ruling, unit);
        return new(
            step.Key,
            StepFamily.Measure,
            step.Test,
            say.Say(step.Name),
            say.Say(Detail(step)),
            say.Say(step.Terminals),
            Limit(step.Limit, say) is { } limit ? limit with { Set = SetOf(step) } : null,
            step.HazardKind,
            step.Hazard is { } hazard ? say.Say(hazard) : null,
            say.Say([.. step.Needs, .. Unsuitable(step, ruling)]),
            step.Seconds,
            unit?.Label,
            Rail(step, earlier),
            earlier,
            say.Say(step.Source),
            step.NotMeasured ?? ruling.LacksFor(step.Under),
            step.Under is Conditions.RcdTrip,
            step.Under is Conditions.Insulation { Between: Between.MainsToAccessible },
            Expected(step, ruling, earlier) is { Length: > 0 } expected ? say.Say(expected) : null,
            step.NotMeasured is null && Joining.Of(ruling.Item.Equipment, step.Under, ruling.School) is { } joining
                ? Drawn(joining, say, LeadPost.Of(ruling.Item.Equipment, step.Under))
                : null,
            step.AsksProbe ? PhrasesOnOffer.ProbePlaces(ruling.Item.Equipment, say) : [],
            step.MayBeHeld,
            step.Powers,
            [],
            With: With(ruling.KitFor(step.Under))
        );
    }

    private static StepInstrument? With(KitInHand? measures) => measures?.Chosen is { } kit ? new(kit.Id, kit.Name, kit.Connected) : null;

    /// <summary>By plate and flex; of a leakage also what was read last, as its capacitances are what they were.</summary>
    private static string Expected(PlanStep.Measure step, Ruling ruling, List<EarlierValue> earlier)
    {
        var byPlate = Expectation.Of(ruling.Pack, ruling.Item.Equipment, step.Under);
        var asBefore =
            step.Under is Conditions.Leakage && earlier.LastOrDefault(it => !it.IsBound) is { } last
                ? $"near {last.Text} as on {last.Date:d MMM yyyy}, carried by its capacitances"
                : null;
        return string.Join("; ", new[] { byPlate, asBefore }.OfType<string>());
    }

    private static JoiningCard Drawn(Joining it, Dialect say, ImmutableArray<LeadPost> posts = default) =>
        new(
            say.Say(Joining.NameOf(it.End)),
            it.AllPins,
            it.Pins,
            it.ArePinsJoined,
            it.Far,
            say.Say(it.FarName),
            it.FarPins,
            it.Doing,
            it.IsMeter,
            say.Say(it.Opened),
            it.IsReversed,
            it.IsNeutralOpen,
            it.IsEarthOpen,
            it.Instrument,
            posts.IsDefault ? [] : posts,
            say.Say(it.Order),
            say.Say(it.Text)
        );

    /// <summary>What the instrument in hand is not fine enough for, said before it is used.</summary>
    private static IEnumerable<string> Unsuitable(PlanStep.Measure step, Ruling ruling) =>
        ruling.KitFor(step.Under)?.Chosen is not { } kit
            ? []
            : kit
                .Accuracies.Where(it => it.Test == step.Test && Covers(it, step.Limit))
                .Select(it => Suitability.Trouble(it.AsFunction(), step.Limit, ruling.Pack))
                .OfType<string>()
                .Take(1)
                .Select(trouble => $"{kit.Name} {trouble}");

    private static bool Covers(StatedAccuracy it, ResolvedLimit? limit) =>
        limit?.Value is not { } value
        || Unit.Find(it.Unit) is not { } unit
        || (value.Si >= (it.From ?? 0) * unit.Factor && value.Si <= (it.To ?? double.PositiveInfinity) * unit.Factor);

    public static LimitCard? Limit(ResolvedLimit? limit, Dialect say) =>
        limit is null
            ? null
            : new(
                limit.Value?.Si,
                limit.Value is { } value ? $"{limit.Comparator.Sign()} {value}" : "must not trip",
                limit.IsFloor,
                say.Say(limit.Derivation),
                limit.Clause
            );

    /// <summary>Under which condition it is measured, in words; empty where there is but one.</summary>
    public static string Detail(PlanStep.Measure step) =>
        string.Join(
            ", ",
            new[] { Condition(step), step.BorrowedFrom is { } pack ? $"by {pack.ShortName}" : "" }.Where(it => it.Length > 0)
        );

    private static string Condition(PlanStep.Measure step) =>
        step.Under switch
        {
            Conditions.Insulation { TestVoltage: { } volts } => $"{QuantityText.Number(volts.Value)} V d.c.",
            Conditions.Leakage leakage => Detail(leakage),
            Conditions.RcdTrip trip => $"{QuantityText.Number(trip.Multiple)} × rating, {trip.PhaseDeg}°",
            _ => "",
        };

    private static string Detail(Conditions.Leakage under) =>
        string.Join(
            ", ",
            StepNames
                .Unusual(under)
                .Prepend(
                    under.Method switch
                    {
                        LeakageMethod.Alternative => "alternative, not powered",
                        LeakageMethod.Differential => "differential",
                        // Of the three methods of a medical standard the direct one has a name too; elsewhere there is but power or none.
                        _ => under.Kind is LeakageKind.Equipment or LeakageKind.AppliedPart ? "direct" : "powered",
                    }
                )
        );

    /// <summary>A step of a place by name has that place's values; one that may be read anywhere has all, and the worst stands for the
    /// visit.</summary>
    private static List<EarlierValue> Earlier(PlanStep.Measure step, Ruling ruling, Unit? unit)
    {
        var values = new List<EarlierValue>();
        foreach (var past in ruling.History)
        {
            EarlierValue? worst = null;
            foreach (var reading in past.Readings)
            {
                if (reading.Void is not null || reading.Test != step.Test || !IsSamePlace(reading.Under, step))
                    continue;
                var judged = Judge.Of(ruling.Pack, past.Item ?? ruling.Item.Equipment, reading);
                if (judged.Value is not { } value || judged.Status == Status.Undecided)
                    continue;
                var isBound = reading.Value is { IsBound: true };
                if (
                    worst is not null
                    && (
                        step.Limit?.IsFloor == true
                            ? Off(step, value.Si) >= Off(step, worst.Si)
                            : Off(step, value.Si) <= Off(step, worst.Si)
                    )
                )
                    continue;
                var text = isBound || unit is null ? reading.Value!.Value.ToString() : QuantityText.ShowNear(value, unit);
                var isOver =
                    step.Limit?.Value is { } limit
                    && !isBound
                    && (step.Limit.IsFloor ? value.Si < limit.Si : Off(step, value.Si) > limit.Si);
                worst = new(past.Date, value.Si, text, isBound, isOver);
            }
            if (worst is not null)
                values.Add(worst);
        }
        return [.. values.TakeLast(EarlierShown)];
    }

    private static bool IsSamePlace(Conditions then, PlanStep.Measure step) =>
        StepKey.Of(step.Under.At is null ? then with { At = null } : then) == step.Key;

    /// <summary>What is held against the limit: of a value that is to lie near what was set, how far it lies from it.</summary>
    private static double Off(PlanStep.Measure step, double si) => SetOf(step) is { } set ? Math.Abs(si - set) : si;

    private static double? SetOf(PlanStep.Measure step) => step.Limit?.Comparator == Comparator.Within ? step.Under.Set?.Si : null;

    private static RailScale? Rail(PlanStep.Measure step, IReadOnlyList<EarlierValue> earlier)
    {
        if (step.Limit?.Value is not { Si: > 0 } limit)
            return null;
        if (SetOf(step) is { } set)
        {
            var window = RailScale.Window(set, limit.Si);
            double[] marks = [set - limit.Si, set, set + limit.Si];
            return new(
                window.From,
                window.To,
                [.. marks.Select(at => new RailTick(at, new Quantity(at, limit.Dimension).ToString()))],
                IsLinear: true
            );
        }
        var span = RailScale.Span(limit.Si, step.Limit.IsFloor, [.. earlier.Select(it => it.Si)]);
        var ticks = Enumerable.Range((int)span.From, (int)(span.To - span.From) + 1).Select(exponent => Math.Pow(10, exponent));
        return new(
            Math.Pow(10, span.From),
            Math.Pow(10, span.To),
            [.. ticks.Select(at => new RailTick(at, new Quantity(at, limit.Dimension).ToString()))]
        );
    }
}
