/** A clock that is off by less needs no correcting: the server's own is told to the second, and answers take their time. */
const FORGIVEN_MS = 30_000;

let ahead = 0;

/** Every answer says what time it is at the server. What happens on this bench is dated by that, whatever this device's clock says. */
export function hearServerTime(date: string | null) {
  const server = date ? Date.parse(date) : NaN;
  if (Number.isNaN(server)) return;
  const off = Date.now() - server;
  ahead = Math.abs(off) > FORGIVEN_MS ? off : 0;
}

/** Now, by the server's clock as far as it was heard. */
export const now = () => new Date(Date.now() - ahead);
