using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.EntityFrameworkCore;
using Npgsql;
using Osierwand.Core;
using Osierwand.Core.Bench;
using Osierwand.Core.Records;
using Osierwand.Core.Rounds;
using Osierwand.Core.Standards;
using Osierwand.Server.Hosting;
using Osierwand.Server.Trust;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Server.Rounds;

/// <summary>What a lead chooses from when opening a round.</summary>
public sealed record OpenRoundForm(IReadOnlyList<ClientChoice> Clients, IReadOnlyList<StandardChoice> Standards);

public sealed record ClientChoice(string Code, string Name, IReadOnlyList<SiteChoice> Sites);

/// <param name="NominalV">Null is what the round's standard supposes.</param>
/// <param name="MainsHz">0 is direct current; null is what the round's standard supposes.</param>
public sealed record SiteChoice(string Name, double? NominalV, double? MainsHz);

public sealed record StandardChoice(string Id, string Name, PackScope Scope);

/// <summary>A round to open. A client or site that is not known yet is taken up with it.</summary>
/// <param name="StandardId">For appliances; chosen anew for every round, never inherited from another.</param>
/// <param name="MedicalStandardId">For medical devices, where there are any.</param>
/// <param name="NominalV">Of the site's mains, to neutral, kept with the site; null leaves what is known of it.</param>
/// <param name="MainsHz">0 is direct current. Kept with the site; null leaves what is known of it.</param>
/// <param name="StartsOn">Of a planned round; null begins today.</param>
/// <param name="IsPlanned">Its items, days and people are chosen before it is opened; otherwise it is open at once, with whatever is due at
/// the site.</param>
public sealed record NewRound(
    string ClientCode,
    string ClientName,
    string Site,
    string Name,
    string StandardId,
    string? MedicalStandardId,
    DateOnly EndsOn,
    double? NominalV = null,
    double? MainsHz = null,
    DateOnly? StartsOn = null,
    bool IsPlanned = false
);

public sealed record OpenedRound(Guid Id);

/// <summary>Opening a round: one visit to one site, with the rules chosen for it. For leads.</summary>
internal static class OpenRound
{
    private const int LongestName = 120;
    private const int LongestCode = 10;

    public static async Task<Ok<OpenRoundForm>> Form(OsierwandDb db, CancellationToken cancel)
    {
        var sites = await db
            .Sites.Select(site => new
            {
                site.ClientId,
                site.Name,
                site.NominalV,
                site.MainsHz,
            })
            .OrderBy(site => site.Name)
            .ToListAsync(cancel);
        var clients = await db
            .Clients.OrderBy(client => client.Name)
            .Select(client => new
            {
                client.Id,
                client.Code,
                client.Name,
            })
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new OpenRoundForm(
                [
                    .. clients.Select(client => new ClientChoice(
                        client.Code,
                        client.Name,
                        [
                            .. sites
                                .Where(site => site.ClientId == client.Id)
                                .Select(site => new SiteChoice(site.Name, site.NominalV, site.MainsHz)),
                        ]
                    )),
                ],
                [.. PackLibrary.All.Select(pack => new StandardChoice(pack.Id, pack.ShortName, pack.Scope))]
            )
        );
    }

    public static async Task<Results<Created<OpenedRound>, ProblemHttpResult>> Open(
        NewRound sent,
        OsierwandDb db,
        Trail trail,
        TimeProvider time,
        CancellationToken cancel
    )
    {
        var today = DateOnly.FromDateTime(time.GetLocalNow().DateTime);
        if (Wrong(sent, today) is { } fault)
            return Refusals.Invalid("The round was not opened.", fault);
        var code = sent.ClientCode.Trim().ToUpperInvariant();
        var client = await db.Clients.FirstOrDefaultAsync(it => it.Code == code, cancel);
        if (client is null)
        {
            client = new()
            {
                Id = Guid.CreateVersion7(),
                Code = code,
                Name = sent.ClientName.Trim(),
            };
            db.Clients.Add(client);
            // Every client has a book from its first day; records are chained in it.
            db.Books.Add(new() { ClientId = client.Id, Hash = RecordChain.Start });
        }
        var name = sent.Site.Trim();
        var site = await db.Sites.FirstOrDefaultAsync(it => it.ClientId == client.Id && it.Name == name, cancel);
        if (site is null)
        {
            site = new()
            {
                Id = Guid.CreateVersion7(),
                ClientId = client.Id,
                Name = name,
            };
            db.Sites.Add(site);
        }
        (site.NominalV, site.MainsHz) = (sent.NominalV ?? site.NominalV, sent.MainsHz ?? site.MainsHz);
        var round = new Round
        {
            Id = Guid.CreateVersion7(),
            SiteId = site.Id,
            Name = sent.Name.Trim(),
            StandardId = sent.StandardId,
            MedicalStandardId = sent.MedicalStandardId,
            StartsOn = sent.IsPlanned ? sent.StartsOn ?? today : today,
            IsPlanned = sent.IsPlanned,
            State = sent.IsPlanned ? RoundState.Planned : RoundState.Open,
            EndsOn = sent.EndsOn,
        };
        db.Rounds.Add(round);
        trail.Add(sent.IsPlanned ? "round planned" : "round opened", round.Name, round.Id, after: sent);
        try
        {
            await db.SaveChangesAsync(cancel);
        }
        catch (DbUpdateException clash) when (clash.InnerException is PostgresException { SqlState: PostgresErrorCodes.UniqueViolation })
        {
            return Refusals.Of(
                StatusCodes.Status409Conflict,
                "The round was not opened.",
                "Another lead took up this client or site at the same moment. Try again: it is known now."
            );
        }
        return TypedResults.Created($"/api/v1/rounds/{round.Id}", new OpenedRound(round.Id));
    }

    private static Fault? Wrong(NewRound sent, DateOnly today)
    {
        foreach (
            var (path, text, most) in new[]
            {
                ("clientCode", sent.ClientCode, LongestCode),
                ("clientName", sent.ClientName, LongestName),
                ("site", sent.Site, LongestName),
                ("name", sent.Name, LongestName),
            }
        )
        {
            if (
                string.IsNullOrWhiteSpace(text)
                || text.Length > most
                || KeptText.Unseen(text.Trim()) is not null
                || text.Any(char.IsControl)
            )
                return new(path, $"This needs 1 to {most} printable characters.");
        }
        if (PackLibrary.Find(sent.StandardId) is null)
            return new("standardId", $"There is no standard “{sent.StandardId}”.");
        if (sent.MedicalStandardId is { } medical && PackLibrary.Find(medical)?.Scope != PackScope.Medical)
            return new("medicalStandardId", $"“{medical}” is not a standard for medical devices.");
        if (new SiteMains(sent.NominalV, sent.MainsHz).Refusal() is { } mains)
            return mains;
        return sent.EndsOn < today || sent.EndsOn < sent.StartsOn ? new("endsOn", "A round cannot end before it begins.") : null;
    }
}
