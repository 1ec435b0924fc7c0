import { Box, Button } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { ActDialog } from './ActDialog';
import { type ActKind, actWords, usual } from './acts';

/** Why one item is out of use, what was done since, and what may be done next. */
export function HoldOf(props: {
  item: { id: string; tag: string; name: string };
  mayAct: boolean;
  heading?: string;
}) {
  const [kind, setKind] = useState<ActKind | null>(null);
  const hold = useQuery({
    queryKey: ['quarantine', 'of', props.item.id],
    queryFn: async () => {
      const { data } = await api.GET('/api/v1/quarantine/{itemId}', {
        params: { path: { itemId: props.item.id } },
      });
      return data ?? null;
    },
  });
  if (hold.error) return <Notice problem={hold.error} />;
  if (!hold.data) return null;
  const it = hold.data;
  const next = usual[it.stage];
  const may = it.may.filter((one) => one.whyNot === null).map((one) => one.kind);
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
          {may.map((one) => (
            <Button
              key={one}
              size="small"
              variant={one === next ? 'contained' : 'outlined'}
              color={one === next ? 'primary' : 'inherit'}
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

const Acts = ({ acts }: { acts: readonly Schema['ActLine'][] }) => (
  <Box component="ol" sx={{ m: 0, mt: 0.5, pl: 0, listStyle: 'none', fontSize: 14.5, color: c.bark }}>
    {acts.map((it) => (
      <li key={it.at}>
        {showDate(it.at)}, {it.by}: {it.text}
      </li>
    ))}
  </Box>
);
