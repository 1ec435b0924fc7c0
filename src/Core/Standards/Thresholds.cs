using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>
/// The common rules, typed and read once: what judging, trends, fuses, kit and intervals reckon with beside a pack's limits. Every figure
/// stands in the table with its clause; nothing here holds a number of its own.
/// </summary>
public sealed class Thresholds
{
    public const string Id = "common-rules";

    /// <summary>As they ship, without any house figure.</summary>
    public static Thresholds Shipped { get; } = new(ThresholdLibrary.Find(Id)!);

    public Thresholds(ThresholdTable table)
    {
        Table = table;
        LargestNull = new(table.Of("null-largest", Dimension.Resistance).Si);
        NullTold = new(table.Of("null-told", Dimension.Resistance).Si);
        NullKeeps = TimeSpan.FromDays(table.Of("null-keeps", Dimension.Days).Si);
        NullOvershoot = new(table.Of("null-overshoot", Dimension.Resistance).Si);
        SilentConnection = new(table.Of("silent-connection", Dimension.Current).Si);
        InstrumentStep = Share("instrument-step");
        InstrumentStepAdvised = Share("instrument-step-advised");
        LargestInsulation = new(table.Of("insulation-largest", Dimension.Resistance).Si);
        UnitDoubted = Share("unit-doubted");
        CopperShare = Share("copper-share");
        CopperAllowance = new(table.Of("copper-allowance", Dimension.Resistance).Si);
        SilentUsual = new(table.Of("silent-usual", Dimension.Current).Si);
        SilentLeakage = new(table.Of("silent-leakage", Dimension.Current).Si);
        SilentKnown = new(table.Of("silent-known", Dimension.Current).Si);
        SilentKnownAppliance = new(table.Of("silent-known-appliance", Dimension.Current).Si);
        Tripled = Share("tripled");
        TripledLeast = new(table.Of("tripled-least", Dimension.Current).Si);
        TripledLeastAppliance = new(table.Of("tripled-least-appliance", Dimension.Current).Si);
        ExchangedApart = Share("exchanged-apart");
        ExchangedWithin = Share("exchanged-within");
        CalibrationWarning = Days("calibration-warning");
        NullRepeat = new(table.Of("null-repeat", Dimension.Resistance).Si);
        CheckNear = Share("check-near");
        CheckAhead = Days("check-ahead");
        CheckFew = Count("check-few");
        KitKeeps = TimeSpan.FromSeconds(table.Of("kit-keeps", Dimension.Time).Si);
        BenchUnknown = TimeSpan.FromSeconds(table.Of("bench-unknown", Dimension.Time).Si);
        LookUnknown = TimeSpan.FromSeconds(table.Of("look-unknown", Dimension.Time).Si);
        BenchFew = Count("bench-few");
        BenchLongest = TimeSpan.FromSeconds(table.Of("bench-longest", Dimension.Time).Si);
        ReviewQuick = Share("review-quick");
        ReviewSlow = Share("review-slow");
        ReviewLate = TimeSpan.FromSeconds(table.Of("review-late", Dimension.Time).Si);
        ReviewOverlap = TimeSpan.FromSeconds(table.Of("review-overlap", Dimension.Time).Si);
        ProbeTip = new(table.Of("probe-tip", Dimension.Length).Si);
        ProbeTipBetter = new(table.Of("probe-tip-better", Dimension.Length).Si);
        InsulationVoltage = new(table.Of("insulation-voltage", Dimension.Voltage).Si);
        GentleInsulationVoltage = new(table.Of("insulation-voltage-gentle", Dimension.Voltage).Si);
        LowestMains = Share("mains-lowest");
        HighestMains = Share("mains-highest");
        NeutralToEarth = Share("outlet-neutral-earth");
        LargestFuse = new(table.Of("fuse-largest", Dimension.Resistance).Si);
        NearLimit = Share("near-limit");
        FlexSpread = new(table.Of("flex-spread", Dimension.Resistance).Si);
        ComparisonTolerance = Share("comparison-tolerance");
        TrendRise = Share("trend-rise");
        TrendBeyond = Share("trend-beyond");
        TrendReadings = Count("trend-readings");
        PlateRounding = Share("plate-rounding");
        LongLeadRcd = new(table.Of("long-lead-rcd", Dimension.Current).Si);
        ConductorReference = new(table.Of("conductor-reference", Dimension.Temperature).Si);
        ConductorWarmth = table.Of("conductor-warmth", Dimension.PerKelvin).Si;
        ToolPower = new(table.Of("tool-power", Dimension.Power).Si);
        Hire = Months("interval-hire");
        MostSteps = Count("interval-steps");
        TestsApart = TimeSpan.FromDays(table.Of("interval-apart", Dimension.Days).Si);
        MedicalCf = Months("medical-cf");
        MedicalLifeSupporting = Months("medical-life-supporting");
        MedicalTransport = Months("medical-transport");
        MedicalBf = Months("medical-bf");
        MedicalUsual = Months("medical-usual");
        MedicalNoContact = Months("medical-no-contact");
        MedicalHalvedLeast = Months("medical-halved-least");
        DefibrillatorPerformance = Months("defibrillator-performance");
        DischargesBefore = Count("discharges-before");
        DischargesRest = TimeSpan.FromSeconds(table.Of("discharges-rest", Dimension.Time).Si);
        DischargesApart = TimeSpan.FromSeconds(table.Of("discharges-apart", Dimension.Time).Si);
        DueWindow = Days("due-window");
        EvidenceTarget = Share("evidence-target");
        EvidenceLonger = Share("evidence-longer");
        EvidenceLow = Share("evidence-low");
        EvidenceHigh = Share("evidence-high");
        EvidenceWindow = Months("evidence-window");
    }

