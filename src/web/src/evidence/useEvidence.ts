import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';

export type Group = Schema['EvidenceGroup'];
export type Detail = Schema['EvidenceDetail'];

export const useEvidence = () =>
  useQuery({ queryKey: ['evidence'], queryFn: () => ask(api.GET('/api/v1/evidence')), staleTime: 0 });

export const useGroup = (kind: Group['kind'], place: Group['place']) =>
  useQuery({
    queryKey: ['evidence', kind, place],
    queryFn: () => ask(api.GET('/api/v1/evidence/{kind}/{place}', { params: { path: { kind, place } } })),
    staleTime: 0,
  });

/** What was decided moves dates: whatever shows them is asked for again. */
function useSettled() {
  const queries = useQueryClient();
  return () =>
    Promise.all(
      [['evidence'], ['schedule'], ['register'], ['item'], ['today']].map((queryKey) =>
        queries.invalidateQueries({ queryKey }),
      ),
    );
}

export function useDecide(of: Detail) {
  const onSettled = useSettled();
  return useMutation({
    mutationFn: (it: { id: string; step: number; reason: string }) =>
      ask(
        api.POST('/api/v1/evidence/{kind}/{place}/decisions', {
          params: { path: { kind: of.group.kind, place: of.group.place } },
          body: { ...it, decided: of.decided },
        }),
      ),
    onSettled,
  });
}

export function useUndo() {
  const onSettled = useSettled();
  return useMutation({
    mutationFn: (it: { decision: string; id: string; reason: string }) =>
      ask(
        api.POST('/api/v1/evidence/decisions/{decisionId}/undo', {
          params: { path: { decisionId: it.decision } },
          body: { id: it.id, reason: it.reason },
        }),
      ),
    onSettled,
  });
}

/** "1.8 %". */
export const percent = (rate: number) => `${Number((rate * 100).toPrecision(2))} %`;
