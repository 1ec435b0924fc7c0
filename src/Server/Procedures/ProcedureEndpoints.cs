using System.Security.Claims;
using System.Text;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Planning;
using Osierwand.Core.Procedures;
using Osierwand.Core.Standards;
using Osierwand.Server.Bench;
using Osierwand.Server.Hosting;
using Osierwand.Server.People;
using Osierwand.Server.Register;
using Osierwand.Server.Standards;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Procedures;

/// <summary>Procedures of the house: made from a plan, edited into a new version, compared, retired, taken along as a file.</summary>
internal static class ProcedureEndpoints
{
    public static void MapProcedures(this RouteGroupBuilder api)
    {
        var procedures = api.MapGroup("/procedures").WithTags("Procedures");
        procedures.MapGet("/", List).For(Access.Worker);
        procedures.MapGet("/schema", () => TypedResults.Text(Procedure.Schema(), "application/schema+json")).For(Access.Reader);
        procedures.MapGet("/{id:guid}", Page).For(Access.Worker);
        procedures.MapGet("/{id:guid}/file", File).For(Access.Worker);
        procedures.MapPost("/", Save).For(Access.Lead);
        procedures.MapPost("/draft", Draft).For(Access.Worker);
        procedures.MapPost("/read", Read).For(Access.Lead);
        procedures.MapPost("/words", ReadAloud).For(Access.Worker);
        procedures.MapPost("/try", Try).For(Access.Worker);
        procedures.MapPost("/{id:guid}/retire", Retire).For(Access.Lead);
        procedures.MapPost("/{id:guid}/restore", Restore).For(Access.Lead);
    }

    private static async Task<Ok<ProcedureList>> List(OsierwandDb db, ClaimsPrincipal user, CancellationToken cancel)
    {
        var rows = await (
            from procedure in db.Procedures.AsNoTracking()
            join version in db.ProcedureVersions
                on new { procedure.Id, Version = procedure.Newest } equals new { Id = version.ProcedureId, version.Version }
            orderby procedure.RetiredAt != null, version.Name
            select new
            {
                Row = procedure,
                version.Text,
                version.Name,
                version.Version,
                version.PackId,
                version.By,
                version.At,
            }
        ).ToListAsync(cancel);
        return TypedResults.Ok(
            new ProcedureList(
                user.IsInRole(Person.Lead),
                [
                    .. rows.Select(row =>
                    {
                        var read = Procedure.Read(row.Text);
                        var it = read.Fault is null ? read.Value : null;
                        return new ProcedureListRow(
                            row.Row.Id,
                            row.Name,
                            row.Version,
                            PackLibrary.Find(row.PackId)?.ShortName ?? row.PackId,
                            string.Join(" ", new[] { it?.Maker, it?.Model }.OfType<string>()),
                            it?.Adapters ?? [],
                            it?.Steps.Count(step => step is not ProcedureStep.LeaveOut) ?? 0,
                            it?.Steps.Count(step => step is ProcedureStep.LeaveOut) ?? 0,
                            row.By,
                            row.At,
                            Retired(row.Row)
                        );
                    }),
                ]
            )
        );
    }

    private static string? Retired(ProcedureRow row) =>
        row.RetiredAt is { } at ? $"Retired on {at:yyyy-MM-dd} by {row.RetiredBy}: {row.RetiredWhy}" : null;

    /// <param name="version">The newest when left out.</param>
    private static async Task<Results<Ok<ProcedurePage>, ProblemHttpResult>> Page(
        Guid id,
        OsierwandDb db,
        ClaimsPrincipal user,
        CancellationToken cancel,
        int? version = null
    ) => await PageAsync(id, version, db, user, cancel) is { } page ? TypedResults.Ok(page) : Refusals.NotFound("procedure");

    private static async Task<ProcedurePage?> PageAsync(
        Guid id,
        int? version,
        OsierwandDb db,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var row = await db.Procedures.AsNoTracking().FirstOrDefaultAsync(it => it.Id == id, cancel);
        var versions = await db
            .ProcedureVersions.AsNoTracking()
            .Where(it => it.ProcedureId == id)
            .OrderBy(it => it.Version)
            .ToListAsync(cancel);
        var asked = versions.FirstOrDefault(it => it.Version == (version ?? row?.Newest));
        if (row is null || asked is null || !Procedure.Read(asked.Text).TryGet(out var procedure))
            return null;
        var read = versions.Select(it => Procedure.Read(it.Text).TryGet(out var one) ? one : null).ToArray();
        return new(
            procedure,
            [.. procedure.Steps.Select(InWords)],
            [.. procedure.Steps.Select(step => step is ProcedureStep.Measure { Limit: { } own } ? ProcedureDifference.Text(own) : "")],
            row.Newest,
            Retired(row),
            user.IsInRole(Person.Lead),
            [
                .. versions
                    .Select(
                        (it, at) =>
                            new ProcedureVersionCard(
                                it.Version,
                                it.By,
                                it.At,
                                it.Reason,
                                at > 0 && read[at - 1] is { } before && read[at] is { } after
                                    ? ProcedureDifference.Between(before, after)
                                    : []
                            )
                    )
                    .Reverse(),
            ],
            AllStandards()
        );
    }

