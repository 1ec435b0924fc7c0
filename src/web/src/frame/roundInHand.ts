import { useSyncExternalStore } from 'react';

/** The round being walked: scans are looked up in it first, and its rules stand in the frame. Kept across reloads. */
export interface RoundInHand {
  id: string;
  name: string;
  standard: string;
}

const key = 'osierwand.round';
const listeners = new Set<() => void>();

/** What is kept may be broken, or another version's: then no round is in hand, and nothing falls over. */
function read(): RoundInHand | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key) ?? 'null') as Partial<RoundInHand> | null;
    const texts = [kept?.id, kept?.name, kept?.standard];
    return texts.every((text) => typeof text === 'string') ? (kept as RoundInHand) : null;
  } catch {
    return null;
  }
}

let current = read();

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function set(round: RoundInHand | null) {
  if (JSON.stringify(round) === JSON.stringify(current)) return;
  current = round;
  try {
    if (round) localStorage.setItem(key, JSON.stringify(round));
    else localStorage.removeItem(key);
  } catch {
    // Kept for this page only.
  }
  listeners.forEach((listener) => listener());
}

/**
 * The server told of a round because it was asked for one. Somebody who chose another meanwhile keeps that: an answer that
 * comes late, or an effect that runs late, would put the next scan into the wrong round.
 */
export function roundTold(askedFor: string | null, round: RoundInHand) {
  if ((current?.id ?? null) === askedFor) set(round);
}

/** At sign-out: the next person chooses anew. */
export const forgetRound = () => set(null);

export function useRoundInHand() {
  return [useSyncExternalStore(subscribe, () => current), set] as const;
}
