namespace Osierwand.Core.Equipment;

/// <summary>What kind of place an item is used in.</summary>
public enum Place
{
    Office,
    School,
    Kitchen,
    Workshop,
    Heavy,
    Construction,
    Hire,
    Home,
    Medical,
}
