import {
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  FormControlLabel,
  Radio,
  RadioGroup,
  TextField,
} from '@mui/material';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask } from '../api/client';
import { Notice } from '../frame/Notice';
import { type Fleet, useFleetChanged } from './useFleet';

/** Codes of practice differ in what they ask before each issue: a lead chooses for the fleet, and says why. */
export function SchoolDialog({ fleet, onClose }: { fleet: Fleet; onClose: () => void }) {
  const [school, setSchool] = useState(fleet.school);
  const [reason, setReason] = useState('');
  const changed = useFleetChanged();
  const choose = useMutation({
    mutationFn: () =>
      ask(
        api.PUT('/api/v1/hire/clients/{client}/school', {
          params: { path: { client: fleet.client.code } },
          body: { school, reason },
        }),
      ),
    onSuccess: async () => {
      await changed();
      onClose();
    },
  });
  return (
    <Dialog open onClose={onClose} aria-labelledby="school-title">
      <DialogTitle id="school-title">Before each issue</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        <RadioGroup
          aria-label="Before each issue"
          value={school}
          onChange={(event) => setSchool(event.target.value as Fleet['school'])}
        >
          {fleet.schools.map((it) => (
            <FormControlLabel key={it.school} value={it.school} control={<Radio />} label={it.text} />
          ))}
        </RadioGroup>
        Which one holds follows from the code of practice that the fleet goes by; look it up in your own copy.
        <TextField
          label="Why"
          value={reason}
          onChange={(event) => setReason(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 200 } }}
        />
        {choose.error && <Notice problem={choose.error} />}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Leave it
        </Button>
        <Button
          variant="contained"
          disabled={school === fleet.school || !reason.trim() || choose.isPending}
          onClick={() => choose.mutate()}
        >
          Choose it
        </Button>
      </DialogActions>
    </Dialog>
  );
}
