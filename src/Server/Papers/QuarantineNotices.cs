using System.Collections.Immutable;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Papers;
using Osierwand.Core.Quarantine;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using Osierwand.Server.Quarantine;
using Osierwand.Store;

namespace Osierwand.Server.Papers;

/// <summary>What a notice of an item out of use says.</summary>
/// <param name="Number">Of the record that failed it, or how it came out of use.</param>
/// <param name="Warning">As it was given with a return, else the usual one.</param>
public sealed record QuarantineNotice(
    string Tag,
    string Name,
    string Client,
    string Where,
    DateOnly Since,
    string StageText,
    string Why,
    string Warning,
    ImmutableArray<PaperFact> Facts,
    ImmutableArray<string> Done,
    string Number,
    DateOnly MadeOn
);

/// <summary>The notice that hangs on an item out of use, or goes back to the client with it.</summary>
internal static class QuarantineNotices
{
    public static void MapQuarantineNotices(this RouteGroupBuilder api) =>
        api.MapGroup("/papers").WithTags("Papers").MapGet("/quarantine/{itemId:guid}", Paper).For(Access.Reader);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Paper(
        Guid itemId,
        OsierwandDb db,
        HtmlRenderer renderer,
        PaperPrinter printer,
        TimeProvider time,
        HttpContext http,
        CancellationToken cancel,
        Word<PaperForm>? format = null
    )
    {
        var item = await db
            .Items.AsNoTracking()
            .Include(it => it.Client)
            .Include(it => it.Site)
            .FirstOrDefaultAsync(it => it.Id == itemId, cancel);
        if (item is null)
            return Refusals.NotFound("item");
        if (await Holds.OfAsync(db, item, cancel) is not { } hold)
            return Refusals.Of(StatusCodes.Status409Conflict, "There is no notice.", $"{item.Tag} is in service.");
        var failed = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Id == hold.Cause.Id)
            .Select(it => new { it.BookNumber, it.Hash })
            .FirstOrDefaultAsync(cancel);
        var warning = hold.Acts.Select(done => done.Act).OfType<ReturnedUntested>().LastOrDefault()?.Warning;
        var notice = new QuarantineNotice(
            item.Tag,
            item.Name,
            item.Client.Name,
            $"{item.Site.Name}, {item.Room}",
            item.Site.DayOf(hold.Cause.Since),
            QuarantineText.Of(hold.Stage),
            hold.Cause.Words,
            warning ?? QuarantineText.UsualWarning(hold.Cause.Kind),
            [
                new("Found by", hold.Cause.By),
                .. new[] { item.Maker, item.Model }.OfType<string>().ToArray() is { Length: > 0 } made
                    ? [new PaperFact("Made by", string.Join(", ", made))]
                    : (PaperFact[])[],
                .. item.Serial is { } serial ? [new PaperFact("Serial", serial)] : (PaperFact[])[],
            ],
            [.. hold.Acts.Select(done => $"{PaperWriter.Day(item.Site.DayOf(done.At))}, {done.By}: {QuarantineText.Of(done.Act)}")],
            failed is null
                ? QuarantineText.Of(hold.Cause.Kind)
                : $"record {failed.BookNumber}, {Convert.ToHexStringLower(failed.Hash.AsSpan(0, 8))}",
            item.Site.DayOf(time.GetUtcNow())
        );
        var html = await ItemPapers.HtmlAsync<QuarantineNoticeSheet>(renderer, nameof(QuarantineNoticeSheet.Notice), notice);
        return await ItemPapers.AnswerAsync(html, $"{item.Tag}-out-of-use", format?.Value, printer, http, cancel);
    }
}
