using System.Globalization;
using Osierwand.Core.Rounds;

namespace Osierwand.Core.Schedule;

/// <summary>A plan in words: what it holds, what it is paid with, and what a move of it costs.</summary>
public static class PlanText
{
    private static readonly TimeSpan NotWorthSaying = TimeSpan.FromMinutes(1);

    public static string Items(int count) => count == 1 ? "1 item" : string.Create(CultureInfo.InvariantCulture, $"{count} items");

    /// <summary>"3 rounds with 40 items, none after its date. 2 h 10 on the road, 12 min of bench time thrown away by coming
    /// early."</summary>
    public static string Summary(VisitPlan plan, int rounds)
    {
        var (cost, planned) = (plan.Cost, plan.Setting.Work.Length - plan.Cost.NotPlaced);
        return $"{rounds} {(rounds == 1 ? "round" : "rounds")} with {Items(planned)}"
            + (cost.Late == 0 ? ", none after its date" : $", {cost.Late} after {(cost.Late == 1 ? "its" : "their")} date")
            + $". {DayPlan.Minutes(cost.Travel)} on the road, {DayPlan.Minutes(cost.Wasted)} of bench time thrown away by coming early.";
    }

    /// <summary>How far it is from the least there could be.</summary>
    public static string Bound(VisitPlan plan)
    {
        var (paid, least) = (plan.Cost.Paid, plan.LeastPaid);
        return paid - least < NotWorthSaying
            ? "No plan with the same in time is paid with less."
            : $"No plan with the same in time is paid with less than {DayPlan.Minutes(least)} together; this one is paid with {DayPlan.Minutes(paid)}.";
    }

    /// <summary>"1 h 24 at the bench, 40 min on the road, 3 min lost by coming early".</summary>
    public static string Price(ProposedRound round) =>
        $"{DayPlan.Minutes(round.Bench)} at the bench, {DayPlan.Minutes(round.Travel)} on the road"
        + (round.Wasted < NotWorthSaying ? "" : $", {DayPlan.Minutes(round.Wasted)} lost by coming early");

    /// <summary>"25 min more on the road, 3 more after their date"; what a move costs against the plan before it.</summary>
    public static string Price(PlanCost before, PlanCost after)
    {
        static string Time(TimeSpan by, string what) => $"{DayPlan.Minutes(by.Duration())} {(by > TimeSpan.Zero ? "more" : "less")} {what}";
        static string Count(int by, string what) =>
            string.Create(CultureInfo.InvariantCulture, $"{Math.Abs(by)} {(by > 0 ? "more" : "fewer")} {what}");
        var (travel, wasted) = (after.Travel - before.Travel, after.Wasted - before.Wasted);
        string[] lines =
        [
            .. travel == TimeSpan.Zero ? (string[])[] : [Time(travel, "on the road")],
            .. wasted.Duration() < NotWorthSaying ? (string[])[] : [Time(wasted, "lost by coming early")],
            .. after.Late == before.Late ? (string[])[] : [Count(after.Late - before.Late, "after their date")],
            .. after.NotPlaced == before.NotPlaced ? (string[])[] : [Count(after.NotPlaced - before.NotPlaced, "without a day")],
        ];
        return lines.Length == 0 ? "costs nothing" : string.Join(", ", lines);
    }
}