    public ThresholdTable Table { get; }

    /// <summary>Of the usual bench time: shorter than this share asks for a lead's eye.</summary>
    public double ReviewQuick { get; }

    /// <summary>Of the usual bench time: longer than this multiple asks for a lead's eye.</summary>
    public double ReviewSlow { get; }

    /// <summary>Between the taking of a record and its arrival.</summary>
    public TimeSpan ReviewLate { get; }

    /// <summary>Two items of one tester on the bench at once for longer than this.</summary>
    public TimeSpan ReviewOverlap { get; }

    /// <summary>A larger null is not accepted: it hides a bad lead.</summary>
    public Ohms LargestNull { get; }

    /// <summary>A larger one is told with each reading that it was taken from.</summary>
    public Ohms NullTold { get; }

    public TimeSpan NullKeeps { get; }

    /// <summary>An earth reading may be less than nothing by this much after its null and counts as 0; −0.03 ohm says the null is
    /// stale.</summary>
    public Ohms NullOvershoot { get; }

    /// <summary>No more than this at one connection, while more flows at another, is nothing: its lead is broken or not plugged
    /// in.</summary>
    public Amperes SilentConnection { get; }

    /// <summary>A count of a display may be at most this share of the limit.</summary>
    public double InstrumentStep { get; }

    /// <summary>A pass that was read in coarser steps than this share of the limit says so.</summary>
    public double InstrumentStepAdvised { get; }

    /// <summary>What would pass beyond it cannot be: 10 Tohm.</summary>
    public Ohms LargestInsulation { get; }

    /// <summary>A failing figure of more than this share of its limit asks for its unit.</summary>
    public double UnitDoubted { get; }

    /// <summary>An earth path reads at least this share of its own copper, less <see cref="CopperAllowance"/>: 0.8.</summary>
    public double CopperShare { get; }
    public Ohms CopperAllowance { get; }

    /// <summary>An applied part that leaked less than this before may show nothing.</summary>
    public Amperes SilentUsual { get; }

    /// <summary>Less than this of a medical device that runs is nothing.</summary>
    public Amperes SilentLeakage { get; }

    /// <summary>Nothing is doubted where so much flowed before.</summary>
    public Amperes SilentKnown { get; }
    public Amperes SilentKnownAppliance { get; }

    /// <summary>Of its reference: 3.</summary>
    public double Tripled { get; }
    public Amperes TripledLeast { get; }
    public Amperes TripledLeastAppliance { get; }

    /// <summary>The larger of two references, of the smaller: 2.</summary>
    public double ExchangedApart { get; }

    /// <summary>Of the other's reference: 0.2.</summary>
    public double ExchangedWithin { get; }

    public int CalibrationWarning { get; }

    /// <summary>A repeated null that differs by more than this says that the one before was stale.</summary>
    public Ohms NullRepeat { get; }

