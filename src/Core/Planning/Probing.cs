using System.Collections.Immutable;
using Osierwand.Core.Equipment;
using Osierwand.Core.Standards;

namespace Osierwand.Core.Planning;

/// <summary>What the probe lies on where a case has no earth to measure to.</summary>
public enum ProbeOn
{
    /// <summary>Metal of the item that can be touched.</summary>
    Metal,

    /// <summary>Laid round an insulating case.</summary>
    Foil,
    Mesh,

    /// <summary>Nothing conductive within reach, looked at: nothing was laid round it either.</summary>
    Nothing,
}

/// <summary>Where the probe lay for a reading.</summary>
/// <param name="ProvedBy">What showed that its lead is whole: the instrument's own check point, or a reading of the day. Null where nothing
/// did.</param>
public sealed record ProbePlace(ProbeOn On, string? ProvedBy = null)
{
    /// <summary>As papers and screens say it, without a full stop.</summary>
    public string Text =>
        (On == ProbeOn.Nothing ? "nothing conductive within reach, looked at" : $"probe on {Words.Of(On)}")
        + (ProvedBy is { } proof ? $", proved by {proof}" : "");
}

/// <summary>
/// Class II is measured with a probe, and a probe in the air reads what a sound item reads: off the scale, and no current. So where it lies
/// is said before such a reading counts.
/// </summary>
public static class Probing
{
    /// <summary>A part with a name says by its name where the probe lies.</summary>
    public static bool IsAsked(Item item, Conditions under) => IsProbed(item, under) && !IsNamedMetal(item, under);

    /// <summary>What is read through the probe of something without a protective earth.</summary>
    public static bool IsProbed(Item item, Conditions under) =>
        item is { Class: ProtectionClass.II or ProtectionClass.IIFunctionalEarth, IsCord: false }
        && under
            is Conditions.Insulation { Between: Between.MainsToAccessible }
                or Conditions.Leakage { Kind: LeakageKind.Touch or LeakageKind.Equipment };

    /// <summary>Metal, foil or mesh under the probe is earthed by nothing: that is tried before anything is put on the item.</summary>
    public static bool IsGuarded(Item item, Conditions under) =>
        IsProbed(item, under) && under is not Conditions.Leakage { Kind: LeakageKind.Equipment };

    public static bool IsNamedMetal(Item item, Conditions under) => under.At is { } spot && item.UnearthedParts.Contains(spot.Text);

    /// <summary>Those that its facts allow.</summary>
    public static ImmutableArray<ProbeOn> Offered(Item item) => [.. Enum.GetValues<ProbeOn>().Where(on => Contradiction(item, on) is null)];

    /// <returns>Why the probe cannot have lain there, a sentence without its full stop; null where it can.</returns>
    public static string? Contradiction(Item item, ProbeOn on) =>
        (on, item.AllInsulated) switch
        {
            (ProbeOn.Metal, true) =>
                "its facts say that no metal of it can be touched: foil or mesh is laid round it, or the facts are corrected",
            (ProbeOn.Nothing, false) =>
                "its facts do not say that its case is all-insulated: its metal is probed, foil or mesh is laid round it, or the facts are "
                    + "corrected",
            _ => null,
        };
}
