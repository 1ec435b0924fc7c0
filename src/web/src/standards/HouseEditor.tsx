import { Box, Button, MenuItem, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, Problem, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { amountOf } from '../frame/amount';

/** A lead's stricter limit on one row. The server refuses a loosening and says why. */
export function HouseEditor({
  standardId,
  says,
  row,
  onClose,
}: {
  standardId: string;
  /** What the row belongs to, to begin a sentence with. */
  says: string;
  row: Schema['LimitRow'];
  onClose: () => void;
}) {
  const queries = useQueryClient();
  const [value, setValue] = useState(row.house ? String(row.house.value) : '');
  const [unit, setUnit] = useState(row.house?.unit ?? row.units[0]!.symbol);
  const [reason, setReason] = useState(row.house?.reason ?? '');
  const path = { id: standardId, rule: row.id };
  const change = useMutation({
    mutationFn: (lift: boolean) =>
      lift
        ? ask(
            api.DELETE('/api/v1/standards/{id}/house/{rule}', {
              params: { path, query: { reason: reason.trim() } },
            }),
          )
        : ask(
            api.PUT('/api/v1/standards/{id}/house/{rule}', {
              params: { path },
              body: { value: amountOf(value), unit, reason: reason.trim() },
            }),
          ),
    onSuccess: (page) => {
      queries.setQueryData(['standards', standardId], page);
      void queries.invalidateQueries({ queryKey: ['standards'], exact: true });
      onClose();
    },
  });
  const isNumber = value.trim() !== '' && Number.isFinite(amountOf(value));
  const refusal =
    change.error instanceof Problem && change.error.faults.length > 0
      ? change.error.faults.map((it) => it.message).join(' ')
      : change.error &&
        `${change.error.message} ${change.error instanceof Problem ? change.error.detail : ''}`;
  return (
    <Box
      component="form"
      aria-label={`House limit of ${row.what}`}
      onSubmit={(event) => {
        event.preventDefault();
        if (isNumber && reason.trim()) change.mutate(false);
      }}
      sx={{ bgcolor: c.raised, border: `1px solid ${c.line}`, borderRadius: '6px', p: 2, my: 1 }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <TextField
          size="small"
          autoFocus
          label="House limit"
          value={value}
          onChange={(event) => setValue(event.target.value)}
          error={value.trim() !== '' && !isNumber}
          slotProps={{ htmlInput: { inputMode: 'decimal', maxLength: 20 } }}
          sx={{ width: 130 }}
        />
        <TextField
          size="small"
          select
          label="Unit"
          value={unit}
          onChange={(event) => setUnit(event.target.value)}
          sx={{ width: 96 }}
        >
          {row.units.map((it) => (
            <MenuItem key={it.symbol} value={it.symbol}>
              {it.label}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="small"
          label="Why the house is stricter"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 500 } }}
          sx={{ flex: 1, minWidth: 240 }}
        />
      </Box>
      <Box sx={{ color: c.muted, fontSize: 13.5, mt: 1 }}>
        {says} says {row.text}. The house may only be stricter
        {row.text.includes('+ R') && '; it replaces the plain value, the allowance R stays'}.
      </Box>
      {refusal && (
        <Box role="alert" sx={{ color: c.fail, fontWeight: 600, mt: 1 }}>
          {refusal}
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, mt: 1.5, flexWrap: 'wrap' }}>
        <Button type="submit" variant="contained" disabled={!isNumber || !reason.trim() || change.isPending}>
          Set the house limit
        </Button>
        {row.house && (
          <Button
            variant="outlined"
            color="inherit"
            disabled={!reason.trim() || change.isPending}
            onClick={() => change.mutate(true)}
          >
            Lift it
          </Button>
        )}
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </Box>
    </Box>
  );
}
