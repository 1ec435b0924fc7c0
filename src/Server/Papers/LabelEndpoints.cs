using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

public enum LabelFormat
{
    Pdf,
    Png,
}

/// <summary>Labels at true size, for a label printer or a preview.</summary>
internal static class LabelEndpoints
{
    public static void MapLabels(this RouteGroupBuilder api)
    {
        var papers = api.MapGroup("/papers").WithTags("Papers");
        papers.MapGet("/labels/{inspectionId:guid}", Label);
    }

    /// <param name="school">The client's own when left out.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Label(
        Guid inspectionId, OsierwandDb db, CancellationToken cancel, Word<LabelFormat>? format = null, Word<LabelSchool>? school = null)
    {
        var it = await db.Inspections.AsNoTracking().Include(found => found.Item.Client).FirstOrDefaultAsync(found => found.Id == inspectionId, cancel);
        if (it is null) return Refusals.NotFound("inspection");
        if (it.Outcome == Outcome.Findings)
            return Refusals.Of(StatusCodes.Status409Conflict, "Fault-finding has no label.", "It says nothing about when the item was tested; the findings stand on its page.");
        var initials = await db.Users.Where(person => person.Id == it.TechnicianId).Select(person => person.Initials).FirstOrDefaultAsync(cancel) ?? "";
        var chosen = school?.Value ?? it.Item.Client.LabelSchool;
        var label = new LabelText(it.Item.Tag, it.Item.Name, it.Outcome, DateOnly.FromDateTime(it.TestedAt.LocalDateTime),
            chosen == LabelSchool.WithNextDate ? NextDate(it.Record) : null, initials, it.Item.Client.Name);
        return format?.Value == LabelFormat.Png
            ? TypedResults.File(LabelDrawing.Png(label), "image/png")
            : TypedResults.File(LabelDrawing.Pdf(label), "application/pdf", $"label-{inspectionId:N}.pdf");
    }

    /// <summary>As the record says it; a fail and an untested item have none.</summary>
    private static DateOnly? NextDate(string record)
    {
        using var document = JsonDocument.Parse(record);
        return document.RootElement.TryGetProperty("next", out var next) ? DateOnly.ParseExact(next.GetProperty("due").GetString()!, "yyyy-MM-dd") : null;
    }
}
