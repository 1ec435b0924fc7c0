using System.Security.Claims;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <summary>Labels that nobody has printed yet, of what was inspected last; and what may lie in the printer.</summary>
/// <param name="More">There are more than are listed.</param>
/// <param name="Expired">Clients whose labels name a next date, with how many of them are over.</param>
/// <param name="Reasons">On offer for printing once more.</param>
public sealed record LabelsPage(
    IReadOnlyList<LabelCard> Waiting,
    bool More,
    IReadOnlyList<LabelCard> Printed,
    IReadOnlyList<MediumCard> Media,
    IReadOnlyList<ExpiredLabels> Expired,
    IReadOnlyList<string> Reasons
);

/// <param name="PrintedBy">Null while nobody has.</param>
public sealed record LabelCard(
    Guid InspectionId,
    string Tag,
    string Name,
    string Client,
    string Round,
    Guid RoundId,
    Outcome Outcome,
    DateOnly Day,
    string? PrintedBy,
    DateTimeOffset? PrintedAt
);

/// <param name="Places">Labels on one page; 1 on a roll.</param>
public sealed record MediumCard(LabelMedium Medium, string Name, int Places);

public sealed record ExpiredLabels(string Client, string ClientCode, int Count, DateOnly Oldest);

/// <param name="Id">Of the press: sent again it gives the same labels and counts once.</param>
/// <param name="Used">Places of the first sheet that are empty already.</param>
/// <param name="Reason">Needed where one of them was printed before.</param>
/// <param name="School">Each client's own when left out.</param>
public sealed record PrintLabels(
    Guid Id,
    IReadOnlyList<Guid> Inspections,
    LabelMedium Medium,
    int Used = 0,
    string? Reason = null,
    LabelSchool? School = null
);

/// <summary>The queue of labels, and the printing of many at once. A label that is printed once more says why.</summary>
internal static class LabelQueue
{
    private const string Title = "Nothing was printed.";
    private const int Listed = 200;
    private const int MostAtOnce = 500;

    /// <summary>What was inspected before and never had a label will get none.</summary>
    private const int DaysBack = 30;

    public static void MapLabelQueue(this RouteGroupBuilder api)
    {
        var labels = api.MapGroup("/papers/labels").WithTags("Papers");
        labels.MapGet("/", Page).For(Access.Worker);
        labels.MapPost("/print", Print).For(Access.Worker);
        labels.MapGet("/expired", Expired).For(Access.Reader);
    }

    /// <param name="round">Of one round alone.</param>
    /// <param name="tag">Of one item, printed or not.</param>
    private static async Task<Ok<LabelsPage>> Page(
        OsierwandDb db,
        TimeProvider time,
        CancellationToken cancel,
        Guid? round = null,
        string? tag = null
    )
    {
        var since = DateOnly.FromDateTime(time.GetLocalNow().DateTime).AddDays(-DaysBack);
        var last = Last(db).Where(it => round == null || it.RoundId == round);
        var waiting = await CardsAsync(
            db,
            last.Where(it => it.Day >= since && !db.LabelPrints.Any(print => print.InspectionId == it.Id)).Take(Listed + 1),
            cancel
        );
        var sought = (tag ?? "").Trim().ToLowerInvariant();
#pragma warning disable CA1304, CA1311, CA1862 // runs in the database, on the index over lower(tag)
        var printed = await CardsAsync(
            db,
            sought.Length > 0
                ? last.Where(it => it.Item.Tag.ToLower() == sought)
                : last.Where(it => it.Day >= since && db.LabelPrints.Any(print => print.InspectionId == it.Id)).Take(Listed),
            cancel
        );
#pragma warning restore CA1304, CA1311, CA1862
        return TypedResults.Ok(
            new LabelsPage(
                [.. waiting.Take(Listed)],
                waiting.Count > Listed,
                printed,
                [.. LabelPaper.All.Select(it => new MediumCard(it.Medium, it.Name, it.Places))],
                await ExpiredAsync(db, time, cancel),
                LabelPrinting.Reasons
            )
        );
    }

