import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, ask } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { states } from '../register/words';

/** A lead takes a record back: it stays in the book, marked, and decides nothing any more. */
export function TakeBack(props: { inspectionId: string; what: string; size?: 'small' | 'medium' }) {
  const [isOpen, setOpen] = useState(false);
  return (
    <>
      <Button size={props.size ?? 'medium'} variant="text" color="inherit" onClick={() => setOpen(true)}>
        Take it back
      </Button>
      {isOpen && <TakeBackDialog {...props} onClose={() => setOpen(false)} />}
    </>
  );
}

function TakeBackDialog(props: { inspectionId: string; what: string; onClose: () => void }) {
  const title = useId();
  const queries = useQueryClient();
  const [id] = useState(() => crypto.randomUUID());
  const [reason, setReason] = useState('');
  const back = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/inspections/{inspectionId}/take-back', {
          params: { path: { inspectionId: props.inspectionId } },
          body: { id, reason },
        }),
      ),
  });
  const close = () => {
    props.onClose();
    // Whatever stood on the record may stand otherwise now.
    if (back.data) void queries.invalidateQueries();
  };
  return (
    <Dialog open onClose={close} fullWidth maxWidth="sm" aria-labelledby={title}>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          if (reason.trim() && !back.isPending && !back.data) back.mutate();
        }}
      >
        <DialogTitle id={title}>Take back: {props.what}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
          {back.data ? (
            <Box role="status">
              Taken back by record {back.data.number}. The item is {states[back.data.state]} now
              {back.data.state === 'inService' &&
                (back.data.due
                  ? `, its test due ${showDate(back.data.due)}`
                  : back.data.visualDue
                    ? `, its look due ${showDate(back.data.visualDue)}`
                    : ', and counts as never inspected')}
              .
            </Box>
          ) : (
            <>
              <Box sx={{ color: c.bark }}>
                The record stays in the book and on its paper, marked as taken back with your name. The item
                stands as if it had decided nothing: a pass moves no date any more, and a failure it closed is
                open again.
              </Box>
              <TextField
                label="Why"
                autoFocus
                required
                value={reason}
                onChange={(event) => setReason(event.target.value)}
                helperText="It stands on every paper of this record."
                slotProps={{ htmlInput: { maxLength: 500 } }}
              />
              {back.error && <Notice problem={back.error} />}
            </>
          )}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" variant="text" onClick={close}>
            {back.data ? 'Done' : 'Leave it as it is'}
          </Button>
          {!back.data && (
            <Button
              type="submit"
              variant="contained"
              color="error"
              disabled={!reason.trim() || back.isPending}
            >
              Take it back
            </Button>
          )}
        </DialogActions>
      </Box>
    </Dialog>
  );
}
