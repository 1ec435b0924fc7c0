import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';

export type Stage = Schema['HireStage'];
export type Fleet = Schema['FleetPage'];
export type FleetPart = Schema['FleetPart'];
export type Move = Schema['HireMove'];

export const useFleet = (client: string | null) =>
  useQuery({
    queryKey: ['hire', 'fleet', client],
    queryFn: ({ signal }) =>
      ask(api.GET('/api/v1/hire', { params: { query: client ? { client } : {} }, signal })),
    placeholderData: keepPreviousData,
  });

export const useStage = (client: string, stage: Stage) =>
  useQuery({
    queryKey: ['hire', 'stage', client, stage],
    queryFn: ({ signal }) =>
      ask(api.GET('/api/v1/hire/items', { params: { query: { client, stage } }, signal })),
  });

export const useHireStory = (itemId: string) =>
  useQuery({
    queryKey: ['hire', 'of', itemId],
    queryFn: async (): Promise<Schema['HireStory'] | null> =>
      (await ask(api.GET('/api/v1/hire/{itemId}', { params: { path: { itemId } } }))) ?? null,
  });

/** Clients that keep a fleet, of those whom the person may see. */
export const useFleets = (enabled: boolean) =>
  useQuery({
    queryKey: ['hire', 'fleets'],
    queryFn: ({ signal }) => ask(api.GET('/api/v1/hire/fleets', { signal })),
    staleTime: 5 * 60_000,
    enabled,
  });

export const findHireItem = (client: string, tag: string) =>
  ask(api.GET('/api/v1/hire/scan', { params: { query: { client, tag } } }));

export const moveHireItem = (itemId: string, id: string, move: Move) =>
  ask(api.POST('/api/v1/hire/{itemId}/moves', { params: { path: { itemId } }, body: { id, move } }));

/** What moves an item changes the fleet, the item's page, and where it came out of use the quarantine. */
export function useFleetChanged() {
  const queries = useQueryClient();
  return () =>
    Promise.all(
      [['hire'], ['item'], ['quarantine'], ['bench']].map((queryKey) =>
        queries.invalidateQueries({ queryKey }),
      ),
    );
}

export function useMoveHireItem(itemId: string) {
  const changed = useFleetChanged();
  return useMutation({
    mutationFn: ({ id, move }: { id: string; move: Move }) => moveHireItem(itemId, id, move),
    onSettled: changed,
  });
}
