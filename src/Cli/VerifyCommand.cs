using System.Diagnostics;
using System.Globalization;
using System.Security.Cryptography;
using Npgsql;
using Osierwand.Core.Records;
using Osierwand.Store;

namespace Osierwand.Cli;

/// <summary>osierwand verify-chain: reads every record of the house's books, or of one that was taken away as a file, and says where the
/// first break is. Exit 0: whole; 1: broken; 2: could not be read.</summary>
internal static class VerifyCommand
{
    public const string Usage = "verify-chain [--client CODE] [--data DIR] | verify-chain --file BOOK.jsonl --key KEY.pem";
    private const int Whole = 0;
    private const int Broken = 1;
    private const int Unread = 2;

    /// <summary>Set by the script around this program, from the data folder.</summary>
    private const string ConnectionVariable = "OSIERWAND_CONNECTION";
    private const string KeysVariable = "OSIERWAND_KEYS";

    public static async Task<int> RunAsync(string[] args)
    {
        try
        {
            return args switch
            {
                ["--file", var file, "--key", var key] => CheckFile(file, key),
                [] => await CheckDatabaseAsync(null),
                ["--client", var client] => await CheckDatabaseAsync(client),
                _ => Say(Unread, $"usage: osierwand {Usage}"),
            };
        }
        catch (Exception trouble)
            when (trouble
                    is IOException
                        or UnauthorizedAccessException
                        or NpgsqlException
                        or ArgumentException
                        or FormatException
                        or CryptographicException
            )
        {
            return Say(Unread, $"osierwand: {trouble.Message}");
        }
    }

    private static int CheckFile(string file, string keyFile)
    {
        using var key = ECDsa.Create();
        key.ImportFromPem(File.ReadAllText(keyFile));
        var found = BookFile.Check(File.ReadLines(file), key);
        if (found.Fault is { } fault)
            return Say(Broken, $"broken: {fault.Path}: {fault.Message}");
        Console.WriteLine($"whole: {Text(found.Value)} records under a head signed with the key {BookHead.KeyId(key)}");
        return Whole;
    }

    private static async Task<int> CheckDatabaseAsync(string? client)
    {
        var connection = Environment.GetEnvironmentVariable(ConnectionVariable);
        if (string.IsNullOrEmpty(connection))
            return Say(Unread, $"osierwand: run ./osierwand verify-chain, which knows the database, or set {ConnectionVariable}");
        var outside = KeptOutside.Read(Environment.GetEnvironmentVariable(KeysVariable));
        await using var source = NpgsqlDataSource.Create(connection);
        var started = Stopwatch.GetTimestamp();
        var found = await BookCheck.RunAsync(source, client, outside, CancellationToken.None);
        var seconds = Stopwatch.GetElapsedTime(started).TotalSeconds;
        if (client is not null && found.Books == 0)
            return Say(Unread, $"osierwand: there is no client {client}");
        foreach (var it in found.Breaks)
            Console.WriteLine($"broken: {it}");
        if (outside.Keys is null)
            await Console.Error.WriteLineAsync("osierwand: no public key is at hand, so signatures were not checked");
        var pace = seconds > 0 ? found.Records / seconds * 60 : 0;
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{(found.Breaks.Count == 0 ? "whole" : "broken")}: {found.Books} books, {found.Records} records in {seconds:0.0} s, {pace:0} a minute"
            )
        );
        return found.Breaks.Count == 0 ? Whole : Broken;
    }

    private static int Say(int exit, string what)
    {
        Console.Error.WriteLine(what);
        return exit;
    }

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);
}
