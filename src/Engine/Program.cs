using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using Osierwand.Core.Bench;

[assembly: SupportedOSPlatform("browser")]

namespace Osierwand.Engine;

/// <summary>Core's bench for the browser: text in, text out, nothing of its own. One item at a time, as on the bench itself.</summary>
public static partial class Exports
{
    private static BenchSession? bench;

    /// <summary>A dry run, so that the first real item does not wait for what is loaded once.</summary>
    [JSExport]
    internal static void Warm() => BenchSession.DryRun();

    /// <summary>Lays an item on the bench with what has happened so far.</summary>
    /// <returns>The view as JSON, or "!" and why it cannot be computed here; the server then answers instead.</returns>
    [JSExport]
    internal static string Lay(string ruling, string events)
    {
        var laid = BenchJson.ReadRuling(ruling);
        if (laid.Fault is { } unreadable)
            return Refused(unreadable.ToString());
        if (laid.Value.Refusal() is { } refusal)
            return Refused(refusal);
        var happened = BenchJson.ReadEvents(events);
        if (happened.Fault is { } fault)
            return Refused(fault.ToString());
        bench = new(laid.Value, happened.Value);
        return BenchJson.Write(bench.View());
    }

    /// <summary>Appends events and gives the view back, without the sheet where the caller has it.</summary>
    [JSExport]
    internal static string Append(string events, string knownSheet)
    {
        if (bench is null)
            return Refused("nothing lies on the bench");
        var happened = BenchJson.ReadEvents(events);
        if (happened.Fault is { } fault)
            return Refused(fault.ToString());
        foreach (var it in happened.Value)
            bench.Append(it);
        return BenchJson.Write(bench.View(knownSheet));
    }

    /// <returns>Why a typed reading would not be understood; empty when it would.</returns>
    [JSExport]
    internal static string FaultOf(string step, string text) => bench?.FaultOf(step, text) ?? "";

    /// <summary>What changed between two rulings of one item, a line each.</summary>
    [JSExport]
    internal static string Differences(string before, string after) =>
        BenchJson.ReadRuling(before) is { Fault: null, Value: var was } && BenchJson.ReadRuling(after) is { Fault: null, Value: var now }
            ? string.Join('\n', Ruling.Differences(was, now))
            : "";

    private static string Refused(string why) => $"!{why}";

    private static void Main() { }
}
