using Osierwand.Core.Quantities;
using Shouldly;

namespace Osierwand.Core.Tests;

public class ReadingEntryTests
{
    [Theory]
    [InlineData("0.08", "ohm", 0.08)]
    [InlineData("80m", "ohm", 0.08)]
    [InlineData(" 80 mΩ", "ohm", 0.08)]
    [InlineData(">299M", "Mohm", 299e6)]
    [InlineData("12u", "mA", 12e-6)]
    [InlineData("0.31mA", "uA", 0.31e-3)]
    [InlineData("12µA", "mA", 12e-6)]
    [InlineData("0,08", "ohm", 0.08)]
    [InlineData("-0.01", "ohm", -0.01)]
    [InlineData("1.2G", "Mohm", 1.2e9)]
    public void Units_signs_and_prefixes_are_understood(string typed, string usual, double si) =>
        ReadingEntry.Parse(typed, Unit.Find(usual)!).Value.Quantity.Si.ShouldBe(si, Math.Abs(si) * 1e-12);

    [Theory]
    [InlineData("", "Nothing was entered")]
    [InlineData("0.08 furlong", "furlong")]
    [InlineData("3 V", "not a unit of this test")]
    [InlineData("1,500", "1.500 or 1500")] // could be either
    [InlineData("OL", "not a reading")]
    [InlineData("0.08.1", "not a")]
    [InlineData("1111111111111111111111111111111111111111111", "too many")]
    public void What_is_not_understood_says_what_would_be(string typed, string why)
    {
        var fault = ReadingEntry.Parse(typed, Unit.Ohm).Fault.ShouldNotBeNull();
        fault.Message.ShouldContain(why);
        fault.Message.ShouldContain("Try ");
    }

    [Theory]
    [InlineData(0.1312, "0.131 Ω")]
    [InlineData(412e6, "412 MΩ")]
    [InlineData(0.25e6, "0.25 MΩ")]
    [InlineData(1e9, "1 GΩ")]
    public void Resistances_are_shown_as_the_trade_says_them(double ohms, string shown) =>
        QuantityText.Show(new Ohms(ohms)).ShouldBe(shown);
}
