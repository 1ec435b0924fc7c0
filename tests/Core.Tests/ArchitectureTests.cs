using System.Reflection;
using System.Reflection.Emit;
using System.Reflection.Metadata;
using System.Reflection.PortableExecutable;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
using Osierwand.Server.Hosting;
using Osierwand.Store;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>
/// Arrows point inward; Core computes and does nothing else. Read from the compiled assemblies' own reference tables, where nothing
/// that is used can hide.
/// </summary>
public class ArchitectureTests
{
    private static readonly Assembly Core = typeof(RulePack).Assembly;

    [Fact]
    public void Core_references_the_runtime_and_its_numerics_and_nothing_else() =>
        Core.GetReferencedAssemblies()
            .Select(it => it.Name!)
            .Where(name => name != "MathNet.Numerics" && !name.StartsWith("System.", StringComparison.Ordinal))
            .ShouldBeEmpty();

    [Fact]
    public void Core_reads_no_file_opens_no_socket_and_has_no_clock()
    {
        var used = Uses(Core).ToHashSet();
        used.ShouldContain("System.Text.Json.JsonDocument.Parse", "the reference table is not being read");
        used.Where(member => Forbidden.Any(start => member.StartsWith(start, StringComparison.Ordinal))).ShouldBeEmpty();
    }

    private static readonly string[] Forbidden =
    [
        "System.IO.File",
        "System.IO.Directory",
        "System.IO.Path",
        "System.Net.",
        "System.Console",
        "System.Environment.Get",
        "System.Environment.get_Var",
        "System.Environment.Exit",
        "System.Environment.get_Tick",
        "System.Diagnostics.Process",
        "System.Threading.Thread",
        "System.DateTime.get_Now",
        "System.DateTime.get_UtcNow",
        "System.DateTime.get_Today",
        "System.DateTimeOffset.get_Now",
        "System.DateTimeOffset.get_UtcNow",
        "System.TimeProvider",
        "System.Random",
    ];

    [Fact]
    public void Every_arrow_points_inward()
    {
        Ours(Core).ShouldBeEmpty();
        Ours(typeof(IInstrument).Assembly).ShouldBe(["Osierwand.Core"]);
        Ours(typeof(OsierwandDb).Assembly).ShouldBe(["Osierwand.Core"]);
        Ours(typeof(OsierwandServer).Assembly).ShouldBe(["Osierwand.Core", "Osierwand.Instruments", "Osierwand.Store"]);
    }

    /// <summary>The rooms of Core in the order of the work. Installation stands beside them and is used by Contracts alone.</summary>
    private static readonly string[] Rooms =
    [
        "Json",
        "Quantities",
        "Equipment",
        "Standards",
        "Kit",
        "Competences",
        "Cords",
        "Isolation",
        "Outlets",
        "Planning",
        "Procedures",
        "Looking",
        "Judging",
        "Installation",
        "Intervals",
        "Diagnosis",
        "Forms",
        "Bench",
        "Quarantine",
        "Hire",
        "Rounds",
        "Schedule",
        "Records",
        "Review",
        "Papers",
        "Contracts",
    ];

    [Fact]
    public void Core_has_no_room_that_the_order_does_not_name() =>
        Core.GetTypes().Select(RoomOf).OfType<string>().Distinct().Order().ShouldBe(Rooms.Order());

    /// <summary>Read from what the compiler made: base types, members, parameters, and every call, field and type in a body.</summary>
    [Fact]
    public void A_room_of_Core_knows_only_the_rooms_before_it()
    {
        var backward = Core.GetTypes()
            .SelectMany(type => KnownTo(type).Select(known => (From: RoomOf(type), To: RoomOf(known), Type: type.Name, Known: known.Name)))
            .Where(arrow => arrow.From is not null && arrow.To is not null && arrow.From != arrow.To)
            .ToList();
        backward.Count.ShouldBeGreaterThan(200, "the arrows are not being read");
        backward
            .Where(arrow => Array.IndexOf(Rooms, arrow.From) < Array.IndexOf(Rooms, arrow.To))
            .Select(arrow => $"{arrow.From}.{arrow.Type} knows {arrow.To}.{arrow.Known}")
            .Distinct()
            .ShouldBeEmpty();
    }

