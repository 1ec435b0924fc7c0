using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Instruments;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Kit;

/// <summary>The instrument in use, as the Bench shows it.</summary>
/// <param name="Connected">Whether it answers on its line now; without it readings are typed.</param>
/// <param name="Trouble">Why it cannot be used; null when it can.</param>
/// <param name="NullStale">The lead must be nulled before an earth reading counts.</param>
public sealed record InstrumentCard(
    Guid Id,
    string Name,
    string Serial,
    DateOnly CalibrationDue,
    bool CalibrationSoon,
    bool Connected,
    string? Trouble,
    string TestLeadName,
    string? NullText,
    DateTimeOffset? NulledAt,
    bool NullStale
);

/// <summary>The kit: which instrument is at hand, and its lead.</summary>
internal static class KitEndpoints
{
    public static void MapKit(this RouteGroupBuilder api)
    {
        var kit = api.MapGroup("/kit").WithTags("Kit");
        kit.MapGet(
                "/instrument",
                async (OsierwandDb db, InstrumentLine line, TimeProvider time, CancellationToken cancel) =>
                    TypedResults.Ok(await CardAsync(db, line, time, cancel))
            )
            .For(Access.Worker);
        kit.MapPost("/instrument/null", NullTestLead).For(Access.Worker);
    }

    public static async Task<InstrumentCard?> CardAsync(OsierwandDb db, InstrumentLine line, TimeProvider time, CancellationToken cancel)
    {
        if (await db.Instruments.OrderBy(it => it.Name).FirstOrDefaultAsync(cancel) is not { } instrument)
            return null;
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var rules = await HousePacks.RulesAsync(db, cancel);
        var trouble = Calibration.IsOut(instrument.CalibrationDue, today)
            ? $"Calibration ran out on {instrument.CalibrationDue:yyyy-MM-dd}: it cannot be used."
            : null;
        var connected = await line.IdentityAsync(cancel) is not null;
        if (!connected)
            trouble ??= "The instrument does not answer. Check its cable and power; readings can be typed meanwhile.";
        return new(
            instrument.Id,
            instrument.Name,
            instrument.Serial,
            instrument.CalibrationDue,
            Calibration.IsSoon(instrument.CalibrationDue, today, rules),
            connected,
            trouble,
            instrument.TestLeadName,
            NullOf(instrument) is { } taken ? taken.Value.Text() : null,
            instrument.NulledAt,
            NullOf(instrument)?.IsStale(time.GetUtcNow(), rules) ?? true
        );
    }

    /// <summary>The instrument's null, or null while none was taken.</summary>
    public static TestLeadNull? NullOf(Instrument it) =>
        it is { NullOhm: { } ohm, NulledAt: { } at } ? new TestLeadNull(new(ohm), at) : null;

    private static async Task<Results<Ok<InstrumentCard>, ProblemHttpResult>> NullTestLead(
        OsierwandDb db,
        Trail trail,
        InstrumentLine line,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Instruments.OrderBy(it => it.Name).FirstOrDefaultAsync(cancel) is not { } instrument)
            return Refusals.NotFound("instrument");
        await using var turn = await line.TakeTurnAsync("its lead is nulled", cancel);
        if (turn is null)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "The null was not taken.",
                $"The instrument is in use: {line.InUseBy ?? "at another bench"}. Null the lead when it is free."
            );
        await using var conversation = await line.OpenAsync(cancel);
        var lead = new TestLeadNull(await conversation.NullAsync(cancel), time.GetUtcNow());
        if (!lead.IsAccepted(await HousePacks.RulesAsync(db, cancel)))
            return Refusals.Of(
                StatusCodes.Status422UnprocessableEntity,
                "The null was not taken.",
                $"{lead.Value.Text()} is too much for a test lead: look at it, and at the post it is shorted on."
            );
        trail.Add(
            "test lead nulled",
            $"{instrument.Name}, {instrument.TestLeadName}",
            instrument.Id,
            new { instrument.NullOhm },
            new { NullOhm = lead.Value.Value }
        );
        instrument.NullOhm = lead.Value.Value;
        instrument.NulledAt = lead.At;
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok((await CardAsync(db, line, time, cancel))!);
    }

    private static string Text(this Ohms ohms) => QuantityText.Show(ohms);
}
