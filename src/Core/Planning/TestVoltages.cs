using Osierwand.Core.Equipment;
using Osierwand.Core.Quantities;

namespace Osierwand.Core.Planning;

/// <summary>Insulation test voltages: 500 V d.c., and 250 V where a suppressor or extra-low voltage would be hurt or mimic a
/// fault.</summary>
public static class TestVoltages
{
    public static readonly Volts Usual = new(500);
    public static readonly Volts Gentle = new(250);

    public static Volts For(Item item) => item.SurgeProtected || item.Class == ProtectionClass.III ? Gentle : Usual;
}
