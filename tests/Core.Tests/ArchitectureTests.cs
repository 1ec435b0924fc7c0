using System.Reflection;
using System.Reflection.Metadata;
using System.Reflection.PortableExecutable;
using Osierwand.Core.Standards;
using Osierwand.Instruments;
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
        Core.GetReferencedAssemblies().Select(it => it.Name!).Where(name => name != "MathNet.Numerics" && !name.StartsWith("System.", StringComparison.Ordinal)).ShouldBeEmpty();

    [Fact]
    public void Core_reads_no_file_opens_no_socket_and_has_no_clock()
    {
        var used = Uses(Core).ToHashSet();
        used.ShouldContain("System.Text.Json.JsonDocument.Parse", "the reference table is not being read");
        used.Where(member => Forbidden.Any(start => member.StartsWith(start, StringComparison.Ordinal))).ShouldBeEmpty();
    }

    private static readonly string[] Forbidden =
    [
        "System.IO.File", "System.IO.Directory", "System.IO.Path", "System.Net.", "System.Console", "System.Environment.Get", "System.Environment.get_Var", "System.Environment.Exit", "System.Environment.get_Tick", "System.Diagnostics.Process", "System.Threading.Thread",
        "System.DateTime.get_Now", "System.DateTime.get_UtcNow", "System.DateTime.get_Today", "System.DateTimeOffset.get_Now", "System.DateTimeOffset.get_UtcNow", "System.TimeProvider", "System.Random",
    ];

    [Fact]
    public void Every_arrow_points_inward()
    {
        Ours(Core).ShouldBeEmpty();
        Ours(typeof(IInstrument).Assembly).ShouldBe(["Osierwand.Core"]);
        Ours(typeof(OsierwandDb).Assembly).ShouldBe(["Osierwand.Core"]);
        Ours(typeof(Program).Assembly).ShouldBe(["Osierwand.Core", "Osierwand.Instruments", "Osierwand.Store"]);
    }

    private static IEnumerable<string> Ours(Assembly assembly) =>
        assembly.GetReferencedAssemblies().Select(it => it.Name!).Where(name => name.StartsWith("Osierwand.", StringComparison.Ordinal)).Order();

    /// <summary>Every member of another assembly that this one calls or names, as Namespace.Type.Member.</summary>
    private static IEnumerable<string> Uses(Assembly assembly)
    {
        using var file = new PEReader(File.OpenRead(assembly.Location));
        var metadata = file.GetMetadataReader();
        foreach (var handle in metadata.MemberReferences)
        {
            var member = metadata.GetMemberReference(handle);
            if (member.Parent.Kind != HandleKind.TypeReference) continue;
            var type = metadata.GetTypeReference((TypeReferenceHandle)member.Parent);
            yield return $"{metadata.GetString(type.Namespace)}.{metadata.GetString(type.Name)}.{metadata.GetString(member.Name)}";
        }
    }
}
