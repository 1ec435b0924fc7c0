using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using Osierwand.Core.Bench;

[assembly: SupportedOSPlatform("browser")]

namespace Osierwand.Engine;

/// <summary>Core's bench for the browser: text in, text out, nothing of its own. Each sheet of each page has a handle.</summary>
public static partial class Exports
{
    /// <summary>More than anybody has tabs open; a sheet takes some hundred kilobytes.</summary>
    private static readonly OpenSheets Sheets = new(32);

    /// <summary>What <see cref="Append"/> answers for a handle that is not held: the page opens it again.</summary>
    private const string Gone = "?";

    /// <summary>A dry run, so that the first real item does not wait for what is loaded once.</summary>
    [JSExport]
    internal static void Warm() => BenchSession.DryRun();

    /// <summary>Opens a sheet with what has happened so far.</summary>
    /// <returns>The view as JSON, or "!" and why it cannot be computed here; the server then answers instead.</returns>
    [JSExport]
    internal static string Open(string handle, string ruling, string events)
    {
        var read = BenchJson.ReadRuling(ruling);
        if (read.Fault is { } unreadable)
            return Refused(unreadable.ToString());
        if (read.Value.Refusal() is { } refusal)
            return Refused(refusal);
        var happened = BenchJson.ReadEvents(events);
        if (happened.Fault is { } fault)
            return Refused(fault.ToString());
        var session = new BenchSession(read.Value, happened.Value);
        Sheets.Open(handle, session);
        return BenchJson.Write(session.View());
    }

    /// <summary>Appends events and gives the view back, without the sheet where the caller has it.</summary>
    [JSExport]
    internal static string Append(string handle, string events, string knownSheet)
    {
        if (Sheets.Find(handle) is not { } session)
            return Gone;
        var happened = BenchJson.ReadEvents(events);
        if (happened.Fault is { } fault)
            return Refused(fault.ToString());
        foreach (var e in happened.Value)
            session.Append(e);
        return BenchJson.Write(session.View(knownSheet));
    }

    /// <returns>Why a typed reading would not be understood; empty when it would, and when the sheet is gone.</returns>
    [JSExport]
    internal static string FaultOf(string handle, string step, string text) => Sheets.Find(handle)?.FaultOf(step, text) ?? "";

    [JSExport]
    internal static void Close(string handle) => Sheets.Close(handle);

    /// <summary>What changed between two rulings of one item, a line each.</summary>
    [JSExport]
    internal static string Differences(string before, string after) =>
        BenchJson.ReadRuling(before) is { Fault: null, Value: var was } && BenchJson.ReadRuling(after) is { Fault: null, Value: var now }
            ? string.Join('\n', Ruling.Differences(was, now))
            : "";

    private static string Refused(string why) => $"!{why}";

    private static void Main() { }
}
