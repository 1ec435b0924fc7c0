import { Box, Button, Typography } from '@mui/material';
import { useState } from 'react';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { useMe } from '../people/SignedIn';
import { ProposedRound } from './ProposedRound';
import { type Plan, usePlan } from './usePlan';

/**
 * The planner's rounds, with their price, what does not fit, and what was moved by hand. Planned is always for all: the hours are
 * everybody's.
 */
export function Proposed({ weeks, client }: { weeks: number; client: string | null }) {
  const plan = usePlan(weeks);
  const [open, setOpen] = useState<string | null>(null);
  const isLead = useMe().role === 'lead';
  const data = plan.plan.data;
  const rounds = (data?.rounds ?? []).filter((it) => client === null || it.client === client);
  return (
    <Box
      component="section"
      aria-label="Proposed rounds"
      sx={{ bgcolor: c.surface, borderLeft: `1px solid ${c.line}`, p: 2.5, minWidth: 0 }}
    >
      <Typography variant="h2">Proposed rounds</Typography>
      {plan.plan.error && <Notice problem={plan.plan.error} onAgain={() => void plan.plan.refetch()} />}
      {!data && !plan.plan.error && <Waiting what="Planning" />}
      {data && (
        <>
          <Box role="status" sx={{ color: c.bark, mt: 0.5 }}>
            {data.summary}
          </Box>
          <Box sx={{ color: c.muted, fontSize: 14, mt: 0.5 }}>
            {data.inRounds > 0 && `${data.inRounds} more are in a round already. `}
            {data.bound} {data.basis}
          </Box>
          {data.remarks.map((remark) => (
            <Box key={remark.text} sx={{ borderLeft: `4px solid ${c.advice}`, pl: 1.5, mt: 1.5 }}>
              {remark.text}
              {remark.heldBy.length > 0 && ` ${remark.heldBy.join(' and ')} could be asked.`}
            </Box>
          ))}
          <Moves plan={plan} />
          {client !== null && (
            <Box sx={{ color: c.bark, mt: 1.5 }}>
              {rounds.length} of {data.rounds.length} rounds are {client}’s: planned among all, since the
              hours are everybody’s.
            </Box>
          )}
          {data.rounds.length === 0 && data.remarks.length === 0 && (
            <Box sx={{ color: c.bark, mt: 2 }}>All that falls due is in a round already.</Box>
          )}
          {rounds.map((round) => {
            const key = `${round.siteId}|${round.from}`;
            return (
              <ProposedRound
                key={key}
                round={round}
                days={data.days}
                isOpen={open === key}
                onOpen={() => setOpen(open === key ? null : key)}
                isLead={isLead}
                onMove={plan.move}
                onTaken={plan.taken}
              />
            );
          })}
        </>
      )}
    </Box>
  );
}

function Moves({ plan }: { plan: Plan }) {
  const made = plan.plan.data?.moves ?? [];
  if (plan.moves.length === 0) return null;
  return (
    <Box
      component="section"
      aria-label="Moved by hand"
      sx={{ mt: 1.5, bgcolor: c.paper, p: 1.5, borderRadius: '6px' }}
    >
      <Box sx={{ fontWeight: 600 }}>Moved by hand</Box>
      <Box component="ol" sx={{ m: 0, pl: 2.5 }}>
        {made.map((move, at) => (
          <Box component="li" key={at} sx={{ color: move.isMade ? c.bark : c.fail }}>
            {move.isMade ? move.text : `Not moved: ${move.text}`}
          </Box>
        ))}
      </Box>
      <Button size="small" color="inherit" onClick={plan.undo}>
        Undo the last
      </Button>
      <Button size="small" color="inherit" onClick={plan.forget}>
        As the planner had it
      </Button>
    </Box>
  );
}
