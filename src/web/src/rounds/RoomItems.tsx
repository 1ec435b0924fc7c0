import { Box, Button, Checkbox, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDue } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { MoveDialog } from '../register/MoveDialog';
import { minutesText, useChange, useRound } from './useRound';

/** The items of a room: opened on the bench, or, while a lead plans, taken out, left out with who tests them, moved. */
export function RoomItems({ room }: { room: Schema['RoundRoom'] }) {
  const { round, mayPlan } = useRound();
  const [marked, setMarked] = useState<ReadonlySet<string>>(new Set());
  const [moving, setMoving] = useState<Schema['RoundItemCard'] | null>(null);
  const mayMark = mayPlan && round.isPlanned;
  const mark = (id: string) => {
    const next = new Set(marked);
    if (!next.delete(id)) next.add(id);
    setMarked(next);
  };
  return (
    <Box sx={{ pl: { xs: 1, sm: 6.5 }, pr: 1, pb: 1.5 }}>
      {room.items.map((it) => (
        <Box
          key={it.id}
          sx={{
            display: 'flex',
            gap: 1.25,
            alignItems: 'center',
            minHeight: 46,
            borderTop: `1px solid ${c.line}`,
          }}
        >
          {mayMark && (
            <Checkbox
              checked={marked.has(it.id)}
              disabled={!!it.outcome}
              onChange={() => mark(it.id)}
              slotProps={{ input: { 'aria-label': `Mark ${it.tag}` } }}
            />
          )}
          <Ring state={it.outcome ?? 'open'} size={22} />
          <Box
            component={Link}
            to={round.state === 'open' ? `/rounds/${round.id}/bench/${it.id}` : `/register/${it.id}`}
            sx={{ color: 'inherit', width: 92, flex: 'none' }}
          >
            {it.tag}
          </Box>
          <Box sx={{ flex: 1, minWidth: 0, fontWeight: 600 }}>
            {it.name}
            {it.isLook && <Box sx={{ color: c.muted, fontSize: 13.5, fontWeight: 400 }}>formal visual</Box>}
            {it.trouble && <Box sx={{ color: c.advice, fontSize: 13.5, fontWeight: 400 }}>{it.trouble}</Box>}
          </Box>
          {round.state === 'open' && !it.outcome && (
            <Button
              size="small"
              color="inherit"
              aria-label={`${it.tag} was found elsewhere`}
              onClick={() => setMoving(it)}
              sx={{ minWidth: 44, color: c.muted }}
            >
              Elsewhere
            </Button>
          )}
          <Box
            sx={{
              color: (it.daysOver ?? 0) > 0 ? c.fail : c.muted,
              fontSize: 14,
              textAlign: 'right',
              minWidth: 104,
            }}
          >
            {showDue(it.daysOver)}
          </Box>
          <Box
            sx={{
              width: 62,
              textAlign: 'right',
              fontSize: 14,
              color: it.basis === 'unknown' ? c.muted : c.ink,
            }}
            title={basisWords[it.basis]}
          >
            {it.basis === 'unknown' ? '~' : ''}
            {minutesText(it.minutes)}
          </Box>
        </Box>
      ))}
      {moving && (
        <MoveDialog
          itemId={moving.id}
          tag={moving.tag}
          room={room.room}
          revision={moving.revision}
          rooms={round.rooms.map((it) => it.room)}
          onClose={() => setMoving(null)}
        />
      )}
      {marked.size > 0 && <WithMarked items={[...marked]} onDone={() => setMarked(new Set())} />}
    </Box>
  );
}

const basisWords = {
  own: 'by its own history',
  kind: 'by others of its kind',
  unknown: 'nothing of its kind was inspected yet',
} as const;

function WithMarked({ items, onDone }: { items: string[]; onDone: () => void }) {
  const { round } = useRound();
  const [what, setWhat] = useState<'leaveOut' | null>(null);
  const [why, setWhy] = useState('');
  const [testedBy, setTestedBy] = useState('');
  const path = { params: { path: { roundId: round.id } } };
  const change = useChange(
    async (it: { do: 'takeOut' } | { do: 'leaveOut' } | { do: 'move'; to: string }) => {
      if (it.do === 'takeOut')
        await ask(api.POST('/api/v1/rounds/{roundId}/take-out', { ...path, body: { items } }));
      else if (it.do === 'move')
        await ask(api.POST('/api/v1/rounds/{roundId}/move', { ...path, body: { items, to: it.to } }));
      else
        await ask(
          api.POST('/api/v1/rounds/{roundId}/leave-out', { ...path, body: { items, why, testedBy } }),
        );
      onDone();
    },
  );
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1.25 }}>
      <Box sx={{ color: c.bark }}>{items.length} marked:</Box>
      <Button
        size="small"
        variant="outlined"
        color="inherit"
        onClick={() => change.mutate({ do: 'takeOut' })}
      >
        Take out
      </Button>
      <Button size="small" variant="outlined" color="inherit" onClick={() => setWhat('leaveOut')}>
        Leave out, with who tests it
      </Button>
      {round.others.length > 0 && (
        <TextField
          select
          size="small"
          label="Move to"
          value=""
          onChange={(event) => change.mutate({ do: 'move', to: event.target.value })}
          sx={{ minWidth: 180 }}
        >
          {round.others.map((it) => (
            <MenuItem key={it.id} value={it.id}>
              {it.name}
            </MenuItem>
          ))}
        </TextField>
      )}
      {what === 'leaveOut' && (
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            change.mutate({ do: 'leaveOut' });
          }}
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', flexBasis: '100%' }}
        >
          <TextField
            autoFocus
            size="small"
            label="Why it is left out"
            value={why}
            onChange={(event) => setWhy(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 300 } }}
            sx={{ flex: 1, minWidth: 180 }}
          />
          <TextField
            size="small"
            label="Who tests it"
            value={testedBy}
            onChange={(event) => setTestedBy(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 300 } }}
            sx={{ flex: 1, minWidth: 180 }}
          />
          <Button
            type="submit"
            variant="outlined"
            disabled={!why.trim() || !testedBy.trim() || change.isPending}
          >
            Leave out
          </Button>
        </Box>
      )}
      {change.error && <Notice problem={change.error} />}
    </Box>
  );
}
