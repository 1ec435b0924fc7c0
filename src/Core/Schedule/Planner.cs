namespace Osierwand.Core.Schedule;

/// <summary>
/// Lays what falls due into the days that people have. Nothing comes after its date while an earlier day has room for it; below that,
/// few visits and little that comes early. It starts from the days on which each site would best be visited for itself, packs what is
/// due earliest first, and then mends: visits are joined, and moved towards the dates of what they hold.
/// </summary>
public static class Planner
{
    /// <summary>Each pass may open room for the next; after these hardly anything is won.</summary>
    private const int Passes = 6;

    /// <summary>Days that count as one date.</summary>
    private const int Near = 7;

    /// <summary>Of a late visit's time, travel counted, what at least should be work; where no day offers it, the best there is.</summary>
    private const double WorthTheJourney = 0.7;

    public static VisitPlan Plan(PlanSetting setting)
    {
        var draft = new Draft(setting);
        var late = new List<Batch>();
        // What only some may do has the first choice of their days, the urgent before the rest.
        foreach (var part in Batches(setting).GroupBy(batch => batch.Order).OrderBy(it => it.Key))
        {
            var left = part.Select(batch => batch with { Work = draft.Pack(batch) }).ToArray();
            // It could come later than it was meant to, and in time still.
            var later = left.SelectMany(batch => ByDate(setting, batch)).OrderBy(batch => batch.On).ToArray();
            late.AddRange(later.Select(batch => batch with { Work = draft.Pack(batch) }));
        }
        foreach (var batch in late.OrderBy(batch => batch.On))
            draft.PackLate(batch);
        draft.BringInTime();
        for (var pass = 0; pass < Passes && draft.Mend(); pass++)
            draft.BringInTime();
        return new(setting, draft.Places);
    }

    /// <summary>In parts that fall due within a few days of each other.</summary>
    private static IEnumerable<Batch> ByDate(PlanSetting setting, Batch batch)
    {
        var part = new List<int>();
        foreach (var work in batch.Work.OrderBy(work => setting.InTime[work]))
        {
            if (part.Count > 0 && setting.InTime[work] >= setting.InTime[part[0]].AddDays(Near))
            {
                yield return batch with
                {
                    On = setting.InTime[part[0]],
                    Work = part,
                };
                part = [];
            }
            part.Add(work);
        }
        if (part.Count > 0)
            yield return batch with
            {
                On = setting.InTime[part[0]],
                Work = part,
            };
    }

    /// <summary>What one visit would best hold.</summary>
    private sealed record Batch(int Site, DateOnly On, (bool IsCommon, bool CanWait) Order, List<int> Work);

    /// <summary>The most urgent first.</summary>
    private static IEnumerable<Batch> Batches(PlanSetting setting)
    {
        var batches = new List<Batch>();
        bool[] isCommon =
        [
            .. Enumerable
                .Range(0, setting.Work.Length)
                .Select(work => Enumerable.Range(0, setting.Days.Length).All(day => setting.May(day, work))),
        ];
        for (var site = 0; site < setting.Sites.Length; site++)
        {
            var days = PlanBound.BestDays(setting, site);
            if (days.Length == 0)
                continue;
            batches.AddRange(
                PlanBound
                    .WorkAt(setting, site)
                    .Select(work => (Work: work, On: days.Where(day => day <= setting.InTime[work]).DefaultIfEmpty(days[0]).Last()))
                    .GroupBy(it => (it.On, Order: (isCommon[it.Work], setting.InTime[it.Work] >= it.On.AddDays(Near))))
                    .Select(it => new Batch(site, it.Key.On, it.Key.Order, [.. it.Select(one => one.Work)]))
            );
        }
        return batches.OrderBy(it => it.Work.Min(work => setting.InTime[work])).ThenBy(it => it.On).ThenBy(it => it.Site);
    }

    private sealed class Draft
    {
        private readonly PlanSetting setting;
        private readonly TimeSpan[] left;

        /// <summary>By day and site: how many items are done.</summary>
        private readonly int[,] visits;

        public Draft(PlanSetting setting)
        {
            this.setting = setting;
            left = [.. setting.Days.Select(it => it.Time)];
            visits = new int[setting.Days.Length, setting.Sites.Length];
            Places = new int[setting.Work.Length];
            Array.Fill(Places, VisitPlan.Nowhere);
        }

