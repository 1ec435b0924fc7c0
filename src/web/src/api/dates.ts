const day = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  timeZone: 'UTC',
});
const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });

/** "17 Nov 2026" from an ISO date. */
export const showDate = (iso: string) => day.format(new Date(`${iso.slice(0, 10)}T00:00:00Z`));

export const showTime = (iso: string) => clock.format(new Date(iso));

/** "6 days over", "due today", "in 16 days"; a never inspected item is due at once. */
export function showDue(daysOver: number | null | undefined): string {
  if (daysOver === null || daysOver === undefined) return 'never inspected';
  if (daysOver === 0) return 'due today';
  const days = Math.abs(daysOver);
  return daysOver > 0
    ? `${days} ${days === 1 ? 'day' : 'days'} over`
    : `in ${days} ${days === 1 ? 'day' : 'days'}`;
}

const moment = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
});

/** "17 Nov 2026, 14:05", where the reader is. */
export const showMoment = (iso: string) => moment.format(new Date(iso));
