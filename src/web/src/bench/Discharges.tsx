import { Box, Button } from '@mui/material';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import type { Step, StepNow } from './types';
import { useRun, useShown } from './useBench';

/** As many marks as discharges are asked for; those that were made are filled. */
export function Tally({ step, now }: { step: Step; now: StepNow }) {
  const needed = step.needed ?? 0;
  const made = now.taken.length;
  return (
    <Box>
      <Box
        role="img"
        aria-label={`${made} of ${needed} discharges made`}
        sx={{ display: 'flex', gap: '5px', flexWrap: 'wrap', maxWidth: 260 }}
      >
        {Array.from({ length: needed }, (_, n) => (
          <Box
            key={n}
            sx={{
              width: 12,
              height: 22,
              borderRadius: '3px',
              border: `1.5px solid ${n < made ? c.slate : c.muted}`,
              bgcolor: n < made ? c.slate : 'transparent',
            }}
          />
        ))}
      </Box>
      <Box sx={{ color: c.bark, fontSize: 14, mt: 0.5 }}>
        {made < needed
          ? `${needed - made} to go, then the charge that is timed`
          : 'All made: time the next charge at once'}
      </Box>
    </Box>
  );
}

/** Counted by hand where no analyser watches; one that was counted by mistake is taken back with that as its reason. */
export function CountWork({ step, now }: { step: Step; now: StepNow }) {
  const desk = useDesk();
  const run = useRun();
  const isPending = useShown((shown) => shown.pending > 0);
  const last = now.taken.at(-1);
  return (
    <>
      {now.action === 'count' && (
        <Button variant="contained" disabled={isPending} onClick={desk.primary}>
          Discharged: count {now.taken.length + 1} of {step.needed}
        </Button>
      )}
      {last && (
        <Button
          size="small"
          color="inherit"
          disabled={isPending}
          onClick={() =>
            void run
              .happen({
                kind: 'voided',
                target: last,
                reason: 'counted by mistake',
                point: null,
                cause: null,
              })
              .catch(() => {})
          }
        >
          One too many
        </Button>
      )}
    </>
  );
}
