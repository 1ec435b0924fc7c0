import { Box, Button } from '@mui/material';
import { memo } from 'react';
import { Rail } from '../design/Rail';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { useDesk } from './desk';
import { Tally } from './Discharges';
import { IsolationWork, isIsolationWork } from './IsolationWork';
import { OutletSummary, OutletWork } from './OutletWork';
import { PhotosOf } from './PhotosOf';
import { Doubted, PathOpen, StepWork } from './StepWork';
import { ringOf, rodOf } from './stepText';
import type { ReadingNow, Step, StepNow } from './types';
import { Waveform } from './Waveform';
import { useLine, useRun, useShown } from './useBench';

/** One line of the run sheet. The same line is the working place while its step is the one in hand. */
export const StepRow = memo(function StepRow({ step, isCurrent }: { step: Step; isCurrent: boolean }) {
  const desk = useDesk();
  const now = useShown((shown) => shown.now.steps.find((it) => it.key === step.key)!);
  const readings = useShown((shown) => shown.now.readings.filter((it) => it.step === step.key));
  const isRunning = useLine((line) => line.is !== 'idle' && line.step === step.key);
  const stands = readings.find((it) => it.id === now.stands);
  const others = readings.filter((it) => !it.void && !it.fault);
  const atPoint = desk.probe?.step === step.key ? desk.probe.point : null;
  const isWordy = now.standing === 'stopped' || step.family !== 'measure';
  const asksForWork = isCurrent && !isRunning && (now.may || atPoint !== null);
  // A step of isolation works under its line, not beside it.
  const isAside = asksForWork && !isIsolationWork(step) && step.family !== 'outlet';
  // An outlet is changed at any time, also after it was found good.
  const isAtOutlet = isCurrent && step.family === 'outlet' && now.standing !== 'stopped';
  const isOpen =
    isCurrent &&
    !isRunning &&
    !asksForWork &&
    !isAtOutlet &&
    now.whyNot &&
    now.standing !== 'stopped' &&
    !stands;
  return (
    <Box
      component="section"
      id={`step-${step.key}`}
      aria-label={step.name}
      aria-current={isCurrent ? 'step' : undefined}
      onClick={() => step.family !== 'fuseAndFlex' && !isRunning && desk.choose(step.key)}
      sx={{
        display: 'grid',
        alignItems: 'center',
        columnGap: 1.75,
        px: 2.5,
        py: isCurrent ? 2 : 1.1,
        minHeight: 62,
        scrollMarginBlock: 140,
        gridTemplateColumns: {
          xs: '30px minmax(0, 1fr) auto',
          lg: '30px minmax(150px, 215px) minmax(0, 1fr) minmax(126px, auto)',
        },
        borderBottom: `1px solid ${c.line}`,
        boxShadow: isCurrent ? `inset 6px 0 ${c.reed}` : 'none',
        bgcolor: isCurrent ? c.surface : 'transparent',
        color: now.standing === 'stopped' ? c.muted : c.ink,
        cursor: step.family === 'fuseAndFlex' ? 'default' : 'pointer',
      }}
    >
      <RowRing step={step} now={now} isRunning={isRunning} />
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontWeight: 700, fontSize: isCurrent ? '1.1rem' : '1rem', lineHeight: 1.2 }}>
          {step.name}
        </Box>
        <Box sx={{ color: c.muted, fontSize: 13.5, lineHeight: 1.3 }}>
          {[step.terminals, step.detail].filter(Boolean).join(' · ')}
          {isCurrent && step.with && ` · with ${step.with.name}`}
          {now.void > 0 && ` · ${now.void} voided`}
        </Box>
      </Box>
      <Box
        sx={{
          minWidth: 0,
          gridColumn: { xs: '2 / -1', lg: isWordy && !isAside && !stands ? '3 / -1' : 'auto' },
          gridRow: { xs: 2, lg: 'auto' },
        }}
      >
        <Middle step={step} now={now} stands={stands} isCurrent={isCurrent} isRunning={isRunning} />
      </Box>
      <Box
        sx={{
          textAlign: 'right',
          minWidth: 0,
          display: isWordy && !isAside && !stands ? 'none' : 'block',
        }}
      >
        {isAside ? (
          <StepWork step={step} now={now} point={atPoint} />
        ) : (
          step.family === 'measure' && (
            <Box
              sx={{
                fontSize: isCurrent ? '1.6rem' : '1.2rem',
                fontWeight: 700,
                lineHeight: 1.15,
                whiteSpace: 'nowrap',
              }}
            >
              {isRunning ? <LiveText /> : stands?.text}
            </Box>
          )
        )}
        {['function', 'check'].includes(step.family) && stands && (
          <Box sx={{ fontWeight: 700 }}>{stands.text}</Box>
        )}
        <Margin step={step} stands={stands} />
      </Box>
      {asksForWork && isIsolationWork(step) && <IsolationWork step={step} />}
      {isAtOutlet && <OutletWork />}
      {isOpen && (
        <Box sx={{ gridColumn: '2 / -1', color: c.bark, fontSize: 14.5, mt: 0.5 }} role="note">
          {now.whyNot}
        </Box>
      )}
      {!isRunning &&
        (others.length > 1 || others.some((it) => it.point || it.override || it.borrowed.length > 0)) && (
          <Box sx={{ gridColumn: { xs: '1 / -1', lg: '2 / -1' }, mt: 0.5 }}>
            {others.map((it) => (
              <Other key={it.id} reading={it} />
            ))}
          </Box>
        )}
      {now.owed.length > 0 && now.standing !== 'stopped' && (
        <Box sx={{ gridColumn: { xs: '1 / -1', lg: '2 / -1' }, color: c.advice, fontSize: 14.5 }}>
          A failed reading was voided{now.owed[0] ? ` at ${now.owed.join(', ')}` : ''}: it is measured again
          there.
        </Box>
      )}
      {isCurrent && !isRunning && readings.some((it) => it.pathOpen && !it.void) && (
        <PathOpen reading={readings.find((it) => it.pathOpen && !it.void)!} />
      )}
      {isCurrent && !isRunning && readings.some((it) => it.doubt && !it.void) && (
        <Doubted reading={readings.findLast((it) => it.doubt && !it.void)!} />
      )}
      {isCurrent && !isRunning && stands && atPoint === null && (
        <More step={step} now={now} stands={stands} />
      )}
    </Box>
  );
});

