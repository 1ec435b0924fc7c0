import { Box, Button, Typography } from '@mui/material';
import { useEffect, useState } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { api, ask, Problem } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { ItIsBack } from '../hire/HireOf';
import { moveHireItem } from '../hire/useFleet';
import { useMe } from '../people/SignedIn';
import { BenchDesk } from './BenchDesk';
import { BenchRun, freshRuling } from './benchRun';
import {
  type Draft,
  inTheWay,
  keyOf,
  newDraft,
  readDraft,
  removeDraft,
  storeDraft,
  unreadableDrafts,
} from './drafts';
import { nameSheet } from './naming';
import { lockTab, type TabLock } from './tabLock';
import { happened, type Ruling } from './types';

type Laid =
  | { is: 'waiting' }
  | { is: 'blocked'; by: Draft }
  | { is: 'elsewhere' }
  | { is: 'lost' }
  | { is: 'failed'; problem: Error; kept: Draft | null }
  | { is: 'open'; run: BenchRun; ruling: Ruling };

/** One item, start to finish. Opening another while one is half done is refused until that one is saved, parked or discarded. */
export function Bench() {
  const { roundId = '', itemId = '' } = useParams();
  // Scanned again after it was saved, it is laid down anew, though the address is the same.
  const { key } = useLocation();
  return <OneItem key={key} roundId={roundId} itemId={itemId} />;
}

function OneItem({ roundId, itemId }: { roundId: string; itemId: string }) {
  const me = useMe();
  const navigate = useNavigate();
  const [laid, setLaid] = useState<Laid>({ is: 'waiting' });
  const [attempt, setAttempt] = useState({ number: 0, takeOver: false });
  const again = (takeOver = false) => {
    setLaid({ is: 'waiting' });
    setAttempt((it) => ({ number: it.number + 1, takeOver }));
  };
  useEffect(() => {
    let isGone = false;
    let lock: TabLock | null = null;
    let run: BenchRun | null = null;
    const show = (it: Laid) => !isGone && setLaid(it);
    const open = async () => {
      const blocker = await inTheWay(me.id, itemId);
      if (blocker) return show({ is: 'blocked', by: blocker });
      lock = await lockTab(keyOf(me.id, roundId, itemId), attempt.takeOver, () => {
        run?.lose();
        show({ is: 'lost' });
      });
      if (isGone) return lock?.release();
      if (!lock) return show({ is: 'elsewhere' });
      let kept = await readDraft(me.id, roundId, itemId);
      const lost = (await unreadableDrafts(me.id, itemId)).length > 0;
      const { fresh, problem } = await rule(itemId, roundId);
      // It got its tag and the answer was lost on the way.
      const wasNamed = fresh ? !fresh.item.isLoose : problem && !problem.isAway;
      if (kept?.naming && kept.ruling.item.isLoose && wasNamed)
        try {
          kept = await nameSheet(kept, kept.naming, (named) => freshRuling(named, roundId));
          if (kept.itemId !== itemId)
            return void navigate(`/rounds/${roundId}/bench/${kept.itemId}`, { replace: true });
        } catch (failure) {
          return show({ is: 'failed', problem: failure as Error, kept });
        }
      // Without the server the draft's own ruling stands; without a draft there is nothing to stand on.
      if (problem && (!kept || !problem.isAway)) return show({ is: 'failed', problem, kept });
      const draft = kept ?? newDraft(me.id, fresh!);
      try {
        run = await BenchRun.open({ ...draft, parked: false }, fresh, lost);
        // Left while it was on its way: it is nobody's, and the next item has the bench.
        if (isGone) return run.close();
        if (kept?.parked) void run.happen({ kind: 'resumed' }).catch(() => {});
        show({ is: 'open', run, ruling: fresh ?? draft.ruling });
        if (fresh && !kept && fresh.basis.place === 'hire') tellFleet(itemId);
      } catch (failure) {
        show({ is: 'failed', problem: failure as Error, kept });
      }
    };
    void open();
    return () => {
      isGone = true;
      run?.close();
      lock?.release();
    };
  }, [me.id, roundId, itemId, attempt, navigate]);

  switch (laid.is) {
    case 'waiting':
      return <Waiting what="Laying the item on the bench" />;
    case 'blocked':
      return <OneAtATime draft={laid.by} onFree={() => again()} />;
    case 'elsewhere':
      return (
        <Told
          title="This sheet is open in another tab"
          text="One sheet belongs to one tab, so that nothing is written twice."
          action="Take it over here"
          onAction={() => again(true)}
        />
      );
    case 'lost':
      return (
        <Told
          title="Another tab took this sheet over"
          text="It is worked on there. Nothing was lost."
          action="Take it back here"
          onAction={() => again(true)}
        />
      );
    case 'failed':
      return <NotLaid itemId={itemId} problem={laid.problem} kept={laid.kept} onAgain={() => again()} />;
    case 'open':
      return <BenchDesk run={laid.run} ruling={laid.ruling} />;
  }
}

