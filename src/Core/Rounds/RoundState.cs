namespace Osierwand.Core.Rounds;

/// <summary>Where a round stands.</summary>
public enum RoundState
{
    Planned,
    Open,

    /// <summary>Walked; a lead looks at what came of it.</summary>
    Review,
    Closed,
}

/// <summary>How far a round has come.</summary>
/// <param name="Left">Planned items that are neither done nor saved as not tested.</param>
/// <param name="HasStory">Something happened in it, whatever came of it: a record (taken back, or findings too), a sheet that was discarded
/// or handed over, a measurement that failed.</param>
/// <param name="ToSee">Discarded sheets with a failure, and failed measurements that nobody saved, that wait for a lead.</param>
public sealed record RoundTally(int Planned, int Done, int NotTested, int Left, int ToSee, bool HasStory);

/// <summary>What may become of a round, decided in this one place.</summary>
public static class RoundMoves
{
    /// <returns>Why a round does not go there, or null.</returns>
    public static string? Refusal(RoundState from, RoundState to, RoundTally tally, bool isLead) =>
        (from, to) switch
        {
            _ when from == to => $"The round is {Text(to)} already.",
            (RoundState.Planned, RoundState.Open) when !isLead => "A lead opens a round.",
            (RoundState.Planned, RoundState.Open) when tally.Planned == 0 => "Nothing is planned in it yet.",
            (RoundState.Planned, RoundState.Open) => null,
            (RoundState.Open, RoundState.Planned) when tally.HasStory => "Something was done in it: it cannot be planned any more.",
            (RoundState.Open, RoundState.Planned) when !isLead => "A lead takes a round back to planning.",
            (RoundState.Open, RoundState.Planned) => null,
            (RoundState.Open, RoundState.Review) => null,
            (RoundState.Review, RoundState.Open) => null,
            (RoundState.Review, RoundState.Closed) => "A round is closed by signing its review.",
            (RoundState.Closed, _) => "A closed round stays closed: its papers are out. What is still to do is another round's.",
            _ => $"A round that is {Text(from)} does not become {Text(to)}.",
        };

    /// <summary>Signing closes a round; nothing else does.</summary>
    /// <param name="unseen">Records that a lead has to look at first and has not.</param>
    /// <returns>Why nobody signs it now, or null.</returns>
    public static string? WhyNotSigned(RoundState state, RoundTally tally, int unseen, bool isLead) =>
        state switch
        {
            RoundState.Closed => "It is closed.",
            not RoundState.Review => $"It is {Text(state)}: it is signed once it is walked.",
            _ when !isLead => "A lead signs a round.",
            _ when tally.Left == 1 =>
                "One item is neither done nor not tested with a reason: inspect it, say why not, or move it to another round.",
            _ when tally.Left > 1 =>
                $"{tally.Left} items are neither done nor not tested with a reason: inspect them, say why not, or move them to another round.",
            _ when tally.ToSee == 1 => "A failure that was not saved waits for a lead: it stands on Today.",
            _ when tally.ToSee > 1 => $"{tally.ToSee} failures that were not saved wait for a lead: they stand on Today.",
            _ when unseen == 1 => "One record has to be looked at first.",
            _ when unseen > 1 => $"{unseen} records have to be looked at first.",
            _ => null,
        };

    public static string Text(RoundState state) =>
        state switch
        {
            RoundState.Planned => "planned",
            RoundState.Open => "open",
            RoundState.Review => "in review",
            _ => "closed",
        };
}
