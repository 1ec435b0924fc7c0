namespace Osierwand.Store;

/// <summary>
/// Whose eyes the database is read with. Every query of a context goes through it, so that no handler can forget to ask; before anybody
/// is said to look, nothing is seen.
/// </summary>
public sealed class Sight
{
    /// <summary>Of the house itself: technicians, leads, and the program's own work.</summary>
    public bool SeesAll { get; private set; }

    /// <summary>Otherwise of these clients alone.</summary>
    public Guid[] Clients { get; private set; } = [];

    public static Sight OfTheHouse() => new() { SeesAll = true };

    public void VisibleTo(bool house, Guid[] clients) => (SeesAll, Clients) = (house, house ? [] : clients);
}
