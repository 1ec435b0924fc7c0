namespace Osierwand.Server.Schedule;

/// <summary>A calendar that some other program reads by its secret link.</summary>
/// <param name="What">Whose dates it holds, in words.</param>
/// <param name="ReadAt">When it was last read; null where it never was.</param>
public sealed record CalendarCard(Guid Id, string What, string By, DateTimeOffset MadeAt, DateTimeOffset? ReadAt);

public sealed record CalendarsPage(IReadOnlyList<CalendarCard> Calendars, IReadOnlyList<CalendarChoice> Choices);

/// <param name="ClientId">Null is one's own bench days.</param>
public sealed record CalendarChoice(Guid? ClientId, string Text);

public sealed record MakeCalendar(Guid? ClientId);

/// <param name="Path">Of the calendar. It is told this once; the house keeps no more than its fingerprint.</param>
public sealed record MadeCalendar(Guid Id, string Path);
