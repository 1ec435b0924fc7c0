import { Box, Button, Checkbox, FormControlLabel, MenuItem, TextField } from '@mui/material';
import { useState } from 'react';
import { showDate } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import type { Schema } from '../api/client';
import { freesTheKeys } from './benchKeys';
import { useDesk } from './desk';
import { PhotosOf } from './PhotosOf';
import { useRun, useShown } from './useBench';

/** How the sheet stands and how it may end. A failed reading first offers "again"; saving a fail is a press of its own. */
export function Verdict() {
  const now = useShown((shown) => shown.now);
  const isPending = useShown((shown) => shown.pending > 0);
  const isFaultFinding = useShown(({ sheet }) => sheet.scope === 'faultFinding');
  const desk = useDesk();
  const hasFailed = now.failures.length > 0;
  if (now.current !== null && !hasFailed && !isFaultFinding) return null;
  const end = (kind: Schema['EndKind']) => now.ends.find((it) => it.kind === kind)!;
  const pass = end('pass');
  const shown = now.outcome ?? 'undecided';
  return (
    <Box
      component="section"
      id="verdict"
      aria-label="Verdict"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        gap: 2,
        p: 2.5,
        bgcolor: c.surface,
        boxShadow: `inset 6px 0 ${hasFailed ? c.fail : c.reed}`,
        borderBottom: `1px solid ${c.line}`,
        scrollMarginBlock: 140,
      }}
    >
      <Ring state={shown} size={56} />
      <Box sx={{ flex: '1 1 300px', minWidth: 0 }}>
        <Box component="h2" sx={{ m: 0, fontSize: '1.5rem', lineHeight: 1.2 }}>
          {now.outcomeText}
        </Box>
        {hasFailed ? <Failures /> : <Reasons now={now} pass={pass} />}
        <SetAside pass={pass} />
        {now.next && (
          <Box sx={{ mt: 0.75 }}>
            {now.next.due ? (
              <>
                Next test <strong>{showDate(now.next.due)}</strong>, formal visual{' '}
                {showDate(now.next.visualDue)}.
              </>
            ) : (
              <>Formal visual by {showDate(now.next.visualDue)}; it stays due for its first test.</>
            )}{' '}
            {now.interval && (
              <Button
                id="interval"
                size="small"
                color="inherit"
                variant="text"
                disabled={isPending}
                onClick={() => desk.ask({ what: 'interval' })}
                sx={{ textDecoration: 'underline', textUnderlineOffset: 3, minHeight: 44 }}
              >
                Choose another date
              </Button>
            )}
            {now.interval?.says && (
              <Box sx={{ borderLeft: `4px solid ${c.advice}`, pl: 1.5, mt: 0.5 }}>{now.interval.says}</Box>
            )}
          </Box>
        )}
        {now.evaluation && <Evaluation card={now.evaluation} sticker={now.sticker ?? null} />}
      </Box>
      <Box sx={{ display: 'flex', flexDirection: 'column', gap: 1, alignSelf: 'center' }}>
        {now.asksForTag && (
          <Button
            id="name"
            variant="contained"
            disabled={isPending}
            onClick={() => desk.ask({ what: 'name', tag: '' })}
          >
            Give it its tag
          </Button>
        )}
        {now.asksProbeTried && !hasFailed && <ProbeTried />}
        {now.lacksRepair && (
          <Button
            id="repair"
            variant={hasFailed ? 'outlined' : 'contained'}
            disabled={isPending}
            onClick={() => desk.ask({ what: 'repair' })}
          >
            Say what was mended
          </Button>
        )}
        {pass.isOpen && (
          <Button
            id="save"
            variant="contained"
            disabled={isPending || desk.isSaving}
            onClick={() => desk.save('pass')}
          >
            {desk.isSaving ? 'Saving' : pass.text}
          </Button>
        )}
        {end('findings').isOpen && (
          <Button
            variant={pass.isOpen ? 'outlined' : 'contained'}
            disabled={isPending || desk.isSaving}
            onClick={() => desk.ask({ what: 'findings' })}
          >
            {end('findings').text}
          </Button>
        )}
        {end('fail').isOpen && (
          <Button
            variant="contained"
            color="error"
            disabled={isPending || desk.isSaving}
            onClick={() => desk.save('fail')}
          >
            {desk.isSaving ? 'Saving' : end('fail').text}
          </Button>
        )}
      </Box>
    </Box>
  );
}

/** The probe lay on metal and showed nothing anywhere: touched to the check point, a whole lead shows something. */
function ProbeTried() {
  const run = useRun();
  const isPending = useShown((shown) => shown.pending > 0);
  const say = (works: boolean) => void run.happen({ kind: 'probeTried', works }).catch(() => {});
  return (
    <Box role="group" aria-label="At the check point the probe" sx={{ display: 'grid', gap: 1 }}>
      <Button id="probe-tried" variant="contained" disabled={isPending} onClick={() => say(true)}>
        At the check point it shows something
      </Button>
      <Button variant="outlined" color="error" disabled={isPending} onClick={() => say(false)}>
        There it shows nothing either
      </Button>
    </Box>
  );
}