    /// <summary>A line of a daily check is near its tolerance from this share of it: 0.75.</summary>
    public double CheckNear { get; }

    /// <summary>Drift is warned of when it would reach the tolerance within so many days.</summary>
    public int CheckAhead { get; }

    /// <summary>Checks before drift is worked out.</summary>
    public int CheckFew { get; }

    /// <summary>How long a choice of kit, and a look at it before use, hold.</summary>
    public TimeSpan KitKeeps { get; }

    /// <summary>Bench time of an item of whose kind nothing was inspected yet.</summary>
    public TimeSpan BenchUnknown { get; }

    /// <summary>Bench time of a formal visual where nothing of its kind was looked at yet.</summary>
    public TimeSpan LookUnknown { get; }

    /// <summary>Inspections from which an item's own bench time is taken.</summary>
    public int BenchFew { get; }

    /// <summary>A sheet that lay open for longer tells nothing of bench time.</summary>
    public TimeSpan BenchLongest { get; }

    /// <summary>Tip of a probe left bare, at most; and better.</summary>
    public Metres ProbeTip { get; }
    public Metres ProbeTipBetter { get; }
    public Volts InsulationVoltage { get; }
    public Volts GentleInsulationVoltage { get; }

    /// <summary>Of nominal: 0.85.</summary>
    public double LowestMains { get; }

    /// <summary>Of nominal: 1.10.</summary>
    public double HighestMains { get; }

    /// <summary>Of nominal: most between neutral and earth of an outlet that powers an item.</summary>
    public double NeutralToEarth { get; }

    /// <summary>A plug's fuse of more is open or bad.</summary>
    public Ohms LargestFuse { get; }

    /// <summary>From this use of its limit a value is near: 0.9.</summary>
    public double NearLimit { get; }

    public Ohms FlexSpread { get; }
    public double ComparisonTolerance { get; }

    /// <summary>Use of the limit gained since the reference that is worth telling.</summary>
    public double TrendRise { get; }

    /// <summary>Looked ahead beyond the next due date, in intervals.</summary>
    public double TrendBeyond { get; }

    public int TrendReadings { get; }

    /// <summary>A plate's watts are rounded: 3 kW on a 13 A fuse is 13.04 A and no fault.</summary>
    public double PlateRounding { get; }

    public Amperes LongLeadRcd { get; }
    public Celsius ConductorReference { get; }

    /// <summary>R_t / R_20 = 1 + 0.004 (t − 20).</summary>
    public double ConductorWarmth { get; }

    public Watts ToolPower { get; }
    public Period Hire { get; }
    public int MostSteps { get; }

    /// <summary>So much less than half an interval is still half of it: rounds do not fall on the day.</summary>
    public TimeSpan TestsApart { get; }
    public Period MedicalCf { get; }
    public Period MedicalLifeSupporting { get; }
    public Period MedicalTransport { get; }
    public Period MedicalBf { get; }
    public Period MedicalUsual { get; }
    public Period MedicalNoContact { get; }
    public Period MedicalHalvedLeast { get; }
    public Period DefibrillatorPerformance { get; }

    /// <summary>Discharges at maximum before the charge of a defibrillator that is timed.</summary>
    public int DischargesBefore { get; }

    /// <summary>No two of them follow one another faster: a key held down counts once.</summary>
    public TimeSpan DischargesApart { get; }

    /// <summary>After a longer rest a battery has recovered: the discharges before it tire nothing any more.</summary>
    public TimeSpan DischargesRest { get; }
    public int DueWindow { get; }
    public double EvidenceTarget { get; }
    public double EvidenceLonger { get; }
    public double EvidenceLow { get; }
    public double EvidenceHigh { get; }
    public Period EvidenceWindow { get; }

    /// <summary>500 V d.c., and 250 V where a suppressor or extra-low voltage would be hurt or mimic a fault.</summary>
    public Volts InsulationVoltageFor(Item item) =>
        item.SurgeProtected || item.Class == ProtectionClass.III ? GentleInsulationVoltage : InsulationVoltage;

    private double Share(string id) => Table.Of(id, Dimension.Share).Si;

    private Period Months(string id) => new(Table.Of(id, Dimension.Months).Si);

    private int Days(string id) => (int)Table.Of(id, Dimension.Days).Si;

    private int Count(string id) => (int)Table.Of(id, Dimension.Count).Si;
}
