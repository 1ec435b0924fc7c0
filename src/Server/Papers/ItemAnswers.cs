using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using Osierwand.Store;

namespace Osierwand.Server.Papers;

/// <summary>An inspector's question about one item, answered on paper.</summary>
internal static class ItemAnswers
{
    public static void MapItemAnswers(this RouteGroupBuilder api) =>
        api.MapGroup("/papers").WithTags("Papers").MapGet("/items/{itemId:guid}", Paper).For(Access.Reader);

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
        // What was not tested is no check, and fault finding says nothing of safety.
        var last = await db.Standing()
            .AsNoTracking()
            .Where(it => it.ItemId == itemId && it.Outcome != Outcome.NotTested && it.Outcome != Outcome.Findings)
            .OrderByDescending(it => it.BookNumber)
            .Select(it => new
            {
                it.Record,
                it.BookNumber,
                it.Hash,
            })
            .FirstOrDefaultAsync(cancel);
        InspectionRecord? record = null;
        if (last is not null && !InspectionRecord.Read(last.Record).TryGet(out record))
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "There is no paper.",
                "The last record cannot be read by this version; it is kept to the letter and can be exported."
            );
        var answer = ItemAnswer.Of(
            RegisterPapers.Registered(item),
            item.Client.Name,
            item.Site.DayOf(time.GetUtcNow()),
            record,
            last is null ? null : $"record {last.BookNumber}, {Convert.ToHexStringLower(last.Hash.AsSpan(0, 8))}",
            item.HeldWhy
        );
        var html = await ItemPapers.HtmlAsync<ItemAnswerSheet>(renderer, nameof(ItemAnswerSheet.Answer), answer);
        return await ItemPapers.AnswerAsync(html, $"{item.Tag}-last-check", format?.Value, printer, http, cancel);
    }
}
