import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, ask, type Schema } from '../api/client';

type Move = Schema['AskedMove'];

const place = 'osierwand.schedule.moves';

/** What was moved by hand stays over a reload, until its rounds are taken or it is let go. */
function kept(): Move[] {
  try {
    const read: unknown = JSON.parse(sessionStorage.getItem(place) ?? '[]');
    return Array.isArray(read) ? (read as Move[]) : [];
  } catch {
    return [];
  }
}

/** The planner's proposal with what was moved by hand since. */
export function usePlan(weeks: number) {
  const [moves, setMoves] = useState<readonly Move[]>(kept);
  useEffect(() => {
    try {
      sessionStorage.setItem(place, JSON.stringify(moves));
    } catch {
      // Without storage it lasts as long as the page.
    }
  }, [moves]);
  const plan = useQuery({
    queryKey: ['schedule', 'proposal', weeks, moves],
    queryFn: ({ signal }) =>
      ask(api.POST('/api/v1/schedule/proposal', { body: { weeks, moves: [...moves] }, signal })),
    placeholderData: (previous) => previous,
    staleTime: 30_000,
  });
  return {
    plan,
    moves,
    move: (move: Move) => setMoves([...moves, move]),
    undo: () => setMoves(moves.slice(0, -1)),
    /** What is in a round now is not moved any more. */
    taken: (items: readonly string[]) =>
      setMoves(
        moves
          .map((it) => ({ ...it, items: it.items.filter((id) => !items.includes(id)) }))
          .filter((it) => it.items.length > 0),
      ),
    forget: () => setMoves([]),
  };
}

export type Plan = ReturnType<typeof usePlan>;
