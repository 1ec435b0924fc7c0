import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle } from '@mui/material';
import { useId, useState } from 'react';
import { c } from '../design/tokens';
import { isRepairSaid, noRepair, RepairFields, repairOf } from '../quarantine/RepairFields';
import { useRun, useShown } from './useBench';

/** What was found and mended before this test: the repair and the test point at the failure that they close. */
export function RepairDialog({ onClose }: { onClose: () => void }) {
  const id = useId();
  const run = useRun();
  const held = useShown((shown) => shown.laid.item.held);
  const [repair, setRepair] = useState(noRepair);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (!isRepairSaid(repair)) return;
          onClose();
          void run.happen({ kind: 'repairTold', ...repairOf(repair) }).catch(() => {});
        }}
      >
        <DialogTitle id={id}>
          What was mended
          <Box sx={{ fontSize: 15, fontWeight: 400, color: c.bark }}>{held?.words}</Box>
        </DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          <RepairFields value={repair} onChange={setRepair} />
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
          <Button type="submit" variant="contained" disabled={!isRepairSaid(repair)}>
            That was mended
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
