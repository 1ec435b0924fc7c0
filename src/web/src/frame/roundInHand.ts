import { useSyncExternalStore } from 'react';

/** The round being walked: scans are looked up in it first, and its rules stand in the frame. Kept across reloads. */
export interface RoundInHand {
  id: string;
  name: string;
  standard: string;
}

const key = 'osierwand.round';
const listeners = new Set<() => void>();
let text = localStorage.getItem(key);
let current: RoundInHand | null = text ? (JSON.parse(text) as RoundInHand) : null;

function subscribe(listener: () => void) {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function set(round: RoundInHand) {
  const next = JSON.stringify(round);
  if (next === text) return;
  text = next;
  current = round;
  localStorage.setItem(key, next);
  listeners.forEach((listener) => listener());
}

export function useRoundInHand() {
  return [useSyncExternalStore(subscribe, () => current), set] as const;
}
