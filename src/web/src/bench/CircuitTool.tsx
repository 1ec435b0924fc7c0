import { Box, Button, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { useRun, useShown } from './useBench';

interface Row {
  name: string;
  ma: string;
}

const ratings = [10, 30, 100, 300];

/** A number as people write it; null for what is none. "1,5" is one and a half. */
const read = (text: string) => {
  const trimmed = text.trim().replace(',', '.');
  return /^\d+(\.\d+)?$/.test(trimmed) ? Number(trimmed) : null;
};

/** What everything on the circuit leaks, this item first: an RCD may trip by the sum alone. */
export function CircuitTool({ before, onDone }: { before: Schema['CircuitSum'] | null; onDone: () => void }) {
  const run = useRun();
  const name = useShown(({ sheet }) => sheet.name);
  const own = useShown(
    ({ now }) => now.readings.filter((it) => !it.void && it.step.startsWith('leakage')).at(-1)?.si ?? null,
  );
  const [rcdMa, setRcdMa] = useState(before?.rcdMa ?? 30);
  const [rows, setRows] = useState<Row[]>(
    () =>
      before?.items.map((it) => ({ name: it.name, ma: String(it.ma) })) ?? [
        { name, ma: own === null ? '' : (own * 1000).toFixed(2) },
        { name: '', ma: '' },
      ],
  );
  const change = (at: number, part: Partial<Row>) =>
    setRows((all) => all.map((it, n) => (n === at ? { ...it, ...part } : it)));
  const filled = rows.filter((it) => it.name.trim() || it.ma.trim());
  const wrong = filled.find((it) => !it.name.trim() || read(it.ma) === null);
  return (
    <Box
      component="form"
      aria-label="What the circuit leaks"
      onSubmit={(event) => {
        event.preventDefault();
        if (wrong || filled.length === 0) return;
        onDone();
        void run
          .happen({
            kind: 'circuitSummed',
            rcdMa,
            items: filled.map((it) => ({ name: it.name.trim(), ma: read(it.ma)! })),
          })
          .catch(() => {});
      }}
      sx={{ display: 'grid', gap: 1, maxWidth: 460 }}
    >
      {rows.map((row, at) => (
        // Rows have no name of their own; they are only ever added at the end.
        // oxlint-disable-next-line react/no-array-index-key
        <Box key={at} sx={{ display: 'grid', gridTemplateColumns: '1fr 110px', gap: 1 }}>
          <TextField
            size="small"
            label={`On the circuit, ${at + 1}`}
            value={row.name}
            onChange={(event) => change(at, { name: event.target.value })}
          />
          <TextField
            size="small"
            label="mA"
            inputMode="decimal"
            value={row.ma}
            error={row.ma.trim() !== '' && read(row.ma) === null}
            onChange={(event) => change(at, { ma: event.target.value })}
          />
        </Box>
      ))}
      {wrong && (
        <Box sx={{ color: c.fail, fontSize: 14 }} role="status">
          Each line wants a name and what it leaks in mA, as 0.8.
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <TextField
          select
          size="small"
          label="RCD"
          value={rcdMa}
          onChange={(event) => setRcdMa(Number(event.target.value))}
          sx={{ width: 110 }}
        >
          {ratings.map((it) => (
            <MenuItem key={it} value={it}>
              {it} mA
            </MenuItem>
          ))}
        </TextField>
        <Button color="inherit" onClick={() => setRows((all) => [...all, { name: '', ma: '' }])}>
          One more
        </Button>
        <Button type="submit" variant="contained" disabled={!!wrong || filled.length === 0}>
          Sum
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
