import { Box, Button } from '@mui/material';
import type { ReactNode } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import { CountWork } from './Discharges';
import { GoodPoint } from './GoodPoint';
import { useNulling } from './nulling';
import { ReadingField } from './ReadingField';
import { StartUp } from './StartUp';
import type { ReadingNow, Step, StepNow } from './types';
import { useRun, useShown } from './useBench';

/** Direct leakage is too small where something else earths the device; then its earth is kept and the difference is measured. */
function Standing({ isTyped }: { isTyped: boolean }) {
  const desk = useDesk();
  return (
    <Box sx={{ textAlign: 'right', fontSize: 14.5 }}>
      {isTyped && <Box>Typed here, it says that the device stands isolated from any other earth.</Box>}
      <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'standing' })}>
        Something else earths it
      </Button>
    </Box>
  );
}

/** It was said that something else earths the device: by a slip, or it has been taken off since. */
function DirectAfterAll() {
  const run = useRun();
  return (
    <Button
      size="small"
      color="inherit"
      onClick={() => void run.happen({ kind: 'standingSaid', isIsolated: true }).catch(() => {})}
    >
      It stands isolated after all
    </Button>
  );
}

/** What the hands do at the step: start the instrument, type, answer, confirm. */
export function StepWork({ step, now, point }: { step: Step; now: StepNow; point: string | null }) {
  const desk = useDesk();
  const run = useRun();
  const isPending = useShown((shown) => shown.pending > 0);
  // Then there is one question, and it measures again.
  const asksForPath = useShown(({ now: shown }) =>
    shown.readings.some((it) => it.step === step.key && it.pathOpen && !it.void),
  );
  const starts = now.action === 'press' && !asksForPath;
  const noTrip = () =>
    void run.happen({ kind: 'read', step: step.key, source: 'typed', tripped: false, switchedOn: true });
  const canAnswer =
    step.family === 'function' || (['measure', 'check'].includes(step.family) && step.unit === null);
  return (
    <Box
      onClick={(event) => event.stopPropagation()}
      sx={{ display: 'flex', flexDirection: 'column', gap: 1, alignItems: 'flex-end', mb: 0.5 }}
    >
      {(point ?? now.left[0]) && <Box sx={{ fontWeight: 600 }}>at {point ?? now.left[0]}</Box>}
      {now.left.length > 1 && (
        <Box sx={{ color: c.muted, fontSize: 14 }}>{now.left.length} connections to go</Box>
      )}
      {step.powers && step.family === 'measure' && step.hazardKind !== 'shock' && <StartUp />}
      {step.test === 'earthContinuity' && <GoodPoint step={step.key} />}
      {step.test === 'earthContinuity' && <NullFirst />}
      {now.action === 'nameParts' ? (
        <PartsFirst />
      ) : (
        step.probePlaces.length > 0 && <ProbePlaces step={step} />
      )}
      {starts && (
        <Button variant="contained" disabled={isPending} onClick={() => desk.measure(step.key, 'press')}>
          Measure
        </Button>
      )}
      {now.asksStanding && <Standing isTyped={now.action === 'type'} />}
      {now.isByDifference && <DirectAfterAll />}
      {starts && step.mayBeHeld && (
        <Button
          size="small"
          color="inherit"
          disabled={isPending}
          onClick={() => desk.measure(step.key, 'press', true)}
        >
          Read while I move the flex
        </Button>
      )}
      {now.action === 'confirm' && (
        <Button variant="contained" onClick={desk.primary}>
          {step.family === 'pause' ? 'Done' : step.family === 'changeOver' ? 'Changed over' : 'Confirm'}
        </Button>
      )}
      {step.family === 'discharges' && <CountWork step={step} now={now} />}
      {canAnswer && (
        <Box sx={{ display: 'flex', gap: 1 }}>
          <Button
            variant={now.action === 'answer' ? 'contained' : 'outlined'}
            onClick={() =>
              void run.happen({
                kind: 'read',
                step: step.key,
                source: 'typed',
                ok: true,
                switchedOn: true,
                point,
              })
            }
          >
            Good
          </Button>
          <Button
            variant="outlined"
            color="error"
            onClick={() => desk.ask({ what: 'bad', step: step.key, answer: 'bad' })}
          >
            Bad
          </Button>
        </Box>
      )}
      {step.unit !== null && <ReadingField key={step.key} step={step} point={point ?? now.left[0] ?? null} />}
      {step.mayNotTrip && (
        <Button size="small" color="inherit" onClick={noTrip}>
          It did not trip
        </Button>
      )}
      {step.powers && step.family === 'measure' && step.hazardKind !== 'shock' && (
        <Button
          size="small"
          color="inherit"
          onClick={() => void run.happen({ kind: 'mainsLost', step: step.key }).catch(() => {})}
        >
          The building’s RCD tripped
        </Button>
      )}
      {step.mayFindEarth && (
        <Button size="small" color="error" onClick={() => desk.ask({ what: 'earth', step: step.key })}>
          The probe found an earth
        </Button>
      )}
    </Box>
  );
}

