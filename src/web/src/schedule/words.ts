const short = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const named = new Intl.DateTimeFormat('en-GB', {
  weekday: 'short',
  day: 'numeric',
  month: 'short',
  timeZone: 'UTC',
});
const at = (iso: string) => new Date(`${iso}T00:00:00Z`);

/** "30 Nov". */
export const shortDay = (iso: string) => short.format(at(iso));

/** "Mon, 30 Nov". */
export const namedDay = (iso: string) => named.format(at(iso));

/** "Mon, 30 Nov to Wed, 2 Dec". */
export const span = (from: string, to: string) =>
  from === to ? namedDay(from) : `${namedDay(from)} to ${namedDay(to)}`;

/** "2 h 20", "55 min". */
export const hours = (minutes: number) =>
  minutes < 60
    ? `${Math.round(minutes)} min`
    : `${Math.floor(Math.round(minutes) / 60)} h ${String(Math.round(minutes) % 60).padStart(2, '0')}`;

/** As the board's query names them. */
export type DueBy = 'site' | 'kind' | 'tier';
