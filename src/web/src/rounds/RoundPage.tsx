import { Box, Button, Typography } from '@mui/material';
import { Link, useParams } from 'react-router';
import { api, ask } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Ring } from '../design/Ring';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { RoundPapers } from '../papers/RoundPapers';
import { useMe } from '../people/SignedIn';
import { AddItems } from './AddItems';
import { Bring } from './Bring';
import { Days } from './Days';
import { LeftOut } from './LeftOut';
import { RoomList } from './RoomList';
import { Rules } from './Rules';
import { RoundContext, useChange, useRound, useRoundPage } from './useRound';
import { Wholes } from './Wholes';

/** One round: by what it is judged, what belongs to it, who does it when, what is brought; and how far it has come. */
export default function RoundPage() {
  const { roundId = '' } = useParams();
  const page = useRoundPage(roundId);
  const isLead = useMe().role === 'lead';
  usePageTitle(page.data?.name ?? 'Round');
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Working the round out" />;
  const mayPlan = isLead && (page.data.state === 'planned' || page.data.state === 'open');
  return (
    <RoundContext.Provider value={{ round: page.data, mayPlan }}>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: '300px minmax(0, 1fr) 320px' },
          flex: 1,
          '@media print': { display: 'block' },
        }}
      >
        <Box
          component="aside"
          aria-label="Plan"
          sx={{
            p: 2.5,
            borderRight: { lg: `1px solid ${c.line}` },
            display: 'grid',
            gap: 2.5,
            alignContent: 'start',
            '@media print': { p: 0, border: 0 },
          }}
        >
          <Head />
          <Box sx={{ display: 'grid', gap: 2.5, '@media print': { display: 'none' } }}>
            <Rules />
            <Days />
            <LeftOut />
            <WrongOutlets />
          </Box>
        </Box>
        <Box sx={{ p: { xs: 2, md: 2.5 }, minWidth: 0, '@media print': { display: 'none' } }}>
          <AddItems />
          <RoomList />
        </Box>
        <Box
          component="aside"
          aria-label="Bring"
          sx={{
            p: 2.5,
            bgcolor: c.surface,
            borderLeft: { lg: `1px solid ${c.line}` },
            display: 'grid',
            gap: 2.5,
            alignContent: 'start',
            '@media print': { p: 0, border: 0, bgcolor: 'transparent' },
          }}
        >
          <Bring />
          <Moves />
          {page.data.state !== 'planned' && (
            <Box sx={{ '@media print': { display: 'none' } }}>
              <RoundPapers roundId={page.data.id} />
            </Box>
          )}
          {isLead && <Wholes />}
        </Box>
      </Box>
    </RoundContext.Provider>
  );
}

function Head() {
  const { round } = useRound();
  const { tally } = round;
  const share = tally.planned > 0 ? tally.done / tally.planned : 0;
  return (
    <Box>
      <Typography variant="h1">{round.name}</Typography>
      <Box sx={{ color: c.bark }}>
        {round.client} · {round.site}
      </Box>
      <Box sx={{ color: c.muted, fontSize: 14 }}>
        {showDate(round.startsOn)} to {showDate(round.endsOn)} · {stateWords[round.state]}
      </Box>
      {round.state !== 'planned' && (
        <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', mt: 1.5 }}>
          <Ring state={share >= 1 ? 'pass' : 'running'} progress={share} size={40} />
          <Box sx={{ fontSize: 14.5 }}>
            {tally.done} of {tally.planned} done, {tally.left} left
            {tally.notTested > 0 && (
              <Box sx={{ color: c.advice, fontWeight: 600 }}>{tally.notTested} not tested</Box>
            )}
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** Outlets that nothing is powered from: the client is told. */
function WrongOutlets() {
  const { round } = useRound();
  if (round.wrongOutlets.length === 0) return null;
  return (
    <Box component="section" aria-label="Outlets found wrong">
      <Typography variant="h2">Outlets found wrong</Typography>
      {round.wrongOutlets.map((it) => (
        <Box
          key={`${it.room} ${it.name} ${it.at}`}
          sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.5, mt: 1 }}
        >
          <strong>
            {it.name}, {it.room}
          </strong>
          <Box sx={{ fontSize: 14.5 }}>{it.says}</Box>
          <Box sx={{ color: c.muted, fontSize: 14 }}>
            {it.by}, {showDate(it.at)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

const stateWords = { planned: 'planned', open: 'open', review: 'in review', closed: 'closed' } as const;

/** What may become of the round, each with why not. */
function Moves() {
  const { round } = useRound();
  const go = useChange((to: (typeof round.moves)[number]['to']) =>
    ask(
      api.POST('/api/v1/rounds/{roundId}/state', { params: { path: { roundId: round.id } }, body: { to } }),
    ),
  );
  // Once it is walked, the next step is the signature.
  const isNext = (at: number) => at === round.moves.length - 1 && round.state !== 'review';
  return (
    <Box sx={{ display: 'grid', gap: 1, '@media print': { display: 'none' } }}>
      {round.moves.map((it, at) => (
        <Box key={it.to}>
          <Button
            variant={isNext(at) && !it.whyNot ? 'contained' : 'outlined'}
            color={isNext(at) ? 'primary' : 'inherit'}
            disabled={!!it.whyNot || go.isPending}
            onClick={() => go.mutate(it.to)}
          >
            {it.text}
          </Button>
          {it.whyNot && <Box sx={{ color: c.muted, fontSize: 14, mt: 0.25 }}>{it.whyNot}</Box>}
        </Box>
      ))}
      {round.state !== 'planned' && (
        <Button
          component={Link}
          to={`/rounds/${round.id}/review`}
          variant={round.state === 'review' ? 'contained' : 'outlined'}
          color={round.state === 'review' ? 'primary' : 'inherit'}
        >
          {round.state === 'review' ? 'Review and sign' : 'Review'}
        </Button>
      )}
      {go.error && <Notice problem={go.error} />}
    </Box>
  );
}