    /// <summary>Of each item the last inspection that stands, where it has a label; of one out of use the failure that it is held for: no
    /// pass label goes on it.</summary>
    private static IQueryable<Inspection> Last(OsierwandDb db) =>
        db.Standing()
            .Where(it =>
                it.Item.HeldCause != null
                    ? it.Id == it.Item.HeldCause
                    : (it.Outcome == Outcome.Pass || it.Outcome == Outcome.PassWithAdvice)
                        && !db.Inspections.Any(later =>
                            later.ItemId == it.ItemId
                            && later.BookNumber > it.BookNumber
                            && later.Corrects == null
                            && (later.Outcome == Outcome.Pass || later.Outcome == Outcome.PassWithAdvice)
                            && !db.Inspections.Any(correction => correction.Corrects == later.Id)
                        )
            )
            .OrderByDescending(it => it.TestedAt);

    private static async Task<List<LabelCard>> CardsAsync(OsierwandDb db, IQueryable<Inspection> inspections, CancellationToken cancel)
    {
        var rows = await (
            from it in inspections.AsNoTracking()
            join round in db.Rounds on it.RoundId equals round.Id
            orderby it.TestedAt descending
            select new
            {
                it.Id,
                it.Item.Tag,
                it.Item.Name,
                Client = it.Item.Client.Name,
                Round = round.Name,
                it.RoundId,
                it.Outcome,
                it.Day,
                Print = db.LabelPrints.Where(print => print.InspectionId == it.Id).OrderByDescending(print => print.At).FirstOrDefault(),
            }
        ).ToListAsync(cancel);
        return
        [
            .. rows.Select(it => new LabelCard(
                it.Id,
                it.Tag,
                it.Name,
                it.Client,
                it.Round,
                it.RoundId,
                it.Outcome,
                it.Day,
                it.Print?.By,
                it.Print?.At
            )),
        ];
    }

    /// <summary>Labels that name a date which is over: an item with one is out of compliance for whoever reads it.</summary>
    private static async Task<Ok<IReadOnlyList<ExpiredLabels>>> Expired(OsierwandDb db, TimeProvider time, CancellationToken cancel) =>
        TypedResults.Ok(await ExpiredAsync(db, time, cancel));

