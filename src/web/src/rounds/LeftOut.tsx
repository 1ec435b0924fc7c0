import { Box, Button, Typography } from '@mui/material';
import { api, ask } from '../api/client';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useChange, useRound } from './useRound';

/** What is left out, and who does test it: nothing falls between two chairs. */
export function LeftOut() {
  const { round, mayPlan } = useRound();
  const back = useChange((id: string) =>
    ask(
      api.POST('/api/v1/rounds/{roundId}/take-back', {
        params: { path: { roundId: round.id } },
        body: { items: [id] },
      }),
    ),
  );
  if (round.excluded.length === 0) return null;
  return (
    <Box component="section" aria-label="Left out, and who does it">
      <Typography variant="h2">Left out, and who does it</Typography>
      {round.excluded.map((it) => (
        <Box key={it.id} sx={{ mt: 0.75, fontSize: 14.5 }}>
          {it.tag} {it.name}: {it.why} ·{' '}
          <Box component="span" sx={{ color: c.bark }}>
            {it.testedBy}
          </Box>
          {mayPlan && (
            <Button
              size="small"
              color="inherit"
              onClick={() => back.mutate(it.id)}
              aria-label={`Take ${it.tag} back in`}
            >
              Take back in
            </Button>
          )}
        </Box>
      ))}
      {back.error && <Notice problem={back.error} />}
    </Box>
  );
}
