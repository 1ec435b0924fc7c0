import { useEffect, useRef } from 'react';
import { instrument } from './instrument';

interface Keys {
  primary: () => void;
  again: () => void;
  bad: () => void;
  notTested: () => void;
  keys: () => void;
  move: (by: number) => void;
  /** To the cell beside it or the next step, where there is none. */
  moveAcross: (by: number) => void;
  /** False while something is asked: then its own keys count, and none of these. */
  enabled: boolean;
  /** A digit, a sign or a point goes to the reading field of the step in hand. */
  takesNumber: () => boolean;
}

/** Letters stay free for tags; everything else is on the number pad: Enter goes on, × again, − bad, / not tested. Esc always stops. */
export function useBenchKeys(keys: Keys) {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    // Before any dialog or field: what runs can be stopped from everywhere.
    const onEscape = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || instrument.get().is === 'idle') return;
      event.preventDefault();
      event.stopImmediatePropagation();
      instrument.stop();
    };
    const onKey = (event: KeyboardEvent) => {
      const it = latest.current;
      if (!it.enabled || event.repeat || event.ctrlKey || event.altKey || event.metaKey || event.isComposing)
        return;
      // While something runs no key but Esc does anything: nothing may cover it.
      if (instrument.isBusy) return;
      const target = event.target as HTMLElement;
      const field = target.closest('input, textarea, select, button, a, [role=combobox]');
      const isScan = field instanceof HTMLInputElement && field.id === 'scan';
      // The button that is held has Enter for itself; whatever else is struck there is meant for the sheet.
      const isHold = field?.id === 'hold';
      if (isHold && (event.key === 'Enter' || event.key === ' ')) return;
      if (field && !isHold && !(isScan && field.value === '')) return;
      if (/^[0-9.<>,-]$/.test(event.key) && it.takesNumber()) {
        // The key itself lands in the field that now has the focus.
        document.getElementById('reading')?.focus();
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
        ArrowLeft: () => it.moveAcross(-1),
        ArrowRight: () => it.moveAcross(1),
      }[event.key];
      if (!action) return;
      event.preventDefault();
      action();
    };
    document.addEventListener('keydown', onEscape, true);
    document.addEventListener('keydown', onKey);
    return () => {
      document.removeEventListener('keydown', onEscape, true);
      document.removeEventListener('keydown', onKey);
    };
  }, []);
}
