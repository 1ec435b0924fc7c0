import {
  Box,
  Button,
  Dialog,
  DialogActions,
  DialogContent,
  DialogTitle,
  MenuItem,
  TextField,
} from '@mui/material';
import { useMutation, useQuery } from '@tanstack/react-query';
import { type FormEvent, useEffect, useState } from 'react';
import { api, ask, Problem, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { PlaceField, RoomNames } from '../register/PlaceField';
import { moves, states, usages, users } from '../register/words';
import { useRun } from './useBench';

type Answer = Schema['TagAnswer'];

/** What was measured without a tag gets one: a known one after a look at what it is on, a new one with name and place. */
export function NameDialog(props: {
  /** As it was scanned; empty where it is still to be scanned or typed. */
  tag: string;
  onNamed: (itemId: string, isOther: boolean) => void;
  onClose: () => void;
}) {
  const run = useRun();
  const [tag, setTag] = useState(props.tag);
  const lookUp = useMutation({
    mutationFn: (sent: string) =>
      ask(
        api.POST('/api/v1/bench/{itemId}/tag', {
          params: { path: { itemId: run.itemId } },
          body: { roundId: run.roundId, tag: sent, events: [...run.events] },
        }),
      ),
  });
  const name = useMutation({
    mutationFn: (to: Pick<Schema['NameItem'], 'known' | 'facts' | 'register'> & { tag: string }) =>
      run.name({ roundId: run.roundId, ...to }),
    onSuccess: ({ itemId, isOther }) => props.onNamed(itemId, isOther),
  });
  const { mutate } = lookUp;
  useEffect(() => {
    if (props.tag) mutate(props.tag);
  }, [props.tag, mutate]);
  const found = lookUp.data;
  return (
    <Dialog open onClose={props.onClose} fullWidth maxWidth="sm" aria-labelledby="name-title">
      <DialogTitle id="name-title">
        {!found ? 'Its tag' : found.known ? `Is it ${found.tag}?` : `${found.tag} is new`}
      </DialogTitle>
      {!found ? (
        <Box
          component="form"
          onSubmit={(event: FormEvent) => {
            event.preventDefault();
            if (tag.trim()) mutate(tag.trim());
          }}
        >
          <DialogContent sx={{ pt: '8px !important' }}>
            <TextField
              fullWidth
              autoFocus
              label="Scan or type its tag"
              value={tag}
              onChange={(event) => setTag(event.target.value)}
              slotProps={{ htmlInput: { autoComplete: 'off', spellCheck: false } }}
            />
            <Box sx={{ color: c.muted, mt: 1.5 }}>
              A tag that is known makes this that item’s sheet. A new one is put on it now, and registers it.
            </Box>
            {lookUp.error && <Notice problem={lookUp.error} />}
          </DialogContent>
          <DialogActions>
            <Button color="inherit" onClick={props.onClose}>
              Cancel
            </Button>
            <Button type="submit" variant="contained" disabled={!tag.trim() || lookUp.isPending}>
              Look it up
            </Button>
          </DialogActions>
        </Box>
      ) : found.known ? (
        <Known
          answer={found}
          known={found.known}
          isNaming={name.isPending}
          problem={name.error}
          onName={(facts) =>
            name.mutate({ tag: found.tag, known: found.known!.itemId, facts, register: null })
          }
          onAnother={() => lookUp.reset()}
          onClose={props.onClose}
        />
      ) : (
        <New
          isNaming={name.isPending}
          problem={name.error}
          onName={(register) => name.mutate({ tag: found.tag, known: null, facts: null, register })}
          onAnother={() => lookUp.reset()}
        />
      )}
    </Dialog>
  );
}

function Known(props: {
  answer: Answer;
  known: NonNullable<Answer['known']>;
  isNaming: boolean;
  problem: Error | null;
  onName: (facts: Schema['FactsFrom'] | null) => void;
  onAnother: () => void;
  onClose: () => void;
}) {
  const { known } = props;
  const contradicts = known.contradicted.length > 0;
  return (
    <>
      <DialogContent>
        <Box sx={{ fontSize: '1.25rem', fontWeight: 700 }}>{known.name}</Box>
        <Box sx={{ color: c.bark }}>
          {known.makerModel && `${known.makerModel} · `}class {known.classText}
        </Box>
        <Box sx={{ color: c.bark }}>{known.place}</Box>
        <Box sx={{ color: c.muted }}>
          {known.lastTestedOn ? `last tested ${showDate(known.lastTestedOn)}` : 'never tested'}
          {known.state !== 'inService' && (
            <Box component="span" sx={{ color: c.fail, fontWeight: 700 }}>
              {' '}
              · {states[known.state]}
            </Box>
          )}
        </Box>
        {known.refusal && (
          <Box role="alert" sx={{ mt: 2, borderLeft: `4px solid ${c.fail}`, pl: 1.5 }}>
            {known.refusal}
          </Box>
        )}
        {!known.refusal && contradicts && (
          <Box role="alert" sx={{ mt: 2, borderLeft: `4px solid ${c.advice}`, pl: 1.5 }}>
            <strong>The register says otherwise than was seen.</strong>
            <Box component="ul" sx={{ m: 0, pl: 2.25 }}>
              {known.contradicted.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </Box>
            Look at its plate again. What was measured is judged by what is right, and what is missing is
            measured.
          </Box>
        )}
        {props.problem && <Notice problem={props.problem} />}
      </DialogContent>
      <DialogActions sx={{ flexWrap: 'wrap', gap: 1 }}>
        <Button color="inherit" onClick={props.onAnother}>
          Another tag
        </Button>
        {known.refusal ? (
          <Button variant="contained" onClick={props.onClose}>
            Back to the sheet
          </Button>
        ) : contradicts ? (
          <>
            <Button variant="outlined" disabled={props.isNaming} onClick={() => props.onName('register')}>
              It is; the register is right
            </Button>
            <Button variant="contained" disabled={props.isNaming} onClick={() => props.onName('seen')}>
              It is; what was seen is right
            </Button>
          </>
        ) : (
          <Button variant="contained" autoFocus disabled={props.isNaming} onClick={() => props.onName(null)}>
            Yes, that is it
          </Button>
        )}
      </DialogActions>
    </>
  );
}

function New(props: {
  isNaming: boolean;
  problem: Error | null;
  onName: (register: Schema['NewName']) => void;
  onAnother: () => void;
}) {
  const run = useRun();
  const form = useQuery({
    queryKey: ['form', run.roundId],
    queryFn: () => ask(api.GET('/api/v1/register/form', { params: { query: { round: run.roundId } } })),
  });
  const [it, setIt] = useState({ name: '', room: '', maker: '', model: '', serial: '' });
  const [chosenPlace, setPlace] = useState<Schema['Place'] | null>(null);
  const [habits, setHabits] = useState<Pick<Schema['NewName'], 'usage' | 'moved' | 'users'>>({
    usage: 'normal',
    moved: 'sometimes',
    users: 'trained',
  });
  // A new item is most likely used as the others of its site are.
  const place = chosenPlace ?? form.data?.usualPlace ?? 'office';
  const fault = (path: string) =>
    props.problem instanceof Problem
      ? props.problem.faults.find((one) => one.path === path)?.message
      : undefined;
  const text = (name: keyof typeof it, label: string, more?: object) => (
    <TextField
      label={label}
      value={it[name]}
      onChange={(event) => setIt({ ...it, [name]: event.target.value })}
      error={!!fault(name)}
      helperText={fault(name)}
      {...more}
    />
  );
  const pick = <K extends keyof typeof habits>(name: K, label: string, of: Record<string, string>) => (
    <TextField
      select
      label={label}
      value={habits[name]}
      onChange={(event) => setHabits({ ...habits, [name]: event.target.value })}
    >
      {Object.entries(of).map(([value, shown]) => (
        <MenuItem key={value} value={value}>
          {shown}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box
      component="form"
      onSubmit={(event: FormEvent) => {
        event.preventDefault();
        props.onName({ ...it, place, ...habits });
      }}
    >
      <DialogContent sx={{ display: 'grid', gap: 2, pt: '8px !important' }}>
        <Box sx={{ color: c.bark }}>
          Put the tag on it now. It joins the register of {form.data?.client}, {form.data?.site}.
        </Box>
        {form.error && <Notice problem={form.error} onAgain={() => void form.refetch()} />}
        {text('name', 'What people call it', { autoFocus: true, required: true })}
        <Two>
          {text('room', 'Room', { required: true, slotProps: { htmlInput: { list: 'rooms' } } })}
          <PlaceField value={place} onChange={setPlace} />
        </Two>
        <RoomNames rooms={form.data?.rooms} />
        <Two>
          {text('maker', 'Maker')}
          {text('model', 'Model')}
          {text('serial', 'Serial')}
        </Two>
        <Two>
          {pick('usage', 'Use', usages)}
          {pick('moved', 'Moved', moves)}
          {pick('users', 'Users', users)}
        </Two>
        {props.problem && <Notice problem={props.problem} />}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={props.onAnother}>
          Another tag
        </Button>
        <Button type="submit" variant="contained" disabled={props.isNaming || !form.data}>
          Register it
        </Button>
      </DialogActions>
    </Box>
  );
}

const Two = ({ children }: { children: React.ReactNode }) => (
  <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', '& > *': { flex: '1 1 140px', minWidth: 0 } }}>
    {children}
  </Box>
);
