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
import { useId, useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { scannerSettings, setScanner } from '../frame/scanner';
import { type Asking, useDesk } from './desk';
import { FactsDialog } from './FactsDialog';
import { IsolateAgainDialog, LockDialog } from './IsolationDialogs';
import { NameDialog } from './NameDialog';
import { Key } from './RunSheet';
import { OrderDialog } from './OrderDialog';
import { PhotosOf } from './PhotosOf';
import { IntervalDialog } from './IntervalDialog';
import { RepairDialog } from './RepairDialog';
import { useRun, useShown } from './useBench';
import { WordsDialog } from './WordsDialog';

/** The one question that is asked now. */
export function Question(props: {
  asking: Asking;
  onClose: () => void;
  onNotTested: (
    end: 'notTested' | 'looked',
    reason: Schema['NotTestedReason'],
    remarks: string | null,
  ) => void;
  onDiscard: (reason: string) => void;
  onHandOver: (words: string) => void;
  onFindings: (words: string) => void;
  onNamed: (itemId: string, isOther: boolean) => void;
}) {
  const { asking, onClose } = props;
  switch (asking.what) {
    case 'again':
      return <AgainDialog asking={asking} onClose={onClose} />;
    case 'bad':
      return <BadDialog asking={asking} onClose={onClose} />;
    case 'point':
      return <PointDialog step={asking.step} onClose={onClose} />;
    case 'borrow':
      return <BorrowDialog reading={asking.reading.id} text={asking.reading.text} onClose={onClose} />;
    case 'override':
      return <OverrideDialog reading={asking.reading} onClose={onClose} />;
    case 'earth':
      return <EarthDialog step={asking.step} onClose={onClose} />;
    case 'notTested':
      return <NotTestedDialog onClose={onClose} onSave={props.onNotTested} />;
    case 'discard':
      return <DiscardDialog onClose={onClose} onDiscard={props.onDiscard} />;
    case 'handOver':
      return <HandOverDialog onClose={onClose} onHandOver={props.onHandOver} />;
    case 'findings':
      return <FindingsDialog onClose={onClose} onSave={props.onFindings} />;
    case 'name':
      return <NameDialog tag={asking.tag} onNamed={props.onNamed} onClose={onClose} />;
    case 'path':
      return <PathDialog reading={asking.reading} onClose={onClose} />;
    case 'connected':
      return <ConnectedDialog reading={asking.reading} onClose={onClose} />;
    case 'standing':
      return <StandingDialog onClose={onClose} />;
    case 'repair':
      return <RepairDialog onClose={onClose} />;
    case 'interval':
      return <IntervalDialog onClose={onClose} />;
    case 'leakage':
      return <LeakageDialog to={asking.to} onClose={onClose} />;
    case 'lock':
      return <LockDialog stays={asking.stays} onClose={onClose} />;
    case 'isolateAgain':
      return <IsolateAgainDialog onClose={onClose} />;
    case 'facts':
      return <BenchFacts onClose={onClose} />;
    case 'order':
      return <OrderDialog onClose={onClose} />;
    case 'keys':
      return <KeysDialog onClose={onClose} />;
  }
}

/** Takes a reading or a finding out: it stays on the record with its reason, and the place is open again. */
function AgainDialog({
  asking,
  onClose,
}: {
  asking: Extract<Asking, { what: 'again' }>;
  onClose: () => void;
}) {
  const run = useRun();
  const desk = useDesk();
  const isLook = !!asking.point;
  const { lookAgain, void: voids } = useShown(({ sheet }) => sheet.phrases);
  const cause = (words: string) => voids.find((phrase) => words.startsWith(phrase.text))?.cause ?? null;
  return (
    <WordsDialog
      title={`${asking.text}: why does it not count?`}
      offered={isLook ? lookAgain : voids.map((it) => it.text)}
      label="In words"
      take="It does not count"
      cancel="It stands"
      note="It stays on the record with this reason, and a lead reads it. What failed must be looked at or measured again in its place."
      onTake={(reason) => {
        void run.happen({
          kind: 'voided',
          target: asking.target,
          point: asking.point ?? null,
          cause: isLook ? null : cause(reason),
          reason,
        });
        desk.choose(null);
        onClose();
      }}
      onClose={onClose}
    />
  );
}

/** What is bad, or worth telling: at the look a point of the list, elsewhere the step itself. */
function BadDialog({ asking, onClose }: { asking: Extract<Asking, { what: 'bad' }>; onClose: () => void }) {
  const run = useRun();
  const sheet = useShown((shown) => shown.sheet);
  const [chosen, setChosen] = useState(asking.point ?? null);
  const step = sheet.steps.find((it) => it.key === asking.step)!;
  const point = sheet.look.find((it) => it.id === chosen);
  const id = useId();
  if (step.family === 'look' && !point)
    return (
      <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
        <DialogTitle id={id}>Which point is bad?</DialogTitle>
        <DialogContent sx={{ display: 'flex', flexDirection: 'column' }}>
          {sheet.look.map((it) => (
            <Button
              key={it.id}
              color="inherit"
              sx={{ justifyContent: 'flex-start', textAlign: 'left', fontWeight: 400 }}
              onClick={() => setChosen(it.id)}
            >
              <Box component="span" sx={{ color: c.muted, minWidth: 110 }}>
                {it.where}
              </Box>
              {it.text}
            </Button>
          ))}
        </DialogContent>
        <DialogActions>
          <Button color="inherit" onClick={onClose}>
            Cancel
          </Button>
        </DialogActions>
      </Dialog>
    );
  const isAdvice = asking.answer === 'advice';
  return (
    <WordsDialog
      title={
        point
          ? `${point.where}: what is ${isAdvice ? 'worth telling' : 'bad'}?`
          : `${step.name}: what is bad?`
      }
      offered={point ? [...(isAdvice ? [] : point.fails), ...point.phrases] : sheet.phrases.notWorking}
      label="In words"
      take={isAdvice ? 'Advice' : 'Bad'}
      note={
        isAdvice ? 'It passes, and the client is told. What makes it unsafe is bad, never advice.' : undefined
      }
      words={asking.words}
      onTake={(words) => {
        void run.happen(
          point
            ? { kind: 'looked', points: [{ pointId: point.id, answer: asking.answer, words }] }
            : { kind: 'read', step: step.key, source: 'typed', ok: false, note: words, switchedOn: true },
        );
        onClose();
      }}
      onClose={onClose}
    />
  );
}

/** Where the probe sits next: every reachable earthed part is a reading of its own. */
function PointDialog({ step, onClose }: { step: string; onClose: () => void }) {
  const desk = useDesk();
  const offered = useShown(({ sheet }) => sheet.phrases.points);
  const name = useShown(({ sheet }) => sheet.steps.find((it) => it.key === step)!.name);
  return (
    <WordsDialog
      title={`${name}: where does the probe sit now?`}
      offered={offered}
      label="The point, in words"
      take="Measure there"
      onTake={(point) => {
        desk.choose(step);
        desk.setProbe({ step, point });
        onClose();
      }}
      onClose={onClose}
    />
  );
}

/** The reading judged by a second standard as well. It counts for itself, never for this round's required steps. */
function BorrowDialog({ reading, text, onClose }: { reading: string; text: string; onClose: () => void }) {
  const run = useRun();
  const standards = useShown(({ sheet }) => sheet.phrases.borrowable);
  const own = useShown(({ sheet }) => sheet.standard);
  const id = useId();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <DialogTitle id={id}>Judge {text} by which standard as well?</DialogTitle>
      <DialogContent sx={{ display: 'flex', flexDirection: 'column' }}>
        {standards.map((it) => (
          <Button
            key={it.value}
            color="inherit"
            sx={{ justifyContent: 'flex-start', textAlign: 'left', fontWeight: 400 }}
            onClick={() => {
              void run.happen({ kind: 'borrowed', target: reading, packId: it.value });
              onClose();
            }}
          >
            {it.text}
          </Button>
        ))}
        <Box sx={{ color: c.muted, mt: 1 }}>
          It counts for itself, by that standard's clause, and never for the steps that {own} requires.
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

/** A lead's decision in place of the comparison. It is printed as what it is. */
function OverrideDialog({
  reading,
  onClose,
}: {
  reading: Extract<Asking, { what: 'override' }>['reading'];
  onClose: () => void;
}) {
  const run = useRun();
  const offered = useShown(({ sheet }) => sheet.phrases.override);
  const to = reading.overrideTo!;
  return (
    <WordsDialog
      title={`Override ${reading.text}: ${reading.status} becomes ${to}. Why?`}
      offered={offered}
      label="The reason, in words"
      take={`Make it a ${to}`}
      note="Your name, the reason and what the comparison said stand on the record and on the paper. It can be withdrawn."
      onTake={(reason) => {
        void run.happen({ kind: 'overridden', target: reading.id, to, reason });
        onClose();
      }}
      onClose={onClose}
    />
  );
}

function EarthDialog({ step, onClose }: { step: string; onClose: () => void }) {
  const run = useRun();
  const offered = useShown(({ sheet }) => sheet.phrases.earthFound);
  return (
    <WordsDialog
      title="Where did the probe find an earth?"
      offered={offered}
      label="In words"
      take="It stops the job"
      note="Stop, isolate it, inspect. If it is really class I, correct the class; else it fails."
      onTake={(words) => {
        void run.happen({ kind: 'earthFound', step, words });
        onClose();
      }}
      onClose={onClose}
    />
  );
}

/** Not tested is its own outcome: the item stays due and stands on the client's paper. */
function NotTestedDialog({
  onSave,
  onClose,
}: {
  onSave: (end: 'notTested' | 'looked', reason: Schema['NotTestedReason'], remarks: string | null) => void;
  onClose: () => void;
}) {
  const looked = useShown(({ now }) => now.ends.find((it) => it.kind === 'looked')!);
  const reasons = useShown(({ sheet }) => sheet.phrases.notTested);
  const end = useShown(({ now }) => now.ends.find((it) => it.kind === 'notTested')!);
  const [reason, setReason] = useState<string | null>(null);
  const [remarks, setRemarks] = useState('');
  const id = useId();
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="sm" aria-labelledby={id}>
      <DialogTitle id={id}>
        {end.isOpen ? 'Not tested: why?' : 'It cannot be saved as not tested'}
      </DialogTitle>
      <DialogContent sx={{ pt: '8px !important' }}>
        {end.isOpen && (
          <>
            <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' }, gap: 1, mb: 2 }}>
              {reasons.map((it) => (
                <Button
                  key={it.value}
                  variant={reason === it.value ? 'contained' : 'outlined'}
                  color="inherit"
                  aria-pressed={reason === it.value}
                  onClick={() => setReason(it.value)}
                >
                  {it.text}
                </Button>
              ))}
            </Box>
            <TextField
              fullWidth
              multiline
              minRows={2}
              label="Remark"
              value={remarks}
              onChange={(event) => setRemarks(event.target.value)}
              slotProps={{ htmlInput: { maxLength: 2000 } }}
            />
            <Box sx={{ mt: 1.5 }}>
              <PhotosOf of="notTested" shows="other" text="Photo of what stands in the way" />
            </Box>
          </>
        )}
        <Box sx={{ color: c.muted, mt: 2 }}>
          {looked.isOpen ? looked.why : end.why} Readings taken so far are kept in the record.
        </Box>
      </DialogContent>
      <DialogActions>
        <Button color="inherit" onClick={onClose}>
          Cancel
        </Button>
        {end.isOpen && (
          <Button
            variant="contained"
            disabled={!reason}
            onClick={() =>
              onSave(
                looked.isOpen ? 'looked' : 'notTested',
                reason as Schema['NotTestedReason'],
                remarks.trim() || null,
              )
            }
          >
            {looked.isOpen ? 'Save as looked at, not tested' : 'Save as not tested'}
          </Button>
        )}
      </DialogActions>
    </Dialog>
  );
}

function DiscardDialog({ onDiscard, onClose }: { onDiscard: (reason: string) => void; onClose: () => void }) {
  const offered = useShown(({ sheet }) => sheet.phrases.discard);
  const why = useShown(({ now }) => now.ends.find((it) => it.kind === 'discard')!.why);
  return (
    <WordsDialog
      title="Discard this run sheet: why?"
      offered={offered}
      label="In words"
      take="Discard it"
      note={why}
      onTake={onDiscard}
      onClose={onClose}
    />
  );
}

function HandOverDialog(props: { onHandOver: (words: string) => void; onClose: () => void }) {
  const offered = useShown(({ sheet }) => sheet.phrases.handOver);
  return (
    <WordsDialog
      title="Hand it to another bench: what should they know?"
      offered={offered}
      label="In words"
      take="Hand it over"
      note="All that was done goes along with your name, and leaves this device. Whoever is in the house can take it over on Today."
      onTake={props.onHandOver}
      onClose={props.onClose}
    />
  );
}

/** The item's facts, corrected on the bench: the sheet follows, and what was done is judged again. */
function BenchFacts({ onClose }: { onClose: () => void }) {
  const run = useRun();
  const sheet = useShown((shown) => shown.sheet);
  return (
    <FactsDialog
      tag={sheet.tag}
      fields={sheet.fields}
      evidence={sheet.phrases.classEvidence}
      reasons={sheet.phrases.factReasons}
      onClose={onClose}
      onTake={async (changes, reason) => {
        await run.happen({ kind: 'factsChanged', changes, reason });
        const refused = run.get().now.refused.find((it) => it.id === run.events.at(-1)?.id);
        return refused?.why ?? null;
      }}
    />
  );
}

function KeysDialog({ onClose }: { onClose: () => void }) {
  const [scanner, setIt] = useState(scannerSettings);
  const change = (part: Partial<typeof scanner>) => {
    const next = { ...scanner, ...part };
    setIt(next);
    setScanner(next);
  };
  return (
    <Dialog open onClose={onClose} aria-labelledby="keys-title">
      <DialogTitle id="keys-title">Keys at the bench</DialogTitle>
      <DialogContent sx={{ display: 'grid', gap: 1.5, minWidth: { sm: 360 } }}>
        <Key name="Enter" does="do what the step in hand asks and go on" />
        <Key name="0–9 . < > -" does="type a reading: 0.08, >500M, 0.31mA" />
        <Key name="*" does="again, with a reason" />
        <Key name="-" does="bad, where good or bad is asked" />
        <Key name="/" does="not tested, with a reason" />
        <Key name="↑ ↓ ← →" does="another step, another cell" />
        <Key name="Esc" does="stop the instrument, from anywhere; else clear what was typed" />
        <span>A scan is a scan wherever the focus is; it never becomes text or an answer.</span>
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mt: 1 }}>
          <TextField
            size="small"
            label="Scanner sends before a tag"
            value={scanner.prefix}
            onChange={(event) => change({ prefix: event.target.value })}
            slotProps={{ htmlInput: { maxLength: 5 } }}
            sx={{ flex: '1 1 180px' }}
          />
          <TextField
            select
            size="small"
            label="and after it"
            value={scanner.suffix}
            onChange={(event) => change({ suffix: event.target.value as 'Enter' | 'Tab' })}
            sx={{ flex: '1 1 110px' }}
          >
            <MenuItem value="Enter">Enter</MenuItem>
            <MenuItem value="Tab">Tab</MenuItem>
          </TextField>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} autoFocus>
          Close
        </Button>
      </DialogActions>
    </Dialog>
  );
}

