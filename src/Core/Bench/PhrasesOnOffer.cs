using Osierwand.Core.Equipment;
using Osierwand.Core.Isolation;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Bench;

/// <summary>What a technician would say, offered for choosing. Nothing is ever chosen for anybody.</summary>
public static class PhrasesOnOffer
{
    private static readonly VoidPhrase[] Void =
    [
        new("Clip was off", VoidCause.Clip),
        new("Probe had slipped", VoidCause.Probe),
        new("Wrong end or point", VoidCause.WrongEnd),
        new("Wrong step or item", VoidCause.WrongItem),
        new("Lead not nulled", VoidCause.Instrument),
        new("Reading had not settled", VoidCause.Instrument),
        new("Outlet was wrong", VoidCause.Outlet),
        new("Switch was off", VoidCause.Other),
    ];
    private static readonly string[] LookAgain = ["Wrong point pressed", "Looked again: it is sound"];
    private static readonly string[] NotWorking =
    [
        "Does not do its job",
        "Does not start",
        "Stops or trips",
        "Alarm or interlock does not work",
    ];
    private static readonly string[] OverrideReasons =
    [
        "Confirmed with a second instrument",
        "The maker's own figure applies",
        "Known property of this design",
    ];
    private static readonly string[] Points = ["Case", "Base plate", "Handle", "Earth stud", "Guard", "Trolley"];
    private static readonly string[] Earths = ["Metal case", "Screw or trim", "Metal that touches something earthed"];
    public static IReadOnlyList<string> ReasonsForFacts { get; } =
    ["Read off the plate", "Measured", "Was entered wrong", "Maker's papers", "Changed since"];
    private static readonly string[] Discard = ["Wrong item on the bench", "Started by mistake", "Done on another bench"];
    private static readonly string[] HandOver =
    [
        "End of my shift",
        "Needs an instrument that I do not have",
        "Needs a competence that I do not hold",
    ];
    private static readonly string[] Withdraw = ["Clip was off", "Wrong item", "Wrong answer pressed"];

    private static readonly string[] IsolateAgain = ["To measure again", "Wrong circuit", "I was called away", "Not going on"];

    private static readonly string[] OtherEarths =
    [
        "A data or video cable to another device",
        "Bolted to an earthed trolley, rail or wall",
        "A water, gas or drain pipe",
        "Its equipotential lead cannot come off",
    ];

    private static readonly string[] ShorterIntervals =
    [
        "Rougher or wetter here than its place says",
        "Used harder than most of its kind",
        "Its wear would not wait so long",
        "To fall into the next round at this site",
    ];
    private static readonly string[] LongerIntervals =
    [
        "Used and kept with more care than its place says",
        "Hardly used since its last test",
        "It is replaced before then",
    ];

    private static readonly string[] LeakageReasons =
    [
        "No mains at hand",
        "It must not be started here",
        "Its outlet was found wrong",
        "The maker asks for it",
    ];
    private static readonly string[] Findings =
    [
        "No fault found; the complaint was not seen",
        "Fault found in the item",
        "Fault found in plug or lead",
        "The item is sound; look at its circuit",
    ];
    private static readonly string[] PathOpen =
    [
        "Soft starter, it closes when it runs",
        "Relay, it closes when it runs",
        "Electronic control",
        "Thermostat, it is warm enough",
    ];

    private static readonly string[] Connected =
    [
        "Its trace stands on the screen",
        "Touched it and saw it change",
        "Followed the lead to the part and plugged it in anew",
        "Stands isolated: looked again",
    ];

    /// <summary>Why the facts change where somebody saw that a device has no applied parts.</summary>
    private const string NoAppliedParts = "Looked: nothing of it touches a patient";

    /// <summary>Off the scale, open, or bad in so many words.</summary>
    private const string SaysBad = @"^(o\.?l\.?|open|bad|fail(ed)?|no|>.*)$";

    /// <summary>Why a measurement that failed, and that no record settled, does not count.</summary>
    public static IReadOnlyList<string> Explanations { get; } =
    ["Measured on the wrong item.", "The clip was off.", "The instrument was faulty.", "Measured while it was tried out."];

