using System.Collections.Immutable;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Equipment;

/// <summary>One device of a medical system, as it stands in the register on the day.</summary>
public sealed record SystemMember(string Tag, string Name, Item Equipment);

/// <summary>
/// Several devices on one multiple socket, tested as one: what the socket feeds together is measured together, at the socket's own mains
/// lead. The system has what its members bring; each part bears its member's name, so that a reading says whose it is. Members keep their
/// own tests (IEC 62353, 3.22 and 5.3.2).
/// </summary>
public static class MedicalSystem
{
    public const int MostMembers = 20;

    /// <summary>Where a member's earth is clipped that names no earthed part of its own.</summary>
    public const string Metal = "accessible metal";

    /// <summary>The socket with all that hangs on it.</summary>
    /// <param name="own">What the socket itself is: its lead, its class, its own metal. Members that it had are replaced.</param>
    public static Item Of(Item own, ImmutableArray<SystemMember> members)
    {
        var alone = Own(own);
        if (members.IsEmpty)
            return alone;
        var whole = alone with { Members = members, Socket = alone };
        var labels = Labels(members);
        return whole with
        {
            EarthedParts = Joined(alone.EarthedParts, members, labels, EarthedOf),
            UnearthedParts = Joined(alone.UnearthedParts, members, labels, its => its.UnearthedParts),
            AppliedParts =
            [
                .. alone.AppliedParts,
                .. members
                    .Zip(labels)
                    .SelectMany(it => it.First.Equipment.AppliedParts, (it, part) => part with { Name = $"{it.Second}: {part.Name}" }),
            ],
            RatedPower = Power(members) is > 0 and var watts ? new Watts(watts) : alone.RatedPower,
            RatedVoltage = alone.RatedVoltage ?? Of(members),
            Heating = alone.Heating || members.Any(it => it.Equipment.Heating),
            SurgeProtected = alone.SurgeProtected || members.Any(it => it.Equipment.SurgeProtected),
            MainsSwitch = members.Any(it => it.Equipment.SwitchHidesMains) ? MainsSwitch.Electronic : alone.MainsSwitch,
            StartUpSeconds = Math.Max(alone.StartUpSeconds, members.Max(it => it.Equipment.StartUpSeconds)),
        };
    }

    /// <summary>The socket without what its members bring. What was added or changed at the socket itself stays.</summary>
    public static Item Own(Item system)
    {
        if (system.Members.IsEmpty)
            return system;
        var brought = Brought(system.Members);
        var (members, socket) = (system.Members, system.Socket ?? system);
        return system with
        {
            Members = [],
            Socket = null,
            EarthedParts = [.. system.EarthedParts.Where(name => !brought.Earthed.Contains(name))],
            UnearthedParts = [.. system.UnearthedParts.Where(name => !brought.Unearthed.Contains(name))],
            AppliedParts = [.. system.AppliedParts.Where(part => !brought.Applied.Contains(part.Name))],
            // What a member brings as well hides what the socket's own is: that stays as it was.
            RatedPower = Power(members) > 0 ? socket.RatedPower : system.RatedPower,
            RatedVoltage = system.RatedVoltage == Of(members) ? socket.RatedVoltage : system.RatedVoltage,
            Heating = members.Any(it => it.Equipment.Heating) ? socket.Heating : system.Heating,
            SurgeProtected = members.Any(it => it.Equipment.SurgeProtected) ? socket.SurgeProtected : system.SurgeProtected,
            MainsSwitch = members.Any(it => it.Equipment.SwitchHidesMains) ? socket.MainsSwitch : system.MainsSwitch,
            StartUpSeconds =
                system.StartUpSeconds > members.Max(it => it.Equipment.StartUpSeconds) ? system.StartUpSeconds : socket.StartUpSeconds,
        };
    }

