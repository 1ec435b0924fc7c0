import { useMutation } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import { freshRuling } from './benchRun';
import { useRun, useShown } from './useBench';

/** The test lead in hand, whether its null must be taken anew, and taking it: the instrument measures it shorted on its own post. */
export function useNulling() {
  const run = useRun();
  const kit = useShown(({ laid }) => laid.kit ?? null);
  const lead = (kit?.pieces ?? []).find((it) => it.kind === 'testLead');
  const take = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/kit/{kitId}/null', {
          params: { path: { kitId: lead!.id } },
          body: { text: null, reason: null },
        }),
      ),
    // A new null makes a new ruling: what was read by the old one keeps the old one.
    onSuccess: async () => run.judgeAgain(await freshRuling(run.itemId, run.roundId)),
  });
  const canTake = kit?.connected === true && lead !== undefined;
  return {
    lead,
    canTake,
    isAsked: canTake && kit?.asksForNull === true,
    take,
  };
}
