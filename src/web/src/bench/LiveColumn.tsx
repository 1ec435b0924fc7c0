import { Box, Button } from '@mui/material';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import { Hold } from './Hold';
import { instrument } from './instrument';
import { LockTold } from './IsolationWork';
import { JoiningDrawing } from './JoiningDrawing';
import { StrangeReading } from './StrangeReading';
import type { ReadingNow } from './types';
import { useLine, useRun, useShown, useStepInHand } from './useBench';

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
      <StopButton />
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
      {is === 'running' && <WhileItRuns />}
      {showsHazard && (
        <Card tone={c.fail} loud role={isUp ? 'alert' : undefined}>
          <strong>{is === 'running' ? hazardNow[step.hazardKind] : hazardNext[step.hazardKind]}</strong>{' '}
          {step.hazard}
          {now?.action === 'hold' && !isUp && (
            <Hold
              key={step.key}
              disabled={isPending}
              says={
                step.mayNotTrip
                  ? 'It is reset: hold to start'
                  : now.asksStanding
                    ? 'It stands isolated: hold to start'
                    : 'Hold to start'
              }
              onHeld={() => desk.measure(step.key, 'hold')}
            />
          )}
        </Card>
      )}
    </Box>
  );
}

/** Wherever something runs: never behind anything. */
export function StopButton() {
  const is = useLine((line) => line.is);
  if (is === 'idle' || is === 'lost') return null;
  return (
    <Button
      variant="contained"
      color="error"
      onClick={() => instrument.stop()}
      disabled={is === 'stopping'}
      sx={{ minHeight: 56, fontSize: '1.1rem' }}
    >
      {is === 'stopping' ? 'Stopping' : 'Stop (Esc)'}
    </Button>
  );
}

/** Where the item runs anyway, whether it does its job is answered in the same breath. */
function WhileItRuns() {
  const run = useRun();
  const step = useStepInHand();
  const runs = useLine((line) => line.is === 'running' && line.live?.runs === true);
  const along = useShown(({ now }) => now.steps.find((it) => it.key === step?.key)?.along ?? null);
  return runs && along ? (
    <Button
      fullWidth
      variant="outlined"
      onClick={() =>
        void run
          .happen({ kind: 'read', step: along, source: 'typed', ok: true, switchedOn: true })
          .catch(() => {})
      }
    >
      It runs and does its job
    </Button>
  ) : null;
}

/** The live side: what the instrument shows, what must be true first, and what the readings are telling. */
export function LiveColumn() {
  const desk = useDesk();
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
      {step?.joining && <Joined joining={step.joining} expected={step.expected ?? null} />}
      {latest && <Working reading={latest} />}
      {telling.map((it) => (
        <StrangeReading key={it.id} telling={it} />
      ))}
      {advice.map((line) => (
        <Card key={line} tone={c.advice}>
          {line}
        </Card>
      ))}
      {step?.limit && <Why limit={step.limit} />}
      {latest && (
        <Button size="small" color="inherit" sx={{ alignSelf: 'start' }} onClick={desk.showCustomer}>
          Show it to the customer
        </Button>
      )}
      {next && <Next next={next} />}
    </Box>
  );
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

/** How this step is joined up, and what the reading may be expected to be. */
function Joined({ joining, expected }: { joining: Schema['JoiningCard']; expected: string | null }) {
  const name = useShown(({ sheet }) => sheet.name);
  return (
    <Box>
      <JoiningDrawing joining={joining} item={name} />
      {joining.posts.length > 0 && <Posts posts={joining.posts} />}
      {expected && <Box sx={{ color: c.bark, fontSize: 14.5 }}>Expected: {expected}</Box>}
    </Box>
  );
}

/** Which lead goes on which post, in both schools of colours; the words say it where colours cannot be told apart. */
function Posts({ posts }: { posts: readonly Schema['LeadPost'][] }) {
  const cell = { p: '2px 6px 2px 0', textAlign: 'left', fontWeight: 400 } as const;
  return (
    <Box
      component="table"
      sx={{ borderCollapse: 'collapse', fontSize: 13, '& th': { ...cell, color: c.muted }, '& td': cell }}
    >
      <thead>
        <tr>
          <th scope="col">Post</th>
          <th scope="col">IEC</th>
          <th scope="col">AHA</th>
        </tr>
      </thead>
      <tbody>
        {posts.map((it) => (
          <tr key={it.post}>
            <td>{it.post}</td>
            <td>
              <strong>{it.iec}</strong> {it.iecColour}
            </td>
            <td>
              <strong>{it.aha}</strong> {it.ahaColour}
            </td>
          </tr>
        ))}
      </tbody>
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
