import { useCallback, useEffect, useRef } from 'react';
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
  isAnswered: () => boolean;
}

/** Everything that lies over the page and takes keys: dialogs, menus, lists. */
const isCovered = () =>
  document.querySelector('.MuiModal-root:not([aria-hidden=true]), [role=listbox], [role=menu]') !== null;

/** For a list on the sheet: after a choice the keys are the sheet's again; the list's own button would search by the next one. */
export const freesTheKeys = { select: { MenuProps: { disableRestoreFocus: true } } };

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
    // Before any dialog or field: what runs can be stopped from everywhere.
    const onEscape = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || instrument.get().is === 'idle') return;
      event.preventDefault();
      event.stopImmediatePropagation();
      instrument.stop();
    };
    const onKey = (event: KeyboardEvent) => {
      const it = latest.current;
      if (event.repeat || event.ctrlKey || event.altKey || event.metaKey || event.isComposing) return;
      const deed = keyDeed(event.key, {
        isCovered: !it.enabled || isCovered(),
        isBusy: instrument.isBusy,
        focus: focusOf(event),
        takesNumber: it.takesNumber(),
        isAnswered: it.isAnswered(),
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
    document.addEventListener('keydown', onEscape, true);
    document.addEventListener('keydown', onKey);
    // A scan is no typing: whatever of it was kept is the scan's.
    const forget = onScan(
      () => keep(''),
      () => keep(''),
    );
    return () => {
      forget();
      document.removeEventListener('keydown', onEscape, true);
      document.removeEventListener('keydown', onKey);
    };
  }, [keep]);
}
