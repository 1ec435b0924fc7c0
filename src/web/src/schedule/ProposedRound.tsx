import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { TakeRound } from './TakeRound';
import type { Plan } from './usePlan';
import { hours, namedDay, span } from './words';

/** One proposed round: when, where, for how much; opened it shows every visit, from which items are moved by hand. */
export function ProposedRound(props: {
  round: Schema['ProposedCard'];
  days: readonly Schema['ProposedDay'][];
  isOpen: boolean;
  isLead: boolean;
  onOpen: () => void;
  onMove: Plan['move'];
  onTaken: Plan['taken'];
}) {
  const { round } = props;
  const [isTaking, setIsTaking] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const toggle = (ids: readonly string[], on: boolean) => {
    const next = new Set(chosen);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    setChosen(next);
  };
  const people = [...new Set(round.visits.map((visit) => visit.person))].join(', ');
  return (
    <Box
      component="article"
      aria-label={`${round.site}, ${span(round.from, round.to)}`}
      sx={{ borderTop: `1px solid ${c.line}`, mt: 1.5, pt: 1.25 }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'start' }}>
        <Box sx={{ flex: 1, minWidth: 0 }}>
          <Box sx={{ fontWeight: 700 }}>{round.site}</Box>
          <Box>{span(round.from, round.to)}</Box>
          <Box sx={{ color: c.muted, fontSize: 14 }}>
            {round.items} {round.items === 1 ? 'item' : 'items'}, {people}. {round.price}
          </Box>
          {round.lateText && <Box sx={{ color: c.fail, fontSize: 14.5 }}>{round.lateText}</Box>}
          {round.earlyText && <Box sx={{ color: c.advice, fontSize: 14.5 }}>{round.earlyText}</Box>}
        </Box>
        <Box sx={{ display: 'flex', flexDirection: 'column', gap: 0.5 }}>
          {props.isLead && (
            <Button size="small" variant="contained" onClick={() => setIsTaking(true)}>
              Take it
            </Button>
          )}
          <Button size="small" color="inherit" aria-expanded={props.isOpen} onClick={props.onOpen}>
            {props.isOpen ? 'Less' : 'Items'}
          </Button>
        </Box>
      </Box>
      {props.isOpen && (
        <>
          {round.visits.map((visit) => {
            const ids = visit.items.map((it) => it.id);
            return (
              <Box key={`${visit.day}${visit.personId}`} sx={{ mt: 1 }}>
                <FormControlLabel
                  sx={{ m: 0 }}
                  control={
                    <Checkbox
                      size="small"
                      checked={ids.every((id) => chosen.has(id))}
                      indeterminate={ids.some((id) => chosen.has(id)) && !ids.every((id) => chosen.has(id))}
                      onChange={(_, on) => toggle(ids, on)}
                    />
                  }
                  label={`${namedDay(visit.day)}, ${visit.person}: ${hours(visit.minutes)}`}
                  slotProps={{ typography: { sx: { fontWeight: 600 } } }}
                />
                {visit.items.map((it) => (
                  <Line key={it.id} it={it} isOn={chosen.has(it.id)} onToggle={(on) => toggle([it.id], on)} />
                ))}
              </Box>
            );
          })}
          {chosen.size > 0 && (
            <MoveTo
              count={chosen.size}
              days={props.days}
              onMove={(day) => {
                props.onMove({
                  items: [...chosen],
                  day: day?.day ?? null,
                  personId: day?.personId ?? null,
                });
                setChosen(new Set());
              }}
            />
          )}
        </>
      )}
      {isTaking && <TakeRound round={round} onTaken={props.onTaken} onClose={() => setIsTaking(false)} />}
    </Box>
  );
}

function Line(props: { it: Schema['ProposedItem']; isOn: boolean; onToggle: (on: boolean) => void }) {
  const { it } = props;
  return (
    <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'center', fontSize: 14.5 }}>
      <Checkbox
        size="small"
        checked={props.isOn}
        onChange={(_, on) => props.onToggle(on)}
        slotProps={{ input: { 'aria-label': `${it.tag} ${it.name}` } }}
      />
      <Box sx={{ minWidth: 0 }}>
        {it.tag} {it.name}
        <Box component="span" sx={{ color: c.muted }}>
          {' '}
          {it.room}; {it.tier === 'visual' ? 'look' : 'test'} {it.by ? `by ${showDate(it.by)}` : ''},{' '}
          {it.minutes} min{it.note ? `; ${it.note}` : ''}
        </Box>
      </Box>
    </Box>
  );
}

function MoveTo(props: {
  count: number;
  days: readonly Schema['ProposedDay'][];
  onMove: (day: Schema['ProposedDay'] | null) => void;
}) {
  return (
    <TextField
      select
      size="small"
      fullWidth
      sx={{ mt: 1.5 }}
      label={`Move ${props.count === 1 ? 'this item' : `these ${props.count} items`} to`}
      value=""
      onChange={(event) => props.onMove(props.days[Number(event.target.value)] ?? null)}
    >
      {props.days.map((it, at) => (
        <MenuItem key={`${it.day}${it.personId}`} value={at}>
          {namedDay(it.day)}, {it.person}: {hours(Math.max(0, it.minutes - it.taken))} left
        </MenuItem>
      ))}
      <MenuItem value={-1}>no day: out of this plan</MenuItem>
    </TextField>
  );
}
