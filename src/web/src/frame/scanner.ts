/**
 * A barcode scanner is a keyboard that types faster and more evenly than any hand, and ends with Enter. Keys are watched for the whole
 * page, so
 * that a scan is a scan wherever the focus is: it is never text in a field, never an answer in a dialog, never a submitted form.
 */
export interface ScannerSettings {
  /** What the scanner sends before each tag; empty where it sends nothing. With a prefix nothing else is needed to tell a scan. */
  prefix: string;
  suffix: 'Enter' | 'Tab';
  /** The slowest scanner of the house, in milliseconds a key. */
  slowestMs: number;
}

const usual: ScannerSettings = { prefix: '', suffix: 'Enter', slowestMs: 90 };
const key = 'osierwand.scanner';

export function scannerSettings(): ScannerSettings {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<ScannerSettings>;
    return {
      prefix: typeof kept.prefix === 'string' ? kept.prefix.slice(0, 5) : usual.prefix,
      suffix: kept.suffix === 'Tab' ? 'Tab' : 'Enter',
      slowestMs: typeof kept.slowestMs === 'number' && kept.slowestMs > 0 ? kept.slowestMs : usual.slowestMs,
    };
  } catch {
    return usual;
  }
}

export function setScanner(settings: ScannerSettings) {
  try {
    localStorage.setItem(key, JSON.stringify(settings));
  } catch {
    // A device that keeps nothing goes on with what it has.
  }
}

export interface Press {
  key: string;
  at: number;
}

const shortestTag = 4;
/** Faster than this no hand types. */
const surelyMs = 45;
/** A slow scanner is still even; hands are not. */
const evenWithinMs = 30;
const shortestSlowTag = 6;
/** A longer pause ends a burst. */
const pauseMs = 250;
/** A busy device may hold back the rest of a scan for so long. Cut in two, the rest would be another item’s tag. */
const stallMs = 1000;

/** The tag that these presses are, or null when a hand typed them. */
export function tagOf(presses: readonly Press[], settings: ScannerSettings): string | null {
  const text = presses.map((press) => press.key).join('');
  if (explains(presses, settings)) return text.slice(settings.prefix.length) || null;
  if (presses.length < shortestTag) return null;
  const gaps = gapsOf(presses);
  const stall = gaps.findIndex((gap) => gap > pauseMs);
  if (stall >= 0) gaps.splice(stall, 1);
  if (gaps.some((gap) => gap > pauseMs)) return null;
  const mean = gaps.reduce((sum, gap) => sum + gap, 0) / gaps.length;
  if (mean < surelyMs) return text;
  const spread = Math.max(...gaps) - Math.min(...gaps);
  return mean <= settings.slowestMs && spread <= evenWithinMs && presses.length >= shortestSlowTag
    ? text
    : null;
}

/** Letters and digits, and what joins them; the bench's own single keys are others. */
const isOfTag = (press: Press) => /[\p{L}\p{N}-]/u.test(press.key);

interface Listener {
  heard: (tag: string) => void;
  cut: () => void;
}
const listeners = new Set<Listener>();

/** @param cut A scan came of which nobody can tell where it began: it must be scanned again. */
export function onScan(heard: (tag: string) => void, cut: () => void = () => {}) {
  const listener = { heard, cut };
  listeners.add(listener);
  return () => {
    listeners.delete(listener);
  };
}

export const announceScan = (tag: string) => listeners.forEach((listener) => listener.heard(tag));
const announceCut = () => listeners.forEach((listener) => listener.cut());

type Field = HTMLInputElement | HTMLTextAreaElement;
const isField = (it: EventTarget | null): it is Field =>
  it instanceof HTMLInputElement || it instanceof HTMLTextAreaElement;

/** Puts a field back to what it held, in a way that the page's own state follows. */
function restore(field: Field, value: string) {
  if (field.value === value) return;
  const proto =
    field instanceof HTMLInputElement ? HTMLInputElement.prototype : HTMLTextAreaElement.prototype;
  Object.getOwnPropertyDescriptor(proto, 'value')!.set!.call(field, value);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

interface Burst {
  presses: Press[];
  /** Where it went, and what that held before; null outside fields. */
  field: { it: Field; value: string } | null;
}

const gapsOf = (presses: readonly Press[]) => presses.slice(1).map((press, i) => press.at - presses[i]!.at);

/** A prefix says where a scan begins. */
const explains = (presses: readonly Press[], { prefix }: ScannerSettings) =>
  prefix !== '' &&
  presses
    .map((press) => press.key)
    .join('')
    .startsWith(prefix);

/** Whether the burst before a scan is its beginning: by a machine’s speed, by a hand’s, or too short to tell. */
function isBeginning({ presses }: Burst): boolean | null {
  const gaps = gapsOf(presses);
  return gaps.length === 0 ? null : gaps.every((gap) => gap < surelyMs);
}

/** Watches every key of the page before anything else does. */
export function watchScanner(): () => void {
  let { presses, field }: Burst = { presses: [], field: null };
  /** In the same field, shortly before: a hand that typed, or the beginning of a scan that was held back. */
  let before: Burst | null = null;
  const reset = () => {
    presses = [];
    field = null;
    before = null;
  };
  const onKey = (event: KeyboardEvent) => {
    if (event.isComposing || event.ctrlKey || event.altKey || event.metaKey || event.repeat) return reset();
    if (event.key === 'Shift' || event.key === 'CapsLock') return;
    const settings = scannerSettings();
    if (event.key === settings.suffix) {
      const isCut = before && !explains(presses, settings) ? isBeginning(before) : false;
      const from = isCut ? before!.field : field;
      const tag = tagOf(presses, settings);
      const whole = isCut ? tagOf([...before!.presses, ...presses], settings) : tag;
      reset();
      if (tag === null && whole === null) return;
      event.preventDefault();
      event.stopImmediatePropagation();
      if (from) restore(from.it, from.value);
      if (whole === null || isCut === null) announceCut();
      else announceScan(whole);
      return;
    }
    if (event.key.length !== 1) return reset();
    const last = presses.at(-1);
    const gap = last ? event.timeStamp - last.at : Infinity;
    const isStalled = gap <= stallMs && !field && !isField(event.target) && presses.every(isOfTag);
    if (gap > pauseMs && !isStalled) {
      const earlier = gap <= stallMs && field?.it === event.target ? { presses, field } : null;
      reset();
      before = earlier;
      if (isField(event.target)) field = { it: event.target, value: event.target.value };
    } else if (!field && isField(event.target)) field = { it: event.target, value: '' };
    presses.push({ key: event.key, at: event.timeStamp });
  };
  document.addEventListener('keydown', onKey, true);
  return () => document.removeEventListener('keydown', onKey, true);
}
