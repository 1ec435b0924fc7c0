import { Box, Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { AlikeDialog } from '../register/AlikeDialog';

export interface Correction {
  changes: Schema['FactChanges'];
  reason: string;
}

/** All that was corrected on one sheet, the last word on each fact. */
const together = (corrections: readonly Correction[]): Schema['FactChanges'] =>
  corrections.reduce(
    (all, it) => ({
      ...all,
      ...Object.fromEntries(Object.entries(it.changes).filter(([, value]) => value != null)),
    }),
    {} as Schema['FactChanges'],
  );

/**
 * What was corrected at the bench may hold for the others of the model: offered once it is saved, in a line and not in the way, as the next
 * item waits.
 */
export function CorrectedAlike(props: { itemId: string; tag: string; corrections: readonly Correction[] }) {
  const { itemId, tag, corrections } = props;
  const [isOpen, setIsOpen] = useState(false);
  const alike = useQuery({
    queryKey: ['alike', itemId, corrections],
    queryFn: () =>
      ask(
        api.POST('/api/v1/register/{itemId}/alike', {
          params: { path: { itemId } },
          body: { changes: together(corrections) },
        }),
      ),
    enabled: corrections.length > 0,
    staleTime: Infinity,
    // That others could not be asked for takes nothing from what is saved.
    retry: false,
  });
  const { changes, items = [] } = alike.data ?? {};
  if (!changes || items.length === 0) return null;
  return (
    <Box sx={{ borderLeft: `4px solid ${c.slate}`, pl: 1.5 }}>
      What was corrected on it is said of {items.length === 1 ? 'one other' : `${items.length} others`} of
      this model otherwise.{' '}
      <Button size="small" onClick={() => setIsOpen(true)}>
        Look at them
      </Button>
      {isOpen && (
        <AlikeDialog
          tag={tag}
          offer={{ changes, items, reason: corrections.map((it) => it.reason).join('; ') }}
          onClose={() => {
            setIsOpen(false);
            // Those that were corrected say the same now; whoever only looked finds the line as it was.
            void alike.refetch();
          }}
        />
      )}
    </Box>
  );
}
