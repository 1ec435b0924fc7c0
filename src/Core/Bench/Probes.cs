using Osierwand.Core.Judging;
using Osierwand.Core.Planning;

namespace Osierwand.Core.Bench;

public sealed partial record BenchState
{
    /// <summary>What the probe lies on; null while nobody said, and after a break: then it is laid anew.</summary>
    public ProbeOn? Probe { get; init; }

    /// <summary>It lay on metal and showed nothing anywhere: a pass waits until its lead is proved.</summary>
    public bool AsksProbeTried => Assessment.Unsettled.Any(step => step.Detail == ProbeDoubts.Unproved);

    private sealed partial class Fold
    {
        private const string CheckPoint = "the instrument’s own check point";
        private ProbeOn? probe;
        private bool isProbeTried;

        /// <summary>Readings before the probe was lifted last: where it lay then nobody says any more.</summary>
        private int readBeforeLifting;

        /// <summary>By reading: what the probe lay on. A reading without it was taken before anybody said.</summary>
        private readonly Dictionary<Guid, ProbeOn> lay = [];

        /// <summary>Readings whose probe lead was found whole, and those whose lead was found broken.</summary>
        private readonly HashSet<Guid> wholeLead = [];
        private readonly HashSet<Guid> brokenLead = [];

        private string? Keep(ProbePlaced it)
        {
            if (!sheet.Steps.OfType<SheetStep.Measure>().Any(step => step.Plan.AsksProbe))
                return "Nothing on this sheet is read through a probe.";
            if (Probing.Contradiction(ruling.Item.Equipment, it.On) is { } why)
                return Words.Sentence(why);
            probe = it.On;
            foreach (var (reading, _) in reads.Skip(readBeforeLifting))
                lay.TryAdd(reading.Id, it.On);
            return null;
        }

        private string? Keep(ProbeTried it)
        {
            if (!sheet.Steps.OfType<SheetStep.Measure>().Any(step => Probing.IsProbed(ruling.Item.Equipment, step.Plan.Under)))
                return "Nothing on this sheet is read through a probe.";
            isProbeTried = it.Works;
            var (found, other) = it.Works ? (wholeLead, brokenLead) : (brokenLead, wholeLead);
            found.UnionWith(reads.Select(read => read.Event.Id).Where(reading => !other.Contains(reading)));
            return null;
        }

        /// <summary>What was said of a case that turned out otherwise is said anew.</summary>
        private ProbeOn? ProbeNow => probe is { } on && Probing.Contradiction(ruling.Item.Equipment, on) is null ? on : null;

        private void NoteProbe(ReadingTaken taken)
        {
            if (ProbeNow is { } on)
                lay[taken.Id] = on;
            if (isProbeTried)
                wholeLead.Add(taken.Id);
        }

        /// <summary>Other hands, or another hour: it is laid and proved anew.</summary>
        private void LiftProbe() => (probe, isProbeTried, readBeforeLifting) = (null, false, reads.Count);

        /// <summary>With where its probe lay, of what is read through one.</summary>
        private Reading AtProbe(Guid id, Reading reading)
        {
            var item = ruling.Item.Equipment;
            if (reading is not Reading.Numeric numeric || !Probing.IsProbed(item, reading.Under))
                return reading;
            var isNamed = Probing.IsNamedMetal(item, reading.Under);
            if (!isNamed && !lay.ContainsKey(id))
                return reading;
            var place = new ProbePlace(isNamed ? ProbeOn.Metal : lay[id], wholeLead.Contains(id) ? CheckPoint : ruling.ProbeSeen);
            // That a named part is metal is no news, nor that a reading of the day proves the lead.
            return numeric with
            {
                Probe = place,
                Note = isNamed
                    ? reading.Note
                    : string.Join("; ", new[] { reading.Note, (place with { ProvedBy = null }).Text }.OfType<string>()),
            };
        }

        /// <summary>A lead that shows nothing at the check point showed nothing of the item.</summary>
        private string? OfBrokenLead(Guid id, Reading reading) =>
            brokenLead.Contains(id) && Probing.IsProbed(ruling.Item.Equipment, reading.Under)
                ? "its probe lead showed nothing at the check point"
                : null;
    }
}
