import { Box, Button, MenuItem, TextField } from '@mui/material';
import type { UseMutationResult } from '@tanstack/react-query';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { Ring } from '../design/Ring';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { LookStep } from './LookStep';
import { Phases } from './Phases';
import { StepRow } from './StepRow';
import type { BenchRun } from './run';

/** What is sent beside the work itself. */
export interface Saving {
  notTested: Schema['NotTestedReason'] | null;
  remarks: string | null;
}

/** Every step with limit, value, margin and last time's value, all at once; the current one stands out. */
export function RunSheet(props: {
  sheet: Schema['BenchSheet'];
  run: BenchRun;
  save: UseMutationResult<Schema['SavedInspection'], Error, Saving>;
  evaluation: Schema['Evaluation'] | null;
  onEvaluation: (it: Schema['Evaluation']) => void;
  onPrimary: () => void;
  onBad: () => void;
  onAgain: () => void;
}) {
  const { sheet, run, save } = props;
  return (
    <Box sx={{ display: 'flex', flexDirection: 'column', height: '100%' }}>
      <Box sx={{ px: 2.5, pt: 1.5 }}>
        <Phases sheet={sheet} run={run} isSaved={false} />
        {run.resumed && (
          <Box role="status" sx={{ color: c.slate, fontSize: 14.5, pb: 1 }}>
            Taken up where it was left; nothing was lost.
          </Box>
        )}
        {run.judgement.error && (
          <Notice problem={run.judgement.error} onAgain={() => void run.judgement.refetch()} />
        )}
      </Box>
      {run.steps.map((state) =>
        state.step.test === 'visual' && state === run.current ? (
          <LookStep
            key={state.step.key}
            sheet={sheet}
            run={run}
            onPrimary={props.onPrimary}
            onBad={props.onBad}
          />
        ) : (
          <StepRow
            key={state.step.key}
            sheet={sheet}
            run={run}
            state={state}
            onPrimary={props.onPrimary}
            onBad={props.onBad}
            onAgain={props.onAgain}
          />
        ),
      )}
      {run.steps.length > 0 && (!run.current || sheet.scope === 'faultFinding') && run.judged && (
        <Verdict
          run={run}
          judged={run.judged}
          save={save}
          evaluation={props.evaluation}
          onEvaluation={props.onEvaluation}
        />
      )}
      {save.error && (
        <Box sx={{ p: 2 }}>
          <Notice problem={save.error} onAgain={() => save.mutate(save.variables!)} />
        </Box>
      )}
      {sheet.remarks.length > 0 && (
        <Box component="ul" sx={{ color: c.bark, fontSize: 14.5, pl: 4.5, my: 1.5 }}>
          {sheet.remarks.map((remark) => (
            <li key={remark}>{remark}</li>
          ))}
        </Box>
      )}
      <Box
        sx={{
          mt: 'auto',
          px: 2.5,
          py: 1.25,
          color: c.muted,
          fontSize: 14,
          display: 'flex',
          gap: 2,
          flexWrap: 'wrap',
        }}
      >
        <Key name="Enter" does="go on" /> <Key name="*" does="again" /> <Key name="-" does="bad" />{' '}
        <Key name="/" does="not tested" /> <Key name="?" does="all keys" />
        <Box sx={{ flex: 1 }} />
        <span>{sheet.round.checkNote}</span>
      </Box>
    </Box>
  );
}

export function Key({ name, does }: { name: string; does: string }) {
  return (
    <span>
      <Box
        component="kbd"
        sx={{
          font: 'inherit',
          border: `1.5px solid ${c.muted}`,
          borderRadius: '4px',
          px: 0.75,
          mr: 0.75,
          color: c.ink,
          bgcolor: c.raised,
        }}
      >
        {name}
      </Box>
      {does}
    </span>
  );
}

const evaluations: Record<Schema['Evaluation'], string> = {
  noDeficiency: 'No safety or functional deficiency',
  noDirectRisk: 'No direct risk; can be mended soon',
  outOfUse: 'Out of use until mended',
  doesNotMeet: 'Does not meet the requirements: modify, replace, withdraw',
};

const words = {
  pass: 'Pass',
  passWithAdvice: 'Pass with advice',
  fail: 'Fail',
  notTested: 'Not tested',
  findings: 'Findings',
} as const;

function Verdict({
  run,
  judged,
  save,
  evaluation,
  onEvaluation,
}: {
  run: BenchRun;
  judged: Schema['JudgedWork'];
  save: { isPending: boolean; mutate: (it: Saving) => void };
  evaluation: Schema['Evaluation'] | null;
  onEvaluation: (it: Schema['Evaluation']) => void;
}) {
  const outcome = judged.outcome;
  return (
    <Box
      sx={{
        display: 'flex',
        gap: 2,
        p: 2.5,
        bgcolor: c.surface,
        boxShadow: `inset 6px 0 ${outcome === 'fail' ? c.fail : c.reed}`,
        borderBottom: `1px solid ${c.line}`,
      }}
    >
      <Ring state={outcome ?? 'undecided'} size={56} />
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box component="h2" sx={{ m: 0, fontSize: '1.5rem', lineHeight: 1.2 }}>
          {outcome ? words[outcome] : 'Incomplete'}
        </Box>
        <Box component="ul" sx={{ m: 0, mt: 0.5, pl: 2.25, color: c.bark }}>
          {judged.reasons.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
          {!outcome && judged.missing.map((step) => <li key={step}>Still open: {step}</li>)}
        </Box>
        {judged.next && (
          <Box sx={{ mt: 0.75 }}>
            Next test <strong>{showDate(judged.next.due)}</strong>, formal visual{' '}
            {showDate(judged.next.visualDue)}.
          </Box>
        )}
        {judged.evaluation && (
          <TextField
            select
            size="small"
            label="Evaluation, confirmed by you on saving"
            value={evaluation ?? judged.evaluation.proposal}
            onChange={(event) => onEvaluation(event.target.value as Schema['Evaluation'])}
            helperText={
              (evaluation ?? judged.evaluation.proposal) === judged.evaluation.proposal
                ? `Proposed: ${judged.evaluation.because[0]}`
                : `Proposed was: ${evaluations[judged.evaluation.proposal]}`
            }
            sx={{ mt: 1.5, maxWidth: 480, width: '100%' }}
          >
            {Object.entries(evaluations).map(([value, text]) => (
              <MenuItem key={value} value={value}>
                {text}
              </MenuItem>
            ))}
          </TextField>
        )}
        {outcome === 'fail' && (
          <Box sx={{ mt: 0.75, fontWeight: 600 }}>
            Tag it red, make the plug unusable or lock it away: it is out of use now.
          </Box>
        )}
      </Box>
      <Button
        variant="contained"
        color={outcome === 'fail' ? 'error' : 'primary'}
        disabled={!run.isComplete || save.isPending}
        onClick={() => save.mutate({ notTested: null, remarks: null })}
        sx={{ alignSelf: 'center' }}
      >
        {save.isPending
          ? 'Saving'
          : outcome === 'fail'
            ? 'Save the fail'
            : outcome === 'findings'
              ? 'Save the findings'
              : 'Save'}
      </Button>
    </Box>
  );
}