        public int[] Places { get; }

        private DateOnly On(int day) => setting.Days[day].Day;

        private TimeSpan TravelTo(int day, int site) => visits[day, site] > 0 ? TimeSpan.Zero : setting.Sites[site].Travel;

        private bool HasRoom(int day, int work) =>
            setting.May(day, work) && left[day] >= setting.Work[work].Time + TravelTo(day, setting.SiteOf[work]);

        private void Put(int work, int day)
        {
            var site = setting.SiteOf[work];
            left[day] -= setting.Work[work].Time + TravelTo(day, site);
            visits[day, site]++;
            Places[work] = day;
        }

        private void Take(int work)
        {
            var (day, site) = (Places[work], setting.SiteOf[work]);
            if (day == VisitPlan.Nowhere)
                return;
            visits[day, site]--;
            left[day] += setting.Work[work].Time + TravelTo(day, site);
            Places[work] = VisitPlan.Nowhere;
        }

        private void Move(int work, int day)
        {
            Take(work);
            Put(work, day);
        }

        /// <summary>On the day it is meant for or before it, in as few visits as it takes.</summary>
        /// <returns>What found no room before its date.</returns>
        public List<int> Pack(Batch batch)
        {
            var waiting = batch.Work;
            while (waiting.Count > 0)
            {
                var (best, taken) = (VisitPlan.Nowhere, new List<int>());
                var most = (Taken: 0L, Saved: long.MinValue);
                // The day that takes the most of it; of those the one that is paid with least, the latest at last.
                for (var day = setting.Days.Length - 1; day >= 0; day--)
                {
                    if (On(day) > batch.On)
                        continue;
                    var fits = Fitting(waiting, day, batch.Site);
                    var worth = (
                        fits.Sum(work => setting.Work[work].Time.Ticks),
                        -TravelTo(day, batch.Site).Ticks - fits.Sum(work => setting.Wasted(work, On(day)).Ticks)
                    );
                    if (fits.Count > 0 && worth.CompareTo(most) > 0)
                        (best, taken, most) = (day, fits, worth);
                }
                if (best == VisitPlan.Nowhere)
                    break;
                foreach (var work in taken)
                    Put(work, best);
                waiting = [.. waiting.Except(taken)];
            }
            return waiting;
        }

        /// <summary>On the earliest days after it, but together: a journey for a single item would take the time that another
        /// needs.</summary>
        public void PackLate(Batch batch)
        {
            var waiting = batch.Work;
            while (waiting.Count > 0)
            {
                var (best, taken, most) = (VisitPlan.Nowhere, new List<int>(), 0.0);
                for (var day = 0; day < setting.Days.Length && most < WorthTheJourney; day++)
                {
                    var fits = Fitting(waiting, day, batch.Site);
                    var time = fits.Sum(work => (double)setting.Work[work].Time.Ticks);
                    var worth = fits.Count == waiting.Count ? 1 : time / (time + TravelTo(day, batch.Site).Ticks + 1);
                    if (fits.Count > 0 && worth > most)
                        (best, taken, most) = (day, fits, worth);
                }
                if (best == VisitPlan.Nowhere)
                    return;
                foreach (var work in taken)
                    Put(work, best);
                waiting = [.. waiting.Except(taken)];
            }
        }

        private List<int> Fitting(List<int> waiting, int day, int site)
        {
            var (room, fits) = (left[day] - TravelTo(day, site), new List<int>());
            foreach (var work in waiting)
                if (setting.May(day, work) && setting.Work[work].Time <= room)
                {
                    room -= setting.Work[work].Time;
                    fits.Add(work);
                }
            return fits;
        }

        /// <summary>What is late or nowhere goes where it is in time, while any day has room for it; else as early as it can.</summary>
        public void BringInTime()
        {
            for (var isMoved = true; isMoved; )
            {
                isMoved = false;
                for (var work = 0; work < Places.Length; work++)
                    if (!IsInTime(work) && Earlier(work) is { } day)
                    {
                        Move(work, day);
                        isMoved = true;
                    }
            }
        }

        private bool IsInTime(int work) => Places[work] != VisitPlan.Nowhere && On(Places[work]) <= setting.InTime[work];

