import { useCallback, useEffect, useRef } from 'react';
import { isCovered } from '../frame/covered';
import { onScan } from '../frame/scanner';
import { instrument } from './instrument';
import { type KeyDeed, keyDeed, type KeyboardAt } from './keyboard';

type Deed = Exclude<KeyDeed['do'], 'nothing' | 'read' | 'keep' | 'refuse' | 'proposeBad'>;

interface Keys {
  deeds: Record<Deed, () => void>;
  proposeBad: (words: string) => void;
  /** Says what was typed and not understood; null once nothing is kept any more. */
  stray: (text: string | null, isRefused: boolean) => void;
  /** The step in hand: what was typed at another one is past. */
  step: string | null;
  /** False while something is asked: then its own keys count, and none of these. */
  enabled: boolean;
  takesNumber: () => boolean;
  saysBad: () => RegExp | null;
}

/** For a list on the sheet: after a choice the keys are the sheet's again; the list's own button would search by the next one. */
export const freesTheKeys = {
  select: { onClose: () => setTimeout(() => (document.activeElement as HTMLElement | null)?.blur()) },
};

function focusOf(event: KeyboardEvent): KeyboardAt['focus'] {
  const field = (event.target as HTMLElement).closest('input, textarea, select, button, a, [role=combobox]');
  if (!field) return 'sheet';
  if (field.id === 'hold') return 'hold';
  return field instanceof HTMLInputElement && field.id === 'scan' && field.value === ''
    ? 'emptyScan'
    : 'control';
}

/** Letters stay free for tags; everything else is on the number pad: Enter goes on, × again, − bad, / not tested. Esc always stops. */
export function useBenchKeys(keys: Keys) {
  const latest = useRef(keys);
  const stray = useRef('');
  const keep = useCallback((text: string) => {
    if (stray.current === text) return;
    stray.current = text;
    latest.current.stray(text || null, false);
  }, []);
  useEffect(() => {
    if (latest.current.step !== keys.step) keep('');
    latest.current = keys;
  });
  useEffect(() => {
    let wasCovered = false;
    // Before any dialog or field: what runs can be stopped from everywhere.
    const onEarly = (event: KeyboardEvent) => {
      // The Enter that chooses from a list has closed it by the time that it arrives here.
      wasCovered = isCovered();
      if (event.key !== 'Escape' || instrument.get().is === 'idle') return;
      event.preventDefault();
      event.stopImmediatePropagation();
      instrument.stop();
    };
    const onKey = (event: KeyboardEvent) => {
      const it = latest.current;
      if (event.repeat || event.ctrlKey || event.altKey || event.metaKey || event.isComposing) return;
      const deed = keyDeed(event.key, {
        isCovered: !it.enabled || wasCovered || isCovered(),
        isBusy: instrument.isBusy,
        focus: focusOf(event),
        takesNumber: it.takesNumber(),
        saysBad: it.saysBad(),
        stray: stray.current,
      });
      switch (deed.do) {
        case 'nothing':
          return;
        case 'read':
          // The key itself lands in the field that now has the focus.
          document.getElementById('reading')?.focus();
          return keep('');
        case 'keep':
          event.preventDefault();
          return keep(deed.stray);
        case 'refuse':
          event.preventDefault();
          return it.stray(deed.stray, true);
        case 'proposeBad':
          event.preventDefault();
          it.proposeBad(deed.stray);
          return keep('');
        default:
          event.preventDefault();
          it.deeds[deed.do]();
      }
    };
    document.addEventListener('keydown', onEarly, true);
    document.addEventListener('keydown', onKey);
    // A scan is no typing: whatever of it was kept is the scan's.
    const forget = onScan(
      () => keep(''),
      () => keep(''),
    );
    return () => {
      forget();
      document.removeEventListener('keydown', onEarly, true);
      document.removeEventListener('keydown', onKey);
    };
  }, [keep]);
}
