/**
 * Who has the keyboard, and what a key does: decided here and nowhere else on the bench. While anything is open over the sheet it has the
 * keyboard to itself. What is typed where nothing takes it is kept and told: Enter then says so and does nothing, for it may have been
 * meant as a reading.
 */
export interface KeyboardAt {
  /** A dialog, a list or a menu is open, or the sheet shows itself to a customer. */
  isCovered: boolean;
  /** Something is being measured: no key but Esc does anything. */
  isBusy: boolean;
  /** What has the focus. An empty scan field lets the keys through. */
  focus: 'sheet' | 'emptyScan' | 'hold' | 'control';
  /** The step in hand has a field for a reading. */
  takesNumber: boolean;
  /** What says bad in so many words, where the step in hand is answered good or bad; null elsewhere. */
  saysBad: RegExp | null;
  /** What was typed since the step was shown, and nothing took. */
  stray: string;
}

export type KeyDeed =
  | { do: 'nothing' }
  /** The key lands in the reading's field. */
  | { do: 'read' }
  | { do: 'keep'; stray: string }
  /** Enter on what nothing understood: told, and kept. */
  | { do: 'refuse'; stray: string }
  /** What a display shows of an open circuit, typed where good or bad is asked. */
  | { do: 'proposeBad'; stray: string }
  | { do: 'primary' | 'again' | 'bad' | 'notTested' | 'keys' | 'up' | 'down' | 'left' | 'right' };

const nothing: KeyDeed = { do: 'nothing' };

const deeds: Record<string, KeyDeed> = {
  Enter: { do: 'primary' },
  '*': { do: 'again' },
  '-': { do: 'bad' },
  '/': { do: 'notTested' },
  '?': { do: 'keys' },
  ArrowUp: { do: 'up' },
  ArrowDown: { do: 'down' },
  ArrowLeft: { do: 'left' },
  ArrowRight: { do: 'right' },
};

export function keyDeed(key: string, at: KeyboardAt): KeyDeed {
  if (at.isCovered || at.isBusy || at.focus === 'control') return nothing;
  // The button that is held has Enter for itself; whatever else is struck there is meant for the sheet.
  if (at.focus === 'hold' && (key === 'Enter' || key === ' ')) return nothing;
  if (at.takesNumber && /^[0-9.<>,-]$/.test(key)) return { do: 'read' };
  const { stray } = at;
  if (stray !== '') {
    if (key === 'Enter') return { do: at.saysBad?.test(stray.trim()) ? 'proposeBad' : 'refuse', stray };
    if (key === 'Backspace') return { do: 'keep', stray: stray.slice(0, -1) };
    if (key === 'Escape') return { do: 'keep', stray: '' };
    // Within something typed a sign is a sign: "-0.5" is no answer.
    if (key.length === 1 && at.focus !== 'emptyScan') return { do: 'keep', stray: stray + key };
    return nothing;
  }
  const deed = deeds[key];
  if (deed) return deed;
  // In the scan field it is seen, and Enter looks for a tag.
  return key.length === 1 && key !== ' ' && at.focus !== 'emptyScan' ? { do: 'keep', stray: key } : nothing;
}
