using System.Diagnostics;
using System.Globalization;
using System.Text;
using Osierwand.Cli;
using Osierwand.Core.Contracts;
using Osierwand.Core.Judging;

// make FILE COUNT: mixed requests, the same for the same count. measure FILE: answering them against merely parsing and writing them, in
// one run.
if (args is ["make", var made, var count])
{
    Requests.Make(made, int.Parse(count, CultureInfo.InvariantCulture));
    return;
}
if (args is not ["measure", var file])
{
    Console.Error.WriteLine("usage: make FILE COUNT | measure FILE");
    Environment.Exit(2);
    return;
}

var bytes = await File.ReadAllBytesAsync(file);
for (var round = 1; round <= 3; round++)
{
    var plain = await Time(
        (request, writer) =>
        {
            request.WriteTo(writer);
            return true;
        }
    );
    // Where the time goes, each stage with all before it; the differences are the stages' own.
    var read = await Time((request, _) => RequestReader.Assess(request).Readings.Length >= 0);
    var judged = await Time((request, _) => Assessment.Of(RequestReader.Assess(request)).Results.Length >= 0);
    var told = await Time(
        (request, _) => Assessment.Of(RequestReader.Assess(request)).Results.Sum(it => it.Working.Sum(line => line.Length)) >= 0
    );
    var answered = await Time((request, writer) => Contract.Answer("assess", request, writer));
    Console.WriteLine(
        string.Create(
            CultureInfo.InvariantCulture,
            $"round {round}: to objects {read.Seconds:0.00} s, judged {judged.Seconds:0.00} s, with working {told.Seconds:0.00} s, written {answered.Seconds:0.00} s"
        )
    );
    Console.WriteLine(
        string.Create(
            CultureInfo.InvariantCulture,
            $"round {round}: parse and write {plain.Seconds:0.00} s ({plain.Megabytes:0} MB out), assess {answered.Seconds:0.00} s ({answered.Megabytes:0} MB out), {answered.Seconds / plain.Seconds:0.0} x; {answered.Seconds / plain.Seconds * plain.Megabytes / answered.Megabytes:0.0} x by what is written"
        )
    );
}

async Task<(double Seconds, double Megabytes)> Time(Pipeline.Answer answer)
{
    var output = new Counting();
    var clock = Stopwatch.StartNew();
    await Pipeline.RunAsync(new MemoryStream(bytes), output, answer);
    return (clock.Elapsed.TotalSeconds, output.Bytes / 1e6);
}

/// <summary>Counts what is written and drops it.</summary>
internal sealed class Counting : MemoryStream
{
    public long Bytes { get; private set; }

    public override ValueTask WriteAsync(ReadOnlyMemory<byte> buffer, CancellationToken cancellationToken = default)
    {
        Bytes += buffer.Length;
        return ValueTask.CompletedTask;
    }
}

