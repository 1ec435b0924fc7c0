using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using Osierwand.Core;
using Osierwand.Core.Contracts;

namespace Osierwand.Cli;

/// <summary>osierwand assess --csv FILE: a spreadsheet of readings in, its verdicts as CSV out. Lines are read and answered as they
/// come.</summary>
internal static class SheetCommand
{
    public static async Task<int> Run(string file)
    {
        try
        {
            using var text = new StreamReader(file);
            // Spreadsheets of half the world write semicolons.
            using var csv = new CsvReader(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture)
                {
                    DetectDelimiter = true,
                    MissingFieldFound = null,
                    BadDataFound = null,
                }
            );
            if (!await csv.ReadAsync() || !csv.ReadHeader())
                return await Refuse($"{file} is empty; its first line names the columns");
            var names = csv.HeaderRecord!;
            if (Sheet.Header(names) is { } fault)
                return await Refuse($"{file}: {fault.Path} {fault.Message}");
            await using var output = new StreamWriter(Console.OpenStandardOutput());
            await using var answers = new CsvWriter(output, CultureInfo.InvariantCulture);
            foreach (var title in new[] { "line", "tag", "verdict", "reasons", "advice", "missing", "error" })
                answers.WriteField(title);
            await answers.NextRecordAsync();
            var exit = 0;
            foreach (var it in Sheet.Judge(Lines(csv, names)))
            {
                answers.WriteField(it.Line);
                answers.WriteField(it.Tag);
                answers.WriteField(it.Verdict is { } verdict ? Words.Of(verdict) : "");
                answers.WriteField(it.Reasons);
                answers.WriteField(it.Advice);
                answers.WriteField(it.Missing);
                answers.WriteField(it.Fault?.ToString() ?? "");
                await answers.NextRecordAsync();
                if (it.Fault is not null)
                    exit = 2;
            }
            return exit;
        }
        catch (Exception trouble) when (trouble is IOException or UnauthorizedAccessException)
        {
            return await Refuse(trouble.Message);
        }
    }

    private static IEnumerable<SheetLine> Lines(CsvReader csv, string[] names)
    {
        while (csv.Read())
            yield return new(
                csv.Parser.RawRow,
                names.Select((name, at) => (name, Cell: csv.GetField(at) ?? "")).ToDictionary(it => it.name, it => it.Cell)
            );
    }

    private static async Task<int> Refuse(string why)
    {
        await Console.Error.WriteLineAsync($"osierwand: {why}");
        return 2;
    }
}
