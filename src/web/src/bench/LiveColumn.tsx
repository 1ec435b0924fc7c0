import { Box, Button } from '@mui/material';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { Rail } from '../design/Rail';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import { Hold } from './Hold';
import { instrument } from './instrument';
import { LockTold } from './IsolationWork';
import { rodOf } from './stepText';
import type { ReadingNow, Step } from './types';
import { useLine, useShown } from './useBench';

const hazardNow: Record<Schema['HazardKind'], string> = {
  none: '',
  testVoltage: 'Test voltage on.',
  itemLive: 'The item is live.',
  mainsOnPatient: 'Mains on the patient connections.',
  shock: 'It may discharge.',
};
const hazardNext: Record<Schema['HazardKind'], string> = {
  none: '',
  testVoltage: 'Next: test voltage.',
  itemLive: 'Next: powered.',
  mainsOnPatient: 'Next: mains on the patient connections.',
  shock: 'Next: a shock.',
};

/** The step in hand, or the one that runs. */
function useStepInHand(): Step | undefined {
  const desk = useDesk();
  const running = useLine((line) => (line.is === 'idle' ? null : line.step));
  return useShown(({ sheet, now }) => {
    const key = running ?? desk.chosen ?? now.current;
    return sheet.steps.find((it) => it.key === key);
  });
}

/** What is dangerous and how it is stopped: in view at every size, whatever else is scrolled. */
export function Danger() {
  const step = useStepInHand();
  const is = useLine((line) => line.is);
  const trouble = useLine((line) => (line.is === 'idle' || line.is === 'lost' ? line.trouble : null));
  const desk = useDesk();
  const now = useShown((shown) => shown.now.steps.find((it) => it.key === step?.key));
  const isPending = useShown((shown) => shown.pending > 0);
  const isUp = is !== 'idle' && is !== 'lost';
  const showsHazard = step?.hazard && (isUp || (now?.may && now.standing !== 'stopped'));
  return (
    <Box sx={{ display: 'grid', gap: 1.25 }}>
      <LockTold />
      {isUp && (
        <Button
          variant="contained"
          color="error"
          onClick={() => instrument.stop()}
          disabled={is === 'stopping'}
          sx={{ minHeight: 56, fontSize: '1.1rem' }}
        >
          {is === 'stopping' ? 'Stopping' : 'Stop (Esc)'}
        </Button>
      )}
      {trouble && (
        <Card tone={is === 'lost' ? c.fail : c.advice} loud={is === 'lost'} role="alert">
          <strong>{is === 'lost' ? 'The line is lost.' : 'No reading.'}</strong> {trouble}
          {is === 'lost' && (
            <Button
              fullWidth
              variant="outlined"
              color="error"
              sx={{ mt: 1 }}
              onClick={() => instrument.stop()}
            >
              I have looked: it is off
            </Button>
          )}
        </Card>
      )}
      {showsHazard && (
        <Card tone={c.fail} loud role={isUp ? 'alert' : undefined}>
          <strong>{is === 'running' ? hazardNow[step.hazardKind] : hazardNext[step.hazardKind]}</strong>{' '}
          {step.hazard}
          {now?.action === 'hold' && !isUp && (
            <Hold disabled={isPending} onHeld={() => desk.measure(step.key, 'hold')} />
          )}
        </Card>
      )}
    </Box>
  );
}

/** The live side: what the instrument shows, what must be true first, and what the readings are telling. */
export function LiveColumn() {
  const step = useStepInHand();
  const isIdle = useLine((line) => line.is === 'idle');
  const latest = useShown(({ now }) => now.readings.filter((it) => !it.void && !it.fault).at(-1));
  const telling = useShown(({ now }) => now.telling);
  const advice = useShown(({ now }) => now.advice);
  const next = useShown(({ now }) => (now.current === null ? now.next : null));
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.75 }}>
      {step && isIdle && step.needs.length > 0 && (
        <Card tone={c.slate}>
          <strong>{step.family === 'look' ? 'Make safe' : 'First'}</strong>
          <Lines of={step.needs} />
        </Card>
      )}
      {latest && <Working reading={latest} />}
      {telling.map((it) => (
        <Telling key={it.id} telling={it} />
      ))}
      {advice.map((line) => (
        <Card key={line} tone={c.advice}>
          {line}
        </Card>
      ))}
      {step?.limit && <Why limit={step.limit} />}
      {next && <Next next={next} />}
    </Box>
  );
}

