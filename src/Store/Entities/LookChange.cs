using Osierwand.Core.Equipment;

namespace Osierwand.Store.Entities;

/// <summary>What a change of the list to look at does.</summary>
public enum LookChangeKind
{
    Add,
    Drop,

    /// <summary>An earlier change holds no more.</summary>
    TakeBack,
}

/// <summary>One change of the house's list to look at. Never edited: a record that names the list's revision finds here what it
/// was.</summary>
public sealed class LookChange
{
    /// <summary>Counts the changes from 1.</summary>
    public int Revision { get; set; }
    public LookChangeKind Kind { get; set; }

    /// <summary>Of a point that is dropped.</summary>
    public string? PointId { get; set; }

    /// <summary>Of a change that is taken back.</summary>
    public int? Target { get; set; }
    public string? Where { get; set; }
    public string? Text { get; set; }
    public string[] Phrases { get; set; } = [];
    public ItemKind[] Kinds { get; set; } = [];
    public ProtectionClass[] Classes { get; set; } = [];
    public PlugType[] Plugs { get; set; } = [];
    public string[] Packs { get; set; } = [];

    /// <summary>Why; a point is dropped for a reason.</summary>
    public string Reason { get; set; } = "";
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}
