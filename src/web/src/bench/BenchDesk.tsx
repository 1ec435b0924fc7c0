import { Box, type Theme, useMediaQuery } from '@mui/material';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useMemo, useRef, useState, useSyncExternalStore } from 'react';
import { useNavigate } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { c } from '../design/tokens';
import { takeInHand } from '../frame/inHand';
import { Notice } from '../frame/Notice';
import { useRoundInHand } from '../frame/roundInHand';
import { usePageTitle } from '../frame/usePageTitle';
import { useBenchKeys } from './benchKeys';
import type { BenchRun } from './benchRun';
import { type Asking, type Desk, DeskProvider } from './desk';
import { Question } from './Dialogs';
import { instrument } from './instrument';
import { ItemColumn } from './ItemColumn';
import { CustomerView } from './CustomerView';
import { Display } from './Display';
import { Danger, LiveColumn } from './LiveColumn';
import { RunSheet } from './RunSheet';
import { Saved } from './Saved';
import { cellBeside } from './matrixWalk';
import type { Ruling } from './types';
import { RunProvider } from './useBench';

interface Ending {
  end: Schema['EndKind'];
  notTested: Schema['NotTestedReason'] | null;
  remarks: string | null;
}

/** The bench itself: item and class evidence left, the whole run sheet in the middle, the live side right. It does what state says. */
export function BenchDesk({ run, ruling }: { run: BenchRun; ruling: Ruling }) {
  const navigate = useNavigate();
  const queries = useQueryClient();
  const [chosen, choose] = useState<string | null>(null);
  const [probe, setProbe] = useState<Desk['probe']>(null);
  const [isForCustomer, setIsForCustomer] = useState(false);
  const [asking, setAsking] = useState<Asking | null>(null);
  const [said, say] = useState('');
  const isNarrow = useMediaQuery((theme: Theme) => theme.breakpoints.down('lg'));
  const { round } = ruling;
  const laid = useSyncExternalStore(run.subscribe, () => run.get().laid);
  const { item, kit } = laid;
  usePageTitle(`${item.tag} on the bench`);
  const [, setRound] = useRoundInHand();
  const { standard, supply } = run.get().sheet;
  // The frame shows the rules that this item is judged by, whatever was in hand before.
  useEffect(
    () => setRound({ id: round.id, name: round.name, standard: `${standard} · ${supply}` }),
    [round.id, round.name, standard, supply, setRound],
  );

  const done = () => {
    void queries.invalidateQueries({ queryKey: ['today'] });
    void queries.invalidateQueries({ queryKey: ['register'] });
    void queries.invalidateQueries({ queryKey: ['quarantine'] });
    void queries.invalidateQueries({ queryKey: ['item', item.id] });
  };
  const save = useMutation({
    mutationFn: (it: Ending) => run.save(it.end, it.notTested, it.remarks),
    onSuccess: done,
  });
  const discard = useMutation({
    mutationFn: (reason: string) => run.discard(reason),
    onSuccess: () => {
      done();
      void navigate('/');
    },
  });
  const handOver = useMutation({
    mutationFn: (words: string) => run.handOver(words),
    onSuccess: () => {
      done();
      void navigate('/');
    },
  });
  const park = useCallback(async () => {
    await run.park();
  }, [run]);
  const isSaved = save.data !== undefined;
  const takeTag = useRef<(tag: string) => void>(() => {});
  useEffect(() => {
    takeTag.current = (tag: string) => {
      if (asking && asking.what !== 'name')
        return say(`Something is being asked: the scan of ${tag} was not used.`);
      setAsking({ what: 'name', tag });
    };
  });
  useEffect(
    () =>
      isSaved
        ? undefined
        : takeInHand({
            tag: item.tag,
            text: `${item.name} lies on the bench, half done. The plug of one thing and the case of another give false readings.`,
            leaveText: `Park ${item.tag}; it is unplugged and set aside`,
            hasWork: () => run.hasWork,
            isBusy: () => instrument.isBusy,
            leave: park,
            ...(item.isLoose && { takesTag: (tag: string) => takeTag.current(tag) }),
          }),
    [item.tag, item.name, item.isLoose, run, park, isSaved],
  );
  useEffect(() => {
    instrument.forget();
    return () => void instrument.stop();
  }, []);

  const start = useCallback(
    (step: string, startedBy: 'press' | 'hold', isHeld = false) => {
      const shown = run.get();
      // Nothing starts while a judgement is pending: it may be the one that forbids it.
      if (shown.pending > 0) return say('Still judging what was entered; nothing was started.');
      const point = probe?.step === step ? probe.point : null;
      void instrument.start(
        {
          itemId: run.itemId,
          roundId: run.roundId,
          ruling: shown.ruling,
          step,
          point,
          startedBy,
          eventId: crypto.randomUUID(),
          events: run.events,
          isHeld,
        },
        (kept) => {
          setProbe(null);
          if (kept.kind !== 'discharged') choose(null);
          run.happen(kept).catch(() => {});
        },
      );
    },
    [run, probe],
  );
  const measure = useCallback(
    (step: string, startedBy: 'press' | 'hold', isHeld = false) => {
      const asks = run.get().now.steps.find((it) => it.key === step)?.asksStanding;
      if (!asks) return start(step, startedBy, isHeld);
      // The press said so in its own words; what was said is kept before anything is energised.
      void run.happen({ kind: 'standingSaid', isIsolated: true }).then(
        () => start(step, startedBy, isHeld),
        () => {},
      );
    },
    [run, start],
  );

  const primary = () => {
    if (isSaved) return void navigate('/');
    if (instrument.isBusy || save.isPending) return;
    const { now, sheet, pending } = run.get();
    if (pending > 0) return say('Still judging what was entered.');
    const { ahead } = now;
    const key = chosen ?? ahead.step;
    const step = sheet.steps.find((it) => it.key === key);
    const state = now.steps.find((it) => it.key === key);
    if (!step || !state) {
      // What the key does is Core's to say; here it only finds the place.
      if (ahead.kind === 'settle')
        return document.querySelector<HTMLElement>('#verdict .again, #verdict button')?.focus();
      if (ahead.kind === 'confirmEvaluation')
        return void run.happen({ kind: 'evaluated', evaluation: now.evaluation!.proposal }).catch(() => {});
      if (ahead.kind === 'evaluate') return document.getElementById('evaluate')?.focus();
      if (ahead.kind === 'tryProbe') return document.getElementById('probe-tried')?.focus();
      if (ahead.kind === 'tellRepair') return setAsking({ what: 'repair' });
      if (ahead.kind === 'name') return setAsking({ what: 'name', tag: '' });
      if (ahead.end === 'findings') return setAsking({ what: 'findings' });
      if (ahead.end) return save.mutate({ end: ahead.end, notTested: null, remarks: null });
      return say(ahead.why);
    }
    const atAnotherPoint = probe?.step === step.key && state.takesPoint;
    if (!state.may && !atAnotherPoint) return say(state.whyNot ?? '');
    switch (state.action) {
      case 'allGood': {
        const { points, whyNot } = now.allGood;
        if (whyNot) return say(whyNot);
        const answers = points.map((pointId) => ({ pointId, answer: 'good' as const, words: null }));
        return void run.happen({ kind: 'looked', points: answers }).catch(() => {});
      }
      case 'confirm':
        if (step.asksFor) return document.getElementById('reading')?.focus();
        return void run.happen({ kind: 'confirmed', step: step.key }).catch(() => {});
      case 'placeProbe':
      case 'nameParts':
        // What lies in hand is said by whoever sees it: the key goes to the question, and answers nothing.
        return document.querySelector<HTMLElement>('#asked-first button')?.focus();
      case 'count':
        return void run.happen({ kind: 'discharged', step: step.key, source: 'typed' }).catch(() => {});
      case 'checkOutlet':
        return (document.getElementById('outlet-kept') ?? document.getElementById('reading'))?.focus();
      case 'prove':
      case 'testDead':
        return document.getElementById('reading')?.focus();
      case 'press':
        return measure(step.key, 'press');
      case 'hold':
        return document.getElementById('hold')?.focus();
      case 'type':
        return document.getElementById('reading')?.focus();
      case 'answer':
        return void run
          .happen({ kind: 'read', step: step.key, source: 'typed', ok: true, switchedOn: true })
          .catch(() => {});
    }
  };
  const primaryNow = useRef(primary);
  useEffect(() => {
    primaryNow.current = primary;
  });

  const inHandKey = useSyncExternalStore(run.subscribe, () => chosen ?? run.get().now.current);
  const inHand = () => {
    const { now, sheet } = run.get();
    const key = chosen ?? now.current;
    return {
      step: sheet.steps.find((it) => it.key === key),
      state: now.steps.find((it) => it.key === key),
      now,
    };
  };
  const bad = (words?: string) => {
    const { step, state } = inHand();
    const isAnswer = ['look', 'function'].includes(step?.family ?? '') || state?.action === 'answer';
    if (step && isAnswer && (state?.may || step.family === 'look'))
      setAsking({ what: 'bad', step: step.key, answer: 'bad', ...(words !== undefined && { words }) });
  };
  const move = (by: number) => {
    const { sheet, now } = run.get();
    const below = cellBeside(sheet.matrix ?? null, chosen ?? now.current ?? '', by, 0);
    if (below) return choose(below);
    const at = sheet.steps.findIndex((it) => it.key === (chosen ?? now.current ?? ''));
    const to = Math.max(0, Math.min(sheet.steps.length - 1, (at < 0 ? sheet.steps.length : at) + by));
    choose(sheet.steps[to]!.key);
  };
  const moveAcross = (by: number) => {
    const { sheet, now } = run.get();
    const beside = cellBeside(sheet.matrix ?? null, chosen ?? now.current ?? '', 0, by);
    if (beside) choose(beside);
  };
  useBenchKeys({
    deeds: {
      primary,
      again: () => {
        const { state, now } = inHand();
        const readings = now.readings.filter((it) => !it.void);
        const target = readings.find((it) => it.id === state?.stands) ?? readings.at(-1);
        const failure = now.failures.find((it) => it.target);
        if (failure && !state?.stands)
          setAsking({ what: 'again', target: failure.target!, text: failure.text, point: failure.point });
        else if (target)
          setAsking({ what: 'again', target: target.id, text: `${target.name} ${target.text}` });
      },
      bad: () => bad(),
      notTested: () => !isSaved && setAsking({ what: 'notTested' }),
      keys: () => setAsking({ what: 'keys' }),
      up: () => move(-1),
      down: () => move(1),
      left: () => moveAcross(-1),
      right: () => moveAcross(1),
    },
    proposeBad: (words) => bad(`shown: ${words}`),
    stray: (text, isRefused) =>
      say(
        text === null
          ? ''
          : isRefused
            ? `“${text}” was typed and nothing here understands it. Nothing was recorded. Esc clears it.`
            : `Typed: ${text}`,
      ),
    step: inHandKey,
    enabled: asking === null && !isForCustomer,
    takesNumber: () =>
      !isSaved &&
      (inHand().step?.unit != null || ['dead', 'outlet'].includes(inHand().step?.family ?? '')) &&
      document.getElementById('reading') !== null,
    saysBad: () =>
      !isSaved && inHand().state?.action === 'answer'
        ? new RegExp(run.get().sheet.phrases.saysBad, 'i')
        : null,
  });

  const desk: Desk = useMemo(
    () => ({
      chosen,
      choose: (step) => {
        choose(step);
        setProbe((now) => (now?.step === step ? now : null));
      },
      probe,
      setProbe,
      showCustomer: () => setIsForCustomer(true),
      ask: setAsking,
      primary: () => primaryNow.current(),
      measure,
      save: (end) => save.mutate({ end, notTested: null, remarks: null }),
      isSaving: save.isPending,
      say,
    }),
    [chosen, probe, measure, save],
  );

  if (save.data)
    return (
      <Saved
        saved={save.data}
        reasons={run.get().sheet.phrases.withdraw}
        corrections={run.corrections}
        onNext={() => void navigate('/')}
        onWithdraw={async (reason) => {
          await ask(
            api.POST('/api/v1/bench/inspections/{inspectionId}/withdraw', {
              params: { path: { inspectionId: save.data.id } },
              body: { id: crypto.randomUUID(), reason },
            }),
          );
          done();
          await run.reopen();
          save.reset();
        }}
      />
    );
  const display = { name: kit?.name ?? '', connected: kit?.connected ?? false };
  return (
    <RunProvider value={run}>
      <DeskProvider value={desk}>
        <Box
          sx={{
            flex: 1,
            display: 'grid',
            minWidth: 0,
            gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: '232px minmax(0, 1fr) 300px' },
            gridTemplateRows: { lg: '1fr' },
            gridTemplateAreas: { xs: '"item" "sheet" "live"', lg: '"item sheet live"' },
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
            <ItemColumn ruling={laid} onPark={() => void park().then(() => navigate('/'))} />
          </Box>
          <Box sx={{ gridArea: 'sheet', minWidth: 0 }}>
            <RunSheet
              saveError={save.error}
              onSaveAgain={() => save.variables && save.mutate(save.variables)}
            />
            {discard.error && <Notice problem={discard.error} />}
            {handOver.error && <Notice problem={handOver.error} />}
          </Box>
          <Box
            sx={{
              gridArea: 'live',
              p: 2.25,
              bgcolor: c.surface,
              borderLeft: { lg: `1px solid ${c.line}` },
            }}
          >
            <Box
              sx={{
                position: { lg: 'sticky' },
                top: { lg: 16 },
                display: 'flex',
                flexDirection: 'column',
                gap: 1.75,
              }}
            >
              {!isNarrow && (
                <>
                  <Display kit={display} isCompact={false} />
                  <Danger />
                </>
              )}
              <LiveColumn />
            </Box>
          </Box>
          {isNarrow && (
            <Box
              component="aside"
              aria-label="Instrument"
              // It scrolls where it is long, so keys must reach it.
              tabIndex={0}
              sx={{
                position: 'sticky',
                bottom: 0,
                zIndex: 5,
                bgcolor: c.surface,
                borderTop: `2px solid ${c.bark}`,
                px: 2,
                py: 1.25,
                maxHeight: '45dvh',
                overflowY: 'auto',
              }}
            >
              <Display kit={display} isCompact />
              <Danger />
            </Box>
          )}
        </Box>
        <Box
          role="status"
          aria-live="polite"
          sx={{
            position: 'fixed',
            left: { xs: 16, lg: 250 },
            bottom: { xs: 150, lg: 16 },
            zIndex: 6,
            maxWidth: 420,
            bgcolor: c.ink,
            color: c.paper,
            borderRadius: '6px',
            px: said ? 2 : 0,
            py: said ? 1 : 0,
          }}
        >
          <Fading text={said} onGone={() => say('')} />
        </Box>
        {isForCustomer && <CustomerView onClose={() => setIsForCustomer(false)} />}
        {asking && (
          <Question
            asking={asking}
            onClose={() => setAsking(null)}
            onNotTested={(end, notTested, remarks) => {
              setAsking(null);
              save.mutate({ end, notTested, remarks });
            }}
            onFindings={(words) => {
              setAsking(null);
              save.mutate({ end: 'findings', notTested: null, remarks: words });
            }}
            onNamed={(itemId, isOther) => {
              setAsking(null);
              done();
              if (isOther) void navigate(`/rounds/${round.id}/bench/${itemId}`, { replace: true });
            }}
            onHandOver={(words) => {
              setAsking(null);
              handOver.mutate(words);
            }}
            onDiscard={(reason) => {
              setAsking(null);
              discard.mutate(reason);
            }}
          />
        )}
      </DeskProvider>
    </RunProvider>
  );
}

const shownForMs = 5000;

function Fading({ text, onGone }: { text: string; onGone: () => void }) {
  useEffect(() => {
    if (!text) return;
    const timer = setTimeout(onGone, shownForMs);
    return () => clearTimeout(timer);
  }, [text, onGone]);
  return <>{text}</>;
}
