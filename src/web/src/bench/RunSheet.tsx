import { Box, Button } from '@mui/material';
import { Fragment, useEffect } from 'react';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useDesk } from './desk';
import { FaultFinding } from './FaultFinding';
import { Line } from './Line';
import { LookStep } from './LookStep';
import { Matrix } from './Matrix';
import { Phases } from './Phases';
import { StepRow } from './StepRow';
import { useRun, useShown } from './useBench';
import { Verdict } from './Verdict';

/** Every step with limit, value, margin and last time's value, all at once; the one in hand stands out, and the page follows it. */
export function RunSheet({ saveError, onSaveAgain }: { saveError: Error | null; onSaveAgain: () => void }) {
  const desk = useDesk();
  const steps = useShown(({ sheet }) => sheet.steps);
  const remarks = useShown(({ sheet }) => sheet.remarks);
  const checkNote = useShown(({ sheet }) => sheet.checkNote);
  const current = useShown(({ now }) => now.current ?? null);
  const isFaultFinding = useShown(({ sheet }) => sheet.scope === 'faultFinding');
  const matrix = useShown(({ sheet }) => sheet.matrix ?? null);
  const inHand = desk.chosen ?? current;
  const cells = new Set(matrix?.rows.flatMap((it) => it.cells));
  const [firstCell, lastCell] = [
    steps.findIndex((it) => cells.has(it.key)),
    steps.findLastIndex((it) => cells.has(it.key)),
  ];
  // What is switched between two cells stands above them while it is in hand; its place is what it does, not a line of its own.
  const isBetweenCells = (at: number) =>
    firstCell >= 0 && steps[at]!.family === 'pause' && at >= firstCell - 1 && at < lastCell;
  const switching = steps.find((it, at) => it.key === inHand && isBetweenCells(at));
  useFollow(inHand ? `step-${inHand}` : 'verdict');
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
      <Box sx={{ px: 2.5, pt: 1.5 }}>
        <Phases />
        <Told />
        {isFaultFinding && <FaultFinding />}
      </Box>
      {steps.map((step, at) =>
        cells.has(step.key) ? (
          at === firstCell && (
            <Fragment key="matrix">
              {switching && <StepRow key={switching.key} step={switching} isCurrent />}
              <Matrix card={matrix!} inHand={inHand} />
            </Fragment>
          )
        ) : isBetweenCells(at) ? null : step.family === 'look' && step.key === inHand ? (
          <LookStep key={step.key} step={step} />
        ) : (
          <StepRow key={step.key} step={step} isCurrent={step.key === inHand} />
        ),
      )}
      <Verdict />
      {saveError && (
        <Box sx={{ p: 2 }}>
          <Notice problem={saveError} onAgain={onSaveAgain} />
        </Box>
      )}
      {remarks.length > 0 && (
        <Box component="ul" sx={{ color: c.bark, fontSize: 14.5, pl: 4.5, my: 1.5 }}>
          {remarks.map((remark) => (
            <li key={remark}>{remark}</li>
          ))}
        </Box>
      )}
      <Box
        sx={{
          mt: 'auto',
          px: 2.5,
          py: 1.25,
          color: c.muted,
          fontSize: 14,
          display: 'flex',
          alignItems: 'center',
          gap: 2,
          flexWrap: 'wrap',
        }}
      >
        <Key name="Enter" does="go on" /> <Key name="*" does="again" /> <Key name="-" does="bad" />{' '}
        <Key name="/" does="not tested" />
        <Button
          size="small"
          color="inherit"
          onClick={() => desk.ask({ what: 'keys' })}
          sx={{ color: c.muted }}
        >
          ? all keys
        </Button>
        <Box sx={{ flex: 1 }} />
        <span>{checkNote}</span>
      </Box>
    </Box>
  );
}

/** The step in hand stays in view, without taking the focus. */
function useFollow(id: string) {
  useEffect(() => {
    const element = document.getElementById(id);
    if (!element) return;
    const { top, bottom } = element.getBoundingClientRect();
    // What stands at the foot of a small screen covers what is behind it.
    const foot = document.querySelector('aside[aria-label=Instrument]')?.getBoundingClientRect().height ?? 60;
    const room = window.innerHeight - foot;
    const isTall = bottom - top > room - 60;
    if (top < 0 || top > room - 80 || (!isTall && bottom > room))
      element.scrollIntoView({ block: isTall ? 'start' : 'center' });
  }, [id]);
}

/** What must be known beside the steps: taken up again, changed rules, what storage or the judge did not do. */
function Told() {
  const run = useRun();
  const trouble = useShown((shown) => shown.trouble?.message ?? null);
  const storage = useShown((shown) => shown.storage?.message ?? null);
  const changed = useShown((shown) => shown.changed);
  const isOutdated = useShown((shown) => shown.isOutdated);
  const pending = useShown((shown) => shown.pending);
  const warning = useShown(({ now }) => now.warning ?? null);
  const mayOnlyLook = useShown(({ now }) => now.mayOnlyLook ?? null);
  const refused = useShown(({ now }) => now.refused);
  const error = run.get().trouble;
  return (
    <>
      {warning && <Line tone={c.fail}>{warning}</Line>}
      {mayOnlyLook && <Line tone={c.advice}>{mayOnlyLook}</Line>}
      {run.hasUnreadable && (
        <Line tone={c.fail}>
          An earlier half-done sheet of this item lies on this device and cannot be read. It is kept aside on
          Today; nothing of it counts here, so begin anew.
        </Line>
      )}
      {run.resumed && <Line tone={c.slate}>Taken up where it was left; nothing was lost.</Line>}
      {storage && <Line tone={c.fail}>{storage}</Line>}
      {trouble && error && (
        <Box sx={{ pb: 1 }}>
          <Notice problem={error} onAgain={() => void run.judgeAgain().catch(() => {})} />
          <Box sx={{ color: c.bark, fontSize: 14.5, mt: 0.5 }}>
            {pending} {pending === 1 ? 'entry is' : 'entries are'} kept on this device and not judged yet;
            nothing is started until they are.
          </Box>
        </Box>
      )}
      {changed.length > 0 && (
        <Line tone={c.advice}>
          What was done is judged by what holds now. {changed.join(' ')}{' '}
          <Button size="small" color="inherit" onClick={() => run.dismissChanges()}>
            Seen
          </Button>
        </Line>
      )}
      {isOutdated && (
        <Line tone={c.advice}>
          Rules or item changed at the server meanwhile. Saving judges this sheet anew by what holds now.
        </Line>
      )}
      {refused.length > 0 && <Line tone={c.advice}>{refused.at(-1)!.why}</Line>}
    </>
  );
}

export function Key({ name, does }: { name: string; does: string }) {
  return (
    <span>
      <Box
        component="kbd"
        sx={{
          font: 'inherit',
          border: `1.5px solid ${c.muted}`,
          borderRadius: '4px',
          px: 0.75,
          mr: 0.75,
          color: c.ink,
          bgcolor: c.raised,
        }}
      >
        {name}
      </Box>
      {does}
    </span>
  );
}
