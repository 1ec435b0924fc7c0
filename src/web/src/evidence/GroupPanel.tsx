import { Box, Typography } from '@mui/material';
import type { Schema } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { Curve } from './Curve';
import { Decide, Decisions } from './Decide';
import { type Group, useGroup } from './useEvidence';

/** One group: the curve against what is accepted, how the suggestion follows, where the failures come from, and the decision. */
export function GroupPanel({ of }: { of: Pick<Group, 'kind' | 'place'> }) {
  const detail = useGroup(of.kind, of.place);
  if (detail.error && !detail.data)
    return <Notice problem={detail.error} onAgain={() => void detail.refetch()} />;
  if (!detail.data) return <Waiting what="Counting" />;
  const it = detail.data;
  return (
    <Box>
      <Typography variant="h2" component="h2" sx={{ fontSize: '1.25rem' }}>
        {it.group.name}
      </Typography>
      <Box sx={{ color: c.bark, fontSize: 14.5, mb: 1 }}>
        {it.group.items} in service, {it.group.atIt} of them at {it.group.interval}
        {it.group.step !== 0 &&
          ` · decided until now: ${it.group.step > 0 ? '+' : '−'}${Math.abs(it.group.step)}`}
      </Box>
      <Curve it={it} />
      <Box component="ul" sx={{ pl: 2.5, my: 1, fontSize: 14.5 }}>
        {it.because.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </Box>
      <Parts title="By model" parts={it.models} />
      {it.leads.length > 1 && <Parts title="By its mains lead" parts={it.leads} />}
      <Parts title="What failed" parts={it.causes} />
      <Decide it={it} key={it.decided} />
      <Decisions it={it} />
    </Box>
  );
}

function Parts({ title, parts }: { title: string; parts: readonly Schema['EvidencePart'][] }) {
  if (parts.length === 0) return null;
  return (
    <Box component="section" aria-label={title} sx={{ mt: 2 }}>
      <Typography variant="h3" sx={{ fontSize: '1rem', fontWeight: 700 }}>
        {title}
      </Typography>
      {parts.map((it) => (
        <Box
          key={it.name}
          sx={{ display: 'flex', gap: 2, fontSize: 14.5, py: 0.5, borderBottom: `1px solid ${c.line}` }}
        >
          <Box sx={{ flex: 1, overflowWrap: 'anywhere' }}>{it.name}</Box>
          <Box sx={{ color: it.failures > 0 ? c.fail : c.muted, fontWeight: it.failures > 0 ? 600 : 400 }}>
            {it.inspections > 0 ? `${it.failures} of ${it.inspections}` : it.failures}
          </Box>
          {it.between && (
            <Box
              title="In which share of them fail: what so many inspections allow to be said"
              sx={{ color: c.muted, whiteSpace: 'nowrap', minWidth: 108, textAlign: 'right' }}
            >
              {it.between}
            </Box>
          )}
        </Box>
      ))}
    </Box>
  );
}
