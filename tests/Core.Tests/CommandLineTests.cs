using System.Diagnostics;
using System.Text;
using System.Text.Json;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>The command line as a script would use it: arrays in, arrays out, and an exit code that can be trusted.</summary>
public class CommandLineTests
{
    private const string Good = """{"id":"good","standard":"uk-cop-5","testDate":"2026-03-31"}""";

    [Fact]
    public async Task Answers_stand_in_the_order_of_the_requests()
    {
        var (exit, answers) = await Run(
            "interval",
            "[" + string.Join(",", Enumerable.Range(0, 500).Select(n => Good.Replace("good", $"r{n}"))) + "]"
        );
        exit.ShouldBe(0);
        answers
            .EnumerateArray()
            .Select(answer => answer.GetProperty("id").GetString())
            .ShouldBe(Enumerable.Range(0, 500).Select(n => $"r{n}"));
    }

    [Fact]
    public async Task One_bad_request_is_said_and_the_others_are_answered()
    {
        var (exit, answers) = await Run("interval", $$"""[{{Good}},{"id":"bad","standard":"uk-cop-5","testDate":"31 March"},7,{{Good}}]""");
        exit.ShouldBe(2);
        answers.GetArrayLength().ShouldBe(4);
        answers[1].GetProperty("error").GetProperty("path").GetString().ShouldBe("testDate");
        answers[2].GetProperty("id").ValueKind.ShouldBe(JsonValueKind.Null);
        answers[3].GetProperty("due").GetString().ShouldNotBeNull();
    }

    [Theory]
    [InlineData("""{"id":"not in an array"}""")]
    [InlineData("")]
    [InlineData("[1,2")]
    public async Task Input_that_is_no_array_still_gives_an_array(string input)
    {
        var (exit, answers) = await Run("assess", input);
        exit.ShouldBe(2);
        answers[answers.GetArrayLength() - 1].GetProperty("error").GetProperty("message").GetString()!.ShouldContain("not a JSON array");
    }

    [Fact]
    public async Task An_unknown_verb_is_told_what_there_is() => (await Run("guess", "[]", parse: false)).Exit.ShouldBe(2);

    private static async Task<(int Exit, JsonElement Answers)> Run(string verb, string input, bool parse = true)
    {
        var command = new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "Osierwand.Cli.dll"), verb])
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
            StandardInputEncoding = new UTF8Encoding(false),
        };
        using var process = Process.Start(command)!;
        var output = process.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await process.StandardInput.WriteAsync(input);
        process.StandardInput.Close();
        await process.WaitForExitAsync(TestContext.Current.CancellationToken);
        return (process.ExitCode, parse ? JsonDocument.Parse(await output).RootElement : default);
    }
}
