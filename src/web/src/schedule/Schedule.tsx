import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { ExpiredNote, useExpired } from '../papers/ExpiredNote';
import { useMe } from '../people/SignedIn';
import { BenchHours } from './BenchHours';
import { Calendars } from './Calendars';
import { NearList } from './NearList';
import { Piles } from './Piles';
import { Proposed } from './Proposed';
import { UserChecks } from './UserChecks';
import type { DueBy } from './words';

const ways: readonly { by: DueBy; text: string }[] = [
  { by: 'site', text: 'By site' },
  { by: 'kind', text: 'By kind' },
  { by: 'tier', text: 'By tier' },
];

const others = [
  { by: 'users', text: 'User checks' },
  { by: 'near', text: 'On the way to a limit' },
] as const;

/** What falls due, against the hours that people have, and the rounds that the planner makes of it. */
export default function Schedule() {
  usePageTitle('Schedule');
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const [isHours, setIsHours] = useState(false);
  const [isCalendars, setIsCalendars] = useState(false);
  const by = ways.find((way) => way.by === params.get('by'))?.by ?? 'site';
  const isNear = params.get('by') === 'near';
  const isUsers = params.get('by') === 'users';
  const weeks = Number(params.get('weeks')) || 8;
  const client = params.get('client') ?? '';
  const set = (key: string, value: string) => {
    const next = new URLSearchParams(params);
    if (value) next.set(key, value);
    else next.delete(key);
    setParams(next, { replace: true });
  };
  const expired = useExpired();
  const board = useQuery({
    queryKey: ['schedule', 'due', weeks, by, client],
    queryFn: ({ signal }) =>
      ask(
        api.GET('/api/v1/schedule', {
          params: { query: { weeks, by, ...(client ? { client } : {}) } },
          signal,
        }),
      ),
    placeholderData: (previous) => previous,
  });
  if (board.error && !board.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={board.error} onAgain={() => void board.refetch()} />
      </Box>
    );
  if (!board.data) return <Waiting what="Looking what falls due" />;
  const isHouse = me.role !== 'viewer';
  const due = board.data;
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', md: isHouse ? 'minmax(0, 1fr) 380px' : '1fr' },
        flex: 1,
      }}
    >
      <Box sx={{ p: { xs: 2, md: 3 }, minWidth: 0 }}>
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
          <Typography variant="h1">What falls due</Typography>
          <Box sx={{ flex: 1 }} />
          {due.clients.length > 1 && (
            <TextField
              select
              size="small"
              label="Client"
              value={client}
              onChange={(event) => set('client', event.target.value)}
              sx={{ minWidth: 200 }}
              slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
            >
              <MenuItem value="">all clients</MenuItem>
              {due.clients.map((it) => (
                <MenuItem key={it.code} value={it.code}>
                  {it.name}
                </MenuItem>
              ))}
            </TextField>
          )}
          <TextField
            select
            size="small"
            label="Weeks"
            value={weeks}
            onChange={(event) => set('weeks', String(event.target.value))}
            sx={{ minWidth: 90 }}
          >
            {[4, 8, 13, 26].map((it) => (
              <MenuItem key={it} value={it}>
                {it}
              </MenuItem>
            ))}
          </TextField>
        </Box>
        <Box
          sx={{
            display: 'flex',
            gap: 1,
            alignItems: 'center',
            flexWrap: 'wrap',
            justifyContent: 'space-between',
            mb: 1.5,
          }}
        >
          <Box role="status" sx={{ color: c.bark }}>
            {said(due)}
          </Box>
          <Box role="group" aria-label="Laid out" sx={{ display: 'flex', gap: 0.5 }}>
            {[...ways, ...others].map((way) => {
              const isOn = way.by === (others.find((it) => it.by === params.get('by'))?.by ?? by);
              return (
                <Button
                  key={way.by}
                  size="small"
                  color="inherit"
                  variant={isOn ? 'contained' : 'text'}
                  aria-pressed={isOn}
                  onClick={() => set('by', way.by === 'site' ? '' : way.by)}
                >
                  {way.text}
                </Button>
              );
            })}
          </Box>
        </Box>
        {me.role === 'viewer' && expired.data && <ExpiredNote expired={expired.data} />}
        {isUsers ? (
          <UserChecks client={client} weeks={weeks} />
        ) : isNear ? (
          <NearList client={client} mayAct={isHouse} />
        ) : due.rows.length === 0 ? (
          <Typography sx={{ color: c.bark, py: 4 }}>Nothing falls due in these weeks.</Typography>
        ) : (
          <Piles board={due} by={by} />
        )}
        <Box sx={{ display: 'flex', gap: 1, mt: 1.5, flexWrap: 'wrap' }}>
          {isHouse && (
            <Button variant="outlined" color="inherit" onClick={() => setIsHours(true)}>
              Bench hours and travel
            </Button>
          )}
          {isHouse && (
            <Button component={Link} to="/evidence" variant="outlined" color="inherit">
              Evidence for intervals
            </Button>
          )}
          <Button variant="outlined" color="inherit" onClick={() => setIsCalendars(true)}>
            Calendars
          </Button>
        </Box>
      </Box>
      {isHouse && (
        <Proposed
          weeks={Math.min(weeks, 13)}
          client={due.clients.find((it) => it.code === client)?.name ?? null}
        />
      )}
      {isCalendars && <Calendars onClose={() => setIsCalendars(false)} />}
      {isHours && <BenchHours mayChange={me.role === 'lead'} onClose={() => setIsHours(false)} />}
    </Box>
  );
}

function said(due: Schema['DueBoard']): string {
  const parts = [`${due.items} items`];
  if (due.over > 0) parts.push(`${due.over} past their date`);
  if (due.neverTested > 0) parts.push(`${due.neverTested} of them never tested`);
  if (due.outOfUse > 0) parts.push(`${due.outOfUse} out of use beside them`);
  return parts.join(' · ');
}
