using System.Collections.Immutable;
using System.Text.RegularExpressions;
using CsCheck;
using Osierwand.Core.Standards;
using Shouldly;

namespace Osierwand.Core.Tests;

/// <summary>An American round reads American: whole words, capitals kept, longer phrases first.</summary>
public class DialectTests
{
    private static readonly Dialect American = PackLibrary.Find("nfpa-99-2012")!.Dialect;

    private static readonly ImmutableDictionary<string, string> Own = ImmutableDictionary<string, string>
        .Empty.Add("earth", "ground")
        .Add("mains lead", "power cord")
        .Add("lead", "cord")
        .Add("mains", "line");

    [Theory]
    [InlineData("Earth first, then the mains lead.", "Ground first, then the power cord.")]
    [InlineData("mains leads", "line leads")]
    [InlineData("earthed, unearthed; earth", "earthed, unearthed; ground")]
    [InlineData("Mains Lead", "Power cord")]
    [InlineData("lead_earth", "lead_earth")]
    [InlineData("lead", "cord")]
    [InlineData("(lead)", "(cord)")]
    [InlineData("", "")]
    [InlineData("nothing of it", "nothing of it")]
    [InlineData("the lead: “lead cut near the mains plug”, earth", "the cord: “lead cut near the mains plug”, ground")]
    [InlineData("“lead” lead “lead", "“lead” cord “cord")]
    public void Whole_words_are_said_in_their_place(string ours, string theirs) => new Dialect(Own).Say(ours).ShouldBe(theirs);

    [Fact]
    public void It_says_what_one_pattern_over_all_words_would_say()
    {
        var pattern = new Regex(
            $@"\b({string.Join('|', Own.Keys.OrderByDescending(word => word.Length).Select(Regex.Escape))})\b",
            RegexOptions.IgnoreCase | RegexOptions.CultureInvariant
        );
        string Replaced(Match match)
        {
            var theirs = Own[match.Value.ToLowerInvariant()];
            return char.IsUpper(match.Value[0]) ? char.ToUpperInvariant(theirs[0]) + theirs[1..] : theirs;
        }
        string[] pieces = ["earth", "Earth", "mains", "lead", "leads", "mains lead", " ", " ", "-", "_", ".", "ed", "1", "µ", "É"];
        Gen.Int[0, pieces.Length - 1]
            .Array[0, 12]
            .Select(at => string.Concat(at.Select(n => pieces[n])))
            .Sample(sentence => new Dialect(Own).Say(sentence).ShouldBe(pattern.Replace(sentence, Replaced), sentence), iter: 5000);
    }

    [Fact]
    public void Without_words_a_sentence_is_as_it_is_written() =>
        Dialect.Plain.Say("Earth the mains lead").ShouldBe("Earth the mains lead");

    [Fact]
    public void The_american_pack_speaks_of_ground() => American.Say("Earth open").ShouldBe("Ground open");
}
