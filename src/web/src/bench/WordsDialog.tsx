import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { type ReactNode, useId, useState } from 'react';
import { c } from '../design/tokens';
import { OnOffer } from './OnOffer';

/** A title, phrases to choose from and room for one's own words. Nothing is chosen for anybody: without words nothing is taken. */
export function WordsDialog(props: {
  title: string;
  offered: readonly string[];
  label: string;
  take: string;
  note?: ReactNode;
  /** Stands there to begin with. */
  words?: string | undefined;
  cancel?: string;
  onTake: (words: string) => void;
  onClose: () => void;
}) {
  const id = useId();
  const [words, setWords] = useState(props.words ?? '');
  const trimmed = words.trim();
  return (
    <Dialog open onClose={props.onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (trimmed) props.onTake(trimmed);
        }}
      >
        <DialogTitle id={id}>{props.title}</DialogTitle>
        <DialogContent sx={{ pt: '8px !important' }}>
          <Box sx={{ mb: 2 }}>
            <OnOffer phrases={props.offered} chosen={trimmed} onChoose={setWords} />
          </Box>
          <TextField
            fullWidth
            label={props.label}
            value={words}
            onChange={(event) => setWords(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 300, autoComplete: 'off' } }}
          />
          {props.note && <Box sx={{ color: c.muted, mt: 1.5 }}>{props.note}</Box>}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={props.onClose}>
            {props.cancel ?? 'Cancel'}
          </Button>
          <Button type="submit" variant="contained" disabled={!trimmed}>
            {props.take}
          </Button>
        </DialogActions>
      </Box>
    </Dialog>
  );
}