        /// <summary>The day that suits something late better than where it is.</summary>
        private int? Earlier(int work)
        {
            var (now, site) = (Places[work], setting.SiteOf[work]);
            (bool, int, int)? best = null;
            int? found = null;
            for (var day = 0; day < setting.Days.Length; day++)
            {
                if ((now != VisitPlan.Nowhere && On(day) >= On(now)) || !HasRoom(day, work))
                    continue;
                var isInTime = On(day) <= setting.InTime[work];
                // In time: where somebody is anyway, and late rather than early. After its date: as early as can be.
                var worth = (
                    isInTime,
                    isInTime ? (visits[day, site] > 0 ? 1 : 0) : -On(day).DayNumber,
                    isInTime ? On(day).DayNumber : visits[day, site]
                );
                if (best is null || worth.CompareTo(best.Value) > 0)
                    (best, found) = (worth, day);
            }
            return found;
        }

        /// <summary>Saves travel and what comes early, without making anything late.</summary>
        /// <returns>Something was saved.</returns>
        public bool Mend()
        {
            var isMended = false;
            foreach (var (day, site, work) in Visits())
            {
                // It may have been dissolved meanwhile.
                var there = work.Where(it => Places[it] == day).ToArray();
                if (there.Length > 0)
                    isMended |= Dissolve(day, there) || Shift(day, site, there) || Spread(day, there);
            }
            return isMended;
        }

        /// <summary>The smallest first: they are the easiest to be rid of.</summary>
        private List<(int Day, int Site, int[] Work)> Visits() =>
            [
                .. Enumerable
                    .Range(0, Places.Length)
                    .Where(work => Places[work] != VisitPlan.Nowhere)
                    .GroupBy(work => (Day: Places[work], Site: setting.SiteOf[work]))
                    .Select(it => (it.Key.Day, it.Key.Site, Work: it.ToArray()))
                    .OrderBy(it => it.Work.Length)
                    .ThenBy(it => it.Day)
                    .ThenBy(it => it.Site),
            ];

        /// <summary>Its items go to other visits of the same site: one journey less.</summary>
        private bool Dissolve(int day, int[] work)
        {
            var paid = setting.Sites[setting.SiteOf[work[0]]].Travel;
            foreach (var it in work)
            {
                if (Joined(it, day) is not { } to)
                {
                    Restore(day, work);
                    return false;
                }
                paid += setting.Wasted(it, On(day)) - setting.Wasted(it, On(to));
                Move(it, to);
            }
            if (paid > TimeSpan.Zero)
                return true;
            Restore(day, work);
            return false;
        }

        private void Restore(int day, int[] work)
        {
            foreach (var it in work)
                Take(it);
            foreach (var it in work)
                Put(it, day);
        }

        /// <summary>The latest other visit of its site that has room for it and makes it no later than it is.</summary>
        private int? Joined(int work, int not)
        {
            var last = Latest(work);
            for (var day = setting.Days.Length - 1; day >= 0; day--)
                if (day != not && On(day) <= last && visits[day, setting.SiteOf[work]] > 0 && HasRoom(day, work))
                    return day;
            return null;
        }

        /// <summary>The last day on which it is in time; of what is late, where it is.</summary>
        private DateOnly Latest(int work) => IsInTime(work) ? setting.InTime[work] : On(Places[work]);

        /// <summary>All of it on one later day.</summary>
        private bool Shift(int day, int site, int[] work)
        {
            var (last, time) = (work.Min(Latest), TimeSpan.FromTicks(work.Sum(it => setting.Work[it].Time.Ticks)));
            for (var to = setting.Days.Length - 1; to >= 0 && On(to) > On(day); to--)
                if (
                    On(to) <= last
                    && left[to] >= time + TravelTo(to, site)
                    && work.All(it => setting.May(to, it))
                    && IsCheaper(day, to, work)
                )
                {
                    foreach (var it in work)
                        Move(it, to);
                    return true;
                }
            return false;
        }

        private bool IsCheaper(int day, int to, int[] work) => work.Any(it => setting.Wasted(it, On(to)) < setting.Wasted(it, On(day)));

        /// <summary>Single items of it to later visits of the same site.</summary>
        private bool Spread(int day, int[] work)
        {
            var isMoved = false;
            foreach (var it in work)
                if (Joined(it, day) is { } to && setting.Wasted(it, On(to)) < setting.Wasted(it, On(day)))
                {
                    Move(it, to);
                    isMoved = true;
                }
            return isMoved;
        }
    }
}