    public static Phrases Of(Ruling ruling)
    {
        var say = ruling.Pack.Dialect;
        return new(
            [.. Void.Select(phrase => phrase with { Text = say.Say(phrase.Text) })],
            say.Say(LookAgain),
            say.Say(NotWorking),
            say.Say(OverrideReasons),
            say.Say(Points),
            say.Say(Earths),
            say.Say(ReasonsForFacts),
            Discard,
            HandOver,
            say.Say(Withdraw),
            [.. Enum.GetValues<NotTestedReason>().Select(reason => new Choice(Words.Of(reason), Text(reason)))],
            [.. Enum.GetValues<Scope>().Select(scope => new Choice(Words.Of(scope), Text(scope), Scopes.Refusal(ruling, scope)))],
            [.. Enum.GetValues<School>().Select(school => new Choice(Words.Of(school), Text(school), KitForStep.Refusal(ruling, school)))],
            [.. Enum.GetValues<Evaluation>().Select(evaluation => new Choice(Words.Of(evaluation), Text(evaluation)))],
            Classes(say),
            [.. PackLibrary.All.Where(pack => pack.Id != ruling.PackId).Select(pack => new Choice(pack.Id, pack.ShortName))],
            [.. Enum.GetValues<IndicatorKind>().Select(it => new Choice(Words.Of(it), Text(it), SafeIsolation.Refusal(it)))],
            [.. Enum.GetValues<ProvingSource>().Select(it => new Choice(Words.Of(it), Text(it)))],
            IsolateAgain,
            [.. Enum.GetValues<LeakagePolicy>().Select(it => new Choice(Words.Of(it), Text(it), LeakageChoice.Refusal(ruling, it)))],
            [new("together", say.Say("With the device")), new("apart", say.Say("By itself or away"))],
            say.Say(LeakageReasons),
            say.Say(OtherEarths),
            say.Say(ShorterIntervals),
            say.Say(LongerIntervals),
            say.Say(PathOpen),
            say.Say(Connected),
            say.Say(Diagnosis.Complaint.All.Select(it => it.Seen)),
            say.Say(Findings),
            CircuitSum.UsualRcdsMa,
            [
                // The one that is run stands in the list, also where it is not offered any more.
                .. ruling
                    .Procedures.Concat(ruling.Procedure is { } own ? [own] : [])
                    .DistinctBy(Value)
                    .Select(it => new Choice(Value(it), it.Title, ProcedureRules.Refusal(it, ruling.Item.Equipment, ruling.PackId))),
            ],
            NoAppliedParts,
            SaysBad
        );
    }

    /// <summary>Classes by what is seen.</summary>
    public static IReadOnlyList<Choice> Classes(Dialect say) =>
        [
            .. ClassDecisions.All.Select(it => new Choice(
                Words.Of(it.Evidence),
                say.Say($"{it.Seen}: class {EquipmentText.Class(it.Class)}")
            )),
        ];

    /// <summary>A procedure and its version in one word.</summary>
    public static string Value(Procedure it) => $"{it.Id}/{it.Version}";

    public static string Text(NotTestedReason it) =>
        it switch
        {
            NotTestedReason.NotFound => "Not found",
            NotTestedReason.NotReachable => "Not reachable without damage",
            NotTestedReason.InUse => "In use",
            NotTestedReason.ClientRefused => "Client refused",
            NotTestedReason.NoCompetence => "Needs a competence I do not hold",
            NotTestedReason.BuiltIn => "Built in",
            NotTestedReason.Floor => "Moving it would hurt the floor",
            NotTestedReason.Pipe => "Plumbed in, or on a pipe",
            NotTestedReason.Furniture => "Furniture in the way",
            NotTestedReason.HardWiredOutOfScope => "Hard-wired, out of scope",
            _ => "Unsafe to power",
        };

    /// <summary>What the probe may lie on, by the item's facts.</summary>
    public static IReadOnlyList<Choice> ProbePlaces(Item item, Dialect say) =>
        [.. Probing.Offered(item).Select(on => new Choice(Words.Of(on), say.Say(Text(on))))];

    private static string Text(ProbeOn it) =>
        it switch
        {
            ProbeOn.Metal => "Bare metal",
            ProbeOn.Foil => "Foil round it",
            ProbeOn.Mesh => "Mesh round it",
            _ => "Nothing to touch: looked",
        };

    private static string Text(IndicatorKind it) =>
        it switch
        {
            IndicatorKind.TwoPole => "Two-pole voltage indicator",
            IndicatorKind.Multimeter => "Multimeter",
            _ => "Proximity detector",
        };

    private static string Text(ProvingSource it) => it == ProvingSource.ProvingUnit ? "Proving unit" : "Known live source of like voltage";

    public static string Text(Scope it) =>
        it switch
        {
            Scope.FormalVisual => "Formal visual only",
            Scope.NewItem => "New item",
            Scope.AfterRepair => "After repair",
            Scope.FaultFinding => "Fault-finding",
            _ => "Inspection and test",
        };

    public static string Text(School it) => it == School.Meter ? "Meter, two probes" : "Appliance tester";

    public static string Text(LeakagePolicy policy) =>
        policy switch
        {
            LeakagePolicy.Powered => "Powered, on mains",
            LeakagePolicy.Alternative => "Alternative, not powered",
            _ => "Not measured",
        };

    public static string Text(Evaluation it) =>
        it switch
        {
            Evaluation.NoDeficiency => "No safety or functional deficiency",
            Evaluation.NoDirectRisk => "No direct risk; can be mended soon",
            Evaluation.OutOfUse => "Out of use until mended",
            _ => "Does not meet the requirements: modify, replace, withdraw",
        };

    public static string Text(Outcome it) =>
        it switch
        {
            Outcome.Pass => "Pass",
            Outcome.PassWithAdvice => "Pass with advice",
            Outcome.Fail => "Fail",
            Outcome.NotTested => "Not tested",
            Outcome.Findings => "Findings",
            _ => "Withdrawn",
        };
}
