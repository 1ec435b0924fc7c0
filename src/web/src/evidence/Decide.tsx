import { Box, Button, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { showMoment } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { type Detail, useDecide, useUndo } from './useEvidence';

/** A lead decides for the whole group: one step, with the figures of the day and a reason. */
export function Decide({ it }: { it: Detail }) {
  const [id, setId] = useState(() => crypto.randomUUID());
  const [reason, setReason] = useState('');
  const decide = useDecide(it);
  if (it.group.whyNot)
    return <Box sx={{ borderLeft: `4px solid ${c.bark}`, pl: 1.25, mt: 2 }}>{it.group.whyNot}</Box>;
  return (
    <Box component="section" aria-label="Decide" sx={{ mt: 2.5 }}>
      <Typography variant="h2">Decide for all {it.group.items}</Typography>
      <TextField
        fullWidth
        multiline
        label="Why"
        value={reason}
        onChange={(event) => setReason(event.target.value)}
        helperText="It is kept with the figures of today, and each item’s dates say who decided."
        slotProps={{ htmlInput: { maxLength: 500 } }}
        sx={{ mt: 1 }}
      />
      <Box sx={{ display: 'grid', gap: 1, mt: 1, gridTemplateColumns: { xs: '1fr', sm: 'repeat(3, 1fr)' } }}>
        {it.choices.map((choice) => (
          <Box key={choice.step}>
            <Button
              fullWidth
              variant={choice.isSuggested ? 'contained' : 'outlined'}
              color={choice.isSuggested ? 'primary' : 'inherit'}
              disabled={!!choice.whyNot || !reason.trim() || decide.isPending}
              onClick={() =>
                decide.mutate(
                  { id, step: choice.step, reason },
                  {
                    onSuccess: () => {
                      setReason('');
                      setId(crypto.randomUUID());
                    },
                  },
                )
              }
            >
              {choice.text}
            </Button>
            <Box sx={{ color: c.muted, fontSize: 14, mt: 0.5 }}>{choice.whyNot ?? choice.interval}</Box>
          </Box>
        ))}
      </Box>
      <Box sx={{ color: c.muted, fontSize: 14, mt: 1 }}>
        Shorter counts at once, from each item’s last test. Longer is earned by the next test.
      </Box>
      {decide.error && <Notice problem={decide.error} />}
    </Box>
  );
}

/** What was decided before, each with the figures of its day; what moved something can be undone. */
export function Decisions({ it }: { it: Detail }) {
  const undo = useUndo();
  const [undoing, setUndoing] = useState<{ decision: string; id: string; reason: string } | null>(null);
  if (it.decisions.length === 0) return null;
  return (
    <Box component="section" aria-label="Decided before" sx={{ mt: 2.5 }}>
      <Typography variant="h2">Decided before</Typography>
      {it.decisions.map((one) => (
        <Box key={one.id} sx={{ borderBottom: `1px solid ${c.line}`, py: 1 }}>
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <Box sx={{ flex: 1, textDecoration: one.isUndone ? 'line-through' : 'none', fontWeight: 600 }}>
              {one.text}
            </Box>
            {one.mayBeUndone && undoing?.decision !== one.id && (
              <Button
                color="inherit"
                onClick={() => setUndoing({ decision: one.id, id: crypto.randomUUID(), reason: '' })}
              >
                Undo
              </Button>
            )}
          </Box>
          <Box sx={{ fontSize: 14.5 }}>{one.reason}</Box>
          <Box sx={{ fontSize: 14, color: c.muted }}>
            {one.by}, {showMoment(one.at)}. {one.figures}.
          </Box>
          {undoing?.decision === one.id && (
            <Box sx={{ display: 'flex', gap: 1, mt: 1, flexWrap: 'wrap' }}>
              <TextField
                size="small"
                autoFocus
                label="Why it is undone"
                value={undoing.reason}
                onChange={(event) => setUndoing({ ...undoing, reason: event.target.value })}
                slotProps={{ htmlInput: { maxLength: 500 } }}
                sx={{ flex: '1 1 200px' }}
              />
              <Button
                variant="outlined"
                color="inherit"
                disabled={!undoing.reason.trim() || undo.isPending}
                onClick={() => undo.mutate(undoing, { onSuccess: () => setUndoing(null) })}
              >
                Undo it
              </Button>
              <Button color="inherit" onClick={() => setUndoing(null)}>
                Leave it
              </Button>
            </Box>
          )}
        </Box>
      ))}
      {undo.error && <Notice problem={undo.error} />}
    </Box>
  );
}
