using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Server.Hire;
using Osierwand.Server.Hosting;
using Osierwand.Server.Outlets;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>One item on the bench, start to finish: its ruling, the view where no engine runs, and how it ends.</summary>
internal static class BenchEndpoints
{
    public static void MapBench(this RouteGroupBuilder api)
    {
        var bench = api.MapGroup("/bench").WithTags("Bench");
        bench.MapGet("/{itemId:guid}", Lay).For(Access.Worker);
        bench.MapPost("/{itemId:guid}/view", View).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        bench.MapPost("/{itemId:guid}/inspections", Saving.Save).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        bench.MapPost("/{itemId:guid}/discard", Discard).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        bench.MapPost("/loose", LooseItems.Lay).For(Access.Worker);
        bench.MapPost("/{itemId:guid}/tag", LooseItems.WhoseTag).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        bench.MapPost("/{itemId:guid}/name", LooseItems.Name).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        bench.MapPost("/inspections/{inspectionId:guid}/withdraw", Saving.Withdraw).For(Access.Worker);
        bench.MapPost("/{itemId:guid}/hand-over", HandOver.Give).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        bench.MapGet("/handed-over", HandOver.Waiting).For(Access.Worker);
        bench.MapPost("/handed-over/{id:guid}/take", HandOver.Take).For(Access.Worker);
        bench.MapGet("/discarded", FailuresLeft.Discarded).For(Access.Lead);
        bench.MapPost("/discarded/{id:guid}/seen", FailuresLeft.Seen).For(Access.Lead);
        bench.MapGet("/unsaved-failures", FailuresLeft.Unsaved).For(Access.Lead);
        bench.MapPost("/unsaved-failures/{id:guid}/explain", FailuresLeft.Explain).For(Access.Lead);
    }

    private static async Task<Results<Ok<Ruling>, ProblemHttpResult>> Lay(
        Guid itemId,
        Guid round,
        Rulings rulings,
        OsierwandDb db,
        TimeProvider time,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        // Only when it is laid there: what was measured on an item that was issued meanwhile is saved all the same.
        if (await HireEndpoints.WhyNotLaidAsync(db, time, itemId, cancel) is { } why)
            return Refused(new Fault("hire", why));
        var laid = await rulings.LayAsync(itemId, round, user.Worker(), cancel);
        return laid.Fault is { } fault ? Refused(fault) : TypedResults.Ok(laid.Value.Ruling);
    }

    private static async Task<Results<Ok<ViewAnswer>, ProblemHttpResult>> View(
        Guid itemId,
        ViewRequest sent,
        Rulings rulings,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        if (TooMany(sent.Events) is { } many)
            return Refusals.Invalid("The run sheet was not understood.", many);
        var laid = await rulings.LayAsync(itemId, sent.RoundId, user.Worker(), cancel);
        if (laid.Fault is { } fault)
            return Refused(fault);
        var session = new BenchSession(laid.Value.Ruling, sent.Events);
        return TypedResults.Ok(
            new ViewAnswer(
                laid.Value.Ruling.Fingerprint,
                session.View(sent.KnownSheet),
                sent.Trial is { } trial ? session.FaultOf(trial.Step, trial.Text) : null
            )
        );
    }

    /// <summary>Ends a sheet without a record. One that holds a failure is kept whole and marks the item: discarding hides
    /// nothing.</summary>
    private static async Task<Results<Ok<DiscardedAnswer>, ProblemHttpResult>> Discard(
        Guid itemId,
        DiscardSheet sent,
        Rulings rulings,
        OutletBook outlets,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (TooMany(sent.Events) is { } many)
            return Refusals.Invalid("Not discarded.", many);
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > BenchState.LongestText)
            return Refusals.Invalid("Not discarded.", new Fault("reason", "Say in a few words why."));
        if (
            await db
                .DiscardedSheets.AsNoTracking()
                .Where(it => it.Id == sent.Id)
                .Select(it => (bool?)it.HoldsFailure)
                .FirstOrDefaultAsync(cancel) is
            { } already
        )
            return TypedResults.Ok(new DiscardedAnswer(sent.Id, already));
        if (!await OsierwandDb.WithLoose(db.Items).AnyAsync(it => it.Id == itemId, cancel))
            return Refusals.NotFound("item");
        // A sheet whose round was closed or whose item was scrapped meanwhile cannot be judged any more; it is kept all the same.
        var laid = await rulings.LayAsync(itemId, sent.RoundId, user.Worker(), cancel);
        if (laid.TryGet(out var on))
        {
            var state = BenchState.Of(on.Ruling, sent.Events);
            if (state.EndOf(EndKind.Discard) is { IsOpen: false } closed)
                return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not discarded.", closed.Why, []);
            // The sheet says nothing of the item; what was measured of an outlet holds all the same.
            await outlets.KeepAsync(state, on.Item.Site, time.GetUtcNow(), cancel);
        }
        var failures = await HandOver.FailuresAsync(rulings, itemId, sent.RoundId, sent.Events, user, cancel);
        db.DiscardedSheets.Add(
            new()
            {
                Id = sent.Id,
                ItemId = itemId,
                RoundId = sent.RoundId,
                PersonId = user.Id(),
                Person = user.DisplayName(),
                At = time.GetUtcNow(),
                Reason = sent.Reason.Trim(),
                HoldsFailure = failures.Length > 0,
                Failures = failures,
                Events = BenchJson.Write(sent.Events),
            }
        );
        trail.Add("run sheet discarded", sent.Reason.Trim(), itemId, after: new { sent.Id, failures });
        await db.SaveChangesAsync(cancel);
        // Only a sheet that still holds what was handed over ends the hand-over: leaving some of it out hides nothing.
        if (await HandOver.RefusalAsync(db, sent.Events, user.Id(), cancel) is null)
            await HandOver.EndAsync(db, sent.Events, user.Id(), time, cancel);
        return TypedResults.Ok(new DiscardedAnswer(sent.Id, failures.Length > 0));
    }

    internal static Fault? TooMany(IReadOnlyList<BenchEvent> events) =>
        events.Count > BenchState.MostEvents ? new Fault("events", $"More than {BenchState.MostEvents} events.") : null;

    internal static ProblemHttpResult Refused(Fault fault) =>
        fault.Path == "notFound"
            ? Refusals.NotFound("item in this round")
            : Refusals.Of(StatusCodes.Status422UnprocessableEntity, "This item is not laid on the bench.", fault.Message, [fault]);
}
