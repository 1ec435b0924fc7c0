using Microsoft.AspNetCore.Components;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Papers;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using Osierwand.Store;

namespace Osierwand.Server.Papers;

public enum PaperForm
{
    Html,
    Pdf,
}

/// <summary>The paper of one inspection, made from its record and from nothing else.</summary>
internal static class ItemPapers
{
    /// <summary>Enough for the stubs on a rail.</summary>
    private const int EarlierRead = 6;

    public static void MapItemPapers(this RouteGroupBuilder api) =>
        api.MapGroup("/papers").WithTags("Papers").MapGet("/inspections/{inspectionId:guid}", Paper).For(Access.Reader);

    /// <param name="format">A page to read and print, or a PDF.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Paper(
        Guid inspectionId,
        OsierwandDb db,
        HtmlRenderer renderer,
        PaperPrinter printer,
        HttpContext http,
        CancellationToken cancel,
        Word<PaperForm>? format = null
    )
    {
        var found = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Id == inspectionId)
            .Select(it => new
            {
                it.Record,
                it.BookNumber,
                it.Hash,
                it.ItemId,
                it.ClientId,
            })
            .FirstOrDefaultAsync(cancel);
        if (found is null)
            return Refusals.NotFound("inspection");
        if (InspectionRecord.Read(found.Record) is not { Fault: null, Value: var record })
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "There is no paper.",
                "The record cannot be read by this version; it is kept to the letter and can be exported."
            );
        var later = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Corrects == inspectionId)
            .OrderBy(it => it.BookNumber)
            .Select(it => new { it.BookNumber, it.Record })
            .ToListAsync(cancel);
        var before = await db
            .Inspections.AsNoTracking()
            .Where(it => it.ItemId == found.ItemId && it.ClientId == found.ClientId && it.BookNumber < found.BookNumber && it.IsTest)
            .Where(it => !db.Inspections.Any(correction => correction.Corrects == it.Id))
            .OrderByDescending(it => it.BookNumber)
            .Take(EarlierRead)
            .Select(it => it.Record)
            .ToListAsync(cancel);
        var paper = PaperWriter.Of(
            record,
            new(
                found.BookNumber,
                Convert.ToHexStringLower(found.Hash.AsSpan(0, 8)),
                [.. later.Select(it => Later(it.BookNumber, it.Record))]
            ),
            [.. Enumerable.Reverse(before).Select(InspectionRecord.Read).Where(it => it.Fault is null).Select(it => it.Value)],
            TimeZoneInfo.TryFindSystemTimeZoneById(record.Times.TimeZone, out var zone) ? zone : TimeZoneInfo.Utc
        );
        var html = await HtmlAsync<ItemPaperSheet>(renderer, nameof(ItemPaperSheet.Paper), paper);
        return await AnswerAsync(html, $"{record.Item.Tag}-{record.Times.Date:yyyy-MM-dd}", format?.Value, printer, http, cancel);
    }

    /// <summary>The page as it stands, or printed.</summary>
    /// <param name="name">Of the file, before it is made fit for one.</param>
    internal static async Task<Results<FileContentHttpResult, ProblemHttpResult>> AnswerAsync(
        string html,
        string name,
        PaperForm? form,
        PaperPrinter printer,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (form != PaperForm.Pdf)
        {
            PaperHeaders.Allow(http);
            return TypedResults.File(System.Text.Encoding.UTF8.GetBytes(html), "text/html; charset=utf-8");
        }
        try
        {
            return TypedResults.File(await printer.PdfAsync(html, cancel), "application/pdf", $"{FileName(name)}.pdf");
        }
        catch (PrinterException broke)
        {
            return Refusals.Of(StatusCodes.Status503ServiceUnavailable, "The paper was not printed.", broke.Message);
        }
    }

    internal static LaterRecord Later(long number, string text) =>
        InspectionRecord.Read(text) is { Fault: null, Value: { Corrects: { } correction } it }
            ? new(number, it.Times.Date, it.Technician.Name, correction.Reason)
            : new(number, default, "", "The record of it cannot be read by this version.");

    internal static string FileName(string name) =>
        string.Concat(name.Select(letter => char.IsAsciiLetterOrDigit(letter) || letter is '-' ? letter : '_'));

    internal static Task<string> HtmlAsync<TSheet>(HtmlRenderer renderer, string name, object paper)
        where TSheet : IComponent =>
        HtmlAsync<TSheet>(renderer, ParameterView.FromDictionary(new Dictionary<string, object?> { [name] = paper }));

    /// <summary>Of a sheet that is always the same.</summary>
    internal static Task<string> HtmlAsync<TSheet>(HtmlRenderer renderer)
        where TSheet : IComponent => HtmlAsync<TSheet>(renderer, ParameterView.Empty);

    private static Task<string> HtmlAsync<TSheet>(HtmlRenderer renderer, ParameterView parameters)
        where TSheet : IComponent =>
        renderer.Dispatcher.InvokeAsync(async () =>
            "<!DOCTYPE html>" + (await renderer.RenderComponentAsync<TSheet>(parameters)).ToHtmlString()
        );
}
