using Microsoft.EntityFrameworkCore;
using Npgsql;
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

/// <summary>Appends records to a client's book.</summary>
public static class InspectionBook
{
    /// <summary>
    /// Stores the inspection, moves the item and extends the client's chain in one statement: all of it or nothing. The chain is extended by
    /// the database, so that benches saving at once queue for as short as possible.
    /// </summary>
    /// <param name="item">As it should stand afterwards; its revision is the one the bench worked on.</param>
    public static async Task<Appended> AppendAsync(this OsierwandDb db, Inspection it, RegisterItem item, CancellationToken cancel)
    {
        try
        {
            var (outcome, state) = (it.Outcome.ToString(), item.State.ToString());
            var (lastOutcome, because) = (item.LastOutcome?.ToString(), item.Because);
            var rows = await db.Database.ExecuteSqlAsync($"""
                WITH moved AS (
                    UPDATE items SET due = {item.Due}, visual_due = {item.VisualDue}, interval_months = {item.IntervalMonths}, because = {because},
                        last_outcome = {lastOutcome}, last_tested_on = {item.LastTestedOn}, state = {state}, revision = revision + 1
                    WHERE id = {item.Id} AND revision = {item.Revision} RETURNING id
                ), book AS (
                    UPDATE books SET number = number + 1, hash = sha256(hash || convert_to({it.Record}, 'UTF8'))
                    WHERE client_id = {it.ClientId} AND EXISTS (SELECT 1 FROM moved) RETURNING number, hash
                )
                INSERT INTO inspections (id, client_id, item_id, round_id, technician_id, book_number, tested_at, outcome, near_limit, rising, record, taken, sent, hash)
                SELECT {it.Id}, {it.ClientId}, {it.ItemId}, {it.RoundId}, {it.TechnicianId}, book.number, {it.TestedAt}, {outcome},
                    {it.NearLimit}, {it.Rising}, {it.Record}::json, {it.Taken}::json, {it.Sent}, book.hash
                FROM book, moved
                """, cancel);
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
        return stored is null ? null : stored.AsSpan().SequenceEqual(it.Sent) ? Appended.Already : Appended.IdClash;
    }
}
