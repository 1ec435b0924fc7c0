import { Box, Button, TextField, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate, showTime } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';

/** What equipment users reported: it stands here until somebody says what becomes of it. */
export function Reports() {
  const page = useQuery({ queryKey: ['user-checks'], queryFn: () => ask(api.GET('/api/v1/user-checks')) });
  if (!page.data || page.data.length === 0) return null;
  return (
    <Box component="section" aria-label="Reported by users" sx={{ mt: 2 }}>
      <Typography variant="h2">Reported by users</Typography>
      {page.data.map((it) => (
        <One key={it.id} it={it} />
      ))}
    </Box>
  );
}

function One({ it }: { it: Schema['UserCheckCard'] }) {
  const queries = useQueryClient();
  const [decision, setDecision] = useState<string | null>(null);
  const seen = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/user-checks/{checkId}/seen', {
          params: { path: { checkId: it.id } },
          body: { decision: decision! },
        }),
      ),
    onSettled: () => queries.invalidateQueries({ queryKey: ['user-checks'] }),
  });
  return (
    <Box
      sx={{
        borderLeft: `4px solid ${it.report === 'dangerous' ? c.fail : c.advice}`,
        pl: 1.5,
        py: 0.5,
        mt: 1,
        fontSize: 14.5,
      }}
    >
      <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
        {it.tag} {it.item}
      </Link>
      <Box sx={{ color: c.bark }}>{it.place}</Box>
      <Box sx={{ overflowWrap: 'anywhere' }}>{it.words}</Box>
      {it.tookOutOfUse && <Box sx={{ color: c.fail, fontWeight: 600 }}>It was taken out of use.</Box>}
      {it.photoId && (
        <Box
          component="img"
          src={`/api/v1/photos/${it.photoId}?thumbnail=true`}
          alt="Photo that came with it"
          sx={{ width: 120, borderRadius: '6px', display: 'block', my: 0.5 }}
        />
      )}
      <Box sx={{ color: c.muted }}>
        {it.name || 'An equipment user'}, {showDate(it.at)}, {showTime(it.at)}
      </Box>
      {decision === null ? (
        <Button size="small" color="inherit" sx={{ ml: -1.5 }} onClick={() => setDecision('')}>
          Seen
        </Button>
      ) : (
        <Box
          component="form"
          onSubmit={(event) => {
            event.preventDefault();
            seen.mutate();
          }}
          sx={{ display: 'grid', gap: 1, mt: 0.5 }}
        >
          <TextField
            autoFocus
            size="small"
            label="What becomes of it"
            value={decision}
            onChange={(event) => setDecision(event.target.value)}
            slotProps={{ htmlInput: { maxLength: 300 } }}
          />
          <Button type="submit" size="small" variant="outlined" disabled={!decision.trim() || seen.isPending}>
            Keep it
          </Button>
        </Box>
      )}
      {seen.error && <Notice problem={seen.error} />}
    </Box>
  );
}
