import { Box, Button, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useMe } from '../people/SignedIn';
import { OpenRound } from './OpenRound';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showDue } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { roundTold, useRoundInHand } from '../frame/roundInHand';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { Discarded } from './Discarded';
import { UnsavedFailures } from './UnsavedFailures';
import { HandedOver } from './HandedOver';
import { LeftOnBench } from './LeftOnBench';
import { Reports } from './Reports';
import { Ready } from './Ready';
import { LocksLeft } from './LocksLeft';

/** The open rounds, and what is due in the one in hand, room by room. */
export function Today() {
  usePageTitle('Today');
  const [inHand, setRound] = useRoundInHand();
  const isLead = useMe().role === 'lead';
  const [opening, setOpening] = useState(false);
  const page = useQuery({
    queryKey: ['today', inHand?.id],
    queryFn: () =>
      ask(api.GET('/api/v1/rounds/today', { params: { query: inHand ? { round: inHand.id } : {} } })),
    placeholderData: (previous) => previous,
  });
  const chosen = page.data?.rounds.find((round) => round.id === page.data?.roundId);
  const askedFor = inHand?.id ?? null;
  const told = page.isPlaceholderData ? undefined : chosen;
  useEffect(() => {
    if (told) roundTold(askedFor, { id: told.id, name: told.name, standard: told.standardShort });
  }, [told, askedFor]);
  // What was fetched before stays when a later look at the server fails.
  if (page.error && !page.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={page.error} onAgain={() => void page.refetch()} />
      </Box>
    );
  if (!page.data) return <Waiting what="Looking what is due" />;
  if (page.data.rounds.length === 0)
    return (
      <Box sx={{ p: 4, maxWidth: 560 }}>
        <Typography variant="h1">No round is open</Typography>
        <Typography sx={{ mt: 1.5, color: c.bark }}>
          {isLead
            ? 'Open one for a site, with the rules that hold there. Then scan a tag.'
            : 'A lead opens a round for a site, with the rules that hold there. Until then the Register can be searched.'}
        </Typography>
        {isLead && (
          <Button variant="contained" sx={{ mt: 2.5 }} onClick={() => setOpening(true)}>
            Open a round
          </Button>
        )}
        {opening && <OpenRound onClose={() => setOpening(false)} />}
      </Box>
    );
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '320px 1fr' }, flex: 1 }}>
      <Box
        component="aside"
        aria-label="Open rounds"
        sx={{
          borderRight: `1px solid ${c.line}`,
          p: 2.5,
          display: 'flex',
          flexDirection: 'column',
          gap: 1.5,
        }}
      >
        <Typography variant="h2">Open rounds</Typography>
        {page.data.rounds.map((round) => (
          <RoundChoice
            key={round.id}
            round={round}
            chosen={round.id === chosen?.id}
            onChoose={() => setRound({ id: round.id, name: round.name, standard: round.standardShort })}
          />
        ))}
        {page.data.moreRounds > 0 && (
          <Box sx={{ color: c.bark, fontSize: 14.5 }}>
            and {page.data.moreRounds} more that end later, under <Link to="/rounds">Rounds</Link>
          </Box>
        )}
        {isLead && (
          <Button variant="outlined" color="inherit" onClick={() => setOpening(true)}>
            Open a round
          </Button>
        )}
        {opening && <OpenRound onClose={() => setOpening(false)} />}
        <Ready />
        <Reports />
        <LocksLeft locks={page.data.locks} />
        <LeftOnBench />
        <HandedOver />
        {isLead && <Discarded />}
        {isLead && <UnsavedFailures />}
      </Box>
      <Box sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, minWidth: 0 }}>
        {chosen && page.data.progress && <RoundHead round={chosen} progress={page.data.progress} />}
        {page.data.rooms.map((room) => (
          <Room key={room.room} room={room} roundId={chosen!.id} />
        ))}
        {page.data.rooms.length === 0 && (
          <Typography sx={{ color: c.bark, mt: 3 }}>
            Nothing is due here within thirty days. Scan a tag to inspect an item all the same.
          </Typography>
        )}
      </Box>
    </Box>
  );
}

