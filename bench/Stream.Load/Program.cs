using System.Diagnostics;
using Osierwand.Cli;
using Osierwand.Core.Contracts;

var bytes = File.ReadAllBytes(args[0]);
for (var round = 0; round < 4; round++)
{
    foreach (var (name, answer) in new (string, Pipeline.Answer)[] { ("echo", (r, w) => { r.WriteTo(w); return true; }), ("assess", (r, w) => Contract.Answer("assess", r, w)) })
    {
        var clock = Stopwatch.StartNew();
        var cpu = Process.GetCurrentProcess().TotalProcessorTime;
        var gc = GC.CollectionCount(0); var pause = GC.GetTotalPauseDuration();
        await Pipeline.RunAsync(new MemoryStream(bytes), Stream.Null, answer);
        Console.WriteLine($"jit {System.Runtime.JitInfo.GetCompiledMethodCount()} methods {System.Runtime.JitInfo.GetCompilationTime().TotalSeconds:0.00} s");
        Console.WriteLine($"{name} {clock.Elapsed.TotalSeconds:0.00} s, cpu {(Process.GetCurrentProcess().TotalProcessorTime - cpu).TotalSeconds:0.00}, gc {GC.CollectionCount(0) - gc} {(GC.GetTotalPauseDuration()-pause).TotalMilliseconds:0} ms");
    }
}
