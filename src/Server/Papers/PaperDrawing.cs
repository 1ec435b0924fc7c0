using System.Globalization;
using Microsoft.AspNetCore.Components;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;

namespace Osierwand.Server.Papers;

public enum PaperTone
{
    Pass,
    Advice,
    Fail,
    Open,
}

/// <summary>Rings and rails in print: the same shapes as on the screen, legible in grey. Made of numbers alone.</summary>
public static class PaperDrawing
{
    private const double RailLength = 130;
    private const double Base = 17;

    /// <summary>The verdict's ring: whole, notched, broken, dotted.</summary>
    public static MarkupString Ring(Outcome outcome, int size)
    {
        var (word, tone, shape) = outcome switch
        {
            Outcome.Pass => ("pass", "pass", """<circle cx="16" cy="16" r="11"/>"""),
            Outcome.PassWithAdvice => (
                "pass with advice",
                "advice",
                $"""<path d="{Arc(38, 322)} L 16 15 L {Point(38)}" stroke-linejoin="round"/>"""
            ),
            Outcome.Fail => (
                "fail",
                "fail",
                $"""<path d="{Arc(10, 95)}" transform="translate(1.6 -1.2)"/><path d="{Arc(125, 215)}" """
                    + $"""transform="translate(.6 1.8)"/><path d="{Arc(245, 335)}" transform="translate(-1.8 -.6)"/>"""
            ),
            Outcome.Findings => ("findings", "open", $"""<path d="{Arc(30, 330)}"/><circle cx="16" cy="16" r="1.6"/>"""),
            Outcome.Withdrawn => ("taken back", "open", $"""<path d="{Arc(200, 520)} M 9 16 H 23"/>"""),
            _ => ("not tested", "open", """<circle cx="16" cy="16" r="11" stroke-dasharray="3.2 3.7" stroke-width="2.6"/>"""),
        };
        return new(
            $"""<svg class="ring {tone}" viewBox="0 0 32 32" width="{size}" height="{size}" role="img" aria-label="{word}">{shape}</svg>"""
        );
    }

    private static string Post(double at) => $"""<path class="post" d="M{Number(at)} {Number(Base + 4)} V4 M{Number(at - 3.5)} 4 h7"/>""";

    /// <summary>What an instrument drew, in ink on a line of nothing: made of numbers alone.</summary>
    public static MarkupString Curve(Waveform it)
    {
        const double Width = 200;
        const double Height = 64;
        var (low, high) = (Math.Min(0, it.Values.Min()), Math.Max(0, it.Values.Max()));
        var span = high > low ? high - low : 1;
        double Y(double value) => Height - (value - low) / span * Height;
        var points = string.Join(" ", it.Values.Select((value, n) => $"{Number(n * Width / (it.Values.Count - 1))},{Number(Y(value))}"));
        return new(
            $"<svg class=\"curve\" viewBox=\"-2 -3 {Number(Width + 4)} {Number(Height + 6)}\" width=\"204\" height=\"70\" role=\"img\" "
                + $"aria-label=\"a curve\"><path class=\"line\" d=\"M0 {Number(Y(0))} H{Number(Width)}\"/>"
                + $"<polyline points=\"{points}\" fill=\"none\"/></svg>"
        );
    }

    /// <summary>Its ends in words, for whoever reads the figures.</summary>
    public static string Said(Waveform it) =>
        $"{char.ToUpperInvariant(it.Of[0])}{it.Of[1..]}: {Round(it.Values.Min())} to {Round(it.Values.Max())} {it.Unit} "
        + $"over {Round(it.Every * (it.Values.Count - 1))} {it.EveryUnit}.";

    private static string Round(double value) => value.ToString("0.##", CultureInfo.InvariantCulture);

    /// <summary>The reading rail: the allowed side hatched, the limit a post, the value a rod standing before or behind it.</summary>
    public static MarkupString Rail(PaperRail rail, PaperTone tone)
    {
        var (post, rod) = (X(rail.Limit), X(rail.Value));
        var lower = rail.Lower is { } share ? X(share) : (double?)null;
        var (from, to) = rail.IsFloor ? (post, RailLength) : (lower ?? 0, post);
        var hatch = string.Concat(
            Enumerable
                .Range(0, (int)((to - from) / 6) + 1)
                .Select(n => from + n * 6)
                .Where(x => x + 4 <= to)
                .Select(x => $"""<path class="hatch" d="M{Number(x)} {Number(Base - 1)} l4 -6"/>""")
        );
        var stubs = string.Concat(rail.Earlier.Select(share => $"""<path class="stub" d="M{Number(X(share))} {Number(Base - 2)} v-7"/>"""));
        var head = rail.BoundTowards switch
        {
            > 0 => $"""<path d="M{Number(rod + 3)} 2 l5 3.5 l-5 3.5" stroke-width="2"/>""",
            < 0 => $"""<path d="M{Number(rod - 3)} 2 l-5 3.5 l5 3.5" stroke-width="2"/>""",
            _ => "",
        };
        var word = tone switch
        {
            PaperTone.Fail => "beyond the limit",
            PaperTone.Open => "undecided",
            _ => "within the limit",
        };
        return new(
            $"""<svg class="rails" viewBox="-4 0 138 23" width="138" height="23" role="img" aria-label="{word}">{hatch}"""
                + $"""<path class="line" d="M0 {Number(Base)} H{Number(RailLength)}"/>{stubs}"""
                + Post(post)
                + (lower is { } low ? Post(low) : "")
                + $"""<g class="{tone.ToString().ToLowerInvariant()}" fill="none">"""
                + $"""<path d="M{Number(rod)} {Number(Base - 2)} V5" stroke-width="4"/>{head}</g></svg>"""
        );
    }

    private static double X(double share) => Math.Clamp(share, 0.02, 0.98) * RailLength;

    private static string Number(double value) => value.ToString("0.#", CultureInfo.InvariantCulture);

    private static string Point(double degrees)
    {
        var angle = (degrees - 90) * Math.PI / 180;
        return $"{Number(16 + 11 * Math.Cos(angle))} {Number(16 + 11 * Math.Sin(angle))}";
    }

    private static string Arc(double from, double to) => $"M {Point(from)} A 11 11 0 {(to - from > 180 ? 1 : 0)} 1 {Point(to)}";
}
