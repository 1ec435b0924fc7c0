using Osierwand.Core.Equipment;
using Osierwand.Core.Intervals;

namespace Osierwand.Store.Entities;

/// <summary>What a lead decided for a group, with the figures it was decided by. Appended, never edited; undoing is another one.</summary>
public sealed class GroupDecision
{
    public const int LongestReason = 500;

    /// <summary>Made by the page, so that sending twice stores once.</summary>
    public Guid Id { get; set; }
    public ItemKind Kind { get; set; }
    public Place Place { get; set; }

    /// <summary>Of the decisions about this group, from 1: two leads do not decide the same twice.</summary>
    public int Number { get; set; }

    /// <summary>On the ladder: -1, 0 or 1; of an undoing what is taken back.</summary>
    public int Step { get; set; }

    /// <summary>The decision that this one undoes; null for one of its own.</summary>
    public Guid? Undoes { get; set; }
    public DateTimeOffset At { get; set; }
    public Guid PersonId { get; set; }
    public required string By { get; set; }
    public required string Reason { get; set; }

    /// <summary>The figures of that day.</summary>
    public int Inspections { get; set; }
    public int Failures { get; set; }
    public double Months { get; set; }
    public double Low { get; set; }
    public double Median { get; set; }
    public double High { get; set; }
    public double Target { get; set; }
    public Suggestion Suggested { get; set; }

    /// <summary>Items whose test fell due earlier by it.</summary>
    public int Moved { get; set; }
}
