import { Box, Checkbox, FormControlLabel, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { NumberField } from './NumberField';
import { amountOf } from '../frame/amount';

type Fact = Schema['DefibrillatorFact'];

const numbersIn = (text: string) =>
  text
    .split(/,?\s+|;/)
    .filter((it) => it !== '')
    .map((it) => amountOf(it));

/**
 * What it is checked at beside its safety: the energies that are chosen for it, whether it shoots with the beat, and how tall its check
 * trace is. Without an energy it is no defibrillator.
 */
export function Defibrillator(props: { value: Fact | null; onChange: (it: Fact | null) => void }) {
  const { value, onChange } = props;
  const [settings, setSettings] = useState(() => (value?.settingsJ ?? []).join(' '));
  const isOne = (value?.settingsJ ?? []).length > 0;
  const parsed = numbersIn(settings);
  const isNumbers = parsed.every((it) => Number.isFinite(it) && it > 0);
  const change = (part: Partial<Fact>, joules = value?.settingsJ ?? []) =>
    onChange({
      settingsJ: [...joules],
      synchronises: value?.synchronises ?? false,
      ecgSetMv: value?.ecgSetMv ?? null,
      ...part,
    });
  return (
    <Box role="group" aria-label="Defibrillator" sx={{ display: 'grid', gap: 1.25 }}>
      <TextField
        size="small"
        label="Defibrillator: energies to check, J"
        value={settings}
        error={!isNumbers}
        helperText={
          !isNumbers
            ? 'Numbers with blanks between them.'
            : isOne
              ? `${parsed.map((joule) => `${joule} J`).join(' · ')}; the largest is charged fifteen times.`
              : undefined
        }
        onChange={(event) => {
          setSettings(event.target.value);
          change({}, numbersIn(event.target.value));
        }}
        slotProps={{
          htmlInput: { inputMode: 'decimal', autoComplete: 'off', placeholder: '20 50 100 200 360' },
        }}
      />
      {isOne && (
        <Box
          sx={{
            display: 'grid',
            gap: 1,
            gridTemplateColumns: 'repeat(2, minmax(0, 1fr))',
            alignItems: 'center',
          }}
        >
          <FormControlLabel
            control={
              <Checkbox
                checked={value?.synchronises ?? false}
                onChange={(event) => change({ synchronises: event.target.checked })}
              />
            }
            label="shoots with the beat"
          />
          <NumberField
            label="Check trace, mV"
            value={value?.ecgSetMv ?? null}
            onChange={(ecgSetMv) => change({ ecgSetMv })}
          />
        </Box>
      )}
      {!isOne && <Box sx={{ color: c.muted, fontSize: 14 }}>None: it delivers no shock.</Box>}
    </Box>
  );
}
