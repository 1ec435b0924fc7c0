using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Kit;
using Osierwand.Core.Quantities;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Kit;

/// <summary>A lead takes things into the kit, changes what is kept of them, and takes them out.</summary>
internal static class KitEditing
{
    private const int LongestName = 60;
    private const int MostLines = 40;

    public static KitDetails DetailsOf(KitItem it) =>
        new(
            it.Kind,
            it.Name,
            it.Maker,
            it.Model,
            it.Serial,
            it.CalibratedOn,
            it.CalibrationDue,
            it.Certificate,
            it.Category,
            it.ProductStandard,
            it.NullsItself,
            KitAtHand.AccuraciesOf(it),
            KitAtHand.StatedOf(it)
        );

    public static async Task<Results<Created<KitTaken>, ProblemHttpResult>> Add(
        KitDetails sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (Wrong(sent) is { } fault)
            return Refusals.Invalid("It was not taken into the kit.", fault);
        var it = new KitItem { Id = Guid.CreateVersion7(), Name = sent.Name.Trim() };
        Set(it, sent);
        db.Kit.Add(it);
        trail.Add("kit taken in", it.Name, it.Id, after: sent);
        return await SavedAsync(db, cancel)
            ? TypedResults.Created($"/api/v1/kit/{it.Id}", new KitTaken(it.Id))
            : NameTaken("It was not taken into the kit.", sent.Name);
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> Change(
        Guid kitId,
        KitDetails sent,
        OsierwandDb db,
        Trail trail,
        CancellationToken cancel
    )
    {
        if (await db.Kit.FirstOrDefaultAsync(it => it.Id == kitId, cancel) is not { } it)
            return Refusals.NotFound("thing in the kit");
        if (Wrong(sent) is { } fault)
            return Refusals.Invalid("Nothing was changed.", fault);
        if (sent.Kind != it.Kind)
            return Refusals.Invalid("Nothing was changed.", new Fault("kind", "A thing stays what it is: take in another one."));
        trail.Add("kit changed", it.Name, it.Id, DetailsOf(it), sent);
        Set(it, sent);
        return await SavedAsync(db, cancel) ? TypedResults.NoContent() : NameTaken("Nothing was changed.", sent.Name);
    }

    public static async Task<Results<NoContent, ProblemHttpResult>> Retire(
        Guid kitId,
        RetireKit sent,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (await db.Kit.FirstOrDefaultAsync(it => it.Id == kitId && it.RetiredAt == null, cancel) is not { } it)
            return Refusals.NotFound("thing in the kit");
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > BenchState.LongestText)
            return Refusals.Invalid("It stays in the kit.", new Fault("reason", "Say in a few words why it is taken out."));
        it.RetiredAt = time.GetUtcNow();
        trail.Add("kit taken out", it.Name, it.Id, after: sent);
        await db.SaveChangesAsync(cancel);
        return TypedResults.NoContent();
    }

    private static void Set(KitItem it, KitDetails sent)
    {
        (it.Kind, it.Name, it.Maker, it.Model, it.Serial) = (
            sent.Kind,
            sent.Name.Trim(),
            Trimmed(sent.Maker),
            Trimmed(sent.Model),
            Trimmed(sent.Serial)
        );
        (it.CalibratedOn, it.CalibrationDue, it.Certificate) = (sent.CalibratedOn, sent.CalibrationDue, Trimmed(sent.Certificate));
        (it.Category, it.ProductStandard, it.NullsItself) = (sent.Category, Trimmed(sent.ProductStandard), sent.NullsItself);
        it.Accuracies = JsonSerializer.Serialize(sent.Accuracies, KitAtHand.Stored);
        it.StatedValues = JsonSerializer.Serialize(sent.StatedValues, KitAtHand.Stored);
    }

    private static string? Trimmed(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();

    private static Fault? Wrong(KitDetails sent)
    {
        foreach (
            var (path, text) in new[]
            {
                ("name", sent.Name),
                ("maker", sent.Maker),
                ("model", sent.Model),
                ("serial", sent.Serial),
                ("certificate", sent.Certificate),
                ("productStandard", sent.ProductStandard),
            }
        )
            if (text?.Length > LongestName || text?.Any(char.IsControl) == true)
                return new(path, $"At most {LongestName} printable characters.");
        if (string.IsNullOrWhiteSpace(sent.Name))
            return new("name", "Give it a name: it stands on records.");
        if (sent.CalibrationDue <= sent.CalibratedOn)
            return new("calibrationDue", "Calibration is due after the day it was made.");
        if (sent.Accuracies.Count > MostLines || sent.StatedValues.Count > MostLines)
            return new("accuracies", $"At most {MostLines} lines.");
        if (sent.Accuracies.Select(WrongIn).OfType<Fault>().FirstOrDefault() is { } accuracy)
            return accuracy;
        if (sent.StatedValues.Select(it => it.Refusal()).OfType<Fault>().FirstOrDefault() is { } stated)
            return stated;
        if (sent.StatedValues.GroupBy(it => it.Key).Any(it => it.Count() > 1))
            return new("statedValues", "Every line of a check box has a key of its own.");
        return sent.Kind == KitKind.CheckBox && sent.StatedValues.Count == 0
            ? new("statedValues", "A check box states what it shows: give it a line.")
            : null;
    }

    private static Fault? WrongIn(StatedAccuracy it) =>
        Unit.Find(it.Unit) is null ? new Fault("accuracies", $"“{it.Unit}” is not a unit.")
        : it.Resolution <= 0 || it.Percent < 0 || it.Digits < 0 || it.TestCurrentA <= 0
            ? new Fault("accuracies", "A resolution and a test current are greater than 0; accuracy is not negative.")
        : it.To <= (it.From ?? 0) ? new Fault("accuracies", "A range ends above where it begins.")
        : null;

    private static async Task<bool> SavedAsync(OsierwandDb db, CancellationToken cancel)
    {
        try
        {
            await db.SaveChangesAsync(cancel);
            return true;
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return false;
        }
    }

    private static ProblemHttpResult NameTaken(string title, string name) =>
        Refusals.Of(
            StatusCodes.Status409Conflict,
            title,
            $"Something in the kit is called “{name.Trim()}” already. Names stand on records: give this one another."
        );
}
