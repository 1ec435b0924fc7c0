import { useEffect, useRef, useState } from 'react';
import { Problem, type Schema } from '../api/client';
import { takeScans } from '../frame/scanTaker';
import { useNumberOf } from '../frame/useNumberOf';
import { findHireItem, type Move, moveHireItem, useFleetChanged } from './useFleet';

export type Verdict = Schema['VerdictCode'];
export type Work = 'in' | 'out';

/** A line of what this page has done, the last first. */
export interface Done {
  id: string;
  tag: string;
  name: string;
  said: string;
  kind: 'good' | 'bad' | 'refused';
}

export interface Going {
  to: string;
  backBy: string;
}

const mostDone = 30;

/**
 * The pile by scanner: an item, what was seen of it, the next. Scans are taken one after another, however fast they come; while an item
 * waits for its verdict no other is taken up.
 */
export function usePile(client: string, verdicts: readonly Verdict[], work: Work, going: Going) {
  const [card, setCard] = useState<Schema['HireCard'] | null>(null);
  const [wantsWords, setWantsWords] = useState<Verdict | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [done, setDone] = useState<readonly Done[]>([]);
  const changed = useFleetChanged();
  const inHand = useRef<Schema['HireCard'] | null>(null);
  const number = useNumberOf();
  const line = useRef<Promise<unknown>>(Promise.resolve());

  const hold = (it: Schema['HireCard'] | null) => {
    inHand.current = it;
    setCard(it);
    setWantsWords(null);
  };
  const tell = (it: Omit<Done, 'id'>) =>
    setDone((before) => [{ ...it, id: crypto.randomUUID() }, ...before].slice(0, mostDone));

  /** Sent again after a lost answer it is the same move, and happens once. */
  async function send(it: Schema['HireCard'], move: Move) {
    const id = number.of(`${it.item.itemId} ${JSON.stringify(move)}`);
    const moved = await moveHireItem(it.item.itemId, id, move);
    number.done();
    tell({
      tag: it.item.tag,
      name: it.item.name,
      said: moved.warning ? `${moved.said}. ${moved.warning}` : moved.said,
      kind: moved.isOutOfUse || moved.item.callBack ? 'bad' : 'good',
    });
    hold(null);
    void changed();
  }

  async function give(verdict: Verdict, words?: string) {
    const it = inHand.current;
    if (!it) return setTrouble(`“${verdict.text}” of what? Scan the item first.`);
    if (verdict.seen == null && !verdict.onlyCounts) {
      tell({ tag: it.item.tag, name: it.item.name, said: 'put aside, nothing was kept', kind: 'refused' });
      return hold(null);
    }
    if (verdict.onlyCounts) return send(it, { kind: 'returned' });
    if (verdict.wantsWords && !words) return setWantsWords(verdict);
    return send(it, { kind: 'lookedAt', seen: verdict.seen!, words: words ?? null });
  }

  async function take(tag: string) {
    const it = inHand.current;
    if (it && it.item.tag.toLowerCase() === tag.toLowerCase()) return;
    if (it)
      return setTrouble(`Say first how ${it.item.tag} looks. ${tag} was not taken up: scan it again then.`);
    if (work === 'out' && !going.to.trim())
      return setTrouble(`Say first who has it. ${tag} was not issued: scan it again then.`);
    const found = await findHireItem(client, tag);
    if (work === 'in') return hold(found);
    if (found.whyNoIssue) {
      const { item } = found;
      return tell({ tag: item.tag, name: item.name, said: found.whyNoIssue, kind: 'refused' });
    }
    return send(found, { kind: 'issued', to: going.to.trim(), backBy: going.backBy || null });
  }

  const inLine = (next: () => Promise<void> | void) => {
    line.current = line.current
      .then(() => setTrouble(null))
      .then(next)
      .catch((odd: unknown) =>
        setTrouble(
          odd instanceof Problem ? `${odd.message} ${odd.detail}` : 'It was not understood. Scan it again.',
        ),
      );
  };
  const heard = useRef<(scanned: string) => void>(() => {});
  useEffect(() => {
    heard.current = (scanned) => {
      inLine(() => {
        const verdict = verdicts.find(
          (it) =>
            it.code.toLowerCase() === scanned.toLowerCase() ||
            // On a number pad, and only where an item waits for it: elsewhere it may be a tag.
            (inHand.current !== null && it.digit !== null && scanned === String(it.digit)),
        );
        return verdict ? give(verdict) : take(scanned);
      });
    };
  });
  useEffect(() => takeScans((scanned) => heard.current(scanned)), []);

  return {
    card,
    done,
    trouble,
    wantsWords,
    give: (verdict: Verdict, words?: string) => inLine(() => give(verdict, words)),
    putAside: () => hold(null),
  };
}
