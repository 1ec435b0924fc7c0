import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** The resistance of the lead itself, shorted on the instrument's own post: measured on the line, or typed as it was shown. */
export function NullForm({ kitId, card }: { kitId: string; card: Schema['KitCard'] }) {
  const queries = useQueryClient();
  const [text, setText] = useState('');
  const take = useMutation({
    mutationFn: (typed: boolean) =>
      ask(
        api.POST('/api/v1/kit/{kitId}/null', {
          params: { path: { kitId } },
          body: { text: typed ? text : null },
        }),
      ),
    onSuccess: () => {
      setText('');
      void queries.invalidateQueries({ queryKey: ['kit'] });
    },
  });
  return (
    <Box component="section" aria-label="Null">
      <Typography variant="h2">Null</Typography>
      <Box sx={{ color: c.bark }}>
        {card.nullText
          ? `${card.nullText}, taken on ${showDate(card.nulledAt!)} at ${showTime(card.nulledAt!)}${card.nullStale ? ': too old, take it again' : ''}`
          : 'None is kept: earth readings come out too large by the lead.'}
      </Box>
      <Box sx={{ color: c.muted, fontSize: 14.5 }}>
        Short it on the instrument’s own post, not at the far clip’s jaws.
      </Box>
      <Box
        component="form"
        onSubmit={(event) => {
          event.preventDefault();
          take.mutate(true);
        }}
        sx={{ display: 'flex', gap: 1.25, flexWrap: 'wrap', mt: 1.5 }}
      >
        <Button variant="outlined" onClick={() => take.mutate(false)} disabled={take.isPending}>
          Measure on the line
        </Button>
        <TextField
          size="small"
          label="Or as shown, Ω"
          value={text}
          onChange={(event) => setText(event.target.value)}
          slotProps={{ htmlInput: { inputMode: 'decimal', autoComplete: 'off', maxLength: 12 } }}
          sx={{ width: 150 }}
        />
        <Button type="submit" variant="contained" disabled={!text.trim() || take.isPending}>
          Keep it
        </Button>
      </Box>
      {take.error && (
        <Box sx={{ mt: 1.5 }}>
          <Notice problem={take.error} />
        </Box>
      )}
      {take.data && (
        <Box role="status" sx={{ mt: 1, color: take.data.telling ? c.advice : c.bark }}>
          Null {take.data.text} kept. {take.data.telling}
        </Box>
      )}
    </Box>
  );
}
