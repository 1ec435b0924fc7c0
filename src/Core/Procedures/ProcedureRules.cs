using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Quantities;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Procedures;

/// <summary>What a procedure may say, and to which devices it may be put.</summary>
public static class ProcedureRules
{
    public const int LongestName = 120;
    public const int LongestText = 500;
    public const int MostSteps = 200;
    public const int MostSeconds = 3600;

    /// <returns>Everything that is wrong with it, whatever the device; empty where nothing is.</returns>
    public static ImmutableArray<Fault> Faults(Procedure it)
    {
        var faults = new List<Fault>();
        void Text(string path, string? text, int longest, bool isNeeded)
        {
            if (isNeeded && string.IsNullOrWhiteSpace(text))
                faults.Add(new(path, "Say it in words."));
            else if (text is not null && KeptText.Refusal(text, longest) is { } why)
                faults.Add(new(path, why));
        }
        // By which things are told apart: two that look alike would be two.
        void Name(string path, string? text, bool isNeeded = true)
        {
            if (text is not null && (KeptText.Unseen(text) ?? (text.Any(char.IsControl) ? "A name stands on one line." : null)) is { } why)
                faults.Add(new(path, why));
            else
                Text(path, text, LongestName, isNeeded);
        }

        if (it.Id == Guid.Empty)
            faults.Add(new("id", "It has no number of its own."));
        if (it.Version < 1)
            faults.Add(new("version", "A version is counted from 1."));
        if (PackLibrary.Find(it.PackId) is null)
            faults.Add(new("packId", $"There is no standard “{it.PackId}”."));
        Name("name", it.Name);
        Text("remark", it.Remark, LongestText, isNeeded: false);
        Name("maker", it.Maker, isNeeded: false);
        Name("model", it.Model, isNeeded: false);
        if (it.Maker is not null && it.Model is null)
            faults.Add(new("model", "A maker alone is no model."));
        if (it.Adapters.Count > MostSteps || it.Modules.Count > MostSteps || it.Steps.Count > MostSteps)
            faults.Add(new("steps", $"More than {MostSteps} of something."));
        for (var at = 0; at < it.Adapters.Count; at++)
            Name($"adapters[{at}]", it.Adapters[at]);
        for (var at = 0; at < it.Modules.Count; at++)
        {
            if (it.Modules[at] is not { } module)
            {
                faults.Add(new($"modules[{at}]", "is null"));
                continue;
            }
            Name($"modules[{at}].name", module.Name);
            if (module.Connections is < 1 or > 64)
                faults.Add(new($"modules[{at}].connections", "From 1 to 64."));
            if (it.Modules.Take(at).Any(other => other?.Name == module.Name))
                faults.Add(new($"modules[{at}].name", $"“{module.Name}” is there twice."));
        }
        var named = new HashSet<string>();
        for (var at = 0; at < it.Steps.Count; at++)
        {
            var path = $"steps[{at}]";
            switch (it.Steps[at])
            {
                case ProcedureStep.Measure measure:
                    Text($"{path}.step", measure.Step, LongestText, isNeeded: true);
                    if (!named.Add(measure.Step ?? ""))
                        faults.Add(new($"{path}.step", $"“{measure.Step}” is there twice."));
                    if (measure.Seconds is < 0 or > MostSeconds)
                        faults.Add(new($"{path}.seconds", $"From 0 to {MostSeconds}."));
                    if (measure.Limit is { } limit)
                    {
                        Text($"{path}.limit.why", limit.Why, LongestText, isNeeded: true);
                        if (!double.IsFinite(limit.Value) || limit.Value <= 0)
                            faults.Add(new($"{path}.limit.value", "A limit is above nothing."));
                        if (Unit.Find(limit.Unit ?? "") is not { } unit)
                            faults.Add(new($"{path}.limit.unit", $"“{limit.Unit}” is no unit."));
                        else if (DimensionOf(measure.Step) is { } asked && asked != unit.Dimension)
                            faults.Add(new($"{path}.limit.unit", $"“{limit.Unit}” is no unit of this measurement."));
                    }
                    break;
                case ProcedureStep.LeaveOut left:
                    Text($"{path}.step", left.Step, LongestText, isNeeded: true);
                    Text($"{path}.reason", left.Reason, LongestText, isNeeded: true);
                    if (!named.Add(left.Step ?? ""))
                        faults.Add(new($"{path}.step", $"“{left.Step}” is there twice."));
                    if (left.Step is "visual" or "functional" or "fuse")
                        faults.Add(new($"{path}.step", "The look and the functional check are part of every inspection."));
                    break;
                case ProcedureStep.Pause pause:
                    Text($"{path}.says", pause.Says, LongestText, isNeeded: true);
                    if (pause.Seconds is < 0 or > MostSeconds)
                        faults.Add(new($"{path}.seconds", $"From 0 to {MostSeconds}."));
                    break;
                case ProcedureStep.Check check:
                    Name($"{path}.name", check.Name);
                    if (it.Steps.Take(at).OfType<ProcedureStep.Check>().Any(other => other.Name == check.Name))
                        faults.Add(new($"{path}.name", $"“{check.Name}” is there twice."));
                    if (check.Target is { } target)
                    {
                        Text($"{path}.target.unit", target.Unit, 30, isNeeded: true);
                        if (!double.IsFinite(target.Set) || !double.IsFinite(target.Tolerance) || target.Tolerance < 0)
                            faults.Add(new($"{path}.target", "Set value and tolerance are numbers, the tolerance not below nothing."));
                    }
                    break;
                case ProcedureStep.Borrow borrow:
                    Text($"{path}.step", borrow.Step, LongestText, isNeeded: true);
                    if (PackLibrary.Find(borrow.PackId ?? "") is null || borrow.PackId == it.PackId)
                        faults.Add(new($"{path}.packId", "A step is borrowed from another standard that is known here."));
                    break;
                default:
                    faults.Add(new(path, "is null"));
                    break;
            }
        }
        if (OutOfOrder(it) is { } order)
            faults.Add(order);
        return [.. faults];
    }

