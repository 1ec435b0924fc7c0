namespace Osierwand.Store.Entities;

/// <summary>Something that was done about an item out of use. Appended, never edited.</summary>
public sealed class QuarantineRow
{
    /// <summary>Made by the page, so that sending twice stores once.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }

    /// <summary>The failure it acts on; a second failure begins anew.</summary>
    public Guid Cause { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid PersonId { get; set; }
    public required string By { get; set; }

    /// <summary>As JSON of <see cref="Core.Quarantine.QuarantineAct"/>.</summary>
    public required string Act { get; set; }
}
