namespace Osierwand.Store.Entities;

/// <summary>An outlet as somebody measured it on one day. Never edited: measured again, it is a check of its own.</summary>
public sealed class OutletCheck
{
    /// <summary>Of the event that measured it.</summary>
    public Guid Id { get; set; }
    public Guid SiteId { get; set; }
    public Site Site { get; set; } = null!;
    public Guid PersonId { get; set; }
    public required string Person { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>At the site; it holds for this day.</summary>
    public DateOnly Day { get; set; }
    public required string Name { get; set; }
    public required string Room { get; set; }
    public bool IsWorkbench { get; set; }
    public double NominalV { get; set; }
    public int Phases { get; set; }
    public bool IsCentreEarthed { get; set; }

    /// <summary>JSON of <see cref="Core.Outlets.OutletVoltage"/>.</summary>
    public required string Voltages { get; set; }
    public bool IsGood { get; set; }
    public required string Says { get; set; }
}
