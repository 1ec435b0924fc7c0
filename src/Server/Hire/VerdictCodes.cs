using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Osierwand.Core.Hire;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using QRCoder;

namespace Osierwand.Server.Hire;

/// <summary>What a scanner reads in place of a key: on the screen, and on a card beside the pile.</summary>
internal static class VerdictCodes
{
    public static void MapVerdictCodes(this RouteGroupBuilder api)
    {
        api.MapGroup("/hire").WithTags("Hire").MapGet("/codes/{code}", Code).For(Access.Worker);
        api.MapGroup("/papers").WithTags("Papers").MapGet("/verdict-card", Card).For(Access.Worker);
    }

    public static string Svg(string code)
    {
        using var generator = new QRCodeGenerator();
        using var drawn = generator.CreateQrCode(code, QRCodeGenerator.ECCLevel.M);
        return new SvgQRCode(drawn).GetGraphic(4);
    }

    private static Results<ContentHttpResult, ProblemHttpResult> Code(string code) =>
        HireVerdict.All.FirstOrDefault(it => it.Code == code) is { } verdict
            ? TypedResults.Content(Svg(verdict.Code), "image/svg+xml")
            : Refusals.NotFound("code");

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Card(
        HtmlRenderer renderer,
        PaperPrinter printer,
        HttpContext http,
        CancellationToken cancel,
        Word<PaperForm>? format = null
    ) =>
        await ItemPapers.AnswerAsync(
            await ItemPapers.HtmlAsync<VerdictCardSheet>(renderer),
            "card-for-the-pile",
            format?.Value,
            printer,
            http,
            cancel
        );
}
