import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** For a lead: run sheets that were discarded though something had failed on them. Each stays marked until somebody has seen it. */
export function Discarded() {
  const page = useQuery({ queryKey: ['discarded'], queryFn: () => ask(api.GET('/api/v1/bench/discarded')) });
  if (!page.data || page.data.length === 0) return null;
  return (
    <Box component="section" aria-label="Discarded with a failure" sx={{ mt: 2 }}>
      <Typography variant="h2">Discarded with a failure</Typography>
      {page.data.map((it) => (
        <One key={it.id} it={it} />
      ))}
    </Box>
  );
}

function One({ it }: { it: Schema['DiscardedCard'] }) {
  const queries = useQueryClient();
  const seen = useMutation({
    mutationFn: () => ask(api.POST('/api/v1/bench/discarded/{id}/seen', { params: { path: { id: it.id } } })),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['discarded'] }),
  });
  return (
    <Box sx={{ borderLeft: `4px solid ${c.fail}`, pl: 1.5, py: 0.5, mt: 1, fontSize: 14.5 }}>
      <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
        {it.tag} {it.name}
      </Link>
      {it.failures.map((line) => (
        <Box key={line}>{line}</Box>
      ))}
      <Box sx={{ color: c.muted }}>
        {it.person}, {showDate(it.at)}: {it.reason}
      </Box>
      <Button
        size="small"
        color="inherit"
        sx={{ ml: -1.5 }}
        disabled={seen.isPending}
        onClick={() => seen.mutate()}
      >
        Seen
      </Button>
      {seen.error && <Notice problem={seen.error} />}
    </Box>
  );
}
