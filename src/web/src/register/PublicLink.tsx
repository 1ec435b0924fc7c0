import { Box, Button, Typography } from '@mui/material';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, ask } from '../api/client';
import { showDate } from '../api/dates';
import { c } from '../design/tokens';
import { Notice } from '../frame/Notice';
import { useMe } from '../people/SignedIn';

/** The link behind an item's code: whoever scans it may report damage, and reads when it was last checked. */
export function PublicLink({ itemId }: { itemId: string }) {
  const me = useMe();
  const queries = useQueryClient();
  const path = { params: { path: { itemId } } };
  const link = useQuery({
    queryKey: ['link', itemId],
    queryFn: () => ask(api.GET('/api/v1/register/{itemId}/link', path)),
    enabled: me.role !== 'viewer',
  });
  const change = useMutation({
    mutationFn: async (what: 'make' | 'revoke') => {
      if (what === 'make') await ask(api.POST('/api/v1/register/{itemId}/link', path));
      else await ask(api.POST('/api/v1/register/{itemId}/link/revoke', path));
    },
    onSettled: () => queries.invalidateQueries({ queryKey: ['link', itemId] }),
  });
  if (!link.data || (me.role !== 'lead' && !link.data.path)) return null;
  return (
    <Box component="section" aria-label="Code for its users" sx={{ mt: 3 }}>
      <Typography variant="h2">Code for its users</Typography>
      <Box sx={{ color: c.bark, fontSize: 14.5 }}>
        {link.data.path
          ? `Whoever scans it may say how a look before use was, and reads when it was last checked. Made ${showDate(link.data.madeAt!)}.`
          : 'None yet. With one, whoever uses it can report damage, and an inspector reads when it was last checked.'}
      </Box>
      {link.data.path && (
        <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 1 }}>
          <Box
            component="img"
            src={`/api/v1/register/${itemId}/link/code`}
            alt="QR code of the public page"
            sx={{ width: 116, height: 116, bgcolor: '#fff', p: 0.5 }}
          />
          <Box
            component="a"
            href={link.data.path}
            sx={{ color: c.slate, overflowWrap: 'anywhere', fontSize: 14 }}
          >
            {link.data.path}
          </Box>
        </Box>
      )}
      {me.role === 'lead' && (
        <Box sx={{ display: 'flex', gap: 1, mt: 1, flexWrap: 'wrap' }}>
          <Button size="small" variant="outlined" color="inherit" onClick={() => change.mutate('make')}>
            {link.data.path ? 'Make a new one; the old leads nowhere' : 'Make a link'}
          </Button>
          {link.data.path && (
            <Button size="small" color="inherit" onClick={() => change.mutate('revoke')}>
              Take it back
            </Button>
          )}
        </Box>
      )}
      {change.error && <Notice problem={change.error} />}
    </Box>
  );
}
