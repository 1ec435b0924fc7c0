import { Box } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { useRun } from './useBench';
import { amountOf } from '../frame/amount';

/** A fuse that was taken out and measured: the point is good with its figure, or Core says why it is not. */
export function FuseOhm({ point, ohm }: { point: Schema['LookCard']; ohm: number | null }) {
  const run = useRun();
  const [text, setText] = useState('');
  const value = amountOf(text);
  const isNumber = text.trim() !== '' && Number.isFinite(value) && value >= 0;
  const take = () => {
    if (!isNumber) return;
    void run
      .happen({ kind: 'looked', points: [{ pointId: point.id, answer: 'good', words: null, ohm: value }] })
      .catch(() => {});
    setText('');
  };
  return (
    <Box sx={{ display: 'flex', alignItems: 'center', gap: 0.75 }}>
      {ohm !== null && <Box sx={{ fontWeight: 600, fontSize: 14.5 }}>{ohm} Ω</Box>}
      <Box
        component="input"
        aria-label={point.measured!}
        placeholder={point.measured!}
        inputMode="decimal"
        autoComplete="off"
        value={text}
        onChange={(event: React.ChangeEvent<HTMLInputElement>) => setText(event.target.value)}
        onKeyDown={(event: React.KeyboardEvent) => {
          if (event.key === 'Enter') {
            event.preventDefault();
            take();
          }
        }}
        onBlur={take}
        sx={{
          width: 84,
          height: 40,
          px: 1,
          font: 'inherit',
          fontSize: 14.5,
          color: c.ink,
          bgcolor: c.raised,
          border: `1.5px solid ${text !== '' && !isNumber ? c.fail : c.line}`,
          borderRadius: '6px',
          '&::placeholder': { color: c.muted },
        }}
      />
    </Box>
  );
}