    private static async Task<IReadOnlyList<ExpiredLabels>> ExpiredAsync(OsierwandDb db, TimeProvider time, CancellationToken cancel)
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        var rows = await db
            .Items.Where(it => it.Client.LabelSchool == LabelSchool.WithNextDate && it.State == ItemState.InService && it.Due < today)
            .GroupBy(it => new { it.Client.Name, it.Client.Code })
            .Select(it => new
            {
                it.Key.Name,
                it.Key.Code,
                Count = it.Count(),
                Oldest = it.Min(item => item.Due),
            })
            .OrderBy(it => it.Name)
            .ToListAsync(cancel);
        return [.. rows.Select(it => new ExpiredLabels(it.Name, it.Code, it.Count, it.Oldest!.Value))];
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Print(
        PrintLabels sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        HttpRequest request,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var ids = sent.Inspections.Distinct().ToArray();
        var paper = LabelPaper.Of(sent.Medium);
        if (WrongIn(sent, ids, paper) is { } wrong)
            return Refusals.Invalid(Title, wrong);
        var labels = await LabelsAsync(db, ids, sent.School, request, cancel);
        if (labels.Refusal is { } refusal)
            return Refusals.Of(StatusCodes.Status409Conflict, Title, refusal);
        var before = await db.LabelPrints.AsNoTracking().Where(it => ids.Contains(it.InspectionId)).ToListAsync(cancel);
        // Sent again, a press gives the same labels and counts once; what was added to it since counts for itself.
        var fresh = ids.Except(before.Where(it => it.BatchId == sent.Id).Select(it => it.InspectionId)).ToArray();
        var again = fresh.Intersect(before.Select(it => it.InspectionId)).ToHashSet();
        if (LabelPrinting.Refusal(again.Count, sent.Reason) is { } why)
            return Refusals.Invalid(Title, new Fault("reason", why));
        if (fresh.Length > 0)
        {
            var now = time.GetUtcNow();
            db.LabelPrints.AddRange(
                fresh.Select(id => new LabelPrint
                {
                    Id = Guid.CreateVersion7(),
                    BatchId = sent.Id,
                    InspectionId = id,
                    At = now,
                    PersonId = user.Id(),
                    By = user.DisplayName(),
                    Medium = Words.Of(sent.Medium),
                    Reason = again.Contains(id) ? sent.Reason!.Trim() : null,
                })
            );
            trail.Add(
                "labels printed",
                fresh.Length == 1 ? "one label" : $"{fresh.Length} labels",
                sent.Id,
                after: new
                {
                    Printed = fresh.Length,
                    Again = again.Count,
                    sent.Reason,
                }
            );
            try
            {
                await db.SaveChangesAsync(cancel);
            }
            catch (DbUpdateException twice)
                when (twice.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
            {
                // The same press, sent twice at once: it is kept once.
            }
        }
        return TypedResults.File(LabelDrawing.Pdf(labels.Texts, paper, sent.Used), "application/pdf", "labels.pdf");
    }

    private static Fault? WrongIn(PrintLabels sent, Guid[] ids, LabelPaper paper) =>
        ids.Length == 0 ? new Fault("inspections", "Choose at least one label.")
        : ids.Length > MostAtOnce ? new Fault("inspections", $"At most {MostAtOnce} labels at once.")
        : sent.Used < 0 || sent.Used >= paper.Places ? new Fault("used", $"Between 0 and {paper.Places - 1} places of the first sheet.")
        : sent.Reason?.Length > LabelPrint.LongestReason ? new Fault("reason", $"At most {LabelPrint.LongestReason} characters.")
        : null;

    /// <summary>In the order in which they were chosen.</summary>
    private static async Task<(List<LabelText> Texts, string? Refusal)> LabelsAsync(
        OsierwandDb db,
        Guid[] ids,
        LabelSchool? school,
        HttpRequest request,
        CancellationToken cancel
    )
    {
        var rows = await db
            .Inspections.AsNoTracking()
            .Where(it => ids.Contains(it.Id))
            .Select(it => new
            {
                it.Id,
                it.Record,
                it.BookNumber,
                School = it.Item.Client.LabelSchool,
                it.Item.Tag,
                it.Item.HeldCause,
                IsTakenBack = db.Inspections.Any(later => later.Corrects == it.Id),
                Link = db
                    .PublicLinks.Where(link => link.ItemId == it.ItemId && link.RevokedAt == null)
                    .Select(link => link.Token)
                    .FirstOrDefault(),
            })
            .ToDictionaryAsync(it => it.Id, cancel);
        var texts = new List<LabelText>();
        foreach (var id in ids)
        {
            if (!rows.TryGetValue(id, out var row))
                return ([], "One of them is not known any more. Load the page again.");
            if (row.HeldCause is { } cause && cause != id)
                return ([], $"{row.Tag} is out of use: this label does not go on it.");
            if (row.IsTakenBack)
                return ([], $"Record {row.BookNumber} was taken back: it has no label. Load the page again.");
            if (InspectionRecord.Read(row.Record) is not { Fault: null, Value: var record })
                return ([], $"Record {row.BookNumber} cannot be read by this version.");
            if (LabelEndpoints.TextOf(record, school ?? row.School) is not { } text)
                return ([], $"Record {row.BookNumber} has no label: {record.OutcomeText.ToLowerInvariant()}.");
            texts.Add(row.Link is { } token ? text with { Code = $"{request.Scheme}://{request.Host}/u/{token}" } : text);
        }
        return (texts, null);
    }
}
