using Osierwand.Core.Bench;

namespace Osierwand.Core.Review;

/// <summary>What may become of a record that is wrong: a lead takes it back by another one, once.</summary>
public static class RecordCorrection
{
    /// <param name="takesBack">It takes another record back.</param>
    /// <param name="item">How the item stands now.</param>
    /// <returns>Why it is not taken back, or null.</returns>
    public static string? Refusal(bool takesBack, bool isTakenBack, ItemState item, bool isLead) =>
        takesBack ? "It takes another record back; it is not taken back itself."
        : isTakenBack ? "It was taken back already."
        : item == ItemState.Scrapped ? "The item is scrapped: what led there stays as it is."
        : isLead ? null
        : "A lead takes a record back.";
}
