using Microsoft.AspNetCore.Components;
using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Osierwand.Core.Papers;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;

namespace Osierwand.Server.Papers;

/// <summary>The papers of a round as pages to read; as PDF they are made in the background and kept (<see cref="KeptPapers"/>).</summary>
internal static class RoundPapers
{
    public static void MapRoundPapers(this RouteGroupBuilder api) =>
        api.MapGroup("/papers").WithTags("Papers").MapGet("/rounds/{roundId:guid}", Page).For(Access.Worker);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Page(
        Guid roundId,
        RoundReports reports,
        HtmlRenderer renderer,
        HttpContext http,
        CancellationToken cancel,
        Word<RoundPaper>? paper = null
    )
    {
        try
        {
            if (await reports.OfAsync(roundId, null, cancel) is not { } report)
                return Refusals.NotFound("round");
            PaperHeaders.Allow(http);
            return TypedResults.File(
                System.Text.Encoding.UTF8.GetBytes(await HtmlAsync(renderer, report, paper?.Value ?? RoundPaper.Report)),
                "text/html; charset=utf-8"
            );
        }
        catch (UnreadableRecordException unreadable)
        {
            return Refusals.Of(StatusCodes.Status409Conflict, "There is no paper.", unreadable.Message);
        }
    }

    public static Task<string> HtmlAsync(HtmlRenderer renderer, RoundReport report, RoundPaper paper) =>
        paper switch
        {
            RoundPaper.Failures => ItemPapers.HtmlAsync<FailureListSheet>(renderer, nameof(FailureListSheet.Report), report),
            RoundPaper.NotTested => ItemPapers.HtmlAsync<NotTestedSheet>(renderer, nameof(NotTestedSheet.Report), report),
            _ => ItemPapers.HtmlAsync<RoundReportSheet>(renderer, nameof(RoundReportSheet.Report), report),
        };

    /// <summary>As a file and a list name it.</summary>
    public static string Title(RoundPaper paper, string round) =>
        paper switch
        {
            RoundPaper.Failures => $"Failure list: {round}",
            RoundPaper.NotTested => $"Not tested: {round}",
            _ => $"Report: {round}",
        };
}
