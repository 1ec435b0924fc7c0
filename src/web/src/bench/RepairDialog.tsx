import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useId, useState } from 'react';
import { c } from '../design/tokens';
import { useRun, useShown } from './useBench';

/** What was found and mended before this test: the repair and the test point at the failure that they close. */
export function RepairDialog({ onClose }: { onClose: () => void }) {
  const id = useId();
  const run = useRun();
  const held = useShown((shown) => shown.laid.item.held);
  const [it, setIt] = useState({ found: '', done: '', parts: '', repairedBy: '' });
  const field = (name: keyof typeof it, label: string, autoFocus = false) => (
    <TextField
      fullWidth
      label={label}
      value={it[name]}
      autoFocus={autoFocus}
      onChange={(event) => setIt({ ...it, [name]: event.target.value })}
      slotProps={{ htmlInput: { maxLength: 300, autoComplete: 'off' } }}
    />
  );
  const isSaid = [it.found, it.done, it.repairedBy].every((text) => text.trim() !== '');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isSaid) return;
          onClose();
          void run
            .happen({ kind: 'repairTold', ...it, parts: it.parts.trim() === '' ? null : it.parts.trim() })
            .catch(() => {});
        }}
      >
        <DialogTitle id={id}>
          What was mended
          <Box sx={{ fontSize: 15, fontWeight: 400, color: c.bark }}>{held?.words}</Box>
        </DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {field('found', 'What was found', true)}
          {field('done', 'What was done')}
          {field('parts', 'Parts replaced (may stay empty)')}
          {field('repairedBy', 'Repaired by')}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!isSaid}>
            That was mended
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