/** Nobody issues what lies on a bench. Where the word does not get through, only a passed test makes it ready all the same. */
function tellFleet(itemId: string) {
  void moveHireItem(itemId, crypto.randomUUID(), { kind: 'laid' }).catch(() => {});
}

async function rule(
  itemId: string,
  roundId: string,
): Promise<{ fresh: Ruling | null; problem: Problem | null }> {
  try {
    return { fresh: await freshRuling(itemId, roundId), problem: null };
  } catch (failure) {
    if (failure instanceof Problem) return { fresh: null, problem: failure };
    throw failure;
  }
}

function OneAtATime({ draft, onFree }: { draft: Draft; onFree: () => void }) {
  const navigate = useNavigate();
  const park = async () => {
    await storeDraft({ ...draft, parked: true, events: [...draft.events, happened({ kind: 'parked' })] });
    onFree();
  };
  return (
    <Box sx={{ p: { xs: 3, md: 6 }, maxWidth: 680 }} role="alert">
      <Typography variant="h1">{draft.tag} is still on the bench</Typography>
      <Typography sx={{ mt: 1.5, color: c.bark, fontSize: '1.1rem' }}>
        {draft.name} is half done. The plug of one thing and the case of another give false readings, so one
        item lies on the bench at a time.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, mt: 3, flexWrap: 'wrap' }}>
        <Button
          variant="contained"
          onClick={() => void navigate(`/rounds/${draft.roundId}/bench/${draft.itemId}`)}
          autoFocus
        >
          Back to {draft.tag}
        </Button>
        <Button variant="outlined" onClick={() => void park()}>
          Park it; it is unplugged and set aside
        </Button>
      </Box>
    </Box>
  );
}

/** Why the item is not laid down, and what becomes of a draft of it that this device keeps. */
function NotLaid(props: { itemId: string; problem: Error; kept: Draft | null; onAgain: () => void }) {
  const { itemId, problem, kept, onAgain } = props;
  const navigate = useNavigate();
  const isOut = problem instanceof Problem && problem.faults.some((it) => it.path === 'hire');
  const [isLeaving, setIsLeaving] = useState(false);
  const [refused, setRefused] = useState<Error | null>(null);
  /** Handed to the server whole before it leaves this device: discarding hides nothing. */
  const leave = async () => {
    const draft = kept!;
    try {
      await ask(
        api.POST('/api/v1/bench/{itemId}/discard', {
          params: { path: { itemId: draft.itemId } },
          body: {
            id: draft.saveId,
            roundId: draft.roundId,
            events: draft.events,
            reason: `left over: ${problem.message}`,
          },
        }),
      );
      await removeDraft(draft.key);
      void navigate('/');
    } catch (failure) {
      setRefused(failure as Error);
    }
  };
  return (
    <Box sx={{ p: 3, display: 'grid', gap: 2, maxWidth: 760 }}>
      <Notice problem={problem} onAgain={onAgain} />
      {isOut && <ItIsBack itemId={itemId} onBack={onAgain} />}
      {kept && kept.events.length > 0 && (
        <Box>
          <Box sx={{ mb: 1 }}>
            A half-done sheet of {kept.tag} with {kept.events.length} entries is kept on this device.
          </Box>
          <DownloadDraft draft={kept} />{' '}
          {isLeaving ? (
            <Button variant="outlined" color="error" onClick={() => void leave()}>
              Hand it to the lead and remove it here
            </Button>
          ) : (
            <Button color="inherit" onClick={() => setIsLeaving(true)}>
              Discard it
            </Button>
          )}
          {refused && <Notice problem={refused} />}
        </Box>
      )}
      <Box>
        <Button color="inherit" onClick={() => void navigate('/')}>
          To Today
        </Button>
      </Box>
    </Box>
  );
}

function DownloadDraft({ draft }: { draft: Draft }) {
  const href = `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(draft))}`;
  return (
    <Button component="a" variant="outlined" href={href} download={`sheet-${draft.tag}.json`}>
      Keep it as a file
    </Button>
  );
}

function Told(props: { title: string; text: string; action: string; onAction: () => void }) {
  const navigate = useNavigate();
  return (
    <Box sx={{ p: { xs: 3, md: 6 }, maxWidth: 680 }} role="alert">
      <Typography variant="h1">{props.title}</Typography>
      <Typography sx={{ mt: 1.5, color: c.bark, fontSize: '1.1rem' }}>{props.text}</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, mt: 3, flexWrap: 'wrap' }}>
        <Button variant="contained" onClick={props.onAction}>
          {props.action}
        </Button>
        <Button variant="outlined" color="inherit" onClick={() => void navigate('/')}>
          To Today
        </Button>
      </Box>
    </Box>
  );
}
