import { Box, Button, TextField } from '@mui/material';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import type { Line, Step } from './editing';

/** One line of a procedure: where it stands, how long it is held, its own limit, or why it is left out. */
export function StepEditor(props: {
  number: number;
  line: Line;
  units: readonly Schema['LimitUnit'][];
  fault: string | undefined;
  onChange: (step: Step) => void;
  onTurn: () => void;
  onMove: (by: number) => void;
  onRemove: () => void;
  isFirst: boolean;
  isLast: boolean;
}) {
  const { step, words } = props.line;
  const name = step.do === 'pause' ? 'Pause' : step.do === 'check' ? 'Check' : words;
  const isAsked = step.do === 'measure' || step.do === 'leaveOut';
  return (
    <Box
      component="li"
      aria-label={`${props.number} ${name}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: '30px minmax(0, 1fr) auto',
        gap: 1,
        borderTop: `1px solid ${c.line}`,
        py: 1,
        boxShadow: props.fault ? `inset 4px 0 ${c.fail}` : undefined,
        pl: props.fault ? 1 : 0,
      }}
    >
      <Box sx={{ color: c.muted, pt: 1 }}>{props.number}</Box>
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ pt: 1, textDecoration: step.do === 'leaveOut' ? 'line-through' : 'none' }}>{name}</Box>
        <Fields step={step} units={props.units} onChange={props.onChange} />
        {props.fault && <Box sx={{ color: c.fail, mt: 0.5 }}>{props.fault}</Box>}
      </Box>
      <Box sx={{ display: 'flex', alignItems: 'flex-start', '& > button': { minWidth: 44, px: 1 } }}>
        <Button
          size="small"
          color="inherit"
          aria-label={`${name}: earlier`}
          disabled={props.isFirst}
          onClick={() => props.onMove(-1)}
        >
          ↑
        </Button>
        <Button
          size="small"
          color="inherit"
          aria-label={`${name}: later`}
          disabled={props.isLast}
          onClick={() => props.onMove(1)}
        >
          ↓
        </Button>
        {isAsked ? (
          <Button size="small" color="inherit" onClick={props.onTurn}>
            {step.do === 'measure' ? 'Leave out' : 'Do it'}
          </Button>
        ) : (
          <Button size="small" color="inherit" onClick={props.onRemove}>
            Remove
          </Button>
        )}
      </Box>
    </Box>
  );
}

function Fields(props: {
  step: Step;
  units: readonly Schema['LimitUnit'][];
  onChange: (step: Step) => void;
}) {
  const { step, onChange } = props;
  const usualUnit =
    step.do === 'measure' ? (props.units.find((it) => step.step.startsWith(it.begins))?.symbol ?? 'ohm') : '';
  switch (step.do) {
    case 'leaveOut':
      return (
        <TextField
          fullWidth
          size="small"
          label="Why it is left out; it stands on the paper"
          value={step.reason}
          onChange={(event) => onChange({ ...step, reason: event.target.value })}
          slotProps={{ htmlInput: { maxLength: 500 } }}
        />
      );
    case 'pause':
      return (
        <Row>
          <TextField
            size="small"
            sx={{ flex: '1 1 240px' }}
            label="What is done by hand"
            value={step.says}
            onChange={(event) => onChange({ ...step, says: event.target.value })}
            slotProps={{ htmlInput: { maxLength: 500 } }}
          />
          <Figure
            label="Wait, seconds"
            value={step.seconds ?? 0}
            onChange={(seconds) => onChange({ ...step, seconds: Math.round(seconds ?? 0) })}
          />
        </Row>
      );
    case 'check':
      return (
        <Row>
          <TextField
            size="small"
            sx={{ flex: '1 1 200px' }}
            label="What is checked"
            value={step.name}
            onChange={(event) => onChange({ ...step, name: event.target.value })}
            slotProps={{ htmlInput: { maxLength: 120 } }}
          />
          {step.target ? (
            <>
              <Figure
                label="Set"
                value={step.target.set}
                onChange={(set) => onChange({ ...step, target: { ...step.target!, set: set ?? 0 } })}
              />
              <Figure
                label="Within ±"
                value={step.target.tolerance}
                onChange={(tolerance) =>
                  onChange({ ...step, target: { ...step.target!, tolerance: tolerance ?? 0 } })
                }
              />
              <TextField
                size="small"
                sx={{ width: 100 }}
                label="Unit"
                value={step.target.unit}
                onChange={(event) =>
                  onChange({ ...step, target: { ...step.target!, unit: event.target.value } })
                }
                slotProps={{ htmlInput: { maxLength: 30 } }}
              />
              <Button size="small" color="inherit" onClick={() => onChange({ do: 'check', name: step.name })}>
                Good or bad
              </Button>
            </>
          ) : (
            <Button
              size="small"
              color="inherit"
              onClick={() => onChange({ ...step, target: { set: 0, tolerance: 0, unit: '' } })}
            >
              With a set value
            </Button>
          )}
        </Row>
      );
    case 'measure':
      return (
        <Row>
          <Figure
            label="Held, seconds"
            value={step.seconds ?? null}
            onChange={(seconds) =>
              onChange({ ...step, seconds: seconds === null ? null : Math.round(seconds) })
            }
          />
          {step.limit ? (
            <>
              <Figure
                label="Own limit"
                value={step.limit.value}
                onChange={(value) => onChange({ ...step, limit: { ...step.limit!, value: value ?? 0 } })}
              />
              <Box sx={{ minWidth: 40 }}>
                {props.units.find((it) => it.symbol === step.limit!.unit)?.label ?? step.limit.unit}
              </Box>
              <TextField
                size="small"
                sx={{ flex: '1 1 180px' }}
                label="Whose figure"
                value={step.limit.why}
                onChange={(event) =>
                  onChange({ ...step, limit: { ...step.limit!, why: event.target.value } })
                }
                slotProps={{ htmlInput: { maxLength: 500 } }}
              />
              <Button size="small" color="inherit" onClick={() => onChange({ ...step, limit: null })}>
                The standard’s
              </Button>
            </>
          ) : (
            <Button
              size="small"
              color="inherit"
              onClick={() => onChange({ ...step, limit: { value: 0, unit: usualUnit, why: '' } })}
            >
              Tighter limit
            </Button>
          )}
        </Row>
      );
    case 'borrow':
      return <Box sx={{ color: c.muted, fontSize: 14.5 }}>borrowed from {step.packId}</Box>;
  }
}

const Row = ({ children }: { children: React.ReactNode }) => (
  <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 0.75 }}>{children}</Box>
);

/** A number as it is typed: nothing is nothing, and a half-typed one is no zero. */
function Figure(props: { label: string; value: number | null; onChange: (value: number | null) => void }) {
  return (
    <TextField
      size="small"
      type="number"
      sx={{ width: 130 }}
      label={props.label}
      value={props.value ?? ''}
      onChange={(event) => props.onChange(event.target.value === '' ? null : Number(event.target.value))}
      slotProps={{ htmlInput: { step: 'any', inputMode: 'decimal' } }}
    />
  );
}
