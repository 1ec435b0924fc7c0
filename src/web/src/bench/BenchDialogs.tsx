import { Box, Button, Dialog, DialogActions, DialogContent, DialogTitle, TextField } from '@mui/material';
import { useId, useState } from 'react';
import { useQuery } from '@tanstack/react-query';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { Key } from './RunSheet';
import type { BenchRun } from './run';
import type { StepState } from './states';

/** A list of offered phrases and room for one's own words; Enter takes the first or what was typed. */
function Words({
  offered,
  label,
  onTake,
}: {
  offered: readonly string[];
  label: string;
  onTake: (words: string) => void;
}) {
  const [own, setOwn] = useState('');
  return (
    <Box
      component="form"
      onSubmit={(event) => {
        event.preventDefault();
        const words = own.trim() || offered[0];
        if (words) onTake(words);
      }}
    >
      <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, mb: 2 }}>
        {offered.map((phrase) => (
          <Button key={phrase} variant="outlined" color="inherit" onClick={() => onTake(phrase)}>
            {phrase}
          </Button>
        ))}
      </Box>
      <TextField
        fullWidth
        autoFocus
        label={label}
        value={own}
        onChange={(event) => setOwn(event.target.value)}
        slotProps={{ htmlInput: { maxLength: 300 } }}
        helperText="Enter takes these words; empty, the first phrase."
      />
    </Box>
  );
}

