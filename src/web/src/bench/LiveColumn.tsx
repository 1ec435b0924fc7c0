import { Box, Button } from '@mui/material';
import { useRef, useState } from 'react';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { Rail } from '../design/Rail';
import { c } from '../design/tokens';
import type { BenchRun } from './run';
import type { StepState } from './states';
import { rodOf } from './StepRow';

/** The live side: what the instrument shows, what is dangerous now, and what the readings are telling. */
export function LiveColumn({
  sheet,
  run,
  onMeasure,
}: {
  sheet: Schema['BenchSheet'];
  run: BenchRun;
  onMeasure: () => void;
}) {
  const { current, instrument, judged } = run;
  const latest = [...run.draft.entries].reverse().find((it) => !it.void);
  const latestState = run.steps.find((it) => it.step.key === latest?.stepKey);
  const shown = instrument.running ? current : latestState;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1.75 }}>
      <Display sheet={sheet} run={run} shown={shown} />
      {instrument.trouble && (
        <Card tone={c.advice}>
          <strong>No reading.</strong> {instrument.trouble}
        </Card>
      )}
      {current?.step.hazard && !current.stopped && (
        <Card tone={c.fail} loud>
          <strong>
            {instrument.running ? hazardNow[current.step.hazardKind] : hazardNext[current.step.hazardKind]}
          </strong>{' '}
          {current.step.hazard}
          {current.step.hazardKind === 'mainsOnPatient' && current.step.measurable && !instrument.running && (
            <HoldToStart onHeld={onMeasure} />
          )}
        </Card>
      )}
      {instrument.running && (
        <Button variant="contained" color="error" onClick={instrument.stop}>
          Stop (Esc)
        </Button>
      )}
      {current && !instrument.running && current.step.needs.length > 0 && (
        <Card tone={c.slate}>
          <strong>{current.step.test === 'visual' ? 'Make safe' : 'First'}</strong>
          <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
            {current.step.needs.map((need) => (
              <li key={need}>{need}</li>
            ))}
          </Box>
        </Card>
      )}
      {latestState && <Working state={latestState} />}
      {judged?.telling.map((it) => (
        <Telling key={it.id} telling={it} />
      ))}
      {judged?.advice.map((line) => (
        <Card key={line} tone={c.advice}>
          {line}
        </Card>
      ))}
      {current?.step.limit && <Why limit={current.step.limit} />}
      {!current && judged?.next && <Next next={judged.next} />}
    </Box>
  );
}

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

function Display({
  sheet,
  run,
  shown,
}: {
  sheet: Schema['BenchSheet'];
  run: BenchRun;
  shown: StepState | undefined;
}) {
  const { live, running } = run.instrument;
  const judged = shown?.standing?.judged;
  const latestIsTyped = !running && shown?.standing?.entry.source === 'typed';
  const text = running ? (live?.text ?? '') : (judged?.text ?? '');
  // "0.42 mA" is shown large with its unit beside it; "no trip" is words.
  const [number, ...unit] = /\d/.test(text) ? text.split(' ') : [text];
  const status = running
    ? `${shown?.step.name ?? ''}, ${(live?.elapsed ?? 0).toFixed(0)} s of ${(live?.seconds ?? shown?.step.seconds ?? 0).toFixed(0)} s`
    : judged
      ? shown!.step.name
      : sheet.instrument?.connected
        ? 'connected and waiting'
        : 'readings are typed';
  const rod =
    live && running && live.si !== null
      ? { si: live.si, tone: 'slate' as const, bound: live.isBound ? ('above' as const) : undefined }
      : rodOf(judged);
  return (
    <Box aria-live="polite">
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        {latestIsTyped ? 'typed' : (sheet.instrument?.name ?? 'No instrument')} · {status}
      </Box>
      <Box sx={{ minHeight: 66, display: 'flex', alignItems: 'baseline', gap: 1.25 }}>
        <Box
          component="span"
          sx={{
            fontSize: number && (number.length > 5 || !/\d/.test(number)) ? '2.9rem' : '3.6rem',
            fontWeight: 750,
            letterSpacing: '-0.02em',
            lineHeight: 1.15,
            color: judged?.status === 'fail' && !running ? c.fail : c.ink,
          }}
        >
          {number || (
            <Box component="span" sx={{ color: c.muted, fontSize: '1.5rem', fontWeight: 400 }}>
              no reading yet
            </Box>
          )}
        </Box>
        <Box component="span" sx={{ fontSize: '1.5rem' }}>
          {unit.join(' ')}
        </Box>
      </Box>
      {running && live && (live.mains || live.loadA !== null) && (
        <Box sx={{ color: c.muted, fontSize: 14 }}>
          {live.mains && `mains ${live.mains} V`}
          {live.loadA !== null && ` · load ${live.loadA} A`}
        </Box>
      )}
      {shown?.step.rail && shown.step.limit && (
        <Rail
          scale={shown.step.rail}
          limit={shown.step.limit.si ?? null}
          isFloor={shown.step.limit.isFloor}
          earlier={shown.step.earlier}
          label=""
          ticks={false}
          rod={rod}
        />
      )}
    </Box>
  );
}

/** What the newest reading says, in lines a person could redo. */
function Working({ state }: { state: StepState }) {
  const judged = state.standing?.judged;
  if (!judged || judged.working.length < 2) return null;
  return (
    <Box
      component="details"
      open={judged.status !== 'pass'}
      sx={{
        borderLeft: `4px solid ${judged.status === 'fail' ? c.fail : judged.status === 'undecided' ? c.slate : c.line}`,
        pl: 1.5,
        fontSize: 14.5,
      }}
    >
      <Box component="summary" sx={{ cursor: 'pointer', fontWeight: 600 }}>
        {state.step.name}: {judged.status}
      </Box>
      {judged.working.map((line) => (
        <Box key={line} sx={{ mt: 0.5 }}>
          {line}
        </Box>
      ))}
      <Box sx={{ color: c.muted, mt: 0.5 }}>{judged.clause}</Box>
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
      <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
        {next.because.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Box>
      <Box sx={{ mt: 0.5 }}>
        Formal visual by {showDate(next.visualDue)}; the user looks: {next.userCheck}.
      </Box>
    </Box>
  );
}

function Card({ tone, loud, children }: { tone: string; loud?: boolean; children: React.ReactNode }) {
  return (
    <Box
      sx={
        loud
          ? { border: `2px solid ${tone}`, borderRadius: '6px', bgcolor: c.failWash, p: 1.5 }
          : { borderLeft: `4px solid ${tone}`, pl: 1.5 }
      }
    >
      {children}
    </Box>
  );
}

const holdMs = 1000;

/** Started by a deliberate hold, never by a passing key. */
function HoldToStart({ onHeld }: { onHeld: () => void }) {
  const timer = useRef<number | null>(null);
  const [holding, setHolding] = useState(false);
  const release = () => {
    if (timer.current !== null) window.clearTimeout(timer.current);
    timer.current = null;
    setHolding(false);
  };
  const press = () => {
    if (timer.current !== null) return;
    setHolding(true);
    timer.current = window.setTimeout(() => {
      release();
      onHeld();
    }, holdMs);
  };
  return (
    <Button
      id="hold"
      fullWidth
      variant="contained"
      color="error"
      sx={{ mt: 1.25 }}
      onPointerDown={press}
      onPointerUp={release}
      onPointerLeave={release}
      onBlur={release}
      onKeyDown={(event) => (event.key === 'Enter' || event.key === ' ') && !event.repeat && press()}
      onKeyUp={release}
    >
      {holding ? 'Keep holding' : 'Hold to start'}
    </Button>
  );
}
