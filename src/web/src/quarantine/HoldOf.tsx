import { Box, Button } from '@mui/material';
import { useState } from 'react';
import type { Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { ActDialog } from './ActDialog';
import { type ActKind, actWords } from './acts';
import { useHold } from './useHold';

/** Why one item is out of use, what was done since, and what may be done next. */
export function HoldOf(props: {
  item: { id: string; tag: string; name: string };
  mayAct: boolean;
  heading?: string;
}) {
  const [kind, setKind] = useState<ActKind | null>(null);
  const hold = useHold(props.item.id);
  if (hold.error) return <Notice problem={hold.error} />;
  if (!hold.data) return null;
  const it = hold.data;
  return (
    <Box
      component="section"
      aria-label="Out of use"
      sx={{ borderLeft: `6px solid ${it.stage === 'notSafe' ? c.fail : c.advice}`, pl: 1.75, py: 0.5 }}
    >
      <Box sx={{ fontWeight: 700, color: it.stage === 'notSafe' ? c.fail : c.ink }}>
        {props.heading ?? it.stageText}
      </Box>
      <Box sx={{ fontSize: 15, overflowWrap: 'anywhere' }}>
        {it.by} {showDate(it.since)} by {it.from}: {it.why}
      </Box>
      <Acts acts={it.acts} />
      <Box sx={{ mt: 1, display: 'flex', gap: 1 }}>
        <Button
          size="small"
          variant="outlined"
          color="inherit"
          component="a"
          target="_blank"
          href={`/api/v1/papers/quarantine/${props.item.id}?format=pdf`}
        >
          Notice, PDF
        </Button>
      </Box>
      {props.mayAct && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1 }}>
          {it.may.map((one) => (
            <Button
              key={one}
              size="small"
              variant={one === it.usual ? 'contained' : 'outlined'}
              color={one === it.usual ? 'primary' : 'inherit'}
              onClick={() => setKind(one)}
            >
              {actWords[one].press}
            </Button>
          ))}
        </Box>
      )}
      {kind && <ActDialog item={props.item} hold={it} kind={kind} onClose={() => setKind(null)} />}
    </Box>
  );
}

export const Acts = ({ acts }: { acts: readonly Schema['ActLine'][] }) => (
  <Box component="ol" sx={{ m: 0, mt: 0.5, pl: 0, listStyle: 'none', fontSize: 14.5, color: c.bark }}>
    {acts.map((it) => (
      <li key={it.id}>
        {showDate(it.at)}, {it.by}: {it.text}
      </li>
    ))}
  </Box>
);
