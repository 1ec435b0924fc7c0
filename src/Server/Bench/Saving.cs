using System.Security.Claims;
using System.Security.Cryptography;
using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Looking;
using Osierwand.Core.Planning;
using Osierwand.Core.Records;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.Outlets;
using Osierwand.Server.Papers;
using Osierwand.Server.People;
using Osierwand.Server.Quarantine;
using Osierwand.Server.Schedule;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Bench;

/// <summary>Ends a run sheet with a record: everything is computed anew from the server's own ruling, and what differs from the page is
/// refused.</summary>
internal static class Saving
{
    /// <summary>So long a saved fail can be taken back by who saved it.</summary>
    private static readonly TimeSpan WithdrawFor = TimeSpan.FromMinutes(1);

    public static async Task<Results<Ok<SavedInspection>, ProblemHttpResult>> Save(
        Guid itemId,
        SaveInspection sent,
        Rulings rulings,
        Measurements measurements,
        OutletBook outlets,
        Trail trail,
        OsierwandDb db,
        ClaimsPrincipal user,
        TimeProvider time,
        ILogger<InspectionRecord> log,
        CancellationToken cancel
    )
    {
        if (BenchEndpoints.TooMany(sent.Events) is { } many)
            return Refusals.Invalid("Not saved.", many);
        var digest = SHA256.HashData(
            Encoding.UTF8.GetBytes($"{itemId:N} {sent.End} {sent.NotTested} {sent.Remarks} {BenchJson.Write(sent.Events)}")
        );
        var answer = await AppendAsync(itemId, sent, digest, rulings, measurements, outlets, trail, db, user, time, log, cancel);
        // What was sent again after its answer got lost is refused by what its first saving moved; what is stored is told instead. Asked
        // only then: while others wait, no save asks more than it must.
        return answer.Result is Ok<SavedInspection> ? answer : await StoredAsync(db, sent.Id, digest, time, cancel) ?? answer;
    }

    private static async Task<Results<Ok<SavedInspection>, ProblemHttpResult>> AppendAsync(
        Guid itemId,
        SaveInspection sent,
        byte[] digest,
        Rulings rulings,
        Measurements measurements,
        OutletBook outlets,
        Trail trail,
        OsierwandDb db,
        ClaimsPrincipal user,
        TimeProvider time,
        ILogger<InspectionRecord> log,
        CancellationToken cancel
    )
    {
        var laying = await rulings.LayAsync(itemId, sent.RoundId, user.Worker(), cancel);
        if (laying.Fault is { } fault)
            return BenchEndpoints.Refused(fault);
        var laid = laying.Value;
        if (laid.Ruling.Fingerprint != sent.Ruling)
            return Conflict(
                "Not saved: the rules or the item changed meanwhile.",
                "What you entered is kept. It is judged anew by what holds now; look at it and save again.",
                "ruling"
            );
        var unproved = await measurements.UnprovedAsync(sent.Events, itemId, user.Id(), cancel);
        if (unproved.Length > 0)
            return Unproven(unproved);
        if (await HandOver.RefusalAsync(db, sent.Events, user.Id(), cancel) is { } foreign)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not saved.", foreign.Message, [foreign]);

        if (await LooseItems.RefusalAsync(db, itemId, sent.Events, cancel) is { } unnamed)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not saved.", unnamed.Message, [unnamed]);

        if (await ForeignPhotoAsync(db, itemId, sent.Events, cancel) is { } photo)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not saved.", photo.Message, [photo]);

        var state = BenchState.Of(laid.Ruling, sent.Events);
        if (state.Fingerprint != sent.State)
            return Conflict(
                "Not saved: the server judges this sheet otherwise than the screen showed.",
                "What you entered is kept. Load the page again, look at it and save again.",
                "state"
            );
        var now = time.GetUtcNow();
        var written = RecordWriter.Write(
            state,
            sent.Events,
            new(sent.End, sent.NotTested, sent.Remarks),
            sent.Id,
            now,
            laid.Item.Site.Zone,
            laid.Round.StartsOn
        );
        if (written.Fault is { } refused)
            return Refusals.Of(StatusCodes.Status422UnprocessableEntity, "Not saved.", refused.Message, [refused]);

        var (record, before) = (written.Value, ItemStanding.Of(laid.Item));
        var item = WithFacts(laid.Item, state.Ruling);
        var appended = await db.AppendAsync(
            Row(record, laid, user.Id(), before, digest),
            item,
            ItemDates.After(before, laid.Item.State, state, record),
            Changes(laid.Ruling, state, sent.Events, user, now),
            trail.Entry("inspection saved", record.Item.Tag, after: new { record.Outcome, Item = itemId }),
            UnsavedFailure.SettledBy(laid.Ruling, record.Outcome, record.IsTest),
            cancel
        );
        if (appended == Appended.Saved)
        {
            Journal.Saved(log, record.Outcome, null);
            Telemetry.Saved.Add(1, new KeyValuePair<string, object?>("outcome", record.Outcome.ToString()));
        }
        if (appended is Appended.Saved or Appended.Already)
        {
            await outlets.KeepAsync(state, laid.Item.Site, now, cancel);
            await HandOver.EndAsync(db, sent.Events, user.Id(), time, cancel);
            await Holds.KeepRepairAsync(db, laid.Ruling.Item, state, sent.Events, trail, user, now, cancel);
        }
        return appended switch
        {
            Appended.IdClash => Conflict(
                "Not saved: another inspection has this number.",
                "What you entered is kept; it gets a number of its own when you save again.",
                "id"
            ),
            Appended.ItemMoved => Conflict(
                "Not saved: this item was inspected or changed at another bench meanwhile.",
                "What you entered is kept. Look at the item's page; if yours should stand too, it is judged anew and you save again.",
                "ruling"
            ),
            Appended.Already => (await StoredAsync(db, sent.Id, digest, time, cancel))!,
            _ => TypedResults.Ok(Card(record, laid.Item.Id, laid.Client.LabelSchool, now, already: false)),
        };
    }

