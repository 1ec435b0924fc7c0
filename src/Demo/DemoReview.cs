using Osierwand.Core.Judging;
using Osierwand.Core.Papers;
using Osierwand.Core.Rounds;
using Osierwand.Server.Papers;
using Osierwand.Store;
using Osierwand.Store.Entities;

namespace Osierwand.Demo;

/// <summary>The lead signed every closed round, but for one that waits in review: walked, with failures in it, and nobody has looked
/// yet.</summary>
internal static class DemoReview
{
    /// <summary>So that there is something to read in it.</summary>
    private const int Fewest = 12;

    public static void Add(OsierwandDb db, IReadOnlyCollection<Person> people, DateTimeOffset now)
    {
        var lead = people.Single(it => it.UserName == "maud");
        var records = db.Inspections.Local.ToLookup(it => it.RoundId);
        var open = db.Rounds.Local.Where(it => it.State == RoundState.Open).Select(it => it.SiteId).ToHashSet();
        var walked = db
            .Rounds.Local.Where(it => it.State == RoundState.Closed && records[it.Id].Count() >= Fewest)
            .OrderByDescending(it => records[it.Id].Any(record => record.Outcome == Outcome.Fail))
            .ThenByDescending(it => it.StartsOn)
            .ThenBy(it => open.Contains(it.SiteId))
            .ThenBy(it => it.Name, StringComparer.Ordinal)
            .First();
        (walked.State, walked.ClosedOn, walked.IsPlanned) = (RoundState.Review, null, true);
        foreach (var item in records[walked.Id].Select(it => it.ItemId).Distinct())
            db.RoundItems.Add(new() { RoundId = walked.Id, ItemId = item });
        foreach (var round in db.Rounds.Local.Where(it => it.State == RoundState.Closed).ToList())
            if (records[round.Id].OrderBy(it => it.BookNumber).LastOrDefault() is { } last && round.ClosedOn is { } day)
                db.RoundSignatures.Add(
                    new()
                    {
                        RoundId = round.Id,
                        At = round.Site is { } site ? site.StartOf(day).AddHours(16) : new(day, new(16, 0), TimeSpan.Zero),
                        Day = day,
                        PersonId = lead.Id,
                        By = lead.DisplayName,
                        Records = records[round.Id].Count(),
                        LastNumber = last.BookNumber,
                        LastHash = last.Hash,
                        IsOwnWork = records[round.Id].Any(it => it.TechnicianId == lead.Id),
                    }
                );
        AskForReport(db, lead, now);
    }

    /// <summary>The hospital's last signed round waits to be printed: whoever looks in as its reader finds a paper.</summary>
    private static void AskForReport(OsierwandDb db, Person lead, DateTimeOffset now)
    {
        var hospital = db.Clients.Local.Single(it => it.Code == DemoCatalogue.Viewer.Client).Id;
        var sites = db.Sites.Local.Where(it => it.ClientId == hospital).Select(it => it.Id).ToHashSet();
        var round = db
            .Rounds.Local.Where(it => it.State == RoundState.Closed && sites.Contains(it.SiteId))
            .OrderByDescending(it => it.StartsOn)
            .First();
        db.KeptPapers.Add(
            new()
            {
                Id = Guid.CreateVersion7(),
                Paper = LongPaper.Report,
                RoundId = round.Id,
                ClientId = hospital,
                Title = RoundPapers.Title(LongPaper.Report, round.Name),
                AskedById = lead.Id,
                AskedBy = lead.DisplayName,
                AskedAt = now,
            }
        );
    }
}