/// <summary>Requests of every kind and pack, their values drawn around the limits by a seeded generator.</summary>
internal static class Requests
{
    private static readonly string[] Shapes =
    [
        """"standard":"uk-cop-5","item":{"kind":"appliance","class":"I","use":"portable","heating":true,"ratedPowerW":2200,"plugFuseA":13,"cord":{"lengthM":2,"conductorMm2":1.25}},"visual":"pass","readings":[{"test":"earthContinuity","value":@0.12@,"unit":"ohm","nullOhm":0.03},{"test":"insulation","value":500,"unit":"Mohm","qualifier":">","testVoltageV":500},{"test":"leakage","kind":"protectiveConductor","value":@1.2@,"unit":"mA","mainsVoltageV":236},{"test":"functional","ok":true}]"""",
        """"standard":"uk-cop-5","item":{"kind":"appliance","class":"II","use":"handheld"},"visual":"pass","readings":[{"test":"insulation","value":@4@,"unit":"Mohm"},{"test":"leakage","kind":"touch","value":@0.2@,"unit":"mA"},{"test":"functional","ok":true}]"""",
        """"standard":"uk-cop-5","item":{"kind":"extensionLead","class":"I","plugFuseA":13,"cord":{"lengthM":25,"conductorMm2":1.5}},"visual":"pass","readings":[{"test":"earthContinuity","value":@0.6@,"unit":"ohm","path":"loop"},{"test":"insulation","value":500,"unit":"Mohm","qualifier":">"},{"test":"polarity","ok":true},{"test":"functional","ok":true}]"""",
        """"standard":"uk-cop-5","item":{"kind":"portableRcd","class":"I","rcd":{"ratedResidualMa":30}},"visual":"pass","readings":[{"test":"rcdTrip","multiple":0.5,"phaseDeg":0,"tripped":false},{"test":"rcdTrip","multiple":0.5,"phaseDeg":180,"tripped":false},{"test":"rcdTrip","multiple":1,"phaseDeg":0,"tripped":true,"value":@120@,"unit":"ms"},{"test":"rcdTrip","multiple":1,"phaseDeg":180,"tripped":true,"value":31,"unit":"ms"},{"test":"rcdTrip","multiple":5,"phaseDeg":0,"tripped":true,"value":12,"unit":"ms"},{"test":"rcdTrip","multiple":5,"phaseDeg":180,"tripped":true,"value":@30@,"unit":"ms"},{"test":"functional","ok":true}]"""",
        """"standard":"as-nzs-3760-2022","item":{"kind":"multiwayAdapter","class":"I","surgeProtected":true,"outlets":2,"cord":{"lengthM":2,"conductorMm2":1.25}},"visual":"pass","readings":[{"test":"earthContinuity","value":@0.4@,"unit":"ohm","point":"outlet 1"},{"test":"earthContinuity","value":0.2,"unit":"ohm","point":"outlet 2"},{"test":"insulation","value":@3@,"unit":"Mohm","testVoltageV":250},{"test":"polarity","ok":true,"point":"outlet 1"},{"test":"polarity","ok":true,"point":"outlet 2"},{"test":"functional","ok":true}]"""",
        """"standard":"en-50699-2020","decisionRule":"guarded","item":{"kind":"appliance","class":"I","use":"stationary","heating":true,"ratedPowerW":4200,"cord":{"lengthM":2,"conductorMm2":2.5}},"visual":"pass","readings":[{"test":"earthContinuity","value":@0.1@,"unit":"ohm","accuracy":{"percent":2,"digits":2,"resolution":0.01}},{"test":"insulation","value":@0.5@,"unit":"Mohm"},{"test":"leakage","kind":"protectiveConductor","value":@3.9@,"unit":"mA"},{"test":"functional","ok":true}]"""",
        """"standard":"iec-62353-2014","item":{"kind":"medicalDevice","class":"I","cord":{"lengthM":2.5,"conductorMm2":1.0,"detachable":true},"appliedParts":[{"name":"ECG","type":"CF","connections":10}]},"visual":"pass","readings":[{"test":"earthContinuity","value":@180@,"unit":"mohm"},{"test":"leakage","kind":"equipment","value":@300@,"unit":"uA","mainsVoltageV":225},{"test":"leakage","kind":"equipment","value":188,"unit":"uA","polarity":"reversed","mainsVoltageV":225},{"test":"leakage","kind":"appliedPart","value":@30@,"unit":"uA","appliedPart":"ECG"},{"test":"functional","ok":true}]"""",
        """"standard":"nfpa-99-2012","item":{"kind":"medicalDevice","class":"I","use":"movable"},"visual":"pass","readings":[{"test":"earthContinuity","value":@0.3@,"unit":"ohm"},{"test":"leakage","kind":"touch","value":12,"unit":"uA","power":"off"},{"test":"leakage","kind":"touch","value":@60@,"unit":"uA"},{"test":"leakage","kind":"touch","value":140,"unit":"uA","earth":"open","power":"off"},{"test":"leakage","kind":"touch","value":@300@,"unit":"uA","earth":"open"},{"test":"functional","ok":true}]"""",
    ];

    public static void Make(string file, int count)
    {
        var random = new Random(count);
        using var text = new StreamWriter(file, false, new UTF8Encoding(false));
        for (var i = 0; i < count; i++)
        {
            text.Write(i == 0 ? "[" : ",\n");
            text.Write($"{{\"id\":\"{i}\",\"");
            var parts = Shapes[i % Shapes.Length].Split('@');
            for (var at = 0; at < parts.Length; at++)
                text.Write(
                    at % 2 == 0
                        ? parts[at]
                        : Math.Round(double.Parse(parts[at], CultureInfo.InvariantCulture) * (0.5 + random.NextDouble()), 4)
                            .ToString(CultureInfo.InvariantCulture)
                );
            text.Write('}');
        }
        text.Write("]\n");
    }
}
