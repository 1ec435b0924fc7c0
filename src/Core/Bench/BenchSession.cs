namespace Osierwand.Core.Bench;

/// <summary>
/// One item on one bench, held by a host: the browser's worker, the server, the command line. It appends and answers with the view; it
/// knows
/// no rule of its own.
/// </summary>
public sealed class BenchSession(Ruling ruling, IEnumerable<BenchEvent> events)
{
    private readonly BenchMemory memory = new();
    private readonly Dictionary<Guid, (TakenReading Of, ReadingView View)> worded = [];
    private readonly List<BenchEvent> events = [.. events];
    private (RunSheet Sheet, string Id)? named;
    private BenchState? state;

    public IReadOnlyList<BenchEvent> Events => events;

    /// <summary>Computed once for what has happened so far, however often it is asked for.</summary>
    public BenchState State => state ??= BenchState.Of(ruling, events, memory);

    public void Append(BenchEvent happened)
    {
        events.Add(happened);
        state = null;
    }

    /// <param name="knownSheet">The sheet the caller has; it is left out when it is still the one.</param>
    public BenchView View(string? knownSheet = null)
    {
        var now = State;
        if (named is null || !ReferenceEquals(named.Value.Sheet, now.Sheet))
            named = (now.Sheet, now.Ruling.Fingerprint);
        var id = named.Value.Id;
        return new(id, id == knownSheet ? null : SheetCards.Of(now), ruling.Fingerprint, now.Fingerprint, StateCards.Of(now, worded));
    }

    /// <summary>Goes once through all that an ordinary sheet needs: packs are loaded, tables read, code made ready.</summary>
    public static void DryRun()
    {
        var ruling = new Ruling
        {
            Item = new(Guid.Empty, "", "", null, null, null, "", "", default, default, 0, new() { Kind = Equipment.ItemKind.Appliance }),
            Round = new(Guid.Empty, "", Guid.Empty, "", "", ""),
            PackId = Standards.PackLibrary.Ids[0],
            PackVersion = "",
            Technician = new(Guid.Empty, "", "", false, []),
            Basis = new(default, default, default, default, null, null, null, null, false, [], 0),
            Today = new(2000, 1, 1),
        };
        var read = BenchJson.ReadRuling(BenchJson.Write(ruling)).Value;
        var session = new BenchSession(read, []);
        foreach (var (step, text) in new[] { ("earthContinuity", "0.9"), ("insulation", ">1M") })
            session.Append(
                new ReadingTaken
                {
                    Id = Guid.NewGuid(),
                    At = default,
                    Step = step,
                    Source = ReadingSource.Typed,
                    Text = text,
                }
            );
        _ = BenchJson.Write(session.View());
    }

    /// <summary>What would be said of a typed reading before it is kept: null when it would be understood.</summary>
    public string? FaultOf(string step, string text)
    {
        if (BenchMemory.PlanOf(State.Sheet.Find(step)) is not { } plan)
            return "This step is not on the run sheet.";
        var trial = new ReadingTaken
        {
            Id = Guid.Empty,
            At = default,
            Step = step,
            Source = ReadingSource.Typed,
            Text = text,
        };
        return ReadingOf.Taken(State.Ruling, plan, trial).Fault?.Message;
    }
}
