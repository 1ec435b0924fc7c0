import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, ask, type Schema } from '../api/client';
import { hasWork, useDraft, workOf } from './draft';
import { useInstrument } from './instrument';
import { stepStates, type Taken } from './states';

const answeredByHand = (step: Schema['StepCard']) => step.unit === null && !step.measurable;

/** Everything the Bench does with one item: what was read, what it means, which step is next, and what Enter does now. */
export function useBenchRun(sheet: Schema['BenchSheet']) {
  const { draft, change, resumed } = useDraft(sheet);
  const [chosen, setChosen] = useState<string | null>(null);
  // Kept here and not in the field: quick fingers type the next reading while this one is still being judged.
  const [typed, setTyped] = useState('');
  // Where the probe sits for the next reading of a step that has several points.
  const [probe, setProbe] = useState<{ stepKey: string; name: string } | null>(null);
  const work = workOf(draft);
  const judgement = useQuery({
    queryKey: ['judge', draft.itemId, work],
    queryFn: () =>
      ask(
        api.POST('/api/v1/bench/{itemId}/judge', { params: { path: { itemId: draft.itemId } }, body: work }),
      ),
    placeholderData: (previous) => previous,
    enabled: hasWork(draft),
    staleTime: Infinity,
  });
  const judged = judgement.data;
  const addEntry = (made: Schema['Entry']) => {
    const entry = probe?.stepKey === made.stepKey ? { ...made, point: probe.name } : made;
    change((before) => ({
      ...before,
      // An undecided reading was no reading: a new one takes its place, and the record says so.
      entries: [
        ...before.entries.map((it) =>
          it.stepKey === entry.stepKey && it.point === entry.point && isUndecided(it)
            ? { ...it, void: 'undecided, measured again' }
            : it,
        ),
        entry,
      ],
    }));
    setChosen(null);
    setProbe(null);
  };
  const isUndecided = (entry: Schema['Entry']) =>
    judged?.entries[draft.entries.indexOf(entry)]?.status === 'undecided' && !entry.void;
  const instrument = useInstrument(sheet, addEntry);
  const steps = stepStates(sheet, draft, judged);
  const next = steps.find((it) => !it.isDone && !it.stopped);
  const current = steps.find((it) => it.step.key === (instrument.running ?? chosen)) ?? next;

  /** Judges a typed reading before it is kept. Without an answer it is kept all the same and judged later. */
  const type = async (step: Schema['StepCard'], text: string): Promise<string | null> => {
    const entry: Schema['Entry'] = {
      stepKey: step.key,
      source: 'typed',
      at: new Date().toISOString(),
      text,
      switchedOn: true,
    };
    try {
      const answer = await ask(
        api.POST('/api/v1/bench/{itemId}/judge', {
          params: { path: { itemId: draft.itemId } },
          body: { ...work, entries: [entry] },
        }),
      );
      if (answer.entries[0]?.fault) return answer.entries[0].fault.message;
    } catch {
      // Kept below; the screen says that it is not judged yet.
    }
    addEntry(entry);
    return null;
  };
  const answer = (step: Schema['StepCard'], ok: boolean, note?: string) =>
    addEntry({
      stepKey: step.key,
      source: 'typed',
      at: new Date().toISOString(),
      ok,
      switchedOn: true,
      ...(note ? { note } : {}),
    });
  const setLook = (entries: Schema['LookEntry'][]) =>
    change((before) => ({
      ...before,
      look: [...before.look.filter((it) => !entries.some((now) => now.pointId === it.pointId)), ...entries],
    }));
  const restGood = () =>
    setLook(
      sheet.look
        .filter((point) => !draft.look.some((it) => it.pointId === point.id))
        .map((point) => ({ pointId: point.id, answer: 'good' as const, words: null })),
    );
  /** Takes a reading out of the judgement; it stays on the record with its reason. */
  const voidReading = (taken: Taken, reason: string) =>
    change((before) => ({
      ...before,
      entries: before.entries.map((it) => (it === taken.entry ? { ...it, void: reason } : it)),
    }));

  /** The next reading of this step is taken at another point. */
  const another = (step: Schema['StepCard'], name: string) => {
    setChosen(step.key);
    setProbe({ stepKey: step.key, name });
  };
  /** The same reading, judged by another standard as well; it counts for itself. */
  const borrow = (taken: Taken, standard: string) =>
    change((before) => ({ ...before, entries: [...before.entries, { ...taken.entry, standard }] }));
  /** A lead decides in place of the comparison. */
  const override = (taken: Taken, status: 'pass' | 'fail', reason: string) =>
    change((before) => ({
      ...before,
      entries: before.entries.map((it) =>
        it === taken.entry ? { ...it, override: { status, reason } } : it,
      ),
    }));

  return {
    draft,
    change,
    resumed,
    judged,
    judgement,
    instrument,
    steps,
    current,
    next,
    answeredByHand,
    choose: setChosen,
    typed,
    setTyped,
    type,
    answer,
    setLook,
    restGood,
    voidReading,
    point: probe,
    another,
    borrow,
    override,
    isComplete:
      judged !== undefined &&
      !judgement.isPlaceholderData &&
      judged.outcome !== null &&
      // Fault-finding is any part, in any order.
      (!next || sheet.scope === 'faultFinding'),
  };
}

export type BenchRun = ReturnType<typeof useBenchRun>;