function RowRing({ step, now, isRunning }: { step: Step; now: StepNow; isRunning: boolean }) {
  const share = useLine((line) =>
    isRunning && line.is === 'running' && line.live
      ? line.live.elapsed / Math.max(line.live.seconds, 0.1)
      : 0,
  );
  return (
    <Ring state={isRunning ? 'running' : ringOf(now.standing)} size={28} progress={share} key={step.key} />
  );
}

const LiveText = () => useLine((line) => (line.is === 'running' ? (line.live?.text ?? '…') : '…'));

function Middle(props: {
  step: Step;
  now: StepNow;
  stands: ReadingNow | undefined;
  isCurrent: boolean;
  isRunning: boolean;
}) {
  const { step, now, stands, isCurrent } = props;
  if (now.standing === 'stopped' && !stands)
    return <Box sx={{ color: c.fail, fontSize: 14.5 }}>{now.stopped}</Box>;
  if (step.family === 'look') return <LookSummary />;
  if (step.family === 'outlet') return <OutletSummary />;
  if (step.family === 'fuseAndFlex') return <FuseText />;
  if (step.family === 'discharges' && now.standing !== 'notMeasured') return <Tally step={step} now={now} />;
  if (now.standing === 'notMeasured')
    return <Box sx={{ color: c.advice, fontSize: 14.5 }}>{step.notMeasured}</Box>;
  if (stands?.waveform && isCurrent) return <Waveform of={stands.waveform} label={step.name} />;
  if (step.rail && step.limit) return <StepRail {...props} />;
  if (step.family === 'dead' && !isCurrent) return <DeadSummary step={step} />;
  const isKept = step.family === 'function' || step.key.startsWith('care');
  const lines = isKept || isCurrent ? [...step.lines, ...step.needs] : [];
  return <Box sx={{ color: c.bark, fontSize: 14.5 }}>{lines.join('. ')}</Box>;
}

function StepRail({ step, stands, isCurrent, isRunning }: Parameters<typeof Middle>[0]) {
  const live = useLine((line) => (isRunning && line.is === 'running' ? line.live : null));
  const last = step.earlier.at(-1);
  return (
    <Rail
      scale={step.rail!}
      limit={step.limit!.si ?? null}
      set={step.limit!.set}
      isFloor={step.limit!.isFloor}
      earlier={step.earlier}
      label={`${step.name}: ${stands?.text ?? 'not measured'}, limit ${step.limit!.text}${last ? `, last ${last.text}` : ''}`}
      ticks={isCurrent}
      rod={
        live && live.si !== null
          ? { si: live.si, tone: 'slate', bound: live.isBound ? 'above' : undefined }
          : isRunning
            ? undefined
            : rodOf(stands)
      }
    />
  );
}

function Margin({ step, stands }: { step: Step; stands: ReadingNow | undefined }) {
  const last = step.earlier.at(-1);
  return (
    <Box sx={{ color: stands?.status === 'fail' ? c.fail : c.muted, fontSize: 13.5, lineHeight: 1.3 }}>
      {stands?.swing && <Box sx={{ color: c.bark }}>{stands.swing}</Box>}
      {stands?.note && <Box sx={{ color: c.bark }}>{stands.note}</Box>}
      {stands?.margin && (
        <Box
          sx={{ fontWeight: stands.nearLimit ? 700 : 400, color: stands.nearLimit ? c.advice : 'inherit' }}
        >
          {stands.margin}
        </Box>
      )}
      {step.limit && <span>{step.limit.text}</span>}
      {last && (
        <span>
          {step.limit ? ' · ' : ''}last {last.text}
        </span>
      )}
    </Box>
  );
}

