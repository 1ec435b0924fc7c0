import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { linesOf } from '../register/PlateMore';

/** A maker or an authority calls a model back: whatever of it is in service goes out of use, of every client. */
export function RecallDialog({ onClose }: { onClose: () => void }) {
  const id = useId();
  const queries = useQueryClient();
  const [recallId] = useState(() => crypto.randomUUID());
  const [it, setIt] = useState({ maker: '', model: '', serials: '', words: '', reference: '' });
  const recall = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/quarantine/recall', {
          body: { ...it, id: recallId, serials: linesOf(it.serials) },
        }),
      ),
    onSuccess: () =>
      Promise.all([
        queries.invalidateQueries({ queryKey: ['quarantine'] }),
        queries.invalidateQueries({ queryKey: ['register'] }),
      ]),
  });
  const field = (name: keyof typeof it, label: string, more?: object) => (
    <TextField
      label={label}
      value={it[name]}
      onChange={(event) => setIt({ ...it, [name]: event.target.value })}
      {...more}
    />
  );
  const isSaid = [it.maker, it.model, it.words].every((text) => text.trim() !== '');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (isSaid && !recall.isPending && !recall.data) recall.mutate();
        }}
      >
        <DialogTitle id={id}>Recall a model</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {recall.data ? (
            <Box role="status">
              {recall.data.tags.length === 0
                ? 'None of them was in service.'
                : `Out of use now: ${recall.data.tags.join(', ')}.`}
              {recall.data.heldBefore > 0 &&
                ` ${recall.data.heldBefore} stay out of use for their own reason.`}
              {recall.data.unknown.length > 0 && (
                <Box sx={{ color: c.advice }}>Not in the register: {recall.data.unknown.join(', ')}.</Box>
              )}
            </Box>
          ) : (
            <>
              <Box sx={{ display: 'grid', gap: 2, gridTemplateColumns: '1fr 1fr' }}>
                {field('maker', 'Maker', { autoFocus: true })}
                {field('model', 'Model')}
              </Box>
              {field('serials', 'Only these serials, one a line', { multiline: true, minRows: 2 })}
              {field('words', 'What is wrong with them')}
              {field('reference', 'Number of the recall')}
              <Box sx={{ color: c.bark }}>
                Without a serial everything of the model goes out of use, of every client.
              </Box>
            </>
          )}
          {recall.error && <Notice problem={recall.error} />}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            {recall.data ? 'Done' : 'Cancel'}
          </Button>
          {!recall.data && (
            <Button type="submit" variant="contained" color="error" disabled={!isSaid || recall.isPending}>
              Take them out of use
            </Button>
          )}
        </DialogActions>
      </Box>
    </Dialog>
  );
}