    private static Choice[] AllStandards() => [.. PackLibrary.Ids.Select(it => new Choice(it, PackLibrary.Find(it)!.ShortName))];

    private static readonly LimitUnit[] Units =
    [
        .. ProcedureRules.LimitUnits.Select(it => new LimitUnit(Words.Of(it.Test), it.Unit.Symbol, it.Unit.Label)),
    ];

    private static string InWords(ProcedureStep step) =>
        step switch
        {
            ProcedureStep.Measure it => StepKey.InWords(it.Step),
            ProcedureStep.LeaveOut it => StepKey.InWords(it.Step),
            ProcedureStep.Borrow it => StepKey.InWords(it.Step),
            _ => "",
        };

    /// <summary>A procedure that is not saved, read aloud for its editor.</summary>
    private static Ok<ProcedureWords> ReadAloud(Procedure procedure) =>
        TypedResults.Ok(
            new ProcedureWords(
                [.. procedure.Steps.Select(InWords)],
                Units,
                [
                    .. PackLibrary
                        .All.Where(pack => pack.Id != procedure.PackId)
                        .SelectMany(pack =>
                            ProcedureRules
                                .Borrowable(procedure, pack)
                                .Select(step => new BorrowableStep(pack.Id, pack.ShortName, step.Key, StepKey.InWords(step.Key)))
                        ),
                ]
            )
        );

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> File(
        Guid id,
        OsierwandDb db,
        CancellationToken cancel,
        int? version = null
    )
    {
        var text = await db
            .ProcedureVersions.AsNoTracking()
            .Where(it => it.ProcedureId == id && (version == null || it.Version == version))
            .OrderByDescending(it => it.Version)
            .Select(it => it.Text)
            .FirstOrDefaultAsync(cancel);
        return text is null
            ? Refusals.NotFound("procedure")
            : TypedResults.File(Encoding.UTF8.GetBytes(text), "application/json", $"procedure-{id:N}.json");
    }