/** What is bad: at the look a point of the list, elsewhere the step itself. */
export function BadDialog({
  sheet,
  run,
  onClose,
}: {
  sheet: Schema['BenchSheet'];
  run: BenchRun;
  onClose: () => void;
}) {
  const atLook = run.current?.step.test === 'visual';
  const [point, setPoint] = useState<Schema['LookCard'] | null>(null);
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="bad-title">
      <DialogTitle id="bad-title">
        {!atLook
          ? `${run.current?.step.name}: what is bad?`
          : point
            ? `${point.where}: what is bad?`
            : 'Which point is bad?'}
      </DialogTitle>
      <DialogContent sx={{ pt: '8px !important' }}>
        {atLook && !point ? (
          <Box sx={{ display: 'flex', flexDirection: 'column' }}>
            {sheet.look.map((it, i) => (
              <Button
                key={it.id}
                color="inherit"
                autoFocus={i === 0}
                sx={{ justifyContent: 'flex-start', textAlign: 'left', fontWeight: 400 }}
                onClick={() => setPoint(it)}
              >
                <Box component="span" sx={{ color: c.muted, minWidth: 110 }}>
                  {it.where}
                </Box>
                {it.text}
              </Button>
            ))}
          </Box>
        ) : (
          <Words
            offered={
              point?.phrases ?? [
                'Does not do its job',
                'Does not start',
                'Stops or trips',
                'Alarm or interlock does not work',
              ]
            }
            label="In words"
            onTake={(words) => {
              if (point) run.setLook([{ pointId: point.id, answer: 'bad', words }]);
              else if (run.current) run.answer(run.current.step, false, words);
              onClose();
            }}
          />
        )}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** The reading judged by a second standard as well. It counts for itself, never for this round's required steps. */
export function BorrowDialog({
  sheet,
  state,
  run,
  onClose,
}: {
  sheet: Schema['BenchSheet'];
  state: StepState;
  run: BenchRun;
  onClose: () => void;
}) {
  const all = useQuery({ queryKey: ['standards'], queryFn: () => ask(api.GET('/api/v1/standards')) });
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="borrow-title">
      <DialogTitle id="borrow-title">
        Judge {state.standing?.judged?.text ?? 'the reading'} by which standard as well?
      </DialogTitle>
      <DialogContent sx={{ display: 'flex', flexDirection: 'column' }}>
        {all.data
          ?.filter((it) => it.id !== sheet.round.standardId)
          .map((it, i) => (
            <Button
              key={it.id}
              color="inherit"
              autoFocus={i === 0}
              sx={{ justifyContent: 'flex-start', textAlign: 'left', fontWeight: 400 }}
              onClick={() => {
                run.borrow(state.standing!, it.id);
                onClose();
              }}
            >
              {it.shortName}
            </Button>
          ))}
        <Box sx={{ color: c.muted, mt: 1 }}>
          It counts for itself, by that standard's clause, and never for the steps that{' '}
          {sheet.round.standardShort} requires.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Asks for a few words: a title, phrases on offer, room for one's own, and what should be borne in mind. */
function WordsDialog(props: {
  title: string;
  offered: readonly string[];
  label: string;
  note?: string;
  cancel?: string;
  onTake: (words: string) => void;
  onClose: () => void;
}) {
  const id = useId();
  return (
    <Dialog open onClose={props.onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <DialogTitle id={id}>{props.title}</DialogTitle>
      <DialogContent sx={{ pt: '8px !important' }}>
        <Words
          offered={props.offered}
          label={props.label}
          onTake={(words) => {
            props.onTake(words);
            props.onClose();
          }}
        />
        {props.note && <Box sx={{ color: c.muted, mt: 1.5 }}>{props.note}</Box>}
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={props.onClose}>
          {props.cancel ?? 'Cancel'}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Takes a reading out: it stays on the record with its reason, and the step is open again. */
export function AgainDialog({ run, onClose }: { run: BenchRun; onClose: () => void }) {
  const state = run.current?.standing ? run.current : [...run.steps].reverse().find((it) => it.standing);
  if (!state?.standing) return null;
  const standing = state.standing;
  return (
    <WordsDialog
      title={`${state.step.name} again: why does ${standing.judged?.text ?? 'the reading'} not count?`}
      offered={[
        'Clip was off',
        'Switch was off',
        'Wrong step or item',
        'Lead not nulled',
        'Reading had not settled',
      ]}
      label="In words"
      cancel="Keep the reading"
      onTake={(words) => {
        run.voidReading(standing, words);
        run.choose(state.step.key);
      }}
      onClose={onClose}
    />
  );
}

interface AtStep {
  state: StepState;
  run: BenchRun;
  onClose: () => void;
}

/** Where the probe sits next: every reachable earthed part is a reading of its own. */
export function PointDialog({ state, run, onClose }: AtStep) {
  return (
    <WordsDialog
      title={`${state.step.name}: where does the probe sit now?`}
      offered={['Case', 'Base plate', 'Handle', 'Earth stud', 'Guard', 'Trolley']}
      label="The point, in words"
      onTake={(words) => run.another(state.step, words)}
      onClose={onClose}
    />
  );
}

/** A lead's decision in place of the comparison. It is printed as what it is. */
export function OverrideDialog({ state, run, onClose }: AtStep) {
  const judged = state.standing?.judged;
  const to = judged?.status === 'pass' ? 'fail' : 'pass';
  return (
    <WordsDialog
      title={`Override ${judged?.text}: ${judged?.status} becomes ${to}. Why?`}
      offered={[
        'Confirmed with a second instrument',
        "The maker's own figure applies",
        'Known property of this design',
      ]}
      label="The reason, in words"
      note="Your name, the reason and what the comparison said stand on the record and on the paper."
      onTake={(words) => run.override(state.standing!, to, words)}
      onClose={onClose}
    />
  );
}

const reasons: [Schema['NotTestedReason'], string][] = [
  ['notFound', 'Not found'],
  ['notReachable', 'Not reachable without damage'],
  ['inUse', 'In use'],
  ['clientRefused', 'Client refused'],
  ['noCompetence', 'Needs a competence I do not hold'],
  ['builtIn', 'Built in'],
  ['hardWiredOutOfScope', 'Hard-wired, out of scope'],
  ['unsafeToPower', 'Unsafe to power'],
];

/** Not tested is its own outcome: the item stays due and stands on the client's paper. */
export function NotTestedDialog({
  onSave,
  onClose,
}: {
  onSave: (reason: Schema['NotTestedReason'], remarks: string | null) => void;
  onClose: () => void;
}) {
  const [remarks, setRemarks] = useState('');
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby="not-tested-title">
      <DialogTitle id="not-tested-title">Not tested: why?</DialogTitle>
      <DialogContent sx={{ pt: '8px !important' }}>
        <TextField
          fullWidth
          multiline
          minRows={2}
          label="Remark"
          value={remarks}
          onChange={(event) => setRemarks(event.target.value)}
          slotProps={{ htmlInput: { maxLength: 2000 } }}
        />
        <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1, mt: 2 }}>
          {reasons.map(([reason, text], i) => (
            <Button
              key={reason}
              variant="outlined"
              color="inherit"
              autoFocus={i === 0}
              onClick={() => onSave(reason, remarks.trim() || null)}
            >
              {text}
            </Button>
          ))}
        </Box>
        <Box sx={{ color: c.muted, mt: 2 }}>
          It stays due and appears on the client's paper. Readings taken so far are kept in the record.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
      </DialogActions>
    </Dialog>
  );
}

export function KeysDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog open onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys at the bench</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5, minWidth: 340 }}>
        <Key name="Enter" does="do the current step and go on" />
        <Key name="0–9 . < >" does="type a reading: 0.08, >299M, 0.31mA" />
        <Key name="*" does="measure again, with a reason" />
        <Key name="-" does="bad" />
        <Key name="/" does="not tested, with a reason" />
        <Key name="↑ ↓" does="another step" />
        <Key name="Esc" does="stop the instrument" />
        <span>A scan or a typed tag opens the next item from anywhere.</span>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}
