import { Box, Button } from '@mui/material';
import { useEffect, useState } from 'react';
import { Link } from 'react-router';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { Notice } from '../frame/Notice';
import { rollHere, usePrint } from '../papers/useLabels';
import { Ring, ringWord } from '../design/Ring';
import { c } from '../design/tokens';
import { HoldOf } from '../quarantine/HoldOf';
import { CorrectedAlike, type Correction } from './CorrectedAlike';
import { WordsDialog } from './WordsDialog';
import { Next } from './LiveColumn';
import { Key } from './RunSheet';

/** Saved: the verdict, the next date with its reasons, the label at true size, and on to the next scan. */
export function Saved({
  saved,
  reasons,
  corrections,
  onNext,
  onWithdraw,
}: {
  saved: Schema['SavedInspection'];
  /** Offered for taking it back. */
  reasons: readonly string[];
  /** Made on this sheet. */
  corrections: readonly Correction[];
  onNext: () => void;
  onWithdraw: (reason: string) => Promise<void>;
}) {
  const [school, setSchool] = useState<Schema['LabelSchool']>(saved.labelSchool);
  const picture = `/api/v1/papers/labels/${saved.id}?format=png&school=${school}`;
  const word = ringWord(saved.outcome);
  // One press: pressed again at once, the paper may have jammed, and it counts as the same label.
  const [press] = useState(() => crypto.randomUUID());
  const print = usePrint();
  return (
    <Box sx={{ display: 'grid', gridTemplateColumns: { xs: '1fr', md: '1fr 420px' }, flex: 1 }}>
      <Box sx={{ p: { xs: 3, md: 5 } }}>
        <Box role="status" sx={{ display: 'flex', alignItems: 'center', gap: 3 }}>
          <Ring state={saved.outcome} size={112} />
          <Box>
            <Box sx={{ color: c.muted }}>
              {saved.tag} · {saved.name}
            </Box>
            <Box component="h1" sx={{ m: 0, fontSize: '2.6rem', lineHeight: 1.1 }}>
              Saved: {word}
            </Box>
            <Box sx={{ fontSize: '1.2rem', mt: 0.5 }}>
              {saved.next ? (
                saved.next.due && saved.isTest ? (
                  <>
                    Next by <strong>{showDate(saved.next.due)}</strong>
                  </>
                ) : (
                  <>
                    {saved.outcome === 'notTested' ? 'Looked at, not tested' : 'A formal visual'}: next look
                    by <strong>{showDate(saved.next.visualDue)}</strong>; the date of the test stays
                  </>
                )
              ) : saved.outcome === 'fail' ? (
                'Quarantined. After repair it starts again from the look.'
              ) : saved.outcome === 'findings' ? (
                'No pass and no fail: it stays as due as it was.'
              ) : saved.outcome === 'notTested' ? (
                'It stays due and stands on the client’s paper.'
              ) : (
                ''
              )}
            </Box>
          </Box>
        </Box>
        <Box sx={{ mt: 3, maxWidth: 620, display: 'grid', gap: 2 }}>
          {saved.next && <Next next={saved.next} />}
          <CorrectedAlike itemId={saved.itemId} tag={saved.tag} corrections={corrections} />
          {saved.outcome !== 'notTested' &&
            [
              ...(saved.outcome === 'fail' || saved.outcome === 'findings' ? saved.reasons : []),
              ...saved.advice,
            ].map((line) => (
              <Box
                key={line}
                sx={{ borderLeft: `4px solid ${saved.outcome === 'fail' ? c.fail : c.advice}`, pl: 1.5 }}
              >
                {line}
              </Box>
            ))}
        </Box>
        {saved.outcome === 'fail' && (
          <Box sx={{ mt: 3, maxWidth: 620 }}>
            <HoldOf
              item={{ id: saved.itemId, tag: saved.tag, name: saved.name }}
              mayAct
              heading="Out of use now: red tag on, and nobody can plug it in?"
            />
          </Box>
        )}
        <Box sx={{ display: 'flex', gap: 1.5, mt: 4, alignItems: 'center', flexWrap: 'wrap' }}>
          <Button variant="contained" onClick={onNext}>
            Next item
          </Button>
          <Button component={Link} to={`/register/${saved.itemId}`} variant="outlined" color="inherit">
            Its whole story
          </Button>
          <Button component={Link} to={`/papers/inspections/${saved.id}`} variant="outlined" color="inherit">
            Paper
          </Button>
          <Box sx={{ color: c.muted }}>
            <Key name="Enter" does="on to the next; a scan opens it at once" />
          </Box>
        </Box>
        {saved.withdrawUntil && (
          <TakeBack until={saved.withdrawUntil} reasons={reasons} onWithdraw={onWithdraw} />
        )}
      </Box>
      {saved.hasLabel && (
        <Box
          component="aside"
          aria-label="Label"
          sx={{ bgcolor: c.surface, borderLeft: `1px solid ${c.line}`, p: { xs: 3, md: 5 } }}
        >
          <Box component="h2" sx={{ m: 0, fontSize: '1.15rem' }}>
            Label, 50 × 25 mm
          </Box>
          <Box
            component="img"
            src={picture}
            alt={`Label of ${saved.tag}: ${word}`}
            sx={{
              width: '100%',
              mt: 2,
              border: `1px solid ${c.line}`,
              borderRadius: '4px',
              display: 'block',
            }}
          />
          {saved.labelLacks && (
            <Box role="note" sx={{ mt: 1.5, borderLeft: `4px solid ${c.advice}`, pl: 1.5 }}>
              {saved.labelLacks}
            </Box>
          )}
          <Box sx={{ display: 'flex', gap: 1, mt: 2, flexWrap: 'wrap' }}>
            <Button
              variant="outlined"
              disabled={print.isPending}
              onClick={() =>
                print.mutate({
                  id: press,
                  inspections: [saved.id],
                  medium: rollHere(),
                  used: 0,
                  reason: null,
                  school,
                })
              }
            >
              {print.isSuccess ? 'Print it again' : 'Print'}
            </Button>
            <Button
              component="a"
              href={picture}
              download={`label-${saved.tag}.png`}
              variant="outlined"
              color="inherit"
            >
              PNG
            </Button>
          </Box>
          {print.error && <Notice problem={print.error} />}
          <Box
            sx={{ mt: 2, display: 'flex', gap: 1, flexWrap: 'wrap' }}
            role="group"
            aria-label="What the label says"
          >
            {(['withoutNextDate', 'withNextDate'] as const).map((it) => (
              <Button
                key={it}
                size="small"
                color="inherit"
                variant={school === it ? 'outlined' : 'text'}
                aria-pressed={school === it}
                onClick={() => setSchool(it)}
              >
                {it === 'withNextDate' ? 'With next date' : 'Without next date'}
              </Button>
            ))}
          </Box>
          <Box sx={{ color: c.muted, fontSize: 14, mt: 1 }}>
            No law asks for a label. Without a next date the register knows it, and no item carries an expired
            date.
          </Box>
        </Box>
      )}
    </Box>
  );
}

