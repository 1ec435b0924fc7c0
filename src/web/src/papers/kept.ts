import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';

export type KeptPaper = Schema['KeptPaperCard'];
export type LongPaper = KeptPaper['paper'];

export const roundPapers: readonly { paper: LongPaper; name: string; about: string }[] = [
  { paper: 'packing', name: 'Packing list', about: 'what is brought, and what for' },
  { paper: 'report', name: 'Report', about: 'all of it, for the client' },
  { paper: 'failures', name: 'Failure list', about: 'for whoever mends' },
  { paper: 'notTested', name: 'Not tested', about: 'and why' },
];

export const isUnderWay = (it: KeptPaper) => it.state === 'waiting' || it.state === 'making';

/** Papers that are made or kept, asked for again while one is under way. */
export const useKeptPapers = (round: string | null) =>
  useQuery({
    queryKey: ['kept-papers', round],
    queryFn: () => ask(api.GET('/api/v1/papers/kept', { params: { query: round ? { round } : {} } })),
    refetchInterval: (query) => (query.state.data?.papers.some(isUnderWay) ? 700 : false),
    staleTime: 0,
  });

/** Asks for a paper; pressed twice it is made once. */
export function useAskForPaper(roundId: string) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (it: { id: string; paper: LongPaper }) =>
      ask(api.POST('/api/v1/papers/kept', { body: { ...it, roundId } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['kept-papers'] }),
  });
}

/** Of a client: all that it owns. */
export function useAskForRegister() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (it: { id: string; client: string }) =>
      ask(api.POST('/api/v1/papers/kept/register', { body: it })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['kept-papers'] }),
  });
}

export function useCallOff() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: (paperId: string) =>
      ask(api.POST('/api/v1/papers/kept/{paperId}/cancel', { params: { path: { paperId } } })),
    onSettled: () => queries.invalidateQueries({ queryKey: ['kept-papers'] }),
  });
}

/** "240 kB", "1.2 MB". */
export const sizeText = (bytes: number) =>
  bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
