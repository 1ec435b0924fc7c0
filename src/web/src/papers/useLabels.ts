import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';

export type Label = Schema['LabelCard'];

export const useLabels = (round: string | null, tag: string) =>
  useQuery({
    queryKey: ['labels', round, tag],
    queryFn: ({ signal }) =>
      ask(
        api.GET('/api/v1/papers/labels', {
          params: { query: { ...(round ? { round } : {}), ...(tag ? { tag } : {}) } },
          signal,
        }),
      ),
    placeholderData: (previous) => previous,
    staleTime: 0,
  });

const key = 'osierwand.label-medium';

/** What lay in this bench's printer the last time; empty where nobody said. */
export function keptMedium(): string {
  try {
    return localStorage.getItem(key) ?? '';
  } catch {
    return '';
  }
}

export function keepMedium(medium: string) {
  try {
    localStorage.setItem(key, medium);
  } catch {
    // Kept for this page only.
  }
}

const rolls: readonly Schema['LabelMedium'][] = ['roll50', 'roll40', 'roll70'];

/** A single label is printed on a roll: the one of this bench, else the usual. */
export const rollHere = () => rolls.find((it) => it === keptMedium()) ?? rolls[0]!;

/** Gives the labels as one PDF at true size and opens it to be printed. */
export function usePrint() {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: async (body: Schema['PrintLabels']) => {
      const pdf = await ask<Blob>(api.POST('/api/v1/papers/labels/print', { body, parseAs: 'blob' }));
      const link = document.createElement('a');
      link.href = URL.createObjectURL(pdf);
      link.download = 'labels.pdf';
      link.click();
      setTimeout(() => URL.revokeObjectURL(link.href), 60_000);
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ['labels'] }),
  });
}
