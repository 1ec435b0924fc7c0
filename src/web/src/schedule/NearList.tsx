import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, type Schema } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { Waiting } from '../frame/Waiting';
import { Projection } from './Projection';

/** Values that would reach their limit before the item is next tested, the first to get there on top. */
export function NearList({ client, mayAct }: { client: string; mayAct: boolean }) {
  const near = useQuery({
    queryKey: ['schedule', 'near', client],
    queryFn: ({ signal }) =>
      ask(api.GET('/api/v1/schedule/near', { params: { query: client ? { client } : {} }, signal })),
    placeholderData: (previous) => previous,
  });
  if (near.error && !near.data) return <Notice problem={near.error} onAgain={() => void near.refetch()} />;
  if (!near.data) return <Waiting what="Looking at values on their way" />;
  if (near.data.total === 0)
    return (
      <Typography sx={{ color: c.bark, py: 4 }}>
        No value would reach its limit before its item is next tested.
      </Typography>
    );
  return (
    <Box>
      <Box sx={{ color: c.bark, mb: 1 }}>
        {near.data.total} {near.data.total === 1 ? 'item' : 'items'}: at its rate a value reaches its limit
        before the next test. The dashed line goes on as the readings have gone.
      </Box>
      {near.data.items.map((it) => (
        <Near key={it.itemId} it={it} mayAct={mayAct} />
      ))}
      {near.data.total > near.data.items.length && (
        <Box sx={{ color: c.bark, mt: 1 }}>
          and {near.data.total - near.data.items.length} that get there later: choose a client.
        </Box>
      )}
    </Box>
  );
}

function Near({ it, mayAct }: { it: Schema['NearCard']; mayAct: boolean }) {
  const queries = useQueryClient();
  const bring = useMutation({
    mutationFn: () =>
      ask(
        api.POST('/api/v1/schedule/near/{itemId}/forward', {
          params: { path: { itemId: it.itemId } },
          body: { revision: it.revision },
        }),
      ),
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['schedule'] });
      await queries.invalidateQueries({ queryKey: ['item', it.itemId] });
    },
  });
  const { crossing } = it;
  return (
    <Box
      component="article"
      aria-label={`${it.tag} ${it.name}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: 'minmax(0, 1fr) 260px' },
        gap: 2,
        borderTop: `1px solid ${c.line}`,
        py: 1.5,
        alignItems: 'center',
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Link to={`/register/${it.itemId}`} style={{ color: 'inherit', fontWeight: 700 }}>
          {it.tag} {it.name}
        </Link>
        <Box sx={{ color: c.muted, fontSize: 14 }}>
          {it.client}, {it.place}
        </Box>
        <Box sx={{ mt: 0.5 }}>
          {crossing.name}: {crossing.now}, limit {crossing.limitText}
        </Box>
        <Box sx={{ color: c.advice, fontWeight: 600 }}>{it.says}</Box>
        {mayAct && it.comeBackBy && (
          <Button
            size="small"
            variant="outlined"
            color="inherit"
            sx={{ mt: 1 }}
            disabled={bring.isPending}
            onClick={() => bring.mutate()}
          >
            Bring its test forward to {showDate(it.comeBackBy)}
          </Button>
        )}
        {bring.error && <Notice problem={bring.error} />}
      </Box>
      <Projection crossing={crossing} due={it.due} />
    </Box>
  );
}
