import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { Rail } from '../design/Rail';
import { c } from '../design/tokens';
import { instrument, type Line, type LiveReport } from './instrument';
import { rodOf } from './stepText';
import { Trace } from './Trace';
import type { ReadingNow, Step } from './types';
import { Waveform } from './Waveform';
import { useLine, useMoved, useShown, useStepInHand } from './useBench';

/** Older than this, a live value is news no more. */
const freshMs = 1200;

/** The display: the value as it moves, readable from two metres; while it runs, how old it is, and never one that has stopped coming. */
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
  const ageMs = useAge(line);
  // Of a job with two instruments the one that the step in hand needs.
  const own = step?.with ?? null;
  const isUp = line.is !== 'idle' && line.is !== 'lost';
  const isStale = line.is === 'running' && ageMs > freshMs;
  const live = line.is === 'running' && !isStale ? line.live : null;
  const shownStep = isUp ? step : steps.find((it) => it.key === latest?.step);
  // What is lost or has stopped coming shows nothing: a frozen number would be believed.
  const text = isUp ? (live?.text ?? '') : line.is === 'lost' ? '' : (latest?.text ?? '');
  return (
    <Box>
      <Box sx={{ color: isStale ? c.fail : c.muted, fontSize: 14 }}>
        {!isUp && latest?.source === 'typed' ? 'typed' : (own?.name ?? kit?.name ?? 'No instrument')} ·{' '}
        {isStale
          ? `nothing has come for ${Math.round(ageMs / 1000)} s`
          : statusText(
              line.is,
              live,
              shownStep,
              latest,
              own?.connected ?? kit?.connected ?? false,
              line.is === 'running' && line.isHeld,
            )}
      </Box>
      <Figure
        text={text}
        isCompact={isCompact}
        isMoving={live !== null && live.si !== null && !live.isSettled}
        tone={latest?.status === 'fail' && !isUp ? c.fail : c.ink}
        empty={isUp ? '…' : 'no reading yet'}
        at={live?.at ?? null}
      />
      {live && <Beside live={live} />}
      {!isCompact && shownStep?.rail && shownStep.limit && (
        <Rail
          scale={shownStep.rail}
          limit={shownStep.limit.si ?? null}
          set={shownStep.limit.set}
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
      {live && step?.hazardKind === 'shock' && step.family === 'measure' && <Countdown live={live} />}
      {!isUp && latest?.waveform && !isCompact && <Waveform of={latest.waveform} label={latest.name} />}
      <EarthTrace step={shownStep} />
      {line.is === 'running' && line.isHeld && (
        <Button fullWidth variant="contained" sx={{ my: 1 }} onClick={() => instrument.finish()}>
          Moved it all along: take it
        </Button>
      )}
      <Box
        component="span"
        role="status"
        sx={{ position: 'absolute', width: '1px', height: '1px', overflow: 'hidden', clipPath: 'inset(50%)' }}
      >
        {!isUp && latest ? `${latest.name}: ${latest.text}, ${latest.status ?? ''}` : ''}
      </Box>
    </Box>
  );
}

function Figure(props: {
  text: string;
  isCompact: boolean;
  isMoving: boolean;
  tone: string;
  empty: string;
  /** When the instrument showed it: how long a value takes to be seen is measured by it. */
  at: string | null;
}) {
  const { text, isCompact } = props;
  const [number, ...unit] = /\d/.test(text) ? text.split(' ') : [text];
  const isLong = !!number && (number.length > 5 || !/\d/.test(number));
  return (
    <Box
      data-shown-at={props.at ?? undefined}
      sx={{ minHeight: isCompact ? 40 : 66, display: 'flex', alignItems: 'baseline', gap: 1.25 }}
    >
      <Box
        component="span"
        sx={{
          fontSize: isCompact ? '2rem' : isLong ? '2.9rem' : '3.6rem',
          fontWeight: 750,
          letterSpacing: '-0.02em',
          lineHeight: 1.15,
          fontVariantNumeric: 'tabular-nums',
          color: props.tone,
        }}
      >
        {number || (
          <Box
            component="span"
            sx={{ color: c.muted, fontSize: isCompact ? '1rem' : '1.5rem', fontWeight: 400 }}
          >
            {props.empty}
          </Box>
        )}
      </Box>
      <Box component="span" sx={{ fontSize: isCompact ? '1.1rem' : '1.5rem' }}>
        {unit.join(' ')}
      </Box>
      {props.isMoving && number && (
        <Box component="span" sx={{ color: c.slate, fontSize: 14, fontWeight: 600 }}>
          settling
        </Box>
      )}
    </Box>
  );
}

/** What the instrument shows beside its value. */
function Beside({ live }: { live: LiveReport }) {
  const parts = [
    live.mains !== null && `mains ${live.mains} V`,
    live.loadA !== null && `load ${live.loadA} A`,
    live.pathSeen === false && 'L and N open',
    live.said,
  ].filter(Boolean);
  return parts.length === 0 ? null : <Box sx={{ color: c.muted, fontSize: 14 }}>{parts.join(' · ')}</Box>;
}

/** To the discharge: hands are off before it comes, and whoever triggers it knows when. */
function Countdown({ live }: { live: LiveReport }) {
  const left = Math.max(0, Math.ceil(live.seconds - live.elapsed));
  return (
    <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 1, color: c.fail, fontWeight: 700 }}>
      <Box component="span" sx={{ fontSize: '2rem', fontVariantNumeric: 'tabular-nums' }}>
        {left}
      </Box>
      <span>s at most to the discharge: stand clear</span>
    </Box>
  );
}

/** Of an earth path that was measured here last, or is being measured. */
function EarthTrace({ step }: { step: Step | undefined }) {
  const moved = useMoved();
  return moved && step?.test === 'earthContinuity' && moved.step === step.key ? (
    <Trace moved={moved} limit={step.limit?.si ?? null} />
  ) : null;
}

/** Milliseconds since the last report; counted on while none comes. */
function useAge(line: Line) {
  const [now, setNow] = useState(0);
  const isRunning = line.is === 'running';
  useEffect(() => {
    if (!isRunning) return;
    const timer = setInterval(() => setNow(Date.now()), 300);
    return () => clearInterval(timer);
  }, [isRunning]);
  return line.is === 'running' ? Math.max(0, now - line.at) : 0;
}

function statusText(
  is: Line['is'],
  live: LiveReport | null,
  step: Step | undefined,
  latest: ReadingNow | undefined,
  connected: boolean,
  isHeld: boolean,
) {
  if (is === 'connecting') return 'opening the line';
  if (is === 'stopping') return 'stopping';
  if (is === 'lost') return 'line lost';
  if (is === 'running' && isHeld)
    return `${step?.name ?? ''}, ${(live?.elapsed ?? 0).toFixed(0)} s: move the flex`;
  if (is === 'running' && step?.family === 'discharges')
    return `${step.name}, ${(live?.elapsed ?? 0).toFixed(0)} s`;
  if (is === 'running')
    return `${step?.name ?? ''}, ${(live?.elapsed ?? 0).toFixed(0)} s of ${(live?.seconds ?? step?.seconds ?? 0).toFixed(0)} s`;
  if (latest) return step?.name ?? latest.name;
  return connected ? 'connected and waiting' : 'readings are typed';
}
