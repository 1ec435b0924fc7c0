import { Box } from '@mui/material';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { api, ask, unattended } from '../api/client';
import { c } from '../design/tokens';
import { useMe } from '../people/SignedIn';

/** Stands over every screen while the last verification found that a book does not hold. */
export function BooksBanner() {
  const me = useMe();
  const standing = useQuery({
    queryKey: ['standing'],
    queryFn: () => ask(api.GET('/api/v1/trust/standing', unattended)),
    refetchInterval: 300_000,
    staleTime: 60_000,
  });
  if (!standing.data?.broken) return null;
  return (
    <Box
      role="alert"
      sx={{ bgcolor: c.failWash, borderBottom: `2px solid ${c.fail}`, px: { xs: 1.5, md: 2.5 }, py: 1.25 }}
    >
      <strong>The books of records do not hold.</strong> {standing.data.broken}.{' '}
      {me.role === 'lead' ? (
        <Link to="/books" style={{ color: 'inherit' }}>
          See what was found
        </Link>
      ) : (
        'Tell a lead; what you save is kept all the same.'
      )}
    </Box>
  );
}
