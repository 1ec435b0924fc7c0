using Osierwand.Core.Judging;
using QRCoder;
using SkiaSharp;

namespace Osierwand.Server.Papers;

/// <summary>What stands on a label.</summary>
/// <param name="Next">Null for the school that leaves the next date to the register.</param>
/// <param name="Kind">"visual" where it was looked at only: a look is never labelled as a test. Empty for a test.</param>
public sealed record LabelText(
    string Tag,
    string Name,
    Outcome Outcome,
    DateOnly Tested,
    DateOnly? Next,
    string Initials,
    string Client,
    string Kind
)
{
    /// <summary>What its square code says where it is not the tag: the address of the item's public page.</summary>
    public string? Code { get; init; }
}

/// <summary>
/// Draws a label at its true size, 50 by 25 millimetres. One drawing serves PDF and PNG, so that what is previewed is what is printed.
/// The ring tells the verdict by shape: whole, notched, broken, dotted.
/// </summary>
public static class LabelDrawing
{
    public const float WidthMm = 50;
    public const float HeightMm = 25;
    private const float PointsPerMm = 72 / 25.4f;

    private static readonly SKTypeface Regular = Font("AtkinsonHyperlegibleNext-Regular.ttf");
    private static readonly SKTypeface Bold = Font("AtkinsonHyperlegibleNext-Bold.ttf");

    /// <summary>Many labels at true size on the paper that lies in the printer.</summary>
    /// <param name="used">Places of a first sheet that are empty already.</param>
    public static byte[] Pdf(IReadOnlyList<LabelText> labels, LabelPaper paper, int used = 0)
    {
        using var stream = new MemoryStream();
        using (var document = SKDocument.CreatePdf(stream, new SKDocumentPdfMetadata { Title = "Labels", Producer = "Osierwand" }))
        {
            for (int at = 0, place = used % paper.Places; at < labels.Count; place = 0)
            {
                using var page = document.BeginPage(paper.WidthMm * PointsPerMm, paper.HeightMm * PointsPerMm);
                page.Scale(PointsPerMm);
                for (; at < labels.Count && place < paper.Places; at++, place++)
                {
                    page.Save();
                    page.Translate(
                        paper.LeftMm + place % paper.Columns * paper.LabelWidthMm,
                        paper.TopMm + place / paper.Columns * paper.LabelHeightMm
                    );
                    // One drawing serves every size: all labels are twice as wide as they are high.
                    page.Scale(paper.LabelWidthMm / WidthMm);
                    page.ClipRect(new SKRect(0, 0, WidthMm, HeightMm));
                    Draw(page, labels[at]);
                    page.Restore();
                }
                document.EndPage();
            }
            document.Close();
        }
        return stream.ToArray();
    }

    public static byte[] Pdf(LabelText label)
    {
        using var stream = new MemoryStream();
        using (
            var document = SKDocument.CreatePdf(stream, new SKDocumentPdfMetadata { Title = $"Label {label.Tag}", Producer = "Osierwand" })
        )
        {
            using var page = document.BeginPage(WidthMm * PointsPerMm, HeightMm * PointsPerMm);
            page.Scale(PointsPerMm);
            Draw(page, label);
            document.EndPage();
            document.Close();
        }
        return stream.ToArray();
    }

    /// <param name="dotsPerInch">Of the label printer; 300 is common.</param>
    public static byte[] Png(LabelText label, int dotsPerInch = 300)
    {
        var scale = dotsPerInch / 25.4f;
        using var surface = SKSurface.Create(new SKImageInfo((int)MathF.Round(WidthMm * scale), (int)MathF.Round(HeightMm * scale)));
        surface.Canvas.Clear(SKColors.White);
        surface.Canvas.Scale(scale);
        Draw(surface.Canvas, label);
        using var image = surface.Snapshot();
        using var data = image.Encode(SKEncodedImageFormat.Png, 100);
        return data.ToArray();
    }

    // Millimetres from here on.
    private static void Draw(SKCanvas canvas, LabelText label)
    {
        using var ink = new SKPaint { Color = SKColors.Black, IsAntialias = true };
        var loud = label.Outcome == Outcome.Fail;
        if (loud)
        {
            // A fail label is loud in black and white too: reversed from edge to edge.
            canvas.DrawRect(0, 0, WidthMm, HeightMm, ink);
            ink.Color = SKColors.White;
        }
        Qr(canvas, label.Code ?? label.Tag, 1.5f, 1.5f, 14);
        Text(canvas, label.Tag, 17, 5.2f, 4.2f, Bold, ink, 31.5f);
        Text(canvas, label.Name, 17, 8.6f, 2.6f, Regular, ink, 31.5f);
        Text(canvas, label.Client, 17, 11.8f, 2.2f, Regular, ink, 31.5f);
        Ring(canvas, label.Outcome, 20.2f, 18.7f, 2.9f, ink);
        var word = label.Kind.Length == 0 || loud ? Word(label.Outcome) : $"{label.Kind.ToUpperInvariant()} {Word(label.Outcome)}";
        Text(canvas, word, 25, 18.2f, loud ? 4.6f : 3.4f, Bold, ink, 23.5f);
        Text(
            canvas,
            loud ? "DO NOT USE" : $"{label.Tested:dd MMM yyyy}  {label.Initials}",
            25,
            22.4f,
            loud ? 3 : 2.8f,
            Regular,
            ink,
            23.5f
        );
        if (label.Next is { } next)
        {
            Text(canvas, "next", 1.5f, 19.4f, 2.2f, Regular, ink, 14);
            Text(canvas, $"{next:MMM yyyy}", 1.5f, 22.6f, 3, Bold, ink, 15);
        }
        else if (loud)
        {
            Text(canvas, $"{label.Tested:dd MMM yy}", 1.5f, 19.4f, 2.4f, Regular, ink, 14);
            Text(canvas, label.Initials, 1.5f, 22.6f, 2.4f, Regular, ink, 14);
        }
    }

