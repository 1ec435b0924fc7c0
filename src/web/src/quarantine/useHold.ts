import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';

/** Why one item is out of use, and what may be done about it; null of an item in service. */
export const useHold = (itemId: string, enabled = true) =>
  useQuery({
    queryKey: ['quarantine', 'of', itemId],
    queryFn: async (): Promise<Schema['HoldStory'] | null> =>
      (await ask(api.GET('/api/v1/quarantine/{itemId}', { params: { path: { itemId } } }))) ?? null,
    enabled,
  });
