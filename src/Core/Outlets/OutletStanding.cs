using System.Collections.Immutable;

namespace Osierwand.Core.Outlets;

/// <summary>An outlet as it was measured on a sheet. From one that was found wrong nothing is powered, and the client is told.</summary>
public sealed record MeasuredOutlet(OutletOfTheDay Outlet, OutletFinding Finding);

/// <summary>The outlet of one sheet: which powers the item, which could, and what was found wrong.</summary>
/// <param name="Supply">What it must give.</param>
/// <param name="InUse">Null until one is checked or chosen.</param>
/// <param name="Offered">Found good today, of this supply; the person's own last one first.</param>
/// <param name="Trouble">Why the one that was checked last is not used; null where none was, or it is good.</param>
/// <param name="Measured">On this sheet, in order.</param>
public sealed record OutletStanding(
    OutletSupply Supply,
    OutletOfTheDay? InUse,
    ImmutableArray<OutletOfTheDay> Offered,
    string? Trouble,
    ImmutableArray<MeasuredOutlet> Measured
)
{
    /// <summary>Those whose last check on this sheet was not good: mended and measured again, an outlet is told no more.</summary>
    public IEnumerable<MeasuredOutlet> FoundWrong =>
        Measured.Where(it => !it.Finding.IsGood && Measured.Last(later => later.Outlet.IsSame(it.Outlet)) == it);

    /// <summary>It was not found wrong after something was powered from it.</summary>
    public bool StillHolds(OutletOfTheDay outlet) => FoundWrong.All(it => !it.Outlet.IsSame(outlet));
}

/// <summary>What happened with outlets on one sheet, laid one upon the other. Immutable.</summary>
public sealed record OutletStory
{
    public static readonly OutletStory Nothing = new();

    private OutletOfTheDay? Chosen { get; init; }
    private string? Trouble { get; init; }
    private ImmutableArray<MeasuredOutlet> All { get; init; } = [];

    /// <summary>An outlet was measured: it is the one in use, or found wrong.</summary>
    public OutletStory Measured(OutletOfTheDay it, OutletFinding finding) =>
        this with
        {
            Chosen = finding.IsGood ? it : null,
            Trouble = finding.IsGood ? null : $"{it.Name}: {finding.Says}",
            All = All.Add(new(it, finding)),
        };

    /// <summary>On this sheet, by the number of its check.</summary>
    public bool WasMeasured(Guid check) => All.Any(it => it.Outlet.Id == check);

    /// <summary>One that was found good today is used.</summary>
    public OutletStory Chose(OutletOfTheDay it) => this with { Chosen = it, Trouble = null };

    /// <summary>Somebody else goes on, at another place: the outlet is theirs to say, and what was measured stays with who measured
    /// it.</summary>
    public OutletStory PassedOn(string from) =>
        new()
        {
            All =
            [
                .. All.Select(it =>
                    it.Outlet.PersonId == Guid.Empty ? it : it with { Outlet = it.Outlet with { PersonId = Guid.Empty, By = from } }
                ),
            ],
        };

    /// <param name="supply">As the item asks for now: a plate that was corrected may ask for another.</param>
    /// <param name="room">Where the item lies.</param>
    /// <param name="person">Who works on it.</param>
    public OutletStanding For(OutletSupply supply, string room, Guid person, ImmutableArray<OutletOfTheDay> ofTheDay)
    {
        // Of each outlet what was measured last counts: one found wrong here is no more on offer.
        var offered = ofTheDay
            .Where(it => it.Supply == supply && !IsFoundWrong(it))
            .OrderByDescending(it => it.PersonId == person)
            .DistinctBy(it => (it.Name.ToUpperInvariant(), it.Room.ToUpperInvariant()))
            .ToImmutableArray();
        var inUse =
            Chosen is { } chosen && chosen.Supply == supply ? chosen
            : Trouble is not null ? null
            : offered.FirstOrDefault(it => it.Serves(room, person));
        return new(supply, inUse, offered, Trouble, All);
    }

    private bool IsFoundWrong(OutletOfTheDay it) => All.LastOrDefault(mine => mine.Outlet.IsSame(it)) is { Finding.IsGood: false };
}
