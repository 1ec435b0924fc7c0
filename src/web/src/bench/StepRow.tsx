import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { Rail, type Rod } from '../design/Rail';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { BorrowDialog, OverrideDialog, PointDialog } from './BenchDialogs';
import { ReadingField } from './ReadingField';
import type { BenchRun } from './run';
import type { StepState, Taken } from './states';

/** The rod of a judged value on its step's rail. */
export function rodOf(judged: Schema['JudgedEntry'] | undefined): Rod | undefined {
  if (!judged || judged.si === null || judged.si === undefined) return undefined;
  const tone =
    judged.status === 'fail'
      ? 'fail'
      : judged.status === 'undecided'
        ? 'slate'
        : judged.nearLimit
          ? 'advice'
          : 'pass';
  return {
    si: judged.si,
    tone,
    bound: judged.isBound ? (judged.qualifier === '<' ? 'below' : 'above') : undefined,
  };
}

/** One line of the run sheet. The same line is the working place while its step is the current one. */
export function StepRow(props: {
  sheet: Schema['BenchSheet'];
  run: BenchRun;
  state: StepState;
  onPrimary: () => void;
  onBad: () => void;
  onAgain: () => void;
}) {
  const { run, state } = props;
  const { step, standing, stopped } = state;
  const isCurrent = state === run.current;
  const isRunning = run.instrument.running === step.key;
  const last = step.earlier.at(-1);
  const live = isRunning ? run.instrument.live : null;
  // What has no number needs no column for one.
  const isWordy = !!stopped || step.test === 'fuse' || step.test === 'visual';
  const voided = state.taken.filter((it) => it.entry.void).length;
  const others = state.taken.filter((it) => !it.entry.void);
  const hasOthers = others.length > 1 || others.some((it) => it.entry.point);
  const atPoint = run.point?.stepKey === step.key ? run.point.name : null;
  return (
    <Box
      component="section"
      aria-label={step.name}
      aria-current={isCurrent ? 'step' : undefined}
      onClick={() => !isRunning && !stopped && step.test !== 'fuse' && run.choose(step.key)}
      sx={{
        display: 'grid',
        alignItems: 'center',
        columnGap: 1.75,
        px: 2.5,
        py: isCurrent ? 2 : 1.1,
        minHeight: 62,
        gridTemplateColumns: {
          xs: '30px minmax(0, 1fr) auto',
          lg: '30px minmax(150px, 215px) minmax(0, 1fr) minmax(126px, auto)',
        },
        borderBottom: `1px solid ${c.line}`,
        boxShadow: isCurrent ? `inset 6px 0 ${c.reed}` : 'none',
        bgcolor: isCurrent ? c.surface : 'transparent',
        color: stopped ? c.muted : c.ink,
        cursor: stopped || step.test === 'fuse' ? 'default' : 'pointer',
      }}
    >
      <Ring
        state={isRunning ? 'running' : state.ring}
        size={28}
        progress={live ? live.elapsed / Math.max(live.seconds, 0.1) : 0}
      />
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontWeight: 700, fontSize: isCurrent ? '1.1rem' : '1rem', lineHeight: 1.2 }}>
          {step.name}
        </Box>
        <Box sx={{ color: c.muted, fontSize: 13.5, lineHeight: 1.3 }}>
          {[step.terminals, step.detail].filter(Boolean).join(' · ')}
          {voided > 0 && ` · ${voided} voided`}
        </Box>
      </Box>
      <Box
        sx={{
          minWidth: 0,
          gridColumn: { xs: '2 / -1', lg: isWordy ? '3 / -1' : 'auto' },
          gridRow: { xs: 2, lg: 'auto' },
        }}
      >
        {stopped ? (
          <Box sx={{ color: c.fail, fontSize: 14.5 }}>{stopped}</Box>
        ) : step.notMeasured && !standing ? (
          <Box sx={{ color: c.advice, fontSize: 14.5 }}>{step.notMeasured}</Box>
        ) : step.test === 'fuse' ? (
          <FuseText fuse={props.sheet.fuse} />
        ) : step.test === 'visual' ? (
          <LookSummary sheet={props.sheet} run={run} />
        ) : step.rail && step.limit ? (
          <Rail
            scale={step.rail}
            limit={step.limit.si ?? null}
            isFloor={step.limit.isFloor}
            earlier={step.earlier}
            label={railLabel(state)}
            ticks={isCurrent}
            rod={
              live && live.si !== null
                ? { si: live.si, tone: 'slate', bound: live.isBound ? 'above' : undefined }
                : rodOf(standing?.judged)
            }
          />
        ) : (
          <Box sx={{ color: c.bark, fontSize: 14.5 }}>
            {step.test === 'functional' || isCurrent ? step.needs.join('. ') : ''}
          </Box>
        )}
      </Box>
      <Box sx={{ textAlign: 'right', minWidth: 0, display: isWordy ? 'none' : 'block' }}>
        {isCurrent &&
        !isRunning &&
        (!standing || atPoint || standing.judged?.status === 'undecided') &&
        !stopped ? (
          <>
            {atPoint && <Box sx={{ fontWeight: 600, mb: 0.5 }}>at {atPoint}</Box>}
            <Working {...props} />
          </>
        ) : (
          <>
            <Box
              sx={{
                fontSize: isCurrent ? '1.6rem' : '1.2rem',
                fontWeight: 700,
                lineHeight: 1.15,
                whiteSpace: 'nowrap',
              }}
            >
              {isRunning ? (live?.text ?? '…') : (standing?.judged?.text ?? (standing ? 'kept' : ''))}
            </Box>
          </>
        )}
        <Box
          sx={{
            color: standing?.judged?.status === 'fail' ? c.fail : c.muted,
            fontSize: 13.5,
            lineHeight: 1.3,
          }}
        >
          {standing?.judged?.margin && (
            <Box
              sx={{
                fontWeight: standing.judged.nearLimit ? 700 : 400,
                color: standing.judged.nearLimit ? c.advice : 'inherit',
              }}
            >
              {standing.judged.margin}
            </Box>
          )}
          {step.limit && <span>{step.limit.text}</span>}
          {last && (
            <span>
              {step.limit ? ' · ' : ''}last {last.text}
            </span>
          )}
        </Box>
      </Box>
      {!isRunning && (hasOthers || (isCurrent && standing && !atPoint)) && (
        <Box
          sx={{
            gridColumn: { xs: '1 / -1', lg: '2 / -1' },
            display: 'flex',
            flexWrap: 'wrap',
            alignItems: 'center',
            justifyContent: 'space-between',
            columnGap: 2,
            mt: 0.5,
          }}
        >
          <Box sx={{ flex: '1 1 260px' }}>
            {hasOthers && others.map((it, i) => <Other key={i} taken={it} />)}
          </Box>
          {isCurrent && standing && !atPoint && <More {...props} />}
        </Box>
      )}
    </Box>
  );
}