    /// <summary>A new procedure, or the next version of one.</summary>
    private static async Task<Results<Ok<ProcedurePage>, ProblemHttpResult>> Save(
        SaveProcedure sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > ProcedureVersion.LongestReason)
            return Refusals.Invalid("Not saved.", new Fault("reason", "Say in a few words why this version is made."));
        var procedure = sent.Procedure with
        {
            Name = sent.Procedure.Name.Trim(),
            Version = sent.BasedOn + 1,
            Maker = Said(sent.Procedure.Maker),
            Model = Said(sent.Procedure.Model),
            Remark = sent.Procedure.Remark.Trim(),
        };
        if (ProcedureRules.Faults(procedure) is { IsEmpty: false } faults)
            return Refusals.Invalid("Not saved: nothing was changed.", [.. faults]);
        var row = await db.Procedures.FirstOrDefaultAsync(it => it.Id == procedure.Id, cancel);
        if ((row?.Newest ?? 0) != sent.BasedOn)
            return Moved();
        if (row?.RetiredAt is not null)
            return Refusals.Of(StatusCodes.Status409Conflict, "Not saved.", "It is retired. Restore it first, or save it as a copy.", []);
        ProcedureBook.Add(db, row, procedure, sent.Reason, user.DisplayName(), time.GetUtcNow());
        trail.Add(
            "procedure saved",
            procedure.Title,
            after: new
            {
                procedure.Id,
                procedure.Version,
                Reason = sent.Reason.Trim(),
            }
        );
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateConcurrencyException)
        {
            return Moved();
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Moved();
        }
        return TypedResults.Ok((await PageAsync(procedure.Id, null, db, user, cancel))!);
    }

    private static string? Said(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();

    private static ProblemHttpResult Moved() =>
        Refusals.Of(
            StatusCodes.Status409Conflict,
            "Not saved: somebody made another version meanwhile.",
            "What you entered is kept on this screen. Look at the newest version, and save yours on top of it or as a copy.",
            []
        );

    /// <summary>A procedure that does what this item's plan says, to be edited; nothing is saved.</summary>
    private static async Task<Results<Ok<Procedure>, ProblemHttpResult>> Draft(
        DraftProcedure sent,
        Rulings rulings,
        ClaimsPrincipal user,
        CancellationToken cancel
    )
    {
        var laid = await rulings.LayAsync(sent.ItemId, sent.RoundId, user.Worker(), cancel);
        if (laid.Fault is { } fault)
            return BenchEndpoints.Refused(fault);
        var ruling = laid.Value.Ruling;
        var plan = Planner.Of(ruling.Pack, ruling.Item.Equipment, ruling.Policy, Scope.Combined);
        if (ScopeOf.Refusal(ruling.Pack, ruling.Item.Equipment, Scope.Combined, ruling.Policy) is { } refusal)
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "There is no plan to make it from.",
                $"{ruling.Pack.ShortName}: {refusal}.",
                []
            );
        return TypedResults.Ok(
            ProcedureRules.From(plan, sent.Name.Trim(), Guid.CreateVersion7()) with
            {
                Maker = ruling.Item.Model is null ? null : ruling.Item.Maker,
                Model = ruling.Item.Model,
            }
        );
    }

    /// <param name="file">A file's content as it is: longer than any text of a form, and read by its own schema.</param>
    private static Results<Ok<Procedure>, ProblemHttpResult> Read(JsonElement file) =>
        Procedure.Read(file.GetRawText()) is var read && read.Fault is { } fault
            ? Refusals.Invalid("This file is no procedure: nothing was taken from it.", fault)
            : TypedResults.Ok(read.Value);

    private static async Task<Results<Ok<TriedProcedure>, ProblemHttpResult>> Try(
        TryProcedure sent,
        OsierwandDb db,
        CancellationToken cancel
    )
    {
        if (ProcedureRules.Faults(sent.Procedure) is { IsEmpty: false } faults)
            return Refusals.Invalid("It cannot be tried.", [.. faults]);
        var tag = Tags.Read(sent.Tag);
        if (tag.Fault is { } unread)
            return Refusals.Invalid("It cannot be tried.", unread);
        var item = await db
            .Items.AsNoTracking()
            .Include(it => it.Client)
            .Where(it => it.Tag == tag.Value)
            .OrderBy(it => it.Client.Code)
            .FirstOrDefaultAsync(cancel);
        if (item is null)
            return Refusals.NotFound("item with this tag");
        var house = await HousePacks.AllAsync(db, cancel);
        return TypedResults.Ok(
            new TriedProcedure(
                $"{item.Tag} {item.Name}, {item.Client.Name}",
                ProcedurePreview.Of(sent.Procedure, item.Equipment, id => HouseRuling.Pack(house, id))
            )
        );
    }

    private static Task<Results<Ok<ProcedurePage>, ProblemHttpResult>> Retire(
        Guid id,
        ProcedureReason sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    ) => StandAsync(id, sent, stands: false, db, trail, user, time, cancel);

    private static Task<Results<Ok<ProcedurePage>, ProblemHttpResult>> Restore(
        Guid id,
        ProcedureReason sent,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    ) => StandAsync(id, sent, stands: true, db, trail, user, time, cancel);

    private static async Task<Results<Ok<ProcedurePage>, ProblemHttpResult>> StandAsync(
        Guid id,
        ProcedureReason sent,
        bool stands,
        OsierwandDb db,
        Trail trail,
        ClaimsPrincipal user,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        if (string.IsNullOrWhiteSpace(sent.Reason) || sent.Reason.Length > ProcedureVersion.LongestReason)
            return Refusals.Invalid("Not changed.", new Fault("reason", "Say in a few words why."));
        if (await db.Procedures.FirstOrDefaultAsync(it => it.Id == id, cancel) is not { } row)
            return Refusals.NotFound("procedure");
        row.RetiredAt = stands ? null : time.GetUtcNow();
        row.RetiredBy = stands ? null : user.DisplayName();
        row.RetiredWhy = stands ? null : sent.Reason.Trim();
        var name = await db
            .ProcedureVersions.Where(it => it.ProcedureId == id && it.Version == row.Newest)
            .Select(it => it.Name)
            .FirstAsync(cancel);
        trail.Add(stands ? "procedure restored" : "procedure retired", name, after: new { Id = id, Reason = sent.Reason.Trim() });
        await db.SaveChangesAsync(cancel);
        return TypedResults.Ok((await PageAsync(id, null, db, user, cancel))!);
    }
}
