import { Box, Button, MenuItem, TextField } from '@mui/material';
import type { Schema } from '../api/client';
import { NumberField } from './NumberField';
import type { More } from './PlateMore';

const couplers: Record<Schema['InletType'], string> = {
  C5: 'C5, the small three-pole one',
  C7: 'C7, two poles, no earth',
  C13: 'C13, the usual one',
  C15: 'C15, for what gets hot',
  C19: 'C19, the large one',
  other: 'Another one',
};

/** How a lead that unplugs meets its device. */
export function CouplerField(props: {
  value: Schema['InletType'] | null;
  onChange: (it: Schema['InletType']) => void;
}) {
  return (
    <TextField
      select
      size="small"
      label="Coupler"
      value={props.value ?? ''}
      onChange={(event) => props.onChange(event.target.value as Schema['InletType'])}
      sx={{ minWidth: 200 }}
    >
      {Object.entries(couplers).map(([value, text]) => (
        <MenuItem key={value} value={value}>
          {text}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** How old it is and may become, and what hangs on a device: its interval goes by it. */
export function AgeAndRisk(props: { more: More; isMedical: boolean; onChange: (more: More) => void }) {
  const { more, onChange } = props;
  return (
    <>
      <Box sx={{ display: 'grid', gap: 1.5, gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' }}>
        <NumberField
          label="Made in, year"
          value={more.madeIn ?? null}
          onChange={(madeIn) => onChange({ ...more, madeIn: madeIn === null ? null : whole(madeIn) })}
        />
        <NumberField
          label="Expected life, years"
          value={more.lifeYears ?? null}
          onChange={(lifeYears) => onChange({ ...more, lifeYears })}
        />
      </Box>
      {props.isMedical && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          {risks.map(([name, text]) => (
            <Button
              key={name}
              size="small"
              variant={more[name] ? 'contained' : 'outlined'}
              color="inherit"
              aria-pressed={more[name] ?? false}
              onClick={() => onChange({ ...more, [name]: !more[name] })}
            >
              {text}
            </Button>
          ))}
        </Box>
      )}
    </>
  );
}

const risks = [
  ['lifeSupporting', 'Life supporting'],
  ['emergencyTransport', 'Emergency transport'],
] as const;

/** Half a year of make is no number. */
const whole = (year: number) => (Number.isInteger(year) ? year : NaN);
