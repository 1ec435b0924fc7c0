using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core.Contracts;
using Osierwand.Core.Forms;
using Osierwand.Core.Judging;
using Osierwand.Core.Records;
using Osierwand.Store.Entities;

namespace Osierwand.Store;

/// <summary>How an attempt to append a record ended.</summary>
public enum Appended
{
    Saved,

    /// <summary>The same inspection had been stored already.</summary>
    Already,

    /// <summary>Another inspection has this id.</summary>
    IdClash,

    /// <summary>The item was inspected meanwhile; nothing was stored.</summary>
    ItemMoved,
}

/// <summary>How an item stands between two inspections.</summary>
public sealed record ItemStanding(
    string State,
    DateOnly? Due,
    DateOnly? VisualDue,
    double? IntervalMonths,
    string[] Because,
    string? LastOutcome,
    DateOnly? LastTestedOn,
    DateOnly? LastLookedOn,
    string? ReferenceValues = null,
    string? LockLeft = null,
    HeldFor? Held = null,
    DateOnly? CrossesOn = null,
    string? Crossing = null
)
{
    public static ItemStanding Of(RegisterItem it) =>
        new(
            it.State.ToString(),
            it.Due,
            it.VisualDue,
            it.IntervalMonths,
            it.Because,
            it.LastOutcome?.ToString(),
            it.LastTestedOn,
            it.LastLookedOn,
            it.ReferenceValues,
            it.LockLeft,
            HeldFor.Of(it),
            it.CrossesOn,
            it.Crossing
        );

    public string ToJson() => JsonSerializer.Serialize(this);

    public static ItemStanding Read(string json) => JsonSerializer.Deserialize<ItemStanding>(json)!;
}

/// <summary>Why an item is out of use, in its row and in what the book keeps of how it stands.</summary>
/// <param name="By">Word of <see cref="HeldBy"/>; the stage alike.</param>
public sealed record HeldFor(Guid Cause, string By, string Why, DateTimeOffset Since, string From, string Stage)
{
    public static HeldFor? Of(RegisterItem it) =>
        it.HeldCause is { } cause && it.HeldSince is { } since
            ? new(cause, $"{it.HeldBy}", it.HeldWhy ?? "", since, it.HeldFrom ?? "", $"{it.Stage}")
            : null;
}

