using Microsoft.AspNetCore.Components.Web;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Osierwand.Core.Equipment;
using Osierwand.Core.Papers;
using Osierwand.Server.Hosting;
using Osierwand.Server.Papers.Sheets;
using Osierwand.Server.People;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Papers;

/// <summary>A client's register as a page to read; as PDF it is made in the background and kept (<see cref="KeptPapers"/>).</summary>
internal static class RegisterPapers
{
    public static void MapRegisterPapers(this RouteGroupBuilder api) =>
        api.MapGroup("/papers").WithTags("Papers").MapGet("/register", Page).For(Access.Reader);

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Page(
        string client,
        OsierwandDb db,
        HtmlRenderer renderer,
        TimeProvider time,
        HttpContext http,
        CancellationToken cancel
    )
    {
        if (await db.Clients.AsNoTracking().FirstOrDefaultAsync(it => it.Code == client, cancel) is not { } owner)
            return Refusals.NotFound("client");
        var html = await HtmlAsync(renderer, db, owner, time, cancel);
        PaperHeaders.Allow(http);
        return TypedResults.File(System.Text.Encoding.UTF8.GetBytes(html), "text/html; charset=utf-8");
    }

    public static async Task<string> HtmlAsync(
        HtmlRenderer renderer,
        OsierwandDb db,
        Client owner,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        // The book first: what is saved meanwhile may show, and is said to have come later.
        var head = await db
            .Inspections.AsNoTracking()
            .Where(it => it.ClientId == owner.Id)
            .OrderByDescending(it => it.BookNumber)
            .Select(it => new { it.BookNumber, it.Hash })
            .FirstOrDefaultAsync(cancel);
        var items = await db.Items.AsNoTracking().Include(it => it.Site).Where(it => it.ClientId == owner.Id).ToListAsync(cancel);
        var paper = RegisterPaper.Of(
            owner.Name,
            [.. items.Select(Registered)],
            DateOnly.FromDateTime(time.GetLocalNow().DateTime),
            head?.BookNumber ?? 0,
            head is null ? "" : Convert.ToHexStringLower(head.Hash.AsSpan(0, 8))
        );
        return await ItemPapers.HtmlAsync<RegisterSheet>(renderer, nameof(RegisterSheet.Paper), paper);
    }

    /// <param name="it">With its site.</param>
    internal static RegisteredItem Registered(RegisterItem it) =>
        new(
            it.Tag,
            it.Name,
            string.Join(" ", new[] { it.Maker, it.Model, it.Serial is null ? null : $"serial {it.Serial}" }.OfType<string>()),
            it.Site.Name,
            it.Room,
            EquipmentText.Class(it.Equipment.Class),
            it.State,
            it.LastOutcome,
            it.LastLookedOn > it.LastTestedOn ? it.LastLookedOn : it.LastTestedOn ?? it.LastLookedOn,
            it.Due
        );
}