/** One of several readings of a step, and whatever is special about it. */
function Other({ reading }: { reading: ReadingNow }) {
  return (
    <Box
      sx={{
        fontSize: 13.5,
        lineHeight: 1.45,
        color: reading.status === 'fail' ? c.fail : reading.nearLimit ? c.advice : c.bark,
      }}
    >
      {reading.point ?? 'first point'}: {reading.text}
      {reading.status && reading.status !== 'pass' && ` (${reading.status})`}
      {reading.override && (
        <strong>
          {' '}
          · overridden by {reading.override.by}: {reading.override.was} became {reading.override.is},{' '}
          {reading.override.reason}
        </strong>
      )}
      {reading.borrowed.map((it) => (
        <Box key={it.id} component="span" sx={{ display: 'block' }}>
          by {it.standard}: {it.hasLimit ? it.text : 'no limit for it; noted, it settles nothing'}
        </Box>
      ))}
    </Box>
  );
}

/** What can be done with a reading that stands. */
function More({ step, now, stands }: { step: Step; now: StepNow; stands: ReadingNow }) {
  const desk = useDesk();
  const run = useRun();
  return (
    <Box
      onClick={(event) => event.stopPropagation()}
      sx={{
        gridColumn: { xs: '1 / -1', lg: '2 / -1' },
        display: 'flex',
        flexWrap: 'wrap',
        justifyContent: 'flex-end',
        mr: -1.5,
      }}
    >
      <Button
        size="small"
        onClick={() => desk.ask({ what: 'again', target: stands.id, text: `${step.name} ${stands.text}` })}
      >
        Again
      </Button>
      {now.takesPoint && (
        <Button size="small" onClick={() => desk.ask({ what: 'point', step: step.key })}>
          Another point
        </Button>
      )}
      {step.unit !== null && (
        <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'borrow', reading: stands })}>
          Second standard
        </Button>
      )}
      {stands.borrowed.length > 0 && (
        <Button
          size="small"
          color="inherit"
          onClick={() => void run.happen({ kind: 'withdrawn', target: stands.borrowed.at(-1)!.id })}
        >
          Without {stands.borrowed.at(-1)!.standard}
        </Button>
      )}
      {step.test === 'earthContinuity' && (
        <PhotosOf of={step.key} shows="earthPoint" text="Photo of the point" />
      )}
      {stands.overrideTo && (
        <Button size="small" color="inherit" onClick={() => desk.ask({ what: 'override', reading: stands })}>
          Override
        </Button>
      )}
      {stands.override && (
        <Button
          size="small"
          color="inherit"
          onClick={() => void run.happen({ kind: 'withdrawn', target: stands.override!.id })}
        >
          Withdraw the override
        </Button>
      )}
    </Box>
  );
}

function DeadSummary({ step }: { step: Step }) {
  const isolation = useShown(({ now }) => now.isolation);
  const count = isolation?.dead.filter((it) => it.side === step.side).length ?? 0;
  return count === 0 ? null : (
    <Box sx={{ color: c.bark, fontSize: 14.5 }}>
      {count} of {isolation!.pairs.length} pairs found dead
    </Box>
  );
}

function FuseText() {
  const fuse = useShown(({ sheet }) => sheet.fuse);
  const desk = useDesk();
  return (
    <Box sx={{ fontSize: 14.5 }}>
      <Box sx={{ color: c.bark }}>{fuse.summary}</Box>
      {fuse.findings.map((it) => (
        <Box key={it.text} sx={{ color: it.isFault ? c.fail : c.advice, fontWeight: 600 }}>
          {it.text}
        </Box>
      ))}
      {fuse.findings.length > 0 && (
        <Button size="small" color="inherit" sx={{ ml: -1.5 }} onClick={() => desk.ask({ what: 'facts' })}>
          Correct plate, fuse or flex
        </Button>
      )}
    </Box>
  );
}

function LookSummary() {
  const look = useShown(({ now }) => now.look);
  const count = useShown(({ sheet }) => sheet.look.length);
  const bad = look.filter((it) => it.answer === 'bad');
  const advice = look.filter((it) => it.answer === 'advice');
  if (bad.length > 0)
    return <Box sx={{ color: c.fail, fontWeight: 600 }}>{bad.map((it) => it.words).join('; ')}</Box>;
  return (
    <Box sx={{ color: c.bark, fontSize: 14.5 }}>
      {look.filter((it) => it.answer === 'good').length} of {count} points good
      {advice.length > 0 && (
        <Box component="span" sx={{ color: c.advice, fontWeight: 600 }}>
          {' '}
          · {advice.map((it) => it.words).join('; ')}
        </Box>
      )}
    </Box>
  );
}