    private static string? RoomOf(Type type) => type.Namespace?.Split('.') is ["Osierwand", "Core", var room, ..] ? room : null;

    private const BindingFlags Every =
        BindingFlags.Public | BindingFlags.NonPublic | BindingFlags.Static | BindingFlags.Instance | BindingFlags.DeclaredOnly;

    private static IEnumerable<Type> KnownTo(Type type) =>
        type.GetInterfaces()
            .Append(type.BaseType)
            .Concat(type.GetFields(Every).Select(field => field.FieldType))
            .Concat(type.GetProperties(Every).Select(property => property.PropertyType))
            .Concat(type.GetMethods(Every).Cast<MethodBase>().Concat(type.GetConstructors(Every)).SelectMany(InMethod))
            .OfType<Type>()
            .SelectMany(Parts)
            .Where(known => known.Assembly == Core);

    private static IEnumerable<Type?> InMethod(MethodBase method) =>
        method
            .GetParameters()
            .Select(parameter => parameter.ParameterType)
            .Append((method as MethodInfo)?.ReturnType)
            .Concat(method.GetMethodBody()?.LocalVariables.Select(local => local.LocalType) ?? [])
            .Concat(Called(method));

    /// <summary>The types whose members a body calls, reads or names, its instructions walked one by one.</summary>
    private static IEnumerable<Type?> Called(MethodBase method)
    {
        var body = method.GetMethodBody()?.GetILAsByteArray() ?? [];
        var ofType = method.DeclaringType is { IsGenericType: true } generic ? generic.GetGenericArguments() : null;
        var ofMethod = method.IsGenericMethod ? method.GetGenericArguments() : null;
        for (var at = 0; at < body.Length; at++)
        {
            var code = Opcodes.GetValueOrDefault(body[at] == 0xFE ? (0xFE00 | body[at + 1]) : body[at]);
            at += body[at] == 0xFE ? 1 : 0;
            if (code.OperandType is OperandType.InlineMethod or OperandType.InlineField or OperandType.InlineType or OperandType.InlineTok)
            {
                var member = method.Module.ResolveMember(BitConverter.ToInt32(body, at + 1), ofType, ofMethod)!;
                yield return member as Type ?? member.DeclaringType;
                if (member is MethodInfo { IsGenericMethod: true } called)
                    foreach (var argument in called.GetGenericArguments())
                        yield return argument;
            }
            at += code.OperandType switch
            {
                OperandType.InlineNone => 0,
                OperandType.ShortInlineBrTarget or OperandType.ShortInlineI or OperandType.ShortInlineVar => 1,
                OperandType.InlineVar => 2,
                OperandType.InlineI8 or OperandType.InlineR => 8,
                OperandType.InlineSwitch => 4 + (4 * BitConverter.ToInt32(body, at + 1)),
                _ => 4,
            };
        }
    }

    private static readonly Dictionary<int, OpCode> Opcodes = typeof(OpCodes)
        .GetFields(BindingFlags.Public | BindingFlags.Static)
        .Select(field => (OpCode)field.GetValue(null)!)
        .ToDictionary(code => code.Value & 0xFFFF);

    private static IEnumerable<Type> Parts(Type type) =>
        type.HasElementType ? Parts(type.GetElementType()!)
        : type.IsGenericType ? type.GetGenericArguments().SelectMany(Parts).Append(type)
        : [type];

    private static IEnumerable<string> Ours(Assembly assembly) =>
        assembly
            .GetReferencedAssemblies()
            .Select(it => it.Name!)
            .Where(name => name.StartsWith("Osierwand.", StringComparison.Ordinal))
            .Order();

    /// <summary>Every member of another assembly that this one calls or names, as Namespace.Type.Member.</summary>
    private static IEnumerable<string> Uses(Assembly assembly)
    {
        using var file = new PEReader(File.OpenRead(assembly.Location));
        var metadata = file.GetMetadataReader();
        foreach (var handle in metadata.MemberReferences)
        {
            var member = metadata.GetMemberReference(handle);
            if (member.Parent.Kind != HandleKind.TypeReference)
                continue;
            var type = metadata.GetTypeReference((TypeReferenceHandle)member.Parent);
            yield return $"{metadata.GetString(type.Namespace)}.{metadata.GetString(type.Name)}.{metadata.GetString(member.Name)}";
        }
    }
}