/** The display: the value as it moves, readable from two metres. */
export function Display({
  kit,
  isCompact,
}: {
  kit: { name: string; connected: boolean } | null;
  isCompact: boolean;
}) {
  const line = useLine((it) => it);
  const step = useStepInHand();
  const latest = useShown(({ now }) => now.readings.filter((it) => !it.void && !it.fault).at(-1));
  const steps = useShown(({ sheet }) => sheet.steps);
  const isUp = line.is !== 'idle' && line.is !== 'lost';
  const live = line.is === 'running' ? line.live : null;
  const shownStep = isUp ? step : steps.find((it) => it.key === latest?.step);
  // What is lost shows nothing: a frozen number would be believed.
  const text = isUp ? (live?.text ?? '') : line.is === 'lost' ? '' : (latest?.text ?? '');
  const [number, ...unit] = /\d/.test(text) ? text.split(' ') : [text];
  const isLong = !!number && (number.length > 5 || !/\d/.test(number));
  return (
    <Box>
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        {!isUp && latest?.source === 'typed' ? 'typed' : (kit?.name ?? 'No instrument')} ·{' '}
        {statusText(line.is, live, shownStep, latest, kit?.connected ?? false)}
      </Box>
      <Box sx={{ minHeight: isCompact ? 40 : 66, display: 'flex', alignItems: 'baseline', gap: 1.25 }}>
        <Box
          component="span"
          sx={{
            fontSize: isCompact ? '2rem' : isLong ? '2.9rem' : '3.6rem',
            fontWeight: 750,
            letterSpacing: '-0.02em',
            lineHeight: 1.15,
            color: latest?.status === 'fail' && !isUp ? c.fail : c.ink,
          }}
        >
          {number || (
            <Box
              component="span"
              sx={{ color: c.muted, fontSize: isCompact ? '1rem' : '1.5rem', fontWeight: 400 }}
            >
              {isUp ? '…' : 'no reading yet'}
            </Box>
          )}
        </Box>
        <Box component="span" sx={{ fontSize: isCompact ? '1.1rem' : '1.5rem' }}>
          {unit.join(' ')}
        </Box>
        {live && (live.mains !== null || live.loadA !== null) && (
          <Box component="span" sx={{ color: c.muted, fontSize: 14 }}>
            {live.mains !== null && `mains ${live.mains} V`}
            {live.loadA !== null && ` · load ${live.loadA} A`}
          </Box>
        )}
      </Box>
      {!isCompact && shownStep?.rail && shownStep.limit && (
        <Rail
          scale={shownStep.rail}
          limit={shownStep.limit.si ?? null}
          isFloor={shownStep.limit.isFloor}
          earlier={shownStep.earlier}
          label=""
          ticks={false}
          rod={
            live && live.si !== null
              ? { si: live.si, tone: 'slate', bound: live.isBound ? 'above' : undefined }
              : isUp
                ? undefined
                : rodOf(latest)
          }
        />
      )}
      <Box
        component="span"
        role="status"
        sx={{ position: 'absolute', width: 1, height: 1, overflow: 'hidden', clipPath: 'inset(50%)' }}
      >
        {!isUp && latest ? `${latest.name}: ${latest.text}, ${latest.status ?? ''}` : ''}
      </Box>
    </Box>
  );
}

