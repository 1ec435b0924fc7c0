import { Box, Button, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { freesTheKeys } from './benchKeys';
import { happened } from './types';
import { useRun, useShown } from './useBench';

type Row = Schema['CircuitLeakage'];
const empty: Row = { name: '', leaks: '' };

/** What everything on the circuit leaks, this item first: an RCD may trip by the sum alone. What is typed is read by Core. */
export function CircuitTool({ before, onDone }: { before: Schema['CircuitSum'] | null; onDone: () => void }) {
  const run = useRun();
  const name = useShown(({ sheet }) => sheet.name);
  const ratings = useShown(({ sheet }) => sheet.phrases.rcdRatingsMa);
  const [rcdMa, setRcdMa] = useState(before?.rcdMa ?? 30);
  const [rows, setRows] = useState<readonly Row[]>(before?.items ?? [{ name, leaks: '' }, empty]);
  const [whyNot, setWhyNot] = useState<string | null>(null);
  const change = (at: number, part: Partial<Row>) =>
    setRows((all) => all.map((it, n) => (n === at ? { ...it, ...part } : it)));
  const items = rows.filter((it) => it.name.trim() || it.leaks.trim());
  const sum = async () => {
    const event = happened({ kind: 'circuitSummed', rcdMa, items: [...items] });
    await run.happen(event).catch(() => {});
    const refused = run.get().now.refused.find((it) => it.id === event.id);
    if (refused) setWhyNot(refused.why);
    else onDone();
  };
  return (
    <Box
      component="form"
      aria-label="What the circuit leaks"
      onSubmit={(event) => {
        event.preventDefault();
        void sum();
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
            value={row.leaks}
            onChange={(event) => change(at, { leaks: event.target.value })}
            slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off' } }}
          />
        </Box>
      ))}
      {whyNot && (
        <Box sx={{ color: c.fail, fontSize: 14 }} role="alert">
          {whyNot}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <TextField
          select
          size="small"
          label="RCD"
          slotProps={freesTheKeys}
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
        <Button color="inherit" onClick={() => setRows((all) => [...all, empty])}>
          One more
        </Button>
        <Button type="submit" variant="contained" disabled={items.length === 0}>
          Sum
        </Button>
        <Button color="inherit" onClick={onDone}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