    /// <summary>Takes a fail back within a minute, by a correcting record: both stay, and the item stands as it stood before.</summary>
    public static async Task<Results<Ok<SavedInspection>, ProblemHttpResult>> Withdraw(
        Guid inspectionId,
        WithdrawInspection sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > BenchState.LongestText)
            return Refusals.Invalid("Not taken back.", new Fault("reason", "Say in a few words why."));
        var row = await db
            .Inspections.AsNoTracking()
            .Include(it => it.Item.Client)
            .Include(it => it.Item.Site)
            .FirstOrDefaultAsync(it => it.Id == inspectionId, cancel);
        if (row is null || row.TechnicianId != user.Id())
            return Refusals.NotFound("inspection of yours");
        var digest = SHA256.HashData(Encoding.UTF8.GetBytes($"withdraw {inspectionId:N} {sent.Reason}"));
        if (await StoredAsync(db, sent.Id, digest, time, cancel) is { } already)
            return already;
        var now = time.GetUtcNow();
        if (row.Outcome != Outcome.Fail || row.Corrects is not null)
            return Refusals.Of(StatusCodes.Status409Conflict, "Not taken back.", "Only a fail is taken back here.");
        if (now - row.ReceivedAt > WithdrawFor || row.Item.Revision != row.Revision)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not taken back.",
                "The minute is over, or the item has moved on. A lead corrects it on the item's page."
            );
        if (InspectionRecord.Read(row.Record) is not { Fault: null, Value: var taken })
            return Refusals.Of(StatusCodes.Status409Conflict, "Not taken back.", "The record cannot be read.");

        var record = RecordWriter.Withdrawal(taken, sent.Id, sent.Reason.Trim(), user.Worker(), now);
        var standing = await Holds.ByActsAsync(db, row.Item, ItemStanding.Read(row.Before), cancel);
        var entry = trail.Entry("inspection taken back", row.Item.Tag, after: new { Record = row.Id, Reason = sent.Reason.Trim() });
        var correction = Correction(row, record, user.Id(), digest, now);
        return await db.AppendAsync(correction, row.Item, standing, NoChange(row.ItemId, now), entry, [], cancel) == Appended.Saved
            ? TypedResults.Ok(Card(record, row.ItemId, row.Item.Client.LabelSchool, now, already: false))
            : Refusals.Of(
                StatusCodes.Status409Conflict,
                "Not taken back.",
                "The item moved on meanwhile. A lead corrects it on the item's page."
            );
    }

    /// <summary>The row of a record that takes another one back.</summary>
    internal static Inspection Correction(Inspection of, InspectionRecord record, Guid person, byte[] digest, DateTimeOffset now) =>
        new()
        {
            Id = record.Id,
            ClientId = of.ClientId,
            ItemId = of.ItemId,
            RoundId = of.RoundId,
            TechnicianId = person,
            Corrects = of.Id,
            TestedAt = of.TestedAt,
            ReceivedAt = now,
            Day = of.Day,
            Outcome = Outcome.Withdrawn,
            Record = record.ToJson(),
            Taken = "[]",
            Before = ItemStanding.Of(of.Item).ToJson(),
            Sent = digest,
            Hash = [],
        };

    /// <summary>A record names no photo but those that are kept of its item.</summary>
    private static async Task<Fault?> ForeignPhotoAsync(
        OsierwandDb db,
        Guid itemId,
        IReadOnlyList<BenchEvent> events,
        CancellationToken cancel
    )
    {
        var named = events.OfType<PhotoTaken>().Select(it => it.Photo).Distinct().ToArray();
        if (named.Length == 0 || await db.Photos.CountAsync(it => it.ItemId == itemId && named.Contains(it.Id), cancel) == named.Length)
            return null;
        return new Fault("events", "A photo on this sheet is not kept with this item. Take it back with a reason, and take it again.");
    }

    private static Inspection Row(InspectionRecord record, Laid laid, Guid person, ItemStanding before, byte[] digest) =>
        new()
        {
            Id = record.Id,
            ClientId = laid.Client.Id,
            ItemId = laid.Item.Id,
            RoundId = laid.Round.Id,
            TechnicianId = person,
            TestedAt = record.Times.TakenTo > record.Times.ReceivedAt ? record.Times.ReceivedAt : record.Times.TakenTo.ToUniversalTime(),
            ReceivedAt = record.Times.ReceivedAt,
            Day = record.Times.Date,
            Outcome = record.Outcome,
            IsTest = record.IsTest,
            NearLimit = record.NearLimit,
            Rising = record.Rising,
            Record = record.ToJson(),
            Taken = BenchJson.Write(record.Taken),
            Before = before.ToJson(),
            Sent = digest,
            Hash = [],
        };

    private static RegisterItem WithFacts(RegisterItem item, Ruling ruling)
    {
        var facts = ruling.Item;
        (item.Name, item.Maker, item.Model, item.Serial, item.Room) = (facts.Name, facts.Maker, facts.Model, facts.Serial, facts.Room);
        (item.Evidence, item.Equipment, item.Place) = (facts.Evidence, facts.Equipment, ruling.Basis.Place);
        return item;
    }

    private static ItemChange Changes(
        Ruling before,
        BenchState after,
        IReadOnlyList<BenchEvent> events,
        ClaimsPrincipal user,
        DateTimeOffset now
    )
    {
        var reasons = events.OfType<FactsChanged>().Select(it => it.Reason.Trim()).Distinct();
        return new()
        {
            Id = Guid.CreateVersion7(),
            ItemId = before.Item.Id,
            At = now,
            By = user.DisplayName(),
            Reason = string.Join("; ", reasons),
            Lines = [.. FactLines.Between(before.Item, before.Basis, after.Ruling.Item, after.Ruling.Basis)],
        };
    }

    internal static ItemChange NoChange(Guid itemId, DateTimeOffset now) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            ItemId = itemId,
            At = now,
            By = "",
            Reason = "",
        };

    private static async Task<Results<Ok<SavedInspection>, ProblemHttpResult>?> StoredAsync(
        OsierwandDb db,
        Guid id,
        byte[] digest,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var stored = await db.Inspections.AsNoTracking().Include(it => it.Item.Client).FirstOrDefaultAsync(it => it.Id == id, cancel);
        if (stored is null)
            return null;
        if (!stored.Sent.AsSpan().SequenceEqual(digest))
            return Conflict(
                "Not saved: another inspection has this number.",
                "What you entered is kept; it gets a number of its own when you save again.",
                "id"
            );
        return TypedResults.Ok(
            Card(InspectionRecord.Read(stored.Record).Value, stored.ItemId, stored.Item.Client.LabelSchool, time.GetUtcNow(), already: true)
        );
    }

    private static SavedInspection Card(InspectionRecord it, Guid itemId, LabelSchool school, DateTimeOffset now, bool already)
    {
        var until = it.Times.ReceivedAt + WithdrawFor;
        return new(
            it.Id,
            itemId,
            it.Item.Tag,
            it.Item.Name,
            it.Outcome,
            it.OutcomeText,
            it.IsTest,
            it.Times.TakenTo,
            it.Next,
            it.Reasons,
            it.Advice,
            school,
            it.Label is not null,
            it.Label is { } label ? LabelDrawing.Lacks($"{label.Tag} {label.Name} {label.Client} {label.Initials}") : null,
            it.Outcome == Outcome.Fail && now < until ? until : null,
            already
        );
    }

    /// <param name="what">What to do about it: "ruling" and "state" are laid anew, "id" gets another number.</param>
    private static ProblemHttpResult Conflict(string title, string detail, string what) =>
        TypedResults.Problem(
            statusCode: StatusCodes.Status409Conflict,
            title: title,
            detail: detail,
            extensions: new Dictionary<string, object?> { ["conflict"] = what }
        );

    private static ProblemHttpResult Unproven(Guid[] readings) =>
        TypedResults.Problem(
            statusCode: StatusCodes.Status409Conflict,
            title: "Not saved: the server does not know every reading as its instrument's.",
            detail: "They are kept, and count as typed from now on. Look at the sheet and save again.",
            extensions: new Dictionary<string, object?> { ["conflict"] = "unproved", ["readings"] = readings }
        );

    private static class Journal
    {
        public static readonly Action<ILogger, Outcome, Exception?> Saved = LoggerMessage.Define<Outcome>(
            LogLevel.Information,
            new EventId(1, "InspectionSaved"),
            "An inspection was saved: {Outcome}"
        );
    }
}
