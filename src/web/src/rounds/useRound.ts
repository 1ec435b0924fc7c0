import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { createContext, useContext } from 'react';
import { api, ask, type Schema } from '../api/client';

export type Round = Schema['RoundPage'];

export const useRoundPage = (roundId: string) =>
  useQuery({
    queryKey: ['round', roundId],
    queryFn: () => ask(api.GET('/api/v1/rounds/{roundId}', { params: { path: { roundId } } })),
    staleTime: 0,
  });

/** The round on the page, and whether it may be planned by whoever looks. */
export const RoundContext = createContext<{ round: Round; mayPlan: boolean } | null>(null);
export const useRound = () => useContext(RoundContext)!;

/** A change of the round; whatever it was, the page is asked for again. */
export function useChange<T>(change: (it: T) => Promise<unknown>) {
  const { round } = useRound();
  const queries = useQueryClient();
  return useMutation({
    mutationFn: change,
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['round', round.id] });
      void queries.invalidateQueries({ queryKey: ['rounds'] });
      void queries.invalidateQueries({ queryKey: ['today'] });
    },
  });
}

/** "2 h 20", "55 min". */
export const minutesText = (minutes: number) =>
  minutes < 60 ? `${minutes} min` : `${Math.floor(minutes / 60)} h ${String(minutes % 60).padStart(2, '0')}`;