function Reasons({
  now,
  pass,
}: {
  now: { reasons: readonly string[]; outcome?: unknown };
  pass: Schema['EndView'];
}) {
  const lines = now.outcome ? now.reasons : [...now.reasons, pass.why];
  return (
    <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, color: c.bark }}>
      {[...new Set(lines)].map((line) => (
        <li key={line}>{line}</li>
      ))}
    </Box>
  );
}

/** What failed, and what can be done about each before the fail is saved. */
function Failures() {
  const failures = useShown(({ now }) => now.failures);
  const desk = useDesk();
  return (
    <Box>
      {failures.map((it) => (
        <Box
          key={`${it.target}${it.point}${it.text}`}
          sx={{ display: 'flex', flexWrap: 'wrap', alignItems: 'center', gap: 1, mt: 0.5 }}
        >
          <Box sx={{ flex: '1 1 240px' }}>{it.text}</Box>
          {it.target && (
            <Button
              variant="outlined"
              color="inherit"
              size="small"
              className="again"
              onClick={() => desk.ask({ what: 'again', target: it.target!, text: it.text, point: it.point })}
            >
              Again: it does not count
            </Button>
          )}
          {!it.target && it.step === 'fuse' && (
            <Button
              variant="outlined"
              color="inherit"
              size="small"
              onClick={() => desk.ask({ what: 'facts' })}
            >
              Correct the facts
            </Button>
          )}
        </Box>
      ))}
      <Box sx={{ mt: 1, fontWeight: 600 }}>
        If it stands: tag it red, make the plug unusable or lock it away. It is out of use now.
      </Box>
    </Box>
  );
}

/** What failed on the way and decides nothing any more. A class that is settled after a failure asks for its mark and a lead. */
function SetAside({ pass }: { pass: Schema['EndView'] }) {
  // What stands among the failures above is not said twice.
  const setAside = useShown(({ now }) =>
    now.setAside.filter((it) => !it.isExcused && !now.failures.some((failure) => failure.text === it.text)),
  );
  const asksForMark = useShown(({ now }) => now.asksForMark);
  if (setAside.length === 0 && !asksForMark) return null;
  return (
    <Box role="note" sx={{ borderLeft: `4px solid ${c.advice}`, pl: 1.5, mt: 1 }}>
      <Box sx={{ fontWeight: 600 }}>It failed on the way. The paper says so, and a lead reads it first.</Box>
      {setAside.map((it) => (
        <div key={it.text}>{it.text}</div>
      ))}
      {asksForMark && (
        <Box sx={{ mt: 0.5, display: 'flex', flexDirection: 'column', gap: 0.75, alignItems: 'flex-start' }}>
          {!pass.isOpen && <span>{pass.why}</span>}
          <PhotosOf of="mark" shows="plate" text="Photo of the mark or the plate" />
        </Box>
      )}
    </Box>
  );
}

/** The state of medical equipment, proposed; a person confirms or chooses. What the figures contradict cannot be chosen. */
function Evaluation({ card, sticker }: { card: Schema['EvaluationCard']; sticker: boolean | null }) {
  const run = useRun();
  const [chosen, setChosen] = useState<Schema['Evaluation'] | null>(null);
  const value = chosen ?? card.confirmed ?? card.proposal;
  const isConfirmed = card.confirmed === value;
  return (
    <Box sx={{ mt: 1.5, display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start' }}>
      <TextField
        select
        size="small"
        label="Evaluation"
        slotProps={freesTheKeys}
        value={value}
        onChange={(event) => setChosen(event.target.value as Schema['Evaluation'])}
        helperText={
          isConfirmed
            ? 'Confirmed by you.'
            : value === card.proposal
              ? `Proposed: ${card.because[0]}`
              : `Proposed was: ${card.proposalText}`
        }
        sx={{ flex: '1 1 300px', maxWidth: 480 }}
      >
        {card.choices.map((it) => (
          <MenuItem key={it.value} value={it.value} disabled={it.whyNot !== null}>
            {it.text}
          </MenuItem>
        ))}
      </TextField>
      {!isConfirmed && (
        <Button
          id="evaluate"
          variant="contained"
          onClick={() => {
            setChosen(null);
            void run.happen({ kind: 'evaluated', evaluation: value });
          }}
        >
          Confirm
        </Button>
      )}
      <FormControlLabel
        sx={{ width: '100%', m: 0 }}
        control={
          <Checkbox
            checked={sticker === true}
            onChange={(_, isFitted) => void run.happen({ kind: 'stickerSaid', isFitted })}
          />
        }
        label="Sticker fitted"
      />
    </Box>
  );
}