    /// <summary>Earth first, then insulation and what else is dead, then whatever powers the item: within each the order is free. A failed
    /// earth path must be found before anything is powered.</summary>
    private static Fault? OutOfOrder(Procedure it)
    {
        var (highest, before) = (0, "");
        for (var at = 0; at < it.Steps.Count; at++)
        {
            var (key, rank) = it.Steps[at] switch
            {
                ProcedureStep.Measure measure => (measure.Step, RankOf(measure.Step)),
                ProcedureStep.Borrow borrow => (borrow.Step, RankOf(borrow.Step)),
                ProcedureStep.Check check => (check.Name, Powered),
                _ => ("", 0),
            };
            if (rank == 0)
                continue;
            if (rank < highest)
                return new($"steps[{at}]", $"“{key}” comes before “{before}”: earth first, then insulation, then whatever powers it.");
            if (rank > highest)
                (highest, before) = (rank, key);
        }
        return null;
    }

    /// <summary>What an own limit of each test is written in; good or bad has none.</summary>
    public static readonly ImmutableArray<(Test Test, Unit Unit)> LimitUnits =
    [
        (Test.EarthContinuity, Unit.Ohm),
        (Test.Insulation, Unit.Megohm),
        (Test.Leakage, Unit.Microampere),
        (Test.RcdTrip, Unit.Millisecond),
        (Test.DefibEnergy, Unit.Joule),
        (Test.DefibCharge, Unit.Second),
        (Test.DefibSync, Unit.Millisecond),
        (Test.EcgAmplitude, Unit.Millivolt),
        (Test.PadPath, Unit.Ohm),
    ];

    private static Dimension? DimensionOf(string? key) =>
        key is not null && Words.Find<Test>(key.Split('/')[0]) is { } test ? TestFigure.DimensionOf(test) : null;

    internal const int Powered = 3;

    /// <summary>1 an earth path, 2 insulation and leakage by the alternative method, which powers nothing, 3 whatever powers the
    /// item.</summary>
    public static int RankOf(string? key) =>
        key is null ? 0
        : key.StartsWith(Words.Of(Test.EarthContinuity), StringComparison.Ordinal) ? 1
        : key.StartsWith(Words.Of(Test.Insulation), StringComparison.Ordinal)
        || key.Split('/').Contains(Words.Of(LeakageMethod.Alternative))
            ? 2
        : Powered;

    /// <returns>Why this procedure is not run on this device, or null. A part judged as another type would be allowed a hundred times the
    /// current.</returns>
    public static string? Refusal(Procedure it, Item item, string packId)
    {
        if (it.PackId != packId)
            return $"It is written for {NameOf(it.PackId)}, and this round is judged by {NameOf(packId)}.";
        foreach (var module in it.Modules)
        {
            if (item.AppliedParts.FirstOrDefault(part => part.Name == module.Name) is not { } part)
                return $"It measures “{module.Name}”, and this device has no such part: {Parts(item)}.";
            if (part.Type != module.Type)
                return $"It takes “{module.Name}” for {Words.Of(module.Type)}, and on this device it is {Words.Of(part.Type)}.";
            if (part.Connections != module.Connections)
                return $"It counts {module.Connections} connections of “{module.Name}”, and this device has {part.Connections}.";
        }
        return null;
    }

    private static string NameOf(string packId) => PackLibrary.Find(packId)?.ShortName ?? packId;

    private static string Parts(Item item) =>
        item.AppliedParts.IsEmpty
            ? "it has none"
            : $"it has {string.Join(", ", item.AppliedParts.Select(part => $"{part.Name} {Words.Of(part.Type)}"))}";

    /// <summary>The device as the procedure measures it: a part whose connections it takes one by one is not joined.</summary>
    public static Item Applied(Procedure it, Item item) =>
        it.Modules.Count == 0
            ? item
            : item with
            {
                AppliedParts =
                [
                    .. item.AppliedParts.Select(part =>
                        it.Modules.FirstOrDefault(module => module.Name == part.Name) is { Joined: false }
                            ? part with
                            {
                                Joined = false,
                            }
                            : part
                    ),
                ],
            };

    /// <summary>What another standard would measure of a device with these parts, as far as one may choose from it.</summary>
    public static ImmutableArray<PlanStep.Measure> Borrowable(Procedure it, RulePack from) =>
        [
            .. Planner
                .Of(
                    from,
                    new Item
                    {
                        Kind = from.Scope == PackScope.Medical ? ItemKind.MedicalDevice : ItemKind.Appliance,
                        AppliedParts =
                            from.Scope == PackScope.Medical
                                ?
                                [
                                    .. it.Modules.Select(module => new AppliedPart(
                                        module.Name,
                                        module.Type,
                                        module.Connections,
                                        module.Joined
                                    )),
                                ]
                                : [],
                    },
                    Policy.Usual
                )
                .Steps.OfType<PlanStep.Measure>(),
        ];

    /// <summary>A procedure that does what the plan says, to be edited.</summary>
    public static Procedure From(Plan plan, string name, Guid id) =>
        new()
        {
            Id = id,
            Version = 1,
            Name = name,
            PackId = plan.Pack.Id,
            Modules = [.. plan.Item.AppliedParts.Select(part => new ProcedureModule(part.Name, part.Type, part.Connections, part.Joined))],
            Steps = [.. plan.Steps.OfType<PlanStep.Measure>().Select(step => new ProcedureStep.Measure(step.Key))],
        };
}
