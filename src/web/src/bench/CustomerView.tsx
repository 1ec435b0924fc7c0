import { Box, Button, Dialog } from '@mui/material';
import { useId } from 'react';
import { Rail } from '../design/Rail';
import { c } from '../design/tokens';
import { StopButton } from './LiveColumn';
import { rodOf } from './stepText';
import type { ReadingNow, Step } from './types';
import { useLine, useShown, useStepInHand } from './useBench';

/** The reading as the rail alone, with one sentence for somebody who owns the item and knows nothing of ohms. Esc goes back. */
export function CustomerView({ onClose }: { onClose: () => void }) {
  const titleId = useId();
  const name = useShown(({ sheet }) => sheet.name);
  const inHand = useStepInHand();
  const live = useLine((line) => (line.is === 'running' ? line.live : null));
  const isRunning = useLine((line) => line.is !== 'idle' && line.is !== 'lost');
  const latest = useShown(({ now }) => now.readings.filter((it) => !it.void && !it.fault).at(-1));
  const steps = useShown(({ sheet }) => sheet.steps);
  const step = isRunning ? inHand : (steps.find((it) => it.key === latest?.step) ?? inHand);
  const reading = isRunning ? undefined : latest;
  return (
    <Dialog open fullScreen onClose={onClose} aria-labelledby={titleId}>
      <Box
        sx={{
          minHeight: '100dvh',
          bgcolor: c.paper,
          color: c.ink,
          display: 'grid',
          gridTemplateRows: 'auto 1fr auto',
          p: { xs: 3, md: 6 },
        }}
      >
        <Box id={titleId} sx={{ fontSize: { xs: '1.3rem', md: '1.8rem' }, color: c.bark }}>
          {name}
        </Box>
        <Box sx={{ alignSelf: 'center', display: 'grid', gap: 4 }}>
          <Box
            sx={{
              fontSize: { xs: '1.7rem', md: '2.8rem' },
              fontWeight: 700,
              maxWidth: '26ch',
              lineHeight: 1.2,
            }}
          >
            {sentence(step, reading, isRunning)}
          </Box>
          {step?.rail && step.limit && (
            <Box sx={{ maxWidth: 900, '& svg': { maxWidth: 'none !important' } }}>
              <Rail
                scale={step.rail}
                limit={step.limit.si ?? null}
                set={step.limit.set}
                isFloor={step.limit.isFloor}
                label=""
                ticks={false}
                rod={live && live.si !== null ? { si: live.si, tone: 'slate' } : rodOf(reading)}
              />
              <Box sx={{ color: c.bark, fontSize: '1.15rem', mt: 1 }}>
                The post is the line that must not be crossed; the hatched side is safe.
              </Box>
            </Box>
          )}
        </Box>
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center' }}>
          <StopButton />
          <Button size="large" variant="outlined" color="inherit" onClick={onClose}>
            Back to the bench (Esc)
          </Button>
        </Box>
      </Box>
    </Dialog>
  );
}

const about: Partial<Record<NonNullable<Step['test']>, string>> = {
  earthContinuity: 'the wire that carries a fault safely away',
  insulation: 'what keeps the electricity inside',
  leakage: 'the little current that finds another way out',
  rcdTrip: 'how fast the safety switch lets go',
};

/** What a reading means, without a figure or a term of the trade. */
function sentence(step: Step | undefined, reading: ReadingNow | undefined, isRunning: boolean) {
  const what = (step?.test && about[step.test]) ?? 'whether it is sound';
  if (isRunning || !reading) return `We are looking at ${what}.`;
  if (reading.status === 'fail')
    return `Here something is wrong: ${what}. It is not used until it has been mended.`;
  if (reading.status === 'undecided') return `We are not sure yet about ${what}. We measure again.`;
  if (reading.nearLimit) return `Good today, but close to the line: ${what}.`;
  return `This is good: ${what}.`;
}
