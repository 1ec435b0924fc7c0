using Osierwand.Core.Installation;
using Osierwand.Core.Judging;
using Osierwand.Core.Procedures;

namespace Osierwand.Core.Bench;

public sealed partial record BenchState
{
    /// <summary>What is told of the job, and how it is chosen to be done.</summary>
    private sealed partial class Fold
    {
        private string? Keep(ComplaintTold it)
        {
            if (string.IsNullOrWhiteSpace(it.Words) || TooLong(it.Words) is not null)
                return "Say in a few words what is complained of.";
            complaint = it with { Words = it.Words.Trim() };
            return null;
        }

        private string? Keep(WorkOrderTold it)
        {
            if (TooLong(it.Number, it.Fault) is { } why)
                return why;
            workOrder = WorkOrder.Of(it.Number, it.Fault);
            return null;
        }

        private string? Keep(StickerSaid it)
        {
            if (!ruling.Item.Equipment.IsMedical)
                return "Only a medical device's protocol ends with its sticker.";
            sticker = it.IsFitted;
            return null;
        }

        private string? Keep(CircuitSummed it)
        {
            var summed = CircuitSum.Of(it, new(HouseRuling.Table(ruling.House, InstallationLimits.Id)!));
            if (summed.Fault is { } fault)
                return fault.Message;
            circuit = summed.Value;
            return null;
        }

        private string? Choose(LeakageMethodChosen it)
        {
            if (string.IsNullOrWhiteSpace(it.Reason) || TooLong(it.Reason) is not null)
                return "Say in a few words why leakage is measured that way.";
            return LeakageChoice.Refusal(ruling, it.Leakage) is { } why
                ? why
                : Rule(it, now => now with { Policy = now.Policy with { Leakage = it.Leakage }, LeakageReason = it.Reason.Trim() });
        }

        private string? Keep(StandingSaid it)
        {
            if (!it.IsIsolated && (string.IsNullOrWhiteSpace(it.By) || TooLong(it.By) is not null))
                return "Say in a few words what else earths it.";
            // Said by a slip, or taken off its other earth since: it is measured as it would have been.
            var isTakenBack = it.IsIsolated && standsIsolated == false;
            if (!isTakenBack && IsolatedStanding.Refusal(ruling, sheet) is { } why)
                return why;
            (standsIsolated, isStandingKnown) = (it.IsIsolated, true);
            if (isTakenBack)
                return Rule(it, now => IsolatedStanding.Measured(now, beforeDifference.Method, beforeDifference.Reason));
            if (it.IsIsolated)
                return null;
            beforeDifference = (ruling.Policy.MedicalMethod, ruling.LeakageReason);
            return Rule(it, now => IsolatedStanding.ByDifference(now, it.By!.Trim()));
        }

        private string? Keep(RepairTold it)
        {
            if (ruling.Item.Held is null)
                return "It is in service: there is no failure that a repair would close.";
            if (string.IsNullOrWhiteSpace(it.Found) || string.IsNullOrWhiteSpace(it.Done) || string.IsNullOrWhiteSpace(it.RepairedBy))
                return "Say what was found, what was done, and by whom.";
            if (TooLong(it.Found, it.Done, it.Parts, it.RepairedBy) is { } why)
                return why;
            var parts = string.IsNullOrWhiteSpace(it.Parts) ? null : it.Parts.Trim();
            repair = new(it.Found.Trim(), it.Done.Trim(), parts, it.RepairedBy.Trim());
            return null;
        }

        private string? Choose(IntervalChosen it)
        {
            if (it.Months is not { } months)
            {
                interval = null;
                return null;
            }
            if (string.IsNullOrWhiteSpace(it.Reason) || TooLong(it.Reason) is not null)
                return "Say in a few words why it comes back then.";
            interval = new(it.Id, new(months), it.Reason.Trim(), ruling.Technician.Name, ruling.Technician.IsLead);
            return null;
        }

        private string? Choose(ProcedureChosen it)
        {
            // A limit, a check or a step that failed does not go by choosing a list that has none of it.
            if (reads.Select(read => Judged(read.Event, read.Step)).Any(read => read is { Void: null, Judgement.Status: Status.Fail }))
                return "Something failed: another procedure is chosen only after it was saved, or voided with its reason and measured again.";
            if (it.Procedure is null)
                return Rule(it, now => now with { Procedure = null });
            var known = ruling.Procedures.Concat(ruling.EarlierProcedures);
            if (known.FirstOrDefault(one => one.Id == it.Procedure && one.Version == it.Version) is not { } procedure)
                return "This procedure is not known here.";
            return ProcedureRules.Refusal(procedure, ruling.Item.Equipment, ruling.PackId) is { } why
                ? why
                : Rule(it, now => now with { Procedure = procedure });
        }

        private string? Scope(ScopeChosen it)
        {
            if (Scopes.Refusal(ruling, it.Scope) is { } why)
                return why;
            return Rule(it, now => now with { Scope = it.Scope });
        }
    }
}
