/**
 * A barcode scanner is a keyboard that types faster than any hand and ends with Enter. Fields that expect something else than a tag
 * use this to tell a scan from typing, so that a tag of digits never becomes a reading.
 */
/** Mean gap between keys: scanners keep under 20 ms, hands on a number pad over 100 ms. */
const fastestHandMs = 70;
const shortestTag = 4;

type Listener = (tag: string) => void;
const listeners = new Set<Listener>();

export function onScan(listener: Listener) {
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

export const announceScan = (tag: string) => listeners.forEach((listener) => listener(tag));

/** Watches the rhythm of one field. */
export class Rhythm {
  private first = 0;
  private last = 0;
  private count = 0;

  /** To be called for every printable key. */
  key(at: number) {
    if (this.count === 0) this.first = at;
    this.last = at;
    this.count++;
  }

  reset() {
    this.count = 0;
  }

  get wasScan() {
    return this.count >= shortestTag && (this.last - this.first) / (this.count - 1) < fastestHandMs;
  }
}
