import { useRef } from 'react';

/**
 * The number under which something is sent: the same for the same words, however often they are sent, so that a lost answer stores nothing
 * twice; another for any other, so that what was said anew is never taken for what was said before.
 */
export function useNumberOf() {
  const last = useRef<{ words: string; id: string } | null>(null);
  return {
    of(words: string): string {
      if (last.current?.words !== words) last.current = { words, id: crypto.randomUUID() };
      return last.current.id;
    },
    /** The next one is another, though its words be the same. */
    done() {
      last.current = null;
    },
  };
}
