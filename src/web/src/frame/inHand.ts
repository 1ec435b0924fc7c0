import { useSyncExternalStore } from 'react';

/** What a person is in the middle of. A scan elsewhere asks before it leaves it. */
export interface InHand {
  tag: string;
  /** "Kettle is half done." */
  text: string;
  /** "Park it and go on" */
  leaveText: string;
  hasWork: () => boolean;
  /** A voltage is on, or about to be: nothing leaves the page. */
  isBusy: () => boolean;
  leave: () => Promise<void>;
  /** It has no tag yet: a scan is taken for its own. */
  takesTag?: (tag: string) => void;
}

let current: InHand | null = null;
const listeners = new Set<() => void>();

export function takeInHand(it: InHand): () => void {
  current = it;
  listeners.forEach((listener) => listener());
  return () => {
    if (current === it) current = null;
    listeners.forEach((listener) => listener());
  };
}

export const inHand = () => current;

export const useInHand = () =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => current,
  );
