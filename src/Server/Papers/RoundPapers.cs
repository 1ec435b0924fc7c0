using Microsoft.AspNetCore.Components;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Osierwand.Core.Papers;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using Osierwand.Server.Rounds;

namespace Osierwand.Server.Papers;

/// <summary>The papers of a round as pages to read; as PDF they are made in the background and kept (<see cref="KeptPapers"/>).</summary>
internal static class RoundPapers
{
    public static void MapRoundPapers(this RouteGroupBuilder api) =>
        api.MapGroup("/papers").WithTags("Papers").MapGet("/rounds/{roundId:guid}", Page).For(Access.Worker);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Page(
        Guid roundId,
        RoundReports reports,
        RoundPlanning planning,
        HtmlRenderer renderer,
        HttpContext http,
        CancellationToken cancel,
        Word<LongPaper>? paper = null
    )
    {
        if (paper?.Value == LongPaper.Register)
            return Refusals.NotFound("paper of a round");
        try
        {
            if (await HtmlAsync(renderer, reports, planning, roundId, paper?.Value ?? LongPaper.Report, null, cancel) is not { } html)
                return Refusals.NotFound("round");
            PaperHeaders.Allow(http);
            return TypedResults.File(System.Text.Encoding.UTF8.GetBytes(html), "text/html; charset=utf-8");
        }
        catch (UnreadableRecordException unreadable)
        {
            return Refusals.Of(StatusCodes.Status409Conflict, "There is no paper.", unreadable.Message);
        }
    }

    /// <param name="progress">Told how many records were read, of how many.</param>
    /// <returns>Null where there is no such round.</returns>
    public static async Task<string?> HtmlAsync(
        HtmlRenderer renderer,
        RoundReports reports,
        RoundPlanning planning,
        Guid roundId,
        LongPaper paper,
        Func<int, int, Task>? progress,
        CancellationToken cancel
    )
    {
        if (paper == LongPaper.Packing)
            return await planning.PageAsync(roundId, isLead: false, cancel) is { } round
                ? await ItemPapers.HtmlAsync<PackingSheet>(renderer, nameof(PackingSheet.Round), round)
                : null;
        return await reports.OfAsync(roundId, progress, cancel) is not { } report
            ? null
            : await (
                paper switch
                {
                    LongPaper.Failures => ItemPapers.HtmlAsync<FailureListSheet>(renderer, nameof(FailureListSheet.Report), report),
                    LongPaper.NotTested => ItemPapers.HtmlAsync<NotTestedSheet>(renderer, nameof(NotTestedSheet.Report), report),
                    _ => ItemPapers.HtmlAsync<RoundReportSheet>(renderer, nameof(RoundReportSheet.Report), report),
                }
            );
    }

    /// <summary>As a file and a list name it.</summary>
    public static string Title(LongPaper paper, string of) =>
        paper switch
        {
            LongPaper.Failures => $"Failure list: {of}",
            LongPaper.NotTested => $"Not tested: {of}",
            LongPaper.Packing => $"Packing list: {of}",
            LongPaper.Register => $"Register: {of}",
            _ => $"Report: {of}",
        };
}
