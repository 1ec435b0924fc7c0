using Microsoft.AspNetCore.Identity;

namespace Osierwand.Store.Entities;

/// <summary>Someone who signs in: a technician or a lead.</summary>
public sealed class Person : IdentityUser<Guid>
{
    public const string Technician = "technician";
    public const string Lead = "lead";

    public required string DisplayName { get; set; }

    /// <summary>As printed on labels.</summary>
    public required string Initials { get; set; }
}