/** One of several readings of a step: where it was taken, or by which other standard it was judged. */
function Other({ taken }: { taken: Taken }) {
  const { entry, judged } = taken;
  const where = entry.standard ? `by ${entry.standard}` : (entry.point ?? 'first point');
  const said = entry.standard ? judged?.working.at(-1) : judged?.text;
  return (
    <Box
      sx={{
        fontSize: 13.5,
        lineHeight: 1.4,
        color: judged?.status === 'fail' ? c.fail : judged?.nearLimit ? c.advice : c.bark,
      }}
    >
      {where}: {said ?? 'kept'}
      {!entry.standard && judged?.status && judged.status !== 'pass' && ` (${judged.status})`}
      {judged?.overridden && ' overridden'}
    </Box>
  );
}

/** What can be done with a reading that stands. */
function More({ sheet, run, state, onAgain }: Parameters<typeof StepRow>[0]) {
  const [asking, setAsking] = useState<'point' | 'borrow' | 'override' | null>(null);
  const close = () => {
    setAsking(null);
    document.dispatchEvent(new Event('osierwand:settle'));
  };
  const { step } = state;
  const mayOverride = sheet.mayOverride && !(sheet.evaluated && step.test === 'leakage');
  return (
    <Box onClick={(event) => event.stopPropagation()} sx={{ display: 'flex', flexWrap: 'wrap', mr: -1.5 }}>
      <Button size="small" onClick={onAgain}>
        Again
      </Button>
      {step.manyPoints && (
        <Button size="small" onClick={() => setAsking('point')}>
          Another point
        </Button>
      )}
      {step.unit !== null && (
        <Button size="small" color="inherit" onClick={() => setAsking('borrow')}>
          Second standard
        </Button>
      )}
      {mayOverride && (
        <Button size="small" color="inherit" onClick={() => setAsking('override')}>
          Override
        </Button>
      )}
      {asking === 'point' && <PointDialog state={state} run={run} onClose={close} />}
      {asking === 'borrow' && <BorrowDialog sheet={sheet} state={state} run={run} onClose={close} />}
      {asking === 'override' && <OverrideDialog state={state} run={run} onClose={close} />}
    </Box>
  );
}

const railLabel = ({ step, standing }: StepState) =>
  `${step.name}: ${standing?.judged?.text ?? 'not measured'}, limit ${step.limit?.text ?? 'none'}${step.earlier.length > 0 ? `, last ${step.earlier.at(-1)!.text}` : ''}`;

/** What the hands do at the current step: start the instrument, type, or answer. */
function Working({
  run,
  state,
  onPrimary,
  onBad,
}: {
  run: BenchRun;
  state: StepState;
  onPrimary: () => void;
  onBad: () => void;
}) {
  const { step } = state;
  if (step.unit === null && !step.measurable)
    return (
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'flex-end' }}>
        <Button variant="contained" onClick={onPrimary}>
          Good
        </Button>
        <Button variant="outlined" color="error" onClick={onBad}>
          Bad
        </Button>
      </Box>
    );
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1, alignItems: 'flex-end', mb: 0.5 }}>
      {step.measurable && step.hazardKind !== 'mainsOnPatient' && (
        <Button variant="contained" onClick={onPrimary}>
          Measure
        </Button>
      )}
      {step.unit !== null && <ReadingField key={step.key} run={run} step={step} />}
    </Box>
  );
}

function FuseText({ fuse }: { fuse: Schema['FuseCard'] }) {
  return (
    <Box sx={{ fontSize: 14.5 }}>
      <Box sx={{ color: c.bark }}>{fuse.summary}</Box>
      {fuse.findings.map((it) => (
        <Box key={it.text} sx={{ color: it.isFault ? c.fail : c.advice, fontWeight: 600 }}>
          {it.text}
        </Box>
      ))}
    </Box>
  );
}

function LookSummary({ sheet, run }: { sheet: Schema['BenchSheet']; run: BenchRun }) {
  const bad = run.draft.look.filter((it) => it.answer === 'bad');
  const good = run.draft.look.filter((it) => it.answer === 'good').length;
  if (bad.length > 0)
    return <Box sx={{ color: c.fail, fontWeight: 600 }}>{bad.map((it) => it.words).join('; ')}</Box>;
  return (
    <Box sx={{ color: c.bark, fontSize: 14.5 }}>
      {good} of {sheet.look.length} points good
    </Box>
  );
}