    /// <summary>What members bring is corrected at the member: at the system it would be forgotten, or measured by nobody.</summary>
    /// <returns>What is missing or otherwise than its member has it, in a sentence; null where all is there.</returns>
    public static string? Contradiction(Item system)
    {
        var asBrought = Of(Own(system), system.Members);
        var lost = asBrought
            .AppliedParts.Where(part => !system.AppliedParts.Contains(part))
            .Select(part => part.Name)
            .Concat(asBrought.EarthedParts.Except(system.EarthedParts))
            .Concat(asBrought.UnearthedParts.Except(system.UnearthedParts))
            .FirstOrDefault();
        return lost is not null ? $"“{lost}” belongs to a member of this system: correct it there."
            : system.MainsSwitch != asBrought.MainsSwitch ? "Its members' switches decide: correct the member."
            : system.StartUpSeconds < asBrought.StartUpSeconds ? "Its slowest member decides how long it starts: correct the member."
            : null;
    }

    /// <returns>Why a thing is no member of a system on this socket, in a sentence; null where it is one.</returns>
    public static string? Refusal(Item socket, SystemMember member)
    {
        var its = member.Equipment;
        return its.Kind is not (ItemKind.MedicalDevice or ItemKind.Appliance)
                ? $"{member.Tag} is a {EquipmentText.Kind(its.Kind)}: members are devices and appliances."
            : its.IsHardWired ? $"{member.Tag} is hard-wired: it hangs on no multiple socket."
            : its.Phases == 3 ? $"{member.Tag} is on three phases: it hangs on no multiple socket."
            : its.Class == ProtectionClass.Internal ? $"{member.Tag} runs on its own battery: it hangs on no multiple socket."
            : its.Class == ProtectionClass.Undecided ? $"The class of {member.Tag} is not decided: settle it on its own sheet first."
            : !its.IsPatientSideKnown ? $"What touches the patient of {member.Tag} is not known: say it on its own sheet or page first."
            : HasEarth(its) && !HasEarth(socket)
                ? $"{member.Tag} is of class I and this socket has no earth: it needs a socket with earth contacts."
            : null;
    }

    /// <returns>Why this is no system to be tested, in a sentence; null where it is one, and of everything else.</returns>
    public static string? Trouble(Item system)
    {
        if (system.Members.IsEmpty)
            return null;
        var socket = Own(system);
        return system.Members.Select(it => Refusal(socket, it)).FirstOrDefault(why => why is not null);
    }

    /// <summary>As run sheets name them: by name alone where no other member is called so.</summary>
    public static ImmutableArray<string> Labels(ImmutableArray<SystemMember> members) =>
        [
            .. members.Select(it =>
                members.Count(other => string.Equals(other.Name, it.Name, StringComparison.OrdinalIgnoreCase)) == 1
                    ? it.Name
                    : $"{it.Name} {it.Tag}"
            ),
        ];

    private static (HashSet<string> Earthed, HashSet<string> Unearthed, HashSet<string> Applied) Brought(
        ImmutableArray<SystemMember> members
    )
    {
        var labels = Labels(members);
        HashSet<string> Of(Func<Item, IEnumerable<string>> names) =>
            [.. members.Zip(labels).SelectMany(it => names(it.First.Equipment), (it, name) => $"{it.Second}: {name}")];
        return (Of(its => EarthedOf(its)), Of(its => its.UnearthedParts), Of(its => its.AppliedParts.Select(part => part.Name)));
    }

    private static ImmutableArray<string> Joined(
        ImmutableArray<string> own,
        ImmutableArray<SystemMember> members,
        ImmutableArray<string> labels,
        Func<Item, ImmutableArray<string>> names
    ) => [.. own, .. members.Zip(labels).SelectMany(it => names(it.First.Equipment), (it, name) => $"{it.Second}: {name}")];

    /// <summary>Every earthed member is reached somewhere, also one that names no place.</summary>
    private static ImmutableArray<string> EarthedOf(Item its) =>
        its.Class != ProtectionClass.I ? []
        : its.EarthedParts.IsEmpty ? [Metal]
        : its.EarthedParts;

    private static bool HasEarth(Item it) => it.Class is ProtectionClass.I or ProtectionClass.INoAccessibleMetal;

    private static Volts? Of(ImmutableArray<SystemMember> members) =>
        members.Select(it => it.Equipment.RatedVoltage).FirstOrDefault(it => it is not null);

    private static double Power(ImmutableArray<SystemMember> members) => members.Sum(it => it.Equipment.RatedPower?.Value ?? 0);
}