    /// <summary>A label never leaves a letter out in silence.</summary>
    /// <returns>Which characters of a text the label's font has not, in words; null when it prints all of them.</returns>
    public static string? Lacks(string text)
    {
        using var regular = new SKFont(Regular);
        using var bold = new SKFont(Bold);
        var lacking = text.EnumerateRunes()
            .Where(it => !System.Text.Rune.IsWhiteSpace(it) && (!regular.ContainsGlyph(it.Value) || !bold.ContainsGlyph(it.Value)))
            .Distinct()
            .ToArray();
        return lacking.Length == 0
            ? null
            : $"The label's letters have no {string.Join(", ", lacking.Take(8))}{(lacking.Length > 8 ? " and others" : "")}: empty boxes stand "
                + "for them. The square code carries the whole tag.";
    }

    private static string Word(Outcome outcome) =>
        outcome switch
        {
            Outcome.Pass => "PASS",
            Outcome.PassWithAdvice => "PASS, advice",
            Outcome.Fail => "FAIL",
            _ => "NOT TESTED",
        };

    private static void Ring(SKCanvas canvas, Outcome outcome, float x, float y, float radius, SKPaint ink)
    {
        using var stroke = new SKPaint
        {
            Color = ink.Color,
            Style = SKPaintStyle.Stroke,
            StrokeWidth = 0.9f,
            IsAntialias = true,
        };
        var box = new SKRect(x - radius, y - radius, x + radius, y + radius);
        switch (outcome)
        {
            case Outcome.Pass:
                canvas.DrawOval(box, stroke);
                break;
            case Outcome.PassWithAdvice:
                canvas.DrawArc(box, -55, 290, false, stroke);
                canvas.DrawLine(x - radius * 0.57f, y - radius * 0.82f, x, y - radius * 0.25f, stroke);
                canvas.DrawLine(x + radius * 0.57f, y - radius * 0.82f, x, y - radius * 0.25f, stroke);
                break;
            case Outcome.Fail:
                canvas.DrawArc(box, -80, 100, false, stroke);
                canvas.DrawArc(box, 50, 80, false, stroke);
                canvas.DrawArc(box, 165, 85, false, stroke);
                break;
            default:
                stroke.PathEffect = SKPathEffect.CreateDash([0.9f, 0.9f], 0);
                canvas.DrawOval(box, stroke);
                break;
        }
    }

    /// <summary>The tag as a QR code, dark on a light square with its quiet zone, also on a reversed label.</summary>
    private static void Qr(SKCanvas canvas, string tag, float x, float y, float size)
    {
        using var generator = new QRCodeGenerator();
        using var code = generator.CreateQrCode(tag, QRCodeGenerator.ECCLevel.M, forceUtf8: true);
        var modules = code.ModuleMatrix.Count;
        var module = size / modules;
        using var paper = new SKPaint { Color = SKColors.White };
        using var dark = new SKPaint { Color = SKColors.Black };
        canvas.DrawRect(x, y, size, size, paper);
        for (var row = 0; row < modules; row++)
        {
            // Runs of modules as one rectangle: hairline gaps between modules disturb scanners.
            for (var column = 0; column < modules; column++)
            {
                var start = column;
                while (column < modules && code.ModuleMatrix[row][column])
                    column++;
                if (column > start)
                    canvas.DrawRect(x + start * module, y + row * module, (column - start) * module, module, dark);
            }
        }
    }

    /// <summary>Shrinks to fit; what still does not fit ends in an ellipsis.</summary>
    private static void Text(SKCanvas canvas, string text, float x, float baseline, float size, SKTypeface face, SKPaint ink, float width)
    {
        // At a few millimetres hinting would round every letter's width to whole units.
        using var font = new SKFont(face, size)
        {
            Subpixel = true,
            LinearMetrics = true,
            Hinting = SKFontHinting.None,
        };
        var measured = font.MeasureText(text);
        if (measured > width)
            font.Size = Math.Max(size * 0.7f, size * width / measured);
        var shown = text;
        while (shown.Length > 1 && font.MeasureText(shown) > width)
            shown = shown[..^2].TrimEnd() + "…";
        canvas.DrawText(shown, x, baseline, SKTextAlign.Left, font, ink);
    }

    private static SKTypeface Font(string file)
    {
        using var stream = ShippedFile.Open(file);
        return SKTypeface.FromStream(stream);
    }
}
