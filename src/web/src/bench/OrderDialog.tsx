import { Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useState } from 'react';
import { useRun, useShown } from './useBench';

/** The client's order that it is inspected under, and the fault that was reported. Both empty: none. */
export function OrderDialog({ onClose }: { onClose: () => void }) {
  const run = useRun();
  const told = useShown(({ now }) => now.workOrder);
  const [number, setNumber] = useState(told?.number ?? '');
  const [fault, setFault] = useState(told?.fault ?? '');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void run.happen({
            kind: 'workOrderTold',
            number: number.trim() || null,
            fault: fault.trim() || null,
          });
          onClose();
        }}
      >
        <DialogTitle>Work order</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2 }}>
          <TextField
            sx={{ mt: 1 }}
            autoFocus
            label="Number, as the client counts"
            value={number}
            onChange={(event) => setNumber(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 100, autoComplete: 'off' } }}
          />
          <TextField
            label="Reported fault"
            multiline
            minRows={2}
            value={fault}
            onChange={(event) => setFault(event.target.value)}
            helperText="It stands on the paper beside what was found."
            slotProps={{ htmlInput: { maxLength: 500 } }}
          />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained">
            Keep
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
