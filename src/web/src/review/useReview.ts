import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';

export type Review = Schema['ReviewPage'];
export type ToReview = Schema['RecordToReview'];

const keyOf = (roundId: string) => ['round', roundId, 'review'];

export const useReview = (roundId: string) =>
  useQuery({
    queryKey: keyOf(roundId),
    queryFn: () => ask(api.GET('/api/v1/rounds/{roundId}/review', { params: { path: { roundId } } })),
    staleTime: 0,
  });

export function useLook(roundId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (it: { inspectionId: string; words: string }) =>
      ask(
        api.POST('/api/v1/rounds/{roundId}/review/records/{inspectionId}', {
          params: { path: { roundId, inspectionId: it.inspectionId } },
          body: { words: it.words },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: keyOf(roundId) }),
  });
}

/** Signs what the page shows, and nothing that came since. */
export function useSign(review: Review) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (words: string) =>
      ask(
        api.POST('/api/v1/rounds/{roundId}/review/signature', {
          params: { path: { roundId: review.roundId } },
          body: { records: review.total, lastNumber: review.lastNumber, words },
        }),
      ),
    onSettled: () => {
      void queries.invalidateQueries({ queryKey: ['round', review.roundId] });
      void queries.invalidateQueries({ queryKey: ['rounds'] });
      void queries.invalidateQueries({ queryKey: ['today'] });
    },
  });
}
