import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  TextField,
  Typography,
} from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';

const week = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];

/** Who stands at the bench when, and how far the sites are: what the planner lays rounds into. */
export function BenchHours({ mayChange, onClose }: { mayChange: boolean; onClose: () => void }) {
  const title = useId();
  const page = useQuery({
    queryKey: ['schedule', 'hours'],
    queryFn: () => ask(api.GET('/api/v1/schedule/hours')),
  });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" aria-labelledby={title}>
      <DialogTitle id={title}>Bench hours and travel</DialogTitle>
      <DialogContent>
        {page.error && <Notice problem={page.error} onAgain={() => void page.refetch()} />}
        {!page.data && !page.error && <Waiting what="Fetching" />}
        {page.data && (
          <>
            <Typography variant="h2">Minutes at the bench, day by day</Typography>
            <Box sx={{ color: c.bark, mb: 1 }}>
              Without breaks and without the road: travel is taken off each day that somebody visits a site.
            </Box>
            {page.data.people.map((it) => (
              <Person key={it.personId} of={it} mayChange={mayChange} />
            ))}
            <Typography variant="h2" sx={{ mt: 3 }}>
              Minutes on the road, there and back
            </Typography>
            <Box
              sx={{
                display: 'grid',
                gap: 1.5,
                mt: 1,
                gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' },
              }}
            >
              {page.data.sites.map((it) => (
                <Site key={it.siteId} of={it} mayChange={mayChange} />
              ))}
            </Box>
          </>
        )}
      </DialogContent>
      <DialogActions>
        <Button variant="contained" onClick={onClose}>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function useKeep<T>(send: (what: T) => Promise<unknown>) {
  const queries = useQueryClient();
  return useMutation({
    mutationFn: send,
    onSuccess: () => queries.invalidateQueries({ queryKey: ['schedule'] }),
  });
}

/** An empty or odd field counts as none until it is a number. */
const minutesOf = (text: string) => (/^\d{1,3}$/.test(text.trim()) ? Number(text) : null);

function Person({ of, mayChange }: { of: Schema['PersonHours']; mayChange: boolean }) {
  const [minutes, setMinutes] = useState(() => of.minutes.map(String));
  const [off, setOff] = useState(of.daysOff);
  const [day, setDay] = useState('');
  const keep = useKeep((body: Schema['SetHours']) =>
    ask(api.PUT('/api/v1/schedule/hours/{personId}', { params: { path: { personId: of.personId } }, body })),
  );
  const read = minutes.map(minutesOf);
  const isSound = read.every((it) => it !== null);
  const isChanged = minutes.join() !== of.minutes.join() || off.join() !== of.daysOff.join();
  return (
    <Box
      component="form"
      aria-label={of.name}
      sx={{ borderTop: `1px solid ${c.line}`, py: 1.5 }}
      onSubmit={(event) => {
        event.preventDefault();
        if (isSound) keep.mutate({ minutes: read.filter((it) => it !== null), daysOff: [...off] });
      }}
    >
      <Box sx={{ fontWeight: 700 }}>{of.name}</Box>
      <Box sx={{ color: c.muted, fontSize: 14, mb: 1 }}>
        {of.competences.length > 0 ? of.competences.join(', ') : 'holds no competence: may look, not test'}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        {week.map((name, at) => (
          <TextField
            key={name}
            size="small"
            label={name}
            value={minutes[at]}
            disabled={!mayChange}
            error={read[at] === null}
            onChange={(event) => setMinutes(minutes.map((it, i) => (i === at ? event.target.value : it)))}
            sx={{ width: 76 }}
            slotProps={{ htmlInput: { inputMode: 'numeric', maxLength: 3 } }}
          />
        ))}
        {mayChange && isChanged && (
          <Button type="submit" variant="contained" size="small" disabled={!isSound || keep.isPending}>
            Keep
          </Button>
        )}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1 }}>
        {off.length > 0 && <Box sx={{ color: c.bark }}>Not there:</Box>}
        {off.map((it) => (
          <Button
            key={it}
            size="small"
            color="inherit"
            variant="outlined"
            disabled={!mayChange}
            title="Take this day back"
            onClick={() => setOff(off.filter((one) => one !== it))}
          >
            {showDate(it)}
          </Button>
        ))}
        {mayChange && (
          <TextField
            size="small"
            type="date"
            label="A day off"
            value={day}
            onChange={(event) => {
              const chosen = event.target.value;
              setDay(chosen);
              if (/^20\d\d-/.test(chosen) && !off.includes(chosen)) {
                setOff([...off, chosen].sort());
                setDay('');
              }
            }}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        )}
      </Box>
      {keep.error && <Notice problem={keep.error} />}
    </Box>
  );
}

function Site({ of, mayChange }: { of: Schema['SiteTravel']; mayChange: boolean }) {
  const [minutes, setMinutes] = useState(String(of.minutes));
  const keep = useKeep((body: Schema['SetTravel']) =>
    ask(api.PUT('/api/v1/schedule/sites/{siteId}/travel', { params: { path: { siteId: of.siteId } }, body })),
  );
  const read = minutesOf(minutes);
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        if (read !== null) keep.mutate({ minutes: read });
      }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <TextField
          size="small"
          value={minutes}
          disabled={!mayChange}
          error={read === null}
          onChange={(event) => setMinutes(event.target.value)}
          sx={{ width: 84 }}
          slotProps={{
            htmlInput: { 'aria-label': `Minutes to ${of.site}`, inputMode: 'numeric', maxLength: 3 },
          }}
        />
        <Box sx={{ minWidth: 0, flex: 1 }}>
          {of.site}
          <Box sx={{ color: c.muted, fontSize: 13.5 }}>{of.client}</Box>
        </Box>
        {mayChange && minutes !== String(of.minutes) && (
          <Button type="submit" variant="contained" size="small" disabled={read === null || keep.isPending}>
            Keep
          </Button>
        )}
      </Box>
      {keep.error && <Notice problem={keep.error} />}
    </Box>
  );
}
