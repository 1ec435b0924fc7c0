import { Box, Typography } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { useCompetences } from '../people/Competences';

/** What a day needs before the first item: the kit that was chosen, and competences that are about to lapse. */
export function Ready() {
  const kit = useQuery({ queryKey: ['kit'], queryFn: () => ask(api.GET('/api/v1/kit')), staleTime: 30_000 });
  const competences = useCompetences();
  const held = competences.data?.people.find((it) => it.isMe)?.held ?? [];
  const lapsing = held.filter((it) => it.hasLapsed || it.isLapsing);
  if (!kit.data) return null;
  const chosen = kit.data.items.filter((it) => it.isToday);
  const troubled = chosen.filter((it) => it.trouble);
  const instrument = chosen.find((it) => it.kind === 'instrument');
  const isReady = !!instrument && troubled.length === 0;
  return (
    <Box component="section" aria-label="Ready for the day" sx={{ mt: 2 }}>
      <Typography variant="h2">Kit for today</Typography>
      <Box
        component={Link}
        to="/kit"
        sx={{
          display: 'block',
          color: 'inherit',
          textDecoration: 'none',
          borderLeft: `4px solid ${isReady ? c.reed : c.advice}`,
          pl: 1.5,
          py: 0.5,
          mt: 1,
          '&:hover': { bgcolor: c.surface },
        }}
      >
        {instrument ? (
          <>
            <Box sx={{ fontWeight: 700 }}>{instrument.name}</Box>
            <Box sx={{ color: c.bark, fontSize: 14.5 }}>
              {chosen
                .filter((it) => it !== instrument)
                .map((it) => it.name)
                .join(', ')}
            </Box>
            <Box sx={{ color: c.muted, fontSize: 13.5 }}>until {showTime(kit.data.until!)}</Box>
            {troubled.map((it) => (
              <Box key={it.id} sx={{ color: c.fail, fontSize: 14.5 }}>
                {it.name} is barred. {it.trouble}
              </Box>
            ))}
            {instrument.warnings.map((line) => (
              <Box key={line} sx={{ color: c.advice, fontSize: 14.5 }}>
                {line}
              </Box>
            ))}
          </>
        ) : (
          <Box sx={{ color: c.advice, fontWeight: 600 }}>
            Not chosen yet: a reading needs the instrument that took it.
          </Box>
        )}
      </Box>
      {kit.data.flagged > 0 && (
        <Box sx={{ mt: 1, color: c.advice, fontSize: 14.5 }}>
          {kit.data.flagged} {kit.data.flagged === 1 ? 'record waits' : 'records wait'} for a lead: measured
          with an instrument that failed its check.
        </Box>
      )}
      {lapsing.map((it) => (
        <Box key={it.competence} sx={{ mt: 1, color: it.hasLapsed ? c.fail : c.advice, fontSize: 14.5 }}>
          Your competence for {it.text} {it.hasLapsed ? 'lapsed after' : 'holds until'}{' '}
          {showDate(it.expiresOn!)}.
        </Box>
      ))}
    </Box>
  );
}
