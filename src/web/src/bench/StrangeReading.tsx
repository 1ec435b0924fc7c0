import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { WordsDialog } from './WordsDialog';
import { useRun, useShown } from './useBench';

/** A strange reading's likely causes, cheapest first, the next move, and what was tried. It guides and never blocks. */
export function StrangeReading({ telling }: { telling: Schema['TellingCard'] }) {
  const run = useRun();
  const tried = useShown(({ now }) => now.tried.filter((it) => it.sign === telling.id));
  const [isAsking, setIsAsking] = useState(false);
  const keep = (words: string) =>
    void run.happen({ kind: 'causeTried', signature: telling.id, words }).catch(() => {});
  return (
    <Box
      component="section"
      aria-label="What the reading is telling"
      sx={{ bgcolor: c.paper, borderRadius: '6px', p: 1.5, fontSize: 14.5 }}
    >
      <Box sx={{ fontWeight: 700 }}>{telling.seen}</Box>
      <Box component="ol" sx={{ m: 0, mt: 0.5, p: 0, listStyle: 'none' }}>
        {telling.causes.map((cause, n) => (
          <Cause
            key={cause}
            number={n + 1}
            text={cause}
            isTried={tried.some((it) => it.words === cause)}
            onTried={() => keep(cause)}
          />
        ))}
      </Box>
      {tried
        .filter((it) => !telling.causes.includes(it.words))
        .map((it) => (
          <Box key={it.at} sx={{ color: c.bark }}>
            tried: {it.words}
          </Box>
        ))}
      <Box sx={{ mt: 0.75 }}>
        <Box component="span" sx={{ color: c.reed, fontWeight: 700 }}>
          Next
        </Box>{' '}
        {telling.next}
      </Box>
      <Button size="small" color="inherit" sx={{ ml: -1, mt: 0.25 }} onClick={() => setIsAsking(true)}>
        Something else was tried
      </Button>
      {isAsking && (
        <WordsDialog
          title={`${telling.seen}: what was tried?`}
          offered={[]}
          label="In a few words, and what came of it"
          take="Keep it"
          onTake={(words) => {
            setIsAsking(false);
            keep(words);
          }}
          onClose={() => setIsAsking(false)}
        />
      )}
    </Box>
  );
}

/** One cause; pressed, it was looked at, and stands so in the record. */
function Cause(props: { number: number; text: string; isTried: boolean; onTried: () => void }) {
  return (
    <li>
      <Box
        component="button"
        type="button"
        aria-pressed={props.isTried}
        title={props.isTried ? 'Looked at' : 'Press when you have looked at it'}
        disabled={props.isTried}
        onClick={props.onTried}
        sx={{
          display: 'flex',
          gap: 1,
          width: '100%',
          minHeight: 34,
          alignItems: 'center',
          textAlign: 'left',
          font: 'inherit',
          color: props.isTried ? c.muted : c.ink,
          bgcolor: 'transparent',
          border: 0,
          borderBottom: `1px solid ${c.line}`,
          px: 0,
          cursor: props.isTried ? 'default' : 'pointer',
          '@media (pointer: coarse)': { minHeight: 44 },
        }}
      >
        <Box component="span" sx={{ width: 18, color: c.muted, fontVariantNumeric: 'tabular-nums' }}>
          {props.isTried ? '✓' : props.number}
        </Box>
        <Box component="span" sx={{ flex: 1 }}>
          {props.text}
        </Box>
        {props.isTried && <span>looked at</span>}
      </Box>
    </li>
  );
}