/** Why nothing flows between L and N though the item is on: then the reading counts, and the record says what it did not exercise. */
function PathDialog({ reading, onClose }: { reading: string; onClose: () => void }) {
  const run = useRun();
  const offered = useShown(({ sheet }) => sheet.phrases.pathOpen);
  return (
    <WordsDialog
      title="It was on: why does nothing flow between L and N?"
      offered={offered}
      label="In a few words"
      take="Let the reading count"
      note="What lies behind it was not exercised: that stands on the paper. The powered reading and the functional check show whether it runs."
      onTake={(words) => {
        onClose();
        void run.happen({ kind: 'pathExplained', target: reading, words }).catch(() => {});
      }}
      onClose={onClose}
    />
  );
}

/** What shows that it was connected though nothing flows: with the second reading it decides. */
function ConnectedDialog({ reading, onClose }: { reading: string; onClose: () => void }) {
  const run = useRun();
  const offered = useShown(({ sheet }) => sheet.phrases.connected);
  return (
    <WordsDialog
      title="Nothing flows: what shows that it was connected?"
      offered={offered}
      label="In a few words"
      take="Let the reading count"
      note="It stands on the record with the reading. Who says so has looked at the connection itself."
      onTake={(words) => {
        onClose();
        void run.happen({ kind: 'connectionProved', target: reading, words }).catch(() => {});
      }}
      onClose={onClose}
    />
  );
}