/** Asked where it matters: an old null takes too much or too little off the very next reading. */
function NullFirst() {
  const { isAsked, take } = useNulling();
  if (!isAsked) return null;
  return (
    <>
      <Button variant="outlined" disabled={take.isPending} onClick={() => take.mutate()}>
        {take.isPending ? 'Nulling' : 'Shorted: null the lead'}
      </Button>
      {take.error && <Box sx={{ color: c.fail, fontSize: 14, maxWidth: 220 }}>{take.error.message}</Box>}
    </>
  );
}

/** A question that comes before the step. Arrows walk its answers; none is chosen until somebody does. */
function AskedFirst(props: { question: string; children: ReactNode }) {
  const walk = (event: React.KeyboardEvent<HTMLElement>) => {
    const by = ({ ArrowDown: 1, ArrowRight: 1, ArrowUp: -1, ArrowLeft: -1 } as Record<string, number>)[
      event.key
    ];
    if (by === undefined) return;
    const all = [...event.currentTarget.querySelectorAll('button')];
    const at = all.indexOf(document.activeElement as HTMLButtonElement);
    all[(at + by + all.length) % all.length]?.focus();
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <Box
      id="asked-first"
      role="group"
      aria-label={props.question}
      onKeyDown={walk}
      sx={{ display: 'grid', gap: 0.5, justifyItems: 'stretch', width: 190 }}
    >
      <Box sx={{ fontSize: 14.5, textAlign: 'left' }}>{props.question}</Box>
      {props.children}
    </Box>
  );
}

/** In the air a probe reads what a sound item reads: what it lies on is said before its reading counts. */
function ProbePlaces({ step }: { step: Step }) {
  const run = useRun();
  const on = useShown(({ now }) => now.probe ?? null);
  const place = (to: string) => {
    // The keys are the sheet's again.
    (document.activeElement as HTMLElement | null)?.blur();
    void run.happen({ kind: 'probePlaced', on: to as Schema['ProbeOn'] }).catch(() => {});
  };
  return (
    <AskedFirst question="The probe lies on">
      {step.probePlaces.map((it) => (
        <Button
          key={it.value}
          size="small"
          color="inherit"
          variant={on === it.value ? 'contained' : 'outlined'}
          aria-pressed={on === it.value}
          onClick={() => place(it.value)}
          sx={{ minHeight: 40 }}
        >
          {it.text}
        </Button>
      ))}
    </AskedFirst>
  );
}

/** Of a medical device: what touches the patient decides what is measured. */
function PartsFirst() {
  const run = useRun();
  const reason = useShown(({ sheet }) => sheet.phrases.noAppliedParts);
  const desk = useDesk();
  const none = () => {
    (document.activeElement as HTMLElement | null)?.blur();
    void run
      .happen({
        kind: 'factsChanged',
        changes: { noAppliedParts: true },
        reason,
      })
      .catch(() => {});
  };
  return (
    <AskedFirst question="What touches the patient?">
      <Button size="small" color="inherit" variant="outlined" onClick={() => desk.ask({ what: 'facts' })}>
        Name its applied parts
      </Button>
      <Button size="small" color="inherit" variant="outlined" onClick={none}>
        None: I looked
      </Button>
    </AskedFirst>
  );
}

/** What keeps a reading from counting, and what a person may do about it; in the row of its step. */
function WayOn({ children, ways }: { children: ReactNode; ways: ReactNode }) {
  return (
    <Box
      role="note"
      onClick={(event) => event.stopPropagation()}
      sx={{
        gridColumn: { xs: '1 / -1', lg: '2 / -1' },
        borderLeft: `4px solid ${c.advice}`,
        pl: 1.5,
        mt: 1,
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        gap: 1,
      }}
    >
      <Box sx={{ flex: '1 1 240px', fontSize: 15 }}>{children}</Box>
      {ways}
    </Box>
  );
}

/** It would pass by its number and cannot be: what was to be expected, what to check first, and the way on. */
export function Doubted({ reading }: { reading: ReadingNow }) {
  const desk = useDesk();
  const doubt = reading.doubt!;
  const prove = () => desk.ask({ what: 'connected', reading: reading.id });
  return (
    <WayOn
      ways={
        doubt.asksProof &&
        doubt.mayProve && (
          <Button color="inherit" variant="outlined" onClick={prove}>
            It was connected
          </Button>
        )
      }
    >
      <strong>{doubt.expected}</strong>{' '}
      {doubt.asksProbe
        ? `Say it: ${doubt.checkFirst}?`
        : `Check first: ${doubt.checkFirst}. Then measure again.`}
    </WayOn>
  );
}

/** The instrument saw nothing between L and N: the reading is believed only when somebody has said why. */
export function PathOpen({ reading }: { reading: ReadingNow }) {
  const desk = useDesk();
  return (
    <WayOn
      ways={
        <Button
          color="inherit"
          variant="outlined"
          onClick={() => desk.ask({ what: 'path', reading: reading.id })}
        >
          It was on
        </Button>
      }
    >
      <strong>Is it switched on?</strong> Nothing is connected between L and N, so what lies behind the switch
      was not under test. Switch it on and measure again.
    </WayOn>
  );
}
