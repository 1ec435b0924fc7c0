import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
  Typography,
} from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, ask } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';

/** Calendars that another program reads by a secret link: made, shown once, taken back. */
export function Calendars({ onClose }: { onClose: () => void }) {
  const title = useId();
  const queries = useQueryClient();
  const [choice, setChoice] = useState(0);
  const [isCopied, setIsCopied] = useState(false);
  const page = useQuery({
    queryKey: ['schedule', 'calendars'],
    queryFn: () => ask(api.GET('/api/v1/schedule/calendars')),
  });
  const again = () => queries.invalidateQueries({ queryKey: ['schedule', 'calendars'] });
  const make = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/schedule/calendars', {
          body: { clientId: page.data?.choices[choice]?.clientId ?? null },
        }),
      ),
    onMutate: () => setIsCopied(false),
    onSuccess: again,
  });
  const revoke = useMutation({
    mutationFn: (linkId: string) =>
      ask(api.POST('/api/v1/schedule/calendars/{linkId}/revoke', { params: { path: { linkId } } })),
    onSuccess: again,
  });
  const link = make.data ? new URL(make.data.path, window.location.href).href : null;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={title}>
      <DialogTitle id={title}>Calendars</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 2 }}>
        <Box sx={{ color: c.bark }}>
          Another calendar program reads the dates by a link (iCalendar). Whoever has the link reads them
          without signing in, so give it to nobody who should not. It can be taken back at any time.
        </Box>
        {page.error && <Notice problem={page.error} onAgain={() => void page.refetch()} />}
        {!page.data && !page.error && <Waiting what="Fetching the calendars" />}
        {page.data && (
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
            <TextField
              select
              size="small"
              label="Calendar of"
              value={choice}
              onChange={(event) => setChoice(Number(event.target.value))}
              sx={{ flex: '1 1 260px' }}
            >
              {page.data.choices.map((it, at) => (
                <MenuItem key={it.text} value={at}>
                  {it.text}
                </MenuItem>
              ))}
            </TextField>
            <Button variant="contained" disabled={make.isPending} onClick={() => make.mutate()}>
              Make a link
            </Button>
          </Box>
        )}
        {make.error && <Notice problem={make.error} />}
        {link && (
          <Box role="status" sx={{ bgcolor: c.paper, p: 1.5, borderRadius: '6px' }}>
            <Box sx={{ fontWeight: 600 }}>Copy it now: it is not shown again.</Box>
            <Box component="code" sx={{ display: 'block', overflowWrap: 'anywhere', my: 1 }}>
              {link}
            </Box>
            <Button
              size="small"
              variant="outlined"
              color="inherit"
              onClick={() =>
                void navigator.clipboard
                  ?.writeText(link)
                  .then(() => setIsCopied(true))
                  .catch(() => setIsCopied(false))
              }
            >
              {isCopied ? 'Copied' : 'Copy'}
            </Button>
          </Box>
        )}
        {page.data && page.data.calendars.length > 0 && (
          <Box component="section" aria-label="Links that hold">
            <Typography variant="h2">Links that hold</Typography>
            {page.data.calendars.map((it) => (
              <Box
                key={it.id}
                sx={{
                  display: 'flex',
                  gap: 1,
                  alignItems: 'center',
                  borderTop: `1px solid ${c.line}`,
                  py: 1,
                }}
              >
                <Box sx={{ flex: 1, minWidth: 0 }}>
                  {it.what}
                  <Box sx={{ color: c.muted, fontSize: 14 }}>
                    made by {it.by} on {showDate(it.madeAt)};{' '}
                    {it.readAt ? `last read on ${showDate(it.readAt)}` : 'not read yet'}
                  </Box>
                </Box>
                <Button
                  size="small"
                  variant="outlined"
                  color="inherit"
                  disabled={revoke.isPending}
                  onClick={() => revoke.mutate(it.id)}
                >
                  Take back
                </Button>
              </Box>
            ))}
            {revoke.error && <Notice problem={revoke.error} />}
          </Box>
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