function RoundChoice({
  round,
  chosen,
  onChoose,
}: {
  round: Schema['RoundCard'];
  chosen: boolean;
  onChoose: () => void;
}) {
  return (
    <Box
      component="button"
      onClick={onChoose}
      aria-pressed={chosen}
      sx={{
        textAlign: 'left',
        font: 'inherit',
        color: 'inherit',
        cursor: 'pointer',
        p: 1.75,
        borderRadius: '6px',
        border: `1px solid ${c.line}`,
        borderLeft: `6px solid ${chosen ? c.reed : c.line}`,
        bgcolor: chosen ? c.surface : 'transparent',
        '&:hover': { bgcolor: c.surface },
      }}
    >
      <Box sx={{ fontWeight: 700 }}>{round.name}</Box>
      <Box sx={{ color: c.bark, fontSize: 14.5 }}>{round.client}</Box>
      <Box sx={{ color: c.muted, fontSize: 13.5, mt: 0.5 }}>
        {round.due} due{round.overdue > 0 && `, ${round.overdue} overdue`} · until {showDate(round.endsOn)}
      </Box>
    </Box>
  );
}

function RoundHead({
  round,
  progress: { items, done, notTested },
}: {
  round: Schema['RoundCard'];
  progress: Schema['RoundProgress'];
}) {
  const left = Math.max(0, round.due);
  const share = done + left > 0 ? done / (done + left) : 1;
  return (
    <Box sx={{ borderBottom: `2px solid ${c.bark}`, pb: 2, mb: 1 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 2 }}>
        <Ring state={share >= 1 ? 'pass' : 'running'} progress={share} size={52} />
        <Box sx={{ minWidth: 0 }}>
          <Typography variant="h1">{round.site}</Typography>
          <Box sx={{ color: c.bark }}>
            {round.client} · {done} done, {left} due of {items} items
            {notTested > 0 && (
              <Box component="span" sx={{ color: c.advice, fontWeight: 600 }}>
                {' '}
                · {notTested} not tested
              </Box>
            )}
          </Box>
        </Box>
      </Box>
      <Box sx={{ color: c.muted, fontSize: 14, mt: 1.25 }}>
        Judged by {round.standard}
        {round.medicalStandard && round.medicalStandard !== round.standard && (
          <>; medical devices by {round.medicalStandard}</>
        )}
      </Box>
    </Box>
  );
}

function Room({ room, roundId }: { room: Schema['RoomOfItems']; roundId: string }) {
  return (
    <Box
      component="section"
      aria-label={room.room}
      // Rooms out of sight cost the browser nothing: a site with five hundred items is drawn as fast as one with fifty.
      sx={{
        mt: 2.5,
        px: 1,
        mx: -1,
        contentVisibility: 'auto',
        containIntrinsicSize: `auto ${48 * room.items.length + 36}px`,
      }}
    >
      <Typography variant="h2" sx={{ mb: 0.5 }}>
        {room.room}{' '}
        <Box component="span" sx={{ color: c.muted, fontWeight: 400, fontSize: 15 }}>
          {room.items.length}
        </Box>
      </Typography>
      {room.items.map((item) => (
        <Box
          key={item.id}
          component={Link}
          to={`/rounds/${roundId}/bench/${item.id}`}
          sx={{
            display: 'grid',
            gridTemplateColumns: '28px 104px minmax(0, 1fr) auto',
            gap: 2,
            alignItems: 'center',
            minHeight: 48,
            px: 1,
            mx: -1,
            color: 'inherit',
            textDecoration: 'none',
            borderBottom: `1px solid ${c.line}`,
            '&:hover': { bgcolor: c.paper },
          }}
        >
          <Ring state={item.lastOutcome ?? 'open'} size={24} />
          <Box sx={{ color: c.bark }}>{item.tag}</Box>
          <Box sx={{ fontWeight: 600, overflow: 'hidden', textOverflow: 'ellipsis', whiteSpace: 'nowrap' }}>
            {item.name}
          </Box>
          <Box
            sx={{
              color: item.state !== 'inService' || (item.daysOver ?? 0) > 0 ? c.fail : c.muted,
              fontWeight: (item.daysOver ?? 0) > 0 ? 600 : 400,
            }}
          >
            {item.state === 'quarantined'
              ? 'quarantined'
              : item.state === 'inRepair'
                ? 'in repair'
                : showDue(item.daysOver)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
