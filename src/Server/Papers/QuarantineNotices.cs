using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Papers;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using Osierwand.Server.Quarantine;
using Osierwand.Store;

namespace Osierwand.Server.Papers;

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
        var where = $"{item.Site.Name}, {item.Room}";
        var notice = QuarantineNotice.Of(
            new(item.Tag, item.Name, item.Maker, item.Model, item.Serial, item.Client.Name, where),
            hold,
            failed is null ? null : $"record {failed.BookNumber}, {Convert.ToHexStringLower(failed.Hash.AsSpan(0, 8))}",
            item.Site.Zone,
            time.GetUtcNow()
        );
        var html = await ItemPapers.HtmlAsync<QuarantineNoticeSheet>(renderer, nameof(QuarantineNoticeSheet.Notice), notice);
        return await ItemPapers.AnswerAsync(html, $"{item.Tag}-out-of-use", format?.Value, printer, http, cancel);
    }
}
