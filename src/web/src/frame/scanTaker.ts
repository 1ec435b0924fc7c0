/** A page whose work is scanning takes every scan itself, typed ones too, until it is left. */
type Taker = (scanned: string) => void;

let taker: Taker | null = null;

export function takeScans(take: Taker) {
  taker = take;
  return () => {
    if (taker === take) taker = null;
  };
}

/** @returns Whether the page took it. */
export function offerScan(scanned: string) {
  taker?.(scanned);
  return taker !== null;
}
