import { useEffect, useRef } from 'react';
import { Rhythm } from '../frame/scanner';

/** The rhythm of what goes into the reading field, first key included, so that a scanned tag of digits is told from a reading. */
export const readingRhythm = new Rhythm();

interface Keys {
  primary: () => void;
  again: () => void;
  bad: () => void;
  notTested: () => void;
  keys: () => void;
  stop: () => void;
  move: (by: number) => void;
  enabled: boolean;
  /** A digit goes to the reading field of the current step. */
  takesNumber: boolean;
}

/** Letters stay free for tags; everything else is on the number pad: Enter goes on, × again, − bad, / not tested. */
export function useBenchKeys(keys: Keys) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const it = latest.current;
      const target = event.target as HTMLElement;
      if (!it.enabled || event.ctrlKey || event.altKey || event.metaKey || event.isComposing) return;
      if (event.key === 'Escape') return it.stop();
      const field = target.closest('input, textarea, select, button, a, [role=combobox]');
      const isScan = field instanceof HTMLInputElement && field.id === 'scan';
      if (field && !(isScan && field.value === '')) return;
      if (it.takesNumber && /^[0-9.<>]$/.test(event.key)) {
        const reading = document.getElementById('reading');
        if (!(reading instanceof HTMLInputElement)) return;
        readingRhythm.reset();
        readingRhythm.key(event.timeStamp);
        // The key itself lands in the field that now has the focus.
        reading.focus();
        return;
      }
      const action = {
        Enter: it.primary,
        '*': it.again,
        '-': it.bad,
        '/': it.notTested,
        '?': it.keys,
        ArrowUp: () => it.move(-1),
        ArrowDown: () => it.move(1),
      }[event.key];
      if (!action || event.repeat) return;
      event.preventDefault();
      action();
    };
    document.addEventListener('keydown', onKey);
    return () => document.removeEventListener('keydown', onKey);
  }, []);
}
