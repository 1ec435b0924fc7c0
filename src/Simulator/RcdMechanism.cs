namespace Osierwand.Simulator;

/// <summary>
/// What a residual current does to a residual-current device: it gathers with the square of the current, half-wave by half-wave, loses a
/// part of it all the time, and lets go above a threshold; then its contacts take their time to open.
/// </summary>
public static class RcdMechanism
{
    private const double StepSeconds = 0.00025;

    /// <returns>Seconds from the start of the current until the contacts are open; null when they stay closed while it is
    /// watched.</returns>
    /// <param name="residual">R.m.s., in ampere.</param>
    /// <param name="phaseDeg">Where in the wave it begins: 0 with the positive half-wave, 180 with the negative.</param>
    public static double? OpensAfter(RcdBuild it, double residual, int phaseDeg, double hertz, double watchedSeconds)
    {
        var gathered = 0.0;
        var start = phaseDeg * Math.PI / 180;
        for (var t = 0.0; t + it.OpeningSeconds < watchedSeconds; t += StepSeconds)
        {
            var now = Math.Sqrt(2) * residual * Math.Sin(start + 2 * Math.PI * hertz * t) / it.RatedAmperes;
            var share = now / (now >= 0 ? it.PositivePickup : it.NegativePickup);
            gathered += StepSeconds / it.GatherSeconds * (share * share - gathered);
            if (gathered >= 1)
                return t + it.OpeningSeconds;
        }
        return null;
    }
}
