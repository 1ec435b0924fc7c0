import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useChange, useRound } from './useRound';

type What = 'copy' | 'split' | 'merge';

/** Rounds as wholes: copied for another time, split by rooms, merged. */
export function Wholes() {
  const { round, mayPlan } = useRound();
  const [what, setWhat] = useState<What | null>(null);
  const mergeable = round.others.filter((it) => it.state === 'planned');
  const choose = (it: What, text: string) => (
    <Button
      size="small"
      color="inherit"
      aria-pressed={what === it}
      onClick={() => setWhat(what === it ? null : it)}
    >
      {text}
    </Button>
  );
  return (
    <Box component="section" aria-label="The round as a whole" sx={{ '@media print': { display: 'none' } }}>
      <Typography variant="h2">The round as a whole</Typography>
      <Box sx={{ display: 'flex', flexWrap: 'wrap', ml: -1 }}>
        {choose('copy', 'Copy')}
        {mayPlan && round.isPlanned && round.rooms.length > 1 && choose('split', 'Split')}
        {mayPlan && mergeable.length > 0 && choose('merge', 'Merge')}
      </Box>
      {what === 'copy' && <Copy />}
      {what === 'split' && <Split />}
      {what === 'merge' && <Merge onDone={() => setWhat(null)} others={mergeable} />}
    </Box>
  );
}

function useDates() {
  const { round } = useRound();
  const [it, setIt] = useState({ name: '', startsOn: round.startsOn, endsOn: round.endsOn });
  const fields = (
    <>
      <TextField
        size="small"
        label="Name of the new round"
        value={it.name}
        required
        onChange={(event) => setIt({ ...it, name: event.target.value })}
        slotProps={{ htmlInput: { maxLength: 120 } }}
      />
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 1 }}>
        {(['startsOn', 'endsOn'] as const).map((key) => (
          <TextField
            key={key}
            size="small"
            type="date"
            label={key === 'startsOn' ? 'From' : 'Until'}
            value={it[key]}
            onChange={(event) => setIt({ ...it, [key]: event.target.value })}
            slotProps={{ inputLabel: { shrink: true } }}
          />
        ))}
      </Box>
    </>
  );
  return [it, fields] as const;
}

/** The standard is chosen anew: it is never taken over silently. */
function Copy() {
  const { round } = useRound();
  const navigate = useNavigate();
  const form = useQuery({ queryKey: ['round-form'], queryFn: () => ask(api.GET('/api/v1/rounds/form')) });
  const [dates, fields] = useDates();
  const [standardId, setStandardId] = useState('');
  const [medicalStandardId, setMedical] = useState('');
  const copy = useChange(async () => {
    const made = await ask(
      api.POST('/api/v1/rounds/{roundId}/duplicate', {
        params: { path: { roundId: round.id } },
        body: { ...dates, standardId, medicalStandardId: medicalStandardId || null },
      }),
    );
    void navigate(`/rounds/${made.id}`);
  });
  return (
    <Form onSubmit={() => copy.mutate(undefined)} problem={copy.error} text="Copy it" disabled={!standardId}>
      {fields}
      <TextField
        select
        size="small"
        label="Appliances are judged by"
        value={standardId}
        onChange={(event) => setStandardId(event.target.value)}
      >
        {(form.data?.standards ?? []).map((it) => (
          <MenuItem key={it.id} value={it.id}>
            {it.name}
          </MenuItem>
        ))}
      </TextField>
      <TextField
        select
        size="small"
        label="Medical devices are judged by"
        value={medicalStandardId}
        onChange={(event) => setMedical(event.target.value)}
      >
        <MenuItem value="">no medical devices here</MenuItem>
        {(form.data?.standards ?? [])
          .filter((it) => it.scope === 'medical')
          .map((it) => (
            <MenuItem key={it.id} value={it.id}>
              {it.name}
            </MenuItem>
          ))}
      </TextField>
    </Form>
  );
}

function Split() {
  const { round } = useRound();
  const navigate = useNavigate();
  const [dates, fields] = useDates();
  const [rooms, setRooms] = useState<readonly string[]>([]);
  const split = useChange(async () => {
    const made = await ask(
      api.POST('/api/v1/rounds/{roundId}/split', {
        params: { path: { roundId: round.id } },
        body: { ...dates, rooms: [...rooms] },
      }),
    );
    void navigate(`/rounds/${made.id}`);
  });
  return (
    <Form
      onSubmit={() => split.mutate(undefined)}
      problem={split.error}
      text="Split them off"
      disabled={rooms.length === 0}
    >
      <Box>
        {round.rooms.map(({ room }) => (
          <FormControlLabel
            key={room}
            control={
              <Checkbox
                checked={rooms.includes(room)}
                onChange={() =>
                  setRooms(rooms.includes(room) ? rooms.filter((it) => it !== room) : [...rooms, room])
                }
              />
            }
            label={room}
          />
        ))}
      </Box>
      {fields}
    </Form>
  );
}

function Merge({ others, onDone }: { others: readonly { id: string; name: string }[]; onDone: () => void }) {
  const { round } = useRound();
  const [from, setFrom] = useState('');
  const merge = useChange(async () => {
    await ask(
      api.POST('/api/v1/rounds/{roundId}/merge', { params: { path: { roundId: round.id } }, body: { from } }),
    );
    onDone();
  });
  return (
    <Form
      onSubmit={() => merge.mutate(undefined)}
      problem={merge.error}
      text="Merge it into this one"
      disabled={!from}
    >
      <TextField
        select
        size="small"
        label="Which"
        value={from}
        onChange={(event) => setFrom(event.target.value)}
      >
        {others.map((it) => (
          <MenuItem key={it.id} value={it.id}>
            {it.name}
          </MenuItem>
        ))}
      </TextField>
      <Box sx={{ color: c.muted, fontSize: 14 }}>Its items come here; the other round is gone.</Box>
    </Form>
  );
}

function Form(props: {
  onSubmit: () => void;
  problem: Error | null;
  text: string;
  disabled: boolean;
  children: ReactNode;
}) {
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        props.onSubmit();
      }}
      sx={{ display: 'grid', gap: 1.25, mt: 1 }}
    >
      {props.children}
      {props.problem && <Notice problem={props.problem} />}
      <Box>
        <Button type="submit" variant="outlined" disabled={props.disabled}>
          {props.text}
        </Button>
      </Box>
    </Box>
  );
}