function statusText(
  is: string,
  live: { elapsed: number; seconds: number } | null,
  step: Step | undefined,
  latest: ReadingNow | undefined,
  connected: boolean,
) {
  if (is === 'connecting') return 'opening the line';
  if (is === 'stopping') return 'stopping';
  if (is === 'lost') return 'line lost';
  if (is === 'running')
    return `${step?.name ?? ''}, ${(live?.elapsed ?? 0).toFixed(0)} s of ${(live?.seconds ?? step?.seconds ?? 0).toFixed(0)} s`;
  if (latest) return step?.name ?? latest.name;
  return connected ? 'connected and waiting' : 'readings are typed';
}

/** What the newest reading says, in lines a person could redo. */
function Working({ reading }: { reading: ReadingNow }) {
  if (reading.working.length < 2) return null;
  const tone = reading.status === 'fail' ? c.fail : reading.status === 'undecided' ? c.slate : c.line;
  return (
    <Box
      component="details"
      open={reading.status !== 'pass'}
      sx={{ borderLeft: `4px solid ${tone}`, pl: 1.5, fontSize: 14.5 }}
    >
      <Box component="summary" sx={{ cursor: 'pointer', fontWeight: 600 }}>
        {reading.name}: {reading.status}
      </Box>
      {reading.working.map((line) => (
        <Box key={line} sx={{ mt: 0.5 }}>
          {line}
        </Box>
      ))}
      <Box sx={{ color: c.muted, mt: 0.5 }}>{reading.clause}</Box>
    </Box>
  );
}

/** A strange reading's likely causes, cheapest first. It guides and never blocks. */
function Telling({ telling }: { telling: Schema['TellingCard'] }) {
  return (
    <Box
      component="section"
      aria-label="What the reading is telling"
      sx={{ bgcolor: c.paper, borderRadius: '6px', p: 1.5, fontSize: 14.5 }}
    >
      <Box sx={{ fontWeight: 700 }}>{telling.seen}</Box>
      <Box component="ol" sx={{ m: 0, mt: 0.25, pl: 2.5 }}>
        {telling.causes.map((cause) => (
          <li key={cause}>{cause}</li>
        ))}
      </Box>
      <Box sx={{ mt: 0.5 }}>
        <Box component="span" sx={{ color: c.reed, fontWeight: 700 }}>
          Next
        </Box>{' '}
        {telling.next}
      </Box>
    </Box>
  );
}

function Why({ limit }: { limit: Schema['LimitCard'] }) {
  return (
    <Box sx={{ borderLeft: `4px solid ${c.line}`, pl: 1.5, fontSize: 14.5 }}>
      <Box sx={{ color: c.muted }}>Why {limit.text}</Box>
      <Box>{limit.derivation}</Box>
      <Box sx={{ color: c.muted, fontSize: 13.5 }}>{limit.clause}</Box>
    </Box>
  );
}

export function Next({ next }: { next: Schema['NextCard'] }) {
  return (
    <Box sx={{ borderLeft: `4px solid ${c.reed}`, pl: 1.5, fontSize: 14.5 }}>
      <Box sx={{ color: c.muted }}>Next date, because</Box>
      <Lines of={next.because} />
      <Box sx={{ mt: 0.5 }}>
        Formal visual by {showDate(next.visualDue)}; the user looks: {next.userCheck}.
      </Box>
    </Box>
  );
}

const Lines = ({ of }: { of: readonly string[] }) => (
  <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
    {of.map((line) => (
      <li key={line}>{line}</li>
    ))}
  </Box>
);

function Card(props: { tone: string; loud?: boolean; role?: string | undefined; children: React.ReactNode }) {
  return (
    <Box
      role={props.role}
      sx={
        props.loud
          ? { border: `2px solid ${props.tone}`, borderRadius: '6px', bgcolor: c.failWash, p: 1.5 }
          : { borderLeft: `4px solid ${props.tone}`, pl: 1.5 }
      }
    >
      {props.children}
    </Box>
  );
}
