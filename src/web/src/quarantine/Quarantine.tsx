import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { usePageTitle } from '../frame/usePageTitle';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { ActDialog } from './ActDialog';
import { type ActKind, actWords } from './acts';
import { Alongside } from './Alongside';
import { RecallDialog } from './RecallDialog';
import { useHold } from './useHold';

/** Everything out of use, pile by pile, the oldest on top. There is one way back into service, and it leads over the bench. */
export default function Quarantine() {
  usePageTitle('Quarantine');
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const [isRecalling, setIsRecalling] = useState(false);
  const client = params.get('client') ?? '';
  const board = useQuery({
    queryKey: ['quarantine', 'board', client],
    queryFn: ({ signal }) =>
      ask(api.GET('/api/v1/quarantine', { params: { query: client ? { client } : {} }, signal })),
    placeholderData: (previous) => previous,
  });
  if (board.error && !board.data)
    return (
      <Box sx={{ p: 3 }}>
        <Notice problem={board.error} onAgain={() => void board.refetch()} />
      </Box>
    );
  if (!board.data) return <Waiting what="Looking what is out of use" />;
  const { piles, reports, flags, clients } = board.data;
  const total = piles.reduce((sum, pile) => sum + pile.total, 0);
  const mayAct = me.role !== 'viewer';
  return (
    <Box sx={{ p: { xs: 2, md: 3 }, bgcolor: c.surface, flex: 1, minWidth: 0 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1">Quarantine</Typography>
        <Box role="status" sx={{ color: c.bark, flex: '1 1 200px' }}>
          {total === 0 ? 'Nothing is out of use.' : `${total} out of use`}
        </Box>
        {clients.length > 1 && (
          <TextField
            select
            size="small"
            label="Client"
            value={client}
            onChange={(event) =>
              setParams(event.target.value ? { client: event.target.value } : {}, { replace: true })
            }
            sx={{ minWidth: 220 }}
            slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
          >
            <MenuItem value="">all clients</MenuItem>
            {clients.map((it) => (
              <MenuItem key={it.code} value={it.code}>
                {it.name}
              </MenuItem>
            ))}
          </TextField>
        )}
        {me.role === 'lead' && (
          <Button variant="outlined" color="inherit" onClick={() => setIsRecalling(true)}>
            Recall a model
          </Button>
        )}
      </Box>
      <Typography sx={{ color: c.bark, mb: 2 }}>
        Nothing comes back into service from here: only a passed test after repair does that, from the look
        on.
      </Typography>
      <Alongside reports={reports} flags={flags} mayAct={mayAct} />
      <Box
        sx={{
          display: 'grid',
          gap: 2,
          gridTemplateColumns: { xs: '1fr', md: '1fr 1fr', lg: 'repeat(5, minmax(0, 1fr))' },
          alignItems: 'start',
        }}
      >
        {piles.map((pile) => (
          <Pile key={pile.stage} pile={pile} mayAct={mayAct} />
        ))}
      </Box>
      {isRecalling && <RecallDialog onClose={() => setIsRecalling(false)} />}
    </Box>
  );
}

function Pile({ pile, mayAct }: { pile: Schema['QuarantinePile']; mayAct: boolean }) {
  const isLoud = pile.stage === 'notSafe' && pile.total > 0;
  return (
    <Box component="section" aria-label={pile.name} sx={{ minWidth: 0 }}>
      <Box sx={{ borderBottom: `3px solid ${isLoud ? c.fail : c.bark}`, pb: 0.75, mb: 1 }}>
        <Box sx={{ display: 'flex', justifyContent: 'space-between', gap: 1, alignItems: 'baseline' }}>
          <Box component="h2" sx={{ m: 0, fontSize: '1.05rem', color: isLoud ? c.fail : c.ink }}>
            {pile.name}
          </Box>
          <Box sx={{ fontWeight: 700, fontSize: '1.4rem', color: isLoud ? c.fail : c.bark }}>
            {pile.total}
          </Box>
        </Box>
        <Box sx={{ color: c.muted, fontSize: 13.5 }}>{pile.means}</Box>
      </Box>
      {pile.cards.map((it) => (
        <Card key={it.itemId} it={it} pile={pile} mayAct={mayAct} />
      ))}
      {pile.total > pile.cards.length && (
        <Box sx={{ color: c.bark, fontSize: 14 }}>
          and {pile.total - pile.cards.length} more that came later: choose a client.
        </Box>
      )}
    </Box>
  );
}

function Card(props: { it: Schema['HeldCard']; pile: Schema['QuarantinePile']; mayAct: boolean }) {
  const { it, pile } = props;
  const [kind, setKind] = useState<ActKind | null>(null);
  const hold = useHold(it.itemId, kind !== null);
  return (
    <Box
      component="article"
      aria-label={`${it.tag} ${it.name}`}
      sx={{ bgcolor: c.raised, border: `1px solid ${c.line}`, borderRadius: '6px', p: 1.5, mb: 1 }}
    >
      <Box sx={{ display: 'flex', gap: 1, justifyContent: 'space-between' }}>
        <Box sx={{ minWidth: 0 }}>
          <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
            {it.name}
          </Link>
          <Box sx={{ color: c.muted, fontSize: 14 }}>{it.tag}</Box>
        </Box>
        <Box sx={{ textAlign: 'right', lineHeight: 1.1, flexShrink: 0 }}>
          <Box sx={{ fontSize: '1.3rem', fontWeight: 700 }}>{it.days}</Box>
          <Box sx={{ fontSize: 12.5, color: c.muted }}>{it.days === 1 ? 'day' : 'days'}</Box>
        </Box>
      </Box>
      <Box
        sx={{
          mt: 0.75,
          fontSize: 14.5,
          overflowWrap: 'anywhere',
          display: '-webkit-box',
          WebkitLineClamp: 4,
          WebkitBoxOrient: 'vertical',
          overflow: 'hidden',
        }}
      >
        {it.by}: {it.why}
      </Box>
      <Box sx={{ color: c.muted, fontSize: 13.5, mt: 0.5 }}>
        {it.client}, {it.place}
      </Box>
      {it.lastDone && <Box sx={{ color: c.bark, fontSize: 14, mt: 0.5 }}>{it.lastDone}</Box>}
      {props.mayAct && (
        <Box sx={{ display: 'flex', gap: 1, mt: 1, flexWrap: 'wrap' }}>
          {pile.usual && (
            <Button size="small" variant="contained" onClick={() => setKind(pile.usual ?? null)}>
              {actWords[pile.usual].press}
            </Button>
          )}
          {pile.isToBeTested && it.roundId && (
            <Button
              size="small"
              variant="contained"
              component={Link}
              to={`/rounds/${it.roundId}/bench/${it.itemId}`}
            >
              Test it
            </Button>
          )}
          {pile.isToBeTested && !it.roundId && (
            <Box sx={{ color: c.bark, fontSize: 14 }}>It waits for a round at its site.</Box>
          )}
          <Button size="small" color="inherit" component={Link} to={`/register/${it.itemId}`}>
            More
          </Button>
        </Box>
      )}
      {hold.error && <Notice problem={hold.error} />}
      {kind && hold.data && (
        <ActDialog
          item={{ id: it.itemId, tag: it.tag, name: it.name }}
          hold={hold.data}
          kind={kind}
          onClose={() => setKind(null)}
        />
      )}
    </Box>
  );
}
