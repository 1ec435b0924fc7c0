using System.Text.RegularExpressions;
using Osierwand.Core.Bench;
using Shouldly;
using static Osierwand.Core.Tests.Bench.OnTheBench;

namespace Osierwand.Core.Tests;

/// <summary>What would pass and cannot be is refused where it is entered, with the unit that was probably meant; what fails stays a
/// fail.</summary>
public class BeyondTheWorldTests
{
    [Theory]
    [InlineData("20000000", "20000000 MΩ cannot be: nothing insulates better than 10000 GΩ. 20000000 kΩ was probably meant.")]
    [InlineData(">20000G", ">20000 GΩ cannot be: nothing insulates better than 10000 GΩ. >20000 MΩ was probably meant.")]
    [InlineData("10000G", null)]
    [InlineData(">999G", null)]
    public void Insulation_beyond_ten_teraohm_is_refused_at_the_bench(string typed, string? why)
    {
        var bench = With(Kettle).LookGood();
        bench.Type("insulation", typed);
        var reading = new BenchSession(bench.Ruling, bench.Events).View().Now.Readings.Single();
        reading.Fault.ShouldBe(why);
        bench.Stands("insulation").ShouldBe(why is null ? Standing.Pass : Standing.Open);
    }

    [Fact]
    public void Failing_figures_are_kept_however_large_and_ask_for_their_unit()
    {
        var bench = With(Kettle).LookGood();
        bench.Type(bench.State.Sheet.Steps.First(step => step.Key.StartsWith("leakage")).Key, "2000");
        bench.State.HasFailed.ShouldBeTrue();
        bench.State.Assessment.Advice.ShouldContain(line => line.EndsWith("is over 100 times its limit: unit?"));
        var view = new BenchSession(bench.Ruling, bench.Events).View();
        view.Now.Readings.Single().Margin.ShouldBe("over 10 times the limit");
        view.Now.Readings.Single().Working[^1].ShouldEndWith("fail, over 10 times the limit");
    }

    [Theory]
    [InlineData("OL", true)]
    [InlineData("o.l.", true)]
    [InlineData("bad", true)]
    [InlineData(">500", true)]
    [InlineData("failed", true)]
    [InlineData("open", true)]
    [InlineData("no", true)]
    [InlineData("normal", false)]
    [InlineData("0.9", false)]
    [InlineData("reopened", false)]
    public void What_a_display_shows_of_an_open_circuit_proposes_bad(string typed, bool isBad) =>
        Regex.IsMatch(typed, PhrasesOnOffer.Of(RulingFor(Kettle)).SaysBad, RegexOptions.IgnoreCase).ShouldBe(isBad);
}
