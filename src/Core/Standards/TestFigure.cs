using Osierwand.Core.Quantities;

namespace Osierwand.Core.Standards;

/// <summary>What is read of a test, and the word by which instruments, makers and records name it.</summary>
public static class TestFigure
{
    /// <summary>What its figure is an amount of; null where good or bad is answered.</summary>
    public static Dimension? DimensionOf(Test test) =>
        test switch
        {
            Test.EarthContinuity or Test.Insulation or Test.PadPath => Dimension.Resistance,
            Test.Leakage => Dimension.Current,
            Test.RcdTrip or Test.DefibCharge or Test.DefibSync => Dimension.Time,
            Test.DefibEnergy => Dimension.Energy,
            Test.EcgAmplitude => Dimension.Voltage,
            _ => null,
        };

    /// <summary>The contract's word for the test, of leakage with its kind: "leakage/equipment".</summary>
    public static string WordOf(Conditions under) =>
        under is Conditions.Leakage leakage ? $"{Words.Of(leakage.Test)}/{Words.Of(leakage.Kind)}" : Words.Of(under.Test);
}