/** What else earths a device that cannot stand isolated: it is measured by difference then. */
function StandingDialog({ onClose }: { onClose: () => void }) {
  const run = useRun();
  const offered = useShown(({ sheet }) => sheet.phrases.otherEarths);
  return (
    <WordsDialog
      title="What else earths it?"
      offered={offered}
      label="In a few words"
      take="Measure by difference"
      note="Take it off where you can, and measure direct. Where you cannot, its earth stays closed and the difference of L and N is measured; the paper says why."
      onTake={(by) => {
        onClose();
        void run.happen({ kind: 'standingSaid', isIsolated: false, by }).catch(() => {});
      }}
      onClose={onClose}
    />
  );
}

/** One item's leakage by another method than its client's, with the reason. */
function LeakageDialog({ to, onClose }: { to: Schema['LeakagePolicy']; onClose: () => void }) {
  const run = useRun();
  const phrases = useShown(({ sheet }) => sheet.phrases);
  const text = phrases.leakageMethods.find((it) => it.value === to)?.text ?? to;
  return (
    <WordsDialog
      title={`Leakage of this item: ${text.toLowerCase()}. Why?`}
      offered={phrases.leakageReasons}
      label="In a few words"
      take="Measure it so"
      note="A value by one method is never compared with a limit or an earlier value of another."
      onTake={(reason) => {
        onClose();
        void run.happen({ kind: 'leakageMethodChosen', leakage: to, reason }).catch(() => {});
      }}
      onClose={onClose}
    />
  );
}

/** What was found, in words: it is what whoever complained is told. */
function FindingsDialog({ onClose, onSave }: { onClose: () => void; onSave: (words: string) => void }) {
  const offered = useShown(({ sheet }) => sheet.phrases.findings);
  return (
    <WordsDialog
      title="What was found?"
      offered={offered}
      label="In a few words"
      take="Save the findings"
      note="No pass and no label: the item stays as due as it was. A clean dead test clears little, as parts behind relays were not under test."
      onTake={onSave}
      onClose={onClose}
    />
  );
}
