using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Records;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
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
        papers.MapGet("/labels/{inspectionId:guid}", Label).For(Access.Reader);
    }

    /// <param name="school">The client's own when left out.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Label(
        Guid inspectionId,
        OsierwandDb db,
        CancellationToken cancel,
        Word<LabelFormat>? format = null,
        Word<LabelSchool>? school = null
    )
    {
        var found = await db
            .Inspections.AsNoTracking()
            .Where(it => it.Id == inspectionId)
            .Select(it => new
            {
                it.Record,
                School = it.Item.Client.LabelSchool,
                IsTakenBack = db.Inspections.Any(later => later.Corrects == it.Id),
            })
            .FirstOrDefaultAsync(cancel);
        if (found is null)
            return Refusals.NotFound("inspection");
        if (InspectionRecord.Read(found.Record) is not { Fault: null, Value: var record })
            return Refusals.Of(StatusCodes.Status409Conflict, "There is no label.", "The record cannot be read by this version.");
        if (found.IsTakenBack)
            return Refusals.Of(StatusCodes.Status409Conflict, "There is no label.", "This record was taken back.");
        if (TextOf(record, school?.Value ?? found.School) is not { } label)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                $"{record.OutcomeText}: there is no label.",
                "It says nothing about when the item was tested; it stands on the item's page."
            );
        return format?.Value == LabelFormat.Png
            ? TypedResults.File(LabelDrawing.Png(label), "image/png")
            : TypedResults.File(LabelDrawing.Pdf(label), "application/pdf", $"label-{inspectionId:N}.pdf");
    }

    /// <returns>Null where a record has no label.</returns>
    internal static LabelText? TextOf(InspectionRecord record, LabelSchool school) =>
        record.Label is { } said
            ? new(
                said.Tag,
                said.Name,
                said.Outcome,
                said.Date,
                school == LabelSchool.WithNextDate ? record.Next?.Due : null,
                said.Initials,
                said.Client,
                said.Kind
            )
            : null;
}
