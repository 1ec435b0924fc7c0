namespace Osierwand.Core.Looking;

/// <summary>What the look came to.</summary>
public enum Look
{
    NotDone,
    Pass,
    Fail,
}
