import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { OpenRound } from '../today/OpenRound';

type Line = Schema['RoundLine'];

const groups: readonly { state: Line['state']; title: string }[] = [
  { state: 'planned', title: 'Planned' },
  { state: 'open', title: 'Open' },
  { state: 'review', title: 'In review' },
  { state: 'closed', title: 'Closed' },
];

/** All rounds by where they stand. */
export default function Rounds() {
  usePageTitle('Rounds');
  const isLead = useMe().role === 'lead';
  const [planning, setPlanning] = useState(false);
  const page = useQuery({ queryKey: ['rounds'], queryFn: () => ask(api.GET('/api/v1/rounds')) });
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Fetching the rounds" />;
  const rounds = page.data;
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, maxWidth: 1180, width: '100%' }}>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'baseline', flexWrap: 'wrap' }}>
        <Typography variant="h1" sx={{ flex: 1 }}>
          Rounds
        </Typography>
        {isLead && (
          <Button variant="contained" onClick={() => setPlanning(true)}>
            Plan a round
          </Button>
        )}
      </Box>
      {planning && <OpenRound isPlanned onClose={() => setPlanning(false)} />}
      {rounds.length === 0 && (
        <Typography sx={{ mt: 2, color: c.bark }}>
          No round yet. A lead plans one for a site, with the rules that hold there.
        </Typography>
      )}
      {groups.map(({ state, title }) => {
        const own = rounds.filter((it) => it.state === state);
        return (
          own.length > 0 && (
            <Box component="section" aria-label={title} key={state} sx={{ mt: 2.5 }}>
              <Typography variant="h2">{title}</Typography>
              {own.map((it) => (
                <Row key={it.id} it={it} />
              ))}
            </Box>
          )
        );
      })}
    </Box>
  );
}

function Row({ it }: { it: Line }) {
  const share = it.items > 0 ? Math.min(1, it.done / it.items) : it.state === 'closed' ? 1 : 0;
  return (
    <Box
      component={Link}
      to={`/rounds/${it.id}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: {
          xs: '32px minmax(0, 1fr)',
          md: '32px minmax(0, 4fr) minmax(0, 3fr) minmax(0, 3fr)',
        },
        gap: 1.5,
        alignItems: 'center',
        minHeight: 56,
        px: 1,
        mx: -1,
        color: 'inherit',
        textDecoration: 'none',
        borderBottom: `1px solid ${c.line}`,
        '&:hover': { bgcolor: c.surface },
      }}
    >
      <Ring
        state={share >= 1 ? 'pass' : it.state === 'planned' ? 'open' : 'running'}
        progress={share}
        size={26}
      />
      <Box sx={{ minWidth: 0 }}>
        <Box sx={{ fontWeight: 700, overflowWrap: 'anywhere' }}>{it.name}</Box>
        <Box sx={{ color: c.bark, fontSize: 14.5 }}>
          {it.client} · {it.site}
        </Box>
      </Box>
      <Box sx={{ color: c.bark, fontSize: 14.5, gridColumn: { xs: '2', md: 'auto' } }}>
        {showDate(it.startsOn)} to {showDate(it.endsOn)}
        <Box sx={{ color: c.muted }}>{it.standard}</Box>
      </Box>
      <Box sx={{ fontSize: 14.5, gridColumn: { xs: '2', md: 'auto' }, textAlign: { md: 'right' } }}>
        {it.items > 0
          ? `${it.done} of ${it.items} done`
          : it.state === 'planned'
            ? 'no items yet'
            : `${it.done} done`}
        {it.notTested > 0 && (
          <Box component="span" sx={{ color: c.advice, fontWeight: 600 }}>
            {' '}
            · {it.notTested} not tested
          </Box>
        )}
      </Box>
    </Box>
  );
}
