import { Box } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { useRoundInHand } from '../frame/roundInHand';
import { AgainDialog, BadDialog, KeysDialog, NotTestedDialog } from './BenchDialogs';
import { useBenchKeys } from './benchKeys';
import { clear, park, workOf } from './draft';
import { ItemColumn } from './ItemColumn';
import { LiveColumn } from './LiveColumn';
import { RunSheet, type Saving } from './RunSheet';
import { useBenchRun } from './run';
import { Saved } from './Saved';

type Ask = 'again' | 'bad' | 'notTested' | 'keys' | null;

/** The bench itself: item and class evidence left, the whole run sheet in the middle, the live side right. */
export function BenchDesk({
  sheet,
  onScope,
  onSchool,
  onRefresh,
}: {
  sheet: Schema['BenchSheet'];
  onScope: (scope: Schema['Scope']) => void;
  onSchool: (school: Schema['School']) => void;
  onRefresh: () => void;
}) {
  const run = useBenchRun(sheet);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [asking, setAsking] = useState<Ask>(null);
  const [evaluation, setEvaluation] = useState<Schema['Evaluation'] | null>(null);
  const save = useMutation({
    mutationFn: (it: Saving) =>
      ask(
        api.POST('/api/v1/bench/{itemId}/inspections', {
          params: { path: { itemId: sheet.item.id } },
          body: {
            id: run.draft.saveId,
            work: workOf(run.draft),
            revision: run.draft.revision,
            notTested: it.notTested,
            remarks: it.remarks,
            evaluation: it.notTested ? null : (evaluation ?? run.judged?.evaluation?.proposal ?? null),
          },
        }),
      ),
    onSuccess: () => {
      clear(sheet.item.id);
      void queries.invalidateQueries({ queryKey: ['today'] });
      void queries.invalidateQueries({ queryKey: ['register'] });
      void queries.invalidateQueries({ queryKey: ['item', sheet.item.id] });
    },
  });
  const { current } = run;
  const [, setRound] = useRoundInHand();
  // The frame shows the rules that this item is judged by, whatever was in hand before.
  const { id, name, standardShort } = sheet.round;
  useEffect(() => setRound({ id, name, standard: standardShort }), [id, name, standardShort, setRound]);

  /** What Enter does now; the button beside the current step does the same. */
  const primary = () => {
    if (save.data) return void navigate('/');
    if (run.instrument.running || save.isPending) return;
    if (!current) {
      if (run.isComplete) save.mutate({ notTested: null, remarks: null });
    } else if (current.step.test === 'visual') run.restGood();
    else if (current.step.measurable) {
      if (current.step.hazardKind === 'mainsOnPatient') document.getElementById('hold')?.focus();
      else void run.instrument.measure(current.step.key);
    } else if (current.step.unit) document.getElementById('reading')?.focus();
    else run.answer(current.step, true);
  };
  const againAsked = () =>
    (current?.standing ?? [...run.steps].reverse().find((it) => it.standing)?.standing) !== undefined;
  useBenchKeys({
    primary,
    again: () => againAsked() && setAsking('again'),
    bad: () =>
      (current?.step.test === 'visual' || (current && run.answeredByHand(current.step))) && setAsking('bad'),
    notTested: () => !save.data && setAsking('notTested'),
    keys: () => setAsking('keys'),
    stop: () => run.instrument.stop(),
    move: (by) => {
      const at = run.steps.findIndex((it) => it.step.key === (current?.step.key ?? ''));
      const to =
        run.steps[Math.max(0, Math.min(run.steps.length - 1, (at < 0 ? run.steps.length : at) + by))];
      if (to) run.choose(to.step.key);
    },
    enabled: asking === null,
    takesNumber:
      !save.data &&
      current?.step.unit !== null &&
      current?.step.unit !== undefined &&
      !run.instrument.running,
  });

  if (save.data) return <Saved saved={save.data} judged={run.judged} onNext={() => void navigate('/')} />;
  const close = () => {
    setAsking(null);
    document.dispatchEvent(new Event('osierwand:settle'));
  };
  return (
    <Box
      sx={{
        flex: 1,
        display: 'grid',
        minWidth: 0,
        gridTemplateColumns: {
          xs: 'minmax(0, 1fr)',
          sm: 'minmax(0, 1fr) 262px',
          lg: '232px minmax(0, 1fr) 300px',
        },
        gridTemplateRows: { sm: 'auto 1fr', lg: '1fr' },
        gridTemplateAreas: {
          xs: '"item" "live" "sheet"',
          sm: '"item item" "sheet live"',
          lg: '"item sheet live"',
        },
      }}
    >
      <Box
        sx={{
          gridArea: 'item',
          p: 2.25,
          borderRight: { lg: `1px solid ${c.line}` },
          borderBottom: { xs: `1px solid ${c.line}`, lg: 0 },
        }}
      >
        <ItemColumn
          sheet={sheet}
          onScope={run.draft.entries.length === 0 && run.draft.look.length === 0 ? onScope : undefined}
          onSchool={onSchool}
          onRefresh={onRefresh}
          onPark={() => {
            park(run.draft);
            void navigate('/');
          }}
          onNotTested={() => setAsking('notTested')}
        />
      </Box>
      <Box sx={{ gridArea: 'sheet', minWidth: 0 }}>
        <RunSheet
          sheet={sheet}
          run={run}
          save={save}
          evaluation={evaluation}
          onEvaluation={setEvaluation}
          onPrimary={primary}
          onBad={() => setAsking('bad')}
          onAgain={() => setAsking('again')}
        />
      </Box>
      <Box
        sx={{
          gridArea: 'live',
          p: 2.25,
          bgcolor: c.surface,
          borderLeft: { sm: `1px solid ${c.line}` },
          borderBottom: { xs: `1px solid ${c.line}`, sm: 0 },
        }}
      >
        <LiveColumn
          sheet={sheet}
          run={run}
          onMeasure={() => current && void run.instrument.measure(current.step.key)}
        />
      </Box>
      {asking === 'keys' && <KeysDialog onClose={close} />}
      {asking === 'again' && <AgainDialog run={run} onClose={close} />}
      {asking === 'bad' && <BadDialog sheet={sheet} run={run} onClose={close} />}
      {asking === 'notTested' && (
        <NotTestedDialog
          onClose={close}
          onSave={(reason, remarks) => {
            close();
            save.mutate({ notTested: reason, remarks });
          }}
        />
      )}
    </Box>
  );
}
