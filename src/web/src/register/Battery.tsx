import { Box, Checkbox, FormControlLabel, TextField } from '@mui/material';
import type { Schema } from '../api/client';
import { NumberField } from './NumberField';

type Fact = Schema['BatteryFact'];

/** What a device runs on when the mains goes away: when it was fitted, and how long its maker gives it. */
export function Battery(props: { value: Fact | null; onChange: (it: Fact) => void }) {
  const it = props.value ?? { has: false, fittedOn: null, lifeMonths: null };
  return (
    <Box role="group" aria-label="Battery" sx={{ display: 'grid', gap: 1.25 }}>
      <FormControlLabel
        control={
          <Checkbox
            checked={it.has}
            onChange={(event) => props.onChange({ ...it, has: event.target.checked })}
          />
        }
        label="It has a battery beside its mains"
      />
      {it.has && (
        <Box sx={{ display: 'grid', gap: 1, gridTemplateColumns: 'repeat(2, minmax(0, 1fr))' }}>
          <TextField
            type="date"
            size="small"
            label="Fitted on"
            value={it.fittedOn ?? ''}
            onChange={(event) => props.onChange({ ...it, fittedOn: event.target.value || null })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <NumberField
            label="Lives, months"
            value={it.lifeMonths ?? null}
            onChange={(lifeMonths) => props.onChange({ ...it, lifeMonths })}
          />
        </Box>
      )}
    </Box>
  );
}
