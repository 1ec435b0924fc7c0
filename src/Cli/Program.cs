using Osierwand.Core.Contracts;

namespace Osierwand.Cli;

/// <summary>osierwand VERB: reads a JSON array of requests on standard input, writes a JSON array of answers in the same order.</summary>
internal static class Program
{
    private const int NotUnderstood = 2;

    private static async Task<int> Main(string[] args)
    {
        if (args is ["assess", "--csv", var file])
            return await SheetCommand.Run(file);
        if (args is ["verify-chain", ..])
            return await VerifyCommand.RunAsync(args[1..]);
        if (args is not [var verb] || !Contract.Verbs.Contains(verb))
        {
            await Console.Error.WriteLineAsync(
                $"usage: osierwand {string.Join('|', Contract.Verbs)} < requests.json > answers.json\n       osierwand assess --csv READINGS.csv > VERDICTS.csv\n       osierwand {VerifyCommand.Usage}\n       osierwand backup|restore FILE [--data DIR]"
            );
            return NotUnderstood;
        }
        await using var output = Console.OpenStandardOutput();
        await using var input = Console.OpenStandardInput();
        return await Pipeline.RunAsync(input, output, (request, writer) => Contract.Answer(verb, request, writer));
    }
}
