using Osierwand.Core.Equipment;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Standards;
using Osierwand.Server.Procedures;
using Osierwand.Store;

namespace Osierwand.Demo;

/// <summary>How Withy Lane tests two kinds of hospital devices alike. Chosen by hand: no demo item takes one unasked.</summary>
internal static class DemoProcedures
{
    private const string By = "Maud Tarrant";

    public static void Add(OsierwandDb db, DateTimeOffset now)
    {
        var pump = From(
            "Infusion pump, with line and flow meter",
            new()
            {
                Kind = ItemKind.MedicalDevice,
                Class = ProtectionClass.II,
                AppliedParts = [new("line", AppliedPartType.CF)],
            }
        ) with
        {
            Adapters = ["Line adapter", "Flow meter", "Measuring cylinder"],
            Remark = "Run it on mains with a full battery; let it go through its own start before the first reading.",
        };
        var flow = pump with
        {
            Version = 2,
            Steps =
            [
                .. pump.Steps,
                new ProcedureStep.Pause("Start it at 100 ml/h and let it settle", 60),
                new ProcedureStep.Check("flow", new(100, 5, "ml/h")),
                new ProcedureStep.Check("occlusion alarm sounds"),
            ],
        };
        Keep(db, now.AddDays(-90), "as the team did it until now", pump);
        Keep(db, now.AddDays(-20), "flow and occlusion alarm are checked on every pump since the ward asked for it", flow);

        var monitor = From(
            "Patient monitor, 5 leads, with ECG comb",
            new()
            {
                Kind = ItemKind.MedicalDevice,
                MainsSwitch = MainsSwitch.Electronic,
                AppliedParts = [new("ECG", AppliedPartType.CF, 5), new("SpO2", AppliedPartType.BF)],
            }
        ) with
        {
            Adapters = ["ECG comb, 5 leads", "SpO2 adapter", "ECG simulator"],
        };
        Keep(
            db,
            now.AddDays(-60),
            "one way for all five-lead monitors",
            monitor with
            {
                Steps =
                [
                    .. monitor.Steps.Select(step =>
                        step is ProcedureStep.Measure { Step: "leakage/equipment" } measure
                            ? measure with
                            {
                                Limit = new(300, "uA", "house value for monitors in theatre"),
                            }
                            : step
                    ),
                    new ProcedureStep.Check("heart rate shown", new(60, 2, "1/min")),
                ],
            }
        );
    }

    private static Procedure From(string name, Item item) =>
        ProcedureRules.From(Planner.Of(PackLibrary.Find("iec-62353-2014")!, item, Policy.Usual), name, Guid.CreateVersion7());

    private static void Keep(OsierwandDb db, DateTimeOffset at, string reason, Procedure procedure) =>
        ProcedureBook.Add(db, db.Procedures.Local.FirstOrDefault(it => it.Id == procedure.Id), procedure, reason, By, at);
}
