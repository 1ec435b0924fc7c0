using Osierwand.Server.Hosting;
using Osierwand.Server.People;

namespace Osierwand.Server.Schedule;

/// <summary>What falls due when, and the rounds that are made of it.</summary>
internal static class ScheduleEndpoints
{
    public static void MapSchedule(this RouteGroupBuilder api)
    {
        var schedule = api.MapGroup("/schedule").WithTags("Schedule");
        schedule.MapGet("/", DueWeeks.Board).For(Access.Reader);
        schedule.MapPost("/proposal", Proposals.Ask).For(Access.Worker).TakesUpTo(Limits.SheetBody);
        schedule.MapPost("/rounds", Proposals.Take).For(Access.Lead).TakesUpTo(Limits.SheetBody);
        schedule.MapGet("/near", NearLimits.All).For(Access.Reader);
        schedule.MapPost("/near/{itemId:guid}/forward", NearLimits.Bring).For(Access.Worker);
        schedule.MapGet("/hours", BenchDays.Page).For(Access.Worker);
        schedule.MapPut("/hours/{personId:guid}", BenchDays.SetPerson).For(Access.Lead);
        schedule.MapPut("/sites/{siteId:guid}/travel", BenchDays.SetSite).For(Access.Lead);
    }
}