/** A fail that was saved too soon is taken back within its minute, by a correcting record. */
function TakeBack({
  until,
  reasons,
  onWithdraw,
}: {
  until: string;
  reasons: readonly string[];
  onWithdraw: (reason: string) => Promise<void>;
}) {
  const [left, setLeft] = useState(() => secondsTo(until));
  const [asking, setAsking] = useState(false);
  useEffect(() => {
    const timer = setInterval(() => setLeft(secondsTo(until)), 1000);
    return () => clearInterval(timer);
  }, [until]);
  if (left <= 0) return null;
  return (
    <Box
      sx={{
        mt: 3,
        borderTop: `1px solid ${c.line}`,
        pt: 2,
        display: 'flex',
        gap: 1.5,
        alignItems: 'center',
        flexWrap: 'wrap',
      }}
    >
      <Button variant="outlined" color="inherit" onClick={() => setAsking(true)}>
        Take the fail back
      </Button>
      <Box sx={{ color: c.muted }}>
        for another {left} s; both records stay, and the item stands as it stood before
      </Box>
      {asking && (
        <WordsDialog
          title="Why is the fail taken back?"
          offered={reasons}
          label="In words"
          take="Take it back"
          onTake={(reason) => {
            setAsking(false);
            void onWithdraw(reason);
          }}
          onClose={() => setAsking(false)}
        />
      )}
    </Box>
  );
}

const secondsTo = (iso: string) => Math.max(0, Math.round((Date.parse(iso) - Date.now()) / 1000));
