using System.Security.Claims;
using System.Security.Cryptography;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Judging;
using Osierwand.Core.Kit;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>One item on the bench, start to finish: its run sheet, the judgement of what was read, and the save.</summary>
internal static class BenchEndpoints
{
    private const int LongestRemark = 2000;

    public static void MapBench(this RouteGroupBuilder api)
    {
        var bench = api.MapGroup("/bench/{itemId:guid}").WithTags("Bench");
        bench.MapGet("/", Sheet);
        bench.MapPost("/judge", Judge);
        bench.MapPost("/inspections", Save);
    }

    private static async Task<Results<Ok<BenchSheet>, ProblemHttpResult>> Sheet(
        Guid itemId, Guid round, Word<Scope>? scope, Word<School>? school, Sheets sheets, ClaimsPrincipal user, CancellationToken cancel) =>
        await sheets.FindAsync(itemId, round, cancel) is { } bench
            ? TypedResults.Ok(await sheets.SheetAsync(bench, scope?.Value ?? bench.UsualScope, school?.Value ?? School.ApplianceTester, user.IsInRole(Person.Lead), cancel))
            : Refusals.NotFound("item in this round");

    private static async Task<Results<Ok<JudgedWork>, ProblemHttpResult>> Judge(Guid itemId, BenchWork sent, Sheets sheets, ClaimsPrincipal user, CancellationToken cancel)
    {
        if (await sheets.FindAsync(itemId, sent.RoundId, cancel) is not { } bench) return Refusals.NotFound("item in this round");
        var work = Work.Read(bench, sheets, sent, Technician.Of(user));
        return work.Fault is { } fault ? Refusals.Invalid("The run sheet was not understood.", fault) : TypedResults.Ok(work.Value.ToContract());
    }

    private static async Task<Results<Ok<SavedInspection>, ProblemHttpResult>> Save(
        Guid itemId, SaveInspection sent, Sheets sheets, OsierwandDb db, ClaimsPrincipal user, TimeProvider time, ILogger<InspectionRecord> log, CancellationToken cancel)
    {
        if (await sheets.FindAsync(itemId, sent.Work.RoundId, cancel) is not { } bench) return Refusals.NotFound("item in this round");
        if (sent.Remarks?.Length > LongestRemark) return Refusals.Invalid("Not saved.", new Core.Fault("remarks", $"The remark is longer than {LongestRemark} characters."));
        var read = Work.Read(bench, sheets, sent.Work, Technician.Of(user));
        if (read.Fault is { } fault) return Refusals.Invalid("Not saved: the run sheet was not understood.", fault);
        var work = read.Value;
        if (work.Faults.Any()) return Refusals.Invalid("Not saved: a reading was not understood.", [.. work.Faults]);
        if (sent.NotTested is null && work.Outcome is null)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not saved: the run sheet is incomplete.",
                "Still open: " + string.Join("; ", work.ToContract().Missing) + ". Measure it, or save as not tested with a reason.");

        var outcome = sent.NotTested is null ? work.Outcome!.Value : Outcome.NotTested;
        var rising = sheets.IsRising(bench, work.Assessment);
        var next = outcome is Outcome.Pass or Outcome.PassWithAdvice ? sheets.NextOf(bench, work.Assessment, rising) : null;
        var now = time.GetUtcNow();
        var record = new InspectionRecord
        {
            Id = sent.Id,
            Tag = bench.Item.Tag,
            ItemName = bench.Item.Name,
            Facts = work.Facts,
            Assessment = work.Assessment,
            Outcome = outcome,
            Look = work.LookFindings,
            Readings = work.Readings,
            TestedAt = now,
            Technician = Technician.Of(user).Name,
            Round = bench.Round.Name,
            Instrument = await InstrumentText(db, work, cancel),
            NotTested = sent.NotTested,
            Remarks = sent.Remarks,
            Next = next,
            Evaluated = sent.NotTested is null && work.Evaluation is { } proposal ? new(proposal, sent.Evaluation) : null,
        };
        var inspection = new Inspection
        {
            Id = sent.Id,
            ClientId = bench.Client.Id,
            ItemId = itemId,
            RoundId = bench.Round.Id,
            TechnicianId = user.Id(),
            TestedAt = now,
            Outcome = outcome,
            NearLimit = work.Assessment.Results.Any(it => it.NearLimit),
            Rising = rising,
            Record = record.ToJson(),
            Taken = record.TakenJson(),
            Sent = SHA256.HashData(JsonSerializer.SerializeToUtf8Bytes(sent)),
            Hash = [],
        };
        NextDates.Move(bench.Item, outcome, next, DateOnly.FromDateTime(time.GetLocalNow().DateTime));
        bench.Item.Revision = sent.Revision;
        var appended = await db.AppendAsync(inspection, bench.Item, cancel);
        if (appended == Appended.Saved) Journal.Saved(log, outcome, null);
        return appended switch
        {
            Appended.IdClash => Refusals.Of(StatusCodes.Status409Conflict, "Not saved: another inspection has this number.", "Your entries are kept on this screen; save again."),
            Appended.ItemMoved => Refusals.Of(StatusCodes.Status409Conflict, "Not saved: this item was inspected at another bench meanwhile.",
                "Your entries are kept on this screen. Look at the item's page; if yours should stand too, open it again and save."),
            Appended.Already => TypedResults.Ok(await StoredAsync(db, sent.Id, bench.Client, cancel)),
            _ => TypedResults.Ok(new SavedInspection(sent.Id, itemId, bench.Item.Tag, bench.Item.Name, outcome, now, next is null ? null : Work.Card(next), bench.Client.LabelSchool, false)),
        };
    }

    private static async Task<SavedInspection> StoredAsync(OsierwandDb db, Guid id, Client client, CancellationToken cancel)
    {
        var stored = await db.Inspections.AsNoTracking().Include(it => it.Item).FirstAsync(it => it.Id == id, cancel);
        return new(id, stored.ItemId, stored.Item.Tag, stored.Item.Name, stored.Outcome, stored.TestedAt, null, client.LabelSchool, true);
    }

    private static async Task<string?> InstrumentText(OsierwandDb db, Work work, CancellationToken cancel)
    {
        if (work.Readings.All(it => it.Source != ReadingSource.Instrument)) return null;
        return await db.Instruments.OrderBy(it => it.Name).FirstOrDefaultAsync(cancel) is { } it
            ? $"{it.Name}, serial {it.Serial}, calibrated to {it.CalibrationDue:yyyy-MM-dd}, {it.LeadName}" : null;
    }

    private static class Journal
    {
        public static readonly Action<ILogger, Outcome, Exception?> Saved =
            LoggerMessage.Define<Outcome>(LogLevel.Information, new EventId(1, "InspectionSaved"), "An inspection was saved: {Outcome}");
    }
}
