namespace Osierwand.Server.Papers;

/// <summary>What lies in the printer. Every label is twice as wide as it is high.</summary>
public enum LabelMedium
{
    Roll40,
    Roll50,
    Roll70,
    Sheet44,
    Sheet24,
}

/// <summary>A page of labels, in millimetres; on a roll each label is a page.</summary>
public sealed record LabelPaper(LabelMedium Medium, string Name, float WidthMm, float HeightMm, int Columns, int Rows, float LabelWidthMm)
{
    public static readonly LabelPaper[] All =
    [
        Roll(LabelMedium.Roll50, 50),
        Roll(LabelMedium.Roll40, 40),
        Roll(LabelMedium.Roll70, 70),
        Sheet(LabelMedium.Sheet44, 4, 11, 50),
        Sheet(LabelMedium.Sheet24, 3, 8, 68),
    ];

    public static LabelPaper Of(LabelMedium medium) => Array.Find(All, it => it.Medium == medium)!;

    public float LabelHeightMm => LabelWidthMm / 2;

    /// <summary>Labels stand in the middle of the sheet.</summary>
    public float LeftMm => (WidthMm - Columns * LabelWidthMm) / 2;
    public float TopMm => (HeightMm - Rows * LabelHeightMm) / 2;
    public int Places => Columns * Rows;

    private static LabelPaper Roll(LabelMedium medium, float width) =>
        new(medium, $"Roll, {width:0} × {width / 2:0} mm", width, width / 2, 1, 1, width);

    private static LabelPaper Sheet(LabelMedium medium, int columns, int rows, float width) =>
        new(medium, $"A4 sheet, {columns * rows} of {width:0} × {width / 2:0} mm", 210, 297, columns, rows, width);
}
