import { Box, Button, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { NumberField } from './NumberField';
import { linesOf } from './PlateMore';

type Fact = Schema['MakerFact'];
type Limit = Fact['limits'][number];

/** What a maker's papers usually hold a figure for, with the unit in which they write it. */
const tests: readonly { test: string; text: string; unit: string; label: string }[] = [
  { test: 'earthContinuity', text: 'Earth continuity', unit: 'ohm', label: 'Ω' },
  { test: 'leakage/equipment', text: 'Equipment leakage', unit: 'uA', label: 'µA' },
  { test: 'leakage/appliedPart', text: 'Applied part leakage', unit: 'uA', label: 'µA' },
  { test: 'leakage/touch', text: 'Touch current', unit: 'uA', label: 'µA' },
  { test: 'leakage/patient', text: 'Patient leakage', unit: 'uA', label: 'µA' },
  { test: 'insulation', text: 'Insulation', unit: 'Mohm', label: 'MΩ' },
  { test: 'defibEnergy', text: 'Energy, off by', unit: 'J', label: 'J' },
  { test: 'defibCharge', text: 'Charge time', unit: 's', label: 's' },
];

const nothing: Fact = { intervalMonths: null, limits: [], checks: [] };

/** What the papers that came with a device ask beside the standard: its figures count where they are the tighter ones. */
export function MakerAsks(props: { value: Fact | null; onChange: (it: Fact | null) => void }) {
  const it = props.value ?? nothing;
  const [checks, setChecks] = useState(() => it.checks.join('\n'));
  const change = (part: Partial<Fact>) => {
    const next = { ...it, ...part };
    const isEmpty = next.intervalMonths == null && next.limits.length === 0 && next.checks.length === 0;
    // What was asked and is asked no more is said as such; what never was is left out.
    props.onChange(isEmpty && props.value === null ? null : next);
  };
  const setLimit = (at: number, part: Partial<Limit>) =>
    change({ limits: it.limits.map((one, n) => (n === at ? { ...one, ...part } : one)) });
  const left = tests.filter(({ test }) => !it.limits.some((one) => one.test === test));
  return (
    <Box role="group" aria-label="What its maker asks" sx={{ display: 'grid', gap: 1.25 }}>
      <NumberField
        label="Maker’s interval, months"
        value={it.intervalMonths ?? null}
        onChange={(intervalMonths) => change({ intervalMonths })}
      />
      {it.limits.map((limit, at) => (
        <Box key={limit.test} sx={{ display: 'grid', gap: 1, gridTemplateColumns: '2fr 1fr auto' }}>
          <TextField
            select
            size="small"
            label="Maker’s figure for"
            value={limit.test}
            onChange={(event) => {
              const to = tests.find(({ test }) => test === event.target.value)!;
              setLimit(at, { test: to.test, unit: to.unit });
            }}
          >
            {tests
              .filter((one) => one.test === limit.test || left.includes(one))
              .map((one) => (
                <MenuItem key={one.test} value={one.test}>
                  {one.text}
                </MenuItem>
              ))}
          </TextField>
          <NumberField
            label={tests.find(({ test }) => test === limit.test)?.label ?? limit.unit}
            value={Number.isNaN(limit.value) ? null : limit.value}
            onChange={(value) => setLimit(at, { value: value ?? NaN })}
          />
          <Button
            size="small"
            color="inherit"
            aria-label={`Without ${tests.find(({ test }) => test === limit.test)?.text ?? limit.test}`}
            onClick={() => change({ limits: it.limits.filter((_, n) => n !== at) })}
          >
            Without
          </Button>
        </Box>
      ))}
      {left.length > 0 && (
        <Button
          size="small"
          color="inherit"
          sx={{ justifySelf: 'start' }}
          onClick={() =>
            change({ limits: [...it.limits, { test: left[0]!.test, value: NaN, unit: left[0]!.unit }] })
          }
        >
          A figure of the maker’s
        </Button>
      )}
      <TextField
        size="small"
        multiline
        minRows={2}
        label="Checks the maker asks, one a line"
        value={checks}
        onChange={(event) => {
          setChecks(event.target.value);
          change({ checks: linesOf(event.target.value) });
        }}
      />
    </Box>
  );
}