/// <summary>Appends records to a client's book.</summary>
public static class InspectionBook
{
    /// <summary>
    /// Stores the inspection, moves the item and extends the client's chain in one statement: all of it or nothing. The chain is extended
    /// by
    /// the database, so that benches saving at once queue for as short as possible.
    /// </summary>
    /// <param name="item">As it is known after the inspection; its revision is the one the bench worked on.</param>
    /// <param name="standing">As it stands afterwards.</param>
    /// <param name="changes">Facts that were corrected on the bench; empty lines where none were.</param>
    /// <param name="audit">Who did it, from where.</param>
    /// <param name="settles">Failures that were measured and that this record holds.</param>
    public static async Task<Appended> AppendAsync(
        this OsierwandDb db,
        Inspection it,
        RegisterItem item,
        ItemStanding standing,
        ItemChange changes,
        AuditEntry audit,
        Guid[] settles,
        CancellationToken cancel
    )
    {
        try
        {
            (it.Revision, it.After, it.Chain) = (item.Revision + 1, standing.ToJson(), RecordChain.Form);
            var (columns, outcome, equipment) = (it.Columns().ToString(), it.Outcome.ToString(), ItemJson.Write(item.Equipment));
            var held = standing.Held;
            var (place, evidence) = (item.Place.ToString(), item.Evidence.ToString());
            var rows = await db.Database.ExecuteSqlAsync(
                $"""
                WITH moved AS (
                    UPDATE items SET due = {standing.Due}, visual_due = {standing.VisualDue}, interval_months = {standing.IntervalMonths}, because = {standing.Because},
                        last_outcome = {standing.LastOutcome}, last_tested_on = {standing.LastTestedOn}, last_looked_on = {standing.LastLookedOn}, state = {standing.State},
                        reference_values = {standing.ReferenceValues}::json, lock_left = {standing.LockLeft},
                        crosses_on = {standing.CrossesOn}, crossing = {standing.Crossing}::json,
                        held_cause = {held?.Cause}, held_by = {held?.By}, held_why = {held?.Why},
                        held_since = {held?.Since}, held_from = {held?.From}, stage = {held?.Stage},
                        name = {item.Name}, maker = {item.Maker}, model = {item.Model}, serial = {item.Serial}, room = {item.Room}, place = {place},
                        evidence = {evidence}, equipment = {equipment}::jsonb, revision = revision + 1
                    WHERE id = {item.Id} AND revision = {item.Revision} RETURNING id
                ), changed AS (
                    INSERT INTO item_changes (id, item_id, at, by, reason, lines)
                    SELECT {changes.Id}, moved.id, {changes.At}, {changes.By}, {changes.Reason}, {changes.Lines} FROM moved WHERE cardinality({changes.Lines}) > 0
                ), audited AS (
                    INSERT INTO audit_entries (at, person_id, person, what, subject, subject_id, session_id, address, after)
                    SELECT {audit.At}, {audit.PersonId}, {audit.Person}, {audit.What}, {audit.Subject}, {it.Id}, {audit.SessionId}, {audit.Address}, {audit.After}::json
                    FROM moved
                ), settled AS (
                    INSERT INTO settled_failures (id, failure_id, record_id, person, at)
                    SELECT gen_random_uuid(), failure, {it.Id}, {audit.Person}, {audit.At} FROM moved, unnest({settles}) AS failure
                ), book AS (
                    UPDATE books SET number = number + 1, hash = sha256(hash || convert_to(concat_ws(chr(10), (number + 1)::text, {columns}, {it.Record}, {it.Taken},
                        {it.Before}, {it.After}), 'UTF8'))
                    WHERE client_id = {it.ClientId} AND EXISTS (SELECT 1 FROM moved) RETURNING number, hash
                )
                INSERT INTO inspections (id, client_id, item_id, round_id, technician_id, corrects, book_number, tested_at, received_at, day, outcome, is_test, near_limit,
                    rising, record, taken, before, after, revision, sent, chain, hash)
                SELECT {it.Id}, {it.ClientId}, {it.ItemId}, {it.RoundId}, {it.TechnicianId}, {it.Corrects}, book.number, {it.TestedAt}, {it.ReceivedAt}, {it.Day}, {outcome},
                    {it.IsTest}, {it.NearLimit}, {it.Rising}, {it.Record}::json, {it.Taken}::json,
                    {it.Before}::json, {it.After}::json, {it.Revision}, {it.Sent},
                    {it.Chain}, book.hash
                FROM book, moved
                """,
                cancel
            );
            return rows > 0 ? Appended.Saved : await Repeated(db, it, cancel) ?? Appended.ItemMoved;
        }
        catch (PostgresException clash) when (clash.SqlState == PostgresErrorCodes.UniqueViolation)
        {
            return await Repeated(db, it, cancel) ?? Appended.IdClash;
        }
    }

    private static async Task<Appended?> Repeated(OsierwandDb db, Inspection it, CancellationToken cancel)
    {
        var stored = await db.Inspections.Where(other => other.Id == it.Id).Select(other => other.Sent).FirstOrDefaultAsync(cancel);
        return stored is null ? null
            : stored.AsSpan().SequenceEqual(it.Sent) ? Appended.Already
            : Appended.IdClash;
    }

    /// <summary>What the chain covers beside the texts.</summary>
    public static RecordColumns Columns(this Inspection it) =>
        new(
            it.Id,
            it.ClientId,
            it.ItemId,
            it.RoundId,
            it.TechnicianId,
            it.Corrects,
            it.TestedAt,
            it.ReceivedAt,
            it.Day,
            it.Outcome.ToString(),
            it.IsTest,
            it.NearLimit,
            it.Rising,
            it.Revision,
            it.Sent
        );

    /// <summary>As the chain walks through it.</summary>
    public static KeptRecord Kept(this Inspection it) =>
        new(
            it.BookNumber,
            it.Chain,
            it.Columns(),
            Encoding.UTF8.GetBytes(it.Record),
            Encoding.UTF8.GetBytes(it.Taken),
            Encoding.UTF8.GetBytes(it.Before),
            Encoding.UTF8.GetBytes(it.After ?? ""),
            it.Hash
        );

    /// <summary>Inspections that stand and settle their item in their round. What a search for a fault found settles nothing.</summary>
    public static IQueryable<Inspection> Settling(this OsierwandDb db) => db.Standing().Where(record => record.Outcome != Outcome.Findings);

    /// <summary>Inspections that stand: neither taken back nor the record that took one back.</summary>
    public static IQueryable<Inspection> Standing(this OsierwandDb db) =>
        db.Inspections.Where(it => it.Corrects == null && !db.Inspections.Any(later => later.Corrects == it.Id));
}
