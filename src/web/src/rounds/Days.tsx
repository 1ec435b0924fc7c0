import { Box, Button, MenuItem, TextField, Typography } from '@mui/material';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useChange, useRound } from './useRound';
import { amountOf } from '../frame/amount';

type Day = Schema['DayCard'];

const usual = '6.5';
const next = (iso: string) =>
  new Date(Date.parse(`${iso}T00:00:00Z`) + 86_400_000).toISOString().slice(0, 10);

/** Whose bench time there is, and how the rooms fill it. */
export function Days() {
  const { round, mayPlan } = useRound();
  const set = useChange((days: Schema['PlannedDay'][]) =>
    ask(
      api.POST('/api/v1/rounds/{roundId}/days', { params: { path: { roundId: round.id } }, body: { days } }),
    ),
  );
  const planned = round.days.map(({ day, personId, minutes }) => ({ day, personId, minutes }));
  return (
    <Box component="section" aria-label="Days and people">
      <Typography variant="h2">Days and people</Typography>
      {round.days.length === 0 && (
        <Box sx={{ color: c.bark, mt: 0.5 }}>None yet: without them nobody knows whether the round fits.</Box>
      )}
      {round.days.map((it) => (
        <Bar
          key={`${it.day}${it.personId}`}
          it={it}
          onRemove={
            mayPlan
              ? () => set.mutate(planned.filter((one) => one.day !== it.day || one.personId !== it.personId))
              : null
          }
        />
      ))}
      {mayPlan && (
        <AddDay
          key={planned.length}
          first={planned.length > 0 ? next(planned.at(-1)!.day) : round.startsOn}
          person={planned.at(-1)?.personId ?? ''}
          onAdd={(it) => set.mutate([...planned, it])}
        />
      )}
      {set.error && <Notice problem={set.error} />}
    </Box>
  );
}

function Bar({ it, onRemove }: { it: Day; onRemove: (() => void) | null }) {
  const share = Math.min(1, it.taken / it.minutes);
  return (
    <Box sx={{ mt: 1.25 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', fontSize: 14.5 }}>
        <Box sx={{ flex: 1 }}>
          <strong>{showDate(it.day)}</strong> {it.person}
        </Box>
        {onRemove && (
          <Button
            size="small"
            color="inherit"
            onClick={onRemove}
            aria-label={`Remove ${it.person} on ${showDate(it.day)}`}
          >
            Remove
          </Button>
        )}
      </Box>
      <Box sx={{ height: 10, borderRadius: '5px', bgcolor: c.line, overflow: 'hidden' }}>
        <Box sx={{ width: `${share * 100}%`, height: 1, bgcolor: c.reed }} />
      </Box>
      <Box sx={{ fontSize: 13.5, color: c.bark }}>
        {it.text}
        {it.rooms.length > 0 && `: ${it.rooms.join(', ')}`}
      </Box>
    </Box>
  );
}

function AddDay(props: { first: string; person: string; onAdd: (it: Schema['PlannedDay']) => void }) {
  const { round } = useRound();
  const [day, setDay] = useState(props.first > round.endsOn ? round.endsOn : props.first);
  const [personId, setPersonId] = useState(props.person);
  const [hours, setHours] = useState(usual);
  const minutes = Math.round(amountOf(hours) * 60);
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        props.onAdd({ day, personId, minutes });
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1.75 }}
    >
      <TextField
        size="small"
        type="date"
        label="Day"
        value={day}
        onChange={(event) => setDay(event.target.value)}
        slotProps={{ inputLabel: { shrink: true }, htmlInput: { min: round.startsOn, max: round.endsOn } }}
        sx={{ width: 150 }}
      />
      <TextField
        size="small"
        label="Hours"
        value={hours}
        onChange={(event) => setHours(event.target.value)}
        slotProps={{ htmlInput: { inputMode: 'decimal', maxLength: 5 } }}
        sx={{ width: 84 }}
      />
      <TextField
        select
        size="small"
        label="Who"
        value={personId}
        onChange={(event) => setPersonId(event.target.value)}
        sx={{ flex: 1, minWidth: 150 }}
      >
        {round.people.map((it) => (
          <MenuItem key={it.id} value={it.id}>
            {it.name}
          </MenuItem>
        ))}
      </TextField>
      <Button type="submit" variant="outlined" color="inherit" disabled={!personId || !day || !(minutes > 0)}>
        Add
      </Button>
    </Box>
  );
}
